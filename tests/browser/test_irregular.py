"""Irregular loans: clauses, every rate that fits, costs, flows."""

import re
from decimal import ROUND_HALF_UP, Decimal

from playwright.sync_api import expect

from .base import BrowserTest


class Clauses(BrowserTest):
    def add(self, verb: str) -> None:
        self.page.get_by_role("button", name="Add a clause").click()
        self.page.get_by_role("menuitemradio", name=verb, exact=True).click()

    def test_a_charge_beside_the_payment(self) -> None:
        page = self.open("Cider press")
        self.answers("938.82")
        facts = page.locator("dl > div")
        yearly = facts.filter(has_text="US actuarial APR, nominal").locator("dd")
        before = yearly.inner_text()
        self.add("a charge is collected")
        # It begins with the first payment; the cursor is where its figure goes.
        expect(self.figure("Figure, clause 1")).to_be_focused()
        page.keyboard.type("18.50")
        page.get_by_label("For what, clause 1").fill("insurance")
        # 938.82 and 18.50; 60 of them are 1,110.00. The payment stays as it is.
        expect(page.get_by_text("with charges payment 1 is 957.32")).to_be_visible()
        self.answers("938.82")
        expect(page.get_by_text("1,110.00").first).to_be_visible()
        table = page.get_by_role("table", name="Schedule of payments")
        expect(table.get_by_role("columnheader", name="Charges")).to_be_visible()
        expect(yearly).not_to_have_text(before)
        page.get_by_role("button", name="Counted, clause 1").click()
        page.get_by_role("menuitemradio", name="not counted in the yearly costs").click()
        expect(yearly).to_have_text(before)
        self.accessible()

    def test_staged_advances_a_winter_pause_and_a_reset(self) -> None:
        page = self.open("Cider hall")
        # The payment by an independent roll of the balance in mpmath: 3,154.925917781.
        self.answers("3,154.93")
        expect(page.get_by_text("before rounding 3,154.925917781")).to_be_visible()
        table = page.get_by_role("table", name="Schedule of payments")
        expect(table.get_by_role("columnheader", name="Lent")).to_be_visible()
        page.keyboard.press("w")
        expect(page.get_by_text("Carried across: payments 1 to 3")).to_be_visible()
        page.keyboard.press("w")
        self.accessible()

    def test_added_edited_moved_and_taken_off(self) -> None:
        page = self.open("Cider press")
        self.add("more is repaid")
        self.figure("Place, clause 1").fill("12")
        self.figure("Figure, clause 1").fill("5k")
        page.get_by_role("button", name="Then, clause 1").click()
        page.get_by_role("menuitemradio", name="the payment is set anew, the end stays").click()
        # From payment 13 on: what is owed after 12 payments and 5,000, over 48: by hand.
        i = (1 + 0.0635 / 2) ** (1 / 6) - 1
        owed = 48250 * (1 + i) ** 12 - 938.82 * ((1 + i) ** 12 - 1) / i - 5000
        again = owed * i / (1 - (1 + i) ** -48)
        expect(page.get_by_text(f"payments of {again:.2f}")).to_be_visible()
        pin = page.get_by_role("button", name=re.compile("Clause 1, repaid .*at payment 12"))
        pin.focus()
        page.keyboard.press("ArrowRight")
        expect(self.figure("Place, clause 1")).to_have_value("13")
        self.add("a fee is taken")
        self.figure("Place, clause 2").fill("0")
        self.figure("Figure, clause 2").fill("2")
        expect(page.get_by_text("Net proceeds")).to_be_visible()
        expect(page.get_by_text("47,285.00")).to_be_visible()
        page.get_by_role("button", name="Take off clause 1").click()
        expect(page.get_by_role("list", name="Clauses").get_by_role("listitem")).to_have_count(1)
        self.figure("Place, clause 1").fill("99")
        self.figure("Payment").focus()
        expect(page.get_by_role("alert")).to_contain_text("There is no payment 99")
        self.figure("Place, clause 1").fill("somewhere")
        self.figure("Payment").focus()
        expect(page.get_by_role("alert")).to_contain_text("is no place")
        self.accessible()

    def test_the_unknown_in_a_clause(self) -> None:
        page = self.open("Cider press")
        self.figure("Payment").fill("900")
        self.add("more is repaid")
        self.figure("Place, clause 1").fill("60")
        self.figure("Figure, clause 1").fill("?")
        # What 60 payments of 900 leave, each interest to the cent: in the last place the amount
        # asked for takes what rounding leaves.
        i = Decimal((1 + 0.0635 / 2) ** (1 / 6) - 1)
        left = Decimal(48250)
        for _ in range(60):
            left += (left * i).quantize(Decimal("0.01"), ROUND_HALF_UP) - 900
        self.answers(f"{left:,.2f}")
        expect(page.get_by_text("In “at payment 60 ? is repaid on top” the ? is")).to_be_visible()

    def test_more_repaid_than_is_owed(self) -> None:
        page = self.open("Cider press")
        self.figure("Payment").fill("938.82")
        self.figure("Number of payments").fill("?")
        self.add("more is repaid")
        self.figure("Place, clause 1").fill("12")
        self.figure("Figure, clause 1").fill("60k")
        # 48,250 u^12 - 938.82 s, interest to the cent row by row, by hand: 39,767.33 are left.
        expect(page.get_by_text("it is cut to 39,767.33")).to_be_visible()
        page.get_by_role("button", name="Overpaid is").click()
        page.get_by_role("menuitemradio", name="shown as overpaid").click()
        expect(page.get_by_text("overpaid by 20,232.67: shown")).to_be_visible()
        # The schedule draws what is in sight: its end is looked at.
        page.evaluate("scrollTo(0, document.body.scrollHeight)")
        expect(page.get_by_text("Overpaid, to be given back")).to_be_visible()
        # A pin at the end of the line keeps its words inside the page.
        wide = page.evaluate("document.documentElement.scrollWidth")
        self.assertLessEqual(wide, 1280)
        self.accessible()

    def test_at_the_cursor(self) -> None:
        page = self.open("Cider press")
        page.get_by_role("slider").focus()
        page.keyboard.press("PageUp")
        self.add("more is repaid")
        expect(self.figure("Place, clause 1")).to_have_value("12")


class Rates(BrowserTest):
    def test_two_rates_and_their_curve(self) -> None:
        page = self.open("Slate quarry")
        # 16,000 u^2 - 42,400 u + 27,600 = 0: u = 1.15 and 1.5.
        expect(page.get_by_text("2 rates fit", exact=True)).to_be_visible()
        expect(page.locator("output")).to_have_text(["15", "50"])
        curve = page.get_by_role("img", name="The curve crosses at 15.00 % and 50.00 %")
        expect(curve).to_be_visible()
        self.figure("Figure, clause 2").fill("28,500")
        expect(page.get_by_text("There is no answer")).to_be_visible()
        expect(page.get_by_text("it never does")).to_be_visible()
        self.accessible()

    def test_flows_pasted(self) -> None:
        page = self.page
        page.get_by_role("button", name="Flows").click()
        page.get_by_label("Name of the flows").fill("Cold store money")
        page.get_by_label("Days and amounts").fill(
            "date;amount\n1.3.2027;-10.000,00\n1.9.2027;6.000,00\n1.3.2028;5000"
        )
        page.get_by_role("button", name="Find the rate").click()
        # The rate of the same flows by pyxirr.
        self.answers("14.013888")
        page.go_back()
        page.get_by_role("button", name="Flows").click()
        page.get_by_label("Days and amounts").fill("nonsense")
        page.get_by_role("button", name="Find the rate").click()
        expect(page.get_by_role("alert")).to_contain_text("names of its columns")

    def test_settled_early(self) -> None:
        page = self.open("Letter press")
        expect(page.get_by_text("Lender’s yield, effective a year")).to_be_visible()
        page.get_by_role("button", name="What if").click()
        page.get_by_role("menuitem", name="Settled early").click()
        page.get_by_label("After payment").fill("24")
        page.get_by_label("What is agreed").select_option("percent")
        expect(page.get_by_text("Owed after payment 24")).to_be_visible()
        page.get_by_label("After payment").fill("99")
        expect(page.get_by_role("alert")).to_contain_text("There is no payment 99")
        self.accessible()

    def test_settled_with_a_make_whole(self) -> None:
        """1,000 at 8 % with its interest each year, two years left of four: 80 / 1.05 and
        1,080 / 1.05^2 are 1,055.78. By hand."""
        page = self.page
        page.keyboard.press("i")
        page.keyboard.type("1,000 at 8% effective, 4 yearly payments, interest only")
        page.keyboard.press("Enter")
        self.answers("80.00")
        page.keyboard.press(".")
        page.get_by_label("After payment").fill("2")
        page.get_by_label("What is agreed").select_option("make-whole")
        expect(page.get_by_text("Type what is agreed.")).to_be_visible()
        page.get_by_label("reference rate, %").fill("4 1/2")
        page.get_by_label("and a spread of").fill("0,5")
        facts = page.get_by_role("dialog").locator("dl > div")
        expect(facts.filter(has_text="The rest, discounted at 5.00").locator("dd")).to_have_text(
            "1,055.78"
        )
        expect(facts.filter(has_text="Charge").locator("dd")).to_have_text("55.78")
        # Half of what is owed is free of it.
        page.get_by_label("free each year").fill("500")
        expect(facts.filter(has_text="Charge").last.locator("dd")).to_have_text("27.89")
        self.accessible()

    def test_refinanced(self) -> None:
        page = self.open("Cider press")
        self.answers("938.82")
        page.get_by_role("button", name="What if").click()
        page.get_by_role("menuitem", name="Refinanced").click()
        sheet = page.get_by_role("dialog")
        sheet.get_by_label("After payment").fill("24")
        sheet.get_by_label("What is agreed").select_option("declining")
        expect(sheet.get_by_text("Type the rate of the new loan")).to_be_visible()
        sheet.get_by_label("Lent anew at").fill("3.9")
        # What is owed after 24 payments, 4 % of it in the second year, and the rest as it is paid
        # at 3.9 %, compounded half-yearly as this one: by the annuity's formula.
        i = (1 + 0.0635 / 2) ** (1 / 6) - 1
        owed = 48250 * (1 + i) ** 24 - 938.82 * ((1 + i) ** 24 - 1) / i
        j = (1 + 0.039 / 2) ** (1 / 6) - 1
        payment = owed * 1.04 * j / (1 - (1 + j) ** -36)
        expect(sheet.get_by_text(f"The next payment is {payment:,.2f} instead of")).to_be_visible()
        expect(sheet.get_by_text("It never pays")).to_be_visible()
        sheet.get_by_label("What is agreed").select_option("none")
        expect(sheet.get_by_text("It pays from the start.")).to_be_visible()
        self.accessible()
        sheet.get_by_label("for a fee of").fill("-5")
        expect(sheet.get_by_role("alert")).to_contain_text("not less than nothing")
        sheet.get_by_label("for a fee of").fill("")
        sheet.get_by_role("button", name="Open the new loan as a case").click()
        without = owed * j / (1 - (1 + j) ** -36)
        self.answers(f"{without:,.2f}")


class BusinessDays(BrowserTest):
    def test_payments_that_fall_on_closed_days_are_moved(self) -> None:
        """28 February 2026 is a Saturday, and so is 31 January 2026; 3 April is Good Friday."""
        page = self.page
        page.keyboard.press("i")
        page.keyboard.type("48,000 at 6 % over 4 years, lent 31 Jan 2026")
        page.keyboard.press("Enter")
        # By the formula, at half a percent a month.
        level = 48000 * 0.005 / (1 - 1.005**-48)
        self.answers(f"{level:,.2f}")
        page.get_by_role("button", name="Business days").click()
        expect(self.figure("Calendars")).to_be_focused()
        page.keyboard.type("Atlantis")
        page.keyboard.press("Enter")
        expect(page.get_by_text("is no calendar known here")).to_be_visible()
        self.figure("Calendars").fill("Germany and TARGET")
        page.keyboard.press("Enter")
        rows = page.get_by_role("table", name="Schedule of payments").get_by_role("row")
        expect(rows.filter(has_text="2 Mar 2026")).to_contain_text("28 Feb")
        page.get_by_role("button", name="A payment on another day moves").click()
        page.get_by_role("menuitemradio", name="modified following").click()
        expect(rows.filter(has_text="27 Feb 2026")).to_contain_text("28 Feb")
        self.answers(f"{level:,.2f}")
        self.accessible()
        page.get_by_role("button", name="Pay on any day").click()
        expect(rows.filter(has_text="28 Feb 2026")).to_be_visible()
        expect(page.get_by_text(re.compile("^Saved"))).to_be_visible()
