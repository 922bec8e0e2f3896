"""The proof: every answer checked on a second way, and the schedule on its own sums."""

from dataclasses import replace
from decimal import Decimal
from operator import add, sub
from typing import Final

from typing_extensions import TypedDict

from zephyrant.texts import worded

from ..document.fields import UNKNOWN
from ..document.loan import Loan
from ..ledger.covering import periods_of
from ..ledger.discounting import discounted
from ..ledger.exact import EXACT, unrounded_end
from ..ledger.period import Reckoned, happens
from ..ledger.plain_numbers import IN_FLOATS
from ..ledger.rows import Schedule
from ..line.line import Line, lay_out
from ..line.stretch import Stretch
from ..line.terms import digits_for
from ..numbers import annuity
from ..numbers.decimals import DIGITS_TOLD, precise, significant
from ..numbers.ratios import as_decimal
from ..unknowns.last_payment import rounding_reach
from ..unknowns.parts import first_part, interest_at
from ..unknowns.solution import Sizing
from ..unknowns.worked import Solved
from ..wording.marks import Marks
from .writer import Writer

#: A proof holds where both ways agree to at least so many digits.
_DIGITS_PROVED: Final = 15


#: What is less than this, in any currency, is the noise of many digits.
_NO_MONEY: Final = Decimal("1e-30")


#: What floats lose of an amount in a period.
_FLOATS_ERR: Final = 1e-11


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
    if gap < _NO_MONEY or not size:
        return DIGITS_TOLD
    return min(DIGITS_TOLD, max(0, -(gap / size).adjusted() - 1))


def prove(loan: Loan, worked: Solved, marks: Marks) -> Proof:
    """The answer checked on a second way, and the schedule on its own sums."""
    write, schedule = Writer(loan, marks), worked.schedule
    solved, line, solution = worked.solved, worked.line, worked.found.meant
    if solved is None or line is None:
        raise ValueError("nothing was found to be proved")
    with precise(digits_for(line.terms) + 20):
        if solved.terms.has_parts and not solved.is_open:
            digits, checks = _prove_parts(solved, write)
        elif solved.is_open:
            digits, checks = _prove_count(solved, solution, write)
        else:
            digits, checks = _prove_by_both_ways(solved, write)
    if schedule:
        with precise():
            left = _closes_at(loan, solution, worked, schedule)
        checks += _schedule_checks(schedule, left, write)
        checks += _terms_checks(schedule, line, write)
    if schedule and worked.found.sizing is not None:
        checks += _bounds_checks(loan, worked.found.sizing, line, schedule, write)
    holds = all(check["holds"] for check in checks)
    is_level = solved.terms.is_level
    second = (
        worded("the closed form agrees")
        if is_level
        else worded("discounted to the start it agrees")
    )
    return {
        "holds": holds,
        "digits": digits,
        "says": _proof_says(schedule, digits, second, write)
        if holds
        else worded("A check failed: see below."),
        "checks": checks,
    }


def _proof_says(schedule: Schedule | None, digits: int, second: str, write: Writer) -> str:
    if not schedule:
        return worded(
            "Both ways agree to {digits} digits; there is no schedule to the cent.", digits=digits
        )
    closing = write.money(schedule.unit.amount(schedule.rows[-1].closing))
    last = write.marks.write(str(schedule.rows[-1].number))
    return worded(
        "Rolls forward to {closing} after payment {last}; {second} to {digits} digits.",
        closing=closing,
        last=last,
        second=second,
        digits=digits,
    )


def _prove_by_both_ways(line: Line, write: Writer) -> tuple[int, list[Check]]:
    """Rolled forward period by period, and by a second way: both must end as stated."""
    solved = line.terms
    count = solved.count or 0
    owed, rate = unrounded_end(line), as_decimal(solved.rate)
    if solved.is_level:
        by = annuity.factors(rate, count, solved.timing)
        found = annuity.balance(solved.principal, solved.payment, by)
        grown = scale = solved.principal * by.growth
        expected, what = solved.balance, worded("By the closed form")
    else:
        grown = EXACT.carried(abs(line.principal), map(_added_up, line.stretches))
        expected, found = discounted(line)
        scale, what = expected, worded("What is paid and left, discounted to the start")
    rolled = _digits_agreed(owed, solved.balance, max(grown, solved.balance))
    second = _digits_agreed(found, expected, scale)
    return min(rolled, second), [
        {
            "what": worded(
                "Rolled forward unrounded, {count} periods", count=count or line.stretches[-1].last
            ),
            "found": write.money(owed),
            "expected": write.money(solved.balance),
            "holds": rolled >= _DIGITS_PROVED,
        },
        {
            "what": worded("{what}, agreeing to {digits} digits", what=what, digits=second),
            "found": write.money(found),
            "expected": write.money(expected),
            "holds": second >= _DIGITS_PROVED,
        },
    ]


def _prove_parts(line: Line, write: Writer) -> tuple[int, list[Check]]:
    """The first payment that repays a part held against that and its interest; what is rolled, to
    whatever end, against what moves, discounted to the start."""
    number, times = first_part(line)
    interest = interest_at(line, number, EXACT, line.principal)
    paid, stated = line.terms.part * times + interest, line.terms.payment
    owed, last = unrounded_end(line), line.stretches[-1].last
    expected, found = discounted(line, last, owed)
    first = _digits_agreed(paid, stated, max(abs(stated), abs(line.principal)))
    second = _digits_agreed(found, expected, expected)
    return min(first, second), [
        {
            "what": worded("The part and the interest of payment {number}", number=number),
            "found": write.money(paid),
            "expected": write.money(stated),
            "holds": first >= _DIGITS_PROVED,
        },
        {
            "what": worded(
                "What is paid and left, discounted to the start, agreeing to {digits} digits",
                digits=second,
            ),
            "found": write.money(found),
            "expected": write.money(expected),
            "holds": second >= _DIGITS_PROVED,
        },
    ]


def _added_up(stretch: Stretch) -> Stretch:
    """A stretch with all that moves in it added to what is owed: the size of what is rolled."""
    return stretch._replace(
        payment=-abs(stretch.payment),
        repay=-abs(stretch.repay),
        advance=abs(stretch.advance),
        fee=abs(stretch.fee),
        on_top=False,
        inner=tuple(each._replace(amount=abs(each.amount)) for each in stretch.inner),
    )


def _prove_count(line: Line, solution: Decimal, write: Writer) -> tuple[int, list[Check]]:
    """The balance lies between those after the whole periods below and above the count."""
    terms = line.terms
    exact, balance = significant(solution), terms.balance
    whole, rate = int(exact), as_decimal(terms.rate)
    before, after = (unrounded_end(line, periods) for periods in (whole, whole + 1))
    if terms.is_level:
        by = annuity.factors(rate, solution, terms.timing)
        found = annuity.balance(terms.principal, terms.payment, by)
        expected, what = balance, worded("By the closed form at the fraction")
        scale = max(terms.principal * by.growth, terms.payment * by.accumulated)
    else:
        expected, found = discounted(line, whole, before)
        scale = expected
        what = worded(
            "{whole} payments and what is owed then, discounted to the start", whole=whole
        )
    digits = _digits_agreed(found, expected, scale)
    lowest, highest = sorted((before, after))
    slack = max(scale, terms.principal).scaleb(-_DIGITS_PROVED)
    return digits, [
        {
            "what": worded(
                "Rolled forward unrounded, after {whole} and {whole2} periods",
                whole=whole,
                whole2=whole + 1,
            ),
            "found": worded(
                "{before} and {after}", before=write.money(before), after=write.money(after)
            ),
            "expected": worded("{balance} between them", balance=write.money(balance)),
            "holds": lowest - slack <= balance <= highest + slack,
        },
        {
            "what": worded("{what}, agreeing to {digits} digits", what=what, digits=digits),
            "found": write.money(found),
            "expected": write.money(expected),
            "holds": digits >= _DIGITS_PROVED,
        },
    ]


def _closes_at(loan: Loan, solution: Decimal, worked: Solved, schedule: Schedule) -> int:
    """What the last row is to close at, in units: the balance stated, or as found, off by no more
    than rounding explains."""
    unit, closing = schedule.unit, schedule.rows[-1].closing
    solved, line = worked.solved, worked.line
    if solved is None or line is None:
        raise ValueError("nothing was found to be proved")
    if line.terms.whole is not None:
        # With payments that are set anew on the way, which were not foreseen where it was solved.
        anew = any(provision.levels for provision in line.terms.provisions)
        as_made = lay_out(replace(line.terms, cash=None)) if anew else solved
        with precise(digits_for(solved.terms)):
            solution = unrounded_end(as_made, line.terms.count)
    elif loan.balance != UNKNOWN:
        overpaid = schedule.overpaid if closing < 0 else 0
        return unit.count(loan.balance) - overpaid
    exact = significant(solution)
    if abs(unit.amount(closing) - exact) <= rounding_reach(loan, line):
        return closing
    return unit.count(round(exact, unit.places))


def _bounds_checks(
    loan: Loan, sizing: Sizing, line: Line, schedule: Schedule, write: Writer
) -> list[Check]:
    """That every period's payments are covered, and no more is lent than on the value."""
    checks: list[Check] = []
    cover = line.terms.cover
    if cover is not None and cover.ratio is not None:
        periods = periods_of(line, schedule)
        # Payments that are not rounded pay what the interest was rounded by, too.
        reach = rounding_reach(loan, line) if sizing.way == "none" else Decimal(0)
        ratios = [each.ratio for each in periods if each.ratio is not None]
        lowest = as_decimal(min(ratios, default=cover.ratio))
        checks.append(
            {
                "what": worded("In every period the cash flow is so many times what is paid"),
                "found": write.number(lowest),
                "expected": worded("{ratio} at least", ratio=write.number(as_decimal(cover.ratio))),
                "holds": all(each.excess(cover.ratio) <= reach for each in periods),
            }
        )
    if loan.value is not None:
        most = loan.value.most
        checks.append(
            {
                "what": worded("No more is lent than may be on the value"),
                "found": write.money(sizing.lent),
                "expected": worded("{most} at most", most=write.money(most)),
                "holds": sizing.lent <= most,
            }
        )
    return checks


def _terms_checks(schedule: Schedule, line: Line, write: Writer) -> list[Check]:
    """Checks that the rows belong to this loan.

    The first row opens with the principal. Interest and payment of each row follow from its opening
    balance and the terms, within rounding. The last two rows absorb the rounding: the sums check
    them. So does the first principal instalment where its payment is stated.
    """
    unit, first = schedule.unit, schedule.rows[0]
    lent = unit.count(round(line.principal, unit.places))
    checks: list[Check] = [
        {
            "what": worded("The first row opens with the amount lent"),
            "found": write.money(unit.amount(first.opening)),
            "expected": write.money(unit.amount(lent)),
            "holds": first.opening == lent,
        }
    ]
    if line.terms.count == 0 or first.actuarial is not None:
        return checks
    settled = len(schedule.rows) - 2
    # A first payment that is stated stands: the interest of its row takes the cents.
    stated = first_part(line)[0] if line.terms.has_parts else 0
    off = looked_at = 0
    for stretch in line.stretches:
        last = min(stretch.last or settled, settled)
        wrong = _off_terms(schedule, stretch, range(stretch.first, last + 1))
        looked_at += max(0, last + 1 - stretch.first)
        off += sum(number != stated for number in wrong)
    told = worded("{count} rows", count=looked_at)
    checks.append(
        {
            "what": worded(
                "Before the last two rows, interest and payment follow from the opening balance"
            ),
            "found": worded("not in {count} of them", count=off) if off else told,
            "expected": told,
            "holds": not off,
        }
    )
    return checks


def _off_terms(schedule: Schedule, stretch: Stretch, numbers: range) -> set[int]:
    """Of rows alike, the numbers of those whose interest or payment does not follow from the
    opening balance; in floats, by a formula of its own where only a level payment happens."""
    if not numbers:
        return set()
    rows, units = slice(numbers.start - 1, numbers.stop - 1), 10.0**schedule.unit.places
    columns = schedule.columns
    opening, interest, paid = (
        each[rows] for each in (columns.opening, columns.interest, columns.payment)
    )
    if stretch.is_plain:
        before, after = float(stretch.before), float(stretch.after)
        payment = float(stretch.payment) * units
        # What the payment leaves bears interest from then on.
        rate, less = before + (1 + before) * after, payment * after
        borne, due = [owed * rate - less for owed in opening], [payment]
    else:
        period = Reckoned(stretch, IN_FLOATS)
        told = [happens(owed / units, period) for owed in opening]
        borne = [(it.interest + it.later) * units for it in told]
        due = [it.paid * units for it in told]
    near = 2 * schedule.unit.minor + _FLOATS_ERR * max(map(abs, (*opening, *due)))
    off = {
        number
        for number, was, is_now in zip(numbers, borne, interest, strict=True)
        if not -near <= was - is_now <= near
    }
    if max(paid) - min(due) <= near and max(due) - min(paid) <= near:
        return off
    dues = due * len(paid) if stretch.is_plain else due
    return off | {
        number
        for number, was, is_now in zip(numbers, dues, paid, strict=True)
        if abs(was - is_now) > near
    }


def _schedule_checks(schedule: Schedule, left: int, write: Writer) -> list[Check]:
    """`left`: what is to be left, in units."""
    amount, columns = schedule.unit.amount, schedule.columns
    principal, closing = sum(columns.principal), columns.closing[-1]
    added = list(map(add, columns.advance, columns.fee))
    lent = columns.opening[0] + sum(added)
    owed = map(add, columns.opening, added)
    chained = (
        tuple(map(add, columns.interest, columns.principal)) == columns.paid
        and tuple(map(sub, owed, columns.principal)) == columns.closing
        and columns.opening[1:] == columns.closing[:-1]
    )
    rows = worded("{count} rows", count=len(columns.number))
    return [
        {
            "what": worded("Principal parts add up to the amount lent less what is left"),
            "found": write.money(amount(principal)),
            "expected": write.money(amount(lent - left)),
            "holds": principal == lent - left,
        },
        {
            "what": worded("The last row closes at"),
            "found": write.money(amount(closing)),
            "expected": write.money(amount(left)),
            "holds": closing == left,
        },
        {
            "what": worded(
                "In every row interest + principal = what is paid, and each opens where "
                "the last closed"
            ),
            "found": rows if chained else worded("not in every row"),
            "expected": rows,
            "holds": chained,
        },
    ]
