"""More repaid than is owed: cut to it, or shown as a balance below zero."""

from decimal import ROUND_HALF_UP, Decimal
from typing import Any
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st

from zephyrant.loans import Answer
from zephyrant.loans.files.formula_sheet import FIRST_ROW
from zephyrant.loans.files.workbook import workbook_of
from zephyrant.loans.questions.reconciliation import reconcile
from zephyrant.loans.wording.marks import MARKS

from .documents import PERIODIC, loan, solve
from .sheet import Sheet

CENT = Decimal("0.01")


def owed_after(principal: Decimal, percent: Decimal, payment: Decimal, payments: int) -> Decimal:
    """By hand: interest to the cent, then the payment, row by row."""
    owed = principal
    for _ in range(payments):
        owed += (owed * percent / 100).quantize(CENT, ROUND_HALF_UP) - payment
    return owed


class MoreThanIsOwed(TestCase):
    """10,000 at half a percent a month, 443.21 a month; after 12 payments 20,000 on top."""

    LEFT = owed_after(Decimal(10000), Decimal("0.5"), Decimal("443.21"), 12)

    def terms(self, *, count: int | str = 24, overpaid: str = "cut") -> dict[str, Any]:
        return {
            "principal": "10000",
            "rate": {"percent": "0.5", **PERIODIC},
            "count": count,
            "payment": "443.21",
            "clauses": [{"at": 12, "repay": "20000"}],
            "rounding": {"overpaid": overpaid},
        }

    def answer(self, **terms: Any) -> Answer:
        return solve(**self.terms(**terms))

    def test_cut_and_said(self) -> None:
        for count in (24, "?"):
            with self.subTest(count=count):
                answer = self.answer(count=count)
                last = answer.schedule[-1]
                self.assertEqual(last["number"], 12)
                self.assertEqual(Decimal(last["repay"]), self.LEFT)
                self.assertEqual(last["closing"], "0.00")
                over = Decimal(20000) - self.LEFT
                self.assertIn(f"{over} more than is owed", " ".join(answer.notes))
                self.assertIn(f"cut to {self.LEFT}", " ".join(answer.notes))

    def test_shown_below_zero(self) -> None:
        for count in (24, "?"):
            with self.subTest(count=count):
                answer = self.answer(count=count, overpaid="shown")
                last = answer.schedule[-1]
                over = Decimal(20000) - self.LEFT
                self.assertEqual((last["number"], last["repay"]), (12, "20000.00"))
                self.assertEqual(Decimal(last["closing"]), -over)
                self.assertIn(f"overpaid by {over}", " ".join(answer.notes))
                self.assertIn(f"{over} overpaid", answer.paid_as or "")
                assert answer.totals
                self.assertEqual(
                    Decimal(answer.totals["paid"]), 12 * Decimal("443.21") + Decimal(20000)
                )

    def test_given_back_at_once_it_costs_the_same(self) -> None:
        """What comes back at the moment it is paid moves no yearly cost."""
        cut, shown = self.answer(), self.answer(overpaid="shown")
        self.assertEqual(cut.yearly_cost, shown.yearly_cost)
        assert cut.totals and shown.totals
        self.assertEqual(cut.totals["interest"], shown.totals["interest"])

    def test_in_advance_no_interest_runs_on_what_is_overpaid(self) -> None:
        answer = solve(
            principal="1000",
            rate={"percent": "1", **PERIODIC},
            count=6,
            payment="100",
            timing="in-advance",
            clauses=[{"at": 2, "repay": "2000"}],
            rounding={"overpaid": "shown"},
        )
        # 900 at 1 % is 909; less 100 and 2,000.
        last = answer.schedule[-1]
        self.assertEqual((last["number"], last["interest"]), (2, "0.00"))
        self.assertEqual(last["closing"], "-1191.00")

    def test_money_lent_later_keeps_the_loan_open(self) -> None:
        for overpaid in ("cut", "shown"):
            with self.subTest(overpaid=overpaid):
                answer = solve(
                    principal="1000",
                    rate={"percent": "0", **PERIODIC},
                    count=4,
                    payment="100",
                    clauses=[{"at": 1, "repay": "1500"}, {"at": 2, "advance": "1000"}],
                    rounding={"overpaid": overpaid},
                )
                closings = [row["closing"] for row in answer.schedule]
                self.assertEqual(closings[:2], ["-600.00", "300.00"])
                self.assertEqual(closings[-1], "0.00")

    def test_a_workbook_of_it_closes_below_zero_too(self) -> None:
        asked = loan(**self.terms(overpaid="shown"))
        laid = workbook_of(asked)
        assert laid
        self.assertEqual(laid.terms.balance.value, self.LEFT - 20000)
        sheet, at = Sheet(laid), FIRST_ROW + len(laid.rows) - 1
        self.assertAlmostEqual(sheet.value(f"Schedule!G{at}"), float(self.LEFT - 20000), 6)
        self.assertEqual(len(laid.rows), 12)

    def test_held_against_itself_nothing_differs(self) -> None:
        rows = self.answer(overpaid="shown").schedule
        text = "\n".join(["number,closing", *(f"{row['number']},{row['closing']}" for row in rows)])
        asked = loan(**self.terms(overpaid="shown"))
        found = reconcile(asked, text, None, Decimal(0), MARKS["comma-point"])
        self.assertEqual((found.compared, found.rows_differing), (12, 0))

    @given(
        st.integers(1_000, 90_000),
        st.integers(-50, 300),
        st.integers(2, 40),
        st.integers(1, 100_000_000),
        st.data(),
    )
    @settings(deadline=None, max_examples=150)
    def test_any_repayment(
        self, principal: int, rate: int, count: int, repaid: int, data: st.DataObject
    ) -> None:
        """The row is the same by hand; cut and shown differ by what lies above only."""
        at = data.draw(st.integers(1, count - 1))
        payment = (Decimal(principal) / count).quantize(CENT)
        percent, repay = Decimal(rate) / 100, Decimal(repaid) / 100
        left = owed_after(Decimal(principal), percent, payment, at)
        if left <= 0:
            return
        rows = {}
        for overpaid in ("cut", "shown"):
            answer = solve(
                principal=str(principal),
                rate={"percent": str(percent), **PERIODIC},
                count=count,
                payment=str(payment),
                clauses=[{"at": at, "repay": str(repay)}],
                rounding={"overpaid": overpaid},
            )
            rows[overpaid] = answer.schedule
            says = {"cut": "more than is owed: it is cut", "shown": "the loan is overpaid by"}
            self.assertEqual(says[overpaid] in " ".join(answer.notes), repay > left)
        cut, shown = (rows[each][at - 1] for each in ("cut", "shown"))
        if repay <= left:
            self.assertEqual(rows["cut"], rows["shown"])
            self.assertEqual(Decimal(cut["closing"]), left - repay)
            return
        self.assertEqual(len(rows["cut"]), at)
        self.assertEqual(len(rows["shown"]), at)
        self.assertEqual((Decimal(cut["repay"]), cut["closing"]), (left, "0.00"))
        self.assertEqual(Decimal(shown["closing"]), left - repay)
        self.assertEqual(cut["interest"], shown["interest"])
