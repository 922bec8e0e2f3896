"""What people type, and how it is read."""

from decimal import Decimal
from typing import Any, cast
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from zephyrant.loans import MARKS, Every, solve
from zephyrant.loans.statement.parsing import Reading
from zephyrant.loans.statement.restating import remark, restate
from zephyrant.loans.statement.statement import Statement
from zephyrant.loans.statement.typed_amounts import read_amount, read_payment, read_percent
from zephyrant.loans.statement.typed_times import read_count
from zephyrant.loans.statement.working import work

from .documents import loan

POINT, COMMA, SPACE = MARKS["comma-point"], MARKS["point-comma"], MARKS["space-comma"]


class Entries(TestCase):
    def reads(self, reading: Reading, value: str | None, other: str | None = None) -> None:
        self.assertEqual((reading.value, reading.other), (value, other), reading)
        if value is None:
            self.assertTrue(reading.error)

    def test_payments_that_can_be_carried(self) -> None:
        for typed, marks, every, value in (
            ("938.82", POINT, "month", "938.82"),
            ("35 % of 5,400", POINT, "month", "1890"),
            ("5,400 - 640", POINT, "month", "4760"),
            ("5400 less 3,200 less 640", POINT, "month", "1560"),
            ("33 1/3 % of 5k − 640", POINT, "month", "1026.66"),
            ("35 % of 64,800 a year", POINT, "month", "1890"),
            ("5,400 - 640 a month", POINT, "quarter", "14280"),
            ("8,760 a half-year", POINT, "month", "1460"),
            ("1,200 a quarter", POINT, "month", "400"),
            ("1,200 a week", POINT, "month", "5200"),
            ("10 a day", POINT, "month", "304.16"),
            ("35,5 % of 5.400,00 - 640,50 a month", COMMA, "month", "1276.5"),
            ("1-5", POINT, "month", None),
            ("35 % of ?", POINT, "month", None),
            ("35 % of nothing", POINT, "month", None),
            ("-500", POINT, "month", "-500"),
        ):
            with self.subTest(typed):
                self.reads(read_payment(typed, marks, "EUR", cast("Every", every)), value)
        asked = Statement(
            principal="?",
            percent="6",
            count="60",
            payment="35,5 % of 5.400 a year",
            marks="point-comma",
        )
        self.assertEqual(remark(asked, "comma-point").payment, "35.5 % of 5,400.00 a year")
        document = work(asked).document
        assert document
        self.assertEqual(document["payment"], "159.75")

    def test_amounts(self) -> None:
        cases: list[tuple[str, Any, str | None, str | None]] = [
            ("48,250", POINT, "48250", None),
            ("48250.00", POINT, "48250", None),
            ("48,250.00", POINT, "48250", None),
            ("48 250", POINT, "48250", None),
            ("48’250.50", POINT, "48250.5", None),
            ("48k", POINT, "48000", None),
            ("1.2m", POINT, "1200000", None),
            ("1.2 million", POINT, "1200000", None),
            ("EUR 48,250", POINT, "48250", None),
            ("€48k", POINT, "48000", None),
            ("1,5", POINT, "1.5", "15.00"),
            ("1.5", COMMA, "1.5", "15,00"),
            ("1,5", COMMA, "1.5", None),
            ("48.250", COMMA, "48250", None),
            ("48.250", POINT, "48.25", "48,250.00"),
            ("48,250", SPACE, "48.25", "48\xa0250,00"),
            ("48.250,75", POINT, "48250.75", None),
            ("1,234,567", POINT, "1234567", None),
            ("-500", POINT, "-500", None),
            ("(500)", POINT, "-500", None),
            (".5", POINT, "0.5", None),
            ("0", POINT, "0", None),
            (" ? ", POINT, "?", None),
            ("", POINT, None, None),
            ("a lot", POINT, None, None),
            ("12,34,56", POINT, None, None),
            ("1..2", POINT, None, None),
            ("1e9", POINT, None, None),
            ("NaN", POINT, None, None),
            ("Infinity", POINT, None, None),
            ("9" * 100, POINT, None, None),
            ("<script>", POINT, None, None),
        ]
        for typed, marks, value, other in cases:
            with self.subTest(typed=typed, marks=marks):
                self.reads(read_amount(typed, marks, "EUR"), value, other)

    def test_percents(self) -> None:
        cases: list[tuple[str, Any, str | None, str | None]] = [
            ("6.35", POINT, "6.35", None),
            ("6.35 %", POINT, "6.35", None),
            ("6,35", COMMA, "6.35", None),
            ("6 3/8", POINT, "6.375", None),
            ("6-3/8", POINT, "6.375", None),
            ("6⅜", POINT, "6.375", None),
            ("7/8", POINT, "0.875", None),
            ("635 bp", POINT, "6.35", None),
            ("-0.5", POINT, "-0.5", None),
            ("1,5", POINT, "1.5", "15.00"),
            ("6.375", COMMA, "6.375", "6.375,00"),
            ("6/0", POINT, None, None),
            ("six", POINT, None, None),
        ]
        for typed, marks, value, other in cases:
            with self.subTest(typed=typed, marks=marks):
                self.reads(read_percent(typed, marks), value, other)

    def test_counts(self) -> None:
        cases: list[tuple[str, Any, str | None]] = [
            ("60", "month", "60"),
            ("1,040", "week", "1040"),
            ("5 years", "month", "60"),
            ("5y", "quarter", "20"),
            ("5y6m", "month", "66"),
            ("5 years 6 months", "half-year", "11"),
            ("5 years and 6 months", "month", "66"),
            ("18 months", "month", "18"),
            ("2.5 years", "month", "30"),
            ("20 quarters", "month", "60"),
            ("52 weeks", "two-weeks", "26"),
            ("60 payments", "month", "60"),
            ("5y1m", "quarter", None),
            ("five years", "month", None),
            ("5 furlongs", "month", None),
            ("", "month", None),
        ]
        for typed, every, value in cases:
            with self.subTest(typed=typed, every=every):
                self.reads(read_count(typed, POINT, every), value)

    def test_digits_in_twos(self) -> None:
        """As India groups and counts: a lakh is a hundred thousand, a crore a hundred lakhs."""
        for marks in (POINT, MARKS["pairs-point"]):
            for typed, value in (
                ("48,25,000", "4825000.00"),
                ("1,50,000.50", "150000.50"),
                ("12,34,56,789", "123456789.00"),
                ("1,500", "1500.00"),
                ("1,234,567", "1234567.00"),
                ("4.5 lakh", "450000.00"),
                ("48 lakhs", "4800000.00"),
                ("2.5 crore", "25000000.00"),
                ("1 crores", "10000000.00"),
            ):
                with self.subTest(typed):
                    read = read_amount(typed, marks, "INR")
                    self.assertEqual(f"{Decimal(read.value or 'NaN'):.2f}", value)
                    self.assertIsNone(read.other)
        for typed in ("1,5,000", "12,345,67", "1,50,00", "1,,500"):
            self.assertTrue(read_amount(typed, POINT, "INR").error, typed)

    @given(st.text(max_size=60))
    def test_nothing_typed_breaks_it(self, typed: str) -> None:
        for reading in (
            read_amount(typed, POINT, "EUR"),
            read_percent(typed, COMMA),
            read_count(typed, SPACE, "month"),
        ):
            self.assertTrue(reading.error or reading.value is not None)

    @given(
        st.decimals(0, 10**9, places=2),
        st.sampled_from([name for name in MARKS if name != "plain"]),
    )
    def test_what_is_shown_back_reads_the_same(self, value: Any, name: Any) -> None:
        text = MARKS[name].amount(value, 2)
        again = read_amount(text, MARKS[name], "EUR")
        self.assertEqual(MARKS[name].amount(value, 2), again.text)
        self.assertIsNone(again.other)


class Statements(TestCase):
    PRESS = Statement(
        principal="48,250", percent="6.35", compounding="half-year", count="5y", payment="?"
    )

    def test_worked(self) -> None:
        worked = work(self.PRESS)
        assert worked.answer
        self.assertEqual(worked.answer.value, "938.82")
        self.assertEqual(worked.readings["count"].note, "5y = 60 monthly payments.")

    def test_every_mistake_at_its_field(self) -> None:
        wrong = self.PRESS.model_copy(update={"principal": "lots", "percent": "", "count": "0"})
        worked = work(wrong)
        self.assertEqual(
            {error.field for error in worked.errors}, {"principal", "percent", "count"}
        )
        self.assertIsNone(worked.answer)

    def test_sentences_speak_in_the_readers_marks(self) -> None:
        german = remark(
            self.PRESS.model_copy(update={"payment": "1.000", "count": "?"}), "point-comma"
        )
        self.assertEqual((german.principal, german.percent), ("48.250,00", "6,35"))
        never = work(german.model_copy(update={"payment": "252,01"}))
        assert never.answer
        self.assertIn("252,01 or less never repays", never.answer.reason or "")

    def test_other_marks_keep_what_cannot_be_read(self) -> None:
        half = remark(self.PRESS.model_copy(update={"principal": "48,25o"}), "point-comma")
        self.assertEqual(half.principal, "48,25o")

    def test_a_document_restated_is_the_same_document(self) -> None:
        stated = loan(balance="1234.5", rounding={"payment": "up"})
        for name in ("comma-point", "point-comma"):
            again = work(restate(stated, name))
            self.assertEqual(again.errors, ())
            assert again.answer
            laid = solve(stated).laid
            assert laid
            self.assertEqual(again.schedule, laid.columns_told)
