"""Loans without an answer: what would give them one, and where they lead.

Expected figures are worked here by the textbook's formulas of a level loan (annuity), not by the
core.
"""

from decimal import Decimal
from math import ceil, log
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from zephyrant.loans import Loan, check, solve
from zephyrant.loans.questions import as_it_goes, ways_out
from zephyrant.loans.statement import Statement, unanswered

AMOUNT, RATE = 72_900.0, 0.071 / 12


def _loan(**changes: object) -> Loan:
    stated = {
        "zephyrant": "loan/1",
        "currency": "EUR",
        "principal": "72900",
        "rate": {"percent": "7.1", "compounding": "month"},
        "count": "?",
        "payment": "400",
        "every": "month",
    }
    return check({**stated, **changes})


def _payment(count: int) -> float:
    return AMOUNT * RATE / (1 - (1 + RATE) ** -count)


def _count(payment: float) -> int:
    return ceil(-log(1 - AMOUNT * RATE / payment) / log(1 + RATE))


class WaysOut(TestCase):
    def test_a_payment_that_never_repays(self) -> None:
        told = {(str(way.path), way.value): way.answer for way in ways_out(_loan())}
        self.assertEqual(told["payment", "432"], str(_count(432)))
        for years in (30, 20, 10):
            count = 12 * years
            at_least = ceil(100 * _payment(count)) / 100
            near = [
                value
                for (path, value), answer in told.items()
                if path == "payment" and answer == str(count)
            ]
            self.assertEqual(len(near), 1, years)
            self.assertAlmostEqual(float(near[0]), at_least, delta=0.011)
        rates = [float(value) for (path, value), _ in told.items() if path == "rate.percent"]
        # 400 a month for thirty years: what it is worth at that rate is what is lent.
        self.assertEqual(len(rates), 1)
        monthly = rates[0] / 1200
        self.assertAlmostEqual(400 * (1 - (1 + monthly) ** -360) / monthly, AMOUNT, delta=80)
        amounts = [float(value) for (path, value), _ in told.items() if path == "principal"]
        self.assertAlmostEqual(amounts[0], 400 * (1 - (1 + RATE) ** -360) / RATE, delta=1.01)

    def test_more_is_repaid_than_is_owed(self) -> None:
        ways = ways_out(_loan(principal="1000", payment="500", count="12", balance="?"))
        told = {str(way.path): way.value for way in ways}
        self.assertEqual(told["count"], "2")
        exact = 1000 * RATE / (1 - (1 + RATE) ** -12)
        self.assertAlmostEqual(float(told["payment"]), exact, delta=0.01)

    def test_nothing_paid_leaves_too_little(self) -> None:
        ways = ways_out(_loan(principal="1000", payment="?", count="12", balance="5000"))
        self.assertEqual(str(ways[0].path), "balance")
        self.assertAlmostEqual(float(ways[0].value), 1000 * (1 + RATE) ** 12, delta=0.05)

    def test_an_answer_needs_no_way_out(self) -> None:
        for loan in (_loan(payment="500"), _loan(count="240")):
            self.assertEqual(ways_out(loan), [])
            self.assertIsNone(as_it_goes(loan))

    @given(
        st.integers(1_000, 900_000),
        st.integers(2, 19),
        st.integers(1, 99),
        st.sampled_from(["year", "quarter", "month", "week"]),
        st.sampled_from(["in-arrears", "in-advance"]),
    )
    def test_what_is_offered_is_answered_so(
        self, principal: int, percent: int, share: int, every: str, timing: str
    ) -> None:
        a_year = {"year": 1, "quarter": 4, "month": 12, "week": 52}[every]
        interest = principal * percent / 100 / a_year
        payment = Decimal(interest * share / 110).quantize(Decimal("0.01"))
        stated = {
            "zephyrant": "loan/1",
            "currency": "EUR",
            "principal": str(principal),
            "rate": {"percent": str(percent)},
            "count": "?",
            "payment": str(payment),
            "every": every,
            "timing": timing,
        }
        loan = check(stated)
        ways = ways_out(loan)
        self.assertIsNotNone(solve(loan).reason)
        self.assertGreater(len(ways), 2)
        for way in ways:
            taken = dict(stated)
            if str(way.path) == "rate.percent":
                taken["rate"] = {"percent": way.value}
            else:
                taken[str(way.path)] = way.value
            self.assertEqual(solve(check(taken)).value, way.answer, way)

    def test_clauses_do_not_stand_in_the_way(self) -> None:
        loan = _loan(clauses=[{"at": 12, "repay": "1000"}])
        for way in ways_out(loan):
            self.assertGreater(int(way.answer), 100)
        self.assertGreater(len(ways_out(loan)), 3)


class AsItGoes(TestCase):
    def _told(self, **changes: str) -> tuple[str | None, list[float]]:
        stated = {
            "marks": "comma-point",
            "name": "",
            "currency": "EUR",
            "principal": "72,900",
            "percent": "7.1",
            "compounding": "month",
            "count": "?",
            "payment": "400",
        }
        told = unanswered(Statement.model_validate({**stated, **changes}))
        closing = [] if told.schedule is None else told.schedule.money["closing"]
        return told.goes, [float(each) / 100 for each in closing]

    def test_a_balance_that_grows(self) -> None:
        says, owed = self._told()
        grown = AMOUNT * (1 + RATE) ** 240 - 400 * ((1 + RATE) ** 240 - 1) / RATE
        self.assertEqual(len(owed), 240)
        self.assertAlmostEqual(owed[-1], grown, delta=2)
        self.assertEqual(says, f"As it goes, {owed[-1]:,.2f} is owed after 20 years.")

    def test_repaid_before_the_end(self) -> None:
        says, owed = self._told(principal="1,000", payment="500", count="12", balance="?")
        self.assertEqual(says, "As it goes, it is repaid after 3 months.")
        self.assertEqual((len(owed), owed[-1]), (3, 0))

    def test_nothing_paid(self) -> None:
        says, owed = self._told(principal="1,000", payment="?", count="12", balance="5,000")
        self.assertIn("With nothing paid", says or "")
        self.assertAlmostEqual(owed[-1], 1000 * (1 + RATE) ** 12, delta=0.05)

    def test_what_has_an_answer_goes_nowhere(self) -> None:
        self.assertEqual(self._told(payment="500"), (None, []))
