"""A real server process on a real database file: killed, and written to by many at once."""

import http.cookiejar
import os
import random
import shutil
import signal
import socket
import subprocess
import sys
import tempfile
import threading
import time
import urllib.error
import urllib.request
from collections.abc import Callable
from pathlib import Path
from typing import Any
from unittest import TestCase

from django.conf import settings

from .caller import Caller, RefusedError
from .desk import content

#: By `make check-far` two hundred and more.
KILLS = 220 if "ZEPHYRANT_FAR" in os.environ else 33
#: Of the kills, each so manieth takes the whole server; the others take the process that saves.
WHOLE_EACH = 11
WRITERS = 16
SAVES_EACH = 12


class ServerCase(TestCase):
    """A server on a database and a port of its own."""

    processes = 1
    laid: tempfile.TemporaryDirectory[str]

    @classmethod
    def setUpClass(cls) -> None:
        """The demo desk is laid once; each test has a copy of it."""
        super().setUpClass()
        cls.laid = tempfile.TemporaryDirectory()
        cls.addClassCleanup(cls.laid.cleanup)
        for command in ("migrate", "lay_demo"):
            cls._manage(cls.laid.name, command, "-v0")

    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        shutil.copytree(self.laid.name, folder.name, dirs_exist_ok=True)
        self.surroundings = self._surroundings(folder.name)
        with socket.socket() as free:
            free.bind(("127.0.0.1", 0))
            self.port = free.getsockname()[1]
        self.address = f"http://127.0.0.1:{self.port}"
        self.database = Path(folder.name) / "zephyrant.sqlite3"
        self.process: subprocess.Popen[bytes] | None = None
        self.killed = 0
        self.addCleanup(self.kill)

    @staticmethod
    def _surroundings(folder: str) -> dict[str, str]:
        return {
            **os.environ,
            "ZEPHYRANT_HTTPS": "off",
            "ZEPHYRANT_DEMO": "on",
            "ZEPHYRANT_DATA": folder,
        }

    def manage(self, *arguments: str) -> str:
        return self._manage(self.surroundings["ZEPHYRANT_DATA"], *arguments)

    @classmethod
    def _manage(cls, folder: str, *arguments: str) -> str:
        ran = subprocess.run(
            [sys.executable, "manage.py", *arguments],
            cwd=settings.BASE_DIR,
            env=cls._surroundings(folder),
            check=True,
            capture_output=True,
            text=True,
        )
        return ran.stdout

    def start(self) -> None:
        """Gunicorn without the process for tables, which takes its time to start."""
        self._start(
            "zephyrant.site.wsgi",
            *("--bind", f"127.0.0.1:{self.port}", "--workers", "1", "--threads", "8"),
            *("--preload", "--no-control-socket", "--log-level", "critical"),
        )

    def serve(self) -> None:
        """Gunicorn, as `make demo` and production run it."""
        self._start("-c", "zephyrant/site/serving.py", "--log-level", "critical")

    def _start(self, *arguments: str) -> None:
        self.process = subprocess.Popen(
            [str(Path(sys.executable).parent / "gunicorn"), *arguments],
            cwd=settings.BASE_DIR,
            env={
                **self.surroundings,
                "ZEPHYRANT_BIND": f"127.0.0.1:{self.port}",
                "ZEPHYRANT_PROCESSES": str(self.processes),
            },
            start_new_session=True,
            stdout=subprocess.DEVNULL,
            stderr=subprocess.DEVNULL,
        )
        for _ in range(1_200):
            try:
                urllib.request.urlopen(f"{self.address}/api/v1/door", timeout=5).read()
                return
            except OSError:
                time.sleep(0.05)
        self.fail("the server did not start")

    def kill(self) -> None:
        if self.process and self.process.poll() is None:
            os.killpg(self.process.pid, signal.SIGKILL)
            self.process.wait()
            self.killed += 1

    def serving(self) -> set[str]:
        """The processes that the server has started."""
        assert self.process
        children = Path(f"/proc/{self.process.pid}/task/{self.process.pid}/children")
        return set(children.read_text().split())

    def all_serving(self) -> set[str]:
        """The same once all have started: those that serve, and the one that works tables."""
        for _ in range(600):
            if len(self.serving()) == self.processes + 1:
                return self.serving()
            time.sleep(0.05)
        raise AssertionError("not every process of the server has started")

    def another(self) -> Caller:
        """A second analyst, signed in."""
        told = self.manage("add_analyst", "odo")
        other = Caller(self.address)
        other.send("GET", "/")
        proof = {"username": "odo", "password": told.split()[-1]}
        other.send("POST", "/api/v1/session", proof)
        return other

    def kill_the_worker(self) -> None:
        """The process that saves dies at once; the server that listens forks another."""
        for worker in self.serving():
            os.kill(int(worker), signal.SIGKILL)
            self.killed += 1


class RealServer(ServerCase):
    def test_every_acknowledged_save_survives_a_kill(self) -> None:
        chance = random.Random(20_26)
        self.start()
        caller = Caller(self.address).enter()
        case = caller.send("POST", "/api/v1/cases", content())
        path, version, acknowledged, lost = f"/api/v1/cases/{case['id']}", case["version"], "", []
        saves = struck = 0

        def save(note: str, send: Callable[..., Any] = caller.send) -> str:
            return str(
                send("PUT", path, {**content(), "note": note, "version": version})["version"]
            )

        for turn in range(KILLS):
            whole = turn % WHOLE_EACH == 0
            kill = self.kill if whole else self.kill_the_worker
            began = time.monotonic()
            acknowledged = sent = f"{turn}"
            version = save(sent, caller.keep_trying)
            # Somewhere in the next few saves, as long as they take on this machine.
            took = time.monotonic() - began
            killer = threading.Timer(chance.uniform(0, 3) * took, kill)
            killer.start()
            try:
                while killer.is_alive():
                    sent = f"{turn}-{saves}"
                    version = save(sent)
                    acknowledged = sent
                    saves += 1
            except (urllib.error.URLError, OSError, ValueError, http.client.HTTPException):
                struck += 1  # The kill took a save that was under way.
            except RefusedError as busy:
                self.assertTrue(busy.may_be_asked_again, busy)
            killer.join()
            if whole:
                self.start()
            kept = caller.send("GET", path)
            # The save under way at the kill may have arrived; nothing older may stand there.
            if kept["note"] not in (acknowledged, sent):
                lost.append((turn, acknowledged, kept["note"]))
            version = kept["version"]
        self.assertEqual((lost, self.killed), ([], KILLS))
        self.assertGreater(struck, KILLS / 2)
        self.manage("backup", str(Path(self.surroundings["ZEPHYRANT_DATA"]) / "after.sqlite3"))

    def test_sixteen_writers_at_once(self) -> None:
        self.start()
        trouble: list[str] = []
        kept: dict[str, str] = {}

        def write(writer: int) -> None:
            try:
                caller = Caller(self.address).enter()
                case = caller.keep_trying("POST", "/api/v1/cases", content(name=f"writer {writer}"))
                for number in range(SAVES_EACH):
                    case = caller.keep_trying(
                        "PUT",
                        f"/api/v1/cases/{case['id']}",
                        {
                            **content(name=f"writer {writer}"),
                            "note": f"{writer}:{number}",
                            "version": case["version"],
                        },
                    )
                kept[case["id"]] = f"{writer}:{SAVES_EACH - 1}"
            except Exception as error:
                trouble.append(f"{writer}: {error!r}")

        writers = [threading.Thread(target=write, args=(number,)) for number in range(WRITERS)]
        for writer in writers:
            writer.start()
        for writer in writers:
            writer.join()
        self.assertEqual(trouble, [])
        caller = Caller(self.address).enter()
        for case, note in kept.items():
            found = caller.send("GET", f"/api/v1/cases/{case}")
            self.assertEqual(found["note"], note)
            self.assertEqual(found["statement"]["name"], f"writer {note.split(':')[0]}")
            self.assertEqual(found["version"], 1 + SAVES_EACH)
