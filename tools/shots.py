"""`make shots`: the pictures in docs/screenshots, made from the demo data."""

import os
import subprocess
import sys
import tempfile
import time
import urllib.request
from collections.abc import Callable
from pathlib import Path

from playwright.sync_api import Page, sync_playwright

ROOT = Path(__file__).resolve().parent.parent
FOLDER = ROOT / "docs" / "screenshots"
PORT = 8978
ADDRESS = f"http://127.0.0.1:{PORT}"


def _open(page: Page, name: str) -> None:
    page.goto(ADDRESS)
    page.get_by_role("link", name=name).click()
    page.get_by_text("One clock:").wait_for()


def cases(page: Page) -> None:
    page.goto(ADDRESS)
    page.get_by_role("heading", name="Cases").wait_for()
    page.get_by_role("link", name="Cider press").wait_for()


def case(page: Page) -> None:
    _open(page, "Cider press")
    line = page.get_by_role("slider")
    line.focus()
    for _ in range(2):
        page.keyboard.press("PageUp")


def working(page: Page) -> None:
    _open(page, "Kiln")
    page.keyboard.press("w")
    page.get_by_role("dialog").wait_for()


def no_answer(page: Page) -> None:
    _open(page, "Oyster rafts")


def mistake(page: Page) -> None:
    _open(page, "Six looms")
    page.get_by_label("Amount lent").fill("23,640 or so")
    page.get_by_role("alert").wait_for()


def long(page: Page) -> None:
    _open(page, "Water turbine")


Shot = tuple[str, Callable[[Page], None], dict[str, object]]
SHOTS: list[Shot] = [
    ("cases", cases, {}),
    ("case", case, {}),
    ("case-dark", long, {"color_scheme": "dark"}),
    ("working", working, {}),
    ("no-answer", no_answer, {}),
    ("mistake", mistake, {}),
    ("case-narrow", case, {"viewport": {"width": 400, "height": 860}}),
]


def main() -> None:
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
        running = subprocess.Popen(
            [
                str(Path(sys.executable).parent / "gunicorn"),
                "zephyrant.wsgi",
                "--bind",
                f"127.0.0.1:{PORT}",
                "--no-control-socket",
                "--log-level",
                "warning",
            ],
            cwd=ROOT,
            env=surroundings,
        )
        try:
            for _ in range(100):
                try:
                    urllib.request.urlopen(ADDRESS).read()
                    break
                except OSError:
                    time.sleep(0.1)
            with sync_playwright() as playwright:
                browser = playwright.chromium.launch(
                    executable_path="/usr/bin/chromium", args=["--no-sandbox"]
                )
                for name, arrange, options in SHOTS:
                    size = {"width": 1280, "height": 800}
                    context = browser.new_context(**{"viewport": size, **options})
                    page = context.new_page()
                    arrange(page)
                    page.wait_for_timeout(400)
                    page.screenshot(path=FOLDER / f"{name}.png")
                    context.close()
                browser.close()
        finally:
            running.terminate()
            running.wait()


if __name__ == "__main__":
    main()
