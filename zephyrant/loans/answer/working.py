"""The answer explained: each step with its formula and its numbers."""

from decimal import Decimal

from zephyrant.texts import worded

from ..calendars import frequencies
from ..document.fields import UNKNOWN
from ..document.floating import floating
from ..document.loan import Loan
from ..ledger.exact import unrounded_end
from ..ledger.rows import Schedule
from ..line.line import Line
from ..line.terms import digits_for
from ..numbers.decimals import precise
from ..quotes.conversion import Rates, quoted_percent
from ..unknowns.solution import Found, asks_of_purchase
from ..unknowns.worked import Solved
from ..wording.marks import Marks, Number, Percent, Sentence
from .working_bounds import bounds_steps
from .working_cash import cash_steps
from .working_level import level_steps, rate_step
from .working_parts import parts_steps
from .working_uneven import cut_steps, uneven_rate, uneven_steps
from .writer import Step, Writer, quote_back, quote_step


def clock_sentence(loan: Loan, found: Found, rates: Rates, schedule: Schedule | None) -> Sentence:
    """How the clocks of quote, compounding, payments and term agree."""
    percent = loan.rate.percent
    if percent == UNKNOWN:
        percent = found.meant
        if loan.asked is not None and loan.asked.floats:
            percent = quoted_percent(found.periodic or Decimal(0), loan.style)
    at_first = worded("At first ") if floating(loan) is not None else ""
    count = len(schedule.rows) if loan.count == UNKNOWN and schedule else loan.count
    if count == 0:
        count = UNKNOWN
    span = "" if count == UNKNOWN else " {count} {payments} = {term}."
    periodic = "" if loan.rate.convention.is_of_periods else worded(" = {periodic} a {payment}")
    effective = (
        "" if loan.rate.convention.is_effective else worded(" = {effective} a year, effective")
    )
    return Sentence(
        at_first + "{percent} {quoted}" + periodic + effective + "." + span,
        percent=Percent(percent, least_places=2),
        quoted=loan.style.in_words(),
        periodic=Percent(rates.periodic),
        effective=Percent(rates.effective),
        payment=frequencies.period(loan.every).payment,
        count=Number(0 if count == UNKNOWN else count),
        payments=worded("payment") if count == 1 else worded("payments"),
        term="" if count == UNKNOWN else frequencies.term(count, loan.every),
    )


def steps(loan: Loan, worked: Solved, marks: Marks) -> tuple[Step, ...]:
    """The way from the statement to the answer, in order."""
    write, found, schedule = Writer(loan, marks), worked.found, worked.schedule
    line = worked.solved
    if line is None or worked.line is None:
        raise ValueError("nothing was found to be explained")
    with precise(digits_for(worked.line.terms)):
        solved = line.terms
        figure = solution = found.meant
        if asks_of_purchase(loan):
            solution = solved.principal
        way = _figure_steps(loan, found, line, solution, write)
        if worked.line.terms.whole is not None:
            way.append(_left_step(line, worked.line.terms.count or 0, write))
        if asks_of_purchase(loan):
            way.append(_bought_step(loan, solution, figure, write))
        if schedule:
            way += cash_steps(loan, figure, worked.line.terms, schedule, write)
    return tuple(way)


def _figure_steps(
    loan: Loan, found: Found, line: Line, solution: Decimal, write: Writer
) -> list[Step]:
    """The way to the figure, unrounded."""
    solved = line.terms
    if found.sizing is not None or solved.follows_cash_flow:
        return bounds_steps(loan, found, line, write)
    if solved.has_parts:
        return parts_steps(loan, found, line, solution, write)
    floats = loan.asked is not None and loan.asked.floats
    if solved.provisions or floats:
        return cut_steps(loan, found, line, solution, write)
    if loan.unknown == "rate":
        of_level = solved.is_level
        by = rate_step(loan, solved, write) if of_level else uneven_rate(loan, line, write)
        return [*by, quote_back(loan, found, write)]
    way = [quote_step(loan, loan.rate, write)]
    if solved.is_level:
        return way + level_steps(loan, solved, solution, write)
    return way + uneven_steps(loan, line, solution, write)


def _left_step(line: Line, count: int, write: Writer) -> Step:
    """What the payments that are made leave of a loan reckoned over more of them."""
    return {
        "title": worded("What is due with payment {count}, beside it", count=count),
        "formula": worded("what is owed after so many of the {over}", over=line.terms.count or 0),
        "numbers": worded("{count} periods rolled, unrounded", count=count),
        "result": write.number(unrounded_end(line, count)),
    }


def _bought_step(loan: Loan, principal: Decimal, figure: Decimal, write: Writer) -> Step:
    """From the amount lent to what was asked of the purchase."""
    if loan.purchase is None:
        raise ValueError("nothing is bought")
    price, down, lent = loan.purchase.price, loan.purchase.down, write.number(principal)
    if isinstance(price, Decimal) and down.percent is not None:
        title, formula = (
            worded("The down payment"),
            worded("d = 100 · (Q − P) / Q, with Q the price"),
        )
        numbers = f"100 × ({write.money(price)} − {lent}) / {write.money(price)}"
    elif isinstance(price, Decimal):
        title, formula = worded("The down payment"), worded("D = Q − P, with Q the price")
        numbers = f"{write.money(price)} − {lent}"
    elif isinstance(down.percent, Decimal):
        title, formula = worded("The price"), "Q = P / (1 − d / 100)"
        numbers = f"{lent} / (1 − {write.number(down.percent)} / 100)"
    else:
        title, formula = worded("The price"), "Q = P + D"
        numbers = f"{lent} + {write.money(Decimal(down.amount or 0))}"
    told = write.percent if loan.asked and loan.asked.is_percent else write.number
    return {"title": title, "formula": formula, "numbers": numbers, "result": told(figure)}
