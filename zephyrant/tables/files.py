"""Tables of loans as files, within limits: CSV, workbooks, Parquet and JSON in; CSV, XLSX and JSON
Lines out."""

import codecs
import csv
import gzip
import io
import json
import re
import tempfile
import zipfile
from collections.abc import Callable, Iterator, Sequence
from datetime import date, datetime
from itertools import chain, islice
from pathlib import Path
from typing import IO, TYPE_CHECKING, Any, Final, NamedTuple

from zephyrant.loans import NotALoan, as_text, grown, look
from zephyrant.loans.tape import FieldName, Looked, match
from zephyrant.loans.tape import look as look_at

from .limits import MOST_COLUMNS, MOST_ROWS

if TYPE_CHECKING:
    import polars as pl
# What only some kinds of files need is loaded with the first of them.

#: What a workbook may hold once it is unpacked.
_MOST_UNPACKED: Final = 400_000_000
_MOST_CELL: Final = 1_000


class Table(NamedTuple):
    """The names of columns, each once, and rows of as many texts. `notes`: what was done about
    names that were missing or there twice."""

    names: list[str]
    rows: Iterator[list[str]]
    notes: list[str]


def refused(message: str) -> NotALoan:
    """A file that is not taken, and why."""
    return NotALoan.at("file", message)


def read(file: IO[bytes], name: str, most_rows: int = MOST_ROWS) -> Table:
    """A table from a file, by what is in it: a workbook, Parquet, JSON, else CSV; packed or not.

    Rows are read as they are taken. Raises `NotALoan` where it is none of them, or is too much.
    """
    start = file.read(8)
    file.seek(0)
    if start.startswith(b"\x1f\x8b"):
        return read(_unpacked(file), name.removesuffix(".gz"), most_rows)
    notes: list[str] = []
    if start.startswith(b"PK") or start.startswith(b"\xd0\xcf\x11\xe0"):
        return _tidy(_workbook(file, notes), name, most_rows, notes)
    if start.startswith(b"PAR1"):
        return _parquet(file, most_rows)
    text = _text(file, start)
    head = text.read(200).lstrip()
    text.seek(0)
    if head[:1] == "{":
        return _json_lines(lambda: _json_rows(text), most_rows)
    if head[:1] == "[":
        rows = _json_array(text)
        return _json_lines(lambda: iter(rows), most_rows)
    if "\x00" in head:
        raise refused(
            "This is no table: a CSV, XLSX, XLS, Parquet, JSON or JSON Lines file is expected."
        )
    return _tidy(_csv(text), name, most_rows, notes)


def _unpacked(file: IO[bytes]) -> IO[bytes]:
    """What a gzip file holds, no more of it than may be opened."""
    out: IO[bytes] = tempfile.TemporaryFile()  # noqa: SIM115  (closed with the last that reads it)
    try:
        with gzip.GzipFile(fileobj=file) as packed:
            while chunk := packed.read(1_000_000):
                out.write(chunk)
                if out.tell() > _MOST_UNPACKED:
                    raise refused("Unpacked this file is too large: at most 400 MB are opened.")
    except (OSError, EOFError):
        raise refused("This file is packed (gzip), and cannot be unpacked.") from None
    out.seek(0)
    return out


def _text(file: IO[bytes], start: bytes) -> IO[str]:
    """A file as text: in UTF-8 or UTF-16 where it is that, else as older programs of the western
    world write it."""
    encoding = "utf-8-sig"
    if start[:2] in (b"\xff\xfe", b"\xfe\xff"):
        encoding = "utf-16"
    else:
        decoder = codecs.getincrementaldecoder("utf-8")()
        try:
            while chunk := file.read(1_000_000):
                decoder.decode(chunk)
            decoder.decode(b"", final=True)
        except UnicodeDecodeError:
            encoding = "cp1252"
        file.seek(0)
    return io.TextIOWrapper(file, encoding=encoding, errors="replace", newline="")


def _parquet(file: IO[bytes], most_rows: int) -> Table:
    import polars as pl

    try:
        frame = pl.read_parquet(file)
    except (pl.exceptions.PolarsError, OSError) as error:
        raise refused(f"This is no Parquet file that can be opened: {error}.") from None
    _within(len(frame), frame.width, most_rows)
    notes: list[str] = []
    names = _each_once(frame.columns, notes)
    rows = ([cell_text(value) for value in row] for row in frame.iter_rows())
    return Table(names, rows, notes)


def _csv(text: IO[str]) -> Iterator[list[str]]:
    head = text.read(20_000)
    text.seek(0)
    lines = [line for line in head.splitlines() if line.strip()]
    said = re.fullmatch(r"sep=(.)", lines[0].strip(), re.I) if lines else None
    if said:
        # The line with which some programs name the mark between cells.
        text.readline()
        lines = lines[1:]
    mark = (
        said[1]
        if said
        else max(",;\t|", key=lambda each: max(map(_counts(each), lines[:20] or [""])))
    )
    try:
        yield from csv.reader(text, delimiter=mark)
    except (csv.Error, UnicodeError) as error:
        raise refused(f"This is not a table that can be read: {error}.") from None


def _counts(mark: str) -> Callable[[str], int]:
    return lambda line: line.count(mark)


def _workbook(file: IO[bytes], notes: list[str]) -> Iterator[list[str]]:
    from python_calamine import CalamineError, load_workbook

    if zipfile.is_zipfile(file):
        with zipfile.ZipFile(file) as packed:
            if sum(each.file_size for each in packed.infolist()) > _MOST_UNPACKED:
                raise refused("Unpacked this workbook is too large: at most 400 MB are opened.")
            for sheet in packed.infolist():
                if sheet.filename.startswith("xl/worksheets/") and sheet.filename.endswith(".xml"):
                    with packed.open(sheet) as content:
                        _declared(content.read(_HEAD))
    file.seek(0)
    try:
        book = load_workbook(file)
        named = book.sheet_names
        sizes = {name: book.get_sheet_by_name(name) for name in named}
        # The first sheet that has a table on it: two columns and two rows at the least.
        chosen = next(
            (name for name in named if sizes[name].height > 1 and sizes[name].width > 1),
            named[0] if named else None,
        )
        if chosen is None:
            raise refused("This workbook has no sheets.")
        if len(named) > 1:
            others = ", ".join(f"“{name}”" for name in named if name != chosen)
            notes.append(f"The sheet “{chosen}” is read, not {others}.")
        for row in sizes[chosen].iter_rows():
            yield [cell_text(value) for value in row]
    except CalamineError as error:
        raise refused(f"This is no workbook that can be opened: {error}.") from None


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
            f"A sheet of this workbook is {int(said[2]):,} rows by {columns:,} columns: no table "
            "so large is opened. Delete what is empty around the table."
        )


def cell_text(value: object) -> str:
    """A value as the text that stands in a cell; nothing where there is none."""
    if value is None or value != value:  # noqa: PLR0124  (no number)
        return ""
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


def _json_lines(every_row: Callable[[], Iterator[dict[str, Any]]], most_rows: int) -> Table:
    """Read twice: for the names first, so that a row need not be kept."""
    names: dict[str, None] = {}
    for rows, row in enumerate(every_row(), 1):
        names |= dict.fromkeys(row)
        _within(rows, len(names), most_rows)
    listed = list(names)
    cells = ([_json_cell(row.get(name)) for name in listed] for row in every_row())
    return Table(listed, cells, [])


def _json_array(text: IO[str]) -> list[dict[str, Any]]:
    """A list of loans in brackets, each in braces."""
    try:
        rows = json.load(text, parse_float=str, parse_int=str)
    except (ValueError, RecursionError):
        raise refused("This is not JSON: a list of loans in brackets, each in braces.") from None
    for number, row in enumerate(rows, 1):
        if not isinstance(row, dict):
            raise refused(f"Entry {number} of the list is not one loan in braces.")
    return rows  # type: ignore[no-any-return]


def _json_rows(text: IO[str]) -> Iterator[dict[str, Any]]:
    text.seek(0)
    for number, line in enumerate(text, 1):
        if not line.strip():
            continue
        try:
            row = json.loads(line, parse_float=str, parse_int=str)
        except (ValueError, RecursionError):
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


def _tidy(lines: Iterator[list[str]], name: str, most_rows: int, notes: list[str]) -> Table:
    """Names from the row that holds them, rows made as long as it; empty rows left out."""
    filled = (line for line in lines if any(map(str.strip, line)))
    first = list(islice(filled, _MOST_TITLES))
    if not first:
        raise refused(
            f"{name or 'This file'} is empty: a row of names and rows of loans are expected."
        )
    head, first = _head(first, notes)
    _within(0, len(head), most_rows)
    names = _each_once(head, notes)
    width = len(names)

    def rows() -> Iterator[list[str]]:
        for number, line in enumerate(chain(first, filled), 1):
            if number > most_rows:
                _within(number, width, most_rows)
            if len(line) == width and max(map(len, line)) <= _MOST_CELL:
                yield line
                continue
            cells = [cell[:_MOST_CELL] for cell in line[:width]]
            yield cells + [""] * (width - len(cells))

    return Table(names, rows(), notes)


#: Lines among which the names of columns are looked for: titles may stand above them.
_MOST_TITLES: Final = 12
_TWO_ROWS: Final = "Two rows hold the names of columns: they are read together."


def _trimmed(line: list[str]) -> list[str]:
    end = len(line)
    while end and not line[end - 1].strip():
        end -= 1
    return line[:end]


def _head(first: list[list[str]], notes: list[str]) -> tuple[list[str], list[list[str]]]:
    """The names of columns, from one row or two under each other, and the rows after them."""
    widest = max(sum(bool(cell.strip()) for cell in line) for line in first)
    at = next(
        (
            place
            for place, line in enumerate(first)
            if _holds_names(line) and 2 * sum(bool(cell.strip()) for cell in line) > widest
        ),
        None,
    )
    if at is None:
        if not any(_is_name(cell) for cell in first[0]):
            notes.append("The first row holds no names of columns: they are numbered.")
            return [f"Column {n}" for n in range(1, len(_trimmed(first[0])) + 1)], first
        at = 0
    above = _trimmed(first[at - 1]) if at else []
    has_gaps = any(not cell.strip() for cell in above)
    groups = above if has_gaps and _holds_names(above, all_of_it=True) else []
    for line in first[: at - 1 if groups else at]:
        title = " ".join(cell.strip() for cell in line if cell.strip())[:80]
        notes.append(f"“{title}” stands above the names of columns and is left out.")
    head, rest = _trimmed(first[at]), first[at + 1 :]
    if groups:
        notes.append(_TWO_ROWS)
        return _joined_heads(groups, head), rest
    if rest and any(not cell.strip() for cell in head) and _holds_names(rest[0], all_of_it=True):
        notes.append(_TWO_ROWS)
        return _joined_heads(head, rest[0]), rest[1:]
    return head, rest


def _holds_names(line: list[str], *, all_of_it: bool = False) -> bool:
    """Whether a row reads as names of columns: two at the least, and hardly a number."""
    cells = [cell for cell in line if cell.strip()]
    names = sum(map(_is_name, cells))
    return names >= 2 and (names == len(cells) if all_of_it else 2 * names > len(cells))


def _joined_heads(above: list[str], below: list[str]) -> list[str]:
    """Names over several columns stand before those under them."""
    below, over, joined = _trimmed(below), "", []
    for place in range(max(len(above), len(below))):
        over = (above[place].strip() if place < len(above) else "") or over
        under = below[place].strip() if place < len(below) else ""
        joined.append(f"{over} {under}".strip())
    return joined


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


class Packed(NamedTuple):
    """A table read: its names, what was done about them, its rows as columns of Parquet; which
    columns its names say are which figures, and what the cells of these say of how they are
    written."""

    names: list[str]
    notes: list[str]
    rows: int
    content: bytes
    matched: dict[FieldName, int]
    looked: Looked


def read_packed(path: str, name: str) -> Packed:
    """A table from a file on disk, whole. Raises `NotALoan` where it cannot be read or is empty."""
    import polars as pl

    with Path(path).open("rb") as file:
        table = read(file, name)
        columns: list[list[str]] = [[] for _ in table.names]
        while rows := list(islice(table.rows, 10_000)):
            look()
            for column, cells in zip(columns, zip(*rows, strict=True), strict=True):
                column.extend(cells)
    if not columns or not columns[0]:
        raise refused("There is not a single row of a loan in it.")
    frame = pl.DataFrame(
        {column_name(place): column for place, column in enumerate(columns)},
        schema={column_name(place): pl.String for place in range(len(columns))},
    )
    out = io.BytesIO()
    frame.write_parquet(out)
    matched = match(table.names)
    looked = look_at({name: columns[place] for name, place in matched.items()}, columns)
    return Packed(table.names, table.notes, len(frame), out.getvalue(), matched, looked)


def column_name(place: int) -> str:
    """What a column of the file is called inside."""
    return f"c{place}"


# Out


def csv_lines(
    names: Sequence[str], rows: Iterator[Sequence[str]], *, marked: bool = True
) -> Iterator[str]:
    """A table line by line; no cell is a formula to whoever opens it.

    `marked`: begins with the mark of UTF-8, which office programs need to read it as that.
    """
    yield ("\ufeff" if marked else "") + csv_text([[name] for name in names])
    while some := list(islice(rows, 2_000)):
        yield csv_text(list(zip(*some, strict=True)))


#: What stands in quotes in CSV, but for the ends of lines.
_QUOTED: Final = re.compile(r'[",\r]')
#: What may be taken for a formula.
_FORMULA: Final = re.compile(r"^[=+\-@\t\r]", re.MULTILINE)


def csv_text(columns: Sequence[Sequence[str]], ours: range = range(0)) -> str:
    """Rows of a table, told by its columns, as lines of CSV; `ours` are the places of those that
    hold our own numbers and words, none of which means something in it."""
    safe = []
    plain = len(columns) > 1
    for place, column in enumerate(columns):
        if place in ours:
            safe.append(column)
            continue
        cells, text = column, "\n".join(column)
        if _FORMULA.search(text):
            cells = [as_text(cell) for cell in column]
            text = "\n".join(cells)
        plain &= text.count("\n") == len(cells) - 1 and not _QUOTED.search(text)
        safe.append(cells)
    rows = zip(*safe, strict=True)
    if plain:
        return "".join([f"{line}\r\n" for line in map(",".join, rows)])
    out = io.StringIO()
    csv.writer(out, lineterminator="\r\n").writerows(rows)
    return out.getvalue()


def apart(names: Sequence[str]) -> list[str]:
    """The names of a table's own columns and of results after them, each once: a result whose name
    a column has already is called `found_` and that."""
    return [f"found_{name}" if name in names[:at] else name for at, name in enumerate(names)]


def json_lines(names: Sequence[str], rows: Iterator[Sequence[str]]) -> Iterator[str]:
    """A loan in braces on each line, every column by a name of its own; what is empty is left
    out."""
    each_once = apart(names)
    for row in rows:
        told = {name: cell for name, cell in zip(each_once, row, strict=True) if cell}
        yield json.dumps(told, ensure_ascii=False) + "\n"


def texts(frame: "pl.DataFrame", columns: Sequence[str]) -> Iterator[list[str]]:
    """Columns of a result as rows of texts."""
    for row in frame.select(columns).iter_rows():
        yield [str(cell) if cell is not None else "" for cell in row]


def workbook_of(content: bytes, named: Sequence[tuple[str, str]], plain: Sequence[bool]) -> bytes:
    """A result, as columns of Parquet, as a workbook; each column with its name inside and its
    title."""
    import polars as pl

    frame = pl.read_parquet(io.BytesIO(content))
    rows = texts(frame, [name for name, _ in named])
    with workbook([title for _, title in named], rows, plain, frame.height) as file:
        return file.read()


def workbook(
    names: Sequence[str], rows: Iterator[Sequence[str]], plain: Sequence[bool], height: int
) -> IO[bytes]:
    """So many rows as a workbook; the columns that are `plain` hold numbers, the others texts."""
    import xlsxwriter

    file = tempfile.TemporaryFile()  # noqa: SIM115  (whoever streams it closes it)
    book = xlsxwriter.Workbook(file, {"constant_memory": True})
    sheet = book.add_worksheet("Loans")
    bold = book.add_format({"bold": True})
    for column, name in enumerate(names):
        sheet.write_string(0, column, name, bold)
    for at, row in enumerate(rows, 1):
        grown(at, height)
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
