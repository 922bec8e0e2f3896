"""The fields of a loan document, and what follows from them: what is asked for, when payments fall
due, what can be paid, how the rate is quoted."""

from datetime import date
from decimal import Decimal
from functools import cached_property, lru_cache
from typing import Annotated, Any, Final, Literal, Self

from pydantic import AfterValidator, ConfigDict, Discriminator, Field, PrivateAttr, Tag

from ..calendars import frequencies
from ..calendars.dates import Calendar, DayCount, later, pace
from ..numbers.annuity import Timing
from ..numbers.currencies import currencies
from ..numbers.decimals import Cash as CashWay
from ..quotes.styles import Style
from .aim import Aim
from .bounds import Cover, Value
from .business_days import MovedDays
from .choices import REPAYMENT
from .clauses import Clause, Share
from .fields import (
    FIGURES,
    UNKNOWN,
    AmortizedOver,
    Amount,
    Count,
    CurrencyCode,
    Day,
    Every,
    OddDays,
    We,
)
from .figure_path import FigurePath, figure_path
from .floating import MOST_INDICES, FloatingQuote, Index, Indices, floating, kind_of_rate
from .limits import MOST_CLAUSES
from .parts import Part, Rounding
from .purchase import Purchase
from .quote import Quote
from .repaid import repaid_by
from .repayment import InterestShared, Repayment


def _what_may_be_left_out(schema: dict[str, Any]) -> None:
    """The principal where a purchase says what is lent, the payment where clauses are the loan or
    where it follows from cover and value."""
    schema["required"] = [name for name in schema["required"] if name != "principal"]
    del schema["properties"]["payment"]["default"]
    no_payments = {"properties": {"count": {"enum": [0, "0"]}}}
    bounded = [{"required": [name]} for name in ("cover", "value")]
    schema["allOf"] = [
        {"oneOf": [{"required": ["principal"]}, {"required": ["purchase"]}]},
        {"anyOf": [{"required": ["payment"]}, no_payments, *bounded]},
    ]


#: What follows from a document and is kept beside its fields.
_KEPT: Final = ("unknown", "asked", "style")


@lru_cache(maxsize=256)
def _calendar(
    start: date, first: date | None, every: Every, timing: Timing, moved: MovedDays | None
) -> Calendar | None:
    """Made once for a document, so that what it has counted is kept."""
    step, in_advance = pace(every), timing == "in-advance"
    if step is None:
        return None
    if first is None:
        first = start if in_advance else later(start, step, 1)
    return Calendar(start, first, step, in_advance, moved.as_days if moved else None)


Rate = Annotated[
    Annotated[Quote, Tag("fixed")] | Annotated[FloatingQuote, Tag("floating")],
    Discriminator(kind_of_rate),
]


class LoanFields(Part):
    """The fields of a loan document, and what follows from them."""

    model_config = ConfigDict(
        frozen=True, defer_build=True, extra="forbid", json_schema_extra=_what_may_be_left_out
    )

    zephyrant: Literal["loan/1"] = Field(description="Says that this is a loan document.")
    name: str = Field(default="", max_length=200)
    currency: CurrencyCode
    principal: Amount = Field(description='The amount lent, or "?".')
    rate: Rate
    indices: Annotated[dict[str, Index], AfterValidator(Indices)] = Field(
        default_factory=Indices,
        max_length=MOST_INDICES,
        description="The indices that floating rates follow, by name.",
    )
    count: Count = Field(description='The number of regular payments, or "?".')
    every: Every = "month"
    payment: Amount = Field(
        default=UNKNOWN,
        description='Each regular payment, or "?"; left out where `count` is 0, where payments are '
        "sculpted, and where as much is lent as `cover` and `value` allow.",
    )
    balance: Amount = Field(
        default=Decimal(0),
        description='What is still owed at the end of the last period (0, or a balloon), or "?".',
    )
    timing: Timing = "in-arrears"
    repayment: Repayment = Field(
        default="level",
        description="How what is lent is repaid: by level payments, in equal parts with interest "
        "on top, the interest alone until the last, all at the end, parts in percent, or "
        "sculpted to the cash flow.",
    )
    amortized_over: AmortizedOver | None = Field(
        default=None,
        description="How many level payments they are reckoned over where only `count` are made "
        'and the rest is due with the last, or "?".',
    )
    interest_shared: InterestShared | None = Field(
        default=None,
        description="A way to share the interest out over the payments other than by what is owed.",
    )
    cover: Cover | None = Field(
        default=None, description="The cash flow that is to cover the payments."
    )
    value: Value | None = Field(default=None, description="The value the loan is lent on.")
    rounding: Rounding = Rounding()
    start: Day | None = Field(default=None, description="When the money is lent.")
    first_payment: Day | None = Field(
        default=None,
        description="When the first payment is due; left out, one period after the start, "
        "in advance at the start.",
    )
    day_count: DayCount = "equal"
    odd_days: OddDays = "simple"
    business_days: MovedDays | None = Field(
        default=None,
        description="The business days that payments are moved to which fall on others.",
    )
    we: We = Field(default="lend", description="Who speaks; it changes the words alone, no figure.")
    clauses: tuple[Clause, ...] = Field(default=(), max_length=MOST_CLAUSES)
    purchase: Purchase | None = None
    aim: Aim | None = None

    #: Whether payments round down, whatever the rounding: where a cover holds what is lent.
    _rounds_down: bool = PrivateAttr(False)

    def __copy__(self) -> Self:
        # A copy is made to be changed: what was kept of this one is not taken along.
        copied = super().__copy__()
        for name in _KEPT:
            copied.__dict__.pop(name, None)
        return copied

    @cached_property
    def unknown(self) -> str | None:
        """The figure that is asked for: its name, of a clause its path; none where all are
        stated."""
        return next(iter(self._asked()), None)

    @cached_property
    def asked(self) -> FigurePath | None:
        """Where the figure stands that is asked for."""
        return figure_path(self.unknown) if self.unknown else None

    def _asked(self) -> tuple[str, ...]:
        purchase, floats = self.purchase, floating(self)
        bought = (f"purchase.{purchase.asked}",) if purchase and purchase.asked else ()
        figures = (
            name
            for name in FIGURES
            if not (name == "rate" and floats)
            and not (name == "principal" and bought)
            and not (name == "payment" and not self.states_payment)
            and (self.rate.percent if name == "rate" else getattr(self, name)) == UNKNOWN
        )
        over = ("amortized_over",) if self.amortized_over == UNKNOWN else ()
        cover = ("cover.ratio",) if self.cover and self.cover.ratio == UNKNOWN else ()
        clauses = (
            f"clauses.{number}.{clause.asked}"
            for number, clause in enumerate(self.clauses)
            if clause.asked
        )
        margin = (f"rate.{floats.asked}",) if floats and floats.asked else ()
        return (*bought, *figures, *margin, *over, *cover, *clauses)

    @property
    def states_payment(self) -> bool:
        """Whether the document has a payment, stated or asked for; else it follows from cover and
        value."""
        return "payment" in self.model_fields_set

    @property
    def payments_round(self) -> CashWay:
        """How payments are rounded."""
        return "down" if self._rounds_down else self.rounding.payment

    def rounding_down(self) -> Self:
        """The loan with its payments rounded down, as they are where a cover holds what is lent."""
        loan = self.model_copy()
        loan._rounds_down = True
        return loan

    def rounded_as(self, loan: Self) -> Self:
        """This loan with its payments rounded down where those of another are."""
        return self.rounding_down() if loan._rounds_down else self

    @property
    def is_sized(self) -> bool:
        """Whether as much is lent as cover and value allow."""
        return self.principal == UNKNOWN and not self.states_payment

    @property
    def calendar(self) -> Calendar | None:
        """When payments fall due; none where no dates are stated."""
        if self.start is None:
            return None
        return _calendar(
            self.start, self.first_payment, self.every, self.timing, self.business_days
        )

    @property
    def decimals(self) -> int:
        """Decimals of the currency's minor unit."""
        return currencies()[self.currency].decimals

    @property
    def minor_unit(self) -> Decimal:
        """The smallest amount of the currency that can be paid."""
        return Decimal(1).scaleb(-self.decimals)

    @property
    def step(self) -> Decimal:
        """What payments are rounded to a multiple of."""
        return self.rounding.to or self.minor_unit

    @property
    def payments_a_year(self) -> int:
        """How many payments make a year."""
        return frequencies.a_year(self.every)

    @property
    def compounding(self) -> frequencies.Compounding:
        """The compounding of a nominal quote, the payments' own where none is stated."""
        return self.every if self.rate.compounding is None else self.rate.compounding

    def paths(self) -> tuple[str, ...]:
        """Where figures stand in the document."""
        lent = ["principal"]
        if self.purchase is not None:
            kind = "percent" if self.purchase.down.percent is not None else "amount"
            lent = ["purchase.price", f"purchase.down.{kind}"]
        own = [*self._of_rate(), "count", *(["payment"] if self.states_payment else [])]
        if REPAYMENT[repaid_by(self)].states_balance:
            own.append("balance")
        if self.amortized_over is not None:
            own.append("amortized_over")
        own += self._bounds()
        clauses = []
        for number, clause in enumerate(self.clauses):
            verb, figure = clause.verb, getattr(clause, clause.verb)
            if verb == "charge":
                continue
            if verb == "rate":
                clauses.append(f"clauses.{number}.rate.percent")
            elif isinstance(figure, Decimal) or figure == UNKNOWN:
                clauses.append(f"clauses.{number}.{verb}")
            elif isinstance(figure, Share):
                clauses.append(f"clauses.{number}.{verb}.percent")
            elif verb == "step":
                kind = "percent" if figure.percent is not None else "amount"
                clauses.append(f"clauses.{number}.step.{kind}")
        return (*lent, *own, *clauses)

    def _of_rate(self) -> list[str]:
        """Where the figures of the rate stand."""
        floats = floating(self)
        if floats is None:
            return ["rate.percent"]
        stated = ("margin", "first", "floor", "cap")
        paths = [f"rate.{name}" for name in stated if getattr(floats, name) is not None]
        if floats.index in self.indices and "." not in floats.index:
            paths.append(f"indices.{floats.index}.shift.percent")
        return paths

    def _bounds(self) -> list[str]:
        """Where the figures of cover and value stand."""
        paths = []
        if self.cover is not None:
            own = [] if self.cover.cash_flow is None else ["cash_flow", "growth"]
            paths += [f"cover.{name}" for name in (*own, "ratio")]
        if self.value is not None:
            paths += ["value.amount", "value.highest"]
        return paths

    @cached_property
    def style(self) -> Style:
        """How the rate is quoted, and for which payments."""
        return self.style_of(self.rate)

    def style_of(self, rate: Quote) -> Style:
        """How a rate of this loan is quoted."""
        of_a_loan = rate.convention.is_of_a_loan
        return Style(
            quoted=rate.quoted,
            compounding=self.every if rate.compounding is None else rate.compounding,
            every=self.every,
            over=rate.over.time if rate.over else None,
            year_days=rate.year_days or 365,
            payments=self.count if of_a_loan and self.count != UNKNOWN else None,
            in_advance=of_a_loan and self.timing == "in-advance",
        )
