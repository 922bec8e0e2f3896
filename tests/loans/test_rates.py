"""Rates on one footing: conversions, the missing figure, and what a change may keep."""

from decimal import Decimal
from fractions import Fraction
from math import exp, log
from typing import Any, get_args
from unittest import TestCase

import numpy as np
import QuantLib
from hypothesis import given, settings
from hypothesis import strategies as st
from mpmath import mp, mpf
from scipy.optimize import brentq

from zephyrant.loans.calendars.frequencies import PERIODS, a_year
from zephyrant.loans.numbers.decimals import precise
from zephyrant.loans.numbers.ratios import as_decimal
from zephyrant.loans.quotes.arrays import (
    can_be_arrays,
    periodic_rates,
    quoted_percents,
    ratios,
)
from zephyrant.loans.quotes.conversion import growth_of, percent_of, periodic_rate, quoted_percent
from zephyrant.loans.quotes.styles import CONVENTIONS, Quoted, Style, Time
from zephyrant.loans.statement.rate_questions import RateQuestion, answer
from zephyrant.loans.statement.requoting import Quoting, repace, requote
from zephyrant.loans.statement.statement import Statement

from .documents import solve

DAYS_90 = Time(Fraction(90), "day")
STYLES: list[Style] = [
    *(Style("nominal", name, 12) for name in PERIODS),
    Style("nominal", 7, 12),
    Style("nominal", "month", 12, year_days=360),
    Style("nominal", "continuous", 12),
    Style("effective", 1, 12),
    Style("continuous", 1, 12, year_days=360),
    Style("periodic", 1, 12),
    Style("flat", 1, 12, payments=60),
    Style("flat", 1, 12, payments=36, in_advance=True),
    Style("simple", 1, 12, over=DAYS_90),
    Style("simple", 1, 12, over=Time(Fraction(3, 2), "year"), year_days=360),
    Style("discount", 1, 12, over=DAYS_90),
    Style("discount", 1, 12, over=Time(Fraction(6), "month"), year_days=360),
]


def ask(**entries: Any) -> Any:
    return answer(RateQuestion(**entries))


class Conversions(TestCase):
    @given(
        st.decimals(-40, 400, places=6).filter(lambda percent: percent > -40),
        st.lists(st.sampled_from(STYLES), min_size=1, max_size=8),
        st.sampled_from([1, 2, 4, 12, 52, 365]),
    )
    @settings(deadline=None, max_examples=150)
    def test_a_chain_of_styles_leads_back(
        self, percent: Decimal, chain: list[Style], often: int
    ) -> None:
        """Through up to eight styles, 1 + the rate comes back to 1e-28 relative."""
        first = periodic_rate(percent, Style("effective", 1, often))
        with precise(80):
            rate = first
            for style in chain:
                here = style._replace(every=often)
                rate = periodic_rate(quoted_percent(as_decimal(rate), here), here)
            gap = abs(as_decimal(rate) - as_decimal(first)) / (1 + as_decimal(first))
        self.assertLess(gap, Decimal("1e-28"))

    @given(
        st.decimals(-15, 90, places=5),
        st.sampled_from([1, 4, 12, 52]),
        st.integers(2, 400),
        st.booleans(),
    )
    @settings(deadline=None, max_examples=80)
    def test_flat_quotes_against_an_internal_rate_by_mpmath(
        self, percent: Decimal, often: int, count: int, advance: bool
    ) -> None:
        """The flat payment, (1 + p T)/n, discounted at our rate is worth what is lent."""
        style = Style("flat", 1, often, payments=count, in_advance=advance)
        least, most = style.bounds()
        if percent <= (least or 0) or (most is not None and percent >= most):
            return
        with mp.workdps(60):
            years = mpf(count) / often
            payment = (1 + mpf(str(percent)) / 100 * years) / count
            rate = periodic_rate(percent, style)
            first = 0 if advance else 1
            growth = 1 + mpf(rate.numerator) / rate.denominator
            present_value = sum(payment * growth ** -(k + first) for k in range(count))
            self.assertLess(abs(present_value - 1), mpf("1e-40"))

    def test_a_flat_quote_by_scipys_root(self) -> None:
        # 3.4 % flat over 60 monthly payments: 10,000 + 5 x 340 = 11,700, 60 payments of 195.
        def gap(rate: float) -> float:
            return sum(195 / (1 + rate) ** k for k in range(1, 61)) - 10_000

        expected = brentq(gap, 1e-6, 0.1, xtol=1e-15)
        found = ask(percent="3.4", quoted="flat", count="60")
        self.assertAlmostEqual(float(found.exact), 100 * ((1 + expected) ** 12 - 1), places=9)
        self.assertEqual(
            solve(rate={"percent": "3.4", "quoted": "flat"}, principal="10000").value, "195.00"
        )

    def test_a_flat_quote_of_a_loan_whatever_is_asked(self) -> None:
        # 23,640 at 4.2 % flat over 36 months: 23,640 x 1.126 / 36 = 739.4066...
        for timing in ("in-arrears", "in-advance"):
            flat = {"percent": "4.2", "quoted": "flat"}
            terms: dict[str, Any] = {"principal": "23640", "count": 36, "timing": timing}
            payment = solve(**terms, rate=flat).exact or ""
            self.assertAlmostEqual(float(payment), 23640 * 1.126 / 36, places=9)
            asked = solve(**terms, payment=payment, rate={**flat, "percent": "?"})
            self.assertEqual(asked.value, "4.2000000000")
            lent = solve(**{**terms, "principal": "?"}, payment=payment, rate=flat)
            self.assertAlmostEqual(float(lent.exact or 0), 23640, places=9)

    def test_simple_and_discount_by_hand(self) -> None:
        # 8 % simple over half a year turns 100 into 104; 104^2/100 = 108.16.
        found = ask(percent="8", quoted="simple", over="6 months")
        self.assertEqual(found.value, "8.16")
        # 8 % discount over half a year gives 96 for 100: (100/96)^2 = 1.0850694444...
        found = ask(percent="8", quoted="discount", over="6m")
        self.assertEqual(found.value, "8.5069444444")
        # 6 % for 360 days is 6.0833...% for 365.
        found = ask(percent="6", quoted="simple", over="1 year", year_days=360)
        self.assertEqual(found.value, "6.0833333333")
        back = ask(percent="?", quoted="discount", over="6m", effective="8.5069444444444444444")
        self.assertEqual(back.value, "8.00")

    def test_against_quantlib(self) -> None:
        """QuantLib's InterestRate, for each of its compoundings that is a number a year."""
        actual = QuantLib.Actual365Fixed()
        frequencies = {
            1: QuantLib.Annual,
            2: QuantLib.Semiannual,
            4: QuantLib.Quarterly,
            6: QuantLib.Bimonthly,
            12: QuantLib.Monthly,
            13: QuantLib.EveryFourthWeek,
            26: QuantLib.Biweekly,
            52: QuantLib.Weekly,
            365: QuantLib.Daily,
        }
        effective, force = Style("effective", 1, 1), Style("continuous", 1, 1)
        for percent in (0.25, 6.35, 48.0):
            stated = Decimal(str(percent))
            for times, frequency in frequencies.items():
                theirs = QuantLib.InterestRate(
                    percent / 100, actual, QuantLib.Compounded, frequency
                )
                yearly = theirs.equivalentRate(QuantLib.Compounded, QuantLib.Annual, 1.0)
                continuous = theirs.equivalentRate(QuantLib.Continuous, QuantLib.Annual, 1.0)
                with self.subTest(percent=percent, times=times), precise():
                    growth = growth_of(stated, Style("nominal", times, 1))
                    ours = float(percent_of(growth, effective))
                    self.assertAlmostEqual(ours, 100 * yearly.rate(), places=10)
                    ours = float(percent_of(growth, force))
                    self.assertAlmostEqual(ours, 100 * continuous.rate(), places=10)
            # The two that are simple in part it gives no equivalents of.
            for days in (30, 90, 365, 500):
                style = Style("simple", 1, 1, over=Time(Fraction(days), "day"))
                theirs = QuantLib.InterestRate(
                    percent / 100, actual, QuantLib.Simple, QuantLib.Annual
                )
                yearly = theirs.equivalentRate(QuantLib.Compounded, QuantLib.Annual, days / 365)
                with self.subTest(percent=percent, days=days), precise():
                    ours = float(100 * (growth_of(stated, style) - 1))
                    self.assertAlmostEqual(ours, 100 * yearly.rate(), places=9)


class ARecordAStyle(TestCase):
    """Every form a style has tells the same rate."""

    def test_every_style_has_its_record(self) -> None:
        self.assertEqual(tuple(CONVENTIONS), get_args(Quoted))
        self.assertEqual({style.quoted for style in STYLES}, set(CONVENTIONS))

    @given(
        st.sampled_from([style for style in STYLES if can_be_arrays(style)]),
        st.decimals("0.01", 60, places=4),
        st.sampled_from([1, 4, 12, 52]),
    )
    def test_arrays(self, style: Style, percent: Decimal, often: int) -> None:
        style = style._replace(every=often)
        exact = periodic_rate(percent, style)
        (told,) = periodic_rates(np.array([float(percent)]), style).tolist()
        self.assertAlmostEqual(told / float(exact), 1, places=13)
        (back,) = quoted_percents(np.array([told]), style).tolist()
        self.assertAlmostEqual(back / float(percent), 1, places=12)
        (top,), (bottom,) = (each.tolist() for each in ratios(np.array([float(percent)]), style))
        if (top, bottom) != (0, 1):
            self.assertEqual(Fraction(top, bottom), exact)

    @given(st.sampled_from(STYLES), st.decimals("0.01", 30, places=4))
    def test_the_formula_of_a_sheet(self, style: Style, percent: Decimal) -> None:
        """Its powers and exponentials worked by Python's floats."""
        formula = style.convention.sheet_formula(style, "Percent")
        if formula is None:
            self.assertEqual(style.quoted, "flat")
            return
        worked = formula.removeprefix("=").replace("^", "**")
        told = eval(worked, {"Percent": float(percent), "EXP": exp})
        self.assertAlmostEqual(told, 100 * float(periodic_rate(percent, style)), places=11)

    @given(st.sampled_from(STYLES), st.decimals("0.01", 30, places=4))
    def test_the_formula_that_is_read(self, style: Style, percent: Decimal) -> None:
        """Both ways, with the letters that it says."""
        if style.quoted == "flat":
            return
        rate = periodic_rate(percent, style)
        letters = {
            "p": float(percent) / 100,
            "i": float(rate),
            "e": float((1 + rate) ** 12 - 1),
            "f": 12,
            "m": 12 if style.compounding == "continuous" else a_year(style.compounding),
            "t": float(style.over.years) if style.over else 1,
            "ln": log,
            "exp": exp,
        }
        formulas = [style.convention.formula(style), style.convention.yearly_formula(style)]
        for formula in (each for each in formulas if each is not None):
            for told in (formula.forward, formula.back):
                name, _, worked = told.partition(" = ")
                for sign, python in (("e^(", "exp("), ("^", "**"), ("·", "*"), ("−", "-")):
                    worked = worked.replace(sign, python)
                value = eval(worked, letters)
                self.assertAlmostEqual(value, float(str(letters[name])), places=12)


class TheMissingFigure(TestCase):
    def test_each_of_the_three(self) -> None:
        # 6 % compounded monthly is 6.1678 % effective: interest tables, from memory, and
        # (1 + 0.06/12)^12 - 1 = 0.061677811864... worked out with mpmath.
        found = ask(percent="6", times="12", effective="?")
        self.assertEqual((found.unknown, found.value), ("effective", "6.1677811864"))
        self.assertEqual(ask(percent="?", times="12", effective="6.1677811864").value, "6.00")
        found = ask(percent="6", times="?", effective="6.1678")
        self.assertEqual(found.value, "12")
        self.assertIn("compounded monthly is 6.1678 %", found.note)

    def test_it_is_said_what_was_found(self) -> None:
        asked = {"percent": "6", "times": "12", "effective": "6.1678"}
        for unknown, says in (
            ("effective", "The rate is … % effective a year"),
            ("percent", "The rate is … % a year, nominal, compounded monthly"),
            ("times", "It is compounded … times a year"),
        ):
            with self.subTest(unknown=unknown):
                found = ask(**{**asked, unknown: "?"})
                self.assertEqual(f"{found.about} … {found.unit}", says)

    def test_half_yearly_practice(self) -> None:
        # Canada Interest Act, s. 6 practice: 12 % compounded half-yearly is 0.975 879 4 % a month.
        footings = ask(percent="12", times="2").footings
        monthly = next(each for each in footings if each["name"] == "for each month")
        self.assertEqual(f"{Decimal(monthly['exact']):.7f}", "0.9758794")

    def test_four_percent_as_a_force(self) -> None:
        # Society of Actuaries, Exam FM sample questions: 4 % half-yearly, continuously 0.0396.
        footings = ask(percent="4", times="2").footings
        force = next(each for each in footings if each["group"] == "Continuous")
        self.assertEqual(f"{Decimal(force['exact']):.2f}", "3.96")

    def test_every_style_of_the_document_is_there(self) -> None:
        styles = [each["group"] for each in ask(percent="6").footings]
        self.assertEqual(
            {style: styles.count(style) for style in styles},
            {
                "Effective": 1,
                "Nominal a year": 10,
                "Continuous": 1,
                "Periodic": 10,
                "Over a time": 2,
                "Flat (add-on)": 1,
                "Year of 360 days": 3,
            },
        )

    def test_zero_and_below(self) -> None:
        self.assertEqual(ask(percent="0").value, "0.00")
        # (1 - 0.05/12)^12 - 1, mpmath.
        self.assertEqual(ask(percent="-5", times="12").value, "−4.8869932811")
        self.assertEqual(ask(percent="-5", times="continuous").value, "−4.8770575499")

    def test_no_answer_says_so(self) -> None:
        found = ask(percent="6", times="?", effective="6.2")
        self.assertIn("never 6.1837 % or more", found.reason)
        self.assertIn("above zero", ask(percent="0", times="?", effective="1").reason)

    def test_mistakes_at_their_fields(self) -> None:
        cases: list[tuple[dict[str, Any], str]] = [
            ({"percent": ""}, "percent"),
            ({"percent": "six"}, "percent"),
            ({"percent": "-100", "times": "1"}, "percent"),
            ({"percent": "-2400", "times": "24"}, "percent"),
            ({"percent": "10000"}, "percent"),
            ({"percent": "?", "effective": "-100"}, "effective"),
            ({"percent": "6", "times": "0"}, "times"),
            ({"percent": "6", "times": "2.5"}, "times"),
            ({"percent": "6", "times": "1000000000"}, "times"),
            ({"percent": "?"}, "percent"),
            ({"percent": "6", "effective": "7"}, ""),
            ({"percent": "6", "quoted": "flat", "count": ""}, "count"),
            ({"percent": "6", "quoted": "flat", "count": "?"}, "count"),
            ({"percent": "6", "quoted": "simple", "over": ""}, "over"),
            ({"percent": "6", "quoted": "simple", "over": "?"}, "over"),
            ({"percent": "6", "quoted": "simple", "over": "a while"}, "over"),
            ({"percent": "406", "quoted": "discount", "over": "90 days"}, "percent"),
        ]
        for entries, field in cases:
            with self.subTest(**entries):
                found = ask(**entries)
                self.assertEqual([error.field for error in found.errors], [field])
                self.assertIsNone(found.value)

    @given(
        st.decimals("0.01", 60, places=4),
        st.integers(1, 400),
    )
    @settings(deadline=None, max_examples=60)
    def test_the_compounding_found_is_the_one_put_in(self, percent: Decimal, times: int) -> None:
        with precise(80):
            growth = growth_of(percent, Style("nominal", times, 1))
            effective = round(100 * (growth - 1), 30)
        found = ask(percent=f"{percent:f}", times="?", effective=f"{effective:f}")
        self.assertEqual(found.value.replace(",", ""), str(times))


class ChangingInPlace(TestCase):
    PRESS = Statement(
        principal="48,250", percent="6.35", compounding="half-year", count="60", payment="?"
    )

    def test_a_style_keeps_the_number_or_the_rate(self) -> None:
        number, rate = requote(self.PRESS, Quoting(quoted="effective"))
        self.assertEqual((number.keeps, number.statement.percent), ("number", "6.35"))
        # (1 + 0.0635/2)^2 - 1 = 0.0645080625, by hand.
        self.assertEqual((rate.keeps, rate.statement.percent), ("rate", "6.45080625"))
        self.assertIn("0.5144 % a monthly payment", number.says)
        self.assertIn("0.5223 % a monthly payment", rate.says)

    def test_the_same_rate_however_often_requoted(self) -> None:
        statement = self.PRESS
        for style in STYLES:
            if style.in_advance:
                continue
            over = style.over and f"{float(style.over.number)} {style.over.period}s"
            ways = requote(
                statement,
                Quoting(
                    quoted=style.quoted,
                    compounding=style.compounding,
                    over=over or "",
                    year_days=style.year_days,
                ),
            )
            statement = ways[-1].statement
            self.assertIn("0.5223 % a monthly payment", ways[-1].says)

    def test_one_way_where_nothing_differs_or_nothing_is_stated(self) -> None:
        monthly = self.PRESS.model_copy(update={"compounding": "month"})
        self.assertEqual(len(requote(monthly, Quoting(quoted="nominal"))), 1)
        for typed in ("?", "", "six"):
            asked = self.PRESS.model_copy(update={"percent": typed})
            (only,) = requote(asked, Quoting(quoted="effective"))
            self.assertEqual(only.statement.percent, typed)

    def test_a_number_that_would_leave_nothing_is_not_offered(self) -> None:
        deep = self.PRESS.model_copy(update={"percent": "-150"})
        ways = requote(deep, Quoting(quoted="effective"))
        self.assertEqual([way.keeps for way in ways], ["rate"])

    def test_payments_keep_the_term_or_the_count(self) -> None:
        term, count = repace(self.PRESS, "quarter")
        self.assertEqual((term.keeps, term.statement.count), ("term", "20"))
        self.assertEqual((count.keeps, count.statement.count), ("count", "60"))
        self.assertEqual(term.says, "20 quarterly payments = 5 years")
        self.assertEqual(count.says, "60 quarterly payments = 15 years")

    def test_a_term_that_is_no_whole_number_of_payments(self) -> None:
        odd = self.PRESS.model_copy(update={"count": "61"})
        self.assertEqual([way.keeps for way in repace(odd, "quarter")], ["count"])
