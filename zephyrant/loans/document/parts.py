"""What every part of a loan document shares, and its rounding."""

from typing import Final, Literal

from pydantic import BaseModel, ConfigDict
from pydantic.config import JsonDict

from .fields import Step


class Part(BaseModel):
    """What every part of the document has in common: immutable, no unknown keys."""

    model_config = ConfigDict(frozen=True, defer_build=True, extra="forbid")


class Rounding(Part):
    """How cash is rounded: payments to multiples of `to`, interest to the minor unit.

    `to` left out is the minor unit of the currency (ISO 4217). `overpaid`: a repayment above what
    is owed is cut to it, or shown as a balance below zero; both end the loan.
    """

    payment: Literal["nearest", "up", "none"] = "nearest"
    to: Step | None = None
    interest: Literal["nearest", "none"] = "nearest"
    overpaid: Literal["cut", "shown"] = "cut"


ONE_OF_TWO: Final[JsonDict] = {"oneOf": [{"required": ["percent"]}, {"required": ["amount"]}]}
