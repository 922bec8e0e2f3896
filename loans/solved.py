"""A document worked out: what was found, its terms as they will be paid, the schedule."""

from decimal import Decimal
from functools import lru_cache
from typing import NamedTuple

from .cut import lay_out
from .document import Loan
from .errors import FieldError, NotALoan
from .find import find, never_repays
from .ledger import NeverSettlesError, Schedule, cash_rule, schedule
from .line import Terms
from .terms import Found, payable_terms
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
    terms = payable_terms(loan, solution)
    line = lay_out(terms)
    rounding = loan.rounding
    rule = cash_rule(
        line,
        loan.decimals,
        rounding.payment,
        rounding.interest,
        absorbs=loan.unknown == "balance",
        shows_overpaid=rounding.overpaid == "shown",
    )
    try:
        return Solved(found, terms, schedule(line, rule))
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


def schedule_of(loan: Loan, marks: Marks) -> Schedule:
    """The loan to the cent; raises `NotALoan` with the reason where it has no schedule."""
    found, _, laid = work_out(loan)
    if laid is None:
        said = found.reason.say(marks) if found.reason else "The loan has no schedule to the cent."
        raise NotALoan([FieldError(field="", message=said)])
    return laid
