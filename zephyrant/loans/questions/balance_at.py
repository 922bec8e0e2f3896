"""Asking a schedule: what is owed at a moment, what a stretch of it adds up to.

Interest accrues evenly over a period that counts as equal, else by the day count of the loan. On a
payment date what is owed is what that payment leaves.
"""

import re
from bisect import bisect_right
from collections.abc import Iterator
from datetime import date, timedelta
from decimal import ROUND_CEILING, ROUND_HALF_UP
from fractions import Fraction
from itertools import islice
from typing import Final, Literal, NamedTuple

from typing_extensions import TypedDict

from ..calendars.days_in_words import read_day
from ..document.loan import Loan
from ..errors import FieldError, NotALoan
from ..ledger.levelling import owed_on
from ..ledger.roll import Schedule
from ..line.periods import Terms
from ..line.stretches import Accruals
from ..numbers.decimals import DIGITS, divide_nearest, precise
from ..quotes.conversion import as_decimal
from ..solve.worked import due, end_of, schedule_of, work_out
from ..wording.marks import Marks

MOST_MOMENTS: Final = 500
#: What parts several moments or stretches typed at once.
_PARTS: Final = re.compile(r"[,;]| and ")
Payoff = Literal["nearest", "up"]


class Owed(TypedDict):
    """What is owed at a moment: `balance` and the interest `accrued` since the last payment (none
    on a payment date) make `owed`; what was lent or repaid since is in the balance; `per_day` is
    what a day adds."""

    what: str
    number: int
    date: str | None
    balance: str
    accrued: str
    owed: str
    per_day: str | None


class StretchTold(TypedDict):
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


class _Asked(NamedTuple):
    """A loan laid out, ready to be asked."""

    loan: Loan
    terms: Terms
    laid: Schedule
    marks: Marks
    numbers: list[int]
    accruals: Accruals

    @property
    def last(self) -> int:
        """The number of the last row."""
        return self.numbers[-1]


def _refused(field: str, message: str) -> NotALoan:
    return NotALoan([FieldError(field=field, message=message)])


def _asking(loan: Loan, marks: Marks) -> _Asked:
    laid, terms = schedule_of(loan, marks), work_out(loan).terms
    if terms is None:
        raise ValueError("a loan with a schedule has its terms")
    numbers = [row.number for row in laid.rows]
    return _Asked(loan, terms, laid, marks, numbers, Accruals(terms, numbers[-1] + 1))


def owed(loan: Loan, typed: str, marks: Marks, payoff: Payoff = "nearest") -> list[Owed]:
    """What is owed after payments and on days: "13", "12, 24", "every 12", "1 Mar 2029".

    Raises `NotALoan` at `at` where that cannot be read or lies outside the loan.
    """
    asked = _asking(loan, marks)
    parts = [part for part in _PARTS.split(" ".join(typed.split())) if part.strip()]
    if not parts:
        raise _refused("at", "Nothing is asked. Write a payment such as 13, every 12, or a day.")
    asks = (each for part in parts for each in _moments(asked, part.strip()))
    moments = list(islice(asks, MOST_MOMENTS + 1))
    if len(moments) > MOST_MOMENTS:
        raise _refused("at", f"That asks for more than {MOST_MOMENTS} moments at once.")
    return [
        _after(asked, moment) if isinstance(moment, int) else _on(asked, moment, payoff)
        for moment in moments
    ]


def _moments(asked: _Asked, part: str) -> Iterator[int | date]:
    count = asked.last
    every = re.fullmatch(r"every (\d{1,6})(?:th|st|nd|rd)?(?: payments?)?", part.lower())
    if every and int(every[1]):
        yield from range(int(every[1]), count + 1, int(every[1]))
        return
    number = re.fullmatch(r"(?:after )?(?:payment )?(\d{1,6})", part.lower())
    if number:
        if int(number[1]) > count:
            raise _refused("at", f"There is no payment {number[1]}: the loan has {count}.")
        yield int(number[1])
        return
    day = read_day(part)
    if day is None:
        raise _refused(
            "at", f"“{part[:40]}” is no moment. Write a payment such as 13, every 12, or a day."
        )
    calendar = asked.loan.calendar
    if calendar is None:
        raise _refused("at", "This loan has no dates: state its start, or ask for a payment.")
    end = _end(asked)
    if not calendar.start <= day <= end:
        raise _refused(
            "at", f"{day} lies outside the loan, which runs from {calendar.start} to {end}."
        )
    yield day


def _end(asked: _Asked) -> date:
    end = end_of(asked.loan, asked.laid)
    if end is None:
        raise ValueError("a loan without dates has no last day")
    return end


def _due(asked: _Asked, number: int) -> date | None:
    """When a payment falls due (0: the start): as its row says, else as the calendar does."""
    calendar, rows = asked.loan.calendar, asked.laid.rows
    if calendar is None or not number:
        return calendar and calendar.start
    at = bisect_right(asked.numbers, number) - 1
    if at >= 0 and rows[at].number == number:
        return due(asked.loan, rows[at])
    return calendar.payment(number)


def _after(asked: _Asked, number: int) -> Owed:
    write, day = asked.laid.unit.write, _due(asked, number)
    balance = write(_standing(asked, number))
    return {
        "what": f"after payment {number}" if number else "at the start",
        "number": number,
        "date": day.isoformat() if day else None,
        "balance": balance,
        "accrued": write(0),
        "owed": balance,
        "per_day": None,
    }


def _standing(asked: _Asked, number: int) -> int:
    """What is owed right after a payment, in units; between the rows of a deal without payments
    interest alone is added."""
    rows = asked.laid.rows
    if number == 0:
        return rows[0].opening
    at = bisect_right(asked.numbers, number) - 1
    owed = Fraction(rows[at].rest if at >= 0 else rows[0].opening)
    last = rows[at].number if at >= 0 else 0
    for between in range(last + 1, number + 1):
        owed *= 1 + asked.accruals.whole(between)
    minor: int = 10 ** (asked.laid.unit.places - asked.laid.unit.shown)
    if last == number:
        return int(owed)
    return divide_nearest(owed.numerator, owed.denominator * minor) * minor


def _on(asked: _Asked, day: date, payoff: Payoff) -> Owed:
    loan, unit = asked.loan, asked.laid.unit
    dates = [each for each in (_due(asked, number) for number in range(1, asked.last + 1)) if each]
    number = bisect_right(dates, day)
    if day == _due(asked, number):
        return _after(asked, number)
    base = _standing(asked, number)
    if asked.laid.by_day:
        moved, interest, next_day = 0, *_accrued_by_day(asked, number, day)
    else:
        accrued = asked.accruals.until(number, day)
        moved = sum(unit.count(amount) for amount, *_ in accrued.inner)
        interest = accrued.interest * base + sum(
            share * unit.count(amount) for amount, share, *_ in accrued.inner
        )
        next_day = accrued.next_day * (base + moved)
    with precise():
        minor = 10 ** (unit.places - unit.shown)
        rounding = ROUND_CEILING if payoff == "up" else ROUND_HALF_UP
        whole = int((as_decimal(interest) / minor).to_integral_value(rounding)) * minor
        each = unit.amount(1) * as_decimal(next_day)
    return {
        "what": f"on {day}",
        "number": number,
        "date": day.isoformat(),
        "balance": unit.write(base + moved),
        "accrued": unit.write(whole),
        "owed": unit.write(base + moved + whole),
        "per_day": f"{each:.{loan.decimals + 2}f}",
    }


def _accrued_by_day(asked: _Asked, number: int, day: date) -> tuple[Fraction, Fraction]:
    """In units, where each day on which money moves has its row: the interest from that of a number
    to a day, and what a day more adds; the balance rolled unrounded to each tells them."""
    begins = _due(asked, number)
    if begins is None:
        raise ValueError("a loan without dates has no days to ask for")
    with precise(asked.laid.unit.places + DIGITS):
        owed = [
            Fraction(owed_on(asked.terms, each)) * 10**asked.laid.unit.places
            for each in (begins, day, day + timedelta(days=1))
        ]
    return owed[1] - owed[0], owed[2] - owed[1]


def stretches(loan: Loan, typed: str, marks: Marks) -> list[StretchTold]:
    """What stretches add up to, each on its own: "13-24", "year 2; year 3", "2028, 2029",
    "last 12", "1 Jan 2028 to 30 Jun 2028".

    Raises `NotALoan` at `stretch` where one cannot be read or lies outside the loan.
    """
    asked = _asking(loan, marks)
    parts = [part for part in _PARTS.split(" ".join(typed.split())) if part.strip()]
    if len(parts) > MOST_MOMENTS:
        raise _refused("stretch", f"That asks for {len(parts)} stretches: at most {MOST_MOMENTS}.")
    return [_stretch(asked, part) for part in parts or [""]]


def _stretch(asked: _Asked, typed: str) -> StretchTold:
    first, last = _bounds(asked, " ".join(typed.lower().split()))
    write = asked.laid.unit.write
    begins, ends = _due(asked, first), _due(asked, last)
    some = [row for row in asked.laid.rows if first <= row.number <= last]
    if not some:
        raise _refused("stretch", f"Nothing is paid or lent in {first} to {last}.")
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


def _bounds(asked: _Asked, text: str) -> tuple[int, int]:
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
    raise _refused(
        "stretch",
        f"“{text[:40]}” is no stretch. Write one such as 13-24, year 2, 2028, last 12 or two days.",
    )


def _inside(asked: _Asked, first: int, last: int, text: str) -> tuple[int, int]:
    count = asked.last
    if first > last:
        raise _refused("stretch", f"“{text[:40]}” ends before it begins.")
    if first < 1 or first > count:
        raise _refused(
            "stretch", f"“{text[:40]}” lies outside the loan, which has payments 1 to {count}."
        )
    return first, min(last, count)


def _by_dates(asked: _Asked, text: str) -> tuple[int, int] | None:
    """The payments between two days, or in a year of the calendar; none where no days are meant."""
    calendar = asked.loan.calendar
    year = re.fullmatch(r"(\d{4})", text)
    if year and calendar and calendar.start.year <= int(year[1]) <= _end(asked).year:
        begin, end = date(int(year[1]), 1, 1), date(int(year[1]), 12, 31)
    else:
        days = [read_day(part) for part in re.split(r" (?:to|until|–|-) ", text)]
        if len(days) != 2 or None in days:
            return None
        begin, end = (day for day in days if day)
    if calendar is None:
        raise _refused("stretch", "This loan has no dates: state its start, or name payments.")
    falls_due = [(row.number, due(asked.loan, row)) for row in asked.laid.rows]
    inside = [number for number, day in falls_due if day and begin <= day <= end]
    if not inside:
        raise _refused("stretch", f"No payment falls between {begin} and {end}.")
    return inside[0], inside[-1]
