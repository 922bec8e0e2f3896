"""A loan ended early: what it costs, and the yearly cost if it does."""

from datetime import date
from decimal import Decimal

from typing_extensions import TypedDict

from zephyrant.texts import worded

from ..cost.costs import costs
from ..cost.rest import Moment
from ..cost.yearly_cost import YearlyCost
from ..document.loan import Loan
from ..errors import NotALoan
from ..ledger.rows import Row, Schedule, due
from ..line.line import Line
from ..numbers.decimals import Unit, plain
from ..unknowns.solution import footing_rate
from ..unknowns.worked import schedule_of, work_out
from ..wording.marks import Marks
from .balance_at import Owed
from .balance_at import owed as owed_at
from .ending_charge import Charge, Ending, charged_at


class PayoffAmount(TypedDict):
    """`owed` after the payment, or on the day with the interest to it, and the `charge` make the
    `payoff`; the costs if it ends so. `number`: of the last payment before it. `actuarial`: what
    would be owed by the interest on what is owed, where it is shared out by another rule. `year`:
    of the loan; `free`: what is owed without a charge; `percent`: that of the year, or at which the
    rest is `discounted`, of a make-whole."""

    number: int
    date: str | None
    on_a_day: bool
    owed: str
    actuarial: str | None
    charge: str
    year: int
    free: str | None
    percent: str | None
    discounted: str | None
    payoff: str
    total_cost: str
    yearly_cost: YearlyCost


def payoff_at(loan: Loan, typed: str, charge: Charge, marks: Marks) -> PayoffAmount:
    """The loan ended right after a payment ("12") or on a day ("1 Mar 2029"), to be paid off to the
    cent upwards; raises `NotALoan` at `at` where there is no such moment."""
    schedule = schedule_of(loan, marks)
    worked = work_out(loan)
    found, line = worked.found, worked.line
    if line is None:
        raise ValueError("a loan with a schedule has its line")
    moment = _moment(loan, typed, marks)
    number, day = moment["number"], moment["date"]
    on_a_day = moment["what"].startswith("on ")
    if not on_a_day and number == 0:
        raise _refused(
            worded("Nothing has been paid at the start: name a payment from 1 on, or a day.")
        )
    unit, rate = schedule.unit, footing_rate(loan, found) or Decimal(0)
    owed = Decimal(moment["owed"])
    at = Moment(number, date.fromisoformat(day) if on_a_day and day else None)
    charged = charged_at(charge, Ending(loan, line, schedule, at, owed, rate))
    asked = charged.amount
    units = unit.count(round(owed + asked, unit.places))
    if on_a_day:
        rows = _ending_on(loan, line, schedule, moment, units)
    else:
        *before, row = (row for row in schedule.rows if row.number <= number)
        rows = (*before, _ending(loan, line, schedule, row, units))
    cost = costs(line, Schedule(rows, unit, by_day=schedule.by_day), rate)
    return {
        "number": number,
        "date": day,
        "on_a_day": on_a_day,
        "owed": f"{owed:.{loan.decimals}f}",
        "actuarial": _actuarial(loan, typed, marks),
        "charge": f"{asked:.{loan.decimals}f}",
        "year": charged.year,
        "free": f"{charged.free:.{loan.decimals}f}" if charge.is_free_in_part else None,
        "percent": None if charged.percent is None else plain(charged.percent),
        "discounted": None
        if charged.discounted is None
        else f"{charged.discounted:.{loan.decimals}f}",
        "payoff": unit.write(units),
        "total_cost": cost.told["total_cost"],
        "yearly_cost": cost.yearly,
    }


def _actuarial(loan: Loan, typed: str, marks: Marks) -> str | None:
    """What would be owed at the same moment by the interest on what is owed."""
    if loan.interest_shared is None:
        return None
    return _moment(loan.model_copy(update={"interest_shared": None}), typed, marks)["owed"]


def _refused(message: str) -> NotALoan:
    return NotALoan.at("at", message)


def _moment(loan: Loan, typed: str, marks: Marks) -> Owed:
    moments = owed_at(loan, typed, marks, "up")
    if len(moments) != 1:
        raise _refused(worded("A loan is settled once: name one payment or one day."))
    return moments[0]


def _without_later(unit: Unit, line: Line, row: Row, after: date | None) -> Row:
    """A row without what would have moved in its period after a day, and no longer does."""
    unmoved = [
        unit.count(each.amount)
        for each in line.between
        if each.number == row.stands_at and after is not None and each.day > after
    ]
    return row._replace(
        advance=row.advance - sum(amount for amount in unmoved if amount > 0),
        repay=row.repay + sum(amount for amount in unmoved if amount < 0),
    )


def _ending(loan: Loan, line: Line, schedule: Schedule, row: Row, units: int) -> Row:
    """The last row of a loan ended right after its payment: in advance what would move between it
    and the next no longer does."""
    return _without_later(schedule.unit, line, row, due(row, loan.calendar))._replace(
        payment=row.payment + units,
        principal=row.principal + units,
        interest=row.interest - (row.closing - row.rest),
        closing=0,
        rest=0,
    )


def _ending_on(
    loan: Loan, line: Line, schedule: Schedule, moment: Owed, units: int
) -> tuple[Row, ...]:
    """The rows of a loan ended on a day between two payments: one more, of that day."""
    unit, number = schedule.unit, moment["number"]
    rows = [row for row in schedule.rows if row.number <= number]
    in_advance = loan.timing == "in-advance" and not schedule.by_day
    opening = schedule.rows[0].opening
    if rows:
        last = rows[-1]
        opening = last.rest
        # In advance the interest from the payment on is told with the row: now up to the day.
        later = last.closing - last.rest if in_advance else 0
        rows[-1] = _without_later(unit, line, last, due(last, loan.calendar))._replace(
            interest=last.interest - later, closing=opening
        )
    day = date.fromisoformat(moment["date"] or "")
    period = max(1, number if in_advance else number + 1)
    happened = [
        unit.count(each.amount)
        for each in ([] if schedule.by_day else line.between)
        if each.number == period and each.day <= day
    ]
    accrued = unit.count(Decimal(moment["accrued"]))
    end = Row(
        number + 1,
        opening,
        accrued,
        units - accrued,
        units,
        0,
        0,
        advance=sum(amount for amount in happened if amount > 0),
        repay=-sum(amount for amount in happened if amount < 0),
        place=period,
        day=day,
    )
    return (*rows, end)
