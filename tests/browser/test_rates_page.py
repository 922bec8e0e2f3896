"""A quote on every footing."""

from playwright.sync_api import expect

from .base import BrowserTest

# Values worked out with mpmath: (1 + 0.0635/2)^2 - 1; 12 ((1 + 0.0635/2)^(2/12) - 1).


class RatesPage(BrowserTest):
    def quoted(self, style: str, of: str = "") -> None:
        self.page.get_by_role("button", name=f"Quoted{of}:").click()
        self.page.get_by_role("menuitemradio", name=style, exact=True).click()

    def test_a_quote_into_all_footings_and_back(self) -> None:
        page = self.page
        page.get_by_role("link", name="Rates", exact=True).click()
        self.figure("Percent as quoted").fill("6.35")
        self.answers("6.45080625")
        row = page.get_by_role("row", name="compounded monthly")
        expect(row).to_contain_text("6.2676 %")
        # (1 + 6.35 % / 2)^2 - 1
        expect(page.get_by_text("(1 + 6.35 % / 2)2 − 1")).to_be_visible()
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
        self.quoted("compounded monthly")
        self.answers("6.1677811864")
        self.quoted("compounded continuously")
        # exp(0.06) - 1
        self.answers("6.1836546545")

    def test_bad_input_and_no_answer(self) -> None:
        page = self.page
        page.get_by_role("link", name="Rates", exact=True).click()
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
        expect(
            page.get_by_text("No compounding turns 6.00 % nominal into 6.20 % effective")
        ).to_be_visible()

    def test_flat_simple_and_discount(self) -> None:
        page = self.page
        page.get_by_role("link", name="Rates", exact=True).click()
        self.figure("Percent as quoted").fill("8")
        self.quoted("simple interest over a time")
        self.figure("Charged for").fill("6 months")
        # 100 becomes 104 twice; 96 becomes 100 twice.
        self.answers("8.16")
        self.quoted("discount: interest taken in advance over a time")
        self.answers("8.5069444444")
        self.quoted("flat (add-on), on the amount lent throughout")
        self.figure("Payments of the flat quote").fill("1 year")
        self.figure("Effective percent a year").fill("?")
        # 12 payments of 1.08/12: the rate by SciPy's brentq is 1.2043... % a month.
        expect(page.locator("output")).to_contain_text("15.4")
        self.figure("Payments of the flat quote").fill("")
        self.figure("Percent as quoted").focus()
        expect(page.get_by_text("The answer stands here")).to_be_visible()
        self.accessible()

    def test_three_quotes_ranked(self) -> None:
        page = self.page
        page.get_by_role("link", name="Rates", exact=True).click()
        page.get_by_role("link", name="Side by side").click()
        page.get_by_role("button", name="New list").click()
        self.figure("Name of the list").fill("Loom offers")
        for number, (name, percent) in enumerate(
            [("Mill", "6.35"), ("Forge", "6.30"), ("Reed", "6.25")], 1
        ):
            if number == 3:
                page.get_by_role("button", name="Add a quote").click()
            self.figure(f"Name of quote {number}").fill(name)
            self.figure(f"Percent of {name}").fill(percent)
        self.quoted("compounded half-yearly", ", Mill")
        self.quoted("compounded continuously", ", Reed")
        # Effective: 6.450806, 6.485010 and 6.449446 % (mpmath), so Reed, Mill, Forge.
        ranked = page.get_by_label("Ranked").get_by_role("row")
        for place, (name, printed) in enumerate(
            [("Reed", "6.4494 %"), ("Mill", "6.4508 %"), ("Forge", "6.4851 %")], 1
        ):
            expect(ranked.nth(place)).to_contain_text(name)
            expect(ranked.nth(place)).to_contain_text(printed)
        expect(
            page.get_by_text("Reed is the cheapest at 6.4494 % effective a year")
        ).to_be_visible()
        self.figure("Percent of Reed").fill("x")
        self.figure("Name of Reed").focus()
        expect(page.get_by_role("alert")).to_contain_text("is not a percentage")
        expect(ranked).to_have_count(3)
        self.figure("Percent of Reed").fill("6.25")
        self.accessible()
        expect(page.get_by_role("status").get_by_text("Saved")).to_be_visible()
        page.reload()
        expect(ranked.nth(1)).to_contain_text("Reed")
        with page.expect_download() as taken:
            page.get_by_role("button", name="Export").click()
            page.get_by_role("menuitem", name="As CSV").click()
        self.assertEqual(taken.value.suggested_filename, "loom-offers.csv")
        page.get_by_role("link", name="All lists").click()
        page.get_by_label("List of quotes to open").set_input_files(taken.value.path())
        expect(ranked.nth(3)).to_contain_text("Forge")

    def test_a_file_with_a_broken_row(self) -> None:
        page = self.page
        page.goto(f"{self.live_server_url}/rates/side-by-side")
        rows = b"name;percent\nMill;6,35\nTarn;six\nReed;6,1\n"
        page.get_by_label("List of quotes to open").set_input_files(
            {"name": "offers.csv", "mimeType": "text/csv", "buffer": rows}
        )
        expect(page.get_by_role("alert")).to_contain_text("row 3 (“Tarn”)")
        expect(page.get_by_label("Ranked").get_by_role("row")).to_have_count(3)
        page.get_by_role("link", name="All lists").click()
        page.get_by_role("button", name="Delete offers", exact=True).click()
        page.get_by_role("button", name="Undo").click()
        expect(page.get_by_role("link", name="offers", exact=True)).to_be_visible()

    def test_a_half_yearly_quote_put_into_a_monthly_loan(self) -> None:
        page = self.open("Kiln, Tarn")
        self.figure("Payment").fill("?")
        self.figure("Rate").fill("6.35")
        self.quoted("Fixed: half-yearly")
        page.get_by_role("button", name="Keep the number").click()
        # The clock of a half-yearly 6.35 %, mpmath: (1 + 0.0635/2)^(1/6) - 1.
        expect(page.get_by_text("= 0.5223 % a monthly payment")).to_be_visible()
        # 17,840 over 48 payments at that rate.
        self.answers("421.17")

    def test_a_habit_kept_and_used(self) -> None:
        page = self.open("Cider press")
        self.quoted("Keep this as a habit, or change them …")
        page.get_by_placeholder("a name, such as").fill("House quote")
        page.get_by_role("button", name="Keep", exact=True).click()
        expect(page.get_by_label("Name of the habit House quote")).to_be_visible()
        page.get_by_role("button", name="Take off the habit Dealer: flat").click()
        self.accessible()
        page.get_by_role("button", name="Close").click()
        page.goto(f"{self.live_server_url}/rates")
        page.get_by_role("button", name="Quoted:").click()
        expect(page.get_by_role("menuitemradio", name="House quote")).to_be_visible()
        expect(page.get_by_role("menuitemradio", name="Dealer: flat")).to_have_count(0)
