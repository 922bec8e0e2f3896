"""Files that people keep loans in: each read, or refused with a sentence that helps."""

import csv
import gzip
import io
import json
import tempfile
from datetime import UTC, date, datetime
from pathlib import Path
from typing import Any, ClassVar

import openpyxl
import polars as pl
import xlwt
from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from zephyrant.loans import NotALoan, as_text
from zephyrant.loans.calendars.days_in_words import read_day
from zephyrant.loans.tape.columns import Defaults
from zephyrant.loans.tape.looking import look, unanswered
from zephyrant.loans.tape.matching import match, unmatched
from zephyrant.loans.tape.not_loans import apart, aparts
from zephyrant.loans.tape.solving import solve_tape
from zephyrant.loans.tape.summary import outliers, summarise
from zephyrant.tables import files as table_files
from zephyrant.tables.asked import Asked
from zephyrant.tables.in_parts import solve_table
from zephyrant.tables.kinds import MOMENT, TEXT, as_figures, cell_text
from zephyrant.tables.table import Table
from zephyrant.tables.ways_out import Heads
from zephyrant.tables.writing import csv_text, json_lines

NAMES = ["Loan", "Amount", "Rate", "Term", "Payment"]
ROWS = [["K1", "12000", "6", "24", "?"], ["K2", "48250", "5.4", "60", "?"]]
CSV = "\n".join(",".join(row) for row in [NAMES, *ROWS])


def read(content: bytes | str, name: str = "loans") -> Table:
    return table_files.read(
        io.BytesIO(content.encode() if isinstance(content, str) else content), name
    )


def rows(content: bytes | str) -> list[list[str]]:
    return list(read(content).rows)


class EveryKindOfFile(SimpleTestCase):
    def same(self, content: bytes | str) -> None:
        table = read(content)
        self.assertEqual(table.names, NAMES)
        self.assertEqual(list(table.rows), ROWS)

    def test_text_in_every_encoding_and_mark(self) -> None:
        self.same(CSV)
        self.same(CSV.replace(",", ";"))
        self.same("sep=;\r\n" + CSV.replace(",", ";"))
        self.same("sep=|\n" + CSV.replace(",", "|"))
        self.same(CSV.encode("utf-16"))
        self.same(CSV.encode("utf-8-sig"))
        self.same(gzip.compress(CSV.encode()))
        old = CSV.replace("K1", "Käserei Brühl").encode("cp1252")
        self.assertEqual(rows(old)[0][0], "Käserei Brühl")

    def test_json_as_lines_and_as_a_list(self) -> None:
        told = [dict(zip(NAMES, row, strict=True)) for row in ROWS]
        self.same("\n".join(map(json.dumps, told)))
        self.same(json.dumps(told, indent=1))

    def test_parquet(self) -> None:
        frame = pl.DataFrame({name: [row[k] for row in ROWS] for k, name in enumerate(NAMES)})
        out = io.BytesIO()
        frame.write_parquet(out)
        self.same(out.getvalue())

    def test_workbooks_old_and_new_and_their_second_sheet(self) -> None:
        book = openpyxl.Workbook()
        book.active.title = "Cover"
        book.active["A1"] = "Loans of the harbour"
        sheet = book.create_sheet("Loans")
        for row in [NAMES, *ROWS]:
            sheet.append([float(cell) if cell.replace(".", "").isdigit() else cell for cell in row])
        out = io.BytesIO()
        book.save(out)
        self.same(out.getvalue())
        (note,) = read(out.getvalue()).notes
        self.assertEqual(note, "Without columns of a loan, and left out: “Cover”.")
        old = xlwt.Workbook()
        sheet = old.add_sheet("Loans")
        for at, row in enumerate([NAMES, *ROWS]):
            for column, cell in enumerate(row):
                sheet.write(at, column, cell)
        out = io.BytesIO()
        old.save(out)
        self.same(out.getvalue())

    def test_titles_above_and_names_in_two_rows(self) -> None:
        table = read("Tape of the harbour,,,,\nas of,1 March 2027,,,\n\n" + CSV)
        self.assertEqual((table.names, list(table.rows)), (NAMES, ROWS))
        self.assertEqual(len(table.notes), 2)
        merged = "Loan,,Terms,,\nName,Amount,Rate,Term,Payment\n" + "\n".join(map(",".join, ROWS))
        table = read(merged)
        self.assertEqual(
            table.names, ["Loan Name", "Loan Amount", "Terms Rate", "Terms Term", "Terms Payment"]
        )
        self.assertEqual(list(table.rows), ROWS)

    def test_what_is_none_is_refused_in_words(self) -> None:
        for content, words in (
            (b"\x7fELF\x02\x00\x00\x00" + b"\x00" * 90, "This is no table"),
            (b"PK\x03\x04rubbish", "no workbook"),
            (b"\xd0\xcf\x11\xe0\xa1\xb1\x1a\xe1" + b"\x00" * 600, "no workbook"),
            (b"PAR1rubbish", "no Parquet file"),
            (b"\x1f\x8brubbish", "cannot be unpacked"),
            (gzip.compress(gzip.compress(b"Amount,Rate\n1,2")), "packed (gzip) more than once"),
            (b"[1, 2]", "not one loan in braces"),
            (b"[{", "This is not JSON"),
            (b"", "empty"),
        ):
            with self.subTest(content[:12]), self.assertRaises(NotALoan) as raised:
                rows(content)
            self.assertIn(words, str(raised.exception))

    def test_what_unpacks_without_end_is_refused(self) -> None:
        packed = io.BytesIO()
        with gzip.GzipFile(fileobj=packed, mode="wb", compresslevel=9) as out:
            for _ in range(420):
                out.write(b"0" * 1_000_000)
        with self.assertRaises(NotALoan) as raised:
            rows(packed.getvalue())
        self.assertIn("too large", str(raised.exception))


#: Cells as tables have them, and such as nearly read as totals or numbers.
CELLS = st.one_of(
    st.sampled_from(
        [
            *("", "-", "?", "12", "-3.5", "1,234.5", "Total", "sub-  total", "Grand\n total:"),
            *("weighted\u00a0average", "wtd.avg", "L7", "n/a", "1\n2", "1\nTotal", "(sum of all)"),
        ]
    ),
    st.text("\u017ftoal gr\nd?.-5,", max_size=9),
)


class AsLinesOfCsv(SimpleTestCase):
    @given(st.lists(st.lists(st.text('ab=,"\r\n 1-', max_size=4), min_size=2, max_size=2)))
    def test_the_plain_way_is_that_of_the_library(self, rows: list[list[str]]) -> None:
        """Against Python's csv, with what may be a formula made a text before."""
        out = io.StringIO()
        writer = csv.writer(out, lineterminator="\r\n")
        writer.writerows([[as_text(cell) for cell in row] for row in rows])
        columns = list(zip(*rows, strict=True)) or [(), ()]
        self.assertEqual(csv_text(columns), out.getvalue())


class NoLoans(SimpleTestCase):
    """Two loans of 100,000 and their total: the sums are those of the loans."""

    TABLE: ClassVar = [
        ["A", "100000", "6", "60", ""],
        ["B", "100000", "7", "60", ""],
        ["Total", "200000", "13", "120", ""],
    ]

    def test_totals_and_notes_are_recognised(self) -> None:
        for row, what in (
            (["Total", "200000", ""], "total"),
            (["", "Grand Total:", "200000"], "total"),
            (["Weighted average", "", "6.5"], "total"),
            (["Sub-total North", "1", "2"], "total"),
            (["Prepared by the credit desk", "", ""], "note"),
            (["", "-", "n/a"], "note"),
            (["Totara Sawmill", "100000", "6"], ""),
            (["Sumner kiln", "100000", "6"], ""),
            (["A", "100000", "6"], ""),
        ):
            self.assertEqual(apart(row), what, row)

    @given(st.lists(st.lists(CELLS, min_size=3, max_size=3), min_size=1, max_size=6))
    def test_by_columns_as_row_by_row(self, rows: list[list[str]]) -> None:
        columns = list(zip(*rows, strict=True))
        self.assertEqual(aparts(columns), [apart(row) for row in rows])

    def whole(self) -> list[list[str]]:
        return list(map(list, zip(*self.TABLE, strict=True)))

    def columns(self) -> dict[Any, list[str]]:
        names = ("name", "principal", "percent", "count", "payment")
        return dict(zip(names, self.whole(), strict=True))

    def test_they_are_asked_about_set_apart_and_not_summed(self) -> None:
        looked = look(self.columns(), self.whole())
        (question,) = unanswered(looked, {})
        self.assertEqual(question.about, "apart")
        self.assertIn("Total", question.says)
        told = solve_tape(self.columns(), Defaults(), set_apart=aparts(self.whole()))
        self.assertIn("reads as a total", told["problem"][2])
        self.assertEqual(told["payment"][2], "")
        summary = summarise(told, ["EUR"] * 3, outliers(told))
        self.assertEqual((summary["solved"], summary["apart"], summary["problems"]), (2, 1, 0))
        (sums,) = summary["sums"]
        self.assertEqual((sums["principal"], sums["percent"]), (200_000.0, 6.5))
        solved = solve_tape(self.columns(), Defaults(apart="solve"), set_apart=aparts(self.whole()))
        self.assertEqual(solved["problem"][2], "")

    def test_the_command_asks_and_leaves_them_out(self) -> None:
        content = "Name,Amount,Rate,Term\n" + "\n".join(",".join(row[:4]) for row in self.TABLE)
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "loans.csv"
            path.write_text(content)
            with self.assertRaises(NotALoan) as raised:
                solve_table(str(path), io.BytesIO(), Asked())
            self.assertIn("--set apart=leave-out or solve", str(raised.exception))
            out = io.BytesIO()
            self.assertEqual(solve_table(str(path), out, Asked(["apart=leave-out"])), 0)
        self.assertEqual(out.getvalue().decode().count("reads as a total"), 1)

    def test_columns_in_which_nothing_stands(self) -> None:
        # Looked through once: a look from each cell to the end would take the square of it.
        rows = 200_000
        empty, numbers = [""] * rows, ["12"] * rows
        self.assertEqual(aparts([numbers, empty, ["\n "] * rows]), [""] * rows)
        self.assertEqual(aparts([numbers, empty, [*empty[1:], " \nTotal"]])[-1], "total")


class AsPeopleWrite(SimpleTestCase):
    def test_days(self) -> None:
        for typed in (
            "2027-03-15 00:00:00",
            "2027-03-15T10:30",
            "2027/03/15",
            "15-Mar-27",
            "15-Mar-2027",
            "15 Mar 27",
            "15/03/2027 00:00",
        ):
            self.assertEqual(read_day(typed), date(2027, 3, 15), typed)
        self.assertEqual(read_day("15-Mar-98"), date(1998, 3, 15))
        self.assertIsNone(read_day("15/03/27"))
        moment = cell_text(datetime(2027, 3, 15, 9, 30, tzinfo=UTC))
        self.assertEqual(moment, "2027-03-15 09:30:00+00:00")
        self.assertEqual(as_figures([moment], MOMENT), ["2027-03-15"])

    def test_a_result_overwrites_no_column_of_the_table(self) -> None:
        heads = Heads(("A", "found", "found"), (TEXT, TEXT, TEXT), range(2))
        lines = json_lines(heads.apart, [["x"], ["mine"], ["938.82"]], heads.kinds)
        expected = {"A": "x", "found": "mine", "found_found": "938.82"}
        self.assertEqual(json.loads(lines), expected)

    def test_headings(self) -> None:
        found = match(["Borrower", "Amount", "Rate", "Years", "Pay"])
        self.assertEqual(found, {"name": 0, "principal": 1, "percent": 2, "count": 3, "payment": 4})
        self.assertEqual(match(["Instalment", "Months"]), {"payment": 0, "count": 1})

    def test_a_capacity_by_row(self) -> None:
        """35 % of 5,400 is 1,890 that can be carried; 30 % of 4,000 is 1,200."""
        found = match(["Income", "Share", "Rate", "Months"])
        self.assertIsNone(unmatched(found))
        told = solve_tape(
            {
                "income": ["5,400", "4000"],
                "share": ["35", "30 %"],
                "percent": ["6", "6"],
                "count": ["60", "60"],
            },
            Defaults(),
        )
        self.assertEqual(told["payment"], ["1890.00", "1200.00"])
        # 1,200 a month at half a percent over 60 months: 62,030.67 (annuity, by hand).
        self.assertAlmostEqual(
            float(told["principal"][1]), 1200 * (1 - 1.005**-60) / 0.005, places=2
        )

    def test_marks_for_nothing_are_nothing(self) -> None:
        told = solve_tape(
            {
                "principal": ["12000"] * 4,
                "percent": ["6"] * 4,
                "count": ["24"] * 4,
                "payment": ["n/a", "-", "–", ""],
            },
            Defaults(),
        )
        self.assertEqual(set(told["payment"]), {"531.85"})
