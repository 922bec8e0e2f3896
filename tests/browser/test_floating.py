"""A floating rate stated in a case, by mouse and by keyboard alone."""

import re

from playwright.sync_api import expect

from .base import BrowserTest

# By hand, one payment a year of 10,000 over two years: index 1.00 and 2.00, margin 4.00, so 5 % and
# 6 %. Paying 5,000 each year: 10,000 x 1.05 - 5,000 = 5,500; 5,500 x 1.06 - 5,000 = 830.00 left.


class Floating(BrowserTest):
    def setUp(self) -> None:
        super().setUp()
        page = self.page
        page.get_by_role("button", name="New case").click()
        page.get_by_label("Name of the case").focus()
        page.keyboard.type("Eel weir")
        page.keyboard.press("Enter")
        page.get_by_role("button", name="Paid: monthly").click()
        page.get_by_role("menuitemradio", name="yearly", exact=True).click()
        expect(page.get_by_role("button", name="Paid: yearly")).to_be_visible()
        stated = {"Amount lent": "10,000", "Rate": "5", "Number of payments": "2"}
        for name, typed in {**stated, "Payment": "5,000", "Balance at the end": "?"}.items():
            self.figure(name).fill(typed)
        self.answers("775.00")

    def float(self) -> None:
        page = self.page
        page.get_by_role("button", name="Floating rate").click()
        expect(self.figure("Margin")).to_be_focused()
        page.keyboard.type("4")
        page.get_by_role("button", name="Reset every: half-year").click()
        page.get_by_role("menuitemradio", name="yearly", exact=True).click()
        page.get_by_label("Fixings", exact=True).fill("0 1\n1 2.00")

    def test_stated_held_and_asked(self) -> None:
        page = self.page
        self.float()
        self.answers("830.00")
        expect(page.get_by_text("Every rate rests on a fixing")).to_be_visible()
        self.accessible()
        # Held at 1 the second year bears 5 %, too: as fixed at 5 %.
        self.figure("Cap").fill("1")
        self.answers("775.00")
        self.figure("Floor").fill("3")
        expect(page.get_by_text(re.compile("lies above the cap"))).to_be_visible()
        self.figure("Floor").fill("")
        self.figure("Cap").fill("")
        self.answers("830.00")
        # A path and a shift: 1 and then 3 + 1.
        page.get_by_label("Fixings", exact=True).fill("0 1")
        page.get_by_label("Path ahead").fill("1 3")
        self.figure("Shift").fill("1")
        self.answers("940.00")
        expect(page.get_by_text("This rests on a path")).to_be_visible()
        expect(page.get_by_text(re.compile("^Saved"))).to_be_visible()
        page.reload()
        self.answers("940.00")
        page.get_by_role("button", name="Fix the rate").click()
        self.answers("775.00")

    def test_the_margin_by_keyboard_alone(self) -> None:
        page = self.page
        self.float()
        self.answers("830.00")
        self.figure("Margin").focus()
        page.keyboard.type("?")
        self.answers("4")

    def test_kept_on_the_desk(self) -> None:
        page = self.page
        self.figure("Balance at the end").fill("?")
        page.get_by_role("button", name="Dates", exact=True).click()
        self.figure("Lent on").fill("1 Oct 2026")
        page.keyboard.press("Enter")
        page.get_by_role("button", name="Floating rate").click()
        page.keyboard.type("4")
        page.get_by_role("button", name="Reset every: half-year").click()
        page.get_by_role("menuitemradio", name="yearly", exact=True).click()
        page.get_by_role("button", name="Take fixings of").click()
        page.get_by_role("menuitemradio", name=re.compile("^harbour-6")).click()
        expect(self.figure("Index")).to_have_value("harbour-6")
        # 1.74 and 4.00: 10,000 x 1.0574 - 5,000, and that x 1.0574 - 5,000.
        self.answers("893.95")
        self.figure("Index").fill("weir")
        page.get_by_role("button", name="Keep these on the desk").click()
        expect(page.get_by_role("button", name="No longer keep these")).to_be_visible()
