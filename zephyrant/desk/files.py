"""How files are made for an analyst, and who reads them: language, country, how CSV is written."""

import re
from collections.abc import Mapping
from functools import cache
from typing import Any, Final

from babel import Locale, UnknownLocaleError, negotiate_locale
from babel.dates import get_date_format
from django.contrib.auth.models import AnonymousUser, User
from django.db import transaction
from django.http import HttpRequest
from ninja import Schema
from pydantic import field_validator
from pydantic_core import PydanticCustomError

from zephyrant.loans import MARKS
from zephyrant.outlets.csv_form import CsvForm, DecimalName, SeparatorName
from zephyrant.outlets.reader import Reader, paper_of
from zephyrant.texts import ENGLISH, Reading, Worded, languages, reading, worded

from .people import name_of
from .preferences import forget, keep, kept, marks_of

_PLAIN_DAY: Final = "d mmm yyyy"


#: Codes that are told of, of unions, of the rest of a continent, and of nothing.
_NO_COUNTRIES: Final = frozenset(("EU", "EZ", "QO", "UN", "XA", "XB", "ZZ"))


def countries() -> dict[str, str]:
    """Every country by its code (ISO 3166), as whoever reads this calls it, by their names."""
    return _countries(reading().language)


@cache
def _countries(language: str) -> dict[str, str]:
    named = {
        code: name
        for code, name in Locale.parse(language).territories.items()
        if len(code) == 2 and code.isalpha() and code not in _NO_COUNTRIES
    }
    return dict(sorted(named.items(), key=lambda each: each[1]))


class HowFiles(Schema):
    """How files are made for an analyst. `language`: that of all texts, by its code (ISO 639);
    `country`: that of their paper and their days, by its code (ISO 3166); null: as their browser
    says. `bom`: CSV begins with the mark of UTF-8, by which office programs know it."""

    language: str | None = None
    country: str | None = None
    separator: SeparatorName = "comma"
    decimal: DecimalName = "point"
    bom: bool = True

    @field_validator("language")
    @classmethod
    def _is_there(cls, language: str | None) -> str | None:
        if language is not None and language not in known():
            raise PydanticCustomError(
                "language", worded("There is no translation to this language.")
            )
        return language

    @field_validator("country")
    @classmethod
    def _is_one(cls, country: str | None) -> str | None:
        if country is not None and country not in countries():
            raise PydanticCustomError("country", worded("There is no country of this code."))
        return country


def known() -> dict[str, str]:
    """Every language there is by its code, as it calls itself."""
    return {code: _own_name(code) for code in (ENGLISH.language, *languages())}


@cache
def _own_name(code: str) -> str:
    name = Locale.parse(code).get_display_name(code) or code
    return name[0].upper() + name[1:]


class CsvAsked(Schema):
    """How one file of CSV is to be written, where not as the analyst has chosen."""

    separator: SeparatorName | None = None
    decimal: DecimalName | None = None
    bom: bool | None = None


def how_files(user: User) -> HowFiles:
    """How files are made for a user; a language that is gone is none."""
    chosen = kept(user, "files") or {}
    gone = {} if chosen.get("language") in known() else {"language": None}
    return HowFiles.model_validate({**chosen, **gone})


@transaction.atomic
def choose(user: User, chosen: HowFiles) -> None:
    """Keeps what is said of how files are to be made, and the rest as it is by then: choices that
    follow each other quickly come at once."""
    forget(user)
    files = how_files(user).model_copy(update=chosen.model_dump(exclude_unset=True))
    keep(user, files=files.model_dump(mode="json"))


#: Languages a browser may name, at most; more are not looked at.
_MOST_NAMED: Final = 20
#: A language as a browser names it, with its script and its country.
_LANGUAGE: Final = re.compile(r"[A-Za-z]{2,3}(?:-[A-Za-z]{4})?-([A-Za-z]{2})\b")


def country_of(request: HttpRequest) -> str | None:
    """The country of the first language a browser asks for; None where it names none."""
    said = _LANGUAGE.match(request.headers.get("Accept-Language", ""))
    code = said[1].upper() if said else None
    return code if code in countries() else None


def language_of(request: HttpRequest) -> str:
    """The language a browser asks for first that there is; English where there is none of them."""
    said = request.headers.get("Accept-Language", "").split(",")[:_MOST_NAMED]
    asked = [each.partition(";")[0].strip().replace("-", "_") for each in said]
    return negotiate_locale(asked, list(known())) or ENGLISH.language


def reading_of(user: User | AnonymousUser, request: HttpRequest | None = None) -> Reading:
    """Who reads: as they have chosen, else as their browser says."""
    how = how_files(user) if isinstance(user, User) else HowFiles()
    return Reading(
        how.language or (language_of(request) if request else ENGLISH.language),
        how.country or (country_of(request) if request else None),
    )


def reader_of(request: HttpRequest, user: User, csv: CsvAsked | None = None) -> Reader:
    """For whom a file is made that a user asks for."""
    asked = csv.model_dump(exclude_none=True) if csv else {}
    how = how_files(user).model_copy(update=asked)
    country = reading_of(user, request).country
    return Reader(
        marks=MARKS[marks_of(user)],
        paper=paper_of(country),
        author=name_of(user),
        csv=CsvForm(how.separator, how.decimal, how.bom),
        day=day_of(country),
    )


#: The letters of CLDR for days and those of workbooks.
_IN_WORKBOOKS: Final = {
    **{"yy": "yyyy", "y": "yyyy", "MMM": "mmm", "MM": "mm"},
    **{"M": "m", "dd": "dd", "d": "d"},
}
_BETWEEN: Final = " ./,-"
#: A mark that only says which way what stands around it runs.
_RUNS: Final = "\u200f"


@cache
def day_of(country: str | None) -> str:
    """How days of a country stand in a workbook, in its own letters: by the medium form (Unicode
    CLDR, by Babel), where words stand in that by the short one, with the whole year."""
    if country is None:
        return _PLAIN_DAY
    try:
        place = Locale.parse(f"und_{country}")
    except (UnknownLocaleError, ValueError):
        return _PLAIN_DAY
    for length in ("medium", "short"):
        pattern = get_date_format(length, place).pattern.replace(_RUNS, "")
        parts = re.findall(r"yy?|MMM|MM?|dd?|.", pattern)
        if all(part in _IN_WORKBOOKS or part in _BETWEEN for part in parts):
            return "".join(_IN_WORKBOOKS.get(part, part) for part in parts)
    return "yyyy-mm-dd"


class Chosen(Schema):
    """Something that can be chosen, and what it is called."""

    value: str
    label: str


class FileChoices(Schema):
    """What can be chosen of how files are made; `browser`: the country that the browser says;
    `languages`: those there are texts in."""

    languages: list[Chosen]
    countries: list[Chosen]
    separators: list[Chosen]
    decimals: list[Chosen]
    browser: str | None


_SEPARATORS: Final[Worded[SeparatorName]] = Worded(
    {
        "comma": "a comma",
        "semicolon": "a semicolon",
        "tab": "a tab",
    }
)
_DECIMALS: Final[Worded[DecimalName]] = Worded(
    {"point": "a point: 940.68", "comma": "a comma: 940,68"}
)


def choices(request: HttpRequest) -> FileChoices:
    """What can be chosen of how files are made, by somebody with this browser."""

    def chosen(named: Mapping[Any, str]) -> list[Chosen]:
        return [Chosen(value=value, label=label) for value, label in named.items()]

    code = country_of(request)
    return FileChoices(
        languages=chosen(known()),
        countries=chosen(countries()),
        separators=chosen(_SEPARATORS),
        decimals=chosen(_DECIMALS),
        browser=code and countries()[code],
    )
