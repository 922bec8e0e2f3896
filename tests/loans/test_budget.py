"""What a loan costs before it is worked, and where the work ends when its budget is spent."""

import pickle
from collections.abc import Callable
from decimal import Decimal
from itertools import count
from typing import Any
from unittest import TestCase

from zephyrant.loans import MARKS, BudgetSpentError, FieldError, NotALoan, solve, within
from zephyrant.loans.budget import grown
from zephyrant.loans.document.price import price
from zephyrant.loans.questions.sensitivity import Axis, sensitivity_of
from zephyrant.loans.statement.statement import Statement
from zephyrant.loans.statement.working import unworked, work

from .documents import loan

DAYS: dict[str, Any] = {"count": 36_500, "every": "day", "rate": {"percent": "4.2"}}
FEE = {"at": 0, "fee": "500"}
AIM = {"figure": "us_apr", "is": "4.5", "by": "rate.percent"}


def spent_after(looks: int) -> Callable[[], bool]:
    """A budget of so many looks: no clock, so that a slow machine changes nothing."""
    seen = count()
    return lambda: next(seen) >= looks


class Budgets(TestCase):
    def spent(self, looks: int, ask: Callable[[], object], seconds: float = 1e9) -> str:
        with self.assertRaises(BudgetSpentError) as raised, within(spent_after(looks), seconds):
            ask()
        (error,) = raised.exception.errors
        return f"{error.field}: {error.message}"

    def test_it_is_said_at_the_figure_that_costs_most(self) -> None:
        repaid = [{"at": place, "repay": "1"} for place in range(1, 200)]
        for document, field in (
            (loan(**DAYS), "count"),
            (loan(count=360, clauses=repaid), "clauses"),
            (loan(clauses=[FEE], aim=AIM), "aim.is"),
        ):
            with self.subTest(field):
                said = self.spent(1, lambda document=document: solve(document))  # type: ignore[misc]
                self.assertTrue(said.startswith(f"{field}: "), said)

    def test_numbers_in_it_are_in_the_marks_of_the_reader(self) -> None:
        with self.assertRaises(BudgetSpentError) as raised, within(spent_after(1), 1e9):
            solve(loan(**DAYS), MARKS["point-comma"])
        self.assertIn("36.500 payments", raised.exception.errors[0].message)

    def test_what_is_far_too_dear_is_not_begun(self) -> None:
        self.assertIn("count", self.spent(10**9, lambda: solve(loan(**DAYS)), seconds=0.001))

    def test_an_aim_is_not_told_as_unreached_for_want_of_work(self) -> None:
        whole = count()
        with within(lambda: next(whole) < 0, 1e9):
            reached = solve(loan(clauses=[FEE], aim=AIM))
        assert reached.aim
        self.assertIsNotNone(reached.aim["value"])
        for part in (10, 2):
            self.spent(next(whole) // part, lambda: solve(loan(clauses=[FEE], aim=AIM)))

    def test_a_sweep_ends_too(self) -> None:
        axis = Axis(path="rate.percent", values=tuple(map(Decimal, range(1, 50))))
        self.spent(20, lambda: sensitivity_of(loan(clauses=[FEE]), [axis], ["answer"]))

    def test_what_grows_tells_how_far_it_is(self) -> None:
        told: list[float] = []
        with within(lambda: False, 1.0, told.append):
            for done in (0, 1, 4, 9):
                grown(done, 4)
            grown(1, 0)
        self.assertEqual(told, [0.0, 0.25, 1.0, 1.0])
        # Where nobody asks, nobody is told; the budget is looked at as well.
        grown(1, 2)
        with self.assertRaises(BudgetSpentError), within(lambda: True, 1.0, told.append):
            grown(1, 2)
        self.assertEqual(len(told), 4)

    def test_a_statement_says_so_at_its_entry_and_keeps_its_document(self) -> None:
        typed = Statement(
            principal="48,250", percent="6.35", count="36,500", every="day", payment="?"
        )
        with self.assertRaises(BudgetSpentError) as raised, within(spent_after(1), 1e9):
            work(typed)
        told = unworked(typed, raised.exception)
        self.assertEqual([error.field for error in told.errors], ["count"])
        assert told.document
        self.assertEqual((told.document["count"], told.answer), (36_500, None))

    def test_enough_is_enough(self) -> None:
        with within(lambda: False, 1e9):
            self.assertEqual(solve(loan()).value, "938.82")
        self.assertEqual(solve(loan()).value, "938.82")

    def test_prices_follow_what_is_worked(self) -> None:
        plain = price(loan(count=360)).seconds
        self.assertLess(plain, price(loan(**DAYS)).seconds / 10)
        levels = [{"from": 1, "to": 359, "repay": "1", "then": "re-level"}]
        self.assertLess(plain, price(loan(count=360, clauses=levels)).seconds)
        self.assertLess(10 * plain, price(loan(count=360, clauses=[FEE], aim=AIM)).seconds)

    def test_refusals_travel_between_processes(self) -> None:
        error = FieldError(field="count", message="Too many.")
        for refusal in (BudgetSpentError(error), NotALoan([error])):
            self.assertEqual(pickle.loads(pickle.dumps(refusal)).errors, (error,))
