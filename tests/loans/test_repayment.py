"""Styles of repayment: equal principal, parts in percent, interest only, all at the end, level over
a longer time, interest shared out by sum-of-digits."""

import os
from copy import deepcopy
from decimal import Decimal
from fractions import Fraction
from math import ceil
from typing import Any
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

import zephyrant
from zephyrant import loans
from zephyrant.loans.answer.results import as_paid
from zephyrant.loans.document.paths import with_figure
from zephyrant.loans.questions import (
    Axis,
    curve_of_rate,
    owed,
    period_totals_of,
    sensitivity_of,
    ways_out,
)
from zephyrant.loans.questions.ending_charge import Charge
from zephyrant.loans.questions.paying_more import paying_more
from zephyrant.loans.questions.payoff import payoff_at
from zephyrant.loans.said import read_line
from zephyrant.loans.statement import Statement, Worked, restate, work
from zephyrant.loans.tape import Defaults, solve_tape
from zephyrant.loans.tape.columns import Columns
from zephyrant.loans.wording.marks import MARKS

from .documents import REPAID, document, errors_of, money, percents, solve
from .oracle_parts import PartsDeal
from .test_against_oracle import CENT, NAMES, Draw

DRAWN = int(os.environ.get("ZEPHYRANT_FAR", "400"))
EQUAL: dict[str, Any] = {"repayment": "equal-principal"}
KILN: dict[str, Any] = {
    "principal": "12000",
    "rate": {"percent": "6"},
    "count": 12,
    **EQUAL,
}


def cents(text: str | None) -> int:
    return int((Decimal(str(text)) * 100).to_integral_exact())


def total(answer: loans.Answer, name: str) -> str:
    assert answer.totals is not None
    totals: dict[str, Any] = dict(answer.totals)
    return str(totals[name])


def column(answer: loans.Answer, name: str) -> list[int]:
    rows: list[Any] = answer.schedule
    return [cents(row[name]) for row in rows]


class SureValues(TestCase):
    def test_equal_principal(self) -> None:
        # By hand: 1,000.00 of principal each month, 0.5 % on 12,000, 11,000, ... 1,000:
        # 60.00 + 55.00 + ... + 5.00 = 390.00.
        answer = solve(**KILN)
        self.assertEqual(answer.value, "1060.00")
        self.assertEqual(column(answer, "principal"), [100000] * 12)
        self.assertEqual(column(answer, "interest"), list(range(6000, 0, -500)))
        self.assertEqual(total(answer, "interest"), "390.00")
        self.assertEqual(total(answer, "final_payment"), "1005.00")

    def test_total_interest_is_by_the_average_life(self) -> None:
        # Common practice: all interest, unrounded, is principal x periodic rate x average life in
        # periods; that of equal principal is (n + 1) / 2.
        for count in (1, 7, 60, 240):
            lent, rate = Decimal(48_000), Decimal("0.005")
            answer = solve(
                **EQUAL,
                principal=str(lent),
                rate={"percent": "6"},
                count=count,
                rounding={"payment": "none", "interest": "none"},
            )
            all_of_it = lent * rate * Decimal(count + 1) / 2
            told = Decimal(total(answer, "interest"))
            self.assertLess(abs(told - all_of_it), Decimal("0.005"), count)

    def test_interest_only(self) -> None:
        # By hand: 12,000 at 0.5 % a month is 60.00; the last payment brings the principal.
        answer = solve(**{**KILN, "repayment": "interest-only"})
        self.assertEqual(answer.value, "60.00")
        self.assertEqual(column(answer, "payment"), [6000] * 11 + [1206000])
        left = solve(**{**KILN, "repayment": "interest-only", "balance": "2000"})
        self.assertEqual(total(left, "final_payment"), "10060.00")
        self.assertEqual(total(left, "balance_due"), "2000.00")

    def test_all_at_the_end(self) -> None:
        # Compound interest: 10,000 at 10 % a year for 3 years is 13,310.00.
        answer = solve(
            principal="10000",
            rate={"percent": "10"},
            count=3,
            every="year",
            repayment="at-the-end",
        )
        self.assertEqual((answer.value, answer.exact), ("13310.00", "13310"))
        self.assertEqual(column(answer, "payment"), [0, 0, 1331000])
        self.assertEqual(column(answer, "closing"), [1100000, 1210000, 0])
        self.assertEqual(total(answer, "payments"), "1")

    def test_over_a_longer_time(self) -> None:
        # 100,000 at 6 % a year, monthly over 30 years: 599.55 a month (the textbook loan, from
        # memory; recomputed by the annuity formula). After 60 payments of it the balance is
        # P u^60 - A (u^60 - 1) / i, within what rounding sixty rows makes.
        answer = solve(
            principal="100000", rate={"percent": "6"}, count=60, amortized_over=360, payment="?"
        )
        self.assertEqual(answer.value, "599.55")
        grown = Decimal("1.005") ** 60
        left = 100_000 * grown - Decimal("599.55") * (grown - 1) / Decimal("0.005")
        due = Decimal(total(answer, "balance_due"))
        self.assertLess(abs(due - left), Decimal("0.40"))
        self.assertEqual(column(answer, "payment"), [59955] * 60)
        self.assertEqual(cents(total(answer, "paid")), 60 * 59955)
        over = solve(
            principal="100000",
            rate={"percent": "6"},
            count=60,
            amortized_over="?",
            payment="599.55",
        )
        # n = -ln(1 - P i / A) / ln(1 + i)
        exact = -(1 - Decimal(500) / Decimal("599.55")).ln() / Decimal("1.005").ln()
        self.assertLess(abs(Decimal(over.exact or 0) - exact), Decimal("1e-20"))
        self.assertEqual(over.value, "360" if exact <= 360 else "361")

    def test_over_a_longer_time_paid_anew(self) -> None:
        """From the 13th on at 7 %, over what is left of the 360: by the annuity formula."""
        answer = solve(
            principal="100000",
            rate={"percent": "6"},
            count=60,
            amortized_over=360,
            payment="?",
            clauses=[{"from": 13, "rate": {"percent": "7"}, "then": "re-level"}],
        )
        grown = Decimal("1.005") ** 12
        left = 100_000 * grown - Decimal("599.55") * (grown - 1) / Decimal("0.005")
        rate = Decimal(7) / 1200
        anew = left * rate / (1 - (1 + rate) ** -348)
        self.assertEqual(set(column(answer, "payment")[:12]), {59955})
        paid = set(column(answer, "payment")[12:])
        self.assertEqual(len(paid), 1)
        self.assertLess(abs(Decimal(paid.pop()) / 100 - anew), Decimal("0.006"))
        assert answer.proof is not None
        self.assertTrue(answer.proof["holds"], answer.proof)

    def test_sum_of_digits(self) -> None:
        # Common practice (the rule of 78): of twelve payments, ended after three, 12 + 11 + 10 =
        # 33 of 78 parts of the interest are earned.
        loan = {"principal": "12000", "rate": {"percent": "6"}, "count": 12, "payment": "?"}
        actuarial = solve(**loan)
        answer = solve(**loan, interest_shared="sum-of-digits")
        whole = sum(column(actuarial, "interest"))
        earned = column(answer, "interest")
        self.assertEqual(sum(earned), whole)
        self.assertLessEqual(abs(sum(earned[:3]) - Fraction(33 * whole, 78)), Fraction(3, 2))
        for place, each in enumerate(earned[:-1]):
            self.assertLessEqual(abs(each - Fraction(whole * (12 - place), 78)), Fraction(1, 2))
        self.assertEqual(column(answer, "payment"), column(actuarial, "payment"))
        self.assertEqual(column(answer, "actuarial_closing"), column(actuarial, "closing"))
        self.assertEqual(answer.yearly_cost, actuarial.yearly_cost)
        self.assertEqual(answer.value, actuarial.value)
        self.assertGreater(column(answer, "closing")[2], column(actuarial, "closing")[2])

    def test_sum_of_digits_ended_early(self) -> None:
        """By the rule and, beside it, by the interest on what is owed; on a day between two
        payments of the next one's share what has passed of its days."""
        terms = {"principal": "12000", "rate": {"percent": "6"}, "count": 12, "start": "2027-01-01"}
        asked = loans.check(document(**terms, interest_shared="sum-of-digits"))
        answer, actuarial = loans.solve(asked), solve(**terms)
        after = payoff_at(asked, "3", Charge(), loans.PLAIN)
        self.assertEqual(after["owed"], answer.schedule[2]["closing"])
        self.assertEqual(after["actuarial"], actuarial.schedule[2]["closing"])
        self.assertGreater(Decimal(after["owed"]), Decimal(str(after["actuarial"])))
        # 15 of the 30 days from payment 3 on 1 April to the next are half of its interest.
        on_day = payoff_at(asked, "2027-04-16", Charge(), loans.PLAIN)
        half = Fraction(answer.schedule[3]["interest"]) / 2
        gap = Fraction(on_day["owed"]) - Fraction(answer.schedule[2]["closing"]) - half
        self.assertTrue(0 <= gap < CENT, float(gap))

    def test_parts_in_percent(self) -> None:
        # By hand: 5 % of 10,000 each of four times, then 80 %, at 1 % a period.
        answer = solve(
            principal="10000",
            rate={"percent": "4"},
            every="quarter",
            count=5,
            repayment={"percents": ["5", "5", "5", "5", "80"]},
        )
        self.assertEqual(column(answer, "principal"), [50000] * 4 + [800000])
        self.assertEqual(column(answer, "interest"), [10000, 9500, 9000, 8500, 8000])
        self.assertEqual(answer.value, "600.00")

    def test_a_grace_of_interest_alone(self) -> None:
        answer = solve(**KILN, clauses=[{"from": 1, "to": 4, "pay": "interest"}])
        self.assertEqual(column(answer, "payment")[:4], [6000] * 4)
        self.assertEqual(column(answer, "principal")[4:], [150000] * 8)
        self.assertEqual(answer.value, "1560.00")
        self.assertEqual(answer.asks, "From payment 5 the monthly payment is")

    def test_repaid_early_the_parts_stay(self) -> None:
        clause = {"at": 3, "repay": "1500"}
        answer = solve(**KILN, clauses=[clause])
        self.assertEqual(column(answer, "principal")[3:10], [100000] * 7)
        self.assertEqual(column(answer, "principal")[10:], [50000])
        anew = solve(**KILN, clauses=[{**clause, "then": "re-level"}])
        # 7,500.00 left for nine payments: 833.33, the last the rest.
        self.assertEqual(column(anew, "principal")[3:], [83333] * 8 + [83336])


class Laws(TestCase):
    @given(money, percents, st.integers(1, 400))
    def test_principals_are_equal_but_the_last(self, lent: str, percent: str, count: int) -> None:
        answer = solve(**EQUAL, principal=lent, rate={"percent": percent}, count=count)
        if answer.value is None or not answer.schedule:
            self.assertLess(Decimal(percent), 0)
            return
        parts = column(answer, "principal")
        self.assertLessEqual(len(set(parts[:-1])), 1)
        self.assertEqual(sum(parts), cents(lent))
        self.assertLessEqual(abs(parts[-1] - parts[0]), count)
        self.assertTrue(answer.proof and answer.proof["holds"])

    @given(money, percents, st.lists(st.integers(0, 40), min_size=1, max_size=30))
    def test_shares_add_up(self, lent: str, percent: str, weights: list[int]) -> None:
        parts = [str(each) for each in weights]
        rest = 100 - sum(weights)
        if rest < 0:
            return
        answer = solve(
            principal=lent,
            rate={"percent": percent},
            count=len(parts) + 1,
            repayment={"percents": [*parts, str(rest)]},
        )
        if answer.schedule:
            self.assertEqual(sum(column(answer, "principal")), cents(lent))

    @given(money, percents, st.integers(2, 200))
    def test_what_is_found_gives_the_rest_back(self, lent: str, percent: str, count: int) -> None:
        terms = {**EQUAL, "principal": lent, "rate": {"percent": percent}, "count": count}
        unrounded = {"rounding": {"payment": "none", "interest": "none"}}
        payment = solve(**terms, payment="?").exact
        if payment is None:
            return
        for name, stated in (("principal", lent), ("count", str(count))):
            found = solve(**{**terms, "payment": payment, name: "?"}, **unrounded).exact
            self.assertLess(abs(Decimal(found or 0) / Decimal(stated) - 1), Decimal("1e-20"), name)
        rate = solve(**{**terms, "payment": payment, "rate": {"percent": "?"}}).exact
        self.assertLess(abs(Decimal(rate or 0) - Decimal(percent)), Decimal("1e-18"))

    @given(st.integers(1, 60), st.integers(1, 60), percents)
    def test_over_a_longer_time_is_the_loan_that_leaves_a_balance(
        self, count: int, more: int, percent: str
    ) -> None:
        terms = {"principal": "90000", "rate": {"percent": percent}, "count": count}
        over = solve(**terms, amortized_over=count + more, payment="?")
        if over.value is None or not over.schedule:
            return
        same = solve(**terms, payment=over.value, balance="?")
        self.assertEqual(over.schedule, same.schedule)
        self.assertEqual(over.yearly_cost, same.yearly_cost)
        full = solve(**{**terms, "count": count + more}, payment="?")
        self.assertEqual((over.value, over.exact), (full.value, full.exact))

    def test_one_payment_is_the_same_in_every_style(self) -> None:
        rows = [
            solve(principal="5000", count=1, repayment=style).schedule
            for style in ("level", "equal-principal", "interest-only", "at-the-end")
        ]
        self.assertTrue(all(each == rows[0] for each in rows))

    def test_what_is_stated_to_be_paid_at_the_end_stands(self) -> None:
        for percent in ("3.1", "7.77", "0"):
            terms = {"rate": {"percent": percent}, "repayment": "at-the-end", "count": 30}
            for asked in ({"principal": "?"}, {"rate": {"percent": "?"}}):
                answer = solve(**{**terms, "payment": "60123.45", **asked})
                self.assertEqual(total(answer, "final_payment"), "60123.45", (percent, asked))
                self.assertEqual(answer.schedule[-1]["closing"], "0.00")

    def test_a_found_payment_fits_when_it_is_stated(self) -> None:
        for style in ("equal-principal", "interest-only", "at-the-end"):
            for percent in ("3.1", "7.77"):
                terms = {"principal": "9876.54", "rate": {"percent": percent}, "repayment": style}
                found = solve(**terms, payment="?")
                stated = solve(**terms, payment=found.value)
                self.assertTrue(stated.fits, (style, percent, stated.notes))
                self.assertEqual(stated.schedule, found.schedule)


class DrawParts(Draw):
    """A random document whose principal is shared out."""

    def __init__(self, seed: int) -> None:
        super().__init__(seed)
        pick = self.random.choice
        self.content["count"] = self.count
        self.content["timing"] = "in-arrears"
        style = pick(["equal-principal", "equal-principal", "percents", "interest-only"])
        if style == "percents":
            cuts = sorted(self.random.randint(0, 100) for _ in range(self.count - 1))
            parts = [b - a for a, b in zip([0, *cuts], [*cuts, 100], strict=True)]
            self.content["repayment"] = {"percents": [str(each) for each in parts]}
        else:
            self.content["repayment"] = style
        self.content["payment"] = pick(["900", "1234.56", "2500", "75", "9000"])
        self.content["clauses"] = [
            clause
            for clause in self.content["clauses"]
            if not {"payment", "step"} & set(clause)
            # What a day between two payments moves is drawn for level loans.
            and not (
                {"repay", "advance", "fee"} & set(clause) and isinstance(clause.get("at"), str)
            )
        ]
        nothing = any(clause.get("pay") == "nothing" for clause in self.content["clauses"])
        for clause in self.content["clauses"]:
            levels = {"repay", "advance"} & set(clause) and isinstance(clause.get("at"), int)
            if levels and not nothing and self.random.random() < 0.4:
                clause["then"] = "re-level"
        names = ["payment", "payment", "principal", "rate"]
        if style != "interest-only":
            names.append("balance")
        if style == "equal-principal":
            names.append("count")
        name = pick(names)
        self.asked = name
        self.path = ("rate", "percent") if name == "rate" else (name,)


class AgainstTheContract(TestCase):
    def test_random_documents(self) -> None:
        answered = dict.fromkeys(("payment", "principal", "balance", "rate", "count"), 0)
        for seed in range(5 * 10**6, 5 * 10**6 + DRAWN):
            drawn = DrawParts(seed)
            with self.subTest(seed=seed, document=drawn.having("?")):
                try:
                    answer = loans.solve(loans.check(drawn.having("?")))
                except loans.NotALoan as wrong:
                    self.assertIn("re-level", str(drawn.content), wrong.errors)
                    continue
                if answer.value is not None and answer.schedule:
                    getattr(self, drawn.asked)(drawn, answer)
                    answered[drawn.asked] += 1
                    self.assertTrue(answer.proof and answer.proof["holds"], answer.proof)
        for asked, number in answered.items():
            self.assertGreater(number, DRAWN // 40, f"too few documents ask for the {asked}")

    def near(self, answer: loans.Answer, exact: Fraction) -> None:
        gap = abs(Fraction(answer.exact or 0) - exact)
        self.assertLess(
            gap / max(abs(exact), Fraction(1)), Fraction(1, 10**25), (answer.exact, float(exact))
        )

    def payment(self, drawn: DrawParts, answer: loans.Answer) -> None:
        deal = PartsDeal(drawn.having("0"))
        self.near(answer, deal.first_payment())
        self.rows_agree(drawn, "0", answer)
        row = answer.schedule[deal.first_part - 1]
        if answer.schedule[-1] != row:
            self.assertEqual(answer.value, row["payment"])

    def principal(self, drawn: DrawParts, answer: loans.Answer) -> None:
        over = []
        for trial in ("1000", "2000"):
            deal = PartsDeal(drawn.having(trial))
            over.append(deal.first_payment() - Fraction(drawn.content["payment"]))
        exact = 1000 + 1000 * over[0] / (over[0] - over[1])
        self.near(answer, exact)
        self.rows_agree(drawn, answer.value, answer)

    def balance(self, drawn: DrawParts, answer: loans.Answer) -> None:
        deal = PartsDeal(drawn.having("0"))
        deal.unit = deal.by_payment()
        self.near(answer, deal.roll())
        self.rows_agree(drawn, "0", answer)

    def rate(self, drawn: DrawParts, answer: loans.Answer) -> None:
        stated = Fraction(drawn.content["payment"])
        ends = [
            PartsDeal(drawn.having(str(Fraction(answer.exact or 0) + more))).first_payment()
            for more in (0, Fraction(1, 10**12))
        ]
        self.assertLess(abs(ends[0] - stated), abs(ends[1] - ends[0]) + Fraction(1, 10**12))
        self.rows_agree(drawn, answer.value, answer)

    def count(self, drawn: DrawParts, answer: loans.Answer) -> None:
        last = ceil(Fraction(answer.exact or 0))
        deal = PartsDeal(drawn.having(max(last, drawn.count)))
        deal.unit = deal.by_payment()
        owed = deal.lent()
        if any("advance" in clause for clause in drawn.content["clauses"]):
            return
        for number in range(1, last + 1):
            self.assertGreater(owed, deal.balance)
            owed = deal.happens(number, owed).closing
        self.assertLessEqual(owed - deal.balance, Fraction(1, 10**20))

    def rows_agree(self, drawn: DrawParts, value: object, answer: loans.Answer) -> None:
        expected = PartsDeal(drawn.having(value)).told(drawn.asked)
        rows: list[Any] = answer.schedule
        told = [[Fraction(row[name]) for name in NAMES] for row in rows]
        wanted = [[getattr(row, name) for name in NAMES] for row in expected]
        for ours, theirs in zip(told, wanted, strict=False):
            self.assertEqual(
                [f"{float(each):.3f}" for each in ours], [f"{float(each):.3f}" for each in theirs]
            )
        self.assertEqual(len(told), len(wanted))
        self.assertGreaterEqual(CENT, 0)


class BadInput(TestCase):
    def refused(self, field: str, says: str, **changes: Any) -> None:
        content = document(**changes)
        found = errors_of(content)
        self.assertTrue(found, content)
        self.assertEqual(found[0][0], field, found)
        self.assertIn(says, found[0][1])

    def test_percents(self) -> None:
        self.refused(
            "repayment.percents",
            "add up to 95 %",
            repayment={"percents": ["50", "45"]},
            count=2,
        )
        self.refused(
            "repayment.percents",
            "2 parts for 3 payments",
            repayment={"percents": ["50", "50"]},
            count=3,
        )
        self.refused(
            "repayment.percents.0",
            "between 0 and 100",
            repayment={"percents": ["-5", "105"]},
            count=2,
        )
        self.refused("repayment.percents", "at least", repayment={"percents": []}, count=2)
        self.refused("repayment", "", repayment="bullets")

    def test_what_does_not_go_together(self) -> None:
        self.refused("timing", "in arrears", **EQUAL, timing="in-advance")
        self.refused(
            "clauses.0.payment", "the parts do", **EQUAL, clauses=[{"at": 3, "payment": "5"}]
        )
        grows = [{"from": 3, "step": {"percent": "5"}}]
        self.refused("clauses.0.step", "the parts do", **EQUAL, clauses=grows)
        self.refused("balance", "leave it at 0", repayment="at-the-end", balance="100")
        self.refused("balance", "leave it at 0", amortized_over=90, balance="100")
        self.refused("amortized_over", "at least the 60", amortized_over=30)
        self.refused("amortized_over", "level payments only", **EQUAL, amortized_over=90)
        self.refused(
            "interest_shared", "level payments only", **EQUAL, interest_shared="sum-of-digits"
        )
        self.refused("timing", "in arrears", interest_shared="sum-of-digits", timing="in-advance")
        self.refused(
            "clauses.0.repay",
            "only fees",
            interest_shared="sum-of-digits",
            clauses=[{"at": 3, "repay": "5"}],
        )
        self.refused(
            "rate.quoted",
            "level payments",
            **EQUAL,
            rate={"percent": "5", "quoted": "flat"},
        )
        self.refused(
            "count", "how many payments", **EQUAL, count=0, clauses=[{"at": 3, "repay": "5"}]
        )

    def test_what_cannot_be_asked(self) -> None:
        stated = {"payment": "900"}
        self.refused("count", "the ? stands in", **stated, repayment="interest-only", count="?")
        self.refused("balance", "the ? stands in", **stated, repayment="interest-only", balance="?")
        self.refused("count", "the ? stands in", **stated, repayment="at-the-end", count="?")
        parts = {"percents": ["50", "50"]}
        self.refused("count", "the ? stands in", **stated, repayment=parts, count="?")
        repaid = [{"at": 3, "repay": "?"}]
        self.refused("clauses.0.repay", "the ? stands in", **stated, **EQUAL, clauses=repaid)
        self.refused("balance", "leave it at 0", **stated, amortized_over=90, balance="?")


class AskedAllTheSame(TestCase):
    """What is asked beside an answer, of every way of repaying."""

    def test_what_moves_it_is_the_loan_solved_anew(self) -> None:
        for changes in REPAID:
            asked = loans.check(document(**changes))
            percents = [Decimal("5"), Decimal("6.35"), Decimal("8")]
            axes = [Axis(path="rate.percent", values=tuple(percents))]
            told = sensitivity_of(asked, axes, ["answer", "total_interest", "final_payment"])
            for place, percent in enumerate(percents):
                rate = {**asked.rate.model_dump(exclude_none=True), "percent": f"{percent:f}"}
                alone = solve(**{**changes, "rate": rate})
                results = told["results"]
                self.assertEqual(results["answer"][place][0], alone.value, changes)
                self.assertEqual(results["total_interest"][place][0], total(alone, "interest"))
                final = total(alone, "final_payment")
                self.assertEqual(results["final_payment"][place][0], final, changes)

    def test_moments_stretches_and_ends(self) -> None:
        for changes in REPAID:
            asked = loans.check(document(**changes))
            answer = loans.solve(asked)
            after = owed(asked, "2", loans.PLAIN)[0]
            self.assertEqual(after["owed"], answer.schedule[1]["closing"], changes)
            whole = period_totals_of(asked, f"1-{len(answer.schedule)}", loans.PLAIN)[0]
            self.assertEqual(whole["paid"], total(answer, "paid"))
            self.assertEqual(whole["interest"], total(answer, "interest"))
            payoff = payoff_at(asked, "2", Charge(), loans.PLAIN)
            self.assertEqual(payoff["owed"], answer.schedule[1]["closing"])

    def test_paying_more(self) -> None:
        """10,000 repaid on top at 2: the parts stay, so equal principal ends ten payments sooner;
        what is due at the end is less by it and its interest."""
        more = [{"at": 2, "repay": "10000"}]
        equal = {"principal": "60000", "repayment": "equal-principal"}
        saving, _ = paying_more(loans.check(document(**equal)), more, loans.PLAIN)
        self.assertEqual((saving.payments_before, saving.payments_after), (60, 50))
        for changes in REPAID[1:5]:
            asked = loans.check(document(**changes))
            saving, after = paying_more(asked, more, loans.PLAIN)
            self.assertGreater(Decimal(saving.interest_saved), 0, changes)
            self.assertEqual(loans.solve(after).reason, None)
        with self.assertRaises(loans.NotALoan):
            paying_more(loans.check(document(**REPAID[5])), more, loans.PLAIN)

    def test_aims_and_what_would_give_an_answer(self) -> None:
        for changes in REPAID:
            aim = {"figure": "total_interest", "is": "5000", "by": "principal"}
            answer = solve(**changes, aim=aim)
            self.assertIsNotNone(answer.value, changes)
            gap = Decimal(total(answer, "interest")) - 5000
            self.assertLess(abs(gap), Decimal("0.60"), changes)
        low = loans.check(document(repayment="equal-principal", payment="100", count="?"))
        for way in ways_out(low):
            better = loans.solve(with_figure(low, way.path, way.value))
            self.assertIsNotNone(better.value, way)

    def test_beside_each_other_and_by_the_row_of_a_list(self) -> None:
        for changes in REPAID:
            asked, answer = loans.check(document(**changes)), solve(**changes)
            self.assertEqual(as_paid(asked, "payment"), Decimal(answer.value or 0))

    def test_a_rate_that_the_first_payment_tells_has_no_curve(self) -> None:
        asked = loans.check(document(**EQUAL, payment="1060", rate={"percent": "?"}))
        with self.assertRaisesRegex(loans.NotALoan, "no curve"):
            curve_of_rate(asked, loans.PLAIN)


class Explained(TestCase):
    def test_impossible_loans(self) -> None:
        low = solve(**EQUAL, payment="100", count="?")
        self.assertIn("never repays", low.reason or "")
        self.assertIn("repays no part", solve(**EQUAL, payment="100", balance="?").reason or "")
        paused = solve(**EQUAL, clauses=[{"from": 1, "pay": "interest"}])
        self.assertIn("pause every payment", paused.reason or "")
        self.assertIn("More is to be left", solve(**EQUAL, balance="90000").reason or "")
        nothing = solve(
            repayment="interest-only", rate={"percent": "0"}, payment="5", principal="?"
        )
        self.assertIsNotNone(nothing.reason)

    def test_no_part_or_not_as_many(self) -> None:
        """Told, asked or not: no fault where clauses pause all that would repay a part."""
        paused = [{"from": 1, "pay": "interest"}]
        for changes in (EQUAL, {"repayment": {"percents": ["50", "50"]}, "count": 2}):
            checked = solve(**{**changes, "payment": "900"}, clauses=paused)
            self.assertFalse(checked.fits)
            self.assertIn("pause every", solve(**changes, clauses=paused).reason or "")
        few = {"repayment": {"percents": ["50", "30", "20"]}, "count": 6}
        clauses = [{"from": 1, "to": 2, "pay": "interest"}]
        said = "3 parts in percent for 4 payments"
        self.assertIn(said, solve(**few, clauses=clauses).reason or "")
        self.assertFalse(solve(**few, payment="900", clauses=clauses).fits)

    def test_checks_that_do_not_fit(self) -> None:
        answer = solve(**{**KILN, "payment": "1100"})
        self.assertFalse(answer.fits)
        self.assertEqual(answer.would_fit and answer.would_fit["payment"]["value"], "1060.00")
        self.assertEqual(column(answer, "payment")[0], 110000)
        only = solve(**{**KILN, "repayment": "interest-only", "payment": "70"})
        self.assertIn("the ? stands in", str(only.would_fit and only.would_fit["count"]["reason"]))

    def test_steps_and_words(self) -> None:
        for changes in (
            KILN,
            {**KILN, "payment": "1060", "principal": "?"},
            {**KILN, "payment": "1060", "rate": {"percent": "?"}},
            {**KILN, "payment": "1060", "count": "?"},
            {**KILN, "payment": "1055", "balance": "?"},
            {**KILN, "repayment": "at-the-end"},
            {**KILN, "repayment": "interest-only", "payment": "60", "principal": "?"},
            {"amortized_over": 300},
            {"amortized_over": "?", "payment": "400"},
        ):
            answer = solve(**deepcopy(changes))
            with self.subTest(changes=changes):
                self.assertIsNotNone(answer.value, answer.reason)
                self.assertTrue(answer.working)
                self.assertTrue(answer.proof and answer.proof["holds"], answer.proof)
        self.assertEqual(
            loans.terms_in_words(loans.check(document(**KILN)), loans.PLAIN),
            "We lend 12000.00 EUR at 6.00 % a year, nominal, compounded monthly, repaid by 12 "
            "monthly payments of equal principal, the first ?, at the end of each month, with 0.00 "
            "still owed at the end.",
        )


class Said(TestCase):
    """Styles said in a line; the sentence that is shown of a loan reads as that loan."""

    def test_lines(self) -> None:
        equal = {"repayment": "equal-principal"}
        parts = {"percents": ["5", "5", "20", "70"]}
        cases: list[tuple[str, dict[str, Any]]] = [
            ("43,700 at 5.4 % over 4 years, equal principal", {"count": 48, **equal}),
            ("43,700 at 5.4 %, 48 equal principal payments", {"count": 48, **equal}),
            (
                "43,700 at 5.4 % over 4 years pays 1,100 equal principal",
                {"payment": "1100", **equal},
            ),
            ("43,700 at 5.4 %, interest only, 4 years", {"repayment": "interest-only"}),
            ("43,700 at 5.4 % over 4 years, all at the end", {"repayment": "at-the-end"}),
            ("43,700 at 5.4 %, 60 payments amortized over 25 years", {"amortized_over": 300}),
            ("43,700 at 5.4 %, 60 payments, as over ?, pays 300", {"amortized_over": "?"}),
            ("43,700 at 5.4 %, 12 months, rule of 78", {"interest_shared": "sum-of-digits"}),
            ("43,700 at 5.4 % in parts 2x5/20/70", {"count": 4, "repayment": parts}),
            ("43,700 at 5.4 %, 4 payments, in parts of 5; 5; 20; 70", {"repayment": parts}),
        ]
        for line, expected in cases:
            with self.subTest(line):
                said = read_line(line)
                self.assertIsNotNone(said.loan, said.errors)
                assert said.loan is not None
                told = loans.write(said.loan)
                self.assertEqual({name: told.get(name) for name in expected}, expected)
                # Read back from the sentence one can read aloud.
                again = read_line(loans.terms_in_words(said.loan, MARKS["comma-point"]))
                assert again.loan is not None, again.errors
                self.assertEqual(loans.solve(again.loan).schedule, loans.solve(said.loan).schedule)
        pause = read_line("43,700 at 5.4 % over 4 years, interest only for the first year")
        assert pause.loan is not None
        self.assertEqual((pause.loan.repayment, len(pause.loan.clauses)), ("level", 1))

    def test_stated_one_by_one(self) -> None:
        figures: dict[str, Any] = {"principal": 48250, "rate": "6.35 %", "count": 60}
        parts = {"percents": [10, 20, 30, 40]}
        for stated, value in (
            ({"repayment": "equal-principal"}, "1059.49"),
            ({"repayment": "interest only"}, "255.32"),
            ({"amortized_over": "25 years"}, "321.28"),
            ({"amortized_over": 300}, "321.28"),
            ({"repayment": parts, "count": 4}, "5080.32"),
        ):
            answer = zephyrant.solve(**{**figures, **stated})
            self.assertEqual(answer.value, Decimal(value), stated)


class Typed(TestCase):
    """Styles as they are typed into a statement."""

    def work(self, **typed: str) -> Worked:
        terms = {"principal": "48,250", "percent": "6.35", "count": "12", "payment": "?"}
        return work(Statement.model_validate({**terms, **typed}))

    def test_parts(self) -> None:
        whole = (
            "5; 5; 20; 70",
            "2 x 5; 20; 70",
            "2×5, 20, 70",
            "5 5 20 70",
            "2 of 5 then 20 then 70 %",
        )
        for typed in whole:
            worked = self.work(repaid="percents", percents=typed, count="4")
            self.assertEqual(worked.readings["percents"].text, "2 × 5; 20; 70", typed)
            self.assertEqual(worked.errors, (), typed)
        for typed, says in (
            ("", "State what each payment repays"),
            ("half each", "is no percent"),
            ("5; 5", "add up to 10 %"),
            ("50; 50", "2 parts for 4 payments"),
            ("-5; 105", "between 0 and 100"),
            ("99999 x 1", "at most"),
        ):
            worked = self.work(repaid="percents", percents=typed, count="4")
            self.assertEqual(worked.errors[0].field, "percents", typed)
            self.assertIn(says, worked.errors[0].message)

    def test_over_a_longer_time(self) -> None:
        worked = self.work(repaid="over", amortized_over="25 years")
        self.assertEqual(worked.document and worked.document["amortized_over"], 300)
        empty = self.work(repaid="over")
        self.assertEqual(empty.errors[0].field, "amortized_over")
        asked = self.work(repaid="over", amortized_over="?", payment="400")
        self.assertTrue(asked.answer and asked.answer.value)

    def test_what_is_typed_is_kept_and_told_back(self) -> None:
        # A balance stays where it is typed, and is not part of a loan that states none.
        worked = self.work(repaid="at-the-end", balance="5,000")
        self.assertEqual(worked.errors, ())
        self.assertEqual(worked.document and worked.document["balance"], "0")
        for repaid, more in (
            ("percents", {"percents": "11 × 5; 45"}),
            ("over", {"amortized_over": "300"}),
            ("sum-of-digits", {}),
            ("equal-principal", {}),
        ):
            typed = self.work(repaid=repaid, **more)
            assert typed.document is not None
            again = restate(loans.check(typed.document), "point-comma")
            self.assertEqual(again.repaid, repaid)
            self.assertEqual(work(again).document, typed.document)

    def test_a_row_of_a_table(self) -> None:
        ways = ["", "Equal principal", "interest-only", "at the end", "11 x 5; 45", "monthly"]
        columns: Columns = {
            "principal": ["48250"] * 6,
            "percent": ["6.35"] * 6,
            "count": ["12"] * 6,
            "payment": ["?"] * 6,
            "repaid": ways,
            "amortized_over": ["300"] + [""] * 5,
        }
        told = solve_tape(columns, Defaults())
        expected = ["321.28", "4276.15", "255.32", "51404.62", "2667.82", ""]
        self.assertEqual(told["found"], expected)
        self.assertEqual(told["balance"][0], "47435.06")
        self.assertIn("no way of repaying", told["problem"][5])
        # Both said: level ones are reckoned over more, others refuse it; nothing is passed over.
        both: Columns = {name: column[:2] for name, column in columns.items()}
        both = {**both, "repaid": ["level", "interest only"], "amortized_over": ["300", "300"]}
        told = solve_tape(both, Defaults())
        self.assertEqual(told["found"], ["321.28", ""])
        self.assertIn("level payments only", told["problem"][1])
