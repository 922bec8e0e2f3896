"""Nobody else reads a case: strangers, sharing, sign-in."""

import json
from typing import Any
from unittest import mock

from axes.utils import reset
from django.contrib.auth.hashers import make_password
from django.contrib.auth.models import User
from django.test import Client, TestCase

from zephyrant.desk import hashing
from zephyrant.desk.admin import SIGN_IN
from zephyrant.desk.models import Case

from .desk import Desk, content


class Strangers(Desk):
    def every_way(self, case: str) -> list[tuple[str, str, Any]]:
        """Every endpoint that takes the id of a case."""
        return [
            ("GET", f"cases/{case}", None),
            ("PUT", f"cases/{case}", {**content(percent="1"), "version": 1}),
            ("DELETE", f"cases/{case}", None),
            ("POST", f"cases/{case}/undelete", None),
            ("POST", f"cases/{case}/copy", None),
            ("GET", f"cases/{case}/document", None),
            ("GET", f"cases/{case}/revisions", None),
            ("GET", f"cases/{case}/revisions/1", None),
            ("POST", f"cases/{case}/revisions/1/restore", {"version": 1}),
            ("GET", f"cases/{case}/schedule", None),
            ("GET", f"cases/{case}/statement", None),
            ("GET", f"cases/{case}/shares", None),
            ("PUT", f"cases/{case}/shares", []),
            ("GET", f"cases/{case}/trail", None),
            ("GET", f"cases/{case}/trail/1", None),
            ("PUT", f"cases/{case}/trail/1", {"name": "mine"}),
            ("PUT", f"cases/{case}/asides", {}),
            ("GET", f"cases/{case}/side-by-side", None),
            ("GET", f"cases/{case}/side-by-side/file", None),
            ("GET", f"cases/{case}/reviews", None),
            ("POST", f"cases/{case}/reviews", {"reviewer": "odo", "version": 1}),
            ("POST", f"cases/{case}/reviews/1/approve", {}),
            ("POST", f"cases/{case}/reviews/1/send-back", {"said": "No."}),
            ("POST", f"cases/{case}/reviews/1/take-back", None),
            ("POST", f"cases/{case}/comments", {"text": "Mine."}),
            ("POST", f"cases/{case}/new-version", {}),
        ]

    def test_404_by_every_endpoint(self) -> None:
        case, other = self.start()["id"], self.colleague()
        named = {path.partition(case)[2] for _, path, _ in self.every_way(case)}
        paths = self.client.get("/api/v1/openapi.json").json()["paths"]
        known = {
            path.partition("{case_id}")[2].replace("{number}", "1")
            for path in paths
            if "{case_id}" in path
        }
        self.assertEqual(named, known, "an endpoint is missing from this test")
        for method, path, sent in self.every_way(case):
            with self.subTest(method=method, path=path):
                self.assertEqual(self.send(method, path, sent, other).status_code, 404)
        self.assertEqual(Case.objects.get().statement["percent"], "6.35")

    def test_not_in_lists_searches_and_exports(self) -> None:
        self.start(name="Secret still", note="confidential")
        other = self.colleague()
        for path in ("cases", "cases?q=secret", "cases?q=48250"):
            self.assertEqual(self.send("GET", path, None, other).json()["total"], 0)
        self.assertEqual(self.send("GET", "cases/file?kind=json", None, other).json(), [])
        self.assertNotIn(b"secret", self.send("GET", "cases/file?kind=zip", None, other).content)
        self.assertEqual(self.send("GET", "cases/bin", None, other).json()["items"], [])

    def test_401_without_a_session(self) -> None:
        case, nobody = self.start()["id"], Client()
        everything = [
            *self.every_way(case),
            *[("GET", path, None) for path in ("me", "words", "cases", "colleagues")],
            *[
                ("GET", path, None)
                for path in ("cases/file?kind=json", "cases/file?kind=zip", "cases/bin")
            ],
            ("POST", "cases", content()),
            ("POST", "cases/from-document", {}),
            ("POST", "solve", {}),
            ("POST", "work", {}),
            ("POST", "ask/equivalent-rates", {}),
            ("POST", "ask/requoting", {}),
            ("POST", "ask/repacing", {}),
            ("POST", "ask/balance-at", {}),
            ("POST", "ask/period-totals", {}),
            ("POST", "ask/payoff", {}),
            ("POST", "ask/rate-curve", {}),
            ("POST", "ask/sensitivity", {}),
            ("POST", "ask/variant", {}),
            ("POST", "ask/paying-more", {}),
            ("POST", "ask/points", {}),
            ("POST", "ask/reconciliation", {}),
            ("POST", "ask/comparison", {}),
            ("POST", "cases/from-flows", {}),
            ("PUT", "me", {}),
            ("PUT", "password", {}),
            ("DELETE", "session", None),
        ]
        for method, path, sent in everything:
            with self.subTest(method=method, path=path):
                self.assertEqual(self.send(method, path, sent, nobody).status_code, 401)


class Sharing(Desk):
    def test_reading_is_not_changing(self) -> None:
        case, other = self.start()["id"], self.colleague()
        path = f"cases/{case}"
        self.send("PUT", f"{path}/shares", [{"username": "odo", "may_edit": False}])
        opened = self.send("GET", path, None, other).json()
        self.assertEqual((opened["owner"], opened["may_edit"]), ("ilse", False))
        self.assertEqual(self.save(case, 1, other, percent="1").status_code, 403)
        self.assertEqual(self.send("DELETE", path, None, other).status_code, 403)
        self.assertEqual(self.send("GET", f"{path}/shares", None, other).status_code, 403)
        self.assertEqual(self.send("PUT", f"{path}/shares", [], other).status_code, 403)
        self.assertEqual(self.send("POST", f"{path}/copy", None, other).status_code, 201)
        self.send("PUT", f"{path}/shares", [])
        self.assertEqual(self.send("GET", path, None, other).status_code, 404)

    def test_changing(self) -> None:
        case, other = self.start()["id"], self.colleague()
        self.send("PUT", f"cases/{case}/shares", [{"username": "odo", "may_edit": True}])
        self.assertEqual(self.save(case, 1, other, percent="5").status_code, 200)
        self.assertEqual(self.send("GET", "cases", None, other).json()["items"][0]["owner"], "ilse")

    def test_a_name_nobody_has(self) -> None:
        case = self.start()["id"]
        for name in ("nobody", "ilse"):
            refused = self.send(
                "PUT", f"cases/{case}/shares", [{"username": name, "may_edit": True}]
            )
            self.assertEqual(refused.status_code, 422)

    def test_a_deleted_case_is_gone_for_those_it_was_shared_with(self) -> None:
        case, other = self.start()["id"], self.colleague()
        self.send("PUT", f"cases/{case}/shares", [{"username": "odo", "may_edit": True}])
        self.send("DELETE", f"cases/{case}")
        self.assertEqual(self.send("GET", f"cases/{case}", None, other).status_code, 404)


class SigningIn(Desk):
    def enter(self, client: Client, password: str, **extra: Any) -> Any:
        sent = json.dumps({"username": "ilse", "password": password})
        return client.post("/api/v1/session", sent, "application/json", **extra)

    def test_in_and_out(self) -> None:
        client = Client()
        self.assertEqual(self.enter(client, "sorrel-and-flint").status_code, 200)
        self.assertEqual(client.get("/api/v1/me").json()["username"], "ilse")
        self.assertEqual(client.delete("/api/v1/session").status_code, 204)
        self.assertEqual(client.get("/api/v1/me").status_code, 401)

    def test_a_planted_session_is_worth_nothing(self) -> None:
        client = Client()
        planted = client.session
        planted["planted"] = True
        planted.save()
        assert planted.session_key
        client.cookies["sessionid"] = planted.session_key
        self.enter(client, "sorrel-and-flint")
        self.assertNotEqual(client.cookies["sessionid"].value, planted.session_key)
        thief = Client()
        thief.cookies["sessionid"] = planted.session_key
        self.assertEqual(thief.get("/api/v1/me").status_code, 401)

    def test_from_another_site(self) -> None:
        careful = Client(enforce_csrf_checks=True)
        self.assertEqual(self.enter(careful, "sorrel-and-flint").status_code, 403)
        careful.get("/")
        token = careful.cookies["csrftoken"].value
        self.assertEqual(
            self.enter(careful, "sorrel-and-flint", headers={"X-CSRFToken": token}).status_code,
            200,
        )
        for method, path, sent in (
            ("post", "cases", content()),
            ("put", "me", {"marks": "plain"}),
            ("delete", "session", None),
        ):
            ask = getattr(careful, method)
            refused = ask(f"/api/v1/{path}", json.dumps(sent), content_type="application/json")
            self.assertEqual(refused.status_code, 403, path)

    def test_the_door_brings_the_token(self) -> None:
        careful = Client(enforce_csrf_checks=True)
        careful.get("/api/v1/door")
        token = careful.cookies["csrftoken"].value
        entered = self.enter(careful, "sorrel-and-flint", headers={"X-CSRFToken": token})
        self.assertEqual(entered.status_code, 200)

    def test_throttled_and_open_again(self) -> None:
        client = Client()
        statuses = [self.enter(client, "guess").status_code for _ in range(6)]
        self.assertEqual(statuses, [401, 401, 401, 401, 429, 429])
        self.assertEqual(self.enter(client, "sorrel-and-flint").status_code, 429)
        reset(username="ilse")
        self.assertEqual(self.enter(client, "sorrel-and-flint").status_code, 200)

    def test_another_password(self) -> None:
        elsewhere = Client()
        elsewhere.force_login(self.analyst)
        cases: list[tuple[str, str, list[str]]] = [
            ("wrong", "teasel-and-granite", ["old"]),
            ("sorrel-and-flint", "12345678", ["new", "new"]),
            ("sorrel-and-flint", "teasel-and-granite", []),
        ]
        for old, new, fields in cases:
            answer = self.send("PUT", "password", {"old": old, "new": new})
            errors = [] if answer.status_code == 204 else answer.json()["errors"]
            self.assertEqual([error["field"] for error in errors], fields)
        self.assertEqual(self.client.get("/api/v1/me").status_code, 200)
        self.assertEqual(elsewhere.get("/api/v1/me").status_code, 401)

    def test_the_administration_is_for_administrators(self) -> None:
        self.assertEqual(self.client.get("/admin/").status_code, 302)
        self.assertEqual(self.client.get("/admin/login/").status_code, 403)
        User.objects.filter(pk=self.analyst.pk).update(is_staff=True, is_superuser=True)
        page = self.client.get("/admin/")
        self.assertContains(page, "Users")
        self.assertNotContains(page, "Case")
        self.assertEqual(self.client.get("/admin/login/")["Location"], "/admin/")

    def test_there_is_one_way_in(self) -> None:
        """The administration checks no password of its own, however it is asked."""
        proof = {"username": "ilse", "password": "sorrel-and-flint", "next": "/admin/"}
        with mock.patch.object(hashing.OneAtATime, "verify") as verify:
            for path in ("/admin/login/", "/admin/login/?next=/admin/desk/token/"):
                for answer in (Client().get(path), Client().post(path, proof)):
                    self.assertEqual((answer.status_code, answer["Location"]), (302, SIGN_IN))
        verify.assert_not_called()
        changing = self.client.post("/admin/password_change/", {"old_password": "x"})
        self.assertEqual((changing.status_code, changing["Location"]), (302, "/"))


class Hashed(TestCase):
    """How passwords are kept, as on a desk."""

    def test_by_argon2id_as_owasp_asks(self) -> None:
        # OWASP Password Storage Cheat Sheet (2024): Argon2id with at least 19 MiB of memory, 2
        # passes and 1 lane; from memory.
        kept = User.objects.create_user("ilse", password="sorrel-and-flint").password
        self.assertRegex(kept, r"^argon2\$argon2id\$v=19\$m=19456,t=2,p=1\$")

    def test_one_hashed_before_is_good_and_kept_anew(self) -> None:
        older = make_password("sorrel-and-flint", hasher="pbkdf2_sha256")
        self.assertRegex(older, r"^pbkdf2_sha256\$1000000\$")
        User.objects.create(username="ilse", password=older)
        for right, status in (("wrong", 401), ("sorrel-and-flint", 200)):
            answer = Client().post(
                "/api/v1/session",
                json.dumps({"username": "ilse", "password": right}),
                content_type="application/json",
            )
            self.assertEqual(answer.status_code, status)
        self.assertTrue(User.objects.get().password.startswith("argon2$argon2id$"))
