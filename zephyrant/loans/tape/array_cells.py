"""The cells of rows that are alike in everything but their figures, read as arrays."""

import re
from collections.abc import Callable, Mapping
from functools import cache
from typing import Final

from ..document.fields import UNKNOWN
from ..document.loan import Loan
from ..numbers.arrays import Flags, Floats, Texts, Wholes, np
from ..wording.marks import MARKS, Marks
from .columns import ASKABLE, Defaults, FieldName

#: Terms longer than this go the exact way.
LONGEST: Final = 5_000
_MOST_UNITS: Final = 1e13
_LARGEST_PERCENT: Final = 1_000.0
_PLAIN: Final = re.compile(r"[\d.\n-]*", re.ASCII)


class Cells:
    """What stands in the columns of some rows, `figures` as numbers: those of a loan like `loan`;
    a cell that is not plainly a number is NaN."""

    def __init__(
        self, columns: Mapping[FieldName, Texts], defaults: Defaults, loan: Loan, size: int
    ) -> None:
        self.columns, self.defaults, self.loan, self.size = columns, defaults, loan, size
        self.often = loan.payments_a_year
        self.figures = {name: self._figures(name) for name in ASKABLE}

    def unknowns(self) -> tuple[Wholes, Flags]:
        """Which of the five is the unknown of each row (-1: none), and whether all else is read.

        An empty cell is the unknown of its row where no other is marked; an empty balance is
        nothing.
        """
        size = self.size
        asked = np.zeros((len(ASKABLE), size), dtype=bool)
        blank = np.ones_like(asked)
        for place, name in enumerate(ASKABLE):
            texts = self.columns.get(name)
            if texts is not None:
                asked[place], blank[place] = texts == UNKNOWN, texts == ""
        unmarked = ~asked.any(axis=0)
        asked[:-1] |= blank[:-1] & unmarked
        nothing = blank[-1] & ~asked[-1]
        self.figures["balance"] = np.where(nothing, 0.0, self.figures["balance"])
        readable = asked.sum(axis=0) <= 1
        for place, name in enumerate(ASKABLE):
            readable &= asked[place] | ~np.isnan(self.figures[name])
        unknown = np.where(asked.any(axis=0), asked.argmax(axis=0), -1)
        return unknown, readable

    def _figures(self, name: FieldName) -> Floats:
        """A column as numbers, money in minor units; NaN where a cell is not plainly one."""
        texts = self.columns.get(name)
        if texts is None:
            return np.full(self.size, np.nan)
        values = read_plainly(texts, MARKS[self.defaults.marks], percent=name == "percent")
        with np.errstate(invalid="ignore"):
            if name == "percent":
                return self._percents(values, texts)
            if name == "count":
                return self._counts(values)
            units = np.round(values * 10.0**self.loan.decimals)
            fits = np.abs(units / 10.0**self.loan.decimals - values) <= 1e-12 * np.abs(values)
            return np.where(fits & (units >= 0) & (units < _MOST_UNITS), units, np.nan)

    def _percents(self, values: Floats, texts: Texts) -> Floats:
        if self.defaults.percent_as != "percent":
            part = np.array(["%" not in text for text in texts.tolist()])
            if self.defaults.percent_as == "part-below-one":
                part &= (np.abs(values) < 1) & (values != 0)
            # Percents have a dozen decimals at most: rounding there undoes what floats add.
            values = np.where(part, np.round(values * 100, 12), values)
        return np.where((values >= 0) & (values < _LARGEST_PERCENT), values, np.nan)

    def _counts(self, values: Floats) -> Floats:
        if self.defaults.count_in != "payments":
            values = values * self.often / (12 if self.defaults.count_in == "months" else 1)
        whole = (values >= 1) & (values <= LONGEST) & (values % 1 == 0)
        return np.where(whole, values, np.nan)

    def after(self) -> Wholes:
        """The payment after which what is owed is told; -1 where that cannot be read."""
        otherwise = self.defaults.after
        texts = self.columns.get("after")
        if texts is None:
            return np.full(self.size, otherwise, dtype=np.int64)
        told = [
            otherwise if not text else int(text) if text.isdecimal() and len(text) < 6 else -1
            for text in texts.tolist()
        ]
        return np.array(told, dtype=np.int64)


def read_plainly(texts: Texts, marks: Marks, *, percent: bool = False) -> Floats:
    """Cells as numbers, NaN for each that is not plainly one in these marks."""
    values = np.full(len(texts), np.nan)
    some = np.flatnonzero((texts != "") & (texts != UNKNOWN))
    cells: list[str] = texts[some].tolist()
    if marks.decimal == "." and _PLAIN.fullmatch("\n".join(cells)):
        # Digits, points and signs alone: what floats make of them is what stands there.
        try:
            values[some] = np.array(cells, dtype=float)
        except ValueError:
            pass
        else:
            return values
    read = plainly(marks, percent=percent)
    for place, text in zip(some.tolist(), cells, strict=True):
        if number := read(text):
            values[place] = float(number)
    return values


@cache
def plainly(marks: Marks, *, percent: bool = False) -> Callable[[str], str]:
    """Reads a cell that is plainly a number in these marks as one without them; "" every other."""
    grouped = rf"|{marks.grouping()}" if marks.group else ""
    decimal = re.escape(marks.decimal)
    tail = r"\s*%?" if percent else ""
    match = re.compile(rf"-?(\d{{1,15}}{grouped})({decimal}\d{{1,12}})?{tail}", re.ASCII).fullmatch

    def read(text: str) -> str:
        if not match(text):
            return ""
        ungrouped = text.replace(marks.group, "") if marks.group else text
        return ungrouped.rstrip("% ").replace(marks.decimal, ".")

    return read
