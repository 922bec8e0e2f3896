"""The rows of pieces, and what they hold."""

import io
from collections.abc import Iterator, Mapping, Sequence
from functools import lru_cache
from pathlib import Path
from typing import IO, Final, NamedTuple

from zephyrant.loans import NotALoan
from zephyrant.texts import worded

from . import files
from .heads import as_wide, each_once, filled
from .json_in import SeenInJson, json_cells, json_rows
from .kinds import TEXT, kind_of_all, kind_of_type
from .pieces import Piece
from .table import Table, hold_within
from .text_in import cells_of, decoded, encoding_of

_ANY_NUMBER: Final = 2**62


class Held(NamedTuple):
    """The columns of a piece by their names, with all that stood in them; what was done about these
    names, where only who reads it knows."""

    kinds: Mapping[str, frozenset[str]]
    notes: tuple[str, ...] = ()


def has_to_be_read(piece: Piece) -> bool:
    """Whether what the columns of a piece are is known only once all of it is read."""
    return piece.form not in ("csv", "parquet")


def held_in(piece: Piece) -> Held:
    """What a piece holds; raises `NotALoan` where it cannot be read."""
    if piece.form == "csv":
        return Held(dict.fromkeys(piece.names, frozenset([TEXT])))
    if piece.form == "parquet":
        return Held(_kinds_of_parquet(piece.file.name))
    if piece.form in ("json", "whole-json"):
        return Held(SeenInJson(_json_of(piece), _ANY_NUMBER).each_kind)
    table = _whole(piece)
    kinds = zip(table.names, map(_one, table.kinds), strict=True)
    return Held(dict(kinds), tuple(table.notes))


@lru_cache(maxsize=1)
def _kinds_of_parquet(file: str) -> dict[str, frozenset[str]]:
    import polars as pl

    schema = pl.read_parquet_schema(file)
    names = each_once(list(schema), [])
    return {name: _one(kind_of_type(of)) for name, of in zip(names, schema.values(), strict=True)}


def _one(kind: str) -> frozenset[str]:
    return frozenset([kind])


def rows_of(piece: Piece, names: Sequence[str]) -> Iterator[list[str]]:
    """The rows of a piece as cells under names, which are those of the tape."""
    if piece.form in ("json", "whole-json"):
        return json_cells(_json_of(piece), names)
    if piece.form == "parquet":
        return _arranged(*_parquet_of(piece), names)
    if piece.form == "csv":
        return _arranged(piece.names, _csv_of(piece), names)
    table = _whole(piece)
    return _arranged(table.names, table.rows, names)


def _arranged(
    own: Sequence[str], rows: Iterator[list[str]], names: Sequence[str]
) -> Iterator[list[str]]:
    if list(own) == list(names):
        return rows
    places = [list(own).index(name) for name in names]
    return ([row[place] for place in places] for row in rows)


def _text_of(piece: Piece) -> IO[str]:
    """The bytes of a piece as text; of one that is packed, all that it holds."""
    path = Path(piece.file.name)
    if piece.form == "whole-json":
        with path.open("rb") as file:
            content = files.unpacked(file)
        return decoded(content, encoding_of(content, files.start_of(content)))
    with path.open("rb") as file:
        file.seek(piece.start)
        content = io.BytesIO(file.read(piece.stop - piece.start))
    # The mark of UTF-8 stands at the beginning of a file alone.
    is_first = piece.start == 0 or piece.encoding != "utf-8-sig"
    return decoded(content, piece.encoding if is_first else "utf-8")


def _json_of(piece: Piece) -> Iterator[dict[str, object]]:
    return json_rows(_text_of(piece), piece.line)


def _csv_of(piece: Piece) -> Iterator[list[str]]:
    lines = filled(cells_of(_text_of(piece), piece.mark))
    return as_wide(lines, len(piece.names), _ANY_NUMBER)


def _parquet_of(piece: Piece) -> tuple[list[str], Iterator[list[str]]]:
    import polars as pl

    frame = pl.scan_parquet(piece.file.name).slice(piece.start, piece.stop - piece.start).collect()
    return each_once(frame.columns, []), files.rows_of_frame(frame)


def _whole(piece: Piece) -> Table:
    file = Path(piece.file.name).open("rb")  # noqa: SIM115  (closed with the last that reads it)
    return files.read(file, Path(piece.file.name).name, _ANY_NUMBER)


# Together


def names_together(held: Sequence[tuple[Piece, Held]]) -> dict[str, str]:
    """The columns of a tape with what they hold, from what its pieces do: each has all of them, but
    for JSON, where a name can be left out.

    Raises `NotALoan` where a piece has others.
    """
    kinds: dict[str, set[str]] = {}
    # The first piece that has each name.
    brought: dict[str, Piece] = {}
    for piece, each in held:
        if "json" not in piece.form and kinds and set(each.kinds) != set(kinds):
            raise _other_columns(held[0][0], piece, list(kinds), list(each.kinds))
        for name, seen in each.kinds.items():
            kinds.setdefault(name, set()).update(seen)
            brought.setdefault(name, piece)
    for piece, each in held:
        for name in kinds:
            if "json" not in piece.form and name not in each.kinds:
                raise _other_columns(brought[name], piece, list(kinds), list(each.kinds))
    hold_within(0, len(kinds), 0)
    return {name: kind_of_all(seen) for name, seen in kinds.items()}


def _other_columns(
    first: Piece, piece: Piece, names: Sequence[str], own: Sequence[str]
) -> NotALoan:
    missing = [f"“{name}” is missing" for name in names if name not in own]
    more = [f"“{name}” is not in {Path(first.file.name).name}" for name in own if name not in names]
    return NotALoan.at(
        "file",
        worded(
            "{file} has other columns than {first}: {listed}.",
            file=Path(piece.file.name).name,
            first=Path(first.file.name).name,
            listed=", ".join([*missing, *more][:5]),
        ),
    )
