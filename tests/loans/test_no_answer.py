"""No answer is an answer: a reason with the figure that would help."""

from decimal import Decimal
from typing import Any
from unittest import TestCase

from zephyrant import loans
from zephyrant.loans.answer.solving import with_the_answer
from zephyrant.loans.questions.sensitivity import ANSWER, Axis, sensitivity_of

from .documents import PERIODIC, loan, solve


class NoAnswer(TestCase):
    def test_reasons(self) -> None:
        rate = {"percent": "?"}
        cases: list[tuple[dict[str, Any], str]] = [
            (
                {"count": "?", "payment": "252.01"},
                "A payment of 252.01 or less never repays: the first month’s interest is 252.01.",
            ),
            ({"count": "?", "payment": "0"}, "252.01 or less never repays"),
            (
                {"count": "?", "payment": "250", "timing": "in-advance"},
                "A payment of 250.70 or less never repays: the first month’s interest on the rest "
                "is 250.70.",
            ),
            ({"count": "?", "payment": "900", "balance": "60000"}, "never grows to 60000.00"),
            ({"count": "?", "payment": "900", "balance": "48250"}, "Nothing is to be repaid"),
            (
                {"count": "?", "payment": "1", "rate": {"percent": "0"}},
                "It would take 48250 payments; at most 36500 are laid out here. 36500 payments of "
                "1.32 would do it.",
            ),
            ({"payment": "2000", "balance": "?"}, "by the end 74549.75 too much has been paid"),
            ({"balance": "100000"}, "even with nothing paid only 65954.14 is owed"),
            ({"payment": "48250", "timing": "in-advance", "rate": rate}, "must be below 48250.00"),
            ({"payment": "0", "rate": rate}, "neither a payment nor a balance"),
            ({"principal": "0", "payment": "10", "rate": rate}, "Nothing is lent"),
            ({"principal": "0", "payment": "0", "rate": rate}, "every rate fits"),
            (
                {"payment": "100", "timing": "in-advance", "count": 1, "rate": rate},
                "the only payment, 100.00, is made at once",
            ),
        ]
        for changes, reason in cases:
            with self.subTest(**changes):
                found = solve(**changes)
                self.assertIn(reason, found.reason or "")
                self.assertEqual((found.solutions, found.value, found.exact), ((), None, None))
                self.assertEqual(found.schedule, [])

    def test_reasons_where_clauses_or_a_purchase_are_in_the_way(self) -> None:
        cases: list[tuple[dict[str, Any], str]] = [
            ({"clauses": [{"from": 1, "payment": "900"}]}, "no regular one is left to find"),
            (
                {
                    "principal": "10000",
                    "payment": "938.82",
                    "clauses": [{"at": 7, "payment": "?"}],
                },
                "this one would have to give back",
            ),
            (
                {"payment": "2000", "clauses": [{"at": 60, "repay": "?"}]},
                # The same 74,549.75 by which 60 payments of 2,000 overpay.
                "74549.75 would have to be given back here",
            ),
            (
                {"payment": "10", "clauses": [{"at": 1, "advance": "?"}]},
                "do not even repay what is lent without this",
            ),
            (
                {"payment": "900", "clauses": [{"at": 0, "fee": "?", "taken": "apart"}]},
                "paid apart changes what the loan costs, not what it leaves",
            ),
            (
                {"payment": "0", "clauses": [{"from": 13, "step": {"percent": "?"}}]},
                "does not change what is owed",
            ),
            (
                {"payment": "100", "principal": "?", "clauses": [{"at": 1, "advance": "100000"}]},
                "What the clauses lend is more than the payments repay",
            ),
            (
                {
                    "principal": None,
                    "payment": "100",
                    "purchase": {"price": "0", "down": {"percent": "?"}},
                },
                "The price is nothing",
            ),
            (
                {
                    "principal": None,
                    "payment": "100",
                    "purchase": {"price": "1000", "down": {"amount": "?"}},
                },
                "more than the price: nothing is to be paid down",
            ),
            (
                {"count": "?", "payment": "1", "clauses": [{"at": 1, "advance": "5"}]},
                "With these clauses the balance never comes to 0.00 in 36500 payments",
            ),
            (
                {
                    "rate": {"percent": "?"},
                    "payment": "0",
                    "clauses": [{"at": 1, "fee": "5", "taken": "added"}],
                },
                # 48,250 and 5 with nothing paid.
                "without interest 48255.00 more is owed at the end than is to be left",
            ),
            (
                {
                    "principal": "0",
                    "rate": {"percent": "?"},
                    "payment": "0",
                    "clauses": [{"at": 1, "advance": "0"}],
                },
                "every rate fits",
            ),
            (
                {
                    "payment": "938.82",
                    "clauses": [
                        {"from": 60, "rate": {"percent": "?"}},
                        {"from": 60, "rate": {"percent": "5"}},
                    ],
                },
                "another clause overrules it",
            ),
            (
                {
                    "principal": "1000",
                    "count": 0,
                    "payment": None,
                    "rate": {"percent": "?", **PERIODIC},
                    "clauses": [{"at": 1, "repay": "100"}, {"at": 2, "advance": "500"}],
                },
                # 1,000 and 500 lent, 100 repaid.
                "without interest 1400.00 more is owed",
            ),
            (
                {"payment": "0", "balance": "?", "count": 600, "rate": {"percent": "900"}},
                # A month at 900 % a year on 48,250.
                "A payment of 36187.50 keeps it from growing",
            ),
            (
                {"count": "?", "payment": "0", "balance": "60000", "rate": {"percent": "-1"}},
                "At this rate the balance never grows to 60000.00: 48250.00 is lent.",
            ),
            (
                {"count": "?", "payment": "0", "balance": "1", "rate": {"percent": "-1"}},
                "With payments of 0.00 at this rate the balance never comes to 1.00",
            ),
        ]
        for changes, reason in cases:
            with self.subTest(**changes):
                terms = {"rate": {"percent": "6.35", "compounding": "half-year"}, **changes}
                found = solve(**terms)
                self.assertIn(reason, found.reason or "")
                self.assertEqual((found.solutions, found.value, found.schedule), ((), None, []))

    def test_the_figure_given_is_the_border(self) -> None:
        """A cent more than the payment that never repays does repay."""
        self.assertEqual(solve(count="?", payment="252.01").solutions, ())
        self.assertNotEqual(solve(count="?", payment="252.02").solutions, ())

    def test_what_cents_keep_from_repaying_stops_nothing_asked_of_it(self) -> None:
        """Unrounded a payment of 621.92 repays in the end, to the cent it never does."""
        stuck = loan(principal="21796.23", rate={"percent": "34.24"}, count="?", payment="621.92")
        says = "A payment of 621.92 or less never repays"
        self.assertIn(says, loans.solve(stuck).reason or "")
        with self.assertRaises(loans.NotALoan) as raised:
            with_the_answer(stuck)
        self.assertIn(says, raised.exception.errors[0].message)
        swept = sensitivity_of(
            stuck,
            [Axis(path="payment", values=(Decimal("621.92"), Decimal(700)))],
            [ANSWER, "total_paid"],
        )
        self.assertIn(says, swept["reasons"]["0"])
        self.assertEqual(swept["results"][ANSWER][0][0], None)
        self.assertNotEqual(swept["results"][ANSWER][1][0], None)

    def test_a_count_that_cents_change_is_noted(self) -> None:
        found = solve(count="?", payment="252.02")
        self.assertTrue((found.exact or "").startswith("1932.5"))
        self.assertEqual(found.value, "1947")
        self.assertIn("unrounded it would be 1933", found.notes[0])

    def test_a_rate_below_zero_is_an_answer_with_a_note(self) -> None:
        found = solve(payment="500", rate={"percent": "?"})
        self.assertTrue((found.exact or "").startswith("-"))
        self.assertIn("below zero", found.notes[0])

    def test_a_loan_that_grows_to_its_balance(self) -> None:
        found = solve(count="?", payment="100", balance="60000")
        self.assertEqual(found.value, "66")
        self.assertEqual(found.schedule[-1]["closing"], "60000.00")
