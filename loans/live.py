"""A schedule as live arithmetic: formulas of a sheet that a reviewer can re-check and change.

Interest multiplies first, divides last and rounds once, so that binary arithmetic gives the same
cents as the ledger. Where it would not, the cell holds our cents as a number and its row says so.
"""

from collections.abc import Iterator
from decimal import ROUND_HALF_UP, Decimal
from fractions import Fraction
from math import floor
from typing import Final, NamedTuple

from . import clock
from .cut import lay_out
from .dates import odd_time
from .document import Loan
from .fields import UNKNOWN
from .ledger import Row, Schedule
from .line import Span, Stretch, Terms
from .rates import as_decimal
from .solved import work_out

#: Where the terms stand on their sheet.
PRINCIPAL, PERCENT, PER_PERIOD, PAYMENT, BALANCE = "B3", "B4", "B5", "B6", "B7"
#: The first row of the schedule's sheet that holds a payment.
FIRST_ROW: Final = 2


#: Relative room for the last bits of a float.
_FEW_BITS: Final = 2.0**-48

#: What a formula can come to in binary arithmetic; empty where it holds none.
Binary = tuple[Decimal, ...]


class LiveRow(NamedTuple):
    """The cells of a payment: formulas as text, our values beside them.

    `measured`: days or parts of a year, where interest needs them. `percent`: of the period, where
    it is not that of the terms. `added` and `repaid`: what was lent or taken as a fee meanwhile,
    and what was paid on top. `marked`: why a cell holds a number in place of a formula.
    """

    row: Row
    opening: str
    interest: str
    principal: str
    payment: str
    closing: str
    measured: Decimal | None
    percent: Decimal | None
    added: str
    repaid: str
    marked: str | None


class LiveTerms(NamedTuple):
    """The terms the formulas refer to: their values and, of the rate of one period, its formula."""

    principal: Decimal
    percent: Decimal
    per_period: str
    per_period_value: Decimal
    payment: Decimal
    balance: Decimal


class Live(NamedTuple):
    """A whole schedule as formulas; `busy`: money moves besides the payments."""

    terms: LiveTerms
    rows: tuple[LiveRow, ...]
    schedule: Schedule
    measured_in: str | None
    busy: bool


def live(loan: Loan) -> Live | None:
    """The loan's schedule as formulas; none where it has none."""
    found, terms, laid, _ = work_out(loan)
    if terms is None or laid is None:
        return None
    percent = loan.rate.percent
    stated = round(found.solutions[0], 10) if percent == UNKNOWN else Decimal(percent)
    per_period = 100 * as_decimal(terms.rate)
    live_terms = LiveTerms(
        principal=terms.principal,
        percent=stated,
        per_period=_per_period(loan, per_period),
        per_period_value=per_period,
        payment=terms.payment,
        balance=laid.unit.amount(laid.rows[-1].closing),
    )
    writer = _Writer(loan, terms, laid)
    return Live(live_terms, tuple(writer.rows()), laid, writer.measured_in, writer.busy)


def _per_period(loan: Loan, value: Decimal) -> str:
    """The percent of one period from the percent as quoted; multiplications and powers only."""
    often, style = loan.payments_a_year, loan.style
    p = PERCENT if style.scale == 1 else f"{PERCENT}*365/360"
    if style.quoted == "continuous" or (
        style.quoted == "nominal" and style.compounding == "continuous"
    ):
        return f"=100*(EXP({p}/100/{often})-1)"
    match style.quoted:
        case "periodic":
            return f"={PERCENT}"
        case "effective":
            return f"=100*((1+{PERCENT}/100)^(1/{often})-1)"
        case "simple" | "discount" if style.over:
            years = f"({style.over.in_years()})"
            if style.quoted == "simple":
                return f"=100*((1+{p}/100*{years})^(1/({often}*{years}))-1)"
            return f"=100*((1-{p}/100*{years})^(-1/({often}*{years}))-1)"
        case "nominal" if style.compounding != "continuous":
            times = clock.a_year(style.compounding)
            if times == often:
                return f"={p}/{often}"
            return f"=100*((1+{p}/100/{times})^({times}/{often})-1)"
    # A flat quote has no formula for its rate: the rate found is stated.
    return f"={value:.17g}"


class _Writer:
    """Writes the formulas of a schedule row by row, and works them once more in binary."""

    def __init__(self, loan: Loan, terms: Terms, laid: Schedule) -> None:
        self.loan, self.terms, self.laid = loan, terms, laid
        self.advance = loan.timing == "in-advance"
        self.decimals = loan.decimals
        self.rounds = loan.rounding.interest == "nearest" and laid.unit.places == loan.decimals
        self.divided = self._divides_evenly()
        self.busy = any(row.advance or row.repay or row.fee for row in laid.rows)
        self.next_row = FIRST_ROW
        self.measured_in = {
            "equal": None,
            "actual/actual": "part of a year",
        }.get(loan.day_count, "days")

    def _divides_evenly(self) -> bool:
        style = self.loan.style
        return (
            style.quoted == "nominal"
            and style.scale == 1
            and style.compounding != "continuous"
            and clock.a_year(style.compounding) == self.loan.payments_a_year
        )

    def rows(self) -> Iterator[LiveRow]:
        beats, stretches = iter(self.terms.beats), iter(lay_out(self.terms).stretches)
        beat, stretch = next(beats), next(stretches)
        last = self.laid.rows[-1].number
        for row in self.laid.rows:
            while beat.last is not None and beat.last < row.number:
                beat = next(beats)
            while stretch.last is not None and stretch.last < row.number:
                stretch = next(stretches)
            span = beat.after if self.advance else beat.before
            yield self._row(row, stretch, span, is_last=row.number == last)

    def _divisor(self) -> int:
        return {"actual/365": 365, "actual/360": 360, "30/360": 360, "30E/360": 360}.get(
            self.loan.day_count, 1
        )

    def _row(self, row: Row, stretch: Stretch, span: Span, *, is_last: bool) -> LiveRow:
        number = self.next_row
        self.next_row += 1
        opening = f"=Terms!{PRINCIPAL}" if number == FIRST_ROW else f"=G{number - 1}"
        if number == FIRST_ROW and row.opening != self.laid.unit.count(self.terms.principal):
            opening = self._stated(row.opening)
        regular = self.laid.unit.count(self.terms.payment)
        payment = f"=Terms!{PAYMENT}" if row.payment == regular else self._stated(row.payment)
        is_own = (stretch.before, stretch.after) != self._by_terms(row, stretch, span)
        fraction = span.simple / self.loan.payments_a_year
        if stretch.inner or (is_own and stretch.before and stretch.after):
            interest, binary = self._stated(row.interest), None
        elif is_own:
            interest, binary = self._by_own_percent(row, number, stretch)
        else:
            interest, binary = self._interest(row, number, fraction)
        if is_last and self.loan.unknown != "balance" and self.terms.count != 0:
            payment, interest = self._settling(row, number, interest)
        marked = None
        if binary is None and not interest.startswith("="):
            marked = "stated: money moves between two payments"
        elif binary and not interest.startswith("=F"):
            ours = self.laid.unit.amount(row.interest)
            if other := next((each for each in binary if each != ours), None):
                marked = f"stated: binary arithmetic may give {other:f}"
                interest = self._stated(row.interest)
        own = 100 * as_decimal(stretch.after if self.advance else stretch.before)
        return LiveRow(
            row,
            opening,
            interest,
            f"=F{number}+K{number}-D{number}" if self.busy else f"=F{number}-D{number}",
            payment,
            self._rounded(f"C{number}+D{number}{self._moved(number)}-F{number}"),
            as_decimal(fraction * self._divisor()) if self.measured_in and not is_own else None,
            own if is_own and binary is not None else None,
            self._stated(row.advance + row.fee),
            self._stated(row.repay),
            marked,
        )

    def _by_terms(self, row: Row, stretch: Stretch, span: Span) -> tuple[Fraction, Fraction]:
        """Interest on 1 before and after the payment where nothing but the terms decides it."""
        if not self.terms.puts:
            return stretch.before, stretch.after
        whole = span.interest(self.terms.rate)
        if self.advance:
            return (stretch.before if row.number == 1 else Fraction(0)), whole
        return whole, Fraction(0)

    def _moved(self, number: int) -> str:
        """What moved besides the payment, in a formula."""
        return f"+J{number}-K{number}" if self.busy else ""

    def _by_own_percent(self, row: Row, number: int, stretch: Stretch) -> tuple[str, Binary]:
        """Interest by a percent that stands in the row."""
        percent = round(100 * as_decimal(stretch.after if self.advance else stretch.before), 17)
        worked = self._base(row) * float(percent) / 100
        return self._rounded(f"{self._based(number)}*I{number}/100"), self._binary(worked)

    def _based(self, number: int) -> str:
        """What a row's interest is reckoned on."""
        return f"(C{number}{self._moved(number)}-F{number})" if self.advance else f"C{number}"

    def _base(self, row: Row) -> float:
        moved = row.advance + row.fee - row.repay - row.payment
        return float(self.laid.unit.amount(row.opening + (moved if self.advance else 0)))

    def _stated(self, units: int) -> str:
        return self.laid.unit.write(units)

    def _settling(self, row: Row, number: int, interest: str) -> tuple[str, str]:
        """The last payment and the interest with it."""
        moved = self._moved(number)
        if not self.advance:
            return f"=C{number}+D{number}{moved}-Terms!{BALANCE}", interest
        if not row.closing:
            return self._stated(row.payment) if row.interest else f"=C{number}{moved}", interest
        back = f"-J{number}+K{number}" if self.busy else ""
        return self._stated(row.payment), f"=F{number}{back}+Terms!{BALANCE}-C{number}"

    def _interest(self, row: Row, number: int, fraction: Fraction) -> tuple[str, Binary]:
        """The formula, and what it gives in binary where that can be told beforehand."""
        calendar, often = self.loan.calendar, self.loan.payments_a_year
        base, owed = self._based(number), self._base(row)
        p = float(round(100 * as_decimal(self.terms.rate), 17))
        if self.measured_in:
            if calendar and calendar.in_advance and row.number == 1 and not calendar.is_regular:
                return self._stated(row.interest), ()
            divisor = self._divisor()
            measured = float(fraction * divisor)
            text = f"{base}*Terms!{PER_PERIOD}*{often}*H{number}/{100 * divisor}"
            return self._rounded(text), self._binary(owed * p * often * measured / (100 * divisor))
        if calendar and row.number == 1 and not calendar.is_regular:
            if self.advance:
                return self._stated(row.interest), ()
            odd = odd_time(calendar.start, calendar.first, calendar.step)
            i = f"Terms!{PER_PERIOD}/100"
            grown = f"(1+{odd.fraction}*{i})*(1+{i})^{odd.whole}-1"
            worked = (1 + float(odd.fraction) * p / 100) * (1 + p / 100) ** odd.whole - 1
            if self.loan.odd_days == "compound":
                grown = f"(1+{i})^({odd.whole}+{odd.fraction})-1"
                worked = (1 + p / 100) ** float(odd.whole + odd.fraction) - 1
            return self._rounded(f"{base}*({grown})"), self._binary(owed * worked)
        if self.divided:
            text = f"{base}*Terms!{PERCENT}/{100 * often}"
            percent = float(100 * often * self.terms.rate)
            return self._rounded(text), self._binary(owed * percent / (100 * often))
        return self._rounded(f"{base}*Terms!{PER_PERIOD}/100"), self._binary(owed * p / 100)

    def _rounded(self, text: str) -> str:
        return f"=ROUND({text},{self.decimals})" if self.rounds else f"={text}"

    def _binary(self, value: float) -> Binary:
        """A float rounded as programs round: as it stands, and by its first fifteen digits.

        Ties go away from zero in both. The last bits of a float depend on the order and the
        functions it was worked with: what lies a few of them apart is told too.
        """
        if not self.rounds:
            return ()
        cent = Decimal(1).scaleb(-self.decimals)
        scale = 10.0**self.decimals
        rounded = []
        for near in (value, value * (1 - _FEW_BITS), value * (1 + _FEW_BITS)):
            plain = Decimal(floor(abs(near) * scale + 0.5)).scaleb(-self.decimals)
            rounded.append(-plain if near < 0 else plain)
        return (*rounded, Decimal(f"{value:.15g}").quantize(cent, ROUND_HALF_UP))
