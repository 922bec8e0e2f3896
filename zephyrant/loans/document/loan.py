"""The loan document: typed, validated, immutable.

The one definition of it, with its fields and parts: the JSON Schema, the OpenAPI schema and the
front end's types are generated from the models here.
"""

from datetime import date
from decimal import Decimal
from functools import lru_cache
from typing import Any, Literal, Self

from pydantic import ConfigDict, Field, model_validator
from pydantic_core import PydanticCustomError

from ..calendars import frequencies
from ..calendars.dates import Calendar, DayCount, later, pace
from ..numbers.annuity import Timing
from ..numbers.currencies import currencies
from ..quotes.styles import Style
from .aim import Aim
from .clauses import Clause, Share
from .fields import (
    FIGURES,
    UNKNOWN,
    Amount,
    Count,
    CurrencyCode,
    Day,
    Every,
    OddDays,
    Unknown,
    in_quotes,
    wrong_at,
)
from .figure_path import FigurePath, figure_path
from .limits import MOST_CLAUSES, MOST_PAYMENTS
from .parts import Part, Rounding
from .purchase import FINEST_SHARE, Purchase
from .quote import Quote, outside


def _what_may_be_left_out(schema: dict[str, Any]) -> None:
    """The principal where a purchase says what is lent, the payment where clauses are the loan."""
    left_out = ("principal", "payment")
    schema["required"] = [name for name in schema["required"] if name not in left_out]
    no_payments = {"properties": {"count": {"enum": [0, "0"]}}}
    schema["allOf"] = [
        {"oneOf": [{"required": ["principal"]}, {"required": ["purchase"]}]},
        {"anyOf": [{"required": ["payment"]}, no_payments]},
    ]


@lru_cache(maxsize=256)
def _calendar(start: date, first: date | None, every: Every, timing: Timing) -> Calendar | None:
    """Made once for a document, so that what it has counted is kept."""
    step, in_advance = pace(every), timing == "in-advance"
    if step is None:
        return None
    if first is None:
        first = start if in_advance else later(start, step, 1)
    return Calendar(start, first, step, in_advance)


class Loan(Part):
    """A loan, one figure of which may be unknown (`"?"`); with none the figures are checked."""

    model_config = ConfigDict(frozen=True, extra="forbid", json_schema_extra=_what_may_be_left_out)

    zephyrant: Literal["loan/1"] = Field(description="Says that this is a loan document.")
    name: str = Field(default="", max_length=200)
    currency: CurrencyCode
    principal: Amount = Field(description='The amount lent, or "?".')
    rate: Quote
    count: Count = Field(description='The number of regular payments, or "?".')
    every: Every = "month"
    payment: Amount = Field(
        description='Each regular payment, or "?"; may be left out where `count` is 0.',
    )
    balance: Amount = Field(
        default=Decimal(0),
        description='What is still owed at the end of the last period (0, or a balloon), or "?".',
    )
    timing: Timing = "in-arrears"
    rounding: Rounding = Rounding()
    start: Day | None = Field(default=None, description="When the money is lent.")
    first_payment: Day | None = Field(
        default=None,
        description="When the first payment is due; left out, one period after the start, "
        "in advance at the start.",
    )
    day_count: DayCount = "equal"
    odd_days: OddDays = "simple"
    clauses: tuple[Clause, ...] = Field(default=(), max_length=MOST_CLAUSES)
    purchase: Purchase | None = None
    aim: Aim | None = None

    @property
    def unknown(self) -> str | None:
        """The figure that is asked for: its name, of a clause its path; none where all are
        stated."""
        return next(iter(self._asked()), None)

    @property
    def asked(self) -> FigurePath | None:
        """Where the figure stands that is asked for."""
        return figure_path(self.unknown) if self.unknown else None

    def _asked(self) -> tuple[str, ...]:
        purchase = self.purchase
        bought = (f"purchase.{purchase.asked}",) if purchase and purchase.asked else ()
        figures = (
            name
            for name in FIGURES
            if not (name == "principal" and bought)
            and (self.rate.percent if name == "rate" else getattr(self, name)) == UNKNOWN
        )
        clauses = (
            f"clauses.{number}.{clause.asked}"
            for number, clause in enumerate(self.clauses)
            if clause.asked
        )
        return (*bought, *figures, *clauses)

    @property
    def calendar(self) -> Calendar | None:
        """When payments fall due; none where no dates are stated."""
        if self.start is None:
            return None
        return _calendar(self.start, self.first_payment, self.every, self.timing)

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

    @model_validator(mode="after")
    def _lends_what_the_purchase_leaves(self) -> Self:
        if self.purchase is None:
            return self
        lent: Decimal | Unknown = UNKNOWN
        if self.purchase.asked is None:
            lent = self.purchase.lent(
                self.minor_unit if self.rounding.payment != "none" else FINEST_SHARE
            )
            if lent < 0:
                raise wrong_at("purchase.down.amount", "The down payment is more than the price.")
        object.__setattr__(self, "principal", lent)
        return self

    @model_validator(mode="after")
    def _one_unknown(self) -> Self:
        asked = tuple("rate.percent" if name == "rate" else name for name in self._asked())
        if len(asked) > 1:
            named = " and ".join(asked)
            raise PydanticCustomError(
                "unknowns",
                "{sentence}",
                {
                    "sentence": f'Only one figure can be "?": here {named} are. '
                    "State all but the one to find.",
                    "fields": asked,
                },
            )
        return self

    @model_validator(mode="after")
    def _dates_can_be(self) -> Self:
        if self.start is None:
            if self.first_payment is not None:
                raise wrong_at("first_payment", "State the start too: the day the money is lent.")
            if self.day_count != "equal":
                raise wrong_at("day_count", "Days are counted between dates: state the start.")
            return self
        if self.first_payment is not None and self.first_payment < self.start:
            raise wrong_at(
                "first_payment",
                f"The first payment, {self.first_payment}, lies before the start, {self.start}.",
            )
        if pace(self.every) is None:
            raise wrong_at(
                "every",
                f"{frequencies.a_year(self.every)} payments a year fall on no regular dates: leave "
                "the start out, or pay yearly, half-yearly, quarterly, two-monthly, monthly, twice "
                "a month, four-weekly, two-weekly, weekly or daily.",
            )
        try:
            calendar = self.calendar
            if calendar and self.count != UNKNOWN:
                calendar.end(self.count)
        except OverflowError:
            raise wrong_at("count", "The last payment would fall beyond the year 9999.") from None
        return self

    @model_validator(mode="before")
    @classmethod
    def _may_be_left_out(cls, content: Any) -> Any:  # noqa: ANN401
        if not isinstance(content, dict):
            return content
        if str(content.get("count")) == "0":
            content = {"payment": "0", **content}
        if content.get("purchase") is not None:
            if "principal" in content:
                raise wrong_at(
                    "principal", "A purchase states what is lent: leave the principal out."
                )
            # Filled in from the purchase once that has been read.
            content = {"principal": "0", **content}
        return content

    @model_validator(mode="after")
    def _aims_with_a_figure_of_its_own(self) -> Self:
        aim = self.aim
        if aim is None:
            return self
        paths = self.paths()
        if aim.by not in paths:
            raise wrong_at(
                "aim.by",
                f"{in_quotes(aim.by)} is no figure of this loan that can move: "
                f"take one of {', '.join(paths)}.",
            )
        if aim.path == self.asked:
            raise wrong_at(
                "aim.by",
                "This is the figure asked for: an aim moves another one. State it, or put the ? "
                "elsewhere.",
            )
        if aim.figure == "end_date" and self.start is None:
            raise wrong_at(
                "aim.figure", "A loan without dates has no end date: say when it is lent."
            )
        if aim.by == aim.figure:
            raise wrong_at("aim.by", "The figure that moves cannot be the one that is aimed at.")
        return self

    def paths(self) -> tuple[str, ...]:
        """Where figures stand in the document."""
        lent = ["principal"]
        if self.purchase is not None:
            kind = "percent" if self.purchase.down.percent is not None else "amount"
            lent = ["purchase.price", f"purchase.down.{kind}"]
        own = ("rate.percent", "count", "payment", "balance")
        clauses = []
        for number, clause in enumerate(self.clauses):
            verb, figure = clause.verb, getattr(clause, clause.verb)
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

    @model_validator(mode="after")
    def _clauses_have_their_places(self) -> Self:
        seen = set()
        for number, clause in enumerate(self.clauses):
            self._has_its_place(clause, f"clauses.{number}")
            if clause.payment is not None and clause.at is not None:
                if clause.at in seen:
                    message = f"Another clause already says what payment {clause.at} is."
                    raise wrong_at(f"clauses.{number}.at", message)
                seen.add(clause.at)
            self._can_be_quoted_so(clause, f"clauses.{number}.rate")
            if clause.then and self.count in (0, UNKNOWN):
                message = "A payment is set anew for a stated number of payments: state the count."
                raise wrong_at(f"clauses.{number}.then", message)
        return self

    @model_validator(mode="after")
    def _clauses_alone_have_their_ends(self) -> Self:
        if self.count != 0:
            return self
        if not self.clauses:
            raise wrong_at(
                "count",
                f"The number of payments is between 1 and {MOST_PAYMENTS}; 0 is for a deal of "
                "clauses alone, and there are none here.",
            )
        if any(
            clause.is_stretch and clause.to is None and clause.rate is None
            for clause in self.clauses
        ):
            raise wrong_at("clauses", "Without payments every stretch needs its end: state its to.")
        return self

    def _has_its_place(self, clause: Clause, field: str) -> None:
        for name, place in (("at", clause.at), ("from", clause.begin), ("to", clause.to)):
            misplaced = None if place is None else self._misplaced(place)
            if misplaced:
                raise wrong_at(f"{field}.{name}", misplaced)
        if clause.months and self.calendar is None:
            raise wrong_at(f"{field}.months", "Months belong to loans with dates: state the start.")

    def _can_be_quoted_so(self, clause: Clause, field: str) -> None:
        rate = clause.rate
        if rate is None or rate.percent == UNKNOWN:
            return
        if rate.convention.is_of_a_loan:
            message = "A flat quote speaks of a whole loan, not of a stretch of it."
            raise wrong_at(f"{field}.quoted", message)
        if sentence := outside(rate.percent, self.style_of(rate)):
            raise wrong_at(f"{field}.percent", sentence)

    def _misplaced(self, place: int | date) -> str | None:
        calendar = self.calendar
        count = self.count if isinstance(self.count, int) and self.count else None
        if isinstance(place, int):
            if count and place > count:
                return f"There is no payment {place}: the loan has {count}."
            if calendar and place > calendar.most_payments():
                return f"Payment {place} would fall beyond the year 9999."
            return None
        if calendar is None:
            return "Days belong to loans with dates: state the start."
        if place < calendar.start:
            return f"{place} lies before the start, {calendar.start}."
        if count and place > calendar.end(count):
            return f"{place} lies after the end, {calendar.end(count)}."
        return None

    @property
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

    @model_validator(mode="after")
    def _flat_speaks_of_level_payments(self) -> Self:
        if not self.rate.convention.is_of_a_loan:
            return self
        if self.count in (UNKNOWN, 0):
            raise wrong_at(
                "count",
                "A flat quote needs its term: state the number of payments, or quote the rate "
                "in another style.",
            )
        if self.balance != 0:
            raise wrong_at(
                "balance",
                "A flat quote speaks of a loan that its payments repay to nothing: leave a "
                "balance of 0, or quote the rate in another style.",
            )
        return self

    @model_validator(mode="after")
    def _money_does_not_vanish(self) -> Self:
        percent = self.rate.percent
        if percent != UNKNOWN and (message := outside(percent, self.style)):
            raise wrong_at("rate.percent", message)
        return self

    @model_validator(mode="after")
    def _step_can_be_paid(self) -> Self:
        if self.step % self.minor_unit:
            raise wrong_at(
                "rounding.to",
                f"A step of {self.step:f} cannot be paid: {self.currency} has "
                f"{self.decimals} decimals, so use a multiple of {self.minor_unit:f}.",
            )
        return self
