"""The demo desk on gunicorn, as `make demo` runs it, on a database of its own."""

import os
import subprocess
import sys
import tempfile
import time
import urllib.request
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from playwright.sync_api import Page

ROOT = Path(__file__).resolve().parent.parent


@contextmanager
def demo_server(port: int) -> Iterator[str]:
    """Runs while the block does; gives its address."""
    address = f"http://127.0.0.1:{port}"
    with tempfile.TemporaryDirectory() as folder:
        surroundings = {
            **os.environ,
            "ZEPHYRANT_HTTPS": "off",
            "ZEPHYRANT_DEMO": "on",
            "ZEPHYRANT_DATA": folder,
        }
        for job in ("migrate", "lay_demo"):
            subprocess.run(
                [sys.executable, "manage.py", job, "-v0"], cwd=ROOT, env=surroundings, check=True
            )
        gunicorn = str(Path(sys.executable).parent / "gunicorn")
        options = ["--workers", "2", "--threads", "4", "--no-control-socket"]
        running = subprocess.Popen(
            [
                gunicorn,
                "-c",
                "zephyrant/site/serving.py",
                "zephyrant.site.wsgi",
                "--bind",
                f"127.0.0.1:{port}",
                *options,
            ],
            cwd=ROOT,
            env=surroundings,
        )
        try:
            for _ in range(600):
                try:
                    urllib.request.urlopen(address).read()
                    break
                except OSError:
                    time.sleep(0.1)
            yield address
        finally:
            running.terminate()
            running.wait()


def enter(page: Page, address: str) -> None:
    """Signs the window's analyst in at the demo desk."""
    page.goto(address)
    page.get_by_role("button", name="Enter the demo desk").click()
    page.get_by_role("grid", name="Cases").wait_for()


def open_case(page: Page, address: str, name: str) -> None:
    """Opens a case by its name."""
    page.goto(address)
    page.get_by_role("grid", name="Cases").get_by_role("link", name=name).click()
    page.get_by_text("One clock:").wait_for()
