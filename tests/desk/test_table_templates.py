"""Matches of columns kept by a name, shared, taken out and taken by the command."""

import io
import json
import tempfile
from decimal import Decimal
from pathlib import Path
from typing import Any

import openpyxl
import polars as pl
from click.testing import CliRunner
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client

from tests.library.test_solve import level_payment, to_the_cent
from zephyrant.command.main import zephyrant
from zephyrant.desk import jobs
from zephyrant.desk.models import TableTemplate
from zephyrant.desk.table_templates import MOST_TEMPLATES

from .desk import Desk

TAPE = "Ledger,Outlay,Price of money,Quarters,Instalment\nKiln,48250,0.0635,20,?\n"
MATCHED = {"name": 0, "principal": 1, "percent": 2, "count": 3, "payment": 4}
SETTINGS = {"every": "quarter", "percent_as": "part"}
#: Of 48,250.00 at 6.35 % a year paid quarterly over 20 quarters, by the annuity formula.
PAYMENT = to_the_cent(level_payment("48250", "6.35", 4, 4, 20))


class Templates(Desk):
    def open(self, text: str = TAPE, client: Client | None = None) -> dict[str, Any]:
        return self.send("POST", "tables/from-text", {"text": text}, client).json()

    def keep(self, name: str = "Harbour tape", client: Client | None = None, **more: Any) -> Any:
        table = self.open(client=client)
        asked = {"name": name, "columns": MATCHED, "defaults": SETTINGS, **more}
        return self.send("POST", f"tables/{table['id']}/templates", asked, client)

    def solved(self, table: dict[str, Any]) -> dict[str, Any]:
        asked = {"columns": table["columns"], "defaults": table["defaults"]}
        self.assertEqual(self.send("PUT", f"tables/{table['id']}/matching", asked).status_code, 200)
        while (job := jobs.take_up()) is not None:
            jobs.work_on(job)
        return self.send("GET", f"tables/{table['id']}/rows").json()["items"][0]

    def test_kept_and_taken_by_the_next_file_that_has_its_columns(self) -> None:
        kept = self.keep()
        self.assertEqual(kept.status_code, 201, kept.content)
        self.assertEqual(kept.json()["columns"]["percent"], "Price of money")
        # In another order, among others, in other letters.
        other = "Branch,QUARTERS,outlay,Price  of money,Ledger,Instalment\nN,20,48250,0.0635,K,?\n"
        table = self.open(other)
        self.assertEqual(
            table["columns"],
            {"name": 4, "principal": 2, "percent": 3, "count": 1, "payment": 5},
        )
        self.assertIn("Columns matched by your template “Harbour tape”.", table["notes"])
        self.assertEqual(Decimal(self.solved(table)["found"]), PAYMENT)

    def test_one_that_lacks_a_column_says_which(self) -> None:
        self.keep()
        table = self.open("Ledger,Outlay,Quarters\nK,1,2\n")
        self.assertEqual(table["notes"], [])
        (fit,) = self.send("GET", f"tables/{table['id']}/templates").json()["items"]
        self.assertEqual(fit["places"], {"name": 0, "principal": 1, "count": 2})
        self.assertEqual(fit["missing"], ["Price of money", "Instalment"])
        self.assertEqual((fit["defaults"]["every"], fit["settings"]), ("quarter", SETTINGS))

    def test_shared_with_the_desk_and_not(self) -> None:
        other = self.colleague()
        theirs = self.keep("Theirs", other).json()
        self.assertEqual(self.send("GET", "table-templates").json()["items"], [])
        path = f"table-templates/{theirs['id']}"
        for method, name, body in (
            ("GET", f"{path}/file", None),
            ("PUT", path, {"name": "Mine", "shared": False}),
            ("DELETE", path, None),
        ):
            self.assertEqual(self.send(method, name, body).status_code, 404, name)
        shared = self.send("PUT", path, {"name": "Theirs", "shared": True}, other)
        self.assertEqual(shared.status_code, 200)
        (seen,) = self.send("GET", "table-templates").json()["items"]
        self.assertEqual((seen["mine"], seen["shared"], seen["name"]), (False, True, "Theirs"))
        self.assertIn(
            "Columns matched by the template “Theirs”, shared by odo.", self.open()["notes"]
        )
        # Shared is to be taken, not to be changed.
        self.assertEqual(self.send("PUT", path, {"name": "x", "shared": True}).status_code, 404)
        self.assertEqual(self.send("DELETE", path).status_code, 404)
        # One's own comes first, though another's has more columns that fit.
        fewer = {name: place for name, place in MATCHED.items() if name != "name"}
        self.keep("Mine", columns=fewer)
        text = TAPE.replace("Kiln", "Loom")
        self.assertIn("“Mine”", self.open(text.replace("Ledger", "ledger"))["notes"][0])

    def test_by_its_name_it_is_there_once(self) -> None:
        first, again = self.keep().json(), self.keep(shared=True).json()
        self.assertEqual((first["id"], again["shared"]), (again["id"], True))
        second = self.keep("Other").json()
        refused = self.send(
            "PUT", f"table-templates/{second['id']}", {"name": "Harbour tape", "shared": False}
        )
        self.assertEqual((refused.status_code, refused.json()["errors"][0]["field"]), (422, "name"))
        for wrong in (
            {"name": " "},
            {"name": "x" * 81},
            {"columns": {"percent": 9}},
            {"columns": {"percent": 2}},
            {"columns": {**MATCHED, "balance": 1}},
        ):
            self.assertEqual(self.keep(**wrong).status_code, 422, wrong)
        self.assertEqual(self.send("DELETE", f"table-templates/{second['id']}").status_code, 204)
        self.assertEqual(self.send("GET", "table-templates").json()["total"], 1)

    def test_no_more_than_are_kept(self) -> None:
        content = self.keep("0").json()
        owner = TableTemplate.objects.get(pk=content["id"])
        TableTemplate.objects.bulk_create(
            TableTemplate(owner=owner.owner, name=str(at), content=owner.content)
            for at in range(1, MOST_TEMPLATES)
        )
        self.assertEqual(self.keep("one more").status_code, 422)
        self.assertEqual(self.keep("7").status_code, 201)

    def test_the_command_takes_it(self) -> None:
        kept = self.keep().json()
        document = self.send("GET", f"table-templates/{kept['id']}/file")
        self.assertIn("harbour-tape.json", document["Content-Disposition"])
        with tempfile.TemporaryDirectory() as name:
            folder = Path(name)
            (folder / "match.json").write_bytes(document.content)
            told = json.loads(document.content)
            lines = [
                'zephyrant: "table-match/1"',
                f"columns: {json.dumps(told['columns'])}",
                f"settings: {json.dumps(told['settings'])}",
            ]
            (folder / "match.yaml").write_text("\n".join(lines))
            (folder / "tape.csv").write_text(TAPE)
            for form in ("json", "yaml"):
                done = CliRunner().invoke(
                    zephyrant,
                    [
                        *("table", str(folder / "tape.csv"), "--as", "json"),
                        *("--template", str(folder / f"match.{form}")),
                    ],
                )
                self.assertEqual(done.exit_code, 0, done.output)
                row = json.loads(done.stdout)
                self.assertEqual(Decimal(row["found"]), PAYMENT)
            (folder / "tape.csv").write_text(TAPE.replace("Outlay", "Sum"))
            for content, says in (
                (document.content, "columns that are not there: “Outlay”"),
                (b'{"zephyrant": "loan/1"}', 'says "zephyrant": "table-match/1"'),
                (
                    b'{"zephyrant": "table-match/1", "columns": {"rate": "x"}}',
                    "columns",
                ),
                (
                    b'{"zephyrant": "table-match/1", "columns": {}, "settings": {"every": "x"}}',
                    "settings.every",
                ),
            ):
                (folder / "match.json").write_bytes(content)
                done = CliRunner().invoke(
                    zephyrant,
                    [
                        *("table", str(folder / "tape.csv")),
                        *("--template", str(folder / "match.json")),
                    ],
                )
                self.assertEqual(done.exit_code, 2, done.output)
                self.assertIn(says, done.output)


class FilesOfTables(Desk):
    """What a table is taken out as has its own columns as what they were."""

    def test_every_kind_of_file(self) -> None:
        frame = pl.DataFrame(
            {
                "Loan": ["K1", "K2"],
                "Amount": [48_250.0, 0.1 + 0.2 + 999],
                "Rate": [6.35, 6.125],
                "Payments": [60, 12],
                "Payment": ["?", "?"],
                "Exact": pl.Series([Decimal("1.20"), None], dtype=pl.Decimal(9, 2)),
                "Open": [True, None],
            }
        )
        out = io.BytesIO()
        frame.write_parquet(out)
        file = SimpleUploadedFile("tape.parquet", out.getvalue())
        table = self.client.post("/api/v1/tables", {"file": file}).json()
        asked = {"columns": table["columns"], "defaults": {}}
        self.send("PUT", f"tables/{table['id']}/matching", asked)
        while (job := jobs.take_up()) is not None:
            jobs.work_on(job)

        def taken(kind: str) -> bytes:
            answer = self.send("GET", f"tables/{table['id']}/file?kind={kind}")
            self.assertEqual(answer.status_code, 200)
            content: bytes = answer.getvalue()
            return content

        expected = to_the_cent(level_payment("48250", "6.35", 12, 12, 60))
        for solved in (pl.read_parquet(taken("parquet")), pl.read_ipc(taken("arrow"))):
            self.assertTrue(solved.select(frame.columns).equals(frame))
            self.assertEqual((solved["Row"].to_list(), solved["found"][0]), ([1, 2], expected))
        sheet = openpyxl.load_workbook(io.BytesIO(taken("xlsx")))["Loans"]
        head, first, _ = sheet.iter_rows(values_only=True)
        told = dict(zip(head, first, strict=True))
        self.assertEqual((told["Open"], told["Exact"], told["Amount"]), (True, 1.2, 48_250))
        self.assertEqual(Decimal(str(told["found"])), expected)
        self.assertEqual(sheet.freeze_panes, "A2")
        line = json.loads(taken("jsonl").splitlines()[0])
        self.assertEqual((line["Amount"], line["Open"]), (48250, True))
        self.assertEqual(line["found"], str(expected))

    def test_each_sheet_of_other_columns_is_a_table(self) -> None:
        book = openpyxl.Workbook()
        sheets: dict[str, list[list[Any]]] = {
            "North": [["Loan", "Amount", "Rate", "Payments"], ["N", 1000, 5, 12]],
            "South": [["Loan", "Amount", "Rate", "Payments"], ["S", 1000, 5, 12]],
            "Old": [["Name", "Principal", "Percent", "Count"], ["M", 1000, 5, 12]],
        }
        book.remove(book.active)
        for name, rows in sheets.items():
            sheet = book.create_sheet(name)
            for row in rows:
                sheet.append(row)
        out = io.BytesIO()
        book.save(out)
        file = SimpleUploadedFile("tapes.xlsx", out.getvalue())
        first = self.client.post("/api/v1/tables", {"file": file}).json()
        self.assertEqual((first["name"], first["rows"]), ("tapes.xlsx, North, South", 2))
        listed = self.send("GET", "tables").json()["items"]
        names = [each["name"] for each in listed]
        self.assertEqual(names, ["tapes.xlsx, North, South", "tapes.xlsx, Old"])
        file.seek(0)
        only = self.client.post("/api/v1/tables?sheet=Old", {"file": file}).json()
        self.assertEqual((only["name"], only["names"][0]), ("tapes.xlsx", "Name"))
