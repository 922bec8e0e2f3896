"""Loans laid out to be added up: what is paid and when, what is owed right after, of one loan or of
many that begin together."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from decimal import Decimal
from fractions import Fraction
from functools import cached_property

from ..calendars.dates import Calendar, Pace
from ..cost.unit_times import MONTH, years_between
from ..document.loan import Loan
from ..ledger.level_arrays import Level
from ..ledger.rolled_arrays import Paid, rolled
from ..ledger.rows import Schedule
from ..numbers.arrays import Wholes, np
from ..numbers.decimals import precise

#: A day or, of a loan without dates, years from its start.
Moment = date | Fraction
#: In minor units; whole but where a loan is not rounded to them.
Amount = int | Decimal


def years_from(begins: Moment, ends: Moment, step: Pace) -> float:
    """Years between two moments, those of days as 2014/17/EU Annex I counts them."""
    if isinstance(begins, date) and isinstance(ends, date):
        return years_between(begins, ends, step)
    if isinstance(begins, date) or isinstance(ends, date):
        raise TypeError("moments of one kind")
    return float(ends - begins)


@dataclass(frozen=True)
class _Clock:
    """When payments of loans that begin together are made."""

    calendar: Calendar | None
    a_year: int
    in_advance: bool

    def start(self) -> Moment:
        """When the money is lent."""
        return self.calendar.start if self.calendar else Fraction(0)

    def moments(self, count: int) -> list[Moment]:
        """When payments 1 to `count` are made; the end of the last period is a payment, too."""
        if self.calendar is not None:
            return [self.calendar.due(number) for number in range(1, count + 1)]
        before = 1 if self.in_advance else 0
        return [Fraction(number - before, self.a_year) for number in range(1, count + 1)]


@dataclass(frozen=True)
class Laid:
    """Loans that begin together: `lent` at the start, what is `paid` and what is `owed` right after
    each payment, in minor units. What is left at the end is paid there: in arrears with the last
    payment, in advance one period after it. `step`: the time between payments.
    """

    rows: int
    clock: _Clock
    lent: Amount
    paid: Sequence[Amount]
    owed: Sequence[Amount]

    @property
    def start(self) -> Moment:
        """When the money is lent."""
        return self.clock.start()

    @cached_property
    def moments(self) -> list[Moment]:
        """When the payments are made."""
        return self.clock.moments(len(self.paid))

    @property
    def step(self) -> Pace:
        """By what time is counted."""
        return self.clock.calendar.step if self.clock.calendar else MONTH


def laid_alone(loan: Loan, schedule: Schedule) -> Laid:
    """A loan by its schedule."""
    unit, rows, columns = schedule.unit, schedule.rows, schedule.columns
    scale = unit.minor
    clock = _clock(loan)

    def amounts(units: Sequence[int]) -> list[Amount]:
        if scale == 1:
            return list(units)
        with precise():
            return [unit.amount(each).scaleb(unit.shown) for each in units]

    paid, owed, left = amounts(columns.paid), amounts(columns.rest), amounts([rows[-1].closing])[0]
    if clock.in_advance:
        if left:
            paid.append(left)
            owed.append(0)
    else:
        paid[-1] += left
        owed[-1] -= left
    return Laid(1, clock, amounts([rows[0].opening])[0], paid, owed)


def _clock(loan: Loan) -> _Clock:
    return _Clock(loan.calendar, loan.payments_a_year, loan.timing == "in-advance")


def laid_together(loan: Loan, level: Level, *, stands: bool, absorbs: bool) -> Laid:
    """Loans like one, that begin on its day, by their schedules rolled side by side; see
    `rolled_arrays.rolled`."""
    clock, most = _clock(loan), int(level.count.max())
    paid, owed = [0] * (most + 1), [0] * (most + 1)

    def watch(told: Paid) -> None:
        number, last = told.number, told.is_last
        left = int(told.left[last].sum())
        paid[number - 1] += int(told.payment.sum())
        owed[number - 1] += int(told.rest.sum())
        if clock.in_advance:
            paid[number] += left
        else:
            paid[number - 1] += left
            owed[number - 1] -= int(told.rest[last].sum())

    rolled(level, stands=stands, absorbs=absorbs, watch=watch)
    if not paid[-1]:
        del paid[-1], owed[-1]
    return Laid(len(level.count), clock, int(level.principal.sum()), paid, owed)


def by_start(starts: Sequence[str]) -> dict[str, Wholes]:
    """The places of rows by the day they begin on, as it stands in their cells."""
    numbers: dict[str, int] = {}
    of_row = np.array([numbers.setdefault(each, len(numbers)) for each in starts])
    return {each: np.flatnonzero(of_row == number) for each, number in numbers.items()}
