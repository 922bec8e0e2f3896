"""The main jobs, done as an analyst does them."""

import functools
import re

from playwright.sync_api import Route, expect
from playwright.sync_api import TimeoutError as NotYetError

from .base import BrowserTest

# Payments and counts below were worked out with mpmath from the textbook formula (loan divided by
# (1 - (1 + i)^-n) / i; n = ln(A / (A - P i)) / ln(1 + i), rounded up), not with the core.


#: Answers to a statement come later; how many are asked for in all, and at once.
SLOWED = """
() => {
  const real = fetch, asked = (window.asked = { all: 0, now: 0, most: 0 });
  window.fetch = async request => {
    if (!request.url.includes('/api/v1/work')) return real(request);
    asked.all += 1;
    asked.most = Math.max(asked.most, ++asked.now);
    try {
      await new Promise((go, stop) => {
        setTimeout(go, 90);
        request.signal.addEventListener('abort', () => stop(request.signal.reason));
      });
      return await real(request);
    } finally {
      asked.now -= 1;
    }
  };
}
"""


class StatingALoan(BrowserTest):
    def test_from_a_blank_case_to_a_kept_answer(self) -> None:
        page = self.page
        page.get_by_role("button", name="New case").click()
        expect(page.get_by_label("Say a loan")).to_be_focused()
        page.get_by_label("Name of the case").focus()
        page.keyboard.type("Kelp drying floor")
        page.keyboard.press("Enter")
        for typed in ("48,250", "6 3/8", "5 years"):
            page.keyboard.type(typed)
            page.keyboard.press("Enter")
        self.answers("941.24")
        expect(self.figure("Amount lent")).to_have_value("48,250.00")
        expect(self.figure("Rate")).to_have_value("6.375")
        expect(self.figure("Number of payments")).to_have_value("60")
        expect(page.get_by_text("60 payments = 5 years")).to_be_visible()
        expect(page.get_by_text(re.compile("^Saved"))).to_be_visible()
        page.reload()
        self.answers("941.24")
        page.get_by_role("navigation").get_by_role("link", name="Cases").click()
        row = self.listed().filter(has_text="Kelp drying floor")
        expect(row).to_contain_text("941.24 EUR")

    def test_the_question_mark_moves_and_nothing_is_retyped(self) -> None:
        self.open("Cider press")
        self.answers("938.82")
        self.figure("Rate").fill("?")
        expect(self.figure("Payment")).to_have_value("938.82")
        self.answers("6.349864")
        self.figure("Amount lent").fill("?")
        expect(self.figure("Rate")).to_have_value("6.3498635478")
        self.answers("48,250.00")
        self.figure("Balance at the end").fill("?")
        expect(self.figure("Amount lent")).to_have_value("48,250.00")
        # Cents: sixty rounded rows leave four over, and the balance absorbs them.
        self.answers("0.04")
        self.figure("Number of payments").fill("?")
        expect(self.figure("Balance at the end")).to_have_value("0.04")
        self.answers("60")

    def test_the_answer_follows_every_keystroke(self) -> None:
        self.open("Cider press")
        field = self.figure("Number of payments")
        field.fill("")
        field.press_sequentially("48", delay=20)
        self.answers("1,139.08")
        field.press_sequentially("0", delay=20)
        self.answers("274.53")

    def test_choices_in_the_sentence(self) -> None:
        page = self.open("Cider press")
        page.get_by_role("button", name="Paid at the: end").click()
        page.get_by_role("menuitemradio", name="start of each month").click()
        self.answers("933.95")
        page.get_by_role("button", name="Quoted:").click()
        page.get_by_role("menuitemradio", name="effective a year", exact=True).click()
        # Both ways are shown with what they come to before one is chosen.
        ways = page.get_by_role("group", name="Two ways to change this")
        expect(ways).to_contain_text("6.45080625 % a year, effective")
        ways.get_by_role("button", name="Keep the rate").click()
        expect(self.figure("Rate")).to_have_value("6.45080625")
        self.answers("933.95")
        page.get_by_role("button", name="Paid: monthly").click()
        page.get_by_role("menuitemradio", name="quarterly", exact=True).click()
        expect(ways).to_contain_text("60 quarterly payments = 15 years")
        expect(ways.get_by_role("button", name="Keep the term")).to_be_focused()
        page.keyboard.press("Enter")
        expect(self.figure("Number of payments")).to_have_value("20")
        expect(page.get_by_text("20 payments = 5 years")).to_be_visible()
        page.get_by_role("button", name="Quoted:").click()
        page.get_by_role("menuitemradio", name="for each quarter").click()
        expect(ways).to_contain_text("Keep the number")
        page.keyboard.press("Escape")
        expect(ways).to_be_hidden()
        expect(self.figure("Rate")).to_have_value("6.45080625")

    def test_working_opens_the_steps_and_the_proof(self) -> None:
        page = self.open("Cider press")
        page.get_by_role("button", name="Working").click()
        sheet = page.get_by_role("dialog")
        expect(sheet.locator("math[alttext='A = (P · uⁿ − B) / s']")).to_be_visible()
        expect(sheet).to_contain_text("The last row closes at")
        expect(sheet).to_contain_text("938.822994395706607")
        page.keyboard.press("Escape")
        expect(sheet).to_be_hidden()

    def test_one_question_is_in_flight_and_the_newest_waits(self) -> None:
        page = self.open("Cider press")
        self.answers("938.82")
        page.evaluate(SLOWED)
        self.figure("Amount lent").select_text()
        page.keyboard.type("96500", delay=15)
        # Twice the amount, 2 x 938.822994395706...
        self.answers("1,877.65")
        asked = page.evaluate("asked")
        self.assertEqual(asked["most"], 1)
        self.assertLess(asked["all"], 5)

    def test_a_question_that_takes_long_is_dropped_for_a_newer_one(self) -> None:
        page = self.open("Cider press")
        self.answers("938.82")
        page.evaluate(SLOWED.replace("90", "60_000 * (asked.all === 1)"))
        self.figure("Amount lent").select_text()
        page.keyboard.type("96500", delay=15)
        self.answers("1,877.65")

    def test_the_schedule_folds_by_year(self) -> None:
        page = self.open("Cider press")
        table = page.get_by_role("table", name="Schedule of payments")
        expect(table.get_by_role("row").nth(2)).to_contain_text("47,563.19")
        page.get_by_role("button", name=re.compile("^Year 1 ")).click()
        expect(table.get_by_role("row").nth(2)).to_contain_text("Year 2")
        page.get_by_role("button", name="Unfold all years").click()
        page.keyboard.press("End")
        expect(table.get_by_text("934.12").first).to_be_visible()

    def test_a_thousand_rows_draw_only_what_is_in_sight(self) -> None:
        page = self.open("Water turbine")
        page.get_by_role("button", name="Unfold all years").click()
        table = page.get_by_role("table", name="Schedule of payments")
        expect(table).to_have_attribute("aria-rowcount", "1062")
        self.assertLess(table.get_by_role("row").count(), 120)
        page.evaluate("scrollTo(0, document.body.scrollHeight)")
        expect(table.get_by_text("1040", exact=True)).to_be_visible()

    def test_the_cursor_on_the_line_tells(self) -> None:
        page = self.open("Cider press")
        self.answers("938.82")
        line = page.get_by_role("slider", name="Cursor on the line")
        line.focus()
        page.keyboard.press("PageUp")
        expect(line).to_have_attribute("aria-valuetext", "after payment 12: owes 39,767.33")
        page.keyboard.press("End")
        expect(line).to_have_attribute("aria-valuetext", "after payment 60: owes 0.00")

    def test_typing_replaces_what_is_shown_in_its_one_form(self) -> None:
        """Kept as 7 3/8, shown as 7.375: a click selects it, and the next key replaces it."""
        page = self.open("Six looms")
        self.answers("42")
        field = self.figure("Rate")
        expect(field).to_have_value("7.375")
        field.click()
        page.keyboard.type("7 1/8")
        expect(field).to_have_value("7 1/8")
        page.keyboard.press("Tab")
        expect(field).to_have_value("7.125")


class BadInput(BrowserTest):
    def test_each_gets_a_sentence_at_its_field_and_stays_as_typed(self) -> None:
        page = self.open("Cider press")
        cases = [
            ("Amount lent", "a lot", "is not an amount"),
            ("Amount lent", "-500", "zero or more"),
            ("Amount lent", "", "Nothing is stated here"),
            ("Amount lent", "9" * 20, "An amount is below"),
            ("Rate", "10,000.0", "below 10000 %"),
            ("Rate", "NaN", "is not a percentage"),
            ("Number of payments", "2.5", "whole number"),
            ("Number of payments", "0", "between 1 and 36500"),
            ("Number of payments", "1000000000", "between 1 and 36500"),
            ("Balance at the end", "Infinity", "is not an amount"),
        ]
        for name, typed, sentence in cases:
            with self.subTest(name=name, typed=typed):
                field = self.figure(name)
                kept = field.input_value()
                field.fill(typed)
                expect(page.get_by_role("alert").filter(has_text=sentence)).to_be_visible()
                expect(field).to_have_value(typed)
                expect(field).to_have_attribute("aria-invalid", "true")
                # The last good answer stays while something is wrong.
                self.answers("938.82")
                field.fill(kept)
                expect(page.get_by_role("alert")).to_have_count(0)

    def test_a_blank_case_is_no_mistake(self) -> None:
        page = self.page
        page.get_by_role("button", name="New case").click()
        expect(
            page.get_by_text("Still to be stated: amount lent, rate, number of payments.")
        ).to_be_visible()
        expect(page.get_by_role("alert")).to_have_count(0)
        self.accessible()

    def test_two_mistakes_are_both_told(self) -> None:
        page = self.open("Cider press")
        self.figure("Amount lent").fill("lots")
        self.figure("Rate").fill("some")
        alerts = page.get_by_role("alert")
        expect(alerts.filter(has_text="Amount lent: “lots” is not an amount")).to_be_visible()
        expect(alerts.filter(has_text="“some” is not a percentage")).to_be_visible()
        page.get_by_label("Note").focus()
        expect(alerts.filter(has_text="Rate: “some”")).to_be_visible()

    def test_an_entry_that_reads_two_ways_offers_the_other(self) -> None:
        page = self.open("Cider press")
        field = self.figure("Rate")
        field.fill("6,35")
        expect(page.get_by_text("Read as 6.35.")).to_be_visible()
        page.get_by_role("button", name="Read as 635.00 instead").click()
        expect(field).to_have_value("635.00")

    def test_two_readings_are_answered_by_keys(self) -> None:
        page = self.open("Cider press")
        rate = self.figure("Rate")
        rate.fill("6,35")
        instead = page.get_by_role("button", name="instead")
        expect(instead).to_be_visible()
        page.keyboard.press("Tab")
        expect(instead).to_be_focused()
        expect(rate).to_have_accessible_description(re.compile("instead"))
        page.keyboard.press("Enter")
        expect(instead).to_have_count(0)
        expect(rate).to_be_focused()

    def test_typed_while_a_choice_is_on_its_way(self) -> None:
        """Chosen where no count stands: it is yearly, and what is typed meanwhile stays."""
        page = self.open("Cider press")
        self.figure("Number of payments").fill("")
        held: list[Route] = []

        def hold(route: Route) -> None:
            held.append(route)

        page.route("**/api/v1/ask/repacing", hold, times=1)
        with page.expect_request("**/api/v1/ask/repacing"):
            page.get_by_role("button", name="Paid: monthly").click()
            page.get_by_role("menuitemradio", name="yearly", exact=True).click()
        count = self.figure("Number of payments")
        count.fill("24")
        held[0].continue_()
        expect(page.get_by_role("button", name="Paid: yearly")).to_be_visible()
        expect(page.get_by_role("group", name="Two ways to change this")).to_be_hidden()
        expect(count).to_have_value("24")
        expect(page.get_by_text("24 payments = 24 years")).to_be_visible()

    def test_what_takes_long_is_stopped_and_gone_on_with(self) -> None:
        page = self.open("Cider press")
        self.answers("938.82")
        held: list[Route] = []

        def hold(route: Route) -> None:
            held.append(route)

        page.route("**/api/v1/work*", hold)
        self.figure("Amount lent").fill("50,000")
        expect(page.get_by_text("Still working")).to_be_visible()
        page.get_by_role("button", name="Stop").click()
        expect(page.get_by_text("Stopped before it was done.")).to_be_visible()
        self.accessible()
        page.unroute("**/api/v1/work*")
        page.get_by_role("button", name="Go on").click()
        # 50,000 ((1.03175^(1/6) - 1) / (1 - 1.03175^-10))
        self.answers("972.87")
        self.assertTrue(held)

    def test_nothing_asked(self) -> None:
        page = self.open("Cider press")
        self.answers("938.82")
        self.figure("Payment").fill("950")
        expect(page.get_by_text("do not fit: by the end 785.21 too much")).to_be_visible()
        page.get_by_role("button", name="find the number of payments").click()
        self.answers("60")

    def test_no_answer_is_told_as_large_as_one(self) -> None:
        page = self.open("Oyster rafts")
        expect(page.get_by_text("A payment of 431.33 or less never repays")).to_be_visible()
        self.figure("Payment").fill("700")
        self.answers("163")

    def test_where_there_is_no_answer_it_is_drawn_and_ways_out_are_taken(self) -> None:
        page = self.open("Oyster rafts")
        expect(page.get_by_text("As it goes,")).to_be_visible()
        expect(page.get_by_role("img", name="As it goes")).to_be_visible()
        way = page.get_by_role("button", name="Payment 432.00")
        # -ln(1 - 72,900 (0.071/12)/432) / ln(1 + 0.071/12), rounded up.
        expect(page.get_by_role("listitem").filter(has=way)).to_contain_text("1,096 payments")
        self.accessible()
        way.press("Enter")
        self.answers("1,096")
        page.keyboard.press("Control+z")
        expect(page.get_by_text("There is no answer")).to_be_visible()

    def test_a_file_that_is_no_document(self) -> None:
        page = self.page
        page.get_by_label("Loan document to open").set_input_files(
            {"name": "x.json", "mimeType": "application/json", "buffer": b'{"principal": -1}'}
        )
        expect(page.get_by_role("alert")).to_contain_text("An amount is zero or more")
        expect(page.get_by_role("alert")).to_contain_text("currency")


class ByKeyboard(BrowserTest):
    def test_letters_lead_everywhere(self) -> None:
        page = self.open("Cider press")
        self.answers("938.82")
        for key, name in (
            ("r", "Rate"),
            ("p", "Payment"),
            ("b", "Balance at the end"),
            ("m", "Number of payments"),
            ("a", "Amount lent"),
        ):
            page.keyboard.press(key)
            expect(self.figure(name)).to_be_focused()
            page.keyboard.press("Escape")
        sheet = page.get_by_role("dialog")
        for key, says in (("w", "Proof"), ("h", "the list of cases")):
            page.keyboard.press(key)
            expect(sheet).to_contain_text(says)
            # It has the focus, and so hears the key that closes it.
            expect(sheet.locator(":focus")).to_have_count(1)
            page.keyboard.press("Escape")
            expect(sheet).to_have_count(0)
        page.keyboard.press("c")
        expect(page.get_by_role("heading", name="Cases")).to_be_visible()

    def test_a_word_under_the_pointer_takes_no_key_from_a_sheet(self) -> None:
        page = self.open("Cider press")
        self.answers("938.82")
        page.keyboard.press("w")
        sheet = page.get_by_role("dialog")
        expect(sheet.locator(":focus")).to_have_count(1)
        word = page.get_by_role("button", name="Payments are: rounded")

        def explained() -> bool:
            # Where the page moved the word away meanwhile, the pointer comes to it again, and rests
            # there: on a word it has not left it comes to nothing.
            page.mouse.move(2, 2)
            word.hover()
            try:
                page.get_by_role("tooltip").first.wait_for(state="attached", timeout=1_500)
            except NotYetError:
                return False
            return True

        self.until(explained, "the word is explained")
        page.keyboard.press("Escape")
        expect(sheet).to_have_count(0)
        expect(page.get_by_role("tooltip")).to_have_count(0)

    def test_escape_leaves_and_keeps_what_was_typed(self) -> None:
        page = self.open("Cider press")
        self.answers("938.82")
        page.keyboard.press("a")
        page.keyboard.type("50k")
        page.keyboard.press("Escape")
        expect(self.figure("Amount lent")).to_have_value("50,000.00")


class Looks(BrowserTest):
    def test_nothing_for_axe_to_object_to(self) -> None:
        self.accessible()
        page = self.open("Cider press")
        self.answers("938.82")
        self.accessible()
        page.get_by_role("button", name="Working").click()
        expect(page.get_by_role("dialog")).to_be_visible()
        self.accessible()
        page.keyboard.press("Escape")
        self.figure("Amount lent").fill("nonsense")
        expect(page.get_by_role("alert")).to_be_visible()
        self.accessible()

    def test_nothing_for_axe_to_object_to_in_the_dark(self) -> None:
        page = self.at_the_desk(color_scheme="dark")
        self.accessible(page)
        self.open("Oyster rafts", page)
        expect(page.get_by_text("never repays")).to_be_visible()
        self.accessible(page)

    def test_no_page_scrolls_sideways(self) -> None:
        page = self.at_the_desk()
        for name in ("Cider press", "Water turbine", "Oyster rafts", "Cider hall", "Boat shed"):
            self.open(name, page)
            expect(page.get_by_text("One clock:")).to_be_visible()
            for width in (320, 400, 640, 721, 849, 1024, 1161):
                page.set_viewport_size({"width": width, "height": 800})
                fits = f"document.documentElement.scrollWidth <= {width}"
                self.until(functools.partial(page.evaluate, fits), f"{name} at {width} pixels")
            page.get_by_role("link", name="Cases", exact=True).click()

    def test_text_twice_as_large_fits_and_no_line_lies_over_another(self) -> None:
        page = self.open("Cider press")
        expect(page.get_by_text("One clock:")).to_be_visible()
        page.evaluate("document.documentElement.style.fontSize = '32px'")
        fits = "document.documentElement.scrollWidth <= innerWidth"
        self.until(lambda: page.evaluate(fits), "the page fits")
        page.locator("#schedule").evaluate("element => element.scrollIntoView()")
        line = page.get_by_role("row").filter(has_text="47,563.19").first
        high = "element => element.scrollHeight <= element.clientHeight + 1"
        self.until(lambda: line.evaluate(high), "a line is as high as its text")

    def test_marks_are_a_setting(self) -> None:
        page = self.open("Cider press")
        page.get_by_role("button", name="Numbers are written").click()
        page.get_by_role("menuitemradio", name="48.250,00").click()
        expect(self.figure("Amount lent")).to_have_value("48.250,00")
        self.answers("938,82")
