"""One quote on every footing, and the one figure of a quote that is missing.

A quote says that p percent, in its style, is e percent effective a year. Either may be the unknown,
and of a nominal quote how many times a year it is compounded.
"""

from decimal import Decimal
from typing import Any, Final, Literal

from pydantic import BaseModel, ConfigDict, Field
from typing_extensions import TypedDict

from ..calendars import frequencies
from ..document.fields import MOST_COMPOUNDINGS, MOST_PAYMENTS, MOST_PERCENT, UNKNOWN, Every
from ..document.parts import outside
from ..errors import FieldError
from ..numbers.decimals import DIGITS, plain, precise, told
from ..quotes.conversion import as_decimal, growth_of, percent_of
from ..quotes.formulas import growth_formula, quote_formula
from ..quotes.styles import TIMED, Quoted, Style, YearDays
from ..statement.parsing import Reading, read_count, read_percent, read_time, time_of
from ..wording.marks import MARKS, Marks, MarksName, Percent, Sentence

_PLACES: Final = 10
_NAMES: Final = ("percent", "times", "effective")
_TIME: Final = "1 year"
_COUNT: Final = "60"
#: A compounding this close to a whole number of times a year is that one.
_WHOLE: Final = Decimal("0.005")


class RateQuestion(BaseModel):
    """A quote as typed, one of its figures `?`.

    `times`: how often a year a nominal rate is compounded, a number as text; `continuous` in its
    place. `over`: the time a simple or a discount quote is charged for. `count` payments, one
    `every` so often, are those of a flat quote.
    """

    model_config = ConfigDict(frozen=True, extra="forbid")

    marks: MarksName = "comma-point"
    percent: str = Field(default="", max_length=200)
    quoted: Quoted = "nominal"
    times: str = Field(default="12", max_length=200)
    over: str = Field(default=_TIME, max_length=200)
    year_days: YearDays = 365
    count: str = Field(default=_COUNT, max_length=200)
    every: Every = "month"
    effective: str = Field(default="?", max_length=200)


Group = Literal["effective", "nominal", "continuous", "periodic", "timed", "flat", "of-360-days"]


class Footing(TypedDict):
    """The rate in one style: what it is called, exact (30 digits) and as people print it."""

    style: Group
    name: str
    exact: str
    printed: str


class RateStep(TypedDict):
    """One line of working."""

    formula: str
    numbers: str
    result: str


class RateAnswer(BaseModel):
    """A quote worked: how it was read, what was found, and the rate on every footing.

    `quote` says in words how the percent is quoted.
    """

    model_config = ConfigDict(frozen=True)

    readings: dict[str, Reading]
    errors: tuple[FieldError, ...]
    unknown: Literal["percent", "times", "effective"] | None = None
    quote: str | None = None
    value: str | None = None
    exact: str | None = None
    reason: str | None = None
    note: str | None = None
    footings: list[Footing] = []
    working: list[RateStep] = []


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
    for _ in range(4 * DIGITS):
        middle = (low + high) / 2
        low, high = (middle, high) if falls_short(middle) else (low, middle)
    return (low + high) / 2


def footings_of(growth: Decimal, beside: tuple[Style, ...], marks: Marks) -> list[Footing]:
    """A growth a year in every style of the document, those with a time or a term as `beside`."""

    def footing(name: str, style: Style) -> Footing:
        rate = percent_of(growth, style)
        return {
            "style": _group(style),
            "name": name,
            "exact": marks.write(plain(told(rate))),
            "printed": marks.percent(rate, 4, 4),
        }

    periods = frequencies.PERIODS.items()
    return [
        footing("a year", Style("effective", 1, 1)),
        *(footing(f"compounded {each.often}", Style("nominal", name, 1)) for name, each in periods),
        footing("compounded continuously", Style("continuous", 1, 1)),
        *(footing(f"for each {each.noun}", Style("periodic", 1, name)) for name, each in periods),
        *(footing(style.in_words().removeprefix("a year, "), style) for style in beside),
    ]


def _group(style: Style) -> Group:
    if style.scale != 1:
        return "of-360-days"
    if style.quoted == "simple" or style.quoted == "discount":  # noqa: PLR1714  (narrows the type)
        return "timed"
    return style.quoted


def _read(question: RateQuestion) -> dict[str, Reading]:
    marks = MARKS[question.marks]
    times = (
        Reading(value="continuous", text="continuous")
        if question.times.strip().lower() == "continuous"
        else read_count(question.times, marks, 1)
    )
    if question.quoted != "nominal":
        times = Reading(value="1")
    return {
        "percent": read_percent(question.percent, marks),
        "times": times,
        "over": read_time(question.over, marks),
        "count": read_count(question.count, marks, question.every),
        "effective": read_percent(question.effective, marks),
    }


def _wrong(field: str, message: str) -> list[FieldError]:
    return [FieldError(field=field, message=message)]


def _mistakes(question: RateQuestion, value: dict[str, str | None]) -> list[FieldError]:
    """What cannot be: figures out of their bounds, none or several unknown."""
    asked = [name for name in _NAMES if value[name] == UNKNOWN]
    if len(asked) != 1:
        which = "three" if question.quoted == "nominal" else "two"
        message = f"One of the {which} is to be found: put ? in its place, and state the rest."
        return _wrong(asked[0] if asked else "", message)
    times, count = value["times"] or "", value["count"] or ""
    if times not in (UNKNOWN, "continuous", "") and not (
        Decimal(times) % 1 == 0 and 1 <= Decimal(times) <= MOST_COMPOUNDINGS
    ):
        return _wrong(
            "times", f"A whole number of times a year belongs here, from 1 to {MOST_COMPOUNDINGS}."
        )
    if not count.isdecimal() or not 1 <= int(count) <= MOST_PAYMENTS:
        return _wrong("count", f"The number of payments is between 1 and {MOST_PAYMENTS}.")
    styles = {"effective": Style("effective", 1, 1)}
    if times != UNKNOWN:
        styles["percent"] = _style(question, value)
    for name in ("percent", "effective"):
        figure = value[name]
        if figure in (UNKNOWN, None):
            continue
        sentence = outside(Decimal(figure), styles[name]) if name in styles else None
        if Decimal(figure) >= MOST_PERCENT:
            sentence = f"A rate is below {MOST_PERCENT} %."
        if sentence:
            return _wrong(name, sentence)
    return []


def _style(question: RateQuestion, value: dict[str, str | None], **changed: Any) -> Style:  # noqa: ANN401
    times = value["times"]
    compounding: frequencies.Compounding = "continuous"
    if times not in ("continuous", UNKNOWN):
        compounding = int(_number(times))
    style = Style(
        quoted=question.quoted,
        compounding=compounding,
        every=question.every,
        over=time_of(Reading(value=value["over"])),
        year_days=question.year_days,
        payments=int(_number(value["count"])),
    )
    return style._replace(**changed)


def answer(question: RateQuestion) -> RateAnswer:
    """The question worked; what is wrong is told at its field, no answer with its reason."""
    readings = _read(question)
    errors = [
        FieldError(field=name, message=reading.error)
        for name, reading in readings.items()
        if reading.error
    ]
    value = {name: reading.value for name, reading in readings.items()}
    errors = errors or _mistakes(question, value)
    if errors:
        return RateAnswer(readings=readings, errors=tuple(errors))
    with precise(DIGITS + 20):
        return RateAnswer(readings=readings, errors=(), **_found(question, value))


def _number(text: str | None) -> Decimal:
    return Decimal(text or "0")


def _beside(question: RateQuestion, value: dict[str, str | None]) -> tuple[Style, ...]:
    """The styles that need a time, a term or a year of 360 days, with those of the question."""
    timed = [_style(question, value, quoted=quoted, year_days=365) for quoted in TIMED]
    nominal = _style(question, value, quoted="nominal", year_days=365)
    return (
        *timed,
        _style(question, value, quoted="flat"),
        *(style._replace(year_days=360) for style in (nominal, *timed)),
    )


def _found(question: RateQuestion, value: dict[str, str | None]) -> dict[str, Any]:
    marks = MARKS[question.marks]
    if value["times"] == UNKNOWN:
        return _times_found(question, value)
    style = _style(question, value)
    if value["effective"] == UNKNOWN:
        percent = _number(value["percent"])
        growth = growth_of(percent, style)
        found, unknown = 100 * (growth - 1), "effective"
    else:
        growth = 1 + _number(value["effective"]) / 100
        found, unknown = percent_of(growth, style), "percent"
        percent = found
    return {
        "unknown": unknown,
        "quote": style.in_words(),
        "value": marks.number(found, _PLACES, 2),
        "exact": marks.write(plain(told(found))),
        "footings": footings_of(growth, _beside(question, value), marks),
        "working": _steps(style, percent, 100 * (growth - 1), unknown, marks),
    }


def _steps(
    style: Style, percent: Decimal, effective: Decimal, unknown: str, marks: Marks
) -> list[RateStep]:
    """Straight, or by the rate of one payment where the style speaks of payments."""
    p, e = marks.percent(percent, _PLACES), marks.percent(effective, _PLACES)
    if style.quoted not in ("flat", "periodic"):
        formula = growth_formula(style)
        if unknown == "effective":
            return [_step(formula.forward, formula.numbers.format(p=p), e)]
        return [_step(formula.back, f"e = {e}", p)]
    formula, often = quote_formula(style), frequencies.a_year(style.every)
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


def _times_found(question: RateQuestion, value: dict[str, str | None]) -> dict[str, Any]:
    marks = MARKS[question.marks]
    percent, effective = _number(value["percent"]), _number(value["effective"])
    style = _style(question, value)
    borne = percent * as_decimal(style.scale)
    times = times_between(borne, effective)
    if times is None:
        return {"unknown": "times", "reason": _no_times(style, percent, effective).say(marks)}
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
    return {
        "unknown": "times",
        "quote": "a year, nominal" + (", year of 360 days" if style.scale != 1 else ""),
        "value": marks.number(Decimal(nearest) if close else times, 4),
        "exact": marks.write(plain(told(times))),
        "note": note.say(marks),
        "footings": footings_of(1 + effective / 100, _beside(question, value), marks),
        "working": [
            _step(
                "m · ln(1 + p/m) = ln(1 + e), solved for m: the left side rises with m",
                f"p = {p}{' × 365/360' if style.scale != 1 else ''}, e = {e}",
                f"m = {marks.number(times, _PLACES)}",
            )
        ],
    }


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
