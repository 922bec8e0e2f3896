"""The payments and interest of a schedule of formulas where payments are not level: parts of what
is lent with interest on top, or reckoned over a longer time."""

from collections.abc import Callable
from typing import Final, NamedTuple

from zephyrant.texts import worded

from ..document.loan import Loan
from ..ledger.rows import Row, Schedule
from ..ledger.settling import Ending
from ..line.line import Line
from ..line.stretch import Stretch
from ..numbers.decimals import significant
from ..unknowns.parts import told_by_payment
from .formula_interest import InterestFormulas
from .formula_sheet import BALANCE, FIRST_ROW, PAYMENT, PER_PERIOD, PRINCIPAL, FormulaTerm

#: Units of money up to which a product of two numbers of a sheet still has its cents.
_MOST_LIVE: Final = 10**9


class Cells(NamedTuple):
    """What stands for a row's payment and its interest."""

    payment: str
    interest: str


class PartFormulas:
    """Writes them; `cash` rounds a formula as a payment is."""

    def __init__(
        self,
        loan: Loan,
        line: Line,
        schedule: Schedule,
        ending: Ending,
        *,
        interest: InterestFormulas,
        cash: Callable[[str], str],
    ) -> None:
        self.loan, self.line, self.schedule, self.ending = loan, line, schedule, ending
        self.interest, self.cash = interest, cash
        terms = line.terms
        #: Whether no part is set anew on the way.
        self.follows = not any(provision.verb == "payment" for provision in terms.provisions)
        self.by_payment = terms.has_parts and told_by_payment(loan, terms)
        first = line.parts.first if line.parts is not None and terms.has_parts else None
        #: The row of the first payment that repays a part; 0 where none is told.
        self.first = FIRST_ROW + (first or 0) - 1 if first else 0

    def payment(self) -> FormulaTerm | None:
        """The first payment that repays a part, where it was found: the schedule tells it."""
        if self.ending.first is not None or not self.first:
            return None
        row = self.schedule.rows[self.first - FIRST_ROW]
        note = worded("the first payment that repays a part, as the schedule tells it")
        paid = self.schedule.unit.amount(row.payment)
        return FormulaTerm(paid, f"=Schedule!$F${self.first}", note, is_input=False)

    def over(self) -> dict[str, str]:
        """The payment and what is lent, by their names, where a level payment is reckoned over more
        of them than are made; nothing where no formula tells them."""
        whole = self.line.terms.whole
        if whole is None or not whole.is_level or not whole.rate:
            return {}
        i = f"{PER_PERIOD}/100"
        worth = f"(1-(1+{i})^(-{whole.count}))/({i})"
        if whole.in_advance:
            worth = f"{worth}*(1+{i})"
        return {"payment": f"{PRINCIPAL}/({worth})", "principal": f"{PAYMENT}*({worth})"}

    def principal(self, factor: str | None) -> str | None:
        """What is lent, where the first payment is that of the first row; None where no formula
        tells it. `factor`: the interest on 1 of that row."""
        parts = self.line.parts
        if parts is None or factor is None or self.first != FIRST_ROW:
            return None
        if self.line.terms.provisions or self.by_payment or not self.follows:
            return None
        share = f"{parts.at(1):f}/{parts.total:f}"
        return f"({PAYMENT}+{BALANCE}*{share})/({share}+{factor})"

    def cells(
        self, row: Row, number: int, stretch: Stretch, moved: str, usual: Cells
    ) -> Cells | None:
        """Those of a row; None where it is as usual."""
        if not stretch.on_top or self.interest.advance or stretch.inner:
            return None
        part = self._part(row, stretch)
        if number == self.first and self.ending.first is not None:
            interest = usual.interest if self.by_payment else f"=F{number}-{part}"
            return Cells(f"={PAYMENT}", interest)
        if row is self.schedule.rows[-1]:
            return None
        paid = f"D{number}+{part}" if part != "0" else f"D{number}"
        if not self.ending.cuts or row.number < self.line.lent_until:
            return Cells(f"={paid}", usual.interest)
        return Cells(f"=MAX(0,MIN({paid},C{number}+D{number}{moved}))", usual.interest)

    def by_cash_flow(self, row: Row, stretch: Stretch) -> str | None:
        """A payment that follows the cash flow; None where none does, where a sheet has not the
        digits for it, or where the part that is taken is another from a payment on."""
        parts = self.line.parts
        if parts is None or not self.line.terms.follows_cash_flow or not stretch.payment:
            return None
        if not self.follows or abs(row.payment) >= _MOST_LIVE:
            return None
        return "=" + self.cash(f"{PAYMENT}*{significant(parts.at(row.stands_at)):f}")

    def _part(self, row: Row, stretch: Stretch) -> str:
        """What a payment repays, as it follows from what is lent, else as a number."""
        parts = self.line.parts
        if not stretch.payment:
            return "0"
        if not self.follows or parts is None:
            return f"{stretch.payment:f}"
        times = parts.at(row.number)
        if not self.by_payment:
            share = f"{times:f}/{parts.total:f}"
            return self.cash(f"(Schedule!$C${FIRST_ROW}-{BALANCE})*{share}")
        told = f"(Schedule!$F${self.first}-Schedule!$D${self.first})"
        multiple = times / parts.at(self.first - FIRST_ROW + 1)
        return told if multiple == 1 else self.cash(f"{told}*{multiple:f}")
