"""Sweeps, aims, quotes and tapes as plain functions."""

import doctest
import importlib
from datetime import UTC, date, datetime, time
from decimal import Decimal
from typing import Any
from unittest import TestCase

import pandas
import polars
import pyarrow

import zephyrant
from tests.library.test_solve import level_payment, to_the_cent
from tests.loans.documents import document


class Doctests(TestCase):
    def test_what_the_docstrings_show(self) -> None:
        for name in ("", ".library.asking", ".library.quotes", ".library.tapes", ".library.words"):
            result = doctest.testmod(importlib.import_module(f"zephyrant{name}"))
            self.assertEqual(result.failed, 0, name)
            self.assertGreater(result.attempted, 0, name)

    def test_every_function_of_the_door_has_one(self) -> None:
        for name in zephyrant.__all__:
            of = getattr(zephyrant, name)
            if callable(of) and not isinstance(of, type):
                self.assertIn(">>>", of.__doc__ or "", name)


class Words(TestCase):
    def test_every_result_is_explained(self) -> None:
        answer = zephyrant.solve(document())
        assert answer.rates and answer.yearly_cost
        for name in (*answer.rates._fields, *answer.yearly_cost._fields, "Balloon"):
            self.assertTrue(zephyrant.explain(name).endswith("."))
        with self.assertRaisesRegex(KeyError, "effective"):
            zephyrant.explain("effectiv")


class Sweeps(TestCase):
    def test_every_point_is_the_loan_solved_anew(self) -> None:
        over: dict[str, Any] = {"rate": "5 to 7 by 0.5", "principal": [40000, "48250.50"]}
        swept = zephyrant.sweep(
            document(), over=over, results=["answer", "total_interest", "count"]
        )
        self.assertEqual(len(swept), 10)
        for row in swept:
            alone = zephyrant.solve(
                document(principal=str(row.principal)),
                rate={"percent": row.rate, "compounding": "half-year"},
            )
            assert alone.totals is not None
            told = (alone.value, alone.totals.interest, alone.totals.payments)
            self.assertEqual((row.answer, row.total_interest, row.count), told)
            expected = level_payment(str(row.principal), str(row.rate), 2, 12, 60)
            self.assertEqual(row.answer, to_the_cent(expected))

    def test_where_there_is_none_the_reason_stands(self) -> None:
        swept = zephyrant.sweep(document(count="?", payment="500"), over={"payment": [200, 938.82]})
        self.assertIn("never repays", swept[0].reason)
        self.assertEqual((swept[1].answer, swept[1].reason), (61, None))

    def test_a_figure_in_a_clause(self) -> None:
        loan = document(clauses=[{"at": 12, "repay": "5000"}])
        swept = zephyrant.sweep(loan, over={"clauses.0.repay": [0, 5000]})
        self.assertEqual(swept.names, ("clauses.0.repay", "answer", "reason"))
        self.assertEqual(swept.column("answer")[0], Decimal("938.82"))

    def test_of_a_loan_with_an_aim_the_one_that_reaches_it(self) -> None:
        """As on the page: 900 a month, whatever was lent before it was aimed at."""
        aimed = zephyrant.aim(document(), figure="payment", target=900, by="principal")
        swept = zephyrant.sweep(aimed, over={"count": [60]})
        self.assertEqual(swept[0].answer, 900)

    def test_what_cannot_be_swept(self) -> None:
        for over, results in (
            ({"colour": [1]}, ["answer"]),
            ({"payment": [1]}, ["answer"]),
            ({"rate": "nonsense"}, ["answer"]),
            ({"rate": []}, ["answer"]),
            ({"rate": range(3_000)}, ["answer"]),
            ({"rate": [5]}, ["beauty"]),
            ({}, ["answer"]),
            ({"rate": [5], "count": [5], "principal": [5]}, ["answer"]),
        ):
            with self.subTest(over), self.assertRaises(zephyrant.NotALoan):
                zephyrant.sweep(document(), over=over, results=results)


class Aims(TestCase):
    def test_total_interest(self) -> None:
        """Interest is principal x (60 a - 1), a the payment of 1 lent: by the annuity formula."""
        each = level_payment("1", "6.35", 2, 12, 60)
        aimed = zephyrant.aim(document(), figure="total_interest", target=9000, by="principal").aim
        assert aimed is not None and aimed.exact is not None
        self.assertAlmostEqual(aimed.exact, 9000 / (60 * each - 1), 12)
        self.assertEqual(aimed.value, to_the_cent(9000 / (60 * each - 1)))

    def test_unreached_and_unknown(self) -> None:
        aimed = zephyrant.aim(document(), figure="payment", target=100, by="rate").aim
        assert aimed is not None
        self.assertEqual((aimed.value, aimed.solutions), (None, ()))
        self.assertIn("nearest", aimed.says)
        with self.assertRaises(zephyrant.NotALoan):
            zephyrant.aim(document(), figure="beauty", target=1, by="rate")


class Quotes(TestCase):
    def test_on_one_footing(self) -> None:
        """(1 + p/m)^m - 1, the definition of an effective rate."""
        ranked = zephyrant.compare_quotes(
            {"A": "6.4 %", "B": "6.35 % compounded half-yearly", "C": 6.39, "D": "6.3 % effective"}
        )
        effective = {
            "A": (1 + 0.064 / 12) ** 12,
            "B": (1 + 0.0635 / 2) ** 2,
            "C": (1 + 0.0639 / 12) ** 12,
            "D": 1.063,
        }
        self.assertEqual(
            [each.name for each in ranked], sorted(effective, key=lambda n: effective[n])
        )
        least = min(effective.values())
        for each in ranked:
            self.assertAlmostEqual(float(each.effective), 100 * (effective[each.name] - 1), 10)
            points = 10_000 * (effective[each.name] - least)
            self.assertAlmostEqual(float(each.basis_points), points, delta=0.0051)

    def test_on_every_footing(self) -> None:
        footings = {each.name: each.percent for each in zephyrant.equivalents("0.55 % a month")}
        yearly = 100 * (1.0055**12 - 1)
        self.assertAlmostEqual(float(footings["a year"]), yearly, 10)
        self.assertAlmostEqual(float(footings["compounded monthly"]), 6.6, 10)

    def test_what_is_no_quote(self) -> None:
        for quote in ("nonsense", "?", "", -1300, "6 % and 7 %"):
            with self.subTest(quote), self.assertRaises(zephyrant.NotALoan):
                zephyrant.equivalents(quote)
        with self.assertRaises(zephyrant.NotALoan) as refused:
            zephyrant.compare_quotes({"Alder": "6 %", "Birch": "steep"})
        self.assertEqual(refused.exception.errors[0].field, "Birch")
        with self.assertRaises(zephyrant.NotALoan):
            zephyrant.compare_quotes([str(5 + n / 100) for n in range(61)])


TAPE: dict[str, list[Any]] = {
    "Loan": ["Kiln", "Looms", "Netting", "Raft"],
    "Amount": [31200, 18400.5, Decimal("9950.25"), None],
    "Rate": [5.9, 6.1, 7.25, 5],
    "Payments": [48, 36, 24, 12],
    "Payment": ["?", "?", "400", "1"],
    "Signed": [date(2026, 1, 5), None, date(2026, 2, 1), date(2026, 3, 1)],
    "Open": [True, False, None, True],
}


class Tapes(TestCase):
    def check(self, solved: zephyrant.Frame[Any]) -> None:
        rows = {row.Loan: row for row in solved}
        self.assertEqual(rows["Kiln"].found, to_the_cent(level_payment("31200", "5.9", 12, 12, 48)))
        self.assertEqual(
            rows["Looms"].found, to_the_cent(level_payment("18400.5", "6.1", 12, 12, 36))
        )
        self.assertIs(rows["Netting"].fits, False)
        self.assertEqual(rows["Kiln"].count, 48)
        self.assertEqual((rows["Kiln"].Signed, rows["Looms"].Signed), (date(2026, 1, 5), None))

    def test_whatever_the_table_is(self) -> None:
        rows = [dict(zip(TAPE, cells, strict=True)) for cells in zip(*TAPE.values(), strict=True)]
        typed = {**TAPE, "Amount": [31200.0, 18400.5, 9950.25, None]}
        for tape in (
            TAPE,
            rows,
            pandas.DataFrame(TAPE),
            polars.DataFrame(typed),
            pyarrow.table(typed),
            zephyrant.solve_tape(TAPE),
        ):
            with self.subTest(type(tape)):
                self.check(zephyrant.solve_tape(tape))

    def test_each_row_is_the_loan_alone(self) -> None:
        solved = zephyrant.solve_tape(TAPE, every="quarter", currency="CHF")
        for row in list(solved)[:2]:
            alone = zephyrant.solve(
                principal=row.Amount,
                rate=row.Rate,
                count=row.Payments,
                every="quarter",
                currency="CHF",
            )
            assert alone.totals is not None
            told = (alone.value, alone.totals.interest, alone.totals.final_payment)
            self.assertEqual((row.found, row.total_interest, row.final_payment), told)

    def test_own_columns_keep_their_kinds(self) -> None:
        solved = zephyrant.solve_tape({**TAPE, "found": ["a", "b", "c", "d"]})
        schema = pyarrow.table(solved).schema
        self.assertEqual(schema.field("Signed").type, pyarrow.date32())
        self.assertEqual(schema.field("Open").type, pyarrow.bool_())
        self.assertEqual(schema.field("Payments").type, pyarrow.int64())
        self.assertEqual(schema.field("found").type, pyarrow.string())
        self.assertEqual(schema.field("found_found").type, pyarrow.decimal128(38, 2))
        moments = [datetime.fromisoformat("2026-01-05T09:30"), None] * 2
        kinds: dict[str, tuple[list[Any], Any]] = {
            "Seen": (moments, pyarrow.timestamp("us")),
            "Told": ([datetime(2026, 1, 5, tzinfo=UTC)] * 4, pyarrow.timestamp("us", "UTC")),
            "Score": ([0.1 + 0.2, None, -1.5, 1e300], pyarrow.float64()),
            "Days too": ([moments[0], date(2026, 1, 6)] * 2, pyarrow.timestamp("us")),
            "Some": ([1, 2.5, None, 4], pyarrow.float64()),
            "Paid": ([Decimal("1.20"), 3, None, Decimal("0.5")], pyarrow.decimal128(38, 2)),
        }
        own = {name: cells for name, (cells, _) in kinds.items()}
        table = pyarrow.table(zephyrant.solve_tape({**TAPE, **own}))
        for name, (cells, kind) in kinds.items():
            with self.subTest(name):
                # A day among moments is its midnight.
                told = [
                    datetime.combine(cell, time()) if type(cell) is date else cell for cell in cells
                ]
                self.assertEqual((table[name].type, table[name].to_pylist()), (kind, told))

    def test_what_is_open_is_asked(self) -> None:
        tape = {"Outlay so far": [1000], "Rate": [0.06], "Payments": [12], "Payment": ["?"]}
        with self.assertRaises(zephyrant.NotALoan) as refused:
            zephyrant.solve_tape({"Ledger": [1000], "Page": [12]})
        self.assertIn('columns={"NAME": "COLUMN"}', str(refused.exception))
        matched = {"principal": "Outlay so far"}
        with self.assertRaises(zephyrant.NotALoan) as refused:
            zephyrant.solve_tape(tape, columns=matched)
        self.assertIn('percent_as="part"', str(refused.exception))
        solved = zephyrant.solve_tape(tape, columns=matched, percent_as="part")
        self.assertEqual(solved[0].found, to_the_cent(level_payment("1000", "6", 12, 12, 12)))

    def test_a_template_says_which_columns_and_how(self) -> None:
        tape = {"Outlay": [1000], "Price": [0.06], "Terms": [12], "Due": ["?"]}
        template = {
            "zephyrant": "table-match/1",
            "columns": {"principal": "outlay", "percent": "PRICE", "count": "Terms"},
            "settings": {"percent_as": "part"},
        }
        expected = to_the_cent(level_payment("1000", "6", 12, 12, 12))
        self.assertEqual(zephyrant.solve_tape(tape, template=template)[0].found, expected)
        # What is said beside it comes before it.
        quarterly = zephyrant.solve_tape(tape, template=template, every="quarter")
        expected = to_the_cent(level_payment("1000", "6", 4, 4, 12))
        self.assertEqual(quarterly[0].found, expected)
        with self.assertRaises(zephyrant.NotALoan) as refused:
            zephyrant.solve_tape({"Outlay": [1], "Price": [1]}, template=template)
        self.assertIn("columns that are not there: “Terms”", str(refused.exception))

    def test_what_is_no_tape(self) -> None:
        nothing: list[Any] = [
            {},
            {"Amount": []},
            [],
            "Amount",
            5,
            {"Amount": [1, 2], "Rate": [3]},
            [1, 2],
        ]
        for tape in nothing:
            with self.subTest(tape), self.assertRaises(zephyrant.NotALoan):
                zephyrant.solve_tape(tape)
        with self.assertRaises(zephyrant.NotALoan):
            zephyrant.solve_tape(TAPE, colour="red")
        with self.assertRaises(zephyrant.NotALoan):
            zephyrant.solve_tape(TAPE, columns={"percent": "Nowhere"})
