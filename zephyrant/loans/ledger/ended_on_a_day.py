"""A loan that what is repaid on a day between two payments ends there."""

from typing import NamedTuple

from ..line.stretch import Stretch
from .period import Happening, happens_until
from .rows import EndedWithin, NeverSettlesError, Row
from .whole_units import WholeUnits


class _OnDays(NamedTuple):
    """What has moved on days of a period, in units."""

    advance: int = 0
    fee: int = 0
    repay: int = 0

    def with_one(self, amount: int, *, is_fee: bool) -> "_OnDays":
        """With one more, below zero what is repaid."""
        if is_fee:
            return self._replace(fee=self.fee + amount)
        if amount > 0:
            return self._replace(advance=self.advance + amount)
        return self._replace(repay=self.repay - amount)


def ended_on_a_day(
    number: int, opening: int, stretch: Stretch, by: WholeUnits, *, target: int, balance: int
) -> tuple[Row, int] | None:
    """The row of a period within which a loan ends, if it does: where what is repaid on a day
    brings it down to `target` and nothing is lent later before the payment, or after it. And by how
    much, in units, that lies above what was owed.

    Raises `NeverSettlesError` where another `balance` is to be left.
    """
    moved = _OnDays()
    for place, moves in enumerate(stretch.inner):
        amount = by.money(moves.amount)
        lends = any(
            each.amount > 0 and not each.is_fee and each.is_after == moves.is_after
            for each in stretch.inner[place:]
        )
        if amount < 0 and not lends:
            it = happens_until(opening, stretch, place, by)
            if moves.is_after and it.rest <= 0:
                return None
            over = target - it.closing - amount
            if over >= 0:
                if balance != target:
                    raise NeverSettlesError("repaid", number)
                shows = bool(over) and by.rule.shows_overpaid and not balance
                paid = amount if shows else amount + over
                moved = moved._replace(repay=moved.repay - paid)
                ended = EndedWithin(moves.day, moved.advance - moved.repay)
                return _row(number, it, moved, ended, it.closing + paid), over
        moved = moved.with_one(amount, is_fee=moves.is_fee)
    return None


def _row(number: int, it: Happening[int], moved: _OnDays, ended: EndedWithin, closing: int) -> Row:
    interest, repay = it.interest + it.later, it.repaid + moved.repay
    return Row(
        number,
        it.opening,
        interest,
        it.paid + repay - interest,
        it.paid,
        closing,
        closing,
        it.advance + moved.advance,
        repay,
        it.fee + moved.fee,
        ended=ended,
    )
