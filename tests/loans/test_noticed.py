"""Small changes to the core that no other test would notice, each held by a case of its own."""

from datetime import date
from decimal import Decimal
from typing import Any
from unittest import TestCase

from mpmath import mp, mpf

from zephyrant import loans
from zephyrant.loans.line.compiling import stated_terms
from zephyrant.loans.line.line import lay_out
from zephyrant.loans.numbers.decimals import precise, to_step
from zephyrant.loans.quotes.conversion import growth_of
from zephyrant.loans.unknowns.last_payment import rounding_reach

from .documents import document, solve
from .oracle import months_on


def annex_one(start: date, day: date) -> mpf:
    """Years by 2008/48/EC Annex I: whole months back from the day, then days of the year that
    ends there."""
    months = 0
    while months_on(day, -months - 1) >= start:
        months += 1
    rest = months_on(day, -months)
    year = (rest - months_on(rest, -12)).days
    return mpf(months) / 12 + mpf((rest - start).days) / year


class TheEuRule(TestCase):
    def test_months_from_the_last_days_of_a_month(self) -> None:
        """From 29, 30 or 31 January the payment of 28 February lies no whole month later."""
        for first in (28, 29, 30, 31):
            start = date(2027, 1, first)
            found = solve(
                principal="10000", count=12, start=start.isoformat(), rate={"percent": "9"}
            )
            flows = [
                (annex_one(start, date.fromisoformat(row["date"] or "")), mpf(row["payment"]))
                for row in found.schedule
            ]
            with mp.workdps(30):
                rate = mp.findroot(
                    lambda x, flows=flows: sum(a / (1 + x) ** t for t, a in flows) - 10000, 0.09
                )
            assert found.yearly_cost
            told = mpf(found.yearly_cost["eu_aprc"] or 0)
            self.assertLess(abs(told - 100 * rate), 1e-9, first)


class CarryingAmounts(TestCase):
    def test_in_advance_row_by_row(self) -> None:
        """What was handed out less each payment, grown at the yield: nothing is left at the end."""
        found = solve(
            principal="10000",
            count=12,
            timing="in-advance",
            rate={"percent": "9"},
            clauses=[{"at": 0, "fee": "200"}],
        )
        paid = [mpf(row["payment"]) for row in found.schedule]
        with mp.workdps(30):
            i = mp.findroot(
                lambda x: 9800 - sum(each / (1 + x) ** k for k, each in enumerate(paid)), 0.01
            )
            carried, expected = mpf(9800), []
            for each in paid:
                carried = (carried - each) * (1 + i)
                expected.append(carried)
        self.assertEqual(len(found.carrying), 12)
        for told, wanted in zip(found.carrying, expected, strict=True):
            self.assertLess(abs(mpf(told) - wanted), 0.0051)

    def test_cost_of_each_thousand_without_fees(self) -> None:
        """8,079.38 of interest on 48,250 is 167.45 of each 1,000."""
        found = solve()
        assert found.costs
        self.assertEqual(found.costs["per_thousand"], "167.45")
        kept = solve(clauses=[{"at": 0, "fee": "1000"}])
        assert kept.costs
        # Of what is lent, not of what is handed out: 9,079.38 of 48,250.
        self.assertEqual(kept.costs["per_thousand"], "188.17")


class Rounding(TestCase):
    def test_noise_beyond_what_is_told_lifts_nothing(self) -> None:
        cent = Decimal("0.01")
        below = Decimal("10.005") - Decimal("1e-38")
        self.assertEqual(to_step(below, cent, "nearest"), Decimal("10.01"))
        above = Decimal("10") + Decimal("1e-38")
        self.assertEqual(to_step(above, cent, "up"), Decimal("10.00"))
        self.assertEqual(to_step(Decimal("10.0000001"), cent, "up"), Decimal("10.01"))

    def test_a_payment_set_anew_is_never_below_zero(self) -> None:
        """After 6,500 are repaid less is owed than is to be left: nothing more is paid, and no
        schedule ends as stated."""
        found = solve(
            principal="10000",
            count=12,
            balance="5000",
            rate={"percent": "6"},
            clauses=[{"at": 3, "repay": "6500", "then": "re-level"}],
        )
        self.assertEqual(found.schedule, [])
        self.assertTrue(any("below zero" in note or "drift" in note for note in found.notes))
        grown = solve(
            principal="10000",
            count=240,
            balance="5000",
            rate={"percent": "24"},
            clauses=[{"at": 3, "repay": "9000", "then": "re-level"}],
        )
        self.assertTrue(all(Decimal(row["payment"]) >= 0 for row in grown.schedule))


class Aims(TestCase):
    def aimed(self, figure: str, to: str, by: str, **changes: Any) -> Any:
        return loans.solve(
            loans.check(
                {
                    "zephyrant": "loan/1",
                    "currency": "EUR",
                    "principal": "10000",
                    "rate": {"percent": "6"},
                    "count": "?",
                    "payment": "500",
                    "start": "2027-01-01",
                    **changes,
                    "aim": {"figure": figure, "is": to, "by": by},
                }
            )
        ).aim

    def test_a_result_that_jumps_over_its_aim_does_not_reach_it(self) -> None:
        """Payments fall on the first of a month: no payment ends the loan on a fifteenth."""
        self.assertIsNone(self.aimed("end_date", "2028-06-15", "payment")["value"])
        self.assertIsNotNone(self.aimed("end_date", "2028-06-01", "payment")["value"])


class MoneyOnDays(TestCase):
    def test_two_fees_the_first_of_them_on_a_day(self) -> None:
        found = solve(
            start="2027-01-10",
            clauses=[{"at": "2027-03-20", "fee": "120"}, {"at": 6, "fee": "75", "taken": "apart"}],
        )
        assert found.totals
        self.assertEqual(found.totals["fees"], "195.00")
        told = [(fee["number"], fee["date"], fee["amount"]) for fee in found.fees]
        self.assertEqual(told, [(3, "2027-03-20", "120.00"), (6, "2027-07-10", "75.00")])

    def test_a_fee_is_a_percent_of_what_a_stretch_advances_there(self) -> None:
        clauses = [
            {"at": 4, "fee": {"percent": "2"}, "taken": "apart"},
            {"from": 3, "to": 5, "advance": "3000"},
        ]
        found = solve(clauses=clauses)
        assert found.totals
        self.assertEqual(found.totals["fees"], "60.00")
        self.assertEqual(found.clause_notes[0], ("2 % of the 3000.00 advanced there.",))

    def test_money_that_moved_before_the_day_a_loan_ends_bears_interest_to_it(self) -> None:
        """4,835.83 owed on 10 July bear 10 of 31 days of half a percent, 1,000 lent on the 15th
        five of them: 7.80 + 0.81 unrounded 8.606."""
        found = solve(
            principal="10000",
            count=12,
            payment="900",
            rate={"percent": "6"},
            start="2025-01-10",
            clauses=[
                {"at": "2025-07-15", "advance": "1000"},
                {"at": "2025-07-20", "repay": "9000"},
            ],
        )
        last = found.schedule[-1]
        self.assertEqual((last["opening"], last["interest"]), ("4835.83", "8.61"))
        self.assertEqual((last["repay"], last["closing"]), ("5844.44", "0.00"))


class WhatRoundingCanDo(TestCase):
    def reach(self, **changes: Any) -> Decimal:
        stated = loans.check(document(payment="900", count=4, rate={"percent": "12"}, **changes))
        return rounding_reach(stated, lay_out(stated_terms(stated)))

    def test_a_cent_of_interest_a_cent_of_row_and_a_step_of_payment_each_grown(self) -> None:
        """1 % a month, from the third on 2 %: by hand, payment by payment."""
        two_rates = [{"from": 3, "rate": {"percent": "24"}}]
        for rounding, each in (
            ({}, "0.03"),
            ({"payment": "none"}, "0.02"),
            ({"payment": "up", "to": "0.50"}, "0.52"),
        ):
            for timing in ("in-arrears", "in-advance"):
                off = Decimal(each)
                third = (off * Decimal("1.01") + off) * Decimal("1.02") + off
                by_hand = third * Decimal("1.02") + off
                told = self.reach(rounding=rounding, timing=timing, clauses=two_rates)
                self.assertLess(abs(told - by_hand), Decimal("1e-25"), (rounding, timing))


class Growths(TestCase):
    def test_a_quote_of_one_period_grows_by_its_power(self) -> None:
        """1 % a month is 1.01 to the twelfth a year."""
        style = loans.check(document(rate={"percent": "1", "quoted": "periodic"})).style
        with precise():
            self.assertEqual(growth_of(Decimal(1), style), Decimal("1.01") ** 12)
