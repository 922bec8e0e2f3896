"""Where text can be cut: at ends of lines that are ends of rows."""

import csv
import io
from collections.abc import Iterator
from typing import IO, Final, NamedTuple

from zephyrant.texts import worded

from .table import refused

#: Bytes a line may have.
_MOST_A_LINE: Final = 16_000_000
#: Stands after what was read, to see whether its last row was at its end.
_AFTER: Final = "\x01"


class Cut(NamedTuple):
    """Bytes of a file from `start` to `stop`, and how many ends of lines are in them."""

    start: int
    stop: int
    content: bytes

    @property
    def lines(self) -> int:
        """Ends of lines."""
        return self.content.count(b"\n")


def ends_of_lines(beginning: bytes, *, is_all: bool) -> bool:
    """Whether the lines of a file that begins so end as they do today."""
    return b"\n" in beginning or (is_all and b"\r" not in beginning)


def cuts_of(file: IO[bytes], begin: int, size: int, mark: str | None) -> Iterator[Cut]:
    """A file from a byte on in parts of at least so many bytes, the last as long as it is; of CSV
    with the mark between its cells no row is cut, of JSON Lines (None) no line."""
    file.seek(begin)
    content = b""
    while chunk := _lines(file, size):
        content += chunk
        # Without quotes every end of a line is the end of a row.
        plain = mark is None or b'"' not in content
        end = len(content) if plain else _end_of_rows(content, mark or "")
        if end:
            yield Cut(begin, begin + end, content[:end])
            begin, content = begin + end, content[end:]
    if content:
        yield Cut(begin, begin + len(content), content)


def _lines(file: IO[bytes], size: int) -> bytes:
    """So many bytes, and those to the end of the line."""
    chunk = file.read(size)
    if chunk and not chunk.endswith(b"\n"):
        rest = file.readline(_MOST_A_LINE)
        if len(rest) == _MOST_A_LINE:
            raise refused(worded("A line of it has more than 16 MB: this is no table."))
        chunk += rest
    return chunk


def _end_of_rows(content: bytes, mark: str) -> int:
    """How many bytes of CSV hold whole rows: the last may have been cut within a cell in quotes."""
    read = end = before = 0

    def lines() -> Iterator[str]:
        nonlocal read
        # Quotes and marks are the same bytes in UTF-8 and in older encodings.
        for line in io.StringIO(content.decode("latin-1") + _AFTER, newline=""):
            read += len(line)
            yield line

    last: list[str] = []
    try:
        for row in csv.reader(lines(), delimiter=mark):
            last, before, end = row, end, read
    except csv.Error:
        # It says so whoever reads it.
        return len(content)
    return len(content) if last == [_AFTER] else before
