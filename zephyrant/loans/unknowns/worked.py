"""A document worked out: what was found, its terms as they will be paid, the schedule."""

from dataclasses import replace
from datetime import date
from decimal import Decimal
from typing import Final, NamedTuple

from zephyrant.texts import for_each_reader, worded

from ..document.figure_path import AMORTIZED_OVER, BALANCE, COUNT, COVER_RATIO, PAYMENT, PRINCIPAL
from ..document.limits import MOST_MONEY
from ..document.loan import Loan
from ..errors import NotALoan
from ..ledger.charges import charged
from ..ledger.roll import roll_schedule
from ..ledger.rows import NeverSettlesError, Schedule, cash_rule, due
from ..ledger.settling import Ending
from ..ledger.sum_of_digits import by_sum_of_digits
from ..line.compiling import cash_of, stated_terms
from ..line.line import Line, lay_out
from ..line.terms import Terms
from ..numbers.decimals import percent_text, plain, significant
from ..wording.marks import Marks, Money, Number, Sentence
from .counts import never_repays
from .finding import find
from .last_payment import as_settled, asked_last, ending_of, fits
from .parts import first_part
from .solution import (
    Found,
    as_made,
    payable_line,
    payable_percent,
    purchase_figure,
    solved_line,
    whole_above,
)


class Solved(NamedTuple):
    """Without an answer there is no line; where a loan cannot end to the cent as stated, no
    schedule, and why stands in `unlaid`.

    `line`: as the loan will be paid; `solved`: with what was found unrounded; `ending`: how the
    schedule ends.
    """

    found: Found
    line: Line | None = None
    schedule: Schedule | None = None
    unlaid: Sentence | None = None
    ending: Ending = Ending()
    solved: Line | None = None


@for_each_reader(maxsize=32)
def work_out(loan: Loan) -> Solved:
    """The figure found (none where all are stated) and the loan to the cent."""
    found = _found(loan)
    if not found.is_one:
        return Solved(found)
    worked = _laid_out(loan, found, payable_line(loan, found))
    return worked._replace(solved=solved_line(loan, found)) if found.solutions else worked


@for_each_reader(maxsize=32)
def _found(loan: Loan) -> Found:
    return find(loan) if loan.unknown else Found(())


def answered(loan: Loan) -> tuple[Sentence | None, str | None]:
    """Why a loan has no answer, or the figure found as it would be stated; without the schedule
    where that does not tell it."""
    found = _found(loan)
    if not found.solutions or not found.is_one:
        return found.reason, None
    solution = found.meant
    is_told = loan.repayment == "level" and not loan.is_sized
    if is_told and loan.asked not in (COUNT, BALANCE):
        line = payable_line(loan, found)
        if asked_last(loan, line) is None:
            return None, value_as_paid(loan, solution, line.terms, None)
    worked = work_out(loan)
    if worked.found.reason or worked.line is None:
        return worked.found.reason, None
    return None, value_as_paid(loan, solution, worked.line.terms, worked.schedule)


@for_each_reader(maxsize=32)
def work_out_unrounded(loan: Loan) -> Solved:
    """The same with what was found put back as it is, not as it will be paid."""
    found = _found(loan)
    if loan.asked in (None, COUNT) or not found.is_one:
        return work_out(loan)
    terms = solved_line(loan, found).terms
    if loan.asked in (PAYMENT, COVER_RATIO, PRINCIPAL) or found.sizing:
        # It is found without what sets it anew later, which the loan then has all the same.
        terms = replace(terms, provisions=stated_terms(loan).provisions)
    return _laid_out(loan, found, as_made(loan, replace(terms, cash=cash_of(loan))))


def _laid_out(loan: Loan, found: Found, line: Line) -> Solved:
    """The loan to the cent, on a line that has no unknown any more."""
    rounding, ending = loan.rounding, ending_of(loan, line)
    rule = cash_rule(
        line,
        loan.decimals,
        rounding.payment,
        rounding.interest,
        shows_overpaid=rounding.overpaid == "shown",
    )
    try:
        schedule = roll_schedule(line, rule, ending)
        if loan.interest_shared == "sum-of-digits":
            schedule = by_sum_of_digits(schedule)
        schedule = charged(line, schedule, rule)
        return Solved(found, as_settled(loan, line, schedule), schedule, ending=ending)
    except NeverSettlesError as error:
        if loan.asked != COUNT:
            return Solved(found, line, None, _why_unlaid(loan, line.terms, error), ending)
        never = error.why in ("rounding", "payment")
        why = _unsettled(loan, line.terms) if never else _why_unlaid(loan, line.terms, error)
        return Solved(Found((), why))


def _unsettled(loan: Loan, terms: Terms) -> Sentence:
    """Why a count that the mathematics knows is not reached in cents."""
    if terms.balance < terms.principal and terms.rate > 0 and not terms.provisions:
        return never_repays(loan, terms)
    return Sentence(
        "Rounded to the cent, payments of {payment} never bring the balance to exactly {balance}.",
        payment=Money(terms.payment, loan.decimals),
        balance=Money(terms.balance, loan.decimals),
    )


_UNLAID: Final = "There is no schedule to the cent: "


def _why_unlaid(loan: Loan, terms: Terms, error: NeverSettlesError) -> Sentence:
    """Why there is no schedule though there is an answer, or every figure is stated."""
    figures: dict[str, Number | Money] = {
        "number": Number(error.number),
        "balance": Money(terms.balance, loan.decimals),
        "most": Money(MOST_MONEY, loan.decimals),
    }
    if error.why == "interest":
        text = worded(
            "at a rate below zero the interest, which alone is to be paid with "
            "payment {number}, lies below zero."
        )
    elif error.why == "size":
        text = worded("with payment {number} the balance grows beyond {most}.")
    elif loan.asked is None and not fits(loan, terms):
        text = worded("the figures do not fit. ")
        text += (
            worded("With payment {number} all is repaid, and {balance} is to be left.")
            if error.why == "repaid"
            else worded("To end with {balance}, payment {number} would have to be below zero.")
        )
    elif error.why == "repaid":
        text = worded(
            "as rounded, the payments repay all with payment {number}, and {balance} is to be left."
        )
    else:
        text = worded(
            "rounded as stated, the payments drift so far that the loan cannot end "
            "with what is to be left. Round less coarsely."
        )
    return Sentence(worded(_UNLAID) + text, **figures)


def value_as_paid(loan: Loan, solution: Decimal, terms: Terms, schedule: Schedule | None) -> str:
    """The figure found, as it would be stated and as the schedule has it."""
    path = loan.asked
    if path is None:
        raise ValueError("no figure is asked for")
    if path.is_percent or path == COVER_RATIO:
        return percent_text(payable_percent(solution))
    if path == AMORTIZED_OVER:
        return str(whole_above(solution))
    if path == PAYMENT:
        return payment_as_paid(loan, terms, schedule)
    if path == COUNT:
        return str(len(schedule.rows)) if schedule else plain(significant(solution))
    if path == BALANCE:
        if schedule:
            return schedule.unit.write(schedule.rows[-1].closing)
        return plain(significant(solution), loan.decimals)
    if path.is_of_purchase:
        return plain(purchase_figure(loan, solution), loan.decimals)
    return plain(terms.amount(path), loan.decimals)


def payment_as_paid(loan: Loan, terms: Terms, schedule: Schedule | None) -> str:
    """The regular payment; of parts the first that repays one, as the schedule has it, and the one
    at the end where that is all."""
    if schedule and terms.has_parts:
        return schedule.unit.write(schedule.rows[first_part(lay_out(terms)).number - 1].payment)
    if schedule and terms.sharing is not None and terms.sharing.at_last:
        return schedule.unit.write(schedule.rows[-1].payment)
    return plain(terms.amount(PAYMENT), loan.decimals)


def end_of(loan: Loan, schedule: Schedule) -> date | None:
    """When a loan ends: with its last row or on a day in it, in advance a period later where a
    balance is left."""
    row, calendar = schedule.rows[-1], loan.calendar
    if row.ended:
        return row.ended.day
    if calendar is not None and row.closing > 0 and loan.count != 0:
        return calendar.end(row.number)
    return due(row, calendar)


def schedule_of(loan: Loan, marks: Marks) -> Schedule:
    """The loan to the cent; raises `NotALoan` with the reason where it has no schedule."""
    worked = work_out(loan)
    if worked.schedule is None:
        reason = worked.found.reason or worked.unlaid
        said = reason.say(marks) if reason else worded("The loan has no schedule to the cent.")
        raise NotALoan.at("", said)
    return worked.schedule
