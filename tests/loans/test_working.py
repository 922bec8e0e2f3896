"""Working, proof and words: what is told beside the answer."""

import re
from decimal import Decimal
from fractions import Fraction
from typing import Any
from unittest import TestCase

from hypothesis import given, settings
from mpmath import mpf

from zephyrant import loans
from zephyrant.loans import MARKS
from zephyrant.loans.answer.proof import prove
from zephyrant.loans.calendars import frequencies
from zephyrant.loans.ledger.rows import Schedule
from zephyrant.loans.quotes.conversion import periodic_rate
from zephyrant.loans.quotes.styles import Style
from zephyrant.loans.roots.monotone import root_of_falling_convex
from zephyrant.loans.unknowns.solution import solved_line
from zephyrant.loans.unknowns.worked import work_out

from . import reference
from .documents import PERIODS, loan, regular, solve

ASKED: list[dict[str, Any]] = [
    {},
    {"principal": "?", "payment": "938.82"},
    {"rate": {"percent": "?"}, "payment": "938.82"},
    {"count": "?", "payment": "938.82"},
    {"balance": "?", "payment": "900"},
]


class Working(TestCase):
    def test_every_unknown_has_steps_and_a_proof_that_holds(self) -> None:
        for changes in ASKED:
            for timing in ("in-arrears", "in-advance"):
                with self.subTest(timing=timing, **changes):
                    answer = solve(timing=timing, **changes)
                    self.assertGreaterEqual(len(answer.working), 4)
                    assert answer.proof
                    self.assertTrue(answer.proof["holds"], answer.proof)
                    self.assertGreaterEqual(answer.proof["digits"], 25)

    def test_the_steps_of_a_payment_can_be_followed(self) -> None:
        """Each step's numbers, worked out once more, give its result."""
        steps = {step["title"]: step for step in solve().working}
        growth = steps["What 1 lent grows to in 60 periods"]
        base, power = growth["numbers"].split("^")
        self.assertAlmostEqual(float(base) ** int(power), float(growth["result"]), places=5)
        payment = steps["The payment"]
        numbers = [float(number) for number in re.findall(r"\d+\.\d+", payment["numbers"])]
        lent, grown, left, added = numbers
        self.assertAlmostEqual((lent * grown - left) / added, float(payment["result"]), places=5)

    def test_a_proof_can_fail(self) -> None:
        """A wrong figure in the schedule does not pass its checks."""

        asked = loan()
        worked = work_out(asked)
        self.assertTrue(prove(asked, worked, MARKS["plain"])["holds"])
        laid, found = worked.schedule, worked.found
        assert laid is not None
        spoilt = laid.rows[5]._replace(interest=laid.rows[5].interest + 1)
        rows = (*laid.rows[:5], spoilt, *laid.rows[6:])
        changed = worked._replace(schedule=Schedule(rows, laid.unit))
        self.assertFalse(prove(asked, changed, MARKS["plain"])["holds"])
        wrong = found._replace(solutions=(found.solutions[0] + Decimal("0.01"),))
        changed = worked._replace(found=wrong, solved=solved_line(asked, wrong))
        self.assertFalse(prove(asked, changed, MARKS["plain"])["holds"])


class Clocks(TestCase):
    def test_the_clock_in_words(self) -> None:
        self.assertEqual(
            solve().clock,
            "6.35 % a year, nominal, compounded half-yearly = 0.5223 % a monthly payment = "
            "6.4508 % a year, effective. 60 payments = 5 years.",
        )

    def test_terms_in_words(self) -> None:
        cases: list[tuple[int, Any, str]] = [
            (60, "month", "5 years"),
            (66, "month", "5 years 6 months"),
            (1, "month", "1 month"),
            (12, "month", "1 year"),
            (7, "quarter", "1 year 9 months"),
            (57, "two-weeks", "114 weeks"),
            (52, "two-weeks", "2 years"),
            (400, "day", "400 days"),
            (25, "half-month", "1 year ½ months"),
            (3, 7, "0.43 years"),
        ]
        for count, every, words in cases:
            with self.subTest(words):
                self.assertEqual(frequencies.term(count, every), words)

    def test_periods_a_year(self) -> None:
        for name, a_year in PERIODS.items():
            self.assertEqual(frequencies.a_year(name), a_year)  # type: ignore[arg-type]

    def test_paid_as(self) -> None:
        self.assertEqual(solve().paid_as, "59 payments of 938.82 and a last one of 939.00")
        self.assertEqual(solve(count=1).paid_as, "one payment of 48502.01")
        self.assertEqual(
            solve(payment="900", balance="?").paid_as,
            f"60 payments of 900.00, then {solve(payment='900', balance='?').value} still owed",
        )


class Rates(TestCase):
    @given(regular())
    @settings(deadline=None, max_examples=120)
    def test_the_three_footings(self, content: dict[str, Any]) -> None:
        """Periodic, nominal at the payment frequency and effective, against mpmath."""
        told = loans.solve(loans.check(content)).rates
        assert told
        rate = reference.rate_of_one_period(content)
        often = reference.per_year(content["every"])
        expected = (100 * rate, 100 * rate * often, 100 * ((1 + rate) ** often - 1))
        for name, value in zip(("periodic", "nominal", "effective"), expected, strict=True):
            self.assertLessEqual(abs(mpf(told[name]) - value), mpf("0.51e-10"))

    def test_an_evenly_divided_rate_is_exact(self) -> None:

        self.assertEqual(
            periodic_rate(Decimal(7), Style("nominal", "month", 12)), Fraction(7, 1200)
        )

    def test_a_root_is_found_wherever_it_lies(self) -> None:
        for root in ("-3", "0", "0.00000001", "12"):
            at = Decimal(root)

            def falling(s: Decimal, at: Decimal = at) -> tuple[Decimal, Decimal]:
                return (at - s).exp() - 1, -(at - s).exp()

            found = root_of_falling_convex(falling)
            self.assertAlmostEqual(found, at, places=40)
