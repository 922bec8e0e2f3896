"""One quote on every footing, and the one figure of a quote that is missing.

A quote says that p percent, in its style, is e percent effective a year. Either may be the unknown,
and of a nominal quote how many times a year it is compounded.
"""

from decimal import Decimal
from typing import Final, Literal

from pydantic import BaseModel, ConfigDict
from typing_extensions import TypedDict

from zephyrant.texts import worded

from ..calendars import frequencies
from ..numbers.decimals import DIGITS, plain, precise, significant
from ..numbers.ratios import as_decimal
from ..quotes.conversion import growth_of, percent_of
from ..quotes.styles import OF_360_DAYS, Style
from ..roots.narrowing import halved
from ..wording.marks import Marks, Percent, Sentence

_PLACES: Final = 10
#: A compounding this close to a whole number of times a year is that one.
_WHOLE: Final = Decimal("0.005")


class Footing(TypedDict):
    """The rate in one style: what those of its kind stand under, what it is called, exact (30
    digits) and as people print it."""

    group: str
    name: str
    exact: str
    printed: str


class RateStep(TypedDict):
    """One line of working."""

    formula: str
    numbers: str
    result: str


class Equivalents(BaseModel):
    """The missing figure of a quote, told and exact (30 digits), or the `reason` there is none; and
    the rate on every footing.

    `about` says what `value` is, `unit` what is said after it.
    """

    model_config = ConfigDict(frozen=True, defer_build=True)

    unknown: Literal["percent", "times", "effective"] | None = None
    about: str = ""
    unit: str = ""
    value: str | None = None
    exact: str | None = None
    reason: str | None = None
    note: str | None = None
    footings: list[Footing] = []
    working: list[RateStep] = []


def effective_of(
    percent: Decimal, style: Style, beside: tuple[Style, ...], marks: Marks
) -> Equivalents:
    """What a quoted percent is effective a year, and on every footing."""
    with precise(DIGITS + 20):
        growth = growth_of(percent, style)
        found = 100 * (growth - 1)
        return Equivalents(
            unknown="effective",
            about=worded("The rate is"),
            unit=worded("% effective a year"),
            value=marks.number(found, _PLACES, 2),
            exact=marks.write(plain(significant(found))),
            footings=footings_of(growth, beside, marks),
            working=_steps(style, percent, found, "effective", marks),
        )


def percent_for(
    effective: Decimal, style: Style, beside: tuple[Style, ...], marks: Marks
) -> Equivalents:
    """What an effective rate a year is as a percent quoted so, and on every footing."""
    with precise(DIGITS + 20):
        growth = 1 + effective / 100
        found = percent_of(growth, style)
        return Equivalents(
            unknown="percent",
            about=worded("The rate is"),
            unit=f"% {style.in_words()}",
            value=marks.number(found, _PLACES, 2),
            exact=marks.write(plain(significant(found))),
            footings=footings_of(growth, beside, marks),
            working=_steps(style, found, effective, "percent", marks),
        )


def times_between(percent: Decimal, effective: Decimal) -> Decimal | None:
    """How often a year `percent` is compounded to become `effective`; a real number above zero.

    The effective rate rises with the compounding, from nothing towards e^p - 1: there is one
    answer below that and none above. None also where either rate is not above zero.
    """
    if percent <= 0 or effective <= 0 or (1 + effective / 100).ln() >= percent / 100:
        return None
    share, force = percent / 100, (1 + effective / 100).ln()

    def falls_short(times: Decimal) -> bool:
        return times * (1 + share / times).ln() < force

    low = high = Decimal(1)
    while falls_short(high):
        high *= 2
        if high > 10**12:
            return None
    while not falls_short(low):
        low /= 2
        if low < Decimal(10) ** -12:
            return None
    low, high = halved(low, high, falls_short, 4 * DIGITS)
    return (low + high) / 2


def footings_of(growth: Decimal, beside: tuple[Style, ...], marks: Marks) -> list[Footing]:
    """A growth a year in every style of the document, those with a time or a term as `beside`."""

    def footing(name: str, style: Style) -> Footing:
        rate = percent_of(growth, style)
        return {
            "group": _group(style),
            "name": name,
            "exact": marks.write(plain(significant(rate))),
            "printed": marks.percent(rate, 4, 4),
        }

    periods = frequencies.PERIODS
    return [
        footing(worded("a year"), Style("effective", 1, 1)),
        *(footing(frequencies.compounded(name), Style("nominal", name, 1)) for name in periods),
        footing(worded(frequencies.CONTINUOUSLY), Style("continuous", 1, 1)),
        *(
            footing(worded("for each {noun}", noun=each.noun), Style("periodic", 1, name))
            for name, each in periods.items()
        ),
        *(footing(style.in_words().removeprefix("a year, "), style) for style in beside),
    ]


def _group(style: Style) -> str:
    return worded(style.convention.title if style.scale == 1 else OF_360_DAYS.capitalize())


def _steps(
    style: Style, percent: Decimal, effective: Decimal, unknown: str, marks: Marks
) -> list[RateStep]:
    """Straight, or by the rate of one payment where the style speaks of payments."""
    p, e = marks.percent(percent, _PLACES), marks.percent(effective, _PLACES)
    formula = style.convention.yearly_formula(style)
    if formula is not None:
        if unknown == "effective":
            return [_step(formula.forward, formula.numbers.format(p=p), e)]
        return [_step(formula.back, f"e = {e}", p)]
    formula, often = style.convention.formula(style), frequencies.a_year(style.every)
    rate = marks.percent(100 * (((1 + effective / 100).ln() / often).exp() - 1), _PLACES)
    if unknown == "effective":
        return [
            _step(formula.forward, formula.numbers.format(p=p), f"i = {rate}"),
            _step("e = (1 + i)^f − 1", f"(1 + {rate})^{often} − 1", e),
        ]
    return [
        _step("i = (1 + e)^(1/f) − 1", f"(1 + {e})^(1/{often}) − 1", f"i = {rate}"),
        _step(formula.back, f"i = {rate}", p),
    ]


def _step(formula: str, numbers: str, result: str) -> RateStep:
    return {"formula": formula, "numbers": numbers, "result": result}


def compounding_between(
    percent: Decimal, effective: Decimal, style: Style, beside: tuple[Style, ...], marks: Marks
) -> Equivalents:
    """How often a year a nominal percent is compounded to become an effective one."""
    with precise(DIGITS + 20):
        times = times_between(percent * as_decimal(style.scale), effective)
        if times is None:
            reason = _no_times(style, percent, effective).say(marks)
            return Equivalents(unknown="times", reason=reason)
        nearest = max(1, int(times.to_integral_value()))
        named = style._replace(compounding=nearest)
        note = Sentence(
            "{percent} {words} is {becomes} effective a year.",
            percent=Percent(percent, _PLACES, 2),
            words=named.in_words(),
            becomes=Percent(100 * (growth_of(percent, named) - 1)),
        )
        close = abs(times - nearest) < _WHOLE * nearest
        p, e = marks.percent(percent, _PLACES), marks.percent(effective, _PLACES)
        return Equivalents(
            unknown="times",
            about=worded("It is compounded"),
            unit=worded("times a year"),
            value=marks.number(Decimal(nearest) if close else times, 4),
            exact=marks.write(plain(significant(times))),
            note=note.say(marks),
            footings=footings_of(1 + effective / 100, beside, marks),
            working=[
                _step(
                    worded("m · ln(1 + p/m) = ln(1 + e), solved for m: the left side rises with m"),
                    f"p = {p}{' × 365/360' if style.scale != 1 else ''}, e = {e}",
                    f"m = {marks.number(times, _PLACES)}",
                )
            ],
        )


def _no_times(style: Style, percent: Decimal, effective: Decimal) -> Sentence:
    if percent <= 0 or effective <= 0:
        return Sentence("Only a rate above zero tells its compounding by what it becomes.")
    return Sentence(
        "No compounding turns {percent} nominal into {effective} effective: the oftener it is "
        "compounded the more it becomes, but never {most} or more.",
        percent=Percent(percent, _PLACES, 2),
        effective=Percent(effective, _PLACES, 2),
        most=Percent(100 * (growth_of(percent, style) - 1)),
    )
