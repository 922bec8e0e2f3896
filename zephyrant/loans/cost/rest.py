"""What is left of a loan after a moment, worth then at any rate.

Discounted period by period as the line is, money on a day with the simple interest of its period
from that day on: at the loan's own rate the rest is worth what is owed.
"""

from collections import defaultdict
from collections.abc import Iterator
from dataclasses import replace
from datetime import date
from decimal import Decimal
from fractions import Fraction
from typing import NamedTuple

from ..budget import look
from ..ledger.rows import Schedule
from ..line.line import Line, lay_out
from ..numbers.decimals import precise
from ..numbers.ratios import as_decimal
from .costs import moved_in


class Moment(NamedTuple):
    """Right after payment `number` (0: the start) or, with a day, on that day before the next."""

    number: int
    day: date | None = None


class _Times(NamedTuple):
    """Interest on 1 up to a payment and, from it on, to the end of its period."""

    before: Fraction
    after: Fraction


class Rest:
    """What a schedule has still to be paid after a moment, what is left owing at its end with it;
    fees and what is collected for others are not among it."""

    def __init__(self, line: Line, schedule: Schedule, moment: Moment) -> None:
        if not line.has_payments:
            raise ValueError("clauses alone have no payments to be discounted")
        self._line, self._moment = line, moment
        self._last = schedule.rows[-1].stands_at
        self._calendar = line.terms.time.calendar
        self._at: dict[int, Decimal] = defaultdict(Decimal)
        self._on: dict[int, list[tuple[date, Decimal]]] = defaultdict(list)
        for place, amount in moved_in(line, schedule):
            self._put(place, -amount)

    def _put(self, place: int | date, amount: Decimal) -> None:
        number, day = self._moment
        if isinstance(place, int):
            if place > number:
                self._at[place] += amount
            return
        if self._calendar is None:
            raise ValueError("a day without dates")
        begins = day or (self._calendar.payment(number) if number else self._calendar.start)
        if place > begins:
            on_or_after, is_on = self._calendar.paid_on_or_after(place)
            if is_on:
                self._at[on_or_after] += amount
            else:
                self._on[on_or_after].append((place, amount))

    def worth(self, rate: Fraction) -> Decimal:
        """What all of it is worth at the moment, at a rate of one payment period."""
        own = (each for each in self._line.terms.provisions if each.verb != "rate")
        line = lay_out(replace(self._line.terms, rate=rate, provisions=tuple(own)))
        accruals = line.accruals(self._last + 1)
        in_advance, worth, discount = line.terms.in_advance, Decimal(0), Decimal(1)
        number, day = self._moment
        with precise():
            later = _Times(Fraction(0), Fraction(0))
            for place, times in enumerate(_periods(line, number, self._last), number):
                look()
                if place == number:
                    later = times
                    continue
                # The interest of the time up to this payment, in which money moves on days.
                grows = later.after if in_advance and place > 1 else times.before
                discount /= 1 + as_decimal(grows)
                for moves, amount in self._on.get(place, ()):
                    rest = grows - accruals.until(place - 1, moves).interest
                    worth += amount * discount * (1 + as_decimal(rest))
                worth += self._at.get(place, Decimal(0)) * discount
                later = times
            if day is not None:
                # What is owed grows from the payment to the day with simple interest.
                worth *= 1 + as_decimal(accruals.until(number, day).interest)
        return worth


def _periods(line: Line, first: int, last: int) -> Iterator[_Times]:
    """The periods from payment `first` on, one by one, and the end after the last."""
    if not first:
        yield _Times(Fraction(0), Fraction(0))
    for stretch in line.part(max(1, first), last):
        for _ in range(stretch.periods()):
            yield _Times(stretch.before, stretch.after)
    yield _Times(Fraction(0), Fraction(0))
