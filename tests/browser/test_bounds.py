"""What can be lent within a cash flow and a value, by mouse and by keyboard alone."""

import re

from playwright.sync_api import expect

from .base import BrowserTest

# By hand, without interest over twelve months: 18,600 / 1.25 = 14,880 is carried, 1,240 a month;
# 70 % of 20,000 is 14,000.


class Bounds(BrowserTest):
    def setUp(self) -> None:
        super().setUp()
        page = self.page
        page.get_by_role("button", name="New case").click()
        page.get_by_label("Name of the case").focus()
        page.keyboard.type("Oat mill")
        page.keyboard.press("Enter")
        for typed in ("12,000", "0", "12"):
            page.keyboard.type(typed)
            page.keyboard.press("Enter")
        self.answers("1,000.00")

    def test_what_can_be_lent(self) -> None:
        page = self.page
        page.get_by_role("button", name="Cash flow and cover").click()
        expect(self.figure("Cash flow")).to_be_focused()
        page.keyboard.type("18,600")
        self.figure("Cover of the payments").fill("1.25")
        # Bounds do not steer where another figure is asked for: 18,600 / 12,000.
        self.answers("1,000.00")
        lowest = page.locator("dl > div").filter(has_text="Lowest cover")
        expect(lowest).to_contain_text("1.55")
        self.accessible()
        page.get_by_role("button", name="What can be lent within this?").click()
        self.answers("14,880.00")
        expect(page.get_by_text("The cover binds: no more can be lent")).to_be_visible()
        expect(self.figure("Payment")).to_have_value("as the bounds allow")
        page.get_by_role("button", name="Value it is lent on").click()
        expect(self.figure("Value it is lent on")).to_be_focused()
        page.keyboard.type("20k")
        page.keyboard.press("Enter")
        page.keyboard.type("70")
        self.answers("14,000.00")
        expect(
            page.get_by_text("The value binds: the cover alone would let 880.00")
        ).to_be_visible()
        expect(page.get_by_role("columnheader", name="Loan to value, %").first).to_be_visible()
        self.accessible()
        # Asked for the payment it keeps what was found.
        self.figure("Payment").fill("?")
        self.answers("1,166.67")
        expect(self.figure("Amount lent")).to_have_value("14,000.00")
        expect(page.get_by_text(re.compile("^Saved"))).to_be_visible()
        page.reload()
        self.answers("1,166.67")
        page.get_by_role("button", name="Take the value off").click()
        expect(self.figure("Value it is lent on")).to_have_count(0)

    def test_what_cannot_be_is_said_at_its_field(self) -> None:
        page = self.page
        page.get_by_role("button", name="Cash flow and cover").click()
        self.figure("Cash flow").fill("18,600; 19k")
        self.figure("Cover of the payments").fill("0")
        expect(page.get_by_text(re.compile("A cover is above 0"))).to_be_visible()
        self.figure("Cover of the payments").fill("1.25")
        # A cash flow for each year does not grow besides.
        expect(self.figure("Growth of the cash flow")).to_have_count(0)
        page.get_by_role("button", name="Period of the cash flow: year").click()
        page.get_by_role("menuitemradio", name="weekly").click()
        expect(page.get_by_text(re.compile("do not make up a week"))).to_be_visible()
        expect(self.figure("Cash flow")).to_have_value(re.compile("18,600"))

    def test_sculpted_by_keyboard_alone(self) -> None:
        page = self.page
        page.keyboard.press("Escape")
        page.keyboard.press(",")
        expect(page.get_by_role("menuitemradio").first).to_be_focused()
        page.keyboard.press("s")
        sculpted = page.get_by_role("menuitemradio", name="sculpted to the cash flow")
        expect(sculpted).to_be_focused()
        page.keyboard.press("Enter")
        expect(self.figure("Cash flow")).to_be_focused()
        page.keyboard.type("18,600")
        # The cover is asked for now, as the payment was.
        self.answers("1.55")
        page.keyboard.press("Escape")
        page.keyboard.press("a")
        expect(self.figure("Amount lent")).to_be_focused()
        page.keyboard.type("?")
        self.answers("12,000.00")
        expect(self.figure("Cover of the payments")).to_have_value(re.compile("^1.55"))
