"""Asking backwards: what is bought, and a result that is aimed at."""

import re

from playwright.sync_api import expect

from .base import BrowserTest

#: The rate of a month at 6.35 % compounded half-yearly.
MONTH = (1 + 0.0635 / 2) ** (1 / 6) - 1
#: What 60 payments of 1 are worth when the loan is made.
WORTH = (1 - (1 + MONTH) ** -60) / MONTH


class Backwards(BrowserTest):
    def test_the_price_from_what_can_be_carried(self) -> None:
        page = self.open("Cider press")
        self.figure("Payment").fill("750")
        page.get_by_role("button", name="Say what is bought").click()
        self.figure("Price").fill("?")
        self.figure("Down payment").fill("20")
        # By the formula of the annuity: 750 a month carry this much, and a fifth is paid at once.
        self.answers(f"{750 * WORTH / 0.8:,.2f}")
        expect(page.get_by_text("The price is")).to_be_visible()
        page.keyboard.press("Escape")
        page.keyboard.press("w")
        expect(page.get_by_text("Q = P / (1 − d / 100)")).to_be_visible()
        page.keyboard.press("w")
        page.get_by_role("button", name="Down payment in: %").click()
        page.get_by_role("menuitemradio", name="an amount, EUR").click()
        self.figure("Down payment").fill("9k")
        self.answers(f"{750 * WORTH + 9000:,.2f}")
        self.figure("Down payment").fill("?")
        self.figure("Price").fill("30000")
        expect(page.get_by_text("more than the price")).to_be_visible()
        self.figure("Down payment").fill("40000")
        self.figure("Rate").focus()
        expect(page.get_by_role("alert")).to_contain_text("more than the price")
        self.accessible()
        page.get_by_role("button", name="State the amount lent instead").click()
        self.figure("Amount lent").fill("?")
        self.answers(f"{750 * WORTH:,.2f}")

    def test_an_aim_reached_and_taken(self) -> None:
        page = self.open("Cider press")
        self.answers("938.82")
        page.get_by_role("button", name="Aim at a result").click()
        self.figure("Aim").fill("9k")
        # Interest is linear in what is lent: 60 payments less 1, of each 1 lent.
        lent = 9000 / (60 / WORTH - 1)
        reached = page.get_by_label("Figure that reaches the aim")
        expect(reached).to_have_text(f"{lent:,.2f}")
        expect(page.get_by_text("has a total interest of 9,000.00")).to_be_visible()
        self.accessible()
        page.get_by_role("button", name="Figure that moves").click()
        page.get_by_role("menuitemradio", name="rate", exact=True).click()
        expect(page.get_by_text("As it will be paid that comes to")).to_be_visible()
        page.get_by_role("button", name="Take").last.click()
        expect(reached).to_have_count(0)
        expect(page.get_by_role("button", name="Aim at a result")).to_be_visible()
        # The aim is reached but for what rounding each payment makes.
        interest = page.get_by_text("Total interest", exact=True).locator("..")
        expect(interest).to_have_text(re.compile(r"(8,999\.9|9,000\.0)\d$"))

    def test_an_aim_that_cannot_be_reached(self) -> None:
        page = self.open("Cider press")
        page.get_by_role("button", name="Aim at a result").click()
        self.figure("Aim").fill("nine")
        self.figure("Rate").focus()
        expect(page.get_by_role("alert")).to_contain_text("is not an amount")
        self.figure("Aim").fill("-5")
        expect(page.get_by_text("the nearest is 0.00, with 0.00")).to_be_visible()
        expect(page.get_by_text("There is no answer")).to_be_visible()
        page.get_by_role("button", name="Drop the aim").click()
        self.answers("938.82")

    def test_everything_asked_of_an_aimed_loan_is_of_the_loan_found(self) -> None:
        page = self.open("Boat shed")
        payments = page.get_by_role("table", name="Schedule of payments")
        expect(payments.get_by_text("900.00").first).to_be_visible()
        # 118,000 less what 900 a month repay at 6.2 % / 12, by the formula.
        month = 0.062 / 12
        lent = 900 * (1 - (1 + month) ** -120) / month
        percent = 100 * (1 - lent / 118_000)
        reached = page.get_by_label("Figure that reaches the aim")
        expect(reached).to_contain_text(f"{percent:.4f}"[:-1])
        page.get_by_label("Owed at").fill("0")
        expect(page.get_by_role("table", name="What is owed")).to_contain_text(f"{lent:,.2f}")
        with page.expect_download() as taken:
            page.get_by_role("button", name="Take out").click()
            page.get_by_role("menuitem", name="Schedule with live arithmetic").click()
        self.assertEqual(taken.value.suggested_filename, "boat-shed-skerrow-sound-schedule.xlsx")
