"""More paid than is due: a little with each payment, or a lump once; what that saves."""

from decimal import Decimal

from pydantic import BaseModel, ConfigDict, Field

from ..answer.answer import with_the_answer
from ..document.fields import UNKNOWN
from ..document.loan import Loan, check, write
from ..errors import FieldError, NotALoan
from ..ledger.roll import Schedule
from ..solve.worked import due, schedule_of
from ..statement.parsing import Reading, read_amount, read_place
from ..statement.statement import Statement, loan_of, restate
from ..wording.marks import MARKS, Marks, Money, Number, Sentence


class More(BaseModel):
    """What is paid on top, as typed: `each` payment, and a `lump` at a payment or on a day."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    each: str = Field(default="", max_length=200)
    lump: str = Field(default="", max_length=200)
    at: str = Field(default="12", max_length=200)


class PaidMore(BaseModel):
    """A loan as it stands and with more paid; money as decimal strings, days as ISO dates.

    `statement` is the loan with more paid, to open as a case of its own.
    """

    payments_before: int
    payments_after: int
    ends_before: str | None
    ends_after: str | None
    interest_before: str
    interest_after: str
    paid_before: str
    paid_after: str
    payments_saved: int
    interest_saved: str
    says: str
    statement: Statement


def paying_more(statement: Statement, more: More) -> PaidMore:
    """The loan with more paid, against the loan as it stands.

    The payment stays what it is, and the loan ends when nothing but its balance is left. Raises
    `NotALoan` with what is wrong at its place.
    """
    marks = MARKS[statement.marks]
    loan = loan_of(statement)
    extra = _clauses(more, loan, marks)
    before = with_the_answer(loan)
    laid = schedule_of(before, marks)
    content = write(before)
    content.pop("aim", None)
    content["count"] = UNKNOWN
    content["clauses"] = [*content.get("clauses", []), *extra]
    try:
        after = check(content)
    except NotALoan as wrong:
        raise _as_a_whole(wrong) from None
    ended = schedule_of(after, marks)
    saved = _interest(laid) - _interest(ended)
    fewer = _paying(laid) - _paying(ended)
    return PaidMore(
        payments_before=_paying(laid),
        payments_after=_paying(ended),
        ends_before=_end(before, laid),
        ends_after=_end(before, ended),
        interest_before=laid.unit.write(_interest(laid)),
        interest_after=ended.unit.write(_interest(ended)),
        paid_before=laid.unit.write(_paid(laid)),
        paid_after=ended.unit.write(_paid(ended)),
        payments_saved=fewer,
        interest_saved=laid.unit.write(saved),
        says=_says(loan, laid, ended, fewer, saved).say(marks),
        statement=restate(after, statement.marks),
    )


def _clauses(more: More, loan: Loan, marks: Marks) -> list[dict[str, object]]:
    """The repayments on top as a document holds them."""
    told: list[dict[str, object]] = []
    wrong: list[FieldError] = []

    def amount(name: str, typed: str) -> str | None:
        reading: Reading = read_amount(typed, marks, loan.currency)
        message = reading.error
        if reading.value == UNKNOWN:
            message = "What is paid on top has to be stated. To have it found, aim at a result."
        elif reading.value is not None and Decimal(reading.value) <= 0:
            message = "What is paid on top is more than nothing."
        if message:
            wrong.append(FieldError(field=name, message=message))
        return reading.value

    if not (more.each.strip() or more.lump.strip()):
        message = "Say what is paid on top: with each payment, once, or both."
        raise NotALoan([FieldError(field="each", message=message)])
    if more.each.strip():
        told.append({"from": 1, "repay": amount("each", more.each)})
    if more.lump.strip():
        place = read_place(more.at, marks)
        if place.error:
            wrong.append(FieldError(field="at", message=place.error))
        at = place.value or ""
        told.append({"at": int(at) if at.isdecimal() else at, "repay": amount("lump", more.lump)})
    if wrong:
        raise NotALoan(wrong)
    return told


def _as_a_whole(wrong: NotALoan) -> NotALoan:
    """What is wrong with a loan nobody typed, told of the whole."""
    return NotALoan([FieldError(field="", message=error.message) for error in wrong.errors])


def _paying(laid: Schedule) -> int:
    """The number of the last payment that is one."""
    return next((row.number for row in reversed(laid.rows) if row.paid), 0)


def _end(loan: Loan, laid: Schedule) -> str | None:
    paying = [row for row in laid.rows if row.paid]
    day = due(loan, paying[-1] if paying else laid.rows[0])
    return day.isoformat() if day else None


def _interest(laid: Schedule) -> int:
    return sum(row.interest for row in laid.rows)


def _paid(laid: Schedule) -> int:
    return sum(row.paid for row in laid.rows)


def _says(loan: Loan, laid: Schedule, ended: Schedule, fewer: int, saved: int) -> Sentence:
    many = "{fewer} payments fewer" if fewer != 1 else "1 payment fewer"
    if fewer <= 0:
        many = "no payment fewer"
    return Sentence(
        "It is repaid by {after} payments instead of {before}: " + many + ", and {saved} less "
        "interest.",
        after=Number(_paying(ended)),
        before=Number(_paying(laid)),
        fewer=Number(fewer),
        saved=Money(laid.unit.amount(saved), loan.decimals),
    )
