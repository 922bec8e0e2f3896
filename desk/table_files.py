"""Tables of loans as files: CSV, XLSX and JSON Lines in and out, within limits."""

import csv
import io
import json
import tempfile
import zipfile
from collections.abc import Iterator, Sequence
from datetime import date, datetime
from typing import IO, Any, Final, NamedTuple

import xlsxwriter
from python_calamine import CalamineError, load_workbook

from loans import FieldError, NotALoan
from loans.cells import as_text

#: A file of a table that is read on the desk.
MOST_BYTES: Final = 50_000_000
MOST_ROWS: Final = 200_000
MOST_COLUMNS: Final = 200
#: What a workbook may hold once it is unpacked.
_MOST_UNPACKED: Final = 400_000_000
_MOST_CELL: Final = 1_000
_SUSPECT: Final = frozenset("=+-@\t\r")


class Table(NamedTuple):
    """The names of columns, each once, and rows of as many texts. `notes`: what was done about
    names that were missing or there twice."""

    names: list[str]
    rows: Iterator[list[str]]
    notes: list[str]


def refused(message: str) -> NotALoan:
    """A file that is not taken, and why."""
    return NotALoan([FieldError(field="file", message=message)])


def read(file: IO[bytes], name: str, most_rows: int = MOST_ROWS) -> Table:
    """A table from a file, by what is in it: a workbook, JSON Lines, else CSV.

    Rows are read as they are taken. Raises `NotALoan` where it is none of them, or is too much.
    """
    start = file.read(4)
    file.seek(0)
    if start.startswith(b"PK"):
        return _tidy(_workbook(file), name, most_rows)
    text = io.TextIOWrapper(file, encoding="utf-8-sig", errors="replace", newline="")
    if start.lstrip()[:1] == b"{":
        return _json_lines(text, most_rows)
    if b"\x00" in start:
        raise refused("This is no table: a CSV, XLSX or JSON Lines file is expected.")
    return _tidy(_csv(text), name, most_rows)


def _csv(text: IO[str]) -> Iterator[list[str]]:
    head = text.read(20_000)
    text.seek(0)
    first = next((line for line in head.splitlines() if line.strip()), "")
    mark = max(",;\t|", key=first.count)
    try:
        yield from csv.reader(text, delimiter=mark)
    except (csv.Error, UnicodeError) as error:
        raise refused(f"This is not a table that can be read: {error}.") from None


def _workbook(file: IO[bytes]) -> Iterator[list[str]]:
    try:
        with zipfile.ZipFile(file) as packed:
            unpacked = sum(each.file_size for each in packed.infolist())
    except zipfile.BadZipFile:
        raise refused("This is no workbook that can be opened.") from None
    if unpacked > _MOST_UNPACKED:
        raise refused("Unpacked this workbook is too large: at most 400 MB are opened.")
    file.seek(0)
    try:
        book = load_workbook(file)
        sheet = book.get_sheet_by_index(0)
        for row in sheet.iter_rows():
            yield [_cell(value) for value in row]
    except CalamineError as error:
        raise refused(f"This is no workbook that can be opened: {error}.") from None


def _cell(value: object) -> str:
    if isinstance(value, bool):
        return str(value).lower()
    if isinstance(value, float):
        # Fifteen digits are what a workbook shows of a number.
        return f"{value:.15g}" if abs(value) < 1e15 else f"{value:.0f}"
    if isinstance(value, datetime):
        return value.date().isoformat()
    if isinstance(value, date):
        return value.isoformat()
    return str(value)


def _json_lines(text: IO[str], most_rows: int) -> Table:
    """Read twice: for the names first, so that a row need not be kept."""
    names: dict[str, None] = {}
    for rows, row in enumerate(_json_rows(text), 1):
        names |= dict.fromkeys(row)
        _within(rows, len(names), most_rows)
    text.seek(0)
    listed = list(names)
    cells = ([_json_cell(row.get(name)) for name in listed] for row in _json_rows(text))
    return Table(listed, cells, [])


def _json_rows(text: IO[str]) -> Iterator[dict[str, Any]]:
    for number, line in enumerate(text, 1):
        if not line.strip():
            continue
        try:
            row = json.loads(line, parse_float=str, parse_int=str)
        except ValueError:
            raise refused(f"Line {number} is not JSON: each line is one loan in braces.") from None
        if not isinstance(row, dict):
            raise refused(f"Line {number} is not one loan in braces.")
        yield row


def _json_cell(value: object) -> str:
    return "" if value is None else value if isinstance(value, str) else json.dumps(value)


def _within(rows: int, columns: int, most_rows: int) -> None:
    if rows > most_rows:
        raise refused(
            f"That is more than {most_rows:,} rows: give them in parts, or use the command."
        )
    if columns > MOST_COLUMNS:
        raise refused(f"That is {columns:,} columns: at most {MOST_COLUMNS} are read.")


def _tidy(lines: Iterator[list[str]], name: str, most_rows: int) -> Table:
    """Names from the first row that has any, rows made as long as it; empty rows left out."""
    filled = (line for line in lines if any(cell.strip() for cell in line))
    head = next(filled, None)
    if head is None:
        raise refused(
            f"{name or 'This file'} is empty: a row of names and rows of loans are expected."
        )
    while head and not head[-1].strip():
        head = head[:-1]
    _within(0, len(head), most_rows)
    notes: list[str] = []
    first: list[list[str]] = []
    if not any(_is_name(cell) for cell in head):
        notes.append("The first row holds no names of columns: they are numbered.")
        first, head = [head], [f"Column {number}" for number in range(1, len(head) + 1)]
    names = _each_once(head, notes)
    width = len(names)

    def rows() -> Iterator[list[str]]:
        number = 0
        for line in first:
            number += 1
            yield line
        for line in filled:
            number += 1
            _within(number, width, most_rows)
            cells = [cell[:_MOST_CELL] for cell in line[:width]]
            yield cells + [""] * (width - len(cells))

    return Table(names, rows(), notes)


def _is_name(cell: str) -> bool:
    return any(character.isalpha() for character in cell) and cell.strip() != "?"


def _each_once(head: Sequence[str], notes: list[str]) -> list[str]:
    names: list[str] = []
    for number, cell in enumerate(head, 1):
        name = " ".join(cell.split())[:80] or f"Column {number}"
        if name in names:
            again = 2
            while f"{name} ({again})" in names:
                again += 1
            notes.append(f"Two columns are called “{name}”: the second is “{name} ({again})”.")
            name = f"{name} ({again})"
        names.append(name)
    return names


# Out


def csv_lines(
    names: Sequence[str], rows: Iterator[Sequence[str]], *, marked: bool = True
) -> Iterator[str]:
    """A table line by line; no cell is a formula to whoever opens it.

    `marked`: begins with the mark of UTF-8, which office programs need to read it as that.
    """
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    if marked:
        yield "\ufeff"
    writer.writerow([as_text(name) for name in names])
    for number, row in enumerate(rows, 1):
        # Few cells start like a formula: the others need no look.
        writer.writerow([as_text(cell) if cell[:1] in _SUSPECT else cell for cell in row])
        if number % 2_000 == 0:
            yield out.getvalue()
            out.seek(0)
            out.truncate()
    yield out.getvalue()


def json_lines(names: Sequence[str], rows: Iterator[Sequence[str]]) -> Iterator[str]:
    """A loan in braces on each line; what is empty is left out."""
    for row in rows:
        told = {name: cell for name, cell in zip(names, row, strict=True) if cell}
        yield json.dumps(told, ensure_ascii=False) + "\n"


def workbook(
    names: Sequence[str], rows: Iterator[Sequence[str]], plain: Sequence[bool]
) -> IO[bytes]:
    """The same as a workbook; the columns that are `plain` hold numbers, the others texts."""
    file = tempfile.TemporaryFile()  # noqa: SIM115  (whoever streams it closes it)
    book = xlsxwriter.Workbook(file, {"constant_memory": True})
    sheet = book.add_worksheet("Loans")
    bold = book.add_format({"bold": True})
    for column, name in enumerate(names):
        sheet.write_string(0, column, name, bold)
    for at, row in enumerate(rows, 1):
        for column, cell in enumerate(row):
            if not cell:
                continue
            if plain[column]:
                sheet.write_number(at, column, float(cell))
            else:
                sheet.write_string(at, column, cell)
    book.close()
    file.seek(0)
    return file
