"""A tape, which is a table of loans, solved: every row as a case of its own would be."""

from collections.abc import Callable, Iterable, Mapping, Sequence
from datetime import datetime, time
from decimal import Decimal
from typing import Any, Final, TypeVar

import nanoarrow

from zephyrant.loans import NotALoan
from zephyrant.loans.tape import RESULTS, aparts, look
from zephyrant.loans.tape import solve_tape as solve_rows
from zephyrant.tables.kinds import (
    DAY,
    EXACT,
    FLAG,
    MOMENT,
    NUMBER,
    WHOLE,
    Seen,
    cell_text,
    figures,
    kind_of,
)
from zephyrant.tables.settling import Saying, matched, settled
from zephyrant.tables.template import template_of
from zephyrant.tables.writing import apart

from .frames import Column, Frame, Kind

T = TypeVar("T")
#: How one says to the library what cannot be told from a tape.
BY_LIBRARY: Final = Saying(
    match=lambda figure, column: f'columns={{"{figure}": "{column}"}}',
    setting=lambda name, choices: " or ".join(f'{name}="{each}"' for each in choices),
)
_TEXTS: Final = ("unknown", "problem")


def solve_tape(
    tape: Any,  # noqa: ANN401  (whatever is a table)
    /,
    *,
    columns: Mapping[str, str] | None = None,
    template: Mapping[str, Any] | None = None,
    **settings: Any,  # noqa: ANN401
) -> Frame[Any]:
    """A table of loans solved, row by row: its own columns, then the results. A row that has no
    answer says why in `problem`, and stops no other.

    `tape`: a mapping of columns, a sequence of mappings, or a table of pandas, polars or Arrow.
    `columns`: which column is which figure, where its name does not say it
    (`{"percent": "Price of money"}`). `template`: columns and settings kept by a name, as the desk
    takes them out; what is said beside it comes before it. `settings`: what holds where no column
    says otherwise (`every="quarter"`, `currency="CHF"`, `rounding={"payment": "up"}`), and what
    cells leave open (`percent_as="part"`). A result whose name a column has already is called
    `found_` and that name. Raises `zephyrant.NotALoan` where no row could be read so.

    >>> tape = {"Loan": ["A", "B"], "Amount": [48250, 12000], "Rate": [6.35, 5],
    ...         "Payments": [60, 36], "Payment": ["?", "?"]}
    >>> [(row.Loan, str(row.found)) for row in solve_tape(tape)]
    [('A', '940.68'), ('B', '359.65')]
    """
    own = _columns(tape)
    names, texts = list(own), [[cell_text(value) for value in cells] for cells in own.values()]
    if not names or not texts[0]:
        raise NotALoan.at("", "There is not a single row of a loan in it.")
    if len({len(cells) for cells in texts}) > 1:
        raise NotALoan.at("", "The columns of a table are of one length.")
    of = template_of(dict(template)) if template is not None else None
    places = matched(names, columns or {}, BY_LIBRARY, of)
    stated = {**(of.settings if of else {}), **settings}
    kinds = [_kind(cells) for cells in own.values()]
    read = figures(texts, places, kinds)
    defaults = settled(look(read, texts), names, places, stated, BY_LIBRARY)
    told = solve_rows(read, defaults, set_apart=aparts(texts))
    called = zip(apart([*names, *RESULTS])[len(names) :], RESULTS, strict=True)
    results = {title: _result(name, told[name]) for title, name in called}
    kept = zip(own.items(), kinds, strict=True)
    return Frame({**{name: _own(cells, kind) for (name, cells), kind in kept}, **results})


def _columns(tape: Any) -> dict[str, list[Any]]:  # noqa: ANN401
    """A table as lists of values by the names of its columns."""
    if isinstance(tape, Mapping):
        return {str(name): _values(cells) for name, cells in tape.items()}
    if isinstance(tape, Frame):
        return {name: tape.column(name) for name in tape.names}
    if hasattr(tape, "iloc"):
        # pandas: its columns may hold values of several kinds, which Arrow does not take.
        plain = tape.astype(object).where(tape.notna(), None)
        return {str(name): _values(cells) for name, cells in plain.items()}
    if hasattr(tape, "__arrow_c_stream__"):
        return _from_arrow(tape)
    rows = list(tape) if isinstance(tape, Iterable) else []
    if not rows or not all(isinstance(row, Mapping) for row in rows):
        message = "A tape is a mapping of columns, rows of mappings, or a table such as pandas has."
        raise NotALoan.at("", message)
    names = list(dict.fromkeys(str(name) for row in rows for name in row))
    return {name: [row.get(name) for row in rows] for name in names}


def _values(cells: Any) -> list[Any]:  # noqa: ANN401
    return list(cells.tolist() if hasattr(cells, "tolist") else cells)


def _from_arrow(tape: Any) -> dict[str, list[Any]]:  # noqa: ANN401
    array = nanoarrow.ArrayStream(tape).read_all()
    names = [array.schema.field(at).name for at in range(array.schema.n_fields)]
    return {
        name: list(array.child(at).iter_py()) if len(array) else [] for at, name in enumerate(names)
    }


def _kind(cells: Sequence[Any]) -> str:
    """What the values of a column are, all of them together."""
    # A value of each type tells for all of them.
    of_types = {type(value): value for value in cells}
    seen = Seen()
    for value in of_types.values():
        seen.add([EXACT if isinstance(value, Decimal) else kind_of(value)])
    return seen.kinds(1)[0]


#: Of numbers, and of days, of several kinds what they all are.
_ALL_ARE: Final[dict[str, Callable[[Any], Any]]] = {
    NUMBER: float,
    EXACT: lambda value: value if isinstance(value, Decimal) else Decimal(str(value)),
    MOMENT: lambda value: value if isinstance(value, datetime) else datetime.combine(value, time()),
}
_KINDS: Final[dict[str, Kind]] = {
    FLAG: "flag",
    WHOLE: "whole",
    NUMBER: "number",
    EXACT: "decimal",
    DAY: "day",
    MOMENT: "moment",
}


def _own(cells: Sequence[Any], kind: str) -> Column:
    """A column of the tape, its values as they came where they are of one kind."""
    if kind in _KINDS:
        of = _ALL_ARE.get(kind, lambda value: value)
        there = (None if value != value else value for value in cells)  # noqa: PLR0124
        return Column(_KINDS[kind], [None if value is None else of(value) for value in there])
    return Column("text", [None if value is None else cell_text(value) for value in cells])


def _result(name: str, texts: Sequence[str]) -> Column:
    """Texts of a result as what they stand for; None where a row has none."""
    if name == "count":
        return Column("whole", _each(texts, int))
    if name == "fits":
        return Column("flag", _each(texts, lambda text: text == "yes"))
    if name in _TEXTS:
        return Column("text", _each(texts, str))
    return Column("decimal", _each(texts, Decimal))


def _each(texts: Sequence[str], of: Callable[[str], T]) -> list[T | None]:
    return [of(text) if text else None for text in texts]
