"""What moves a loan: every point of a sweep is a fresh solve; values as they are typed."""

from decimal import Decimal
from typing import Any
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st

from zephyrant import loans
from zephyrant.loans.document.figure_path import figure_path
from zephyrant.loans.document.paths import with_figure
from zephyrant.loans.numbers.decimals import plain
from zephyrant.loans.questions.sensitivity import MOST_POINTS, Axis, sensitivity_of
from zephyrant.loans.questions.small_changes import small_changes
from zephyrant.loans.statement.statement import Statement
from zephyrant.loans.statement.values import read_values, suggested_values
from zephyrant.loans.statement.variations import Varied, variant, vary

from .documents import document, irregular, loan, regular

RESULTS = ("answer", "payment", "total_paid", "total_interest", "final_payment")
PRESS = Statement(
    principal="48250", percent="6.35", compounding="half-year", count="60", payment="?"
)


def fresh(asked: loans.Loan, name: str) -> str | None:
    """A result as a solve of the one loan tells it."""
    answer = loans.solve(asked)
    if answer.reason:
        return None
    if name in ("answer", "payment"):
        return answer.value
    # A payment may be known whose schedule to the cent cannot be laid.
    if not answer.totals:
        return None
    return {
        "total_paid": answer.totals["paid"],
        "total_interest": answer.totals["interest"],
        "final_payment": answer.totals["final_payment"],
    }[name]


class EveryPointIsAFreshSolve(TestCase):
    def same(self, content: dict[str, Any], axes: list[Axis], results: tuple[str, ...]) -> None:
        asked = loans.check(content)
        swept = sensitivity_of(asked, axes, results)
        for row, value in enumerate(swept["values"][0]):
            for column, other in enumerate(swept["values"][1] if len(axes) > 1 else [""]):
                try:
                    moved = with_figure(asked, figure_path(axes[0].path), value)
                    if other:
                        moved = with_figure(moved, figure_path(axes[1].path), other)
                except loans.NotALoan:
                    continue
                for name in results:
                    found = swept["results"][name][row][column]
                    expected = fresh(moved, name)
                    if found is None or expected is None:
                        self.assertEqual(found, expected)
                    else:
                        self.assertEqual(Decimal(found), Decimal(expected), (name, value, other))

    @given(regular(), st.sampled_from(["principal", "rate.percent", "count", "balance"]))
    @settings(deadline=None, max_examples=120)
    def test_of_regular_loans(self, content: dict[str, Any], path: str) -> None:
        content = {**content, "count": min(content["count"], 60), "clauses": []}
        values = {
            "principal": ("1234.56", "48250", "999999.99"),
            "rate.percent": ("0", "0.0625", "6", "6.35", "31.5"),
            "count": ("1", "2", "36", "61"),
            "balance": ("0", "100", "4825.01"),
        }[path]
        axis = Axis(path=path, values=tuple(map(Decimal, values)))
        self.same(content, [axis], RESULTS)
        self.same(content, [axis], ("answer",))

    def test_of_two_figures_with_ties_and_balloons(self) -> None:
        # 6 % by months is 1/200: interest of every other row lies on a tie.
        axes = [
            Axis(path="principal", values=tuple(Decimal(each) for each in range(1000, 2000, 37))),
            Axis(path="count", values=(Decimal(7), Decimal(24), Decimal(60))),
        ]
        self.same(document(rate={"percent": "6"}, balance="100"), axes, RESULTS)

    @given(st.integers(100, 3000), st.sampled_from(["in-arrears", "in-advance"]))
    @settings(deadline=None, max_examples=25)
    def test_of_a_rate_that_is_asked_for(self, payment: int, timing: str) -> None:
        content = document(rate={"percent": "?"}, payment=str(payment), timing=timing)
        lent = tuple(Decimal(each) for each in (9000, 20000, 48250))
        self.same(content, [Axis(path="principal", values=lent)], ("answer",))
        for quoted in ("effective", "periodic", "continuous"):
            rate = {"percent": "?", "quoted": quoted}
            axis = Axis(path="count", values=(Decimal(24), Decimal(84)))
            self.same({**content, "rate": rate}, [axis], ("answer",))

    @given(irregular())
    @settings(deadline=None, max_examples=10)
    def test_of_irregular_loans(self, content: dict[str, Any]) -> None:
        axis = Axis(path="rate.percent", values=(Decimal(1), Decimal(5)))
        self.same(content, [axis], ("answer", "total_interest"))

    def test_parts_are_together_the_whole(self) -> None:
        asked = loan(clauses=[{"at": 12, "repay": "500"}], count=24)
        axes = [
            Axis(path="rate.percent", values=(Decimal(2), Decimal(5), Decimal(9))),
            Axis(path="principal", values=(Decimal(100), Decimal(9000))),
        ]
        whole = sensitivity_of(asked, axes, ("answer",))
        self.assertIsNone(whole["next"])
        told: dict[int, str | None] = {}
        reasons: dict[str, str] = {}
        start: int | None = 0
        while start is not None:
            # There is always enough: a point a part.
            part = sensitivity_of(asked, axes, ("answer",), start, lambda: True)
            following = 6 if part["next"] is None else part["next"]
            self.assertEqual(following, start + 1)
            row = [cell for cells in part["results"]["answer"] for cell in cells]
            self.assertEqual(len(row), 6)
            told[start] = row[start]
            reasons |= part["reasons"]
            start = part["next"]
        self.assertEqual(
            list(told.values()), [cell for cells in whole["results"]["answer"] for cell in cells]
        )
        self.assertEqual(reasons, whole["reasons"])
        self.assertTrue(reasons)
        # What arrays work is there at once, and beyond the end there is nothing more.
        self.assertIsNone(sensitivity_of(loan(), axes, ("answer",), 0, lambda: True)["next"])
        self.assertIsNone(sensitivity_of(asked, axes, ("answer",), 6)["next"])

    def test_what_has_no_answer_says_why(self) -> None:
        asked = loan(count="?", payment="600")
        swept = sensitivity_of(
            asked, [Axis(path="rate.percent", values=(Decimal(2), Decimal(40)))], ("answer",)
        )
        self.assertIsNotNone(swept["results"]["answer"][0][0])
        self.assertIsNone(swept["results"]["answer"][1][0])
        self.assertIn("never repays", swept["reasons"]["1"])


class Typed(TestCase):
    def test_values_as_they_are_written(self) -> None:
        for path, typed, expected in (
            ("rate.percent", "5.5 to 6 by 1/8", ["5.5", "5.625", "5.75", "5.875", "6"]),
            ("rate.percent", "6, 6 3/8 and 7", ["6", "6.375", "7"]),
            ("count", "3 to 5 years by 1 year", ["36", "48", "60"]),
            ("count", "3 years to 5 years by 12", ["36", "48", "60"]),
            ("count", "12; 24", ["12", "24"]),
            ("principal", "48k to 50k by 1,000", ["48000", "49000", "50000"]),
        ):
            with self.subTest(typed):
                found = read_values(typed, figure_path(path), PRESS, MOST_POINTS)
                self.assertEqual([plain(value) for value in found], expected)

    def test_refused_with_a_sentence(self) -> None:
        for varied, field in (
            ([Varied(path="rate.percent", typed="six")], "varied.0.typed"),
            ([Varied(path="rate.percent", typed="7 to 6 by 1/8")], "varied.0.typed"),
            ([Varied(path="rate.percent", typed="0 to 100 by 0.00001")], "varied.0.typed"),
            ([Varied(path="rate.percent", typed=";")], "varied.0.typed"),
            ([Varied(path="payment", typed="900")], "varied.0.path"),
            ([Varied(path="luck", typed="900")], "varied.0.path"),
            ([Varied(path="count"), Varied(path="count")], "varied.1.path"),
            (
                [
                    Varied(path="rate.percent", typed="1 to 60 by 0.5"),
                    Varied(path="count", typed="1 to 100 by 1"),
                ],
                "varied.1.typed",
            ),
            ([], "varied"),
        ):
            with self.subTest(varied=varied), self.assertRaises(loans.NotALoan) as raised:
                vary(PRESS, varied, ["answer"])
            (wrong,) = raised.exception.errors
            self.assertEqual(wrong.field, field)
            self.assertRegex(wrong.message, r"^.{12,}[.]$")
        for results in ([], ["luck"]):
            with self.assertRaises(loans.NotALoan):
                vary(PRESS, [Varied(path="count")], results)

    def test_nothing_typed_varies_around_what_stands(self) -> None:
        self.assertEqual(
            suggested_values(figure_path("rate.percent"), Decimal("6.35"), PRESS),
            "5.85 to 6.85 by 0.125",
        )
        self.assertEqual(
            suggested_values(figure_path("count"), Decimal(60), PRESS), "12 to 108 by 12"
        )
        found = vary(PRESS, [Varied(path="principal")], ["answer"])
        self.assertIn(found.standing[0], found.swept["values"][0])

    def test_a_point_opened_is_that_loan(self) -> None:
        moved = variant(PRESS, {"rate.percent": "6.1", "count": "48"})
        self.assertEqual((moved.percent, moved.count, moved.payment), ("6.10", "48", "?"))


class ALittleMore(TestCase):
    def test_by_the_formula(self) -> None:
        # A = P i / (1 - v^n), with a thousand more, an eighth more, one payment more.
        def payment(lent: float, percent: float, count: int) -> float:
            i = (1 + percent / 200) ** (1 / 6) - 1
            return lent * i / (1 - (1 + i) ** -count)

        found = {each["path"]: float(each["value"]) for each in small_changes(loan())}
        self.assertAlmostEqual(found["principal"], payment(49250, 6.35, 60), delta=0.006)
        self.assertAlmostEqual(found["rate.percent"], payment(48250, 6.475, 60), delta=0.006)
        self.assertAlmostEqual(found["count"], payment(48250, 6.35, 61), delta=0.006)
        self.assertNotIn("payment", found)
