"""Long files cut into pieces: what the pieces hold is what the whole file holds, row by row."""

import csv
import gzip
import io
import json
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import polars as pl
from django.test import SimpleTestCase
from hypothesis import example, given
from hypothesis import strategies as st

from zephyrant.loans import NotALoan
from zephyrant.tables import files
from zephyrant.tables.piece_rows import held_in, names_together, rows_of
from zephyrant.tables.pieces import Source, cut_tape, files_of
from zephyrant.tables.table import Table

NAMES = ["Loan", "Amount", "Note"]


@contextmanager
def kept(**contents: bytes) -> Iterator[Path]:
    """Files in a folder of their own, by their names (`a_csv` is a.csv)."""
    with tempfile.TemporaryDirectory() as folder:
        for name, content in contents.items():
            Path(folder, name.replace("_", ".")).write_bytes(content)
        yield Path(folder)


def whole(path: Path) -> Table:
    """A file read at once, and its rows."""
    with path.open("rb") as file:
        table = files.read(file, path.name)
        return table._replace(rows=iter(list(table.rows)))


def read(source: Source) -> tuple[dict[str, str], list[list[str]]]:
    """The columns of a tape and its rows, piece after piece."""
    held = [(piece, held_in(piece)) for piece in source.pieces]
    kinds = names_together(held)
    rows: list[list[str]] = []
    for piece in source.pieces:
        rows += rows_of(piece, list(kinds))
    return kinds, rows


CELL = st.text(alphabet='ab1,;"\n\r é.', max_size=6)
ROWS = st.lists(st.lists(CELL, min_size=3, max_size=3), min_size=1, max_size=40)


class PiecesOfText(SimpleTestCase):
    def same(self, content: bytes, rows: int, suffix: str = "csv") -> Source:
        with kept(**{f"tape_{suffix}": content}) as folder:
            path = folder / f"tape.{suffix}"
            table, source = whole(path), cut_tape(files_of(str(path)), rows)
            kinds, found = read(source)
            self.assertEqual(list(kinds), table.names)
            self.assertEqual(list(kinds.values()), table.kinds)
            self.assertEqual(found, list(table.rows))
            self.assertEqual(source.notes, table.notes)
            return source

    @given(
        rows=ROWS,
        size=st.integers(1, 9),
        encoding=st.sampled_from(["utf-8", "utf-8-sig", "cp1252"]),
        mark=st.sampled_from([",", ";"]),
        titles=st.sampled_from(["", "Loans of the harbour\n\n", "sep={}\n"]),
        ends=st.sampled_from(["\n", "\r\n"]),
    )
    @example([["a", '"\n', "é"]] * 20, 1, "cp1252", ";", "sep={}\n", "\r\n")
    @example([["\n\n", "", ""]] * 20, 3, "utf-8-sig", ",", "Loans of the harbour\n\n", "\n")
    def test_csv_is_never_cut_within_a_row(
        self, rows: list[list[str]], size: int, encoding: str, mark: str, titles: str, ends: str
    ) -> None:
        out = io.StringIO()
        writer = csv.writer(out, delimiter=mark, lineterminator=ends)
        writer.writerows([NAMES, *rows])
        text = titles.format(mark) + out.getvalue()
        self.same(text.encode(encoding), size)

    def test_it_is_cut_at_all(self) -> None:
        lines = "".join(f'L{n},{n}000,"one\n, two ""{n}"""\n' for n in range(1_000))
        source = self.same(("Loan,Amount,Note\n" + lines).encode(), 100)
        self.assertGreater(len(source.pieces), 5)
        source = self.same(b"Loan,Amount,Note\n" + b"L,1000,a note of it\n" * 1_000, 100)
        self.assertGreater(len(source.pieces), 8)

    def test_a_quote_within_a_cell_opens_none(self) -> None:
        self.same(b"Loan,Amount,Note\n" + b'L,1000,5" pipe\nM,2000,plain\n' * 50, 3)

    def test_old_ends_of_lines_and_utf_16_are_one_piece(self) -> None:
        text = "Loan,Amount,Note\r" + "L,1000,x\r" * 50
        self.assertEqual(len(self.same(text.encode(), 5).pieces), 1)
        self.assertEqual(len(self.same(text.encode("utf-16"), 5).pieces), 1)

    def test_bytes_that_are_no_utf_8_far_below_tell_how_all_of_it_is_written(self) -> None:
        content = "Loan,Amount,Note\n" + "Käserei,1000,x\n" * 3
        self.same(content.encode() + "Brühl,2000,y\n".encode("cp1252"), 1)

    @given(
        st.lists(
            st.dictionaries(
                st.sampled_from(["Loan", "Amount", "Rate", "Day"]),
                st.one_of(
                    st.none(),
                    st.booleans(),
                    st.integers(-(10**20), 10**20),
                    st.floats(allow_nan=False, allow_infinity=False),
                    st.text(max_size=4),
                    st.lists(st.integers(), max_size=2),
                ),
                min_size=1,
            ),
            min_size=1,
            max_size=30,
        ),
        st.integers(1, 5),
    )
    def test_json_lines_keep_the_kinds_of_the_whole(
        self, rows: list[dict[str, object]], size: int
    ) -> None:
        self.same("".join(json.dumps(row) + "\n" for row in rows).encode(), size, "jsonl")

    def test_what_is_packed_is_one_piece(self) -> None:
        lines = b'{"Loan": "A", "Amount": 1}\n' * 30
        self.assertEqual(len(self.same(gzip.compress(lines), 5, "gz").pieces), 1)
        table = b"Loan,Amount,Note\n" + b"L,1000,x\n" * 30
        self.assertEqual(len(self.same(gzip.compress(table), 5, "gz").pieces), 1)

    def test_a_line_that_is_no_json_is_told_by_its_number_in_the_file(self) -> None:
        with kept(tape_jsonl=b'{"Loan": 1}\n' * 20 + b"{nonsense\n") as folder:
            source = cut_tape(files_of(str(folder / "tape.jsonl")), 4)
            with self.assertRaisesRegex(NotALoan, "Line 21 is not JSON"):
                read(source)


class PiecesOfParquet(SimpleTestCase):
    def test_rows_of_groups_of_any_size(self) -> None:
        frame = pl.DataFrame(
            {"Loan": [f"L{n}" for n in range(100)], "Amount": [n / 8 for n in range(100)]}
        )
        out = io.BytesIO()
        frame.write_parquet(out, row_group_size=30)
        with kept(tape_parquet=out.getvalue()) as folder:
            path = folder / "tape.parquet"
            table, source = whole(path), cut_tape(files_of(str(path)), 33)
            kinds, found = read(source)
            self.assertEqual((list(kinds), list(kinds.values())), (table.names, table.kinds))
            self.assertEqual(found, list(table.rows))
            self.assertEqual([piece.stop for piece in source.pieces], [33, 66, 99, 100])


class Folders(SimpleTestCase):
    HEAD = b"Loan,Amount,Note\n"

    def refused(self, folder: Path, saying: str) -> None:
        with self.assertRaisesRegex(NotALoan, saying):
            read(cut_tape(files_of(str(folder)), 10))

    def test_files_come_by_their_names_and_columns_by_theirs(self) -> None:
        other = b"Note,Loan,Amount\nz,C,3\n"
        with kept(b_csv=other, a_csv=self.HEAD + b"A,1,x\nB,2,y\n", _SUCCESS=b"") as folder:
            kinds, rows = read(cut_tape(files_of(str(folder)), 10))
        self.assertEqual(list(kinds), NAMES)
        self.assertEqual(rows, [["A", "1", "x"], ["B", "2", "y"], ["C", "3", "z"]])

    def test_other_columns_are_refused_by_name(self) -> None:
        with kept(a_csv=self.HEAD + b"A,1,x\n", b_csv=b"Loan,Sum,Note\nB,2,y\n") as folder:
            self.refused(
                folder,
                "b.csv has other columns than a.csv: “Amount” is missing, “Sum” is not in a.csv",
            )

    def test_more_columns_than_are_read_are_refused_however_they_are_spread(self) -> None:
        lines = b"".join(b'{"c%d": 1}\n' % n for n in range(201))
        with kept(a_jsonl=lines[: len(lines) // 2 + 5].rpartition(b"\n")[0] + b"\n") as folder:
            read(cut_tape(files_of(str(folder)), 10))
        with kept(a_jsonl=lines) as folder:
            self.refused(folder, "That is 201 columns: at most 200 are read")

    def test_a_name_that_only_json_brings_is_missed_in_a_table(self) -> None:
        line = b'{"Loan": "C", "Amount": 3, "Note": "z", "Branch": 7}\n'
        with kept(a_csv=self.HEAD + b"A,1,x\n", b_jsonl=line) as folder:
            self.refused(folder, "a.csv has other columns than b.jsonl: “Branch” is missing")
        with kept(a_csv=self.HEAD + b"A,1,x\n", b_jsonl=b'{"Loan": "C"}\n') as folder:
            _, rows = read(cut_tape(files_of(str(folder)), 10))
        self.assertEqual(rows, [["A", "1", "x"], ["C", "", ""]])

    def test_what_cannot_be_cut_is_named(self) -> None:
        with kept(a_csv=self.HEAD + b"A,1,x\n", b_json=b'[{"Loan": 1}]') as folder:
            self.refused(folder, "b.json: Only Parquet, CSV and JSON Lines are worked in parts")
        with kept(b_csv=b"") as folder:
            self.refused(folder, "b.csv: This file is empty")
        with kept(b_csv=b"\x00\x01\x02" * 20) as folder:
            self.refused(folder, "b.csv: This is no table")
        with kept(b_parquet=b"PAR1 and nothing else") as folder:
            self.refused(folder, "b.parquet: This is no Parquet file that can be opened")
        with kept() as folder:
            self.refused(folder, "There is no file in")
        self.refused(Path("/nowhere/at/all.csv"), "cannot be read: No such file")
