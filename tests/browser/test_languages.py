"""The screen in another language, and days as another country writes them."""

import re
import tempfile
from functools import reduce
from pathlib import Path
from typing import ClassVar

from playwright.sync_api import Page, expect

from tests import made_up
from zephyrant import texts
from zephyrant.desk.models import Case, LoanTable, QuoteList, TrailPoint
from zephyrant.texts import translations

from .base import BrowserTest

#: Every text of a page and what is said of its parts to who listens; formulas are not read.
READ = """() => {
  const said = [], parts = [];
  const read = (node) => {
    for (const each of node.childNodes) {
      if (each.nodeType === Node.TEXT_NODE) parts.push(each.data);
      if (each.nodeType !== Node.ELEMENT_NODE) continue;
      if (/^(math|script|style)$/i.test(each.tagName)) continue;
      for (const name of ["aria-label", "title", "placeholder", "aria-valuetext"])
        if (each.getAttribute(name)) said.push(each.getAttribute(name));
      read(each);
      parts.push("\\n");
    }
  };
  read(document.body);
  return [...said, parts.join("")];
}"""
#: What is called the same in every language, or was typed by somebody.
AS_IT_IS = re.compile(
    r"zephyrant-loans [\d.]+|zephyrant|EUR|CHF|bp|Esc|Enter|Space|Tab|Del|Ctrl|English|Svenska"
    r"|Maren Tolliver|Edda Quarrie"
    r"|\d+ \w+\.? \d{4}|[\d.]+ to [\d.]+ by [\d.]+|We lend .* at the end\."
    # How a rate was quoted is kept for the list in English.
    r"|a year, (nominal, )?(compounded [a-z-]+|effective)"
)


class InAnotherLanguage(BrowserTest):
    folder: ClassVar[Path]

    @classmethod
    def setUpClass(cls) -> None:
        held = tempfile.TemporaryDirectory()
        cls.addClassCleanup(held.cleanup)
        cls.folder = Path(held.name)
        made_up.lay(cls.folder)
        texts.look_in(cls.folder)
        super().setUpClass()

    @classmethod
    def tearDownClass(cls) -> None:
        super().tearDownClass()
        translations._folders.remove(cls.folder)
        texts.languages.cache_clear()
        translations._kept.cache_clear()

    def setUp(self) -> None:
        super().setUp()
        self.page.context.close()
        self.page = self.at_the_desk(locale="sv-SE")
        typed = [
            each for name in ("name", "note") for each in Case.objects.values_list(name, flat=True)
        ]
        typed += [tag for tags in Case.objects.values_list("tags", flat=True) for tag in tags]
        typed += TrailPoint.objects.exclude(name="").values_list("name", flat=True)
        typed += [*LoanTable.objects.values_list("name", flat=True)]
        typed += [*QuoteList.objects.values_list("name", flat=True)]
        self.typed = sorted((each for each in typed if each), key=len, reverse=True)

    def worded(self, where: str) -> None:
        """Nothing on the page is said in English."""

        def left() -> list[str]:
            found = []
            for said in self.page.evaluate(READ):
                ours = reduce(lambda text, typed: text.replace(typed, ""), self.typed, str(said))
                found += [AS_IT_IS.sub("", each) for each in made_up.outside(ours)]
            return [each for each in found if re.search(r"[^\W\d_]{2}", each)]

        self.assertEqual(left(), [], where)

    def go(self, path: str, there: str) -> Page:
        """A page of the desk, once this stands there."""
        self.page.goto(self.live_server_url + path)
        expect(self.page.get_by_text(there).first).to_be_visible()
        self.page.wait_for_load_state("networkidle")
        return self.page

    def test_pages(self) -> None:
        page = self.page
        expect(page.locator("html")).to_have_attribute("lang", "sv")
        self.worded("cases")
        for path, there in (
            ("/bin", "⟦The bin is empty.⟧"),
            ("/rates", "⟦A quote says that so many percent"),
            ("/rates/side-by-side", "⟦Quotes in whatever clothes they come"),
            ("/tables", "⟦Take this table⟧"),
            ("/nowhere", "⟦There is nothing at this address⟧"),
            ("/cases/00000000-0000-0000-0000-000000000000", "⟦This case cannot be opened⟧"),
        ):
            self.go(path, there)
            self.worded(path)

    def test_cases(self) -> None:
        page = self.page
        links = page.get_by_role("grid").get_by_role("link")
        expect(links.first).to_be_visible()
        addresses = [each.get_attribute("href") or "" for each in links.all()]
        self.assertGreater(len(addresses), 10)
        for address in addresses[:14]:
            self.go(address, "⟦May be added:⟧")
            expect(page.get_by_role("region", name="⟦Answer⟧").first).to_contain_text("⟦")
            self.worded(address)

    def test_sheets_of_a_case(self) -> None:
        page = self.page
        self.open("Cider press")
        address = page.url.removeprefix(self.live_server_url).partition("?")[0]
        for show, there in (
            ("working", "⟦Proof⟧"),
            ("history", "⟦Every step this case took."),
            ("share", "⟦Nobody but you sees this case"),
            ("against", "⟦A schedule from elsewhere"),
            ("settled", "⟦Payoff⟧"),
            ("moves", "⟦The loan worked anew"),
            ("more", "⟦It is repaid by"),
            ("points", "⟦This loan against the same"),
            ("trail", "⟦Every answer found in this case"),
        ):
            self.go(f"{address}?show={show}", there)
            self.worded(show)
        self.go(f"{address}/side-by-side", "⟦Terms⟧")
        self.worded("side by side")

    def test_sheets_of_the_analyst(self) -> None:
        page = self.page
        page.keyboard.press("h")
        expect(page.get_by_text("⟦On a case⟧")).to_be_visible()
        self.worded("keys")
        page.keyboard.press("Escape")
        for item, there in (
            ("⟦How a case begins⟧", "⟦Every new case of yours begins so"),
            ("⟦Change password⟧", "⟦Other windows you are signed in on"),
            ("⟦API and tokens⟧", "⟦There are none yet.⟧"),
        ):
            page.get_by_role("button", name="Maren Tolliver").click()
            page.get_by_role("menuitem", name=item).click()
            expect(page.get_by_text(there)).to_be_visible()
            self.worded(item)
            page.keyboard.press("Escape")

    def test_what_is_typed_is_read_as_ever(self) -> None:
        page = self.page
        page.keyboard.press("n")
        expect(page.get_by_label("⟦Name of the case⟧")).to_be_visible()
        line = page.get_by_role("textbox", name="Say a loan")
        line.fill("43,700 at 5.4 % over 4 years, lent on 15 Mar 2027")
        line.press("Enter")
        expect(page.locator("output").first).to_contain_text("1,014.32")
        self.worded("said")
        expect(page.get_by_label("⟦Lent on⟧")).to_have_value("15 mars 2027")

    def test_it_is_chosen(self) -> None:
        """A browser that asks for English is given the language its analyst has chosen."""
        page = self.at_the_desk()
        page.get_by_role("button", name="Maren Tolliver").click()
        page.get_by_role("menuitem", name="Country and files").click()
        page.get_by_label("Language").select_option("Svenska")
        expect(page.locator("html")).to_have_attribute("lang", "sv")
        expect(page.get_by_role("heading", name="⟦Cases⟧")).to_be_visible()
        page.get_by_role("button", name="Maren Tolliver").click()
        page.get_by_role("menuitem", name="⟦Country and files⟧").click()
        self.accessible(page)
        page.get_by_label("⟦Language⟧").select_option("English")
        expect(page.locator("html")).to_have_attribute("lang", "en")


class InAnotherCountry(BrowserTest):
    def test_days_stand_as_there(self) -> None:
        page = self.at_the_desk(locale="en-US")
        self.open("Apple store", page)
        start = page.get_by_label("Lent on", exact=True)
        typed = start.input_value()
        start.fill("3/15/2027")
        start.press("Enter")
        expect(start).to_have_value("Mar 15, 2027")
        expect(page.get_by_text("Nov 1, 2031").first).to_be_visible()
        self.assertNotEqual(typed, "Mar 15, 2027")
        page.get_by_role("button", name="Maren Tolliver").click()
        page.get_by_role("menuitem", name="Country and files").click()
        expect(page.get_by_text("here Mar 5, 2027")).to_be_visible()
        page.get_by_role("combobox", name="Country").select_option("Sweden")
        expect(page.get_by_text("here 5 Mar 2027")).to_be_visible()
        self.accessible(page)
        page.get_by_role("button", name="Close").click()
        expect(page.get_by_text("1 Nov 2031").first).to_be_visible()
