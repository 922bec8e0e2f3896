"""How the regular payment grows along the line, step by step."""

from collections.abc import Iterable
from decimal import Decimal
from heapq import heapify, heappop, heappush

from .pieces import NEVER
from .places import Places
from .terms import Provision


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
