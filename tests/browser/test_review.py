"""A case before somebody else, in two windows: the analyst's and her colleague's."""

import io

import pypdf
from playwright.sync_api import Page, expect

from zephyrant.desk.demo import COLLEAGUE
from zephyrant.desk.models import Case, Review
from zephyrant.loans import ENGINE

from .base import BrowserTest

JUDGE = "Edda Quarrie"


class BeforeSomebodyElse(BrowserTest):
    def put_up(self, page: Page, asked: str = "") -> None:
        page.get_by_role("button", name="Review", exact=True).click()
        sheet = page.get_by_role("dialog", name="Review")
        sheet.get_by_label("To be judged by").select_option(JUDGE)
        sheet.get_by_label("What they should know").fill(asked)
        sheet.get_by_role("button", name="Put up for review").click()
        expect(page.get_by_role("note", name="Review")).to_contain_text(f"In review by {JUDGE}")

    def statement(self, page: Page) -> str:
        """The first page of the statement to file."""
        with page.expect_download() as taken:
            page.get_by_role("button", name="Export", exact=True).click()
            page.get_by_role("menuitem", name="Statement to file").click()
        pages = pypdf.PdfReader(io.BytesIO(taken.value.path().read_bytes())).pages
        return " ".join(pages[0].extract_text().split())

    def test_from_putting_up_to_a_version_beside_the_approved(self) -> None:
        page = self.open("Cider press")
        page.keyboard.press("Escape")
        page.keyboard.press(";")
        sheet = page.get_by_role("dialog", name="Review")
        sheet.get_by_role("button", name="Put up for review").click()
        expect(sheet.get_by_text("Choose who is to judge it.")).to_be_visible()
        self.accessible()
        sheet.get_by_role("button", name="Close").click()
        self.put_up(page, "For Thursday.")
        expect(page.get_by_text("what you change here is not kept")).to_be_visible()

        theirs = self.as_colleague(self.live_server_url)
        theirs.get_by_role("button", name="1 for you to judge").click()
        expect(self.listed(theirs)).to_have_count(1)
        # All means those that are not for them to judge, too.
        theirs.get_by_label("Find a case").fill("nothing of the kind")
        theirs.get_by_role("button", name="Show all", exact=True).click()
        waiting = theirs.get_by_role("button", name="1 for you to judge")
        expect(waiting).to_have_attribute("aria-pressed", "false")
        expect(theirs.get_by_label("Find a case")).to_have_value("")
        self.open("Cider press", theirs)
        self.answers("938.82", theirs)
        theirs.get_by_role("button", name="Comment on Rate").click()
        sheet = theirs.get_by_role("dialog", name="Review")
        expect(sheet.get_by_text("For Thursday.").first).to_be_visible()
        form = sheet.get_by_role("form", name="Comment")
        expect(form.get_by_role("combobox", name="On")).to_have_value("rate.percent")
        form.get_by_role("button", name="Comment").click()
        expect(form.get_by_text("Say something of it.")).to_be_visible()
        form.get_by_label("What you say of it").fill("A quarter below our list.")
        form.get_by_role("button", name="Comment").click()
        said = sheet.get_by_role("list", name="Comments").get_by_role("listitem")
        expect(said).to_contain_text(f"Rate 6.3500 % · {JUDGE}")
        expect(theirs.get_by_role("button", name="1 comment on Rate")).to_be_visible()
        judging = sheet.get_by_role("region", name="Judge it")
        judging.get_by_role("button", name="Send back").click()
        expect(judging.get_by_text("Say what has to change.")).to_be_visible()
        self.accessible(theirs)
        judging.get_by_label("What you say of it").fill("The rate, please.")
        judging.get_by_role("button", name="Send back").click()
        expect(theirs.get_by_role("note", name="Review")).to_contain_text("The rate, please.")

        page.reload()
        expect(page.get_by_role("note", name="Review")).to_contain_text(f"Sent back by {JUDGE}")
        expect(page.get_by_role("note", name="Review")).to_contain_text("The rate, please.")
        page.get_by_role("button", name="1 comment on Rate").click()
        expect(page.get_by_text("A quarter below our list.")).to_be_visible()
        page.get_by_role("button", name="Close").click()
        self.figure("Rate").fill("6.6")
        self.figure("Rate").press("Tab")
        # 48,250 over 60 months at 6.6 % compounded half-yearly, by the annuity formula.
        month = 1.033 ** (1 / 6) - 1
        payment = f"{48_250 * month / (1 - (1 + month) ** -60):.2f}"
        self.answers(payment)
        self.put_up(page)
        self.assertIn(f"Not approved yet: in review by {JUDGE}", self.statement(page))

        theirs.reload()
        theirs.get_by_role("button", name="Judge it").click()
        judging = theirs.get_by_role("region", name="Judge it")
        judging.get_by_label("What you say of it").fill("Within the limits.")
        judging.get_by_role("button", name="Approve").click()
        expect(theirs.get_by_role("note", name="Review")).to_contain_text(f"Approved by {JUDGE}")

        page.reload()
        note = page.get_by_role("note", name="Review")
        expect(note).to_contain_text("This case is approved and stays as it is")
        self.accessible()
        text = self.statement(page)
        for line in (f"Approved by {JUDGE}, ", "Their words Within the limits.", payment):
            self.assertIn(line, text)
        self.assertIn("Put up for review by Maren Tolliver, ", text)
        self.assertIn(f"Computed by {ENGINE}", text)
        # A change is not kept in it; it becomes a version beside it.
        approved = Case.objects.get(name__startswith="Cider press")
        self.figure("Number of payments").fill("48")
        self.figure("Number of payments").press("Tab")
        fewer = f"{48_250 * month / (1 - (1 + month) ** -48):.2f}"
        self.answers(f"{float(fewer):,.2f}")
        note.get_by_role("button", name="Begin a new version").click()
        expect(page.get_by_text("A new version of")).to_be_visible()
        expect(self.figure("Number of payments")).to_have_value("48")
        expect(page.get_by_text("Saved", exact=False).first).to_be_visible()
        approved.refresh_from_db()
        self.assertEqual(approved.statement["count"], "60")
        page.get_by_role("link", name="Cider press").click()
        expect(page.get_by_text("Newer versions:")).to_be_visible()
        page.keyboard.press("e")
        expect(page.get_by_role("dialog").get_by_text(f"Approved by {JUDGE}")).to_be_visible()
        page.get_by_role("link", name="Cases", exact=True).click()
        expect(self.listed().filter(has_text="Cider press").get_by_text("approved")).to_be_visible()

    def test_a_reviewer_who_is_an_author_is_refused_at_its_field(self) -> None:
        page = self.open("Kiln, Tarn")
        page.get_by_role("button", name="Share").click()
        page.get_by_label(f"{JUDGE} may").select_option("may change it")
        self.until(
            Case.objects.filter(shares__user__username=COLLEAGUE[0]).exists, "shared to change"
        )
        page.get_by_role("button", name="Close").click()
        theirs = self.as_colleague(page.url)
        self.figure("Payment", theirs).fill("440.00")
        self.figure("Payment", theirs).press("Tab")
        self.until(
            Case.objects.filter(name__startswith="Kiln", statement__payment="440.00").exists,
            "changed by the colleague",
        )
        page.reload()
        page.get_by_role("button", name="Review", exact=True).click()
        sheet = page.get_by_role("dialog", name="Review")
        sheet.get_by_label("What they should know").fill("Please look.")
        sheet.get_by_label("To be judged by").select_option(JUDGE)
        sheet.get_by_role("button", name="Put up for review").click()
        expect(sheet.get_by_role("alert")).to_have_text(
            f"{JUDGE} is an author of this case: it is for somebody else to judge."
        )
        expect(sheet.get_by_label("What they should know")).to_have_value("Please look.")
        self.assertFalse(Review.objects.exists())

    def test_what_is_typed_while_it_is_put_up_elsewhere_is_said_not_to_be_kept(self) -> None:
        page = self.open("Six looms")
        other = self.at_the_desk()
        self.open("Six looms", other)
        self.put_up(other)
        self.figure("Payment").fill("700")
        self.figure("Payment").press("Tab")
        expect(page.get_by_text("Not saved: This case is in review")).to_be_visible()
        expect(self.figure("Payment")).to_have_value("700.00")
        other.get_by_role("button", name="Take it back").click()
        expect(other.get_by_role("note", name="Review")).to_have_count(0)
        expect(other.get_by_text("what you change here is not kept")).to_have_count(0)
