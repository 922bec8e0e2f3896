"""Loans whose principal is shared out, once more from the contract: parts, interest on top."""

from fractions import Fraction
from typing import Any

from .oracle import Deal, Happening, Row, nearest, up


class PartsDeal(Deal):
    """Equal principal, parts in percent, or interest alone until the last payment."""

    def __init__(self, content: dict[str, Any]) -> None:
        super().__init__(content)
        self.style = content["repayment"]
        self.balance = Fraction(str(content.get("balance", "0")))
        self.free = [n for n in range(1, self.count + 1) if self.ruling("pay", n) is None]
        self.weights = {n: Fraction(0) for n in range(1, self.count + 1)}
        for place, number in enumerate(self.free):
            self.weights[number] = self.weight(number, place)
        #: One part, as a multiple of which each is told.
        self.unit = Fraction(0)

    def weight(self, number: int, place: int) -> Fraction:
        if self.style == "equal-principal":
            return Fraction(1)
        if self.style == "interest-only":
            return Fraction(int(number == self.count))
        percents = [Fraction(each) for each in self.style["percents"]]
        return percents[number - 1 if len(percents) == self.count else place]

    @property
    def first_part(self) -> int:
        """The first payment that repays a part; of interest alone the first that is paid."""
        if self.style == "interest-only":
            return self.free[0]
        return next(number for number in self.free if self.weights[number])

    @property
    def total(self) -> Fraction:
        return sum(self.weights.values(), Fraction(0))

    def shared_out(self) -> Fraction:
        return (self.lent() - self.balance) / self.total

    def first_interest(self) -> Fraction:
        """Unrounded; before it nothing or interest alone is paid."""
        self.rounds, self.unit = False, Fraction(0)
        owed = self.lent()
        for number in range(1, self.first_part):
            owed = self.happens(number, owed).closing
        return self.happens(self.first_part, owed).before

    def first_payment(self) -> Fraction:
        return self.shared_out() * self.weights[self.first_part] + self.first_interest()

    def by_payment(self) -> Fraction:
        """One part, as the first payment tells it."""
        weight = self.weights[self.first_part]
        if not weight:
            return self.shared_out()
        return (Fraction(self.content["payment"]) - self.first_interest()) / weight

    def payment(self, number: int) -> tuple[Fraction, bool]:
        pay = self.ruling("pay", number)
        return Fraction(0), pay is None or pay["pay"] == "interest"

    def happens(self, number: int, opening: Fraction) -> Happening:
        it = super().happens(number, opening)
        if self.rounds and number > 1 and self.anew(number):
            rest = sum((w for n, w in self.weights.items() if n >= number), Fraction(0))
            if rest:
                self.unit = max((opening - self.balance) / rest, Fraction(0))
        part = self.unit * self.weights[number]
        if self.rounds:
            part = (up if self.up else nearest)(part, self.to)
        it.amount += part
        return it

    def anew(self, number: int) -> bool:
        """Whether what is left is shared out anew from a payment on."""
        return any(
            clause.get("then") == "re-level"
            and (
                clause.get("from") == number if "rate" in clause else self.holds(clause, number - 1)
            )
            for clause in self.clauses
        )

    def told(self, asked: str) -> list[Row]:
        """The schedule to the cent; a first payment that is stated stands, its interest takes the
        cents."""
        self.unit = self.by_payment() if asked in ("balance", "count") else self.shared_out()
        paused = self.ruling("pay", self.count) is not None
        unit, left = self.unit, self.rows("balance")[-1].closing - self.balance
        self.unit = unit
        pauses = paused and abs(left) <= self.count * (self.to + self.cent)
        rows = self.rows(asked if asked == "balance" else "payment", pauses=pauses)
        if asked == "payment" or len(rows) < self.first_part:
            return rows
        row, stated = rows[self.first_part - 1], Fraction(self.content["payment"])
        more = stated - row.payment
        rows[self.first_part - 1] = row._replace(payment=stated, interest=row.interest + more)
        return rows
