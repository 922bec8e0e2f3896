"""Every rate that fits: all found, none invented."""

import random
from calendar import isleap
from datetime import date
from decimal import Decimal
from fractions import Fraction
from itertools import pairwise
from math import expm1, log
from typing import Any
from unittest import TestCase

import numpy as np
import pyxirr
from mpmath import mp, mpf
from scipy.optimize import brentq

from zephyrant import loans
from zephyrant.loans.roots.crossings import LEAST_GROWTH, MOST_GROWTH, Crossing
from zephyrant.loans.roots.flows import Flow, Flows, crossings

from .documents import solve

mp.dps = 50


def flows_of(pairs: list[tuple[int, str]]) -> Flows:
    return Flows([Flow(Fraction(time), Decimal(amount)) for time, amount in pairs])


def rates(found: list[Crossing]) -> list[float]:
    return [expm1(float(each.at)) for each in found]


def with_growths(growths: list[mpf], rest: list[mpf]) -> list[tuple[int, str]]:
    """Yearly flows that balance exactly at these growths and at no others: the product of their
    linear factors and of a polynomial without a positive root."""
    coefficients = [mpf(1)]
    for growth in growths:
        coefficients = _times(coefficients, [mpf(1), -growth])
    coefficients = _times(coefficients, rest)
    return [
        (time, mp.nstr(10_000 * each, 30, min_fixed=-99)) for time, each in enumerate(coefficients)
    ]


def _times(one: list[mpf], other: list[mpf]) -> list[mpf]:
    product = [mpf(0)] * (len(one) + len(other) - 1)
    for i, a in enumerate(one):
        for j, b in enumerate(other):
            product[i + j] += a * b
    return product


class KnownRoots(TestCase):
    def test_a_thousand_sets_with_none_to_three_roots(self) -> None:
        """All found, none invented; near-double ones and touches among them."""
        rng = random.Random(20261124)
        kinds = {0: 0, 1: 0, 2: 0, 3: 0}
        for number in range(1_000):
            count = number % 4
            growths = sorted(mpf(rng.randint(300, 4_000)) / 1_000 for _ in range(count))
            if count >= 2 and number % 8 in (2, 3, 6):
                growths[1] = growths[0] + mpf(10) ** -rng.randint(3, 9)
                growths.sort()
            if any(one == other for one, other in pairwise(growths)):
                continue
            # (x + a)(x^2 + b x + c) with positive coefficients has no positive root.
            rest = _times(
                [mpf(1), mpf(rng.randint(1, 9)) / 4], [mpf(1), mpf(1) / 3, mpf(rng.randint(1, 5))]
            )
            found = crossings(flows_of(with_growths(growths, rest)), 1)
            told = [mpf(str(each.at.exp())) for each in found]
            self.assertEqual(len(told), len(growths), (number, growths, told))
            for ours, known in zip(told, growths, strict=True):
                self.assertLess(abs(ours - known), mpf("1e-9"), (number, growths))
            kinds[count] += 1
        self.assertGreater(min(kinds.values()), 200)

    def test_a_touching_root_is_told_exactly(self) -> None:
        (one,) = crossings(flows_of([(0, "100"), (1, "-220"), (2, "121")]), 1)
        self.assertEqual(one.how, "touches")
        self.assertLess(abs(float(one.at) - log(1.1)), 1e-15)
        self.assertEqual(crossings(flows_of([(0, "100"), (1, "-219.99"), (2, "121")]), 1), [])
        two = crossings(flows_of([(0, "100"), (1, "-220.01"), (2, "121")]), 1)
        self.assertEqual(len(two), 2)

    def test_a_touch_at_broken_times_is_not_certified(self) -> None:
        # (u^1.5 - 1.2)^2 touches at u = 1.2^(2/3).
        flows = Flows(
            [
                Flow(Fraction(0), Decimal(100)),
                Flow(Fraction(3, 2), Decimal(-240)),
                Flow(Fraction(3), Decimal(144)),
            ]
        )
        (one,) = crossings(flows, 1)
        self.assertEqual(one.how, "touches, not certified")
        self.assertLess(abs(float(one.at) - 2 * log(1.2) / 3), 1e-9)

    def test_two_rates_of_1955(self) -> None:
        # Lorie and Savage, Journal of Business 28 (1955): -1,600, +10,000, -10,000: 25 and 400 %.
        found = crossings(flows_of([(0, "1600"), (1, "-10000"), (2, "10000")]), 1)
        self.assertEqual([round(rate, 12) for rate in rates(found)], [0.25, 4.0])
        told = solve(
            principal="1600",
            count=0,
            payment=None,
            every="year",
            rate={"percent": "?", "quoted": "effective"},
            clauses=[{"at": 1, "repay": "10000"}, {"at": 2, "advance": "10000"}],
        )
        self.assertEqual(told.solutions, ("25", "400"))
        self.assertEqual((told.value, told.exact), (None, None))
        self.assertIn("2 rates fit", told.notes[0])


class OverCenturies(TestCase):
    """Rates of dated loans over spans in which a discount leaves the range of floats: the rate
    found leaves nothing, rolled by mpmath with days counted as ISDA 2006, 4.16 (b), says."""

    START = date(2024, 8, 29)

    def share(self, year: int) -> mpf:
        """Of a year from payment to payment: days by the length of the year they fall in."""
        total, day = mpf(0), self.START.replace(year=year)
        for begins, ends in (
            (day, date(year + 1, 1, 1)),
            (date(year + 1, 1, 1), day.replace(year=year + 1)),
        ):
            total += mpf((ends - begins).days) / (366 if isleap(begins.year) else 365)
        return total

    def left(self, rate: mpf, count: int, moves: dict[int, mpf], payment: mpf) -> mpf:
        owed = mpf(100_000)
        for number in range(1, count + 1):
            owed *= 1 + rate * self.share(self.START.year + number - 1)
            owed += moves.get(number, mpf(0)) - payment
        return owed

    def test_the_rate_is_found(self) -> None:
        for count, payment in (
            (80, "6107.43"),
            (100, "6067.59"),
            (120, "6055.27"),
            (179, "6049.88"),
        ):
            for clauses, moves in (
                ([{"at": 22, "advance": "3000"}], {22: mpf(3_000)}),
                ([{"at": 5, "repay": "100"}, {"at": 9, "advance": "400"}], {5: -100, 9: 400}),
            ):
                with self.subTest(count=count, clauses=clauses), mp.workdps(60):
                    answer = loans.solve(
                        loans.check(
                            {
                                "zephyrant": "loan/1",
                                "currency": "EUR",
                                "principal": "100000",
                                "rate": {"percent": "?"},
                                "count": count,
                                "every": "year",
                                "payment": payment,
                                "start": self.START.isoformat(),
                                "day_count": "actual/actual",
                                "clauses": clauses,
                            }
                        )
                    )
                    self.assertEqual(len(answer.solutions), 1, answer.reason)
                    rate = mpf(answer.exact or "nan") / 100
                    size = mpf(100_000) * (1 + rate) ** count
                    self.assertLess(
                        abs(self.left(rate, count, moves, mpf(payment))) / size, mpf("1e-25")
                    )
                    self.assertGreater(rate, mpf("0.055"))


class AgainstOthers(TestCase):
    def test_one_sign_change_against_pyxirr(self) -> None:
        rng = random.Random(7)
        for _ in range(40):
            paid = [round(rng.uniform(10, 900), 2) for _ in range(rng.randint(3, 120))]
            days = sorted(rng.sample(range(1, 4_000), len(paid)))
            lent = round(sum(paid) * rng.uniform(0.4, 1.2), 2)
            pairs = [
                (0, str(lent)),
                *((day, f"-{each}") for day, each in zip(days, paid, strict=True)),
            ]
            (found,) = crossings(flows_of(pairs), 365)
            dates = np.array([0, *days], dtype="timedelta64[D]") + np.datetime64("2027-01-01")
            theirs = pyxirr.xirr(dates.astype(object).tolist(), [-lent, *paid])
            assert theirs is not None
            ours = expm1(365 * float(found.at))
            # pyxirr stops short of nine digits on some of them; SciPy's root does not.
            self.assertAlmostEqual(ours, theirs, places=8)
            times = np.array([0, *days]) / 365

            def present_value(
                rate: float, times: Any = times, paid: Any = paid, lent: float = lent
            ) -> Any:
                return np.sum(np.array([-lent, *paid]) * (1 + rate) ** -times)

            self.assertAlmostEqual(ours, brentq(present_value, -0.95, 60, xtol=1e-14), places=12)

    def test_no_other_root_by_a_fine_scan(self) -> None:
        """On random flows with many changes of sign, as many roots as a fine grid shows."""
        rng = random.Random(11)
        for _ in range(60):
            pairs = [(k, f"{rng.uniform(-1, 1):.4f}") for k in range(rng.randint(3, 14))]
            flows = flows_of(pairs)
            if not flows.has_both:
                continue
            found = crossings(flows, 1)
            grid = np.linspace(log(LEAST_GROWTH), log(MOST_GROWTH), 40_001)
            height = np.array([sum(float(a) * np.exp(-t * s) for t, a in pairs) for s in grid])
            shown = int(np.sum(np.sign(height[1:]) != np.sign(height[:-1])))
            self.assertEqual(len([each for each in found if each.how == "crosses"]), shown)
            for each in found:
                total = sum(mpf(a) * mp.exp(-t * mpf(str(each.at))) for t, a in pairs)
                size = sum(abs(mpf(a)) * mp.exp(-t * mpf(str(each.at))) for t, a in pairs)
                self.assertLess(abs(total), size * mpf("1e-30"))

    def test_nothing_to_balance(self) -> None:
        for pairs in ([], [(0, "5")], [(0, "5"), (3, "7")], [(0, "-5")]):
            self.assertEqual(crossings(flows_of(pairs), 1), [])
