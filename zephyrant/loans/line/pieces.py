"""What holds from place to place along the line, swept once from clauses that each hold somewhere.

A spot is a payment's number and, where days matter, a day of its period (else 0); spots follow
each other as on the line. Asking for one place costs no more for many clauses.
"""

from bisect import bisect_right
from collections.abc import Iterable, Iterator
from decimal import Context, Decimal, localcontext
from heapq import heappop, heappush
from typing import Final, Generic, NamedTuple, Protocol, TypeVar

Spot = tuple[int, int]
_ALL_MONTHS: Final = 0
#: Beyond every payment.
NEVER: Final[Spot] = (10**9, 0)
#: Wide enough for any sum of amounts below a quadrillion.
_EXACTLY: Final = Context(prec=1_000)
V = TypeVar("V")


class Months(Protocol):
    """In which month of the year payments fall due."""

    def month(self, number: int) -> int:
        """That of a payment."""

    @property
    def turns_of_months(self) -> tuple[int, ...]:
        """The payments that fall in another month than the one before."""


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


def _turns(holdings: Iterable[Holding], months: Months) -> list[Spot]:
    turns: set[Spot] = set()
    by_month = False
    for each in holdings:
        turns |= {each.begins, each.ends}
        by_month = by_month or each.months is not None
    if by_month:
        turns.update((number, 0) for number in months.turns_of_months)
    return sorted(turns)


def strongest(holdings: Iterable[Holding], months: Months) -> Pieces[int | None]:
    """The place in the list of the one that wins, all along."""
    waiting = sorted((each for each in holdings if each.begins < each.ends), reverse=True)
    by_month = any(each.months for each in waiting)
    found: Pieces[int | None] = Pieces(None)
    # For every month of the year those that keep to it, the strongest first.
    ranked: dict[int, list[tuple[tuple[int, ...], Holding]]] = {}
    for turn in _turns(waiting, months):
        while waiting and waiting[-1].begins <= turn:
            each = waiting.pop()
            for month in each.months or (_ALL_MONTHS,):
                heappush(ranked.setdefault(month, []), (tuple(-by for by in each.rank), each))
        tops = []
        for month in (_ALL_MONTHS, months.month(turn[0])) if by_month else (_ALL_MONTHS,):
            heap = ranked.get(month, [])
            while heap and heap[0][1].ends <= turn:
                heappop(heap)
            tops += heap[:1]
        found.then(turn, min(tops)[1].place if tops else None)
    return found


def added(amounts: Iterable[tuple[Holding, Decimal]], months: Months) -> Pieces[Decimal]:
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
    for turn in _turns(holdings, months):
        with localcontext(_EXACTLY):
            for each, amount in turns.get(turn, ()):
                for month in each.months or (_ALL_MONTHS,):
                    total[month] = total.get(month, Decimal(0)) + amount
            added = total[_ALL_MONTHS]
            if by_month:
                added += total.get(months.month(turn[0]), Decimal(0))
        found.then(turn, +added)
    return found


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
