"""Amounts in the one amount that is asked for: a constant and so many times x."""

from dataclasses import dataclass
from decimal import Decimal


@dataclass(frozen=True, slots=True)
class Affine:
    """constant + slope x.

    Added up and multiplied by numbers it stays what it is, so that it stands where an amount
    stands, from the terms to what is owed at the end. In the decimal context in force.
    """

    constant: Decimal
    slope: Decimal

    def __add__(self, other: "Affine | Decimal | int") -> "Affine":
        if isinstance(other, Affine):
            return Affine(self.constant + other.constant, self.slope + other.slope)
        return Affine(self.constant + other, self.slope)

    __radd__ = __add__

    def __sub__(self, other: "Affine | Decimal | int") -> "Affine":
        if isinstance(other, Affine):
            return Affine(self.constant - other.constant, self.slope - other.slope)
        return Affine(self.constant - other, self.slope)

    def __rsub__(self, other: Decimal | int) -> "Affine":
        return Affine(other - self.constant, -self.slope)

    def __mul__(self, number: Decimal | int) -> "Affine":
        return Affine(self.constant * number, self.slope * number)

    __rmul__ = __mul__

    def __truediv__(self, number: Decimal | int) -> "Affine":
        return Affine(self.constant / number, self.slope / number)

    def __neg__(self) -> "Affine":
        return Affine(-self.constant, -self.slope)

    def __pos__(self) -> "Affine":
        return Affine(+self.constant, +self.slope)

    def __bool__(self) -> bool:
        return bool(self.constant or self.slope)

    def at(self, amount: Decimal) -> Decimal:
        """What it is where x is an amount."""
        return self.constant + self.slope * amount

    def root(self) -> Decimal | None:
        """The amount at which it is nothing; None where x does not move it."""
        return -self.constant / self.slope if self.slope else None


#: The amount that is asked for.
ASKED = Affine(Decimal(0), Decimal(1))
