"""Asking backwards: what is bought, and a result that is aimed at."""

import re
from math import ceil, log

from django.utils import timezone
from playwright.sync_api import Page, Route, expect

from zephyrant.desk.models import Case, TrailPoint
from zephyrant.desk.trail import TYPING

from .base import BrowserTest

#: The rate of a month at 6.35 % compounded half-yearly.
MONTH = (1 + 0.0635 / 2) ** (1 / 6) - 1
#: What 60 payments of 1 are worth when the loan is made.
WORTH = (1 - (1 + MONTH) ** -60) / MONTH


class Backwards(BrowserTest):
    def test_the_price_from_what_can_be_carried(self) -> None:
        page = self.open("Cider press")
        self.figure("Payment").fill("750")
        page.get_by_role("button", name="Price and down payment").click()
        self.figure("Price").fill("?")
        self.figure("Down payment").fill("20")
        # By the formula of the annuity: 750 a month carry this much, and a fifth is paid at once.
        self.answers(f"{750 * WORTH / 0.8:,.2f}")
        expect(page.get_by_text("The price is")).to_be_visible()
        page.keyboard.press("Escape")
        page.keyboard.press("w")
        expect(page.locator("math[alttext='Q = P / (1 − d / 100)']")).to_be_visible()
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
        page.get_by_role("button", name="Amount lent, no price").click()
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
        interest = page.locator("dl > div").filter(has_text="Total interest").locator("dd")
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
        # Rows are drawn where they are in sight, and the picture of the aim moves them down.
        expect(page.get_by_role("img", name="the aim is 900.00")).to_be_visible()
        payments.scroll_into_view_if_needed()
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
            page.get_by_role("button", name="Export").click()
            page.get_by_role("menuitem", name="Schedule with live arithmetic").click()
        self.assertEqual(taken.value.suggested_filename, "boat-shed-skerrow-sound-schedule.xlsx")


class WhatMovesIt(BrowserTest):
    def sheet(self) -> Page:
        page = self.open("Cider press")
        self.answers("938.82")
        page.get_by_role("button", name="What if").click()
        page.get_by_role("menuitem", name="What moves it").click()
        return page

    def test_an_eighth_point_table_and_a_point_opened(self) -> None:
        page = self.sheet()
        page.get_by_label("Values of the figure varied").fill("5 3/4 to 6.5 by 1/8")
        rows = page.get_by_role("table", name="What moves it").get_by_role("row")
        expect(rows).to_have_count(8)
        # By the formula of the annuity.
        month = (1 + 0.06 / 2) ** (1 / 6) - 1
        payment = 48250 * month / (1 - (1 + month) ** -60)
        six = rows.filter(has=page.get_by_role("rowheader", name="6 %", exact=True))
        expect(six).to_contain_text(f"{payment:,.2f}")
        page.get_by_label("total paid").check()
        expect(rows.first).to_contain_text("Total paid")
        # Named next to the curve: its ends.
        curve = page.get_by_role("img", name=re.compile("From 5.75 % to 6.5 %"))
        expect(curve).to_be_visible()
        little = page.get_by_role("table", name="A little more")
        expect(little).to_contain_text("rate + 0.125 %")
        self.accessible()
        page.get_by_role("button", name="Open rate 6 % as a case").click()
        expect(page.get_by_label("Name of the case")).to_have_value(
            "Cider press, Orrin & Daughters, rate 6 %"
        )
        self.answers(f"{payment:,.2f}")

    def test_two_figures_as_a_grid(self) -> None:
        page = self.sheet()
        page.get_by_label("Figure varied", exact=True).select_option("rate.percent")
        page.get_by_label("Values of the figure varied").fill("6.1, 6.35, 6.6")
        page.get_by_label("Second figure varied", exact=True).select_option("count")
        page.get_by_label("Values of the second figure varied").fill("3 to 6 years by 1 year")
        grid = page.get_by_role("table", name="What moves it")
        expect(grid.get_by_role("columnheader")).to_have_text(["36", "48", "60", "72"])
        expect(grid.get_by_title("as it stands")).to_have_text("938.82")
        self.accessible()

    def test_a_long_sweep_is_shown_as_it_comes(self) -> None:
        page = self.page
        held: list[Route] = []
        letting = False

        def later(route: Route) -> None:
            if letting or not (route.request.post_data_json or {}).get("start"):
                route.continue_()
            else:
                held.append(route)

        page.route("**/api/v1/ask/sensitivity", later)
        self.open("Cider hall")
        page.get_by_role("button", name="What if").click()
        page.get_by_role("menuitem", name="What moves it").click()
        page.get_by_label("Values of the figure varied").fill("2 to 10 by 0.05")
        rows = page.get_by_role("table", name="What moves it").get_by_role("row")
        expect(rows).to_have_count(162)
        # The first of them stand there while the others are still being worked.
        expect(page.get_by_role("progressbar", name="Worked so far")).to_be_visible()
        expect(rows.nth(1)).not_to_contain_text("…")
        expect(rows.last).to_contain_text("…")
        self.accessible()
        letting = True
        for route in held:
            route.continue_()
        expect(rows.last).not_to_contain_text("…")
        expect(rows.filter(has_text="…")).to_have_count(0)
        expect(page.get_by_role("progressbar")).to_have_count(0)

    def test_what_cannot_be_worked_is_said_and_nothing_lost(self) -> None:
        page = self.sheet()
        values = page.get_by_label("Values of the figure varied")
        for typed, said in (
            ("0 to 100 by 0.00001", "at most 2,500"),
            ("six", "“six”"),
            ("7 to 6 by 1/8", "from the least to the most"),
        ):
            values.fill(typed)
            expect(page.get_by_role("dialog").get_by_role("alert")).to_contain_text(said)
            expect(values).to_have_value(typed)


class Carried(BrowserTest):
    def test_the_price_from_an_income(self) -> None:
        page = self.open("Cider press")
        page.get_by_role("button", name="Price and down payment").click()
        self.figure("Down payment").fill("20")
        page.get_by_role("button", name="Payment from an income").click()
        page.get_by_label("Income", exact=True).fill("5,400")
        page.get_by_label("of which").fill("35")
        page.get_by_label("less outgoings").fill("640")
        # 35 % of 5,400 less 640 is 1,250 a month; the price follows from it.
        expect(page.get_by_text("= 1,250.00 that can be carried")).to_be_visible()
        self.answers(f"{1250 * WORTH / 0.8:,.2f}")
        self.accessible()
        page.get_by_label("less outgoings").fill("2,000")
        self.figure("Rate").focus()
        expect(page.get_by_role("alert")).to_contain_text("nothing is left")
        expect(self.figure("Payment")).to_have_value("35 % of 5,400 - 2,000 a month")


class WhatIf(BrowserTest):
    def asking(self, what: str) -> Page:
        page = self.open("Cider press")
        self.answers("938.82")
        page.get_by_role("button", name="What if").click()
        page.get_by_role("menuitem", name=what).click()
        return page

    def test_a_little_more_each_month(self) -> None:
        page = self.asking("Paying more")
        page.get_by_label("More with each payment").fill("100")
        # By the formula of the annuity.
        many = ceil(-log(1 - 48250 * MONTH / 1038.82) / log(1 + MONTH))
        said = page.get_by_role("dialog")
        expect(said).to_contain_text(f"repaid by {many} payments instead of 60")
        self.accessible()
        page.get_by_label("More with each payment").fill("some")
        expect(page.get_by_role("alert")).to_contain_text("“some” is not an amount")
        page.get_by_label("More with each payment").fill("100")
        page.get_by_role("button", name="Open it as a case").click()
        expect(page.get_by_label("Name of the case")).to_have_value(re.compile(", more paid$"))
        self.answers(str(many))

    def test_points_for_a_lower_rate_kept_and_linked_to(self) -> None:
        page = self.asking("Points for a lower rate")
        expect(page).to_have_url(re.compile(r"\?show=points$"))
        page.get_by_label("The other rate").fill("5.85")
        lower = (1 + 0.0585 / 2) ** (1 / 6) - 1
        less = 48250 * (1 / WORTH - lower / (1 - (1 + lower) ** -60))
        alone = ceil(482.50 / less)
        expect(page.get_by_role("dialog")).to_contain_text(f"payments alone after payment {alone}")
        table = page.get_by_role("table", name="If the loan ends earlier")
        expect(table.get_by_role("row")).to_have_count(5)
        self.accessible()
        self.until(
            lambda: Case.objects.filter(asides__points__percent="5.85").exists(), "points kept"
        )
        page.reload()
        expect(page.get_by_label("The other rate")).to_have_value("5.85")
        expect(table).to_be_visible()


class TheTrail(BrowserTest):
    def test_back_along_the_trail_and_nothing_lost(self) -> None:
        page = self.open("Kiln, Tarn")
        found = page.get_by_role("status").locator("visible=true").and_(page.locator("output"))
        for amount in ("20k", "25k"):
            before = found.inner_text()
            self.figure("Amount lent").fill(amount)
            expect(found).not_to_have_text(before)
            listed = TrailPoint.objects.filter(statement__principal=amount)
            self.until(listed.exists, f"the answer for {amount} on the trail")
            # What is typed next does not take its place: that was a while ago.
            listed.update(found_at=timezone.now() - 2 * TYPING)
        last = found.inner_text()
        self.figure("Amount lent").press("Tab")
        page.get_by_role("button", name="Trail").click()
        points = page.get_by_role("list", name="Trail").get_by_role("listitem")
        expect(points).to_have_count(3)
        expect(points.first).to_contain_text("as it stands")
        expect(points.first).to_contain_text("amount lent 20,000.00 to 25,000.00")
        points.last.get_by_role("button", name="Name it").click()
        page.get_by_label("Name of answer 1").fill("As they asked")
        page.keyboard.press("Enter")
        expect(points.last).to_contain_text("As they asked")
        self.accessible()
        points.last.get_by_role("button", name="Go back to it").click()
        expect(points.last).to_contain_text("as it stands")
        expect(self.figure("Amount lent")).to_have_value("17,840.00")
        expect(points).to_have_count(3)
        points.first.get_by_role("button", name="Go back to it").click()
        expect(found).to_have_text(last)


class SideBySide(BrowserTest):
    def test_two_variants_compared(self) -> None:
        page = self.open("Cider press")
        self.answers("938.82")
        page.get_by_role("link", name="Side by side").click()
        table = page.get_by_role("table", name="Side by side")
        named = page.get_by_role("rowheader", name=re.compile(r"^(differs\s*)?Payment"))
        payment = table.get_by_role("row").filter(has=named)
        month = (1 + 0.061 / 2) ** (1 / 6) - 1
        lower = 48250 * month / (1 - (1 + month) ** -60)
        expect(payment.first).to_contain_text(f"{lower:,.2f}")
        expect(payment.first).to_contain_text(f"−{938.82 - round(lower, 2):.2f}")
        expect(page.get_by_role("img", name=re.compile("Over four years"))).to_be_visible()
        differing = table.get_by_role("row").filter(has=page.get_by_label("differs"))
        expect(differing.filter(has_text="Rate").first).to_be_visible()
        expect(differing.filter(has_text="Amount lent")).to_have_count(0)
        self.accessible()
        page.get_by_role("button", name=re.compile("make it the base.*Over four years")).click()
        expect(table).to_contain_text("+12")
        page.get_by_role("button", name=re.compile("take off.*With a balloon")).click()
        expect(table.get_by_role("columnheader")).to_have_count(3)
        with page.expect_download() as taken:
            page.get_by_role("button", name="Export").click()
            page.get_by_role("menuitem", name="Workbook (XLSX)").click()
        name = "cider-press-orrin-daughters-side-by-side.xlsx"
        self.assertEqual(taken.value.suggested_filename, name)
        page.reload()
        expect(table.get_by_role("columnheader")).to_have_count(3)

    def test_a_pinned_case_deleted_meanwhile(self) -> None:
        page = self.open("Cider press")
        page.get_by_role("link", name="Side by side").click()
        page.get_by_role("button", name="Pin another case").click()
        page.get_by_label("Find a case to pin").fill("tarn")
        page.get_by_role("list", name="Cases to pin").get_by_role(
            "button", name="Kiln, Tarn"
        ).click()
        table = page.get_by_role("table", name="Side by side")
        expect(table.get_by_role("columnheader", name=re.compile("Kiln"))).to_be_visible()
        Case.objects.filter(name__startswith="Kiln").update(deleted_at=timezone.now())
        page.reload()
        expect(table).to_contain_text("This case was deleted")
        expect(table).to_contain_text("938.82")
        page.get_by_role("button", name=re.compile("take off.*A case that is gone")).click()
        expect(table.get_by_role("columnheader")).to_have_count(4)
