"""Loans laid out to be added up: what is paid and when, what is owed right after, of one loan or of
many that begin together."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from datetime import date
from decimal import Decimal
from fractions import Fraction
from functools import cached_property

from ..calendars.dates import Calendar
from ..cost.unit_times import years_between
from ..document.loan import Loan
from ..ledger.level_arrays import Level
from ..ledger.rolled_arrays import Paid, rolled
from ..ledger.rows import Schedule
from ..numbers.arrays import Floats, Wholes, np
from ..numbers.decimals import precise

#: A day or, of a loan without dates, years from its start.
Moment = date | Fraction
#: In minor units; whole but where a loan is not rounded to them.
Amount = int | Decimal


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
    payment, in advance one period after it.
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

    def years(self, begins: Moment, place: int) -> float:
        """Years from a moment to the payment at a place: those after it are a period apart. Days
        between are counted as 2014/17/EU Annex I does."""
        moment, clock = self.moments[place], self.clock
        if isinstance(begins, Fraction) and isinstance(moment, Fraction):
            return float(moment - begins)
        if clock.calendar is None or not (isinstance(begins, date) and isinstance(moment, date)):
            raise TypeError("moments of one kind")
        if begins == self.start and clock.calendar.is_regular:
            return (place + (0 if clock.in_advance else 1)) / clock.a_year
        return years_between(begins, moment, clock.calendar.step)


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


def laid_together(
    loan: Loan, level: Level, days: Sequence[date | None], *, stands: bool, absorbs: bool
) -> Iterator[Laid]:
    """Rows like one loan, each lent on one of these days (None: without dates), by their schedules
    rolled side by side; see `rolled_arrays.rolled`. Those of one day are told as one."""
    numbers: dict[date | None, int] = {}
    of_row = np.array([numbers.setdefault(day, len(numbers)) for day in days])
    size, most = len(numbers), int(level.count.max()) + 1
    paid, owed = np.zeros((most, size)), np.zeros((most, size))
    in_advance = loan.timing == "in-advance"

    def sums(places: Wholes, amounts: Floats) -> Floats:
        told: Floats = np.zeros(size)
        told += np.bincount(of_row[places], weights=amounts, minlength=size)
        return told

    def watch(told: Paid) -> None:
        number, last = told.number, told.is_last
        paid[number - 1] += sums(told.places, told.payment)
        owed[number - 1] += sums(told.places, told.rest)
        ended = told.places[last]
        paid[number if in_advance else number - 1] += sums(ended, told.left[last])
        if not in_advance:
            owed[number - 1] -= sums(ended, told.rest[last])

    rolled(level, stands=stands, absorbs=absorbs, watch=watch)
    everyone = np.arange(len(days))
    lent = sums(everyone, level.principal)
    rows = np.bincount(of_row)
    for day, number in numbers.items():
        # After the last payment of all nothing is paid.
        ends = int(np.flatnonzero(paid[:, number])[-1]) + 1
        yield Laid(
            int(rows[number]),
            _clock(loan.model_copy(update={"start": day})),
            int(lent[number]),
            paid[:ends, number].astype(np.int64).tolist(),
            owed[:ends, number].astype(np.int64).tolist(),
        )
