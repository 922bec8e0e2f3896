"""A schedule as live arithmetic: formulas of a sheet that a reviewer can re-check and change.

Where binary arithmetic would not give the ledger's cents, or where no formula tells a figure, the
cell holds ours as a number, its row says so, and what does not follow is said at the input.
"""

import re
from collections.abc import Iterator
from dataclasses import replace
from decimal import Decimal
from typing import Final

from zephyrant.texts import worded

from ..budget import look
from ..document.fields import UNKNOWN
from ..document.figure_path import PAYMENT as THE_PAYMENT
from ..document.loan import Loan
from ..ledger.rows import Row, Schedule
from ..ledger.settling import Ending
from ..line.compiling import asks_rate
from ..line.growth import NO_TIME, Span
from ..line.line import Line, with_asked
from ..line.stretch import Stretch
from ..numbers.affine import Affine
from ..numbers.ratios import as_decimal
from ..quotes.conversion import quoted_percent
from ..unknowns.worked import work_out
from .formula_bounds import bounds_columns
from .formula_interest import InterestFormulas
from .formula_parts import Cells, PartFormulas
from .formula_sheet import (
    BALANCE,
    FIRST_ROW,
    PAYMENT,
    PERCENT,
    PRINCIPAL,
    QUIET,
    FormulaRow,
    FormulaSheet,
    FormulaTerm,
    FormulaTerms,
)

#: The functions of a sheet that round as payments are.
_ROUNDED: Final = {"nearest": "ROUND", "up": "ROUNDUP", "down": "ROUNDDOWN"}


def workbook_of(loan: Loan) -> FormulaSheet | None:
    """The loan's schedule as formulas; none where it has none."""
    worked = work_out(loan)
    if worked.line is None or worked.schedule is None:
        return None
    writer = _Writer(loan, worked.line, worked.schedule, worked.ending)
    rows = tuple(writer.rows())
    terms = writer.live_terms(worked.found.meant)
    return FormulaSheet(
        terms,
        rows,
        worked.schedule,
        writer.measured_in,
        writer.busy,
        writer.finds,
        writer.says(rows),
        bounds_columns(loan, worked.line, worked.schedule),
    )


def _slope(payment: Affine | Decimal) -> Decimal:
    return payment.slope if isinstance(payment, Affine) else Decimal(0)


class _Writer:
    """Writes the formulas of a schedule row by row."""

    def __init__(self, loan: Loan, line: Line, schedule: Schedule, ending: Ending) -> None:
        self.loan, self.line, self.schedule, self.ending = loan, line, schedule, ending
        self.terms = line.terms
        self.interest = InterestFormulas(loan, line.terms, schedule)
        self.advance, self.decimals = self.interest.advance, loan.decimals
        self.rounds = self.interest.rounds
        self.busy = any(row.advance or row.repay or row.fee for row in schedule.rows)
        self.last_row = FIRST_ROW + len(schedule.rows) - 1
        self.measured_in = self.interest.measured_in
        self.parts = PartFormulas(
            *(loan, line, schedule, ending),
            interest=self.interest,
            cash=lambda text: self._cash(text, is_payment=True),
        )
        self.shares = self._shares()
        self.finds = self._can_find()
        #: The interest on 1 of the first row, for other sheets.
        self.first_factor: str | None = None

    # What follows

    def _shares(self) -> list[tuple[int | None, Decimal]]:
        """Up to which payment the payment moves by how much with the regular one."""
        line = with_asked(replace(self.terms, cash=None), THE_PAYMENT)
        return [(stretch.last, _slope(stretch.payment)) for stretch in line.stretches]

    def _share(self, place: int) -> Decimal:
        """By how much the payment there moves with the regular one."""
        return next(share for until, share in self.shares if until is None or place <= until)

    def _can_find(self) -> bool:
        """Whether the balance, rolled without the figure asked for and with 1 of it, tells it: an
        amount, in periods whose interest formulas know."""
        known = self.loan.unknown in ("payment", "principal") and self.loan.count not in (
            0,
            UNKNOWN,
        )
        stub = self.advance and self.terms.runs[0].before != NO_TIME
        plain = not any(s.inner or s.on_top for s in self.line.stretches)
        fees = any(provision.of_money for provision in self.terms.provisions)
        levels = any(provision.levels for provision in self.terms.provisions)
        whole = self.terms.count == self.schedule.rows[-1].number and self.terms.whole is None
        even = all(share in (0, 1) for _, share in self.shares)
        known = known and not self.loan.is_sized
        return bool(known and plain and whole and even and not (stub or fees or levels))

    def live_terms(self, solution: Decimal) -> FormulaTerms:
        """The inputs, and which of them a formula tells."""
        loan, terms, asks = self.loan, self.terms, self.loan.unknown
        percent = loan.rate.percent
        stated = round(solution, 10) if percent == UNKNOWN else Decimal(percent)
        if loan.asked is not None and loan.asked.floats:
            stated = round(quoted_percent(as_decimal(terms.rate), loan.style), 10)
        per_period = 100 * as_decimal(terms.rate)
        formula = loan.style.convention.sheet_formula(loan.style, PERCENT)
        by_part = self.parts.principal(self.first_factor) if terms.has_parts else None
        over = self.parts.over()
        by_part = by_part or over.get("principal")
        without, each = f"Schedule!$L${self.last_row}", f"Schedule!$M${self.last_row}"
        follows = worded("change it, and the schedule follows")
        given = worded("found by Zephyrant; no formula finds it again")

        def figure(name: str, value: Decimal, found: str) -> FormulaTerm:
            told = None if loan.is_sized else {**over, "principal": by_part}.get(name)
            if asks == name and (self.finds or told):
                return FormulaTerm(
                    value, f"={found}", worded("found from the other figures"), False
                )
            return FormulaTerm(value, None, given if asks == name else follows, True)

        flat = worded("of a flat quote no formula tells the rate: change the percent of one period")
        quoted = flat if formula is None else given if asks_rate(loan) else follows
        balance = self.schedule.unit.amount(self.schedule.rows[-1].closing)
        left = FormulaTerm(balance, None, follows, True)
        if asks == "balance" or terms.whole is not None:
            ends = f"=Schedule!$G${self.last_row}"
            left = FormulaTerm(balance, ends, worded("what the last payment leaves"), False)
        return FormulaTerms(
            figure(
                "principal",
                terms.principal,
                self._cash(by_part or f"({BALANCE}-{without})/{each}", is_payment=False),
            ),
            FormulaTerm(stated, None, quoted, formula is not None),
            FormulaTerm(
                per_period,
                formula,
                worded("from the quote") if formula else follows,
                formula is None,
            ),
            (self.parts.payment() if terms.has_parts else None)
            or figure(
                "payment",
                terms.payment,
                self._cash(over.get("payment") or f"({BALANCE}-{without})/{each}", is_payment=True),
            ),
            left,
        )

    def _cash(self, text: str, *, is_payment: bool) -> str:
        """An amount found, as it is paid."""
        rounds = self.loan.rounding.payment if self.terms.cash is None else self.terms.cash.way
        if rounds == "none":
            return text
        step = self.loan.step if is_payment else self.loan.minor_unit
        way = _ROUNDED[rounds] if is_payment else "ROUND"
        if step == self.loan.minor_unit:
            return f"{way}(ROUND({text},{QUIET}),{self.decimals})"
        return f"{way}(ROUND({text}/{step:f},{QUIET}),0)*{step:f}"

    def says(self, rows: tuple[FormulaRow, ...]) -> tuple[str, ...]:
        """What of the sheet does not follow."""
        loan = self.loan
        said = [
            worded("The number of rows does not change; those after nothing is owed stand at zero.")
        ]
        if loan.unknown is not None and not self.finds and loan.unknown != "balance":
            said.append(
                worded(
                    "The figure that was asked for was found by Zephyrant and stands as a "
                    "number: change another and it is not found again."
                )
            )
        if any(row.marked for row in rows):
            said.append(worded("Marked cells hold numbers: they do not follow what is changed."))
        if self.busy:
            said.append(
                worded(
                    "What is lent, taken as a fee or paid on top by clauses, and payments "
                    "that are not the regular one, stand as numbers that can be changed in "
                    "their rows."
                )
            )
        return tuple(said)

    # Rows

    def rows(self) -> Iterator[FormulaRow]:
        """Every row."""
        runs, stretches = iter(self.terms.runs), iter(self.line.stretches)
        run, stretch = next(runs), next(stretches)
        for number, row in enumerate(self.schedule.rows, FIRST_ROW):
            while run.last is not None and run.last < row.stands_at:
                run = next(runs)
            while stretch.last is not None and stretch.last < row.stands_at:
                stretch = next(stretches)
            span = run.after if self.advance else run.before
            yield self._row(row, number, stretch, span)

    def _row(self, row: Row, number: int, stretch: Stretch, span: Span) -> FormulaRow:
        look()
        stated = self.interest.stated
        opening = f"=G{number - 1}"
        if number == FIRST_ROW:
            more = row.opening - self.schedule.unit.count(self.terms.principal)
            opening = f"={PRINCIPAL}" + (f"+{stated(more)}" if more else "")
        is_last = number == self.last_row
        own = 100 * as_decimal(stretch.after if self.advance else stretch.before)
        is_own = (stretch.before, stretch.after) != self.interest.by_terms(row, stretch, span)
        fraction = span.simple / self.loan.payments_a_year
        measures = bool(self.measured_in) and not is_own
        factor = self.interest.factor(row, number, stretch, fraction, is_own=is_own)
        if number == FIRST_ROW and factor is not None:
            self.first_factor = re.sub(r"\bH(\d+)", r"Schedule!$H$\1", factor)
        beyond = self._beyond(row, stretch)
        moved = f"+J{number}-K{number}" if self.busy else ""
        base = f"(C{number}{moved}-F{number})" if self.advance else f"C{number}"
        interest = (
            stated(row.interest) if factor is None else self.interest.rounded(f"{base}*{factor}")
        )
        payment = self._payment(row, number, moved, beyond, stretch, caps=factor is not None)
        marked = (
            None
            if factor is not None
            else worded("stated: money moves, or the rate turns, inside it")
        )
        settles = is_last or (
            self.ending.settles_by == "interest-before" and number == self.last_row - 1
        )
        if factor is not None and not settles and not self.interest.agrees(row, stretch):
            interest, marked = stated(row.interest), worded("stated: binary arithmetic may differ")
        if is_last:
            payment, interest = self._settled(row, number, moved, factor, (payment, interest))
        elif settles:
            after = f"+F{number + 1}" + (f"+K{number + 1}-J{number + 1}" if self.busy else "")
            interest = f"=0{after}-(C{number}{moved}-F{number})"
        if self.loan.interest_shared is not None:
            interest, marked = stated(row.interest), worded("stated: shared out by sum-of-digits")
        cells = Cells(payment, interest)
        if factor is not None:
            cells = self.parts.cells(row, number, stretch, moved, cells) or cells
        return FormulaRow(
            row,
            opening,
            cells.interest,
            f"=F{number}+K{number}-D{number}" if self.busy else f"=F{number}-D{number}",
            cells.payment,
            self.interest.rounded(f"C{number}+D{number}{moved}-F{number}"),
            self.interest.measured(fraction) if measures else None,
            own if is_own and factor is not None else None,
            stated(row.advance + row.fee),
            stated(row.repay),
            marked,
            *self._helpers(number, moved, factor or "0", beyond, stretch),
        )

    def _beyond(self, row: Row, stretch: Stretch) -> Decimal | None:
        """By how much a payment lies above the regular one that it moves with; None where a clause
        states it, whatever that is."""
        if self.loan.count == 0 or stretch.on_top or self._share(row.stands_at) != 1:
            return None
        return stretch.payment - self.terms.payment

    def _helpers(
        self, number: int, moved: str, factor: str, beyond: Decimal | None, stretch: Stretch
    ) -> tuple[str, str]:
        """The balance without the figure that is asked for, and with 1 of it."""
        if not self.finds:
            return "", ""
        asks_payment = self.loan.unknown == "payment"
        without, each = f"L{number - 1}", f"M{number - 1}"
        if number == FIRST_ROW:
            more = self.schedule.rows[0].opening - self.schedule.unit.count(self.terms.principal)
            without = f"C{number}" if asks_payment else self.interest.stated(more)
            each = "0" if asks_payment else "1"
        paid, one = f"-{stretch.payment:f}", "0"
        if beyond is not None:
            paid, one = f"-{PAYMENT}-({beyond:f})", "0"
            if asks_payment:
                paid, one = f"-({beyond:f})", "1"
        if self.advance:
            return f"=({without}{moved}{paid})*(1+{factor})", f"=({each}-{one})*(1+{factor})"
        return f"=({without})*(1+{factor}){moved}{paid}", f"=({each})*(1+{factor})-{one}"

    def _payment(
        self,
        row: Row,
        number: int,
        moved: str,
        beyond: Decimal | None,
        stretch: Stretch,
        *,
        caps: bool,
    ) -> str:
        """The regular payment, no more than is owed; another one as it is stated."""
        if beyond is None:
            return self.parts.by_cash_flow(row, stretch) or self.interest.stated(row.payment)
        regular = f"{PAYMENT}+{beyond:f}" if beyond else PAYMENT
        if not caps or not self.ending.cuts or row.number < self.line.lent_until:
            return f"={regular}"
        owed = f"C{number}{moved}" if self.advance else f"C{number}+D{number}{moved}"
        return f"=MAX(0,MIN({regular},{owed}))"

    def _settled(
        self, row: Row, number: int, moved: str, factor: str | None, usual: tuple[str, str]
    ) -> tuple[str, str]:
        """The payment and the interest of the last row, which closes at the balance."""
        payment, interest = usual
        by = self.ending.settles_by
        if self.schedule.early:
            # Overpaid as shown: the payment stands beside what is repaid too much.
            return (self.interest.stated(row.payment) if row.closing else payment), interest
        if by == "payment" and self.loan.count != 0:
            if not self.advance:
                return f"=C{number}+D{number}{moved}-{BALANCE}", interest
            if factor is None:
                return self.interest.stated(row.payment), self.interest.stated(row.interest)
            kept = f"({BALANCE}/(1+{factor}))"
            kept = self.interest.rounded(kept)[1:] if self.rounds else kept
            return f"=C{number}{moved}-{kept}", f"={BALANCE}-{kept}"
        if by in ("interest", "interest-before"):
            return payment, f"={BALANCE}-(C{number}{moved}-F{number})"
        if by == "balance":
            return payment, interest
        return self.interest.stated(row.payment), self.interest.stated(row.interest)
