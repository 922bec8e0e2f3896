"""What a table moves, asked over the API and taken out as files."""

import csv
import io
import json
from decimal import Decimal
from typing import Any

import openpyxl
import polars as pl

from zephyrant.desk import jobs

from .desk import Desk

#: 12,000 in equal parts at half a percent a month: interest 60, 55, ... 5, by hand 390 in all.
TEXT = "Amount;Rate;Payments;Payment;Repaid\n12000;6;12;?;equal-principal\n12000;6;12;?;x\n"


class Flows(Desk):
    def setUp(self) -> None:
        super().setUp()
        self.table = self.asked("tables/from-text", {"text": TEXT, "name": "Kilns"}, 201)
        columns = {**self.table["columns"], "repaid": 4}
        path, matching = f"tables/{self.table['id']}/matching", {"columns": columns}
        self.assertEqual(self.send("PUT", path, {**matching, "defaults": {}}).status_code, 200)
        taken = jobs.take_up()
        assert taken is not None
        jobs.work_on(taken)
        self.path = f"tables/{self.table['id']}"

    def asked(self, path: str, sent: Any, status: int) -> Any:
        response = self.send("POST", path, sent)
        self.assertEqual(response.status_code, status, response.content)
        return response.json()

    def test_asked_and_told(self) -> None:
        found = self.asked(f"{self.path}/ask/flows", {"by": "quarter", "rate": "6"}, 200)
        (part,) = found["portfolio"]["parts"]
        (agreed,) = part["scenarios"]
        self.assertEqual((agreed["rows"], agreed["interest"]), (1, "390.00"))
        self.assertEqual([flow["interest"] for flow in agreed["flows"]][:2], ["165.00", "120.00"])
        self.assertEqual(found["told"]["flows"]["rows"][0]["cells"][1], "3,000.00")
        self.assertEqual(found["told"]["drawn"]["balance"], [9000.0, 6000.0, 3000.0, 0.0])
        early = self.asked(f"{self.path}/ask/flows", {"early": "6", "scenario": "early"}, 200)
        self.assertEqual(early["told"]["scenario"], "early")

    def test_what_cannot_be_asked(self) -> None:
        for body, field in (
            ({"on": "soon"}, "on"),
            ({"early": "100"}, "early"),
            ({"rate": "x"}, "rate"),
        ):
            refused = self.asked(f"{self.path}/ask/flows", body, 422)
            self.assertEqual(refused["errors"][0]["field"], field)
        opened = self.asked("tables/from-text", {"text": TEXT, "name": "New"}, 201)
        refused = self.asked(f"tables/{opened['id']}/ask/flows", {}, 422)
        self.assertIn("not been worked yet", refused["errors"][0]["message"])

    def test_every_file_has_the_same_figures(self) -> None:
        found = self.asked(f"{self.path}/ask/flows", {"by": "month", "early": "6"}, 200)
        (part,) = found["portfolio"]["parts"]
        names = ("period", "lent", "principal", "early", "interest", "balance")
        there = [
            (each["scenario"], *(flow[name] for name in names))
            for each in part["scenarios"]
            for flow in each["flows"]
        ]
        self.assertEqual(len(there), 24)

        def plainly(row: Any) -> tuple[Any, ...]:
            return (str(row[0]), str(row[1]), *(Decimal(str(cell)) for cell in row[2:]))

        wanted = [plainly(row) for row in there]
        address = f"{self.path}/flows/file?by=month&early=6&on=&rate=&compounded=12&kind="
        files = {
            kind: self.client.get(f"/api/v1/{address}{kind}").content
            for kind in ("csv", "xlsx", "jsonl", "parquet", "arrow")
        }
        rows: dict[str, list[Any]] = {
            "csv": list(csv.reader(io.StringIO(files["csv"].decode("utf-8-sig"))))[1:],
            "jsonl": [
                list(json.loads(line).values()) for line in files["jsonl"].decode().splitlines()
            ],
            "parquet": pl.read_parquet(io.BytesIO(files["parquet"])).rows(),
            "arrow": pl.read_ipc(io.BytesIO(files["arrow"])).rows(),
            "xlsx": [
                [cell or 0 for cell in row]
                for row in openpyxl.load_workbook(io.BytesIO(files["xlsx"]))
                .worksheets[0]
                .iter_rows(min_row=2, values_only=True)
            ],
        }
        for kind, found_rows in rows.items():
            with self.subTest(kind):
                self.assertEqual({row[0] for row in found_rows}, {"EUR"})
                self.assertEqual([plainly(row[1:]) for row in found_rows], wanted)

    def test_nobody_elses(self) -> None:
        other = self.colleague()
        self.assertEqual(self.send("POST", f"{self.path}/ask/flows", {}, other).status_code, 404)
        self.assertEqual(other.get(f"/api/v1/{self.path}/flows/file").status_code, 404)
