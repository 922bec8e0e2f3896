"""The files of docs/examples are what would be made now, and read by who reads such files."""

import io
import json
import re
import subprocess
import sys
import tempfile
from pathlib import Path
from typing import Any

import jsonschema
import openpyxl
import polars as pl
import pypdf
import yaml
from django.conf import settings
from django.test import SimpleTestCase

import zephyrant
from zephyrant.desk.demo import CASES
from zephyrant.documents import read_file
from zephyrant.loans import check, solve
from zephyrant.loans.statement import Statement, work

DOCS = settings.BASE_DIR / "docs"
EXAMPLES = DOCS / "examples"


def _read(path: Path) -> Any:
    """What stands in a file, without when it was made."""
    if path.suffix == ".pdf":
        text = "\n".join(page.extract_text() for page in pypdf.PdfReader(path).pages)
        return re.sub(r" · \d{1,2} \w+ \d{4}", "", text)
    if path.suffix == ".xlsx":
        book = openpyxl.load_workbook(path)
        return {name: [*book[name].iter_rows(values_only=True)] for name in book.sheetnames}
    if path.suffix in (".parquet", ".arrow"):
        reads = pl.read_parquet if path.suffix == ".parquet" else pl.read_ipc
        return reads(io.BytesIO(path.read_bytes())).to_dict(as_series=False)
    return path.read_bytes()


def _schema(name: str) -> Any:
    return json.loads((DOCS / f"{name}.schema.json").read_text())


class Examples(SimpleTestCase):
    def test_they_are_what_would_be_made_now(self) -> None:
        with tempfile.TemporaryDirectory() as name:
            done = subprocess.run(
                [sys.executable, "-m", "tools.examples", name],
                cwd=settings.BASE_DIR,
                capture_output=True,
                text=True,
                check=False,
            )
            self.assertEqual(done.returncode, 0, done.stderr)
            made = {path.name: path for path in Path(name).iterdir()}
            kept = {path.name for path in EXAMPLES.iterdir()} - {"README.md"}
            self.assertEqual(set(made), kept, "make examples")
            for file, path in sorted(made.items()):
                self.assertEqual(_read(EXAMPLES / file), _read(path), f"{file}: make examples")

    def test_the_loan_is_one_in_every_form(self) -> None:
        told = json.loads((EXAMPLES / "answer.json").read_text())
        for form in ("json", "yaml", "toml"):
            loan = read_file(str(EXAMPLES / f"loan.{form}"))
            self.assertEqual(solve(loan).model_dump(mode="json"), told, form)
            self.assertEqual(str(zephyrant.solve(loan).value), told["value"])

    def test_each_is_named_where_they_are_told_of(self) -> None:
        told = (EXAMPLES / "README.md").read_text()
        for path in EXAMPLES.glob("*.*"):
            self.assertTrue(path.name in told or path.name == "README.md", path.name)


class Schemas(SimpleTestCase):
    def holds(self, content: Any, schema: Any, where: str) -> None:
        wrong = jsonschema.exceptions.best_match(
            jsonschema.Draft202012Validator(schema).iter_errors(content)
        )
        self.assertIsNone(wrong and f"{wrong.message[:300]} at {list(wrong.path)}", where)

    def test_documents_and_answers_of_the_demo(self) -> None:
        loans, answers = _schema("loan-document"), _schema("answer")
        whole = 0
        for case in CASES:
            kept = {name: each for name, each in case.items() if name in Statement.model_fields}
            worked = work(Statement.model_validate(kept))
            if worked.document is None:
                continue
            whole += 1
            document = worked.document
            self.holds(document, loans, case["name"])
            self.holds(solve(check(document)).model_dump(mode="json"), answers, case["name"])
        self.assertGreater(whole, 10)

    def test_the_examples(self) -> None:
        for file, schema in (
            ("loan.json", "loan-document"),
            ("answer.json", "answer"),
            ("match.json", "table-match"),
            ("shocks.yaml", "shocks"),
        ):
            text = (EXAMPLES / file).read_text()
            content = yaml.safe_load(text) if file.endswith(".yaml") else json.loads(text)
            told = _schema(schema)
            self.holds(content, told, file)
            self.assertTrue(told["$id"].startswith("urn:zephyrant:"))
            self.assertEqual(told["$schema"], "https://json-schema.org/draft/2020-12/schema")
        for wrong in ({}, {"zephyrant": "loan/1", "columns": {}}, {"columns": {"rate": "R"}}):
            self.assertFalse(
                jsonschema.Draft202012Validator(_schema("table-match")).is_valid(wrong), wrong
            )
        lists: tuple[Any, ...] = (
            *([], [{}], [{"name": ".."}], [{"name": 1}]),
            *([{"name": "a", "percent": "5"}], [{"name": "a", "rate": "+1"}]),
        )
        for paths in lists:
            shocks = {"zephyrant": "shocks/1", "paths": paths}
            self.assertFalse(
                jsonschema.Draft202012Validator(_schema("shocks")).is_valid(shocks), shocks
            )
