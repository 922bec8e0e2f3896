"""Every way back to what was typed finds it; nothing typed is thrown away on the way."""

import re

from playwright.sync_api import Page, expect

from zephyrant.desk.models import Case

from .base import BrowserTest

SAVED = re.compile("^Saved")


class WaysBack(BrowserTest):
    def new_case(self) -> Page:
        """A new case with every figure typed, left before anything of it was saved."""
        page = self.page
        page.get_by_role("button", name="New case").click()
        expect(page.get_by_label("Name of the case")).to_be_visible()
        page.get_by_label("Name of the case").fill("Kiln for the potters")
        for name, text in (
            ("Amount lent", "12,000"),
            ("Rate", "6"),
            ("Number of payments", "24"),
        ):
            self.figure(name).fill(text)
        return page

    def is_there(self, page: Page, count: str = "24") -> None:
        expect(page.get_by_label("Name of the case")).to_have_value("Kiln for the potters")
        expect(self.figure("Amount lent", page)).to_have_value(re.compile("^12,000"))
        expect(self.figure("Number of payments", page)).to_have_value(count)

    def goes_on(self, page: Page) -> None:
        """What is typed next is saved, and nothing contradicts it."""
        self.figure("Number of payments", page).fill("36")
        expect(page.get_by_role("status").filter(has_text=SAVED)).to_be_visible()
        # 12,000 at half a percent over 36 payments: 365.06 (mpmath).
        self.answers("365.06", page)
        expect(page.get_by_text("changed elsewhere")).to_have_count(0)
        # Its name is among what was typed: until it is saved there is none of that name.
        kept = Case.objects.filter(name="Kiln for the potters", statement__count="36")
        self.until(kept.exists, "what was typed is saved", page)

    def test_by_the_list(self) -> None:
        page = self.new_case()
        page.get_by_role("link", name="Zephyrant").click()
        page.get_by_role("grid", name="Cases").get_by_role(
            "link", name="Kiln for the potters"
        ).click()
        self.is_there(page)
        self.goes_on(page)

    def test_by_the_browsers_own_buttons(self) -> None:
        page = self.new_case()
        page.go_back()
        expect(page.get_by_role("heading", name="Cases")).to_be_visible()
        page.go_forward()
        self.is_there(page)
        page.reload()
        self.is_there(page)
        self.goes_on(page)

    def test_by_side_by_side(self) -> None:
        page = self.new_case()
        page.get_by_role("link", name="Side by side").click()
        expect(page.get_by_role("heading", name="side by side")).to_be_visible()
        page.go_back()
        self.is_there(page)
        self.goes_on(page)

    def test_from_another_tab(self) -> None:
        page = self.new_case()
        other = page.context.new_page()
        other.goto(page.url)
        self.is_there(other)
        self.goes_on(other)

    def test_a_copy(self) -> None:
        page = self.page
        page.get_by_role("button", name=re.compile("^What to do with Cider press")).click()
        page.get_by_role("menuitem", name="Copy").click()
        expect(page.get_by_label("Name of the case")).to_have_value(re.compile("Cider press"))
        page.get_by_label("Name of the case").fill("Kiln for the potters")
        self.figure("Amount lent").fill("12,000")
        self.figure("Number of payments").fill("24")
        page.get_by_role("link", name="Zephyrant").click()
        page.get_by_role("grid", name="Cases").get_by_role(
            "link", name="Kiln for the potters"
        ).click()
        self.is_there(page)

    def test_a_list_of_quotes(self) -> None:
        page = self.page
        page.goto(f"{self.live_server_url}/rates/side-by-side")
        page.get_by_role("button", name="New list").click()
        page.get_by_label("Percent of quote 1").fill("6.5")
        page.get_by_label("Name of quote 1").fill("Harbour mutual")
        page.go_back()
        page.go_forward()
        expect(page.get_by_label("Name of Harbour mutual")).to_have_value("Harbour mutual")
        expect(page.get_by_label("Percent of Harbour mutual")).to_have_value(re.compile(r"^6\.5"))


class InAField(BrowserTest):
    def test_a_day_emptied_stays_a_field(self) -> None:
        page = self.open("Cold store")
        if not self.figure("Lent on").is_visible():
            page.get_by_role("button", name="Dates", exact=True).click()
        day = self.figure("Lent on")
        day.fill("")
        expect(day).to_be_focused()
        day.press_sequentially("1 nov 2027")
        expect(day).to_have_value("1 nov 2027")
        day.press("Escape")
        expect(day).to_have_value("1 Nov 2027")
        self.assertIn("/cases/", page.url)

    def test_esc_keeps_and_undo_takes_back(self) -> None:
        page = self.open("Cider press")
        self.answers("938.82")
        rate = self.figure("Rate")
        rate.fill("6.10")
        rate.press("Escape")
        expect(rate).not_to_be_focused()
        # 933.34: mpmath, as said in test_case_page.
        self.answers("933.34")
        page.keyboard.press("Control+z")
        self.answers("938.82")
        expect(rate).to_have_value(re.compile(r"^6\.35"))
        page.keyboard.press("Control+Shift+z")
        self.answers("933.34")

    def test_paid_less_often_the_quote_may_stay(self) -> None:
        """6 % compounded monthly is 6.1678 % a year, quarterly 6.1364 %."""
        page = self.page
        page.get_by_role("button", name="New case").click()
        for name, text in (("Amount lent", "12000"), ("Rate", "6"), ("Number of payments", "24")):
            self.figure(name).fill(text)
        page.get_by_role("button", name="Paid: monthly").click()
        page.get_by_role("menuitemradio", name="quarterly", exact=True).click()
        ways = page.get_by_role("group", name="Two ways to change this")
        expect(ways).to_contain_text("6.1678 %")
        expect(ways).to_contain_text("6.1364 %")
        ways.get_by_role("button", name="Keep the compounding, too").click()
        expect(page.get_by_label("Answer")).to_contain_text("6.1678")


class WhatIsSaid(BrowserTest):
    def test_a_clause_says_what_it_gives_way_to(self) -> None:
        page = self.open("Cider hall")
        page.get_by_role("button", name="Add a clause").click()
        page.get_by_role("menuitemradio", name="nothing is paid in some months").click()
        clauses = page.get_by_role("list", name="Clauses")
        expect(clauses).to_contain_text("holds instead")
        self.accessible()

    def test_an_aim_has_its_unit_and_the_list_says_what_was_asked(self) -> None:
        page = self.open("Boat shed")
        reached = page.get_by_label("Figure that reaches the aim")
        expect(reached.locator("xpath=following-sibling::span")).to_have_text("%")
        page.get_by_role("button", name="Drop the aim").click()
        self.figure("Payment").fill("900")
        self.figure("Price").fill("?")
        expect(page.get_by_label("Answer")).to_contain_text("The price is")
        expect(page.get_by_role("status").filter(has_text=SAVED)).to_be_visible()
        page.get_by_role("link", name="Zephyrant").click()
        boat = self.listed().filter(has_text="Boat shed")
        expect(boat).to_contain_text("price")

    def test_terms_rates_are_told_from_those_of_clauses(self) -> None:
        page = self.open("Cider hall")
        answer = page.get_by_label("Answer")
        expect(answer).to_contain_text("Rate of one payment period, first")
        expect(answer).to_contain_text(re.compile(r"Last payment, number \d+"))
