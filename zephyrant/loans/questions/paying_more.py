"""More paid than is due: a little with each payment, or a lump once; what that saves."""

from collections.abc import Mapping, Sequence
from datetime import date

from pydantic import BaseModel

from zephyrant.texts import worded

from ..answer.solving import with_the_answer
from ..calendars.days_in_words import write_day
from ..document.fields import UNKNOWN
from ..document.figure_path import COUNT
from ..document.loan import Loan
from ..document.named import RESULTS_NAMED
from ..document.reading import check, write
from ..document.repaid import why_not_asked
from ..errors import FieldError, NotALoan
from ..ledger.rows import Schedule, due
from ..unknowns.worked import schedule_of
from ..wording.marks import Marks, Money, Number, Sentence
from ..wording.tables import TableTold, row_told


class Saving(BaseModel):
    """A loan as it stands and with more paid; money as decimal strings, days as ISO dates."""

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
    told: TableTold


def paying_more(
    loan: Loan, on_top: Sequence[Mapping[str, object]], marks: Marks
) -> tuple[Saving, Loan]:
    """A loan with more paid, against the loan as it stands; and the loan with more paid.

    `on_top`: repayments, as clauses of a document. The payment stays what it is, and the loan ends
    when nothing but its balance is left. Raises `NotALoan` with what is wrong.
    """
    before = with_the_answer(loan)
    schedule = schedule_of(before, marks)
    content = write(before)
    content.pop("aim", None)
    if why_not_asked(loan, COUNT) is None:
        content["count"] = UNKNOWN
    content["clauses"] = [*content.get("clauses", []), *on_top]
    try:
        after = check(content).rounded_as(before)
    except NotALoan as wrong:
        raise _as_a_whole(wrong) from None
    ended = schedule_of(after, marks)
    saved = _interest(schedule) - _interest(ended)
    fewer = _paying(schedule) - _paying(ended)
    unit = schedule.unit
    saving = Saving(
        payments_before=_paying(schedule),
        payments_after=_paying(ended),
        ends_before=_end(before, schedule),
        ends_after=_end(before, ended),
        interest_before=unit.write(_interest(schedule)),
        interest_after=ended.unit.write(_interest(ended)),
        paid_before=unit.write(_paid(schedule)),
        paid_after=ended.unit.write(_paid(ended)),
        payments_saved=fewer,
        interest_saved=unit.write(saved),
        says=_says(loan, schedule, ended, fewer, saved).say(marks),
        told=_told(before, schedule, ended, marks),
    )
    return saving, after


def _told(loan: Loan, schedule: Schedule, ended: Schedule, marks: Marks) -> TableTold:
    """As it stands, with more paid, and what that saves."""
    titles = {name: RESULTS_NAMED[name].alone for name in ("total_interest", "total_paid")}

    def money(one: Schedule, units: int) -> str:
        return marks.write(one.unit.write(units))

    rows = [
        row_told(
            worded("Payments"),
            *(marks.write(str(_paying(each))) for each in (schedule, ended)),
            marks.write(str(_paying(schedule) - _paying(ended))),
        ),
        row_told(
            titles["total_interest"],
            *(money(each, _interest(each)) for each in (schedule, ended)),
            money(schedule, _interest(schedule) - _interest(ended)),
        ),
        row_told(
            titles["total_paid"],
            *(money(each, _paid(each)) for each in (schedule, ended)),
            money(schedule, _paid(schedule) - _paid(ended)),
        ),
    ]
    ends = [_end(loan, each) for each in (schedule, ended)]
    if all(ends):
        days = (write_day(date.fromisoformat(end)) for end in ends if end)
        rows.append(row_told(RESULTS_NAMED["end_date"].alone, *days, ""))
    return TableTold(
        heads=("", worded("As it stands"), worded("With more paid"), worded("Saved")),
        rows=tuple(rows),
    )


def _as_a_whole(wrong: NotALoan) -> NotALoan:
    """What is wrong with a loan nobody typed, told of the whole."""
    return NotALoan([FieldError(field="", message=error.message) for error in wrong.errors])


def _paying(schedule: Schedule) -> int:
    """The number of the last payment that is one."""
    return next((row.number for row in reversed(schedule.rows) if row.paid), 0)


def _end(loan: Loan, schedule: Schedule) -> str | None:
    paying = [row for row in schedule.rows if row.paid]
    day = due(paying[-1] if paying else schedule.rows[0], loan.calendar)
    return day.isoformat() if day else None


def _interest(schedule: Schedule) -> int:
    return sum(row.interest for row in schedule.rows)


def _paid(schedule: Schedule) -> int:
    return sum(row.paid for row in schedule.rows)


def _says(loan: Loan, schedule: Schedule, ended: Schedule, fewer: int, saved: int) -> Sentence:
    many = "{fewer} payments fewer" if fewer != 1 else "1 payment fewer"
    if fewer <= 0:
        many = "no payment fewer"
    return Sentence(
        "It is repaid by {after} payments instead of {before}: {many}, and {saved} less interest.",
        many=Sentence(many, fewer=Number(fewer)),
        after=Number(_paying(ended)),
        before=Number(_paying(schedule)),
        saved=Money(schedule.unit.amount(saved), loan.decimals),
    )
