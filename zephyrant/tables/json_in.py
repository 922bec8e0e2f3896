"""Tables read from JSON: a list of loans, or one on each line."""

import json
from collections.abc import Callable, Iterable, Iterator, Sequence
from typing import IO, Any, Final

from zephyrant.texts import worded

from .kinds import EXACT, JSON, TEXT, WHOLE, Seen, kind_of
from .table import Table, hold_within, refused


def table_of_json(every_row: Callable[[], Iterator[dict[str, Any]]], most_rows: int) -> Table:
    """Read twice: for the names first, and what stands under them, so that a row need not be
    kept."""
    seen = SeenInJson(every_row(), most_rows)
    return Table(seen.names, json_cells(every_row(), seen.names), [], seen.kinds)


class SeenInJson:
    """The names that stand in rows of JSON, in the order in which they come, and what stands under
    each."""

    def __init__(self, rows: Iterable[dict[str, Any]], most_rows: int) -> None:
        names: dict[str, int] = {}
        seen = Seen()
        self.rows = 0
        for self.rows, row in enumerate(rows, 1):
            for name in row:
                names.setdefault(name, len(names))
            seen.add(_json_kind(row.get(name)) for name in names)
            hold_within(self.rows, len(names), most_rows)
        self.names = list(names)
        self.kinds = seen.kinds(len(names))
        self.each_kind = dict(zip(self.names, seen.each(len(names)), strict=True))


def json_cells(rows: Iterable[dict[str, Any]], names: Sequence[str]) -> Iterator[list[str]]:
    """Rows of JSON as cells under names."""
    return ([_json_cell(row.get(name)) for name in names] for row in rows)


class _Number(str):
    """A number of JSON, as it stands there."""

    __slots__ = ()


def _load(text: str | IO[str]) -> Any:  # noqa: ANN401  (whatever stands there)
    content = text if isinstance(text, str) else text.read()
    return json.loads(content, parse_float=_Number, parse_int=_Number)


def _json_kind(value: object) -> str:
    if isinstance(value, _Number):
        is_whole = value.lstrip("-").isdigit()
        return EXACT if not is_whole else WHOLE if len(value) <= _WHOLE_DIGITS else TEXT
    return JSON if isinstance(value, (list, dict)) else kind_of(value)


#: Characters of a whole number that sixty-four bits hold, whichever it is.
_WHOLE_DIGITS: Final = 18


def json_array(text: IO[str]) -> list[dict[str, Any]]:
    """A list of loans in brackets, each in braces."""
    try:
        rows = _load(text)
    except (ValueError, RecursionError):
        raise refused(
            worded("This is not JSON: a list of loans in brackets, each in braces.")
        ) from None
    for number, row in enumerate(rows, 1):
        if not isinstance(row, dict):
            raise refused(
                worded("Entry {number} of the list is not one loan in braces.", number=number)
            )
    return rows  # type: ignore[no-any-return]


def json_rows(text: IO[str], first_line: int = 1) -> Iterator[dict[str, Any]]:
    """Loans in braces, one on each line; the lines are counted from the first."""
    text.seek(0)
    for number, line in enumerate(text, first_line):
        if not line.strip():
            continue
        try:
            row = _load(line)
        except (ValueError, RecursionError):
            raise refused(
                worded("Line {number} is not JSON: each line is one loan in braces.", number=number)
            ) from None
        if not isinstance(row, dict):
            raise refused(worded("Line {number} is not one loan in braces.", number=number))
        yield row


def _json_cell(value: object) -> str:
    if value is None or isinstance(value, str):
        return value or ""
    return json.dumps(_numbers(value), ensure_ascii=False)


def _numbers(value: Any) -> Any:  # noqa: ANN401  (whatever stands there)
    """The numbers inside lists and braces as numbers."""
    if isinstance(value, _Number):
        return int(value) if value.lstrip("-").isdigit() else float(value)
    if isinstance(value, dict):
        return {name: _numbers(each) for name, each in value.items()}
    return [_numbers(each) for each in value] if isinstance(value, list) else value
