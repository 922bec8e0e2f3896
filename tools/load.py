"""A day of many at once: so many analysts type and save for a while on a server of their own, and
what was acknowledged is there afterwards.

    python -m tools.load [ANALYSTS] [SECONDS]
"""

import os
import random
import sqlite3
import subprocess
import sys
import tempfile
import threading
import time
from collections.abc import Callable
from contextlib import closing
from pathlib import Path
from typing import Any, Final

from tests.desk.caller import Caller, RefusedError

PASSWORD: Final = "heron-and-lantern-7"
#: Seconds between two keystrokes that are asked about, and how many of those come to a save.
THINKS: Final = (0.5, 1.5)
#: Seconds within which all of them sign in.
ARRIVE: Final = 10.0
SAVES_EACH: Final = 5
#: Seconds in which the processes of a server that is ready load what they need beside.
_LOADS: Final = 15.0
STATEMENT: Final[dict[str, Any]] = {
    "name": "Under load",
    "percent": "6.35",
    "count": "60",
    "payment": "?",
}


def main() -> None:
    """Sets up, loads, tells."""
    analysts = int(sys.argv[1]) if len(sys.argv) > 1 else 50
    seconds = float(sys.argv[2]) if len(sys.argv) > 2 else 120.0
    with tempfile.TemporaryDirectory() as folder:
        surroundings = {
            **os.environ,
            "ZEPHYRANT_HTTPS": "off",
            "ZEPHYRANT_DATA": folder,
            "ZEPHYRANT_BIND": "127.0.0.1:8765",
        }
        manage = [sys.executable, "manage.py"]
        subprocess.run([*manage, "migrate", "-v0"], env=surroundings, check=True)
        subprocess.run(
            [*manage, "shell", "-v0", "-c", _people(analysts)], env=surroundings, check=True
        )
        gunicorn = str(Path(sys.executable).parent / "gunicorn")
        with subprocess.Popen(
            [gunicorn, "-c", "zephyrant/site/serving.py", "--log-level", "critical"],
            env=surroundings,
            stderr=subprocess.DEVNULL,
        ) as server:
            try:
                address = "http://127.0.0.1:8765"
                _await(address)
                _load(address, analysts, seconds, lambda: _backed_up(folder, surroundings))
            finally:
                server.terminate()


def _await(address: str) -> None:
    """Waits until the server is ready and has loaded what it needs: its start is not measured."""
    for _ in range(600):
        try:
            Caller(address).send("GET", "/readyz")
        except (OSError, RefusedError):
            time.sleep(0.1)
        else:
            time.sleep(_LOADS)
            return
    raise SystemExit("The server was never ready.")


def _people(analysts: int) -> str:
    return (
        "from django.contrib.auth.hashers import make_password; "
        "from django.contrib.auth.models import User; "
        f"password = make_password({PASSWORD!r}); "
        "User.objects.bulk_create(User(username=f'analyst{n}', password=password) "
        f"for n in range({analysts}))"
    )


class _Load:
    """What came of it."""

    def __init__(self, address: str, analysts: int, seconds: float) -> None:
        self.address, self.seconds = address, seconds
        self.waited: dict[str, list[float]] = {"page": [], "sign in": [], "work": [], "save": []}
        self.lost: list[str] = []
        self.refused: list[str] = []
        self.ready = threading.Barrier(analysts)
        self.begun = threading.Event()

    def asked(self, caller: Caller, what: str, method: str, path: str, sent: object) -> Any:  # noqa: ANN401
        """The answer, asked for again while the desk is busy."""
        began = time.monotonic()
        for _ in range(200):
            try:
                told = caller.send(method, path, sent, timeout=60)
                self.waited[what].append(time.monotonic() - began)
                return told
            except RefusedError as error:
                self.refused.append(f"{what} {error.status}")
                if not error.may_be_asked_again:
                    raise
                time.sleep(error.retry_after)
            except OSError:
                time.sleep(0.5)
        raise AssertionError(f"{what} was never answered")

    def analyst(self, number: int) -> None:
        """One of them, from signing in to looking at what is kept."""
        chance = random.Random(number)
        caller = Caller(self.address)
        time.sleep(chance.uniform(0, ARRIVE))
        self.asked(caller, "page", "GET", "/", None)
        proof = {"username": f"analyst{number}", "password": PASSWORD}
        self.asked(caller, "sign in", "POST", "/api/v1/session", proof)
        case = caller.send("POST", "/api/v1/cases", {"statement": STATEMENT, "note": ""})
        self.ready.wait()
        self.begun.set()
        until, keystrokes, note = time.monotonic() + self.seconds, 0, ""
        while time.monotonic() < until:
            time.sleep(chance.uniform(*THINKS))
            typed = {**STATEMENT, "principal": str(10_000 + chance.randrange(90_000))}
            self.asked(caller, "work", "POST", "/api/v1/work", typed)
            keystrokes += 1
            if keystrokes % SAVES_EACH == 0:
                note = f"{number}: {keystrokes}"
                sent = {"statement": typed, "note": note, "version": case["version"]}
                case = self.asked(caller, "save", "PUT", f"/api/v1/cases/{case['id']}", sent)
        kept = caller.send("GET", f"/api/v1/cases/{case['id']}")
        if kept["note"] != note:
            self.lost.append(f"analyst {number}: {note!r} acknowledged, {kept['note']!r} kept")


def _backed_up(folder: str, surroundings: dict[str, str]) -> str:
    """How long a backup takes while all save, and whether its copy is whole."""
    copy = Path(folder) / "while-all-save.sqlite3"
    began = time.monotonic()
    subprocess.run(
        [sys.executable, "manage.py", "backup", str(copy)],
        env=surroundings,
        check=True,
        stdout=subprocess.DEVNULL,
    )
    seconds = time.monotonic() - began
    with closing(sqlite3.connect(copy)) as copied:
        (whole,) = copied.execute("PRAGMA integrity_check").fetchone()
        (cases,) = copied.execute("SELECT count(*) FROM desk_case").fetchone()
    return f"{seconds:.1f} s, {copy.stat().st_size / 1e6:.1f} MB, {cases} cases, {whole}"


def _load(address: str, analysts: int, seconds: float, backed_up: Callable[[], str]) -> None:
    load = _Load(address, analysts, seconds)
    threads = [threading.Thread(target=load.analyst, args=(number,)) for number in range(analysts)]
    for thread in threads:
        thread.start()
    load.begun.wait()
    time.sleep(seconds / 2)
    backup = backed_up()
    for thread in threads:
        thread.join()
    print(f"{analysts} analysts, {seconds:.0f} s")
    for what, times in load.waited.items():
        times.sort()
        if times:
            p95 = times[int(0.95 * (len(times) - 1))]
            middle = times[len(times) // 2]
            print(
                f"  {what:8} {len(times):6} answered; median {1000 * middle:5.0f} ms, "
                f"95 % {1000 * p95:5.0f} ms, longest {1000 * times[-1]:5.0f} ms"
            )
    print(f"  a backup meanwhile: {backup}")
    told = {each: load.refused.count(each) for each in sorted(set(load.refused))}
    print(f"  asked again: {told or 'never'}; lost: {load.lost or 'none'}")
    if load.lost:
        sys.exit(1)


if __name__ == "__main__":
    main()
