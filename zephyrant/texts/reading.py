"""Who reads what is said now: their language and their country."""

from collections.abc import Callable, Iterable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from functools import lru_cache, update_wrapper
from typing import Final, Generic, NamedTuple, ParamSpec, TypeVar

P = ParamSpec("P")
T = TypeVar("T")


class Reading(NamedTuple):
    """Who reads: their language (a code of ISO 639, as its file is called), and the country by
    which they write days (ISO 3166); None: as written here, 1 Mar 2027."""

    language: str = "en"
    country: str | None = None


def tag(language: str) -> str:
    """A language as pages and files name it (BCP 47): "pt-BR" of pt_BR."""
    return language.replace("_", "-")


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


class KeptForEachReader(Generic[P, T]):
    """A function of which what it gave is kept for each reader apart: texts are in it."""

    def __init__(self, function: Callable[P, T], maxsize: int) -> None:
        update_wrapper(self, function)

        def made(_: Reading, *args: P.args, **named: P.kwargs) -> T:
            return function(*args, **named)

        kept = lru_cache(maxsize)(made)
        self._made: Callable[..., T] = kept
        self.cache_clear = kept.cache_clear

    def __call__(self, *args: P.args, **named: P.kwargs) -> T:
        """What the function gives for whoever reads now."""
        return self._made(reading(), *args, **named)


def for_each_reader(maxsize: int) -> Callable[[Callable[P, T]], KeptForEachReader[P, T]]:
    """As `lru_cache`, for each reader apart."""
    return lambda function: KeptForEachReader(function, maxsize)


def read_throughout(parts: Iterable[T]) -> Iterator[T]:
    """These parts, each made for whoever reads now, whoever reads when it is taken."""
    return _throughout(reading(), iter(parts))


def _throughout(reader: Reading, making: Iterator[T]) -> Iterator[T]:
    while True:
        with read_as(reader):
            try:
                part = next(making)
            except StopIteration:
                return
        yield part
