"""A loan without an answer: how it goes all the same, and what would give it one.

What is asked for is given a value that suits it (some years, nothing left, nothing paid, no
interest). With that the loan is whole: its schedule shows where it leads, and each other figure is
what it would have to be. Only what has an answer once it is taken is told, with that answer.
"""

from collections.abc import Iterator
from contextlib import suppress
from decimal import ROUND_FLOOR, Decimal
from itertools import islice
from typing import Final, NamedTuple

from ..answer.consistency import asking
from ..document.fields import UNKNOWN, FigureName
from ..document.figure_path import BALANCE, COUNT, PAYMENT, FigurePath, figure_path
from ..document.loan import Loan
from ..document.paths import figure_at, with_figure
from ..errors import NotALoan
from ..line.compiling import stated_terms
from ..numbers.decimals import precise, to_step
from ..unknowns.counts import standstill
from ..unknowns.worked import answered

#: Years in which a loan may be repaid that never is, the longest first.
_YEARS: Final = (30, 20, 10, 5, 2, 1)
#: What just covers the interest is rounded up to whole amounts of these.
_STEPS: Final = (1, 5, 10, 100, 1_000)
#: A payment closer than this to one that never repays takes too long.
_CLEAR: Final = Decimal("1.05")
#: Years drawn of a balance that never comes to its end.
_DRAWN: Final = 20
#: A rate is told to so much, rounded down.
_HUNDREDTH: Final = Decimal("0.01")
#: Payments told that repay in years.
_MOST_YEARS: Final = 3
_RATE: Final = figure_path("rate")


class WayOut(NamedTuple):
    """A figure another value of which gives the loan an answer, and that answer."""

    path: FigurePath
    value: str
    answer: str


def ways_out(loan: Loan) -> list[WayOut]:
    """What would give a loan without an answer one, the nearest first; none where nothing simple
    does."""
    ways: list[WayOut] = []
    if not _is_without(loan):
        return ways
    for most, tried in _tried(loan):
        found = (_way(loan, path, value) for path, value in tried)
        new = (each for each in found if each is not None and each not in ways)
        ways += islice(new, most)
    return ways


def _is_without(loan: Loan) -> bool:
    """Whether it is a loan without an answer that can be told more of: a flat quote speaks of a
    stated count that repays to nothing, so nothing but the payment moves there."""
    asks = loan.asked is not None and not loan.rate.convention.is_of_a_loan
    return asks and answered(loan)[0] is not None


def _way(loan: Loan, path: FigurePath, value: str | None) -> WayOut | None:
    """The way that a value of another figure is, if it is one."""
    if value is None or Decimal(value) == figure_at(loan, path):
        return None
    if path != BALANCE and Decimal(value) <= 0:
        return None
    with suppress(NotALoan):
        reason, answer = answered(with_figure(loan, path, value))
        if reason is None and answer is not None:
            return WayOut(path, value, answer)
    return None


def _tried(loan: Loan) -> Iterator[tuple[int, Iterator[tuple[FigurePath, str | None]]]]:
    """Other figures with what they would have to be, and how many of each kind are enough."""
    asked = loan.asked
    if asked == COUNT:
        yield 1, _just_enough(loan)
        yield _MOST_YEARS, _in_years(loan, "payment")
        yield 1, _in_years(loan, "rate")
        yield 1, _in_years(loan, "principal")
    elif asked == BALANCE:
        yield 1, _others(loan, BALANCE, "0", "payment")
        yield 1, _others(loan, BALANCE, "0", "principal")
        yield 1, _one_payment_fewer(loan)
    elif asked == PAYMENT:
        yield 1, _others(loan, PAYMENT, "0", "balance")
        yield 1, _others(loan, PAYMENT, "0", "principal")
    elif asked == _RATE:
        yield 1, _others(loan, _RATE, "0", "payment")
        yield 1, _others(loan, _RATE, "0", "principal")


def _one_payment_fewer(loan: Loan) -> Iterator[tuple[FigurePath, str | None]]:
    """The last of the payments that repay a loan takes too much: one fewer leaves something."""
    for path, value in _others(loan, BALANCE, "0", "count"):
        yield path, None if value is None else str(int(value) - 1)


def _others(
    loan: Loan, path: FigurePath, value: str, name: FigureName
) -> Iterator[tuple[FigurePath, str | None]]:
    """What another figure would have to be if what is asked for were so much."""
    with suppress(NotALoan):
        whole = with_figure(loan, path, value)
        if name != "principal" or whole.purchase is None:
            yield figure_path(name), answered(asking(whole, name))[1]


def _just_enough(loan: Loan) -> Iterator[tuple[FigurePath, str]]:
    """Payments just above what never repays, in whole amounts."""
    terms = stated_terms(loan)
    if terms.provisions or terms.balance >= terms.principal:
        return
    with precise():
        least = standstill(terms)
        for step in _STEPS:
            yield PAYMENT, f"{to_step(least, Decimal(step), 'up') + (0 if least % step else step)}"


def _in_years(loan: Loan, name: FigureName) -> Iterator[tuple[FigurePath, str | None]]:
    """What a figure would have to be for the loan to end after so many years. A payment that is
    hardly more than the one stated leads on for too long."""
    falls = Decimal(loan.balance) < stated_terms(loan).principal
    floor = Decimal(loan.payment) * _CLEAR if falls and name == "payment" else Decimal(0)
    for years in _YEARS:
        count = str(years * loan.payments_a_year)
        for path, value in _others(loan, COUNT, count, name):
            if value is not None and Decimal(value) >= floor:
                yield path, _to_end_in(loan, path, value, count)


def _to_end_in(loan: Loan, path: FigurePath, value: str, count: str) -> str:
    """A figure so rounded that the loan ends with that payment and not with the next: an amount to
    the cent, else down to a whole one, a rate down to hundredths."""
    exact, unit = Decimal(value), loan.minor_unit
    with precise():
        near = [exact, exact + unit, exact - unit, _down(exact, Decimal(1))]
        if path.is_percent:
            near = [_down(exact, _HUNDREDTH), exact]
    for each in near:
        with suppress(NotALoan):
            if answered(with_figure(loan, path, f"{each:f}"))[1] == count:
                return f"{each:f}"
    return value


def _down(value: Decimal, step: Decimal) -> Decimal:
    return (value / step).to_integral_value(ROUND_FLOOR) * step


def as_it_goes(loan: Loan) -> Loan | None:
    """A loan that shows where one without an answer leads; None where nothing simple does."""
    if not _is_without(loan):
        return None
    count = min(_DRAWN * loan.payments_a_year, stated_terms(loan).most_payments)
    changes: dict[FigurePath, dict[FigurePath, str]] = {
        COUNT: {COUNT: str(count), BALANCE: UNKNOWN},
        BALANCE: {BALANCE: "0", COUNT: UNKNOWN},
        PAYMENT: {PAYMENT: "0", BALANCE: UNKNOWN},
    }
    if loan.asked not in changes:
        return None
    try:
        for path, value in changes[loan.asked].items():
            loan = with_figure(loan, path, value)
    except NotALoan:
        return None
    return loan if answered(loan)[0] is None else None
