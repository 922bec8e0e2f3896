"""No answer is an answer: a reason with the figure that would help."""

from unittest import TestCase

from .documents import solve


class NoAnswer(TestCase):
    def test_reasons(self) -> None:
        rate = {"percent": "?"}
        cases = [
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

    def test_the_figure_given_is_the_border(self) -> None:
        """A cent more than the payment that never repays does repay."""
        self.assertEqual(solve(count="?", payment="252.01").solutions, ())
        self.assertNotEqual(solve(count="?", payment="252.02").solutions, ())

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
