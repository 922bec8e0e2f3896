"""Loans and clauses said in words, by keyboard alone; and the ways back from what was done."""

import re
from decimal import Decimal

from playwright.sync_api import expect

from tests.browser.base import BrowserTest
from zephyrant.desk.models import Case


class Saying(BrowserTest):
    def test_a_line_on_the_list_becomes_a_case(self) -> None:
        page = self.page
        page.keyboard.press("i")
        expect(page.get_by_label("Say a loan")).to_be_focused()
        page.keyboard.type("43,700 at 5 % monthly over 4 years")
        # By the formula, at 5/12 % a month.
        level = Decimal(43700) * Decimal(5) / 1200 / (1 - (1 + Decimal(5) / 1200) ** -48)
        found = f"{level:,.2f}"
        expect(page.get_by_text(f"Each monthly payment is {found} EUR")).to_be_visible()
        expect(page.get_by_text("Guessed:")).to_contain_text("in EUR")
        expect(page.get_by_text("Guessed:")).to_contain_text("compounded monthly")
        self.accessible()
        page.keyboard.press("Enter")
        self.answers(found)
        expect(self.figure("Amount lent")).to_have_value("43,700.00")
        # Nothing has the focus: a letter goes to its figure at once.
        page.keyboard.press("b")
        page.keyboard.type("8,000")
        left = Decimal(8000) * Decimal(5) / 1200
        lower = (Decimal(43700) - 8000) / Decimal(43700) * level + left
        self.answers(f"{lower:,.2f}")

    def test_what_is_not_understood_is_marked_and_stays(self) -> None:
        page = self.page
        said = page.get_by_label("Say a loan")
        said.fill("43,700 bananas at 5 % over 4 years")
        expect(page.get_by_text("“bananas” is not understood here.")).to_be_visible()
        said.press("Enter")
        expect(said).to_have_value("43,700 bananas at 5 % over 4 years")
        expect(page.locator("u", has_text="bananas")).to_be_visible()
        said.fill("43,700 at 5 %")
        expect(page.get_by_text("Still to be stated, all but one:")).to_contain_text("payment")
        said.press("Enter")
        expect(self.figure("Amount lent")).to_have_value("43,700.00")
        expect(page.get_by_text("Still to be stated: number of payments, payment.")).to_be_visible()

    def test_putting_aside_reads_as_such(self) -> None:
        page = self.page
        page.keyboard.press("n")
        expect(page.get_by_label("Say a loan")).to_be_focused()
        page.keyboard.type("2,350, 85 a month put aside, eight years at 3.2 %")
        page.keyboard.press("Enter")
        # 12,320.21 to the cent (the contract).
        self.answers("12,320.21")
        terms = page.get_by_role("region", name="Statement of terms")
        expect(terms).to_contain_text("We put aside")
        expect(terms).to_contain_text("with nothing paid out over")
        expect(page.get_by_label("Answer").first).to_contain_text("There at the end is")
        self.accessible()
        terms.get_by_role("button", name="Who speaks: We put aside").click()
        page.get_by_role("menuitemradio", name="We borrow").click()
        expect(terms).to_contain_text("with no regular payments over")
        self.answers("12,320.21")

    def test_clauses_are_said_and_pasted(self) -> None:
        page = self.open("Cider press")
        self.answers("938.82")
        said = page.get_by_label("Say a clause")
        said.fill("at 12 repay 4,500; nothing for the last 3 payments; and some bananas")
        said.press("Enter")
        clauses = page.get_by_role("list", name="Clauses").get_by_role("listitem")
        expect(clauses).to_have_count(2)
        expect(clauses.first).to_contain_text("is repaid on top")
        expect(page.get_by_label("From, clause 2")).to_have_value("58")
        # What was not understood stays to be mended.
        expect(said).to_have_value(re.compile("bananas"))
        expect(page.get_by_text("bananas” is not understood here.")).to_be_visible()
        said.fill("2 % fee")
        said.press("Enter")
        expect(clauses).to_have_count(3)
        expect(page.get_by_text("Guessed: “2 % fee” a fee kept back")).to_be_visible()
        self.accessible()


class WaysBack(BrowserTest):
    def kept_rate(self) -> str:
        return str(Case.objects.get(name__startswith="Cider press").statement["percent"])

    def test_undo_says_what_and_never_undoes_another_window(self) -> None:
        page = self.open("Cider press")
        self.answers("938.82")
        rate = self.figure("Rate")
        rate.fill("6.10")
        rate.press("Escape")
        expect(rate).to_have_value("6.10")
        expect(page.get_by_text(re.compile("^Saved"))).to_be_visible()
        page.keyboard.press("Control+z")
        expect(page.get_by_text("Taken back: rate 6.10 % to 6.35 %.")).to_be_visible()
        self.answers("938.82")
        page.keyboard.press("Control+Shift+z")
        expect(page.get_by_text("Made again: rate 6.35 % to 6.10 %.")).to_be_visible()
        self.until(lambda: self.kept_rate() == "6.10", "made again and saved")
        other = page.context.new_page()
        other.goto(page.url)
        count = self.figure("Number of payments", other)
        count.fill("72")
        count.press("Escape")
        # What is saved there shows up here, where nothing is being typed.
        expect(self.figure("Number of payments")).to_have_value("72")
        page.keyboard.press("Control+z")
        expect(rate).to_have_value("6.35")
        expect(self.figure("Number of payments")).to_have_value("72")
        expect(self.figure("Rate", other)).to_have_value("6.35")
        # While something is typed here it waits.
        payment = self.figure("Balance at the end")
        payment.focus()
        count.fill("66")
        count.press("Escape")
        expect(other.get_by_text(re.compile("^Saved"))).to_be_visible()
        expect(self.figure("Number of payments")).to_have_value("72")
        payment.press("Escape")
        expect(self.figure("Number of payments")).to_have_value("66")

    def test_the_focus_goes_back_to_what_opened_a_sheet(self) -> None:
        page = self.open("Cider press")
        self.answers("938.82")
        trail = page.get_by_role("button", name="Trail")
        trail.focus()
        page.keyboard.press("Enter")
        expect(page.get_by_role("dialog", name="Trail")).to_be_visible()
        page.keyboard.press("Escape")
        expect(trail).to_be_focused()
        what_if = page.get_by_role("button", name="What if")
        what_if.focus()
        page.keyboard.press("Enter")
        page.get_by_role("menuitem", name="Paying more").press("Enter")
        expect(page.get_by_role("dialog", name="Paying more")).to_be_visible()
        page.keyboard.press("Escape")
        expect(what_if).to_be_focused()
        page.keyboard.press("Escape")
        what_if.evaluate("button => button.blur()")
        page.keyboard.press("h")
        page.get_by_role("checkbox", name="Single letters are on").focus()
        page.keyboard.press("h")
        expect(page.get_by_role("dialog", name="Keyboard")).to_have_count(0)

    def test_every_answer_a_field_was_left_on_stays_on_the_trail(self) -> None:
        page = self.open("Kiln, Tarn")
        amount = self.figure("Amount lent")
        for typed in ("20,100", "20,200", "20,300"):
            amount.fill(typed)
            amount.press("Escape")
            expect(amount).to_have_value(f"{typed}.00")
        page.get_by_role("button", name="Trail").click()
        points = page.get_by_role("list", name="Trail").get_by_role("listitem")

        expect(points).to_have_count(4)
