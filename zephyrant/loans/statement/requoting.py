"""Changing a quote or a clock in place: what may be kept, and what each choice comes to."""

from decimal import Decimal
from fractions import Fraction
from typing import Final, Literal

from pydantic import BaseModel, ConfigDict, Field

from zephyrant.texts import Worded, worded

from ..calendars import frequencies
from ..document.fields import UNKNOWN, CompoundingField
from ..document.limits import MOST_PERCENT
from ..document.quote import outside
from ..numbers.decimals import precise
from ..numbers.ratios import as_decimal
from ..quotes.conversion import footings, periodic_rate, quoted_percent
from ..quotes.styles import CONVENTIONS, Quoted, Style, YearDays
from ..wording.marks import MARKS, Percent, Sentence
from .reading import readings, style_of
from .statement import Statement

_PLACES = 10


Kept = Literal["number", "rate", "term", "count", "quote"]
#: What each way is called.
_KEEPS: Final[Worded[Kept]] = Worded(
    {
        "number": "Keep the number",
        "rate": "Keep the rate",
        "term": "Keep the term",
        "count": "Keep the count",
        "quote": "Keep the compounding, too",
    }
)


class Way(BaseModel):
    """One way to make a change: what it keeps, and what that is called; the statement it leads to,
    and that in words."""

    model_config = ConfigDict(frozen=True, defer_build=True)

    keeps: Kept
    title: str
    statement: Statement
    says: str


def _way(keeps: Kept, statement: Statement, says: str = "") -> Way:
    return Way(keeps=keeps, title=_KEEPS[keeps], statement=statement, says=says)


class Quoting(BaseModel):
    """A style as a statement holds it."""

    model_config = ConfigDict(frozen=True, defer_build=True, extra="forbid")

    quoted: Quoted
    compounding: CompoundingField | None = None
    over: str = Field(default="", max_length=200)
    year_days: YearDays = 365


def _rate(statement: Statement, percent: Decimal) -> Fraction | None:
    """The rate of one payment period, or none where the statement's style cannot say it."""
    style = style_of(statement)
    if style is None or percent >= MOST_PERCENT or outside(percent, style):
        return None
    return periodic_rate(percent, style)


def _told(style: Style, percent: Decimal, rate: Fraction) -> Sentence:
    with precise():
        rates = footings(as_decimal(rate), frequencies.a_year(style.every))
    return Sentence(
        "{percent} {quoted} = {periodic} a {payment} = {effective} a year, effective",
        percent=Percent(percent, _PLACES, 2),
        quoted=style.in_words(),
        periodic=Percent(rates.periodic),
        payment=frequencies.period(style.every).payment,
        effective=Percent(rates.effective),
    )


def requote(statement: Statement, quoting: Quoting) -> list[Way]:
    """The statement quoted in another style: the same number, or the same rate.

    Where no rate is stated yet, or a style lacks its time or its term, there is nothing to keep,
    and one way.
    """
    after = statement.model_copy(update=quoting.model_dump())
    percent = readings(statement)["percent"].value
    style = style_of(after)
    if percent is None or percent == UNKNOWN or style is None:
        return [_way("number", after)]
    marks, number = MARKS[statement.marks], Decimal(percent)
    ways = []
    same_number = _rate(after, number)
    if same_number is not None:
        says = _told(style, number, same_number).say(marks)
        ways.append(_way("number", after, says))
    rate = _rate(statement, number)
    if rate is None:
        return ways or [_way("number", after)]
    with precise(80):
        quoted = quoted_percent(as_decimal(rate), style)
        if quoted >= MOST_PERCENT:
            return ways or [_way("number", after)]
        other = round(quoted, _PLACES)
    if ways and other == number:
        return ways
    text = marks.number(other, _PLACES, 2)
    says = _told(style, other, rate).say(marks)
    restated = after.model_copy(update={"percent": text})
    return [*ways, _way("rate", restated, says)]


def repace(statement: Statement, every: frequencies.Frequency) -> list[Way]:
    """The statement with payments made more or less often: the same term, or the same count.

    The term comes first; where it is no whole number of the new payments, the count alone is left.
    A nominal quote compounded as it is paid would be another rate then: that is said, and the first
    way can keep the compounding instead.
    """
    after = statement.model_copy(update={"every": every})
    count = readings(statement)["count"].value
    if count is None or count == UNKNOWN or not count.isdecimal():
        return [_way("count", after)]
    marks = MARKS[statement.marks]

    def way(keeps: Literal["term", "count"], payments: int) -> Way:
        says = Sentence(
            "{payments} = {term}",
            payments=frequencies.period(every).payments(marks.write(str(payments))),
            term=frequencies.term(payments, every),
        ).say(marks)
        stated = after.model_copy(update={"count": marks.write(str(payments))})
        return _way(keeps, stated, says)

    ways = [way("count", int(count))]
    total = Fraction(int(count) * frequencies.a_year(every), frequencies.a_year(statement.every))
    if total.denominator == 1 and total != int(count):
        ways.insert(0, way("term", int(total)))
    moved = _quote_moves(statement, after)
    if moved is None:
        return ways
    kept = ways[0].statement.model_copy(update={"compounding": statement.every})
    stays, goes = (each.say(marks) for each in moved)
    return [
        _way(
            "quote", kept, worded("{says}; the rate stays: {stays}", says=ways[0].says, stays=stays)
        ),
        *(each.model_copy(update={"says": f"{each.says}; {goes}"}) for each in ways),
    ]


def _quote_moves(statement: Statement, after: Statement) -> tuple[Sentence, Sentence] | None:
    """What a quote comes to with its compounding kept, and with that going along with the
    payments; none where that is the same."""
    percent = readings(statement)["percent"].value
    if percent is None or percent == UNKNOWN or not CONVENTIONS[statement.quoted].is_compounded:
        return None
    if statement.compounding is not None or after.every == statement.every:
        return None
    told = []
    for each in (after.model_copy(update={"compounding": statement.every}), after):
        rate, style = _rate(each, Decimal(percent)), style_of(each)
        if rate is None or style is None:
            return None
        told.append(_told(style, Decimal(percent), rate))
    return told[0], told[1]
