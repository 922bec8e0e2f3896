"""A loan of clauses alone, cut short on a day."""

from dataclasses import replace
from datetime import date
from decimal import Decimal

from ..calendars.dates import Calendar
from .terms import Provision, Terms


def terms_until(terms: Terms, day: date) -> Terms:
    """The terms up to a day, with what moves on it; rates go on, and the loan ends there.

    Raises `ValueError` for a loan without dates.
    """
    calendar = terms.time.calendar
    if calendar is None:
        raise ValueError("a loan without dates has no days to ask for")

    def by_then(provision: Provision) -> Provision | None:
        begins = provision.at or provision.begin or 0
        on = begins if isinstance(begins, date) else calendar.payment(begins) if begins else None
        if on is not None and on > day and provision.verb != "rate":
            return None
        lasts = provision.at is None and provision.verb != "rate"
        return provision._replace(to=_earlier(provision.to, day, calendar)) if lasts else provision

    kept = tuple(each for each in map(by_then, terms.provisions) if each is not None)
    end = Provision("repay", day, None, None, None, Decimal(0))
    return replace(terms, provisions=(*kept, end))


def _earlier(to: int | date | None, day: date, calendar: Calendar) -> date:
    ends = calendar.payment(to) if isinstance(to, int) else to
    return day if ends is None else min(ends, day)
