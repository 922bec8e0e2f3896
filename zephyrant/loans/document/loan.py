"""The loan document: typed, validated, immutable.

The one definition of it, with its fields and parts: the JSON Schema, the OpenAPI schema and the
front end's types are generated from the models here.
"""

from datetime import date
from decimal import Decimal
from typing import Any, Self

from pydantic import model_validator
from pydantic_core import PydanticCustomError

from zephyrant.texts import worded

from ..calendars import frequencies
from ..calendars.dates import pace
from ..wording.refusals import no_payment
from .bounds import check_bounds, follows_from_bounds
from .business_days import check_business_days
from .clauses import Clause
from .fields import (
    MISSING,
    UNKNOWN,
    Unknown,
    in_quotes,
    wrong_at,
)
from .floating import check_floating, first_percent, floating
from .limits import MOST_PAYMENTS
from .loan_fields import LoanFields
from .purchase import FINEST_SHARE
from .quote import outside
from .repaid import check_repayment


class Loan(LoanFields):
    """A loan, one figure of which may be unknown (`"?"`); with none the figures are checked."""

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
                raise wrong_at(
                    "purchase.down.amount", worded("The down payment is more than the price.")
                )
        object.__setattr__(self, "principal", lent)
        return self

    @model_validator(mode="after")
    def _one_unknown(self) -> Self:
        asked = tuple("rate.percent" if name == "rate" else name for name in self._asked())
        if len(asked) > 1:
            named = worded(" and ").join(asked)
            raise PydanticCustomError(
                "unknowns",
                "{sentence}",
                {
                    "sentence": worded(
                        'Only one figure can be "?": here {named} are. State all but the one to '
                        "find.",
                        named=named,
                    ),
                    "fields": asked,
                },
            )
        return self

    @model_validator(mode="after")
    def _dates_can_be(self) -> Self:
        if self.start is None:
            if self.first_payment is not None:
                raise wrong_at(
                    "first_payment", worded("State the start too: the day the money is lent.")
                )
            if self.day_count != "equal":
                raise wrong_at(
                    "day_count", worded("Days are counted between dates: state the start.")
                )
            check_business_days(self)
            return self
        if self.first_payment is not None and self.first_payment < self.start:
            raise wrong_at(
                "first_payment",
                worded(
                    "The first payment, {first_payment}, lies before the start, {start}.",
                    first_payment=self.first_payment,
                    start=self.start,
                ),
            )
        if pace(self.every) is None:
            raise wrong_at(
                "every",
                worded(
                    "{every} payments a year fall on no regular dates: leave the start out, "
                    "or pay yearly, half-yearly, quarterly, every two months, monthly, twice "
                    "a month, every four weeks, every two weeks, weekly or daily.",
                    every=frequencies.a_year(self.every),
                ),
            )
        check_business_days(self)
        try:
            calendar = self.calendar
            if calendar and self.count != UNKNOWN:
                calendar.end(self.count)
            if calendar and isinstance(self.amortized_over, int):
                calendar.end(self.amortized_over)
        except OverflowError:
            raise wrong_at(
                "count", worded("The last payment would fall beyond the year 9999.")
            ) from None
        return self

    @model_validator(mode="before")
    @classmethod
    def _may_be_left_out(cls, content: Any) -> Any:  # noqa: ANN401
        if not isinstance(content, dict):
            return content
        if str(content.get("count")) == "0":
            content = {"payment": "0", **content}
        if "payment" not in content and not follows_from_bounds(content):
            content = {"payment": MISSING, **content}
        if content.get("purchase") is not None:
            if "principal" in content:
                raise wrong_at(
                    "principal", worded("A purchase states what is lent: leave the principal out.")
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
                worded(
                    "{path} is no figure of this loan that can move: take one of {listed}.",
                    path=in_quotes(aim.by),
                    listed=", ".join(paths),
                ),
            )
        if aim.path == self.asked:
            raise wrong_at(
                "aim.by",
                worded(
                    "This is the figure asked for: an aim moves another one. State it, or "
                    "put the ? elsewhere."
                ),
            )
        if aim.figure == "end_date" and self.start is None:
            raise wrong_at(
                "aim.figure", worded("A loan without dates has no end date: say when it is lent.")
            )
        if aim.by == aim.figure:
            raise wrong_at(
                "aim.by", worded("The figure that moves cannot be the one that is aimed at.")
            )
        return self

    @model_validator(mode="after")
    def _floats_as_it_says(self) -> Self:
        check_floating(self)
        quote = floating(self)
        if quote is not None:
            # Filled in from the index once that has been read.
            object.__setattr__(quote, "percent", first_percent(self, quote))
        return self

    @model_validator(mode="after")
    def _is_repaid_as_it_says(self) -> Self:
        check_repayment(self)
        check_bounds(self)
        return self

    @model_validator(mode="after")
    def _clauses_have_their_places(self) -> Self:
        seen = set()
        for number, clause in enumerate(self.clauses):
            self._has_its_place(clause, f"clauses.{number}")
            if clause.payment is not None and clause.at is not None:
                if clause.at in seen:
                    message = worded(
                        "Another clause already says what payment {at} is.", at=clause.at
                    )
                    raise wrong_at(f"clauses.{number}.at", message)
                seen.add(clause.at)
            self._can_be_quoted_so(clause, f"clauses.{number}.rate")
            if clause.verb == "charge" and self.count == 0:
                message = worded("A charge is collected with payments: here there are none.")
                raise wrong_at(f"clauses.{number}.charge", message)
            if clause.then and self.count in (0, UNKNOWN):
                message = worded(
                    "A payment is set anew for a stated number of payments: state the count."
                )
                raise wrong_at(f"clauses.{number}.then", message)
        return self

    @model_validator(mode="after")
    def _clauses_alone_have_their_ends(self) -> Self:
        if self.count != 0:
            return self
        if not self.clauses:
            raise wrong_at(
                "count",
                worded(
                    "The number of payments is between 1 and {most}; 0 is for a "
                    "deal of clauses alone, and there are none here.",
                    most=MOST_PAYMENTS,
                ),
            )
        if any(
            clause.is_stretch and clause.to is None and clause.rate is None
            for clause in self.clauses
        ):
            raise wrong_at(
                "clauses", worded("Without payments every stretch needs its end: state its to.")
            )
        return self

    def _has_its_place(self, clause: Clause, field: str) -> None:
        for name, place in (("at", clause.at), ("from", clause.begin), ("to", clause.to)):
            misplaced = None if place is None else self._misplaced(place)
            if misplaced:
                raise wrong_at(f"{field}.{name}", misplaced)
        if clause.months and self.calendar is None:
            raise wrong_at(
                f"{field}.months", worded("Months belong to loans with dates: state the start.")
            )

    def _can_be_quoted_so(self, clause: Clause, field: str) -> None:
        rate = clause.rate
        if rate is None or rate.percent == UNKNOWN:
            return
        if rate.convention.is_of_a_loan:
            message = worded("A flat quote speaks of a whole loan, not of a stretch of it.")
            raise wrong_at(f"{field}.quoted", message)
        if sentence := outside(rate.percent, self.style_of(rate)):
            raise wrong_at(f"{field}.percent", sentence)

    def _misplaced(self, place: int | date) -> str | None:
        calendar = self.calendar
        count = self.count if isinstance(self.count, int) and self.count else None
        if isinstance(place, int):
            if count and place > count:
                return no_payment(place, count)
            if calendar and place > calendar.most_payments():
                return worded("Payment {place} would fall beyond the year 9999.", place=place)
            return None
        if calendar is None:
            return worded("Days belong to loans with dates: state the start.")
        if place < calendar.start:
            return worded(
                "{place} lies before the start, {start}.", place=place, start=calendar.start
            )
        if count and place > calendar.last_day(count):
            return worded(
                "{place} lies after the end, {count}.", place=place, count=calendar.end(count)
            )
        return None

    @model_validator(mode="after")
    def _flat_speaks_of_level_payments(self) -> Self:
        if not self.rate.convention.is_of_a_loan:
            return self
        if self.count in (UNKNOWN, 0):
            raise wrong_at(
                "count",
                worded(
                    "A flat quote needs its term: state the number of payments, or quote the "
                    "rate in another style."
                ),
            )
        if self.balance != 0:
            raise wrong_at(
                "balance",
                worded(
                    "A flat quote speaks of a loan that its payments repay to nothing: leave "
                    "a balance of 0, or quote the rate in another style."
                ),
            )
        return self

    @model_validator(mode="after")
    def _money_does_not_vanish(self) -> Self:
        percent = self.rate.percent
        # Of a floating rate every value it may take is looked at.
        if floating(self) is not None or percent == UNKNOWN:
            return self
        if message := outside(percent, self.style):
            raise wrong_at("rate.percent", message)
        return self

    @model_validator(mode="after")
    def _step_can_be_paid(self) -> Self:
        if self.step % self.minor_unit:
            raise wrong_at(
                "rounding.to",
                worded(
                    "A step of {step} cannot be paid: {currency} has {decimals} decimals, so "
                    "use a multiple of {minor_unit}.",
                    step=f"{self.step:f}",
                    currency=self.currency,
                    decimals=self.decimals,
                    minor_unit=f"{self.minor_unit:f}",
                ),
            )
        return self
