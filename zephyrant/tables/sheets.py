"""Workbooks: the tables on their sheets."""

import re
import zipfile
from collections.abc import Iterator, Sequence
from functools import partial
from itertools import chain
from typing import IO, TYPE_CHECKING, Final, NamedTuple

from zephyrant.loans import NotALoan
from zephyrant.loans.tape import match, unmatched
from zephyrant.texts import worded

from .heads import each_once, tidy
from .kinds import WHOLE, Seen, cell_text, kind_of
from .limits import MOST_UNPACKED
from .table import Table, hold_within, refused

if TYPE_CHECKING:
    from python_calamine import CalamineSheet, CalamineWorkbook

#: What the column is called that says from which sheet a row comes.
_SHEET: Final = "Sheet"


class OnSheets(NamedTuple):
    """A table, and the sheets on which it stands: several where their columns are the same."""

    sheets: tuple[str, ...]
    table: Table


def tables_of(file: IO[bytes], name: str, most_rows: int, wanted: str | None) -> list[OnSheets]:
    """The tables of a workbook: those with columns of a loan, else all there are; or that on the
    sheet that is wanted.

    Raises `NotALoan` where there is none, or it is too much.
    """
    from python_calamine import CalamineError

    book = _opened(file)
    try:
        sheets = _filled(book, wanted)
        tables = _tables(sheets, name, most_rows)
    except CalamineError as error:
        raise refused(
            worded("This is no workbook that can be opened: {error}.", error=error)
        ) from None
    loans = [each for each in tables if unmatched(match(each.table.names)) is None]
    chosen = _of_the_same_columns(loans or tables, most_rows)
    left = set(book.sheet_names) - {sheet for each in chosen for sheet in each.sheets}
    if left and not wanted:
        named = ", ".join(f"“{each}”" for each in book.sheet_names if each in left)
        chosen[0].table.notes.append(
            worded("Without columns of a loan, and left out: {named}.", named=named)
        )
    return chosen


def _tables(sheets: "dict[str, CalamineSheet]", name: str, most_rows: int) -> list[OnSheets]:
    """The tables on sheets; what is none is told only where none is."""
    tables, none = [], None
    for each, sheet in sheets.items():
        try:
            table = tidy(_lines(sheet), name, most_rows, partial(_kinds, sheet))
        except NotALoan as refusal:
            none = none or refusal
        else:
            tables.append(OnSheets((each,), table))
    if not tables and none is not None:
        raise none
    return tables


def _opened(file: IO[bytes]) -> "CalamineWorkbook":
    from python_calamine import CalamineError, load_workbook

    if zipfile.is_zipfile(file):
        with zipfile.ZipFile(file) as packed:
            if sum(each.file_size for each in packed.infolist()) > MOST_UNPACKED:
                raise refused(
                    worded("Unpacked this workbook is too large: at most 400 MB are opened.")
                )
            for sheet in packed.infolist():
                if sheet.filename.startswith("xl/worksheets/") and sheet.filename.endswith(".xml"):
                    with packed.open(sheet) as content:
                        _declared(content.read(_HEAD))
    file.seek(0)
    try:
        return load_workbook(file)
    except CalamineError as error:
        raise refused(
            worded("This is no workbook that can be opened: {error}.", error=error)
        ) from None


def _filled(book: "CalamineWorkbook", wanted: str | None) -> "dict[str, CalamineSheet]":
    """The sheets with a table on them, of two columns and two rows at the least; the first where
    there is none."""
    named = book.sheet_names
    if not named:
        raise refused(worded("This workbook has no sheets."))
    if wanted is not None:
        if wanted not in named:
            listed = ", ".join(f"“{each}”" for each in named)
            raise refused(
                worded(
                    "There is no sheet “{wanted}”: there are {listed}.",
                    wanted=wanted,
                    listed=listed,
                )
            )
        return {wanted: book.get_sheet_by_name(wanted)}
    sheets = {name: book.get_sheet_by_name(name) for name in named}
    filled = {name: each for name, each in sheets.items() if each.height > 1 and each.width > 1}
    return filled or {named[0]: sheets[named[0]]}


def _lines(sheet: "CalamineSheet") -> Iterator[list[str]]:
    return ([cell_text(value) for value in row] for row in sheet.iter_rows())


def _kinds(sheet: "CalamineSheet") -> Iterator[list[str]]:
    """What the cells are of each line that is not empty."""
    return (kinds for row in sheet.iter_rows() if any(kinds := [_kind(value) for value in row]))


def _kind(value: object) -> str:
    """What a cell is; a workbook knows no numbers but fractions, whole ones as well."""
    is_whole = isinstance(value, float) and value.is_integer() and abs(value) < _MOST_WHOLE
    return WHOLE if is_whole else kind_of(value)


#: Above this not every whole number is there.
_MOST_WHOLE: Final = 1e15


def _of_the_same_columns(tables: Sequence[OnSheets], most_rows: int) -> list[OnSheets]:
    """Sheets of the same columns as one table, with a column that says from which a row comes."""
    groups: dict[tuple[str, ...], list[OnSheets]] = {}
    for each in tables:
        groups.setdefault(tuple(each.table.names), []).append(each)
    return [group[0] if len(group) == 1 else _joined(group, most_rows) for group in groups.values()]


def _joined(group: Sequence[OnSheets], most_rows: int) -> OnSheets:
    sheets = tuple(each.sheets[0] for each in group)
    first = group[0].table
    listed = ", ".join(f"“{each}”" for each in sheets)
    notes = [
        worded(
            "The sheets {listed} have the same columns, and are read as one table.", listed=listed
        )
    ]
    notes += dict.fromkeys(note for each in group for note in each.table.notes)
    names = each_once([*first.names, _SHEET], notes)

    def rows() -> Iterator[list[str]]:
        all_of_them = chain.from_iterable(
            ((sheet, row) for row in each.table.rows)
            for sheet, each in zip(sheets, group, strict=True)
        )
        for number, (sheet, row) in enumerate(all_of_them, 1):
            hold_within(number, 0, most_rows)
            yield [*row, sheet]

    seen = Seen()
    for each in group:
        seen.add(each.table.kinds)
    return OnSheets(sheets, Table(names, rows(), notes, seen.kinds(len(names))))


#: Bytes of a sheet among which it says how large it is, and the cells that may be.
_HEAD: Final = 4_000
_MOST_CELLS: Final = 100_000_000


def _declared(head: bytes) -> None:
    """Refuses a sheet that says that it is larger than any that is opened."""
    said = re.search(rb'<dimension ref="[A-Z]{1,3}\d{1,7}:([A-Z]{1,3})(\d{1,7})"', head)
    if said is None:
        return
    columns = 0
    for letter in said[1]:
        columns = 26 * columns + letter - ord("A") + 1
    if columns * int(said[2]) > _MOST_CELLS:
        raise refused(
            worded(
                "A sheet of this workbook is {said} rows by {columns} columns: no table "
                "so large is opened. Delete what is empty around the table.",
                said=f"{int(said[2]):,}",
                columns=f"{columns:,}",
            )
        )
