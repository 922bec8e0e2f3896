"""How the last row of a schedule comes to the balance that is to be left."""

from decimal import Decimal
from fractions import Fraction
from typing import Final, Literal, NamedTuple

from ..numbers.decimals import divide_nearest
from .period import Happening
from .rounding import rounded, shared

#: What brings the balance of a schedule to what is to be left: the last payment (and what is repaid
#: with it), one amount in the last place alone, the last interest, that of the row before it, the
#: balance itself, or nothing.
Settling = Literal[
    "payment", "repay", "advance", "fee", "interest", "interest-before", "balance", "nothing"
]
#: Ways to settle that leave every payment as it stands.
BY_INTEREST: Final = ("interest", "interest-before")
#: Ways to settle by what is paid or lent.
BY_MONEY: Final = ("payment", "repay", "advance", "fee")


class Ending(NamedTuple):
    """How a schedule ends: what settles it, and whether what would overpay is cut to what is owed
    and ends the loan. `first`: a payment by its number that stands as it is stated: its interest
    takes the cents."""

    settles_by: Settling = "payment"
    cuts: bool = True
    first: tuple[int, Decimal] | None = None


def takes_up(by: Settling, more: int, *, advance: int, fee: int) -> Literal["advance", "fee", None]:
    """What of a row is less by `more`; None: what is paid is more by it. An amount is never below
    zero: what one cannot take the payment does."""
    if by == "advance" and advance >= more:
        return "advance"
    return "fee" if by == "fee" and fee >= more else None


def settle(it: Happening[int], by: Settling, kept: int, cash_step: int) -> None:
    """What moves with the last payment leaves as much as is to be `kept` right after it."""
    more = rounded(it.rest - kept, cash_step)
    taken_by = takes_up(by, more, advance=it.advance, fee=it.fee)
    if taken_by == "advance":
        it.advance -= more
    elif taken_by == "fee":
        it.fee -= more
    elif by == "repay" and it.repaid >= -more:
        it.repaid += more
    else:
        it.paid, it.repaid = shared(it.paid + it.repaid + more, it.paid, it.repaid)


def before_interest(balance: int, interest: Fraction) -> int:
    """What grows to `balance` from the last payment on."""
    if not interest:
        return balance
    return divide_nearest(balance * interest.denominator, interest.denominator + interest.numerator)
