"""What a loan costs before it is worked: how many payments are laid out, into how many pieces
clauses cut them, and how often that is tried."""

from collections.abc import Iterator
from contextlib import contextmanager
from typing import Final, NamedTuple

from zephyrant.texts import worded

from ..budget import BudgetSpentError, allowed
from ..errors import FieldError
from ..wording.marks import PLAIN, Marks, Number, Sentence
from .fields import UNKNOWN
from .floating import floating, periods_between
from .loan import Loan

#: So many times dearer than allowed a loan need not be tried: prices are rough.
_SURELY: Final = 3
#: Seconds on one core of a machine of 2026: of a payment laid out to the cent and told, of a piece
#: of the line, of a clause, and of a trial at the least. Right within a factor of three or so.
_A_ROW: Final = 1.2e-5
_A_PIECE: Final = 9e-5
_A_CLAUSE: Final = 6e-4
_A_TRIAL: Final = 6e-3
#: Parts of that which a trial takes that tells nothing.
_TRIED: Final = 0.5
#: How often a loan is tried, by what is sought.
_TRIALS_OF_AN_AIM: Final = 90
_TRIALS_OF_A_RATE: Final = 3
_TRIALS_OF_A_MARGIN: Final = 25
#: Payments of a loan whose count is asked for, before it is known.
_FIRST_GUESS: Final = 800


class Price(NamedTuple):
    """What a loan costs, in seconds, roughly; at which figure most of it arises, and why."""

    seconds: float
    field: str
    why: Sentence


def price(loan: Loan) -> Price:
    """The price of a loan's answer, told before it is worked."""
    rows = _FIRST_GUESS if loan.count == UNKNOWN else int(loan.count)
    if rows == 0:
        rows = len(loan.clauses)
    pieces = 1 + 2 * len(loan.clauses)
    if loan.calendar is not None and loan.day_count != "equal":
        pieces += rows
    if any(clause.months for clause in loan.clauses):
        pieces += rows
    levels = sum(
        rows if clause.is_stretch and clause.verb != "rate" else 1
        for clause in loan.clauses
        if clause.then
    )
    if (quote := floating(loan)) is not None:
        resets = rows // periods_between(loan, quote)
        pieces += resets
        levels += resets if quote.then else 0
    pieces = min(rows, pieces) + levels
    once = _A_ROW * rows + _A_PIECE * pieces + _A_CLAUSE * len(loan.clauses)
    trials = _trials(loan)
    seconds = once + trials * (_A_TRIAL + _TRIED * once)
    figures = {"rows": Number(rows), "clauses": Number(len(loan.clauses))}
    if loan.aim is not None:
        text = worded(
            "Aiming takes too long here: each of many trials lays out {rows} "
            "payments. Aim at another result, or with fewer payments."
        )
        return Price(seconds, "aim.is", Sentence(text, **figures))
    if _A_PIECE * pieces + _A_CLAUSE * len(loan.clauses) > _A_ROW * rows:
        text = worded(
            "These clauses take too long to be worked: {clauses} of them, over "
            "{rows} payments. State fewer, or fewer payments."
        )
        return Price(seconds, "clauses", Sentence(text, **figures))
    text = worded("{rows} payments take too long to be worked here. State fewer of them.")
    return Price(seconds, "count", Sentence(text, **figures))


def _trials(loan: Loan) -> int:
    if loan.aim is not None:
        return _TRIALS_OF_AN_AIM
    asks_percent = loan.asked is not None and loan.asked.is_percent
    if loan.asked is not None and loan.asked.floats:
        return _TRIALS_OF_A_MARGIN
    return _TRIALS_OF_A_RATE if asks_percent and loan.clauses else 0


@contextmanager
def told_at_its_figure(loan: Loan, marks: Marks = PLAIN) -> Iterator[None]:
    """Where the budget for a loan is spent, or is far below its price, that is said at the figure
    that costs most."""
    seconds = allowed()
    try:
        if seconds is not None and price(loan).seconds > _SURELY * seconds:
            raise BudgetSpentError
        yield
    except BudgetSpentError:
        raise BudgetSpentError(told_of(loan, marks)) from None


def told_of(loan: Loan, marks: Marks) -> FieldError:
    """That a loan takes too much work, at the figure that costs most."""
    dearest = price(loan)
    return FieldError(field=dearest.field, message=dearest.why.say(marks))
