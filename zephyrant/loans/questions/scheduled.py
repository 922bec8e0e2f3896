"""A loan with its schedule, to be asked about moments and stretches of it."""

from bisect import bisect_right
from datetime import date
from typing import NamedTuple

from ..document.loan import Loan
from ..ledger.rows import Schedule, due
from ..line.accruals import Accruals
from ..line.line import Line
from ..unknowns.worked import end_of, schedule_of, work_out
from ..wording.marks import Marks


class ScheduledLoan(NamedTuple):
    """A loan laid out, ready to be asked."""

    loan: Loan
    line: Line
    schedule: Schedule
    marks: Marks
    numbers: list[int]
    accruals: Accruals

    @property
    def last(self) -> int:
        """The number of the last row."""
        return self.numbers[-1]


def scheduled(loan: Loan, marks: Marks) -> ScheduledLoan:
    """A loan laid out to the cent; raises `NotALoan` where it has no schedule."""
    schedule, line = schedule_of(loan, marks), work_out(loan).line
    if line is None:
        raise ValueError("a loan with a schedule has its line")
    numbers = [row.number for row in schedule.rows]
    accruals = line.accruals(numbers[-1] + 1)
    return ScheduledLoan(loan, line, schedule, marks, numbers, accruals)


def end_of_loan(asked: ScheduledLoan) -> date:
    """The last day of a loan with dates."""
    end = end_of(asked.loan, asked.schedule)
    if end is None:
        raise ValueError("a loan without dates has no last day")
    return end


def due_at(asked: ScheduledLoan, number: int) -> date | None:
    """When a payment falls due (0: the start): as its row says, else as the calendar does."""
    calendar, rows = asked.loan.calendar, asked.schedule.rows
    if calendar is None or not number:
        return calendar and calendar.start
    at = bisect_right(asked.numbers, number) - 1
    if at >= 0 and rows[at].number == number:
        return due(rows[at], asked.loan.calendar)
    return calendar.due(number)
