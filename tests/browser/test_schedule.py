"""Loans on dates, the schedule asked anything, and every file it leaves in."""

import csv
import io
from pathlib import Path

import openpyxl
import pypdf
from playwright.sync_api import expect

from .base import BrowserTest


class OnDates(BrowserTest):
    def test_an_odd_first_period(self) -> None:
        # 12 CFR 1026 Appendix J (c)(1)(ii), from memory: 11.82 %.
        page = self.page
        page.keyboard.press("n")
        self.figure("Amount lent").fill("6000")
        self.figure("Number of payments").fill("36")
        self.figure("Payment").fill("200")
        self.figure("Rate").fill("?")
        page.get_by_role("button", name="Dates", exact=True).click()
        self.figure("Lent on").fill("10 Feb 1978")
        expect(self.figure("First payment")).to_have_value("10 Mar 1978")
        self.figure("First payment").fill("1978-04-01")
        self.figure("First payment").press("Enter")
        self.answers("11.816508")
        cost = page.locator("dl > div").filter(has_text="US actuarial APR, nominal")
        # All 36 payments are 200.00: 11.81651 (mpmath).
        expect(cost).to_contain_text("11.8165 %")
        expect(page.get_by_text("1 Mar 1981").first).to_be_visible()
        self.figure("First payment").fill("1 Jan 1978")
        self.figure("Amount lent").focus()
        expect(page.get_by_role("alert")).to_contain_text("lies before the start")
        self.figure("First payment").fill("30 Feb 1978")
        self.figure("Amount lent").focus()
        expect(page.get_by_role("alert")).to_contain_text("is no day of the calendar")
        page.get_by_role("button", name="Take the dates off").click()
        # (c)(1)(i)-like: the regular loan, SciPy's brentq on 36 payments of 200: 12.2489... %.
        expect(page.locator("output")).to_contain_text("12.2")
        self.accessible()

    def test_days_are_the_same_wherever_they_are_read(self) -> None:
        page = self.at_the_desk(timezone_id="America/Los_Angeles")
        self.open("Cider press", page)
        page.get_by_role("button", name="Dates", exact=True).click()
        self.figure("Lent on", page).fill("1 Aug 2027")
        self.figure("Lent on", page).press("Enter")
        schedule = page.get_by_role("table", name="Schedule of payments")
        expect(schedule.get_by_role("row").nth(2)).to_contain_text("1 Sept 2027")
        expect(page.get_by_text("1 Aug 2032").first).to_be_visible()
        # As Unicode CLDR has it in English for Germany, on every line alike.
        self.assertNotIn("Sep ", schedule.inner_text())

    def test_day_counts_and_a_payment_of_its_own(self) -> None:
        page = self.open("Cider press")
        page.get_by_role("button", name="Dates", exact=True).click()
        self.figure("Lent on").fill("1 Mar 2027")
        page.get_by_role("button", name="Days are counted").click()
        page.get_by_role("menuitemradio", name="actual/365").click()
        # Rolled by hand with 31, 30, ... days over 365, mpmath: 939.12.
        self.answers("939.12")
        page.get_by_role("button", name="Add a clause").click()
        page.get_by_role("menuitemradio", name="another payment is made").click()
        expect(self.figure("Place, clause 1")).to_be_focused()
        self.figure("Place, clause 1").fill("7")
        self.figure("Figure, clause 1").fill("?")
        expect(page.get_by_text("In “at payment 7 the payment is ?” the ? is")).to_be_visible()
        expect(self.figure("Payment")).to_have_value("939.12")
        page.get_by_role("button", name="Take off clause 1").click()
        expect(page.get_by_text("Every figure is stated")).to_be_visible()

    def test_a_balloon_as_a_share(self) -> None:
        page = self.open("Cider press")
        self.figure("Balance at the end").fill("30 %")
        # (48,250 u^60 - 14,475) / s, by hand.
        i = (1 + 0.0635 / 2) ** (1 / 6) - 1
        growth = (1 + i) ** 60
        payment = (48250 * growth - 14475) / ((growth - 1) / i)
        self.answers(f"{payment:.2f}")
        page.get_by_role("button", name="Unfold all years").click()
        page.get_by_label("Go to a payment").fill("60")
        page.get_by_label("Go to a payment").press("Enter")
        expect(page.get_by_text("Balloon, still owed at the end")).to_be_visible()

    def test_every_figure_stated(self) -> None:
        page = self.open("Stone crusher")
        expect(page.get_by_text("The figures do not fit")).to_be_visible()
        page.get_by_role("button", name="find the payment").click()
        # 96,300 over 84 months at 6.15 %/12: i / (1 - (1 + i)^-84) x 96,300 = 1,413.74.
        self.answers("1,413.74")
        self.figure("Payment").fill("1413.74")
        expect(page.get_by_text("The figures fit as cash is paid")).to_be_visible()
        self.accessible()


class Asked(BrowserTest):
    def test_by_the_cursor_by_typing_and_by_a_stretch(self) -> None:
        page = self.open("Apple store")
        page.keyboard.press("Escape")
        page.get_by_role("slider").focus()
        page.keyboard.press("PageUp")
        slider = page.get_by_role("slider")
        expect(slider).to_have_attribute("aria-valuetext", "after payment 12: owes 51,311.43")
        for _ in range(3):
            page.keyboard.press("Shift+ArrowRight")
        expect(self.figure("Totals of")).to_have_value("13-15")
        expect(page.get_by_text("payments 13 to 15")).to_be_visible()
        box = slider.bounding_box()
        assert box
        page.mouse.move(box["x"] + box["width"] * 0.3, box["y"] + 50)
        page.mouse.down()
        page.mouse.move(box["x"] + box["width"] * 0.5, box["y"] + 50, steps=4)
        page.mouse.up()
        expect(self.figure("Totals of")).to_have_value("15-24")
        self.figure("Totals of").fill("2028")
        expect(page.get_by_text("payments 2 to 13")).to_be_visible()
        self.figure("Totals of").fill("200-210")
        expect(page.get_by_role("alert")).to_contain_text("lies outside the loan")
        self.figure("Owed at").fill("15 Mar 2029, every 24")
        rows = page.get_by_role("table", name="What is owed").get_by_role("row")
        expect(rows).to_have_count(4)
        expect(rows.nth(1)).to_contain_text("on 15 Mar 2029")
        # Between two payments the cursor stands on a day.
        page.mouse.move(box["x"] + box["width"] * 0.511, box["y"] + 50)
        expect(page.get_by_text("of it accrued")).to_be_visible()
        # 14 of 31 days at 5.95 % / 12 on the 47,379.54 left on 1 Mar: 106.0945.
        expect(rows.nth(1)).to_contain_text("106.09")
        page.get_by_role("button", name="Interest to the day is").click()
        page.get_by_role("menuitemradio", name="rounded up").click()
        expect(rows.nth(1)).to_contain_text("106.10")
        self.accessible()

    def test_the_schedule_grouped_chosen_and_searched(self) -> None:
        page = self.open("Apple store")
        table = page.get_by_role("table", name="Schedule of payments")
        page.get_by_role("button", name="Grouped by").click()
        page.get_by_role("menuitemradio", name="by years from April").click()
        expect(table.get_by_text("2027/28")).to_be_visible()
        page.get_by_role("button", name="Columns").click()
        page.get_by_role("menuitemcheckbox", name="Opening balance").click()
        page.keyboard.press("Escape")
        expect(table.get_by_role("columnheader", name="Opening balance")).to_have_count(0)
        page.reload()
        expect(table.get_by_text("2027/28")).to_be_visible()
        expect(table.get_by_role("columnheader", name="Opening balance")).to_have_count(0)
        jump = page.get_by_label("Go to a payment or a day")
        jump.fill("1 Jun 2030")
        jump.press("Enter")
        expect(table.get_by_text("1 Jun 2030")).to_be_visible()
        page.context.grant_permissions(["clipboard-read", "clipboard-write"])
        page.get_by_role("button", name="Copy", exact=True).click()
        text = page.evaluate("navigator.clipboard.readText()")
        lines = [line.split("\t") for line in text.splitlines()]
        self.assertEqual(len(lines), 49)
        self.assertEqual(lines[0][:2], ["Payment no.", "Due"])
        self.assertEqual(lines[12][4], "4000.00")


class TakenOut(BrowserTest):
    def taken(self, label: str) -> tuple[str, bytes]:
        page = self.page
        page.get_by_role("button", name="Export").click()
        with page.expect_download() as download:
            page.get_by_role("menuitem", name=label).click()
        return download.value.suggested_filename, Path(download.value.path()).read_bytes()

    def test_each_file_opened_and_read(self) -> None:
        self.open("Cider press")
        self.figure("Rate").fill("6.10")
        # What was just typed is saved before it is exported: 933.34 by the formula.
        self.answers("933.34")
        name, content = self.taken("Schedule (CSV)")
        self.assertEqual(name, "cider-press-orrin-daughters-schedule.csv")
        rows = list(csv.DictReader(io.StringIO(content.decode("utf-8-sig"))))
        self.assertEqual((len(rows), rows[0]["payment"]), (60, "933.34"))
        name, content = self.taken("Schedule with live arithmetic (XLSX)")
        self.assertTrue(name.endswith("-schedule.xlsx"))
        book = openpyxl.load_workbook(io.BytesIO(content), data_only=True)
        self.assertAlmostEqual(book["Schedule"]["F2"].value, 933.34)
        name, content = self.taken("Statement to file (PDF)")
        self.assertEqual(name, "cider-press-orrin-daughters.pdf")
        self.assertIn("933.34", pypdf.PdfReader(io.BytesIO(content)).pages[0].extract_text())
        name, content = self.taken("Loan document (JSON)")
        self.assertIn(b'"6.1"', content)

    def test_a_file_that_takes_long(self) -> None:
        page = self.page
        self.open("Cider press")
        page.route("**/statement?making=*", lambda route: None)
        page.get_by_role("button", name="Export").click()
        page.get_by_role("menuitem", name="Statement to file (PDF)").click()
        expect(page.get_by_text("Making the statement … You can go on meanwhile.")).to_be_visible()
        self.accessible()
        page.get_by_role("button", name="Leave it").click()
        expect(page.get_by_text("Making the statement")).to_have_count(0)
        # What is refused is said in its sentence, and the page stays.
        page.unroute("**/statement?making=*")
        refusal = {"errors": [{"field": "count", "message": "36,500 payments take too long."}]}
        page.route("**/statement?making=*", lambda route: route.fulfill(status=422, json=refusal))
        page.get_by_role("button", name="Export").click()
        page.get_by_role("menuitem", name="Statement to file (PDF)").click()
        expect(page.get_by_role("alert")).to_have_text("36,500 payments take too long.")
        self.answers("938.82")

    def test_theirs_held_against_ours(self) -> None:
        page = self.open("Cider press")
        _, content = self.taken("Schedule (CSV)")
        text = content.decode("utf-8-sig").replace("248.42", "248.52")
        page.get_by_role("button", name="Export").click()
        page.get_by_role("menuitem", name="Hold theirs against ours").click()
        page.get_by_label("Their schedule").fill(text)
        page.get_by_role("button", name="Compare").click()
        expect(page.get_by_text("One row differs, payment 2")).to_be_visible()
        self.accessible()
        asked = "\n".join(["n;rest", "1;47563,19", "2;46872,79"])
        page.get_by_label("Their schedule").fill(asked)
        page.get_by_role("button", name="Compare").click()
        expect(page.get_by_text("Which column is which?")).to_be_visible()
        page.get_by_label("Payment no.").select_option("n")
        page.get_by_label("Closing balance").select_option("rest")
        page.get_by_role("button", name="Compare these columns").click()
        expect(page.get_by_text("Every row agrees within the tolerance.")).to_be_visible()
