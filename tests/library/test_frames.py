"""Tables as pandas, polars and Arrow take them: every value, of its kind."""

from collections.abc import Callable
from datetime import date
from decimal import Decimal
from typing import Any
from unittest import TestCase

import pandas
import polars
import pyarrow
from hypothesis import given
from hypothesis import strategies as st

import zephyrant
from tests.loans.documents import document
from zephyrant.library.frames import Column, Frame

COLUMNS = {
    "whole": st.integers(-(2**62), 2**62),
    "decimal": st.decimals("-1e18", "1e18", allow_nan=False, places=4),
    "day": st.dates(date(1900, 1, 1), date(2199, 12, 31)),
    "text": st.text(st.characters(exclude_categories=["Cs"]), max_size=12),
    "flag": st.booleans(),
}


@st.composite
def columns(draw: Callable[[Any], Any]) -> dict[str, Column]:
    size = draw(st.integers(1, 6))
    return {
        kind: Column(kind, draw(st.lists(st.none() | values, min_size=size, max_size=size)))  # type: ignore[arg-type]
        for kind, values in COLUMNS.items()
    }


class Frames(TestCase):
    @given(columns())
    def test_every_value_arrives(self, drawn: dict[str, Column]) -> None:
        frame: Frame[Any] = Frame(drawn)
        arrow, frame_of_polars = pyarrow.table(frame), polars.DataFrame(frame)
        for name, column in drawn.items():
            values = list(column.values)
            self.assertEqual(arrow.column(name).to_pylist(), values)
            self.assertEqual(frame_of_polars[name].to_list(), values)
            self.assertEqual(frame.column(name), values)
        self.assertEqual(
            [tuple(row) for row in frame],
            list(zip(*(c.values for c in drawn.values()), strict=True)),
        )

    def test_pandas_takes_the_rows(self) -> None:
        answer = zephyrant.solve(document(start="2027-03-15"))
        table = pandas.DataFrame(answer.schedule)
        self.assertEqual(tuple(table.columns), answer.schedule.names)
        self.assertEqual(table.interest.sum(), Decimal("8079.38"))
        self.assertEqual(table.date.iloc[0], date(2027, 4, 15))
        self.assertIsInstance(table.closing.iloc[-1], Decimal)

    def test_of_their_kinds(self) -> None:
        schema = pyarrow.table(zephyrant.solve(document(start="2027-03-15")).schedule).schema
        self.assertEqual(schema.field("number").type, pyarrow.int64())
        self.assertEqual(schema.field("date").type, pyarrow.date32())
        self.assertEqual(schema.field("interest").type, pyarrow.decimal128(38, 2))

    def test_more_digits_than_128_bits_hold(self) -> None:
        values = [Decimal("1e-60"), Decimal("-12.5")]
        arrow = pyarrow.table(Frame({"n": Column("decimal", values)}))
        self.assertEqual(arrow.column("n").to_pylist(), values)

    def test_rows_by_place(self) -> None:
        frame: Frame[Any] = Frame({"n": Column("whole", [1, 2, 3])})
        self.assertEqual((frame[-1].n, [row.n for row in frame[1:]]), (3, [2, 3]))
        with self.assertRaises(IndexError):
            frame[3]
        with self.assertRaises(KeyError):
            frame.column("m")
        self.assertEqual(len(Frame({})), 0)
        self.assertNotEqual(frame, Frame({"n": Column("whole", [1, 2])}))

    def test_a_long_one_in_a_notebook(self) -> None:
        frame: Frame[Any] = Frame({"<n>": Column("whole", list(range(100)))})
        shown = frame._repr_html_()
        self.assertIn("&lt;n&gt;", shown)
        self.assertIn("76 more", shown)
        self.assertEqual(shown.count("<tr>"), 1 + 24 + 1)
