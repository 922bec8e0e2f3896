"""The working of a loan whose periods or payments differ: carried through."""

from decimal import Decimal
from typing import Final

from ..calendars import frequencies
from ..calendars.dates import odd_time
from ..document.fields import UNKNOWN
from ..document.figure_path import BALANCE, PAYMENT, PRINCIPAL
from ..document.loan import Loan
from ..ledger.discounting import discounted
from ..ledger.exact import EXACT, unrounded_end
from ..ledger.levelling import left_over
from ..line.growth import NO_TIME
from ..line.line import Line
from ..line.stretch import Stretch
from ..line.terms import Terms
from ..numbers.ratios import as_decimal
from ..unknowns.solution import Found
from .writer import Step, Writer, asked, money_of, quote_back, quote_step


def uneven_steps(loan: Loan, line: Line, solution: Decimal, write: Writer) -> list[Step]:
    """Where periods differ: by what everything grows to at the end."""
    solved = line.terms
    way = _periods_step(loan, solved, write)
    if loan.unknown == "count":
        return [*way, _counted_step(line, solution, write)]
    grown = left_over(solved, PRINCIPAL).slope
    added = -left_over(solved, PAYMENT).slope
    way += [
        {
            "title": "What 1 lent grows to by the end",
            "formula": "U = the growth of all periods, multiplied",
            "numbers": f"{solved.count} periods",
            "result": write.number(grown),
        },
        {
            "title": "What payments of 1 grow to by the end",
            "formula": "S = the growth after each of them, added up",
            "numbers": f"{solved.count} payments",
            "result": write.number(added),
        },
    ]
    lent, paid, left = money_of(solved, write)
    u, s = write.number(grown), write.number(added)
    formula, numbers = {
        "payment": ("A = (P · U − B) / S", f"({lent} × {u} − {left}) / {s}"),
        "principal": ("P = (A · S + B) / U", f"({paid} × {s} + {left}) / {u}"),
        "balance": ("B = P · U − A · S", f"{lent} × {u} − {paid} × {s}"),
    }[asked(loan).name]
    return [
        *way,
        {
            "title": f"The {asked(loan).name}",
            "formula": formula,
            "numbers": numbers,
            "result": write.number(solution),
        },
    ]


def _counted_step(line: Line, solution: Decimal, write: Writer) -> Step:
    whole = int(solution)
    owed = unrounded_end(line, whole) if whole else line.terms.principal
    return {
        "title": "The number of payments",
        "formula": "rolled period by period to the last that leaves more than B, and on from "
        "there by n = ln((A − B · i) / (A − Bₖ · i)) / ln(1 + i)",
        "numbers": f"after {whole} payments {write.money(owed)} is owed",
        "result": write.number(solution),
    }


def cut_steps(loan: Loan, found: Found, line: Line, solution: Decimal, write: Writer) -> list[Step]:
    """A loan with clauses: its rates, each cut with the balance carried across, the figure."""
    way = []
    if loan.rate.percent != UNKNOWN:
        way.append(quote_step(loan, loan.rate, write))
    for number, clause in enumerate(loan.clauses, 1):
        if clause.rate is not None and clause.rate.percent != UNKNOWN:
            way.append(quote_step(loan, clause.rate, write, f", clause {number}"))
    way += _periods_step(loan, line.terms, write)
    if loan.unknown == "count":
        way.append(_counted_step(line, solution, write))
    elif loan.asked and loan.asked.is_rate:
        way += _crossing_steps(found, line, write)
        way.append(quote_back(loan, found, write))
    else:
        way.append(_linear_step(loan, line.terms, solution, write))
    return [*way, *_carried_steps(line, write)]


def _crossing_steps(found: Found, line: Line, write: Writer) -> list[Step]:
    lent, paid = discounted(line)
    return [
        {
            "title": "Every rate at which what is lent is worth what is paid",
            "formula": "all zeros of ln(lent) − ln(paid), discounted, between −99.9 % and "
            "+10,000 % a year: intervals that cannot hold one are discarded, the rest halved",
            "numbers": f"at the rate told: {write.money(lent)} = {write.money(paid)}",
            "result": f"{len(found.solutions)} found",
        }
    ]


def _linear_step(loan: Loan, solved: Terms, solution: Decimal, write: Writer) -> Step:
    path = asked(loan)
    if path.is_step and path.is_percent:
        return {
            "title": "The growth of the payments",
            "formula": "the only one at which the loan ends as stated: the more they grow the "
            "less is left",
            "numbers": f"left at the end: {write.money(solved.balance)}",
            "result": write.percent(solution),
        }
    if path == BALANCE:
        return {
            "title": "The balance",
            "formula": "B = what is owed when all has been rolled to the end",
            "numbers": "see the cuts below",
            "result": write.number(solution),
        }
    left = left_over(solved, path)
    one, two = (write.number(left.at(Decimal(trial))) for trial in (1, 2))
    return {
        "title": "The figure asked for: what is left at the end is linear in it",
        "formula": "x = 1 + E(1) / (E(1) − E(2)), E(x) what is left beyond the balance with "
        "x there",
        "numbers": f"1 + {one} / ({one} − {two})",
        "result": write.number(solution),
    }


#: Cuts shown at the beginning and at the end of a line with many.
_CUTS_SHOWN: Final = (14, 4)


def _carried_steps(line: Line, write: Writer) -> list[Step]:
    """Each stretch between two cuts, with the unrounded balance carried across."""
    owed = line.principal
    told: list[Step] = []
    for stretch in line.stretches:
        last = stretch.last or stretch.first
        if line.is_open and len(told) > sum(_CUTS_SHOWN):
            break
        before = owed
        owed = EXACT.through(owed, stretch, last - stretch.first + 1)
        told.append(_carried(stretch, last, before, owed, write))
    head, tail = _CUTS_SHOWN
    if len(told) > head + tail:
        told = [*told[:head], *told[-tail:]]
    return told


def _carried(stretch: Stretch, last: int, before: Decimal, owed: Decimal, write: Writer) -> Step:
    periods = f"payment {last}" if stretch.first == last else f"payments {stretch.first} to {last}"
    interest = as_decimal((1 + stretch.before) * (1 + stretch.after) - 1)
    parts = [f"interest {write.percent(100 * interest)}"]
    if stretch.advance or stretch.fee:
        parts.append(f"added {write.money(stretch.advance + stretch.fee)}")
    paid = "the interest" if stretch.interest_only else write.money(stretch.payment)
    parts.append(f"paid {paid}")
    if stretch.repay:
        parts.append(f"and {write.money(stretch.repay)} on top")
    for amount, *_ in stretch.inner:
        parts.append(f"between payments {write.money(amount)}")
    return {
        "title": f"Carried across: {periods}",
        "formula": "owed before, with interest, less what is paid",
        "numbers": f"{write.number(before)}; " + ", ".join(parts),
        "result": f"{write.number(owed)} owed",
    }


def _periods_step(loan: Loan, solved: Terms, write: Writer) -> list[Step]:
    """How the first period grows, where it is not as the clock says."""
    calendar, run = loan.calendar, solved.runs[0]
    if calendar is None:
        return []
    rate = as_decimal(solved.rate)
    span = run.before if run.before != NO_TIME else run.after
    interest = as_decimal(span.interest(solved.rate))
    i = write.number(rate)
    begins, ends = next(calendar.periods())
    if loan.day_count != "equal":
        days = (ends - begins).days
        return [
            {
                "title": f"The interest of each period, by {loan.day_count}",
                "formula": "f · i · the part of a year between its dates",
                "numbers": f"first, {begins} to {ends} ({days} days): {i} × {span.simple}",
                "result": write.percent(100 * interest),
            }
        ]
    if calendar.is_regular:
        return []
    odd = odd_time(calendar.start, calendar.first, calendar.step)
    formula, numbers = (
        "(1 + q · i)(1 + i)^w − 1",
        f"(1 + {odd.fraction} × {i})(1 + {i})^{odd.whole} − 1",
    )
    if loan.odd_days == "compound":
        formula, numbers = "(1 + i)^(q + w) − 1", f"(1 + {i})^({odd.fraction} + {odd.whole}) − 1"
    return [
        {
            "title": f"From {calendar.start} to the first payment on {calendar.first}: w whole "
            "periods and before them q of one",
            "formula": formula,
            "numbers": numbers,
            "result": write.percent(100 * interest),
        }
    ]


def uneven_rate(loan: Loan, line: Line, write: Writer) -> list[Step]:
    """The rate where periods differ: the only one at which the present values agree."""
    solved, value = line.terms, discounted(line).paid
    rate = as_decimal(solved.rate)
    return [
        *_periods_step(loan, solved, write),
        {
            "title": f"The rate of one {frequencies.period(loan.every).noun}: the only one at "
            "which the payments and the balance are worth what is lent",
            "formula": "P = each payment and B, divided by the growth of the periods before it",
            "numbers": f"{write.money(solved.principal)} = {write.money(value)} at i",
            "result": f"i = {write.percent(100 * rate)}",
        },
    ]
