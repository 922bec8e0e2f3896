"""The balance rolled in fractions and in floats."""

from collections.abc import Sequence
from decimal import Decimal
from fractions import Fraction
from typing import Final

from .period import Reckoning


class InFractions(Reckoning[Fraction, Fraction]):
    """Exact, whatever the interest."""

    def money(self, amount: Decimal) -> Fraction:
        """As a fraction."""
        return Fraction(amount)

    def rate(self, interest: Fraction) -> Fraction:
        """As it is."""
        return interest

    def accrued(
        self, owed: Fraction, rate: Fraction, moved: Sequence[tuple[Fraction, Fraction]]
    ) -> Fraction:
        """Without rounding."""
        return owed * rate + sum((amount * share for amount, share in moved), Fraction(0))

    def paid_ahead(self, owed: Fraction, rate: Fraction) -> Fraction:
        """Without rounding."""
        return owed * rate / (1 + rate)


class InFloats(Reckoning[float, float]):
    """Near enough to tell on which side of zero a balance lies."""

    def money(self, amount: Decimal) -> float:
        """As a float."""
        return float(amount)

    def rate(self, interest: Fraction) -> float:
        """As a float."""
        return float(interest)

    def accrued(self, owed: float, rate: float, moved: Sequence[tuple[float, float]]) -> float:
        """In floats."""
        return owed * rate + sum(amount * share for amount, share in moved)

    def paid_ahead(self, owed: float, rate: float) -> float:
        """In floats."""
        return owed * rate / (1 + rate)


IN_FRACTIONS: Final = InFractions()
IN_FLOATS: Final = InFloats()
