"""The answer explained: each step with its formula and its numbers."""

from dataclasses import replace
from decimal import Decimal
from typing import Final

from typing_extensions import TypedDict

from ..calendars import frequencies
from ..calendars.dates import odd_time
from ..document.fields import UNKNOWN
from ..document.loan import Loan
from ..document.parts import Quote
from ..ledger.levelling import levelled
from ..ledger.present_value import discounted, worth
from ..ledger.roll import Row, Schedule, rolled, unrounded_end
from ..line.periods import NO_TIME, Stretch, Terms
from ..line.stretches import lay_out
from ..line.terms import digits_for
from ..numbers import annuity
from ..numbers.decimals import precise
from ..quotes.conversion import Rates, as_decimal, periodic_rate
from ..quotes.formulas import quote_formula
from ..solve.solution import Found, asks_of_purchase, payable_percent, quote_of, solved_terms
from ..wording.marks import Marks, Number, Percent, Sentence

_PLACES: Final = 10


class Step(TypedDict):
    """One step: what it does, the formula, the formula with its numbers, what comes out."""

    title: str
    formula: str
    numbers: str
    result: str


def clock_sentence(loan: Loan, found: Found, rates: Rates, laid: Schedule | None) -> Sentence:
    """How the clocks of quote, compounding, payments and term agree."""
    percent = loan.rate.percent
    if percent == UNKNOWN:
        percent = found.solutions[found.ordinary or 0]
    count = len(laid.rows) if loan.count == UNKNOWN and laid else loan.count
    if count == 0:
        count = UNKNOWN
    span = "" if count == UNKNOWN else " {count} {payments} = {term}."
    periodic = "" if loan.rate.quoted == "periodic" else " = {periodic} a {often} payment"
    effective = "" if loan.rate.quoted == "effective" else " = {effective} a year, effective"
    return Sentence(
        "{percent} {quoted}" + periodic + effective + "." + span,
        percent=Percent(percent, least_places=2),
        quoted=loan.style.in_words(),
        periodic=Percent(rates.periodic),
        effective=Percent(rates.effective),
        often=frequencies.period(loan.every).often,
        count=Number(0 if count == UNKNOWN else count),
        payments="payment" if count == 1 else "payments",
        term="" if count == UNKNOWN else frequencies.term(count, loan.every),
    )


class Writer:
    """Numbers of the steps, in the reader's marks."""

    def __init__(self, loan: Loan, marks: Marks) -> None:
        self.loan, self.marks = loan, marks

    def money(self, value: Decimal) -> str:
        """An amount with the decimals of its currency."""
        return self.marks.amount(value, self.loan.decimals)

    def number(self, value: Decimal) -> str:
        """Ten significant decimals, however small the value."""
        places = _PLACES
        if value and value.adjusted() < -4:
            places = min(40, _PLACES - value.adjusted())
        return self.marks.number(value, places)

    def percent(self, value: Decimal) -> str:
        """Ten significant decimals with their sign."""
        return f"{self.number(value)} %"


def steps(
    loan: Loan, found: Found, terms: Terms, laid: Schedule | None, marks: Marks
) -> tuple[Step, ...]:
    """The way from the statement to the answer, in order."""
    write = Writer(loan, marks)
    with precise(digits_for(terms)):
        solved = solved_terms(loan, found)
        figure = solution = found.solutions[found.ordinary or 0]
        if asks_of_purchase(loan):
            solution = solved.principal
        if terms.puts:
            way = _cut_steps(loan, found, solved, solution, write)
        elif loan.unknown == "rate":
            by = _rate_step if terms.is_level else _uneven_rate
            way = [*by(loan, solved, write), _quote_back(loan, found, write)]
        else:
            way = [_quote_step(loan, loan.rate, write)]
            way += (_level_steps if terms.is_level else _uneven_steps)(
                loan, solved, solution, write
            )
        if asks_of_purchase(loan):
            way.append(_bought_step(loan, solution, figure, write))
        if laid:
            way += _cash_steps(loan, figure, laid, write)
    return tuple(way)


def _asked(loan: Loan) -> str:
    """The figure that is worked: of a purchase the amount lent."""
    return "principal" if asks_of_purchase(loan) else loan.unknown or ""


def _bought_step(loan: Loan, principal: Decimal, figure: Decimal, write: Writer) -> Step:
    """From the amount lent to what was asked of the purchase."""
    if loan.purchase is None:
        raise ValueError("nothing is bought")
    price, down, lent = loan.purchase.price, loan.purchase.down, write.number(principal)
    if isinstance(price, Decimal) and down.percent is not None:
        title, formula = "The down payment", "d = 100 · (Q − P) / Q, with Q the price"
        numbers = f"100 × ({write.money(price)} − {lent}) / {write.money(price)}"
    elif isinstance(price, Decimal):
        title, formula = "The down payment", "D = Q − P, with Q the price"
        numbers = f"{write.money(price)} − {lent}"
    elif isinstance(down.percent, Decimal):
        title, formula = "The price", "Q = P / (1 − d / 100)"
        numbers = f"{lent} / (1 − {write.number(down.percent)} / 100)"
    else:
        title, formula = "The price", "Q = P + D"
        numbers = f"{lent} + {write.money(Decimal(down.amount or 0))}"
    told = write.percent if (loan.unknown or "").endswith("percent") else write.number
    return {"title": title, "formula": formula, "numbers": numbers, "result": told(figure)}


def _quote_step(loan: Loan, rate: Quote, write: Writer, of: str = "") -> Step:
    style = loan.style_of(rate)
    formula, percent = quote_formula(style), Decimal(rate.percent)
    periodic = as_decimal(periodic_rate(percent, style))
    return {
        "title": f"One clock: the rate of one {frequencies.period(loan.every).noun}{of}",
        "formula": formula.forward,
        "numbers": formula.numbers.format(p=write.percent(percent)),
        "result": write.percent(100 * periodic),
    }


def _quote_back(loan: Loan, found: Found, write: Writer) -> Step:
    style = loan.style_of(quote_of(loan))
    return {
        "title": f"As quoted: {style.in_words()}",
        "formula": quote_formula(style).back,
        "numbers": f"i = {write.percent(100 * (found.periodic or Decimal(0)))}",
        "result": write.percent(found.solutions[found.ordinary or 0]),
    }


def _accumulated_formula(terms: Terms) -> str:
    if not terms.rate:
        return "s = n"
    return "s = (uⁿ − 1) / i" + (" · (1 + i)" if terms.in_advance else "")


def _by(terms: Terms) -> annuity.Factors:
    return annuity.factors(as_decimal(terms.rate), terms.count or 0, terms.timing)


def _level_steps(loan: Loan, solved: Terms, solution: Decimal, write: Writer) -> list[Step]:
    if loan.unknown == "count":
        return [_count_step(solved, solution, write)]
    return [*_factor_steps(solved, write), _figure_step(loan, solved, solution, write)]


def _factor_steps(solved: Terms, write: Writer) -> list[Step]:
    by, rate, count = _by(solved), as_decimal(solved.rate), solved.count or 0
    if rate:
        numbers = f"({write.number(by.growth)} − 1) / {write.number(rate)}"
        numbers += f" × {write.number(1 + rate)}" if solved.in_advance else ""
    else:
        numbers = write.number(Decimal(count))
    return [
        {
            "title": f"What 1 lent grows to in {count} periods",
            "formula": "uⁿ = (1 + i)ⁿ",
            "numbers": f"{write.number(1 + rate)}^{count}",
            "result": write.number(by.growth),
        },
        {
            "title": f"What {count} payments of 1 grow to",
            "formula": _accumulated_formula(solved),
            "numbers": numbers,
            "result": write.number(by.accumulated),
        },
    ]


def _figure_step(loan: Loan, solved: Terms, solution: Decimal, write: Writer) -> Step:
    lent, paid, left = _money(solved, write)
    by = _by(solved)
    growth, added = write.number(by.growth), write.number(by.accumulated)
    formula, numbers = {
        "payment": ("A = (P · uⁿ − B) / s", f"({lent} × {growth} − {left}) / {added}"),
        "principal": ("P = (A · s + B) / uⁿ", f"({paid} × {added} + {left}) / {growth}"),
        "balance": ("B = P · uⁿ − A · s", f"{lent} × {growth} − {paid} × {added}"),
    }[_asked(loan)]
    return {
        "title": f"The {_asked(loan)}",
        "formula": formula,
        "numbers": numbers,
        "result": write.number(solution),
    }


def _money(solved: Terms, write: Writer) -> tuple[str, str, str]:
    return (
        write.money(solved.principal),
        write.money(solved.payment),
        write.money(solved.balance),
    )


def _count_step(solved: Terms, solution: Decimal, write: Writer) -> Step:
    lent, paid, left = _money(solved, write)
    i = write.number(as_decimal(solved.rate))
    at_end = "A · (1 + i)" if solved.in_advance else "A"
    paid_at_end = f"{paid} × (1 + {i})" if solved.in_advance else paid
    formula = f"n = ln(({at_end} − B · i) / ({at_end} − P · i)) / ln(1 + i)"
    numbers = f"ln(({paid_at_end} − {left} × {i}) / ({paid_at_end} − {lent} × {i})) / ln(1 + {i})"
    if not solved.rate:
        formula, numbers = "n = (P − B) / A", f"({lent} − {left}) / {paid}"
    return {
        "title": "The number of payments",
        "formula": formula,
        "numbers": numbers,
        "result": write.number(solution),
    }


def _rate_step(loan: Loan, solved: Terms, write: Writer) -> list[Step]:
    by = _by(solved)
    lent, paid, left = _money(solved, write)
    return [
        {
            "title": f"The rate of one {frequencies.period(loan.every).noun}: the only one at "
            "which the payments and the balance are worth what is lent",
            "formula": f"P · uⁿ = A · s + B, with u = 1 + i and {_accumulated_formula(solved)}",
            "numbers": f"{lent} × {write.number(by.growth)} = {paid} × "
            f"{write.number(by.accumulated)} + {left}",
            "result": f"i = {write.percent(100 * as_decimal(solved.rate))}",
        }
    ]


def _uneven_steps(loan: Loan, solved: Terms, solution: Decimal, write: Writer) -> list[Step]:
    """Where periods differ: by what everything grows to at the end."""
    way = _periods_step(loan, solved, write)
    if loan.unknown == "count":
        return [*way, _counted_step(solved, solution, write)]
    grown = unrounded_end(lay_out(replace(solved, principal=Decimal(1), payment=Decimal(0))))
    added = -unrounded_end(lay_out(replace(solved, principal=Decimal(0), payment=Decimal(1))))
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
    lent, paid, left = _money(solved, write)
    u, s = write.number(grown), write.number(added)
    formula, numbers = {
        "payment": ("A = (P · U − B) / S", f"({lent} × {u} − {left}) / {s}"),
        "principal": ("P = (A · S + B) / U", f"({paid} × {s} + {left}) / {u}"),
        "balance": ("B = P · U − A · S", f"{lent} × {u} − {paid} × {s}"),
    }[_asked(loan)]
    return [
        *way,
        {
            "title": f"The {_asked(loan)}",
            "formula": formula,
            "numbers": numbers,
            "result": write.number(solution),
        },
    ]


def _counted_step(solved: Terms, solution: Decimal, write: Writer) -> Step:
    whole = int(solution)
    owed = unrounded_end(lay_out(solved), whole) if whole else solved.principal
    return {
        "title": "The number of payments",
        "formula": "rolled period by period to the last that leaves more than B, and on from "
        "there by n = ln((A − B · i) / (A − Bₖ · i)) / ln(1 + i)",
        "numbers": f"after {whole} payments {write.money(owed)} is owed",
        "result": write.number(solution),
    }


def _cut_steps(
    loan: Loan, found: Found, solved: Terms, solution: Decimal, write: Writer
) -> list[Step]:
    """A loan with clauses: its rates, each cut with the balance carried across, the figure."""
    way = []
    if loan.rate.percent != UNKNOWN:
        way.append(_quote_step(loan, loan.rate, write))
    for number, clause in enumerate(loan.clauses, 1):
        if clause.rate is not None and clause.rate.percent != UNKNOWN:
            way.append(_quote_step(loan, clause.rate, write, f", clause {number}"))
    way += _periods_step(loan, solved, write)
    asked_rate = loan.unknown == "rate" or (loan.unknown or "").endswith("rate.percent")
    if loan.unknown == "count":
        way.append(_counted_step(solved, solution, write))
    elif asked_rate:
        way += _crossing_steps(found, solved, write)
        way.append(_quote_back(loan, found, write))
    else:
        way.append(_linear_step(loan, solved, solution, write))
    return [*way, *_carried_steps(levelled(solved), write)]


def _crossing_steps(found: Found, solved: Terms, write: Writer) -> list[Step]:
    lent, paid = discounted(lay_out(solved))
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
    path = _asked(loan)
    if path.endswith("step.percent"):
        return {
            "title": "The growth of the payments",
            "formula": "the only one at which the loan ends as stated: the more they grow the "
            "less is left",
            "numbers": f"left at the end: {write.money(solved.balance)}",
            "result": write.percent(solution),
        }
    ends = [
        unrounded_end(lay_out(solved.having(path, trial))) - solved.balance
        for trial in (Decimal(1), Decimal(2))
    ]
    if path == "balance":
        ends = [unrounded_end(lay_out(solved)), Decimal(0)]
        return {
            "title": "The balance",
            "formula": "B = what is owed when all has been rolled to the end",
            "numbers": "see the cuts below",
            "result": write.number(solution),
        }
    one, two = (write.number(end) for end in ends)
    return {
        "title": "The figure asked for: what is left at the end is linear in it",
        "formula": "x = 1 + E(1) / (E(1) − E(2)), E(x) what is left beyond the balance with "
        "x there",
        "numbers": f"1 + {one} / ({one} − {two})",
        "result": write.number(solution),
    }


#: Cuts shown at the beginning and at the end of a line with many.
_CUTS_SHOWN: Final = (14, 4)


def _carried_steps(solved: Terms, write: Writer) -> list[Step]:
    """Each stretch between two cuts, with the unrounded balance carried across."""
    line = lay_out(solved)
    owed = line.principal
    told: list[Step] = []
    for stretch in line.stretches:
        last = stretch.last or stretch.first
        if solved.count is None and len(told) > sum(_CUTS_SHOWN):
            break
        before = owed
        owed = rolled(owed, stretch, last - stretch.first + 1)
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
    calendar, beat = loan.calendar, solved.beats[0]
    if calendar is None:
        return []
    rate = as_decimal(solved.rate)
    span = beat.before if beat.before != NO_TIME else beat.after
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


def _uneven_rate(loan: Loan, solved: Terms, write: Writer) -> list[Step]:
    rate = as_decimal(solved.rate)
    value = worth(solved, rate).value
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


_CASH_WORDS = {"nearest": "to the nearest", "up": "up to the next"}


def _cash_steps(loan: Loan, solution: Decimal, laid: Schedule, write: Writer) -> list[Step]:
    first, last = laid.rows[0], laid.rows[-1]
    amount = laid.unit.amount
    told_as = {
        "payment": (write.money(amount(first.payment)), _rounded_words(loan, write)),
        "principal": (write.money(amount(first.opening)), "to the nearest minor unit"),
        "balance": (
            write.money(amount(last.closing)),
            "the balance takes what rounding each row leaves",
        ),
        "count": (str(len(laid.rows)), "whole payments, the last one settling"),
        "rate": (
            f"{write.marks.number(payable_percent(solution), _PLACES)} %",
            "to ten decimals",
        ),
    }
    if loan.unknown not in told_as:
        return [_row_step(loan, first, laid, write)]
    value, words = told_as[loan.unknown]
    put_back: Step = {
        "title": "As it will be paid, and put back",
        "formula": words,
        "numbers": write.number(solution),
        "result": value,
    }
    return [put_back, _row_step(loan, first, laid, write)]


def _rounded_words(loan: Loan, write: Writer) -> str:
    if loan.rounding.payment == "none":
        return "not rounded"
    return f"{_CASH_WORDS[loan.rounding.payment]} {write.marks.write(f'{loan.step:f}')}"


def _row_step(loan: Loan, row: Row, laid: Schedule, write: Writer) -> Step:
    opening, interest, principal, payment, closing = (
        write.money(laid.unit.amount(units)) for units in row[1:6]
    )
    advance = loan.timing == "in-advance"
    base = f"({opening} − {payment})" if advance else opening
    if row.repay:
        payment = f"({payment} + {write.money(laid.unit.amount(row.repay))})"
    by = "i" if loan.calendar is None else "the interest of its period"
    return {
        "title": "The first row by hand",
        "formula": f"interest = {'what is left' if advance else 'opening'} × {by}, "
        "principal = what is paid − interest",
        "numbers": f"{base} × {by} = {interest}; {payment} − {interest} = {principal}",
        "result": f"{closing} still owed",
    }
