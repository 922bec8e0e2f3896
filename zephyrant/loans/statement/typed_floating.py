"""A floating rate as people type it: margin, floor and cap, and the fixings of its index, one on a
line: `2026-06-30 2.31`, `30 Jun 2026; 2,31`."""

import re
import unicodedata
from collections.abc import Mapping, Sequence
from datetime import date
from decimal import Decimal
from typing import Any, Final

from pydantic import ValidationError

from zephyrant.texts import worded

from ..calendars.days_in_words import read_days, write_day
from ..document.fields import UNKNOWN
from ..document.floating import FloatingQuote, Index
from ..document.reading import field_errors
from ..errors import NotALoan
from ..numbers.decimals import plain
from ..wording.marks import Marks
from .parsing import PLACES, Reading, Unreadable, quote_typed, read_number, tidy
from .statement import Statement, TypedFloating
from .typed_amounts import read_percent
from .typed_times import read_place

#: A moment and what the index is then: the last number of a line.
_ENTRY: Final = re.compile(r"(.+?)[\s;,:=|]+([-+−–]?[\d.,/ ]*\d)\s*%?\s*")
#: Characters of an entry: whatever is longer is none.
_LONGEST: Final = 80
#: Entries that stand on one line.
_BETWEEN: Final = re.compile(r";\s+")


def read_fixings(typed: str, marks: Marks) -> Reading:
    """Fixings, one on a line; the value is each moment and percent in turn, with a space
    between."""
    lines = [line.strip() for line in typed.splitlines() if line.strip()]
    entries: list[tuple[str, Decimal]] = []
    if len(lines) > 1 and not re.search(r"\d", lines[0]):
        # The names of the columns of a list.
        lines = lines[1:]
    for line in lines:
        whole = _entry(line, marks)
        pieces = [whole] if whole else [_entry(each, marks) for each in _BETWEEN.split(line)]
        read = [piece for piece in pieces if piece is not None]
        if len(read) < len(pieces):
            return Reading(
                error=worded(
                    "{typed} is no fixing. Write a day and what the index was then, such as "
                    "2026-06-30 2.31, each on a line of its own.",
                    typed=quote_typed(line),
                )
            )
        entries += read
    if not entries:
        return Reading(error=worded("State what the index was and when, such as 2026-06-30 2.31."))
    return Reading(
        value=" ".join(f"{moment} {plain(percent)}" for moment, percent in entries),
        text="\n".join(
            f"{moment} {marks.number(percent, PLACES, 2)}" for moment, percent in entries
        ),
    )


def _entry(line: str, marks: Marks) -> tuple[str, Decimal] | None:
    """A moment, as a document holds it, and a percent."""
    found = _ENTRY.fullmatch(unicodedata.normalize("NFKC", line)) if len(line) <= _LONGEST else None
    if found is None:
        return None
    try:
        number = read_number(tidy(found[2]), marks, may_group=False)
    except Unreadable:
        return None
    moment = _moment(found[1].strip())
    return None if number is None or moment is None else (moment, number.value)


def _moment(text: str) -> str | None:
    if re.fullmatch(r"[-−]?\d{1,5}", text):
        return text.replace("−", "-")
    days = read_days(text)
    return days[0].isoformat() if days else None


def check_fixings(value: str) -> list[list[str]]:
    """Fixings as they were read, in order, each a day and a percent; raises `NotALoan` where they
    are not of days or do not follow each other."""
    fixings = _fixings(value)
    try:
        index = Index.model_validate({"fixings": fixings})
    except ValidationError as error:
        raise NotALoan.at("fixings", field_errors(error.errors())[0].message) from None
    if not isinstance(index.begins, date):
        raise NotALoan.at("fixings", worded("An index that is kept is fixed on days."))
    return [[str(moment), f"{percent:f}"] for moment, percent in index.fixings]


def fixings_typed(fixings: Sequence[Sequence[str]], marks: Marks) -> str:
    """Fixings as one would type them, a line each."""
    return "\n".join(
        f"{moment} {marks.number(Decimal(percent), PLACES, 2)}" for moment, percent in fixings
    )


def floating_readings(statement: Statement, marks: Marks) -> dict[str, Reading]:
    """How a floating rate is read, where one is typed."""
    typed = statement.floating
    if typed is None:
        return {}
    read = {"floating.margin": read_percent(typed.margin, marks)}
    for name in ("first", "floor", "cap", "shift"):
        text: str = getattr(typed, name)
        reading = read_percent(text, marks) if text.strip() else Reading()
        if name != "first" and reading.value == UNKNOWN:
            reading = Reading(error=worded("This is stated: the ? stands at the margin, say."))
        read[f"floating.{name}"] = reading
    read["floating.lag_days"] = _lag(typed.lag_days)
    read["floating.fixings"] = read_fixings(typed.fixings, marks)
    if typed.ahead.strip():
        read["floating.ahead"] = read_fixings(typed.ahead, marks)
    else:
        read["floating.ahead"] = Reading()
    read["floating.shift_from"] = read_place(typed.shift_from, marks, may_be_open=True)
    if not typed.index.strip():
        read["floating.index"] = Reading(error=worded("The index needs a name."))
    return read


def _lag(typed: str) -> Reading:
    text = tidy(typed)
    if not text:
        return Reading()
    number = text.removesuffix("s").removesuffix(" day").strip()
    if not number.isdecimal() or int(number) > 366:
        return Reading(
            error=worded("{typed} is no number of days, from 0 on.", typed=quote_typed(typed))
        )
    return Reading(value=str(int(number)), text=str(int(number)))


def floating_document(typed: TypedFloating, read: Mapping[str, Reading]) -> dict[str, Any]:
    """What a floating rate states beside how it is quoted, as a document holds it, and its
    indices."""

    def value(name: str) -> str | None:
        return read[f"floating.{name}"].value

    rate: dict[str, Any] = {
        "index": typed.index.strip() or "index",
        "margin": value("margin") or "1",
        "resets": typed.resets,
    }
    for name in ("floor", "cap", "first"):
        if (stated := value(name)) is not None:
            rate[name] = stated
    if typed.on == "rate":
        rate["on"] = typed.on
    if lag := int(value("lag_days") or 0):
        rate["lag_days"] = lag
    if typed.then:
        rate["then"] = typed.then
    index: dict[str, Any] = {"fixings": _fixings(value("fixings") or "0 1")}
    if ahead := value("ahead"):
        index["ahead"] = _fixings(ahead)
    if shift := value("shift"):
        index["shift"] = {"percent": shift}
        if begin := value("shift_from"):
            index["shift"]["from"] = int(begin) if begin.isdecimal() else begin
    return {"rate": rate, "indices": {rate["index"]: index}}


def _fixings(value: str) -> list[list[Any]]:
    words = value.split()
    return [
        [int(moment) if re.fullmatch(r"-?\d+", moment) else moment, percent]
        for moment, percent in zip(words[::2], words[1::2], strict=True)
    ]


def typed_floating(quote: FloatingQuote, index: Index, marks: Marks) -> TypedFloating:
    """A floating rate of a document as one would type it."""

    def percent(value: Decimal | str | None) -> str:
        if value is None or isinstance(value, str):
            return value or ""
        return marks.number(value, PLACES, 2)

    def moment(value: date | int | None) -> str:
        if value is None:
            return ""
        return write_day(value) if isinstance(value, date) else str(value)

    def lines(entries: Sequence[tuple[date | int, Decimal]]) -> str:
        return "\n".join(
            f"{at.isoformat() if isinstance(at, date) else at} {percent(value)}"
            for at, value in entries
        )

    shift = index.shift
    return TypedFloating(
        index=quote.index,
        margin=percent(quote.margin),
        floor=percent(quote.floor),
        cap=percent(quote.cap),
        on=quote.on,
        resets=quote.resets,
        first=percent(quote.first),
        lag_days=str(quote.lag_days) if quote.lag_days else "",
        then=quote.then,
        fixings=lines(index.fixings),
        ahead=lines(index.path),
        shift=percent(shift.percent) if shift else "",
        shift_from=moment(shift.begin) if shift else "",
    )


def floating_anew(typed: TypedFloating, read: Mapping[str, Reading], marks: Marks) -> TypedFloating:
    """A floating rate in other marks: what can be read is written anew."""
    told: dict[str, str] = {}
    for name in ("margin", "floor", "cap", "first", "shift"):
        value = read[f"floating.{name}"].value
        if value not in (None, UNKNOWN):
            told[name] = marks.number(Decimal(str(value)), PLACES, 2)
    for name in ("fixings", "ahead"):
        if value := read[f"floating.{name}"].value:
            told[name] = "\n".join(
                f"{at} {marks.number(Decimal(percent), PLACES, 2)}"
                for at, percent in _fixings(value)
            )
    return typed.model_copy(update=told)
