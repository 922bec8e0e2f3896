"""The guide: its jobs, its examples opened, the words; what a blank desk and a blank case begin
with; words explained where they stand."""

import re

from django.contrib.auth.models import User
from playwright.sync_api import expect

from zephyrant.desk.guide import JOBS
from zephyrant.desk.models import Case

from .base import BrowserTest


class TheGuide(BrowserTest):
    def test_every_job_is_there_and_an_example_opens(self) -> None:
        page = self.page
        page.get_by_role("button", name="Columns").wait_for()
        page.keyboard.press("?")
        jobs = page.get_by_role("navigation", name="Jobs").get_by_role("link")
        expect(jobs).to_have_count(len(JOBS) + 1)
        self.accessible()
        page.get_by_role("button", name="Open the example: What is the payment?").click()
        # 43,700 (0.054/12) / (1 - (1 + 0.054/12)^-48)
        self.answers("1,014.32")

    def test_an_example_opens_with_its_sheet(self) -> None:
        page = self.page
        page.get_by_role("link", name="Guide").click()
        page.get_by_role("button", name="Open the example: What moves the payment?").click()
        sheet = page.get_by_role("dialog", name="What moves it")
        sheet.get_by_label("Values of the figure varied").fill("±0.75 by 1/8")
        expect(sheet.get_by_role("rowheader", name="5.625 %")).to_be_visible()
        expect(sheet.get_by_role("rowheader", name="7.125 %")).to_be_visible()

    def test_words_stand_there_whole(self) -> None:
        page = self.page
        page.goto(f"{self.live_server_url}/guide#words")
        words = page.get_by_role("region", name="Words")
        expect(words).to_contain_text("due in one sum")
        expect(words).to_be_in_viewport()

    def test_a_blank_desk_begins_with_examples(self) -> None:
        newcomer = User.objects.create_user("newcomer", password="bramble-and-slate")
        page = self.window()
        page.goto(self.live_server_url)
        page.get_by_label("Name").fill("newcomer")
        page.get_by_label("Password").fill("bramble-and-slate")
        page.get_by_role("button", name="Sign in").click()
        expect(page.get_by_role("heading", name="Begin with an example")).to_be_visible()
        self.accessible(page)
        page.get_by_role("button", name="How long does it take?").click()
        self.answers("53", page)
        self.until(lambda: Case.objects.filter(owner=newcomer).exists(), "a case of their own")

    def test_a_blank_case_begins_with_examples_too(self) -> None:
        page = self.page
        page.get_by_role("button", name="New case").click()
        page.get_by_role("button", name="A price, a down payment and a balloon").click()
        self.answers("1,194.25")
        expect(page.get_by_role("heading", name="Begin with an example")).to_have_count(0)


class Words(BrowserTest):
    def test_a_word_is_explained_by_pointer_and_by_keys(self) -> None:
        page = self.open("Cider press")
        page.get_by_role("button", name="Quoted: a year, nominal").hover()
        hint = page.get_by_role("tooltip")
        expect(hint).to_contain_text("says something only together with its compounding")
        page.mouse.move(2, 2)
        expect(hint).to_have_count(0)
        word = page.get_by_role("button", name="US actuarial APR, nominal")
        # The focus that keys bring; the pointer's asks nothing.
        page.keyboard.press("Tab")
        word.focus()
        expect(hint).to_contain_text("Regulation Z, appendix J")
        expect(word).to_have_accessible_description(re.compile("Regulation Z"))
        page.keyboard.press("Escape")
        expect(hint).to_have_count(0)

    def test_formulas_are_set_as_formulas(self) -> None:
        page = self.open("Cider press")
        page.get_by_role("button", name="Working").first.click()
        sheet = page.get_by_role("dialog", name="Working")
        # A = (P u^n - B) / s
        payment = sheet.locator("li").filter(has_text="The payment").locator("math")
        expect(payment.locator("mfrac > mrow").first.locator("msup")).to_have_text("un")
        expect(payment.locator("mfrac > mrow").nth(1)).to_have_text("s")
        self.accessible()


class MyDesk(BrowserTest):
    def test_a_case_begins_as_the_analyst_has_it(self) -> None:
        page = self.page
        page.get_by_role("button", name="how a case begins").click()
        page.get_by_role("menuitem", name="How a case begins").click()
        sheet = page.get_by_role("dialog", name="How a case begins")
        sheet.get_by_role("button", name="Currency: EUR").click()
        page.get_by_role("menuitemradio", name="CHF").click()
        sheet.get_by_role("button", name="Paid: monthly").click()
        page.get_by_role("menuitemradio", name="quarterly").click()
        expect(sheet.get_by_role("button", name="Paid: quarterly")).to_be_visible()
        self.accessible()
        sheet.get_by_role("button", name="Close").click()
        page.get_by_role("button", name="New case").click()
        expect(page.get_by_role("button", name="Currency: CHF")).to_be_visible()
        expect(page.get_by_role("button", name="Paid: quarterly")).to_be_visible()

    def test_the_answer_is_copied_as_a_number_and_as_a_sentence(self) -> None:
        page = self.open("Cider press")
        page.context.grant_permissions(["clipboard-read", "clipboard-write"])
        self.answers("938.82")
        page.locator("body").press("k")
        expect(page.get_by_text("938.82 copied")).to_be_visible()
        self.assertEqual(page.evaluate("navigator.clipboard.readText()"), "938.82")
        page.get_by_role("button", name="Copy what was found").click()
        page.get_by_role("menuitem", name="As a sentence").click()
        expect(page.get_by_text("Sentence copied")).to_be_visible()
        said = page.evaluate("navigator.clipboard.readText()")
        self.assertTrue(said.startswith("Each monthly payment is 938.82 EUR. We lend 48,250.00"))
