"""What a style of quoting rates is: one record of it, from which everything that depends on the
style is taken. Adding a style is adding a record.

A *share* is a percent of 100, for a year of 365 days (of one payment period where the style is of
periods). Shares and growths are decimals in the context in force, the arrays floats.
"""

from abc import ABC, abstractmethod
from decimal import Decimal
from fractions import Fraction
from typing import TYPE_CHECKING, ClassVar, NamedTuple

from zephyrant.texts import worded

from ..calendars import frequencies
from ..numbers.arrays import Floats
from ..numbers.ratios import power

if TYPE_CHECKING:
    from .styles import Style

#: The percents between which a quote lies, neither of them reached; None: without bound.
Bounds = tuple[Fraction | None, Fraction | None]


class Formula(NamedTuple):
    """Both ways between the percent and the rate it stands for, to be read; `numbers` is `forward`
    with its numbers, `{p}` to be filled."""

    forward: str
    back: str
    numbers: str


class Convention(ABC):
    """How rates of one style are quoted."""

    #: Charged for a stated time.
    is_timed: ClassVar[bool] = False
    #: A year of 360 days can be meant.
    is_scaled: ClassVar[bool] = False
    #: It speaks of a whole loan: so many level payments that repay it to nothing.
    is_of_a_loan: ClassVar[bool] = False
    #: It is the rate of one payment period itself.
    is_of_periods: ClassVar[bool] = False
    #: It is what one lent bears in a year.
    is_effective: ClassVar[bool] = False
    #: It is compounded as often as it says.
    is_compounded: ClassVar[bool] = False
    #: Whether many rates can be worked as arrays.
    has_arrays: ClassVar[bool] = False
    #: What a percent at the upper bound would mean.
    beyond: ClassVar[str] = ""
    #: As it is said: `{compounded}` and `{noun}` (of a payment period) to be filled.
    said: ClassVar[str]
    #: What is said after it, `{over}` (a time) or `{payments}` to be filled; nothing for most.
    needs: ClassVar[str] = ""
    #: Where styles are listed: what those of its kind stand under, and what it is called there.
    title: ClassVar[str]
    choice: ClassVar[str]

    def words(self, style: "Style") -> str:
        """ "a year, nominal, compounded half-yearly"."""
        period = frequencies.period(style.every)
        return (worded(self.said) + worded(self.needs)).format(
            compounded=frequencies.compounded(style.compounding),
            noun=period.noun,
            over=style.over.in_words() if style.over else worded("a stated time"),
            payments=period.payments(str(style.payments or worded("the stated"))),
        )

    def bounds(self, style: "Style") -> Bounds:
        """Below the first nothing is left of one lent; at the second, what `beyond` says."""
        return Fraction(-100), None

    @abstractmethod
    def growth(self, share: Decimal, style: "Style") -> Decimal:
        """What one lent grows to in a year."""

    @abstractmethod
    def share(self, growth: Decimal, style: "Style") -> Decimal:
        """The share at which one lent grows so in a year: `growth` undone."""

    def divisor(self, style: "Style") -> int | None:
        """What a share divides by to be the rate of one period, where it divides evenly."""
        return None

    def rate(self, share: Decimal, style: "Style") -> Decimal:
        """The rate of one payment period."""
        return power(self.growth(share, style), Fraction(1, frequencies.a_year(style.every))) - 1

    def share_of(self, rate: Decimal, style: "Style") -> Decimal:
        """The share that stands for a rate of one payment period: `rate` undone."""
        return self.share((1 + rate) ** frequencies.a_year(style.every), style)

    @abstractmethod
    def formula(self, style: "Style") -> Formula:
        """Between p and i, the rate of one payment period.

        p is the quoted rate, f the payments and m the compoundings a year, t the years a quote is
        charged for, n the payments of a flat quote and T the years they run.
        """

    def yearly_formula(self, style: "Style") -> Formula | None:
        """Between p and e, the effective rate a year; None where it leads by the rate of a
        payment."""
        return None

    def sheet_formula(self, style: "Style", cell: str) -> str | None:
        """The percent of one period from the percent in a cell of a sheet, by multiplications and
        powers only; None where none tells it."""
        return None

    # Many rates

    def force(self, share: Floats, style: "Style") -> Floats:
        """The logarithm of what one lent grows to in a year, of each."""
        raise NotImplementedError

    def share_of_force(self, force: Floats, style: "Style") -> Floats:
        """`force` undone."""
        raise NotImplementedError


def scaled(style: "Style") -> tuple[str, str, str]:
    """P in a formula, with its number to be filled, and what stands before it on the way back; of a
    year of 360 days 365/360 of it is borne."""
    if style.scale == 1:
        return "p", "{p}", "p = "
    return "p·365/360", "{p} × 365/360", "p = 360/365 · "


def scaled_cell(style: "Style", cell: str) -> str:
    """The same of a cell."""
    return cell if style.scale == 1 else f"{cell}*365/360"
