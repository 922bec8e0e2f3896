"""Workbooks, lists of quotes and flows, as bytes and texts: nothing here opens a file."""

from .flows import read_flows
from .formula_sheet import FIRST_ROW, NAMES, FormulaRow, FormulaSheet, FormulaTerm
from .quotes import read_file, table_of, write_json
from .workbook import workbook_of

__all__ = [
    "FIRST_ROW",
    "NAMES",
    "FormulaRow",
    "FormulaSheet",
    "FormulaTerm",
    "read_file",
    "read_flows",
    "table_of",
    "workbook_of",
    "write_json",
]
