"""The tables of a file read whole, to be kept."""

import io
from collections.abc import Mapping, Sequence
from itertools import islice
from pathlib import Path
from typing import NamedTuple

from zephyrant.loans import look
from zephyrant.loans.tape import FieldName, Looked, match
from zephyrant.loans.tape import look as look_at
from zephyrant.texts import worded

from .files import read_each
from .kinds import figures
from .limits import MOST_TABLES_OF_A_FILE
from .table import Table, refused


class Packed(NamedTuple):
    """A table read: the sheets it stands on, its names, what was done about them, its rows as
    columns of texts in Parquet; what these hold; which columns its names say are which figures, and
    what the cells of these say of how they are written."""

    sheets: tuple[str, ...]
    names: list[str]
    notes: list[str]
    rows: int
    content: bytes
    kinds: list[str]
    matched: dict[FieldName, int]
    looked: Looked


def read_packed(path: str, name: str, sheet: str | None = None) -> list[Packed]:
    """The tables of a file on disk, whole; of a workbook those with columns of loans, or the one on
    a sheet. Raises `NotALoan` where it cannot be read or is empty."""
    with Path(path).open("rb") as file:
        tables = read_each(file, name, sheet=sheet)
        if len(tables) > MOST_TABLES_OF_A_FILE:
            raise refused(
                worded(
                    "The sheets of this workbook hold {tables} different tables: at most "
                    "{most} are read at once. Give them in parts.",
                    tables=len(tables),
                    most=MOST_TABLES_OF_A_FILE,
                )
            )
        packed = [_packed(each.table, each.sheets) for each in tables]
    filled = [each for each in packed if each.rows]
    if not filled:
        raise refused(worded("There is not a single row of a loan in it."))
    return filled


def _packed(table: Table, sheets: tuple[str, ...]) -> Packed:
    import polars as pl

    columns: list[list[str]] = [[] for _ in table.names]
    while rows := list(islice(table.rows, 10_000)):
        look()
        for column, cells in zip(columns, zip(*rows, strict=True), strict=True):
            column.extend(cells)
    frame = pl.DataFrame(
        {column_name(place): column for place, column in enumerate(columns)},
        schema={column_name(place): pl.String for place in range(len(columns))},
    )
    out = io.BytesIO()
    frame.write_parquet(out)
    matched, kinds = match(table.names), table.kinds
    return Packed(
        sheets=sheets,
        names=table.names,
        notes=table.notes,
        rows=len(frame),
        content=out.getvalue(),
        kinds=kinds,
        matched=matched,
        looked=look_at(figures(columns, matched, kinds), columns),
    )


def looked_at(content: bytes, columns: Mapping[FieldName, int], kinds: Sequence[str]) -> Looked:
    """What the cells of these columns of a table (Parquet) say of how they are written."""
    import polars as pl

    whole = [column.to_list() for column in pl.read_parquet(io.BytesIO(content)).iter_columns()]
    return look_at(figures(whole, columns, kinds), whole)


def column_name(place: int) -> str:
    """What a column of the file is called inside."""
    return f"c{place}"
