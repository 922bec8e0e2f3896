"""Own columns of a table are in its result what they were in its file. What went in is made by
polars, openpyxl and Python's json, and what comes out read by them."""

import gzip
import json
import subprocess
import sys
import tempfile
from datetime import UTC, date, datetime, timedelta
from decimal import Decimal
from pathlib import Path
from typing import Any, Literal

import openpyxl
import polars as pl
from click.testing import CliRunner
from django.conf import settings
from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st
from polars.testing import assert_frame_equal, assert_series_equal
from python_calamine import load_workbook

from zephyrant.command.main import zephyrant
from zephyrant.loans import NotALoan
from zephyrant.tables import kinds
from zephyrant.tables.files import read, read_each
from zephyrant.tables.writing import apart

ROWS = 3
#: Moments without a zone, as workbooks have them.
MIDNIGHT = datetime.fromisoformat("2027-03-15")
SEEN = datetime.fromisoformat("2027-03-15T09:30")


def typed() -> pl.DataFrame:
    """Loans of which the payment is asked for, and beside them a column of every kind."""
    return pl.DataFrame(
        {
            "Loan": ["K1", "K2", "K3"],
            "Amount": pl.Series([48_250.0, 12_000.5, 0.1 + 0.2 + 999]),
            "Rate": pl.Series([6.35, 5.0, 6.125]),
            "Payments": pl.Series([60, 36, 12], dtype=pl.Int16),
            "Payment": ["?", "?", "?"],
            "Number": pl.Series([2**53 + 1, None, -7], dtype=pl.Int64),
            "Large": pl.Series([2**64 - 1, 0, None], dtype=pl.UInt64),
            "Score": pl.Series([0.1 + 0.2, 1e-12, None]),
            "Half": pl.Series([6.35, None, 1e20], dtype=pl.Float32),
            "Exact": pl.Series(
                [Decimal("1234567890.12"), None, Decimal("-0.01")], dtype=pl.Decimal(12, 2)
            ),
            "Agreed": pl.Series([True, None, False]),
            "Signed": pl.Series([date(2027, 3, 15), None, date(1899, 1, 2)]),
            "Seen": pl.Series([SEEN.replace(microsecond=120), None, MIDNIGHT]),
            "Told": pl.Series(
                [datetime(2027, 3, 15, 9, 30, tzinfo=UTC), None, datetime(2027, 7, 1, tzinfo=UTC)],
                dtype=pl.Datetime("ms", "UTC"),
            ).dt.convert_time_zone("Europe/Berlin"),
            "Branch": ["007", "north, by the sea", None],
        }
    )


#: By the annuity formula in Python's decimals, to the cent: principal, percent a year, months.
PAYMENTS = ["940.68", "359.67"]


def run(*arguments: str) -> tuple[int, str]:
    done = CliRunner().invoke(zephyrant, ["table", *arguments])
    if done.exception is not None and not isinstance(done.exception, SystemExit):
        raise done.exception
    return done.exit_code, done.output


class InFolder(SimpleTestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)

    def solve(self, source: Path, out: str, *more: str) -> Path:
        status, said = run(str(source), "--out", str(self.folder / out), *more)
        self.assertEqual(status, 0, said)
        return self.folder / out

    def typed(self) -> Path:
        path = self.folder / "typed.parquet"
        typed().write_parquet(path)
        return path


class Files(InFolder):
    def same(self, solved: pl.DataFrame) -> None:
        assert_frame_equal(solved.select(typed().columns), typed())
        self.assertEqual(solved["found"].dtype, pl.Decimal(38, 10))
        self.assertEqual([f"{each:.2f}" for each in solved["found"].to_list()[:2]], PAYMENTS)
        self.assertEqual((solved["count"].dtype, solved["fits"].dtype), (pl.Int64, pl.Boolean))
        self.assertEqual(solved["problem"].to_list(), [None] * ROWS)

    def test_parquet_and_arrow_in_and_out(self) -> None:
        source = self.typed()
        self.same(pl.read_parquet(self.solve(source, "out.parquet")))
        self.same(pl.read_ipc(self.solve(source, "out.arrow")))
        self.same(pl.read_ipc(self.solve(source, "out.feather")))
        file, stream = self.folder / "typed.arrow", self.folder / "stream"
        typed().write_ipc(file)
        typed().write_ipc_stream(stream)
        self.same(pl.read_parquet(self.solve(file, "again.parquet")))
        self.same(pl.read_parquet(self.solve(stream, "once-more.parquet")))

    def test_packed(self) -> None:
        packed = self.folder / "tape.csv.gz"
        packed.write_bytes(
            gzip.compress(b"Loan,Amount,Rate,Payments,Payment\nK1,48250,6.35,60,?\n")
        )
        for name in ("out.csv.gz", "out.jsonl.gz"):
            told = gzip.decompress(self.solve(packed, name).read_bytes()).decode()
            self.assertIn("940.68", told)
        self.assertEqual(self.solve(packed, "a.csv.gz").read_bytes()[4:8], bytes(4))

    def test_a_table_of_texts_becomes_one_with_kinds(self) -> None:
        tape = self.folder / "tape.csv"
        tape.write_text("Loan,Amount,Rate,Payments,Payment,Branch\nK1,48250,6.35,60,?,007\n")
        solved = pl.read_parquet(self.solve(tape, "out.parquet"))
        # CSV knows only texts: a number of a branch keeps its noughts.
        self.assertEqual(solved["Branch"].to_list(), ["007"])
        self.assertEqual(solved["found"].to_list(), [Decimal("940.6800000000")])

    def test_json_lines(self) -> None:
        rows: list[dict[str, Any]] = [
            {
                "Loan": "K1",
                "Amount": 48250,
                "Rate": 6.35,
                "Payments": 60,
                "Payment": "?",
                "ok": True,
            },
            {
                "Loan": "K2",
                "Amount": 12000.50,
                "Rate": 5,
                "Payments": 36,
                "Payment": "?",
                "at": [1],
            },
            {
                "Loan": "3",
                "Amount": 900,
                "Rate": 5,
                "Payments": 12,
                "Payment": 77.05,
                "gap": "mine",
            },
        ]
        source = self.folder / "tape.jsonl"
        source.write_text("\n".join(map(json.dumps, rows)))
        lines = self.solve(source, "out.jsonl").read_text().splitlines()
        for row, line in zip(rows, lines, strict=True):
            told = json.loads(line)
            self.assertEqual({name: told[name] for name in row}, row)
        self.assertEqual(json.loads(lines[0])["found"], "940.68")

    def test_numbers_are_read_as_numbers_whatever_their_decimals(self) -> None:
        frame = pl.DataFrame(
            {"Amount": [1234.567, 2000.125], "Rate": [6.125, 5.375], "Term": [12, 24]}
        )
        path = self.folder / "tape.parquet"
        frame.write_parquet(path)
        # In CSV 1.234 could be a thousand and more: here nothing is asked.
        solved = pl.read_parquet(self.solve(path, "out.parquet", "--set", "count_in=payments"))
        self.assertEqual([float(each) for each in solved["principal"]], [1234.567, 2000.125])

    def test_many_rows_are_solved_side_by_side(self) -> None:
        rows = 26_000
        frame = pl.DataFrame(
            {
                "Loan": [f"K{at}" for at in range(rows)],
                "Amount": [1000.0 + at for at in range(rows)],
                "Rate": [5.0] * rows,
                "Term": [12] * rows,
            }
        )
        path = self.folder / "tape.parquet"
        frame.write_parquet(path)

        # In a process of its own: that of a test may have no children.
        def solve(out: str) -> Path:
            done = subprocess.run(
                [
                    *(sys.executable, "-m", "zephyrant", "table", str(path)),
                    *("--out", str(self.folder / out), "--set", "count_in=payments"),
                ],
                cwd=settings.BASE_DIR,
                capture_output=True,
                text=True,
                check=False,
            )
            self.assertEqual(done.returncode, 0, done.stderr)
            return self.folder / out

        solved = pl.read_parquet(solve("out.parquet"))
        assert_frame_equal(solved.select(frame.columns), frame)
        # 1000 at 5 % over 12 months, by the annuity formula to the cent.
        self.assertEqual(f"{solved['found'][0]:.2f}", "85.61")
        sheet = solve("out.xlsx")
        self.assertEqual(load_workbook(str(sheet)).get_sheet_by_name("Loans").height, rows + 1)


class Workbooks(InFolder):
    def book(self, **sheets: list[list[Any]]) -> Path:
        book = openpyxl.Workbook()
        book.remove(book.active)
        for name, rows in sheets.items():
            sheet = book.create_sheet(name)
            for row in rows:
                sheet.append(row)
        path = self.folder / "tape.xlsx"
        book.save(path)
        return path

    HEAD = ("Loan", "Amount", "Rate", "Payments", "Payment", "Signed", "Seen", "Agreed", "Account")

    def rows(self, name: str) -> list[list[Any]]:
        day, moment = date(2027, 3, 15), SEEN
        return [
            [*self.HEAD],
            [f"{name}1", 48_250, 6.35, 60, "?", day, moment, True, "0012"],
            [f"{name}2", 12_000.5, 5, 36, "?", None, moment, False, 1234567890123],
        ]

    def test_in_and_out(self) -> None:
        source = self.book(Loans=self.rows("K"))
        book = openpyxl.load_workbook(self.solve(source, "out.xlsx"))
        sheet = book["Loans"]
        head, first, second = sheet.iter_rows(values_only=True)
        told = [dict(zip(head, row, strict=True)) for row in (first, second)]
        self.assertEqual(
            [told[0][name] for name in self.HEAD],
            ["K1", 48_250, 6.35, 60, "?", MIDNIGHT, SEEN, True, "0012"],
        )
        self.assertEqual(told[1]["Account"], 1234567890123)
        self.assertEqual((told[0]["found"], told[0]["count"]), (940.68, 60))
        self.assertEqual((sheet.freeze_panes, sheet.auto_filter.ref[:3]), ("A2", "A1:"))
        formats = {cell.value: cell.number_format for cell in next(sheet.iter_rows(2, 2))}
        self.assertEqual((formats[940.68], formats[MIDNIGHT]), ("#,##0.00", "d mmm yyyy"))

    def test_what_a_number_of_a_workbook_does_not_hold_stays_a_text(self) -> None:
        path = self.folder / "tape.parquet"
        long = [Decimal("1234567890123.4567")] * ROWS
        more = [
            pl.Series("Long", long, dtype=pl.Decimal(20, 4)),
            pl.Series("Endless", [float("inf")] * ROWS),
        ]
        typed().with_columns(more).write_parquet(path)
        sheet = openpyxl.load_workbook(self.solve(path, "out.xlsx"))["Loans"]
        head, first, _, third = sheet.iter_rows(values_only=True)
        told = dict(zip(head, first, strict=True))
        self.assertEqual((told["Number"], told["Large"]), (str(2**53 + 1), str(2**64 - 1)))
        # Sixteen digits are what is written into a workbook.
        self.assertEqual((told["Score"], told["Agreed"]), (0.3, True))
        self.assertEqual((told["Exact"], told["Long"]), (1234567890.12, "1234567890123.4567"))
        self.assertEqual(told["Endless"], "inf")
        self.assertEqual(kinds.value_of("inf", "mixed"), "inf")
        # Workbooks know no day before 1900.
        self.assertEqual(dict(zip(head, third, strict=True))["Signed"], "1899-01-02")

    def test_sheets_of_the_same_columns_are_one_table(self) -> None:
        cover = [["Harbour bank", "Tape"], ["as of", "1 March 2027"]]
        source = self.book(Cover=cover, North=self.rows("N"), South=self.rows("S"))
        solved = pl.read_parquet(self.solve(source, "out.parquet"))
        self.assertEqual(solved["Loan"].to_list(), ["N1", "N2", "S1", "S2"])
        self.assertEqual(solved["Sheet"].to_list(), ["North", "North", "South", "South"])
        self.assertEqual((solved["Amount"].dtype, solved["Signed"].dtype), (pl.Float64, pl.Date))
        self.assertEqual(
            (solved["Seen"].dtype, solved["Agreed"].dtype), (pl.Datetime("us"), pl.Boolean)
        )
        status, said = run(str(source))
        self.assertIn("The sheets “North”, “South” have the same columns", said)
        self.assertIn("left out: “Cover”", said)
        one = pl.read_parquet(self.solve(source, "one.parquet", "--sheet", "South"))
        self.assertEqual(one["Loan"].to_list(), ["S1", "S2"])
        status, said = run(str(source), "--sheet", "East")
        self.assertEqual((status, "there are “Cover”, “North”, “South”" in said), (2, True), said)
        status, said = run(str(self.typed()), "--sheet", "East")
        self.assertEqual((status, "this is no workbook" in said), (2, True), said)

    def test_sheets_of_other_columns_are_tables_of_their_own(self) -> None:
        other: list[list[Any]] = [["Name", "Principal", "Percent", "Count"], ["M", 1000, 5, 12]]
        source = self.book(Tape=self.rows("K"), Old=other)
        blank = openpyxl.load_workbook(source)
        # A sheet in which nothing stands stops no other.
        for at in range(1, 4):
            blank.create_sheet("Blank") if at == 1 else None
            blank["Blank"].append([" ", " "])
        blank.save(source)
        with source.open("rb") as file:
            tables = read_each(file, "tape.xlsx")
            self.assertEqual([each.sheets for each in tables], [("Tape",), ("Old",)])
            self.assertEqual([len(list(each.table.rows)) for each in tables], [2, 1])
            file.seek(0)
            self.assertIn("With other columns, and not read: “Old”.", read(file, "").notes)

    def test_more_rows_than_are_read(self) -> None:
        source = self.book(North=self.rows("N"), South=self.rows("S"))
        with source.open("rb") as file, self.assertRaises(NotALoan) as refused:
            list(read(file, "", most_rows=3).rows)
        self.assertIn("more than 3 rows", str(refused.exception))


BEGINNING = datetime(1990, 1, 1, tzinfo=UTC)


def _after(milliseconds: int) -> datetime:
    return BEGINNING + timedelta(milliseconds=milliseconds)


def floats(width: Literal[32, 64]) -> st.SearchStrategy[float]:
    return st.floats(allow_nan=False, allow_infinity=False, width=width)


#: Columns of every kind, with nothing here and there.
COLUMNS = st.one_of(
    st.tuples(
        st.just(pl.Float64()),
        st.lists(st.none() | st.floats(allow_nan=False, allow_infinity=False)),
    ),
    st.tuples(
        st.just(pl.Float32()),
        st.lists(st.none() | st.floats(allow_nan=False, allow_infinity=False, width=32)),
    ),
    st.tuples(st.just(pl.Int64()), st.lists(st.none() | st.integers(-(2**63), 2**63 - 1))),
    st.tuples(
        st.just(pl.Decimal(20, 6)), st.lists(st.none() | st.decimals(-(10**9), 10**9, places=6))
    ),
    st.tuples(st.just(pl.Boolean()), st.lists(st.none() | st.booleans())),
    st.tuples(st.just(pl.Date()), st.lists(st.none() | st.dates())),
    st.tuples(st.just(pl.Datetime("us")), st.lists(st.none() | st.datetimes())),
    st.tuples(
        st.just(pl.Datetime("us", "Europe/Berlin")),
        st.lists(st.none() | st.integers(0, 2**41).map(_after)),
    ),
    st.tuples(st.just(pl.String()), st.lists(st.none() | st.text(min_size=1))),
)


class Cells(SimpleTestCase):
    @given(COLUMNS)
    def test_there_and_back(self, of: tuple[pl.DataType, list[Any]]) -> None:
        dtype, values = of
        column = pl.Series("a", values, dtype=dtype)
        texts = kinds.texts_of(column)
        self.assertTrue(
            all(isinstance(each, str) and "e+" not in each for each in texts) or dtype == pl.String
        )
        assert_series_equal(kinds.typed(texts, kinds.kind_of_type(dtype)).alias("a"), column)

    def test_what_has_no_kind_here_is_a_text(self) -> None:
        for column in (
            pl.Series([timedelta(days=1), None]),
            pl.Series([{"a": 1}, None]),
            pl.Series([[1.5], None]),
            pl.Series([b"x", None]),
            pl.Series(["north", None], dtype=pl.Categorical),
        ):
            texts = kinds.texts_of(column)
            self.assertEqual((len(texts), texts[1], bool(texts[0])), (2, "", True), column.dtype)
            self.assertEqual(kinds.kind_of_type(column.dtype), "text")

    def test_every_column_has_a_name_of_its_own(self) -> None:
        self.assertEqual(apart(["A", "found", "found"]), ["A", "found", "found_found"])
        # What was solved before, and solved again.
        names = ["found", "found_found", "found"]
        self.assertEqual(apart(names), ["found", "found_found", "found_found_found"])

    def test_figures_are_what_is_meant(self) -> None:
        for kind, cell, figure in (
            ("Float64", "6.3500000000000005", "6.35"),
            ("Float64", "0.30000000000000004", "0.3"),
            ("Float64", "1.234", "1.2340"),
            ("Float64", "938.82", "938.82"),
            # As somebody wrote them they are exact.
            ("exact", "6.3500000000000000000000001", "6.3500000000000000000000001"),
            ("decimal 30 25", "6.3500000000000000000000001", "6.3500000000000000000000001"),
            ("text", "1.234", "1.234"),
            ("moment us", "2027-03-15 09:30:00", "2027-03-15"),
            ("mixed", "2027-03-15 09:30:00", "2027-03-15"),
            ("mixed", "n/a", "n/a"),
        ):
            with self.subTest(kind=kind, cell=cell):
                self.assertEqual(list(kinds.as_figures([cell], kind)), [figure])
