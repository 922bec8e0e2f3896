"""Tables of loans: files of every kind, matched, worked, interrupted, looked at, taken out."""

import csv
import io
import json
import subprocess
import sys
import tempfile
import zipfile
from datetime import timedelta
from pathlib import Path
from typing import Any
from unittest import TestCase as PlainCase
from unittest import mock

import openpyxl
from django.conf import settings
from django.contrib.auth.models import User
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client
from django.utils import timezone

from zephyrant.desk import jobs, tables
from zephyrant.desk.models import Case, LoanTable
from zephyrant.loans import NotALoan
from zephyrant.loans.tape import solve_tape
from zephyrant.tables import files as table_files
from zephyrant.tables import limits as table_limits
from zephyrant.tables.packed import looked_at
from zephyrant.tables.ways_out import Heads, told

from .desk import Desk

ROWS = [
    "Loan;Amount;Rate;Payments;Payment",
    "Kiln;48,250.00;6.35;60;?",
    "Loom;48,250.00;?;60;942.00",
    "Press;48,250.00;6.35;?;5",
    ";;;;",
    "=SUM(1);48,250.00;6.35;60;938.82",
]
TEXT = "\n".join(ROWS)
#: Of each row the places of the cells in which its unknown stands.
ASKED: list[list[int]] = [[4], [2], [3], []]


def read(content: bytes | str, most_rows: int = 1_000) -> tuple[list[str], list[list[str]], Any]:
    data = content.encode() if isinstance(content, str) else content
    table = table_files.read(io.BytesIO(data), "t", most_rows)
    return table.names, list(table.rows), table.notes


class Files(PlainCase):
    def test_by_what_is_in_them(self) -> None:
        book = openpyxl.Workbook()
        sheet = book.active
        assert sheet is not None
        for row in (["Amount", "Rate"], [48250, 6.35], [None, None], ["?", 0.1]):
            sheet.append(row)
        packed = io.BytesIO()
        book.save(packed)
        lines = '{"Amount": 48250, "Rate": "6.35"}\n\n{"Rate": 0.1, "Note": null}\n'
        for content, rows in (
            ("Amount,Rate\n48250,6.35\n\n?,0.1\n", [["48250", "6.35"], ["?", "0.1"]]),
            ("\ufeffAmount;Rate\n48250;6.35\n?;0.1", [["48250", "6.35"], ["?", "0.1"]]),
            ("Amount\tRate\n48250\t6.35\n?\t0.1\n", [["48250", "6.35"], ["?", "0.1"]]),
            (packed.getvalue(), [["48250", "6.35"], ["?", "0.1"]]),
            (lines, [["48250", "6.35", ""], ["", "0.1", ""]]),
        ):
            with self.subTest(content=content[:20]):
                names, found, _ = read(content)
                self.assertEqual(names[:2], ["Amount", "Rate"])
                self.assertEqual(found, rows)

    def test_no_names_twice_the_same_and_ragged_rows(self) -> None:
        names, rows, notes = read("48250;6.35\n1000;5")
        self.assertEqual((names, len(rows)), (["Column 1", "Column 2"], 2))
        self.assertIn("no names", notes[0])
        names, rows, notes = read("Rate,Rate,\n6,7,8,9\n5\n")
        self.assertEqual(names, ["Rate", "Rate (2)"])
        self.assertEqual(rows, [["6", "7"], ["5", ""]])
        self.assertIn("Two columns are called “Rate”", notes[0])

    def test_refused_with_a_sentence(self) -> None:
        bomb = io.BytesIO()
        with (
            zipfile.ZipFile(bomb, "w", zipfile.ZIP_DEFLATED) as packed,
            packed.open("xl/worksheets/sheet1.xml", "w") as sheet,
        ):
            for _ in range(450):
                sheet.write(b"0" * 1_000_000)
        for content, says in (
            (b"", "is empty"),
            (b"\n\n;;\n", "is empty"),
            (b"\x00\x01\x02", "no table"),
            (b"PK\x03\x04broken", "no workbook"),
            (bomb.getvalue(), "too large"),
            (b'{"a": 1}\nnot json', "Line 2 is not JSON"),
            (b'{"a": 1}\n[1]', "Line 2 is not one loan"),
            (";".join(f"c{number}" for number in range(10_000)).encode(), "10,000 columns"),
            (b"Amount\n" + b"1\n" * 1_001, "more than 1,000 rows"),
        ):
            with self.subTest(says), self.assertRaises(NotALoan) as raised:
                read(content)
            self.assertIn(says, raised.exception.errors[0].message)

    def test_written_so_that_nothing_is_a_formula(self) -> None:
        heads = Heads(("a", "=b"), ("text", "text"), range(2))
        text = b"".join(told("csv", heads, [[["=1+1", "@x"], ["-5", "ok"]]])).decode()
        table = list(csv.reader(io.StringIO(text)))
        self.assertEqual(table, [["a", "'=b"], ["'=1+1", "-5"], ["'@x", "ok"]])


class Worked(Desk):
    def open(self, text: str = TEXT, client: Client | None = None) -> dict[str, Any]:
        sent = {"text": text, "name": "tape.csv"}
        return self.send("POST", "tables/from-text", sent, client).json()

    def ask(self, table: dict[str, Any], **defaults: Any) -> Any:
        asked = {"columns": table["columns"], "defaults": {"compounding": "half-year", **defaults}}
        return self.send("PUT", f"tables/{table['id']}/matching", asked)

    def work(self) -> None:
        while (table := jobs.take_up()) is not None:
            jobs.work_on(table)

    def rows(self, table: dict[str, Any], **looking: Any) -> dict[str, Any]:
        query = "&".join(f"{name}={value}" for name, value in looking.items())
        return self.send("GET", f"tables/{table['id']}/rows?{query}").json()

    def test_from_a_file_to_its_rows(self) -> None:
        file = SimpleUploadedFile("tape.csv", TEXT.encode())
        opened = self.client.post("/api/v1/tables", {"file": file}).json()
        self.assertEqual((opened["rows"], opened["state"]), (4, "matching"))
        self.assertEqual(opened["says"], "its columns are to be confirmed")
        look = {"columns": opened["columns"]}
        looked = self.send("POST", f"tables/{opened['id']}/ask/reading", look).json()
        self.assertEqual(looked["asked"], ASKED)
        self.assertEqual(
            opened["columns"],
            {"name": 0, "principal": 1, "percent": 2, "count": 3, "payment": 4},
        )
        self.assertEqual(self.ask(opened).json()["state"], "waiting")
        self.work()
        table = self.send("GET", f"tables/{opened['id']}").json()
        self.assertEqual((table["state"], table["done"]), ("done", 4))
        self.assertEqual(
            {name: table["summary"][name] for name in ("solved", "problems", "unfit")},
            {"solved": 3, "problems": 1, "unfit": 0},
        )
        rows = self.rows(table)["items"]
        self.assertEqual([row["found"] for row in rows[:1]], ["938.82"])
        self.assertIn("never repays", rows[2]["problem"])
        self.assertEqual(rows[3]["fits"], "yes")
        self.send("PUT", "me", {"marks": "point-comma"})
        page = self.rows(table, told="true")
        self.assertEqual([row["found"] for row in page["told"][:1]], ["938,82"])
        self.assertEqual(page["told"][3]["found"], "fits")
        table = self.send("GET", f"tables/{opened['id']}").json()
        self.assertEqual(table["says"], "3 solved, 1 without an answer")
        self.assertEqual(table["told"]["sums"]["rows"][0]["cells"][0], "3")
        self.assertEqual(table["told"]["spread"][0]["title"], "Rate, %")

    def test_sorted_filtered_and_found(self) -> None:
        table = self.open()
        self.ask(table)
        self.work()

        def names(**looking: Any) -> list[str]:
            return [row["c0"] for row in self.rows(table, **looking)["items"]]

        self.assertEqual(names(sort="payment", descending="true")[0], "Loom")
        self.assertEqual(names(only="problems"), ["Press"])
        self.assertEqual(names(text="LOO"), ["Loom"])
        self.assertEqual(names(figure="payment", least=939), ["Loom"])
        self.assertEqual(len(names(start=3)), 1)
        for wrong in (
            *({"sort": "luck"}, {"only": "some"}, {"size": 10_000}, {"figure": "luck"}),
            {"start": 9_223_372_036_854_775_808},
        ):
            query = "&".join(f"{name}={value}" for name, value in wrong.items())
            if "figure" in wrong:
                query += "&least=1"
            answer = self.send("GET", f"tables/{table['id']}/rows?{query}")
            self.assertEqual(answer.status_code, 422, wrong)

    def test_what_cannot_be_guessed_is_asked(self) -> None:
        table = self.open("amount;rate;payments;payment\n1000;0.0635;60;?\n1000;6.35;60;?")
        asked = {"columns": table["columns"]}
        looked = self.send("POST", f"tables/{table['id']}/ask/reading", asked).json()
        self.assertEqual([each["about"] for each in looked["questions"]], ["percent_as"])
        refused = self.ask(table)
        self.assertEqual(refused.status_code, 422)
        self.assertEqual(refused.json()["errors"][0]["field"], "percent_as")
        self.assertEqual(self.ask(table, percent_as="part-below-one").status_code, 200)
        self.work()
        first, second = self.rows(table)["items"]
        self.assertEqual(first["found"], second["found"])

    def test_a_match_is_remembered_for_files_with_the_same_columns(self) -> None:
        text = "Loan;Sum;Price of money;Payments;Payment\nKiln;48,250.00;6.35;60;?"
        table = self.open(text)
        self.assertNotIn("principal", table["columns"])
        table["columns"] |= {"principal": 1, "percent": 2}
        self.ask(table, every="month")
        again = self.open(text)
        self.assertEqual(again["columns"], table["columns"])
        self.assertEqual(again["defaults"]["compounding"], "half-year")
        self.assertNotIn("principal", self.open(text, self.colleague())["columns"])

    def test_two_figures_without_a_column(self) -> None:
        table = self.open("Amount;Rate\n1000;5")
        refused = self.ask(table)
        self.assertEqual(refused.status_code, 422)
        self.assertIn("number of payments", refused.json()["errors"][0]["message"])
        table["columns"] = {"principal": 0, "percent": 9}
        self.assertEqual(self.ask(table).status_code, 422)
        table["columns"] = {"principal": 0, "percent": 0}
        self.assertEqual(self.ask(table).status_code, 422)

    def test_a_row_as_a_case(self) -> None:
        table = self.open()
        self.ask(table)
        case = self.send("POST", f"tables/{table['id']}/rows/2/case").json()
        self.assertEqual(case["statement"]["percent"], "?")
        self.assertEqual(Case.objects.get(pk=case["id"]).name, "Loom")
        self.assertEqual(self.send("POST", f"tables/{table['id']}/rows/9/case").status_code, 422)

    def test_taken_out(self) -> None:
        table = self.open()
        self.assertEqual(self.send("GET", f"tables/{table['id']}/file").status_code, 422)
        self.ask(table)
        self.work()

        def file(kind: str) -> bytes:
            answer = self.send("GET", f"tables/{table['id']}/file?kind={kind}")
            self.assertIn(f"tape-solved.{kind}", answer["Content-Disposition"])
            return b"".join(answer)

        rows = list(csv.DictReader(io.StringIO(file("csv").decode("utf-8-sig"))))
        self.assertEqual((rows[0]["found"], rows[3]["Loan"]), ("938.82", "'=SUM(1)"))
        told = [json.loads(line) for line in file("jsonl").decode().splitlines()]
        self.assertEqual((told[0]["found"], told[3]["Loan"]), ("938.82", "=SUM(1)"))
        sheet = openpyxl.load_workbook(io.BytesIO(file("xlsx"))).active
        assert sheet is not None
        cells = [cell.value for row in sheet.iter_rows() for cell in row]
        self.assertIn(938.82, cells)
        self.assertTrue(all(cell.data_type != "f" for row in sheet.iter_rows() for cell in row))

    def test_interrupted_it_goes_on_from_the_part_kept_last(self) -> None:
        lines = [ROWS[0], *(f"L{n};{1000 + n};5;12;?" for n in range(10))]
        table = self.open("\n".join(lines))
        self.ask(table)
        stops = iter([False, True])
        with mock.patch.multiple(tables, FIRST_TOGETHER=4, LEAST_TOGETHER=4, MOST_TOGETHER=4):
            taken = jobs.take_up()
            assert taken is not None
            jobs.work_on(taken, lambda: next(stops))
            kept = LoanTable.objects.get()
            self.assertEqual((kept.state, kept.done, kept.parts.count()), ("waiting", 8, 2))
            # What was solved first is to be seen already.
            first = self.rows(table)
            self.assertEqual((first["total"], len(first["items"])), (4, 4))
            self.assertEqual(
                [(row["row"], row["c0"]) for row in first["items"]],
                [(n + 1, f"L{n}") for n in range(4)],
            )
            self.assertTrue(all(row["found"] for row in first["items"]))
            with mock.patch.object(tables, "solve_tape", wraps=solve_tape) as solved:
                self.work()
            self.assertEqual(solved.call_count, 1)
        kept = LoanTable.objects.get()
        self.assertEqual((kept.state, kept.parts.count()), ("done", 0))
        rows = self.rows(table)["items"]
        self.assertEqual(rows[:4], first["items"])
        self.assertEqual([row["c0"] for row in rows], [f"L{n}" for n in range(10)])
        self.assertTrue(all(row["found"] for row in rows))

    def test_cells_are_looked_at_once(self) -> None:
        table = self.open()
        fewer = {name: place for name, place in table["columns"].items() if name != "payment"}
        with mock.patch.object(tables, "looked_at", wraps=looked_at) as looked:
            # Those that its names say were looked at when the file was read.
            for columns, times in ((table["columns"], 0), (fewer, 1), (fewer, 1)):
                self.send("POST", f"tables/{table['id']}/ask/reading", {"columns": columns})
                self.assertEqual(looked.call_count, times)
            # An earlier core may have said something else.
            with mock.patch.object(tables, "ENGINE", "another"):
                self.send("POST", f"tables/{table['id']}/ask/reading", {"columns": fewer})
            self.assertEqual(looked.call_count, 2)

    def test_a_short_table_of_somebody_else_waits_for_one_turn_of_a_long_one(self) -> None:
        lines = [ROWS[0], *(f"L{n};{1000 + n};5;12;?" for n in range(40))]
        long, longer = self.open("\n".join(lines)), self.open("\n".join([*lines, lines[1]]))
        for each in (longer, long):
            self.ask(each)
        other = User.objects.create_user("tamsin")
        mine = LoanTable.objects.get(pk=long["id"])
        ended: list[str] = []
        turns = jobs.Turns()
        with mock.patch.multiple(tables, FIRST_TOGETHER=4, LEAST_TOGETHER=4, MOST_TOGETHER=4):
            for turn in range(40):
                if turn == 1:
                    short = LoanTable.objects.create(
                        owner=other, name="Short", names=mine.names, rows=mine.rows,
                        source=mine.source, columns=mine.columns, defaults=mine.defaults,
                        state="waiting", asked_at=timezone.now(),
                    )  # fmt: skip
                taken = turns.take_up()
                if taken is None:
                    break
                jobs.work_on(taken, turn=0)
                turns.worked(taken)
                if LoanTable.objects.get(pk=taken.pk).state == "done":
                    ended.append(str(taken.pk))
                if turn == 0:
                    # Of the tables of one owner the one with the fewest rows left comes first.
                    self.assertEqual((str(taken.pk), taken.rows), (long["id"], 40))
        self.assertEqual(set(ended), {long["id"], longer["id"], str(short.pk)})
        self.assertEqual(ended[-1], longer["id"])
        self.assertEqual(LoanTable.objects.filter(state="done").count(), 3)

    def test_what_a_killed_worker_left_is_taken_up_again(self) -> None:
        self.ask(self.open())
        self.assertIsNotNone(jobs.take_up())
        self.assertIsNone(jobs.take_up())
        LoanTable.objects.update(beat_at=timezone.now() - jobs.SILENCE - timedelta(seconds=1))
        self.assertIsNotNone(jobs.take_up())

    def test_cancelled_in_the_middle_and_asked_for_again(self) -> None:
        table = self.open()
        self.ask(table)
        taken = jobs.take_up()
        assert taken is not None
        self.assertEqual(self.send("DELETE", f"tables/{table['id']}/work").status_code, 204)
        jobs.work_on(taken)
        self.assertEqual(LoanTable.objects.get().state, "cancelled")
        self.ask(table)
        self.work()
        self.assertEqual(LoanTable.objects.get().state, "done")

    def test_trouble_is_told_and_stops_no_other_table(self) -> None:
        for _ in range(2):
            self.ask(self.open())
        with (
            mock.patch.object(tables, "solve_tape", side_effect=MemoryError),
            self.assertLogs("zephyrant.desk.jobs", "ERROR"),
        ):
            taken = jobs.take_up()
            assert taken is not None
            jobs.work_on(taken)
        self.work()
        self.assertEqual(
            sorted(LoanTable.objects.values_list("state", flat=True)), ["done", "failed"]
        )
        self.assertIn("our side", LoanTable.objects.get(state="failed").why)

    def test_limits(self) -> None:
        with mock.patch.object(tables, "MOST_WAITING", 1):
            self.ask(self.open())
            refused = self.ask(self.open())
            self.assertEqual(refused.status_code, 422)
            self.assertIn("wait for one", refused.json()["errors"][0]["message"])
        with mock.patch.object(tables, "MOST_TABLES", 2):
            refused = self.send("POST", "tables/from-text", {"text": TEXT})
            self.assertIn("delete one", refused.json()["errors"][0]["message"])
        with mock.patch.object(table_limits, "MOST_BYTES", 10):
            file = SimpleUploadedFile("tape.csv", TEXT.encode())
            refused = self.client.post("/api/v1/tables", {"file": file})
            self.assertIn("too large", refused.json()["errors"][0]["message"])

    def test_nobody_elses(self) -> None:
        table, other = self.open(), self.colleague()
        self.assertEqual(self.send("GET", "tables", None, other).json()["items"], [])
        for method, path, sent in (
            ("GET", "", None),
            ("GET", "/progress", None),
            ("POST", "/ask/reading", {"columns": {}}),
            ("PUT", "/matching", {"columns": {}, "defaults": {}}),
            ("DELETE", "/work", None),
            ("GET", "/rows", None),
            ("POST", "/rows/1/case", None),
            ("GET", "/file", None),
            ("DELETE", "", None),
        ):
            answer = self.send(method, f"tables/{table['id']}{path}", sent, other)
            self.assertEqual(answer.status_code, 404, path)
            answer = self.send(method, f"tables/{table['id']}{path}", sent, Client())
            self.assertEqual(answer.status_code, 401, path)
        self.assertEqual(self.send("DELETE", f"tables/{table['id']}").status_code, 204)
        self.assertEqual(LoanTable.objects.count(), 0)


class ByCommand(PlainCase):
    def solve(self, text: str, *options: str) -> tuple[int, list[dict[str, str]], str]:
        with tempfile.TemporaryDirectory() as folder:
            file = Path(folder) / "tape.csv"
            file.write_text(text)
            done = subprocess.run(
                [sys.executable, "manage.py", "solve", "--table", str(file), *options],
                cwd=settings.BASE_DIR,
                capture_output=True,
                check=False,
                text=True,
            )
        rows = list(csv.DictReader(io.StringIO(done.stdout)))
        return done.returncode, rows, done.stderr

    def test_a_table_in_and_out(self) -> None:
        status, rows, told = self.solve(TEXT, "--set", "compounding=half-year")
        self.assertEqual((status, len(rows)), (1, 4))
        self.assertEqual((rows[0]["found"], rows[3]["Loan"]), ("938.82", "'=SUM(1)"))
        self.assertIn("never repays", rows[2]["problem"])
        self.assertIn("4 rows", told)

    def test_more_rows_than_a_part_has_come_out_in_their_order(self) -> None:
        size, asked = 25_500, {True: "?;5", False: "60;?"}
        lines = [f"L{n};48,250.00;6.35;{asked[n % 1_000 == 0]}" for n in range(size)]
        text = "\n".join([ROWS[0], *lines])
        status, rows, told = self.solve(text, "--set", "compounding=half-year")
        self.assertEqual((status, len(rows)), (1, size))
        self.assertEqual([row["Loan"] for row in rows], [f"L{n}" for n in range(size)])
        self.assertEqual({row["found"] for n, row in enumerate(rows) if n % 1_000}, {"938.82"})
        self.assertTrue(all("never repays" in row["problem"] for row in rows[::1_000]))
        self.assertIn("25,500 rows", told)
        self.assertTrue(told.endswith("26 without answer\n"), told[-60:])

    def test_what_has_to_be_said(self) -> None:
        text = "Sum;Rate;Payments;Payment\n1000;0.06;12;?"
        status, rows, told = self.solve(text, "--match", "principal=Sum")
        self.assertEqual((status, rows), (2, []))
        self.assertIn("--set percent_as=part or percent", told)
        options = ("--match", "principal=Sum", "--set", "percent_as=part")
        status, rows, _ = self.solve(text, *options)
        month = 0.06 / 12
        payment = 1000 * month / (1 - (1 + month) ** -12)
        self.assertEqual((status, rows[0]["found"]), (0, f"{payment:.2f}"))
        _, rows, _ = self.solve(text, *options, "--set", "rounding=up 1")
        self.assertEqual(rows[0]["found"], f"{int(payment) + 1}.00")
        status, rows, told = self.solve("48250;6.35\n1000;5")
        self.assertEqual((status, rows), (2, []))
        self.assertIn("match the amount lent and the rate and the number of payments", told)
        self.assertIn("--match NAME=COLUMN; the columns are Column 1, Column 2", told)
        for wrong in (("--match", "luck=Sum"), ("--match", "percent=Luck"), ("--set", "x")):
            self.assertEqual(self.solve(text, *wrong)[0], 2)
