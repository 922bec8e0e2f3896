"""The list, the bin, the way out, and the command that adds analysts."""

import io
import json
import zipfile
from datetime import timedelta

from django.contrib.auth.models import User
from django.core.management import CommandError, call_command
from django.test import TestCase
from django.utils import timezone

from zephyrant.desk.models import Case

from .desk import Desk, content


class Finding(Desk):
    def names(self, query: str) -> list[str]:
        found = self.client.get(f"/api/v1/cases?{query}").json()["items"]
        return [case["name"] for case in found]

    def setUp(self) -> None:
        super().setUp()
        self.start(name="Kiln", note="wood fired", tags=["Workshop", " workshop "])
        self.start(name="Apple nets", principal="12,400", tags=["growers"])
        self.start(name="Barge", payment="1,000.00", count="?")

    def test_by_words_figures_notes_and_tags(self) -> None:
        cases_found = {
            "": {"Kiln", "Apple nets", "Barge"},
            "q=kiln": {"Kiln"},
            "q=fired": {"Kiln"},
            "q=%23workshop": {"Kiln"},
            "q=12,400": {"Apple nets"},
            "q=12400": {"Apple nets"},
            "q=1000.00": {"Barge"},
            "q=938.82": {"Kiln"},
            "q=nets+growers": {"Apple nets"},
            "q=nets+workshop": set(),
            "q=%25": set(),
        }
        for query, names in cases_found.items():
            with self.subTest(query):
                self.assertEqual(set(self.names(query)), names)

    def test_sorted(self) -> None:
        self.assertEqual(self.names("sort=name"), ["Apple nets", "Barge", "Kiln"])
        self.assertEqual(self.names("sort=created"), ["Barge", "Apple nets", "Kiln"])
        self.assertEqual(self.client.get("/api/v1/cases?sort=luck").status_code, 422)

    def test_five_thousand_come_by_the_hundred(self) -> None:
        one = Case.objects.get(name="Kiln")
        Case.objects.bulk_create(
            Case(
                owner=self.analyst,
                name=f"Kiln {number}",
                statement=one.statement,
                search=f"kiln {number}",
            )
            for number in range(5_000)
        )
        first = self.client.get("/api/v1/cases").json()
        self.assertEqual((len(first["items"]), first["total"]), (100, 5_003))
        last = self.client.get("/api/v1/cases?start=5000").json()
        self.assertEqual(len(last["items"]), 3)
        self.assertEqual(self.client.get("/api/v1/cases?q=4711").json()["total"], 1)
        # Two of them: how those were judged, and how many are for whoever asks to judge.
        with self.assertNumQueries(9):
            self.client.get("/api/v1/cases?q=kiln")


class Told(Desk):
    def test_what_was_found_in_the_reader_s_marks(self) -> None:
        self.send("PUT", "me", {"marks": "point-comma"})
        asked: dict[str, dict[str, str]] = {
            "payment": {},
            "rate": {"percent": "?", "payment": "950"},
            "count": {"count": "?", "payment": "950"},
            "never": {"count": "?", "payment": "100"},
            "checked": {"payment": "938,82"},
            "half": {"percent": "lots"},
        }
        for name, changes in asked.items():
            self.start(name=name, marks="point-comma", principal="48.250", **changes)
        listed = self.send("GET", "cases").json()["items"]
        told = {each["name"]: each["found"] for each in listed}
        self.assertEqual(
            told["payment"], {"asked": "payment", "value": "938,82", "unit": "EUR", "says": ""}
        )
        self.assertEqual(told["rate"]["asked"], "rate")
        self.assertRegex(told["rate"]["value"], r"^6,\d{4,6} %$")
        self.assertIn("compounded half-yearly", told["rate"]["says"])
        self.assertEqual(told["count"]["value"], "60 payments")
        self.assertIsNone(told["never"]["value"])
        self.assertIn("never repays", told["never"]["says"])
        self.assertEqual(told["checked"]["asked"], "every figure stated")
        self.assertIsNone(told["half"])

    def test_two_versions_held_against_each_other(self) -> None:
        base, mine = content(), content(percent="6.10", note="Ask again.")
        theirs = content(count="4y", tags=["press"])
        found = self.send(
            "POST", "ask/differences", {"mine": mine, "theirs": theirs, "base": base}
        ).json()
        self.assertEqual(
            {each["name"]: (each["mine"], each["theirs"], each["is_mine"]) for each in found},
            {
                "percent": ("6.10 %", "6.35 %", True),
                "count": ("60", "48", False),
                "note": ("Ask again.", "nothing", True),
                "tags": ("nothing", "press", False),
            },
        )


class Binned(Desk):
    def test_deleted_and_brought_back(self) -> None:
        case = self.start()["id"]
        self.assertEqual(self.send("DELETE", f"cases/{case}").status_code, 204)
        self.assertEqual(self.client.get("/api/v1/cases").json()["total"], 0)
        self.assertEqual(self.client.get(f"/api/v1/cases/{case}").status_code, 404)
        self.assertEqual(len(self.client.get("/api/v1/cases/bin").json()["items"]), 1)
        self.send("POST", f"cases/{case}/undelete")
        self.assertEqual(self.client.get("/api/v1/cases").json()["total"], 1)

    def test_after_thirty_days_it_is_gone(self) -> None:
        for days in (29, 31):
            case = self.start()["id"]
            Case.objects.filter(pk=case).update(deleted_at=timezone.now() - timedelta(days=days))
        self.assertEqual(len(self.client.get("/api/v1/cases/bin").json()["items"]), 1)
        self.assertEqual(Case.objects.count(), 1)


class TakenOut(Desk):
    def test_one_all_and_zipped(self) -> None:
        case = self.start(name="Älter Ofen / 2")["id"]
        self.start(name="Älter Ofen / 2", percent="6.10")
        self.start(name="Half", principal="")
        one = self.client.get(f"/api/v1/cases/{case}/document")
        self.assertIn('filename="alter-ofen-2.json"', one["Content-Disposition"])
        again = self.send("POST", "cases/from-document", one.content)
        self.assertEqual(again.json()["document"]["principal"], one.json()["principal"])
        self.assertEqual(len(self.client.get("/api/v1/cases/file?kind=json").json()), 3)
        packed = zipfile.ZipFile(io.BytesIO(self.client.get("/api/v1/cases/file?kind=zip").content))
        self.assertEqual(
            sorted(packed.namelist()),
            ["alter-ofen-2-2.json", "alter-ofen-2-3.json", "alter-ofen-2.json"],
        )
        for name in packed.namelist():
            self.assertEqual(json.loads(packed.read(name))["zephyrant"], "loan/1")

    def test_what_is_not_whole_has_no_document(self) -> None:
        half = self.start(principal="")["id"]
        self.assertEqual(self.client.get(f"/api/v1/cases/{half}/document").status_code, 404)

    def test_a_copy(self) -> None:
        case = self.start(note="as before", tags=["kelp"])["id"]
        copied = self.send("POST", f"cases/{case}/copy").json()
        self.assertEqual(copied["statement"]["name"], "Cider press (copy)")
        self.assertEqual((copied["note"], copied["tags"]), ("as before", ["kelp"]))


class Analysts(TestCase):
    def test_added_by_command(self) -> None:
        said = io.StringIO()
        call_command("add_analyst", "petra", "--first-name", "Petra", stdout=said)
        password = said.getvalue().split()[-1]
        self.assertTrue(User.objects.get(username="petra").check_password(password))
        with self.assertRaises(CommandError):
            call_command("add_analyst", "petra")
