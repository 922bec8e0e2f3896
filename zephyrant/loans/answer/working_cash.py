"""The working of what is paid: rounded, and the first rows."""

from decimal import Decimal

from zephyrant.texts import Worded, worded

from ..document.loan import Loan
from ..ledger.rows import Row, Schedule
from ..unknowns.solution import payable_percent
from .writer import PLACES, Step, Writer

_CASH_WORDS = Worded({"nearest": "to the nearest", "up": "up to the next"})


def cash_steps(loan: Loan, solution: Decimal, schedule: Schedule, write: Writer) -> list[Step]:
    """What is paid: the figure rounded, and the first row of the schedule."""
    first, last = schedule.rows[0], schedule.rows[-1]
    amount = schedule.unit.amount
    told_as = {
        "payment": (write.money(amount(first.payment)), _rounded_words(loan, write)),
        "principal": (write.money(amount(first.opening)), worded("to the nearest minor unit")),
        "balance": (
            write.money(amount(last.closing)),
            worded("the balance takes what rounding each row leaves"),
        ),
        "count": (str(len(schedule.rows)), worded("whole payments, the last one settling")),
        "rate": (
            f"{write.marks.number(payable_percent(solution), PLACES)} %",
            worded("to ten decimals"),
        ),
    }
    if loan.unknown not in told_as:
        return [_row_step(loan, first, schedule, write)]
    value, words = told_as[loan.unknown]
    put_back: Step = {
        "title": worded("As it will be paid, and put back"),
        "formula": words,
        "numbers": write.number(solution),
        "result": value,
    }
    return [put_back, _row_step(loan, first, schedule, write)]


def _rounded_words(loan: Loan, write: Writer) -> str:
    if loan.rounding.payment == "none":
        return worded("not rounded")
    return f"{_CASH_WORDS[loan.rounding.payment]} {write.marks.write(f'{loan.step:f}')}"


def _row_step(loan: Loan, row: Row, schedule: Schedule, write: Writer) -> Step:
    opening, interest, principal, payment, closing = (
        write.money(schedule.unit.amount(units)) for units in row[1:6]
    )
    advance = loan.timing == "in-advance"
    base = f"({opening} − {payment})" if advance else opening
    if row.repay:
        payment = f"({payment} + {write.money(schedule.unit.amount(row.repay))})"
    by = "i" if loan.calendar is None else worded("the interest of its period")
    return {
        "title": worded("The first row by hand"),
        "formula": worded(
            "interest = {base} × {by}, principal = what is paid − interest",
            base=worded("what is left") if advance else worded("opening"),
            by=by,
        ),
        "numbers": f"{base} × {by} = {interest}; {payment} − {interest} = {principal}",
        "result": worded("{closing} still owed", closing=closing),
    }
