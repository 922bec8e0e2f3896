"""Where clauses hold: their places resolved once, then swept along the line.

A spot is a payment's number and, where days matter, a day of its period (else 0); spots follow
each other as on the line. What holds from spot to spot is kept as pieces, so that asking for one
place costs no more for many clauses.
"""

from bisect import bisect_right
from collections.abc import Iterable, Iterator
from datetime import date
from decimal import Context, Decimal
from functools import cached_property
from heapq import heapify, heappop, heappush
from typing import Final, Generic, NamedTuple, TypeVar

from .terms import Provision, Terms

Spot = tuple[int, int]
_ALL_MONTHS: Final = 0
#: Beyond every payment.
NEVER: Final[Spot] = (10**9, 0)
#: Wide enough for any sum of amounts below a quadrillion.
_EXACTLY: Final = Context(prec=1_000)
V = TypeVar("V")


class Pieces(Generic[V]):
    """What holds from spot to spot: before the first of them, nothing."""

    def __init__(self, nothing: V) -> None:
        self.spots: list[Spot] = []
        self._values: list[V] = [nothing]

    def then(self, spot: Spot, value: V) -> None:
        """From a later spot on another value."""
        if value != self._values[-1]:
            self.spots.append(spot)
            self._values.append(value)

    def at(self, number: int, day: int = 0) -> V:
        """What holds at a spot."""
        return self._values[bisect_right(self.spots, (number, day))]

    def within(self, begins: int, ends: int) -> Iterator[tuple[int, int, V]]:
        """Runs of payments, each with what holds for all of it."""
        turns = [number for number, _ in self.spots if begins < number <= ends]
        for first, after in zip([begins, *turns], [*turns, ends + 1], strict=True):
            if first < after:
                yield first, after - 1, self.at(first)


class Holding(NamedTuple):
    """A clause, by its place in the list, that holds from a spot until another, in some months
    only; of several the one of the highest rank wins."""

    begins: Spot
    ends: Spot
    place: int
    months: tuple[int, ...] | None = None
    rank: tuple[int, ...] = ()

    def is_at(self, spot: Spot, month: int) -> bool:
        """Whether it holds there."""
        return self.begins <= spot < self.ends and (self.months is None or month in self.months)


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
        numbers = [*ints, *spans, *begins, 1]
        days = [provision.at for provision in terms.provisions if isinstance(provision.at, date)]
        if not days:
            return max(numbers)
        on_days, is_on = self.number_of(max(days))
        if on_days > max(numbers) and not is_on:
            self.stop = max(days)
        return max([*numbers, on_days])

    def number_of(self, day: date, *, after: bool = True) -> tuple[int, bool]:
        """The first payment on or after a day (not `after`: the last on or before it), and whether
        it falls on it; 0: the start."""
        if self.calendar is None:
            raise ValueError("a day without dates")
        if day == self.calendar.start:
            return 0, True
        number, is_on = self.calendar.on_or_after(day)
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
        """The month of the year a payment falls in; none without dates or at the start."""
        return self.due(number).month if self.calendar and number else -1

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
        number, is_on = self.number_of(day)
        if self.in_advance:
            number -= 0 if is_on else 1
        elif is_on:
            number += 1
        return max(1, number), day.toordinal()

    def rate_holds(self, provision: Provision, place: int) -> Holding:
        """From where to where a rate holds; of several the one that begins later wins, then the
        later in the list."""
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
        return Holding(begins, ends, place, rank=(self._rate_begins(provision), place))

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

    # Swept along the line

    def _turns(self, holdings: Iterable[Holding]) -> list[Spot]:
        turns: set[Spot] = set()
        by_month = False
        for each in holdings:
            turns |= {each.begins, each.ends}
            by_month = by_month or each.months is not None
        if by_month:
            turns.update((number, 0) for number in self.turns_of_months)
        return sorted(turns)

    def strongest(self, holdings: Iterable[Holding]) -> Pieces[int | None]:
        """The place in the list of the one that wins, all along."""
        waiting = sorted((each for each in holdings if each.begins < each.ends), reverse=True)
        by_month = any(each.months for each in waiting)
        found: Pieces[int | None] = Pieces(None)
        # For every month of the year those that keep to it, the strongest first.
        ranked: dict[int, list[tuple[tuple[int, ...], Holding]]] = {}
        for turn in self._turns(waiting):
            while waiting and waiting[-1].begins <= turn:
                each = waiting.pop()
                for month in each.months or (_ALL_MONTHS,):
                    heappush(ranked.setdefault(month, []), (tuple(-by for by in each.rank), each))
            tops = []
            for month in (_ALL_MONTHS, self.month(turn[0])) if by_month else (_ALL_MONTHS,):
                heap = ranked.get(month, [])
                while heap and heap[0][1].ends <= turn:
                    heappop(heap)
                tops += heap[:1]
            found.then(turn, min(tops)[1].place if tops else None)
        return found

    def added(self, amounts: Iterable[tuple[Holding, Decimal]]) -> Pieces[Decimal]:
        """The sum of the amounts that hold, all along."""
        turns: dict[Spot, list[tuple[Holding, Decimal]]] = {}
        for each, amount in amounts:
            if each.begins < each.ends:
                turns.setdefault(each.begins, []).append((each, amount))
                turns.setdefault(each.ends, []).append((each, -amount))
        holdings = [each for some in turns.values() for each, _ in some]
        by_month = any(each.months for each in holdings)
        found: Pieces[Decimal] = Pieces(Decimal(0))
        # Added and taken off again exactly, however many digits there are.
        total = {_ALL_MONTHS: Decimal(0)}
        for turn in self._turns(holdings):
            for each, amount in turns.get(turn, ()):
                for month in each.months or (_ALL_MONTHS,):
                    total[month] = _EXACTLY.add(total.get(month, Decimal(0)), amount)
            added = total[_ALL_MONTHS]
            if by_month:
                added = _EXACTLY.add(added, total.get(self.month(turn[0]), Decimal(0)))
            found.then(turn, +added)
        return found


class Steps:
    """How payments grow along the line, step by step; asked for in order it costs no more than the
    steps there are. In the decimal context in force."""

    def __init__(self, steps: Iterable[Provision], places: Places) -> None:
        self._steps = [
            (provision, places.begins(provision), places.until(provision.to)) for provision in steps
        ]
        #: For each step the group of like steps it belongs to: percents and amounts in turn.
        self._groups: list[int] = []
        kinds: list[bool] = []
        for provision, _, _ in self._steps:
            if not kinds or kinds[-1] != provision.by_percent:
                kinds.append(provision.by_percent)
            self._groups.append(len(kinds) - 1)
        self._by_percent = kinds
        self._at: int | None = None

    @property
    def is_none(self) -> bool:
        """Whether there are no steps."""
        return not self._steps

    def stepped(self, number: int, amount: Decimal) -> Decimal:
        """An amount with all the steps made by a payment."""
        self._go_to(number)
        for by_percent, total in zip(self._by_percent, self._totals, strict=True):
            amount = amount * total if by_percent else amount + total
        return amount

    def next_after(self, number: int) -> int:
        """The payment at which the next step is made."""
        self._go_to(number)
        return self._next[0][0] if self._next else NEVER[0]

    def _go_to(self, number: int) -> None:
        if self._at is None or number < self._at:
            self._begin(number)
        while self._next and self._next[0][0] <= number:
            at, place = heappop(self._next)
            self._add(place, 1)
            self._wait(place, at)
        self._at = number

    def _begin(self, number: int) -> None:
        self._totals = [Decimal(1 if by_percent else 0) for by_percent in self._by_percent]
        self._next: list[tuple[int, int]] = []
        for place, (provision, begins, to) in enumerate(self._steps):
            last = min(number, to)
            made = (last - begins) // provision.every + 1 if last >= begins else 0
            self._add(place, made)
            upcoming = begins + made * provision.every
            if upcoming <= to:
                self._next.append((upcoming, place))
        heapify(self._next)

    def _wait(self, place: int, at: int) -> None:
        provision, _, to = self._steps[place]
        if at + provision.every <= to:
            heappush(self._next, (at + provision.every, place))

    def _add(self, place: int, times: int) -> None:
        provision, group = self._steps[place][0], self._groups[place]
        if provision.by_percent:
            self._totals[group] *= (1 + provision.amount / 100) ** times
        else:
            self._totals[group] += provision.amount * times


def turning(pieces: Iterable[Pieces[V]]) -> set[int]:
    """The numbers at which any of these turns."""
    return {number for each in pieces for number, _ in each.spots}


def in_force(rates: Iterable[Holding], spot: Spot) -> list[Holding]:
    """Of rates that have begun those that others, stronger from here on, do not outlast."""
    kept, outlasted = [], (0, 0)
    for each in sorted(rates, key=lambda holding: holding.rank, reverse=True):
        if each.ends > max(outlasted, spot):
            kept.append(each)
            if each.begins <= spot:
                outlasted = max(outlasted, each.ends)
    return kept
