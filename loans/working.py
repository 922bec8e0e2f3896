"""The answer explained: each step with its formula and its numbers."""

from dataclasses import replace
from decimal import Decimal
from typing import Final

from typing_extensions import TypedDict

from . import clock, closed_form
from .dates import odd_time
from .document import UNKNOWN, Loan
from .figures import precise
from .find import Found, digits_for, footing_rate, payable_percent, place_of, solved_terms
from .formulas import quote_formula
from .ledger import Row, Schedule, unrounded_end
from .line import NO_TIME, Terms, lay_out
from .rates import Rates, as_decimal
from .words import Marks, Number, Percent, Sentence
from .worth import worth

_PLACES: Final = 10


class Step(TypedDict):
    """One step: what it does, the formula, the formula with its numbers, what comes out."""

    title: str
    formula: str
    numbers: str
    result: str


def _quoted(loan: Loan) -> str:
    return loan.style.in_words()


def clock_sentence(loan: Loan, found: Found, rates: Rates, laid: Schedule | None) -> Sentence:
    """How the clocks of quote, compounding, payments and term agree."""
    percent = loan.rate.percent
    if percent == UNKNOWN:
        percent = found.solutions[0]
    count = len(laid.rows) if loan.count == UNKNOWN and laid else loan.count
    span = "" if count == UNKNOWN else " {count} {payments} = {term}."
    periodic = "" if loan.rate.quoted == "periodic" else " = {periodic} a {often} payment"
    effective = "" if loan.rate.quoted == "effective" else " = {effective} a year, effective"
    return Sentence(
        "{percent} {quoted}" + periodic + effective + "." + span,
        percent=Percent(percent, least_places=2),
        quoted=_quoted(loan),
        periodic=Percent(rates.periodic),
        effective=Percent(rates.effective),
        often=clock.period(loan.every).often,
        count=Number(0 if count == UNKNOWN else count),
        payments="payment" if count == 1 else "payments",
        term="" if count == UNKNOWN else clock.term(count, loan.every),
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
        solution = found.solutions[0]
        level = terms.is_level
        if loan.unknown == "rate":
            way = [_rate_step(loan, solved, write)] if level else _uneven_rate(loan, solved, write)
            way.append(_quote_back(loan, found, write))
        else:
            way = [_quote_step(loan, footing_rate(loan, found) or Decimal(0), write)]
            way += (
                _level_steps(loan, solved, solution, write)
                if level
                else _uneven_steps(loan, solved, solution, write)
            )
        if laid:
            way += _cash_steps(loan, solution, laid, write)
    return tuple(way)


def _quote_step(loan: Loan, rate: Decimal, write: Writer) -> Step:
    formula = quote_formula(loan.style)
    percent = Decimal(loan.rate.percent)
    return {
        "title": f"One clock: the rate of one {clock.period(loan.every).noun}",
        "formula": formula.forward,
        "numbers": formula.numbers.format(p=write.percent(percent)),
        "result": write.percent(100 * rate),
    }


def _quote_back(loan: Loan, found: Found, write: Writer) -> Step:
    return {
        "title": f"As quoted: {_quoted(loan)}",
        "formula": quote_formula(loan.style).back,
        "numbers": f"i = {write.percent(100 * (found.periodic or Decimal(0)))}",
        "result": write.percent(found.solutions[0]),
    }


def _accumulated_formula(terms: Terms) -> str:
    if not terms.rate:
        return "s = n"
    return "s = (uⁿ − 1) / i" + (" · (1 + i)" if terms.in_advance else "")


def _by(terms: Terms) -> closed_form.Factors:
    return closed_form.factors(as_decimal(terms.rate), terms.count or 0, terms.timing)


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
    }[loan.unknown or ""]
    return {
        "title": f"The {loan.unknown}",
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


def _rate_step(loan: Loan, solved: Terms, write: Writer) -> Step:
    by = _by(solved)
    lent, paid, left = _money(solved, write)
    return {
        "title": f"The rate of one {clock.period(loan.every).noun}: the only one at which the "
        "payments and the balance are worth what is lent",
        "formula": f"P · uⁿ = A · s + B, with u = 1 + i and {_accumulated_formula(solved)}",
        "numbers": f"{lent} × {write.number(by.growth)} = {paid} × {write.number(by.accumulated)}"
        f" + {left}",
        "result": f"i = {write.percent(100 * as_decimal(solved.rate))}",
    }


def _uneven_steps(loan: Loan, solved: Terms, solution: Decimal, write: Writer) -> list[Step]:
    """Where periods or payments differ: by what everything grows to at the end."""
    way = _periods_step(loan, solved, write)
    if loan.unknown == "count":
        whole = int(solution)
        owed = unrounded_end(lay_out(solved), whole) if whole else solved.principal
        return [
            *way,
            {
                "title": "The number of payments",
                "formula": "rolled period by period to the last that leaves more than B, and on "
                "from there by n = ln((A − B · i) / (A − Bₖ · i)) / ln(1 + i)",
                "numbers": f"after {whole} payments {write.money(owed)} is owed",
                "result": write.number(solution),
            },
        ]
    nothing = replace(solved, payment=Decimal(0), principal=Decimal(0))
    grown = unrounded_end(
        lay_out(replace(_without_odd(solved), principal=Decimal(1), payment=Decimal(0)))
    )
    added = -unrounded_end(
        lay_out(replace(_without_odd(solved), principal=Decimal(0), payment=Decimal(1)))
    )
    at = place_of(loan)
    odd = nothing if at is None else nothing.having(at, Decimal(0))
    extra = -unrounded_end(lay_out(odd))
    way += [
        {
            "title": "What 1 lent grows to by the end",
            "formula": "U = the growth of all periods, multiplied",
            "numbers": f"{solved.count} periods",
            "result": write.number(grown),
        },
        {
            "title": "What regular payments of 1 grow to by the end",
            "formula": "S = the growth after each of them, added up",
            "numbers": f"{(solved.count or 0) - len(solved.odd)} payments",
            "result": write.number(added),
        },
    ]
    if solved.odd:
        way.append(
            {
                "title": "What the odd payments that are stated grow to by the end",
                "formula": "X = each times the growth after it, added up",
                "numbers": ", ".join(
                    f"payment {number}: {write.money(amount)}"
                    for number, amount in odd.odd
                    if str(number) != at
                )
                or "none",
                "result": write.number(extra),
            }
        )
    lent, paid, left = _money(solved, write)
    u, s, x = write.number(grown), write.number(added), write.number(extra)
    minus_x, plus_x = (f" − {x}", f" + {x}") if solved.odd else ("", "")
    mx, px = (" − X", " + X") if solved.odd else ("", "")
    after = Decimal(1)
    if at is not None:
        after = -unrounded_end(lay_out(nothing.having(at, Decimal(1)))) - extra
    formula, numbers = {
        "payment": (f"A = (P · U{mx} − B) / S", f"({lent} × {u}{minus_x} − {left}) / {s}"),
        "principal": (f"P = (A · S{px} + B) / U", f"({paid} × {s}{plus_x} + {left}) / {u}"),
        "balance": (f"B = P · U − A · S{mx}", f"{lent} × {u} − {paid} × {s}{minus_x}"),
    }.get(
        loan.unknown or "",
        (
            "the payment = (P · U − A · S − X − B) / g, with g the growth after it",
            f"({lent} × {u} − {paid} × {s}{minus_x} − {left}) / {write.number(after)}",
        ),
    )
    return [
        *way,
        {
            "title": f"Payment {at}" if at else f"The {loan.unknown}",
            "formula": formula,
            "numbers": numbers,
            "result": write.number(solution),
        },
    ]


def _without_odd(terms: Terms) -> Terms:
    """The terms with nothing paid where payments are odd."""
    return replace(terms, odd=tuple((number, Decimal(0)) for number, _ in terms.odd))


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
            "title": f"The rate of one {clock.period(loan.every).noun}: the only one at which the "
            "payments and the balance are worth what is lent",
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
    at = place_of(loan)
    if at is not None and int(at) <= len(laid.rows):
        paid = laid.rows[int(at) - 1].payment
        told_as[loan.unknown or ""] = (write.money(amount(paid)), _rounded_words(loan, write))
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
    by = "i" if loan.calendar is None else "the interest of its period"
    return {
        "title": "The first row by hand",
        "formula": f"interest = {'what is left' if advance else 'opening'} × {by}, "
        "principal = payment − interest",
        "numbers": f"{base} × {by} = {interest}; {payment} − {interest} = {principal}",
        "result": f"{closing} still owed",
    }
