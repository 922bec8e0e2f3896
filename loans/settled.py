"""A loan ended early: what it costs, and the yearly cost if it does."""

from decimal import Decimal
from typing import Literal

from pydantic import BaseModel, ConfigDict, Field
from typing_extensions import TypedDict

from .costs import costs
from .cut import between
from .document import Loan
from .errors import FieldError, NotALoan
from .figures import precise, to_step
from .ledger import Schedule
from .solved import schedule_of, work_out
from .terms import footing_rate
from .words import Marks
from .yearly_cost import YearlyCost


class Charge(BaseModel):
    """What is agreed for ending early: a percent of what is then owed, months of interest on it,
    or an amount."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    kind: Literal["none", "percent", "months", "amount"] = "none"
    figure: Decimal = Field(default=Decimal(0), ge=0, le=1_000_000_000)


class Settled(TypedDict):
    """`owed` after the payment and the `charge` make the `payoff`; the costs if it ends so."""

    number: int
    date: str | None
    owed: str
    charge: str
    payoff: str
    total_cost: str
    yearly_cost: YearlyCost


def settled(loan: Loan, number: int, charge: Charge, marks: Marks) -> Settled:
    """The loan ended right after a payment; raises `NotALoan` where there is no such payment."""
    laid = schedule_of(loan, marks)
    found, terms, *_ = work_out(loan)
    if terms is None:
        raise ValueError("a loan with a schedule has its terms")
    if not 1 <= number <= len(laid.rows):
        message = f"There is no payment {number}: the loan has {len(laid.rows)}."
        raise NotALoan([FieldError(field="number", message=message)])
    rate = footing_rate(loan, found) or Decimal(0)
    row = laid.rows[number - 1]
    owed = laid.unit.amount(row.rest)
    with precise():
        share = {
            "none": Decimal(0),
            "percent": owed * charge.figure / 100,
            "months": owed * rate * loan.payments_a_year / 12 * charge.figure,
            "amount": charge.figure,
        }[charge.kind]
    asked = to_step(share, loan.minor_unit, "nearest")
    units = laid.unit.count(round(owed + asked, laid.unit.places))
    # In advance what moves between this payment and the next no longer does.
    calendar = loan.calendar
    unmoved = [
        laid.unit.count(each.amount)
        for each in between(terms)
        if each.number == number and calendar and each.day > calendar.payment(number)
    ]
    last = row._replace(
        advance=row.advance - sum(amount for amount in unmoved if amount > 0),
        repay=row.repay + sum(amount for amount in unmoved if amount < 0),
        payment=row.payment + units,
        principal=row.principal + units,
        interest=row.interest - (row.closing - row.rest),
        closing=0,
        rest=0,
    )
    ended = Schedule((*laid.rows[: number - 1], last), laid.unit)
    cost = costs(loan, terms, ended, rate)
    return {
        "number": number,
        "date": calendar and calendar.payment(number).isoformat(),
        "owed": f"{owed:.{loan.decimals}f}",
        "charge": f"{asked:.{loan.decimals}f}",
        "payoff": laid.unit.write(units),
        "total_cost": cost.told["total_cost"],
        "yearly_cost": cost.yearly,
    }
