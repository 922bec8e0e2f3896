"""What changed between two statements, in words."""

from typing import Any
from unittest import TestCase

from zephyrant.loans.statement.differences import changed_figures, changes
from zephyrant.loans.statement.statement import Statement

PRESS = Statement(
    name="Press",
    principal="48,250",
    percent="6.35",
    compounding="half-year",
    count="60",
    payment="?",
)


class Changes(TestCase):
    def test_each_in_words(self) -> None:
        cases: list[tuple[dict[str, Any], list[str]]] = [
            ({"percent": "6.10"}, ["rate 6.35 % to 6.10 %, nominal, compounded half-yearly"]),
            ({"principal": "50k"}, ["amount lent 48,250.00 to 50,000.00"]),
            ({"count": "4 years"}, ["number of payments 60 to 48"]),
            ({"balance": "1,000"}, ["balance at the end 0.00 to 1,000.00"]),
            ({"percent": "6.1o"}, ["rate 6.35 % to “6.1o”, nominal, compounded half-yearly"]),
            ({"name": "Still"}, ["name “Press” to “Still”"]),
            ({"currency": "CHF"}, ["currency EUR to CHF"]),
            ({"timing": "in-advance"}, ["paid in arrears to in advance"]),
            ({"every": "quarter"}, ["paid monthly to quarterly"]),
            (
                {"compounding": None},
                ["quoted nominal, compounded half-yearly to nominal, compounded monthly"],
            ),
            (
                {"quoted": "effective"},
                ["quoted nominal, compounded half-yearly to effective"],
            ),
            (
                {"rounding": {"payment": "up", "to": "0.05"}},
                ["rounding nearest to up 0.05"],
            ),
            (
                {"payment": "950", "count": "?"},
                ["number of payments 60 to ?", "payment ? to 950.00"],
            ),
        ]
        for changed, words in cases:
            after = Statement.model_validate({**PRESS.model_dump(), **changed})
            with self.subTest(words):
                self.assertEqual(changes(PRESS, after, "comma-point"), words)

    def test_clauses_dates_and_aims_in_words(self) -> None:
        cases: list[tuple[dict[str, Any], list[str]]] = [
            (
                {"clauses": [{"verb": "repay", "at": "12", "figure": "5,000", "then": "re-level"}]},
                ["clauses none to at 12 repay 5,000, set anew"],
            ),
            (
                {
                    "clauses": [
                        {"verb": "pay", "is_stretch": True, "from": "7", "to": "9"},
                        {"verb": "rate", "is_stretch": True, "from": "13", "figure": "7"},
                        {"verb": "fee", "at": "0", "figure": "2", "in_percent": True},
                    ]
                },
                ["clauses none to from 7 to 9 pay nothing; from 13 rate 7 %; at 0 fee 2 %"],
            ),
            (
                # Where none is typed, the first payment is a period after the start.
                {"start": "1 Mar 2027"},
                [
                    "lent on without a date to 1 Mar 2027",
                    "first payment on without a date to 1 Apr 2027",
                ],
            ),
            (
                {"start": "1.3.2027", "first_payment": "15 Apr 2027"},
                [
                    "lent on without a date to 1 Mar 2027",
                    "first payment on without a date to 15 Apr 2027",
                ],
            ),
            ({"start": "soon"}, ["lent on without a date to soon"]),
            ({"odd_days": "compound"}, ["odd days bear simple interest to compound interest"]),
            (
                {"aim": {"figure": "total_interest", "is": "9,000", "by": "principal"}},
                ["aim none to total_interest 9,000 by principal"],
            ),
            (
                {"rounding": {"interest": "none", "overpaid": "shown"}},
                ["rounding nearest to nearest, interest unrounded, overpaid shown"],
            ),
            (
                {"quoted": "discount", "over": "90 days"},
                [
                    "quoted nominal, compounded half-yearly to discount taken in advance over "
                    "90 days"
                ],
            ),
            (
                {"quoted": "discount", "over": ""},
                ["quoted nominal, compounded half-yearly to discount, over no stated time or term"],
            ),
            (
                {
                    "is_purchase": True,
                    "price": "60,000",
                    "down": "20",
                },
                [
                    "amount lent 48,250.00 to 48,000.00",
                    "price none to 60,000.00",
                    "down payment none to 20.00 %",
                ],
            ),
        ]
        for changed, words in cases:
            after = Statement.model_validate({**PRESS.model_dump(), **changed})
            with self.subTest(words):
                self.assertEqual(changes(PRESS, after, "comma-point"), words)

    def test_the_same_figure_written_otherwise_is_no_change(self) -> None:
        after = PRESS.model_copy(
            update={"principal": "48250.00", "percent": "6.350", "count": "5y"}
        )
        self.assertEqual(changed_figures(PRESS, after), frozenset())
        self.assertEqual(changes(PRESS, after, "comma-point"), [])

    def test_in_the_readers_marks(self) -> None:
        after = PRESS.model_copy(update={"principal": "50,000"})
        self.assertEqual(
            changes(PRESS, after, "point-comma"), ["amount lent 48.250,00 to 50.000,00"]
        )
