"""The document: what it takes, what it leaves out, what it refuses and how."""

import json
from decimal import Decimal
from pathlib import Path
from typing import Any
from unittest import TestCase

from zephyrant import loans
from zephyrant.loans import NotALoan

from .documents import document, errors_of, loan

OVER = {"number": "1", "period": "year"}
OVER_PARTS = {"rate.over.number", "rate.over.period"}
FLAT = {"percent": "3.4", "quoted": "flat"}


def fields(content: object) -> set[str]:
    return {field for field, _ in errors_of(content)}


class Refused(TestCase):
    def test_each_at_its_field(self) -> None:
        cases: list[tuple[dict[str, Any], set[str]]] = [
            ({"payment": "?", "principal": "?"}, {"payment", "principal"}),
            ({"payment": "10", "rate": {"percent": "?"}, "count": "?"}, {"rate.percent", "count"}),
            ({"first_payment": "2027-03-01"}, {"first_payment"}),
            ({"start": "2027-02-30"}, {"start"}),
            ({"start": "1 March 2027"}, {"start"}),
            ({"start": 20270301}, {"start"}),
            ({"start": "2027-03-01", "first_payment": "2027-02-28"}, {"first_payment"}),
            ({"start": "2027-03-01", "every": 5}, {"every"}),
            ({"start": "2027-03-01", "every": "year", "count": 9000}, {"count"}),
            ({"day_count": "actual/365"}, {"day_count"}),
            ({"start": "2027-03-01", "day_count": "actual"}, {"day_count"}),
            ({"odd_days": "none"}, {"odd_days"}),
            ({"clauses": [{"at": 61, "payment": "5"}]}, {"clauses.0.at"}),
            ({"clauses": [{"at": 0, "payment": "5"}]}, {"clauses.0.at"}),
            ({"clauses": [{"at": 7}]}, {"clauses.0"}),
            ({"clauses": [{"at": 7, "payment": "-5"}]}, {"clauses.0.payment"}),
            ({"clauses": [{"at": 7, "payment": "5"}] * 2}, {"clauses.1.at"}),
            ({"clauses": [{"at": 7, "payment": "?"}]}, {"clauses.0.payment", "payment"}),
            ({"principal": "-5"}, {"principal"}),
            ({"rate": {"percent": "10000"}}, {"rate.percent"}),
            ({"rate": {"percent": "-100", "quoted": "effective"}}, {"rate.percent"}),
            ({"rate": {"percent": "-1200"}}, {"rate.percent"}),
            ({"rate": {"percent": "6", "compounding": 0}}, {"rate.compounding"}),
            ({"rate": {"percent": "6", "compounding": 2.5}}, {"rate.compounding"}),
            ({"rate": {"percent": "6", "compounding": 10**9}}, {"rate.compounding"}),
            ({"rate": {"percent": "6", "quoted": "dear"}}, {"rate.quoted"}),
            ({"rate": {"percent": "6", "quoted": "simple"}}, {"rate.over"}),
            ({"rate": {"percent": "6", "over": OVER}}, {"rate.over"}),
            ({"rate": {"percent": "6", "quoted": "discount", "over": {}}}, OVER_PARTS),
            ({"rate": {"percent": "6", "quoted": "flat", "year_days": 360}}, {"rate.year_days"}),
            ({"rate": {"percent": "6", "year_days": 364}}, {"rate.year_days"}),
            ({"rate": {"percent": "100", "quoted": "discount", "over": OVER}}, {"rate.percent"}),
            ({"rate": {"percent": "-100", "quoted": "simple", "over": OVER}}, {"rate.percent"}),
            ({"rate": FLAT, "balance": "10"}, {"balance"}),
            ({"rate": FLAT, "count": "?", "payment": "900"}, {"count"}),
            ({"rate": FLAT, "count": 1, "timing": "in-advance"}, {"rate.percent"}),
            ({"rate": {**FLAT, "percent": "-20"}}, {"rate.percent"}),
            ({"rate": "6.35"}, {"rate"}),
            ({"count": 0}, {"count"}),
            ({"count": 2.5}, {"count"}),
            ({"count": 10**9}, {"count"}),
            ({"count": -3}, {"count"}),
            ({"count": True}, {"count"}),
            ({"count": "sixty"}, {"count"}),
            ({"principal": "a lot"}, {"principal"}),
            ({"principal": ""}, {"principal"}),
            ({"principal": ["1"]}, {"principal"}),
            ({"principal": "NaN"}, {"principal"}),
            ({"principal": "Infinity"}, {"principal"}),
            ({"principal": float("inf")}, {"principal"}),
            ({"principal": "1" * 30}, {"principal"}),
            ({"principal": "٣"}, {"principal"}),
            ({"surplus": 1}, {"surplus"}),
            ({"rate": {"percent": "6", "surplus": 1}}, {"rate.surplus"}),
            ({"currency": "EUX"}, {"currency"}),
            ({"currency": "XAU"}, {"currency"}),
            ({"currency": 978}, {"currency"}),
            ({"currency": None}, {"currency"}),
            ({"payment": None}, {"payment"}),
            ({"zephyrant": "loan/2"}, {"zephyrant"}),
            ({"zephyrant": None}, {"zephyrant"}),
            ({"every": "fortnight"}, {"every"}),
            ({"every": 0}, {"every"}),
            ({"timing": "in advance"}, {"timing"}),
            ({"rounding": {"payment": "down"}}, {"rounding.payment"}),
            ({"rounding": {"to": "0"}}, {"rounding.to"}),
            ({"rounding": {"to": "0.005"}}, {"rounding.to"}),
            ({"name": 7}, {"name"}),
            ({"name": "x" * 201}, {"name"}),
            ({"principal": "x", "count": -1, "currency": "?"}, {"principal", "count", "currency"}),
        ]
        for changes, expected in cases:
            with self.subTest(**changes):
                found = errors_of(document(**changes))
                self.assertEqual({field for field, _ in found}, expected)
                for _, sentence in found:
                    self.assertRegex(sentence, r"^.{12,}[.?]$")

    def test_two_unknowns_are_named(self) -> None:
        for _, sentence in errors_of(document(principal="?")):
            self.assertIn("principal and payment", sentence)

    def test_what_is_no_object(self) -> None:
        contents: tuple[Any, ...] = (None, [], "text", 3)
        for content in contents:
            self.assertEqual(fields(content), {""})

    def test_text_that_is_no_document(self) -> None:
        texts: list[str | bytes] = [
            "",
            "{",
            "[1,",
            "nonsense",
            '{"principal": NaN}',
            '{"principal": -Infinity}',
            '{"count": 1, "count": 2}',
            "[" * 100_000,
            b"\xff\xfe",
            '{"a": "' + "x" * 2_000_000,
        ]
        for text in texts:
            with self.subTest(text=text[:20]), self.assertRaises(NotALoan) as raised:
                loans.read(text)
            self.assertEqual(raised.exception.errors[0].field, "")


class Taken(TestCase):
    def test_defaults(self) -> None:
        least = loan(rate={"percent": "6"}, count=12)
        self.assertEqual(
            (least.every, least.timing, least.balance, least.rate.quoted, least.compounding),
            ("month", "in-arrears", 0, "nominal", "month"),
        )
        self.assertEqual((least.rounding.payment, least.rounding.interest), ("nearest", "nearest"))
        self.assertEqual(least.step, Decimal("0.01"))

    def test_numbers_of_json_are_exact(self) -> None:
        text = json.dumps(document()).replace('"48250.00"', "48250.10")
        self.assertEqual(loans.read(text).principal, Decimal("48250.10"))

    def test_the_number_of_periods_a_year(self) -> None:
        self.assertEqual(
            loans.solve(loan(every=12, rate={"percent": "6", "compounding": 12})).exact,
            loans.solve(loan(rate={"percent": "6"})).exact,
        )

    def test_written_and_read_again_it_is_the_same(self) -> None:
        whole = loan(rounding={"payment": "up", "to": "0.05"}, balance="1000.50")
        self.assertEqual(loans.check(loans.write(whole)), whole)

    def test_it_cannot_be_changed(self) -> None:
        with self.assertRaises(ValueError):
            loan().count = 12  # type: ignore[misc]


class Released(TestCase):
    """A document that was good stays good and means the same."""

    def test_documents_of_every_released_shape(self) -> None:
        folder = Path(__file__).parent / "released"
        found = sorted(folder.glob("*.json"))
        self.assertGreaterEqual(len(found), 5)
        for path in found:
            with self.subTest(path.name):
                kept = json.loads(path.read_text())
                answer = loans.solve(loans.read(json.dumps(kept["document"])))
                self.assertEqual(
                    {"value": answer.value, "exact": answer.exact, "reason": answer.reason},
                    kept["meaning"],
                )
