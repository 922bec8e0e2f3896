"""Published values. The source stands beside each; all are given from memory.

What is taken from a worked example was recomputed with a 30-digit reference before it was
written down here. Nothing is taken from the core's own answers.
"""

from decimal import Decimal
from typing import Any
from unittest import TestCase

import numpy as np
from scipy.optimize import brentq

from .documents import solve


class PublishedValues(TestCase):
    def rounds_to(self, text: str | None, published: str) -> None:
        self.assertIsNotNone(text)
        places = Decimal(published)
        self.assertEqual(Decimal(str(text)).quantize(places, "ROUND_HALF_UP"), places)

    def test_actuarial_rate_of_a_single_advance(self) -> None:
        # US Regulation Z (12 CFR 1026) Appendix J (c)(1)(i): 5,000 advanced, 24 monthly
        # payments of 230 with a regular first period: annual percentage rate 9.69 %.
        found = solve(
            currency="USD", principal="5000", count=24, payment="230", rate={"percent": "?"}
        )
        self.rounds_to(found.exact, "9.69")
        self.rounds_to(found.yearly_cost and found.yearly_cost["us_apr"], "9.69")

    def test_actuarial_rate_with_an_odd_first_period(self) -> None:
        # 12 CFR 1026 Appendix J (c)(1)(ii): 6,000 advanced on 10 February 1978, 36 monthly payments
        # of 200 from 1 April 1978: 1 unit-period and 19/30: 11.82 %.
        found = solve(
            currency="USD",
            principal="6000",
            count=36,
            payment="200",
            rate={"percent": "?"},
            start="1978-02-10",
            first_payment="1978-04-01",
        )
        self.rounds_to(found.exact, "11.82")
        self.rounds_to(found.yearly_cost and found.yearly_cost["us_apr"], "11.82")

    def test_actuarial_rates_with_odd_payments(self) -> None:
        # 12 CFR 1026 Appendix J (c)(2)(i): 5,000, a first payment of 250, then 23 of 230: 10.08 %;
        # (c)(3)(i): 23 of 230 and a final payment of 280: 10.50 %.
        for at, payment, published in ((1, "250", "10.08"), (24, "280", "10.50")):
            found = solve(
                currency="USD",
                principal="5000",
                count=24,
                payment="230",
                rate={"percent": "?"},
                clauses=[{"at": at, "payment": payment}],
            )
            self.rounds_to(found.exact, published)
            self.rounds_to(found.yearly_cost and found.yearly_cost["us_apr"], published)

    def test_half_yearly_mortgage_practice(self) -> None:
        # Canada Interest Act, s. 6 practice: 12 % compounded half-yearly, not in advance, is
        # 0.975 879 4 % a month.
        found = solve(currency="CAD", rate={"percent": "12", "compounding": "half-year"})
        self.rounds_to(found.rates and found.rates["periodic"], "0.9758794")

    def test_capital_recovery_factors(self) -> None:
        # NCEES FE Reference Handbook, interest tables, A/P: 0.5 %, 60 periods: 0.0193;
        # 1 %, 12 periods: 0.0888.
        for percent, count, factor in (("0.5", 60, "0.0193"), ("1", 12, "0.0888")):
            rate = {"percent": percent, "quoted": "periodic"}
            found = solve(principal="1", count=count, rate=rate)
            self.rounds_to(found.exact, factor)

    def test_force_of_interest(self) -> None:
        # Society of Actuaries, Exam FM sample questions: 4 % convertible half-yearly is a
        # continuous rate of 0.0396. A loan at the one and at the other costs the same.
        convertible = {"percent": "4", "compounding": "half-year"}
        payment = solve(every="half-year", rate=convertible).exact
        found = solve(
            every="half-year", payment=payment, rate={"percent": "?", "quoted": "continuous"}
        )
        self.rounds_to(found.exact, "3.96")

    def test_principal_in_the_first_payment(self) -> None:
        # Society of Actuaries, Exam FM sample questions: four yearly payments at 8 %, balance
        # after the third 559.12: the first payment holds 444 of principal.
        found = solve(
            principal="?",
            count=1,
            every="year",
            payment=str(Decimal("559.12") * Decimal("1.08")),
            rate={"percent": "8"},
            rounding={"payment": "none", "interest": "none"},
        )
        self.rounds_to(found.exact, "559.12")
        payment = str(Decimal("559.12") * Decimal("1.08"))
        whole = solve(principal="?", count=4, every="year", payment=payment, rate={"percent": "8"})
        self.rounds_to(whole.schedule[0]["principal"], "444")

    def test_a_repayment_after_a_year_and_a_half(self) -> None:
        # EU Directive 98/7/EC, Annex III, example 1: 1,000 repaid by 1,200 after 1.5 years:
        # 12.92 % effective. Here as a balance left after three half-years without payments.
        found = solve(
            principal="1000",
            count=3,
            every="half-year",
            payment="0",
            balance="1200",
            rate={"percent": "?", "quoted": "effective"},
        )
        self.rounds_to(found.exact, "12.92")
        self.rounds_to(found.yearly_cost and found.yearly_cost["eu_aprc"], "12.92")

    def test_two_yearly_repayments(self) -> None:
        # EU Directive 98/7/EC, Annex III, example 3: 1,000 repaid by 600 after one year and 600
        # after two: 13.07 %.
        found = solve(
            principal="1000",
            count=2,
            every="year",
            payment="600",
            rate={"percent": "?", "quoted": "effective"},
        )
        self.rounds_to(found.exact, "13.07")
        self.rounds_to(found.yearly_cost and found.yearly_cost["eu_aprc"], "13.07")

    def test_a_count_that_is_not_whole(self) -> None:
        # Common practice, no source: 7.4 payments means 8, the last one smaller.
        found = solve(principal="7400", rate={"percent": "0"}, payment="1000", count="?")
        self.assertEqual((found.exact, found.value), ("7.4", "8"))
        self.assertEqual(found.schedule[-1]["payment"], "400.00")

    def test_a_payment_that_must_clear_the_loan_is_rounded_up(self) -> None:
        # Common practice, no source: 1,000 over 3 payments without interest is 333.34, the last
        # payment 333.32.
        found = solve(principal="1000", rate={"percent": "0"}, count=3, rounding={"payment": "up"})
        self.assertEqual(found.value, "333.34")
        self.assertEqual(found.schedule[-1]["payment"], "333.32")


class AgainstScipy(TestCase):
    """The rate against SciPy's brentq on the present value, by NumPy."""

    def test_rates(self) -> None:
        cases: list[dict[str, Any]] = [
            {"principal": "17840", "count": 48, "payment": "431.90"},
            {"principal": "90000", "count": 360, "payment": "610.11"},
            {"principal": "5600", "count": 12, "payment": "450", "balance": "700"},
            {"principal": "5600", "count": 12, "payment": "450", "timing": "in-advance"},
        ]
        for case in cases:
            shift = 0 if case.get("timing") == "in-advance" else 1
            times = np.arange(case["count"]) + shift
            flows = np.full(case["count"], float(case["payment"]))

            def present_value(
                rate: float, case: Any = case, times: Any = times, flows: Any = flows
            ) -> Any:
                left = float(case.get("balance", 0)) * (1 + rate) ** -case["count"]
                return np.sum(flows * (1 + rate) ** -times) + left - float(case["principal"])

            expected = 1200 * brentq(present_value, -0.5, 1.0, xtol=1e-14)
            found = solve(**case, rate={"percent": "?"})
            with self.subTest(case=case):
                self.assertAlmostEqual(float(found.exact or "nan"), expected, delta=1e-9)
