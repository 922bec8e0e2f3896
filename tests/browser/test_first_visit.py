"""What a visit loads: what is shown, and no more; what cannot be loaded takes nothing along."""

import gzip
import re

from django.conf import settings
from playwright.sync_api import Page, expect

from .base import BrowserTest

SCRIPTS = """
performance.getEntriesByType('resource').map(each => each.name).filter(name => /[.]js$/.test(name))
"""


def scripts(page: Page) -> set[str]:
    """The scripts that a page has loaded."""
    return {name.rpartition("/")[2] for name in page.evaluate(SCRIPTS)}


class FirstVisit(BrowserTest):
    def test_the_list_loads_what_its_page_names_and_no_more(self) -> None:
        page = self.page
        # Not where the list will be: the pointer on a case is a sign.
        page.mouse.move(0, 0)
        # The door to the desk was another page.
        page.goto(self.live_server_url)
        expect(page.get_by_role("grid", name="Cases")).to_be_visible()
        named = re.findall(r'="/static/assets/([^"]+\.js)"', page.content())
        first = scripts(page)
        self.assertEqual(first, set(named))
        sizes = [
            len(gzip.compress((settings.STATIC_ROOT / "assets" / name).read_bytes(), 9))
            for name in first
        ]
        self.assertLessEqual(sum(sizes), 120_000)
        # A case is likely to be opened once the pointer comes to one.
        page.get_by_role("grid", name="Cases").get_by_role("link").first.hover()
        self.until(lambda: len(scripts(page)) > len(first) + 3, "the scripts of a case")

    def test_what_a_page_asks_is_asked_once_and_before_it_is_drawn(self) -> None:
        page, asked = self.page, list[str]()
        page.on("request", lambda each: asked.append(each.url.partition("/api/v1/")[2]))
        page.goto(self.live_server_url)
        expect(page.get_by_role("grid", name="Cases")).to_be_visible()
        for question in ("me", "words", "cases?q=&sort=changed&start=0&to_judge=false"):
            self.assertEqual(asked.count(question), 1, question)
        self.open("Cider press")
        self.answers("938.82")
        asked.clear()
        page.reload()
        self.answers("938.82")
        case = page.url.rpartition("/")[2]
        for question in ("me", "words", f"cases/{case}", "work"):
            self.assertEqual(asked.count(question), 1, question)
        self.assertLess(asked.index(f"cases/{case}"), asked.index("work"))

    def test_what_cannot_be_loaded_is_told_and_tried_again(self) -> None:
        page = self.page
        away = re.compile(r"/assets/(sheets|opened)-[^/]*\.js$")
        page.route(away, lambda route: route.abort())
        page.get_by_role("button", name="Keyboard").click()
        expect(page.get_by_role("alert")).to_contain_text("could not be loaded")
        columns = page.get_by_role("button", name="Columns")
        columns.click()
        expect(columns).to_have_attribute("aria-expanded", "false")
        expect(page.get_by_role("grid", name="Cases")).to_be_visible()
        page.unroute(away)
        page.get_by_role("button", name="Try again").click()
        expect(page.get_by_role("dialog", name="Keyboard")).to_be_visible()
        page.get_by_role("dialog", name="Keyboard").get_by_role("button", name="Close").click()
        columns.click()
        page.get_by_role("menuitemcheckbox", name="Tags").click()
        page.keyboard.press("Escape")
        expect(columns).to_be_focused()
