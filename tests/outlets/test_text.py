"""Answers as text and Markdown: whatever the width, no figure is cut; nothing stated marks up."""

import io
from typing import Any
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st
from rich.console import Console

from tests.loans.documents import REPAID, document
from zephyrant import loans
from zephyrant.loans import MARKS
from zephyrant.outlets.markdown import markdown_of, plainly
from zephyrant.outlets.picture import picture_of
from zephyrant.outlets.text import print_answer

MARK = MARKS["comma-point"]


def printed(content: dict[str, Any], width: int, *, colours: bool = False) -> str:
    loan, out = loans.check(content), io.StringIO()
    console = Console(file=out, width=width, force_terminal=colours, highlight=False)
    print_answer(console, loan, loans.solve(loan, MARK), MARK, rows=True, working=True)
    return out.getvalue()


class Texts(TestCase):
    def test_whatever_the_width_no_figure_is_cut(self) -> None:
        answer = loans.solve(loans.check(document()), MARK)
        for width in (20, 40, 60, 80, 120, 200):
            told = printed(document(), width)
            for row in answer.schedule:
                for name in ("opening", "interest", "principal", "payment", "closing"):
                    self.assertIn(MARK.write(row[name]), told)
            self.assertNotIn("…", told)

    def test_every_way_of_repaying(self) -> None:
        for changes in REPAID:
            content = document(**changes)
            answer, told = loans.solve(loans.check(content), MARK), printed(content, 100)
            markdown = markdown_of(loans.check(content), answer, MARK)
            assert answer.totals is not None
            for row in answer.schedule:
                for name in ("opening", "interest", "principal", "payment", "closing"):
                    self.assertIn(MARK.write(row[name]), told)
                self.assertIn(MARK.write(row.get("actuarial_closing", row["closing"])), told)
            self.assertIn(MARK.write(answer.totals["interest"]), markdown)
            if "amortized_over" in changes:
                self.assertIn("Balance due with the last", markdown)
                self.assertIn(MARK.write(answer.totals["balance_due"]), markdown)

    def test_as_wide_as_the_terminal_and_no_wider(self) -> None:
        for width in (80, 100, 140):
            for line in printed(document(), width).splitlines():
                self.assertLessEqual(len(line), width)

    def test_colours_only_where_there_are_some(self) -> None:
        self.assertIn("\x1b[", printed(document(), 80, colours=True))
        self.assertNotIn("\x1b[", printed(document(), 80))

    def test_what_is_stated_is_no_markup(self) -> None:
        told = printed(document(name="[bold]Kiln[/bold] *& sons* | <b>"), 80)
        self.assertIn("[bold]Kiln[/bold] *& sons* | <b>", told)

    def test_no_answer_and_a_check(self) -> None:
        self.assertIn("never repays", printed(document(count="?", payment="1"), 80))
        checked = printed(document(payment="900"), 80)
        self.assertIn("With the others would fit", checked)
        self.assertIn("938.82", checked)

    @given(st.text(max_size=40))
    def test_markdown_marks_nothing_up(self, text: str) -> None:
        shown = plainly(text)
        self.assertNotIn("\n", shown)
        for at, mark in enumerate(shown):
            if mark in "|*_`<[#":
                self.assertEqual(shown[at - 1], "\\")

    def test_markdown_of_an_aim(self) -> None:
        aim = {"figure": "total_interest", "is": "9000", "by": "principal"}
        loan = loans.check(document(aim=aim))
        told = markdown_of(loan, loans.solve(loan, MARK), MARK)
        self.assertIn("total interest of 9,000.00", told)


class Pictures(TestCase):
    def test_it_follows_what_is_owed(self) -> None:
        picture = picture_of(loans.solve(loans.check(document())))
        assert picture is not None
        self.assertEqual((picture.owed[0], picture.owed[-1], len(picture.owed)), (1, 0, 61))
        self.assertEqual(len(picture.bars), 60)
        # 252.01 of interest in a payment of 938.82; the greatest is the last, 939.00.
        self.assertAlmostEqual(picture.bars[0].interest, 252.01 / 939, 12)
        self.assertAlmostEqual(picture.bars[0].principal, (938.82 - 252.01) / 939, 12)

    def test_a_thousand_rows_and_none(self) -> None:
        long = picture_of(loans.solve(loans.check(document(count=1000))))
        assert long is not None
        self.assertLessEqual(len(long.bars), 170)
        never = loans.solve(loans.check(document(count="?", payment="1")))
        self.assertIsNone(picture_of(never))
