"""The server as `serving.py` sets it up, on a real database: one analyst asks for too much, uploads
what is made to break it, and nobody else waits."""

import http.client
import io
import json
import os
import signal
import sqlite3
import subprocess
import sys
import threading
import time
import urllib.error
import urllib.request
import uuid
import zipfile
from contextlib import closing
from pathlib import Path
from typing import Any

import openpyxl
import pypdf
from django.conf import settings

from zephyrant.desk.heavy import MOST_EACH, QUESTION

from .caller import Caller, RefusedError
from .desk import content
from .test_real_server import ServerCase

DAYS: dict[str, Any] = {"count": 36_500, "every": "day"}
FEE = [{"at": 0, "fee": "2500"}]
#: Each takes seconds to minutes of a core.
HEAVY: dict[str, dict[str, Any]] = {
    "an aim over a hundred years of days": {
        **DAYS,
        "start": "2027-01-31",
        "clauses": FEE,
        "aim": {"figure": "eu_aprc", "is": "4.6", "by": "rate.percent"},
    },
    "every day told": {**DAYS, "start": "2027-01-31", "clauses": FEE},
    "an aim on dates": {
        "start": "2027-01-31",
        "day_count": "actual/365",
        "clauses": FEE,
        "aim": {"figure": "us_apr", "is": "4.5", "by": "rate.percent"},
    },
}
AT_ONCE = 4
#: Seconds within which somebody else's keystroke is answered, always.
PATIENCE = 2.0


def document(**changes: Any) -> dict[str, Any]:
    return {
        "zephyrant": "loan/1",
        "currency": "EUR",
        "principal": "250000",
        "rate": {"percent": "4.2"},
        "count": 360,
        "payment": "?",
        **changes,
    }


def workbook(cells: str, dimension: str = "A1:B3", shared: str = "") -> bytes:
    """A workbook of one sheet with these cells as they would be written in it."""
    out = io.BytesIO()
    sheets = "http://schemas.openxmlformats.org/spreadsheetml/2006/main"
    relations = "http://schemas.openxmlformats.org/officeDocument/2006/relationships"
    package = "http://schemas.openxmlformats.org/package/2006"
    parts = {
        "[Content_Types].xml": f'<Types xmlns="{package}/content-types"><Default Extension="rels" '
        'ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default '
        'Extension="xml" ContentType="application/xml"/></Types>',
        "_rels/.rels": f'<Relationships xmlns="{package}/relationships"><Relationship Id="r1" '
        f'Type="{relations}/officeDocument" Target="xl/workbook.xml"/></Relationships>',
        "xl/workbook.xml": f'<workbook xmlns="{sheets}" xmlns:r="{relations}"><sheets><sheet '
        'name="Loans" sheetId="1" r:id="r1"/></sheets></workbook>',
        "xl/_rels/workbook.xml.rels": f'<Relationships xmlns="{package}/relationships">'
        f'<Relationship Id="r1" Type="{relations}/worksheet" Target="worksheets/sheet1.xml"/>'
        f'<Relationship Id="r2" Type="{relations}/sharedStrings" Target="sharedStrings.xml"/>'
        "</Relationships>",
        "xl/sharedStrings.xml": f'<sst xmlns="{sheets}">{shared}</sst>',
        "xl/worksheets/sheet1.xml": f'<worksheet xmlns="{sheets}"><dimension ref="{dimension}"/>'
        f"<sheetData>{cells}</sheetData></worksheet>",
    }
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as packed:
        for name, text in parts.items():
            packed.writestr(name, text)
    return out.getvalue()


def far_away() -> bytes:
    far = '<row r="1048576"><c r="XFD1048576"><v>1</v></c></row>'
    return workbook('<row r="1"><c r="A1"><v>1</v></c><c r="B1"><v>2</v></c></row>' + far)


def unfolding() -> bytes:
    """One text of 30 kB that a million and a half cells refer to."""
    rows = (
        f'<row r="{number}">' + '<c t="s"><v>0</v></c>' * 15 + "</row>"
        for number in range(1, 100_001)
    )
    return workbook("".join(rows), "A1:O100000", f"<si><t>{'x' * 30_000}</t></si>")


UPLOADS = {
    "a cell far away": ("far.xlsx", far_away),
    "said to be far too large": (
        "declared.xlsx",
        lambda: workbook("<row/>", dimension="A1:XFD1048576"),
    ),
    "one that unfolds": ("unfolding.xlsx", unfolding),
    "JSON of depth": ("deep.json", lambda: b"[" * 100_000 + b"]" * 100_000),
    "JSON Lines of depth": ("deep.jsonl", lambda: b'{"a":' * 100_000 + b"}" * 100_000),
    "no workbook": ("none.xlsx", lambda: b"PK\x03\x04" + b"\x00" * 1_000),
}


class Attacked(ServerCase):
    processes = 2

    def upload(self, caller: Caller, name: str, body: bytes) -> tuple[int, dict[str, Any]]:
        """A file as a page sends it; asked again while the desk is busy."""
        edge = "edge-of-the-parts"
        head = f'--{edge}\r\nContent-Disposition: form-data; name="file"; filename="{name}"\r\n\r\n'
        for _ in range(60):
            try:
                told = caller.send_raw(
                    "POST",
                    "/api/v1/tables",
                    head.encode() + body + f"\r\n--{edge}--\r\n".encode(),
                    f"multipart/form-data; boundary={edge}",
                    timeout=120,
                )
                return 201, json.loads(told)
            except RefusedError as refused:
                if refused.may_be_asked_again:
                    time.sleep(refused.retry_after)
                    continue
                return refused.status, json.loads(refused.said)
        raise AssertionError("the desk stayed busy")

    def test_nobody_waits_for_what_another_asks(self) -> None:
        self.serve()
        other = self.another()
        greedy = Caller(self.address).enter()
        told: list[tuple[str, int]] = []
        done = threading.Event()

        def ask(name: str) -> None:
            for _ in range(40):
                if done.is_set():
                    return
                try:
                    greedy.send("POST", "/api/v1/solve", document(**HEAVY[name]), timeout=60)
                    told.append((name, 200))
                    return
                except RefusedError as refused:
                    if not refused.may_be_asked_again:
                        told.append((name, refused.status))
                        return
                    time.sleep(refused.retry_after)
                except OSError:
                    return

        # Once asked, as a page is loaded before anybody types.
        other.send("POST", "/api/v1/work", content()["statement"])
        asking = [
            threading.Thread(target=ask, args=(name,), daemon=True)
            for name in HEAVY
            for _ in range(AT_ONCE)
        ]
        for thread in asking:
            thread.start()
        waited = []
        for number in range(40):
            began = time.monotonic()
            worked = other.send(
                "POST",
                "/api/v1/work",
                {**content()["statement"], "principal": f"{48_250 + number}"},
            )
            waited.append(time.monotonic() - began)
            self.assertTrue(worked["answer"]["value"])
            time.sleep(0.2)
        self.assertLess(max(waited), PATIENCE, sorted(waited)[-5:])
        while not told:
            time.sleep(0.2)
        done.set()
        # Refused by a sentence at the figure, or answered: never a fault of ours.
        self.assertLessEqual({code for _, code in told}, {200, 422}, told)

    def test_nobody_waits_for_strangers_or_long_lists(self) -> None:
        """At once: a stranger tries passwords at both doors, and an analyst hands in lists of three
        thousand long documents over a dozen connections."""
        self.serve()
        other = self.another()
        greedy = Caller(self.address).enter()
        daily = document(count=3_000, every="day", start="2027-01-31")
        body = json.dumps([daily] * 3_000).encode()
        stop = threading.Event()
        told: list[tuple[str, int]] = []

        def attack(what: str, caller: Caller, method: str, path: str, sent: bytes) -> None:
            number = 0
            while not stop.is_set():
                number += 1
                kind = "application/json"
                if path.startswith("/admin"):
                    kind = "application/x-www-form-urlencoded"
                try:
                    caller.send_raw(method, path, sent.replace(b"NOBODY", b"n%d" % number), kind)
                    told.append((what, 200))
                except RefusedError as refused:
                    told.append((what, refused.status))
                    time.sleep(0.5)
                except (OSError, http.client.HTTPException):
                    time.sleep(0.5)

        lists = "/api/v1/cases/from-documents"
        asking = [("list", greedy, "POST", lists, body) for _ in range(12)]
        stranger = Caller(self.address)
        stranger.send("GET", "/")
        proof = b'{"username": "NOBODY", "password": "quince-and-tallow"}'
        form = b"username=NOBODY&password=quince-and-tallow"
        for _ in range(10):
            asking.append(("stranger", stranger, "POST", "/api/v1/session", proof))
            asking.append(("admin", stranger, "POST", "/admin/login/", form))
        other.send("POST", "/api/v1/work", content()["statement"])
        threads = [threading.Thread(target=attack, args=each, daemon=True) for each in asking]
        for thread in threads:
            thread.start()
        waited: dict[str, list[float]] = {"work": [], "health": []}
        while not {"list", "stranger", "admin"} <= {what for what, _ in told}:
            time.sleep(0.1)
        for number in range(30):
            began = time.monotonic()
            typed = {**content()["statement"], "principal": f"{48_250 + number}"}
            worked = other.send("POST", "/api/v1/work", typed)
            waited["work"].append(time.monotonic() - began)
            self.assertTrue(worked["answer"]["value"])
            began = time.monotonic()
            with urllib.request.urlopen(f"{self.address}/healthz", timeout=30) as health:
                self.assertEqual(health.read(), b"ok\n")
            waited["health"].append(time.monotonic() - began)
            time.sleep(0.2)
        stop.set()
        for what, times in waited.items():
            self.assertLess(max(times), PATIENCE, (what, sorted(times)[-5:]))
        for what, allowed in (
            ("list", {201, 200, 429, 503}),
            ("stranger", {401, 429, 503}),
            ("admin", {200, 403, 404, 405}),
        ):
            self.assertLessEqual({code for each, code in told if each == what}, allowed, what)

    def test_hostile_uploads_leave_every_process_alive(self) -> None:
        self.serve()
        caller = Caller(self.address).enter()
        before = self.all_serving()
        for what, (name, body) in UPLOADS.items():
            with self.subTest(what):
                status, told = self.upload(caller, name, body())
                self.assertEqual(status, 422, told)
                self.assertTrue(told["errors"][0]["message"])
        self.assertEqual(self.serving(), before)
        good = b"Loan;Amount;Rate;Payments;Payment\nKiln;48,250.00;6.35;60;?\n"
        self.assertEqual(self.upload(caller, "good.csv", good)[0], 201)

    def test_files_of_many_rows_are_made_apart(self) -> None:
        self.serve()
        caller = Caller(self.address).enter()
        rows = 6_000
        daily = document(count=rows, every="day", start="2027-01-31")
        case = caller.send("POST", "/api/v1/cases/from-document", daily)["id"]
        starts = {
            "schedule?kind=csv": b"\xef\xbb\xbf",
            "schedule?kind=xlsx": b"PK",
            "statement": b"%PDF",
        }
        for path, start in starts.items():
            with self.subTest(path):
                content_ = caller.send_raw(
                    "GET", f"/api/v1/cases/{case}/{path}", None, "", timeout=90
                )
                self.assertEqual(content_[: len(start)], start)
                if path == "statement":
                    pages = pypdf.PdfReader(io.BytesIO(content_)).pages
                    self.assertIn(f"\n{rows}\n", pages[-1].extract_text())
                elif "xlsx" in path:
                    book = openpyxl.load_workbook(io.BytesIO(content_), read_only=True)
                    self.assertGreater(sum(1 for _ in book["Schedule"].iter_rows()), rows)
                else:
                    self.assertEqual(content_.count(b"\r\n"), rows + 1)

    def test_a_file_tells_how_it_grows(self) -> None:
        self.serve()
        caller, other = Caller(self.address).enter(), self.another()
        daily = document(count=20_000, every="day", start="2027-01-31")
        case = caller.send("POST", "/api/v1/cases/from-document", daily)["id"]
        making = uuid.uuid4()
        path = f"/api/v1/cases/{case}/statement?making={making}"
        made: list[bytes] = []
        asked = threading.Thread(
            target=lambda: made.append(caller.send_raw("GET", path, None, "", 120)), daemon=True
        )
        asked.start()
        shares: list[float] = []
        while asked.is_alive():
            share = caller.send("GET", f"/api/v1/files/{making}/progress")["share"]
            shares += [share] if share is not None else []
            # Nobody else is told.
            self.assertIsNone(other.send("GET", f"/api/v1/files/{making}/progress")["share"])
            time.sleep(0.1)
        self.assertTrue(made[0].startswith(b"%PDF"))
        self.assertGreater(len(set(shares)), 2, shares)
        self.assertEqual(shares, sorted(shares))
        self.assertLessEqual(shares[-1], 1)
        self.assertIsNone(caller.send("GET", f"/api/v1/files/{making}/progress")["share"])
        left = Path(self.surroundings["ZEPHYRANT_DATA"]) / "heavy"
        self.assertEqual([*left.glob("*.share"), *left.glob("*.half")], [])

    def test_a_page_that_moved_on_is_not_worked_for(self) -> None:
        self.serve()
        self.wait_until_ready()
        caller = Caller(self.address).enter()
        dear = document(**HEAVY["an aim over a hundred years of days"])
        began, left = time.monotonic(), 0
        # Three times as many as an analyst may have at once, each left before it is answered.
        while left < 3 * MOST_EACH:
            with self.assertRaises(TimeoutError):
                # What was left before may hold its place for a moment: then it is asked again.
                caller.keep_trying("POST", "/api/v1/solve", dear, timeout=2)
            left += 1
        caller.keep_trying("POST", "/api/v1/solve", document(**HEAVY["an aim on dates"]))
        # Worked to the end, each pair of those would have kept both places as long as one may take.
        self.assertLess(time.monotonic() - began, 2 * QUESTION)

    def test_a_lock_held_and_saves_that_keep_trying(self) -> None:
        self.serve()
        caller = Caller(self.address).enter()
        case = caller.send("POST", "/api/v1/cases", content())
        with closing(sqlite3.connect(self.database, isolation_level=None)) as holding:
            holding.execute("BEGIN IMMEDIATE")
            with self.assertRaises(RefusedError) as refused:
                sent = {**content(), "note": "kept", "version": case["version"]}
                caller.send("PUT", f"/api/v1/cases/{case['id']}", sent, timeout=40)
            self.assertEqual(refused.exception.status, 503)
            self.assertTrue(refused.exception.may_be_asked_again)
            # Reading goes on meanwhile.
            self.assertEqual(caller.send("GET", f"/api/v1/cases/{case['id']}")["note"], "")
            holding.execute("ROLLBACK")
        saved = caller.send("PUT", f"/api/v1/cases/{case['id']}", sent)
        self.assertEqual(saved["note"], "kept")
        # Whoever did not hear that it was saved saves it again, and is not told of a conflict.
        again = caller.send("PUT", f"/api/v1/cases/{case['id']}", sent)
        self.assertEqual(again["version"], saved["version"])

    def test_a_backup_while_all_save(self) -> None:
        self.serve()
        stop = threading.Event()
        saved: dict[str, int] = {}
        trouble: list[str] = []

        def save(number: int) -> None:
            try:
                caller = Caller(self.address).enter()
                case = caller.keep_trying("POST", "/api/v1/cases", content(name=f"saver {number}"))
                while not stop.is_set():
                    sent = {**content(), "note": str(time.time()), "version": case["version"]}
                    case = caller.keep_trying("PUT", f"/api/v1/cases/{case['id']}", sent)
                    saved[case["id"]] = case["version"]
            except Exception as error:
                trouble.append(repr(error))

        savers = [threading.Thread(target=save, args=(number,)) for number in range(8)]
        for saver in savers:
            saver.start()
        folder = Path(self.surroundings["ZEPHYRANT_DATA"]) / "backups"
        folder.mkdir()
        for _ in range(3):
            self.manage("backup", str(folder), "--keep", "2")
            time.sleep(1)
        stop.set()
        for saver in savers:
            saver.join()
        self.assertEqual(trouble, [])
        kept = sorted(folder.iterdir())
        self.assertEqual(len(kept), 2, kept)
        with closing(sqlite3.connect(kept[-1])) as copied:
            versions = dict(copied.execute("SELECT hex(id), version FROM desk_case").fetchall())
        self.assertGreaterEqual(len(versions), 8)
        # While the server runs nothing is put in the place of its database.
        refused = subprocess.run(
            [sys.executable, "manage.py", "restore", str(kept[-1])],
            cwd=settings.BASE_DIR,
            env=self.surroundings,
            capture_output=True,
            check=False,
        )
        self.assertNotEqual(refused.returncode, 0)
        self.assertIn(b"The server runs", refused.stderr)
        self.kill()
        self.manage("restore", str(kept[-1]))

    def test_files_are_for_their_user_alone_and_the_server_ends_gently(self) -> None:
        self.serve()
        Caller(self.address).enter().send("POST", "/api/v1/cases", content())
        self.wait_until_ready()
        for path in Path(self.surroundings["ZEPHYRANT_DATA"]).rglob("*"):
            with self.subTest(path.name):
                self.assertEqual(path.stat().st_mode & 0o077, 0, oct(path.stat().st_mode))
        assert self.process
        os.kill(self.process.pid, signal.SIGTERM)
        self.assertEqual(self.process.wait(30), 0)

    def wait_until_ready(self) -> None:
        # As long as the server itself is waited for: the machine may be busy with other tests.
        until, said = time.monotonic() + 120, b""
        while time.monotonic() < until:
            try:
                urllib.request.urlopen(f"{self.address}/readyz", timeout=5).read()
                return
            except urllib.error.HTTPError as not_yet:
                said = not_yet.read()
            time.sleep(0.1)
        self.fail(f"never ready: {said!r}")
