"""Clauses: where something departs from the regular run, and what is done there."""

from datetime import date
from functools import cached_property
from typing import Annotated, Final, Literal, Self, get_args

from pydantic import ConfigDict, Discriminator, Field, Tag, model_validator

from zephyrant.texts import worded

from .fields import UNKNOWN, Amount, Change, FeePercent, Month, Place, StepEvery, wrong, wrong_at
from .parts import ONE_OF_TWO, Part
from .quote import Quote


class Share(Part):
    """A fee as a percent of the money advanced where it is taken, else of the principal."""

    percent: FeePercent


def _fee_kind(value: object) -> str:
    return "of-money" if isinstance(value, dict | Share) else "in-money"


#: The steps of a path that are no field of the document: kinds of a fee.
FEE_KINDS: Final = ("in-money", "of-money")
Fee = Annotated[
    Annotated[Amount, Tag("in-money")] | Annotated[Share, Tag("of-money")], Discriminator(_fee_kind)
]


class Growth(Part):
    """How a payment grows (below zero: falls): by a percent or by an amount."""

    model_config = ConfigDict(
        frozen=True, defer_build=True, extra="forbid", json_schema_extra=ONE_OF_TWO
    )

    percent: Change | None = None
    amount: Change | None = None

    @model_validator(mode="after")
    def _one_of_them(self) -> Self:
        if (self.percent is None) == (self.amount is None):
            raise wrong(worded("A payment grows by a percent or by an amount: state one of them."))
        return self


class ChargeShare(Part):
    """A charge as a percent a year: of what is owed before each payment, or of the principal."""

    percent: FeePercent
    of: Literal["balance", "principal"]


def _charge_kind(value: object) -> str:
    return "in-percent" if isinstance(value, dict | ChargeShare) else "in-amount"


#: The steps of a path that are no field of the document: kinds of a charge.
CHARGE_KINDS: Final = ("in-amount", "in-percent")
Charge = Annotated[
    Annotated[Amount, Tag("in-amount")] | Annotated[ChargeShare, Tag("in-percent")],
    Discriminator(_charge_kind),
]

VerbName = Literal["repay", "advance", "rate", "payment", "pay", "step", "fee", "charge"]
VERBS: Final[tuple[VerbName, ...]] = get_args(VerbName)
Pay = Literal["nothing", "interest"]
Taken = Literal["from-proceeds", "added", "apart"]
#: Verbs that hold for a stretch, never at one payment alone.
STRETCHES: Final[tuple[VerbName, ...]] = ("rate", "step")
#: Verbs after which the payment can be set anew.
LEVELS: Final[tuple[VerbName, ...]] = ("rate", "repay", "advance")


class Clause(Part):
    """What departs from the regular run: one verb, and a place or a stretch.

    Places are numbered as payments are, 0 being the start; a loan with dates takes days too.
    `months` (1 to 12) keeps a stretch to payments due in them.
    """

    model_config = ConfigDict(
        frozen=True,
        extra="forbid",
        validate_by_name=True,
        json_schema_extra={
            "oneOf": [{"required": [verb]} for verb in get_args(VerbName)],
            "anyOf": [{"required": [name]} for name in ("at", "from", "months")],
            "not": {
                "required": ["at"],
                "anyOf": [{"required": [name]} for name in ("from", "to", "months")],
            },
        },
    )

    at: Place | None = None
    begin: Place | None = Field(default=None, alias="from")
    to: Place | None = None
    months: tuple[Month, ...] | None = Field(default=None, min_length=1, max_length=12)
    repay: Amount | None = Field(default=None, description="Repaid on top of the payment.")
    advance: Amount | None = Field(default=None, description="Lent besides the principal.")
    rate: Quote | None = Field(default=None, description="The rate of these periods.")
    payment: Amount | None = Field(default=None, description="The regular payment from there on.")
    pay: Pay | None = Field(default=None, description="Nothing, or the interest only.")
    step: Growth | None = Field(default=None, description="How the payment grows.")
    every: StepEvery | None = Field(default=None, description="Payments between two steps.")
    fee: Fee | None = None
    taken: Taken | None = None
    charge: Charge | None = Field(
        default=None,
        description="Collected with each payment beside principal and interest; never asked for.",
    )
    name: str | None = Field(default=None, max_length=80, description="What a charge is for.")
    in_costs: bool | None = Field(
        default=None, description="Whether the yearly costs count a charge; left out, they do."
    )
    then: Literal["re-level"] | None = Field(
        default=None,
        description="Sets the regular payment anew, so that the loan ends with its last payment.",
    )

    @property
    def verb(self) -> VerbName:
        """What it does."""
        return next(name for name in VERBS if getattr(self, name) is not None)

    @property
    def is_stretch(self) -> bool:
        """Whether it holds for a stretch."""
        return self.at is None

    @cached_property
    def asked(self) -> str | None:
        """The path of the figure in it that is `"?"`, if one is."""
        figures = {
            "repay": self.repay,
            "advance": self.advance,
            "payment": self.payment,
            "fee": None if isinstance(self.fee, Share) else self.fee,
            "fee.percent": self.fee.percent if isinstance(self.fee, Share) else None,
            "rate.percent": self.rate.percent if self.rate else None,
            "step.percent": self.step.percent if self.step else None,
            "step.amount": self.step.amount if self.step else None,
        }
        return next((name for name, figure in figures.items() if figure == UNKNOWN), None)

    @model_validator(mode="after")
    def _charge_is_stated(self) -> Self:
        percent = self.charge.percent if isinstance(self.charge, ChargeShare) else self.charge
        if percent == UNKNOWN:
            field = "charge.percent" if isinstance(self.charge, ChargeShare) else "charge"
            raise wrong_at(field, worded("A charge is stated: the ? stands in another figure."))
        return self

    @model_validator(mode="after")
    def _one_verb_and_a_place(self) -> Self:
        verbs = [name for name in VERBS if getattr(self, name) is not None]
        if not verbs:
            raise wrong(worded("A clause says what is done: one of ") + ", ".join(VERBS) + ".")
        if len(verbs) > 1:
            named = worded(" and ").join(verbs)
            raise wrong_at(
                verbs[1], worded("A clause does one thing: here {named} are stated.", named=named)
            )
        self._stands_somewhere(verbs[0])
        self._has_what_goes_with(verbs[0])
        if _runs_back(self.begin, self.to):
            raise wrong_at(
                "to",
                worded(
                    "A stretch that ends at {to} cannot begin at {begin}.",
                    to=self.to,
                    begin=self.begin,
                ),
            )
        return self

    def _stands_somewhere(self, verb: str) -> None:
        stretch = [name for name in ("from", "to") if self._place_of(name) is not None]
        if self.at is not None and (stretch or self.months):
            raise wrong_at(
                "at", worded("A clause stands at one place or holds for a stretch, not both.")
            )
        if self.at is None and self.begin is None and self.months is None:
            raise wrong_at("at", worded("A clause has a place: at one payment, or from one on."))
        if self.at is not None and verb in STRETCHES:
            raise wrong_at(
                "at", worded("A {verb} holds for a stretch: write from in place of at.", verb=verb)
            )
        if self.months and verb in STRETCHES:
            raise wrong_at(
                "months", worded("A {verb} does not keep to months of the year.", verb=verb)
            )
        if verb in ("payment", "pay", "rate", "step", "charge") and 0 in (self.at, self.begin):
            raise wrong_at(
                "at" if self.at == 0 else "from", worded("Payments are numbered from 1.")
            )

    def _has_what_goes_with(self, verb: str) -> None:
        for name, verbs in _GOES_WITH:
            if getattr(self, name) is not None and verb not in verbs:
                raise wrong_at(
                    name,
                    worded(
                        "This goes with {listed}, not with {verb}.",
                        listed=worded(" or ").join(verbs),
                        verb=verb,
                    ),
                )

    def _place_of(self, name: str) -> int | date | None:
        return self.begin if name == "from" else self.to


#: Fields of a clause that go with some verbs alone.
_GOES_WITH: Final[tuple[tuple[str, tuple[VerbName, ...]], ...]] = (
    ("every", ("step",)),
    ("taken", ("fee",)),
    ("name", ("charge",)),
    ("in_costs", ("charge",)),
    ("then", LEVELS),
)


def _runs_back(begin: int | date | None, to: int | date | None) -> bool:
    """Whether a stretch ends before it begins; numbers and days are not compared."""
    if isinstance(begin, int) and isinstance(to, int):
        return to < begin
    return isinstance(begin, date) and isinstance(to, date) and to < begin
