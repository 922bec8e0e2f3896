"""Money on a day: in which moment it moves, and what stands in the row, by hand in fractions."""

import re
from datetime import date
from decimal import Decimal
from fractions import Fraction
from math import ceil, log
from typing import Any
from unittest import TestCase

from scipy.optimize import brentq

from zephyrant import loans
from zephyrant.loans import MARKS, Answer
from zephyrant.loans.questions.balance_at import owed
from zephyrant.loans.questions.ending_charge import Charge
from zephyrant.loans.questions.payoff import payoff_at

from .documents import document, solve
from .test_noticed import annex_one


def of(**changes: Any) -> Answer:
    """10,000 at one percent a month, from 10 January 2027."""
    return solve(principal="10000", rate={"percent": "12"}, start="2027-01-10", **changes)


def month(days: int, of_days: int) -> Fraction:
    """The interest of so many days of a month, at one percent."""
    return Fraction(days, 100 * of_days)


class WhenItIsRepaid(TestCase):
    """The count is asked for, and money on days brings the balance there, or just not."""

    def until(self, repay: Fraction, **changes: Any) -> Fraction:
        clauses = [
            {"at": "2027-02-15", "advance": "500"},
            {"at": "2027-03-01", "repay": f"{float(repay):.2f}"},
        ]
        found = of(count="?", payment="900", clauses=clauses, **changes)
        return Fraction(found.exact or 0)

    def test_in_arrears(self) -> None:
        """10 February to 1 March are 19 of 28 days, 15 February to then 14."""
        owed = 9200 * (1 + month(19, 28)) + 500 * (1 + month(14, 28))
        reached = self.until(owed + Fraction(1, 50))
        self.assertAlmostEqual(float(reached), 1 + 19 / 28, 20)
        self.assertNotAlmostEqual(float(self.until(owed - 2)), 1 + 19 / 28, 3)

    def test_in_advance(self) -> None:
        """The second payment is made on 10 February, and its month runs from there."""
        after_payment = (10000 - 900) * (1 + month(31, 31)) - 900
        owed = after_payment * (1 + month(19, 28)) + 500 * (1 + month(14, 28))
        reached = self.until(owed + Fraction(1, 50), timing="in-advance")
        self.assertAlmostEqual(float(reached), 1 + 19 / 28, 20)
        later = self.until(owed - 2, timing="in-advance")
        self.assertNotAlmostEqual(float(later), 1 + 19 / 28, 3)

    def test_a_balance_grown_to(self) -> None:
        """Nothing is paid, and an advance on a day brings what is owed over what is to be."""
        clauses = [{"at": "2027-02-20", "advance": "3000"}]
        found = of(count="?", payment="0", balance="12000", clauses=clauses)
        self.assertAlmostEqual(float(found.exact or 0), 1 + 10 / 28, 20)


class WhatTheRowTells(TestCase):
    def test_all_that_moves_in_a_period_that_ends_the_loan(self) -> None:
        """Three days before the one that ends it, and both sides of a payment."""
        clauses = [
            {"at": "2027-02-12", "advance": "300"},
            {"at": "2027-02-13", "advance": "100"},
            {"at": "2027-02-14", "fee": "50", "taken": "added"},
            {"at": "2027-02-15", "fee": "22", "taken": "added"},
            {"at": "2027-02-16", "repay": "40"},
            {"at": "2027-02-17", "repay": "9"},
            {"at": "2027-02-20", "repay": "20000"},
        ]
        found = of(count=12, payment="900", clauses=clauses)
        row = found.schedule[-1]
        owed = 9200 * (1 + month(10, 28))
        moved = ((300, 8), (100, 7), (50, 6), (22, 5), (-40, 4), (-9, 3))
        owed += sum(amount * (1 + month(days, 28)) for amount, days in moved)
        told = (row["advance"], row["fee"], row["closing"])
        self.assertEqual(told, ("400.00", "72.00", "0.00"))
        self.assertLess(abs(Fraction(row["repay"]) - 49 - owed), Fraction(1, 100))

    def test_fees_before_and_at_a_payment_in_advance(self) -> None:
        clauses = [
            {"at": "2027-01-20", "fee": "50", "taken": "added"},
            {"at": 1, "fee": "22", "taken": "added"},
            {"at": "2027-02-20", "repay": "20000"},
        ]
        dated = {"first_payment": "2027-02-10", "timing": "in-advance"}
        row = of(count=12, payment="900", clauses=clauses, **dated).schedule[0]
        owed = 10000 * (1 + month(31, 31)) + 50 * (1 + month(21, 31)) + 22 - 900
        self.assertEqual((row["fee"], row["payment"], row["closing"]), ("72.00", "900.00", "0.00"))
        paid = Decimal(row["payment"]) + Decimal(row["repay"])
        self.assertEqual(Decimal(row["principal"]), paid - Decimal(row["interest"]))
        self.assertLess(abs(Fraction(row["repay"]) - owed * (1 + month(10, 28))), Fraction(1, 50))

    def test_interest_on_a_balance_below_zero_is_rounded_away_from_zero_too(self) -> None:
        """1 % of 50.50 the lender owes is 0.505; an advance later keeps the loan open."""
        clauses = [
            {"from": 1, "to": 3, "payment": "0"},
            {"at": 1, "repay": "1060.50"},
            {"at": 3, "advance": "500"},
        ]
        found = solve(principal="1000", count=6, rate={"percent": "12"}, clauses=clauses)
        second = found.schedule[1]
        told = (second["opening"], second["interest"], second["closing"])
        self.assertEqual(told, ("-50.50", "-0.51", "-51.01"))

    def test_interest_only_in_advance_of_what_is_left_after_a_repayment(self) -> None:
        """i / (1 + i) of what is owed before it is what keeps the rest as it is."""
        clauses = [{"from": 3, "to": 6, "pay": "interest"}, {"at": 4, "repay": "1000"}]
        found = of(count=12, timing="in-advance", clauses=clauses)
        third, fourth = found.schedule[2:4]
        left = Fraction(third["closing"]) - 1000
        self.assertLess(abs(Fraction(fourth["payment"]) - left / 101), Fraction(1, 100))
        self.assertLess(abs(Fraction(fourth["closing"]) - left), Fraction(2, 100))


class WhatItCosts(TestCase):
    def test_a_loan_that_ended_on_a_day_bears_the_fees_before_it_alone(self) -> None:
        for at, fees in ((5, "75.00"), (6, "0.00"), (3, "75.00")):
            clauses = [{"at": "2027-06-20", "repay": "20000"}, {"at": at, "fee": "75"}]
            totals = of(count=12, payment="900", clauses=clauses).totals
            assert totals
            self.assertEqual(totals["fees"], fees, at)

    def test_settled_on_a_day_bears_the_fees_before_it_alone(self) -> None:
        plain, none = MARKS["plain"], Charge(kind="amount", figure=Decimal(0))
        for at, fees in ((5, 75), (6, 0), (3, 75)):
            clauses = [{"at": at, "fee": "75", "taken": "apart"}]
            stated = document(start="2027-01-10", clauses=clauses)
            told = payoff_at(loans.check(stated), "20 Jun 2027", none, plain)
            without = payoff_at(
                loans.check(document(start="2027-01-10")), "20 Jun 2027", none, plain
            )
            more = Decimal(told["total_cost"]) - Decimal(without["total_cost"])
            self.assertEqual(more, fees, at)

    def test_what_was_repaid_and_cut_on_a_day_moved_on_that_day(self) -> None:
        """20,000 stated, far less owed: at the yield what moved is worth nothing at the start."""
        for timing in ("in-arrears", "in-advance"):
            clauses = [
                {"at": "2027-06-15", "advance": "200"},
                {"at": "2027-06-20", "repay": "20000"},
                {"at": "2027-06-25", "fee": "70", "taken": "apart"},
            ]
            found = of(count="?", payment="900", clauses=clauses, timing=timing)
            self.assertEqual(found.final_date, "2027-06-20")
            assert found.costs and found.yearly_cost
            last = found.schedule[-1]
            moved = [(date(2027, 6, 15), 200.0), (date(2027, 6, 20), -float(last["repay"]))]
            for row in found.schedule:
                at = date.fromisoformat(row["date"] or "")
                moved.append((at, -float(row["payment"])))
            growth = 1 + float(found.costs["yield_effective"] or 0) / 100
            start = date(2027, 1, 10)
            present_value = sum(
                amount * growth ** -float(annex_one(start, day)) for day, amount in moved
            )
            self.assertLess(abs(10000 + present_value), 0.001, timing)
            self.assertEqual(found.costs["yield_effective"], found.yearly_cost["eu_aprc"])
            self.assertAlmostEqual(float(found.costs["yield_effective"] or 0), 12.68, 1)

    def test_carrying_amounts_row_by_row(self) -> None:
        """What has moved by each payment, grown at the yield; an advance with a later payment."""
        found = solve(
            principal="10000",
            rate={"percent": "12"},
            count=6,
            clauses=[{"at": 0, "fee": "200"}, {"at": 4, "advance": "1000"}],
        )
        assert found.costs
        growth = (1 + float(found.costs["yield_effective"] or 0) / 100) ** (1 / 12)
        carried = 9800.0
        for row, told in zip(found.schedule, found.carrying, strict=True):
            carried = carried * growth - float(row["payment"]) + float(row["advance"])
            self.assertAlmostEqual(float(told), carried, 1, row["number"])


class OfWhatAFeeIsAPercent(TestCase):
    def test_in_advance_what_is_lent_on_the_first_day_is_not_lent_with_the_first_payment(
        self,
    ) -> None:
        """Place 0 and place 1 fall on one day; the fee at 1 is of the principal, for nothing is
        lent there."""
        for at in (0, "2027-01-10"):
            clauses = [{"at": 1, "fee": {"percent": "2"}}, {"at": at, "advance": "2000"}]
            totals = of(count=12, timing="in-advance", clauses=clauses).totals
            assert totals
            self.assertEqual(totals["fees"], "200.00", at)


class WhatIsOwedBetweenRows(TestCase):
    def test_each_period_at_its_own_rate(self) -> None:
        """Two months at one percent, two at two, and nothing moves in any of them."""
        clauses = [{"from": 3, "rate": {"percent": "24"}}, {"at": 6, "repay": "100"}]
        deal = document(
            principal="1000",
            count=0,
            payment=None,
            balance="?",
            rate={"percent": "12"},
            clauses=clauses,
        )
        moments = owed(loans.check(deal), "2; 4", MARKS["plain"])
        told = [Fraction(each["owed"]) for each in moments]
        by_hand = 1000 * Fraction(101, 100) ** 2
        later = by_hand * Fraction(102, 100) ** 2
        for amount, expected in zip(told, (by_hand, later), strict=True):
            self.assertLessEqual(abs(amount - expected), Fraction(1, 200))


class NothingBelowZero(TestCase):
    def test_less_than_half_a_cent_below_is_nothing(self) -> None:
        """100 without interest, ten payments: 0.0045 below zero each leave 100.045."""
        for balance, value in (("100.04", "0.00"), ("100.06", None)):
            found = solve(principal="100", count=10, rate={"percent": "0"}, balance=balance)
            self.assertEqual(found.value, value, balance)

    def test_payments_that_fall(self) -> None:
        """Each two in a hundred less than the one before: their worth by hand is the principal."""
        present_value = sum(
            1000 * Fraction(98, 100) ** number / Fraction(101, 100) ** (number + 1)
            for number in range(12)
        )
        found = solve(
            principal=f"{float(present_value):.12f}",
            count=12,
            payment="1000",
            rate={"percent": "12"},
            clauses=[{"from": 2, "step": {"percent": "?"}, "every": 1}],
        )
        self.assertAlmostEqual(float(found.exact or 0), -2, 6)

    def test_one_rate_that_crosses_is_told_without_remarks(self) -> None:
        for clauses in ([], [{"at": 6, "repay": "100"}], [{"at": 0, "fee": "10"}]):
            stated = {"payment": "900", "rate": {"percent": "?"}, "clauses": clauses}
            found = solve(principal="10000", count=12, **stated)
            self.assertEqual((found.reason, found.notes, len(found.solutions)), (None, (), 1))

    def test_every_rate_that_fits_is_listed(self) -> None:
        """The product of (1 + i - g) for g of 1, 1.1, ... 1.5, as money."""
        flows = [1]
        for tenths in range(10, 16):
            flows = [
                10 * (flows[place] if place < len(flows) else 0)
                - tenths * (flows[place - 1] if place else 0)
                for place in range(len(flows) + 1)
            ]
        clauses: list[dict[str, Any]] = [{"from": 1, "payment": "0"}]
        for place, amount in enumerate(flows[1:], 1):
            verb = "payment" if amount < 0 else "advance"
            clauses.append({"at": place, verb: str(abs(amount))})
        yearly = {"every": "year", "count": 6, "payment": "0", "rate": {"percent": "?"}}
        found = solve(principal=str(flows[0]), clauses=clauses, **yearly)
        self.assertEqual(found.solutions, ("0", "10", "20", "30", "40", "50"))
        for percent in range(0, 60, 10):
            self.assertIn(f"{percent}.0000 %", found.notes[0])

    def test_a_first_payment_that_returns_nearly_all(self) -> None:
        """0.50 is left to be repaid by 0.26 twice: the root of a quadratic."""
        clauses = [{"at": 1, "payment": "100"}]
        stated = {"timing": "in-advance", "rate": {"percent": "?"}, "clauses": clauses}
        found = solve(principal="100.50", count=3, payment="0.26", **stated)
        discount = (-0.26 + (0.26**2 + 4 * 0.26 * 0.50) ** 0.5) / (2 * 0.26)
        self.assertAlmostEqual(float(found.exact or 0), 1200 * (1 / discount - 1), 8)

    def test_interest_only_payments_repay_nothing_on_the_way(self) -> None:
        """Five months of interest, then as many payments of 600 as the annuity says."""
        clauses = [{"from": 1, "to": 5, "pay": "interest"}]
        stated = {"count": "?", "payment": "600", "rate": {"percent": "12"}, "clauses": clauses}
        found = solve(principal="1000", **stated)
        many = -log(1 - 1000 * 0.01 / 600) / log(1.01)
        self.assertGreater(float(found.exact or 0), 5)
        self.assertLess(abs(float(found.exact or 0) - 5 - many), 0.01)
        grown = solve(principal="1000", balance="1030", **{**stated, "payment": "0"})
        self.assertAlmostEqual(float(grown.exact or 0), 5 + log(1.03) / log(1.01), 10)


class GrownTo(TestCase):
    """The count is asked for, and what is owed grows to the balance."""

    def many(self, **changes: Any) -> float:
        stated = {"count": "?", "rate": {"percent": "12"}, **changes}
        return float(solve(principal="1000", **stated).exact or 0)

    def test_nothing_is_paid(self) -> None:
        """1,000 at one percent a month comes to 1,100 after ln 1.1 / ln 1.01 months."""
        many = log(1.1) / log(1.01)
        for timing in ("in-arrears", "in-advance"):
            found = self.many(payment="0", balance="1100", timing=timing)
            self.assertAlmostEqual(found, many, 10, timing)
        # From 20 January to 1 February are twelve odd days, of thirty.
        odd = self.many(payment="0", balance="1100", start="2027-01-20", first_payment="2027-03-01")
        grown = 1000 * 1.01 * (1 + 0.01 * 12 / 30)
        self.assertAlmostEqual(odd, 1 + log(1100 / grown) / log(1.01), 10)

    def test_while_payments_pause(self) -> None:
        clauses = [{"from": 1, "to": 5, "pay": "nothing"}]
        found = self.many(payment="20", balance="1015", clauses=clauses)
        self.assertAlmostEqual(found, log(1.015) / log(1.01), 10)

    def test_more_is_lent_each_month_to_the_end(self) -> None:
        """Thirty more are lent than paid each month: 1,500 when 1.01^n (1000 + 3000) is 4,500."""
        clauses = [{"from": 1, "advance": "50"}]
        found = self.many(payment="20", balance="1500", clauses=clauses)
        self.assertAlmostEqual(found, log(4500 / 4000) / log(1.01), 10)

    def test_an_advance_after_it_has_grown_there_changes_nothing(self) -> None:
        clauses = [{"at": 15, "advance": "50"}]
        found = self.many(payment="0", balance="1100", clauses=clauses)
        self.assertAlmostEqual(found, log(1.1) / log(1.01), 10)


class MoreToBeLent(TestCase):
    """A loan ends early once nothing is owed and no advance follows: so the contract."""

    def test_a_first_stage_repaid_does_not_end_it(self) -> None:
        """1,200 a month repay 5,000 in five months; 20,000 more come with the sixth."""
        clauses = [{"at": 6, "advance": "20000"}]
        stated = {"count": "?", "payment": "1200", "rate": {"percent": "12"}, "clauses": clauses}
        found = solve(principal="5000", **stated)
        growth = 1.01**6
        owed = 5000 * growth - 1200 * (growth - 1) / 0.01 + 20000
        many = 6 - log(1 - owed * 0.01 / 1200) / log(1.01)
        self.assertAlmostEqual(float(found.exact or 0), many, 10)
        self.assertEqual((found.value, len(found.schedule)), (str(ceil(many)), ceil(many)))

    def test_too_little_lent_too_late_is_explained(self) -> None:
        """1,000 are repaid after six payments of 200; fifty more with the fifteenth need none."""
        clauses = [{"at": 15, "advance": "50"}]
        stated = {"count": "?", "payment": "200", "rate": {"percent": "12"}, "clauses": clauses}
        found = solve(principal="1000", **stated)
        growth = 1.01**15
        over = 200 * (growth - 1) / 0.01 - 1000 * growth - 50
        self.assertIsNone(found.value)
        self.assertIn(
            f"after payment 15, with what is lent there, {over:.2f} too", found.reason or ""
        )


class WhatAnAimSays(TestCase):
    def test_the_balance_at_the_start_is_what_is_lent(self) -> None:
        aim = {"figure": "balance@0", "is": "7000", "by": "principal"}
        found = solve(principal="5000", count=12, rate={"percent": "12"}, aim=aim)
        assert found.aim
        self.assertEqual(found.aim["value"], "7000")

    def told(self, **aim: Any) -> str:
        content = document(
            principal="10000",
            count=24,
            payment="?",
            rate={"percent": "6"},
            clauses=[{"at": 1, "repay": "10"}, {"at": 12, "repay": "500"}],
            aim=aim,
        )
        return str(loans.solve(loans.check(content)).reason)

    def test_two_figures_alike_in_the_usual_digits_are_told_apart(self) -> None:
        """A count gives the cost but for its eighth decimal: the digits that show it are said."""
        each = 10000 * 0.005 / (1 - 1.005**-24)

        def present_value(month: float) -> float:
            return each * (1 - (1 + month) ** -24) / month - 9800

        cost = 1200 * float(brentq(present_value, 1e-4, 0.05, xtol=1e-16, rtol=1e-14))
        stated = f"{cost + 3e-8:.8f}"
        content = document(
            principal="10000",
            count=24,
            payment="?",
            rate={"percent": "6"},
            rounding={"interest": "none", "payment": "none"},
            clauses=[{"at": 0, "fee": "200"}],
            aim={"figure": "us_apr", "is": stated, "by": "count"},
        )
        said = str(loans.solve(loans.check(content)).reason)
        target, reached = re.findall(r"\d+\.\d{7,}", said)
        self.assertEqual(float(target), float(stated))
        self.assertAlmostEqual(float(reached), cost, 7)
        self.assertNotEqual(target, reached)

    def test_the_nearest_may_be_the_last_tried(self) -> None:
        """The greatest repayment there is still leaves too much."""
        said = self.told(figure="total_paid", by="clauses.1.repay", **{"is": "3"})
        self.assertIn("the nearest is", said)

    def test_the_clause_that_moves_is_named_by_its_number(self) -> None:
        said = self.told(figure="total_paid", by="clauses.1.repay", **{"is": "3"})
        self.assertIn("figure of clause 2", said)
