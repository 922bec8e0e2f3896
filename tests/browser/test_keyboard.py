"""An analyst's jobs by keyboard alone. Expected figures are worked here by the annuity formula."""

import math

from playwright.sync_api import expect

from .base import BrowserTest


def payment(principal: float, rate: float, count: int) -> str:
    """The level payment at the end of each period, `rate` of one period, in marks of the desk."""
    return f"{principal * rate / (1 - (1 + rate) ** -count):,.2f}"


class ByKeyboard(BrowserTest):
    def say(self, line: str) -> None:
        """A loan said in a line on the list, and opened."""
        self.page.keyboard.press("i")
        self.page.keyboard.type(line)
        expect(self.page.get_by_text("Enter opens it")).to_be_visible()
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_label("Name of the case")).to_be_visible()

    def press(self, *keys: str) -> None:
        for key in keys:
            self.page.keyboard.press(key)

    def test_how_often_by_a_letter(self) -> None:
        page = self.page
        self.say("62,400 5.9% 6y")
        self.answers(payment(62_400, 0.059 / 12, 72))
        self.press("v")
        # The list opens on what is chosen, and a letter goes to a word in it.
        expect(page.get_by_role("menuitemradio", name="monthly", exact=True)).to_be_focused()
        self.press("q")
        expect(page.get_by_role("menuitemradio", name="quarterly")).to_be_focused()
        self.press("Enter")
        ways = page.get_by_role("group", name="Two ways to change this")
        expect(ways.get_by_role("button").first).to_be_focused()
        self.press("Enter")
        self.answers(payment(62_400, (1 + 0.059 / 12) ** 3 - 1, 24))
        # The focus is back where it was, so that the next letter counts.
        expect(page.get_by_role("button", name="Paid: quarterly")).to_be_focused()
        self.press("u")
        expect(page.get_by_role("menu", name="Payments are")).to_be_visible()

    def test_a_file_by_two_keys(self) -> None:
        page = self.page
        self.say("54,000 6.2% 48m")
        self.answers(payment(54_000, 0.062 / 12, 48))
        self.press("f")
        first = page.get_by_role("menuitem", name="Statement to file (PDF)")
        expect(first).to_be_focused()
        with page.expect_download() as taken:
            self.press("Enter")
        self.assertTrue(taken.value.suggested_filename.endswith(".pdf"))

    def test_paying_more_and_settled_early(self) -> None:
        page = self.page
        self.say("71,500 6.3% 20y 2027-03-15")
        self.press("+")
        expect(page.get_by_label("More with each payment")).to_be_focused()
        self.press("Tab")
        page.keyboard.type("560")
        rate = 0.063 / 12
        count = math.ceil(-math.log(1 - 71_500 * rate / 560) / math.log(1 + rate))
        expect(page.get_by_role("dialog")).to_contain_text(f"by {count} payments instead of 240")
        self.press("Escape", "Escape")
        expect(page.get_by_role("dialog")).to_have_count(0)
        self.press(".")
        day = page.get_by_label("After payment, or on a day")
        expect(day).to_be_focused()
        page.keyboard.type("2029-06-01")
        expect(day).to_have_value("2029-06-01")
        expect(page.get_by_role("dialog")).to_contain_text("1 Jun 2029")
        self.accessible()

    def test_flows_are_pasted_and_taken(self) -> None:
        page = self.page
        self.press("p")
        expect(page.get_by_label("Days and amounts")).to_be_focused()
        page.keyboard.insert_text("date;amount\n1 Mar 2029;-100,000\n1 Mar 2030;107,000")
        self.press("Control+Enter")
        # One flow after 365 days.
        self.answers("7")

    def test_a_list_of_quotes(self) -> None:
        page = self.page
        self.press("q")
        expect(page.get_by_role("heading", name="Rates")).to_be_visible()
        self.press("v")
        expect(page.get_by_role("button", name="New list")).to_be_visible()
        self.press("a")
        expect(page.get_by_label("Name of the list")).to_be_visible()
        before = page.get_by_label("Name of quote").count()
        self.press("a")
        expect(page.get_by_label(f"Name of quote {before + 1}")).to_be_focused()
