"""Tables that pandas, polars and Arrow take as they are: money as decimals, days as days.

A `Frame` is a sequence of rows with names, of which pandas makes a table by itself; polars, Arrow
and whatever else speaks the Arrow PyCapsule interface take its columns without copying them by way
of text.
"""

from collections import namedtuple
from collections.abc import Iterator, Mapping, Sequence
from datetime import UTC, date, datetime, timedelta
from decimal import Decimal
from html import escape
from typing import Any, Final, Generic, Literal, NamedTuple, TypeVar, cast, overload

import nanoarrow
import numpy as np

Kind = Literal["whole", "number", "decimal", "day", "moment", "text", "flag"]
Row = TypeVar("Row", bound=tuple[Any, ...])
#: Rows that a notebook shows of a long table: so many from its beginning and its end.
_SHOWN: Final = 24
#: Digits that a decimal of 128 bits holds.
_MOST_DIGITS: Final = 38
_TYPES: Final = {
    "whole": nanoarrow.int64,
    "number": nanoarrow.float64,
    "day": nanoarrow.date32,
    "text": nanoarrow.string,
    "flag": nanoarrow.bool_,
}


class Column(NamedTuple):
    """The values of a column, None where there is none, and of what kind they are."""

    kind: Kind
    values: Sequence[Any]


class Frame(Sequence[Row], Generic[Row]):
    """A table of rows that are tuples with names."""

    def __init__(self, columns: Mapping[str, Column], row: type[Row] | None = None) -> None:
        self._columns = dict(columns)
        names = list(columns)
        # Names that Python has no room for stand as _3 in a row; in the columns as they are.
        of = row or namedtuple("Row", names, rename=True)
        self._row = cast("type[Row]", of)

    @property
    def names(self) -> tuple[str, ...]:
        """What the columns are called, in their order."""
        return tuple(self._columns)

    def column(self, name: str) -> list[Any]:
        """The values of a column; raises `KeyError` where none is called so."""
        return list(self._columns[name].values)

    def __len__(self) -> int:
        return len(next(iter(self._columns.values())).values) if self._columns else 0

    @overload
    def __getitem__(self, place: int) -> Row: ...
    @overload
    def __getitem__(self, place: slice) -> list[Row]: ...
    def __getitem__(self, place: int | slice) -> Row | list[Row]:
        if isinstance(place, slice):
            return [self[each] for each in range(*place.indices(len(self)))]
        if not -len(self) <= place < len(self):
            raise IndexError(f"there are {len(self)} rows")
        return self._row(*(column.values[place] for column in self._columns.values()))

    def __iter__(self) -> Iterator[Row]:
        values = (column.values for column in self._columns.values())
        return (self._row(*cells) for cells in zip(*values, strict=True))

    def __eq__(self, other: object) -> bool:
        if not isinstance(other, Frame):
            return NotImplemented
        return self.names == other.names and list(self) == list(other)

    __hash__ = None  # type: ignore[assignment]

    def __repr__(self) -> str:
        return f"<{len(self)} rows of {', '.join(self.names)}>"

    def __arrow_c_schema__(self) -> object:
        """What the columns hold, by the Arrow PyCapsule interface."""
        return self._arrow().schema.__arrow_c_schema__()

    def __arrow_c_stream__(self, requested_schema: object | None = None) -> object:
        """The columns, by the Arrow PyCapsule interface."""
        stream = nanoarrow.c_array_stream(self._arrow())
        return stream.__arrow_c_stream__(requested_schema)

    def _arrow(self) -> Any:  # noqa: ANN401  (the library's own)
        arrays = {name: _array(column) for name, column in self._columns.items()}
        of = nanoarrow.struct({name: each.schema for name, each in arrays.items()}, nullable=False)
        return nanoarrow.c_array_from_buffers(
            of, len(self), buffers=[None], children=list(arrays.values())
        )

    def _repr_html_(self) -> str:
        """The table as a notebook shows it; of a long one its beginning and its end."""
        columns = self._columns.values()
        head = "".join(f"<th>{escape(name)}</th>" for name in self._columns)
        rows = range(len(self))
        hidden = len(rows) - _SHOWN
        shown = [*rows[: _SHOWN // 2], None, *rows[-_SHOWN // 2 :]] if hidden > 0 else rows
        more = f'<td colspan="{len(columns)}">… {hidden:,} more …</td>'

        def cells(row: int) -> str:
            return "".join(_cell(column.kind, column.values[row]) for column in columns)

        body = "".join(f"<tr>{more if row is None else cells(row)}</tr>" for row in shown)
        return f"<table><thead><tr>{head}</tr></thead><tbody>{body}</tbody></table>"


def _cell(kind: Kind, value: object) -> str:
    side = "left" if kind == "text" else "right"
    text = "" if value is None else f"{value:,}" if kind == "decimal" else str(value)
    return f'<td style="text-align:{side};white-space:nowrap">{escape(text)}</td>'


# As Arrow lays values out: https://arrow.apache.org/docs/format/Columnar.html


def _array(column: Column) -> Any:  # noqa: ANN401
    if column.kind == "decimal":
        return _decimals(column.values)
    if column.kind == "day":
        return _days(column.values)
    if column.kind == "moment":
        return _moments(column.values)
    return nanoarrow.c_array(column.values, _TYPES[column.kind]())


def _validity(values: Sequence[object]) -> np.ndarray[Any, Any] | None:
    """Which values are there, a bit each; none where all are."""
    there = np.array([value is not None for value in values], dtype=bool)
    return None if there.all() else np.packbits(there, bitorder="little")


def _days(values: Sequence[date | None]) -> Any:  # noqa: ANN401
    epoch = date(1970, 1, 1).toordinal()
    days = [0 if value is None else value.toordinal() - epoch for value in values]
    buffers = [_validity(values), np.array(days, dtype=np.int32)]
    return nanoarrow.c_array_from_buffers(nanoarrow.date32(), len(values), buffers)


def _moments(values: Sequence[datetime | None]) -> Any:  # noqa: ANN401
    """Moments in millionths of a second; those of a zone as the same moments of UTC."""
    zoned = any(value is not None and value.tzinfo for value in values)
    epoch = datetime(1970, 1, 1, tzinfo=UTC if zoned else None)
    least = timedelta(microseconds=1)
    micros = [0 if value is None else (value - epoch) // least for value in values]
    of = nanoarrow.timestamp("us", "UTC" if zoned else None)
    buffers = [_validity(values), np.array(micros, dtype=np.int64)]
    return nanoarrow.c_array_from_buffers(of, len(values), buffers)


def _decimals(values: Sequence[Decimal | None]) -> Any:  # noqa: ANN401
    """Decimals as whole numbers of a common unit."""
    stated = (value for value in values if value is not None)
    places = max((-int(value.as_tuple().exponent) for value in stated), default=0)
    places = max(0, places)
    units = [0 if value is None else _units(value, places) for value in values]
    widest = max((len(str(abs(each))) for each in units), default=1)
    is_wide = max(widest, places) > _MOST_DIGITS
    of = nanoarrow.decimal256(76, places) if is_wide else nanoarrow.decimal128(38, places)
    size = 32 if is_wide else 16
    content = b"".join(each.to_bytes(size, "little", signed=True) for each in units)
    return nanoarrow.c_array_from_buffers(of, len(values), [_validity(values), content])


def _units(value: Decimal, places: int) -> int:
    sign, digits, exponent = value.as_tuple()
    whole: int = int("".join(map(str, digits))) * 10 ** (places + int(exponent))
    return -whole if sign else whole
