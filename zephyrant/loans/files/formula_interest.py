"""The interest of a row of a schedule as a formula of a sheet.

It multiplies first, divides last and is rounded once its noise is gone, so that binary arithmetic
gives the ledger's cents, where it can.
"""

from decimal import ROUND_HALF_UP, Decimal
from fractions import Fraction
from typing import Final

from zephyrant.texts import worded

from ..calendars.dates import odd_time
from ..document.loan import Loan
from ..ledger.rows import Row, Schedule
from ..line.growth import Span
from ..line.stretch import Stretch
from ..line.terms import Terms
from ..numbers.decimals import precise
from ..numbers.ratios import as_decimal
from .formula_sheet import PER_PERIOD, QUIET

#: Digits that a spreadsheet program holds of a number.
_DIGITS: Final = 15


class InterestFormulas:
    """The formulas of a loan's interest, its money as its sheet writes it."""

    def __init__(self, loan: Loan, terms: Terms, schedule: Schedule) -> None:
        self.loan, self.terms, self.schedule = loan, terms, schedule
        self.advance = loan.timing == "in-advance" and loan.count != 0
        self.decimals = loan.decimals
        self.rounds = loan.rounding.interest == "nearest" and schedule.unit.places == loan.decimals
        self.measured_in = {
            "equal": None,
            "actual/actual": worded("part of a year"),
        }.get(loan.day_count, "days")

    def divisor(self) -> int:
        """Days of the year by which days are measured; 1 where parts of a year are."""
        return {"actual/365": 365, "actual/360": 360, "30/360": 360, "30E/360": 360}.get(
            self.loan.day_count, 1
        )

    def measured(self, fraction: Fraction) -> Decimal:
        """A fraction of a year as its sheet measures it."""
        return as_decimal(fraction * self.divisor())

    def by_terms(self, row: Row, stretch: Stretch, span: Span) -> tuple[Fraction, Fraction]:
        """Interest on 1 before and after the payment where nothing but the terms decides it."""
        if not self.terms.provisions:
            return stretch.before, stretch.after
        whole = span.interest(self.terms.rate)
        if self.advance:
            return (stretch.before if row.number == 1 else Fraction(0)), whole
        return whole, Fraction(0)

    def factor(
        self, row: Row, number: int, stretch: Stretch, fraction: Fraction, *, is_own: bool
    ) -> str | None:
        """Interest on 1 in a row, as a formula; None where none tells it."""
        if stretch.inner or self.schedule.by_day or (stretch.on_top and self.advance):
            return None
        if stretch.before and stretch.after:
            return None
        if self.advance and row.number == 1 and stretch.before:
            return None
        if is_own or self.loan.count == 0:
            return f"I{number}/100"
        calendar, often = self.loan.calendar, self.loan.payments_a_year
        if self.measured_in:
            return f"{PER_PERIOD}*{often}*H{number}/{100 * self.divisor()}"
        if calendar and row.number == 1 and not calendar.is_regular and not self.advance:
            odd = odd_time(calendar.start, calendar.first, calendar.step)
            i = f"{PER_PERIOD}/100"
            if self.loan.odd_days == "compound":
                return f"((1+{i})^({odd.whole}+{odd.fraction})-1)"
            return f"((1+{odd.fraction}*{i})*(1+{i})^{odd.whole}-1)"
        return f"{PER_PERIOD}/100"

    def agrees(self, row: Row, stretch: Stretch) -> bool:
        """Whether the formula, rounded once its noise is gone, comes to the ledger's cents."""
        if not self.rounds:
            return True
        rate = stretch.after if self.advance else stretch.before
        unit = self.schedule.unit
        moved = row.advance + row.fee - row.repay - row.payment if self.advance else 0
        with precise():
            worked = unit.amount(row.opening + moved) * as_decimal(rate)
            quiet = worked.quantize(Decimal(1).scaleb(-QUIET), ROUND_HALF_UP)
            told = quiet.quantize(Decimal(1).scaleb(-self.decimals), ROUND_HALF_UP)
        # A sheet keeps fifteen digits: the cents, and one more to round them by, are among them.
        return told == unit.amount(row.interest) and worked.adjusted() + self.decimals < _DIGITS - 2

    def stated(self, units: int) -> str:
        """Money as a number."""
        return self.schedule.unit.write(units)

    def rounded(self, text: str) -> str:
        """To the cent, ties away from zero: the noise of binary arithmetic goes first."""
        return f"=ROUND(ROUND({text},{QUIET}),{self.decimals})" if self.rounds else f"={text}"
