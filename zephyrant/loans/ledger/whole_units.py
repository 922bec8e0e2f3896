"""The balance rolled in whole minor units: interest multiplies first and divides once, last, so
that no cent depends on how a rate was written."""

from collections.abc import Callable, Sequence
from decimal import Decimal
from fractions import Fraction
from typing import NamedTuple

from ..budget import look
from ..document.limits import MOST_MONEY
from .period import Reckoned, Reckoning
from .rounding import interest_rule, rounded, rounded_fraction
from .rows import CashRule, Row

#: Rows after which the budget is looked at.
_LOOKS_EACH = 256


class UnitRate(NamedTuple):
    """Interest on 1, and the rounded interest on what is owed."""

    of_one: Fraction
    on: Callable[[int], int]


class WholeUnits(Reckoning[int, UnitRate]):
    """Money as whole units, rounded as it is paid."""

    def __init__(self, rule: CashRule) -> None:
        self.rule = rule
        self.most = rule.unit.count(MOST_MONEY)

    def money(self, amount: Decimal) -> int:
        """In units."""
        return self.rule.unit.count(amount) if amount else 0

    def rate(self, interest: Fraction) -> UnitRate:
        """With its rule of rounding."""
        return UnitRate(interest, interest_rule(interest, self.rule.interest_step))

    def accrued(self, owed: int, rate: UnitRate, moved: Sequence[tuple[int, UnitRate]]) -> int:
        """Rounded once."""
        if not moved:
            return rate.on(owed)
        interest = owed * rate.of_one
        for amount, share in moved:
            interest += amount * share.of_one
        return rounded_fraction(interest, self.rule.interest_step)

    def paid_ahead(self, owed: int, rate: UnitRate) -> int:
        """Rounded as interest is."""
        of_one = rate.of_one
        if not of_one:
            return 0
        return rounded_fraction(owed * of_one / (1 + of_one), self.rule.interest_step)

    def paid(self, amount: int) -> int:
        """As cash is."""
        return rounded(amount, self.rule.cash_step)

    def alike(
        self,
        opening: int,
        period: Reckoned[int, UnitRate],
        numbers: range,
        stops: Callable[[int, int], bool] | None,
    ) -> list[Row]:
        """The rows of level payments, one like the other, up to where one is not: where nothing is
        left to bear interest, or `stops` says so of what is owed before and after it."""
        rows: list[Row] = []
        payment, ends_with_payment = period.payment, period.ends_with_payment
        before, after, most = period.before.on, period.after.on, self.most
        if payment < 0:
            return rows
        # A row of its cells, without the call that would put in what is not given.
        make, nothing = tuple.__new__, tuple(Row._field_defaults.values())
        for number in numbers:
            if not number % _LOOKS_EACH:
                look()
            interest = before(opening)
            rest = closing = opening + interest - payment
            if rest <= 0:
                break
            if not ends_with_payment:
                later = after(rest)
                interest += later
                closing = rest + later
            if closing > most or (stops is not None and stops(opening, closing)):
                break
            principal = payment - interest
            cells = (number, opening, interest, principal, payment, closing, rest, *nothing)
            rows.append(make(Row, cells))
            opening = closing
        return rows
