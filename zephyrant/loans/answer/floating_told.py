"""A floating rate told: every rate that is used, and on which path of its index that rests."""

from datetime import date
from decimal import Decimal
from typing import Final

from typing_extensions import TypedDict

from zephyrant.texts import worded

from ..calendars.days_in_words import write_day
from ..document.figure_path import FIRST, MARGIN
from ..document.floating import FloatingQuote, Index, fixed_on, floating, index_of, resets_of
from ..document.loan import Loan
from ..unknowns.solution import Found, payable_percent
from ..wording.marks import Number, Percent, Sentence


class FloatingTold(TypedDict):
    """`rates_used`: each reset with the rate from it on, in percent as quoted, after floor and cap;
    `rests_on`: the path that the index takes where it is not fixed yet, as a sentence."""

    rates_used: list[tuple[int, str]] | None
    rests_on: str | None


#: What is told of a fixed rate.
FIXED: Final[FloatingTold] = {"rates_used": None, "rests_on": None}


def figures_found(loan: Loan, found: Found) -> dict[str, Decimal]:
    """The margin or the first rate that was found, by its name; nothing where it is stated."""
    if loan.asked not in (MARGIN, FIRST) or not found.solutions:
        return {}
    return {loan.asked.name: payable_percent(found.meant)}


def rates_used(loan: Loan, found: Found, last: int) -> list[tuple[int, str]] | None:
    """Every reset up to a payment."""
    quote = floating(loan)
    if quote is None:
        return None
    figures = figures_found(loan, found)
    return [(at, f"{percent:f}") for at, percent in resets_of(loan, quote, last, **figures)]


def rests_on(loan: Loan, last: int) -> Sentence | None:
    """On which path of the index an answer rests; None of a fixed rate."""
    quote = floating(loan)
    if quote is None:
        return None
    index = index_of(loan, quote)
    latest, value = index.fixings[-1]
    figures: dict[str, Number | Percent | str] = {
        "name": quote.index,
        "day": _told(latest),
        "value": Percent(value, 6, 2),
    }
    if not _runs_beyond(loan, quote, index, last):
        return Sentence("Every rate rests on a fixing of {name}, the last of {day}.", **figures)
    text = worded("This rests on a path: {name} as fixed up to {day}, {value}")
    if index.path:
        moment, reached = index.path[-1]
        text += worded(", then as stated up to {until}, {reached}")
        figures |= {"until": _told(moment), "reached": Percent(reached, 6, 2)}
    text += worded(", and flat from then on")
    if index.shift is None:
        return Sentence(text + ".", **figures)
    begin = index.shift.begin
    figures |= {
        "points": Number(index.shift.percent, 6, 2),
        "begin": _told(latest if begin is None else begin),
    }
    if begin is None:
        return Sentence(
            text + worded("; {points} percentage points are added after {begin}."), **figures
        )
    return Sentence(
        text + worded("; {points} percentage points are added from {begin} on."), **figures
    )


def _told(moment: int | date) -> str:
    return write_day(moment) if isinstance(moment, date) else str(moment)


def _runs_beyond(loan: Loan, quote: FloatingQuote, index: Index, last: int) -> bool:
    """Whether a rate is used that is not fixed yet."""
    latest = 0
    for period, _ in resets_of(loan, quote, last):
        latest = period
    moment = fixed_on(loan, quote, latest or 1)
    shift = index.shift.begin if index.shift else None
    beyond: bool = moment > index.fixings[-1][0]  # type: ignore[operator]
    return beyond or (shift is not None and moment >= shift)  # type: ignore[operator]
