"""The working of what is paid: rounded, and the first rows."""

from decimal import Decimal

from zephyrant.texts import Worded, worded

from ..document.loan import Loan
from ..ledger.rows import Row, Schedule
from ..line.terms import Terms
from ..unknowns.solution import payable_percent, whole_above
from ..unknowns.worked import value_as_paid
from .writer import PLACES, Step, Writer

_CASH_WORDS = Worded({"nearest": "to the nearest", "up": "up to the next"})


def cash_steps(
    loan: Loan, solution: Decimal, terms: Terms, schedule: Schedule, write: Writer
) -> list[Step]:
    """What is paid, of terms as they will be paid: the figure rounded, and the first row of the
    schedule."""
    first, last = schedule.rows[0], schedule.rows[-1]
    amount = schedule.unit.amount
    paid = write.money(Decimal(value_as_paid(loan, solution, terms, schedule)))
    told_as = {
        "payment": (paid, _rounded_words(loan, write)),
        "principal": (write.money(amount(first.opening)), _lent_words(loan)),
        "cover.ratio": (
            write.marks.number(payable_percent(solution), PLACES),
            worded("to ten decimals"),
        ),
        "balance": (
            write.money(amount(last.closing)),
            worded("the balance takes what rounding each row leaves"),
        ),
        "count": (str(len(schedule.rows)), worded("whole payments, the last one settling")),
        "amortized_over": (str(whole_above(solution)), worded("whole payments")),
        **dict.fromkeys(
            ("rate", "rate.margin", "rate.first"),
            (
                f"{write.marks.number(payable_percent(solution), PLACES)} %",
                worded("to ten decimals"),
            ),
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


def _lent_words(loan: Loan) -> str:
    if loan.is_sized:
        return worded(
            "down to the minor unit and, where the cover binds with payments rounded down, further "
            "until all of them fit"
        )
    return worded("to the nearest minor unit")


def _rounded_words(loan: Loan, write: Writer) -> str:
    if loan.repayment == "at-the-end":
        return worded("the last payment takes what rounding each row leaves")
    if loan.repayment not in ("level", "sculpted"):
        return worded("its part and its interest, each rounded")
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
    if loan.interest_shared is not None:
        return _shared_row(row, schedule, write)
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


def _shared_row(row: Row, schedule: Schedule, write: Writer) -> Step:
    """The first row where interest is shared out by the sum of the digits."""
    amount, count = schedule.unit.amount, len(schedule.rows)
    total = write.money(amount(sum(schedule.columns.interest)))
    interest, payment = write.money(amount(row.interest)), write.money(amount(row.payment))
    return {
        "title": worded("The first row by hand"),
        "formula": worded(
            "interest = all interest × n / (1 + 2 + … + n), principal = what is paid − interest"
        ),
        "numbers": f"{total} × {count} / {count * (count + 1) // 2} = {interest}; "
        f"{payment} − {interest} = {write.money(amount(row.principal))}",
        "result": worded("{closing} still owed", closing=write.money(amount(row.closing))),
    }
