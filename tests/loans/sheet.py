"""A small evaluator of a workbook's formulas, for the tests: what a spreadsheet program would show.

Functions and operators as ISO/IEC 26300 (OpenFormula) defines them; ROUND works on the fifteen
digits such programs hold of a number.
"""

import math
import re
import sys
from collections.abc import Iterator
from decimal import ROUND_DOWN, ROUND_HALF_UP, ROUND_UP, Decimal
from typing import Any

from zephyrant.loans.files.formula_sheet import FIRST_ROW, FormulaSheet

from .documents import document

sys.setrecursionlimit(20_000)


def _rounded(value: float, places: float, way: str) -> float:
    digits = Decimal(f"{value:.15g}")
    return float(digits.quantize(Decimal(1).scaleb(-int(places)), way))


FUNCTIONS: dict[str, Any] = {
    "ROUND": lambda value, places: _rounded(value, places, ROUND_HALF_UP),
    "ROUNDDOWN": lambda value, places: _rounded(value, places, ROUND_DOWN),
    "ROUNDUP": lambda value, places: _rounded(value, places, ROUND_UP),
    "MIN": min,
    "MAX": max,
    "EXP": math.exp,
}
REFERENCE = re.compile(r"(?:(Terms|Schedule)!)?\$?([A-N])\$?(\d+)")


class Sheet:
    """The cells of both sheets; inputs can be changed."""

    def __init__(self, live: FormulaSheet, **changed: str) -> None:
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

    def worked(self, formula: str) -> float:
        """What a formula of the schedule's sheet comes to, with sums of a column written out."""

        def summed(found: re.Match[str]) -> str:
            first, last = int(found[2]), int(found[3])
            return f"({'+'.join(f'{found[1]}{number}' for number in range(first, last + 1))})"

        plain = re.sub(r"SUM\(([A-N])(\d+):[A-N](\d+)\)", summed, formula.removeprefix("="))
        return self._worked(plain, "Schedule!")

    def row(self, number: int) -> list[float]:
        """Opening, interest, principal, payment and closing."""
        return [self.value(f"Schedule!{column}{number}") for column in "CDEFG"]


#: Loans of every shape whose workbook is changed.
SHAPES: list[dict[str, Any]] = [
    {**timing, **days, **ending, **style}
    for timing in ({}, {"timing": "in-advance"})
    for days in (
        {},
        {"start": "2027-01-31", "day_count": "actual/365"},
        {"start": "2027-01-15", "day_count": "30/360"},
    )
    for ending in (
        {"payment": "?"},
        {"payment": "?", "balance": "9000"},
        {"payment": "2100", "balance": "?"},
        {"principal": "?", "payment": "2150"},
    )
    for style in (
        {"rate": {"percent": "6.35", "compounding": "half-year"}},
        {"rate": {"percent": "7"}},
    )
]
SHAPES += [
    {"start": "2027-01-10", "first_payment": "2027-03-25"},
    {"start": "2027-01-10", "first_payment": "2027-03-25", "odd_days": "compound"},
    {"rounding": {"payment": "up", "to": "5"}},
    {"clauses": [{"at": 0, "fee": "300", "taken": "added"}, {"at": 6, "repay": "4000"}]},
    {"clauses": [{"from": 13, "rate": {"percent": "8"}}, {"at": 4, "advance": "2500"}]},
    {"clauses": [{"from": 5, "to": 7, "pay": "nothing"}, {"at": 20, "payment": "100"}]},
    {"payment": "2500", "count": "?"},
    {"rate": {"percent": "4", "quoted": "flat"}},
    {"repayment": "equal-principal"},
    {"repayment": "equal-principal", "payment": "2300", "principal": "?"},
    {"repayment": "equal-principal", "start": "2027-01-31", "day_count": "actual/365"},
    {"repayment": "equal-principal", "clauses": [{"from": 1, "to": 5, "pay": "interest"}]},
    {"repayment": "equal-principal", "payment": "2300", "count": "?"},
    {"repayment": "interest-only"},
    {"repayment": "at-the-end"},
    {"repayment": {"percents": ["2"] * 10 + ["0"] * 4 + ["8"] * 10}},
    {"amortized_over": 300},
    {"amortized_over": 300, "timing": "in-advance"},
    {"amortized_over": 300, "payment": "330", "principal": "?"},
]
#: Inputs of a workbook, and what each is changed to.
CHANGES = {
    "principal": "47111.11",
    "percent": "5.9",
    "payment": "2222.22",
    "balance": "1234.56",
}


def changes() -> Iterator[tuple[dict[str, Any], str, str]]:
    """Each shape as a document, with each input that it states and what that is changed to."""
    for shape in SHAPES:
        content = document(**{"count": 24, "name": "Kiln", **shape})
        stated = {
            "principal": content["principal"],
            "percent": content["rate"]["percent"],
            "payment": content["payment"],
            "balance": content.get("balance", "0"),
        }
        for name, value in CHANGES.items():
            if stated[name] != "?":
                yield content, name, value


def changed(content: dict[str, Any], name: str, value: str, rows: int) -> dict[str, Any]:
    """A document changed as its workbook is: the number of rows stays."""
    told = {**content, name: value}
    if content["count"] == "?":
        told["count"] = rows
    if name == "percent":
        del told["percent"]
        told["rate"] = {**content["rate"], "percent": value}
    return told
