"""Several quotes side by side: on one footing, ranked, and in money on one loan.

The footing is the effective rate a year. A basis point is a hundredth of a percent (common
practice).
"""

from collections.abc import Iterable, Mapping
from decimal import Decimal
from typing import Any, Final

from typing_extensions import TypedDict

from zephyrant.texts import worded

from ..answer.answer import Answer
from ..answer.solving import solve
from ..document.reading import check
from ..errors import NotALoan
from ..numbers.decimals import DIGITS, plain, precise, significant
from ..wording.marks import Marks, Number, Sentence

#: Decimals a rate is handed on with to the loan it is tried on.
_HANDED_ON: Final = 30


class InMoney(TypedDict):
    """A rate on the loan that was chosen; `more_interest` than at the cheapest quote."""

    payment: str
    interest: str
    more_interest: str


class Standing(TypedDict):
    """Where a quote stands: `effective` in percent a year to 30 digits, `printed` as people print
    it, `basis_points` above the cheapest, `place` from 0 (the cheapest) to 1 (the dearest)."""

    effective: str
    printed: str
    rank: int
    basis_points: str
    place: float


def ranked(growths: Iterable[Decimal], marks: Marks) -> dict[Decimal, Standing]:
    """Where each growth a year stands among the others; equal ones share a rank."""
    ordered = sorted(growths)
    if not ordered:
        return {}
    least, most = ordered[0], ordered[-1]
    with precise(DIGITS + 20):
        return {
            growth: {
                "effective": marks.write(plain(significant(100 * (growth - 1)))),
                "printed": marks.percent(100 * (growth - 1), 4, 4),
                "rank": ordered.index(growth) + 1,
                "basis_points": marks.number(10_000 * (growth - least), 2, 2),
                "place": float((growth - least) / (most - least)) if most > least else 0.0,
            }
            for growth in ordered
        }


def at_growth(content: Mapping[str, Any], growth: Decimal) -> dict[str, Any]:
    """The content of a document with a growth a year as its rate."""
    with precise(80):
        effective = round(100 * (growth - 1), _HANDED_ON)
    return {**content, "rate": {"percent": effective, "quoted": "effective"}}


def tried(content: Mapping[str, Any], growth: Decimal) -> Answer | None:
    """A loan at a growth a year; none where that is beyond what a document states."""
    try:
        return solve(check(at_growth(content, growth)))
    except NotALoan:
        return None


def in_money(answer: Answer | None, cheapest: Answer, marks: Marks) -> InMoney | None:
    """What a rate costs on a loan, against the cheapest one."""
    if answer is None or answer.totals is None or cheapest.totals is None:
        return None
    interest = answer.totals["interest"]
    more = Decimal(interest) - Decimal(cheapest.totals["interest"])
    return {
        "payment": marks.write(answer.value or ""),
        "interest": marks.write(interest),
        "more_interest": marks.write(f"{more:f}"),
    }


def cheapest_in_words(named: Iterable[tuple[str, Standing]], marks: Marks) -> str | None:
    """Which quote is the cheapest, and how far the dearest lies above it."""
    ordered = sorted(named, key=lambda each: each[1]["rank"])
    if len(ordered) < 2:
        return None
    (cheap, least), (dear, most) = ordered[0], ordered[-1]
    if not most["place"]:
        return worded("All of them come to the same effective rate.")
    sentence = Sentence(
        "{cheap} is the cheapest at {least} effective a year; {dear} is {gap} basis points dearer, "
        "the dearest of {count}.",
        cheap=cheap[0].upper() + cheap[1:],
        least=least["printed"],
        dear=dear,
        gap=most["basis_points"],
        count=Number(len(ordered)),
    )
    return sentence.say(marks)
