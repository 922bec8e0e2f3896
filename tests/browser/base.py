"""A real browser on the real interface."""

import os
import time
from collections.abc import Callable
from typing import Any, ClassVar

from django.conf import settings
from django.contrib.auth.models import User
from django.contrib.staticfiles.testing import StaticLiveServerTestCase
from django.test import override_settings
from playwright.sync_api import Browser, Locator, Page, Playwright, expect, sync_playwright

from zephyrant.desk.demo import COLLEAGUE, lay_the_desk

AXE = settings.BASE_DIR / "web" / "node_modules" / "axe-core" / "axe.min.js"

#: Milliseconds far longer than anything takes: a machine that is slow or busy changes no outcome.
PATIENCE = 120_000


def open_browser(playwright: Playwright) -> Browser:
    """Debian's Chromium."""
    return playwright.chromium.launch(executable_path="/usr/bin/chromium", args=["--no-sandbox"])


@override_settings(DEMO=True)
class BrowserTest(StaticLiveServerTestCase):
    """The demo desk in Chromium; `self.page` is a fresh window on its cases."""

    playwright: ClassVar[Playwright]
    browser: ClassVar[Browser]
    unsafe: ClassVar[str | None]

    @classmethod
    def setUpClass(cls) -> None:
        # Playwright's loop runs in this thread; Django would refuse the database beside it.
        cls.unsafe = os.environ.get("DJANGO_ALLOW_ASYNC_UNSAFE")
        os.environ["DJANGO_ALLOW_ASYNC_UNSAFE"] = "true"
        super().setUpClass()
        cls.playwright = sync_playwright().start()
        cls.browser = open_browser(cls.playwright)
        expect.set_options(timeout=PATIENCE)

    @classmethod
    def tearDownClass(cls) -> None:
        cls.browser.close()
        cls.playwright.stop()
        super().tearDownClass()
        if cls.unsafe is None:
            del os.environ["DJANGO_ALLOW_ASYNC_UNSAFE"]

    def setUp(self) -> None:
        lay_the_desk()
        self.complaints: list[str] = []
        self.page = self.at_the_desk()

    def tearDown(self) -> None:
        self.assertEqual(self.complaints, [], "the browser's console complained")

    def until(self, holds: Callable[[], bool], what: str, page: Page | None = None) -> None:
        """Waits for what the server, or the browser, comes to keep."""
        until = time.monotonic() + PATIENCE / 1000
        while not holds():
            if time.monotonic() > until:
                self.fail(f"never came about: {what}")
            (page or self.page).wait_for_timeout(50)

    def window(self, **options: Any) -> Page:
        """A window of its own, with cookies of its own."""
        options.setdefault("viewport", {"width": 1280, "height": 800})
        options.setdefault("locale", "en-DE")
        context = self.browser.new_context(**options)
        self.addCleanup(context.close)
        context.set_default_timeout(PATIENCE)
        page = context.new_page()
        page.on("pageerror", lambda error: self.complaints.append(str(error)))
        page.on(
            "console",
            lambda message: (
                self.complaints.append(message.text)
                if message.type == "error" and "Failed to load resource" not in message.text
                else None
            ),
        )
        return page

    def at_the_desk(self, **options: Any) -> Page:
        """A window whose analyst has entered the demo desk."""
        page = self.window(**options)
        page.goto(self.live_server_url)
        page.get_by_role("button", name="Enter the demo desk").click()
        expect(page.get_by_role("heading", name="Cases")).to_be_visible()
        return page

    def as_colleague(self, address: str) -> Page:
        """A window of the colleague's, who comes by a link and signs in."""
        colleague = User.objects.get(username=COLLEAGUE[0])
        colleague.set_password("kelp-and-driftwood")
        colleague.save()
        page = self.window()
        page.goto(address)
        page.get_by_label("Name", exact=True).fill(COLLEAGUE[0])
        page.get_by_label("Password").fill("kelp-and-driftwood")
        page.get_by_role("button", name="Sign in").click()
        return page

    def listed(self, page: Page | None = None) -> Locator:
        """The rows of the list of cases."""
        grid = (page or self.page).get_by_role("grid", name="Cases")
        return grid.get_by_role("rowgroup").get_by_role("row")

    def open(self, name: str, page: Page | None = None) -> Page:
        """A case of the desk, by its name."""
        page = page or self.page
        page.get_by_role("grid", name="Cases").get_by_role("link", name=name).click()
        expect(page.get_by_label("Name of the case")).to_be_visible()
        return page

    def figure(self, name: str, page: Page | None = None) -> Any:
        """A field of the statement."""
        return (page or self.page).get_by_label(name, exact=True)

    def answers(self, text: str, page: Page | None = None) -> None:
        """The large figure reads so."""
        expect(
            (page or self.page)
            .get_by_role("status")
            .locator("visible=true")
            .and_((page or self.page).locator("output"))
        ).to_have_text(text)

    def accessible(self, page: Page | None = None) -> None:
        """Axe finds nothing to object to."""
        page = page or self.page
        page.evaluate(AXE.read_text())
        found = page.evaluate("axe.run(document, {resultTypes: ['violations']})")
        told = [
            f"{each['id']}: {each['help']} {[node['html'][:160] for node in each['nodes'][:3]]}"
            for each in found["violations"]
        ]
        self.assertEqual(told, [])
