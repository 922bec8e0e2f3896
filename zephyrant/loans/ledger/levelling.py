"""Payments set anew, and what is affine in an amount: the terms rolled to where they lead."""

from dataclasses import replace
from datetime import date
from decimal import Decimal

from ..document.figure_path import FigurePath
from ..line.cut_short import terms_until
from ..line.line import lay_out, with_asked
from ..line.setting_anew import Ahead, SettingAnew
from ..line.terms import Provision, Terms, digits_for
from ..numbers.affine import Affine
from ..numbers.decimals import precise
from .exact import AFFINE, EXACT, Carrying, unrounded_end


def unforeseen(terms: Terms) -> Terms:
    """The terms without what sets the payment anew: what was not known when it was first set."""
    return replace(
        terms, provisions=tuple(provision for provision in terms.provisions if not provision.levels)
    )


def is_anew_by_index(terms: Terms) -> bool:
    """Whether the payment is set anew with a floating rate alone: what is lent is then found as
    though the rate of the first period held."""
    levels = [provision for provision in terms.provisions if provision.levels]
    return bool(levels) and all(provision.is_reset for provision in levels)


def levelled(terms: Terms) -> Terms:
    """The terms with each payment that is set anew as a clause of its own.

    Each time the regular payment from the next one on is made such that the loan ends as stated
    with its last payment, later ones of the kind not being foreseen. Of parts, what is then owed
    is shared out over those that are left.
    """
    if not any(provision.levels for provision in terms.provisions):
        return terms
    line = SettingAnew(terms)
    anew: list[Provision] = []
    with precise(digits_for(terms)):
        owed, begins = line.principal, 1
        ahead: _Ahead | None = None
        for number in line.points:
            owed, begins = EXACT.carried(owed, line.until(begins, number)), number
            if terms.has_parts:
                amount = line.shared_out(number, owed)
            else:
                known = line.known_from(number)
                if ahead is None or ahead.known is not known:
                    ahead = _Ahead(known, number)
                amount = ahead.payment(number, owed, terms.balance)
            if amount is None:
                continue
            paid = max(amount, Decimal(0))
            is_money = not (terms.has_parts or terms.follows_cash_flow)
            if terms.cash is not None and is_money:
                paid = terms.cash.payment(paid)
            anew.append(Provision("payment", None, number, None, None, paid))
            line.set_anew(number, paid)
    return replace(terms, provisions=(*terms.provisions, *anew))


class _Ahead:
    """What is known of a line, carried through to its end with x for the regular payment."""

    def __init__(self, known: Ahead, number: int) -> None:
        self.known = known
        self._carrying = Carrying(known.asked_from(number))

    def payment(self, number: int, owed: Decimal, balance: Decimal) -> Decimal | None:
        """The payment from a number on that leads to the balance; None where it moves nothing."""
        if not self.known.is_regular:
            self._carrying = Carrying(self.known.asked_from(number))
        return (self._carrying.from_payment(number, owed) - balance).root()


def left_over(terms: Terms, path: FigurePath) -> Affine:
    """What is left at the end beyond what is to be left, in an amount x that stands at a path. In
    the decimal context in force."""
    line = with_asked(terms, path)
    lent = Affine(Decimal(0), Decimal(0)) + line.principal
    return AFFINE.carried(lent, line.stretches) - line.balance


def owed_on(terms: Terms, day: date) -> Decimal:
    """What a loan of clauses alone has owing on a day, after what moves on it, unrounded.

    In the decimal context in force.
    """
    if terms.time.calendar is not None and day == terms.time.calendar.start:
        return lay_out(terms).principal
    return unrounded_end(lay_out(terms_until(terms, day)))
