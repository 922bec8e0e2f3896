"""The places of a loan: its payments, the days they fall on, and where each clause holds."""

from collections.abc import Iterator
from datetime import date
from functools import cached_property

from .pieces import NEVER, Holding, Spot
from .terms import Provision, Terms


class Places:
    """The payments of a loan and the days they fall on."""

    def __init__(self, terms: Terms) -> None:
        self.terms = terms
        self.calendar = terms.time.calendar
        self.in_advance = terms.time.in_advance
        #: The day between two payments with which a loan of clauses alone ends.
        self.stop: date | None = None
        self.last = self._last()

    def due(self, number: int) -> date:
        """The day of a payment (0: of the start); that of the last one is the end of the loan."""
        if self.calendar is None:
            raise ValueError("a number without dates")
        if self.stop is not None and number == self.last:
            return self.stop
        return self.calendar.payment(number) if number else self.calendar.start

    def begins_on(self, number: int) -> date:
        """The day a period begins; in advance that of its payment."""
        return self.due(number if self.in_advance else number - 1)

    def _last(self) -> int:
        terms = self.terms
        if terms.count:
            return terms.count
        if terms.count is None:
            last = terms.runs[-1].last
            return min(terms.open_to if last is None else last, terms.most_payments)
        places = [
            place
            for provision in terms.provisions
            for place in (provision.at, provision.begin, provision.to)
        ]
        ints = [place for place in places if isinstance(place, int)]
        self.last = 0
        # Money of a stretch moves on payment days: the last of them lies on or before its end.
        spans = [
            self.number_of(provision.to, after=provision.verb == "rate")[0]
            for provision in terms.provisions
            if isinstance(provision.to, date)
        ]
        begins = [
            self.number_of(provision.begin)[0]
            for provision in terms.provisions
            if isinstance(provision.begin, date)
        ]
        numbers = [*ints, *spans, *begins]
        days = [provision.at for provision in terms.provisions if isinstance(provision.at, date)]
        if not days:
            return max([*numbers, 1])
        on_days, is_on = self.number_of(max(days))
        if on_days > max(numbers, default=0) and not is_on:
            self.stop = max(days)
        return max([*numbers, on_days, 1])

    def number_of(self, day: date, *, after: bool = True, paid: bool = True) -> tuple[int, bool]:
        """The first payment on or after a day (not `after`: the last on or before it), and whether
        it falls on it; 0: the start. Not `paid`: by the days to which interest is counted alone."""
        if self.calendar is None:
            raise ValueError("a day without dates")
        if day == self.calendar.start:
            return 0, True
        calendar = self.calendar
        number, is_on = calendar.paid_on_or_after(day) if paid else calendar.on_or_after(day)
        if self.stop is not None and number >= self.last and day >= self.stop:
            is_on = day == self.stop
            number = self.last if is_on else self.last + 1
        return (number if after or is_on else number - 1), is_on

    def begins(self, provision: Provision) -> int:
        """The payment with which a clause begins: of a day the first on or after it, of months of
        the year without a beginning the first of all."""
        place = provision.at if provision.at is not None else provision.begin
        if isinstance(place, date):
            return self.number_of(place)[0]
        return 1 if place is None else place

    def until(self, to: int | date | None) -> int:
        """The last payment of a stretch that ends there."""
        if to is None:
            return self.last
        if isinstance(to, int):
            return to
        number, is_on = self.number_of(to, after=False)
        if not number and is_on and self.due(1) == to:
            # In advance the first payment falls on the day of the start.
            number = 1
        return min(number, self.last)

    def payments(self, provision: Provision) -> tuple[int, int]:
        """The first and the last payment a clause may hold for, 0 being the start; of none the
        first lies behind the last."""
        if isinstance(provision.at, int):
            return provision.at, provision.at
        if provision.at is not None:
            number, is_on = self.number_of(provision.at)
            if not number and provision.verb in ("payment", "pay") and self.due(1) == provision.at:
                number = 1
            return (number, number) if is_on else (1, 0)
        first = self.begins(provision) if provision.begin is not None else 1
        return (max(1, first) if isinstance(provision.begin, date) else first), self.until(
            provision.to
        )

    def each(self, provision: Provision) -> Iterator[int]:
        """Every payment a clause holds for."""
        first, last = self.payments(provision)
        for number in range(first, last + 1):
            if provision.months is None or self.month(number) in provision.months:
                yield number

    def month(self, number: int) -> int:
        """The month of the year a payment falls in, wherever business days move it; none without
        dates or at the start."""
        if self.calendar is None or not number:
            return -1
        if self.stop is not None and number == self.last:
            return self.stop.month
        return self.calendar.unmoved(number).month

    @cached_property
    def turns_of_months(self) -> tuple[int, ...]:
        """The payments that fall in another month than the one before."""
        months = [self.month(number) for number in range(self.last + 1)]
        return tuple(
            number for number in range(1, self.last + 1) if months[number] != months[number - 1]
        )

    # Days inside periods

    def spot(self, day: date) -> Spot:
        """Where a day lies: in arrears a payment's day is the first of the period after it."""
        number, is_on = self.number_of(day, paid=False)
        if self.in_advance:
            number -= 0 if is_on else 1
        elif is_on:
            number += 1
        return max(1, number), day.toordinal()

    def rate_holds(self, provision: Provision, place: int) -> Holding:
        """From where to where a rate holds; of several the one that begins later wins, then the
        later in the list; what an index resets gives way to all of them."""
        begins, ends = (0, 0), NEVER
        if provision.begin is not None:
            begins = (
                self.spot(provision.begin)
                if isinstance(provision.begin, date)
                else (provision.begin, 0)
            )
        if provision.to is not None:
            ends = (
                self.spot(provision.to) if isinstance(provision.to, date) else (provision.to + 1, 0)
            )
        rank = (int(not provision.is_reset), self._rate_begins(provision), place)
        return Holding(begins, ends, place, rank=rank)

    def _rate_begins(self, provision: Provision) -> int:
        """Where a rate begins, to be compared with where others do: on which day of a dated loan,
        else in which period."""
        if isinstance(provision.begin, date):
            return provision.begin.toordinal()
        number = provision.begin or 0
        if self.calendar is None:
            return number
        return self.due(max(0, number - (0 if self.in_advance else 1))).toordinal()

    def paid_holds(self, provision: Provision, place: int) -> Holding:
        """Where a payment is what a clause says: one at a payment beats a stretch, then the later
        beginning wins, then the later in the list."""
        first, last = self.payments(provision)
        rank = (int(provision.at is not None), self.begins(provision), place)
        return Holding((first, 0), (last + 1, 0), place, provision.months, rank)
