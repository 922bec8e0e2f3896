"""Intervals narrowed: against SciPy's brentq, and roots known beforehand."""

from decimal import Decimal
from itertools import islice
from math import exp, log
from unittest import TestCase

from hypothesis import assume, given
from hypothesis import strategies as st
from scipy.optimize import brentq

from zephyrant.loans.numbers.decimals import precise
from zephyrant.loans.roots.monotone import (
    root_of_falling,
    root_of_falling_convex,
    root_of_monotone,
)
from zephyrant.loans.roots.narrowing import (
    Point,
    false_positions,
    halved,
    halvings,
    newton_between,
    thirds,
)

ROOTS = st.decimals("-6", "6", allow_nan=False, places=9)


class Narrowed(TestCase):
    @given(ROOTS)
    def test_halves_keep_the_crossing(self, root: Decimal) -> None:
        low, high = halved(Decimal(-7), Decimal(7), lambda at: at < root, 60)
        self.assertTrue(low <= root <= high)
        self.assertLess(high - low, Decimal("1.3e-17"))

    @given(st.integers(-1_000, 1_000))
    def test_whole_numbers_end_beside_each_other(self, root: int) -> None:
        halves = halvings(
            -1_001, 1_001, lambda at: at < root, lambda one, other: (one + other) // 2
        )
        self.assertEqual(next(ends for ends in halves if ends[1] - ends[0] == 1), (root - 1, root))

    @given(ROOTS, st.sampled_from([1, 3, 5]))
    def test_false_positions_close_in(self, root: Decimal, power: int) -> None:
        def function(at: Decimal) -> Decimal:
            return (at - root) ** power

        low, high = (Point(Decimal(end), function(Decimal(end))) for end in (-7, 7))
        tried = list(islice(false_positions(function, low, high), 120))
        last = tried[-1]
        self.assertTrue(last.low.at <= root <= last.high.at)
        self.assertLess(min(abs(each.point.at - root) for each in tried), Decimal("1e-4"))

    def test_false_positions_end_where_there_is_no_value(self) -> None:
        low, high = Point(Decimal(0), Decimal(-1)), Point(Decimal(1), Decimal(1))
        self.assertEqual(list(false_positions(lambda at: None, low, high)), [])

    @given(st.floats(-5, 5), st.floats(0.2, 3), st.booleans())
    def test_newton_between_finds_what_brentq_finds(
        self, shift: float, scale: float, falls: bool
    ) -> None:
        sign = -1 if falls else 1

        def value_and_slope(at: float) -> tuple[float, float]:
            return sign * (exp(scale * at) - exp(shift)), sign * scale * exp(scale * at)

        low, high = -26.0, 26.0
        at = newton_between(
            value_and_slope, low, high, 20.0, rises=not falls, enough=lambda to: 1e-14
        )
        theirs = brentq(lambda x: value_and_slope(x)[0], low, high, xtol=1e-14)
        self.assertAlmostEqual(at, theirs, places=11)
        self.assertAlmostEqual(at, shift / scale, places=11)

    def test_where_the_slope_is_nothing_the_middle_is_taken(self) -> None:
        def step(at: float) -> tuple[float, float]:
            return (1.0 if at > 0.3 else -1.0), 0.0

        at = newton_between(step, -1.0, 1.0, 0.9, rises=True, enough=lambda to: 1e-12)
        self.assertAlmostEqual(at, 0.3, places=10)

    @given(st.decimals("-5", "5", allow_nan=False, places=6))
    def test_thirds_close_in_on_the_least(self, least: Decimal) -> None:
        def nearer(one: Decimal, other: Decimal) -> bool:
            return abs(one - least) <= abs(other - least)

        *_, (low, high) = islice(thirds(Decimal(-6), Decimal(6), nearer, lambda at: at), 60)
        self.assertLess(abs((low + high) / 2 - least), Decimal("1e-8"))


class Monotone(TestCase):
    @given(ROOTS.filter(lambda root: root > Decimal(-4)))
    def test_falling_to_full_precision(self, root: Decimal) -> None:
        """e^-x - e^-r is convex and falls; r is its root. Further below zero the first step from 0
        leads so far that no loan's function, a logarithm, is like it."""

        def value_and_slope(at: Decimal) -> tuple[Decimal, Decimal]:
            return (-at).exp() - (-root).exp(), -(-at).exp()

        found = root_of_falling_convex(value_and_slope)
        self.assertLess(abs(found - root), Decimal("1e-50"))
        other = root_of_falling(value_and_slope)
        assert other is not None
        self.assertLess(abs(other - root), Decimal("1e-50"))

    @given(ROOTS, st.booleans())
    def test_rising_or_falling(self, root: Decimal, falls: bool) -> None:
        assume(abs(root) > Decimal("1e-6"))
        sign = -1 if falls else 1
        found = root_of_monotone(lambda at: sign * (at.exp() - root.exp()))
        assert found is not None
        self.assertLess(abs(found - root), Decimal("1e-50"))

    def test_on_an_end_of_the_first_bracket(self) -> None:
        self.assertEqual(root_of_monotone(lambda at: at - Decimal("0.125")), Decimal("0.125"))

    def test_none_near(self) -> None:
        self.assertIsNone(root_of_monotone(lambda at: at - 30))
        with precise():
            self.assertIsNone(root_of_falling(lambda at: (Decimal(1), Decimal("-1e-9"))))

    def test_the_logarithm_of_two(self) -> None:
        found = root_of_monotone(lambda at: at.exp() - 2)
        assert found is not None
        self.assertAlmostEqual(float(found), log(2), places=15)
