"""Days as people type them: 2027-03-01, 1 Mar 2027, 1.3.2027, 3/15/2027; and as they read them."""

import re
from datetime import date
from functools import cache
from typing import Final, NamedTuple

from zephyrant.texts import ENGLISH, Reading, languages, reading

MONTHS: Final = (
    "January",
    "February",
    "March",
    "April",
    "May",
    "June",
    "July",
    "August",
    "September",
    "October",
    "November",
    "December",
)
_SHORT: Final = {name[:3].lower(): number for number, name in enumerate(MONTHS, 1)}


def read_days(typed: str) -> list[date]:
    """Every day a text can mean, the likelier first: none, one, or two for 3/4/2027.

    Where only numbers stand, the day comes before the month, unless that cannot be.
    """
    text = " ".join(typed.replace(",", " ").split()).lower()
    # The time of a day does not move it.
    text = re.sub(r"(?<=\d)[t ]\d{1,2}:\d{2}(:\d{2}(\.\d+)?)?( ?[ap]m)?z?$", "", text)
    iso = re.fullmatch(r"(\d{4})([-/.])(\d{1,2})\2(\d{1,2})", text)
    if iso:
        return _days((int(iso[1]), int(iso[3]), int(iso[4])))
    named = re.fullmatch(r"(\d{1,2})(?:st|nd|rd|th|\.)?[- ]?([a-z]{3,9})\.?[- ](\d{4}|\d{2})", text)
    if named:
        return _named(named[2], named[1], named[3]) or _in_other_languages(text)
    turned = re.fullmatch(r"([a-z]{3,9})\.? (\d{1,2})(?:st|nd|rd|th)? (\d{4})", text)
    if turned:
        return _named(turned[1], turned[2], turned[3]) or _in_other_languages(text)
    numbers = re.fullmatch(r"(\d{1,2})([./ -])(\d{1,2})\2(\d{4})", text)
    if not numbers:
        return _in_other_languages(text)
    first, second, year = int(numbers[1]), int(numbers[3]), int(numbers[4])
    ways = [(year, second, first)]
    if numbers[2] == "/" and first != second:
        ways.append((year, first, second))
    return _days(*ways)


def read_day(typed: str) -> date | None:
    """The likeliest day a text means; none where it is none."""
    return next(iter(read_days(typed)), None)


class DayForm(NamedTuple):
    """How days are written: `{day}`, `{month}` and `{year}` stand in `text`, in whatever order;
    `months` are the twelve as they stand there; `padded`: the day has two digits always."""

    text: str
    months: tuple[str, ...]
    padded: bool = False

    def write(self, day: date) -> str:
        """A day in this form."""
        return self.text.format(
            day=f"{day.day:02}" if self.padded else day.day,
            month=self.months[day.month - 1],
            year=f"{day.year:04}",
        )

    def read(self, text: str) -> list[date]:
        """The day a text in this form means, in small letters; none where it is in another."""
        parts = {
            "{day}": r"(?P<day>\d{1,2})",
            "{month}": f"(?P<month>{'|'.join(re.escape(name.lower()) for name in self.months)})",
            "{year}": r"(?P<year>\d{4})",
        }
        pieces = re.split(r"(\{\w+\})", " ".join(self.text.replace(",", " ").split()).lower())
        found = re.fullmatch("".join(parts.get(each, re.escape(each)) for each in pieces), text)
        if not found:
            return []
        month = [name.lower() for name in self.months].index(found["month"]) + 1
        return _days((int(found["year"]), month, int(found["day"])))


#: As lines, files for programs and the command write days.
PLAIN_DAYS: Final = DayForm("{day} {month} {year}", tuple(name[:3] for name in MONTHS))
#: The letters of CLDR for the parts of a day.
_PART: Final = re.compile(r"'([^']*)'|(y+)|(M+|L+)|(d+)|\u200f")


def day_form() -> DayForm:
    """How whoever reads this writes days: by the medium form of Unicode CLDR (by Babel) for their
    language and country."""
    return _form_of(reading())


@cache
def _form_of(reader: Reading) -> DayForm:
    if reader == ENGLISH:
        return PLAIN_DAYS
    from babel import Locale, UnknownLocaleError  # noqa: PLC0415 (only where one reads so)
    from babel.dates import get_date_format  # noqa: PLC0415

    # English as it is read all over the world, where a country has none of its own.
    at_large = "en_001" if reader.language == "en" else reader.language
    try:
        place = Locale.parse(f"{reader.language}_{reader.country}" if reader.country else at_large)
    except (UnknownLocaleError, ValueError):
        place = Locale.parse(at_large)
    pattern = get_date_format("medium", place).pattern
    letters = {part: match[0] for match in _PART.finditer(pattern) for part in _kind(match)}
    wide = len(letters.get("month", "MMM"))
    named = place.months["format"]["abbreviated"]
    text = _PART.sub(
        lambda match: "".join(f"{{{part}}}" for part in _kind(match)) or match[1] or "", pattern
    )
    months = [named[month] if wide > 2 else f"{month:0{wide}}" for month in range(1, 13)]
    return DayForm(text, tuple(months), padded=len(letters.get("day", "d")) > 1)


def _in_other_languages(text: str) -> list[date]:
    """The day of a text with the month in a language that is read here: what one analyst typed
    means the same to all."""
    forms = (_form_of(Reading(language)) for language in languages())
    return next((found for form in forms if (found := form.read(text))), [])


def month_names() -> list[str]:
    """The months as whoever reads this calls them."""
    if reading().language == ENGLISH.language:
        return list(MONTHS)
    from babel import Locale  # noqa: PLC0415

    named = Locale.parse(reading().language).months["stand-alone"]["wide"]
    return [named[month] for month in range(1, 13)]


def _kind(match: re.Match[str]) -> list[str]:
    return [name for name, at in (("year", 2), ("month", 3), ("day", 4)) if match[at]]


def without_commas(text: str) -> str:
    """A text in which no day has a comma, so that what stands there can be parted at commas: "Mar
    1, 2027" is one day, "last 12, 2028" is not."""

    def joined(match: re.Match[str]) -> str:
        return f"{match[1]} {match[2]} {match[3]}" if month_named(match[1]) else match[0]

    return re.sub(r"\b([a-z]{3,9})\.? (\d{1,2}), ?(\d{4})\b", joined, text, flags=re.IGNORECASE)


def write_day(day: date) -> str:
    """A day as whoever reads it writes days: "1 Mar 2027", "Mar 1, 2027"."""
    return day_form().write(day)


def month_named(name: str) -> int | None:
    """The month of a name, whole or cut short ("Sept"), from 1; none where it is none."""
    number = _SHORT.get(name[:3].lower())
    is_one = number is not None and MONTHS[number - 1].lower().startswith(name.lower())
    return number if is_one else None


def _named(month: str, day: str, year: str) -> list[date]:
    number = month_named(month)
    if number is None:
        return []
    # Two digits of a year beside a month that is named: of this century up to 79.
    whole = int(year) if len(year) == 4 else int(year) + (2000 if int(year) < 80 else 1900)
    return _days((whole, number, int(day)))


def _days(*ways: tuple[int, int, int]) -> list[date]:
    found = []
    for year, month, day in ways:
        try:
            found.append(date(year, month, day))
        except ValueError:
            continue
    return found
