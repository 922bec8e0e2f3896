"""What moves beside the regular payments: at them, and on days between."""

from collections.abc import Iterator
from datetime import date
from decimal import Decimal
from functools import cached_property
from typing import NamedTuple

from ..document.clauses import VerbName
from .pieces import Holding, Pieces, added
from .places import Places
from .terms import Provision, Terms

_NOTHING = Decimal(0)


class Fee(NamedTuple):
    """A fee: what, and where it is taken: at a payment (0: the start) or on a day between two."""

    place: int | date
    amount: Decimal
    taken: str


class Moved(NamedTuple):
    """Money that moves on a day between two payments: above zero what is added to what is owed."""

    day: date
    amount: Decimal
    is_fee: bool


class Between(NamedTuple):
    """Money that moves on a day between two payments, above zero what the borrower receives;
    `number` is that of the period, and of the row it is told in."""

    number: int
    day: date
    amount: Decimal


class Moves:
    """The advances, repayments and fees of a loan, as its clauses say."""

    def __init__(self, terms: Terms, places: Places) -> None:
        self._terms = terms
        self._places = places
        #: Up to this period more will be lent: nothing before it ends the loan.
        self.lent_until = 0
        #: What moves on days between two payments, by the number of the period.
        self.on_days: dict[int, list[Moved]] = {}
        self._gather()

    def _gather(self) -> None:
        moves: dict[VerbName, list[tuple[Holding, Decimal]]] = {
            "repay": [],
            "advance": [],
            "fee": [],
        }
        for place, provision in self._terms.having_verb("advance", "repay", "fee"):
            if provision.taken in ("from-proceeds", "apart"):
                continue
            if (day := self._day_of(provision)) is not None:
                self._moves_on(day, provision)
                continue
            amounts = list(self._moving(place, provision))
            moves[provision.verb] += amounts
            if provision.verb == "advance" and amounts:
                self._lends(provision, self._last_of(provision), amounts[-1][1])
        self.repaid, self.advanced, self.charged = (
            added(moves[verb], self._places) for verb in ("repay", "advance", "fee")
        )

    def _day_of(self, provision: Provision) -> date | None:
        """The day between two payments on which it is, if it is on one."""
        day = provision.at
        return day if isinstance(day, date) and not self._places.number_of(day)[1] else None

    def _moves_on(self, day: date, provision: Provision) -> None:
        number, amount = self._places.number_of(day)[0], self._on_a_day(day, provision)
        period = number - 1 if self._places.in_advance else number
        signed = -amount if provision.verb == "repay" else amount
        self.on_days.setdefault(period, []).append(Moved(day, signed, provision.verb == "fee"))
        self._lends(provision, max(1, period), amount)

    def _moving(self, place: int, provision: Provision) -> Iterator[tuple[Holding, Decimal]]:
        """An amount of a clause, from payment to payment; a percent of what is advanced there, and
        of the principal where that is nothing."""
        first, last = self._places.payments(provision)
        if not provision.of_money:
            yield (
                Holding((first, 0), (last + 1, 0), place, provision.months),
                self._cash(provision.amount),
            )
            return
        for begins, ends, base in self._bases(first, last):
            share = self._cash(provision.amount * (base or self._terms.principal) / 100)
            yield Holding((begins, 0), (ends + 1, 0), place, provision.months), share

    def _bases(self, first: int, last: int) -> Iterator[tuple[int, int, Decimal]]:
        """What is lent at payments, where money moves."""
        if first <= 0 <= last:
            yield 0, 0, self._lent.at(0) + self._terms.principal
        if max(first, 1) <= last:
            yield from self._lent.within(max(first, 1), last)

    @cached_property
    def _lent(self) -> Pieces[Decimal]:
        """What clauses lend at each payment, as stated."""
        amounts = []
        for place, provision in self._terms.having_verb("advance"):
            first, last = self._places.payments(provision)
            amounts.append(
                (Holding((first, 0), (last + 1, 0), place, provision.months), provision.amount)
            )
        return added(amounts, self._places)

    def _on_a_day(self, day: date, provision: Provision) -> Decimal:
        if not provision.of_money:
            return self._cash(provision.amount)
        base = self._lent_on(day) or self._terms.principal
        return self._cash(provision.amount * base / 100)

    def _lent_on(self, day: date) -> Decimal:
        advances = self._terms.having_verb("advance")
        return sum((each.amount for _, each in advances if each.at == day), _NOTHING)

    def _cash(self, amount: Decimal) -> Decimal:
        return amount if self._terms.cash is None else self._terms.cash.amount(amount)

    def _last_of(self, provision: Provision) -> int:
        first, last = self._places.payments(provision)
        if provision.months is None:
            return last
        return next(
            (
                each
                for each in range(last, first - 1, -1)
                if self._places.month(each) in provision.months
            ),
            0,
        )

    def _lends(self, provision: Provision, number: int, amount: Decimal) -> None:
        """Notes that more is lent; what goes on to the end of a loan does not say when that is."""
        says_when = (
            self._terms.count is not None or provision.at is not None or provision.to is not None
        )
        if provision.verb == "advance" and amount and says_when:
            self.lent_until = max(self.lent_until, number)

    @property
    def principal(self) -> Decimal:
        """What is owed after all that moves at the start."""
        return self._terms.principal + self.advanced.at(0) + self.charged.at(0) - self.repaid.at(0)

    def fee_bases(self, place: int) -> list[tuple[int | date, Decimal]]:
        """Where a fee in percent is taken, and the money advanced there that it is a percent of;
        nothing where it is of the principal."""
        provision = self._terms.provisions[place]
        if (day := self._day_of(provision)) is not None:
            return [(day, self._lent_on(day))]
        return [
            (number, self._lent.at(number) + (_NOTHING if number else self._terms.principal))
            for number in self._places.each(provision)
        ]

    @cached_property
    def fees(self) -> tuple[Fee, ...]:
        """Every fee, whichever way it is taken."""
        found: list[Fee] = []
        for place, provision in self._terms.having_verb("fee"):
            taken = provision.taken or "from-proceeds"
            if (day := self._day_of(provision)) is not None:
                found.append(Fee(day, self._on_a_day(day, provision), taken))
                continue
            found += [
                Fee(number, amount, taken)
                for holding, amount in self._moving(place, provision)
                for number in range(holding.begins[0], holding.ends[0])
                if provision.months is None or self._places.month(number) in provision.months
            ]
        return tuple(found)

    @cached_property
    def between(self) -> tuple[Between, ...]:
        """What moves on days between two payments; a fee that is added moves nothing."""
        return tuple(
            Between(max(number, 1), day, amount)
            for number, moved in self.on_days.items()
            for day, amount, is_fee in moved
            if not is_fee
        )
