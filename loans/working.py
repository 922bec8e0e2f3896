"""The answer explained: each step with its formula and its numbers, and the proof."""

from decimal import Decimal
from typing import Final

from typing_extensions import TypedDict

from . import clock, closed_form
from .document import UNKNOWN, Loan
from .figures import DIGITS_TOLD, precise, told
from .find import Found, digits_for, footing_rate, payable_percent
from .formulas import quote_formula
from .ledger import Row, Schedule, unrounded_end
from .line import Terms, lay_out
from .rates import Rates, as_fraction
from .words import Marks, Number, Percent, Sentence

#: A proof holds where roll and formula agree to at least so many digits.
_DIGITS_PROVED: Final = 15
_PLACES: Final = 10


class Step(TypedDict):
    """One step: what it does, the formula, the formula with its numbers, what comes out."""

    title: str
    formula: str
    numbers: str
    result: str


class Check(TypedDict):
    """One thing checked: what, what was found, what it should be, whether it holds."""

    what: str
    found: str
    expected: str
    holds: bool


class Proof(TypedDict):
    """Every check made of an answer; `digits` to which roll and formula agree."""

    holds: bool
    digits: int
    says: str
    checks: list[Check]


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


class _Writer:
    """Numbers of the steps, in the reader's marks."""

    def __init__(self, loan: Loan, marks: Marks) -> None:
        self.loan, self.marks = loan, marks

    def money(self, value: Decimal) -> str:
        return self.marks.amount(value, self.loan.decimals)

    def number(self, value: Decimal) -> str:
        """Ten significant decimals, however small the value."""
        places = _PLACES
        if value and value.adjusted() < -4:
            places = min(40, _PLACES - value.adjusted())
        return self.marks.number(value, places)

    def percent(self, value: Decimal) -> str:
        return f"{self.number(value)} %"


def steps(
    loan: Loan, found: Found, terms: Terms, laid: Schedule | None, marks: Marks
) -> tuple[Step, ...]:
    """The way from the statement to the answer, in order."""
    write = _Writer(loan, marks)
    with precise(digits_for(terms)):
        rate = footing_rate(loan, found) or Decimal(0)
        solution = found.solutions[0]
        solved = _solved(loan, solution)
        if loan.unknown == "rate":
            way = [_rate_step(loan, rate, write), _quote_back(loan, rate, solution, write)]
        else:
            way = [_quote_step(loan, rate, write)]
            way += [] if loan.unknown == "count" else _factor_steps(loan, rate, write)
            way.append(_figure_step(loan, rate, solved, write))
        if laid:
            way += _cash_steps(loan, solution, laid, write)
    return tuple(way)


def _solved(loan: Loan, solution: Decimal) -> dict[str, Decimal]:
    """The four figures beside the rate, the unrounded solution in its place."""
    return {
        name: solution if value == UNKNOWN else Decimal(value)
        for name, value in (
            ("principal", loan.principal),
            ("count", loan.count),
            ("payment", loan.payment),
            ("balance", loan.balance),
        )
    }


def _quote_step(loan: Loan, rate: Decimal, write: _Writer) -> Step:
    formula, _, numbers = quote_formula(loan.style)
    percent = Decimal(loan.rate.percent)
    return {
        "title": f"One clock: the rate of one {clock.period(loan.every).noun}",
        "formula": formula,
        "numbers": numbers.format(p=write.percent(percent)),
        "result": write.percent(100 * rate),
    }


def _quote_back(loan: Loan, rate: Decimal, solution: Decimal, write: _Writer) -> Step:
    _, formula, _ = quote_formula(loan.style)
    return {
        "title": f"As quoted: {_quoted(loan)}",
        "formula": formula,
        "numbers": f"i = {write.percent(100 * rate)}",
        "result": write.percent(solution),
    }


def _accumulated_formula(loan: Loan, rate: Decimal) -> str:
    if not rate:
        return "s = n"
    return "s = (uⁿ − 1) / i" + (" · (1 + i)" if loan.timing == "in-advance" else "")


def _factor_steps(loan: Loan, rate: Decimal, write: _Writer) -> list[Step]:
    by = closed_form.factors(rate, int(loan.count), loan.timing)
    advance = loan.timing == "in-advance"
    shown = write.number(rate)
    formula = _accumulated_formula(loan, rate)
    if rate:
        numbers = f"({write.number(by.growth)} − 1) / {shown}"
        numbers += f" × {write.number(1 + rate)}" if advance else ""
    else:
        numbers = write.number(Decimal(loan.count))
    return [
        {
            "title": f"What 1 lent grows to in {loan.count} periods",
            "formula": "uⁿ = (1 + i)ⁿ",
            "numbers": f"{write.number(1 + rate)}^{loan.count}",
            "result": write.number(by.growth),
        },
        {
            "title": f"What {loan.count} payments of 1 grow to",
            "formula": formula,
            "numbers": numbers,
            "result": write.number(by.accumulated),
        },
    ]


def _figure_step(loan: Loan, rate: Decimal, solved: dict[str, Decimal], write: _Writer) -> Step:
    lent, paid, left = (write.money(solved[name]) for name in ("principal", "payment", "balance"))
    title, result = f"The {loan.unknown}", write.number(solved[loan.unknown])
    if loan.unknown == "count":
        i = write.number(rate)
        at_end = "A · (1 + i)" if loan.timing == "in-advance" else "A"
        paid = f"{paid} × (1 + {i})" if loan.timing == "in-advance" else paid
        formula = f"n = ln(({at_end} − B · i) / ({at_end} − P · i)) / ln(1 + i)"
        numbers = f"ln(({paid} − {left} × {i}) / ({paid} − {lent} × {i})) / ln(1 + {i})"
        if not rate:
            formula, numbers = "n = (P − B) / A", f"({lent} − {left}) / {paid}"
        return {
            "title": "The number of payments",
            "formula": formula,
            "numbers": numbers,
            "result": result,
        }
    by = closed_form.factors(rate, int(loan.count), loan.timing)
    growth, added = write.number(by.growth), write.number(by.accumulated)
    formula, numbers = {
        "payment": ("A = (P · uⁿ − B) / s", f"({lent} × {growth} − {left}) / {added}"),
        "principal": ("P = (A · s + B) / uⁿ", f"({paid} × {added} + {left}) / {growth}"),
        "balance": ("B = P · uⁿ − A · s", f"{lent} × {growth} − {paid} × {added}"),
    }[loan.unknown]
    return {"title": title, "formula": formula, "numbers": numbers, "result": result}


def _rate_step(loan: Loan, rate: Decimal, write: _Writer) -> Step:
    by = closed_form.factors(rate, int(loan.count), loan.timing)
    lent, paid, left = (
        write.money(Decimal(figure)) for figure in (loan.principal, loan.payment, loan.balance)
    )
    return {
        "title": f"The rate of one {clock.period(loan.every).noun}: the only one at which the "
        "payments and the balance are worth what is lent",
        "formula": f"P · uⁿ = A · s + B, with u = 1 + i and {_accumulated_formula(loan, rate)}",
        "numbers": f"{lent} × {write.number(by.growth)} = {paid} × {write.number(by.accumulated)}"
        f" + {left}",
        "result": f"i = {write.percent(100 * rate)}",
    }


_CASH_WORDS = {"nearest": "to the nearest", "up": "up to the next"}


def _cash_steps(loan: Loan, solution: Decimal, laid: Schedule, write: _Writer) -> list[Step]:
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
    value, words = told_as[loan.unknown]
    put_back: Step = {
        "title": "As it will be paid, and put back",
        "formula": words,
        "numbers": write.number(solution),
        "result": value,
    }
    return [put_back, _row_step(loan, first, laid, write)]


def _rounded_words(loan: Loan, write: _Writer) -> str:
    if loan.rounding.payment == "none":
        return "not rounded"
    return f"{_CASH_WORDS[loan.rounding.payment]} {write.marks.write(f'{loan.step:f}')}"


def _row_step(loan: Loan, row: Row, laid: Schedule, write: _Writer) -> Step:
    opening, interest, principal, payment, closing = (
        write.money(laid.unit.amount(units)) for units in row[1:]
    )
    advance = loan.timing == "in-advance"
    base = f"({opening} − {payment})" if advance else opening
    return {
        "title": "The first row by hand",
        "formula": f"interest = {'what is left' if advance else 'opening'} × i, "
        "principal = payment − interest",
        "numbers": f"{base} × i = {interest}; {payment} − {interest} = {principal}",
        "result": f"{closing} still owed",
    }


def _digits_agreed(found: Decimal, expected: Decimal, scale: Decimal) -> int:
    """Leading digits, of a number of the size of `scale`, in which two figures agree."""
    gap = abs(found - expected)
    size = max(abs(scale), abs(expected))
    if not gap or not size:
        return DIGITS_TOLD
    return min(DIGITS_TOLD, max(0, -(gap / size).adjusted() - 1))


def prove(loan: Loan, found: Found, terms: Terms, laid: Schedule | None, marks: Marks) -> Proof:
    """The answer checked on a second way, and the schedule on its own sums."""
    write = _Writer(loan, marks)
    rate = footing_rate(loan, found) or Decimal(0)
    solved = _solved(loan, found.solutions[0])
    with precise(digits_for(terms) + 20):
        if loan.unknown == "count":
            digits, checks = _prove_count(loan, terms, rate, solved, write)
        else:
            digits, checks = _prove_by_both_ways(loan, terms, rate, solved, write)
    if laid:
        checks += _schedule_checks(loan, laid, write)
    holds = all(check["holds"] for check in checks)
    return {
        "holds": holds,
        "digits": digits,
        "says": _proof_says(loan, laid, digits, write) if holds else "A check failed: see below.",
        "checks": checks,
    }


def _proof_says(loan: Loan, laid: Schedule | None, digits: int, write: _Writer) -> str:
    if not laid:
        return f"Roll and closed form agree to {digits} digits; there is no schedule to the cent."
    closing = write.money(laid.unit.amount(laid.rows[-1].closing))
    return (
        f"Rolls forward to {closing} after payment {write.marks.write(str(len(laid.rows)))}; "
        f"the closed form agrees to {digits} digits."
    )


def _prove_by_both_ways(
    loan: Loan, terms: Terms, rate: Decimal, solved: dict[str, Decimal], write: _Writer
) -> tuple[int, list[Check]]:
    """Rolled period by period, and by formula: both must end at the balance."""
    count = int(solved["count"])
    exact = Terms(
        solved["principal"],
        as_fraction(rate),
        count,
        solved["payment"],
        solved["balance"],
        terms.timing,
    )
    owed = unrounded_end(lay_out(exact))
    by = closed_form.factors(rate, count, terms.timing)
    by_formula = closed_form.balance(exact.principal, exact.payment, by)
    scale = max(exact.principal * by.growth, exact.payment * by.accumulated)
    rolled = _digits_agreed(owed, exact.balance, scale)
    formula = _digits_agreed(by_formula, exact.balance, scale)
    expected = write.money(exact.balance)
    return min(rolled, formula), [
        {
            "what": f"Rolled forward unrounded, {count} periods",
            "found": write.money(owed),
            "expected": expected,
            "holds": rolled >= _DIGITS_PROVED,
        },
        {
            "what": f"By the closed form, agreeing to {formula} digits",
            "found": write.money(by_formula),
            "expected": expected,
            "holds": formula >= _DIGITS_PROVED,
        },
    ]


def _prove_count(
    loan: Loan, terms: Terms, rate: Decimal, solved: dict[str, Decimal], write: _Writer
) -> tuple[int, list[Check]]:
    """The balance lies between those after the whole periods below and above the count."""
    exact, balance = told(solved["count"]), solved["balance"]
    whole = int(exact)
    line = lay_out(terms)
    before, after = (unrounded_end(line, periods) for periods in (whole, whole + 1))
    by = closed_form.factors(rate, solved["count"], terms.timing)
    by_formula = closed_form.balance(solved["principal"], solved["payment"], by)
    scale = max(solved["principal"] * by.growth, solved["payment"] * by.accumulated)
    digits = _digits_agreed(by_formula, balance, scale)
    lowest, highest = sorted((before, after))
    slack = scale.scaleb(-_DIGITS_PROVED)
    return digits, [
        {
            "what": f"Rolled forward unrounded, after {whole} and {whole + 1} periods",
            "found": f"{write.money(before)} and {write.money(after)}",
            "expected": f"{write.money(balance)} between them",
            "holds": lowest - slack <= balance <= highest + slack,
        },
        {
            "what": f"By the closed form at the fraction, agreeing to {digits} digits",
            "found": write.money(by_formula),
            "expected": write.money(balance),
            "holds": digits >= _DIGITS_PROVED,
        },
    ]


def _schedule_checks(loan: Loan, laid: Schedule, write: _Writer) -> list[Check]:
    rows, amount = laid.rows, laid.unit.amount
    principal = sum(row.principal for row in rows)
    lent, closing = rows[0].opening, rows[-1].closing
    left = laid.unit.count(Decimal(loan.balance)) if loan.balance != UNKNOWN else closing
    chained = all(
        row.interest + row.principal == row.payment
        and row.opening - row.principal == row.closing
        and (number == 0 or row.opening == rows[number - 1].closing)
        for number, row in enumerate(rows)
    )
    return [
        {
            "what": "Principal parts add up to the amount lent less what is left",
            "found": write.money(amount(principal)),
            "expected": write.money(amount(lent - left)),
            "holds": principal == lent - left,
        },
        {
            "what": "The last row closes at",
            "found": write.money(amount(closing)),
            "expected": write.money(amount(left)),
            "holds": closing == left,
        },
        {
            "what": "In every row interest + principal = payment, and each opens where the last "
            "closed",
            "found": f"{len(rows)} rows" if chained else "not in every row",
            "expected": f"{len(rows)} rows",
            "holds": chained,
        },
    ]
