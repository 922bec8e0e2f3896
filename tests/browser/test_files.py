"""How files are made for an analyst, chosen and seen in what is taken out."""

from pathlib import Path

from playwright.sync_api import expect

from .base import BrowserTest


class HowFiles(BrowserTest):
    def schedule(self) -> bytes:
        page = self.page
        with page.expect_download() as taken:
            page.get_by_role("button", name="Export").click()
            page.get_by_role("menuitem", name="Schedule (CSV)").click()
        return Path(taken.value.path()).read_bytes()

    def test_chosen_and_seen_in_the_next_file(self) -> None:
        page = self.open("Cider press")
        first = self.schedule().splitlines()[0]
        self.assertTrue(first.startswith(b"\xef\xbb\xbfnumber,date,opening,"), first)
        page.get_by_role("button", name="Maren Tolliver").click()
        page.get_by_role("menuitem", name="Country and files").click()
        page.get_by_role("combobox", name="Country").select_option("Sweden")
        page.get_by_label("Between cells stands").select_option("a semicolon")
        page.get_by_label("Before decimals stands").select_option("a comma: 940,68")
        page.get_by_label("It begins with the mark of UTF-8").uncheck()
        self.accessible()
        page.get_by_role("button", name="Close").click()
        head, row, *_ = self.schedule().splitlines()
        self.assertTrue(head.startswith(b"number;date;opening;"), head)
        self.assertIn(b";48250,00;", row)
        # It is kept.
        page.reload()
        page.get_by_role("button", name="Maren Tolliver").click()
        page.get_by_role("menuitem", name="Country and files").click()
        expect(page.get_by_role("combobox", name="Country")).to_have_value("SE")
        expect(page.get_by_label("Between cells stands")).to_have_value("semicolon")
        expect(page.get_by_label("It begins with the mark of UTF-8")).not_to_be_checked()
