"""Many regular loans at once, as arrays: each of the five figures, and the schedule's totals to the
cent, or not at all.

Every number here is a float or a whole number of minor units. Where a float comes too near to
where rounding turns, or a loan does something that a regular one does not, the place is given up
(NaN) and is left to the exact way.
"""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Final

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]
Wholes = NDArray[np.int64]
Flags = NDArray[np.bool_]

#: So near to where rounding turns a float is not trusted, in minor units; and relatively.
_NEAR: Final = 1e-4
#: The same of a period's interest, which is a single product of two floats below this.
_NEAR_INTEREST: Final = 1e-6
_MOST_INTEREST: Final = 1e8
#: Whole-number interest may not reach this.
_MOST: Final = 2.0**62
_MOST_EXACT: Final = 2.0**50
#: Loans that are worked together: so many that their arrays stay in the cache.
_TOGETHER: Final = 32_768
#: Below this growth over the whole term the equation of the rate is taken by its series.
_FLAT: Final = 1e-4
#: Rates of a period that are found: beyond them a loan goes the exact way.
#: A last step so small, of the rate or over the term, leaves less than a float holds.
_ENOUGH: Final = 1e-5
_ENOUGH_FLAT: Final = 1e-13
_LEAST_RATE: Final = -0.5
_MOST_RATE: Final = 10.0


@dataclass(frozen=True)
class Level:
    """Regular loans; money in minor units, `rate` of one period.

    What is asked for stands in as nothing. `numerator` / `denominator` is the same rate as whole
    numbers where those are small, else 0 / 1.
    """

    principal: Floats
    rate: Floats
    numerator: Wholes
    denominator: Wholes
    count: Wholes
    balance: Floats
    payment: Floats
    in_advance: Flags

    def at(self, places: Wholes | Flags | slice) -> "Level":
        """Some of them."""
        return Level(
            self.principal[places],
            self.rate[places],
            self.numerator[places],
            self.denominator[places],
            self.count[places],
            self.balance[places],
            self.payment[places],
            self.in_advance[places],
        )


@dataclass(frozen=True)
class Rolled:
    """Schedules rolled to the cent, in minor units: how many payments, all that is paid, the last
    payment, what is left at the end, what is owed after the payment asked for. NaN where not sure;
    the owed alone is NaN after the end."""

    count: Floats
    paid: Floats
    final: Floats
    left: Floats
    owed: Floats


def to_whole(amount: Floats, near: float | Floats = _NEAR) -> Floats:
    """The nearest whole number; NaN where that is too near a tie to be told by floats."""
    low = np.floor(amount)
    part = amount - low
    sure = (np.abs(part - 0.5) > near) & (np.abs(amount) < _MOST_EXACT)
    return np.where(sure, np.where(part > 0.5, low + 1, low), np.nan)


# The five figures, unrounded


def _factors(loans: Level) -> tuple[Floats, Floats]:
    """What 1 lent grows to, and what payments of 1 grow to."""
    rate = loans.rate
    grown = np.log1p(rate)
    grown *= loans.count
    np.expm1(grown, out=grown)
    added = grown / rate
    free = rate == 0
    if free.any():
        added[free] = loans.count[free]
    if loans.in_advance.any():
        added *= 1 + rate * loans.in_advance
    grown += 1
    return grown, added


def _in_parts(loans: Level, figure: Callable[[Level], Floats]) -> Floats:
    """A figure of each, worked on so many at once as stay in the cache."""
    found = np.empty(len(loans.count))
    with np.errstate(all="ignore"):
        for start in range(0, len(found), _TOGETHER):
            some = slice(start, start + _TOGETHER)
            found[some] = figure(loans.at(some))
    return found


def payments(loans: Level) -> Floats:
    """The payment of each, unrounded."""

    def figure(some: Level) -> Floats:
        growth, added = _factors(some)
        return (some.principal * growth - some.balance) / added

    return _in_parts(loans, figure)


def principals(loans: Level) -> Floats:
    """The amount lent of each, unrounded."""

    def figure(some: Level) -> Floats:
        growth, added = _factors(some)
        return (some.payment * added + some.balance) / growth

    return _in_parts(loans, figure)


def balances(loans: Level) -> Floats:
    """What is left at the end of each, unrounded."""

    def figure(some: Level) -> Floats:
        growth, added = _factors(some)
        return some.principal * growth - some.payment * added

    return _in_parts(loans, figure)


def counts(loans: Level) -> Floats:
    """The number of payments of each, unrounded; NaN where the balance is never reached."""

    def figure(some: Level) -> Floats:
        rate, paid = some.rate, some.payment * (1 + some.rate * some.in_advance)
        gap, left = some.principal - some.balance, paid - some.principal * some.rate
        count = np.log1p(gap * rate / left) / np.log1p(rate)
        free = rate == 0
        if free.any():
            count[free] = gap[free] / paid[free]
        count[(left <= 0) | (gap <= 0)] = np.nan
        return count

    return _in_parts(loans, figure)


def rates(loans: Level) -> Floats:
    """The rate of one period of each by Halley's method; NaN where it does not settle or where
    there may be none or several.

    With a = (lent - left) / payment and b = left / payment (less 1 in advance) the rate is the root
    of a f + b r = 1, where f = r / (1 - (1 + r)^-n) is smooth through zero. The first guess matches
    f by a quotient of quadratics.
    """
    found = np.empty_like(loans.principal)
    work = [np.empty(min(_TOGETHER, len(found))) for _ in range(11)]
    with np.errstate(all="ignore"):
        for start in range(0, len(found), _TOGETHER):
            some = slice(start, start + _TOGETHER)
            _rates(loans, some, [each[: len(found[some])] for each in work], found[some])
        lent, left = loans.principal, loans.balance
        one = (loans.payment > 0) & (lent > left) & (loans.count > loans.in_advance)
        one &= (found > _LEAST_RATE) & (found < _MOST_RATE)
    return np.where(one, found, np.nan)


def _rates(loans: Level, some: slice, work: list[Floats], rate: Floats) -> None:  # noqa: PLR0915
    """The rates of so many loans as fit the cache, into `rate`, in place throughout."""
    a, b, count, inverse, fall, value, slope, bend, gap, x, q = work
    np.copyto(count, loans.count[some])
    np.divide(1.0, count, out=inverse)
    np.subtract(loans.principal[some], loans.balance[some], out=a)
    a /= loans.payment[some]
    np.divide(loans.balance[some], loans.payment[some], out=b)
    b -= loans.in_advance[some]
    # The guess: p = n / a, s = 1 + 2 b / a + 1 / n.
    np.divide(count, a, out=x)
    np.divide(b, a, out=q)
    q *= 2
    q += 1
    q += inverse
    np.multiply(x, x, out=fall)
    np.multiply(q, q, out=value)
    value -= 1
    x *= q
    np.multiply(x, x, out=q)

    def half_growth(weight: float | Floats) -> None:
        """(p^2 - w) / (p s + sqrt(p^2 s^2 - (s^2 - 1)(p^2 - w))), into `bend`."""
        np.subtract(fall, weight, out=bend)
        np.multiply(value, bend, out=gap)
        np.subtract(q, gap, out=gap)
        np.sqrt(gap, out=gap)
        np.add(gap, x, out=gap)
        np.divide(bend, gap, out=bend)

    half_growth(1.0)
    np.multiply(bend, bend, out=rate)
    np.multiply(rate, 2 / 14_175, out=slope)
    for term in (1 / 315, 2 / 45, 1 / 3, 1.0):
        slope += term
        slope *= rate if term != 1.0 else 1.0
    np.divide(1.0, slope, out=slope)
    half_growth(slope)
    np.multiply(bend, 2, out=rate)
    rate *= inverse
    for _ in range(2):
        # fall = 1 - (1 + r)^-n, f = r / fall and its first two derivatives.
        np.log1p(rate, out=x)
        x *= count
        np.negative(x, out=x)
        np.expm1(x, out=fall)
        np.negative(fall, out=fall)
        flat = np.flatnonzero(np.abs(x) < _FLAT)
        np.divide(rate, fall, out=value)
        np.add(rate, 1, out=x)
        np.divide(1.0, x, out=x)
        np.multiply(count, x, out=q)
        np.subtract(1, fall, out=gap)
        gap *= q
        np.multiply(value, gap, out=slope)
        np.subtract(1, slope, out=slope)
        slope /= fall
        q += x
        q *= value
        np.multiply(slope, 2, out=bend)
        np.subtract(q, bend, out=bend)
        bend *= gap
        bend /= fall
        if len(flat):
            n, r = count[flat], rate[flat]
            first, second = (n + 1) / (2 * n), (n * n - 1) / (12 * n)
            value[flat] = 1 / n + first * r + second * r * r
            slope[flat] = first + 2 * second * r
            bend[flat] = 2 * second
        np.multiply(a, value, out=gap)
        np.multiply(b, rate, out=x)
        gap += x
        gap -= 1
        slope *= a
        slope += b
        bend *= a
        bend *= gap
        bend *= 0.5
        bend /= slope
        slope -= bend
        gap /= slope
        rate -= gap
    # Each step leaves the cube of what the one before it left.
    np.abs(gap, out=gap)
    np.abs(rate, out=x)
    x *= _ENOUGH
    inverse *= _ENOUGH_FLAT
    x += inverse
    rate[gap > x] = np.nan


# Schedules to the cent


def rolled(
    loans: Level, *, is_open: bool = False, absorbs: bool = False, after: Wholes | None = None
) -> Rolled:
    """The schedules of loans whose figures are as they will be paid.

    `is_open`: the count is what a formula says, and holds where the roll reaches the balance
    just there. `absorbs`: the balance takes what rounding leaves, else the last payment settles.
    `after`: the payment after which what is owed is told, 0 for none.
    """
    size = len(loans.count)
    columns = np.full((5, size), np.nan)
    after = np.zeros(size, dtype=np.int64) if after is None else after
    # The longest first, those in arrears before those in advance: what still runs is a stretch.
    order = np.lexsort((-loans.count, loans.in_advance))
    edge = int(np.count_nonzero(~loans.in_advance))
    for begin, end in ((0, edge), (edge, size)):
        for start in range(begin, end, _TOGETHER):
            places = order[start : min(end, start + _TOGETHER)]
            roll = _Roll(loans.at(places), after[places], is_open=is_open, absorbs=absorbs)
            columns[:, places] = roll.run()
    return Rolled(*columns)


class _Roll:
    """Some loans, the longest first, all in arrears or all in advance."""

    def __init__(self, loans: Level, after: Wholes, *, is_open: bool, absorbs: bool) -> None:
        self.loans, self.after = loans, after
        self.is_open, self.absorbs = is_open, absorbs
        self.in_advance = bool(loans.in_advance[:1].any())
        self.bad = loans.principal * loans.rate > _MOST_INTEREST

    def run(self) -> Floats:
        """Count, paid, final, left, owed of each."""
        loans, size = self.loans, len(self.after)
        opening = loans.principal.copy()
        paid, final, left = np.zeros(size), np.full(size, np.nan), np.full(size, np.nan)
        owed = np.full(size, np.nan)
        owes = bool(self.after.any())
        most = int(loans.count[0]) if size else 0
        runs = size
        for number in range(1, most + 1):
            while runs and loans.count[runs - 1] < number:
                runs -= 1
            due = opening[:runs] if self.in_advance else self._charged(opening[:runs], runs)
            rest = due - loans.payment[:runs]
            # A loan that is repaid before its last payment is not as the others.
            done = rest <= 0
            closing = self._charged(rest, runs) if self.in_advance else rest
            first = runs
            while first and loans.count[first - 1] == number:
                first -= 1
            self.bad[:first] |= done[:first]
            if self.is_open:
                self.bad[:first] |= closing[:first] <= loans.balance[:first]
                self.bad[first:runs] |= closing[first:] > loans.balance[first:runs]
            last = slice(first, runs)
            if first < runs:
                kept = self._kept(last)
                if self.absorbs:
                    self.bad[last] |= done[last]
                    final[last], left[last] = loans.payment[last], closing[last]
                else:
                    final[last], left[last] = due[last] - kept, loans.balance[last]
                    rest = rest.copy()
                    rest[last] = kept
                paid[last] = loans.payment[last] * (number - 1) + final[last]
            if owes:
                here = np.flatnonzero(self.after[:runs] == number)
                owed[here] = rest[here]
            opening[:runs] = closing
        told: Floats = np.array([loans.count.astype(float), paid, final, left, owed])
        told[:, self.bad | ~(final >= 0)] = np.nan
        return told

    def _kept(self, last: slice) -> Floats:
        """What is owed right after the last payment so that the balance is left at the end."""
        balance, rate = self.loans.balance[last], self.loans.rate[last]
        if self.absorbs or not self.in_advance:
            return balance
        kept: Floats = np.where(balance == 0, 0.0, to_whole(balance / (1 + rate)))
        return kept

    def _charged(self, owed: Floats, runs: int) -> Floats:
        """What is owed with a period's interest, to the minor unit, ties away from zero."""
        exact = owed * self.loans.rate[:runs]
        low = np.floor(exact)
        part = exact - low
        part -= 0.5
        unsure = np.abs(part) < _NEAR_INTEREST
        charged = low + (part >= 0)
        if unsure.any():
            self._exactly(owed, charged, np.flatnonzero(unsure))
        due: Floats = owed + charged
        return due

    def _exactly(self, owed: Floats, charged: Floats, places: Wholes) -> None:
        """Interest near a tie in whole numbers, where the rate is of small ones."""
        top, bottom = self.loans.numerator[places], self.loans.denominator[places]
        amount = owed[places]
        fits = (bottom > 1) & (amount >= 0) & (2 * amount * top + bottom < _MOST)
        fits &= np.abs(amount) < _MOST_EXACT
        whole = np.where(fits, amount, 0.0).astype(np.int64)
        charged[places] = (2 * whole * top + bottom) // (2 * bottom)
        # Nothing bears nothing.
        free = self.loans.rate[places] == 0
        charged[places[free]] = 0
        self.bad[places[~fits & ~free]] = True


# Yearly cost


def true_rates(loans: Level, schedule: Rolled) -> Floats:
    """The rate of one period at which what is paid to the cent, and what is left, is worth what is
    lent: by Newton's method from the loan's own rate. NaN where it does not settle."""
    count, final, left = schedule.count, schedule.final, schedule.left
    shift = loans.in_advance.astype(float)
    with np.errstate(all="ignore"):
        rate = np.where(loans.rate == 0, 1e-9, loans.rate)
        step = rate
        for _ in range(8):
            log = np.log1p(rate)
            before = count - 1
            fall = -np.expm1(-before * log)
            run = np.where(before == 0, 0.0, fall / rate)
            at_last = np.exp(-count * log)
            lift = np.exp(shift * log)
            present_value = (loans.payment * run + final * at_last) * lift + left * at_last
            slope = loans.payment * (before * (1 - fall) / (1 + rate) - run) / rate
            slope -= final * count * at_last / (1 + rate)
            slope = slope * lift + shift * (loans.payment * run + final * at_last)
            slope -= left * count * at_last / (1 + rate)
            step = (present_value - loans.principal) / slope
            rate = rate - step
        return np.where(np.abs(step) < 1e-12 + 1e-9 * np.abs(rate), rate, np.nan)
