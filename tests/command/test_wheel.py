"""The wheel, built and installed where nothing else is: the command, the library, the desk."""

import os
import shutil
import signal
import socket
import subprocess
import sys
import tempfile
import urllib.request
import zipfile
from pathlib import Path
from typing import ClassVar
from unittest import TestCase

from django.conf import settings

UV = str(Path(sys.executable).parent / "uv")
TAPE = "Loan,Amount,Rate,Payments,Payment\nKiln,48250,6.35,60,?\n"
NOTEBOOK = Path(settings.BASE_DIR) / "docs" / "notebook.ipynb"
_RUN_NOTEBOOK = """
import nbclient, nbformat, sys
notebook = nbformat.read(sys.argv[1], as_version=4)
nbclient.NotebookClient(notebook, timeout=120).execute()
print("938.82" in str(notebook.cells))
"""
_IN_PYTHON = """
import zephyrant
answer = zephyrant.solve(principal=48250, rate="6.35 % compounded half-yearly", count=60)
print(answer.value, len(answer.schedule), answer.proof.holds)
try:
    answer.to_pdf()
except ImportError as missing:
    print(missing)
"""


class Wheel(TestCase):
    folder: ClassVar[Path]
    wheel: ClassVar[Path]

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        cls.folder = Path(cls.enterClassContext(tempfile.TemporaryDirectory()))
        built = cls.folder / "built"
        command = [UV, "build", "--quiet", "--wheel", "--out-dir", str(built), "."]
        subprocess.run(command, cwd=settings.BASE_DIR, check=True)
        (cls.wheel,) = built.glob("*.whl")

    def installed(self, name: str, *what: str) -> Path:
        """An environment with nothing but this; its folder of commands."""
        place = self.folder / name
        subprocess.run([UV, "venv", "--quiet", "--python", sys.executable, str(place)], check=True)
        python = str(place / "bin" / "python")
        install = [UV, "pip", "install", "--quiet", "--python", python]
        locked = Path(settings.BASE_DIR) / "requirements" / "dev.txt"
        unhashed = self.folder / "constraints.txt"
        pins = [line.split()[0] for line in locked.read_text().splitlines() if "==" in line]
        unhashed.write_text("\n".join(pins))
        subprocess.run([*install, "--constraint", str(unhashed), *what], check=True)
        return place / "bin"

    def run_in(self, bin_: Path, *command: str, **surroundings: str) -> tuple[int, str, str]:
        """A command of an environment, far from the checkout."""
        kept = {name: value for name, value in os.environ.items() if "ZEPHYRANT" not in name}
        kept.pop("PYTHONPATH", None)
        done = subprocess.run(
            [str(bin_ / command[0]), *command[1:]],
            cwd=self.folder,
            capture_output=True,
            text=True,
            check=False,
            env={**kept, "HOME": str(self.folder), **surroundings},
        )
        return done.returncode, done.stdout, done.stderr

    def test_what_is_in_it(self) -> None:
        with zipfile.ZipFile(self.wheel) as packed:
            names = packed.namelist()
            notices = packed.read("zephyrant/site/static/third-party.md").decode()
            metadata = next(name for name in names if name.endswith("METADATA"))
            self.assertIn("License-Expression: MIT", packed.read(metadata).decode())
        for part in ("zephyrant/py.typed", "zephyrant/site/static/index.html"):
            self.assertIn(part, names)
        self.assertTrue(any(name.endswith("dist-info/licenses/LICENSE") for name in names))
        self.assertTrue(any(name.startswith("zephyrant/site/static/assets/") for name in names))
        self.assertIn("react", notices)
        for stranger in ("tests/", "tools/", "web/", "docs/"):
            self.assertFalse([name for name in names if name.startswith(stranger)])

    def test_the_core_alone(self) -> None:
        bin_ = self.installed("core", str(self.wheel))
        status, out, _ = self.run_in(
            bin_, "zephyrant", "solve", "--line", "6,000 at 0 % over 1 year"
        )
        self.assertEqual(status, 0)
        self.assertIn('"value":"500.00"', out)
        (self.folder / "tape.csv").write_text(TAPE)
        status, out, _ = self.run_in(bin_, "zephyrant", "table", "tape.csv")
        self.assertEqual((status, out.count("\n")), (0, 2))
        self.assertEqual(self.run_in(bin_, "zephyrant", "rates", "6 % effective")[0], 0)
        status, out, err = self.run_in(bin_, "python", "-c", _IN_PYTHON)
        self.assertEqual(status, 0, err)
        self.assertIn("938.82 60 True", out)
        self.assertIn("pip install 'zephyrant[pdf]'", out)
        (self.folder / "tape.parquet").write_bytes(b"PAR1 and what follows")
        for part in (
            ("demo",),
            ("serve",),
            ("backup", "x"),
            ("restore", "x"),
            ("analyst", "maren"),
            ("table", "tape.parquet"),
            ("table", "tape.csv", "--out", "many", "--workers", "2"),
        ):
            status, _, err = self.run_in(bin_, "zephyrant", *part)
            self.assertEqual(status, 2, part)
            self.assertIn("pip install 'zephyrant[", err)

    def test_the_desk_and_the_notebook(self) -> None:
        more = ("nbclient", "ipykernel", "pandas", "pyarrow")
        bin_ = self.installed("desk", f"{self.wheel}[desk]", *more)
        status, out, err = self.run_in(bin_, "python", "-c", _RUN_NOTEBOOK, str(NOTEBOOK))
        self.assertEqual((status, out), (0, "True\n"), err)
        self._demo(bin_)
        self._kept(bin_)

    def _demo(self, bin_: Path) -> None:
        """It says what it does, and its address once it answers; the front end comes with it."""
        with socket.socket() as free:
            free.bind(("127.0.0.1", 0))
            address = f"127.0.0.1:{free.getsockname()[1]}"
        data = self.folder / "demo"
        command = [str(bin_ / "zephyrant"), "demo", "--data", str(data), "--bind", address]
        surroundings = {**os.environ, "HOME": str(self.folder), "PYTHONUNBUFFERED": "1"}
        with subprocess.Popen(
            command, cwd=self.folder, stdout=subprocess.PIPE, text=True, env=surroundings
        ) as running:
            assert running.stdout is not None
            try:
                told = [running.stdout.readline() for _ in range(4)]
                self.assertIn(f"http://{address}/", told[-1])
                with urllib.request.urlopen(f"http://{address}/") as page:
                    shown = page.read().decode()
                script = shown.partition('src="')[2].partition('"')[0]
                with urllib.request.urlopen(f"http://{address}{script}") as asset:
                    self.assertGreater(len(asset.read()), 10_000)
                again = self.run_in(bin_, "zephyrant", "demo", "--bind", address)
                self.assertEqual(again[0], 1)
                self.assertIn("cannot be listened on", again[2])
            finally:
                running.send_signal(signal.SIGTERM)
                running.wait(40)
        self.assertTrue((data / "secret-key").exists())

    def _kept(self, bin_: Path) -> None:
        """An analyst, a backup, an older database brought up after a copy, a backup restored."""
        data = self.folder / "data"
        desk = ("--data", str(data))
        status, out, err = self.run_in(bin_, "zephyrant", "analyst", "maren", *desk)
        self.assertEqual(status, 0, err)
        self.assertIn("maren can sign in with", out)
        kept = self.folder / "kept.sqlite3"
        status, out, err = self.run_in(bin_, "zephyrant", "backup", str(kept), *desk)
        self.assertEqual(status, 0, err)
        self.assertIn("1 analysts", out)
        older = ("python", "-m", "django", "migrate", "desk", "0009")
        where = {"DJANGO_SETTINGS_MODULE": "zephyrant.site.settings", "ZEPHYRANT_DATA": str(data)}
        self.assertEqual(self.run_in(bin_, *older, **where)[0], 0)
        status, out, err = self.run_in(bin_, "zephyrant", "analyst", "tove", *desk)
        self.assertEqual(status, 0, err)
        (copied,) = (data / "before-upgrades").glob("*.sqlite3")
        self.assertIn(str(copied), out)
        status, out, err = self.run_in(bin_, "zephyrant", "restore", str(kept), *desk)
        self.assertEqual(status, 0, err)
        self.assertIn("of 1 analysts", out)
        shutil.rmtree(data)
        status, _, err = self.run_in(bin_, "zephyrant", "backup", str(kept), *desk)
        self.assertEqual(status, 1)
        self.assertIn("no database", err)
