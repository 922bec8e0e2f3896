"""Rows of a solved table, and what it comes to, as people read them in their marks."""

from collections.abc import Mapping
from decimal import Decimal
from typing import Final

from pydantic import BaseModel, ConfigDict

from zephyrant.texts import worded

from ..document.telling import headline
from ..wording.marks import Marks
from ..wording.tables import TableTold, row_told
from .named import TOLD_NAMED, WORDS, kind_of
from .summary import SPREAD, Bin, Summary, SumsTold

Cell = str | int | None
#: Decimals of a value between two bins.
_BIN_PLACES: Final = 2


def row_in_words(row: Mapping[str, Cell], marks: Marks) -> dict[str, str]:
    """A row of a result by the inner names of its columns; those of the file stand as they are."""
    unknown = str(row.get("unknown") or "")
    told = {name: _cell(name, value, unknown, marks) for name, value in row.items()}
    if row.get("fits"):
        told["unknown"] = worded("none: checked")
        told["found"] = worded("does not fit") if row["fits"] == "no" else worded("fits")
    return told


def _cell(name: str, value: Cell, unknown: str, marks: Marks) -> str:
    text = "" if value is None else str(value)
    if not text or name not in TOLD_NAMED:
        return text
    if name == "unknown":
        return TOLD_NAMED[text].title
    if name == "outlier":
        return ", ".join(TOLD_NAMED[each].title for each in text.split(", "))
    return text if name in WORDS else headline(kind_of(name, unknown), text, marks)


class SpreadTold(BaseModel):
    """How a figure is spread: what it is called, its ends and where most rows lie, rows a bin."""

    model_config = ConfigDict(frozen=True, defer_build=True)

    title: str
    says: str
    low: str
    high: str
    rows: tuple[int, ...]


class SummaryTold(BaseModel):
    """What a table comes to: sums by currency, and how figures are spread."""

    model_config = ConfigDict(frozen=True, defer_build=True)

    sums: TableTold
    spread: tuple[SpreadTold, ...]


def summary_in_words(summary: Summary, marks: Marks) -> SummaryTold:
    """What a table comes to."""
    heads = (
        "",
        worded("Rows"),
        worded("Lent"),
        worded("Payments, each"),
        TOLD_NAMED["total_interest"].alone,
        worded("Rate, by amount"),
        worded("Effective, by amount"),
        worded("Payments, by amount"),
    )
    rows = tuple(row_told(sums["currency"], *_sums(sums, marks)) for sums in summary["sums"])
    spread = (_spread(name, summary["spread"].get(name, []), marks) for name in SPREAD)
    return SummaryTold(
        sums=TableTold(heads=heads, rows=rows),
        spread=tuple(each for each in spread if each is not None),
    )


def _number(value: float | None, places: int, marks: Marks) -> str:
    return "–" if value is None else marks.number(Decimal(value), places, places)


def _sums(sums: SumsTold, marks: Marks) -> tuple[str, ...]:
    return (
        marks.write(str(sums["rows"])),
        _number(sums["principal"], 2, marks),
        _number(sums["payment"], 2, marks),
        _number(sums["total_interest"], 2, marks),
        f"{_number(sums['percent'], 4, marks)} %",
        f"{_number(sums['effective'], 4, marks)} %",
        _number(sums["count"], 1, marks),
    )


def _spread(name: str, bins: list[Bin], marks: Marks) -> SpreadTold | None:
    if not bins:
        return None
    places = 0 if TOLD_NAMED[name].kind == "count" else _BIN_PLACES
    fullest = max(bins, key=lambda each: each["rows"])
    low, high, begins, ends = (
        _number(value, places, marks)
        for value in (bins[0]["low"], bins[-1]["high"], fullest["low"], fullest["high"])
    )
    return SpreadTold(
        title=TOLD_NAMED[name].alone,
        says=worded(
            "from {low} to {high}, most rows between {begins} and {ends}",
            low=low,
            high=high,
            begins=begins,
            ends=ends,
        ),
        low=low,
        high=high,
        rows=tuple(each["rows"] for each in bins),
    )
