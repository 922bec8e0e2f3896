"""A quote on every footing."""

from playwright.sync_api import expect

from .base import BrowserTest

# Values worked out with mpmath: (1 + 0.0635/2)^2 - 1; 12 ((1 + 0.0635/2)^(2/12) - 1).


class RatesPage(BrowserTest):
    def test_a_quote_into_all_footings_and_back(self) -> None:
        page = self.page
        page.get_by_role("link", name="Rates").click()
        self.figure("Percent as quoted").fill("6.35")
        self.answers("6.45080625")
        row = page.get_by_role("row", name="compounded monthly")
        expect(row).to_contain_text("6.2676 %")
        expect(page.get_by_text("(1 + 6.35 % / 2)^2 − 1")).to_be_visible()
        self.figure("Times a year").fill("?")
        expect(self.figure("Effective percent a year")).to_have_value("6.45080625")
        self.answers("2")
        self.figure("Percent as quoted").fill("?")
        self.answers("6.35")
        self.accessible()
        page.reload()
        self.answers("6.35")

    def test_named_compoundings_and_continuously(self) -> None:
        page = self.page
        page.keyboard.press("q")
        self.figure("Percent as quoted").fill("6")
        page.get_by_role("button", name="Compounded:").click()
        page.get_by_role("menuitemradio", name="monthly", exact=True).click()
        self.answers("6.1677811864")
        page.get_by_role("button", name="Compounded:").click()
        page.get_by_role("menuitemradio", name="continuously").click()
        # exp(0.06) - 1
        self.answers("6.1836546545")

    def test_bad_input_and_no_answer(self) -> None:
        page = self.page
        page.get_by_role("link", name="Rates").click()
        for typed, sentence in (("six", "is not a percentage"), ("10000", "below 10000 %")):
            self.figure("Percent as quoted").fill(typed)
            expect(page.get_by_role("alert")).to_contain_text(sentence)
        self.figure("Percent as quoted").fill("6")
        self.figure("Times a year").fill("2.5")
        expect(page.get_by_role("alert")).to_contain_text("whole number of times")
        self.figure("Times a year").fill("2")
        self.answers("6.09")
        self.figure("Times a year").fill("?")
        self.figure("Effective percent a year").fill("6.2")
        expect(page.get_by_text("No compounding turns 6.00 % into 6.20 %")).to_be_visible()
