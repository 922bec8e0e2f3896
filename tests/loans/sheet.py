"""A small evaluator of a workbook's formulas, for the tests: what a spreadsheet program would show.

Functions and operators as ISO/IEC 26300 (OpenFormula) defines them; ROUND works on the fifteen
digits such programs hold of a number.
"""

import math
import re
import sys
from decimal import ROUND_HALF_UP, ROUND_UP, Decimal
from typing import Any

from loans.live import FIRST_ROW, Live

sys.setrecursionlimit(20_000)


def _rounded(value: float, places: float, way: str) -> float:
    digits = Decimal(f"{value:.15g}")
    return float(digits.quantize(Decimal(1).scaleb(-int(places)), way))


FUNCTIONS: dict[str, Any] = {
    "ROUND": lambda value, places: _rounded(value, places, ROUND_HALF_UP),
    "ROUNDUP": lambda value, places: _rounded(value, places, ROUND_UP),
    "MIN": min,
    "MAX": max,
    "EXP": math.exp,
}
REFERENCE = re.compile(r"(?:(Terms|Schedule)!)?\$?([A-N])\$?(\d+)")


class Sheet:
    """The cells of both sheets; inputs can be changed."""

    def __init__(self, live: Live, **changed: str) -> None:
        self.cells: dict[str, str] = {}
        terms = live.terms
        for number, name in enumerate(
            ("principal", "percent", "per_period", "payment", "balance"), 3
        ):
            term = getattr(terms, name)
            self.cells[f"Terms!B{number}"] = term.formula or f"{term.value:f}"
            if name in changed:
                if not term.is_input:
                    raise ValueError(f"{name} is no input of this sheet")
                self.cells[f"Terms!B{number}"] = changed[name]
        for number, row in enumerate(live.rows, FIRST_ROW):
            texts = {
                "C": row.opening,
                "D": row.interest,
                "E": row.principal,
                "F": row.payment,
                "G": row.closing,
                "H": f"{row.measured or 0:f}",
                "I": f"{row.percent or 0:f}",
                "J": row.added,
                "K": row.repaid,
                "L": row.without or "0",
                "M": row.each or "0",
            }
            for column, text in texts.items():
                self.cells[f"Schedule!{column}{number}"] = text
        self.known: dict[str, float] = {}

    def value(self, cell: str) -> float:
        """What a cell shows."""
        if cell not in self.known:
            text = self.cells[cell]
            self.known[cell] = self._worked(text[1:], cell) if text.startswith("=") else float(text)
        return self.known[cell]

    def _worked(self, text: str, cell: str) -> float:
        sheet = cell.partition("!")[0]

        def named(found: re.Match[str]) -> str:
            return f"_v('{found[1] or sheet}!{found[2]}{found[3]}')"

        code = REFERENCE.sub(named, text).replace("^", "**")
        return float(eval(code, {"_v": self.value, **FUNCTIONS}))

    def row(self, number: int) -> list[float]:
        """Opening, interest, principal, payment and closing."""
        return [self.value(f"Schedule!{column}{number}") for column in "CDEFG"]
