"""Questions as the Society of Actuaries asks them in its Exam FM sample set, and factor tables.

Questions and answers are from memory; each answer was recomputed with mpmath from the annuity
formulas before it was written down. Nothing is taken from the core's own answers.
"""

from decimal import Decimal
from typing import Any
from unittest import TestCase

from .documents import PERIODIC, solve

UNROUNDED = {"payment": "none", "interest": "none"}


def figure(answer: Any) -> Decimal:
    """The mathematical solution, or why there is none."""
    assert answer.exact is not None, answer.reason
    return Decimal(answer.exact)


class ExamQuestions(TestCase):
    def test_interest_on_one_sum_repaid_in_three_ways(self) -> None:
        """5,000 for five years at 12 % compounded half-yearly: all at the end, interest as it falls
        due, ten level payments. Interest in all: 8,748."""
        terms: dict[str, Any] = {
            "principal": "5000",
            "rate": {"percent": "12", "compounding": "half-year"},
            "every": "half-year",
            "count": 10,
            "rounding": UNROUNDED,
        }
        at_the_end = solve(**{**terms, "payment": "0", "balance": "?"})
        as_it_falls_due = solve(**{**terms, "payment": "?", "balance": "5000"})
        level = solve(**terms)
        interest = (
            figure(at_the_end) - 5000 + 10 * figure(as_it_falls_due) + 10 * figure(level) - 5000
        )
        self.assertEqual(round(interest), 8748)

    def test_a_lump_or_level_payments(self) -> None:
        """Ten years at 6 %: in one sum 356.54 more interest is paid than by ten level payments. The
        amount is 825."""
        terms: dict[str, Any] = {
            "principal": "825",
            "rate": {"percent": "6", "quoted": "effective"},
            "every": "year",
            "count": 10,
            "rounding": UNROUNDED,
        }
        lump = figure(solve(**{**terms, "payment": "0", "balance": "?"}))
        level = 10 * figure(solve(**terms))
        self.assertEqual(round(lump - level, 1), Decimal("356.5"))

    def test_payments_that_follow_the_interest(self) -> None:
        """1,000 at 10 %: ten yearly payments of 150 % of the interest due, then ten alike: 97.

        The balance falls by 5 % a year, and so do the payments."""
        found = solve(
            principal="1000",
            rate={"percent": "10", **PERIODIC},
            every="year",
            count=20,
            payment="?",
            clauses=[
                {"from": 1, "to": 10, "payment": "150"},
                {"from": 2, "to": 10, "step": {"percent": "-5"}, "every": 1},
            ],
        )
        first = [Decimal(row["payment"]) for row in found.schedule[:10]]
        self.assertEqual(first[:2], [Decimal(150), Decimal("142.50")])
        for row in found.schedule[:10]:
            due = Decimal(row["interest"])
            self.assertAlmostEqual(Decimal(row["payment"]), due * 3 / 2, delta=Decimal("0.05"))
        # What the nine steps have taken off stays off: the last ten are as the rows have them.
        for row in found.schedule[10:]:
            self.assertEqual(int(Decimal(row["payment"])), 97)

    def test_a_fund_put_aside(self) -> None:
        """1,000 over ten years at 10 %; what the level payment is above the interest goes into a
        fund at 14 %. What the fund holds beyond the 1,000: 213."""
        level = figure(
            solve(
                principal="1000",
                rate={"percent": "10", **PERIODIC},
                every="year",
                count=10,
                rounding=UNROUNDED,
            )
        )
        fund = solve(
            principal="0",
            rate={"percent": "14", **PERIODIC},
            every="year",
            count=0,
            payment=None,
            balance="?",
            clauses=[{"from": 1, "to": 10, "advance": str(level - 100)}],
        )
        self.assertEqual(round(figure(fund) - 1000), 213)

    def test_payments_two_percent_lower_each_time(self) -> None:
        """9 % compounded monthly over five years; the first payment is 1,000, each 2 % below the
        one before. After the 40th 6,889 is owed."""
        found = solve(
            principal="?",
            rate={"percent": "9", "compounding": "month"},
            count=60,
            payment="1000",
            clauses=[{"from": 2, "step": {"percent": "-2"}, "every": 1}],
        )
        self.assertEqual(round(Decimal(found.schedule[39]["closing"])), 6889)

    def test_a_rate_that_falls_and_rises_and_a_payment_between(self) -> None:
        """150,000 at 8 % compounded quarterly, 40 payments of 5,483.36; after 12 the rate is 6 %
        and the payment 5,134.62; after 20 it is 7 % and, X being paid besides, 4,265.73 for five
        more years. X is 16,691."""
        terms: dict[str, Any] = {
            "principal": "150000",
            "rate": {"percent": "8", "compounding": "quarter"},
            "every": "quarter",
            "count": 40,
            "payment": "5483.36",
        }
        lower = {"from": 13, "rate": {"percent": "6", "compounding": "quarter"}}
        again = solve(**{**terms, "clauses": [lower, {"from": 13, "payment": "?"}]})
        self.assertEqual(round(figure(again), 2), Decimal("5134.62"))
        found = solve(
            **{
                **terms,
                "clauses": [
                    {**lower, "to": 20},
                    {"from": 13, "to": 20, "payment": "5134.62"},
                    {"from": 21, "rate": {"percent": "7", "compounding": "quarter"}},
                    {"from": 21, "payment": "4265.73"},
                    {"at": 20, "repay": "?"},
                ],
            }
        )
        self.assertEqual(round(figure(found)), 16691)

    def test_the_interest_behind_one_principal_part(self) -> None:
        """Eight yearly payments at 4.75 %; the fifth holds 699.68 of principal. All the interest:
        1,239."""
        # What is owed before the fifth of eight is a_4 of the payment; its first principal part is
        # the payment less the interest on that. The payment follows from the last four alone.
        terms: dict[str, Any] = {
            "rate": {"percent": "4.75", "quoted": "effective"},
            "every": "year",
            "rounding": UNROUNDED,
        }
        of_one = solve(**{**terms, "principal": "?", "count": 4, "payment": "1"})
        principal_part = 1 - figure(of_one) * Decimal("0.0475")
        payment = Decimal("699.68") / principal_part
        whole = solve(**{**terms, "principal": "?", "count": 8, "payment": str(payment)})
        self.assertEqual(round(8 * payment - figure(whole)), 1239)
        self.assertAlmostEqual(
            Decimal(whole.schedule[4]["principal"]), Decimal("699.68"), delta=Decimal("0.01")
        )

    def test_refinanced_after_eighteen_payments(self) -> None:
        """22,000 at 8.4 %, 450.30 a month; after the 18th what is owed is repaid by 24 payments at
        4.8 %: 715.27."""
        found = solve(
            principal="22000",
            rate={"percent": "8.4", "compounding": "month"},
            count=42,
            payment="450.30",
            clauses=[
                {"from": 19, "rate": {"percent": "4.8", "compounding": "month"}},
                {"from": 19, "payment": "?"},
            ],
        )
        self.assertEqual(round(figure(found), 2), Decimal("715.27"))


#: NCEES FE Reference Handbook, interest tables, from memory: percent, periods, then P/A, A/P, F/A,
#: A/F to four decimals, as any table of compound interest factors has them.
FACTORS = [
    ("0.5", 12, "11.6189", "0.0861", "12.3356", "0.0811"),
    ("1", 60, "44.9550", "0.0222", "81.6697", "0.0122"),
    ("1.5", 36, "27.6607", "0.0362", "47.2760", "0.0212"),
    ("2", 24, "18.9139", "0.0529", "30.4219", "0.0329"),
    ("4", 50, "21.4822", "0.0466", "152.6671", "0.0066"),
    ("6", 10, "7.3601", "0.1359", "13.1808", "0.0759"),
    ("8", 20, "9.8181", "0.1019", "45.7620", "0.0219"),
    ("10", 5, "3.7908", "0.2638", "6.1051", "0.1638"),
    ("12", 30, "8.0552", "0.1241", "241.3327", "0.0041"),
    ("18", 10, "4.4941", "0.2225", "23.5213", "0.0425"),
]


class FactorTables(TestCase):
    """Each factor as a loan of one, or a payment of one."""

    def rounds_to(self, answer: Any, printed: str) -> None:
        self.assertEqual(figure(answer).quantize(Decimal(printed)), Decimal(printed))

    def terms(self, percent: str, count: int) -> dict[str, Any]:
        return {"rate": {"percent": percent, **PERIODIC}, "every": "year", "count": count}

    def test_worth_now_of_payments(self) -> None:
        for percent, count, present_value, *_ in FACTORS:
            with self.subTest(percent=percent, count=count):
                answer = solve(**self.terms(percent, count), principal="?", payment="1")
                self.rounds_to(answer, present_value)

    def test_capital_recovery(self) -> None:
        for percent, count, _, recovery, *_ in FACTORS:
            with self.subTest(percent=percent, count=count):
                self.rounds_to(solve(**self.terms(percent, count), principal="1"), recovery)

    def fund(self, percent: str, count: int, each: str, end: str) -> Any:
        """Money put aside at the end of each year."""
        put_aside = [{"from": 1, "to": count, "advance": each}]
        terms = {**self.terms(percent, 0), "payment": None, "clauses": put_aside}
        return solve(**terms, principal="0", balance=end)

    def test_worth_at_the_end_of_what_is_put_aside(self) -> None:
        for percent, count, _, _, grown, _ in FACTORS:
            with self.subTest(percent=percent, count=count):
                self.rounds_to(self.fund(percent, count, "1", "?"), grown)

    def test_what_to_put_aside(self) -> None:
        for percent, count, *_, each in FACTORS:
            with self.subTest(percent=percent, count=count):
                self.rounds_to(self.fund(percent, count, "?", "1"), each)

    def test_the_rate_and_the_count_behind_a_factor(self) -> None:
        """Backwards: a loan of P/A repaid by ones, to the digits printed."""
        for percent, count, present_value, *_ in FACTORS:
            with self.subTest(percent=percent, count=count):
                ones = {
                    **self.terms(percent, count),
                    "principal": present_value,
                    "payment": "1",
                    "rounding": UNROUNDED,
                }
                rate = solve(**{**ones, "rate": {"percent": "?", **PERIODIC}})
                self.assertAlmostEqual(figure(rate), Decimal(percent), delta=Decimal("0.01"))
                found = solve(**{**ones, "count": "?"})
                self.assertAlmostEqual(figure(found), Decimal(count), delta=Decimal("0.05"))
