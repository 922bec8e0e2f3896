"""The line cut where clauses change it: each period with its rate, its payment and what happens.

At one moment interest accrues, then advances and fees, then payments and repayments; what is repaid
is always on top.
"""

from bisect import bisect_right
from collections.abc import Iterator
from fractions import Fraction
from functools import cached_property

from ..budget import look
from .moves import Moves
from .payments import Payments
from .pieces import turning
from .places import Places
from .rates import Period, Rates
from .stretch import Inner, Stretch
from .terms import Terms


class Cutting:
    """What the clauses of a loan come to, and the line that is cut by it."""

    def __init__(self, terms: Terms) -> None:
        self.terms = terms
        self.places = Places(terms)
        self.moves = Moves(terms, self.places)
        self.payments = Payments(terms, self.places)
        self.rates = Rates(terms, self.places)

    def stretches(self, first: int, last: int) -> Iterator[Stretch]:
        """The periods from one payment to another, those that are alike together."""
        pending: Stretch | None = None
        for each in self._runs(first, last):
            alike = (
                pending is not None
                and pending.is_quiet
                and each.is_quiet
                and pending[2:6] == each[2:6]
            )
            if pending is not None and alike:
                pending = pending._replace(last=each.last)
                continue
            if pending is not None:
                yield pending
            pending = each
        if pending is not None:
            yield pending

    def _runs(self, first: int, last: int) -> Iterator[Stretch]:
        """Runs of periods in which nothing changes."""
        edges, steps = self._edges, self.payments.steps
        place = bisect_right(edges, first)
        while first <= last:
            until = edges[place] - 1 if place < len(edges) else last
            place += 1
            while first <= min(until, last):
                to = min(until, last)
                if not steps.is_none:
                    to = min(to, steps.next_after(first) - 1)
                yield from self._run(first, to)
                first = to + 1

    @cached_property
    def _edges(self) -> list[int]:
        """The payments at which anything may change but a step."""
        last, moves = self.places.last, self.moves
        kinds = (self.payments.stating, self.payments.pausing, self.rates.rating)
        edges = turning(kinds) | turning((moves.repaid, moves.advanced, moves.charged))
        edges |= {moves.lent_until, *self.rates.runs, *self._alone}
        edges |= self.payments.parts.turns if self.payments.parts else set()
        edges |= {each + 1 for each in (moves.lent_until, *self._alone)}
        return sorted(each for each in edges if 1 < each <= last)

    @cached_property
    def _alone(self) -> set[int]:
        """The periods that are like no other: money moves or a rate turns within, or a loan of
        clauses alone ends with it."""
        last = self.places.last
        # In advance the period before the last payment's place leads up to the end.
        ends = {last - 1, last} if self.terms.count == 0 else set()
        early = {1} if 0 in self.moves.on_days else set()
        return {*self.moves.on_days, *self.rates.turning_inside, *ends, *early}

    def _run(self, first: int, last: int) -> Iterator[Stretch]:
        look()
        payment, on_top = self.payments.at(first)
        inner: tuple[Inner, ...] = ()
        if first in self._alone:
            period = self.rates.period(first)
            before, after = self.rates.of_period(period)
            inner = tuple(self._moved_in(period))
            if self.terms.count == 0 and first == self.places.last:
                # A loan of clauses alone ends with the last of them.
                after = Fraction(0)
        else:
            before, after = self.rates.of_run(first)
        run = Stretch(
            first,
            last,
            before,
            after,
            payment,
            on_top,
            advance=self.moves.advanced.at(first),
            fee=self.moves.charged.at(first),
            repay=self.moves.repaid.at(first),
            inner=inner,
        )
        if on_top and not run.is_quiet:
            # What is owed falls though only the interest is paid: when, is asked for one by one.
            yield from (run._replace(first=each, last=each) for each in range(first, last + 1))
        else:
            yield run

    def _moved_in(self, period: Period) -> Iterator[Inner]:
        """What moves on days of a period, each with its interest to the end of it."""
        stub, shift = self.rates.has_stub(period), self.rates.up_to_payment(period)
        days = list(self.moves.on_days.get(period.number, ()))
        if stub:
            days += self.moves.on_days.get(0, ())
        for day, amount, is_fee in sorted(days, key=lambda moved: moved.day):
            is_after = self.places.in_advance and day > (period.begins or day)
            spot = period if is_after or not stub else shift
            span = period.after if is_after else period.before
            interest = self.rates.over(spot, span, day, spot.ends)
            yield Inner(amount, interest, is_after, is_fee, day)
