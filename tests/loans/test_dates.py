"""Dates, day counts and odd payments: the calendar, and loans laid out on it."""

from datetime import date, timedelta
from decimal import Decimal
from fractions import Fraction
from typing import Any
from unittest import TestCase

import QuantLib
from hypothesis import assume, given, settings
from hypothesis import strategies as st
from mpmath import mp, mpf

from zephyrant import loans
from zephyrant.loans.calendars.dates import (
    DAY_COUNTS,
    Calendar,
    Pace,
    later,
    odd_time,
    pace,
    year_fraction,
)
from zephyrant.loans.cost.unit_times import years_between

from . import reference
from .documents import PERIODS, document, solve

THEIRS = {
    "30/360": QuantLib.Thirty360(QuantLib.Thirty360.BondBasis),
    "30E/360": QuantLib.Thirty360(QuantLib.Thirty360.European),
    "actual/365": QuantLib.Actual365Fixed(),
    "actual/360": QuantLib.Actual360(),
    "actual/actual": QuantLib.ActualActual(QuantLib.ActualActual.ISDA),
}
days = st.dates(date(1960, 1, 1), date(2090, 12, 31))


def quantlib(day: date) -> Any:
    return QuantLib.Date(day.day, day.month, day.year)


class DayCounts(TestCase):
    @given(days, st.integers(0, 2_000))
    @settings(deadline=None, max_examples=400)
    def test_against_quantlib(self, begins: date, length: int) -> None:
        """ISDA 2006 definitions section 4.16, by QuantLib."""
        ends = begins + timedelta(days=length)
        for name, theirs in THEIRS.items():
            ours = year_fraction(name, begins, ends)  # type: ignore[arg-type]
            expected = theirs.yearFraction(quantlib(begins), quantlib(ends))
            self.assertAlmostEqual(float(ours), expected, places=12, msg=name)

    def test_every_day_count_is_held_against_it(self) -> None:
        self.assertEqual({"equal", *THEIRS}, set(DAY_COUNTS))


class Payments(TestCase):
    def test_month_ends_are_kept(self) -> None:
        first = date(2027, 1, 31)
        told = [later(first, Pace(months=1), number).isoformat() for number in range(4)]
        self.assertEqual(told, ["2027-01-31", "2027-02-28", "2027-03-31", "2027-04-30"])

    @given(days, st.sampled_from(["year", "half-year", "quarter", "two-months", "month"]))
    @settings(deadline=None, max_examples=200)
    def test_months_roll_as_quantlibs(self, first: date, every: Any) -> None:
        step = pace(every)
        assert step
        for number in (1, 2, 7, 30):
            theirs = quantlib(first) + QuantLib.Period(step.months * number, QuantLib.Months)
            self.assertEqual(quantlib(later(first, step, number)), theirs)

    def test_twice_a_month(self) -> None:
        cases = [
            (date(2027, 1, 1), ["2027-01-16", "2027-02-01", "2027-02-16", "2027-03-01"]),
            (date(2027, 1, 15), ["2027-01-30", "2027-02-15", "2027-02-28", "2027-03-15"]),
            (date(2027, 1, 20), ["2027-02-05", "2027-02-20", "2027-03-05", "2027-03-20"]),
        ]
        for first, expected in cases:
            told = [later(first, Pace(half=True), number).isoformat() for number in range(1, 5)]
            self.assertEqual(told, expected)

    def test_every_named_period_has_dates(self) -> None:
        for name in PERIODS:
            found = pace(name)  # type: ignore[arg-type]
            self.assertIsNotNone(found)
        self.assertIsNone(pace(5))

    def test_odd_times(self) -> None:
        # 12 CFR 1026 Appendix J (b)(5): 10 February to 1 April is one month and 19 days.
        month, quarter, week = Pace(months=1), Pace(months=3), Pace(days=7)
        cases = [
            (date(1978, 2, 10), date(1978, 4, 1), month, 1, Fraction(19, 30)),
            (date(2027, 1, 1), date(2027, 2, 1), month, 1, Fraction(0)),
            (date(2027, 1, 31), date(2027, 2, 28), month, 1, Fraction(0)),
            (date(2027, 1, 25), date(2027, 2, 1), month, 0, Fraction(7, 30)),
            (date(2027, 1, 1), date(2027, 6, 11), quarter, 1, Fraction(2 * 30 + 10, 90)),
            (date(2027, 1, 1), date(2027, 1, 18), week, 2, Fraction(3, 7)),
            (date(2027, 1, 1), date(2027, 1, 1), month, 0, Fraction(0)),
        ]
        for begins, ends, step, whole, fraction in cases:
            with self.subTest(begins=begins, ends=ends):
                self.assertEqual(odd_time(begins, ends, step), (whole, fraction))

    def test_years_by_annex_one(self) -> None:
        # 2014/17/EU Annex I: whole months back from the payment, then days over the days of the
        # year that ends where they end.
        cases = [
            (date(2027, 1, 15), date(2028, 1, 15), Pace(months=1), 1.0),
            (date(2027, 1, 15), date(2027, 4, 15), Pace(months=1), 0.25),
            (date(2027, 1, 10), date(2027, 3, 15), Pace(months=1), 2 / 12 + 5 / 365),
            (date(2028, 2, 20), date(2028, 4, 1), Pace(months=1), 1 / 12 + 10 / 366),
            (date(2027, 1, 1), date(2027, 1, 25), Pace(days=7), 3 / 52 + 3 / 365),
        ]
        for start, day, step, years in cases:
            self.assertAlmostEqual(years_between(start, day, step), years, places=14)


def growths(content: dict[str, Any], rate: mpf, count: int) -> list[tuple[mpf, mpf]]:
    """Growth before and after each payment, from the definitions, in mpmath."""
    often = reference.per_year(content["every"])
    advance = content["timing"] == "in-advance"
    start, first = (date.fromisoformat(content[name]) for name in ("start", "first_payment"))
    step = pace(content["every"])
    assert step
    calendar = Calendar(start, first, step, advance)
    dates = [start] if not advance else []
    dates += [calendar.payment(number) for number in range(1, count + 2)]
    grown = []
    for number in range(count):
        begins, ends = dates[number], dates[number + 1]
        span = 1 + rate
        if content["day_count"] != "equal":
            span = 1 + rate * often * _mpf(year_fraction(content["day_count"], begins, ends))
        odd = mpf(1)
        if number == 0 and not calendar.is_regular:
            if content["day_count"] != "equal":
                odd = 1 + rate * often * _mpf(year_fraction(content["day_count"], start, first))
            else:
                whole, fraction = odd_time(start, first, step)
                simple = content["odd_days"] == "simple"
                part = 1 + _mpf(fraction) * rate if simple else (1 + rate) ** _mpf(fraction)
                odd = part * (1 + rate) ** whole
            span = span if advance else odd
        grown.append((odd, span) if advance else (span, mpf(1)))
    return grown


def _mpf(fraction: Fraction) -> mpf:
    return mpf(fraction.numerator) / fraction.denominator


@st.composite
def dated(draw: st.DrawFn) -> dict[str, Any]:
    """A dated loan with an odd first period and perhaps an odd payment or two."""
    start = draw(st.dates(date(2020, 1, 1), date(2035, 12, 31)))
    count = draw(st.integers(2, 60))
    places = draw(st.lists(st.integers(1, count), max_size=2, unique=True))
    return document(
        principal=draw(st.sampled_from(["48250", "9999.99", "312750"])),
        rate={"percent": draw(st.sampled_from(["6.35", "0.9", "14", "0", "-0.7"]))},
        count=count,
        every=draw(st.sampled_from(["month", "quarter", "week", "two-weeks", "half-month"])),
        timing=draw(st.sampled_from(["in-arrears", "in-advance"])),
        balance=draw(st.sampled_from(["0", "1500"])),
        start=start.isoformat(),
        first_payment=(start + timedelta(days=draw(st.integers(0, 200)))).isoformat(),
        day_count=draw(st.sampled_from(DAY_COUNTS)),
        odd_days=draw(st.sampled_from(["simple", "compound"])),
        clauses=[{"at": at, "payment": "77.50"} for at in places],
    )


def left(content: dict[str, Any], rate: mpf, payment: mpf) -> mpf:
    """What is owed at the end, rolled in mpmath."""
    odd = {clause["at"]: mpf(clause["payment"]) for clause in content["clauses"]}
    owed = mpf(content["principal"])
    for number, (before, after) in enumerate(growths(content, rate, content["count"]), 1):
        owed = (owed * before - odd.get(number, payment)) * after
    return owed


class LoansOnDates(TestCase):
    @given(dated())
    @settings(deadline=None, max_examples=150)
    def test_the_payment_against_a_roll_in_mpmath(self, content: dict[str, Any]) -> None:
        rate = reference.rate_of_one_period(content)
        at_zero, at_one = left(content, rate, mpf(0)), left(content, rate, mpf(1))
        assume(at_zero != at_one)
        expected = (at_zero - mpf(content["balance"])) / (at_zero - at_one)
        assume(expected > 1)
        answer = loans.solve(loans.check(content))
        self.assertLess(abs(mpf(answer.exact or 0) - expected), mpf("1e-25") * (1 + expected))
        assert answer.proof
        self.assertTrue(answer.proof["holds"], answer.proof)
        self.assertGreaterEqual(answer.proof["digits"], 20)
        for row in answer.schedule:
            whole = Decimal(row["interest"]) + Decimal(row["principal"])
            self.assertEqual(whole, Decimal(row["payment"]))
        if answer.schedule:
            self.assertEqual(Decimal(answer.schedule[-1]["closing"]), Decimal(content["balance"]))

    @given(dated())
    @settings(deadline=None, max_examples=80)
    def test_every_other_figure_leads_back(self, content: dict[str, Any]) -> None:
        rate = reference.rate_of_one_period(content)
        at_zero, at_one = left(content, rate, mpf(0)), left(content, rate, mpf(1))
        assume(at_zero != at_one)
        payment = (at_zero - mpf(content["balance"])) / (at_zero - at_one)
        assume(payment > 1)
        stated = {**content, "payment": mp.nstr(payment, 34)}
        principal = loans.solve(loans.check({**stated, "principal": "?"}))
        self.assertAlmostEqual(float(principal.exact or 0), float(content["principal"]), places=6)
        once = content["timing"] == "in-advance" and content["start"] == content["first_payment"]
        if not once or payment < mpf(content["principal"]) * mpf("0.5"):
            asked = loans.solve(loans.check({**stated, "rate": {"percent": "?"}}))
            self.assertAlmostEqual(
                float(asked.exact or "nan"), float(content["rate"]["percent"]), places=9
            )
        if content["clauses"]:
            clauses = [{**content["clauses"][0], "payment": "?"}, *content["clauses"][1:]]
            asked = loans.solve(loans.check({**stated, "clauses": clauses}))
            self.assertEqual(asked.unknown, "clauses.0.payment")
            self.assertAlmostEqual(float(asked.exact or "nan"), 77.5, places=6)
        if content["balance"] == "0" and float(content["rate"]["percent"]) >= 0:
            asked = loans.solve(loans.check({**stated, "count": "?"}))
            self.assertAlmostEqual(float(asked.exact or "nan"), content["count"], places=6)

    def test_undated_and_dated_on_regular_dates_are_the_same(self) -> None:
        plain, on_dates = solve(), solve(start="2027-03-01")
        self.assertEqual(plain.exact, on_dates.exact)
        rows = [{**row, "date": None} for row in on_dates.schedule]
        self.assertEqual(plain.schedule, rows)
        self.assertEqual(on_dates.final_date, "2032-03-01")
        self.assertEqual(on_dates.schedule[0]["date"], "2027-04-01")
        advance = solve(start="2027-03-01", timing="in-advance")
        self.assertEqual(advance.schedule[0]["date"], "2027-03-01")

    def test_thirty_days_a_month_is_the_regular_loan(self) -> None:
        self.assertEqual(solve(start="2027-03-01", day_count="30/360").exact, solve().exact)

    def test_interest_by_days_of_the_first_row(self) -> None:
        # 10,000 at 7.3 % by actual/365 over March's 31 days: 10,000 x 0.073 x 31 / 365 = 62.00.
        found = solve(
            principal="10000", rate={"percent": "7.3"}, start="2027-03-01", day_count="actual/365"
        )
        self.assertEqual(found.schedule[0]["interest"], "62.00")
        self.assertEqual(found.schedule[1]["interest"][:2], "59")

    def test_years_of_the_calendar_and_of_the_books(self) -> None:
        asked = loans.check(document(start="2027-03-01"))
        calendar = loans.solve(asked, year_starts=1).by_year
        self.assertEqual([year["label"] for year in calendar][:2], ["2027", "2028"])
        self.assertEqual((calendar[0]["first"], calendar[0]["last"]), (1, 9))
        books = loans.solve(asked, year_starts=4).by_year
        self.assertEqual((books[0]["label"], books[0]["last"]), ("2027/28", 12))
        for years in (calendar, books):
            self.assertEqual(sum(Decimal(year["payment"]) for year in years), Decimal("56329.38"))

    def test_no_money_left_over_a_long_first_period(self) -> None:
        found = solve(
            rate={"percent": "-700", "quoted": "nominal", "compounding": "month"},
            start="2027-01-01",
            first_payment="2027-06-01",
            day_count="actual/365",
        )
        self.assertIn("nothing is left", found.reason or "")


class Checked(TestCase):
    def test_figures_that_fit_as_cash_is_paid(self) -> None:
        found = solve(payment="938.82")
        self.assertEqual(
            (found.unknown, found.value, found.solutions, found.reason), (None, None, (), None)
        )
        self.assertTrue(found.fits)
        # 48,250 u^60 - 938.82 s is 0.21: u and s from the half-yearly clock, mpmath.
        rate = reference.rate_of_one_period(document())
        growth = (1 + rate) ** 60
        gap = 48250 * growth - mpf("938.82") * (growth - 1) / rate
        self.assertLess(abs(mpf(found.gap or 0) - gap), mpf("1e-20"))
        self.assertEqual(found.schedule[-1]["payment"], "939.00")

    def test_figures_that_do_not(self) -> None:
        found = solve(payment="900")
        self.assertFalse(found.fits)
        self.assertIn("too much is owed", found.notes[0])
        assert found.would_fit
        self.assertEqual(found.would_fit["payment"]["value"], "938.82")
        # ln(900 / (900 - 48,250 i)) / ln(1 + i) = 63.25.
        self.assertEqual(found.would_fit["count"]["value"], "64")
        for name, changes in (
            ("principal", {"principal": found.would_fit["principal"]["exact"]}),
            ("balance", {"balance": found.would_fit["balance"]["exact"]}),
        ):
            with self.subTest(name):
                again = solve(payment="900", **changes)
                self.assertLess(abs(Decimal(again.gap or 1)), Decimal("1e-15"))

    def test_what_can_never_fit_says_why(self) -> None:
        found = solve(payment="100")
        assert found.would_fit
        self.assertIn("never repays", found.would_fit["count"]["reason"] or "")


class OnePaymentOfItsOwn(TestCase):
    def test_told_as_it_is_paid(self) -> None:
        found = solve(clauses=[{"at": 1, "payment": "1500"}])
        self.assertIn("one payment of 1500.00, 58 payments of", found.paid_as or "")

    def test_a_payment_that_would_have_to_be_given_back(self) -> None:
        found = solve(payment="2000", clauses=[{"at": 3, "payment": "?"}])
        self.assertEqual(found.solutions, ())
        self.assertIn("this one would have to give back", found.reason or "")
