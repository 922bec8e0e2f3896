"""What a stretch of payments or days adds up to."""

import re
from datetime import date

from typing_extensions import TypedDict

from ..calendars.days_in_words import read_day, write_day
from ..document.loan import Loan
from ..errors import NotALoan
from ..ledger.rows import due
from ..wording.marks import Marks
from .balance_at import MOST_MOMENTS, PARTS
from .scheduled import ScheduledLoan, due_at, end_of_loan, scheduled


class PeriodTotals(TypedDict):
    """What payments `first` to `last` add up to: `paid` in all, `added` by further amounts lent and
    by fees; opening + added + interest - paid = closing."""

    what: str
    first: int
    last: int
    begins: str | None
    ends: str | None
    opening: str
    paid: str
    added: str
    interest: str
    principal: str
    closing: str


def period_totals_of(loan: Loan, typed: str, marks: Marks) -> list[PeriodTotals]:
    """What stretches add up to, each on its own: "13-24", "year 2; year 3", "2028, 2029",
    "last 12", "1 Jan 2028 to 30 Jun 2028".

    Raises `NotALoan` at `stretch` where one cannot be read or lies outside the loan.
    """
    asked = scheduled(loan, marks)
    parts = [part for part in PARTS.split(" ".join(typed.split())) if part.strip()]
    if len(parts) > MOST_MOMENTS:
        raise NotALoan.at(
            "stretch", f"That asks for {len(parts)} stretches: at most {MOST_MOMENTS}."
        )
    return [_stretch(asked, part) for part in parts or [""]]


def _stretch(asked: ScheduledLoan, typed: str) -> PeriodTotals:
    first, last = _bounds(asked, " ".join(typed.lower().split()))
    write = asked.schedule.unit.write
    begins, ends = due_at(asked, first), due_at(asked, last)
    some = [row for row in asked.schedule.rows if first <= row.number <= last]
    if not some:
        raise NotALoan.at("stretch", f"Nothing is paid or lent in {first} to {last}.")
    return {
        "what": f"payment {first}" if first == last else f"payments {first} to {last}",
        "first": first,
        "last": last,
        "begins": begins.isoformat() if begins else None,
        "ends": ends.isoformat() if ends else None,
        "opening": write(some[0].opening),
        "paid": write(sum(row.paid for row in some)),
        "added": write(sum(row.advance + row.fee for row in some)),
        "interest": write(sum(row.interest for row in some)),
        "principal": write(sum(row.principal for row in some)),
        "closing": write(some[-1].closing),
    }


def _bounds(asked: ScheduledLoan, text: str) -> tuple[int, int]:
    count, each = asked.last, asked.loan.payments_a_year
    if text in ("all", ""):
        return 1, count
    edge = re.fullmatch(r"(first|last) (\d{1,6})(?: payments?)?", text)
    if edge and int(edge[2]):
        length = min(int(edge[2]), count)
        return (1, length) if edge[1] == "first" else (count - length + 1, count)
    years = re.fullmatch(r"years? (\d{1,5})(?: ?(?:-|–|to) ?(\d{1,5}))?", text)
    if years:
        begin, end = int(years[1]), int(years[2] or years[1])
        return _inside(asked, (begin - 1) * each + 1, end * each, text)
    if (on_dates := _by_dates(asked, text)) is not None:
        return on_dates
    numbers = re.fullmatch(r"(?:payments? )?(\d{1,6})(?: ?(?:-|–|to) ?(\d{1,6}))?", text)
    if numbers:
        return _inside(asked, int(numbers[1]), int(numbers[2] or numbers[1]), text)
    raise NotALoan.at(
        "stretch",
        f"“{text[:40]}” is no stretch. Write one such as 13-24, year 2, 2028, last 12 or two days.",
    )


def _inside(asked: ScheduledLoan, first: int, last: int, text: str) -> tuple[int, int]:
    count = asked.last
    if first > last:
        raise NotALoan.at("stretch", f"“{text[:40]}” ends before it begins.")
    if first < 1 or first > count:
        raise NotALoan.at(
            "stretch", f"“{text[:40]}” lies outside the loan, which has payments 1 to {count}."
        )
    return first, min(last, count)


def _by_dates(asked: ScheduledLoan, text: str) -> tuple[int, int] | None:
    """The payments between two days, or in a year of the calendar; none where no days are meant."""
    calendar = asked.loan.calendar
    year = re.fullmatch(r"(\d{4})", text)
    if year and calendar and calendar.start.year <= int(year[1]) <= end_of_loan(asked).year:
        begin, end = date(int(year[1]), 1, 1), date(int(year[1]), 12, 31)
    else:
        days = [read_day(part) for part in re.split(r" (?:to|until|–|-) ", text)]
        if len(days) != 2 or None in days:
            return None
        begin, end = (day for day in days if day)
    if calendar is None:
        raise NotALoan.at("stretch", "This loan has no dates: state its start, or name payments.")
    falls_due = [(row.number, due(row, asked.loan.calendar)) for row in asked.schedule.rows]
    inside = [number for number, day in falls_due if day and begin <= day <= end]
    if not inside:
        raise NotALoan.at(
            "stretch", f"No payment falls between {write_day(begin)} and {write_day(end)}."
        )
    return inside[0], inside[-1]
