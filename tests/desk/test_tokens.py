"""Tokens: what a program may in an analyst's name, for how long; and what it may not."""

import io
from datetime import timedelta
from typing import Any
from unittest import mock

import openpyxl
import pypdf
from django.contrib.auth.models import User
from django.db import OperationalError
from django.test import Client
from django.utils import timezone

from tests.desk.desk import Desk, content
from tests.loans.documents import document
from zephyrant import loans
from zephyrant.desk import tokens
from zephyrant.desk.models import AuditEntry, Case, Token
from zephyrant.outlets.csv_form import CsvForm
from zephyrant.outlets.schedule_csv import csv_of


class WithTokens(Desk):
    def make(self, *may: str, days: int = 30, name: str = "Night run") -> str:
        """A new token's key."""
        made = self.send("POST", "tokens", {"name": name, "may": may, "days": days})
        self.assertEqual(made.status_code, 201, made.content)
        return str(made.json()["key"])

    def ask(self, key: str, method: str, path: str, sent: Any = None, **more: Any) -> Any:
        """A program asks: no cookie, no proof that our own page asks, as the server insists."""
        program = Client(enforce_csrf_checks=True, headers={"authorization": f"Bearer {key}"})
        for name, value in more.items():
            setattr(program, name, value)
        return self.send(method, path, sent, program)


class Held(WithTokens):
    def test_shown_once_and_kept_as_what_only_it_gives(self) -> None:
        key = self.make("read", "compute")
        held = Token.objects.get()
        self.assertNotIn(key, [str(value) for value in vars(held).values()])
        self.assertEqual(held.digest, tokens.digest_of(key))
        self.assertGreater(len(key), 40)
        (listed,) = self.send("GET", "tokens").json()["items"]
        self.assertNotIn("key", listed)
        self.assertEqual((listed["may"], listed["used_at"]), (["read", "compute"], None))
        self.assertTrue(key.startswith(listed["begins"]))
        self.assertNotEqual(key, self.make("read"))

    def test_noted_in_the_log_without_the_key(self) -> None:
        key = self.make("write")
        self.send("DELETE", f"tokens/{Token.objects.get().pk}")
        noted = AuditEntry.objects.filter(what__startswith="token")
        self.assertEqual({each.what for each in noted}, {"token made", "token revoked"})
        for each in noted:
            self.assertIn("Night run", each.about)
            self.assertNotIn(key, each.about)

    def test_when_it_was_last_used(self) -> None:
        key = self.make("compute")
        self.ask(key, "POST", "solve", document())
        used = Token.objects.get().used_at
        assert used is not None
        self.assertLess(timezone.now() - used, timedelta(minutes=1))
        self.ask(key, "POST", "solve", document())
        self.assertEqual(Token.objects.get().used_at, used)

    def test_what_cannot_be_asked_for(self) -> None:
        for sent, field in (
            ({"name": "", "may": ["read"], "days": 1}, "name"),
            ({"name": "  ", "may": ["read"], "days": 1}, "name"),
            ({"name": "x" * 61, "may": ["read"], "days": 1}, "name"),
            ({"name": "\x00", "may": ["read"], "days": 1}, "name"),
            ({"name": "x", "may": [], "days": 1}, "may"),
            ({"name": "x", "may": ["read"] * 9_999, "days": 1}, "may"),
            ({"name": "x", "may": ["dance"], "days": 1}, "may.0"),
            ({"name": "x", "may": ["read"], "days": 0}, "days"),
            ({"name": "x", "may": ["read"], "days": 4_000}, "days"),
        ):
            refused = self.send("POST", "tokens", sent)
            self.assertEqual(refused.status_code, 422, sent)
            self.assertEqual(refused.json()["errors"][0]["field"], field)
        with mock.patch.object(tokens, "MOST_TOKENS", 1):
            self.make("read")
            refused = self.send("POST", "tokens", {"name": "x", "may": ["read"], "days": 1})
        self.assertIn("revoke one first", refused.json()["errors"][0]["message"])

    def test_nobody_elses(self) -> None:
        self.make("read")
        other = self.colleague()
        self.assertEqual(self.send("GET", "tokens", None, other).json()["items"], [])
        path = f"tokens/{Token.objects.get().pk}"
        self.assertEqual(self.send("DELETE", path, None, other).status_code, 404)
        self.assertIsNone(Token.objects.get().revoked_at)

    def test_those_that_ended_long_ago_go(self) -> None:
        self.make("read", name="Old")
        Token.objects.update(revoked_at=timezone.now() - timedelta(days=91))
        self.make("read", name="New")
        self.assertEqual([each.name for each in Token.objects.all()], ["New"])


class Asking(WithTokens):
    def test_solves_without_a_session(self) -> None:
        answer = self.ask(self.make("compute"), "POST", "solve", document())
        self.assertEqual((answer.status_code, answer.json()["value"]), (200, "938.82"))
        self.assertEqual(answer.cookies, {})

    def test_only_what_it_may(self) -> None:
        case = self.start()["id"]
        asked = {
            "read": [("GET", f"cases/{case}"), ("GET", "me"), ("GET", f"cases/{case}/statement")],
            "compute": [("POST", "solve"), ("POST", "ask/line"), ("POST", "solve/schedule")],
            "write": [("POST", "cases"), ("DELETE", f"cases/{case}"), ("PUT", "me")],
        }
        sent = {
            "solve": document(),
            "solve/schedule": document(),
            "ask/line": {"line": "1,000 at 5 % over 1 year"},
            "cases": content(),
            "me": {"marks": "comma-point"},
        }
        keys = {may: self.make(may) for may in asked}
        for may, requests in asked.items():
            for method, path in requests:
                for held, key in keys.items():
                    answer = self.ask(key, method, path, sent.get(path))
                    with self.subTest(path=path, method=method, held=held):
                        if held == may:
                            self.assertLess(answer.status_code, 300, answer.content)
                        else:
                            self.assertEqual(answer.status_code, 403)
                            self.assertIn(f"may not {may}", answer.json()["errors"][0]["message"])

    def test_never_what_belongs_to_the_password(self) -> None:
        key = self.make("read", "compute", "write")
        for method, path, sent in (
            ("GET", "tokens", None),
            ("POST", "tokens", {"name": "x", "may": ["write"], "days": 366}),
            ("DELETE", f"tokens/{Token.objects.get().pk}", None),
            ("PUT", "password", {"old": "sorrel-and-flint", "new": "another one altogether"}),
            ("DELETE", "session", None),
        ):
            answer = self.ask(key, method, path, sent)
            self.assertEqual(answer.status_code, 403, path)
            self.assertIn("sign in", answer.json()["errors"][0]["message"])
        self.assertTrue(User.objects.get().check_password("sorrel-and-flint"))

    def test_one_that_holds_no_more(self) -> None:
        key = self.make("compute")
        token = Token.objects.get()
        self.assertIs(self.send("GET", "tokens").json()["items"][0]["holds"], True)
        for change in (
            {"ends_at": timezone.now() - timedelta(seconds=1)},
            {"revoked_at": timezone.now()},
        ):
            kept = {name: getattr(token, name) for name in change}
            Token.objects.update(**change)
            self.assertEqual(self.ask(key, "POST", "solve", document()).status_code, 401)
            self.assertIs(self.send("GET", "tokens").json()["items"][0]["holds"], False)
            Token.objects.update(**kept)
        User.objects.update(is_active=False)
        self.assertEqual(self.ask(key, "POST", "solve", document()).status_code, 401)
        User.objects.update(is_active=True)
        self.assertEqual(self.ask(key, "POST", "solve", document()).status_code, 200)
        self.assertEqual(self.send("DELETE", f"tokens/{token.pk}").status_code, 204)
        refused = self.ask(key, "POST", "solve", document())
        self.assertEqual(refused.status_code, 401)
        self.assertIn("does not hold", refused.json()["errors"][0]["message"])

    def test_one_of_nobody(self) -> None:
        for key in ("", "zph_" + "x" * 43, "Ä" * 50, "x" * 9_000):
            self.assertEqual(self.ask(key, "POST", "solve", document()).status_code, 401, key[:9])
        # A session beside it does not make it good.
        self.client.defaults["HTTP_AUTHORIZATION"] = "Bearer zph_nothing"
        self.assertEqual(self.send("GET", "me").status_code, 401)

    def test_what_is_not_theirs_does_not_exist(self) -> None:
        case = self.send("POST", "cases", content(), self.colleague()).json()["id"]
        key = self.make("read", "write")
        for method, path in (
            ("GET", f"cases/{case}"),
            ("GET", f"cases/{case}/schedule"),
            ("DELETE", f"cases/{case}"),
        ):
            self.assertEqual(self.ask(key, method, path).status_code, 404)
        self.assertEqual(self.ask(key, "GET", "cases").json()["total"], 0)

    def test_a_case_by_token_is_the_analysts(self) -> None:
        made = self.ask(self.make("write"), "POST", "cases", content())
        self.assertEqual(made.status_code, 201)
        self.assertEqual(Case.objects.get().owner, self.analyst)

    def test_that_it_is_used_is_never_in_the_way(self) -> None:
        key = self.make("compute")
        with mock.patch.object(tokens, "Token") as failing:
            failing.objects = mock.Mock(wraps=Token.objects)
            failing.objects.select_related = Token.objects.select_related
            failing.objects.filter.return_value.update.side_effect = OperationalError("locked")
            self.assertEqual(self.ask(key, "POST", "solve", document()).status_code, 200)


class FilesOfDocuments(WithTokens):
    def test_a_schedule_without_a_case(self) -> None:
        key, loan = self.make("compute"), loans.check(document())
        answer = self.ask(key, "POST", "solve/schedule", document())
        self.assertEqual(answer.content, csv_of(loan, CsvForm(marked=True)))
        plain = self.ask(key, "POST", "solve/schedule?bom=false", document())
        self.assertEqual(plain.content, csv_of(loan))
        self.assertIn("cider-press-schedule.csv", answer["Content-Disposition"])
        workbook = self.ask(key, "POST", "solve/schedule?kind=xlsx", document())
        sheet = openpyxl.load_workbook(io.BytesIO(workbook.content), data_only=True)["Schedule"]
        cells = [cell for row in sheet.iter_rows(values_only=True) for cell in row]
        self.assertIn(252.01, cells)
        self.assertIn(939, cells)

    def test_a_statement_without_a_case(self) -> None:
        key = self.make("compute")
        answer = self.ask(key, "POST", "solve/statement?note=Seen", document(name=""))
        pages = pypdf.PdfReader(io.BytesIO(answer.content)).pages
        told = "\n".join(page.extract_text() for page in pages)
        for figure in ("938.82", "8,079.38", "Seen"):
            self.assertIn(figure, told)
        self.assertIn(".pdf", answer["Content-Disposition"])
        self.assertEqual(Case.objects.count(), 0)

    def test_what_has_no_schedule_and_what_is_no_loan(self) -> None:
        key = self.make("compute")
        never = document(count="?", payment="1")
        self.assertEqual(self.ask(key, "POST", "solve/schedule?kind=xlsx", never).status_code, 404)
        self.assertEqual(self.ask(key, "POST", "solve/statement", never).status_code, 200)
        wrong = self.ask(key, "POST", "solve/schedule", document(principal="?"))
        self.assertEqual(wrong.status_code, 422)


class Administered(WithTokens):
    def test_an_administrator_sees_and_ends_them_and_never_the_key(self) -> None:
        key = self.make("read")
        User.objects.filter(pk=self.analyst.pk).update(is_staff=True, is_superuser=True)
        held = Token.objects.get()
        for path in ("", f"{held.pk}/change/"):
            page = self.client.get(f"/admin/desk/token/{path}").content.decode()
            self.assertIn("Night run", page)
            self.assertNotIn(held.digest, page)
        self.assertEqual(self.client.get("/admin/desk/token/add/").status_code, 403)
        self.client.post(f"/admin/desk/token/{held.pk}/delete/", {"post": "yes"})
        self.assertEqual(self.ask(key, "GET", "me").status_code, 401)


class ThePage(WithTokens):
    def test_it_comes_with_the_application(self) -> None:
        page = self.client.get("/api/v1/docs")
        told = page.content.decode()
        self.assertEqual(page.status_code, 200)
        self.assertIn("img-src 'self' data:", page["Content-Security-Policy"])
        self.assertNotIn("img-src", self.client.get("/")["Content-Security-Policy"])
        self.assertIn("/api/v1/openapi.json", told)
        self.assertNotIn("https://", told)
        self.assertIn("Bearer $ZEPHYRANT_TOKEN", told)
