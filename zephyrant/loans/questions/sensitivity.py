"""What moves a loan: results worked anew for every value of one or two of its figures.

Every point is the loan with those values in place, as a fresh solve has it. Regular loans whose
payment is asked for are worked side by side as arrays; a place those cannot promise, and every
other loan, goes the exact way.
"""

from collections.abc import Callable, Sequence
from dataclasses import replace
from datetime import date
from decimal import Decimal
from itertools import product
from math import prod
from typing import Final

from pydantic import BaseModel, ConfigDict
from typing_extensions import TypedDict

from zephyrant.texts import worded

from ..answer.results import as_paid
from ..budget import look
from ..document.aim import is_result
from ..document.fields import UNKNOWN
from ..document.figure_path import figure_path
from ..document.floating import floating
from ..document.loan import Loan
from ..document.paths import with_figure
from ..document.repaid import repaid_by
from ..errors import NotALoan
from ..ledger.level_arrays import Level, payments, to_whole
from ..ledger.rolled_arrays import rolled
from ..numbers.arrays import np
from ..numbers.decimals import PERCENT_PLACES, is_whole, percent_text, plain, precise
from ..quotes.arrays import quoted_percents
from ..quotes.conversion import periodic_rate
from ..roots.many_rates import rates
from ..unknowns.worked import answered

#: Points of one sweep: two figures of 41 values each, and some.
MOST_POINTS: Final = 2_500
#: The figure that is asked for, as a result.
ANSWER: Final = "answer"
#: What that is called.
ANSWER_TITLE: Final = "figure asked for"
_MONEY: Final = (ANSWER, "payment", "total_paid", "total_interest", "final_payment")
_BY_ARRAYS: Final = ("principal", "rate.percent", "count", "balance", "payment")
#: A found percent so near to where its tenth decimal turns is found again exactly.
_NEAR_RATE: Final = 0.02


class Axis(BaseModel):
    """A figure, by its path in the document, and the values it takes."""

    model_config = ConfigDict(frozen=True, defer_build=True, extra="forbid")

    path: str
    values: tuple[Decimal, ...]


class Sensitivity(TypedDict):
    """Results by value of the first figure, then of the second (one column where there is none).

    `results[name][row][column]` is told as a fresh solve of that loan tells it; None where it has
    no such result. `reasons` says why, where the loan has no answer at all, by the place of the
    point, counted row by row. `next` is the place of the first point that is not worked yet; None
    where all are.
    """

    values: list[list[str]]
    results: dict[str, list[list[str | None]]]
    reasons: dict[str, str]
    next: int | None


def not_yet() -> bool:
    """Never enough: all points are worked at once."""
    return False


def sensitivity_of(
    loan: Loan,
    axes: Sequence[Axis],
    results: Sequence[str],
    start: int = 0,
    enough: Callable[[], bool] = not_yet,
) -> Sensitivity:
    """Results of a loan for every value of one or two figures; from the point at `start`, until
    there is enough of them for a part, at least one.

    Raises `NotALoan` where there is nothing to vary, too much of it, or a figure cannot move.
    """
    _check(loan, axes, results)
    points = list(product(*(axis.values for axis in axes)))
    left = points[start:]
    found: dict[str, list[str | None]] = {name: [None] * len(left) for name in results}
    reasons: dict[str, str] = {}
    done = _side_by_side(loan, axes, left, results, found) if left else set()
    one_by_one = [number for number in range(len(left)) if number not in done]
    following = None
    for number in one_by_one:
        if number != one_by_one[0] and enough():
            following = start + number
            break
        reason = _one(loan, axes, left[number], found, number)
        if reason:
            reasons[str(start + number)] = reason
    width = len(axes[1].values) if len(axes) > 1 else 1
    before: list[str | None] = [None] * (len(points) - len(left))
    told = {name: before + column for name, column in found.items()}
    return {
        "values": [[plain(value) for value in axis.values] for axis in axes],
        "results": {
            name: [row[start : start + width] for start in range(0, len(points), width)]
            for name, row in told.items()
        },
        "reasons": reasons,
        "next": following,
    }


def _check(loan: Loan, axes: Sequence[Axis], results: Sequence[str]) -> None:
    if not 1 <= len(axes) <= 2:
        raise NotALoan.at("varied", worded("One or two figures can be varied."))
    for number, axis in enumerate(axes):
        _check_axis(loan, axis, f"varied.{number}")
    if len({axis.path for axis in axes}) < len(axes):
        raise NotALoan.at(
            "varied.1.path", worded("This figure is varied already: take another one.")
        )
    if not results:
        raise NotALoan.at("results", worded("Choose what is to be seen."))
    for name in results:
        if name != ANSWER and not is_result(name):
            raise NotALoan.at("results", worded("“{name}” is no result of a loan.", name=name[:40]))
    many = prod(len(axis.values) for axis in axes)
    if many > MOST_POINTS:
        message = worded(
            "That is {many} points: at most {most} are worked at once.",
            many=f"{many:,}",
            most=f"{MOST_POINTS:,}",
        )
        raise NotALoan.at(f"varied.{len(axes) - 1}.typed", message)


def _check_axis(loan: Loan, axis: Axis, field: str) -> None:
    if axis.path not in loan.paths():
        raise NotALoan.at(
            f"{field}.path", worded("“{path}” is no figure of this loan.", path=axis.path[:40])
        )
    if figure_path(axis.path) == loan.asked:
        raise NotALoan.at(f"{field}.path", worded("This figure is asked for: vary another one."))
    if not axis.values:
        raise NotALoan.at(f"{field}.typed", worded("There is nothing to vary it over."))


def _one(
    loan: Loan,
    axes: Sequence[Axis],
    point: tuple[Decimal, ...],
    told: dict[str, list[str | None]],
    number: int,
) -> str | None:
    """One point the exact way; the reason where it has no answer."""
    look()
    moved = loan
    try:
        for axis, value in zip(axes, point, strict=True):
            moved = with_figure(moved, figure_path(axis.path), plain(value))
    except NotALoan as wrong:
        return wrong.errors[0].message
    reason, answer = answered(moved)
    if reason:
        return reason.say()
    for name, values in told.items():
        values[number] = answer if name == ANSWER else _told(moved, name, as_paid(moved, name))
    return None


def _told(loan: Loan, name: str, value: Decimal | None) -> str | None:
    if value is None:
        return None
    if name == "count":
        return plain(value)
    if name == "end_date":
        return date.fromordinal(int(value)).isoformat()
    if name in ("effective", "us_apr", "eu_aprc"):
        return percent_text(value)
    return plain(value, loan.decimals)


# Side by side


def _side_by_side(
    loan: Loan,
    axes: Sequence[Axis],
    points: list[tuple[Decimal, ...]],
    results: Sequence[str],
    told: dict[str, list[str | None]],
) -> set[int]:
    """The points worked as arrays; the places of those that are sure."""
    if not _is_regular(loan, axes, results):
        return set()
    level = _level(loan, axes, points)
    if level is None:
        return set()
    if loan.unknown == "rate":
        return _rates_side_by_side(loan, level, told[ANSWER])
    payment = to_whole(payments(level))
    columns = {ANSWER: payment, "payment": payment}
    if not set(results) <= {ANSWER, "payment"}:
        schedule = rolled(replace(level, payment=payment))
        columns |= {
            "total_paid": schedule.paid,
            "total_interest": schedule.paid + level.balance - level.principal,
            "final_payment": schedule.final,
        }
    sure = columns[ANSWER] >= 0
    for name in results:
        sure &= ~np.isnan(columns[name])
    places = set(np.flatnonzero(sure).tolist())
    decimals = loan.decimals
    for name in results:
        column = columns[name].tolist()
        values = told[name]
        for place in places:
            values[place] = _money(int(column[place]), decimals)
    return places


def _rates_side_by_side(loan: Loan, level: Level, values: list[str | None]) -> set[int]:
    """The rates found as arrays, as quoted, to ten decimals."""
    periodic = rates(level)
    percent = quoted_percents(periodic, loan.style)
    whole = to_whole(percent * 10.0**PERCENT_PLACES, near=_NEAR_RATE)
    places = set(np.flatnonzero(~np.isnan(whole)).tolist())
    for place in places:
        values[place] = _money(int(whole[place]), PERCENT_PLACES)
    return places


def _money(units: int, decimals: int) -> str:
    if not decimals:
        return str(units)
    digits = f"{units:0{decimals + 1}d}"
    return f"{digits[:-decimals]}.{digits[-decimals:]}"


def _is_regular(loan: Loan, axes: Sequence[Axis], results: Sequence[str]) -> bool:
    """Whether a loan is one that arrays can work: regular, rounded to the minor unit."""
    calendar, rounding = loan.calendar, loan.rounding
    if loan.unknown == "rate" and (set(results) != {ANSWER} or loan.style.scale != 1):
        return False
    return (
        loan.unknown in ("payment", "rate")
        and repaid_by(loan) == "level"
        and not loan.clauses
        and loan.purchase is None
        and floating(loan) is None
        and loan.style.convention.has_arrays
        and (calendar is None or (loan.day_count == "equal" and calendar.is_regular))
        and (rounding.payment, rounding.interest) == ("nearest", "nearest")
        and loan.step == loan.minor_unit
        and all(axis.path in _BY_ARRAYS for axis in axes)
        and all(name in _MONEY for name in results)
    )


def _level(loan: Loan, axes: Sequence[Axis], points: list[tuple[Decimal, ...]]) -> Level | None:
    """The points as arrays; None where one of them is not a loan, or has more decimals."""
    columns = list(zip(*points, strict=True))
    at = {axis.path: column for axis, column in zip(axes, columns, strict=True)}

    def stated(path: str, value: object) -> Sequence[Decimal]:
        return at.get(path) or [Decimal(str(value))] * len(points)

    minor = loan.minor_unit
    # What is asked for stands in as nothing.
    money = [
        stated("principal", loan.principal),
        stated("balance", loan.balance),
        stated("payment", 0 if loan.payment == UNKNOWN else loan.payment),
    ]
    percent = 0 if loan.rate.percent == UNKNOWN else loan.rate.percent
    counts, percents = stated("count", loan.count), stated("rate.percent", percent)
    if any(not is_whole(count) or not 1 <= count <= 5_000 for count in set(counts)):
        return None
    if any(value < 0 or value % minor for column in money for value in set(column)):
        return None
    if any(not 0 <= percent < 1_000 for percent in set(percents)):
        return None
    with precise():
        rate = {percent: periodic_rate(percent, loan.style) for percent in set(percents)}
        small = {
            percent: (each.numerator, each.denominator) if each.denominator < 10**9 else (0, 1)
            for percent, each in rate.items()
        }
        lent, left, each = ([float(value / minor) for value in column] for column in money)
    return Level(
        principal=np.array(lent),
        rate=np.array([float(rate[percent]) for percent in percents]),
        numerator=np.array([small[percent][0] for percent in percents], dtype=np.int64),
        denominator=np.array([small[percent][1] for percent in percents], dtype=np.int64),
        count=np.array([int(count) for count in counts], dtype=np.int64),
        balance=np.array(left),
        payment=np.array(each),
        in_advance=np.full(len(points), loan.timing == "in-advance"),
    )
