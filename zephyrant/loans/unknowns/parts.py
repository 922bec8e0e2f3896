"""Loans whose principal is shared out: one part, and the first payment, from one another.

The first payment that repays a part is that and the interest of its period; all that is shared out
is what is owed at the start less what is to be left. What moves later is not foreseen: the parts
stay, unless they are shared out anew.
"""

from contextlib import suppress
from dataclasses import replace
from decimal import Decimal
from typing import Any, NamedTuple, TypeVar

from ..document.fields import UNKNOWN
from ..document.figure_path import BALANCE, COUNT
from ..document.loan import Loan
from ..ledger.exact import EXACT, Exact, unrounded_end
from ..ledger.period import Reckoned, happens
from ..line.line import Line, lay_out
from ..line.parts import Parts
from ..line.terms import Terms, digits_for
from ..numbers.affine import Affine
from ..numbers.decimals import precise
from ..wording.marks import Number, Sentence

E = TypeVar("E", Decimal, Affine)


class NoPartError(Exception):
    """No payment of a loan repays a part, or the parts are not as many as those that do; `why` says
    it."""

    def __init__(self, parts: Parts | None) -> None:
        super().__init__("no part")
        self.why = Sentence("The clauses pause every payment that would repay a part.")
        if parts is not None and not parts.is_matched:
            self.why = Sentence(
                "There are {given} parts in percent for {places} payments that repay one: state "
                "one for each of these, or for every payment.",
                given=Number(len(parts.sharing.percents)),
                places=Number(parts.places),
            )


class FirstPart(NamedTuple):
    """The first payment that repays a part, by its number, and how many times one part that is: of
    interest alone, none."""

    number: int
    times: Decimal


def first_part(line: Line[Any]) -> FirstPart:
    """The first payment that repays a part; raises `NoPartError`."""
    parts = line.parts
    if parts is None or parts.first is None or not (line.is_open or parts.total):
        raise NoPartError(parts)
    if not parts.is_matched:
        raise NoPartError(parts)
    return FirstPart(parts.first, parts.at(parts.first))


def has_first_part(line: Line[Any]) -> bool:
    """Whether a payment repays a part."""
    with suppress(NoPartError):
        return bool(first_part(line).number)
    return False


def interest_at(line: Line[Any], number: int, by: Exact[Any], lent: E) -> E:
    """The interest of a payment before which none has repaid a part, of what is owed after all
    that moves at the start; in the decimal context in force."""
    owed: Any = lent
    for stretch in line.stretches:
        if stretch.last is not None and stretch.last < number:
            owed = by.through(owed, stretch, stretch.periods())
            continue
        owed = by.through(owed, stretch, number - stretch.first)
        interest: E = happens(owed, Reckoned(stretch, by)).interest
        return interest
    raise NoPartError(line.parts)


def shared_out(line: Line[Any], lent: E) -> E:
    """One part, where what is lent less what is to be left is shared out."""
    if line.parts is None or not line.parts.total:
        raise NoPartError(line.parts)
    part: E = (lent - line.balance) / line.parts.total
    return part


def first_payment(line: Line[Any], lent: E, by: Exact[Any]) -> E:
    """The first payment that repays a part, as the whole is shared out."""
    number, times = first_part(line)
    return shared_out(line, lent) * times + interest_at(line, number, by, lent)


def part_by_payment(line: Line) -> Decimal:
    """One part, as the first payment tells it."""
    number, times = first_part(line)
    if not times:
        return shared_out(line, line.principal)
    return (line.terms.payment - interest_at(line, number, EXACT, line.principal)) / times


def parted(loan: Loan, terms: Terms) -> Terms:
    """The terms with one part as they tell it: by the first payment where the number of payments
    or the balance is asked for, or the figures stated do not fit; else as all is shared out. No
    part where no payment repays one.
    """
    if not terms.has_parts:
        return terms
    free = replace(terms, cash=None)
    with precise(digits_for(free)), suppress(NoPartError):
        line = lay_out(free)
        by_payment = told_by_payment(loan, terms)
        part = part_by_payment(line) if by_payment else shared_out(line, line.principal)
        return replace(terms, part=part)
    return terms


def told_by_payment(loan: Loan, terms: Terms) -> bool:
    """Whether the first payment tells the parts, not what is lent and what is to be left."""
    if loan.asked is not None:
        return loan.asked in (COUNT, BALANCE)
    return not fit_in_parts(loan, terms)


def gap_by_parts(terms: Terms) -> Decimal:
    """What the first payment leaves over at the end, all parts being as it tells; of interest alone
    what it is short of it; where no payment repays one, all that is left. In the decimal context in
    force."""
    line = lay_out(terms)
    if not has_first_part(line):
        return unrounded_end(line) - terms.balance
    times, total = first_part(line).times, line.parts.total if line.parts else Decimal(0)
    short = first_payment(line, line.principal, EXACT) - terms.payment
    return short * total / times if times else short


def fit_in_parts(loan: Loan, terms: Terms) -> bool:
    """Whether a stated first payment is its part and its interest as cash is paid."""
    free = replace(terms, cash=None)
    with precise(digits_for(free)):
        line = lay_out(free)
        if not has_first_part(line):
            return False
        exact = first_payment(line, line.principal, EXACT)
        if abs(exact - free.payment) < loan.minor_unit / 2:
            return True
        if terms.cash is None:
            return False
        part = shared_out(line, line.principal) * first_part(line).times
        return terms.cash.payment(part) + terms.cash.amount(exact - part) == terms.payment


def first_stated(loan: Loan, line: Line) -> tuple[int, Decimal] | None:
    """The first payment where it is stated: it stands as it is."""
    if loan.payment == UNKNOWN or not has_first_part(line):
        return None
    return first_part(line).number, line.terms.payment
