"""What a stretch of payments or days adds up to."""

from collections.abc import Iterator

from typing_extensions import TypedDict

from zephyrant.texts import worded

from ..document.loan import Loan
from ..errors import NotALoan
from ..wording.marks import Marks
from .scheduled import ScheduledLoan, due_at, scheduled
from .stretches import MOST_MOMENTS, bounds, each_of, every, parts_of


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
    "last 12", "every 12", "1 Jan 2028 to 30 Jun 2028".

    Raises `NotALoan` at `stretch` where one cannot be read or lies outside the loan.
    """
    asked = scheduled(loan, marks)
    stretches = [each for part in parts_of(typed) or [""] for each in _bounds(asked, part.lower())]
    if len(stretches) > MOST_MOMENTS:
        raise NotALoan.at(
            "stretch",
            worded(
                "That asks for {stretches} stretches: at most {most}.",
                stretches=len(stretches),
                most=MOST_MOMENTS,
            ),
        )
    return [_stretch(asked, *each) for each in stretches]


def _bounds(asked: ScheduledLoan, text: str) -> Iterator[tuple[int, int]]:
    """The payments of the stretches a part of what is typed names."""
    if (number := every(text)) is not None:
        yield from each_of(asked, number)
        return
    found = bounds(asked, text, "stretch")
    if found is None:
        raise NotALoan.at(
            "stretch",
            worded(
                "“{text}” is no stretch. Write one such as 13-24, year 2, 2028, last "
                "12, every 12 or two days.",
                text=text[:40],
            ),
        )
    yield found


def _stretch(asked: ScheduledLoan, first: int, last: int) -> PeriodTotals:
    write = asked.schedule.unit.write
    begins, ends = due_at(asked, first), due_at(asked, last)
    some = [row for row in asked.schedule.rows if first <= row.number <= last]
    if not some:
        raise NotALoan.at(
            "stretch",
            worded("Nothing is paid or lent in {first} to {last}.", first=first, last=last),
        )
    return {
        "what": worded("payment {first}", first=first)
        if first == last
        else worded("payments {first} to {last}", first=first, last=last),
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
