"""A table of loans solved from file to text, a part at a time: as large as it may be."""

import sys
import time
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from itertools import islice
from pathlib import Path
from typing import IO, Any, Final, Protocol

from pydantic import ValidationError

from zephyrant.loans import FieldError, NotALoan, field_errors
from zephyrant.loans.tape import (
    APART_SAYS,
    FIELDS,
    RESULTS,
    Defaults,
    FieldName,
    apart,
    counted_in,
    look,
    match,
    solve_tape,
    together,
    unanswered,
    unmatched,
)

from . import table_files


class TextOut(Protocol):
    """Where text goes."""

    def write(self, text: str, /) -> object:
        """Takes more of it."""


#: Rows that are solved between two signs of life.
_TOGETHER: Final = 50_000
_MOST_ROWS: Final = 100_000_000


def _wrong(message: str) -> NotALoan:
    return NotALoan.at("", message)


def _pairs(given: list[str]) -> dict[str, str]:
    pairs = {}
    for each in given:
        name, sign, value = each.partition("=")
        if not sign:
            raise _wrong(f"“{each}” is not NAME=VALUE.")
        pairs[name.strip()] = value.strip()
    return pairs


def _matched(names: list[str], given: Mapping[str, str]) -> dict[FieldName, int]:
    """The columns by their names, and as they were given."""
    columns = match(names)
    for field, name in given.items():
        if field not in FIELDS:
            raise _wrong(f"“{field}” is no figure: write one of {', '.join(FIELDS)}.")
        if name not in names:
            raise _wrong(f"There is no column “{name}”: there are {', '.join(names)}.")
        columns[field] = names.index(name)
    missing = unmatched(columns)
    if missing:
        raise _wrong(f"{missing} Say --match NAME=COLUMN; the columns are {', '.join(names)}.")
    return columns


def _parts(
    table: table_files.Table, columns: Mapping[FieldName, int]
) -> Iterator[tuple[list[list[str]], dict[FieldName, list[str]]]]:
    while rows := list(islice(table.rows, _TOGETHER)):
        yield rows, {name: [row[place] for row in rows] for name, place in columns.items()}


def _defaults(file: IO[bytes], name: str, columns: Any, said: dict[str, str]) -> Defaults:  # noqa: ANN401
    """How the cells are read: as said, else as they can only be meant; raises where neither."""
    table = table_files.read(file, name, _MOST_ROWS)
    stated: dict[str, Any] = dict(said)
    if "count" in columns:
        stated = {**counted_in(table.names[columns["count"]]), **stated}
    if "rounding" in said:
        way, _, step = said["rounding"].partition(" ")
        stated["rounding"] = {"payment": way, **({"to": step} if step else {})}
    looked = together(look(cells, rows) for rows, cells in _parts(table, columns))
    left = unanswered(looked, stated)
    if left:
        raise NotALoan(
            [
                FieldError(
                    field="",
                    message=f"{each.says} Say --set {each.about}={' or '.join(each.choices)}.",
                )
                for each in left
            ]
        )
    try:
        return Defaults.model_validate({"marks": "plain", **looked.defaults, **stated})
    except ValidationError as error:
        raise NotALoan(field_errors(error.errors())) from None


def solve_table(name: str, out: TextOut, settings: list[str], matching: list[str]) -> int:
    """Solves the table in a file; CSV to `out`, progress to standard error. Gives the number of
    rows without an answer.

    Raises `NotALoan` where it cannot be read or something has to be said first.
    """
    said = _pairs(settings)
    with _opened(name) as file:
        columns = _matched(table_files.read(file, name, _MOST_ROWS).names, _pairs(matching))
    with _opened(name) as file:
        defaults = _defaults(file, name, columns, said)
    with _opened(name) as file:
        table = table_files.read(file, name, _MOST_ROWS)
        for note in table.notes:
            sys.stderr.write(f"{note}\n")
        return _write(table, columns, defaults, out)


@contextmanager
def _opened(name: str) -> Iterator[IO[bytes]]:
    try:
        with Path(name).open("rb") as file:
            yield file
    except OSError as error:
        raise _wrong(f"{name} cannot be read: {error.strerror or error}.") from None


def _write(
    table: table_files.Table, columns: Mapping[FieldName, int], defaults: Defaults, out: TextOut
) -> int:
    began, done, problems = time.monotonic(), 0, 0

    def rows() -> Iterator[list[str]]:
        nonlocal done, problems
        for cells, parts in _parts(table, columns):
            told = solve_tape(parts, defaults, set_apart=[apart(row) for row in cells])
            problems += sum(
                bool(problem) and problem not in APART_SAYS.values() for problem in told["problem"]
            )
            for place, row in enumerate(cells):
                yield [*row, *(told[name][place] for name in RESULTS)]
            done += len(cells)
            rate = done / max(time.monotonic() - began, 1e-9)
            sys.stderr.write(f"\r{done:,} rows, {rate:,.0f} a second, {problems:,} without answer")
            sys.stderr.flush()

    for text in table_files.csv_lines([*table.names, *RESULTS], rows(), marked=False):
        out.write(text)
    sys.stderr.write("\n")
    return problems
