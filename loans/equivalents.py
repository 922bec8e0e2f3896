"""One quote on every footing, and the one figure of a quote that is missing.

A quote says that p percent, so compounded, is e percent effective a year. Any of the three may be
the unknown: p, e, or how many times a year it is compounded.
"""

from decimal import Decimal
from typing import Any, Final, Literal

from pydantic import BaseModel, ConfigDict, Field
from typing_extensions import TypedDict

from . import clock
from .document import MOST_COMPOUNDINGS, MOST_PERCENT, UNKNOWN, percent_bound
from .entry import Reading, read_count, read_percent
from .errors import FieldError
from .figures import DIGITS, plain, precise, told
from .words import MARKS, Marks, MarksName, Percent, Sentence

_PLACES: Final = 10
_NAMES: Final = ("percent", "times", "effective")
#: A compounding this close to a whole number of times a year is that one.
_WHOLE: Final = Decimal("0.005")


class RateQuestion(BaseModel):
    """A quote as typed, one of its three figures `?`.

    `times`: how often a year it is compounded, a number as text; `continuous` in its place.
    """

    model_config = ConfigDict(frozen=True, extra="forbid")

    marks: MarksName = "comma-point"
    percent: str = Field(default="", max_length=200)
    times: str = Field(default="12", max_length=200)
    effective: str = Field(default="?", max_length=200)


class Footing(TypedDict):
    """The rate in one style: what it is called, exact (30 digits) and as people print it."""

    style: Literal["effective", "nominal", "continuous", "periodic"]
    name: str
    exact: str
    printed: str


class RateStep(TypedDict):
    """One line of working."""

    formula: str
    numbers: str
    result: str


class RateAnswer(BaseModel):
    """A quote worked: how it was read, what was found, and the rate on every footing."""

    model_config = ConfigDict(frozen=True)

    readings: dict[str, Reading]
    errors: tuple[FieldError, ...]
    unknown: Literal["percent", "times", "effective"] | None = None
    value: str | None = None
    exact: str | None = None
    reason: str | None = None
    note: str | None = None
    footings: list[Footing] = []
    working: list[RateStep] = []


def effective_of(percent: Decimal, times: int | None) -> Decimal:
    """Effective percent a year of a nominal one compounded `times` a year (None: continuously)."""
    share = percent / 100
    if times is None:
        return 100 * (share.exp() - 1)
    return 100 * ((1 + share / times) ** times - 1)


def nominal_of(effective: Decimal, times: int | None) -> Decimal:
    """Nominal percent a year compounded `times` a year (None: continuously) of an effective one."""
    force = (1 + effective / 100).ln()
    if times is None:
        return 100 * force
    return 100 * times * ((force / times).exp() - 1)


def times_between(percent: Decimal, effective: Decimal) -> Decimal | None:
    """How often a year `percent` is compounded to become `effective`; a real number above zero.

    The effective rate rises with the compounding, from nothing towards e^p - 1: there is one
    answer below that and none above. None also where either rate is not above zero.
    """
    if percent <= 0 or effective <= 0 or effective >= effective_of(percent, None):
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


def footings_of(effective: Decimal, marks: Marks) -> list[Footing]:
    """An effective percent a year in every style of the document."""

    def footing(
        style: Literal["effective", "nominal", "continuous", "periodic"], name: str, rate: Decimal
    ) -> Footing:
        return {
            "style": style,
            "name": name,
            "exact": marks.write(plain(told(rate))),
            "printed": marks.percent(rate, 4, 4),
        }

    periods = clock.PERIODS.values()
    return [
        footing("effective", "a year", effective),
        *(
            footing("nominal", f"compounded {each.often}", nominal_of(effective, each.a_year))
            for each in periods
        ),
        footing("continuous", "compounded continuously", nominal_of(effective, None)),
        *(
            footing(
                "periodic",
                f"for each {each.noun}",
                nominal_of(effective, each.a_year) / each.a_year,
            )
            for each in periods
        ),
    ]


def _read(question: RateQuestion) -> dict[str, Reading]:
    marks = MARKS[question.marks]
    times = (
        Reading(value="continuous", text="continuous")
        if question.times.strip().lower() == "continuous"
        else read_count(question.times, marks, 1)
    )
    return {
        "percent": read_percent(question.percent, marks),
        "times": times,
        "effective": read_percent(question.effective, marks),
    }


def _wrong(field: str, message: str) -> list[FieldError]:
    return [FieldError(field=field, message=message)]


def _mistakes(value: dict[str, str | None]) -> list[FieldError]:
    """What cannot be: figures out of their bounds, none or several unknown."""
    asked = [name for name in _NAMES if value[name] == UNKNOWN]
    if len(asked) != 1:
        message = "One of the three is to be found: put ? in its place, and state the others."
        return _wrong(asked[0] if asked else "", message)
    times = value["times"] or ""
    if times not in (UNKNOWN, "continuous", "") and not (
        Decimal(times) % 1 == 0 and 1 <= Decimal(times) <= MOST_COMPOUNDINGS
    ):
        return _wrong(
            "times", f"A whole number of times a year belongs here, from 1 to {MOST_COMPOUNDINGS}."
        )
    nominal = percent_bound("nominal", int(times)) if times.isdecimal() else None
    least = {"effective": percent_bound("effective", 1), "percent": nominal}
    for name in ("percent", "effective"):
        figure = value[name]
        if figure in (UNKNOWN, None):
            continue
        bound = least[name]
        if bound is not None and Decimal(figure) <= bound:
            message = f"Nothing is left of one lent at this rate: it must be above {bound} %."
            return _wrong(name, message)
        if Decimal(figure) >= MOST_PERCENT:
            return _wrong(name, f"A rate is below {MOST_PERCENT} %.")
    return []


def answer(question: RateQuestion) -> RateAnswer:
    """The question worked; what is wrong is told at its field, no answer with its reason."""
    readings = _read(question)
    errors = [
        FieldError(field=name, message=reading.error)
        for name, reading in readings.items()
        if reading.error
    ]
    value = {name: reading.value for name, reading in readings.items()}
    errors = errors or _mistakes(value)
    if errors:
        return RateAnswer(readings=readings, errors=tuple(errors))
    with precise(DIGITS + 20):
        return RateAnswer(readings=readings, errors=(), **_found(value, MARKS[question.marks]))


def _number(text: str | None) -> Decimal:
    return Decimal(text or "0")


def _found(value: dict[str, str | None], marks: Marks) -> dict[str, Any]:
    if value["times"] == UNKNOWN:
        return _times_found(_number(value["percent"]), _number(value["effective"]), marks)
    times = None if value["times"] == "continuous" else int(_number(value["times"]))
    if value["effective"] == UNKNOWN:
        percent = _number(value["percent"])
        effective = effective_of(percent, times)
        found, unknown = effective, "effective"
    else:
        effective = _number(value["effective"])
        percent = nominal_of(effective, times)
        found, unknown = percent, "percent"
    return {
        "unknown": unknown,
        "value": marks.number(found, _PLACES, 2),
        "exact": marks.write(plain(told(found))),
        "footings": footings_of(effective, marks),
        "working": [_step(percent, times, effective, unknown, marks)],
    }


def _step(
    percent: Decimal, times: int | None, effective: Decimal, unknown: str, marks: Marks
) -> RateStep:
    p, e = marks.percent(percent, _PLACES), marks.percent(effective, _PLACES)
    if times is None:
        if unknown == "effective":
            return {"formula": "e = exp(p) − 1", "numbers": f"exp({p}) − 1", "result": e}
        return {"formula": "p = ln(1 + e)", "numbers": f"ln(1 + {e})", "result": p}
    if unknown == "effective":
        return {
            "formula": "e = (1 + p/m)^m − 1",
            "numbers": f"(1 + {p} / {times})^{times} − 1",
            "result": e,
        }
    return {
        "formula": "p = m · ((1 + e)^(1/m) − 1)",
        "numbers": f"{times} × ((1 + {e})^(1/{times}) − 1)",
        "result": p,
    }


def _times_found(percent: Decimal, effective: Decimal, marks: Marks) -> dict[str, Any]:
    times = times_between(percent, effective)
    if times is None:
        most = effective_of(percent, None)
        reason = Sentence(
            "No compounding turns {percent} into {effective}: the oftener it is compounded the "
            "more it becomes, but never {most} or more.",
            percent=Percent(percent, _PLACES, 2),
            effective=Percent(effective, _PLACES, 2),
            most=Percent(most),
        )
        if percent <= 0 or effective <= 0:
            reason = Sentence("Only a rate above zero tells its compounding by what it becomes.")
        return {"unknown": "times", "reason": reason.say(marks)}
    nearest = max(1, int(times.to_integral_value()))
    becomes = effective_of(percent, nearest)
    close = abs(times - nearest) < _WHOLE * nearest
    words = clock.compounded(nearest)
    note = Sentence(
        "{percent} {words} is {becomes} effective a year.",
        percent=Percent(percent, _PLACES, 2),
        words=words,
        becomes=Percent(becomes),
    )
    return {
        "unknown": "times",
        "value": marks.number(Decimal(nearest) if close else times, 4),
        "exact": marks.write(plain(told(times))),
        "note": note.say(marks),
        "footings": footings_of(effective, marks),
        "working": [
            {
                "formula": "m · ln(1 + p/m) = ln(1 + e), solved for m: the left side rises with m",
                "numbers": f"p = {marks.percent(percent, _PLACES)}, "
                f"e = {marks.percent(effective, _PLACES)}",
                "result": f"m = {marks.number(times, _PLACES)}",
            }
        ],
    }
