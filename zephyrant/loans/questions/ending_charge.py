"""What is agreed for ending a loan early, and what that comes to at a moment.

Common practice: a percent of what is then owed, one that falls from year to year, months of
interest, an amount, or make-whole: what the lender would have had beyond what is owed, the rest
discounted at a reference rate and a spread. A part of each year may be free of it.
"""

from decimal import Decimal
from typing import Final, Literal, NamedTuple

from pydantic import BaseModel, ConfigDict, Field

from zephyrant.texts import Worded, worded

from ..cost.rest import Moment, Rest
from ..document.loan import Loan
from ..document.quote import outside
from ..errors import NotALoan
from ..ledger.rows import Schedule
from ..line.line import Line
from ..numbers.decimals import precise, to_step
from ..quotes.conversion import periodic_rate

ChargeKind = Literal["none", "percent", "declining", "months", "amount", "make-whole"]
#: What can be agreed, and what it is called.
CHARGES: Final[Worded[ChargeKind]] = Worded(
    {
        "none": "nothing besides",
        "percent": "a percent of what is owed",
        "declining": "a percent that falls from year to year",
        "months": "months of interest on it",
        "amount": "an amount",
        "make-whole": "make-whole: the rest discounted, less what is owed",
    }
)
#: Years for which a percent is agreed, at the most.
MOST_YEARS: Final = 100


class Charge(BaseModel):
    """What is agreed for ending early: `figure` in percent of what is then owed, months of interest
    on it, or an amount; of make-whole the reference rate, to which the `spread` is added, quoted as
    the loan's rate. `percents`: of each year of the loan in turn, none after the last. `free`: what
    may be repaid in each year of the loan without a charge, or `free_percent` of what was lent."""

    model_config = ConfigDict(frozen=True, defer_build=True, extra="forbid")

    kind: ChargeKind = "none"
    figure: Decimal = Field(default=Decimal(0), ge=-1_000, le=1_000_000_000)
    spread: Decimal = Field(default=Decimal(0), ge=-1_000, le=1_000)
    percents: tuple[Decimal, ...] = Field(default=(), max_length=MOST_YEARS)
    free: Decimal = Field(default=Decimal(0), ge=0, le=1_000_000_000_000)
    free_percent: Decimal = Field(default=Decimal(0), ge=0, le=100)

    @property
    def is_free_in_part(self) -> bool:
        """Whether a part of each year is free of it."""
        return bool(self.kind != "none" and (self.free or self.free_percent))


class Ending(NamedTuple):
    """A loan laid out and the moment at which it ends: `owed` then, `periodic` its rate of one
    payment period."""

    loan: Loan
    line: Line
    schedule: Schedule
    moment: Moment
    owed: Decimal
    periodic: Decimal


class Charged(NamedTuple):
    """What it comes to, in money to the cent. `year`: of the loan, from 1; `free`: what of that
    year is still free; `discounted`: what the rest is worth at the rate of a make-whole,
    `percent`."""

    amount: Decimal
    year: int
    free: Decimal
    percent: Decimal | None = None
    discounted: Decimal | None = None


def charged_at(charge: Charge, ending: Ending) -> Charged:
    """What is charged where a loan ends so; raises `NotALoan` at `charge.kind` or `charge.figure`
    where its rest cannot be discounted."""
    loan, owed = ending.loan, ending.owed
    year = _year(loan, ending.moment)
    free = min(max(owed, Decimal(0)), _free(charge, ending, year))
    base = owed - free
    discounted = percent = None
    with precise():
        match charge.kind:
            case "none":
                share = Decimal(0)
            case "amount":
                share = charge.figure
            case "percent":
                share = base * charge.figure / 100
            case "months":
                share = base * ending.periodic * loan.payments_a_year / 12 * charge.figure
            case "declining":
                percent = charge.percents[year - 1] if year <= len(charge.percents) else Decimal(0)
                share = base * percent / 100
            case "make-whole":
                percent = charge.figure + charge.spread
                discounted = _discounted(ending, percent)
                share = max(discounted - owed, Decimal(0)) * (base / owed if owed else Decimal(0))
    amount = to_step(share, loan.minor_unit, "nearest")
    if discounted is not None:
        discounted = to_step(discounted, loan.minor_unit, "nearest")
    return Charged(amount, year, free, percent, discounted)


def _discounted(ending: Ending, percent: Decimal) -> Decimal:
    loan, line, schedule, moment = ending[:4]
    if not line.has_payments:
        raise NotALoan.at(
            "charge.kind", worded("A make-whole discounts payments: this loan has clauses alone.")
        )
    if loan.rate.convention.is_of_a_loan:
        raise NotALoan.at(
            "charge.kind",
            worded("A flat quote speaks of a whole loan: quote the rate in another style."),
        )
    if sentence := outside(percent, loan.style):
        raise NotALoan.at("charge.figure", sentence)
    return Rest(line, schedule, moment).worth(periodic_rate(percent, loan.style))


def _year(loan: Loan, moment: Moment) -> int:
    """The year of the loan in which a moment lies; right after a payment in arrears the year that
    ends with it."""
    number, day = moment
    period = number + 1 if day is not None and loan.timing == "in-arrears" else max(1, number)
    return -(-period // loan.payments_a_year)


def _free(charge: Charge, ending: Ending, year: int) -> Decimal:
    """What is still free of the charge in a year: what is agreed less what has been repaid on top
    in it."""
    if not charge.is_free_in_part:
        return Decimal(0)
    schedule, each = ending.schedule, ending.loan.payments_a_year
    unit = schedule.unit
    free = charge.free
    if charge.free_percent:
        lent = unit.amount(schedule.rows[0].opening)
        free = to_step(lent * charge.free_percent / 100, unit.amount(unit.minor), "nearest")
    repaid = sum(
        row.repay
        for row in schedule.rows
        if row.number <= ending.moment.number and -(-row.number // each) == year
    )
    return max(free - unit.amount(repaid), Decimal(0))
