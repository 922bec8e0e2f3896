"""A table of loans at once: every row solved as a case would be, side by side where arrays can
promise the same figures to the cent, else one by one. A row that has no answer says why.
"""

from collections.abc import Iterator
from typing import Final

import numpy as np

from .document import check
from .errors import NotALoan
from .many import Flags
from .tape_arrays import Group, Texts, is_plain
from .tape_rows import (
    FIELD_NAMES,
    RESULTS,
    Columns,
    Defaults,
    FieldName,
    Told,
    exact_row,
    is_day,
    row_document,
)

#: A loan to read the choices of a row by.
_SAMPLE: Final[dict[FieldName, str]] = {
    "principal": "1000",
    "percent": "5",
    "count": "12",
    "payment": "?",
    "balance": "0",
    "after": "",
    "start": "",
    "first_payment": "",
}
#: What rows are worked together by.
_ALIKE: Final[tuple[FieldName, ...]] = ("currency", "quoted", "compounding", "every", "timing")


def solve_tape(columns: Columns, defaults: Defaults) -> Told:
    """Every row solved: a list of texts for each name of `RESULTS`, "" where a row has none.

    Money in the row's currency, rates in percent with ten decimals, yearly costs with six; numbers
    plain. Raises `ValueError` where columns are not of one length.
    """
    lengths = {len(column) for column in columns.values()}
    if len(lengths) != 1:
        raise ValueError("the columns of a table are of one length")
    return _Tape(columns, defaults, lengths.pop()).solve()


class _Tape:
    """Some rows of a table being solved."""

    def __init__(self, columns: Columns, defaults: Defaults, size: int) -> None:
        self.columns, self.defaults, self.size = columns, defaults, size
        self.told: Texts = {name: np.full(size, "", dtype=object) for name in RESULTS}

    def solve(self) -> Told:
        """All of them."""
        done = self.side_by_side()
        for row in np.flatnonzero(~done).tolist():
            self._alone(row)
        return {name: texts.tolist() for name, texts in self.told.items()}

    def _alone(self, row: int) -> None:
        """A row the exact way; what is wrong with it in its own cell."""
        try:
            document, after = row_document(self._cells(row), self.defaults)
            told = exact_row(check(document), after)
        except NotALoan as wrong:
            error = wrong.errors[0]
            told = {"problem": f"{FIELD_NAMES.get(error.field, '')}{error.message}"}
        for name, text in told.items():
            self.told[name][row] = text

    def _cells(self, row: int) -> dict[FieldName, str]:
        return {name: column[row] for name, column in self.columns.items()}

    def side_by_side(self) -> Flags:
        """The rows that arrays can promise, told; which they are."""
        done = np.zeros(self.size, dtype=bool)
        for group in self._groups():
            done[group.solve(self.told)] = True
        return done

    def _groups(self) -> Iterator[Group]:
        """Rows alike in currency, clock and quote, without an odd first period."""
        blank = [""] * self.size
        keys = zip(*(self.columns.get(name, blank) for name in _ALIKE), strict=True)
        start, later = (self.columns.get(name, blank) for name in ("start", "first_payment"))
        alike: dict[tuple[str, ...], list[int]] = {}
        for row, key in enumerate(keys):
            if not later[row].strip() and is_day(start[row], self.defaults):
                alike.setdefault(key, []).append(row)
        for rows in alike.values():
            try:
                cells = {**self._cells(rows[0]), **_SAMPLE}
                loan = check(row_document(cells, self.defaults)[0])
            except NotALoan:
                continue
            if is_plain(self.defaults, loan):
                yield Group(self.columns, self.defaults, loan, np.array(rows))
