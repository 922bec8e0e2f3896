"""Texts in the language of whoever reads them."""

import re
from collections.abc import Iterator, Mapping
from typing import Any, Final, Self, TypeVar, overload

from .reading import ENGLISH, reading
from .translations import Translation, translation

K = TypeVar("K")
_PLACE: Final = re.compile(r"\{(\w+)\}")
#: What stands around a text that is put to another one.
_AROUND: Final = re.compile(r"(\s*)(.*?)(\s*)", re.DOTALL)


def _read() -> Translation | None:
    who = reading()
    return None if who.language == ENGLISH.language else translation(who.language)


def worded(text: str, /, **places: object) -> str:
    """A text in the reader's language, with what stands in its places: "{day} lies outside".

    Places that are not given stay as they are, to be filled later.
    """
    read = _read()
    if read is not None:
        before, core, after = _AROUND.fullmatch(text).groups()  # type: ignore[union-attr]
        text = before + read.texts.get(core, core) + after
    return _filled(text, places)


def counted(one: str, many: str, number: int, /, **places: object) -> str:
    """A text that counts: in English of one, and of any other number."""
    read = _read()
    said = read.counting.get(one) if read is not None else None
    if read is None or said is None:
        return _filled(one if number == 1 else many, places)
    return _filled(said[min(read.form(_category(number)), len(said) - 1)], places)


def _category(number: int) -> str:
    from babel import Locale

    return str(Locale.parse(reading().language).plural_form(number))


def _filled(text: str, places: Mapping[str, object]) -> str:
    if not places or "{" not in text:
        return text
    return _PLACE.sub(lambda place: str(places.get(place[1], place[0])), text)


class Said:
    """A field of a record (a named tuple) that is a text, in the language of whoever reads it: put
    in a class made of the record, under the name of the field."""

    def __set_name__(self, owner: type[tuple[Any, ...]], name: str) -> None:
        self._place: int = owner._fields.index(name)  # type: ignore[attr-defined]

    @overload
    def __get__(self, record: None, owner: type) -> Self: ...

    @overload
    def __get__(self, record: tuple[Any, ...], owner: type) -> str: ...

    def __get__(self, record: tuple[Any, ...] | None, owner: type) -> Self | str:
        return self if record is None else worded(record[self._place])


class Worded(Mapping[K, str]):
    """Texts by their names, each in the language of whoever reads it."""

    def __init__(self, texts: Mapping[K, str]) -> None:
        self._texts = dict(texts)

    def __getitem__(self, name: K) -> str:
        """The text of a name."""
        return worded(self._texts[name])

    def __iter__(self) -> Iterator[K]:
        """The names."""
        return iter(self._texts)

    def __len__(self) -> int:
        """How many there are."""
        return len(self._texts)
