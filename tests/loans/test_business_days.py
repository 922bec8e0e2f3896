"""Payments on business days: whose, where they move, to which day interest is counted."""

import os
import warnings
from datetime import date, timedelta
from decimal import ROUND_HALF_UP, Decimal
from random import Random
from typing import Any
from unittest import TestCase, mock

import QuantLib
from hypothesis import assume, given
from hypothesis import strategies as st

from zephyrant import loans
from zephyrant.loans.calendars.business_days import BusinessDays, calendar_codes, known_of
from zephyrant.loans.document.floating import floating, resets_of
from zephyrant.loans.questions import owed
from zephyrant.loans.said import read_line
from zephyrant.loans.statement import Statement, restate
from zephyrant.loans.statement.working import loan_of, work
from zephyrant.loans.tape.columns import Defaults
from zephyrant.loans.tape.solving import solve_tape
from zephyrant.loans.wording.marks import MARKS

from .documents import document as press
from .documents import errors_of
from .oracle_business import BusinessDeal, is_open, rolled
from .test_against_oracle import AgainstTheContract, Draw

DRAWN = int(os.environ.get("ZEPHYRANT_FAR", "300"))
ROLLS = ("following", "modified-following", "preceding")
QUANTLIB_ROLLS = {
    "following": QuantLib.Following,
    "modified-following": QuantLib.ModifiedFollowing,
    "preceding": QuantLib.Preceding,
}
#: Lent on a Saturday, the last of January.
SATURDAY: dict[str, Any] = {
    "rate": {"percent": "6"},
    "count": 12,
    "start": "2026-01-31",
    "day_count": "actual/360",
}
DATES = st.dates(date(2002, 1, 1), date(2060, 12, 31))


def on(*calendars: str, roll: str = "following", adjusted: bool = False) -> dict[str, Any]:
    stated = {"calendars": list(calendars), "roll": roll, "adjusted": adjusted}
    return {"business_days": stated}


def solved(**changes: Any) -> loans.Answer:
    return loans.solve(loans.check(document(**changes)))


def document(**changes: Any) -> dict[str, Any]:
    return press(**{**SATURDAY, **changes})


def column(answer: loans.Answer, name: str) -> list[Any]:
    return [dict(row).get(name) for row in answer.schedule]


def in_quantlib(day: date) -> Any:
    return QuantLib.Date(day.day, day.month, day.year)


def out_of_quantlib(day: Any) -> date:
    return date(day.year(), day.month(), day.dayOfMonth())


class Days(TestCase):
    def test_the_sure_ones(self) -> None:
        """A Saturday that ends a month; the values of the trade."""
        saturday = date(2026, 1, 31)
        for roll, day in (
            ("following", date(2026, 2, 2)),
            ("modified-following", date(2026, 1, 30)),
            ("preceding", date(2026, 1, 30)),
        ):
            with self.subTest(roll):
                self.assertEqual(BusinessDays(("TARGET",), roll, False).moved(saturday), day)  # type: ignore[arg-type]

    def test_every_day_of_target(self) -> None:
        """QuantLib's TARGET, day by day over sixty years."""
        ours, theirs = BusinessDays(("TARGET",), "following", False), QuantLib.TARGET()
        day = date(2000, 1, 1)
        while day.year < 2060:
            self.assertEqual(not ours.closed(day), theirs.isBusinessDay(in_quantlib(day)), day)
            day += timedelta(days=1)

    def test_national_holidays(self) -> None:
        """By the laws of these countries; from memory."""
        for code, closed, open_ in (
            ("DE", date(2028, 10, 3), date(2028, 10, 31)),
            # The fourth of July falls on a Saturday: observed on the Friday.
            ("US", date(2026, 7, 3), date(2026, 7, 6)),
            ("FR", date(2027, 7, 14), date(2027, 7, 15)),
            ("JP", date(2027, 2, 11), date(2027, 2, 12)),
            # Where the week ends on Friday and Saturday.
            ("EG", date(2027, 3, 5), date(2027, 3, 7)),
        ):
            with self.subTest(code):
                days = BusinessDays((code,), "following", False)
                self.assertEqual(days.closed(closed), (code,))
                self.assertEqual(days.closed(open_), ())

    @given(DATES, st.sampled_from(ROLLS), st.sampled_from([("DE",), ("TARGET",), ("DE", "TARGET")]))
    def test_where_a_day_moves(self, day: date, roll: Any, calendars: tuple[str, ...]) -> None:
        moved = BusinessDays(calendars, roll, False).moved(day)
        self.assertEqual(moved, rolled(day, list(calendars), roll))
        self.assertTrue(is_open(moved, list(calendars)))

    @given(DATES, st.sampled_from(ROLLS), st.sampled_from([1, 2, 3, 6, 12]))
    def test_schedules_of_quantlib(self, start: date, roll: Any, months: int) -> None:
        days = BusinessDays(("TARGET",), roll, False)
        theirs = QuantLib.Schedule(
            in_quantlib(start),
            in_quantlib(start) + QuantLib.Period(12 * months, QuantLib.Months),
            QuantLib.Period(months, QuantLib.Months),
            QuantLib.TARGET(),
            QUANTLIB_ROLLS[roll],
            QUANTLIB_ROLLS[roll],
            QuantLib.DateGeneration.Forward,
            False,
        )
        wanted = [out_of_quantlib(day) for day in theirs]
        # A first day that is moved beyond the first payment leaves one out.
        assume(len(wanted) == 13)
        every = {1: "month", 2: "two-months", 3: "quarter", 6: "half-year", 12: "year"}[months]
        stated = {"calendars": ["TARGET"], "roll": roll}
        changes = {"start": start.isoformat(), "every": every, "day_count": "equal"}
        answer = solved(**changes, business_days=stated)
        told = [date.fromisoformat(str(day)) for day in column(answer, "date")]
        # QuantLib moves the first day, too; the day money is lent never moves.
        self.assertEqual(told, wanted[1:])
        self.assertEqual(days.moved(start), wanted[0])


class Interest(TestCase):
    def test_to_the_day_it_moves_to_or_not(self) -> None:
        """The interest of each row from QuantLib's dates and day counter, rolled here."""
        target, counter = QuantLib.TARGET(), QuantLib.Actual360()
        start = in_quantlib(date(2026, 1, 31))
        stood = [start + QuantLib.Period(months, QuantLib.Months) for months in range(13)]
        made = [start, *(target.adjust(day, QuantLib.ModifiedFollowing) for day in stood[1:])]
        for is_adjusted, days in ((True, made), (False, stood)):
            with self.subTest(adjusted=is_adjusted):
                answer = solved(**on("TARGET", roll="modified-following", adjusted=is_adjusted))
                balance = Decimal("48250.00")
                for row, begins, ends in zip(answer.schedule, days[:-1], days[1:], strict=True):
                    part = Decimal(counter.dayCount(begins, ends)) / 360
                    interest = (balance * part * 6 / 100).quantize(Decimal("0.01"), ROUND_HALF_UP)
                    self.assertEqual(row["interest"], str(interest), row["number"])
                    balance += interest - Decimal(row["payment"])
                    self.assertEqual(row["closing"], str(balance))
                self.assertEqual(balance, 0)
                self.assertEqual(
                    column(answer, "date"), [out_of_quantlib(day).isoformat() for day in made[1:]]
                )

    def test_yearly_costs(self) -> None:
        """EU: years counted back from the days on which money moves (2014/17/EU Annex I); US: from
        those on which it was due (12 CFR 1026.17(c)(3)(ii)), so as without business days."""
        plain = solved(day_count="equal")
        moved = solved(day_count="equal", **on("TARGET"))
        self.assertEqual(column(plain, "payment"), column(moved, "payment"))
        assert plain.yearly_cost
        assert moved.yearly_cost
        self.assertEqual(plain.yearly_cost["us_apr"], moved.yearly_cost["us_apr"])
        rate = 1 + float(moved.yearly_cost["eu_aprc"] or 0) / 100
        start, worth = date(2026, 1, 31), 0.0
        for row in moved.schedule:
            day = date.fromisoformat(str(row["date"]))
            months = (day.year - 2026) * 12 + day.month - 1
            if months_before(day, months) < start:
                months -= 1
            rest = months_before(day, months)
            days = (rest - start).days / (rest - months_before(rest, 12)).days
            worth += float(row["payment"]) * rate ** -(months / 12 + days)
        self.assertAlmostEqual(worth, 48250, places=5)
        self.assertNotEqual(plain.yearly_cost["eu_aprc"], moved.yearly_cost["eu_aprc"])

    def test_one_payment_has_a_us_rate_by_the_day_it_was_due(self) -> None:
        """A whole month, from the last of January to the last of February: 12 x 1 %."""
        one = {"count": 1, "payment": "48732.50", "rate": {"percent": "?"}, "day_count": "equal"}
        answer = solved(**one, **on("TARGET"))
        self.assertEqual(column(answer, "date"), ["2026-03-02"])
        assert answer.yearly_cost
        self.assertEqual(answer.yearly_cost["us_apr"], "12.0000000000")


def months_before(day: date, months: int) -> date:
    moved = in_quantlib(day) - QuantLib.Period(months, QuantLib.Months)
    return out_of_quantlib(moved)


class Laws(TestCase):
    def test_unadjusted_moves_days_alone(self) -> None:
        for changes in (
            {},
            {"timing": "in-advance"},
            {"repayment": "equal-principal"},
            {"first_payment": "2026-04-11", "day_count": "equal"},
        ):
            with self.subTest(changes):
                plain, moved = solved(**changes), solved(**changes, **on("DE", "TARGET"))
                for name in ("opening", "interest", "payment", "closing"):
                    self.assertEqual(column(plain, name), column(moved, name))
                stood = [row.get("scheduled", row["date"]) for row in map(dict, moved.schedule)]
                self.assertEqual(stood, column(plain, "date"))
                self.assertNotEqual(column(moved, "date"), column(plain, "date"))

    def test_where_no_day_is_closed_nothing_changes(self) -> None:
        """Weekly payments on Wednesdays of 2027: none of them is a holiday of TARGET."""
        weekly = {"every": "week", "start": "2027-01-06", "count": 20, "rate": {"percent": "6"}}
        plain, moved = solved(**weekly), solved(**weekly, **on("TARGET", adjusted=True))
        self.assertEqual(plain.schedule, moved.schedule)
        self.assertIn("none is moved", " ".join(moved.notes))

    def test_the_start_never_moves(self) -> None:
        answer = solved(timing="in-advance", **on("TARGET", roll="preceding"))
        self.assertEqual(column(answer, "date")[:2], ["2026-01-31", "2026-02-27"])

    def test_a_day_of_a_moved_payment_is_that_payment(self) -> None:
        """Payment 1 stood on Saturday 28 February and is made on Monday 2 March."""
        days = on("TARGET")
        by_number = solved(clauses=[{"at": 1, "repay": "500"}], **days)
        for day in ("2026-02-28", "2026-03-01", "2026-03-02"):
            with self.subTest(day):
                by_day = solved(clauses=[{"at": day, "repay": "500"}], **days)
                self.assertEqual(by_day.schedule, by_number.schedule)
        loan = loans.check(document(**days))
        row, rate = loans.solve(loan).schedule[0], Decimal("0.06") / 360
        closing = Decimal(row["closing"])
        before = Decimal(row["opening"]) + Decimal(row["interest"])
        for day, is_owed in (
            # What is due on a Saturday is owed until it is paid, and bears no more meanwhile.
            ("2026-02-28", before),
            ("2026-03-01", before),
            ("2026-03-02", closing),
            # From the day it was due on interest is counted on what was left.
            ("2026-03-03", closing + (closing * rate * 3).quantize(Decimal("0.01"))),
        ):
            (told,) = owed(loan, day, MARKS["comma-point"])
            self.assertEqual(Decimal(told["owed"]), is_owed, day)
        (paid,) = owed(
            loans.check(document(**on("TARGET", roll="preceding"))),
            "2026-02-27",
            MARKS["point-comma"],
        )
        self.assertEqual(Decimal(paid["owed"]), closing)

    def test_months_are_those_it_was_due_in(self) -> None:
        """Due on 31 May, a Sunday, and made on 1 June: a pause in May is one of it."""
        answer = solved(clauses=[{"from": 1, "months": [5], "pay": "nothing"}], **on("TARGET"))
        paused = [row["date"] for row in answer.schedule if row["payment"] == "0.00"]
        self.assertEqual(paused, ["2026-06-01"])

    def test_random_documents(self) -> None:
        """Against the contract read once more, its own Easter and holidays among it."""
        answered = moved = 0
        oracle = AgainstTheContract()
        with mock.patch("tests.loans.test_against_oracle.Deal", BusinessDeal):
            for seed in range(DRAWN):
                drawn = Draw(seed)
                if "start" not in drawn.content or not drawn.content["count"]:
                    continue
                draw = Random(seed)
                stated: dict[str, Any] = {
                    "calendars": draw.choice([["TARGET"], ["DE"], ["DE", "TARGET"]]),
                    "roll": draw.choice(ROLLS),
                }
                if drawn.content["day_count"] != "equal":
                    stated["adjusted"] = draw.random() < 0.7
                drawn.content["business_days"] = stated
                with self.subTest(seed=seed, document=drawn.having("?")):
                    try:
                        answer = loans.solve(loans.check(drawn.having("?")))
                    except loans.NotALoan:
                        continue
                    holds = oracle.rate_holds if drawn.asked == "rate" else oracle.amount_holds
                    answered += holds(drawn, answer)
                    moved += any(column(answer, "scheduled"))
        self.assertGreater(answered, DRAWN // 4)
        self.assertGreater(moved, DRAWN // 5)


class Fixings(TestCase):
    def test_a_lag_is_of_business_days(self) -> None:
        """Each fixing is that of QuantLib's `advance` by so many business days."""
        begin = date(2026, 1, 31)
        daily = [
            [(begin + timedelta(days=each)).isoformat(), f"{2 + each / 1000:.3f}"]
            for each in range(-20, 400)
        ]
        known = {date.fromisoformat(str(day)): value for day, value in daily}
        for lag in (0, 1, 2, 5):
            content = document(day_count="equal", **on("TARGET"))
            content["rate"] = {"index": "tarn", "margin": "1", "resets": "month", "lag_days": lag}
            content["indices"] = {"tarn": {"fixings": daily}}
            loan = loans.check(content)
            quote = floating(loan)
            assert quote
            for period, percent in resets_of(loan, quote, 12):
                start = in_quantlib(begin) + QuantLib.Period(period - 1, QuantLib.Months)
                fixed = QuantLib.TARGET().advance(start, -lag, QuantLib.Days) if lag else start
                with self.subTest(lag=lag, period=period):
                    self.assertEqual(percent - 1, Decimal(known[out_of_quantlib(fixed)]))


class Refused(TestCase):
    def test_at_the_field(self) -> None:
        beyond = {"start": "2098-01-31", "count": 60}
        for changes, field, says in (
            (on("XX"), "business_days.calendars.0", "“XX” is no calendar known here"),
            ({**on("DE"), "start": None, "day_count": None}, "business_days", "state the start"),
            ({**on("DE", adjusted=True), "day_count": "equal"}, "business_days.adjusted", "alike"),
            ({"business_days": {"calendars": []}}, "business_days.calendars", "from 1 to 8"),
            ({**on("DE"), **beyond}, "business_days.calendars", "known from 1991 to 2100"),
            ({**on("DE"), "start": "1980-01-31"}, "business_days.calendars", "known from 1991"),
            (on("DE", roll="sideways"), "business_days.roll", "following"),
            ({"business_days": 7}, "business_days", "braces"),
        ):
            with self.subTest(field):
                ((told, message),) = errors_of(document(**changes))
                self.assertEqual(told, field)
                self.assertIn(says, message)

    def test_how_far_it_may_go_is_looked_for_within_what_is_known(self) -> None:
        """A count that is asked for ends, or is told to reach too far, before 2101."""
        answer = solved(count="?", payment="245", day_count="equal", **on("DE"))
        self.assertGreater(int(answer.value or 0), 800)
        self.assertLess(str(answer.schedule[-1]["date"]), "2101")

    def test_every_calendar_there_is_can_be_asked(self) -> None:
        self.enterContext(warnings.catch_warnings(action="error"))
        for code in calendar_codes():
            first, last = known_of(code)
            self.assertLess(first, last)
            BusinessDays((code,), "following", False).moved(date(first, 5, 1))
            BusinessDays((code,), "modified-following", False).moved(date(last, 5, 1))


class Said(TestCase):
    def test_lines(self) -> None:
        for said, calendars, roll, adjusted in (
            (
                "on business days of DE and TARGET, modified following, adjusted",
                *(["DE", "TARGET"], "modified-following", True),
            ),
            ("TARGET business days, preceding", ["TARGET"], "preceding", False),
            (
                "paid on banking days in us, moved to the following business day",
                *(["US"], "following", False),
            ),
            ("business days DE + FR, interest unadjusted", ["DE", "FR"], "following", False),
        ):
            with self.subTest(said):
                line = f"48,250 at 6 % over 12 months, lent 31 January 2026, actual/360, {said}"
                loan = read_line(line).loan
                assert loan
                stated = loan.business_days
                assert stated
                self.assertEqual(list(stated.calendars), calendars)
                self.assertEqual((stated.roll, stated.adjusted), (roll, adjusted))

    def test_its_own_sentence_reads_back(self) -> None:
        for adjusted in (False, True):
            days = on("DE", "TARGET", roll="modified-following", adjusted=adjusted)
            loan = loans.check(document(**days))
            again = read_line(loans.terms_in_words(loan, MARKS["comma-point"])).loan
            self.assertEqual(again and again.business_days, loan.business_days)

    def test_a_statement_holds_it(self) -> None:
        loan = loans.check(document(**on("DE", "TARGET", roll="preceding")))
        statement = restate(loan, "comma-point")
        assert statement.business_days
        self.assertEqual(statement.business_days.calendars, "DE + TARGET")
        self.assertEqual(loan_of(statement).business_days, loan.business_days)
        typed = statement.model_dump(by_alias=True)
        for calendars, says in (("Germany, XY", "“XY” is no calendar"), (" ", "Nothing is stated")):
            wrong = {**typed, "business_days": {"calendars": calendars}}
            (error,) = work(Statement.model_validate(wrong)).errors
            self.assertEqual(error.field, "business_days.calendars")
            self.assertIn(says, error.message)


class InATape(TestCase):
    def test_by_the_row(self) -> None:
        told = solve_tape(
            {
                "principal": ["48250"] * 4,
                "percent": ["6"] * 4,
                "count": ["12"] * 4,
                "payment": ["?"] * 4,
                "start": ["2026-01-31"] * 4,
                "day_count": ["act/360", "actual/360", "", "1/2"],
                "business_days": ["TARGET", "DE+TARGET", "Germany", "TARGET"],
                "roll": ["modified following", "Modified Following", "", ""],
                "adjusted": ["adjusted", "no", "", ""],
            },
            Defaults(),
        )
        for row, changes in enumerate(
            (
                on("TARGET", roll="modified-following", adjusted=True),
                on("DE", "TARGET", roll="modified-following"),
                {**on("DE"), "day_count": "equal"},
            )
        ):
            answer = solved(**changes)
            assert answer.yearly_cost
            self.assertEqual(told["payment"][row], answer.value)
            self.assertEqual(
                told["eu_aprc"][row], f"{float(answer.yearly_cost['eu_aprc'] or 0):.6f}"
            )
        self.assertIn("no day count known here", told["problem"][3])
