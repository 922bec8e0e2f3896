"""What accrues in a part of a period."""

from datetime import date, timedelta
from fractions import Fraction
from typing import NamedTuple

from .cutting import Cutting
from .stretch import Inner


class Accrued(NamedTuple):
    """What accrues from a payment to a day before the next: `interest` on 1 owed after it, the
    money that moved meanwhile, and what a day more adds."""

    interest: Fraction
    inner: tuple[Inner, ...]
    next_day: Fraction


class Accruals:
    """Interest between the payments of a loan on dates; periods are those up to payment `last`."""

    def __init__(self, cutting: Cutting, last: int) -> None:
        self._cutting = cutting
        self._rates, self._time = cutting.rates, cutting.terms.time
        self._last = min(last, cutting.places.last)

    def until(self, number: int, day: date) -> Accrued:
        """From payment `number` (0: the start) to a day before the next one. Where business days
        move a payment away from the day up to which interest is counted, none accrues between."""
        in_advance = self._time.in_advance
        place = number if in_advance and number else number + 1
        if place > self._last:
            return Accrued(Fraction(0), (), Fraction(0))
        rates = self._rates
        period = rates.period(place)
        spot, span = period, period.after
        if not (in_advance and number):
            spot, span = rates.up_to_payment(period), period.before

        def held(on: date) -> date:
            if spot.begins is None or spot.ends is None:
                return on
            return max(spot.begins, min(on, spot.ends))

        def accrued(begins: date | None, ends: date) -> Fraction:
            return rates.over(spot, span, begins, held(ends))

        moved = self._cutting.moves.on_days.get(number if in_advance else place, ())
        inner = tuple(
            Inner(
                amount,
                accrued(moves, day) if moves < day else Fraction(0),
                in_advance,
                is_fee,
                moves,
            )
            for moves, amount, is_fee in moved
            if moves <= day
        )
        if (today := held(day)) == (tomorrow := held(day + timedelta(days=1))):
            daily = Fraction(0)
        elif self._time.day_count in ("30/360", "30E/360"):
            daily = rates.at(period.number, day.toordinal()) * self._time.a_year / 360
        else:
            daily = accrued(today, tomorrow)
        return Accrued(accrued(spot.begins, day), inner, daily)
