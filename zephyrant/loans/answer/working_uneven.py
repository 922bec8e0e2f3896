"""The working of a loan whose periods or payments differ: carried through."""

from decimal import Decimal
from typing import Final

from zephyrant.texts import worded

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
from .writer import Step, Writer, asked, asks_count, money_of, quote_back, quote_step


def uneven_steps(loan: Loan, line: Line, solution: Decimal, write: Writer) -> list[Step]:
    """Where periods differ: by what everything grows to at the end."""
    solved = line.terms
    way = periods_step(loan, solved, write)
    if asks_count(loan):
        return [*way, _counted_step(line, solution, write)]
    grown = left_over(solved, PRINCIPAL).slope
    added = -left_over(solved, PAYMENT).slope
    way += [
        {
            "title": worded("What 1 lent grows to by the end"),
            "formula": worded("U = the growth of all periods, multiplied"),
            "numbers": f"{solved.count} periods",
            "result": write.number(grown),
        },
        {
            "title": worded("What payments of 1 grow to by the end"),
            "formula": worded("S = the growth after each of them, added up"),
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
            "title": worded("The {name}", name=asked(loan).name),
            "formula": formula,
            "numbers": numbers,
            "result": write.number(solution),
        },
    ]


def _counted_step(line: Line, solution: Decimal, write: Writer) -> Step:
    whole = int(solution)
    owed = unrounded_end(line, whole) if whole else line.terms.principal
    return {
        "title": worded("The number of payments"),
        "formula": worded(
            "rolled period by period to the last that leaves more than B, and on "
            "from there by n = ln((A − B · i) / (A − Bₖ · i)) / ln(1 + i)"
        ),
        "numbers": worded(
            "after {whole} payments {owed} is owed", whole=whole, owed=write.money(owed)
        ),
        "result": write.number(solution),
    }


def cut_steps(loan: Loan, found: Found, line: Line, solution: Decimal, write: Writer) -> list[Step]:
    """A loan with clauses: its rates, each cut with the balance carried across, the figure."""
    way = []
    if loan.rate.percent != UNKNOWN:
        way.append(quote_step(loan, loan.rate, write))
    for number, clause in enumerate(loan.clauses, 1):
        if clause.rate is not None and clause.rate.percent != UNKNOWN:
            way.append(
                quote_step(loan, clause.rate, write, worded(", clause {number}", number=number))
            )
    way += periods_step(loan, line.terms, write)
    if asks_count(loan):
        way.append(_counted_step(line, solution, write))
    elif loan.asked and loan.asked.floats:
        way.append(margin_step(loan, solution, line, write))
    elif loan.asked and loan.asked.is_rate:
        way += _crossing_steps(found, line, write)
        way.append(quote_back(loan, found, write))
    else:
        way.append(_linear_step(loan, line.terms, solution, write))
    return [*way, *carried_steps(line, write)]


def margin_step(loan: Loan, solution: Decimal, line: Line, write: Writer) -> Step:
    """The margin on an index, or the first rate: the only one."""
    return {
        "title": worded("The {name}", name=asked(loan).named.title),
        "formula": worded(
            "the only one at which the loan ends as stated: the higher it is, the more is left"
        ),
        "numbers": worded("left at the end: {balance}", balance=write.money(line.balance)),
        "result": write.percent(solution),
    }


def _crossing_steps(found: Found, line: Line, write: Writer) -> list[Step]:
    lent, paid = discounted(line)
    return [
        {
            "title": worded("Every rate at which what is lent is worth what is paid"),
            "formula": worded(
                "all zeros of ln(lent) − ln(paid), discounted, between −99.9 % and "
                "+10,000 % a year: intervals that cannot hold one are discarded, the "
                "rest halved"
            ),
            "numbers": worded(
                "at the rate told: {lent} = {paid}", lent=write.money(lent), paid=write.money(paid)
            ),
            "result": f"{len(found.solutions)} found",
        }
    ]


def _linear_step(loan: Loan, solved: Terms, solution: Decimal, write: Writer) -> Step:
    path = asked(loan)
    if path.is_step and path.is_percent:
        return {
            "title": worded("The growth of the payments"),
            "formula": worded(
                "the only one at which the loan ends as stated: the more they grow the less is left"
            ),
            "numbers": worded("left at the end: {balance}", balance=write.money(solved.balance)),
            "result": write.percent(solution),
        }
    if path == BALANCE:
        return {
            "title": worded("The balance"),
            "formula": worded("B = what is owed when all has been rolled to the end"),
            "numbers": worded("see the cuts below"),
            "result": write.number(solution),
        }
    left = left_over(solved, path)
    one, two = (write.number(left.at(Decimal(trial))) for trial in (1, 2))
    return {
        "title": worded("The figure asked for: what is left at the end is linear in it"),
        "formula": worded(
            "x = 1 + E(1) / (E(1) − E(2)), E(x) what is left beyond the balance with x there"
        ),
        "numbers": f"1 + {one} / ({one} − {two})",
        "result": write.number(solution),
    }


#: Cuts shown at the beginning and at the end of a line with many.
_CUTS_SHOWN: Final = (14, 4)


def carried_steps(line: Line, write: Writer) -> list[Step]:
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
    periods = (
        worded("payment {last}", last=last)
        if stretch.first == last
        else worded("payments {first} to {last}", first=stretch.first, last=last)
    )
    interest = as_decimal((1 + stretch.before) * (1 + stretch.after) - 1)
    parts = [worded("interest {interest}", interest=write.percent(100 * interest))]
    if stretch.advance or stretch.fee:
        parts.append(worded("added {advance}", advance=write.money(stretch.advance + stretch.fee)))
    paid = write.money(stretch.payment)
    if stretch.on_top:
        paid = (
            worded("the interest and {part}", part=paid)
            if stretch.payment
            else worded("the interest")
        )
    parts.append(worded("paid {paid}", paid=paid))
    if stretch.repay:
        parts.append(worded("and {repay} on top", repay=write.money(stretch.repay)))
    for amount, *_ in stretch.inner:
        parts.append(worded("between payments {amount}", amount=write.money(amount)))
    return {
        "title": worded("Carried across: {periods}", periods=periods),
        "formula": worded("owed before, with interest, less what is paid"),
        "numbers": f"{write.number(before)}; " + ", ".join(parts),
        "result": worded("{owed} owed", owed=write.number(owed)),
    }


def periods_step(loan: Loan, solved: Terms, write: Writer) -> list[Step]:
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
                "title": worded(
                    "The interest of each period, by {day_count}", day_count=loan.day_count
                ),
                "formula": worded("f · i · the part of a year between its dates"),
                "numbers": worded(
                    "first, {begins} to {ends} ({days} days): {i} × {simple}",
                    begins=begins,
                    ends=ends,
                    days=days,
                    i=i,
                    simple=span.simple,
                ),
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
            "title": worded(
                "From {start} to the first payment on {first}: w whole periods and "
                "before them q of one",
                start=calendar.start,
                first=calendar.first,
            ),
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
        *periods_step(loan, solved, write),
        {
            "title": worded(
                "The rate of one {noun}: the only one at which the payments and the "
                "balance are worth what is lent",
                noun=frequencies.period(loan.every).noun,
            ),
            "formula": worded(
                "P = each payment and B, divided by the growth of the periods before it"
            ),
            "numbers": worded(
                "{principal} = {value} at i",
                principal=write.money(solved.principal),
                value=write.money(value),
            ),
            "result": f"i = {write.percent(100 * rate)}",
        },
    ]
