"""How a rate is quoted in a document: percent, style, compounding, time."""

from decimal import Decimal
from fractions import Fraction
from typing import Self

from pydantic import Field, model_validator

from zephyrant.texts import worded

from ..calendars import frequencies
from ..quotes.convention import Convention
from ..quotes.styles import CONVENTIONS, Quoted, Style, Time, YearDays
from ..wording.marks import PLAIN
from .fields import CompoundingField, Percent, Periods, wrong_at
from .limits import MOST_PLACES
from .parts import Part


def outside(percent: Decimal, style: Style) -> str | None:
    """Why a percent cannot be quoted so, as a sentence; none where it can."""
    if style.convention.is_of_a_loan and style.in_advance and style.payments == 1:
        return worded("A flat quote of one payment made at once is no loan: state more payments.")
    least, most = style.bounds()
    if least is not None and percent <= least:
        return worded(
            "At {percent} % {in_words}, nothing is left of what is lent: the rate "
            "must be above {least} %.",
            percent=_said(percent),
            in_words=style.in_words(),
            least=_bound(least),
        )
    if most is None or percent < most:
        return None
    return worded(
        "At {percent} % {in_words}, {beyond}: the rate must be below {most} %.",
        percent=_said(percent),
        in_words=style.in_words(),
        beyond=worded(style.convention.beyond),
        most=_bound(most),
    )


def _said(percent: Decimal) -> str:
    return PLAIN.number(percent, MOST_PLACES)


def _bound(percent: Fraction) -> str:
    return PLAIN.number(Decimal(percent.numerator) / percent.denominator, 4)


class Over(Part):
    """The time a simple or a discount quote is charged for: so many of a period."""

    number: Periods
    period: frequencies.UnitName

    @property
    def time(self) -> Time:
        """The same, as rates are worked with."""
        return Time(Fraction(self.number), self.period)


class Quote(Part):
    """A rate as it is quoted.

    `percent` is a year (for one payment period where `quoted` is `periodic`). `compounding` is
    that of a nominal rate, the payments' own where left out; the other styles need none. `over`
    is the time a `simple` or a `discount` quote is charged for. `year_days` 360: the percent is
    for 360 days, not for a year.
    """

    percent: Percent = Field(description='Percent as quoted, a decimal string, or "?".')
    quoted: Quoted = "nominal"
    compounding: CompoundingField | None = None
    over: Over | None = None
    year_days: YearDays | None = None

    @property
    def convention(self) -> Convention:
        """The record of its style."""
        return CONVENTIONS[self.quoted]

    @model_validator(mode="after")
    def _has_its_time(self) -> Self:
        convention = self.convention
        if convention.is_timed and self.over is None:
            raise wrong_at(
                "over",
                worded(
                    'A {quoted} quote is charged for a time: state it, such as {"number": '
                    '"90", "period": "day"}.',
                    quoted=self.quoted,
                ),
            )
        if self.over is not None and not convention.is_timed:
            raise wrong_at(
                "over", worded("Only a simple or a discount quote is charged for a time.")
            )
        if self.year_days is not None and not convention.is_scaled:
            raise wrong_at(
                "year_days",
                worded(
                    "A year of so many days does not go with {quoted} quotes.", quoted=self.quoted
                ),
            )
        return self
