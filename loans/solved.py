"""A document worked out: what was found, its terms as they will be paid, the schedule."""

from dataclasses import replace
from datetime import date
from decimal import Decimal
from functools import lru_cache
from typing import NamedTuple

from .document import Loan
from .errors import FieldError, NotALoan
from .find import find, never_repays
from .ledger import NeverSettlesError, Row, Schedule, cash_rule, schedule
from .line import Terms
from .settling import as_settled, line_to_settle
from .terms import Found, levelled, payable_terms, solved_terms
from .words import Marks, Money, Sentence


class Solved(NamedTuple):
    """Without an answer there are no terms; where rounding keeps a loan from ending as stated,
    no schedule."""

    found: Found
    terms: Terms | None
    laid: Schedule | None


@lru_cache(maxsize=32)
def work_out(loan: Loan) -> Solved:
    """The figure found (none where all are stated) and the loan to the cent."""
    found = find(loan) if loan.unknown else Found(())
    if found.reason:
        return Solved(found, None, None)
    if found.solutions and found.ordinary is None:
        return Solved(found, None, None)
    solution = found.solutions[found.ordinary or 0] if found.solutions else Decimal(0)
    return _laid_out(loan, found, payable_terms(loan, solution))


@lru_cache(maxsize=32)
def work_out_unrounded(loan: Loan) -> Solved:
    """The same with what was found put back as it is, not as it will be paid."""
    worked = work_out(loan)
    if worked.terms is None or loan.unknown in (None, "count"):
        return worked
    terms = levelled(solved_terms(loan, worked.found))
    cash = worked.terms.cash
    return _laid_out(loan, worked.found, replace(terms, cash=cash))


def _laid_out(loan: Loan, found: Found, terms: Terms) -> Solved:
    """The loan to the cent, on terms that have no unknown any more."""
    line, rounding = line_to_settle(loan, terms), loan.rounding
    rule = cash_rule(
        line,
        loan.decimals,
        rounding.payment,
        rounding.interest,
        shows_overpaid=rounding.overpaid == "shown",
    )
    try:
        laid = schedule(line, rule)
        return Solved(found, as_settled(loan, terms, line, laid), laid)
    except NeverSettlesError:
        if loan.unknown == "count":
            return Solved(Found((), _unsettled(loan, terms)), None, None)
        return Solved(found, terms, None)


def _unsettled(loan: Loan, terms: Terms) -> Sentence:
    """Why a count that the mathematics knows is not reached in cents."""
    if terms.balance < terms.principal and terms.rate > 0:
        return never_repays(loan, terms)
    return Sentence(
        "Rounded to the cent, payments of {payment} never bring the balance to exactly {balance}.",
        payment=Money(terms.payment, loan.decimals),
        balance=Money(terms.balance, loan.decimals),
    )


def due(loan: Loan, row: Row) -> date | None:
    """When what a row tells happens; none without dates."""
    if row.day is not None or loan.calendar is None:
        return row.day
    return loan.calendar.payment(row.stands_at)


def end_of(loan: Loan, laid: Schedule) -> date | None:
    """When a loan ends: with its last row, in advance a period later where a balance is left."""
    row, calendar = laid.rows[-1], loan.calendar
    if calendar is not None and row.closing > 0 and loan.count != 0:
        return calendar.end(row.number)
    return due(loan, row)


def schedule_of(loan: Loan, marks: Marks) -> Schedule:
    """The loan to the cent; raises `NotALoan` with the reason where it has no schedule."""
    found, _, laid = work_out(loan)
    if laid is None:
        said = found.reason.say(marks) if found.reason else "The loan has no schedule to the cent."
        raise NotALoan([FieldError(field="", message=said)])
    return laid
