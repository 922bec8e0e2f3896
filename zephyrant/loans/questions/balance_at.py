"""What is owed at a moment: after a payment or on a day.

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
from typing import Final, Literal

from typing_extensions import TypedDict

from zephyrant.texts import Worded, worded

from ..calendars.days_in_words import read_day, write_day
from ..document.loan import Loan
from ..errors import NotALoan
from ..ledger.levelling import owed_on
from ..ledger.plain_numbers import IN_FRACTIONS
from ..ledger.rounding import rounded_fraction
from ..numbers.decimals import DIGITS, precise
from ..numbers.ratios import as_decimal
from ..wording.marks import Marks
from ..wording.refusals import no_payment
from .scheduled import ScheduledLoan, due_at, end_of_loan, scheduled
from .stretches import MOST_MOMENTS, bounds, every, parts_of, year_of_calendar, years

PayoffRounding = Literal["nearest", "up"]
#: How the interest to a day is rounded, and what that is called.
PAYOFF_ROUNDINGS: Final[Worded[PayoffRounding]] = Worded(
    {
        "nearest": "rounded to the nearest",
        "up": "rounded up",
    }
)


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


def owed(loan: Loan, typed: str, marks: Marks, payoff: PayoffRounding = "nearest") -> list[Owed]:
    """What is owed after payments and on days: "13", "12, 24", "every 12", "1 Mar 2029"; after each
    payment of a stretch: "13-24", "last 12"; at the end of years: "years 1-5", "2028".

    Raises `NotALoan` at `at` where that cannot be read or lies outside the loan.
    """
    asked = scheduled(loan, marks)
    parts = parts_of(typed)
    if not parts:
        raise NotALoan.at(
            "at", worded("Nothing is asked. Write a payment such as 13, every 12, or a day.")
        )
    asks = (each for part in parts for each in _moments(asked, part))
    moments = list(islice(asks, MOST_MOMENTS + 1))
    if len(moments) > MOST_MOMENTS:
        raise NotALoan.at(
            "at",
            worded("That asks for more than {most} moments at once.", most=MOST_MOMENTS),
        )
    return [
        _after(asked, moment) if isinstance(moment, int) else _on(asked, moment, payoff)
        for moment in moments
    ]


def _moments(asked: ScheduledLoan, part: str) -> Iterator[int | date]:
    count, text = asked.last, part.lower()
    if (number := every(text)) is not None:
        yield from range(number, count + 1, number)
        return
    after = re.fullmatch(r"(?:after )?(?:payment )?(\d{1,6})", text)
    if after and year_of_calendar(asked, text) is None:
        if int(after[1]) > count:
            raise NotALoan.at(
                "at",
                no_payment(after[1], count),
            )
        yield int(after[1])
        return
    day = read_day(part)
    if day is None:
        yield from _of_a_stretch(asked, text)
        return
    calendar = asked.loan.calendar
    if calendar is None:
        raise NotALoan.at(
            "at", worded("This loan has no dates: state its start, or ask for a payment.")
        )
    end = end_of_loan(asked)
    if not calendar.start <= day <= end:
        runs = worded("{start} to {end}", start=write_day(calendar.start), end=write_day(end))
        raise NotALoan.at(
            "at",
            worded(
                "{day} lies outside the loan, which runs from {runs}.",
                day=write_day(day),
                runs=runs,
            ),
        )
    yield day


def _of_a_stretch(asked: ScheduledLoan, text: str) -> Iterator[int | date]:
    """After each payment of a stretch; of years at the end of each."""
    calendar_year = year_of_calendar(asked, text)
    if calendar_year is not None:
        yield min(date(calendar_year, 12, 31), end_of_loan(asked))
        return
    stretch = bounds(asked, text, "at")
    if stretch is None:
        raise NotALoan.at(
            "at",
            worded(
                "“{text}” is no moment. Write a payment such as 13, every 12, or a day.",
                text=text[:40],
            ),
        )
    numbered, each = years(text), asked.loan.payments_a_year
    if numbered is not None:
        ends = (min(year * each, asked.last) for year in numbered)
        yield from dict.fromkeys(ends)
        return
    yield from range(stretch[0], stretch[1] + 1)


def _after(asked: ScheduledLoan, number: int) -> Owed:
    write, day = asked.schedule.unit.write, due_at(asked, number)
    balance = write(_standing(asked, number))
    return {
        "what": worded("after payment {number}", number=number)
        if number
        else worded("at the start"),
        "number": number,
        "date": day.isoformat() if day else None,
        "balance": balance,
        "accrued": write(0),
        "owed": balance,
        "per_day": None,
    }


def _standing(asked: ScheduledLoan, number: int) -> int:
    """What is owed right after a payment, in units; between the rows of a deal without payments
    interest alone is added."""
    rows = asked.schedule.rows
    if number == 0:
        return rows[0].opening
    at = bisect_right(asked.numbers, number) - 1
    before = rows[at].rest if at >= 0 else rows[0].opening
    last = rows[at].number if at >= 0 else 0
    if last == number:
        return before
    owed = IN_FRACTIONS.carried(Fraction(before), asked.line.part(last + 1, number))
    return rounded_fraction(owed, asked.schedule.unit.minor)


def _on(asked: ScheduledLoan, day: date, payoff: PayoffRounding) -> Owed:
    loan, unit = asked.loan, asked.schedule.unit
    dates = [
        each for each in (due_at(asked, number) for number in range(1, asked.last + 1)) if each
    ]
    number = bisect_right(dates, day)
    if day == due_at(asked, number):
        return _after(asked, number)
    base = _standing(asked, number)
    if asked.schedule.by_day:
        moved, interest, next_day = 0, *_accrued_by_day(asked, number, day)
    elif loan.interest_shared is not None:
        moved, interest, next_day = 0, *_share_by(asked, number, day)
    else:
        accrued = asked.accruals.until(number, day)
        moved = sum(unit.count(amount) for amount, *_ in accrued.inner)
        interest = IN_FRACTIONS.accrued(
            Fraction(base),
            accrued.interest,
            [(Fraction(unit.count(amount)), share) for amount, share, *_ in accrued.inner],
        )
        next_day = accrued.next_day * (base + moved)
    with precise():
        minor = unit.minor
        rounding = ROUND_CEILING if payoff == "up" else ROUND_HALF_UP
        whole = int((as_decimal(interest) / minor).to_integral_value(rounding)) * minor
        each = unit.amount(1) * as_decimal(next_day)
    return {
        "what": worded("on {day}", day=write_day(day)),
        "number": number,
        "date": day.isoformat(),
        "balance": unit.write(base + moved),
        "accrued": unit.write(whole),
        "owed": unit.write(base + moved + whole),
        "per_day": f"{each:.{loan.decimals + 2}f}",
    }


def _share_by(asked: ScheduledLoan, number: int, day: date) -> tuple[Fraction, Fraction]:
    """In units, where interest is shared out by another rule: of the share of the next payment what
    has passed of its days, and what a day more adds."""
    begins, ends = due_at(asked, number), due_at(asked, number + 1)
    if begins is None or ends is None:
        raise ValueError("a loan without dates has no days to ask for")
    share = Fraction(asked.schedule.rows[number].interest, (ends - begins).days)
    return share * (day - begins).days, share


def _accrued_by_day(asked: ScheduledLoan, number: int, day: date) -> tuple[Fraction, Fraction]:
    """In units, where each day on which money moves has its row: the interest from that of a number
    to a day, and what a day more adds; the balance rolled unrounded to each tells them."""
    begins = due_at(asked, number)
    if begins is None:
        raise ValueError("a loan without dates has no days to ask for")
    with precise(asked.schedule.unit.places + DIGITS):
        owed = [
            Fraction(owed_on(asked.line.terms, each)) * 10**asked.schedule.unit.places
            for each in (begins, day, day + timedelta(days=1))
        ]
    return owed[1] - owed[0], owed[2] - owed[1]
