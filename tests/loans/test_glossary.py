"""The words that are explained: every result has one, and what they say holds."""

from typing import get_args
from unittest import TestCase

from zephyrant.loans import GLOSSARY, check, facts_of, solve
from zephyrant.loans.answer.facts import About
from zephyrant.loans.wording.marks import MARKS


class Words(TestCase):
    def test_every_result_on_the_screen_is_explained(self) -> None:
        loan = check(
            {
                "zephyrant": "loan/1",
                "currency": "EUR",
                "principal": "10000",
                "rate": {"percent": "7.3"},
                "start": "2027-03-01",
                "count": 24,
                "payment": "?",
                "value": {"amount": "60000", "highest": "80"},
                "clauses": [
                    {"at": 0, "fee": {"percent": "2"}},
                    {"at": 6, "advance": "4000"},
                ],
            }
        )
        told = facts_of(loan, solve(loan), MARKS["comma-point"])
        names = {fact.name for fact in told}
        self.assertEqual({fact.about for fact in told}, set(get_args(About)))
        self.assertGreater(len(names), 13)
        self.assertEqual(names - set(GLOSSARY), set())

    def test_they_are_sentences(self) -> None:
        for name, term in GLOSSARY.items():
            with self.subTest(name):
                self.assertRegex(term.says, r"^[A-Z].*\.$")
                self.assertLess(len(term.says), 220)

    def test_the_rate_they_give_as_an_example(self) -> None:
        self.assertIn(f"{100 * (1.005**12 - 1):.4f}\u00a0%", GLOSSARY["effective"].says)
