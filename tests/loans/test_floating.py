"""Floating rates: an index and a margin, floor and cap, resets, the path ahead."""

import os
import re
from datetime import date, timedelta
from decimal import Decimal
from fractions import Fraction
from random import Random
from typing import Any
from unittest import TestCase, mock

import QuantLib
from hypothesis import given
from hypothesis import strategies as st
from mpmath import mp, mpf

from zephyrant import loans
from zephyrant.loans.answer.solving import with_the_answer
from zephyrant.loans.files import FIRST_ROW, workbook_of
from zephyrant.loans.questions import Axis, curve_of_rate, owed, period_totals_of, sensitivity_of
from zephyrant.loans.questions.paying_more import paying_more
from zephyrant.loans.statement import read_fixings
from zephyrant.loans.wording.marks import MARKS

from .documents import PERIODS, document, errors_of
from .oracle_floating import FloatingDeal
from .sheet import Sheet
from .test_against_oracle import AgainstTheContract, Draw

DRAWN = int(os.environ.get("ZEPHYRANT_FAR", "300"))
HARBOUR: dict[str, Any] = {"fixings": [["2026-06-30", "2.31"], ["2026-12-31", "2.50"]]}
QUOTE: dict[str, Any] = {"index": "harbour-6", "margin": "2.15", "resets": "half-year"}
#: A cold store lent in July, three years monthly.
STORE: dict[str, Any] = {
    "zephyrant": "loan/1",
    "currency": "EUR",
    "principal": "50000",
    "rate": QUOTE,
    "indices": {"harbour-6": HARBOUR},
    "count": 36,
    "payment": "?",
    "start": "2026-07-01",
}


def store(rate: dict[str, Any] | None = None, index: Any = None, **changes: Any) -> dict[str, Any]:
    content = {**STORE, "rate": {**QUOTE, **(rate or {})}, **changes}
    if index is not None:
        content["indices"] = {"harbour-6": {**HARBOUR, **index}}
    return {name: each for name, each in content.items() if each is not None}


def solved(rate: dict[str, Any] | None = None, index: Any = None, **changes: Any) -> loans.Answer:
    return loans.solve(loans.check(store(rate, index, **changes)))


def used(answer: loans.Answer) -> list[tuple[int, str]]:
    return list(answer.rates_used or ())


class SureValues(TestCase):
    def test_the_rates_that_are_used(self) -> None:
        """2.31 + 2.15 until the reset of January, which rests on the fixing of 31 December."""
        answer = solved()
        after = [(period, "4.65") for period in (7, 13, 19, 25, 31)]
        self.assertEqual(used(answer), [(1, "4.46"), *after])
        self.assertEqual(used(solved({"first": "4.10"}))[:2], [(1, "4.10"), (7, "4.65")])

    def test_floor_and_cap_hold_the_index_or_the_sum(self) -> None:
        self.assertEqual(used(solved({"floor": "2.40"}))[:2], [(1, "4.55"), (7, "4.65")])
        self.assertEqual(used(solved({"cap": "2.40"}))[:2], [(1, "4.46"), (7, "4.55")])
        both = {"floor": "4.50", "cap": "4.60", "on": "rate"}
        self.assertEqual(used(solved(both))[:2], [(1, "4.50"), (7, "4.60")])
        collar = {"floor": "2.40", "cap": "2.40"}
        self.assertEqual({rate for _, rate in used(solved(collar))}, {"4.55"})

    def test_paths(self) -> None:
        ahead = [["2027-06-30", "3.00"], ["2028-06-30", "4.00"]]
        rates = [rate for _, rate in used(solved(index={"ahead": ahead}))]
        self.assertEqual(rates, ["4.46", "4.65", "5.15", "5.15", "6.15", "6.15"])
        shift = {"percent": "1.00", "from": "2027-07-01"}
        rates = [rate for _, rate in used(solved(index={"shift": shift}))]
        self.assertEqual(rates, ["4.46", "4.65", "5.65", "5.65", "5.65", "5.65"])
        # Left out, it is added after the last fixing.
        rates = [rate for _, rate in used(solved(index={"shift": {"percent": "-0.50"}}))]
        self.assertEqual(rates, ["4.46", "4.15", "4.15", "4.15", "4.15", "4.15"])

    def test_the_lag_looks_back(self) -> None:
        """Two days before 1 January no new fixing is there yet; one day before it is."""
        late = solved({"lag_days": 2, "first": "4.46"})
        self.assertEqual(used(late)[:3], [(1, "4.46"), (7, "4.46"), (13, "4.65")])
        self.assertEqual(used(solved({"lag_days": 1}))[1], (7, "4.65"))

    def test_without_dates_by_periods(self) -> None:
        fixings = [[0, "2.31"], [6, "2.50"]]
        answer = solved(index={"fixings": fixings, "ahead": [[18, "3"]]}, start=None)
        rates = [rate for _, rate in used(answer)]
        self.assertEqual(rates, ["4.46", "4.65", "4.65", "5.15", "5.15", "5.15"])

    def test_payments_set_anew_at_resets(self) -> None:
        """The annuity over what is then owed and the payments that are left, by mpmath."""
        answer = solved({"then": "re-level"})
        with mp.workdps(40):
            first = self.annuity(mpf(50000), mpf("4.46"), 36)
            self.assertEqual(answer.value, f"{float(first):.2f}")
            owed = mpf(answer.schedule[5]["closing"])
            after = self.annuity(owed, mpf("4.65"), 30)
        self.assertEqual(answer.schedule[6]["payment"], f"{float(after):.2f}")
        # The index stays where it is: nothing is set anew at later resets.
        self.assertEqual({row["payment"] for row in answer.schedule[6:-1]}, {f"{float(after):.2f}"})

    def annuity(self, owed: Any, percent: Any, count: int) -> Any:
        rate = percent / 1200
        return owed * rate / (1 - (1 + rate) ** -count)

    def test_the_amount_as_though_the_first_rate_held(self) -> None:
        answer = solved({"then": "re-level"}, principal="?", payment="1500")
        with mp.workdps(40):
            rate = mpf("4.46") / 1200
            lent = 1500 * (1 - (1 + rate) ** -36) / rate
            self.assertLess(abs(mpf(answer.exact or "0") - lent), mpf(10) ** -20)

    def test_the_margin_that_a_payment_tells(self) -> None:
        """The margin found, put back, leaves nothing: rolled by mpmath."""
        answer = solved({"margin": "?"}, payment="1490")
        with mp.workdps(40):
            owed, margin = mpf(50000), mpf(answer.exact or "0")
            for number in range(36):
                percent = (mpf("2.31") if number < 6 else mpf("2.50")) + margin
                owed = owed * (1 + percent / 1200) - 1490
            self.assertLess(abs(owed), mpf(10) ** -15)
        self.assertEqual(answer.solutions, (answer.exact,))
        self.assertEqual(answer.unit, "percentage points")
        first = solved({"first": "?", "margin": "2"}, payment="1490")
        with mp.workdps(40):
            owed, whole = mpf(50000), mpf(first.exact or "0")
            for number in range(36):
                percent = whole if number < 6 else mpf("4.50")
                owed = owed * (1 + percent / 1200) - 1490
            self.assertLess(abs(owed), mpf(10) ** -15)


class MarginsAsked(TestCase):
    """The margin is the rate of the annuity formula less the index, by mpmath's root finder, where
    the index never moves and no bound holds at the answer."""

    def loan(self, payment: str, index: str, resets: str, **rate: str) -> loans.Answer:
        content = {
            "zephyrant": "loan/1",
            "currency": "EUR",
            "principal": "10000",
            "count": 24,
            "payment": payment,
            "rate": {"index": "h", "resets": resets, **rate},
            "indices": {"h": {"fixings": [[0, index]]}},
        }
        return loans.solve(loans.check(content))

    def test_by_the_annuity_formula(self) -> None:
        for payment, index, resets, bounds in (
            ("438.71", "1", "month", {}),
            ("438.71", "1", "year", {}),
            ("400", "1", "quarter", {}),
            # A floor or a cap on the rate holds at and around a margin of 0, not at the answer.
            ("443.21", "1", "month", {"floor": "4", "on": "rate"}),
            ("443.21", "1", "year", {"floor": "5.5", "on": "rate"}),
            ("429.81", "6", "month", {"cap": "4", "on": "rate"}),
            ("429.81", "6", "month", {"floor": "-1", "cap": "3.5", "on": "rate"}),
            ("443.21", "1", "month", {"floor": "2"}),
        ):
            with self.subTest(payment=payment, index=index, resets=resets, **bounds):
                answer = self.loan(payment, index, resets, margin="?", **bounds)
                with mp.workdps(40):
                    rate = mp.findroot(
                        lambda i, paid=payment: mpf(10000) * i - mpf(paid) * (1 - (1 + i) ** -24),
                        mpf("-0.003") if payment == "400" else mpf("0.004"),
                    )
                    on_index = max(mpf(index), mpf(bounds.get("floor", "-99")))
                    borne = mpf(index) if bounds.get("on") == "rate" else on_index
                    margin = 1200 * rate - borne
                    self.assertIsNone(answer.reason)
                    self.assertLess(abs(mpf(answer.exact or "nan") - margin), mpf("1e-20"))
                assert answer.proof is not None
                self.assertTrue(answer.proof["holds"])

    def test_the_first_rate_of_a_loan_within_one_reset(self) -> None:
        first = self.loan("438.71", "1", "year", margin="2", first="?")
        self.assertIsNone(first.reason)
        rate = {"index": "h", "resets": "year", "margin": "2", "first": "?"}
        content = {"count": 12, "payment": "870", "rate": rate}
        told = loans.solve(
            loans.check(
                {
                    **{"zephyrant": "loan/1", "currency": "EUR", "principal": "10000"},
                    **{"indices": {"h": {"fixings": [[0, "1"]]}}, **content},
                }
            )
        )
        with mp.workdps(40):
            i = mp.findroot(lambda i: mpf(10000) * i - 870 * (1 - (1 + i) ** -12), mpf("0.006"))
            self.assertLess(abs(mpf(told.exact or "nan") - 1200 * i), mpf("1e-20"))

    def test_a_bound_that_no_margin_leaves_says_so(self) -> None:
        low = self.loan("430", "1", "month", margin="?", floor="5", on="rate")
        self.assertIn(
            "even with the rate at its floor, the final balance is 219.47 too high",
            low.reason or "",
        )
        high = self.loan("450", "1", "month", margin="?", cap="4", on="rate")
        self.assertIn(
            "even with the rate at its cap, the loan is overpaid by 392.87", high.reason or ""
        )
        # By the annuity formula: 10,000 (1 + i)^24 less 24 payments grown, at the bound.
        with mp.workdps(30):
            for payment, percent, over in (("430", 5, "219.47"), ("450", 4, "-392.87")):
                i = mpf(percent) / 1200
                left = 10000 * (1 + i) ** 24 - mpf(payment) * ((1 + i) ** 24 - 1) / i
                self.assertLess(abs(left - mpf(over)), mpf("0.005"))

    def test_a_continuous_margin_far_off_is_no_fault(self) -> None:
        for payment in ("0.01", "1", "9000"):
            answer = self.loan(payment, "1", "month", margin="?", quoted="continuous")
            self.assertTrue(answer.reason or answer.solutions)


class AgainstTheOracle(TestCase):
    """Random documents of every kind, their rate following a random index."""

    def floats(self, draw: Random, drawn: Draw) -> None:
        content = drawn.content
        often = PERIODS[content["every"]]
        resets = [
            name
            for name in ("year", "half-year", "quarter", "month", "week")
            if often % PERIODS[name] == 0
        ]
        quote: dict[str, Any] = {
            "index": "tarn",
            "margin": draw.choice(["2.15", "0", "-0.5", "4"]),
            "resets": draw.choice([*resets, content["every"]]),
            "lag_days": draw.choice([0, 0, 1, 2, 5]),
        }
        for name, values in (("floor", ["1", "2.2"]), ("cap", ["2.6", "3"])):
            if draw.random() < 0.4:
                quote[name] = draw.choice(values)
        quote["on"] = draw.choice(["index", "rate"])
        if draw.random() < 0.3:
            quote["first"] = draw.choice(["4.1", "0", "7"])
        content["rate"] = quote
        content["indices"] = {"tarn": self.index(draw, content.get("start"))}

    def index(self, draw: Random, start: str | None) -> dict[str, Any]:
        def moments(least: int, most: int, many: int) -> list[Any]:
            picked = sorted(draw.sample(range(least, most), many))
            if start is None:
                return picked
            begin = date.fromisoformat(start)
            return [(begin + timedelta(days=30 * each)).isoformat() for each in picked]

        def values(at: list[Any]) -> list[list[Any]]:
            return [[each, f"{draw.randint(50, 450) / 100:.2f}"] for each in at]

        index: dict[str, Any] = {
            "fixings": [*values(moments(-20, -9, 2)), *values(moments(-8, 5, 3))]
        }
        if draw.random() < 0.5:
            index["ahead"] = values(moments(3, 16, 4))
        if draw.random() < 0.5:
            index["shift"] = {"percent": draw.choice(["1", "-0.75", "2.5"])}
            if draw.random() < 0.6:
                index["shift"]["from"] = moments(-5, 12, 1)[0]
        return index

    def test_to_the_cent(self) -> None:
        answered = 0
        oracle = AgainstTheContract()
        with mock.patch("tests.loans.test_against_oracle.Deal", FloatingDeal):
            for seed in range(DRAWN):
                drawn = Draw(seed)
                if drawn.asked == "rate" or not drawn.content["count"]:
                    continue
                self.floats(Random(seed), drawn)
                with self.subTest(seed=seed, document=drawn.having("?")):
                    try:
                        answer = loans.solve(loans.check(drawn.having("?")))
                    except loans.NotALoan:
                        continue
                    answered += oracle.amount_holds(drawn, answer)
                    if answer.schedule:
                        self.rates_agree(drawn, answer)
        self.assertGreater(answered, DRAWN // 3)

    def rates_agree(self, drawn: Draw, answer: loans.Answer) -> None:
        deal = FloatingDeal(drawn.having("1"))
        wanted = [
            (1 + place * deal.between(), deal.percent(place)) for place in range(len(used(answer)))
        ]
        self.assertEqual([(at, Fraction(rate)) for at, rate in used(answer)], wanted)


class AgainstQuantLib(TestCase):
    """A leg of coupons on an index, capped and floored, at zero volatility: each coupon's rate."""

    def test_capped_and_floored_coupons(self) -> None:
        start, end = QuantLib.Date(1, 7, 2026), QuantLib.Date(1, 7, 2029)
        calendar, days = QuantLib.NullCalendar(), QuantLib.Actual360()
        QuantLib.Settings.instance().evaluationDate = QuantLib.Date(2, 7, 2029)
        schedule = QuantLib.MakeSchedule(start, end, QuantLib.Period("6M"))
        fixings = ["2.31", "2.90", "3.40", "1.20", "0.35", "-0.40"]
        for floor, cap in ((None, None), ("3.00", None), (None, "4.80"), ("3.00", "4.80")):
            curve = QuantLib.YieldTermStructureHandle(QuantLib.FlatForward(start, 0.02, days))
            index = QuantLib.IborIndex(
                *("harbour", QuantLib.Period("6M"), 0, QuantLib.EURCurrency(), calendar),
                *(QuantLib.Unadjusted, False, days, curve),
            )
            index.clearFixings()
            resets = list(schedule)[:-1]
            for day, value in zip(resets, fixings, strict=True):
                index.addFixing(day, float(value) / 100)
            leg = QuantLib.IborLeg(
                [50000.0],
                schedule,
                index,
                days,
                spreads=[0.0215],
                caps=[] if cap is None else [float(cap) / 100],
                floors=[] if floor is None else [float(floor) / 100],
            )
            pricer = QuantLib.BlackIborCouponPricer(
                QuantLib.OptionletVolatilityStructureHandle(
                    QuantLib.ConstantOptionletVolatility(
                        0, calendar, QuantLib.Unadjusted, 0.0, days
                    )
                )
            )
            QuantLib.setCouponPricer(leg, pricer)
            theirs = [QuantLib.as_floating_rate_coupon(each).rate() for each in leg]
            bounds = {name: each for name, each in (("floor", floor), ("cap", cap)) if each}
            moments = [f"{day.year()}-{day.month():02}-{day.dayOfMonth():02}" for day in resets]
            path = {"fixings": [list(each) for each in zip(moments, fixings, strict=True)]}
            answer = solved(
                {"on": "rate", **bounds}, path, every="half-year", count=6, day_count="actual/360"
            )
            ours = [float(rate) / 100 for _, rate in used(answer)]
            for mine, other in zip(ours, theirs, strict=True):
                self.assertAlmostEqual(mine, other, places=12, msg=(floor, cap))


class Laws(TestCase):
    @given(
        st.integers(-100, 900),
        st.integers(1, 60),
        st.sampled_from(["", "re-level"]),
        st.sampled_from(["level", "equal-principal", "interest-only"]),
    )
    def test_an_index_that_never_moves_is_the_fixed_loan(
        self, units: int, count: int, then: str, style: str
    ) -> None:
        index = {
            "fixings": [["2026-01-01", f"{units / 100:.2f}"], ["2027-02-01", f"{units / 100:.2f}"]]
        }
        rate = {"then": then} if then else {}
        percent = Decimal(units) / 100 + Decimal("2.15")
        floats = solved(rate, index, count=count, repayment=style)
        fixed = loans.solve(
            loans.check(
                {
                    **{name: each for name, each in STORE.items() if name != "indices"},
                    "rate": {"percent": f"{percent}"},
                    "count": count,
                    "repayment": style,
                }
            )
        )
        self.assertEqual(floats.value, fixed.value)
        self.assertEqual(floats.schedule, fixed.schedule)
        self.assertEqual(floats.yearly_cost, fixed.yearly_cost)

    def test_a_cap_never_reached_changes_nothing(self) -> None:
        ahead = {"ahead": [["2027-06-30", "3.00"], ["2028-06-30", "4.00"]]}
        for rate in ({}, {"then": "re-level"}):
            free = solved(rate, ahead)
            held = solved({**rate, "cap": "4.00", "floor": "2.31"}, ahead)
            self.assertEqual(free.schedule, held.schedule)

    def test_a_rate_clause_wins_while_it_holds(self) -> None:
        clause = [{"from": 4, "to": 15, "rate": {"percent": "9"}}]
        answer = solved(clauses=clause, payment="1200", balance="?")
        monthly = [float(row["interest"]) / float(row["opening"]) * 1200 for row in answer.schedule]
        for number, percent in ((1, 4.46), (4, 9), (15, 9), (16, 4.65)):
            self.assertAlmostEqual(monthly[number - 1], percent, delta=0.02)

    def test_stated_as_it_was_found_it_is_the_same_loan(self) -> None:
        some: tuple[dict[str, Any], ...] = (
            {},
            {"rate": {"margin": "?"}, "payment": "1490"},
            {"principal": "?", "payment": "1500"},
            {"payment": "1200", "balance": "?"},
        )
        for changes in some:
            rate = changes.pop("rate", {})
            asked = loans.check(store(rate, **changes))
            found, stated = loans.solve(asked), loans.solve(with_the_answer(asked))
            self.assertTrue(stated.fits, changes)
            self.assertEqual(len(found.schedule), len(stated.schedule))
            assert found.proof is not None
            self.assertTrue(found.proof["holds"], changes)


class Explained(TestCase):
    def refused(self, field: str, says: str, content: dict[str, Any]) -> None:
        told = errors_of(content)
        self.assertTrue(any(where == field and re.search(says, said) for where, said in told), told)

    def test_what_cannot_be(self) -> None:
        self.refused("rate.floor", "above the cap", store({"floor": "3", "cap": "2"}))
        self.refused("rate.index", "no index", store({"index": "x"}))
        late = store(start="2026-06-01")
        self.refused("indices.harbour-6.fixings", "fixed on 2026-06-01", late)
        lagging = store({"lag_days": 3}, start="2026-07-02")
        self.refused("indices.harbour-6.fixings", "fixed on 2026-06-29", lagging)
        self.refused(
            "rate.resets", "do not make up a month", store({"resets": "month"}, every="quarter")
        )
        self.refused("rate.percent", "follows from its index", store({"percent": "4"}))
        self.refused("rate.quoted", "cannot float", store({"quoted": "flat"}))
        self.refused(
            "rate.margin",
            "only the payment",
            store({"then": "re-level", "margin": "?"}, payment="1490"),
        )
        self.refused(
            "rate.then", "state the count", store({"then": "re-level"}, count="?", payment="1500")
        )
        self.refused("rate.floor", "number", store({"floor": "?"}))
        twice = store(index={"fixings": [["2026-06-30", "2"], ["2026-06-30", "3"]]})
        self.refused("indices.harbour-6.fixings", "follow each other", twice)
        self.refused("indices.harbour-6.fixings", "Days belong", store(start=None))
        numbers = store(index={"fixings": [[0, "2"]]})
        self.refused("indices.harbour-6.fixings", "state the days", numbers)
        self.refused("rate.margin", "above", store({"margin": "-2000"}))
        huge = store(index={"fixings": [["1" + "0" * 40, "2"]]})
        self.refused("indices.harbour-6.fixings.0.0", "whole number of periods", huge)
        self.refused("rate.lag_days", "whole number of days", store({"lag_days": "1" + "0" * 40}))
        self.refused("interest_shared", "one rate", store(interest_shared="sum-of-digits"))
        self.refused("indices.harbour-6.fixings", "", store(index={"fixings": []}))

    def test_a_list_with_its_heads_is_read(self) -> None:
        read = read_fixings("date,value\n2026-06-30,2.31\n31 Dec 2026\t2.5 %", MARKS["comma-point"])
        self.assertEqual(read.value, "2026-06-30 2.31 2026-12-31 2.5")

    def test_no_margin(self) -> None:
        high = solved({"margin": "?"}, payment="100", count=12)
        self.assertIn("No margin gives this", high.reason or "")
        held = solved({"margin": "?", "first": "4"}, payment="9000", count=6)
        self.assertIn("no payment depends on it", held.reason or "")

    def test_which_path_it_rests_on(self) -> None:
        flat = solved()
        self.assertIn("harbour-6 as fixed up to", flat.rests_on or "")
        self.assertIn("flat from then on", flat.rests_on or "")
        self.assertIn(flat.rests_on, flat.notes)
        fixed = solved(count=6)
        self.assertIn("Every rate rests on a fixing", fixed.rests_on or "")
        shift = {"percent": "1", "from": "2027-07-01"}
        moved = solved(index={"shift": shift, "ahead": [["2027-06-30", "3"]]})
        self.assertIn("1.00 percentage points are added", moved.rests_on or "")
        self.assertIn("as stated up to", moved.rests_on or "")

    def test_the_working_tells_the_margin(self) -> None:
        for changes in ({}, {"repayment": "equal-principal"}):
            answer = solved({"margin": "?"}, payment="1590", **changes)
            results = [step["result"] for step in answer.working]
            exact = (answer.exact or "")[:8]
            self.assertTrue(any(each.startswith(exact) for each in results), results)


class Beside(TestCase):
    """What is asked beside the answer, and the workbook."""

    CHANGES: tuple[tuple[dict[str, Any], dict[str, Any]], ...] = (
        ({}, {}),
        ({"then": "re-level"}, {}),
        ({"floor": "2.4", "first": "5"}, {"repayment": "equal-principal"}),
        ({"margin": "?"}, {"payment": "1490"}),
    )

    def test_what_is_asked_beside_it(self) -> None:
        for rate, changes in self.CHANGES:
            asked = loans.check(store(rate, **changes))
            answer = loans.solve(asked)
            after = owed(asked, "2", loans.PLAIN)[0]
            self.assertEqual(after["owed"], answer.schedule[1]["closing"])
            whole = period_totals_of(asked, "1-36", loans.PLAIN)[0]
            assert answer.totals is not None
            self.assertEqual(whole["interest"], answer.totals["interest"])
            if not rate.get("then"):
                saving, _ = paying_more(asked, [{"at": 2, "repay": "1000"}], loans.PLAIN)
                self.assertGreater(Decimal(saving.interest_saved), 0)
        with self.assertRaises(loans.NotALoan):
            curve_of_rate(loans.check(store({"margin": "?"}, payment="1490")), loans.PLAIN)

    def test_the_margin_varied(self) -> None:
        asked = loans.check(store())
        values = tuple(map(Decimal, ("2", "2.15", "3")))
        told = sensitivity_of(asked, [Axis(path="rate.margin", values=values)], ["answer"])
        paid = [row[0] for row in told["results"]["answer"]]
        self.assertEqual(paid[1], solved().value)
        self.assertEqual([solved({"margin": "3"}).value], paid[2:])
        aim = {"figure": "total_interest", "is": "4000", "by": "rate.margin"}
        self.assertIsNotNone(solved(aim=aim).value)

    def test_several_paths_side_by_side(self) -> None:
        """The index shifted by so many points, each as the loan that states it."""
        asked = loans.check(store())
        path = "indices.harbour-6.shift.percent"
        self.assertIn(path, asked.paths())
        values = tuple(map(Decimal, ("-1", "0", "1", "2")))
        told = sensitivity_of(asked, [Axis(path=path, values=values)], ["answer"])
        paid = [row[0] for row in told["results"]["answer"]]
        wanted = [solved(index={"shift": {"percent": f"{each}"}}).value for each in values]
        self.assertEqual(paid, wanted)

    def test_formulas_give_our_cents(self) -> None:
        for rate, changes in self.CHANGES:
            found = workbook_of(loans.check(store(rate, **changes)))
            assert found is not None
            sheet, amount = Sheet(found), found.schedule.unit.amount
            for at, row in enumerate(found.schedule.rows):
                ours = (row.opening, row.interest, row.principal, row.payment, row.closing)
                for mine, units in zip(sheet.row(FIRST_ROW + at), ours, strict=True):
                    self.assertAlmostEqual(mine, float(amount(units)), delta=1e-6, msg=rate)

    def test_many_resets_cost_little(self) -> None:
        """A hundred years of days, reset each day to another rate."""
        fixings = [[number, f"{2 + number % 50 / 100:.2f}"] for number in range(2000)]
        content = document(
            rate={**QUOTE, "resets": "day"},
            indices={"harbour-6": {"fixings": fixings}},
            every="day",
            count=2000,
        )
        self.assertEqual(len(used(loans.solve(loans.check(content)))), 2000)
