"""Tables of loans read from files, within limits: CSV, workbooks, Parquet, Arrow and JSON."""

import gzip
import tempfile
from collections.abc import Iterator
from typing import IO, TYPE_CHECKING, Final

from zephyrant.loans import NotALoan
from zephyrant.texts import worded

from .heads import each_once, tidy
from .json_in import json_array, json_rows, table_of_json
from .kinds import kind_of_type, texts_of
from .limits import MOST_ROWS, MOST_UNPACKED
from .sheets import OnSheets, tables_of
from .table import Table, hold_within, refused
from .text_in import csv_lines, decoded, encoding_of

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
    start = start_of(file)
    if start.startswith(GZIP):
        file, name = unpacked(file), name.removesuffix(".gz")
        start = start_of(file)
    if start.startswith(GZIP):
        # There are files that unpack to themselves.
        raise refused(worded("This file is packed (gzip) more than once: unpack it once."))
    if start.startswith(b"PK") or start.startswith(b"\xd0\xcf\x11\xe0"):
        return tables_of(file, name, most_rows, sheet)
    if sheet is not None:
        raise refused(worded("There is no sheet “{sheet}”: this is no workbook.", sheet=sheet))
    return [OnSheets((), _one_table(file, start, name, most_rows))]


GZIP: Final = b"\x1f\x8b"


def start_of(file: IO[bytes]) -> bytes:
    """How a file begins."""
    file.seek(0)
    start = file.read(8)
    file.seek(0)
    return start


def _one_table(file: IO[bytes], start: bytes, name: str, most_rows: int) -> Table:
    for magic, form in _WITH_TYPES.items():
        if start.startswith(magic):
            return _with_types(file, form, most_rows)
    text = decoded(file, encoding_of(file, start))
    head = text.read(200).lstrip()
    text.seek(0)
    if head[:1] == "{":
        return table_of_json(lambda: json_rows(text), most_rows)
    if head[:1] == "[":
        rows = json_array(text)
        return table_of_json(lambda: iter(rows), most_rows)
    if "\x00" in head:
        raise no_table()
    return tidy(csv_lines(text), name, most_rows)


def no_table() -> NotALoan:
    """A file in which no table stands."""
    return refused(
        worded(
            "This is no table: a CSV, XLSX, XLS, Parquet, Arrow, JSON or JSON Lines "
            "file is expected."
        )
    )


def unpacked(file: IO[bytes]) -> IO[bytes]:
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
        raise not_opened(form, error) from None
    hold_within(len(frame), frame.width, most_rows)
    notes: list[str] = []
    names = each_once(frame.columns, notes)
    kinds = [kind_of_type(each) for each in frame.dtypes]
    return Table(names, rows_of_frame(frame), notes, kinds)


def not_opened(form: str, error: Exception) -> NotALoan:
    """A file whose columns have types which the library cannot open."""
    return refused(
        worded("This is no {form} file that can be opened: {error}.", form=form, error=error)
    )


def rows_of_frame(frame: "pl.DataFrame") -> Iterator[list[str]]:
    """The rows of a table with types, as texts."""
    for part in frame.iter_slices(_TOGETHER):
        yield from map(list, zip(*map(texts_of, part.iter_columns()), strict=True))


#: Rows of a table with types that become texts at once.
_TOGETHER: Final = 10_000


def _arrow(file: IO[bytes]) -> "pl.DataFrame":
    import polars as pl

    # As bytes: the library looks past what Python has read of a file already.
    content = file.read()
    is_file = content.startswith(b"ARROW1")
    return pl.read_ipc(content) if is_file else pl.read_ipc_stream(content)
