"""Figures with their units, as whoever reads them writes them."""

from functools import cache

from zephyrant.texts import ENGLISH, Reading, reading

from ..numbers.currencies import currencies


def code_first() -> bool:
    """Whether whoever reads this writes the code of a currency before an amount, as their country
    does (Unicode CLDR by Babel: the form of currencies); after it where that is not known."""
    return _code_first(reading())


@cache
def _code_first(reader: Reading) -> bool:
    if reader.country is None and reader.language == ENGLISH.language:
        return False
    from babel import Locale, UnknownLocaleError  # noqa: PLC0415 (only where one reads so)

    names = [f"{reader.language}_{reader.country}", f"und_{reader.country}", reader.language]
    for name in names if reader.country else names[-1:]:
        try:
            pattern = Locale.parse(name).currency_formats["standard"].pattern
        except (UnknownLocaleError, ValueError):
            continue
        return bool(pattern.index("¤") < pattern.index("0"))
    return False


def is_first(unit: str) -> bool:
    """Whether a unit stands before its figure."""
    return unit in currencies() and code_first()


def with_unit(value: str, unit: str) -> str:
    """A figure with its unit: "938.82 EUR", "EUR 938.82", "6.35 % a year"."""
    return f"{unit} {value}" if is_first(unit) else f"{value} {unit}"
