"""Tables read from text: how it is encoded, which mark stands between cells."""

import codecs
import csv
import io
import re
from collections.abc import Callable, Iterator
from typing import IO, Final

from zephyrant.texts import worded

from .table import refused

UTF_16: Final = "utf-16"
_AT_ONCE: Final = 1_000_000


def encoding_of(file: IO[bytes], start: bytes) -> str:
    """How a file is encoded, which begins so: in UTF-8 or UTF-16 where it is that, else as older
    programs of the western world write it."""
    if start[:2] in (b"\xff\xfe", b"\xfe\xff"):
        return UTF_16
    file.seek(0)
    checking = Utf8()
    while chunk := file.read(_AT_ONCE):
        checking.add(chunk)
    checking.add(b"", is_last=True)
    file.seek(0)
    return checking.encoding


class Utf8:
    """Whether a file is UTF-8, as it comes by."""

    def __init__(self) -> None:
        self._decoder = codecs.getincrementaldecoder("utf-8")()
        self._holds = True

    def add(self, chunk: bytes, *, is_last: bool = False) -> None:
        """The next part of it."""
        if self._holds:
            try:
                self._decoder.decode(chunk, final=is_last)
            except UnicodeDecodeError:
                self._holds = False

    @property
    def encoding(self) -> str:
        """How all of it is encoded."""
        return "utf-8-sig" if self._holds else OLDER


#: As older programs of the western world write.
OLDER: Final = "cp1252"


def decoded(file: IO[bytes], encoding: str) -> IO[str]:
    """A file as text; ends of lines stay what they are."""
    return io.TextIOWrapper(file, encoding=encoding, errors="replace", newline="")


#: Characters at the beginning of a file by which one knows the mark between cells.
HEAD: Final = 20_000


class CsvHead:
    """How CSV begins: whether its first line names the mark between cells, and this mark."""

    def __init__(self, head: str) -> None:
        lines = [line for line in head.splitlines() if line.strip()]
        said = re.fullmatch(r"sep=(.)", lines[0].strip(), re.I) if lines else None
        #: The line with which some programs name the mark stands there.
        self.names_it = said is not None
        self.mark: str = (
            said[1]
            if said
            else max(",;\t|", key=lambda each: max(map(_counts(each), lines[:20] or [""])))
        )


def _counts(mark: str) -> Callable[[str], int]:
    return lambda line: line.count(mark)


def csv_lines(text: IO[str]) -> Iterator[list[str]]:
    """The lines of CSV from its beginning, each as cells."""
    head = CsvHead(text.read(HEAD))
    text.seek(0)
    if head.names_it:
        text.readline()
    yield from cells_of(text, head.mark)


def cells_of(lines: Iterator[str] | IO[str], mark: str) -> Iterator[list[str]]:
    """Lines of CSV, each as cells, by the mark between them. Raises `NotALoan`."""
    try:
        yield from csv.reader(lines, delimiter=mark)
    except (csv.Error, UnicodeError) as error:
        raise refused(
            worded("This is not a table that can be read: {error}.", error=error)
        ) from None
