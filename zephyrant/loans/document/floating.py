"""Floating rates: an index of fixings, a margin on it, floor and cap, when it is reset; and the
path that the index takes where it is not fixed yet.
"""

from bisect import bisect_right
from collections.abc import Iterable, Iterator
from datetime import date, timedelta
from decimal import Decimal
from functools import cached_property
from itertools import pairwise
from typing import TYPE_CHECKING, Annotated, Any, Final, Literal, NamedTuple, Self

from pydantic import BeforeValidator, Field, PlainSerializer, WithJsonSchema, model_validator

from zephyrant.texts import worded

from ..calendars import frequencies
from ..numbers.decimals import is_whole
from .field_schemas import number_schema
from .fields import (
    DAY_SCHEMA,
    UNKNOWN,
    Every,
    Percent,
    Unknown,
    decimal_of,
    in_quotes,
    read_date,
    wrong,
    wrong_at,
)
from .limits import MOST_PAYMENTS, MOST_PERCENT
from .parts import Part
from .quote import Quote, outside

if TYPE_CHECKING:
    from .loan_fields import LoanFields

#: The fixings of an index, and the entries of a path, at the most.
MOST_FIXINGS: Final = 10_000
MOST_INDICES: Final = 200
_MOST_LAG: Final = 366


def _stated_percent(value: object) -> Decimal:
    number = decimal_of(value, "2.31")
    if abs(number) >= MOST_PERCENT:
        raise wrong(worded("A rate is below {most} %.", most=f"{MOST_PERCENT:f}"))
    return number


def _moment(value: object) -> int | date:
    """A day, or without dates a number of periods from the start, before it below zero."""
    if isinstance(value, date) or (isinstance(value, str) and "-" in value[1:]):
        return read_date(value)
    number = decimal_of(value, "2026-06-30")
    if not is_whole(number) or abs(number) > MOST_PAYMENTS:
        raise wrong(worded("Write a day, or without dates a whole number of periods."))
    return int(number)


def _lag(value: object) -> int:
    number = decimal_of(value, "2")
    if not is_whole(number) or not 0 <= number <= _MOST_LAG:
        raise wrong(worded("The lag is a whole number of days, from 0 to {most}.", most=_MOST_LAG))
    return int(number)


StatedPercent = Annotated[
    Decimal,
    BeforeValidator(_stated_percent),
    PlainSerializer(lambda value: f"{value:f}", return_type=str),
    WithJsonSchema(number_schema()),
]
Moment = Annotated[
    int | date,
    BeforeValidator(_moment),
    WithJsonSchema({"anyOf": [{"type": "integer"}, DAY_SCHEMA]}),
]
LagDays = Annotated[
    int,
    BeforeValidator(_lag),
    WithJsonSchema({"type": "integer", "minimum": 0, "maximum": _MOST_LAG}),
]
Fixing = Annotated[
    tuple[Moment, StatedPercent],
    WithJsonSchema(
        {
            "type": "array",
            # A moment, then a percent.
            "items": number_schema(DAY_SCHEMA),
            "minItems": 2,
            "maxItems": 2,
        }
    ),
]


class Shift(Part):
    """Percentage points on the values of an index from a moment on; left out, after the last
    fixing."""

    percent: StatedPercent
    begin: Moment | None = Field(default=None, alias="from")

    model_config = Part.model_config | {"validate_by_name": True}


class Index(Part):
    """An index: what it was fixed at and when, and the path it takes after the last of these."""

    fixings: tuple[Fixing, ...] = Field(min_length=1, max_length=MOST_FIXINGS)
    ahead: Literal["flat"] | Annotated[tuple[Fixing, ...], Field(max_length=MOST_FIXINGS)] = "flat"
    shift: Shift | None = None

    @model_validator(mode="after")
    def _in_order(self) -> Self:
        for name, entries in (("fixings", self.fixings), ("ahead", self.path)):
            moments = [moment for moment, _ in entries]
            if len({type(moment) for moment in moments}) > 1:
                raise wrong_at(name, worded("State days throughout, or numbers of periods."))
            for one, other in pairwise(moments):
                if not one < other:  # type: ignore[operator]
                    raise wrong_at(
                        name,
                        worded(
                            "Fixings follow each other in time: {other} comes after {one}.",
                            other=one,
                            one=other,
                        ),
                    )
        return self

    @property
    def path(self) -> tuple[Fixing, ...]:
        """The entries that are stated for what is ahead."""
        return () if isinstance(self.ahead, str) else self.ahead

    @cached_property
    def _known(self) -> tuple[list[Any], list[Decimal]]:
        """Every moment at which the index takes a value, and that."""
        last = self.fixings[-1][0]
        ahead = (entry for entry in self.path if entry[0] > last)  # type: ignore[operator]
        entries = [*self.fixings, *ahead]
        return [moment for moment, _ in entries], [value for _, value in entries]

    @property
    def begins(self) -> int | date:
        """The first fixing."""
        return self.fixings[0][0]

    @property
    def settled(self) -> int | date:
        """The moment from which on nothing changes any more."""
        last = self._known[0][-1]
        begin = self.shift.begin if self.shift else None
        settled: int | date = last if begin is None else max(last, begin)
        return settled

    def value(self, moment: int | date) -> Decimal | None:
        """What it is fixed at on a day, or the path says; None before the first fixing."""
        moments, values = self._known
        place = bisect_right(moments, moment)
        if not place:
            return None
        value = values[place - 1]
        if self.shift is None:
            return value
        begin = self.shift.begin
        shifted = moment >= begin if begin is not None else moment > self.fixings[-1][0]  # type: ignore[operator]
        return value + self.shift.percent if shifted else value


def _is_stated_by_index(schema: dict[str, Any]) -> None:
    """The percent follows from the index."""
    del schema["properties"]["percent"]
    schema["required"] = [name for name in schema.get("required", []) if name != "percent"]


class Indices(dict[str, Index]):
    """Indices by name, as a value."""

    def __hash__(self) -> int:  # type: ignore[override]
        return hash(tuple(self.items()))


class FloatingQuote(Quote):
    """A rate that follows an index: `margin` on it, held between `floor` and `cap` (`on` the index,
    or on the sum), reset every `resets`.

    `first` is the whole rate until the first reset after the start; left out, the first period is
    fixed too. `lag_days` before a period begins its rate is fixed. `then`: the payment is set anew
    wherever the rate is. `percent` is that of the first period, and never stated.
    """

    percent: Percent = Field(default=UNKNOWN, exclude=True)
    index: str = Field(min_length=1, max_length=60)
    margin: Percent = Field(description='Percentage points on the index, or "?".')
    floor: StatedPercent | None = None
    cap: StatedPercent | None = None
    on: Literal["index", "rate"] = "index"
    resets: Every = Field(description="How often the rate is fixed anew: whole payments.")
    first: Percent | None = None
    lag_days: LagDays = 0
    then: Literal["re-level"] | None = None

    model_config = Quote.model_config | {"json_schema_extra": _is_stated_by_index}

    @model_validator(mode="before")
    @classmethod
    def _states_no_percent(cls, given: Any) -> Any:  # noqa: ANN401
        if isinstance(given, dict) and "percent" in given:
            raise wrong_at(
                "percent", worded("The percent of a floating rate follows from its index.")
            )
        return given

    @model_validator(mode="after")
    def _floor_is_below_the_cap(self) -> Self:
        if self.floor is not None and self.cap is not None and self.floor > self.cap:
            raise wrong_at(
                "floor",
                worded(
                    "The floor, {floor} %, lies above the cap, {cap} %.",
                    floor=f"{self.floor:f}",
                    cap=f"{self.cap:f}",
                ),
            )
        return self

    @property
    def asked(self) -> str | None:
        """The figure in it that is `"?"`."""
        names = ("margin", "first")
        return next((name for name in names if getattr(self, name) == UNKNOWN), None)

    def held(self, value: Decimal) -> Decimal:
        """A value between floor and cap."""
        if self.floor is not None:
            value = max(value, self.floor)
        return value if self.cap is None else min(value, self.cap)

    def whole(self, index: Decimal, margin: Decimal) -> Decimal:
        """The rate at a value of the index, after its bounds."""
        if self.on == "rate":
            return self.held(index + margin)
        return self.held(index) + margin


def kind_of_rate(value: object) -> str:
    """Whether a rate follows an index."""
    is_floating = isinstance(value, FloatingQuote) or (isinstance(value, dict) and "index" in value)
    return "floating" if is_floating else "fixed"


#: The steps of a path that are no field of the document: kinds of a rate.
RATE_KINDS: Final = ("fixed", "floating")


class Reset(NamedTuple):
    """A period with which a rate begins to hold, and that, in percent as quoted."""

    period: int
    percent: Decimal


def floating(loan: "LoanFields") -> FloatingQuote | None:
    """The floating rate of a loan; None where its rate is fixed."""
    return loan.rate if isinstance(loan.rate, FloatingQuote) else None


def index_of(loan: "LoanFields", quote: FloatingQuote) -> Index:
    """The index of a floating rate; raises at its field where it is not stated."""
    index = loan.indices.get(quote.index)
    if index is None:
        known = ", ".join(sorted(loan.indices)) or worded("none")
        raise wrong_at(
            "rate.index",
            worded(
                "{name} is no index of this document: state its fixings under indices (here: "
                "{known}).",
                name=in_quotes(quote.index),
                known=known,
            ),
        )
    return index


def periods_between(loan: "LoanFields", quote: FloatingQuote) -> int:
    """How many payment periods lie between two resets."""
    return loan.payments_a_year // frequencies.a_year(quote.resets)


def fixed_on(loan: "LoanFields", quote: FloatingQuote, period: int) -> int | date:
    """When the rate of a period is fixed: so long before it begins, in business days where there
    are such; without dates in periods from the start."""
    calendar = loan.calendar
    if calendar is None:
        return period - 1 - quote.lag_days
    first = period if calendar.in_advance else period - 1
    begins = calendar.payment(first) if first else calendar.start
    if calendar.business_days is not None:
        return calendar.business_days.earlier(begins, quote.lag_days)
    return begins - timedelta(days=quote.lag_days)


def resets_of(
    loan: "LoanFields", quote: FloatingQuote, last: int, **figures: Decimal
) -> Iterator[Reset]:
    """Every reset up to a payment, the first period among them; `margin` or `first` in place of
    what is stated."""
    index, each = index_of(loan, quote), periods_between(loan, quote)
    margin = figures.get("margin", quote.margin)
    first = figures.get("first", quote.first)
    stands_in = Decimal(0) if isinstance(margin, str) else margin
    settled: Decimal | None = None
    for period in range(1, last + 1, each):
        if period == 1 and first is not None:
            yield Reset(1, Decimal(0) if isinstance(first, str) else first)
            continue
        if settled is None:
            moment = fixed_on(loan, quote, period)
            value = index.value(moment)
            if value is None:
                continue
            percent = quote.whole(value, stands_in)
            if moment > index.settled:  # type: ignore[operator]
                settled = percent
        yield Reset(period, percent if settled is None else settled)


def first_percent(loan: "LoanFields", quote: FloatingQuote) -> Decimal | Unknown:
    """The rate of the first period; the `?` where it is asked for."""
    first = quote.first
    if first is not None:
        return first
    if quote.margin == UNKNOWN:
        return UNKNOWN
    return next(resets_of(loan, quote, 1)).percent


def check_floating(loan: "LoanFields") -> None:
    """Raises where a floating rate does not go with the rest of the document."""
    _check_moments(loan)
    quote = floating(loan)
    if quote is None:
        return
    index = index_of(loan, quote)
    if quote.convention.is_of_a_loan:
        raise wrong_at(
            "rate.quoted", worded("A flat quote speaks of a whole loan: its rate cannot float.")
        )
    if loan.interest_shared is not None:
        raise wrong_at("interest_shared", worded("Sum-of-digits is for one rate throughout."))
    if loan.payments_a_year % frequencies.a_year(quote.resets):
        raise wrong_at(
            "rate.resets",
            worded(
                "A rate is reset where a payment period begins: {payments} do not make up a "
                "{noun}.",
                payments=frequencies.period(loan.every).payments(),
                noun=frequencies.period(quote.resets).noun,
            ),
        )
    _check_then(loan, quote)
    _check_first_fixing(loan, quote, index)


def _check_moments(loan: "LoanFields") -> None:
    """Days with dates, numbers of periods without."""
    is_dated = loan.calendar is not None
    for name, index in loan.indices.items():
        moments: Iterable[tuple[str, int | date | None]] = (
            ("fixings", index.begins),
            ("ahead", index.path[0][0] if index.path else None),
            ("shift.from", index.shift.begin if index.shift else None),
        )
        for field, moment in moments:
            if moment is None or isinstance(moment, date) == is_dated:
                continue
            raise wrong_at(
                f"indices.{name}.{field}",
                worded("Days belong to loans with dates: state the start, or numbers of periods.")
                if not is_dated
                else worded("This loan has dates: state the days of the index."),
            )


def _check_then(loan: "LoanFields", quote: FloatingQuote) -> None:
    if quote.then is None:
        return
    if loan.count in (0, UNKNOWN):
        raise wrong_at(
            "rate.then",
            worded("A payment is set anew for a stated number of payments: state the count."),
        )
    asked = loan.asked
    if (
        asked is not None
        and str(asked) not in ("payment", "principal")
        and (not asked.is_of_purchase)
    ):
        raise wrong_at(
            loan.unknown or "",
            worded(
                "Where payments are set anew with the rate only the payment or the amount lent can "
                "be asked for, as though the first rate held."
            ),
        )


def _check_first_fixing(loan: "LoanFields", quote: FloatingQuote, index: Index) -> None:
    """The first reset has a fixing, and no rate is one that cannot be quoted so."""
    period = 1 if quote.first is None else 1 + periods_between(loan, quote)
    if isinstance(loan.count, int) and 0 < loan.count < period:
        return
    moment = fixed_on(loan, quote, period)
    if index.value(moment) is None:
        raise wrong_at(
            f"indices.{quote.index}.fixings",
            worded(
                "The rate of period {period} is fixed on {moment}, and the first fixing is that of "
                "{first}: state the one before.",
                period=period,
                moment=moment,
                first=index.begins,
            ),
        )
    if quote.margin == UNKNOWN:
        return
    for value in (least_of(index), most_of(index)):
        message = outside(quote.whole(value, quote.margin), loan.style)
        if message:
            raise wrong_at("rate.margin", message)


def least_of(index: Index) -> Decimal:
    """The lowest value it may take."""
    shift = min(Decimal(0), index.shift.percent) if index.shift else Decimal(0)
    return min(value for _, value in (*index.fixings, *index.path)) + shift


def most_of(index: Index) -> Decimal:
    """The highest value it may take."""
    shift = max(Decimal(0), index.shift.percent) if index.shift else Decimal(0)
    return max(value for _, value in (*index.fixings, *index.path)) + shift
