"""Tables of loans read from files, within limits: CSV, workbooks, Parquet, Arrow and JSON."""

import codecs
import csv
import gzip
import io
import json
import re
import tempfile
from collections.abc import Callable, Iterator
from typing import IO, TYPE_CHECKING, Any, Final

from zephyrant.texts import worded

from .heads import each_once, tidy
from .kinds import EXACT, JSON, TEXT, WHOLE, Seen, kind_of, kind_of_type, texts_of
from .limits import MOST_ROWS, MOST_UNPACKED
from .sheets import OnSheets, tables_of
from .table import Table, hold_within, refused

if TYPE_CHECKING:
    import polars as pl
# What only some kinds of files need is loaded with the first of them.


def read(file: IO[bytes], name: str, most_rows: int = MOST_ROWS, sheet: str | None = None) -> Table:
    """A table from a file, by what is in it: a workbook, Parquet, Arrow, JSON, else CSV; packed or
    not. Of a workbook the table on a sheet, else the first.

    Rows are read as they are taken. Raises `NotALoan` where it is none of them, or is too much.
    """
    first, *others = read_each(file, name, most_rows, sheet)
    if others:
        listed = ", ".join(f"“{each}”" for other in others for each in other.sheets)
        first.table.notes.append(
            worded("With other columns, and not read: {listed}.", listed=listed)
        )
    return first.table


def read_each(
    file: IO[bytes], name: str, most_rows: int = MOST_ROWS, sheet: str | None = None
) -> list[OnSheets]:
    """Every table of a file: several of a workbook whose sheets have different columns."""
    start = _start(file)
    if start.startswith(_GZIP):
        file, name = _unpacked(file), name.removesuffix(".gz")
        start = _start(file)
    if start.startswith(_GZIP):
        # There are files that unpack to themselves.
        raise refused(worded("This file is packed (gzip) more than once: unpack it once."))
    if start.startswith(b"PK") or start.startswith(b"\xd0\xcf\x11\xe0"):
        return tables_of(file, name, most_rows, sheet)
    if sheet is not None:
        raise refused(worded("There is no sheet “{sheet}”: this is no workbook.", sheet=sheet))
    return [OnSheets((), _one_table(file, start, name, most_rows))]


_GZIP: Final = b"\x1f\x8b"


def _start(file: IO[bytes]) -> bytes:
    """How a file begins."""
    file.seek(0)
    start = file.read(8)
    file.seek(0)
    return start


def _one_table(file: IO[bytes], start: bytes, name: str, most_rows: int) -> Table:
    for magic, form in _WITH_TYPES.items():
        if start.startswith(magic):
            return _with_types(file, form, most_rows)
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
            worded(
                "This is no table: a CSV, XLSX, XLS, Parquet, Arrow, JSON or JSON Lines "
                "file is expected."
            )
        )
    return tidy(_csv(text), name, most_rows)


def _unpacked(file: IO[bytes]) -> IO[bytes]:
    """What a gzip file holds, no more of it than may be opened."""
    out: IO[bytes] = tempfile.TemporaryFile()  # noqa: SIM115  (closed with the last that reads it)
    try:
        with gzip.GzipFile(fileobj=file) as packed:
            while chunk := packed.read(1_000_000):
                out.write(chunk)
                if out.tell() > MOST_UNPACKED:
                    raise refused(
                        worded("Unpacked this file is too large: at most 400 MB are opened.")
                    )
    except (OSError, EOFError):
        raise refused(worded("This file is packed (gzip), and cannot be unpacked.")) from None
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


#: How files begin whose columns have types, and what they are called. Arrow as a stream begins with
#: the mark of a message that goes on, and its length.
_WITH_TYPES: Final = {
    b"PAR1": "Parquet",
    b"ARROW1": "Arrow",
    b"\xff\xff\xff\xff": "Arrow",
}


def _with_types(file: IO[bytes], form: str, most_rows: int) -> Table:
    import polars as pl

    reads = pl.read_parquet if form == "Parquet" else _arrow
    try:
        frame = reads(file)
    except (pl.exceptions.PolarsError, OSError) as error:
        raise refused(
            worded("This is no {form} file that can be opened: {error}.", form=form, error=error)
        ) from None
    hold_within(len(frame), frame.width, most_rows)
    notes: list[str] = []
    names = each_once(frame.columns, notes)
    kinds = [kind_of_type(each) for each in frame.dtypes]

    def rows() -> Iterator[list[str]]:
        for part in frame.iter_slices(_TOGETHER):
            yield from map(list, zip(*map(texts_of, part.iter_columns()), strict=True))

    return Table(names, rows(), notes, kinds)


#: Rows of a table with types that become texts at once.
_TOGETHER: Final = 10_000


def _arrow(file: IO[bytes]) -> "pl.DataFrame":
    import polars as pl

    # As bytes: the library looks past what Python has read of a file already.
    content = file.read()
    is_file = content.startswith(b"ARROW1")
    return pl.read_ipc(content) if is_file else pl.read_ipc_stream(content)


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
        raise refused(
            worded("This is not a table that can be read: {error}.", error=error)
        ) from None


def _counts(mark: str) -> Callable[[str], int]:
    return lambda line: line.count(mark)


def _json_lines(every_row: Callable[[], Iterator[dict[str, Any]]], most_rows: int) -> Table:
    """Read twice: for the names first, and what stands under them, so that a row need not be
    kept."""
    names: dict[str, int] = {}
    seen = Seen()
    for rows, row in enumerate(every_row(), 1):
        for name in row:
            names.setdefault(name, len(names))
        seen.add(_json_kind(row.get(name)) for name in names)
        hold_within(rows, len(names), most_rows)
    listed = list(names)
    cells = ([_json_cell(row.get(name)) for name in listed] for row in every_row())
    return Table(listed, cells, [], seen.kinds(len(listed)))


class _Number(str):
    """A number of JSON, as it stands there."""

    __slots__ = ()


def _load(text: str | IO[str]) -> Any:  # noqa: ANN401  (whatever stands there)
    content = text if isinstance(text, str) else text.read()
    return json.loads(content, parse_float=_Number, parse_int=_Number)


def _json_kind(value: object) -> str:
    if isinstance(value, _Number):
        is_whole = value.lstrip("-").isdigit()
        return EXACT if not is_whole else WHOLE if len(value) <= _WHOLE_DIGITS else TEXT
    return JSON if isinstance(value, (list, dict)) else kind_of(value)


#: Characters of a whole number that sixty-four bits hold, whichever it is.
_WHOLE_DIGITS: Final = 18


def _json_array(text: IO[str]) -> list[dict[str, Any]]:
    """A list of loans in brackets, each in braces."""
    try:
        rows = _load(text)
    except (ValueError, RecursionError):
        raise refused(
            worded("This is not JSON: a list of loans in brackets, each in braces.")
        ) from None
    for number, row in enumerate(rows, 1):
        if not isinstance(row, dict):
            raise refused(
                worded("Entry {number} of the list is not one loan in braces.", number=number)
            )
    return rows  # type: ignore[no-any-return]


def _json_rows(text: IO[str]) -> Iterator[dict[str, Any]]:
    text.seek(0)
    for number, line in enumerate(text, 1):
        if not line.strip():
            continue
        try:
            row = _load(line)
        except (ValueError, RecursionError):
            raise refused(
                worded("Line {number} is not JSON: each line is one loan in braces.", number=number)
            ) from None
        if not isinstance(row, dict):
            raise refused(worded("Line {number} is not one loan in braces.", number=number))
        yield row


def _json_cell(value: object) -> str:
    if value is None or isinstance(value, str):
        return value or ""
    return json.dumps(_numbers(value), ensure_ascii=False)


def _numbers(value: Any) -> Any:  # noqa: ANN401  (whatever stands there)
    """The numbers inside lists and braces as numbers."""
    if isinstance(value, _Number):
        return int(value) if value.lstrip("-").isdigit() else float(value)
    if isinstance(value, dict):
        return {name: _numbers(each) for name, each in value.items()}
    return [_numbers(each) for each in value] if isinstance(value, list) else value
