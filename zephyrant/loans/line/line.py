"""The line of a loan: stretches of like periods and what moves within them, compiled once from its
terms. What a clause means is decided on the way here and nowhere else."""

from collections.abc import Iterator
from datetime import date
from decimal import Decimal
from functools import cached_property
from typing import Any, Generic, cast

from ..document.figure_path import PAYMENT, FigurePath
from ..numbers.affine import ASKED, Affine
from .accruals import Accruals
from .cutting import Cutting
from .growth import THE_RATE, InRate
from .joined import joined
from .moves import Between, Fee
from .parts import Parts
from .periods import interests
from .precedence import GivesWay, giving_way
from .stretch import A, R, Stretch
from .terms import Provision, Terms


class Line(Generic[A, R]):
    """What is lent at 0, the stretches that follow in order, what is to be left at the end.

    `is_open`: payments run until the balance is reached, however many they are, `most` at the most.
    `has_payments`: there are regular ones, not clauses alone. Up to the period `lent_until` more
    will be lent: nothing before it ends the loan.
    """

    def __init__(self, terms: Terms) -> None:
        self.terms = terms
        self.is_open = terms.count is None
        self.has_payments = terms.count != 0

    @property
    def balance(self) -> A:
        """What is to be left at the end."""
        return cast(A, self.terms.balance)

    @property
    def most(self) -> int:
        """How many payments can be laid out."""
        return self.terms.most_payments

    @cached_property
    def _cutting(self) -> Cutting:
        return Cutting(self.terms)

    @cached_property
    def principal(self) -> A:
        """What is owed after all that moves at the start."""
        terms = self.terms
        return cast(A, self._cutting.moves.principal if terms.provisions else terms.principal)

    @property
    def lent_until(self) -> int:
        """The period up to which more will be lent."""
        return self._cutting.moves.lent_until if self.terms.provisions else 0

    @cached_property
    def runs(self) -> tuple[Stretch[A, R], ...]:
        """Every period of the loan, those that are alike together."""
        terms = self.terms
        if terms.provisions or terms.sharing or not self.has_payments:
            runs = tuple(self._cutting.stretches(1, self._cutting.places.last))
        else:
            runs = tuple(_plain(terms))
        return cast(tuple[Stretch[A, R], ...], runs)

    def part(self, first: int, last: int) -> Iterator[Stretch]:
        """The periods from one payment to another, those that are alike together."""
        return self._cutting.stretches(first, last)

    @cached_property
    def stretches(self) -> tuple[Stretch[A, R], ...]:
        """The same or, where clauses alone are the loan, a stretch up to each of them."""
        if self.has_payments:
            return self.runs
        places = self._cutting.places
        return cast(
            tuple[Stretch[A, R], ...],
            tuple(joined(cast(tuple[Stretch, ...], self.runs), places.last, places.stop)),
        )

    @property
    def fees(self) -> tuple[Fee, ...]:
        """Every fee, whichever way it is taken."""
        return self._cutting.moves.fees if self.terms.provisions else ()

    @property
    def between(self) -> tuple[Between, ...]:
        """All that moves on days between two payments."""
        return self._cutting.moves.between if self.terms.provisions else ()

    @property
    def charges(self) -> Iterator[tuple[Provision, Iterator[int]]]:
        """What is collected beside the payments, each with those it is collected with."""
        places = self._cutting.places
        return (
            (provision, places.each(provision)) for _, provision in self.terms.having_verb("charge")
        )

    def moves_only_last(self, path: FigurePath) -> bool:
        """Whether an amount, the payment or one of a clause, stands in the last place alone: that
        of the last payment, or of the end where clauses alone are the loan."""
        if not self.terms.provisions and not self.terms.sharing:
            return path == PAYMENT and self.terms.count == 1
        return self._cutting.payments.moves_only_last(path)

    @property
    def parts(self) -> Parts | None:
        """The parts that are repaid, where what is lent is shared out."""
        return self._cutting.payments.parts if self.terms.sharing else None

    def fee_bases(self, place: int) -> list[tuple[int | date, Decimal]]:
        """Where a fee in percent, by its place in the list of clauses, is taken, and the money
        advanced there that it is of; nothing where it is of the principal."""
        return self._cutting.moves.fee_bases(place)

    def giving_way(self, clauses: int) -> dict[int, list[GivesWay]]:
        """Where each of the first so many clauses gives way to another, by places in the list."""
        return giving_way(self._cutting, clauses)

    def accruals(self, last: int) -> Accruals:
        """Interest between payments on dates; periods are those up to payment `last`."""
        return Accruals(self._cutting, last)


def _plain(terms: Terms) -> Iterator[Stretch]:
    """The periods of a loan without clauses, at its rate."""
    nothing = Decimal(0)
    for run, (before, after) in zip(terms.runs, interests(terms.runs, terms.rate), strict=True):
        yield Stretch(
            run.first, run.last, before, after, terms.payment, False, nothing, nothing, nothing
        )


def lay_out(terms: Terms) -> Line:
    """The line of a loan, with all its clauses."""
    return Line(terms)


def with_asked(terms: Terms, path: FigurePath) -> "Line[Affine]":
    """The line with x for an amount."""
    # Amounts are only added up, and multiplied by numbers, on the way to the line.
    return Line(terms.having(path, cast(Decimal, ASKED)))


def in_rate(terms: Terms, path: FigurePath) -> "Line[Decimal, InRate]":
    """The line with i for a rate, the loan's or a clause's; its `runs` are told in it, of a loan of
    clauses alone its `stretches` are not."""
    return Line(terms.rated(path, cast(Any, THE_RATE)))
