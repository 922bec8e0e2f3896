"""The schedule to the cent: its rows, how money is rounded in it, and why there may be none."""

from dataclasses import dataclass
from datetime import date
from functools import cached_property
from operator import add
from typing import Literal, NamedTuple, Self

from ..calendars.dates import Calendar
from ..line.line import Line
from ..numbers.decimals import UNROUNDED_PLACES, Cash, Unit, decimal_places


class EndedWithin(NamedTuple):
    """A loan that ended on a day between two payments, and what had moved on days of that period
    by then, in units: above zero to the borrower."""

    day: date
    moved: int


class Row(NamedTuple):
    """One period of a schedule; money in whole units. `rest` is owed right after the payment.

    `advance` and `fee` are added to what is owed, `repay` is paid on top of `payment`; `principal`
    is what payment and repayment take off it. `place` and `day`, where they are not those of the
    payment of this number: the payment at or before which money moves, and when. `ended`, where
    what is repaid on a day ended the loan within the period. `actuarial`:
    what is owed after it by the interest on what is owed, where interest is shared out by another
    rule. `charge`: what is collected beside the payment, of which the yearly costs count a part.
    """

    number: int
    opening: int
    interest: int
    principal: int
    payment: int
    closing: int
    rest: int
    advance: int = 0
    repay: int = 0
    fee: int = 0
    place: int | None = None
    day: date | None = None
    ended: EndedWithin | None = None
    actuarial: int | None = None
    charge: int = 0
    charge_in_costs: int = 0

    @property
    def stands_at(self) -> int:
        """The payment's number on the line."""
        return self.number if self.place is None else self.place

    @property
    def paid(self) -> int:
        """All that is paid: the regular payment and what is repaid on top."""
        return self.payment + self.repay


class Columns(NamedTuple):
    """The rows of a schedule, a column each, as what is reckoned over all of them reads them.
    `collected`: what is paid, with the charges that yearly costs count."""

    number: tuple[int, ...]
    opening: tuple[int, ...]
    interest: tuple[int, ...]
    principal: tuple[int, ...]
    payment: tuple[int, ...]
    closing: tuple[int, ...]
    rest: tuple[int, ...]
    advance: tuple[int, ...]
    repay: tuple[int, ...]
    fee: tuple[int, ...]
    stands_at: tuple[int, ...]
    paid: tuple[int, ...]
    actuarial_closing: tuple[int, ...]
    charge: tuple[int, ...]
    collected: tuple[int, ...]

    @classmethod
    def of(cls, rows: tuple[Row, ...]) -> Self:
        """The columns of at least one row."""
        *plain, places, _, _, actuarial, charges, counted = zip(*rows, strict=True)
        numbers, payments, repaid = plain[0], plain[4], plain[8]
        has_places = places.count(None) < len(places)
        stands_at = tuple(row.stands_at for row in rows) if has_places else numbers
        paid = tuple(map(add, payments, repaid)) if any(repaid) else payments
        collected = tuple(map(add, paid, counted)) if any(counted) else paid
        by_rule = () if None in actuarial else actuarial
        return cls._make([*plain, stands_at, paid, by_rule, charges, collected])


def due(row: Row, calendar: Calendar | None) -> date | None:
    """When what a row tells happens; none without dates."""
    if row.day is not None or calendar is None:
        return row.day
    return calendar.due(row.stands_at)


@dataclass(frozen=True, slots=True)
class CashRule:
    """How money moves on a schedule.

    Steps are in units: interest is rounded to `interest_step`, what settles the loan to
    `cash_step`. `shows_overpaid`: a repayment above what is owed is made whole and leaves a balance
    below zero, instead of being cut.
    """

    unit: Unit
    interest_step: int
    cash_step: int
    shows_overpaid: bool = False


@dataclass(frozen=True)
class Schedule:
    """The rows to the cent. `early`: the last payment was cut before the count was reached.
    `overpaid`: by how much, in units, the last repayment lay above what was owed, before the count
    was reached. `taken`: what the interest of a row took beyond its own, where it is that which
    settles the loan. `paused_after`: nothing is paid after the last row in any case. `by_day`:
    without payments, a row for each day on which money moves."""

    rows: tuple[Row, ...]
    unit: Unit
    early: bool = False
    overpaid: int = 0
    taken: int = 0
    paused_after: bool = False
    by_day: bool = False

    @cached_property
    def columns(self) -> Columns:
        """Its rows as columns."""
        return Columns.of(self.rows)

    def due(self, calendar: Calendar | None) -> tuple[date, ...] | None:
        """When what each row tells happens; None without dates."""
        if calendar is None:
            return None
        return tuple(day for row in self.rows if (day := due(row, calendar)) is not None)

    def stood_on(self, calendar: Calendar | None) -> tuple[date | None, ...]:
        """The day on which the payment of each row stood that business days moved, None where it
        was not moved; nothing without business days."""
        if calendar is None or calendar.business_days is None:
            return ()
        stood: list[date | None] = []
        for row in self.rows:
            day = calendar.unmoved(row.stands_at)
            is_moved = row.day is None and day != due(row, calendar)
            stood.append(day if is_moved else None)
        return tuple(stood)


#: Why a loan cannot be laid out to the cent: a payment, or the interest that is to be paid alone,
#: would lie below zero, all is repaid though something is to be left, the balance grows beyond what
#: is told, or rounding keeps it from where it is to be.
Hindrance = Literal["payment", "interest", "repaid", "size", "rounding"]


class NeverSettlesError(Exception):
    """The rounded payments never bring the loan to the balance it is to end with; `number`: of the
    payment where that shows."""

    def __init__(self, why: Hindrance, number: int = 0) -> None:
        self.why, self.number = why, number
        super().__init__(f"{why} at payment {number}")


def cash_rule(
    line: Line,
    decimals: int,
    cash: Cash,
    interest: Cash,
    *,
    shows_overpaid: bool = False,
) -> CashRule:
    """The unit and the steps for a line in a currency of so many decimals."""
    amounts = [line.principal, line.balance]
    for stretch in line.stretches:
        amounts.append(stretch.payment)
        if not stretch.is_plain:
            amounts += [stretch.advance, stretch.fee, stretch.repay]
            amounts += [inner.amount for inner in stretch.inner]
    places = max(decimals, *(decimal_places(amount) for amount in amounts))
    if "none" in (cash, interest):
        places = max(places, UNROUNDED_PLACES)
    unit = Unit(places, decimals)
    return CashRule(
        unit,
        interest_step=1 if interest == "none" else unit.minor,
        cash_step=1 if cash == "none" else unit.minor,
        shows_overpaid=shows_overpaid,
    )
