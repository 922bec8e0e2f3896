"""A solved table as a workbook: values as what they are, a row of names that stays and filters."""

import math
from collections.abc import Callable, Iterable, Sequence
from datetime import date, datetime
from decimal import Decimal
from functools import partial
from typing import IO, TYPE_CHECKING, Any, Final

from zephyrant.texts import worded

from .kinds import JSON, TEXT, value_of

if TYPE_CHECKING:
    import xlsxwriter
    from xlsxwriter.format import Format
    from xlsxwriter.worksheet import Worksheet

    from .ways_out import Heads

#: Rows that a sheet has room for, below the names.
_MOST_ROWS: Final = 1_048_575
#: Digits that a workbook keeps of a number, and characters of a text.
_DIGITS: Final = 15
_MOST_TEXT: Final = 32_767
#: Decimals to which percents and the like are shown; the cell holds all.
_SHOWN: Final = 4
_FIRST_YEAR: Final = 1900


def write_workbook(
    out: IO[bytes], heads: "Heads", parts: Iterable[Sequence[Sequence[str]]]
) -> None:
    """Writes columns of cells, part by part: one row at a time goes to disk, and memory does not
    grow. More rows than a sheet has room for go on on another."""
    import xlsxwriter

    with xlsxwriter.Workbook(out, {"constant_memory": True}) as book:
        book.set_properties({"title": worded("Loans solved"), **heads.reader.properties})
        sheets = _Sheets(book, heads)
        for columns in parts:
            for row in zip(*columns, strict=True):
                sheets.write(row)
        sheets.end()


class _Sheets:
    def __init__(self, book: "xlsxwriter.Workbook", heads: "Heads") -> None:
        self._book, self._names, self._reader = book, heads.names, heads.reader
        self._formats: dict[str, Format] = {}
        self._writers = [self._writer(kind) for kind in heads.kinds]
        self._places: dict[int, Format] = {}
        self._count, self._at = 0, 0
        self._sheet = self._another()

    def write(self, row: Sequence[str]) -> None:
        if self._at == _MOST_ROWS:
            self.end()
            self._sheet = self._another()
        self._at += 1
        for column, cell in enumerate(row):
            if cell:
                self._writers[column](column, cell)

    def end(self) -> None:
        """The names of the sheet filter its rows."""
        self._sheet.autofilter(0, 0, self._at, len(self._names) - 1)

    def _another(self) -> "Worksheet":
        self._count, self._at = self._count + 1, 0
        sheet = self._book.add_worksheet(
            worded("Loans") if self._count == 1 else worded("Loans {count}", count=self._count)
        )
        sheet.freeze_panes(1, 0)
        sheet.set_landscape()
        sheet.set_paper(self._reader.paper_of_workbooks)
        sheet.fit_to_pages(1, 0)
        sheet.repeat_rows(0)
        bold = self._format(bold=True)
        for column, name in enumerate(self._names):
            # As wide as the name and what filters by it.
            sheet.set_column(column, column, min(40, max(12, len(name) + 4)))
            sheet.write_string(0, column, name, bold)
        return sheet

    def _writer(self, kind: str) -> Callable[[int, str], object]:
        """What writes the cells of a column, most of which are short decimals or texts."""
        if kind.startswith("decimal"):
            return self._decimal
        return self._text if kind in (TEXT, JSON) else partial(self._cell, kind)

    def _text(self, column: int, cell: str) -> None:
        self._sheet.write_string(self._at, column, cell[:_MOST_TEXT])

    def _decimal(self, column: int, cell: str) -> None:
        if len(cell) > _DIGITS and not _keeps(cell):
            self._text(column, cell)
            return
        places = len(cell.partition(".")[2])
        if places not in self._places:
            self._places[places] = self._format(num_format=_shown(places))
        self._sheet.write_number(self._at, column, float(cell), self._places[places])

    def _cell(self, kind: str, column: int, cell: str) -> None:
        value: Any = value_of(cell, kind)
        if isinstance(value, bool):
            self._sheet.write_boolean(self._at, column, value)
        elif isinstance(value, date) and value.year >= _FIRST_YEAR:
            is_day = len(cell) == len("2027-03-15")
            shown = self._reader.day if is_day else f"{self._reader.day} hh:mm"
            day = value.replace(tzinfo=None) if isinstance(value, datetime) else value
            self._sheet.write_datetime(self._at, column, day, self._format(num_format=shown))
        elif _is_written(value, cell):
            self._sheet.write_number(self._at, column, float(value))
        else:
            self._text(column, cell)

    def _format(self, **what: Any) -> "Format":  # noqa: ANN401
        key = str(what)
        if key not in self._formats:
            self._formats[key] = self._book.add_format(what)
        return self._formats[key]


def _is_written(value: object, cell: str) -> bool:
    """Whether a workbook has such a number: a binary fraction, or what it keeps every digit of."""
    if isinstance(value, float):
        return math.isfinite(value)
    return isinstance(value, (int, Decimal)) and _keeps(cell)


def _keeps(cell: str) -> bool:
    """Whether a workbook keeps every digit of a decimal."""
    whole, _, part = cell.lstrip("-").partition(".")
    return len((whole + part.rstrip("0")).lstrip("0")) <= _DIGITS


def _shown(places: int) -> str:
    """A decimal is shown with the places it is told with; a percent with fewer."""
    return "#,##0" + ("." + "0" * min(places, _SHOWN) if places else "")
