"""How CSV is written: what stands between cells, before decimals, where a file begins."""

import csv
import io
import re
from collections.abc import Iterable, Sequence
from typing import Any, Final, Literal, NamedTuple

SeparatorName = Literal["comma", "semicolon", "tab"]
DecimalName = Literal["point", "comma"]
SEPARATORS: Final[dict[SeparatorName, str]] = {"comma": ",", "semicolon": ";", "tab": "\t"}
_PLAIN: Final = re.compile(r"-?\d+(\.\d+)?")
#: The mark of UTF-8, by which office programs know it.
_MARK: Final = "\ufeff"


class CsvForm(NamedTuple):
    """How CSV is written. `marked`: it begins with the mark of UTF-8, without which office programs
    take it for something else. Numbers are never grouped."""

    separator: SeparatorName = "comma"
    decimal: DecimalName = "point"
    marked: bool = False

    @property
    def begins(self) -> str:
        """What stands before the first line."""
        return _MARK if self.marked else ""

    @property
    def between(self) -> str:
        """What stands between cells."""
        return SEPARATORS[self.separator]

    def lines(self, rows: Iterable[Iterable[Any]]) -> str:
        """Rows as lines: cells that need it stand in quotes."""
        out = io.StringIO()
        csv.writer(out, delimiter=self.between, lineterminator="\r\n").writerows(rows)
        return out.getvalue()

    def numbers(self, cells: Sequence[str]) -> Sequence[str]:
        """Plain numbers with the decimal mark; they are ours, so nothing else stands in them."""
        if self.decimal == "point":
            return cells
        return [cell.replace(".", ",") for cell in cells]

    def number(self, cell: str) -> str:
        """A cell, with the decimal mark where it is a plain number."""
        return self.numbers([cell])[0] if _PLAIN.fullmatch(cell) else cell


#: As programs expect it.
PLAIN_CSV: Final = CsvForm()
