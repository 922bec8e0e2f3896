"""The schedules of many regular loans at once, to the cent, or not at all.

What happens in a period is written here once more, for arrays: held to the roll by a property.
"""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Final, NamedTuple

from ..numbers.arrays import Flags, Floats, Wholes, np
from ..roots.many_rates import TOGETHER
from .level_arrays import MOST_EXACT, Level, to_whole

#: So near to where rounding turns a period's interest, which is a single product of two floats
#: below this, is not trusted.
_NEAR_INTEREST: Final = 1e-6
_MOST_INTEREST: Final = 1e8
#: Whole-number interest may not reach this.
_MOST: Final = 2.0**62


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


class Paid(NamedTuple):
    """A payment of some of the loans that are rolled: its number, whose it is (their places), how
    much each is, what is owed right after it; whether it is the last, and what is left at the end
    of those."""

    number: int
    places: Wholes
    payment: Floats
    rest: Floats
    is_last: Flags
    left: Floats


#: Is told every payment while loans are rolled.
Watch = Callable[[Paid], None]


def rolled(
    loans: Level,
    *,
    is_open: bool = False,
    absorbs: bool = False,
    after: Wholes | None = None,
    stands: bool = False,
    watch: Watch | None = None,
) -> Rolled:
    """The schedules of loans whose figures are as they will be paid.

    `is_open`: the count is what a formula says, and holds where the roll reaches the balance
    just there. `absorbs`: the balance takes what rounding leaves, else the last payment settles.
    `after`: the payment after which what is owed is told, 0 for none. `watch` is told every payment
    as it is rolled, whether its loan is sure or not; the last one as it is stated where it `stands`
    and the interest settles the loan.
    """
    size = len(loans.count)
    columns = np.full((5, size), np.nan)
    after = np.zeros(size, dtype=np.int64) if after is None else after
    # The longest first, those in arrears before those in advance: what still runs is a stretch.
    order = np.lexsort((-loans.count, loans.in_advance))
    edge = int(np.count_nonzero(~loans.in_advance))
    for begin, end in ((0, edge), (edge, size)):
        for start in range(begin, end, TOGETHER):
            places = order[start : min(end, start + TOGETHER)]
            roll = _Roll(loans.at(places), after[places], is_open=is_open, absorbs=absorbs)
            if watch is not None:
                roll.watch = _Watched(watch, places, stands)
            columns[:, places] = roll.run()
    return Rolled(*columns)


class _Watched(NamedTuple):
    """Who is told of payments; the places of the loans among all that are rolled."""

    watch: Watch
    places: Wholes
    stands: bool

    def tell(
        self, number: int, payment: Floats, *, rest: Floats, final: Floats, left: Floats
    ) -> None:
        """One payment of all that still run; those whose last it is are the last of them."""
        runs, first = len(rest), len(rest) - len(final)
        payment = payment.copy()
        if not self.stands:
            payment[first:] = final
        is_last = np.arange(runs) >= first
        self.watch(Paid(number, self.places[:runs], payment, rest, is_last, left))


class _Roll:
    """Some loans, the longest first, all in arrears or all in advance."""

    watch: "_Watched | None" = None

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
            rest = unsettled = due - loans.payment[:runs]
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
            if self.watch is not None:
                if self.watch.stands:
                    # With something left at the end the interest after the last payment settles,
                    # else that before it.
                    rest = np.where(loans.balance[:runs] > 0, unsettled, rest)
                self.watch.tell(
                    number,
                    loans.payment[:runs],
                    rest=rest,
                    final=final[last],
                    left=left[:runs],
                )
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
        fits &= np.abs(amount) < MOST_EXACT
        whole = np.where(fits, amount, 0.0).astype(np.int64)
        charged[places] = (2 * whole * top + bottom) // (2 * bottom)
        # Nothing bears nothing.
        free = self.loans.rate[places] == 0
        charged[places[free]] = 0
        self.bad[places[~fits & ~free]] = True
