"""The list of cases: its columns, sorted; several cases picked, and what is done to them."""

import json
from pathlib import Path

from playwright.sync_api import Locator, expect

from zephyrant.desk.demo import CASES
from zephyrant.desk.models import Case

from .base import BrowserTest


class TheList(BrowserTest):
    def names(self) -> list[str]:
        return self.listed().get_by_role("link").all_inner_texts()

    def with_tag(self) -> int:
        return Case.objects.filter(search__contains="#harvest").count()

    def case(self, name: str) -> Locator:
        return self.listed().filter(has_text=name)

    def test_figures_stand_in_columns_and_sort_the_list(self) -> None:
        page = self.page
        press = self.case("Cider press")
        expect(press).to_contain_text("48,250.00 EUR")
        expect(press).to_contain_text("6.35 %")
        expect(press).to_contain_text("5 years")
        expect(press.get_by_text("938.82")).to_be_visible()
        page.get_by_role("button", name="Amount").click()
        head = page.get_by_role("columnheader", name="Amount")
        expect(head).to_have_attribute("aria-sort", "descending")
        amounts = list(
            Case.objects.exclude(amount=None).order_by("-amount").values_list("name", flat=True)
        )
        expect(self.listed().first).to_contain_text(amounts[0])
        page.get_by_role("button", name="Amount").click()
        expect(head).to_have_attribute("aria-sort", "ascending")
        expect(self.listed().first).to_contain_text(amounts[-1])
        page.reload()
        expect(self.listed().first).to_contain_text(amounts[-1])

    def test_columns_are_chosen_and_stay(self) -> None:
        page = self.page
        page.get_by_role("button", name="Columns").click()
        page.get_by_role("menuitemcheckbox", name="Effective a year").click()
        page.get_by_role("menuitemcheckbox", name="Tags").click()
        page.keyboard.press("Escape")
        heads = page.get_by_role("columnheader")
        expect(heads.filter(has_text="Effective a year")).to_be_visible()
        expect(heads.filter(has_text="Tags")).to_have_count(0)
        # (1 + 0.0635/2)^2 - 1
        expect(self.case("Cider press")).to_contain_text("6.4508 %")
        page.reload()
        expect(heads.filter(has_text="Effective a year")).to_be_visible()
        self.accessible()

    def test_picked_by_keys_and_put_side_by_side(self) -> None:
        page = self.page
        self.listed().get_by_role("link").first.press("Space")
        page.keyboard.press("ArrowDown")
        page.keyboard.press("ArrowDown")
        page.keyboard.press("Space")
        bar = page.get_by_role("region", name="Cases picked")
        expect(bar.get_by_role("status")).to_have_text("2 cases picked")
        first, _, third = self.names()[:3]
        self.accessible()
        page.keyboard.press("v")
        table = page.get_by_role("table", name="Side by side")
        expect(table.get_by_role("columnheader").first).to_contain_text(first)
        expect(table.get_by_role("columnheader").nth(1)).to_contain_text(third)
        table.get_by_role("button", name="make it the base").click()
        expect(table.get_by_role("columnheader").nth(1)).to_contain_text("the base")
        page.get_by_role("button", name="Pin another case").click()
        page.get_by_role("searchbox", name="Find a case to pin").fill("Boat shed")
        page.get_by_role("button", name="Boat shed").click()
        expect(table.get_by_role("columnheader").nth(2)).to_contain_text("Boat shed")
        page.reload()
        expect(table.get_by_role("columnheader").nth(1)).to_contain_text("the base")
        with page.expect_download() as taken:
            page.get_by_role("button", name="Export").click()
            page.get_by_role("menuitem", name="Pages to print").click()
        self.assertEqual(Path(taken.value.path()).read_bytes()[:5], b"%PDF-")
        self.accessible()

    def test_a_stretch_is_tagged_and_untagged(self) -> None:
        page = self.page
        page.get_by_role("checkbox", name="Pick Kiln").click()
        page.get_by_role("checkbox", name="Pick Cold store").click(modifiers=["Shift"])
        bar = page.get_by_role("region", name="Cases picked")
        expect(bar.get_by_role("status")).to_have_text("3 cases picked")
        page.keyboard.press("k")
        page.get_by_label("Tag for those picked").fill("#harvest")
        page.keyboard.press("Enter")
        expect(bar).to_contain_text("Tag “harvest” put on 3 cases.")
        self.assertEqual(self.with_tag(), 3)
        bar.get_by_role("button", name="Undo").click()
        expect(bar).to_contain_text("Tag “harvest” taken off 3 cases.")
        self.assertEqual(self.with_tag(), 0)

    def test_several_are_binned_and_brought_back(self) -> None:
        page = self.page
        page.get_by_role("checkbox", name="Pick Kiln").click()
        page.get_by_role("checkbox", name="Pick Six looms").click()
        count = len(CASES)
        expect(page.get_by_text("2 cases picked")).to_be_visible()
        page.keyboard.press("Delete")
        expect(self.listed()).to_have_count(count - 2)
        undo = page.get_by_role("button", name="Undo")
        expect(undo).to_be_focused()
        page.keyboard.press("Enter")
        expect(self.listed()).to_have_count(count)
        expect(page.get_by_text("2 cases brought back.")).to_be_visible()

    def test_those_picked_are_taken_as_a_file(self) -> None:
        page = self.page
        page.get_by_role("checkbox", name="Pick Kiln").click()
        page.get_by_role("checkbox", name="Pick Cider press").click()
        page.get_by_role("button", name="Export those picked").click()
        with page.expect_download() as taken:
            page.get_by_role("menuitem", name="Documents in one file").click()
        documents = json.loads(Path(taken.value.path()).read_text())
        self.assertEqual(
            [each["name"][:4] for each in documents],
            ["Kiln", "Cide"],
        )

    def test_all_that_are_listed_are_picked_and_none(self) -> None:
        page = self.page
        count = len(CASES)
        page.get_by_role("checkbox", name="Pick all that are listed").click()
        bar = page.get_by_role("region", name="Cases picked")
        expect(bar.get_by_role("status")).to_have_text(f"{count} cases picked")
        expect(bar.get_by_role("button", name="Side by side")).to_be_disabled()
        page.keyboard.press("Escape")
        expect(bar).to_have_count(0)

    def test_where_it_is_narrow_the_answer_stands_under_the_name(self) -> None:
        page = self.at_the_desk(viewport={"width": 400, "height": 800})
        press = self.listed(page).filter(has_text="Cider press")
        expect(press).to_contain_text("938.82 EUR")
        expect(page.get_by_role("columnheader")).to_have_count(0)
        page.get_by_role("button", name="Sorted by: changed").click()
        page.get_by_role("menuitemradio", name="Amount").click()
        largest = Case.objects.exclude(amount=None).order_by("-amount")[0]
        expect(self.listed(page).first).to_contain_text(largest.name)
        self.accessible(page)
