"""The files of translations: those of gettext, read as they are; a file is all a language takes."""

import logging
import re
from collections.abc import Mapping
from functools import cache
from gettext import c2py
from importlib.resources import files
from importlib.resources.abc import Traversable
from pathlib import Path
from typing import Any, Final, NamedTuple

#: The language the texts are written in.
WRITTEN: Final = "en"
_log = logging.getLogger(__name__)
_PLACE: Final = re.compile(r"\{(\w+)\}")
#: As a file of a language is called: `de`, `pt_BR`, `zh_Hant`.
_CODE: Final = re.compile(r"[a-z]{2,3}(_[A-Za-z]{2,4})*")
#: Numbers by which it is seen which form of a language a category of plurals takes.
_NUMBERS: Final = range(201)
_OURS: Final = files(__package__).joinpath("languages")
_folders: list[Path] = []


class Translation(NamedTuple):
    """The texts of a language by the English ones: `texts` those that do not count, `counting` the
    plural forms of those that do; `forms`: which of these a category of plurals takes (CLDR);
    `shown`: the English ones that the screen itself says."""

    texts: Mapping[str, str]
    counting: Mapping[str, tuple[str, ...]]
    forms: Mapping[str, int]
    shown: frozenset[str]

    def form(self, category: str) -> int:
        """Which plural form a category takes."""
        return self.forms.get(category, max(self.forms.values(), default=0))


def look_in(folder: Path) -> None:
    """Translations are looked for in this folder, too; a file there stands for one of ours."""
    if folder not in _folders:
        _folders.append(folder)
        languages.cache_clear()
        _kept.cache_clear()


def looked_in() -> tuple[Path, ...]:
    """Where translations are looked for besides ours; of two files the later one stands."""
    return tuple(_folders)


@cache
def languages() -> Mapping[str, Traversable]:
    """The file of every language there is besides English, by its code."""
    found = {
        file.name.removesuffix(".po"): file
        for folder in (_OURS, *_folders)
        if folder.is_dir()
        for file in folder.iterdir()
        if file.name.endswith(".po") and _is_one(file.name.removesuffix(".po"))
    }
    return dict(sorted(found.items()))


def _is_one(code: str) -> bool:
    """Whether this is the code of a language that is known."""
    from babel import Locale, UnknownLocaleError

    try:
        return code != WRITTEN and bool(_CODE.fullmatch(code) and Locale.parse(code))
    except (UnknownLocaleError, ValueError):
        return False


def translation(language: str) -> Translation | None:
    """The texts of a language; None of English, and of one that has no file, or none that can be
    read.

    What is not translated, is marked as fuzzy, or has a place that the English text has not is left
    out: it is said in English.
    """
    # What is no language is not kept: anything may be asked for.
    return _kept(language) if language in languages() else None


@cache
def _kept(language: str) -> Translation | None:
    try:
        return _read(language, languages()[language])
    except (OSError, ValueError):
        _log.exception("the texts of %s cannot be read", language)
        return None


def _read(language: str, file: Traversable) -> Translation:
    from babel.messages.pofile import read_po

    with file.open("rb") as opened:
        catalog = read_po(opened, locale=language)
    texts, counting, shown = {}, {}, set()
    for message in catalog:
        if not message.id or message.fuzzy:
            continue
        first, *_ = ids = _forms_of(message.id)
        said = _forms_of(message.string)
        if not all(said) or any(_places(each) - _places(ids[-1]) for each in said):
            continue
        if len(ids) > 1:
            counting[first] = said
        else:
            texts[first] = said[0]
        if any(place.startswith("web/") for place, _ in message.locations):
            shown.add(first)
    return Translation(texts, counting, _forms(language, catalog.plural_expr), frozenset(shown))


def _forms_of(text: Any) -> tuple[str, ...]:  # noqa: ANN401 (babel's own)
    return (text,) if isinstance(text, str) else tuple(text)


def _places(text: str) -> set[str]:
    return set(_PLACE.findall(text))


def _forms(language: str, expression: str) -> dict[str, int]:
    from babel import Locale

    category, form = Locale.parse(language).plural_form, c2py(expression)
    return {category(number): form(number) for number in reversed(_NUMBERS)}
