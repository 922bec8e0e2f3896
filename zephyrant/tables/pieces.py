"""Long files cut into pieces that are read apart, each row in one of them: Parquet, CSV and JSON
Lines, of one file or all those of a folder. What a piece holds is what the whole file, read at
once, holds there.
"""

import csv
import io
from collections.abc import Iterable, Iterator
from pathlib import Path
from typing import IO, Final, Literal, NamedTuple

from zephyrant.loans import NotALoan
from zephyrant.texts import worded

from . import files
from .cuts import cuts_of, ends_of_lines
from .heads import Head, each_once, filled
from .table import refused, unread
from .text_in import HEAD, CsvHead, Utf8, csv_lines, decoded, encoding_of

#: Bytes of a beginning in which the names of columns stand.
_BEGINNING: Final = 1_000_000
_ANY_NUMBER: Final = 2**62
#: Names that files have which are none of a tape, such as those that tell that a job is done.
_HIDDEN: Final = (".", "_")
_MAGIC_OF_PARQUET: Final = b"PAR1"
_OTHERS: Final = (b"PK", b"\xd0\xcf\x11\xe0", b"ARROW1", b"\xff\xff\xff\xff")


class TapeFile(NamedTuple):
    """A file of a tape as it lies there: how many bytes it has, when it was written (nanoseconds
    since 1970)."""

    name: str
    size: int
    written: int


class Piece(NamedTuple):
    """Rows of a file: bytes from `start` to `stop` of text, whose first line has the number `line`;
    rows of Parquet; or a file that cannot be cut (`whole`: packed, or in UTF-16)."""

    file: TapeFile
    form: Literal["csv", "json", "parquet", "whole", "whole-json"]
    start: int = 0
    stop: int = 0
    line: int = 1
    encoding: str = ""
    mark: str = ","
    names: tuple[str, ...] = ()


class Source(NamedTuple):
    """A tape: its pieces in the order of its rows, what was done about names."""

    pieces: list[Piece]
    notes: list[str]


def files_of(path: str) -> list[TapeFile]:
    """A file, or the files of a folder by their names. Raises `NotALoan` where there is none."""
    found = []
    for file in _files(path):
        try:
            lies = file.stat()
        except OSError as error:
            raise unread(str(file), error) from None
        found.append(TapeFile(str(file), lies.st_size, lies.st_mtime_ns))
    return found


def cut_tape(tape: Iterable[TapeFile], rows: int) -> Source:
    """Files cut into pieces of about so many rows; those of text are read from end to end.

    Raises `NotALoan` where one cannot be cut.
    """
    pieces: list[Piece] = []
    notes: dict[str, None] = {}
    for file in tape:
        try:
            source = _cut_file(file, rows)
        except OSError as error:
            raise unread(file.name, error) from None
        pieces += source.pieces
        notes |= dict.fromkeys(source.notes)
    return Source(pieces, list(notes))


def _files(path: str) -> list[Path]:
    at = Path(path).absolute()
    if not at.is_dir():
        return [at]
    inside = (
        each
        for each in sorted(at.rglob("*"))
        if not any(part.startswith(_HIDDEN) for part in each.relative_to(at).parts)
    )
    found = [each for each in inside if each.is_file()]
    if not found:
        raise NotALoan.at("", worded("There is no file in {folder}.", folder=path))
    return found


def _cut_file(of: TapeFile, rows: int) -> Source:
    with Path(of.name).open("rb") as file:
        try:
            if not of.size:
                raise _is_empty()
            return _cut(file, files.start_of(file), Piece(of, "whole"), rows)
        except NotALoan as error:
            message = f"{Path(of.name).name}: {error.errors[0].message}"
            raise NotALoan.at("file", message) from None


def _is_empty() -> NotALoan:
    return refused(worded("This file is empty: a row of names and rows of loans are expected."))


def _cut(file: IO[bytes], start: bytes, of: Piece, rows: int) -> Source:
    if start.startswith(files.GZIP):
        content = files.unpacked(file)
        is_json = _opening(content, encoding_of(content, files.start_of(content)))[:1] == "{"
        return Source([of._replace(form="whole-json" if is_json else "whole")], [])
    if start.startswith(_MAGIC_OF_PARQUET):
        return _cut_parquet(of, rows)
    if start.startswith(_OTHERS):
        raise _not_cut()
    if start[:2] in (b"\xff\xfe", b"\xfe\xff"):
        return Source([of], [])
    return _cut_text(file, of, rows)


def _not_cut() -> NotALoan:
    message = worded(
        "Only Parquet, CSV and JSON Lines are worked in parts: save it as one of them."
    )
    return refused(message)


def _opening(file: IO[bytes], encoding: str) -> str:
    file.seek(0)
    return file.read(1_000).decode(encoding, "replace").lstrip()


# Parquet


def _cut_parquet(of: Piece, rows: int) -> Source:
    import polars as pl

    notes: list[str] = []
    try:
        each_once(list(pl.read_parquet_schema(of.file.name)), notes)
        height = pl.scan_parquet(of.file.name).select(pl.len()).collect().item()
    except (pl.exceptions.PolarsError, OSError) as error:
        raise files.not_opened("Parquet", error) from None
    starts = range(0, height, rows) or (0,)
    return Source(
        [
            of._replace(form="parquet", start=start, stop=min(start + rows, height), line=start + 1)
            for start in starts
        ],
        notes,
    )


# Text


def _cut_text(file: IO[bytes], of: Piece, rows: int) -> Source:
    """CSV or JSON Lines: cut at ends of lines that are ends of rows."""
    file.seek(0)
    beginning = file.read(_BEGINNING)
    opening = beginning.decode("utf-8-sig", "replace").lstrip()
    if opening[:1] == "[":
        raise _not_cut()
    if "\x00" in opening[:200]:
        raise files.no_table()
    if not ends_of_lines(beginning, is_all=len(beginning) == of.file.size):
        # Lines end as no program writes them any more.
        return Source([of], [])
    is_json, head = opening[:1] == "{", CsvHead(_text(beginning, _encoding(beginning)).read(HEAD))
    if not head.mark.isascii():
        return Source([of], [])
    whole = of._replace(form="json" if is_json else "csv")
    begin, line = 0 if is_json else _below_head(beginning, head), 1
    a_row = max(1, len(beginning) // max(1, beginning.count(b"\n")))
    utf8 = Utf8()
    utf8.add(beginning[:begin])
    spans = []
    for cut in cuts_of(file, begin, rows * a_row, None if is_json else head.mark):
        utf8.add(cut.content)
        spans.append((cut.start, cut.stop, line))
        line += cut.lines
    utf8.add(b"", is_last=True)
    whole = whole._replace(encoding=utf8.encoding, mark=head.mark)
    notes: list[str] = []
    if not is_json:
        told = Head(_lines_of(beginning, whole.encoding), Path(of.file.name).name, _ANY_NUMBER)
        notes, whole = told.notes, whole._replace(names=tuple(told.names))
    pieces = [
        whole._replace(start=start, stop=stop, line=number)
        for start, stop, number in spans or [(begin, begin, line)]
    ]
    return Source(pieces, notes)


def _text(beginning: bytes, encoding: str) -> IO[str]:
    return decoded(io.BytesIO(beginning), encoding)


def _lines_of(beginning: bytes, encoding: str) -> Iterator[list[str]]:
    return filled(csv_lines(_text(beginning, encoding)))


def _below_head(beginning: bytes, named: CsvHead) -> int:
    """The byte where the rows of CSV begin, below its names."""
    above = Head(_lines_of(beginning, _encoding(beginning)), "", _ANY_NUMBER).above
    read = 0

    def lines() -> Iterator[str]:
        nonlocal read
        # Quotes and marks are the same bytes in each of these encodings.
        for line in io.StringIO(beginning.decode("latin-1"), newline=""):
            read += len(line)
            yield line

    text = lines()
    if named.names_it:
        next(text)
    rows = filled(csv.reader(text, delimiter=named.mark))
    for _ in range(above):
        next(rows)
    return read


def _encoding(beginning: bytes) -> str:
    checking = Utf8()
    checking.add(beginning)
    return checking.encoding
