"""Who reads what is said now: their language and their country."""

from collections.abc import Iterable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from typing import Final, NamedTuple, TypeVar

T = TypeVar("T")


class Reading(NamedTuple):
    """Who reads: their language (a code of ISO 639, as its file is called), and the country by
    which they write days (ISO 3166); None: as written here, 1 Mar 2027."""

    language: str = "en"
    country: str | None = None


#: Who reads where nobody says: files, the command, the grammar of lines.
ENGLISH: Final = Reading()
_NOW: Final = ContextVar("reading", default=ENGLISH)


def reading() -> Reading:
    """Who reads what is said now."""
    return _NOW.get()


@contextmanager
def read_as(reader: Reading) -> Iterator[None]:
    """What is said meanwhile is said to this reader."""
    before = _NOW.set(reader)
    try:
        yield
    finally:
        _NOW.reset(before)


def read_from_here(reader: Reading) -> None:
    """What is said until the end of the `read_as` around it is said to this reader."""
    _NOW.set(reader)


def read_throughout(parts: Iterable[T]) -> Iterator[T]:
    """These parts, each made for whoever reads now, whoever reads when it is taken."""
    reader, making = reading(), iter(parts)
    while True:
        with read_as(reader):
            try:
                part = next(making)
            except StopIteration:
                return
        yield part
