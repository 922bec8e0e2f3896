"""Where the regular payment is set anew, and the line as it is known there."""

from collections.abc import Iterator
from dataclasses import replace
from datetime import date
from decimal import Decimal
from typing import cast

from ..numbers.affine import ASKED, Affine
from .cutting import Cutting
from .pieces import Holding, in_force
from .stretch import Stretch
from .terms import Provision, Terms


class SettingAnew:
    """A line on which the regular payment is set anew, carried on from one such payment to the
    next: what was set before stays, what will set it anew later is not foreseen."""

    def __init__(self, terms: Terms) -> None:
        self._terms = replace(terms, cash=None)
        # What is repaid in parts is as it was paid: interest is on top, and leaves nothing of it.
        self._past = Cutting(terms if terms.has_parts else self._terms)
        #: Clauses by their place in the list, with the last payment that they may matter to.
        self._known: dict[int, int] = {}
        self._rates: list[Holding] = []
        self._waiting: list[tuple[int, int]] = []
        for place, provision in enumerate(terms.provisions):
            if not provision.levels:
                self._known[place] = self._last_of(place, provision)
            elif provision.verb == "rate":
                self._waiting.append((self._points_of(provision)[0], place))
        self._waiting.sort(reverse=True)
        self._ahead: tuple[list[int], Ahead] | None = None

    def _last_of(self, place: int, provision: Provision) -> int:
        places = self._past.places
        if provision.verb == "step":
            # A payment stays as large as its steps have made it.
            return places.last
        if provision.verb == "rate":
            return places.rate_holds(provision, place).ends[0]
        if isinstance(provision.at, date):
            return places.number_of(provision.at)[0]
        return places.payments(provision)[1]

    @property
    def points(self) -> list[int]:
        """The payments from which on the regular payment is set anew, in order."""
        points = (
            each
            for provision in self._terms.provisions
            if provision.levels
            for each in self._points_of(provision)
        )
        return sorted({each for each in points if each <= self._past.places.last})

    def _points_of(self, provision: Provision) -> list[int]:
        """Of one clause: the payments that follow what it does."""
        places = self._past.places
        if provision.verb == "rate":
            if not isinstance(provision.begin, date):
                return [max(1, provision.begin or 0)]
            number, is_on = places.number_of(provision.begin)
            # In arrears a payment's day is the first of the period after it.
            return [max(1, number + (is_on and not places.in_advance))]
        if isinstance(provision.at, date):
            number, is_on = places.number_of(provision.at)
            return [number + 1 if is_on else number]
        return [number + 1 for number in places.each(provision)]

    @property
    def principal(self) -> Decimal:
        """What is owed after all that moves at the start."""
        return self._past.moves.principal

    def until(self, first: int, number: int) -> Iterator[Stretch]:
        """The line from one payment up to before another, as it turned out."""
        return self._past.stretches(first, number - 1)

    def known_from(self, number: int) -> "Ahead":
        """The line from a payment on, as it is known when the payment is set anew there."""
        while self._waiting and self._waiting[-1][0] <= number:
            place = self._waiting.pop()[1]
            self._rates.append(self._past.places.rate_holds(self._terms.provisions[place], place))
        self._rates = in_force(self._rates, (number, 0))
        self._known = {place: last for place, last in self._known.items() if last >= number}
        known = sorted([*self._known, *(each.place for each in self._rates)])
        if self._ahead is None or self._ahead[0] != known:
            provisions = tuple(self._terms.provisions[place] for place in known)
            self._ahead = known, Ahead(Cutting(replace(self._terms, provisions=provisions)))
        return self._ahead[1]

    def shared_out(self, number: int, owed: Decimal) -> Decimal | None:
        """One part from a payment on, what is owed before it being shared out anew; None where no
        more parts are repaid."""
        parts = self._past.payments.parts
        left = parts.from_payment(number) if parts else Decimal(0)
        return (owed - self._terms.balance) / left if left else None

    def set_anew(self, number: int, payment: Decimal) -> None:
        """From a payment on it is this."""
        self._past.payments.set_anew(number, payment)


class Ahead:
    """What is known of a line from a payment on."""

    def __init__(self, cutting: Cutting) -> None:
        self._cutting = cutting
        #: Whether all payments are the regular one, wherever it is set: no clause states another.
        self.is_regular = not cutting.payments.stating.spots

    def asked_from(self, number: int) -> "Iterator[Stretch[Affine]]":
        """The line from a payment on, the regular one being x from there."""
        self._cutting.payments.set_anew(number, cast(Decimal, ASKED))
        stretches = self._cutting.stretches(number, self._cutting.places.last)
        return cast("Iterator[Stretch[Affine]]", stretches)
