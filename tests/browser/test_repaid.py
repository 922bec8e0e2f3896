"""How a loan is repaid, chosen in the sentence, by mouse and by keyboard alone."""

import re

from playwright.sync_api import expect

from .base import BrowserTest

# By hand: 12,000 at 0.5 % a month over 12 months. Equal principal: 1,000 and 60.00 first, interest
# 390.00 in all. Interest only: 60.00. All at the end: 12,000 x 1.005^12 = 12,740.13, cents from
# rounding each month's interest away (12,740.12 to 12,740.15).


class Repaid(BrowserTest):
    def setUp(self) -> None:
        super().setUp()
        page = self.page
        page.get_by_role("button", name="New case").click()
        page.get_by_label("Name of the case").focus()
        page.keyboard.type("Glaze kiln")
        page.keyboard.press("Enter")
        for typed in ("12,000", "6", "12"):
            page.keyboard.type(typed)
            page.keyboard.press("Enter")
        self.answers("1,032.80")

    def choose(self, way: str) -> None:
        self.page.get_by_role("button", name=re.compile("^Repaid: ")).click()
        self.page.get_by_role("menuitemradio", name=way).click()

    def test_every_way(self) -> None:
        page = self.page
        self.choose("equal principal, interest on top")
        self.answers("1,060.00")
        expect(page.get_by_text("12 payments that fall from 1,060.00 to 1,005.00")).to_be_visible()
        self.accessible()
        self.choose("interest only, principal at the end")
        self.answers("60.00")
        self.choose("parts in percent, interest on top")
        parts = self.figure("Parts of the principal")
        parts.fill("11 x 5; 50")
        expect(page.get_by_text(re.compile("add up to 105 %"))).to_be_visible()
        parts.fill("11 x 5; 45")
        self.answers("660.00")
        parts.press("Enter")
        expect(parts).to_have_value("11 × 5; 45")
        self.choose("all at the end, interest added")
        expect(page.get_by_text("The payment at the end is")).to_be_visible()
        expect(self.figure("Balance at the end")).to_have_count(0)
        self.accessible()
        self.choose("level, as over a longer time")
        self.figure("Payments it is reckoned over").fill("10 years")
        # The annuity formula: 12,000 x 0.005 / (1 - 1.005^-120).
        self.answers("133.22")
        expect(page.get_by_text("Balance due with the last")).to_be_visible()
        self.choose("level, interest by sum-of-digits")
        self.answers("1,032.80")
        expect(
            page.get_by_role("columnheader", name="Actuarial closing balance").first
        ).to_be_visible()
        # What was typed for another way is still there.
        self.choose("parts in percent, interest on top")
        expect(self.figure("Parts of the principal")).to_have_value("11 × 5; 45")
        expect(page.get_by_text(re.compile("^Saved"))).to_be_visible()
        page.reload()
        expect(self.figure("Parts of the principal")).to_have_value("11 × 5; 45")

    def test_by_keyboard_alone(self) -> None:
        page = self.page
        page.keyboard.press("Escape")
        page.keyboard.press(",")
        expect(page.get_by_role("menuitemradio").first).to_be_focused()
        page.keyboard.press("e")
        # A letter goes to a word.
        equal = page.get_by_role("menuitemradio", name="equal principal, interest on top")
        expect(equal).to_be_focused()
        page.keyboard.press("Enter")
        self.answers("1,060.00")
        page.keyboard.press("p")
        expect(self.figure("Payment")).to_be_focused()
        page.keyboard.type("1,060")
        page.keyboard.press("Escape")
        page.keyboard.press("a")
        expect(self.figure("Amount lent")).to_be_focused()
        page.keyboard.type("?")
        self.answers("12,000.00")

    def test_in_advance_is_said_not_to_go_with_it(self) -> None:
        page = self.page
        self.choose("equal principal, interest on top")
        self.answers("1,060.00")
        page.get_by_role("button", name="Paid at the: end").click()
        page.get_by_role("menuitemradio", name=re.compile("in advance")).click()
        expect(page.get_by_text(re.compile("payments are made in arrears"))).to_be_visible()
