"""A loan told as a row of a table, by the core that solves cases."""

from datetime import date
from decimal import Decimal
from typing import Final

from zephyrant.texts import worded

from ..answer.bounded import Ratios, bounds_told, lowest_cover
from ..answer.consistency import consistency
from ..answer.results import as_paid
from ..answer.solving import with_the_answer
from ..cost.costs import yearly_costs
from ..document.fields import UNKNOWN
from ..document.loan import Loan
from ..document.price import told_at_its_figure
from ..errors import NotALoan
from ..ledger.rows import Schedule
from ..numbers.decimals import percent_text, plain
from ..questions.balance_at import owed
from ..quotes.conversion import footings
from ..unknowns.solution import footing_rate
from ..unknowns.worked import Solved, payment_as_paid, value_as_paid, work_out
from ..wording.marks import PLAIN
from .columns import COST_PLACES, RESULTS


def exact_row(loan: Loan, after: int, owed_on: date | None = None) -> dict[str, str]:
    """A loan told as a row of a table, by the core that solves cases. Raises `BudgetSpentError` as
    `solve` does."""
    with told_at_its_figure(loan):
        return _told(loan, after, owed_on)


def _told(loan: Loan, after: int, owed_on: date | None) -> dict[str, str]:
    worked = work_out(loan)
    found, schedule = worked.found, worked.schedule
    told = {"unknown": _unknown(loan), **_stated(loan)}
    if found.reason:
        return {**told, "problem": found.reason.say(PLAIN)}
    if worked.line is None:
        return {**told, "problem": worded("Several rates fit: open it as a case.")}
    if found.solutions:
        solution = found.meant
        told["found"] = value_as_paid(loan, solution, worked.line.terms, schedule)
        if _unknown(loan) in RESULTS:
            told[_unknown(loan)] = _figure_text(_unknown(loan), told["found"], loan)
    rate = footing_rate(loan, found)
    told |= {**_rates(loan, rate), **_fits(loan)}
    if schedule is None:
        return {
            **told,
            "problem": worked.unlaid.say(PLAIN) if worked.unlaid else worded("It has no schedule."),
        }
    told |= _bounds(loan, worked)
    if loan.amortized_over is not None:
        told["balance"] = schedule.unit.write(schedule.rows[-1].closing)
    told |= _owed(loan, schedule, after, owed_on)
    if rate is not None:
        for name, cost in yearly_costs(worked.line, schedule, rate).items():
            told[name] = "" if cost is None else cost_text(float(str(cost)))
    return {**told, **_totals(loan)}


def _bounds(loan: Loan, worked: Solved) -> dict[str, str]:
    """What cover and value come to; with as much lent as they allow which of them binds, and the
    payment."""
    line, schedule, sizing = worked.line, worked.schedule, worked.found.sizing
    if line is None or schedule is None or (loan.cover is None and loan.value is None):
        return {}
    told = bounds_told(loan, line, Ratios(loan, line, schedule), sizing)
    texts = {
        "binding": told["binding"],
        "lowest_cover": lowest_cover(told["cover_ratios"]),
        "loan_to_value": told["loan_to_value"],
    }
    if sizing is not None and loan.repayment != "sculpted":
        texts["payment"] = payment_as_paid(loan, line.terms, schedule)
    return {name: text or "" for name, text in texts.items()}


def _rates(loan: Loan, rate: Decimal | None) -> dict[str, str]:
    if rate is None:
        return {}
    footing = footings(rate, loan.payments_a_year)
    names = ("periodic", "nominal", "effective")
    return {name: percent_text(getattr(footing, name)) for name in names}


def _fits(loan: Loan) -> dict[str, str]:
    if loan.unknown is not None:
        return {}
    held = consistency(loan, PLAIN)
    gap = plain(round(Decimal(held["gap"]), loan.decimals), loan.decimals)
    return {"gap": gap, "fits": "yes" if held["fits"] else "no"}


def _totals(loan: Loan) -> dict[str, str]:
    totals = {}
    for name in ("total_paid", "total_interest", "final_payment"):
        value = as_paid(loan, name)
        totals[name] = "" if value is None else plain(value, loan.decimals)
    return totals


def _owed(loan: Loan, schedule: Schedule, after: int, owed_on: date | None) -> dict[str, str]:
    """What is owed after a payment or, where none is named, on a day."""
    if 0 < after <= len(schedule.rows):
        return {"owed": schedule.unit.write(schedule.rows[after - 1].rest)}
    return {"owed": _owed_on(loan, owed_on)} if not after and owed_on is not None else {}


def _owed_on(loan: Loan, day: date) -> str:
    """What is owed on a day, "" where the loan has no dates or does not run then."""
    if loan.calendar is None:
        return ""
    try:
        (found,) = owed(with_the_answer(loan), day.isoformat(), PLAIN)
    except NotALoan:
        return ""
    return str(found["owed"])


def cost_text(percent: float) -> str:
    """A yearly cost as a table tells it."""
    # Nothing is not below zero.
    return f"{round(percent, COST_PLACES) + 0.0:.{COST_PLACES}f}"


#: The columns in which some figures are asked for.
_ASKED: Final = {
    "rate": "percent",
    "cover.ratio": "cover",
    "rate.margin": "margin",
    "rate.first": "first_rate",
}


def _unknown(loan: Loan) -> str:
    asked = loan.unknown or ""
    return _ASKED.get(asked, asked)


def _stated(loan: Loan) -> dict[str, str]:
    """Those of the five that are stated."""
    figures: dict[str, object] = {
        "principal": loan.principal,
        "percent": loan.rate.percent,
        "count": loan.count,
        "payment": loan.payment,
        "balance": loan.balance,
    }
    return {
        name: _figure_text(name, value, loan) for name, value in figures.items() if value != UNKNOWN
    }


def _figure_text(name: str, value: object, loan: Loan) -> str:
    if name == "count":
        return str(value)
    if name == "percent":
        return percent_text(Decimal(str(value)))
    return plain(Decimal(str(value)), loan.decimals)
