"""A quote as typed, one of its figures `?`, and its answer."""

from collections.abc import Callable
from decimal import Decimal
from typing import Any, Final

from pydantic import BaseModel, ConfigDict, Field

from zephyrant.texts import worded

from ..calendars import frequencies
from ..document.fields import UNKNOWN, Every
from ..document.limits import MOST_COMPOUNDINGS, MOST_PAYMENTS, MOST_PERCENT
from ..document.quote import outside
from ..errors import FieldError
from ..numbers.decimals import is_whole
from ..questions.equivalents import Equivalents, compounding_between, effective_of, percent_for
from ..quotes.convention import Convention
from ..quotes.styles import (
    CONVENTIONS,
    USUAL_COUNT,
    USUAL_TIME,
    Quoted,
    Style,
    YearDays,
)
from ..wording.marks import MARKS, MarksName
from .entries import ENTRIES, Entry
from .parsing import Reading
from .typed_amounts import read_percent
from .typed_times import read_count, read_time, time_of

_NAMES: Final = ("percent", "times", "effective")


#: What is typed of a quote.
QUOTE_ENTRIES: Final = {
    "percent": Entry("Percent as quoted", ENTRIES["percent"].help, may_be_asked=True),
    "times": Entry(
        "Times a year",
        "How many times a year interest is added. Such as 2, 12 or 365.",
        may_be_asked=True,
    ),
    "effective": Entry(
        "Effective percent a year",
        "What one year really adds, interest on interest with it. Such as 6.4508.",
        may_be_asked=True,
    ),
    "over": Entry(
        "Charged for",
        "The time simple interest or discount is charged for at once. Such as 90 days or 6 months.",
    ),
    "count": Entry(
        "Payments of the flat quote",
        "How many level payments a flat quote is over. Such as 60 or 5 years.",
    ),
}


class RateQuestion(BaseModel):
    """A quote as typed, one of its figures `?`.

    `times`: how often a year a nominal rate is compounded, a number as text; `continuous` in its
    place. `over`: the time a simple or a discount quote is charged for. `count` payments, one
    `every` so often, are those of a flat quote.
    """

    model_config = ConfigDict(frozen=True, defer_build=True, extra="forbid")

    marks: MarksName = "comma-point"
    percent: str = Field(default="", max_length=200)
    quoted: Quoted = "nominal"
    times: str = Field(default="12", max_length=200)
    over: str = Field(default=USUAL_TIME, max_length=200)
    year_days: YearDays = 365
    count: str = Field(default=str(USUAL_COUNT), max_length=200)
    every: Every = "month"
    effective: str = Field(default="?", max_length=200)


class RateAnswer(Equivalents):
    """A quote worked: how it was read, what was found, and the rate on every footing."""

    readings: dict[str, Reading]
    errors: tuple[FieldError, ...]


def _read(question: RateQuestion) -> dict[str, Reading]:
    marks = MARKS[question.marks]
    times = (
        Reading(value="continuous", text="continuous")
        if question.times.strip().lower() == "continuous"
        else read_count(question.times, marks, 1)
    )
    if not CONVENTIONS[question.quoted].is_compounded:
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
        message = (
            worded("One of the three is to be found: put ? in its place, and state the rest.")
            if CONVENTIONS[question.quoted].is_compounded
            else worded("One of the two is to be found: put ? in its place, and state the rest.")
        )
        return _wrong(asked[0] if asked else "", message)
    times, count = value["times"] or "", value["count"] or ""
    if times not in (UNKNOWN, "continuous", "") and not (
        is_whole(Decimal(times)) and 1 <= Decimal(times) <= MOST_COMPOUNDINGS
    ):
        return _wrong(
            "times",
            worded(
                "A whole number of times a year belongs here, from 1 to {most}.",
                most=MOST_COMPOUNDINGS,
            ),
        )
    if not count.isdecimal() or not 1 <= int(count) <= MOST_PAYMENTS:
        return _wrong(
            "count",
            worded(
                "The number of payments is between 1 and {most}.",
                most=MOST_PAYMENTS,
            ),
        )
    styles = {"effective": Style("effective", 1, 1)}
    if times != UNKNOWN:
        styles["percent"] = _style(question, value)
    for name in ("percent", "effective"):
        figure = value[name]
        if figure in (UNKNOWN, None):
            continue
        sentence = outside(Decimal(figure), styles[name]) if name in styles else None
        if Decimal(figure) >= MOST_PERCENT:
            sentence = worded("A rate is below {most} %.", most=MOST_PERCENT)
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
    found = _found(question, value)
    return RateAnswer(readings=readings, errors=(), **dict(found))


def _number(text: str | None) -> Decimal:
    return Decimal(text or "0")


def _beside(question: RateQuestion, value: dict[str, str | None]) -> tuple[Style, ...]:
    """The styles that need a time, a term or a year of 360 days, with those of the question."""

    def styles(is_one: Callable[[Convention], bool]) -> list[Style]:
        return [
            _style(question, value, quoted=quoted, year_days=365)
            for quoted, convention in CONVENTIONS.items()
            if is_one(convention)
        ]

    timed = styles(lambda convention: convention.is_timed)
    compounded = styles(lambda convention: convention.is_compounded)
    return (
        *timed,
        *styles(lambda convention: convention.is_of_a_loan),
        *(style._replace(year_days=360) for style in (*compounded, *timed)),
    )


def _found(question: RateQuestion, value: dict[str, str | None]) -> Equivalents:
    marks, style = MARKS[question.marks], _style(question, value)
    beside = _beside(question, value)
    if value["percent"] == UNKNOWN:
        return percent_for(_number(value["effective"]), style, beside, marks)
    percent = _number(value["percent"])
    if value["effective"] == UNKNOWN:
        return effective_of(percent, style, beside, marks)
    return compounding_between(percent, _number(value["effective"]), style, beside, marks)
