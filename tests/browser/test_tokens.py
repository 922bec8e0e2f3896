"""Tokens and the page of the API, as an analyst meets them."""

import re

from playwright.sync_api import expect

from tests.loans.documents import document
from zephyrant.desk.models import Token

from .base import BrowserTest


class Tokens(BrowserTest):
    def open_tokens(self) -> None:
        self.page.get_by_role("button", name="tokens, sign out").click()
        self.page.get_by_role("menuitem", name="API and tokens").click()

    def test_made_shown_once_used_and_revoked(self) -> None:
        page = self.page
        self.open_tokens()
        # The sheet begins in its field: a name and Enter make one.
        expect(page.get_by_label("A new token for")).to_be_focused()
        page.get_by_role("button", name="Make the token").click()
        expect(page.get_by_text(re.compile("at least 1 char"))).to_be_visible()
        page.get_by_label("A new token for").fill("Night run")
        page.get_by_role("checkbox", name="read cases").check()
        page.get_by_label("It holds for").select_option("30 days")
        page.keyboard.press("Enter")
        shown = page.get_by_text(re.compile(r"^zph_\S{40,}$"))
        expect(shown).to_be_visible()
        key = shown.inner_text()
        self.accessible()
        held = Token.objects.get()
        self.assertEqual((held.name, held.may), ("Night run", ["read", "compute"]))
        # A program elsewhere, with nothing but the key.
        program = self.playwright.request.new_context(
            base_url=self.live_server_url, extra_http_headers={"Authorization": f"Bearer {key}"}
        )
        answer = program.post("/api/v1/solve", data=document())
        self.assertEqual(answer.json()["value"], "938.82")
        page.reload()
        self.open_tokens()
        listed = page.get_by_role("list", name="Tokens").get_by_role("listitem")
        expect(listed).to_contain_text("may read, compute")
        expect(listed).to_contain_text("last used")
        expect(page.get_by_text(key)).to_have_count(0)
        page.get_by_role("button", name="Revoke Night run").click()
        expect(listed).to_contain_text("revoked")
        self.assertEqual(program.post("/api/v1/solve", data=document()).status, 401)

    def test_an_operation_tried_on_the_page_of_the_api(self) -> None:
        page = self.page
        self.open_tokens()
        with page.expect_popup() as opened:
            page.get_by_role("link", name="The API, with examples that run").click()
        api = opened.value
        expect(api.get_by_role("heading", name="The API", exact=True)).to_be_visible()
        expect(api.get_by_text("Bearer $ZEPHYRANT_TOKEN")).to_be_visible()
        api.locator("#operations-tag-Solving").click()
        api.locator("#operations-Solving-solve button").first.click()
        api.get_by_role("button", name="Try it out").click()
        api.get_by_role("button", name="Execute").click()
        # The example of the schema: 48,250 at 6.35 % compounded monthly over 60 months.
        payment = 48_250 * (0.0635 / 12) / (1 - (1 + 0.0635 / 12) ** -60)
        told = api.locator(".live-responses-table tbody .response-col_description")
        expect(told).to_contain_text(f'"value": "{payment:.2f}"')
