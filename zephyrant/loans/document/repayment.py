"""How what is lent is repaid: level payments, or what is lent shared out with interest on top."""

from collections.abc import Sequence
from decimal import Decimal
from itertools import groupby
from typing import Annotated, Final, Literal

from pydantic import (
    BeforeValidator,
    Discriminator,
    Field,
    PlainSerializer,
    Tag,
    WithJsonSchema,
    field_validator,
)

from zephyrant.texts import worded

from ..wording.marks import Marks
from .field_schemas import NOT_BELOW_ZERO
from .fields import decimal_of, wrong
from .limits import MOST_PAYMENTS
from .parts import Part

#: Level payments; equal parts of the principal with interest on top; the interest alone until the
#: last payment repays the principal; everything with the last payment, interest being added;
#: payments that follow the cash flow.
StyleName = Literal["level", "equal-principal", "interest-only", "at-the-end", "sculpted"]
#: Every way of repaying by a name, as one chooses it: also parts in percent, level payments that
#: are reckoned over a longer time, and those whose interest is shared out by sum-of-digits.
RepaidBy = StyleName | Literal["percents", "over", "sum-of-digits"]
#: A way to share interest out over the payments that is not by what is owed.
InterestShared = Literal["sum-of-digits"]
_WHOLE: Final = Decimal(100)


def _part(value: object) -> Decimal:
    number = decimal_of(value, "5")
    if not 0 <= number <= _WHOLE:
        raise wrong(worded("A part of the principal is between 0 and 100 %."))
    return number


PercentOfPrincipal = Annotated[
    Decimal,
    BeforeValidator(_part),
    PlainSerializer(lambda value: f"{value:f}", return_type=str),
    WithJsonSchema(
        {"anyOf": [NOT_BELOW_ZERO, {"type": "number", "minimum": 0, "maximum": int(_WHOLE)}]}
    ),
]


class PartsInPercent(Part):
    """What each payment repays of the principal, in percent, with interest on top: one for every
    payment, or for every one that repays a part. They add up to 100."""

    percents: tuple[PercentOfPrincipal, ...] = Field(min_length=1, max_length=MOST_PAYMENTS)

    @field_validator("percents")
    @classmethod
    def _are_all_of_it(cls, percents: tuple[Decimal, ...]) -> tuple[Decimal, ...]:
        total = sum(percents, Decimal(0))
        if total != _WHOLE:
            raise wrong(
                worded(
                    "The parts add up to {total} %: they have to be 100 % of the principal.",
                    total=f"{total:f}",
                )
            )
        return percents


def percents_in_words(percents: Sequence[Decimal], marks: Marks) -> str:
    """Parts in percent as one types them, those that are alike together: "4 × 5; 20; 60"."""
    runs = ((each, len(list(some))) for each, some in groupby(percents))
    return "; ".join(
        f"{length} × {marks.number(each, 20)}" if length > 1 else marks.number(each, 20)
        for each, length in runs
    )


def _kind(value: object) -> str:
    return "in-percents" if isinstance(value, dict | PartsInPercent) else "by-name"


#: The steps of a path that are no field of the document: kinds of repayment.
REPAYMENT_KINDS: Final = ("by-name", "in-percents")
Repayment = Annotated[
    Annotated[StyleName, Tag("by-name")] | Annotated[PartsInPercent, Tag("in-percents")],
    Discriminator(_kind),
]
