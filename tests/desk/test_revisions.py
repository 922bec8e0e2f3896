"""Revisions: what changed, when, by whom; brought back; answered by a newer core."""

from datetime import timedelta
from typing import Any
from unittest.mock import patch

from django.utils import timezone

from zephyrant.desk import revisions
from zephyrant.desk.models import Revision

from .desk import Desk


class Revisions(Desk):
    def listed(self, case: str) -> list[list[str]]:
        found = self.client.get(f"/api/v1/cases/{case}/revisions").json()["items"]
        return [revision["changes"] for revision in reversed(found)]

    def test_every_step_in_words(self) -> None:
        case = self.start()["id"]
        steps: list[dict[str, Any]] = [
            {"percent": "6.10"},
            {"percent": "6.10", "count": "48"},
            {"percent": "6.10", "count": "48", "timing": "in-advance"},
            {"percent": "6.10", "count": "48", "timing": "in-advance", "note": "Ask again."},
            {"percent": "6.10", "count": "?", "payment": "950"},
        ]
        for version, step in enumerate(steps, 1):
            self.assertEqual(self.save(case, version, **step).status_code, 200)
        self.assertEqual(
            self.listed(case),
            [
                ["started"],
                ["rate 6.35 % to 6.10 %, nominal, compounded half-yearly"],
                ["number of payments 60 to 48"],
                ["paid in arrears to in advance"],
                ["note changed"],
                [
                    "number of payments 48 to ?",
                    "payment ? to 950.00",
                    "paid in advance to in arrears",
                    "note changed",
                ],
            ],
        )

    def test_what_was_given_and_found(self) -> None:
        case = self.start()["id"]
        self.save(case, 1, percent="6.35 or so")
        self.save(case, 2, count="?", payment="100")
        for number, given, found in (
            (1, "We lend 48,250.00 EUR at 6.35 % a year", "Answer then: 938.82"),
            (2, "rate “6.35 or so”; number of payments 60; payment ?", "It was not whole then."),
            (3, "repaid by ? monthly payments of 100.00", "never repays"),
        ):
            opened = self.send("GET", f"cases/{case}/revisions/{number}").json()
            self.assertIn(given, opened["given"])
            self.assertIn(found, opened["found"])

    def test_a_series_of_keystrokes_is_one_step(self) -> None:
        case = self.start()["id"]
        for version, typed in enumerate(("6", "6.", "6.1", "6.10", "6.105"), 1):
            self.save(case, version, percent=typed)
        told = "rate 6.35 % to 6.105 %, nominal, compounded half-yearly"
        self.assertEqual(self.listed(case), [["started"], [told]])

    def test_after_a_pause_a_step_of_its_own(self) -> None:
        case = self.start()["id"]
        self.save(case, 1, percent="6.10")
        Revision.objects.update(saved_at=timezone.now() - timedelta(minutes=3))
        self.save(case, 2, percent="6.05")
        self.assertEqual(len(self.listed(case)), 3)

    def test_another_analysts_step_is_another(self) -> None:
        case = self.start()["id"]
        other = self.colleague()
        self.send("PUT", f"cases/{case}/shares", [{"username": "odo", "may_edit": True}])
        self.save(case, 1, percent="6.10")
        self.save(case, 2, other, percent="6.00")
        found = self.client.get(f"/api/v1/cases/{case}/revisions").json()["items"]
        self.assertEqual([revision["by"] for revision in found], ["odo", "ilse", "ilse"])

    def test_saving_what_is_kept_changes_nothing(self) -> None:
        case = self.start()["id"]
        self.assertEqual(self.save(case, 1).json()["version"], 1)
        self.assertEqual(self.listed(case), [["started"]])

    def test_opened_with_the_answer_it_had(self) -> None:
        case = self.start()["id"]
        self.save(case, 1, percent="6.10")
        first = self.client.get(f"/api/v1/cases/{case}/revisions/1").json()
        self.assertEqual(first["answer"]["value"], "938.82")
        self.assertEqual(first["statement"]["percent"], "6.35")
        self.assertEqual(first["differs"], [])

    def test_brought_back(self) -> None:
        case = self.start()["id"]
        self.save(case, 1, percent="6.10", note="cheaper")
        back = self.send("POST", f"cases/{case}/revisions/1/restore", {"version": 2})
        self.assertEqual(back.json()["statement"]["percent"], "6.35")
        self.assertEqual(back.json()["note"], "")
        self.assertEqual(len(self.listed(case)), 3)
        late = self.send("POST", f"cases/{case}/revisions/2/restore", {"version": 2})
        self.assertEqual(late.status_code, 409)
        nowhere = self.send("POST", f"cases/{case}/revisions/9/restore", {"version": 3})
        self.assertEqual(nowhere.status_code, 404)

    def test_a_newer_core_is_held_against_the_answer_kept(self) -> None:
        case = self.start()["id"]
        kept = Revision.objects.get()
        assert kept.answer
        kept.answer["value"] = "938.80"
        kept.save()
        path = f"/api/v1/cases/{case}"
        self.assertEqual(self.client.get(path).json()["differs"], [])
        with patch.object(revisions, "ENGINE", "zephyrant-loans 9.9.9"):
            self.assertEqual(
                self.client.get(path).json()["differs"],
                ["the answer was 938.80, now 938.82 (0.02)"],
            )
