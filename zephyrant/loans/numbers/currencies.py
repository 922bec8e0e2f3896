"""Currencies and their minor units, from ISO 4217."""

from functools import cache
from typing import NamedTuple


class Currency(NamedTuple):
    """An ISO 4217 currency: its code, its English name, the decimals of its minor unit."""

    code: str
    name: str
    decimals: int


@cache
def currencies() -> dict[str, Currency]:
    """Every currency of ISO 4217 that has a minor unit, by code.

    Codes without one (precious metals, testing codes) cannot be paid and are left out.
    """
    import iso4217  # noqa: PLC0415  (read when a currency is first looked up)

    return {
        entry.code: Currency(entry.code, entry.currency_name, entry.exponent)
        for entry in iso4217.Currency
        if entry.exponent is not None
    }
