"""Cover and value: what can be lent within them, sculpted payments, the ratios that are told."""

import os
import re
from decimal import Decimal
from fractions import Fraction
from itertools import product
from random import Random
from typing import Any
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st
from mpmath import mp, mpf

from zephyrant import loans
from zephyrant.loans.answer.results import as_paid
from zephyrant.loans.answer.solving import with_the_answer
from zephyrant.loans.document.sentence import terms_in_words
from zephyrant.loans.files import FIRST_ROW, workbook_of
from zephyrant.loans.questions import Axis, owed, period_totals_of, sensitivity_of
from zephyrant.loans.questions.ending_charge import Charge
from zephyrant.loans.questions.paying_more import paying_more
from zephyrant.loans.questions.payoff import payoff_at
from zephyrant.loans.said import read_line
from zephyrant.loans.statement import Statement, restate, work
from zephyrant.loans.statement.restating import remark
from zephyrant.loans.tape import Defaults, solve_tape
from zephyrant.loans.wording.marks import MARKS

from .documents import BOUNDED, PERIODS, SIZED, document, errors_of, percents
from .oracle_bounds import Sizing
from .sheet import Sheet

DRAWN = int(os.environ.get("ZEPHYRANT_FAR", "250"))
#: A mill: 186,000 a year, covering 1.30 times what is paid over twelve years at 6 %.
MILL: dict[str, Any] = {
    "zephyrant": "loan/1",
    "currency": "EUR",
    "principal": "?",
    "rate": {"percent": "6"},
    "count": 144,
    "cover": {"cash_flow": "186000", "every": "year", "ratio": "1.30"},
}
VALUE = {"amount": "1450000", "highest": "65"}
MARK = MARKS["comma-point"]


def mill(**changes: Any) -> dict[str, Any]:
    return {name: each for name, each in {**MILL, **changes}.items() if each is not None}


def solved(**changes: Any) -> loans.Answer:
    return loans.solve(loans.check(mill(**changes)))


def of_one_currency(style: dict[str, Any]) -> dict[str, Any]:
    """A sized loan, over two years."""
    return document(**{"count": 24, **BOUNDED, **style})


class SureValues(TestCase):
    def test_what_a_cash_flow_carries(self) -> None:
        """186,000 / 1.30 a year is 11,923.0769... a month; the annuity over 144 months at 0.5 % by
        mpmath."""
        answer = solved()
        with mp.workdps(40):
            payment = mpf(186000) / mpf("1.30") / 12
            lent = payment * (1 - mpf("1.005") ** -144) / mpf("0.005")
            self.assertLess(abs(mpf(answer.exact or "0") - lent), mpf(10) ** -15)
        self.assertEqual(answer.schedule[0]["payment"], "11923.07")
        self.assertLessEqual(Decimal(answer.value or 0), Decimal(answer.exact or 0))
        self.assertEqual((answer.binding, answer.slack), ("cover", {"cover": "0.00"}))

    def test_the_lesser_binds_and_the_other_is_slack(self) -> None:
        """65 % of 1,450,000 is 942,500; the cover alone lends what it did."""
        alone, both = solved(), solved(value=VALUE)
        self.assertEqual((both.value, both.binding), ("942500.00", "value"))
        more = Decimal(alone.value or 0) - Decimal("942500")
        self.assertEqual(both.slack, {"cover": str(more), "value": "0.00"})
        self.assertEqual(both.loan_to_value, "65.0000000000")
        worth = {"amount": "3000000", "highest": "65"}
        other = solved(value=worth)
        self.assertEqual((other.value, other.binding), (alone.value, "cover"))
        assert other.slack is not None
        self.assertEqual(Decimal(other.slack["value"]), 1950000 - Decimal(other.value or 0))

    def test_a_tie_is_the_covers(self) -> None:
        """12,000 a year over 1.00 for one year without interest: 12,000; the value lends as
        much."""
        plain = {"cash_flow": "12000", "ratio": "1"}
        worth = {"amount": "24000", "highest": "50"}
        answer = solved(rate={"percent": "0"}, count=12, cover=plain, value=worth)
        self.assertEqual((answer.value, answer.binding), ("12000.00", "cover"))
        self.assertEqual(answer.slack, {"cover": "0.00", "value": "0.00"})
        self.assertEqual(answer.cover_ratios, [(1, "1.0000000000")])

    def test_a_short_last_period_pro_rata(self) -> None:
        """18 months of 500 each: 6,000 in the first year, 3,000 in half of the second; of 12,000 a
        year that is 2 in both."""
        flow = {"cash_flow": "12000", "ratio": "1.5"}
        answer = solved(
            principal="9000", payment="500", rate={"percent": "0"}, count=18, cover=flow
        )
        self.assertEqual(answer.cover_ratios, [(1, "2.0000000000"), (2, "2.0000000000")])

    def test_growth_steps_once_a_loan_year(self) -> None:
        """10,000 a half-year, 10 % more each year, 1,000 paid a month without interest."""
        flow = {"cash_flow": "10000", "every": "half-year", "growth": "10", "ratio": "1"}
        asked = {"principal": "24000", "payment": "1000", "rate": {"percent": "0"}, "count": 24}
        ratios = solved(cover=flow, **asked).cover_ratios or []
        told = [round(float(ratio or 0), 9) for _, ratio in ratios]
        self.assertEqual(told, [round(each, 9) for each in (5 / 3, 5 / 3, 11 / 6, 11 / 6)])

    def test_sculpted_over_three_years(self) -> None:
        """Yearly, 5 %: 30,000, 40,000, 50,000 over 1.25 are 24,000, 32,000, 40,000, worth
        24,000 / 1.05 + 32,000 / 1.05^2 + 40,000 / 1.05^3 by hand: 86,435.59."""
        flows = {"cash_flows": ["30000", "40000", "50000"], "ratio": "1.25"}
        yearly = {"rate": {"percent": "5"}, "count": 3, "every": "year", "repayment": "sculpted"}
        answer = solved(cover=flows, **yearly)
        exact = Fraction(24000) / Fraction("1.05") + Fraction(32000) / Fraction("1.05") ** 2
        exact += Fraction(40000) / Fraction("1.05") ** 3
        self.assertLess(abs(Fraction(answer.exact or 0) - exact), Fraction(1, 10**15))
        self.assertEqual(answer.value, "86435.59")
        paid = [row["payment"] for row in answer.schedule]
        self.assertEqual(paid[:2], ["24000.00", "32000.00"])
        back = solved(principal=answer.value, cover={**flows, "ratio": "?"}, **yearly)
        self.assertLess(abs(Decimal(back.value or 0) - Decimal("1.25")), Decimal("0.000001"))

    def test_interest_only_does_not_test_its_principal(self) -> None:
        """6,000 of interest a year on 100,000 at 6 %, whatever is repaid at the end."""
        flow = {"cash_flow": "12000", "ratio": "1.5"}
        answer = solved(
            principal="100000", payment="?", repayment="interest-only", count=24, cover=flow
        )
        self.assertEqual([ratio for _, ratio in answer.cover_ratios or ()], ["2.0000000000"] * 2)

    def test_the_rounding_of_interest_alone_is_looked_for_from_afar(self) -> None:
        """186,000 a year carries 391.99 a day. The greatest principal whose interest of a day, at
        0.01 % / 365, rounds to 391 yen: less than 391.5 x 365 / 0.0001 = 1,428,975,000."""
        daily = {"currency": "JPY", "every": "day", "count": 12, "repayment": "interest-only"}
        answer = solved(rate={"percent": "0.01"}, **daily)
        self.assertEqual(answer.value, "1428974999")

    def test_fees_charges_and_repayments_do_not_count(self) -> None:
        clauses = [
            {"at": 0, "fee": "300", "taken": "apart"},
            {"from": 1, "charge": "20"},
            {"at": 6, "repay": "5000"},
        ]
        answer = solved(principal="100000", payment="1000", count=12, clauses=clauses, balance="?")
        self.assertEqual(answer.cover_ratios, [(1, "15.5000000000")])


class AgainstTheOracle(TestCase):
    """Every way of repaying, cover and value together, to the cent."""

    def document(self, draw: Random) -> tuple[dict[str, Any], int]:
        every = draw.choice(("month", "month", "quarter", "half-year", "year"))
        a_year = PERIODS[every]
        count = draw.choice((a_year * draw.randint(1, 5), draw.randint(2, 40)))
        style = draw.choice(
            ("level", "level", "equal-principal", "interest-only", "sculpted", "percents", "over")
        )
        rate = draw.choice(("0", "3.5", "6", "7.25", "12"))
        content = mill(rate={"percent": rate}, count=count, every=every, cover=None)
        idle = 0
        if style == "percents":
            some = [draw.randint(1, 200) for _ in range(count - 1)]
            parts = [round(Decimal(90 * each) / sum(some), 2) for each in some]
            content["repayment"] = {"percents": [str(each) for each in (*parts, 100 - sum(parts))]}
        elif style == "over":
            content["amortized_over"] = count + draw.randint(0, 60)
        elif style != "level":
            content["repayment"] = style
        if style in ("level", "over") and draw.random() < 0.3:
            content["timing"] = "in-advance"
        elif style in ("level", "equal-principal", "sculpted") and count > 3:
            idle = draw.choice((0, 0, 1, 2))
            if idle:
                content["clauses"] = [{"from": 1, "to": idle, "pay": "interest"}]
        if style != "over" and draw.random() < 0.25:
            content["balance"] = str(draw.randint(100, 5000))
        kind = "both" if style == "sculpted" else draw.choice(("cover", "both", "both", "value"))
        if kind != "value":
            content["cover"] = self.cover(draw, count, a_year)
        if kind != "cover":
            highest = draw.choice(("65", "80", "33.33"))
            content["value"] = {"amount": str(draw.randint(20_000, 400_000)), "highest": highest}
        return content, idle

    def cover(self, draw: Random, count: int, a_year: int) -> dict[str, Any]:
        tested = [name for name in ("year", "half-year", "quarter") if a_year % PERIODS[name] == 0]
        cover: dict[str, Any] = {
            "ratio": draw.choice(("1", "1.2", "1.30", "1.45", "2")),
            "every": draw.choice(tuple(tested)),
        }
        if draw.random() < 0.3:
            years = -(-count // a_year)
            cover["cash_flows"] = [str(draw.randint(5000, 60000)) for _ in range(years)]
        else:
            cover["cash_flow"] = str(draw.randint(1000, 90000))
            cover["growth"] = draw.choice(("0", "2", "-3", "10"))
        return cover

    def test_to_the_cent(self) -> None:
        answered = 0
        for seed in range(DRAWN):
            content, idle = self.document(Random(seed))
            with self.subTest(seed=seed, content=content):
                answered += self.held(content, idle)
        self.assertGreater(answered, DRAWN * 0.8)

    def test_unrounded(self) -> None:
        """Nothing rounded, a period pays no more than is carried but for the last digits; with the
        interest rounded, half a cent of each payment so far."""
        for seed, interest in product(range(40), ("none", "nearest")):
            content, idle = self.document(Random(seed))
            rounding = {"payment": "none", "interest": interest}
            answer = loans.solve(loans.check({**content, "rounding": rounding}))
            if answer.binding != "cover":
                continue
            ours = Sizing(content, idle).sized()
            self.assertLess(abs(Fraction(answer.value or 0) - ours.exact), Fraction(1, 10**6))
            assert answer.proof is not None
            self.assertTrue(answer.proof["holds"], content)
            cover = content["cover"]
            each = PERIODS[content["every"]] // PERIODS[cover["every"]]
            near = Fraction(1, 100) if interest == "nearest" else Fraction(1, 10**9)
            lowest = min(Fraction(ratio) for _, ratio in answer.cover_ratios or () if ratio)
            paid = sum(Fraction(row["payment"]) for row in answer.schedule[:each])
            self.assertGreater(lowest, Fraction(cover["ratio"]) * (1 - 40 * near / paid))

    def held(self, content: dict[str, Any], idle: int) -> bool:
        """Against the oracle; whether there was an answer."""
        answer = loans.solve(loans.check(content))
        if answer.value is None or not answer.schedule:
            return False
        ours = Sizing(content, idle).sized()
        self.assertEqual(Fraction(answer.value), ours.lent)
        self.assertEqual(answer.binding, ours.binding)
        close = abs(Fraction(answer.exact or 0) - ours.exact)
        self.assertLess(close, Fraction(1, 10**15) * max(Fraction(1), ours.exact))
        paid = [Fraction(row["payment"]) for row in answer.schedule]
        if content.get("repayment") == "interest-only":
            paid[-1] = Fraction(answer.schedule[-1]["interest"])
        self.assertEqual(paid, ours.paid)
        slack = {name: Fraction(each) for name, each in (answer.slack or {}).items()}
        self.assertEqual(slack, {name: each - ours.lent for name, each in ours.alone.items()})
        assert answer.proof is not None
        self.assertTrue(answer.proof["holds"])
        return True


class Laws(TestCase):
    @given(percents, st.integers(1, 20), st.integers(1_000, 900_000), st.integers(100, 300))
    def test_a_cover_that_is_met_stays_met(
        self, percent: str, years: int, flow: int, ratio: int
    ) -> None:
        """In every period of the schedule to the cent, and no cent more could be lent."""
        cover = {"cash_flow": str(flow), "ratio": f"{ratio / 100:.2f}"}
        for style in ("level", "sculpted"):
            answer = solved(
                cover=cover, count=12 * years, rate={"percent": percent}, repayment=style
            )
            if not answer.schedule:
                continue
            ratios = [Decimal(each or 0) for _, each in answer.cover_ratios or ()]
            self.assertGreaterEqual(min(ratios), Decimal(cover["ratio"]))

    def test_a_bound_never_reached_changes_nothing(self) -> None:
        for style in ("level", "equal-principal", "sculpted"):
            alone = solved(repayment=style)
            worth = {"amount": "90000000", "highest": "65"}
            both = solved(repayment=style, value=worth)
            self.assertEqual(alone.value, both.value)
            self.assertEqual(alone.schedule[0]["payment"], both.schedule[0]["payment"])

    def test_where_another_figure_is_asked_bounds_do_not_steer(self) -> None:
        asked = {"principal": "600000", "payment": "?"}
        free, bound = solved(cover=None, **asked), solved(value=VALUE, **asked)
        self.assertEqual(free.value, bound.value)
        self.assertEqual(free.schedule[5]["closing"], bound.schedule[5]["closing"])
        self.assertIsNone(bound.binding)
        self.assertEqual(len(bound.cover_ratios or ()), 12)
        self.assertEqual(round(Decimal(bound.loan_to_value or 0), 4), Decimal("41.3793"))

    def test_stated_as_it_was_found_it_is_the_same_loan(self) -> None:
        for style in SIZED:
            content = of_one_currency(style)
            asked = loans.check(content)
            found, stated = loans.solve(asked), loans.solve(with_the_answer(asked))
            self.assertIsNot(stated.fits, False, style)
            self.assertEqual(found.schedule, stated.schedule, style)
            self.assertEqual(found.cover_ratios, stated.cover_ratios, style)

    def test_value_shrinks_sculpted_payments_by_one_factor(self) -> None:
        worth = {"amount": "500000", "highest": "60"}
        flow = {"cash_flow": "186000", "growth": "4", "ratio": "1.30"}
        answer = solved(repayment="sculpted", value=worth, cover=flow)
        ratios = [Decimal(each or 0) for _, each in answer.cover_ratios or ()]
        self.assertEqual(answer.binding, "value")
        # Half a cent in each of twelve payments of some two thousand.
        self.assertLess(max(ratios) - min(ratios), Decimal("0.0001"))


class Explained(TestCase):
    def refused(self, field: str, says: str, **changes: Any) -> None:
        told = errors_of(mill(**changes))
        self.assertTrue(
            any(where == field and re.search(says, said) for where, said in told), (told, changes)
        )

    def test_what_cannot_be(self) -> None:
        cover = MILL["cover"]
        self.refused("cover.ratio", "above 0", cover={**cover, "ratio": "0"})
        self.refused("cover.ratio", "above 0", cover={**cover, "ratio": "-1"})
        self.refused(
            "cover.ratio", "sculpted", cover={**cover, "ratio": "?"}, principal="9", payment="1"
        )
        self.refused("cover.growth", "grows", cover={**cover, "growth": "-100"})
        both = {**cover, "cash_flows": ["1", "2"]}
        self.refused("cover", "stated once, or year by year", cover=both)
        few = {"cash_flows": ["1", "2"], "ratio": "1"}
        self.refused("cover.cash_flows", "runs into year 12", cover=few)
        grows = {"cash_flows": ["9"] * 12, "ratio": "1", "growth": "2"}
        self.refused("cover.growth", "do not grow", cover=grows)
        self.refused(
            "cover.every",
            "quarterly payments do not make up a month",
            every="quarter",
            cover={**cover, "every": "month"},
        )
        self.refused("cover", "no period", repayment="at-the-end")
        self.refused("cover", "follow the cash flow", repayment="sculpted", cover=None)
        self.refused("payment", "leave the payment out", repayment="sculpted", payment="5")
        self.refused("value.highest", "above 0", value={**VALUE, "highest": "0"})
        self.refused("value.amount", "above 0", value={**VALUE, "amount": "0"})
        self.refused("payment", "missing", cover=None)
        self.refused("payment", "missing", principal="5000")
        self.refused("payment", "Only one figure", payment="?")
        self.refused("count", "Only one figure", count="?")

    def test_nothing_can_be_lent(self) -> None:
        none = {"cash_flows": ["9000", "0", "9000"] + ["9000"] * 9, "ratio": "1.2"}
        self.assertIn("in period 2 of the cover there is no", solved(cover=none).reason or "")
        stated = [{"from": 1, "to": 12, "payment": "20000"}]
        self.assertIn("carries", solved(clauses=stated).reason or "")
        much = solved(balance="9000000", value=VALUE, cover=None)
        self.assertIn("No payment leaves", much.reason or "")
        lent = [{"at": 3, "advance": "9000000"}]
        self.assertIn("Nothing can be lent", solved(clauses=lent).reason or "")

    def test_notes_say_which_binds_and_which_does_not_hold(self) -> None:
        self.assertIn("The cover binds", solved().notes[0])
        self.assertRegex(solved(value=VALUE).notes[0], "The value binds: the cover alone")
        short = solved(principal="1400000", payment="?", value=VALUE)
        self.assertTrue(any("not held in 12 of 12 periods" in each for each in short.notes))
        self.assertTrue(any("96.55" in each and "65" in each for each in short.notes))

    def test_the_working_leads_to_the_figure(self) -> None:
        for style in SIZED:
            answer = loans.solve(loans.check(of_one_currency(style)))
            results = [step["result"] for step in answer.working]
            exact = Decimal(answer.exact or 0)
            told = {round(Decimal(each), 6) for each in results if re.fullmatch(r"[\d.]+", each)}
            self.assertIn(round(exact, 6), told, style)


class EveryWayIn(TestCase):
    """Said, typed, by the row, beside the answer, in files."""

    def test_the_sentence_reads_back(self) -> None:
        for style in SIZED:
            asked = loans.check(of_one_currency(style))
            for marks in ("comma-point", "point-comma"):
                line = read_line(terms_in_words(asked, MARKS[marks]), MARKS[marks])
                self.assertEqual(line.errors, (), style)
                assert line.loan is not None
                self.assertEqual((line.loan.cover, line.loan.value), (asked.cover, asked.value))
                self.assertEqual(loans.solve(line.loan).value, loans.solve(asked).value)

    def test_as_an_analyst_says_it(self) -> None:
        for line, value in (
            ("cash flow 186k a year, cover 1.3, 6 %, 12 years", solved().value),
            (
                "how much? 12 years at 6 %, cash flow of 186,000 covers the payments 1.30 times",
                solved().value,
            ),
            ("6 % over 12 years, worth 1.45m, up to 65 %", "942500.00"),
            ("sculpted, cash flow 12k / 12k, 20k at 0 % over 2 years, cover?", "1.2000000000"),
        ):
            read = read_line(line)
            self.assertEqual(read.errors, (), line)
            assert read.loan is not None
            self.assertEqual(loans.solve(read.loan).value, value, line)

    def test_typed_and_told_back(self) -> None:
        for style in SIZED:
            asked = loans.check(of_one_currency(style))
            statement = restate(asked, "comma-point")
            worked = work(statement)
            self.assertEqual(worked.errors, (), style)
            assert worked.answer is not None
            self.assertEqual(worked.answer.value, loans.solve(asked).value)
            other = work(remark(statement, "point-comma"))
            assert other.answer is not None
            self.assertEqual(other.answer.value, worked.answer.value)

    def test_what_people_type(self) -> None:
        typed = {
            "principal": "?",
            "percent": "6",
            "count": "12 years",
            "cover": {"cash_flow": "186k", "growth": "", "ratio": "1.3x"},
        }
        worked = work(Statement.model_validate(typed))
        assert worked.answer is not None and worked.told is not None
        self.assertEqual(worked.answer.value, solved().value)
        self.assertEqual(worked.told.typed_with, {"payment": "11,923.07"})
        for name, text, says in (
            ("ratio", "0", "above 0"),
            ("ratio", "", "Nothing is stated"),
            ("ratio", "often", "not a cover"),
            ("cash_flow", "?", "is stated"),
            ("cash_flow", "186k; lots", "not an amount"),
            ("growth", "−100", "grows by more"),
        ):
            cover: dict[str, Any] = {**typed["cover"], name: text}  # type: ignore[dict-item]
            wrong = work(Statement.model_validate({**typed, "cover": cover})).errors
            told = [each.message for each in wrong if each.field == f"cover.{name}"]
            self.assertTrue(any(says in each for each in told), (name, text, wrong))

    def test_by_the_row(self) -> None:
        columns: Any = {
            "principal": ["", "?", "600000", "20000", ""],
            "percent": ["6", "6", "6", "0", "6"],
            "count": ["144", "144", "144", "24", "144"],
            "payment": [""] * 5,
            "cash_flow": ["186k", "186,000", "186000", "12k; 12k", "some"],
            "cover": ["1.3", "1.30", "1.3", "?", "1.3"],
            "value": ["", "1.45m", "", "", ""],
            "highest": ["", "65", "", "", ""],
            "repaid": ["", "", "", "sculpted", ""],
        }
        told = solve_tape(columns, Defaults())
        self.assertEqual(told["found"][:2], [solved().value, "942500.00"])
        self.assertEqual(told["payment"][0], "11923.07")
        self.assertEqual(told["binding"][:3], ["cover", "value", ""])
        self.assertEqual(told["loan_to_value"][1], "65.0000000000")
        self.assertEqual(told["found"][3], "1.2000000000")
        self.assertIn("Cash flow: ", told["problem"][4])

    def test_what_is_asked_beside_it(self) -> None:
        for style in SIZED:
            asked = loans.check(of_one_currency(style))
            answer = loans.solve(asked)
            percent = Decimal(asked.rate.percent)
            axes = [Axis(path="rate.percent", values=(percent, percent + 1))]
            told = sensitivity_of(asked, axes, ["answer"])["results"]["answer"]
            self.assertEqual(told[0][0], answer.value, style)
            if asked.cover and answer.binding != "value":
                self.assertNotEqual(told[1][0], answer.value)
            after = owed(asked, "2", loans.PLAIN)[0]
            self.assertEqual(after["owed"], answer.schedule[1]["closing"], style)
            whole = period_totals_of(asked, f"1-{len(answer.schedule)}", loans.PLAIN)[0]
            assert answer.totals is not None
            self.assertEqual(whole["paid"], answer.totals["paid"])
            self.assertEqual(
                payoff_at(asked, "2", Charge(), loans.PLAIN)["owed"], answer.schedule[1]["closing"]
            )
            saving, _ = paying_more(asked, [{"at": 2, "repay": "100"}], loans.PLAIN)
            self.assertGreater(Decimal(saving.interest_saved), 0, style)

    def test_the_more_cover_the_less_is_lent(self) -> None:
        asked = loans.check(mill())
        values = tuple(map(Decimal, ("1.2", "1.3", "1.4")))
        told = sensitivity_of(asked, [Axis(path="cover.ratio", values=values)], ["answer"])
        lent = [Decimal(row[0] or 0) for row in told["results"]["answer"]]
        self.assertEqual(lent, sorted(lent, reverse=True))
        self.assertEqual(str(lent[1]), solved().value)

    def test_the_payment_of_it(self) -> None:
        self.assertEqual(as_paid(loans.check(mill()), "payment"), Decimal("11923.07"))
        self.assertIsNone(as_paid(loans.check(mill(repayment="sculpted")), "payment"))

    def test_formulas_give_our_cents_and_ratios(self) -> None:
        for style in SIZED:
            found = workbook_of(loans.check(of_one_currency(style)))
            assert found is not None
            sheet, amount = Sheet(found), found.schedule.unit.amount
            for at, row in enumerate(found.schedule.rows):
                ours = (row.opening, row.interest, row.principal, row.payment, row.closing)
                for mine, units in zip(sheet.row(FIRST_ROW + at), ours, strict=True):
                    self.assertAlmostEqual(mine, float(amount(units)), delta=1e-6, msg=str(style))
            for column in found.beside:
                for cell in filter(None, column.cells):
                    told = sheet.worked(cell[0])
                    self.assertAlmostEqual(told, cell[1], places=9, msg=str(style))
