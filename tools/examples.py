"""An example of each kind of file, in docs/examples (`make examples`): a loan, a tape, quotes, two
loans side by side."""

import io
import json
import sys
from pathlib import Path
from typing import Any, Final

import yaml

import zephyrant
from zephyrant.desk.beside_files import beside_csv, beside_pdf, beside_xlsx
from zephyrant.loans import MARKS, check, solve, write
from zephyrant.loans.files import table_of, write_json
from zephyrant.loans.questions.side_by_side import Contender, side_by_side
from zephyrant.loans.statement import QuoteList
from zephyrant.loans.statement.quote_lists import QuoteLine
from zephyrant.outlets.csv_form import PLAIN_CSV, CsvForm
from zephyrant.outlets.reader import Reader
from zephyrant.outlets.schedule_csv import csv_of
from zephyrant.outlets.schedule_workbook import xlsx_of
from zephyrant.outlets.statement_pdf import statement_of
from zephyrant.tables.asked import Asked
from zephyrant.tables.in_parts import solve_table
from zephyrant.tables.template import template_of
from zephyrant.tables.ways_out import WayName

FOLDER: Final = Path(__file__).parents[1] / "docs" / "examples"
READER: Final = Reader(MARKS["comma-point"], author="Maren Tolliver")
LOAN: Final[dict[str, Any]] = {
    "zephyrant": "loan/1",
    "name": "Cider press, Orrin & Daughters",
    "currency": "EUR",
    "principal": "48250",
    "rate": {"percent": "6.35", "quoted": "nominal", "compounding": "half-year"},
    "count": 24,
    "every": "month",
    "payment": "?",
    "balance": "0",
    "start": "2027-03-15",
    "clauses": [{"at": 12, "repay": "5000"}],
}
LONGER: Final = {**LOAN, "name": "The same over three years", "count": 36}
TAPE: Final = """\
Ledger;Outlay;Price of money;Quarters;Instalment;Lent on;Branch
L-0071;48,250.00;6.35;20;?;2027-03-15;007
L-0072;12,000.00;5.10;12;?;2027-04-01;007
L-0073;?;5.85;16;1,180.00;2027-05-17;012
"""
SHOCKS: Final = """\
zephyrant: shocks/1
paths:
  - {name: base}
  - {name: rates up, percent: "+1", payment: "?"}
  - {name: dearer and longer, percent: "+50 bp", count: "+1 year", payment: "?"}
  - {name: smaller, principal: "-10 %", balance: "* 0.9"}
"""
TEMPLATE: Final = {
    "zephyrant": "table-match/1",
    "name": "Harbour tape",
    "columns": {
        "name": "Ledger",
        "principal": "Outlay",
        "percent": "Price of money",
        "count": "Quarters",
        "payment": "Instalment",
        "start": "Lent on",
    },
    "settings": {"every": "quarter"},
}
QUOTES: Final = (("Alder", "6.35", "half-year"), ("Birch", "6.4", "month"))


def _lines(content: object) -> bytes:
    return (json.dumps(content, indent=2, ensure_ascii=False) + "\n").encode()


def _toml(content: dict[str, Any]) -> str:
    """A document whose lists and tables are inline."""

    def value(of: object) -> str:
        if isinstance(of, dict):
            return "{" + ", ".join(f"{name} = {value(each)}" for name, each in of.items()) + "}"
        if isinstance(of, list):
            return "[" + ", ".join(map(value, of)) + "]"
        return json.dumps(of, ensure_ascii=False)

    return "".join(f"{name} = {value(of)}\n" for name, of in content.items())


def _tape(folder: Path, way: WayName, csv: CsvForm = CsvForm()) -> bytes:  # noqa: B008
    out = io.BytesIO()
    template = template_of(json.loads((folder / "match.json").read_text()))
    solve_table(str(folder / "tape.csv"), out, Asked(way=way, csv=csv, template=template))
    return out.getvalue()


def make(folder: Path) -> None:
    """Writes every example."""
    folder.mkdir(parents=True, exist_ok=True)
    loan = check(LOAN)
    yaml_text = yaml.safe_dump(write(loan), sort_keys=False, allow_unicode=True)
    beside = side_by_side(
        [Contender(each["name"], "EUR", check(each)) for each in (LOAN, LONGER)], 0, "comma-point"
    )
    lines = tuple(
        QuoteLine(name=name, percent=percent, quoted="nominal", compounding=often)
        for name, percent, often in QUOTES
    )
    quotes = QuoteList(name="Two lenders for the press", quotes=lines)
    workbook = xlsx_of(loan, READER)
    assert workbook is not None
    files = {
        "loan.json": _lines(write(loan)),
        "loan.yaml": yaml_text.encode(),
        "loan.toml": _toml(write(loan)).encode(),
        "answer.json": _lines(solve(loan).model_dump(mode="json")),
        "statement.md": zephyrant.solve(LOAN).to_markdown(rows=True, working=True).encode(),
        "statement.pdf": statement_of(loan, "As discussed at the harbour.", READER),
        "schedule.csv": csv_of(loan),
        "schedule-semicolons.csv": csv_of(loan, CsvForm("semicolon", "comma", marked=True)),
        "schedule.xlsx": workbook,
        "side-by-side.csv": beside_csv(beside, READER.csv).encode(),
        "side-by-side.xlsx": beside_xlsx(beside, READER),
        "side-by-side.pdf": beside_pdf(beside, "Two terms", READER),
        "quotes.json": write_json(quotes).encode(),
        "quotes.csv": PLAIN_CSV.lines(table_of(quotes)).encode(),
        "tape.csv": TAPE.encode(),
        "match.json": _lines(TEMPLATE),
        "shocks.yaml": SHOCKS.encode(),
    }
    for name, content in files.items():
        (folder / name).write_bytes(content)
    ways: dict[str, WayName] = {
        "csv": "csv",
        "jsonl": "json",
        "xlsx": "xlsx",
        "parquet": "parquet",
        "arrow": "arrow",
    }
    for suffix, way in ways.items():
        (folder / f"solved.{suffix}").write_bytes(_tape(folder, way))


if __name__ == "__main__":
    make(Path(sys.argv[1]) if len(sys.argv) > 1 else FOLDER)
