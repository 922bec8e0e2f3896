"""Somebody's table as its file holds it: its columns known by their names, its cells as numbers."""

import csv
import io
import re
from collections.abc import Sequence
from decimal import Decimal
from typing import Final, Literal, get_args

from pydantic import BaseModel, ConfigDict

from zephyrant.texts import worded

from ..errors import NotALoan

Column = Literal["number", "date", "opening", "interest", "principal", "payment", "closing"]
COLUMNS: Final[tuple[Column, ...]] = get_args(Column)
MONEY: Final[tuple[Column, ...]] = ("opening", "interest", "principal", "payment", "closing")
MOST_ROWS: Final = 40_000
#: Names by which columns are known without asking.
_KNOWN: Final[dict[Column, tuple[str, ...]]] = {
    "number": ("number", "no", "no.", "nr", "payment no.", "payment no", "period", "#"),
    "date": ("date", "due", "due date", "payment date"),
    "opening": ("opening", "opening balance", "balance before", "beginning balance"),
    "interest": ("interest", "interest part", "interest paid"),
    "principal": ("principal", "principal part", "principal paid"),
    "payment": ("payment", "instalment", "installment", "amount paid", "total payment"),
    "closing": ("closing", "closing balance", "balance after", "ending balance"),
}


class TheirTable(BaseModel):
    """A table as its file holds it: the names of its columns and what is in them."""

    model_config = ConfigDict(frozen=True, defer_build=True)

    names: tuple[str, ...]
    rows: tuple[tuple[str, ...], ...]


class Matched(BaseModel):
    """Which of their columns is which of ours, by their places from 0."""

    model_config = ConfigDict(frozen=True, defer_build=True, extra="forbid")

    number: int | None = None
    date: int | None = None
    opening: int | None = None
    interest: int | None = None
    principal: int | None = None
    payment: int | None = None
    closing: int | None = None


def read_table(text: str) -> TheirTable:
    """A CSV with a row of names on top; raises `NotALoan` where it is none."""
    text = text.removeprefix("\ufeff")
    head = next(iter(text.splitlines()), "")
    mark = max(";,\t|", key=head.count)
    try:
        rows = [row for row in csv.reader(io.StringIO(text), delimiter=mark) if any(row)]
    except csv.Error as error:
        raise NotALoan.at(
            "text", worded("This is not a table that can be read: {error}.", error=error)
        ) from None
    if len(rows) < 2 or len(rows[0]) < 2:
        raise NotALoan.at(
            "text", worded("A table with the names of its columns on top is expected.")
        )
    if len(rows) > MOST_ROWS:
        raise NotALoan.at(
            "text",
            worded("A schedule of at most {most} rows can be read.", most=MOST_ROWS),
        )
    width = len(rows[0])
    body = tuple(tuple((*row, *[""] * width)[:width]) for row in rows[1:])
    return TheirTable(names=tuple(name.strip() for name in rows[0]), rows=body)


def guess(table: TheirTable) -> Matched:
    """Columns known by their names; what is not known is left open."""
    places: dict[str, int] = {}
    for place, name in enumerate(table.names):
        for column, known in _KNOWN.items():
            if name.lower() in known and column not in places:
                places[column] = place
    return Matched(**places)


#: Characters of a cell beyond which no number is meant.
_MOST_CHARACTERS: Final = 80


def decimal_mark(cells: Sequence[str]) -> str:
    """The mark that stands before the decimals, told by cells in which only one reading fits."""
    for cell in cells:
        marks = [mark for mark in ",." if mark in cell]
        if len(marks) == 2:
            return max(marks, key=cell.rfind)
        if len(marks) == 1 and not re.search(rf"\{marks[0]}\d{{3}}(\D|$)", cell):
            return marks[0]
    return "."


def number_in(cell: str, mark: str) -> Decimal | None:
    """The number a cell holds, its decimals after `mark`; None where it holds none."""
    group = "," if mark == "." else "."
    if len(cell) > _MOST_CHARACTERS:
        return None
    text = re.sub(r"[\s'’]|[A-Za-z]{3}\s?|[€$£¥]", "", cell).replace(group, "")
    text = text.replace(mark, ".").replace("−", "-")
    if re.fullmatch(r"\(.*\)", text):
        text = f"-{text[1:-1]}"
    return Decimal(text) if re.fullmatch(r"-?(\d+(\.\d*)?|\.\d+)", text, re.ASCII) else None
