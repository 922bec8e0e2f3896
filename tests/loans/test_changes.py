"""What changed between two statements, in words."""

from typing import Any
from unittest import TestCase

from loans.changes import changed_figures, changes
from loans.entry import Statement

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
