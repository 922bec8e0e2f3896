"""A loan as typed.

A statement is a loan document whose figures stand as typed, in the marks of whoever types.
"""

from typing import Final

from pydantic import BaseModel, ConfigDict, Field

from ..calendars.dates import DayCount
from ..document.clauses import Pay, Taken, VerbName
from ..document.fields import CompoundingField, CurrencyCode, Every, OddDays
from ..document.limits import MOST_CLAUSES
from ..document.parts import Rounding
from ..numbers.annuity import Timing
from ..quotes.styles import Quoted, YearDays
from ..wording.marks import MarksName

TYPED: Final = Field(default="", max_length=200)


class TypedClause(BaseModel):
    """A clause as typed: where (`at`, or `begin` and `to`), what is done, and how much.

    `figure` is the verb's amount or percent. Places are numbers of payments or days.
    """

    model_config = ConfigDict(frozen=True, extra="forbid")

    verb: VerbName = "payment"
    at: str = TYPED
    begin: str = TYPED
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
    levels: bool = False


class Statement(BaseModel):
    """A loan as typed: figures are text in `marks`, choices are the document's own.

    Of a purchase `price` and `down` are typed, and the principal follows from them. An aim names
    its result and the figure that moves as a document does; what it is to be is typed.
    """

    model_config = ConfigDict(frozen=True, extra="forbid")

    marks: MarksName = "comma-point"
    name: str = Field(default="", max_length=200)
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
    timing: Timing = "in-arrears"
    rounding: Rounding = Rounding()
    start: str = Field(default="", max_length=200)
    first_payment: str = Field(default="", max_length=200)
    day_count: DayCount = "equal"
    odd_days: OddDays = "simple"
    clauses: tuple[TypedClause, ...] = Field(default=(), max_length=MOST_CLAUSES)
    aim_figure: str = Field(default="", max_length=20)
    aim_is: str = TYPED
    aim_by: str = Field(default="", max_length=100)
