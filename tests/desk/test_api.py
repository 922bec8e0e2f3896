"""The API: solving, cases, and what it refuses."""

import json
from unittest.mock import patch

from django.contrib.auth.models import User
from django.test import Client, TestCase, override_settings

from tests.loans.documents import document
from zephyrant.desk import heavy
from zephyrant.desk.demo import CASES, lay_the_desk
from zephyrant.desk.models import Case
from zephyrant.loans import BudgetSpentError

from .desk import PRESS, Desk, content


class Solving(Desk):
    def test_what_costs_too_much_is_an_answer_that_says_so(self) -> None:
        with patch.object(heavy, "answered", side_effect=BudgetSpentError):
            told = self.send("POST", "solve", document(count=9_000, every="day"))
        self.assertEqual(told.status_code, 200, told.content)
        self.assertEqual((told.json()["limit"], told.json()["solutions"]), ("count", []))
        self.assertIn("9000 payments", told.json()["reason"])

    def test_a_document(self) -> None:
        answer = self.send("POST", "solve", document())
        self.assertEqual(answer.status_code, 200)
        self.assertEqual(answer.json()["value"], "938.82")

    def test_bad_documents_say_where(self) -> None:
        cases = [
            (document(principal="?"), ["principal", "payment"]),
            (document(principal="-1"), ["principal"]),
            (document(rate={"percent": "10000"}), ["rate.percent"]),
            (document(count=10**9), ["count"]),
            (document(surplus=1), ["surplus"]),
            (document(currency="EUX"), ["currency"]),
            ([], [""]),
            ("nonsense", [""]),
            ('{"principal": NaN}', [""]),
            ('{"principal": Infinity}', [""]),
            ("[" * 100_000, [""]),
            ('{"a": "' + "x" * 2_000_000 + '"}', [""]),
            (b"\xff\xfe", [""]),
        ]
        for sent, fields in cases:
            with self.subTest(str(sent)[:60]):
                answer = self.send("POST", "solve", sent)
                self.assertEqual(answer.status_code, 422, answer.content[:300])
                self.assertEqual([error["field"] for error in answer.json()["errors"]], fields)

    def test_a_statement_worked(self) -> None:
        worked = self.send("POST", "work", PRESS).json()
        self.assertEqual(worked["answer"]["value"], "938.82")
        self.assertEqual(worked["readings"]["count"]["value"], "60")
        wrong = self.send("POST", "work", {**PRESS, "principal": "lots"}).json()
        self.assertEqual([error["field"] for error in wrong["errors"]], ["principal"])

    def test_openapi_is_served(self) -> None:
        schema = self.client.get("/api/v1/openapi.json").json()
        self.assertIn("/api/v1/solve", schema["paths"])


class Cases(Desk):
    def test_kept_and_found_again(self) -> None:
        started = self.start()
        opened = self.client.get(f"/api/v1/cases/{started['id']}").json()
        self.assertEqual(opened["statement"]["principal"], "48,250")
        self.assertEqual(opened["document"]["principal"], "48250")
        listed = self.client.get("/api/v1/cases").json()
        self.assertEqual([case["found"]["value"] for case in listed["items"]], ["938.82"])

    def test_saved(self) -> None:
        started = self.start()
        saved = self.save(started["id"], started["version"], percent="6.10")
        self.assertEqual(saved.status_code, 200)
        self.assertEqual(saved.json()["version"], started["version"] + 1)
        self.assertEqual(saved.json()["document"]["rate"]["percent"], "6.1")

    def test_half_typed_is_kept_beside_the_last_whole_document(self) -> None:
        started = self.start()
        saved = self.save(started["id"], 1, percent="6.1o").json()
        self.assertEqual(saved["statement"]["percent"], "6.1o")
        self.assertEqual(saved["document"]["rate"]["percent"], "6.35")

    def test_an_older_version_never_overwrites_a_newer_one(self) -> None:
        case = self.start()["id"]
        first, second = self.save(case, 1, percent="6"), self.save(case, 1, percent="7")
        self.assertEqual((first.status_code, second.status_code), (200, 409))
        self.assertEqual(second.json()["kept"]["statement"]["percent"], "6")
        self.assertEqual(Case.objects.get().statement["percent"], "6")

    def test_a_document_opened(self) -> None:
        opened = self.send("POST", "cases/from-document", document())
        self.assertEqual(opened.status_code, 201)
        self.assertEqual(opened.json()["statement"]["principal"], "48,250.00")

    def test_marks_are_a_setting_and_statements_follow(self) -> None:
        started = self.start()
        self.assertEqual(self.send("PUT", "me", {"marks": "point-comma"}).status_code, 200)
        opened = self.client.get(f"/api/v1/cases/{started['id']}").json()
        self.assertEqual(opened["statement"]["principal"], "48.250,00")
        self.assertEqual(self.send("PUT", "me", {"marks": "roman"}).status_code, 422)

    def test_a_stranger_is_told_nothing(self) -> None:
        started = self.start()
        stranger = Client()
        for path in ("me", "words", "cases", f"cases/{started['id']}"):
            self.assertEqual(stranger.get(f"/api/v1/{path}").status_code, 401, path)
        stranger.force_login(User.objects.create_user("odo"))
        self.assertEqual(stranger.get(f"/api/v1/cases/{started['id']}").status_code, 404)
        self.assertEqual(stranger.get("/api/v1/cases").json()["total"], 0)

    def test_another_sites_request_is_refused(self) -> None:
        careful = Client(enforce_csrf_checks=True)
        careful.force_login(self.analyst)
        refused = careful.post("/api/v1/cases", json.dumps(content()), "application/json")
        self.assertEqual(refused.status_code, 403)


class Page(TestCase):
    def test_headers_keep_scripts_from_elsewhere_out(self) -> None:
        policy = self.client.get("/")["Content-Security-Policy"]
        self.assertIn("default-src 'self'", policy)
        self.assertNotIn("unsafe", policy)

    def test_only_the_demo_has_a_door_of_its_own(self) -> None:
        lay_the_desk()
        self.assertEqual(self.client.post("/api/v1/session/demo").status_code, 404)
        self.assertEqual(self.client.get("/api/v1/door").json(), {"demo": False})
        with override_settings(DEMO=True):
            self.client.post("/api/v1/session/demo")
            self.assertEqual(self.client.get("/api/v1/me").json()["name"], "Maren Tolliver")

    def test_the_demo_shows_something_different_in_each_case(self) -> None:
        lay_the_desk()
        lay_the_desk()
        found = [case.found or {} for case in Case.objects.all()]
        self.assertEqual(len(found), len(CASES))
        self.assertEqual(
            {each["unknown"] for each in found},
            {"payment", "principal", "rate", "count", "balance", None},
        )
        self.assertEqual(len([each for each in found if each["reason"]]), 1)


class TakenOutAndIn(Desk):
    def test_all_cases_taken_out_can_be_taken_in_again(self) -> None:
        for name in ("Kiln", "Loom"):
            self.start(name=name)
        taken = self.client.get("/api/v1/cases/file?kind=json").content
        before = Case.objects.count()
        opened = self.send("POST", "cases/from-documents", taken)
        self.assertEqual((opened.status_code, opened.json()), (201, {"cases": 2, "unanswered": 0}))
        self.assertEqual(Case.objects.count(), before + 2)
        names = sorted(Case.objects.values_list("name", flat=True))
        self.assertEqual(
            [name for name in names if name in ("Kiln", "Loom")], ["Kiln"] * 2 + ["Loom"] * 2
        )
        documents = [case.document for case in Case.objects.filter(name="Kiln")]
        self.assertEqual(documents[0], documents[1])

    def test_one_bad_document_keeps_all_out_and_is_named(self) -> None:
        before = Case.objects.count()
        answer = self.send("POST", "cases/from-documents", [document(), document(principal="-1")])
        self.assertEqual(answer.status_code, 422)
        self.assertEqual([error["field"] for error in answer.json()["errors"]], ["1.principal"])
        self.assertEqual(Case.objects.count(), before)


class FaultsOfOurs(Desk):
    """A mistake of ours in the core is told as one, with an id, and loses nothing."""

    def test_the_api_says_so(self) -> None:
        self.client.raise_request_exception = False
        with (
            patch("zephyrant.loans.solve", side_effect=ZeroDivisionError),
            self.assertLogs("zephyrant.desk.api.base"),
        ):
            answer = self.send("POST", "solve", document())
        self.assertEqual(answer.status_code, 500)
        told = answer.json()
        self.assertEqual(set(told), {"errors", "fault", "request"})
        self.assertEqual(told["errors"][0]["field"], "")
        self.assertIn(told["fault"], told["errors"][0]["message"])

    def test_what_was_typed_is_saved_all_the_same(self) -> None:
        started = self.start()
        content = {"statement": {**PRESS, "count": "48"}, "note": "", "tags": []}
        with (
            patch("zephyrant.desk.cases.work_to_keep", side_effect=ZeroDivisionError),
            self.assertLogs("zephyrant.desk.cases"),
        ):
            kept = self.send(
                "PUT", f"cases/{started['id']}", {**content, "version": started["version"]}
            )
        self.assertEqual(kept.status_code, 200)
        self.assertEqual(Case.objects.get(pk=started["id"]).statement["count"], "48")
