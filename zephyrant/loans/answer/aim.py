"""The aim of a loan sought, told in words, and put in its place."""

from decimal import Decimal
from typing import cast

from typing_extensions import TypedDict

from zephyrant.texts import for_each_reader, worded

from ..document.aim import Aim
from ..document.figure_path import FigurePath
from ..document.loan import Loan
from ..document.named import result_named
from ..document.paths import with_figure
from ..document.reading import write
from ..document.telling import in_sentence
from ..errors import NotALoan
from ..numbers.decimals import PERCENT_PLACES, plain, precise, to_step
from ..roots.narrowing import Point
from ..wording.marks import PLAIN, Marks, Money, Number, Percent, Sentence
from .aim_search import AimSearch, cut_to
from .results import as_paid


class AimResult(TypedDict):
    """What came of an aim. `value`: the figure as it would be stated, with which the loan is then
    worked; `exact`: unrounded; `target`: what
    the result is to be; `solutions`: every one found, ascending. Without one `says` tells
    the nearest result that can be reached, `nearest` at which value of the figure."""

    figure: str
    by: str
    target: str
    value: str | None
    exact: str | None
    solutions: tuple[str, ...]
    nearest: str | None
    says: str


def reach(loan: Loan, aim: Aim, marks: Marks) -> AimResult:
    """The aim of a loan sought."""
    search = AimSearch(loan, aim)
    target = str(write(loan)["aim"]["is"]) if loan.aim else plain(aim.number)
    with precise():
        reached, points = search.solutions()
        if not reached:
            nearest = search.nearest(points)
            told = None if nearest is None else plain(_as_stated(loan, aim.path, nearest.at))
            return {
                "figure": aim.figure,
                "by": aim.by,
                "target": target,
                "value": None,
                "exact": None,
                "solutions": (),
                "nearest": told,
                "says": _unreached(loan, aim, nearest).say(marks),
            }
        standing = search.standing
        meant = reached[0]
        if standing is not None:
            meant = min(reached, key=lambda each: abs(each - standing))
    value = _as_stated(loan, aim.path, meant)
    return {
        "figure": aim.figure,
        "by": aim.by,
        "target": target,
        "value": f"{value:f}",
        "exact": plain(cut_to(meant, search.digits)),
        "solutions": tuple(plain(cut_to(each, search.digits)) for each in reached),
        "nearest": None,
        "says": _reached(loan, aim, value, len(reached)).say(marks),
    }


def aimed(loan: Loan) -> Loan:
    """The loan with the figure that reaches its aim in its place; as it is where it has no aim.

    Raises `NotALoan` where nothing reaches it.
    """
    if loan.aim is None:
        return loan
    told = _reached_once(loan)
    if told["value"] is None:
        raise NotALoan.at("aim.is", told["says"])
    return with_figure(loan, loan.aim.path, told["value"])


def nearest_to_aim(loan: Loan) -> Loan:
    """The loan with the figure that reaches its aim or comes nearest to it, to look at."""
    if loan.aim is None:
        return loan
    told = _reached_once(loan)
    value = told["value"] or told["nearest"]
    return (
        loan.model_copy(update={"aim": None})
        if value is None
        else with_figure(loan, loan.aim.path, value)
    )


@for_each_reader(maxsize=16)
def _reached_once(loan: Loan) -> AimResult:
    return reach(loan, cast("Aim", loan.aim), PLAIN)


def _as_stated(loan: Loan, path: FigurePath, value: Decimal) -> Decimal:
    """A figure as one would state it: money to the minor unit, a percent to ten decimals."""
    match path.kind:
        case "count":
            return value.to_integral_value()
        case "percent":
            return round(value, PERCENT_PLACES)
    return to_step(value, loan.minor_unit, "nearest")


_Told = Money | Number | Percent | str


def _told_apart(target: Decimal, gap: Decimal) -> tuple[Number, Number]:
    """Two figures by a gap apart, with the digits that show it."""
    with precise():
        places = max(2, 1 - gap.adjusted()) if gap else 2
        return Number(target, places), Number(target + gap, places)


def _reached(loan: Loan, aim: Aim, value: Decimal, many: int) -> Sentence:
    named, decimals = result_named(aim.figure), loan.decimals
    text = (
        worded("With {value} as the {moves}, the loan has ")
        + named.with_article
        + worded(" of {target}.")
    )
    if many > 1:
        text += worded(" {many} values do that; the nearest to what stood there is told.")
    target = in_sentence(named.kind, aim.number, decimals)
    paid = as_paid(with_figure(loan, aim.path, f"{value:f}"), aim.figure)
    comes = target if paid is None else in_sentence(named.kind, paid, decimals)
    if _said(comes) != _said(target):
        text += worded(" As it will be paid that comes to {comes}.")
    return Sentence(
        text,
        value=in_sentence(aim.path.kind, value, decimals),
        moves=aim.path.named.title,
        target=target,
        many=Number(many),
        comes=comes,
    )


def _said(words: _Told) -> str:
    return words if isinstance(words, str) else words.say(PLAIN)


def _unreached(loan: Loan, aim: Aim, nearest: Point | None) -> Sentence:
    named, moves, decimals = result_named(aim.figure), aim.path.named.title, loan.decimals
    target: _Told = in_sentence(named.kind, aim.number, decimals)
    text = worded("No {moves} gives the loan ") + named.with_article + worded(" of {target}")
    if nearest is None:
        text += worded(": with none that was tried has it an answer.")
        return Sentence(text, moves=moves, target=target)
    reached: _Told = in_sentence(named.kind, aim.number + nearest.value, decimals)
    if _said(reached) == _said(target):
        # So near that as many digits as usual do not tell them apart.
        target, reached = _told_apart(aim.number, nearest.value)
    return Sentence(
        text + worded("; the nearest is {result}, with {at}."),
        moves=moves,
        target=target,
        result=reached,
        at=in_sentence(aim.path.kind, _as_stated(loan, aim.path, nearest.at), decimals),
    )
