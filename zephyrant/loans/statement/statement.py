"""A loan as typed.

A statement is a loan document whose figures stand as typed, in the marks of whoever types.
"""

import re
from typing import Any, Final, Literal

from pydantic import BaseModel, ConfigDict, Field, model_validator

from ..calendars.business_days import Roll
from ..calendars.dates import DayCount
from ..document.clauses import Pay, Taken, VerbName
from ..document.fields import UNKNOWN, CompoundingField, CurrencyCode, Every, OddDays, We
from ..document.limits import MOST_CLAUSES
from ..document.parts import Rounding
from ..document.repayment import RepaidBy
from ..numbers.annuity import Timing
from ..quotes.styles import Quoted, YearDays
from ..wording.marks import MarksName

TYPED: Final = Field(default="", max_length=200)


class TypedClause(BaseModel):
    """A clause as typed, in the words of a document: where (`at`, or `from` and `to`), what is
    done, and how much.

    `figure` is the verb's amount or percent. Places are numbers of payments or days. Of a charge:
    what its percent is `of`, what it is for (`name`), whether yearly costs count it.
    """

    model_config = ConfigDict(frozen=True, defer_build=True, extra="forbid", validate_by_name=True)

    verb: VerbName = "payment"
    at: str = TYPED
    begin: str = Field(default="", max_length=200, alias="from")
    to: str = TYPED
    is_stretch: bool = False
    months: tuple[int, ...] = Field(default=(), max_length=12)
    figure: str = TYPED
    in_percent: bool = False
    quoted: Quoted = "nominal"
    compounding: CompoundingField | None = None
    over: str = TYPED
    year_days: YearDays = 365
    pay: Pay = "nothing"
    every: str = TYPED
    taken: Taken = "from-proceeds"
    then: Literal["re-level"] | None = None
    of: Literal["balance", "principal"] = "balance"
    name: str = Field(default="", max_length=80)
    in_costs: bool = True

    @model_validator(mode="before")
    @classmethod
    def _older(cls, given: Any) -> Any:  # noqa: ANN401
        """Clauses were kept with `begin`, which is read by its name, and `levels` for `then`."""
        if not isinstance(given, dict) or "levels" not in given:
            return given
        kept = {name: value for name, value in given.items() if name != "levels"}
        return {"then": "re-level" if given["levels"] else None, **kept}


class TypedAim(BaseModel):
    """An aim as typed: its result and the figure that moves, as a document names them; what it is
    to be is typed."""

    model_config = ConfigDict(frozen=True, defer_build=True, extra="forbid", validate_by_name=True)

    figure: str = Field(max_length=20)
    is_: str = Field(default="", max_length=200, alias="is")
    by: str = Field(max_length=100)


class TypedCover(BaseModel):
    """A cover as typed: the cash flow of a period of `every`, or one for each year of the loan, how
    it grows a year, and how many times the payments it is to be."""

    model_config = ConfigDict(frozen=True, defer_build=True, extra="forbid")

    cash_flow: str = Field(default="", max_length=4000)
    every: Every = "year"
    growth: str = TYPED
    ratio: str = TYPED


class TypedValue(BaseModel):
    """The value a loan is lent on, and the highest percent of it, as typed."""

    model_config = ConfigDict(frozen=True, defer_build=True, extra="forbid")

    amount: str = TYPED
    highest: str = TYPED


class TypedFloating(BaseModel):
    """A floating rate as typed: what is added to which index, the bounds it is held in, when it is
    reset; the fixings of the index, a line each, and the path ahead (empty: flat)."""

    model_config = ConfigDict(frozen=True, defer_build=True, extra="forbid")

    index: str = Field(default="", max_length=60)
    margin: str = TYPED
    floor: str = TYPED
    cap: str = TYPED
    on: Literal["index", "rate"] = "index"
    resets: Every = "half-year"
    first: str = TYPED
    lag_days: str = TYPED
    then: Literal["re-level"] | None = None
    fixings: str = Field(default="", max_length=200_000)
    ahead: str = Field(default="", max_length=200_000)
    shift: str = TYPED
    shift_from: str = TYPED


class TypedBusinessDays(BaseModel):
    """Business days as typed: the calendars, how payments are moved that fall on other days, and
    whether interest is counted to the day they are moved to."""

    model_config = ConfigDict(frozen=True, defer_build=True, extra="forbid")

    calendars: str = TYPED
    roll: Roll = "following"
    adjusted: bool = False


class Statement(BaseModel):
    """A loan as typed: figures are text in `marks`, choices are the document's own.

    Of a purchase `price` and `down` are typed, and the principal follows from them. `repaid`: by
    level payments or how else; `percents` and `amortized_over` are read where it says so. Where the
    rate is `floating` there is no `percent`. With a `cover` or a `value` a payment that is not
    typed follows from them where what is lent is asked.
    """

    model_config = ConfigDict(frozen=True, defer_build=True, extra="forbid")

    marks: MarksName = "comma-point"
    name: str = Field(default="", max_length=200)
    we: We = "lend"
    currency: CurrencyCode = "EUR"
    principal: str = Field(default="", max_length=200)
    is_purchase: bool = False
    price: str = TYPED
    down: str = TYPED
    down_in_percent: bool = True
    percent: str = Field(default="", max_length=200)
    quoted: Quoted = "nominal"
    compounding: CompoundingField | None = None
    over: str = Field(default="", max_length=200)
    year_days: YearDays = 365
    count: str = Field(default="", max_length=200)
    every: Every = "month"
    payment: str = Field(default="", max_length=200)
    balance: str = Field(default="0", max_length=200)
    repaid: RepaidBy = "level"
    percents: str = Field(default="", max_length=2000)
    amortized_over: str = TYPED
    floating: TypedFloating | None = None
    cover: TypedCover | None = None
    value: TypedValue | None = None
    timing: Timing = "in-arrears"
    rounding: Rounding = Rounding()
    start: str = Field(default="", max_length=200)
    first_payment: str = Field(default="", max_length=200)
    day_count: DayCount = "equal"
    odd_days: OddDays = "simple"
    business_days: TypedBusinessDays | None = None
    clauses: tuple[TypedClause, ...] = Field(default=(), max_length=MOST_CLAUSES)
    aim: TypedAim | None = None

    @model_validator(mode="before")
    @classmethod
    def _older(cls, given: Any) -> Any:  # noqa: ANN401
        """Statements were kept with `aim_figure`, `aim_is` and `aim_by`."""
        names = ("figure", "is", "by")
        if not isinstance(given, dict) or not any(f"aim_{name}" in given for name in names):
            return given
        given = dict(given)
        aim = {name: given.pop(f"aim_{name}", "") for name in names}
        return {"aim": aim if aim["figure"] else None, **given}


#: What stands between the cash flows of two years.
_BETWEEN_YEARS: Final = re.compile(r";|\n| then ")


def years_typed(cash_flow: str) -> list[str]:
    """The cash flows that are typed, one for each year."""
    return [piece for piece in _BETWEEN_YEARS.split(cash_flow) if piece.strip()]


def is_by_year(cover: TypedCover) -> bool:
    """Whether a cash flow is typed for each year."""
    return len(years_typed(cover.cash_flow)) > 1


def follows_from_bounds(statement: Statement) -> bool:
    """Whether the payment follows from cover and value: sculpted, or not typed where as much is
    lent as they allow."""
    if statement.repaid == "sculpted":
        return True
    bounded = statement.cover is not None or statement.value is not None
    return bounded and not statement.payment.strip() and statement.principal.strip() == UNKNOWN
