"""A table of loans at once: every row solved as a case would be, side by side where arrays can
promise the same figures to the cent, else one by one. A row that has no answer says why.
"""

import logging
from collections.abc import Callable, Iterator, Sequence
from contextlib import AbstractContextManager, nullcontext
from typing import Final

from zephyrant.texts import worded

from ..budget import BudgetSpentError
from ..document.loan import Loan
from ..document.reading import check
from ..errors import NotALoan
from ..numbers.arrays import Flags, Texts, np
from .arrays import Group, LaidTogether, Results, is_plain
from .columns import FIELD_NAMES, RESULTS, Columns, Defaults, FieldName, Told
from .exact_row import exact_row
from .not_loans import APART_SAYS, Apart
from .rows import is_day, row_document

_log = logging.getLogger(__name__)
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
#: Bounds what one row takes that is worked alone.
Bounded = Callable[[], AbstractContextManager[None]]
#: What rows are worked together by.
_ALIKE: Final[tuple[FieldName, ...]] = (
    *("currency", "quoted", "compounding", "every", "timing"),
    *("repaid", "amortized_over"),
    *("index", "margin", "floor", "cap", "resets", "first_rate", "at_resets"),
    *("cash_flow", "cash_flow_every", "growth", "cover", "value", "highest"),
    *("day_count", "business_days", "roll", "adjusted"),
)


def solve_tape(
    columns: Columns,
    defaults: Defaults,
    set_apart: Sequence[Apart] = (),
    bounded: Bounded | None = None,
) -> Told:
    """Every row solved: a list of texts for each name of `RESULTS`, "" where a row has none.

    Money in the row's currency, rates in percent with ten decimals, yearly costs with six; numbers
    plain. `set_apart`: for each row what it is if it is no loan; such rows are told as that and not
    solved. `bounded` stands round every row that is worked alone: one that takes too much says so.
    Raises `ValueError` where columns are not of one length, `BudgetSpentError` where a budget that
    stands round it all is spent.
    """
    lengths = {len(column) for column in columns.values()}
    if len(lengths) != 1:
        raise ValueError("the columns of a table are of one length")
    size = lengths.pop()
    kept = rows_kept(size, defaults, set_apart)
    if len(kept) == size:
        return Tape(columns, defaults, size, bounded).solve()
    some = {name: [column[row] for row in kept] for name, column in columns.items()}
    told = Tape(some, defaults, len(kept), bounded).solve() if kept else {}
    whole: Told = {name: [""] * size for name in RESULTS}
    for name, texts in told.items():
        for row, text in zip(kept, texts, strict=True):
            whole[name][row] = text
    for row in set(range(size)).difference(kept):
        whole["problem"][row] = APART_SAYS[set_apart[row]]
    return whole


def rows_kept(size: int, defaults: Defaults, set_apart: Sequence[Apart]) -> list[int]:
    """The rows that are solved: all but those that read as no loans, where these are left out."""
    skipped = set_apart if defaults.apart == "leave-out" else ()
    return [row for row in range(size) if not (skipped and skipped[row])]


class Tape:
    """Some rows of a table being solved."""

    def __init__(
        self, columns: Columns, defaults: Defaults, size: int, bounded: Bounded | None = None
    ) -> None:
        self.columns: dict[FieldName, Texts] = {
            name: np.array(list(map(str.strip, column)), dtype=object)
            for name, column in columns.items()
        }
        self.defaults, self.size, self.bounded = defaults, size, bounded
        self.told: Results = {name: np.full(size, "", dtype=object) for name in RESULTS}
        #: Is told every row that has an answer, laid out: those alone, those side by side.
        self.laid_alone: Callable[[Loan], None] | None = None
        self.laid_together: LaidTogether | None = None

    def solve(self) -> Told:
        """All of them."""
        return self.solve_alone(self.side_by_side())

    def solve_alone(self, sure: Flags) -> Told:
        """Those that arrays were not `sure` of, one by one; all that is told then."""
        for row in np.flatnonzero(~sure).tolist():
            self._alone(row)
        return {name: texts.tolist() for name, texts in self.told.items()}

    def _alone(self, row: int) -> None:
        """A row the exact way; what is wrong with it in its own cell."""
        try:
            document, after = row_document(self._cells(row), self.defaults)
            with self.bounded() if self.bounded else nullcontext():
                loan = check(document)
                told = exact_row(loan, after, self.defaults.owed_on)
                if self.laid_alone is not None and not told.get("problem"):
                    self.laid_alone(loan)
        except BudgetSpentError as spent:
            if self.bounded is None:
                raise
            told = {"problem": spent.errors[0].message}
        except NotALoan as wrong:
            error = wrong.errors[0]
            told = {"problem": f"{FIELD_NAMES.get(error.field, '')}{error.message}"}
        except Exception:
            # One row never stops the rest, not even by a mistake of ours.
            _log.exception("row %d of a table", row)
            told = {"problem": worded("Something went wrong on our side with this row.")}
        for name, text in told.items():
            self.told[name][row] = text

    def _cells(self, row: int) -> dict[FieldName, str]:
        return {name: column[row] for name, column in self.columns.items()}

    def side_by_side(self) -> Flags:
        """The rows that arrays can promise, told; which they are."""
        done = np.zeros(self.size, dtype=bool)
        for group in self._groups():
            group.laid = self.laid_together
            done[group.solve(self.told)] = True
        return done

    def _groups(self) -> Iterator[Group]:
        """Rows alike in currency, clock and quote, without an odd first period."""
        blank: Texts = np.full(self.size, "", dtype=object)
        start, later = (self.columns.get(name, blank) for name in ("start", "first_payment"))
        plain = later == ""
        if self.defaults.owed_on is not None:
            # What is owed on a day goes by days: the exact way.
            plain &= start == ""
        if "start" in self.columns:
            # Of the days of a tape there are far fewer than rows.
            days = {cell: is_day(cell, self.defaults) for cell in set(start.tolist())}
            plain &= np.array([days[cell] for cell in start.tolist()])
        keys = zip(*(self.columns.get(name, blank).tolist() for name in _ALIKE), strict=True)
        numbers: dict[tuple[str, ...], int] = {}
        of_row = np.array([numbers.setdefault(key, len(numbers)) for key in keys])
        for number in range(len(numbers)):
            rows = np.flatnonzero((of_row == number) & plain)
            if not len(rows):
                continue
            try:
                cells = {**self._cells(int(rows[0])), **_SAMPLE}
                loan = check(row_document(cells, self.defaults)[0])
            except NotALoan:
                continue
            if is_plain(self.defaults, loan):
                some = {name: column[rows] for name, column in self.columns.items()}
                yield Group(some, self.defaults, loan, rows)
