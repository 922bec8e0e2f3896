"""What stands before every request: refusals in one shape, ids, logs, headers, health."""

import csv
import io
import json
import os
import time
from contextlib import ExitStack
from datetime import timedelta
from typing import Any
from unittest import mock

from axes.models import AccessAttempt
from django.conf import settings
from django.contrib.auth.models import User
from django.contrib.sessions.models import Session
from django.core.management import call_command
from django.db import OperationalError, connection, transaction
from django.db.backends.sqlite3.base import DatabaseWrapper as SQLite
from django.test import Client, RequestFactory, SimpleTestCase, override_settings
from django.utils import timezone

from zephyrant.desk import cases, doorman, hashing, heavy, throttle
from zephyrant.desk.in_turn import base
from zephyrant.desk.models import AuditEntry, Case
from zephyrant.loans import BudgetSpentError

from .desk import Desk, DeskOnDisk

PASSWORD = "sorrel-and-flint"
LOAN = {
    "zephyrant": "loan/1",
    "currency": "EUR",
    "principal": "48250",
    "rate": {"percent": "6.35"},
    "count": 60,
    "payment": "?",
}


class Refusals(Desk):
    """Whatever refuses under /api, it is told in the API's own shape, with the request's id."""

    def test_no_text_holds_control_characters(self) -> None:
        named = {**LOAN, "name": "A\x00B"}
        clauses = {**LOAN, "clauses": [{"at": 1, "charge": "5", "name": "\x1b[2J"}]}
        for sent, field in ((named, "name"), (clauses, "clauses.0.name")):
            refused = self.send("POST", "solve", sent)
            self.assertEqual(refused.status_code, 422, refused.content)
            (error,) = refused.json()["errors"]
            self.assertEqual(error["field"], field)
            self.assertIn("control characters", error["message"])
        # A text that only speaks of one, lines and tabs are as they were.
        spoken = {**LOAN, "name": "written \\u0000"}
        self.assertEqual(self.send("POST", "solve", spoken).status_code, 200)
        noted = {"statement": {}, "note": "one\n\ttwo"}
        self.assertEqual(self.send("POST", "cases", noted).json()["note"], "one\n\ttwo")
        refused = self.client.get("/api/v1/cases?q=a%00b")
        self.assertEqual((refused.status_code, refused.json()["errors"][0]["field"]), (422, "q"))

    def test_each_in_the_one_shape(self) -> None:
        nothing = f"/api/v1/{'x' * 30}"
        for status, answer in (
            (404, self.client.get(nothing)),
            (404, self.client.get("/api/v1/")),
            (404, Client().post(nothing)),
            (405, self.client.delete("/api/v1/words")),
            (415, self.client.post("/api/v1/solve", {"a": "b"})),
            (415, self.client.post("/api/v1/work", "a=b", content_type="text/plain")),
            (400, self.client.get("/api/v1/words", headers={"host": "elsewhere.example"})),
            (401, Client().get("/api/v1/words")),
            (422, self.send("POST", "solve", {})),
        ):
            with self.subTest(status, path=answer.request["PATH_INFO"]):
                told = answer.json()
                self.assertEqual(answer.status_code, status)
                self.assertEqual(set(told), {"errors", "request"})
                self.assertTrue(all(error["message"] for error in told["errors"]))
                self.assertEqual(told["request"], answer["X-Request-Id"])
                self.assertEqual(int(answer["Content-Length"]), len(answer.content))

    def test_an_id_given_by_the_proxy_is_kept_if_it_is_one(self) -> None:
        for given, kept in (("0123456789abcdef", True), ("<script>", False), ("x", False)):
            answer = self.client.get("/api/v1/words", headers={"x-request-id": given})
            self.assertEqual(answer["X-Request-Id"] == given, kept)

    def test_headers(self) -> None:
        self.assertEqual(self.client.get("/api/v1/me")["Cache-Control"], "no-store")
        self.assertIn("camera=()", self.client.get("/")["Permissions-Policy"])

    def test_half_a_character_and_numbers_beyond_measure(self) -> None:
        half = '{"username": "\\ud800", "password": "x"}'
        answer = Client().post("/api/v1/session", half, content_type="application/json")
        self.assertEqual(answer.status_code, 422)
        for start in (2**63, -1):
            self.assertEqual(self.client.get(f"/api/v1/cases?start={start}").status_code, 422)

    def test_what_is_no_figure_is_said(self) -> None:
        statement = {"principal": "1,000", "percent": "6", "count": "12", "payment": "?"}
        for path in ("nothing.here", "clauses.0.repay", "rate", ""):
            asked = {"statement": statement, "values": {path: "3"}}
            self.assertEqual(self.send("POST", "ask/variant", asked).status_code, 422)
        asked = {
            "statement": {**statement, "percent": "999999999/1"},
            "quoting": {"quoted": "effective"},
        }
        self.assertEqual(self.send("POST", "ask/requoting", asked).status_code, 200)
        for day in ("0001-01-01", "9999-12-31"):
            answer = self.send("POST", "work", {**statement, "start": day})
            self.assertEqual(answer.json()["errors"][0]["field"], "start")

    def test_a_lock_held_too_long_asks_for_patience(self) -> None:
        with mock.patch.object(cases, "start", side_effect=OperationalError("database is locked")):
            answer = self.send("POST", "cases", {"statement": {}})
        self.assertEqual((answer.status_code, answer["Retry-After"]), (503, "2"))
        self.assertIn("tried again", answer.json()["errors"][0]["message"])


class InTurn(DeskOnDisk):
    """Of those who wait to write one looks whether the database is free, the others wait behind."""

    def test_who_waits_too_long_is_told_to_ask_again(self) -> None:
        case = self.start()
        patience = mock.patch.dict(connection.settings_dict["OPTIONS"], timeout=0.05)
        with base._first, patience:
            answer = self.save(case["id"], case["version"], note="later")
            # Reading waits for nobody.
            read = self.send("GET", f"cases/{case['id']}")
        self.assertEqual((answer.status_code, answer["Retry-After"]), (503, "2"))
        self.assertEqual((read.status_code, read.json()["note"]), (200, case["note"]))
        saved = self.save(case["id"], case["version"], note="later")
        self.assertEqual((saved.status_code, saved.json()["note"]), (200, "later"))

    def test_the_turn_is_free_again_however_it_ends(self) -> None:
        refusing = mock.patch.object(
            SQLite, "_start_transaction_under_autocommit", side_effect=OperationalError("no")
        )
        with refusing, self.assertRaises(OperationalError), transaction.atomic():
            self.fail("no transaction began")
        self.assertFalse(base._first.locked())


class FullDisk(DeskOnDisk):
    """SQLite itself says that there is no room, as on a disk that is full."""

    def pages(self, most: int | None = None) -> int:
        with connection.cursor() as cursor:
            cursor.execute("PRAGMA page_count" if most is None else f"PRAGMA max_page_count={most}")
            return int(cursor.fetchone()[0])

    def test_what_was_acknowledged_stays_and_what_was_not_is_said(self) -> None:
        case = self.start()
        most = self.pages(2**31)
        self.addCleanup(self.pages, most)
        self.pages(self.pages())
        kept = {"version": case["version"], "note": ""}
        with self.assertLogs("zephyrant.desk.api.base"):
            for number in range(1_000):
                note = f"{number} " + "what the committee should know " * 100
                answer = self.save(case["id"], kept["version"], note=note)
                if answer.status_code != 200:
                    break
                kept = {"version": answer.json()["version"], "note": note}
        self.assertEqual((answer.status_code, answer.get("Retry-After")), (503, None))
        self.assertIn("disk of the desk is full", answer.json()["errors"][0]["message"])
        # Reading goes on; what was acknowledged last stands there.
        there = self.send("GET", f"cases/{case['id']}").json()
        self.assertEqual({name: there[name] for name in kept}, kept)
        # There is room again: what was refused is saved.
        self.pages(most)
        again = self.save(case["id"], kept["version"], note=note)
        self.assertEqual((again.status_code, again.json()["note"]), (200, note))


class Heavy(Desk):
    """How much one analyst may ask at once, and what becomes of what is too much."""

    def test_more_than_one_may_ask_at_once(self) -> None:
        with mock.patch.dict(heavy._asked, {self.analyst.pk: heavy.MOST_AT_ONCE}):
            answer = self.send("POST", "solve", LOAN)
        self.assertEqual((answer.status_code, answer["Retry-After"]), (429, "1"))
        self.assertEqual(self.send("POST", "solve", LOAN).status_code, 200)

    def test_a_place_of_an_analyst_is_free_again(self) -> None:
        for _ in range(3 * heavy.MOST_EACH):
            with heavy._place_for(7):
                pass
        with heavy._place_for(7), heavy._place_for(7), self.assertRaises(heavy.BusyError):
            heavy._place_for(7).__enter__()

    def test_what_takes_too_much_is_said_at_its_entry_and_kept(self) -> None:
        typed = {"principal": "1,000", "percent": "6", "count": "12", "payment": "?"}
        with mock.patch.object(heavy, "_answered", side_effect=BudgetSpentError):
            told = self.send("POST", "work", typed).json()
            kept = self.send("POST", "cases", {"statement": typed, "note": "", "tags": []}).json()
        self.assertEqual([error["field"] for error in told["errors"]], ["count"])
        self.assertEqual((told["answer"], kept["statement"]["count"]), (None, "12"))
        self.assertEqual(kept["document"]["count"], 12)

    def test_a_file_whose_asker_left_starts_no_case(self) -> None:
        with mock.patch.object(heavy, "gone", return_value=lambda: True):
            answer = self.send("POST", "cases/from-documents", [LOAN, LOAN])
        self.assertEqual(answer.status_code, 503)
        self.assertFalse(Case.objects.exists())

    def test_the_page_that_moved_on_is_noticed(self) -> None:
        import socket  # noqa: PLC0415

        ours, theirs = socket.socketpair()
        request = RequestFactory().get("/")
        request.META["gunicorn.socket"] = ours
        is_gone = heavy.gone(request)
        self.assertFalse(is_gone())
        theirs.close()
        self.assertTrue(is_gone())
        ours.close()
        self.assertTrue(is_gone())


class AccessLog(Desk):
    def test_a_line_a_request_without_what_was_searched_for(self) -> None:
        with self.assertLogs("zephyrant.access", "INFO") as lines:
            answer = self.client.get("/api/v1/cases?q=confidential")
        (line,) = lines.output
        self.assertIn(f"{answer['X-Request-Id']} GET /api/v1/cases 200 ", line)
        self.assertTrue(line.endswith(f" {self.analyst.username}"), line)
        self.assertNotIn("confidential", line)

    def test_as_json(self) -> None:
        with override_settings(LOG_AS="json"), self.assertLogs("zephyrant.access", "INFO") as lines:
            self.client.get("/api/v1/me")
        told = json.loads(lines.records[0].getMessage())
        self.assertEqual((told["path"], told["status"]), ("/api/v1/me", 200))
        self.assertEqual((told["analyst"], told["method"]), (self.analyst.username, "GET"))


class AuditLog(Desk):
    def told(self) -> list[tuple[str, str]]:
        return list(AuditEntry.objects.order_by("pk").values_list("who", "what"))

    def test_who_signed_in_shared_took_out_and_deleted(self) -> None:
        case, other = self.start()["id"], self.colleague()
        who = self.analyst.username
        AuditEntry.objects.all().delete()
        shared = [{"username": "odo", "may_edit": True}]
        self.send("PUT", f"cases/{case}/shares", shared)
        self.client.get(f"/api/v1/cases/{case}/document")
        self.client.get(f"/api/v1/cases/{case}/schedule?kind=csv")
        self.client.get("/api/v1/cases/file?kind=json")
        other.get("/api/v1/cases/file?kind=zip")
        self.send("DELETE", f"cases/{case}")
        self.send("DELETE", "session")
        door = Client()
        for password in ("wrong", PASSWORD):
            door.post(
                "/api/v1/session",
                json.dumps({"username": who, "password": password}),
                content_type="application/json",
            )
        told = self.told()
        self.assertEqual(
            told,
            [
                (who, "shared"),
                (who, "exported"),
                (who, "exported"),
                (who, "exported"),
                ("odo", "exported"),
                (who, "deleted"),
                (who, "signed out"),
                (who, "sign-in refused"),
                (who, "signed in"),
            ],
        )
        self.assertIn(case, AuditEntry.objects.get(what="shared").about)

    def test_what_was_refused_was_not_done(self) -> None:
        case, other = self.start()["id"], self.colleague()
        AuditEntry.objects.all().delete()
        for path in ("document", "schedule", "statement"):
            self.assertEqual(other.get(f"/api/v1/cases/{case}/{path}").status_code, 404)
        self.assertEqual(other.delete(f"/api/v1/cases/{case}").status_code, 404)
        self.assertEqual(self.told(), [])

    def test_an_administrator_reads_it_takes_it_out_and_writes_nothing(self) -> None:
        AuditEntry.objects.create(who="=cmd()", what="shared", about="x")
        User.objects.create_superuser("admin", password=PASSWORD)
        admin = Client()
        admin.force_login(User.objects.get(username="admin"))
        page = "/admin/desk/auditentry/"
        self.assertContains(admin.get(page), "=cmd()")
        entry = AuditEntry.objects.get(who="=cmd()")
        taken = admin.post(page, {"action": "as_csv", "_selected_action": [entry.pk]})
        rows = list(csv.reader(io.StringIO(taken.content.decode())))
        self.assertEqual(rows[0][:3], ["at", "who", "what"])
        self.assertEqual(rows[1][1:3], ["'=cmd()", "shared"])
        self.assertEqual(admin.get(f"{page}add/").status_code, 403)
        self.assertEqual(admin.post(f"{page}{entry.pk}/delete/").status_code, 403)
        self.assertEqual(self.client.get(page).status_code, 302)


class SigningIn(Desk):
    def tries(self, username: str, password: str, **headers: Any) -> int:
        answer = Client().post(
            "/api/v1/session",
            json.dumps({"username": username, "password": password}),
            content_type="application/json",
            **headers,
        )
        return answer.status_code

    def test_many_names_from_one_address(self) -> None:
        with mock.patch.object(throttle, "MOST_FROM_ONE_ADDRESS", 6):
            for number in range(6):
                self.assertEqual(self.tries(f"nobody{number}", "x"), 401)
            self.assertEqual(self.tries("nobody9", "x"), 429)
            # Whoever comes from elsewhere is not locked out.
            elsewhere = {"REMOTE_ADDR": "192.0.2.9"}
            self.assertEqual(self.tries(self.analyst.username, PASSWORD, **elsewhere), 200)

    def test_one_name_from_two_addresses(self) -> None:
        for _ in range(settings.AXES_FAILURE_LIMIT):
            last = self.tries(self.analyst.username, "wrong")
        self.assertEqual(last, 429)
        self.assertEqual(self.tries(self.analyst.username, PASSWORD), 429)
        elsewhere = {"REMOTE_ADDR": "192.0.2.9"}
        self.assertEqual(self.tries(self.analyst.username, PASSWORD, **elsewhere), 200)

    def test_who_asks_is_what_trusted_proxies_say(self) -> None:
        request = RequestFactory().get(
            "/", REMOTE_ADDR="10.0.0.1", headers={"x-forwarded-for": "6.6.6.6, 192.0.2.7, 10.0.0.2"}
        )
        for proxies, who in ((0, "10.0.0.1"), (1, "10.0.0.2"), (2, "192.0.2.7"), (4, "10.0.0.1")):
            with override_settings(PROXIES=proxies):
                self.assertEqual(throttle.address(request), who)

    def test_wrong_passwords_when_changing_it_count(self) -> None:
        for _ in range(settings.AXES_FAILURE_LIMIT):
            answer = self.send("PUT", "password", {"old": "wrong", "new": "a long new one 7"})
        self.assertEqual(answer.status_code, 429)
        self.assertGreaterEqual(AccessAttempt.objects.count(), 1)
        self.assertEqual(self.tries(self.analyst.username, PASSWORD), 429)

    def test_few_wait_for_a_password_to_be_looked_at(self) -> None:
        with ExitStack() as waiting:
            for _ in range(hashing.MOST_WAITING):
                waiting.enter_context(hashing.waiting())
            self.assertEqual(self.tries(self.analyst.username, PASSWORD), 503)
        self.assertEqual(self.tries(self.analyst.username, PASSWORD), 200)


class Sessions(Desk):
    def test_one_that_is_used_lasts_and_one_that_is_not_is_thrown_away(self) -> None:
        (session,) = Session.objects.all()
        kept = self.client.session
        kept[doorman.SEEN] = int(time.time()) - doorman._SEEN_EACH - 1
        kept.save()
        Session.objects.update(expire_date=timezone.now() + timedelta(minutes=1))
        answer = self.client.get("/api/v1/me")
        self.assertEqual(answer.cookies["sessionid"]["max-age"], int(settings.IDLE.total_seconds()))
        session.refresh_from_db()
        self.assertGreater(session.expire_date, timezone.now() + settings.IDLE / 2)
        before = session.expire_date
        self.client.get("/api/v1/me")
        session.refresh_from_db()
        self.assertEqual(session.expire_date, before)
        Session.objects.update(expire_date=timezone.now() - timedelta(seconds=1))
        self.assertEqual(self.client.get("/api/v1/me").status_code, 401)
        call_command("clearsessions")
        self.assertFalse(Session.objects.exists())


class Watched(SimpleTestCase):
    """For whoever watches: no sign-in, no host, no redirect."""

    def ready(self) -> tuple[int, list[str]]:
        answer = self.client.get("/readyz", headers={"host": "10.1.2.3"})
        return answer.status_code, answer.json()["problems"]

    def test_the_process(self) -> None:
        answer = self.client.get("/healthz", headers={"host": "10.1.2.3"})
        self.assertEqual((answer.status_code, answer.content), (200, b"ok\n"))

    def test_all_that_is_needed(self) -> None:
        settings.DATA_DIR.mkdir(parents=True, exist_ok=True)
        doorman.beat().touch()
        with mock.patch.object(doorman, "_database", return_value=None):
            self.assertEqual(self.ready(), (200, []))
            long_ago = time.time() - doorman.SILENCE - 5
            os.utime(doorman.beat(), (long_ago, long_ago))
            self.assertIn("silent", self.ready()[1][0])
            doorman.beat().touch()
            with mock.patch.object(doorman, "LEAST_FREE", 10**18):
                status, (said,) = self.ready()
            self.assertEqual((status, "bytes are free" in said), (503, True))
        with override_settings(DATABASES={"default": {"NAME": "/nowhere/at.all"}}):
            self.assertIn("cannot be written", self.ready()[1][0])
