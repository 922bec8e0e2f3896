"""Decimals, money and rounding: how figures are held, rounded and written.

Rates and unrounded amounts are `Decimal` under `PRECISE`; money in a schedule is a whole
number of the smallest unit it is kept in, so that sums are exact.
"""

from collections.abc import Sequence
from contextlib import AbstractContextManager
from dataclasses import dataclass
from decimal import (
    ROUND_CEILING,
    ROUND_FLOOR,
    ROUND_HALF_EVEN,
    ROUND_HALF_UP,
    Context,
    Decimal,
    DivisionByZero,
    InvalidOperation,
    Overflow,
    localcontext,
)
from functools import cache
from typing import Final, Literal

#: Digits kept in every unrounded computation: twice what is ever shown.
DIGITS = 60
#: Digits an unrounded answer is told with.
DIGITS_TOLD = 30
#: Decimal places money is carried with where it is not rounded.
UNROUNDED_PLACES = 20

Cash = Literal["nearest", "up", "down", "none"]


@cache
def context(digits: int) -> Context:
    """A decimal context of `digits` digits."""
    return Context(
        prec=digits,
        rounding=ROUND_HALF_EVEN,
        Emin=-999_999_999,
        Emax=999_999_999,
        traps=[InvalidOperation, DivisionByZero, Overflow],
    )


def precise(digits: int = DIGITS) -> AbstractContextManager[Context]:
    """A decimal context of `digits` digits for unrounded computation."""
    return localcontext(context(digits))


#: Decimals of a percent as it is told and put back.
PERCENT_PLACES: Final = 10

_TOLD: Final = Context(prec=DIGITS_TOLD, rounding=ROUND_HALF_EVEN)


def significant(value: Decimal) -> Decimal:
    """`value` to the digits it is told with; what lies beyond them is noise, not mathematics."""
    return _TOLD.plus(value)


_ROUNDED: Final = {"nearest": ROUND_HALF_UP, "up": ROUND_CEILING, "down": ROUND_FLOOR}


def to_step(value: Decimal, step: Decimal, cash: Cash) -> Decimal:
    """An amount of money rounded to a multiple of `step` as cash is paid.

    `nearest` takes ties away from zero, `up` never leaves less than `value`, `down` never more,
    `none` changes nothing. The unrounded noise below `DIGITS_TOLD` digits never lifts or lowers an
    amount a step.
    """
    if cash == "none":
        return value
    with precise():
        return (significant(value) / step).to_integral_value(_ROUNDED[cash]) * step


def is_whole(number: Decimal) -> bool:
    """Whether a number is whole, of whatever size and in whatever decimal context."""
    return number == number.to_integral_value()


def percent_text(percent: Decimal | float) -> str:
    """A percent with the decimals it is told with; nothing below zero is no sign."""
    text = f"{percent:.{PERCENT_PLACES}f}"
    return text.removeprefix("-") if not text.strip("-0.") else text


def divide_nearest(numerator: int, denominator: int) -> int:
    """The whole number nearest to a fraction (denominator above zero), ties away from zero."""
    if numerator < 0:
        return -divide_nearest(-numerator, denominator)
    return (2 * numerator + denominator) // (2 * denominator)


def decimal_places(value: Decimal) -> int:
    """Digits after the decimal mark that `value` needs."""
    exponent = value.normalize().as_tuple().exponent
    return max(0, -exponent) if isinstance(exponent, int) else 0


def plain(value: Decimal, least_places: int = 0) -> str:
    """`value` without exponent and without needless zeros, with at least `least_places`."""
    text = f"{value:f}"
    if "." in text:
        whole, _, part = text.partition(".")
        part = part.rstrip("0").ljust(least_places, "0")
        text = f"{whole}.{part}" if part else whole
    elif least_places:
        text = f"{text}.{'0' * least_places}"
    return text[1:] if text.startswith("-") and not text.strip("-0.") else text


#: Digits wide enough for any amount in the finest unit it is kept in.
_WIDE: Final = 80


@dataclass(frozen=True, slots=True)
class Unit:
    """The smallest unit a schedule keeps money in: 10 to the power of -`places`.

    `shown` is the number of decimals of the currency; `places` is larger only where money is
    carried unrounded or a stated amount is finer than the currency pays.
    """

    places: int
    shown: int

    @property
    def minor(self) -> int:
        """The minor unit of the currency, in units."""
        return int(10 ** (self.places - self.shown))

    def count(self, amount: Decimal) -> int:
        """`amount` as a whole number of units (it has no more than `places` decimals)."""
        return int(amount.scaleb(self.places, context(_WIDE)))

    def amount(self, units: int) -> Decimal:
        """The amount that so many units are."""
        return Decimal(units).scaleb(-self.places, context(_WIDE))

    def write(self, units: int) -> str:
        """So many units as a decimal string, with the currency's decimals at least."""
        places = self.places
        digits = str(units)
        if not places:
            return digits
        if units < 0 or len(digits) <= places:
            sign = "-" if units < 0 else ""
            digits = sign + str(abs(units)).rjust(places + 1, "0")
        if places > self.shown:
            part = digits[-places:].rstrip("0").ljust(self.shown, "0")
            return f"{digits[:-places]}.{part}" if part else digits[:-places]
        return f"{digits[:-places]}.{digits[-places:]}"

    def write_all(self, column: Sequence[int]) -> list[str]:
        """Each of many, as `write` does."""
        places = self.places
        if places != self.shown or not 0 < places <= _MOST_LISTED or min(column, default=0) < 0:
            return [self.write(units) for units in column]
        whole, parts = 10**places, _parts(places)
        return [f"{units // whole}{parts[units % whole]}" for units in column]


#: Decimals of a currency whose every part is listed once.
_MOST_LISTED: Final = 3


@cache
def _parts(places: int) -> tuple[str, ...]:
    """What stands from the decimal mark on, for each part of a whole."""
    return tuple(f".{part:0{places}}" for part in range(10**places))
