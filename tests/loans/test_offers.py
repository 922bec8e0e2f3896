"""More paid, points for a lower rate, loans side by side; against rolls and roots of their own."""

from decimal import ROUND_HALF_UP, Decimal
from math import ceil, log
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.optimize import brentq

from zephyrant import loans
from zephyrant.loans.statement.offers import (
    Candidate,
    More,
    PaidMore,
    Points,
    TwoOffers,
    paying_more,
    side_by_side,
    two_offers,
)
from zephyrant.loans.statement.statement import Statement, TypedClause
from zephyrant.loans.statement.working import loan_of
from zephyrant.loans.wording.cells import as_text, from_text

PRESS = Statement(
    principal="48250", percent="6.35", compounding="half-year", count="60", payment="?"
)
#: The rate of a month at 6.35 and at 5.85 % compounded half-yearly.
MONTH = (1 + 0.0635 / 2) ** (1 / 6) - 1
LOWER = (1 + 0.0585 / 2) ** (1 / 6) - 1
CENT = Decimal("0.01")


def rolled(lent: int, rate: float, payment: str, extra: dict[int, str]) -> tuple[int, Decimal]:
    """Payments and interest of a loan rolled to the cent, more being paid at some of them."""
    owed, interest, number = Decimal(lent), Decimal(0), 0
    while owed > 0:
        number += 1
        charged = (owed * Decimal(rate)).quantize(CENT, ROUND_HALF_UP)
        interest += charged
        owed += charged - Decimal(payment) - Decimal(extra.get(number, extra.get(0, "0")))
    return number, interest


class PayingMore(TestCase):
    def test_with_each_payment(self) -> None:
        found = paying_more(PRESS, More(each="100"))
        # The number of payments by the formula of the annuity.
        many = ceil(-log(1 - 48250 * MONTH / 1038.82) / log(1 + MONTH))
        self.assertEqual((found.payments_before, found.payments_after), (60, many))
        self.assertEqual(found.payments_saved, 60 - many)
        number, interest = rolled(48250, MONTH, "938.82", {0: "100"})
        self.assertEqual((number, found.interest_after), (many, f"{interest}"))
        saved = Decimal(found.interest_before) - interest
        self.assertEqual(Decimal(found.interest_saved), saved)
        self.assertIn(f"{60 - many} payments fewer", found.says)

    def test_a_new_payment_in_place_of_the_one_that_is_due(self) -> None:
        found = paying_more(PRESS, More(instead="1,038.82"))
        number, interest = rolled(48250, MONTH, "1038.82", {})
        self.assertEqual((found.payments_after, found.interest_after), (number, f"{interest}"))
        with self.assertRaises(loans.NotALoan) as raised:
            paying_more(PRESS, More(instead="900"))
        self.assertIn("938.82 is due", raised.exception.errors[0].message)

    def test_a_lump(self) -> None:
        found = paying_more(PRESS, More(lump="5k", at="12"))
        number, interest = rolled(48250, MONTH, "938.82", {12: "5000"})
        self.assertEqual((found.payments_after, found.interest_after), (number, f"{interest}"))

    def test_on_a_day_and_what_it_ends_on(self) -> None:
        dated = PRESS.model_copy(update={"start": "1 Mar 2027"})
        found = paying_more(dated, More(each="100", lump="5,000", at="15 Mar 2028"))
        self.assertEqual(found.ends_before, "2032-03-01")
        assert found.ends_after
        self.assertLess(found.ends_after, "2031-06-01")

    def test_without_interest(self) -> None:
        free = Statement(principal="12000", percent="0", count="60", payment="?")
        found = paying_more(free, More(each="100"))
        self.assertEqual((found.payments_after, found.interest_saved), (40, "0.00"))

    def test_the_statement_is_the_loan_with_more_paid(self) -> None:
        found = paying_more(PRESS, More(each="100", lump="5000", at="12"))
        again = loans.solve(loans.check(_document(found)))
        assert again.totals
        self.assertEqual(again.totals["interest"], found.interest_after)

    @given(st.integers(1, 3000), st.integers(1, 59), st.integers(1, 20_000))
    @settings(deadline=None, max_examples=40)
    def test_more_never_costs_more(self, each: int, at: int, lump: int) -> None:
        a = paying_more(PRESS, More(each=str(each)))
        b = paying_more(PRESS, More(each=str(each), lump=str(lump), at=str(at)))
        self.assertGreaterEqual(a.payments_saved, 0)
        self.assertGreaterEqual(Decimal(a.interest_saved), 0)
        if at < a.payments_after:
            self.assertGreaterEqual(b.payments_saved, a.payments_saved)
            self.assertGreaterEqual(Decimal(b.interest_saved), Decimal(a.interest_saved))

    def test_refused_at_its_field(self) -> None:
        for more, field in (
            (More(), "each"),
            (More(each="some"), "each"),
            (More(each="-5"), "each"),
            (More(each="?"), "each"),
            (More(instead="938.82"), "instead"),
            (More(instead="some"), "instead"),
            (More(lump="500", at="soon"), "at"),
            (More(lump="500", at="0.5"), "at"),
            (More(lump="0", at="3"), "lump"),
        ):
            with self.subTest(more=more), self.assertRaises(loans.NotALoan) as raised:
                paying_more(PRESS, more)
            self.assertEqual(raised.exception.errors[0].field, field)
        for half in ({"percent": "x"}, {"payment": "10", "count": "?"}):
            with self.assertRaises(loans.NotALoan):
                paying_more(PRESS.model_copy(update=half), More(each="5"))


def _document(found: PaidMore) -> object:
    return loans.write(loan_of(found.statement))


class PointsForALowerRate(TestCase):
    def test_points_on_equal_principal_speak_of_the_first_payment(self) -> None:
        # 60,000 in 60 parts of 1,000: 0.5 % and 0.45 % of it are 300.00 and 270.00 first.
        stated = Statement(
            principal="60000", percent="6", count="60", payment="?", repaid="equal-principal"
        )
        found = two_offers(stated, Points(percent="5.4", points="1", ends=""))
        self.assertIn("first payment of 1,270.00 instead of 1,300.00, 30.00 less", found.terms)

    def offers(self, ends: str = "", points: str = "1", percent: str = "5.85") -> TwoOffers:
        return two_offers(PRESS, Points(percent=percent, points=points, ends=ends))

    def owed(self, rate: float, after: int) -> float:
        each = 48250 * rate / (1 - (1 + rate) ** -60)
        grown = (1 + rate) ** after
        return 48250 * grown - each * (grown - 1) / rate

    def test_when_the_dearer_start_has_paid_off(self) -> None:
        found = self.offers()
        pay, less = (48250 * rate / (1 - (1 + rate) ** -60) for rate in (MONTH, LOWER))
        self.assertAlmostEqual(float(found.payment), pay, delta=0.006)
        self.assertAlmostEqual(float(found.payment_with_points), less, delta=0.006)
        self.assertEqual(found.points_cost, "482.50")
        alone = ceil(482.50 / (pay - less))
        self.assertEqual(found.paid_off_by_payments, alone)
        counted = next(
            k
            for k in range(1, 61)
            if k * (pay - less) + self.owed(MONTH, k) - self.owed(LOWER, k) >= 482.50
        )
        self.assertEqual(found.paid_off, counted)
        self.assertIn(f"after payment {counted}, counting", found.says)

    def test_true_costs_if_it_ends_earlier(self) -> None:
        found = self.offers("12; 36; 60")
        payment = float(found.payment_with_points)
        for end in found.ends:
            number = end["number"]
            left = self.owed(LOWER, number)

            def gap(i: float, number: int = number, left: float = left) -> float:
                paid = payment * (1 - (1 + i) ** -number) / i + left / (1 + i) ** number
                return paid + 482.50 - 48250

            month = float(brentq(gap, 1e-6, 0.05, xtol=1e-15))
            assert end["with_points_eu"] and end["with_points_us"]
            self.assertAlmostEqual(
                float(end["with_points_eu"]), 100 * ((1 + month) ** 12 - 1), delta=2e-4
            )
            self.assertAlmostEqual(float(end["with_points_us"]), 1200 * month, delta=2e-4)

    def test_the_cheaper_one_has_the_lower_true_cost(self) -> None:
        """In arrears and in advance, where the first payment saves at once."""
        for timing in ("in-arrears", "in-advance"):
            for points in ("0.64", "0.8", "0.94", "1.02"):
                stated = PRESS.model_copy(update={"timing": timing})
                other = Points(percent="5.85", points=points, ends="1 to 60 by 1")
                found = two_offers(stated, other)
                cheaper = [
                    end["number"]
                    for end in found.ends
                    if Decimal(end["with_points_us"] or 9) < Decimal(end["as_it_stands_us"] or 0)
                ]
                self.assertEqual(found.cheaper_from, cheaper[0], (timing, points))
                self.assertEqual(cheaper, list(range(cheaper[0], 61)))

    def test_what_is_said_of_each_payment_and_which_ends_are_told_at_once(self) -> None:
        found = self.offers()
        less = Decimal(found.payment) - Decimal(found.payment_with_points)
        self.assertEqual(Decimal(found.less_each), less)
        odd = TypedClause(at="2", verb="payment", figure="500")
        found = two_offers(PRESS.model_copy(update={"clauses": (odd,)}), Points(percent="5.85"))
        less = Decimal(found.payment) - Decimal(found.payment_with_points)
        self.assertEqual(Decimal(found.less_each), less)
        self.assertEqual(found.ends_typed, "12; 24; 36; 60")
        longer = PRESS.model_copy(update={"count": "130"})
        told = two_offers(longer, Points(percent="5.85")).ends_typed
        self.assertEqual(told, "12; 24; 36; 60; 84; 120; 130")

    def test_never_and_nothing_to_pay_off(self) -> None:
        never = self.offers(percent="6.3", points="2")
        self.assertEqual((never.paid_off, never.cheaper_from), (None, None))
        both = self.offers()
        self.assertIn(f"the cheaper one from payment {both.cheaper_from} on", both.says)
        in_money_alone = self.offers(points="1.3")
        self.assertIsNotNone(in_money_alone.paid_off)
        self.assertIsNone(in_money_alone.cheaper_from)
        self.assertNotIn("cheaper", in_money_alone.says)
        self.assertIn("never pay off", never.says)
        self.assertIn("no points", self.offers(points="0").says)

    def test_refused_at_its_field(self) -> None:
        for points, field in (
            (Points(), "percent"),
            (Points(percent="?"), "percent"),
            (Points(percent="5", points="-1"), "points"),
            (Points(percent="5", points="x"), "points"),
            (Points(percent="5", ends="61"), "ends"),
            (Points(percent="5", ends="never"), "ends"),
            (Points(percent="5", ends="1 to 60 by 0.5"), "ends"),
        ):
            with self.subTest(points=points), self.assertRaises(loans.NotALoan) as raised:
                two_offers(PRESS, points)
            self.assertEqual(raised.exception.errors[0].field, field)


class SideBySide(TestCase):
    def test_other_currencies_are_not_subtracted(self) -> None:
        yen = PRESS.model_copy(update={"currency": "JPY"})
        found = side_by_side([Candidate("a", PRESS), Candidate("b", yen)], 0, "comma-point")
        by_name = {row["name"]: row["cells"][1] for row in found.results}
        self.assertIsNone(by_name["Total paid"]["differs"])
        self.assertEqual(by_name["Number of payments"]["differs"], "±0")

    def test_dates_clauses_and_lines(self) -> None:
        dated = PRESS.model_copy(update={"start": "1 Mar 2027", "count": "48"})
        found = side_by_side([Candidate("a", dated), Candidate("b", PRESS)], 0, "comma-point")
        terms = {row["name"]: [cell["text"] for cell in row["cells"]] for row in found.terms}
        self.assertEqual(terms["Lent on"], ["1 Mar 2027, first payment 1 Apr 2027", None])
        first, second = found.lines
        assert first and second
        self.assertAlmostEqual(first["years"][-1], 4, delta=0.01)
        self.assertEqual((second["years"][-1], second["owed"][-1]), (5.0, 0.0))
        self.assertEqual(second["owed"][0], 48250.0)

    def test_refused(self) -> None:
        one = Candidate("a", PRESS)
        for candidates, base in (([], 0), ([one] * 7, 0), ([one], 1)):
            with self.assertRaises(loans.NotALoan):
                side_by_side(candidates, base, "comma-point")


class Cells(TestCase):
    def test_no_text_is_a_formula(self) -> None:
        for text, cell in (
            ("=1+1", "'=1+1"),
            ("@now", "'@now"),
            ("-12.5", "-12.5"),
            ("-cmd", "'-cmd"),
            ("Kiln", "Kiln"),
            ("'quoted", "'quoted"),
        ):
            self.assertEqual(as_text(text), cell)
            self.assertEqual(from_text(cell), text)


class NoPoints(TestCase):
    def test_an_offer_without_points_keeps_what_was_agreed(self) -> None:
        """The same rate and no points is the same loan: nothing is ahead, whatever its clauses."""
        clause = {"verb": "repay", "at": "12", "figure": "5000"}
        stated = PRESS.model_copy(update={"clauses": (TypedClause.model_validate(clause),)})
        found = two_offers(stated, Points(percent="6.35", points="0", ends="12"))
        self.assertEqual(found.payment, found.payment_with_points)
        self.assertEqual(set(found.ahead), {"0.00"})
        self.assertEqual(len(found.statement.clauses), 1)
