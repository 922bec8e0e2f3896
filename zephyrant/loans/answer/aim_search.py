"""The search for an aim: every value of one figure that gives a result the value it is to have.

The result is worked unrounded; what the document asks for is found anew at each trial. Where three
trials show the relation to be linear it is solved as such; elsewhere the range of the figure is
scanned and every change of sign narrowed down. A result that touches its aim between two points of
the scan without crossing it is not seen.
"""

from collections.abc import Callable, Iterator
from decimal import ROUND_CEILING, ROUND_FLOOR, Context, Decimal
from itertools import islice
from typing import Final

from ..budget import look
from ..document.aim import Aim
from ..document.fields import UNKNOWN
from ..document.limits import MOST_PAYMENTS
from ..document.loan import Loan
from ..document.parts import Rounding
from ..document.paths import figure_at, with_figure
from ..errors import NotALoan
from ..numbers.decimals import plain
from ..roots.narrowing import Point, false_positions, halvings, thirds
from ..unknowns.worked import work_out_unrounded
from .results import YEARLY_COSTS, result

#: Digits a solution is told with: those that rolling at twenty decimals leaves sure.
_DIGITS: Final = 20
#: Digits where the result is a yearly cost, which is worked in floats.
_COST_DIGITS: Final = 9
_MOST_TRIALS: Final = 90
#: Points to find where a loan begins to have a result.
_EDGE_TRIALS: Final = 14
#: Thirds taken of the interval in which a result comes nearest.
_THIRDS: Final = 24
#: Terms of this many payments are tried where the count may move.
_LONGEST: Final = 1_200


class AimSearch:
    """One aim being sought."""

    def __init__(self, loan: Loan, aim: Aim) -> None:
        self.loan, self.aim = loan, aim
        self.free = loan.model_copy(
            update={"rounding": Rounding(payment="none", interest="none"), "aim": None}
        )
        self.is_cost = aim.figure in YEARLY_COSTS
        self.is_whole = aim.path.kind == "count"
        self.by_percent = aim.path.is_percent
        self.digits = _COST_DIGITS if self.is_cost else _DIGITS
        self.standing = figure_at(loan, aim.path)

    def gap(self, at: Decimal) -> Decimal | None:
        """By how much the result lies beyond the aim, the figure being `at`."""
        look()
        try:
            trial = with_figure(self.free, self.aim.path, plain(at))
            found = result(trial, self.aim.figure, work_out_unrounded(trial))
        except NotALoan:
            return None
        return None if found is None else found - self.aim.number

    def point(self, at: Decimal) -> Point | None:
        """A trial, where the loan has that result."""
        gap = self.gap(at)
        return None if gap is None else Point(at, gap)

    def size(self) -> Decimal:
        """Below this a gap is nothing."""
        return max(abs(self.aim.number), Decimal(1)).scaleb(-(self.digits - 4))

    # Where to look

    def trials(self) -> list[Decimal]:
        """The values to try, ascending."""
        path = self.aim.path
        if self.is_whole:
            most = min(MOST_PAYMENTS, max(_LONGEST, int(2 * (self.standing or 0))))
            counts = {min(most, int(1.08**power)) for power in range(_MOST_TRIALS + 1)}
            return [Decimal(count) for count in sorted({*counts, *range(1, 25)})]
        if path.is_rate:
            scale = Decimal(1)
            if self.loan.rate.convention.is_of_periods:
                scale = Decimal(1) / self.loan.payments_a_year
            return [scale * Decimal(each) for each in _PERCENTS]
        if path.is_percent:
            least = -50 if path.is_step else 0
            return [Decimal(each) for each in range(least, 100, 2)]
        base = max(
            Decimal(1),
            self.standing or Decimal(0),
            *(
                Decimal(each)
                for each in (self.loan.principal, self.loan.payment, self.loan.balance)
                if each != UNKNOWN
            ),
        )
        powers = range(-24, 25)
        return [Decimal(0), *(round(base * Decimal(2) ** power, 10) for power in powers)]

    # What fits

    def solutions(self) -> tuple[list[Decimal], list[Point]]:
        """Every value that reaches the aim, and the points tried."""
        if not (self.is_whole or self.is_cost):
            linear = self._linear()
            if linear is not None:
                return linear
        points = self._scanned()
        reached = list(self._narrowed(points))
        return reached, points

    def _scanned(self) -> list[Point]:
        """The trials that have the result; where they begin to have it or cease to, up to there."""
        points: list[Point] = []
        before: tuple[Decimal, Point | None] | None = None
        for at in self.trials():
            point = self.point(at)
            if before and (point is None) != (before[1] is None) and not self.is_whole:
                found = list(self._up_to_the_edge(before, (at, point)))
                points += found if point is None else reversed(found)
            if point is not None:
                points.append(point)
            before = at, point
        return points

    def _up_to_the_edge(
        self, low: tuple[Decimal, Point | None], high: tuple[Decimal, Point | None]
    ) -> Iterator[Point]:
        has, has_not = (low[0], high[0]) if low[1] else (high[0], low[0])
        found: list[Point] = []

        def is_there(at: Decimal) -> bool:
            point = self.point(at)
            found.extend([point] if point else [])
            return point is not None

        def middle(one: Decimal, other: Decimal) -> Decimal:
            return cut_to((one + other) / 2, 12)

        for _ in islice(halvings(has, has_not, is_there, middle), _EDGE_TRIALS):
            pass
        yield from found

    def _linear(self) -> tuple[list[Decimal], list[Point]] | None:
        base = self.standing or Decimal(0)
        if base <= 0:
            base = Decimal(8) if self.by_percent else Decimal(1000)
        for parts in ((1, 2, 3), (4, 5, 6)):
            points = [point for part in parts if (point := self.point(base * part / 4))]
            if len(points) == 3:
                break
        else:
            return None
        one, two, three = points
        size = max(abs(point.value) for point in points).scaleb(-15)
        if (
            abs(one.value - 2 * two.value + three.value) > size
            or abs(one.value - three.value) <= size
        ):
            return None
        at = (one.at * three.value - three.at * one.value) / (three.value - one.value)
        again = self.point(cut_to(at, self.digits + 8))
        if again is None or abs(again.value) > self.size():
            return None
        return [at], points

    def _narrowed(self, points: list[Point]) -> Iterator[Decimal]:
        narrow: Callable[[Point, Point], Decimal | None] = (
            self._whole if self.is_whole else self._between
        )
        enough = self._cent() if self.is_whole else self.size()
        for number, point in enumerate(points):
            before = points[number - 1] if number else point
            if abs(point.value) <= enough:
                yield point.at
            elif before.value * point.value < 0 and abs(before.value) > enough:
                found = narrow(points[number - 1], point)
                if found is not None:
                    yield found

    def _cent(self) -> Decimal:
        return self.loan.minor_unit / 2 if self.aim.figure not in YEARLY_COSTS else Decimal("1e-9")

    def _between(self, low: Point, high: Point) -> Decimal | None:
        """A change of sign narrowed by the false position."""
        best = min(low, high, key=lambda point: abs(point.value))
        for point, left, right in islice(
            false_positions(self.gap, low, high, lambda at: cut_to(at, self.digits + 6)),
            _MOST_TRIALS,
        ):
            if abs(point.value) <= abs(best.value):
                best = point
            if not point.value or right.at - left.at <= abs(point.at).scaleb(-self.digits - 1):
                break
        if not best.value and self.aim.figure == "end_date" and not self.by_percent:
            return self._least(low if low.value else high, best)
        # Where the result jumps over the aim nothing reaches it.
        return best.at if abs(best.value) <= self.size() else None

    def _least(self, beyond: Point, reached: Point) -> Decimal:
        """Of amounts that all reach an aim the one next to those that do not, to the minor unit."""
        minor = self.loan.minor_unit

        def reaches(at: Decimal) -> bool:
            point = self.point(at)
            return point is not None and not point.value

        intervals = halvings(reached.at, beyond.at, reaches, lambda one, other: (one + other) / 2)
        on, off = next(each for each in intervals if abs(each[0] - each[1]) <= minor / 8)
        units = (on / minor).to_integral_value(ROUND_CEILING if on > off else ROUND_FLOOR)
        return units * minor

    def _whole(self, low: Point, high: Point) -> Decimal | None:
        """The whole number within a change of sign that reaches the aim to the cent."""
        tried: list[Point | None] = []

        def is_low(at: Decimal) -> bool:
            tried.append(self.point(at))
            point = tried[-1]
            return point is not None and point.value * high.value < 0

        if high.at - low.at <= 1:
            return None
        for begin, end in halvings(low.at, high.at, is_low, _between_whole):
            point = tried[-1]
            if point is None or abs(point.value) <= self._cent():
                return point and point.at
            if end - begin <= 1:
                break
        return None

    def nearest(self, points: list[Point]) -> Point | None:
        """The trial that comes nearest, narrowed between its neighbours."""
        if not points:
            return None
        place = min(range(len(points)), key=lambda number: abs(points[number].value))
        best = points[place]

        def is_nearer(one: Decimal, other: Decimal) -> bool | None:
            nonlocal best
            first, second = self.point(one), self.point(other)
            if first is None or second is None:
                return None
            best = min(best, first, second, key=lambda point: abs(point.value))
            return abs(first.value) <= abs(second.value)

        low = points[max(0, place - 1)].at
        high = points[min(len(points) - 1, place + 1)].at
        enough = Decimal(1) if self.is_whole else abs(high).scaleb(-8)
        if high - low <= abs(high).scaleb(-8):
            return best
        for begin, end in islice(thirds(low, high, is_nearer, self._cut), _THIRDS):
            if end - begin <= enough:
                break
        return best

    def _cut(self, at: Decimal) -> Decimal:
        return cut_to(at.to_integral_value() if self.is_whole else at, 12)


def _between_whole(one: Decimal, other: Decimal) -> Decimal:
    return Decimal(int(one + other) // 2)


#: Rates tried, in percent a year.
_PERCENTS: Final = (
    *("-50", "-20", "-10", "-5", "-2", "-1", "-0.5", "0", "0.25", "0.5"),
    *(str(each) for each in range(1, 31)),
    *("35", "40", "50", "60", "80", "100", "150", "200", "300", "500", "1000", "3000"),
)


def cut_to(value: Decimal, digits: int) -> Decimal:
    """A value at so many significant digits."""
    return Context(prec=digits).plus(value)
