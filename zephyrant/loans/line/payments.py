"""What is paid regularly, payment by payment.

The payment at k is the document's, replaced by a `payment` clause (one `at` k beats a stretch, of
two stretches the later one wins, of two that begin together the later in the list), then stepped,
then replaced by `pay`. Where what is lent is shared out it is a part of that.
"""

from decimal import Decimal

from ..document.clauses import VerbName
from ..document.figure_path import FigurePath
from .parts import Parts
from .pieces import Pieces, strongest, turning
from .places import Places
from .steps import Steps
from .terms import Terms

_NOTHING = Decimal(0)


class Payments:
    """The regular payments of a loan."""

    def __init__(self, terms: Terms, places: Places) -> None:
        self._terms = terms
        self._places = places
        self._anew: tuple[int, Decimal] | None = None
        #: The clauses that say what the regular payment is.
        self.stating = self._paid_by("payment")
        #: The clauses that say that nothing or the interest only is paid.
        self.pausing = self._paid_by("pay")
        #: How the payments grow.
        self.steps = Steps((provision for _, provision in terms.having_verb("step")), places)
        #: The parts that are repaid, where what is lent is shared out.
        self.parts = terms.sharing and Parts(terms.sharing, self.pausing, places.last)

    def _paid_by(self, verb: VerbName) -> Pieces[int | None]:
        places = self._places
        return strongest(
            (
                places.paid_holds(provision, place)
                for place, provision in self._terms.having_verb(verb)
            ),
            places,
        )

    def set_anew(self, number: int, payment: Decimal) -> None:
        """From a payment on, and up to where a clause that begins later says another, the regular
        payment is this; those before it are not asked for any more."""
        self._anew = number, payment

    def at(self, number: int) -> tuple[Decimal, bool]:
        """What is paid regularly at a payment, and whether its interest is on top of that."""
        if self._terms.count == 0:
            return _NOTHING, False
        paid = self.pausing.at(number)
        if paid is not None:
            return _NOTHING, self._terms.provisions[paid].pay == "interest"
        base = self._stated(number)
        amount = base if self.steps.is_none else self.steps.stepped(number, base)
        cash = self._terms.cash
        if self.parts is not None:
            part = amount * self.parts.at(number)
            on_top = self.parts.sharing.on_top
            return (part if cash is None else cash.payment(part)), on_top
        if cash is None:
            return amount, False
        return (cash.stated_payment(base) if amount == base else cash.payment(amount)), False

    def _stated(self, number: int) -> Decimal:
        """The regular payment before any step."""
        stated = self.stating.at(number)
        provision = None if stated is None else self._terms.provisions[stated]
        if self._anew and self._anew[0] <= number:
            begins, amount = self._anew
            if provision is None or (
                provision.at is None and self._places.begins(provision) <= begins
            ):
                return amount
        terms = self._terms
        return terms.amount(terms.regular) if provision is None else provision.amount

    def moves_only_last(self, path: FigurePath) -> bool:
        """Whether an amount, the payment or one of a clause, stands in the last place alone: that
        of the last payment, or of the end where clauses alone are the loan."""
        last = self._places.last
        if path.is_payment and self.pausing.at(last) is not None:
            return False
        if path.clause is None and self.parts is not None:
            return self.parts.sharing.at_last and path == self._terms.regular
        if path.clause is None:
            turns = sorted({1, *turning((self.stating, self.pausing))})
            return all(
                self.stating.at(number) is not None or self.pausing.at(number) is not None
                for number in turns
                if 1 <= number < last
            )
        place = path.clause
        provision = self._terms.provisions[place]
        if provision.verb == "payment" and self.stating.at(last) != place:
            return False
        # The first of its payments alone: a long stretch is not gone through.
        return next(self._places.each(provision), None) == last
