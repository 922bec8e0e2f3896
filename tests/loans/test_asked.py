"""A schedule asked: moments, stretches, live arithmetic, theirs against ours."""

from datetime import date, timedelta
from decimal import ROUND_HALF_UP, Decimal
from itertools import pairwise
from typing import Any
from unittest import TestCase

from hypothesis import assume, given, settings
from hypothesis import strategies as st

from zephyrant import loans
from zephyrant.loans import Loan, NotALoan
from zephyrant.loans.calendars.days_in_words import read_day, read_days, write_day
from zephyrant.loans.document.figure_path import figure_path
from zephyrant.loans.document.sentence import terms_in_words
from zephyrant.loans.files.formula_sheet import FIRST_ROW
from zephyrant.loans.files.workbook import workbook_of
from zephyrant.loans.ledger.rows import Schedule
from zephyrant.loans.questions.balance_at import owed
from zephyrant.loans.questions.period_totals import PeriodTotals, period_totals_of
from zephyrant.loans.questions.reconciliation import reconcile
from zephyrant.loans.questions.their_table import Matched
from zephyrant.loans.statement.statement import Statement
from zephyrant.loans.statement.typed_amounts import read_amount
from zephyrant.loans.statement.values import read_values
from zephyrant.loans.unknowns.worked import work_out
from zephyrant.loans.wording.marks import MARKS, PLAIN, Marks

from .documents import document, irregular, loan, regular
from .sheet import SHAPES, Sheet, changed
from .sheet import changes as inputs_changed
from .test_dates import dated

CENT = Decimal("0.01")


def stretch(asked: Loan, typed: str, marks: Marks) -> PeriodTotals:
    """The one stretch that is asked for."""
    (told,) = period_totals_of(asked, typed, marks)
    return told


def solved(content: dict[str, Any]) -> Any:
    """The loan and its answer where it has a schedule."""
    asked = loans.check(content)
    answer = loans.solve(asked)
    assume(answer.schedule)
    return asked, answer


class Owed(TestCase):
    @given(dated() | regular(), st.data())
    @settings(deadline=None, max_examples=80)
    def test_after_a_payment_what_that_payment_leaves(
        self, content: dict[str, Any], data: st.DataObject
    ) -> None:
        asked, answer = solved(content)
        number = data.draw(st.integers(1, len(answer.schedule)))
        (told,) = owed(asked, str(number), PLAIN)
        row = answer.schedule[number - 1]
        # In arrears the closing balance; in advance interest of the period still comes to it.
        if content["timing"] == "in-arrears":
            self.assertEqual(told["owed"], row["closing"])
        elif number > 1:
            self.assertEqual(
                Decimal(told["owed"]), Decimal(row["opening"]) - Decimal(row["payment"])
            )
        if asked.calendar is not None:
            day = asked.calendar.payment(number).isoformat()
            (same,) = owed(asked, day, PLAIN)
            later = owed(asked, day, PLAIN)[0]["number"]
            self.assertEqual(same["balance"], owed(asked, str(later), PLAIN)[0]["balance"])
            self.assertEqual(same["accrued"].strip("0."), "")

    def test_by_the_closed_form(self) -> None:
        # Unrounded, P u^k - A s_k: 48,250 at the half-yearly clock of 6.35 %.
        i = (1 + 0.0635 / 2) ** (1 / 6) - 1
        payment = 48250 * i / (1 - (1 + i) ** -60)
        for number in (1, 13, 30, 59):
            (told,) = owed(loan(), str(number), PLAIN)
            expected = 48250 * (1 + i) ** number - payment * ((1 + i) ** number - 1) / i
            self.assertAlmostEqual(float(told["owed"]), expected, delta=0.25)

    def test_accrued_by_days(self) -> None:
        # 10,000 at 7.3 % is 2.00 a day by actual/365: 30.00 in 15 days.
        asked = loan(
            principal="10000", rate={"percent": "7.3"}, start="2027-03-01", day_count="actual/365"
        )
        (told,) = owed(asked, "16 Mar 2027", PLAIN)
        self.assertEqual(
            (told["accrued"], told["owed"], told["per_day"]), ("30.00", "10030.00", "2.0000")
        )
        # Every period alike: March's 31 days share the month's interest of 60.83.
        equal = loan(principal="10000", rate={"percent": "7.3"}, start="2027-03-01")
        (told,) = owed(equal, "2027-03-16", PLAIN)
        share = Decimal(10000) * Decimal("0.073") / 12 * 15 / 31
        self.assertEqual(told["accrued"], str(share.quantize(CENT, ROUND_HALF_UP)))

    def test_rounded_up_a_payoff_never_falls_short(self) -> None:
        asked = loan(start="2027-03-01", day_count="actual/360")
        for day in ("2027-03-09", "2028-07-17"):
            (near,) = owed(asked, day, PLAIN)
            (up,) = owed(asked, day, PLAIN, "up")
            self.assertIn(Decimal(up["owed"]) - Decimal(near["owed"]), (Decimal(0), CENT))

    def test_by_days_after_the_rate_has_changed(self) -> None:
        # Common practice, by hand: 10,000 at 7.3 % is 2.00 a day by actual/365, at 3.65 % 1.00.
        rate = {"percent": "3.65", "compounding": "month"}
        asked = loan(
            principal="10000",
            rate={"percent": "7.3", "compounding": "month"},
            start="2027-03-01",
            day_count="actual/365",
            payment="0",
            count=3,
            balance="?",
            clauses=[{"from": "2027-03-11", "rate": rate}],
        )
        for day, accrued, per_day in (
            ("2027-03-10", "18.00", "2.0000"),
            ("2027-03-11", "20.00", "1.0000"),
            ("2027-03-21", "30.00", "1.0000"),
        ):
            (told,) = owed(asked, day, PLAIN)
            self.assertEqual((told["accrued"], told["per_day"]), (accrued, per_day), day)

    def test_what_moved_since_is_in_it(self) -> None:
        # 2.00 a day on 10,000; from 11 March 3.00 on 15,000; from 21 March 1.00 on 5,000.
        moved = [
            {"at": "2027-03-11", "advance": "5000"},
            {"at": "2027-03-21", "repay": "10000"},
        ]
        asked = loan(
            principal="10000",
            rate={"percent": "7.3", "compounding": "month"},
            start="2027-03-01",
            day_count="actual/365",
            clauses=moved,
        )
        for day, balance, accrued in (
            ("2027-03-10", "10000.00", "18.00"),
            ("2027-03-16", "15000.00", "35.00"),
            ("2027-03-25", "5000.00", "54.00"),
        ):
            (told,) = owed(asked, day, PLAIN)
            self.assertEqual((told["balance"], told["accrued"]), (balance, accrued), day)

    def test_between_the_flows_of_a_deal_without_payments(self) -> None:
        # 10,000 at 12 % a year by months: 1.01 a month, nothing paid before month 6.
        asked = loan(
            principal="10000",
            rate={"percent": "12", "compounding": "month"},
            count=0,
            payment=None,
            balance="?",
            clauses=[{"at": 6, "repay": "4000"}, {"at": 12, "repay": "1000"}],
        )
        left = Decimal(10000) * Decimal("1.01") ** 6 - 4000
        expected = {
            "3": Decimal(10000) * Decimal("1.01") ** 3,
            "6": left,
            "8": left * Decimal("1.01") ** 2,
        }
        for number, amount in expected.items():
            (told,) = owed(asked, number, PLAIN)
            self.assertEqual(told["owed"], str(amount.quantize(CENT, ROUND_HALF_UP)))
        part = stretch(asked, "5-7", PLAIN)
        self.assertEqual((part["first"], part["last"], part["paid"]), (5, 7, "4000.00"))

    def test_lists_and_every_so_many(self) -> None:
        told = owed(loan(), "every 12, 7; 13 and 0", PLAIN)
        self.assertEqual([each["number"] for each in told], [12, 24, 36, 48, 60, 7, 13, 0])

    def test_refused_with_a_sentence(self) -> None:
        dated_loan = loan(start="2027-03-01")
        cases = [
            (loan(), ""),
            (loan(), "61"),
            (loan(), "soon"),
            (loan(), "2027-03-09"),
            (dated_loan, "2026-12-31"),
            (dated_loan, "2040-01-01"),
            (loan(count=3000), "every 1"),
            (loan(count="?", payment="10"), "3"),
        ]
        for asked, at in cases:
            with self.subTest(at=at), self.assertRaises(loans.NotALoan) as raised:
                owed(asked, at, PLAIN)
            self.assertRegex(raised.exception.errors[0].message, r"^.{12,}[.]$")


class TheSameLists(TestCase):
    """What one may type for moments one may type for stretches, and the other way round."""

    def test_moments_by_stretches(self) -> None:
        plain, dated_loan = loan(count=60), loan(count=60, start="2027-03-01")
        for asked in (plain, dated_loan):
            for typed, numbers in (
                ("13-15", [13, 14, 15]),
                ("year 2", [24]),
                ("years 1-3", [12, 24, 36]),
                ("years 4 to 9", [48, 60]),
                ("last 3", [58, 59, 60]),
                ("first 2", [1, 2]),
                ("all", list(range(1, 61))),
                ("13; year 2 and last 2", [13, 24, 59, 60]),
            ):
                with self.subTest(typed=typed):
                    told = owed(asked, typed, PLAIN)
                    self.assertEqual([each["number"] for each in told], numbers)
                    for each in told:
                        (alone,) = owed(asked, str(each["number"]), PLAIN)
                        self.assertEqual(each, alone)

    def test_a_year_of_the_calendar_is_its_last_day(self) -> None:
        asked = loan(count=60, start="2027-03-01")
        self.assertEqual(owed(asked, "2028", PLAIN), owed(asked, "31 Dec 2028", PLAIN))
        # It ends on 1 March 2032.
        self.assertEqual(owed(asked, "2032", PLAIN), owed(asked, "60", PLAIN))

    def test_stretches_of_so_many_each(self) -> None:
        asked = loan(count=60)
        told = period_totals_of(asked, "every 25", PLAIN)
        self.assertEqual(
            [(each["first"], each["last"]) for each in told], [(1, 25), (26, 50), (51, 60)]
        )
        (whole,) = period_totals_of(asked, "all", PLAIN)
        for name in ("paid", "interest", "principal"):
            parts = sum(Decimal(each[name]) for each in told)
            self.assertEqual(parts, Decimal(whole[name]))

    def test_what_is_neither(self) -> None:
        asked = loan(count=60)
        for typed in ("bananas", "year 9", "61-70", "every 0", "15-13"):
            for ask in (owed, period_totals_of):
                with self.subTest(typed=typed), self.assertRaises(NotALoan):
                    ask(asked, typed, PLAIN)


class Stretches(TestCase):
    @given(regular() | dated(), st.data())
    @settings(deadline=None, max_examples=80)
    def test_any_partition_adds_up_to_the_whole(
        self, content: dict[str, Any], data: st.DataObject
    ) -> None:
        asked, answer = solved(content)
        count = len(answer.schedule)
        cuts = sorted(data.draw(st.sets(st.integers(1, count), max_size=4)) | {count})
        parts, first = [], 1
        for last in cuts:
            parts.append(stretch(asked, f"{first}-{last}", PLAIN))
            first = last + 1
        whole = stretch(asked, "all", PLAIN)
        for name in ("paid", "interest", "principal"):
            total = sum(Decimal(part[name]) for part in parts)
            self.assertEqual(total, Decimal(whole[name]))
        for before, after in pairwise(parts):
            self.assertEqual(before["closing"], after["opening"])
        self.assertEqual(whole["paid"], answer.totals["paid"])

    @given(irregular())
    @settings(deadline=None, max_examples=80)
    def test_what_moves_explains_the_balance(self, content: dict[str, Any]) -> None:
        asked, answer = solved(content)
        for typed in ("all", "first 2", "last 3"):
            told = {
                name: Decimal(str(value))
                for name, value in stretch(asked, typed, PLAIN).items()
                if name in ("opening", "added", "interest", "paid", "principal", "closing")
            }
            grown = told["opening"] + told["added"] + told["interest"] - told["paid"]
            self.assertEqual(grown, told["closing"])
            self.assertEqual(told["principal"], told["paid"] - told["interest"])
        self.assertEqual(stretch(asked, "all", PLAIN)["paid"], answer.totals["paid"])

    def test_interest_by_the_closed_form(self) -> None:
        # Interest of payments 13 to 24: payments less what the balance fell by, P u^k - A s_k.
        i = (1 + 0.0635 / 2) ** (1 / 6) - 1
        payment = 48250 * i / (1 - (1 + i) ** -60)

        def left(number: int) -> float:
            return float(48250 * (1 + i) ** number - payment * ((1 + i) ** number - 1) / i)

        told = stretch(loan(), "year 2", PLAIN)
        expected = 12 * payment - (left(12) - left(24))
        self.assertAlmostEqual(float(told["interest"]), expected, delta=0.1)

    def test_named_in_every_way(self) -> None:
        asked = loan(start="2027-03-01")
        cases = [
            ("13-24", 13, 24),
            ("13 to 24", 13, 24),
            ("payments 13–24", 13, 24),
            ("7", 7, 7),
            ("year 2", 13, 24),
            ("years 4-9", 37, 60),
            ("first 3", 1, 3),
            ("last 12", 49, 60),
            ("2028", 10, 21),
            ("1 Jan 2028 to 30 Jun 2028", 10, 15),
            ("50-99", 50, 60),
        ]
        for typed, first, last in cases:
            told = stretch(asked, typed, PLAIN)
            self.assertEqual((told["first"], told["last"]), (first, last), typed)

    def test_refused_with_a_sentence(self) -> None:
        for asked, typed in (
            (loan(), "61-70"),
            (loan(), "24-13"),
            (loan(), "2028-01-01 to 2028-02-01"),
            (loan(), "the middle"),
            (loan(start="2027-03-01"), "1 Jan 2020 to 1 Feb 2020"),
        ):
            with self.subTest(typed), self.assertRaises(loans.NotALoan) as raised:
                stretch(asked, typed, PLAIN)
            self.assertEqual(raised.exception.errors[0].field, "stretch")


class LiveArithmetic(TestCase):
    """The formulas worked by an evaluator of their own, as they stand and with inputs changed."""

    def holds(self, sheet: Sheet, laid: Schedule, rows: int) -> None:
        """Every cell of the sheet against a schedule; rows after its last stand at zero."""
        amount = laid.unit.amount
        for at in range(rows):
            told = sheet.row(FIRST_ROW + at)
            expected = [0.0] * 5
            if at < len(laid.rows):
                row = laid.rows[at]
                ours = (row.opening, row.interest, row.principal, row.payment, row.closing)
                expected = [float(amount(units)) for units in ours]
            for mine, theirs in zip(told, expected, strict=True):
                self.assertAlmostEqual(mine, theirs, delta=1e-6, msg=f"row {at + 1}: {told}")

    def recompute(self, asked: loans.Loan) -> None:
        found = workbook_of(asked)
        assert found is not None
        self.holds(Sheet(found), found.schedule, len(found.rows))

    def follows(self, content: dict[str, Any], name: str, value: str) -> bool:
        """An input changed against the solved document changed alike; whether it could be."""
        found = workbook_of(loans.check(content))
        assert found is not None
        if not getattr(found.terms, name).is_input:
            return False
        try:
            laid = work_out(loans.check(changed(content, name, value, len(found.rows)))).schedule
        except loans.NotALoan:
            return False
        if laid is None or len(laid.rows) > len(found.rows):
            return False
        self.holds(Sheet(found, **{name: value}), laid, len(found.rows))
        return True

    def test_inputs_changed_against_the_changed_document(self) -> None:
        """Fifty workbooks of every shape, each input changed in turn: every cell."""
        self.assertGreaterEqual(len(SHAPES), 50)
        followed = 0
        for content, name, value in inputs_changed():
            with self.subTest(content=content, changed=name):
                followed += self.follows(content, name, value)
        self.assertGreater(followed, 120)

    def test_more_paid_ends_at_zero(self) -> None:
        found = workbook_of(loan(payment="1200", balance="0"))
        assert found is not None
        sheet = Sheet(found, payment="2400")
        closings = [sheet.row(FIRST_ROW + at)[4] for at in range(len(found.rows))]
        self.assertEqual(min(closings), 0.0)
        self.assertEqual(closings[-1], 0.0)

    def test_what_does_not_follow_says_so(self) -> None:
        flat = workbook_of(loan(rate={"percent": "4", "quoted": "flat"}))
        assert flat is not None
        self.assertFalse(flat.terms.percent.is_input)
        self.assertIn("no formula", flat.terms.percent.note)
        self.assertTrue(flat.terms.per_period.is_input)
        rate = workbook_of(loan(rate={"percent": "?"}, payment="940"))
        assert rate is not None
        self.assertIn("no formula finds it again", rate.terms.percent.note)
        self.assertTrue(any("not found again" in said for said in rate.says))
        paid = workbook_of(loan())
        assert paid is not None
        self.assertFalse(paid.terms.payment.is_input)
        self.assertTrue(paid.finds)

    @given(regular() | dated())
    @settings(deadline=None, max_examples=1000)
    def test_formulas_give_our_cents(self, content: dict[str, Any]) -> None:
        content = {**content, "count": min(content["count"], 24)}
        content["clauses"] = [each for each in content.get("clauses", []) if each["at"] <= 24]
        asked, _ = solved(content)
        self.recompute(asked)

    @given(irregular())
    @settings(deadline=None, max_examples=300)
    def test_formulas_follow_clauses_to_our_cents(self, content: dict[str, Any]) -> None:
        asked, _ = solved(content)
        self.recompute(asked)

    def test_money_between_payments_is_stated_and_marked(self) -> None:
        asked = loan(start="2027-03-01", clauses=[{"at": "2027-06-17", "advance": "5000"}])
        self.recompute(asked)
        sheet = workbook_of(asked)
        assert sheet is not None
        self.assertEqual([row.row.number for row in sheet.rows if row.marked], [4])

    def test_the_shapes_an_analyst_meets(self) -> None:
        for changes in (
            {},
            {"timing": "in-advance"},
            {"timing": "in-advance", "balance": "5000"},
            {"payment": "900", "balance": "?"},
            {"count": "?", "payment": "1200"},
            {"rate": {"percent": "3.4", "quoted": "flat"}},
            {"currency": "JPY"},
            {"currency": "KWD"},
            {"rounding": {"payment": "up", "to": "0.05"}},
            {"interest_shared": "sum-of-digits"},
        ):
            with self.subTest(**changes):
                self.recompute(loans.check(document(**changes)))

    def test_a_tie_that_binary_arithmetic_misses_is_rounded_as_ours(self) -> None:
        # 29,921.00 x 14 / 400 is 1,047.235, a tie; the nearest double lies just below it.
        sheet = workbook_of(
            loan(principal="29921.00", rate={"percent": "14"}, every="quarter", count=2)
        )
        assert sheet is not None
        self.assertEqual(Sheet(sheet).value("Schedule!D2"), 1047.24)
        # A sheet keeps fifteen digits: interest of over ten billions has none left for its cents.
        rate = {"percent": "7.3", "quoted": "periodic"}
        sheet = workbook_of(loan(principal=f"{5 * 10**14 + 6}.37", rate=rate, count=2))
        assert sheet is not None
        self.assertTrue(any(row.marked for row in sheet.rows))


def their_csv(answer: Any, **changed: str) -> str:
    """Our schedule as somebody else might write it, cells of payment 7 changed."""
    lines = ["no;due;interest;payment;closing balance"]
    for row in answer.schedule:
        cells = dict(row, **(changed if row["number"] == 7 else {}))
        money = [cells[name].replace(".", ",") for name in ("interest", "payment", "closing")]
        lines.append(";".join([str(row["number"]), row["date"] or "", *money]))
    return "\ufeff" + "\r\n".join(lines)


class TheirsAgainstOurs(TestCase):
    def held(self, text: str, tolerance: str = "0.01", **changes: Any) -> Any:
        return reconcile(loan(**changes), text, None, Decimal(tolerance), PLAIN)

    def test_our_own_agrees(self) -> None:
        found = self.held(their_csv(loans.solve(loan(start="2027-03-01"))), start="2027-03-01")
        self.assertEqual((found.compared, found.rows_differing, found.ask), (60, 0, False))
        self.assertIn("Every row agrees", found.says)

    def test_which_rows_by_how_much_and_where_it_began(self) -> None:
        found = self.held(their_csv(loans.solve(loan()), interest="230.25", closing="43366.38"))
        self.assertEqual((found.rows_differing, found.began), (1, 7))
        gaps = {each.column: each.gap for each in found.differences}
        self.assertEqual(gaps, {"interest": "0.05", "closing": "0.05"})
        self.assertIn("payment 7: its interest is 0.05 more than ours", found.says)
        near = self.held(their_csv(loans.solve(loan()), interest="230.21"))
        self.assertEqual(near.rows_differing, 0)
        strict = self.held(their_csv(loans.solve(loan()), interest="230.21"), "0")
        self.assertEqual(strict.rows_differing, 1)

    def test_what_is_paid_on_top_counts_with_the_payment_or_apart(self) -> None:
        clauses = [{"at": 5, "repay": "1000"}]
        answer = loans.solve(loan(clauses=clauses))
        text = their_csv(answer)
        self.assertEqual(self.held(text, clauses=clauses).rows_differing, 0)
        row = answer.schedule[4]
        together = f"{Decimal(row['payment']) + 1000}".replace(".", ",")
        apart = f"{row['number']};;{row['interest']};{row['payment']}".replace(".", ",")
        self.assertIn(apart, text)
        joined = text.replace(apart, f"5;;{row['interest']};{together}".replace(".", ","))
        self.assertEqual(self.held(joined, clauses=clauses).rows_differing, 0)

    def test_dates_and_lengths(self) -> None:
        asked = loans.solve(loan(start="2027-03-01"))
        text = their_csv(asked).replace("2027-04-01", "2027-04-02")
        found = self.held(text, start="2027-03-01")
        self.assertIn("its date is 2027-04-02 there", found.says)
        short = "\n".join(their_csv(asked).splitlines()[:13])
        self.assertIn("They have 12 rows, we 60", self.held(short, start="2027-03-01").says)

    def test_asks_which_is_which_rather_than_guess(self) -> None:
        answer = loans.solve(loan())
        rows = [f"{row['number']}|{row['closing']}|{row['interest']}" for row in answer.schedule]
        text = "\n".join(["n|rest|z", *rows])
        asks = self.held(text)
        self.assertTrue(asks.ask)
        self.assertEqual((asks.names, len(asks.sample)), (("n", "rest", "z"), 4))
        told = reconcile(
            loan(), text, Matched(number=0, closing=1, interest=2), Decimal("0.01"), PLAIN
        )
        self.assertEqual((told.compared, told.rows_differing), (60, 0))

    def test_rows_that_cannot_be_read_are_named(self) -> None:
        text = "no,payment\n1,938.82\ntwo,938.82\n3,a lot\n4,938.82"
        found = self.held(text)
        self.assertEqual([each.field for each in found.unread], ["row 3", "row 4"])
        self.assertEqual(found.compared, 2)

    def test_what_is_no_table(self) -> None:
        for text in ("", "x", "payment\n1", "no,payment\n" + "9" * 200_000):
            with self.subTest(text[:20]), self.assertRaises(loans.NotALoan):
                self.held(text)
        wide = Matched(payment=9)
        with self.assertRaises(loans.NotALoan):
            reconcile(loan(), "no,payment\n1,2", wide, CENT, PLAIN)


class InWords(TestCase):
    def test_the_terms_as_a_sentence(self) -> None:
        said = terms_in_words(
            loan(start="2027-03-01", clauses=[{"at": 7, "payment": "500"}]), MARKS["comma-point"]
        )
        self.assertEqual(
            said,
            "We lend 48,250.00 EUR on 1 Mar 2027 at 6.35 % a year, nominal, compounded "
            "half-yearly, repaid by 60 monthly payments of ? at the end of each month from 1 Apr "
            "2027, with 0.00 still owed at the end, except that at payment 7 the payment is "
            "500.00.",
        )


class Days(TestCase):
    @given(st.dates(date(1990, 1, 1), date(2100, 1, 1)))
    @settings(max_examples=100)
    def test_a_day_written_is_read_as_itself(self, day: date) -> None:
        self.assertEqual(read_day(write_day(day)), day)
        self.assertEqual(read_day(day.isoformat()), day)
        self.assertIn(day, read_days(f"{day.month}/{day.day}/{day.year}"))
        self.assertEqual(read_day(f"{day.day}.{day.month}.{day.year}"), day)
        self.assertIsNone(read_day(str(day + timedelta(days=1)) + "x"))


class Several(TestCase):
    def test_several_stretches_as_several_moments(self) -> None:
        asked = loan(start="2027-03-01")
        told = period_totals_of(asked, "year 1; 13-24, 2029 and last 12", PLAIN)
        singly = [stretch(asked, typed, PLAIN) for typed in ("1-12", "13-24", "2029", "49-60")]
        self.assertEqual(told, singly)
        with self.assertRaises(loans.NotALoan):
            period_totals_of(asked, "year 1; year 9", PLAIN)

    def test_a_unit_said_once_is_that_of_all(self) -> None:
        """6, 8, 10 and 12 years of months."""
        for typed in ("6, 8, 10, 12 years", "6; 8; 10; 12y", "6, 8, 10 and 12 years"):
            found = read_values(typed, figure_path("count"), Statement(every="month"), 10)
            self.assertEqual([int(each) for each in found], [72, 96, 120, 144], typed)
        found = read_values("48; 60", figure_path("count"), Statement(every="month"), 10)
        self.assertEqual([int(each) for each in found], [48, 60])

    def test_another_currencys_sign_is_not_passed_over(self) -> None:
        marks = MARKS["comma-point"]
        for typed, currency in (("€48,250", "EUR"), ("48,250 eur", "EUR"), ("$5k", "CAD")):
            self.assertIsNotNone(read_amount(typed, marks, currency).value, typed)
        for typed, currency in (("$48,250", "EUR"), ("48,250 £", "EUR"), ("USD 5k", "EUR")):
            reading = read_amount(typed, marks, currency)
            self.assertIsNone(reading.value, typed)
            self.assertIn("change the currency", reading.error or "", typed)
