"""The proof: every answer checked on a second way, and the schedule on its own sums."""

from dataclasses import replace
from decimal import Decimal
from typing import Final

from typing_extensions import TypedDict

from . import closed_form
from .document import UNKNOWN, Loan
from .figures import DIGITS_TOLD, precise, told
from .find import Found, digits_for, solved_terms
from .ledger import Schedule, unrounded_end
from .line import Terms, beats_of, lay_out
from .rates import as_decimal
from .words import Marks
from .working import Writer
from .worth import worth

#: A proof holds where both ways agree to at least so many digits.
_DIGITS_PROVED: Final = 15


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


def _digits_agreed(found: Decimal, expected: Decimal, scale: Decimal) -> int:
    """Leading digits, of a number of the size of `scale`, in which two figures agree."""
    gap = abs(found - expected)
    size = max(abs(scale), abs(expected))
    if not gap or not size:
        return DIGITS_TOLD
    return min(DIGITS_TOLD, max(0, -(gap / size).adjusted() - 1))


def prove(loan: Loan, found: Found, terms: Terms, laid: Schedule | None, marks: Marks) -> Proof:
    """The answer checked on a second way, and the schedule on its own sums."""
    write = Writer(loan, marks)
    with precise(digits_for(terms) + 20):
        solved = solved_terms(loan, found)
        if solved.count is None:
            digits, checks = _prove_count(loan, solved, found.solutions[0], write)
        else:
            digits, checks = _prove_by_both_ways(solved, write)
    if laid:
        checks += _schedule_checks(loan, laid, write)
    holds = all(check["holds"] for check in checks)
    return {
        "holds": holds,
        "digits": digits,
        "says": _proof_says(loan, laid, digits, write) if holds else "A check failed: see below.",
        "checks": checks,
    }


def _proof_says(loan: Loan, laid: Schedule | None, digits: int, write: Writer) -> str:
    if not laid:
        return f"Both ways agree to {digits} digits; there is no schedule to the cent."
    level = _is_level(loan)
    second = "the closed form agrees" if level else "discounted to the start it agrees"
    closing = write.money(laid.unit.amount(laid.rows[-1].closing))
    return (
        f"Rolls forward to {closing} after payment {write.marks.write(str(len(laid.rows)))}; "
        f"{second} to {digits} digits."
    )


def _is_level(loan: Loan) -> bool:
    return (
        not loan.clauses
        and loan.day_count == "equal"
        and (loan.calendar is None or loan.calendar.is_regular)
    )


def _prove_by_both_ways(solved: Terms, write: Writer) -> tuple[int, list[Check]]:
    """Rolled forward period by period, and by a second way: both must end as stated."""
    count = solved.count or 0
    owed = unrounded_end(lay_out(solved))
    rate = as_decimal(solved.rate)
    if solved.is_level:
        by = closed_form.factors(rate, count, solved.timing)
        found = closed_form.balance(solved.principal, solved.payment, by)
        grown = scale = solved.principal * by.growth
        expected, what = solved.balance, "By the closed form"
    else:
        grown = abs(unrounded_end(lay_out(replace(solved, payment=Decimal(0), odd=()))))
        found, expected = worth(solved, rate).value, solved.principal
        scale, what = solved.principal, "Payments and balance discounted to the start"
    rolled = _digits_agreed(owed, solved.balance, max(grown, solved.balance))
    second = _digits_agreed(found, expected, scale)
    return min(rolled, second), [
        {
            "what": f"Rolled forward unrounded, {count} periods",
            "found": write.money(owed),
            "expected": write.money(solved.balance),
            "holds": rolled >= _DIGITS_PROVED,
        },
        {
            "what": f"{what}, agreeing to {second} digits",
            "found": write.money(found),
            "expected": write.money(expected),
            "holds": second >= _DIGITS_PROVED,
        },
    ]


def _prove_count(
    loan: Loan, terms: Terms, solution: Decimal, write: Writer
) -> tuple[int, list[Check]]:
    """The balance lies between those after the whole periods below and above the count."""
    exact, balance = told(solution), terms.balance
    whole, rate = int(exact), as_decimal(terms.rate)
    line = lay_out(terms)
    before, after = (unrounded_end(line, periods) for periods in (whole, whole + 1))
    if terms.is_level:
        by = closed_form.factors(rate, solution, terms.timing)
        found = closed_form.balance(terms.principal, terms.payment, by)
        expected, what = balance, "By the closed form at the fraction"
        scale = max(terms.principal * by.growth, terms.payment * by.accumulated)
    else:
        part = replace(terms, count=whole, beats=beats_of(loan, whole), balance=before)
        found = worth(part, rate).value if whole else terms.principal
        expected, scale = terms.principal, terms.principal
        what = f"{whole} payments and what is owed then, discounted to the start"
    digits = _digits_agreed(found, expected, scale)
    lowest, highest = sorted((before, after))
    slack = max(scale, terms.principal).scaleb(-_DIGITS_PROVED)
    return digits, [
        {
            "what": f"Rolled forward unrounded, after {whole} and {whole + 1} periods",
            "found": f"{write.money(before)} and {write.money(after)}",
            "expected": f"{write.money(balance)} between them",
            "holds": lowest - slack <= balance <= highest + slack,
        },
        {
            "what": f"{what}, agreeing to {digits} digits",
            "found": write.money(found),
            "expected": write.money(expected),
            "holds": digits >= _DIGITS_PROVED,
        },
    ]


def _schedule_checks(loan: Loan, laid: Schedule, write: Writer) -> list[Check]:
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
