"""Beside a case: its trail, what is asked beside it, what it is pinned beside, and the files."""

import csv
import io
from datetime import timedelta
from typing import Any
from unittest import mock

import openpyxl
import pypdf
from django.utils import timezone

from zephyrant.desk import trail
from zephyrant.desk.models import Case

from .desk import PRESS, Desk


class Trail(Desk):
    def later(self, seconds: int) -> Any:
        """As if so much time had passed."""
        now = timezone.now() + timedelta(seconds=seconds)
        return mock.patch("zephyrant.desk.trail.timezone.now", return_value=now)

    def listed(self, case: str) -> list[dict[str, Any]]:
        return self.send("GET", f"cases/{case}/trail").json()["items"]

    def test_every_answer_is_listed_once_and_led_back_to(self) -> None:
        opened = self.start()
        case = opened["id"]
        for number, percent in enumerate(("6.1", "6.35", "x", "5.9"), 1):
            with self.later(10 * number):
                saved = self.save(case, opened["version"], percent=percent)
                opened = saved.json()
        listed = self.listed(case)
        self.assertEqual([each["number"] for each in listed], [3, 2, 1])
        self.assertEqual([each["stands"] for each in listed], [True, False, False])
        self.assertEqual(
            (listed[-1]["title"], listed[-1]["value"], listed[-1]["total_interest"]),
            ("Payment", "938.82", "8,079.38"),
        )
        self.assertIn("rate 6.35 % to 6.10 %", listed[1]["changes"][0])
        self.assertIn("at 5.90 %", listed[0]["given"])
        point = self.send("GET", f"cases/{case}/trail/1").json()
        self.assertEqual(point["percent"], "6.35")
        self.assertEqual(self.send("GET", f"cases/{case}/trail/9").status_code, 404)

    def test_half_a_figure_is_no_answer_of_its_own(self) -> None:
        opened = self.start(percent="5")
        opened = self.save(opened["id"], opened["version"], percent="6").json()
        self.save(opened["id"], opened["version"], percent="6.3")
        given = [each["given"] for each in self.listed(opened["id"])]
        self.assertEqual(len(given), 2)
        self.assertIn("at 6.30 %", given[0])
        self.assertIn("at 5.00 %", given[1])

    def test_without_an_answer_nothing_is_listed(self) -> None:
        opened = self.start(count="?", payment="100")
        self.assertEqual(self.listed(opened["id"]), [])

    def test_named_and_kept_when_others_go(self) -> None:
        opened = self.start()
        case = opened["id"]
        named = self.send("PUT", f"cases/{case}/trail/1", {"name": "  as first  offered "})
        self.assertEqual(named.status_code, 204)
        with mock.patch.object(trail, "MOST_POINTS", 2):
            for number, percent in enumerate(("6.1", "6.2", "6.3"), 1):
                with self.later(10 * number):
                    opened = self.save(case, opened["version"], percent=percent).json()
        self.assertEqual([each["number"] for each in self.listed(case)], [4, 3, 1])
        self.assertEqual(self.listed(case)[-1]["name"], "as first offered")

    def test_naming_is_changing(self) -> None:
        case, other = self.start()["id"], self.colleague()
        self.send("PUT", f"cases/{case}/shares", [{"username": "odo", "may_edit": False}])
        refused = self.send("PUT", f"cases/{case}/trail/1", {"name": "mine"}, other)
        self.assertEqual(refused.status_code, 403)
        refused = self.send("PUT", f"cases/{case}/asides", {"base": 1}, other)
        self.assertEqual(refused.status_code, 403)


class Kept(Desk):
    def test_what_is_asked_is_kept_without_a_step_or_a_version(self) -> None:
        opened = self.start()
        asides = {
            "moves": {
                "varied": [{"path": "rate.percent", "typed": "6; 7"}],
                "results": ["answer"],
            },
            "more": {"each": "100", "instead": "", "lump": "", "at": "12"},
            "points": {"percent": "5.85", "points": "1", "ends": ""},
            "pins": [],
            "base": 0,
        }
        kept = self.send("PUT", f"cases/{opened['id']}/asides", asides)
        self.assertEqual(kept.status_code, 204)
        again = self.send("GET", f"cases/{opened['id']}").json()
        self.assertEqual((again["asides"], again["version"]), (asides, opened["version"]))
        self.assertEqual(
            len(self.send("GET", f"cases/{opened['id']}/revisions").json()["items"]), 1
        )

    def test_too_many_pins(self) -> None:
        case = self.start()["id"]
        pins = [{"case": case, "point": None}] * 6
        refused = self.send("PUT", f"cases/{case}/asides", {"pins": pins})
        self.assertEqual(refused.status_code, 422)


class SideBySide(Desk):
    def setUp(self) -> None:
        super().setUp()
        self.case = self.start()["id"]
        self.other = self.start(name="Kiln", percent="6.1")["id"]
        pins = [{"case": self.case, "point": 1}, {"case": self.other}]
        self.send("PUT", f"cases/{self.case}/asides", {"pins": pins, "base": 0})

    def row(self, name: str) -> dict[str, Any]:
        beside = self.send("GET", f"cases/{self.case}/side-by-side").json()
        return next(row for row in [*beside["terms"], *beside["results"]] if row["name"] == name)

    def test_cases_and_answers_against_the_base(self) -> None:
        # Payments by the annuity's formula in floats.
        month = (1 + 0.061 / 2) ** (1 / 6) - 1
        payment = 48250 * month / (1 - (1 + month) ** -60)
        cells = self.row("Payment")["cells"]
        self.assertEqual([cell["value"] for cell in cells], ["938.82", "938.82", f"{payment:.2f}"])
        gap = round(payment, 2) - 938.82
        self.assertEqual(cells[2]["differs"], f"−{-gap:.2f}")
        self.assertEqual(cells[2]["percent"], f"−{-100 * gap / 938.82:.2f} %")
        effective = 100 * ((1 + 0.061 / 2) ** 2 - (1 + 0.0635 / 2) ** 2)
        differs = self.row("Effective rate a year")["cells"][2]["differs"]
        self.assertAlmostEqual(float(differs.strip("−bp ")), -100 * effective, delta=0.01)
        self.assertTrue(self.row("Rate")["stands_out"])
        self.assertFalse(self.row("Amount lent")["stands_out"])

    def test_what_is_gone_says_so_in_its_place(self) -> None:
        self.send("DELETE", f"cases/{self.other}")
        beside = self.send("GET", f"cases/{self.case}/side-by-side").json()
        self.assertEqual(beside["wrong"][:2], [None, None])
        self.assertIn("deleted", beside["wrong"][2])
        self.assertIsNone(beside["lines"][2])
        Case.objects.get(pk=self.case).trail.all().delete()
        beside = self.send("GET", f"cases/{self.case}/side-by-side").json()
        self.assertIn("no longer on the trail", beside["wrong"][1])
        for kind in ("csv", "xlsx", "pdf"):
            file = self.send("GET", f"cases/{self.case}/side-by-side/file?kind={kind}")
            self.assertEqual(file.status_code, 200)

    def test_nobody_elses_case_can_be_pinned(self) -> None:
        other = self.colleague()
        theirs = self.send("POST", "cases", {"statement": PRESS}, other).json()["id"]
        pinned = {"pins": [{"case": theirs}]}
        self.send("PUT", f"cases/{self.case}/asides", pinned)
        beside = self.send("GET", f"cases/{self.case}/side-by-side").json()
        self.assertIn("no longer shared", beside["wrong"][1])
        self.assertNotIn(PRESS["name"], beside["names"][1])

    def test_files(self) -> None:
        Case.objects.filter(pk=self.other).update(
            statement={**PRESS, "name": "=HYPERLINK(1)", "percent": "6.1"}, name="=HYPERLINK(1)"
        )

        def file(kind: str) -> Any:
            return self.send("GET", f"cases/{self.case}/side-by-side/file?kind={kind}")

        table = list(csv.reader(io.StringIO(file("csv").content.decode("utf-8-sig"))))
        self.assertEqual(table[0][3], "'=HYPERLINK(1) (EUR)")
        (payment,) = (row for row in table if row[0] == "Total paid")
        self.assertEqual(payment[1], "56329.38")
        sheet = openpyxl.load_workbook(io.BytesIO(file("xlsx").content)).active
        assert sheet is not None
        texts = [cell.value for row in sheet.iter_rows() for cell in row if cell.value is not None]
        self.assertIn("=HYPERLINK(1) (EUR)", texts)
        self.assertIn(938.82, texts)
        self.assertTrue(any(str(text).startswith("=D") for text in texts))
        text = pypdf.PdfReader(io.BytesIO(file("pdf").content)).pages[0].extract_text()
        self.assertIn("56,329.38", text)
        self.assertIn("Side by side".lower(), text.lower())
