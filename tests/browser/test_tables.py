"""Tables of loans: opened, matched, asked about, solved, looked at, a row opened as a case."""

import re
import threading
from decimal import Decimal
from typing import Any, ClassVar
from unittest import mock

from django.db import connections
from playwright.sync_api import APIResponse, Route, expect

from zephyrant.desk import jobs, tables
from zephyrant.desk.models import LoanTable

from .base import BrowserTest

TAPE = "\n".join(
    [
        "Loan;Amount;Rate;Payments;Payment",
        "Kiln;48,250.00;0.0635;60;?",
        "Loom;48,250.00;6.35;60;942.00",
        "Press;48,250.00;6.35;?;5",
        "Rafts;48,250.00;?;60;942.00",
    ]
)
#: 48,250 at 6.35 % / 12 over 60 months, by the formula of the annuity.
MONTH = 0.0635 / 12
PAYMENT = 48250 * MONTH / (1 - (1 + MONTH) ** -60)


class Tables(BrowserTest):
    stop: ClassVar[threading.Event]
    worker: ClassVar[threading.Thread]

    def setUp(self) -> None:
        super().setUp()
        self.working = threading.Event()
        self.thread = threading.Thread(target=self.work)
        self.thread.start()

    def work(self) -> None:
        """The process for the long work, as a thread beside the server's."""
        jobs.work_until(self.working)
        connections.close_all()

    def tearDown(self) -> None:
        self.working.set()
        self.thread.join()
        super().tearDown()

    def paste(self, text: str = TAPE) -> None:
        page = self.page
        page.get_by_role("link", name="Tables", exact=True).click()
        page.get_by_label("Table to paste").fill(text)
        page.get_by_role("button", name="Take this table").click()
        expect(page.get_by_role("table", name="Columns of the file")).to_be_visible()

    def test_the_first_rows_are_seen_while_others_are_worked(self) -> None:
        page, solved, go_on = self.page, tables._solved, threading.Event()

        def held(*asked: Any) -> Any:
            rows: range = asked[3]
            if rows.start:
                go_on.wait(30)
            return solved(*asked)

        lines = [f"Loan {n};48,250.00;6.35;60;?" for n in range(1, 151)]
        with mock.patch.object(tables, "_solved", held):
            self.paste("\n".join([TAPE.splitlines()[0], *lines]))
            page.get_by_role("button", name="Solve 150 rows").click()
            first = page.get_by_role("region", name="First rows")
            expect(first.get_by_role("row").nth(1)).to_contain_text(f"{PAYMENT:,.2f}")
            expect(page.get_by_role("status")).to_have_text("100 of 150 rows done")
            # What cannot be sorted yet does not look as if it could be.
            expect(first.get_by_role("columnheader", name="Payment", exact=True)).to_be_visible()
            expect(first.get_by_role("columnheader").get_by_role("button")).to_have_count(0)
            self.accessible()
            go_on.set()
            expect(page.get_by_role("button", name="all rows (150)")).to_be_visible()
        expect(page.get_by_role("table", name="Rows").get_by_role("row").nth(1)).to_contain_text(
            "Loan 1"
        )

    def test_matched_asked_solved_and_looked_at(self) -> None:
        page = self.page
        self.paste()
        expect(page.get_by_label("Amount is")).to_have_value("principal")
        self.accessible()
        page.get_by_role("button", name="Solve 4 rows").click()
        expect(page.get_by_text("Choose one: the rows depend on it.")).to_be_visible()
        page.get_by_label("those below 1 are parts").check()
        page.get_by_role("button", name="Solve 4 rows").click()
        rows = page.get_by_role("table", name="Rows")
        kiln = rows.get_by_role("row").nth(1)
        expect(kiln).to_contain_text(f"{PAYMENT:,.2f}")
        expect(page.get_by_text("3 solved, 1 without an answer")).to_be_visible()
        expect(page.get_by_role("table", name="Sums")).to_contain_text("144,750.00")
        self.accessible()
        page.get_by_role("button", name="without an answer (1)").click()
        expect(rows.get_by_role("row")).to_have_count(2)
        expect(rows).to_contain_text("never repays")
        page.get_by_role("button", name="do not fit (1)").click()
        expect(rows.get_by_role("row").nth(1)).to_contain_text("942.00")
        page.get_by_role("button", name="all rows (4)").click()
        page.get_by_role("columnheader", name="Payment", exact=True).get_by_role("button").click()
        expect(rows.get_by_role("row").nth(1)).to_contain_text("5.00")
        page.get_by_role("button", name="Columns", exact=True).click()
        page.get_by_role("checkbox", name="Loan", exact=True).check()
        page.get_by_label("Find in the table").fill("raf")
        expect(rows.get_by_role("row")).to_have_count(2)
        expect(rows).to_contain_text("Rafts")
        with page.expect_download() as taken:
            page.get_by_role("button", name="Export").click()
            page.get_by_role("menuitem", name="Workbook (XLSX)").click()
        self.assertEqual(taken.value.suggested_filename, "pasted-solved.xlsx")
        rows.get_by_role("button", name=re.compile("row 4 as a case")).click()
        expect(page.get_by_label("Name of the case")).to_have_value("Rafts")
        expect(self.figure("Rate")).to_have_value("?")

    def test_what_a_table_moves(self) -> None:
        """What is lent and the interest are those that the rows add up to; discounted at nothing it
        is worth both together."""
        page = self.page
        self.paste()
        page.get_by_role("button", name="Solve 4 rows").click()
        expect(page.get_by_text("Choose one: the rows depend on it.")).to_be_visible()
        page.get_by_label("those below 1 are parts").check()
        page.get_by_role("button", name="Solve 4 rows").click()
        sums = page.get_by_role("table", name="Sums").get_by_role("row").nth(1)
        lent, interest = (sums.get_by_role("cell").nth(place).inner_text() for place in (1, 3))
        page.get_by_role("link", name="What it moves, by period").click()
        ways = page.get_by_role("table", name="Every way it may go")
        agreed = ways.get_by_role("row").nth(1)
        expect(agreed).to_contain_text(lent)
        expect(agreed).to_contain_text(interest)
        flows = page.get_by_role("table", name="Flows by period")
        expect(flows.get_by_role("row").nth(1)).to_contain_text("quarter 1")
        self.accessible()
        page.get_by_label("discounted at").fill("0")
        both = sum(Decimal(text.replace(",", "")) for text in (lent, interest))
        expect(agreed).to_contain_text(f"{both:,.2f}")
        page.get_by_label("repaid early").fill("6")
        expect(ways.get_by_role("row").nth(2)).to_contain_text("6 % a year repaid early")
        page.get_by_role("button", name="6 % a year repaid early").click()
        expect(flows.get_by_role("columnheader", name="Repaid early")).to_be_visible()
        page.get_by_label("Added up").select_option("year")
        expect(flows.get_by_role("row").nth(1)).to_contain_text("year 1")
        page.get_by_label("repaid early").fill("lots")
        expect(page.get_by_role("alert")).to_contain_text("not a percentage")
        page.get_by_label("repaid early").fill("")
        with page.expect_download() as taken:
            page.get_by_role("button", name="Export").click()
            page.get_by_role("menuitem", name="Table (CSV)").click()
        self.assertRegex(taken.value.suggested_filename, "-flows.csv$")
        page.get_by_label("looked at from").fill("15 Mar 2027")
        expect(flows.get_by_role("row").nth(1)).to_contain_text("2027")
        page.get_by_role("link", name="Row by row").click()
        expect(page.get_by_role("table", name="Rows")).to_be_visible()

    def test_a_match_kept_by_its_name_matches_the_next_file(self) -> None:
        page = self.page
        odd = "Ledger;Outlay;Price of money;Terms;Instalment\nKiln;48,250.00;6.35;60;?"
        self.paste(odd)
        page.get_by_label("Outlay is").select_option("principal")
        page.get_by_role("button", name="Templates").click()
        page.get_by_label("Keep this match as").fill("Harbour tape")
        keep = page.get_by_role("button", name="Keep", exact=True)
        keep.click()
        expect(page.get_by_role("alert")).to_contain_text("match the rate and the number")
        page.get_by_role("button", name="Close").click()
        page.get_by_label("Price of money is").select_option("percent")
        page.get_by_label("Terms is").select_option("count")
        page.get_by_role("button", name="Templates").click()
        page.get_by_label("Keep this match as").fill("Harbour tape")
        page.get_by_label("Keep this match as").press("Enter")
        kept = page.get_by_role("list", name="Templates kept")
        expect(kept).to_contain_text("Price of money")
        kept.get_by_label("Everyone on this desk may take it").check()
        expect(page.get_by_text("Kept as “Harbour tape”.")).to_be_visible()
        self.accessible()
        with page.expect_download() as taken:
            kept.get_by_role("link", name="File").click()
        self.assertEqual(taken.value.suggested_filename, "harbour-tape.json")
        # Another file of these columns, in another order.
        self.paste("Terms;Outlay;Instalment;Price of money\n60;48,250.00;?;6.35")
        note = page.get_by_text("Columns matched by your template “Harbour tape”.")
        expect(note).to_be_visible()
        expect(page.get_by_label("Price of money is")).to_have_value("percent")
        # And one that lacks one of them.
        self.paste("Outlay;Price of money;Terms\n48,250.00;6.35;60")
        page.get_by_role("button", name="Templates").click()
        expect(kept).to_contain_text("Not in this file: “Instalment”")
        kept.get_by_role("button", name="Take Harbour tape").click()
        expect(page.get_by_label("Outlay is")).to_have_value("principal")
        page.get_by_role("button", name="Solve 1 row").click()
        expect(page.get_by_role("table", name="Rows")).to_contain_text(f"{PAYMENT:,.2f}")
        page.get_by_role("button", name="Match its columns anew").click()
        page.get_by_role("button", name="Templates").click()
        kept.get_by_role("button", name="Delete Harbour tape").click()
        expect(page.get_by_text("There are none yet.")).to_be_visible()

    def test_by_keyboard_alone(self) -> None:
        page = self.page
        page.keyboard.press("g")
        expect(page.get_by_role("heading", name="Tables of loans")).to_be_visible()
        page.keyboard.press("p")
        page.keyboard.insert_text("name;amount;rate;payments;payment\nKiln;48,250.00;6.35;60;?\n")
        page.keyboard.press("Control+Enter")
        expect(page.get_by_role("button", name="Solve 1 row")).to_be_visible()
        # Its cells have been looked at: what has to be asked is known.
        expect(page.get_by_role("button", name=re.compile("^Solve"))).to_be_enabled()
        page.keyboard.press("s")
        rows = page.get_by_role("table", name="Rows")
        expect(rows.get_by_role("row").nth(1)).to_contain_text(f"{PAYMENT:,.2f}")
        # The first rows are seen while others are worked; the letter works once all are there.
        expect(page.get_by_role("button", name="Export")).to_be_visible()
        page.keyboard.press("f")
        expect(page.get_by_role("menuitem").first).to_be_focused()

    def test_it_goes_on_while_one_is_away_and_can_be_cancelled(self) -> None:
        self.working.set()
        self.thread.join()
        page = self.page
        self.paste(TAPE.replace("0.0635", "6.35"))
        page.get_by_role("button", name="Solve 4 rows").click()
        expect(page.get_by_role("status").get_by_text("waits for its turn")).to_be_visible()
        self.accessible()
        page.get_by_role("button", name="Cancel").click()
        expect(page.get_by_role("button", name="Solve 4 rows")).to_be_visible()
        page.get_by_role("button", name="Solve 4 rows").click()
        expect(page.get_by_role("button", name="Cancel")).to_be_visible()
        page.get_by_role("link", name="Cases", exact=True).click()
        self.working = threading.Event()
        self.thread = threading.Thread(target=self.work)
        self.thread.start()
        page.get_by_role("link", name="Tables", exact=True).click()
        expect(page.get_by_role("list", name="Tables")).to_contain_text("3 solved")
        page.get_by_role("button", name="Delete Pasted").click()
        expect(page.get_by_text("No tables yet.")).to_be_visible()
        self.assertFalse(LoanTable.objects.exists())

    def test_a_look_that_began_before_does_not_stand_over_what_was_asked(self) -> None:
        self.working.set()
        self.thread.join()
        page = self.page
        held: list[tuple[Route, APIResponse]] = []

        def hold(route: Route) -> None:
            held.append((route, route.fetch()))

        page.route(re.compile(r"/api/v1/tables/[0-9a-f-]{36}$"), hold)
        self.paste(TAPE.replace("0.0635", "6.35"))
        page.get_by_role("button", name="Solve 4 rows").click()
        status = page.get_by_role("status").get_by_text("waits for its turn")
        expect(status).to_be_visible()
        with page.expect_response(re.compile(r"/api/v1/tables/[0-9a-f-]{36}$")):
            for route, answer in held:
                route.fulfill(response=answer)
        page.unroute_all()
        page.evaluate("() => new Promise((then) => setTimeout(() => requestAnimationFrame(then)))")
        expect(status).to_be_visible()
        page.get_by_role("button", name="Cancel").click()
        expect(page.get_by_role("button", name="Solve 4 rows")).to_be_visible()

    def test_a_row_without_an_answer_says_why_in_place_of_it(self) -> None:
        page = self.page
        self.paste("Loan;Amount;Rate;Payments;Payment\nKiln;1000;6.35;60;?\nLoom;some;6.35;60;?")
        page.get_by_role("button", name="Solve 2 rows").click()
        rows = page.get_by_role("table", name="Rows")
        loom = rows.get_by_role("row").nth(2)
        expect(loom.get_by_role("cell").nth(1)).to_have_text("Loom")
        expect(loom.get_by_role("cell").nth(2)).to_contain_text("“some” is not an amount")
        page.get_by_role("button", name="without an answer (1)").click()
        loom = rows.get_by_role("row").nth(1)
        expect(loom.get_by_text("“some” is not an amount")).to_have_count(1)
        self.accessible()
        page.get_by_role("button", name="Columns", exact=True).click()
        page.get_by_role("checkbox", name="Found", exact=True).uncheck()
        expect(rows.get_by_role("columnheader", name="Why not")).to_be_visible()

    def test_what_is_no_table(self) -> None:
        page = self.page
        page.get_by_role("link", name="Tables", exact=True).click()
        page.get_by_label("Table to paste").fill("{not json")
        page.get_by_role("button", name="Take this table").click()
        expect(page.get_by_role("alert")).to_contain_text("not JSON")
        expect(page.get_by_label("Table to paste")).to_have_value("{not json")
        self.accessible()
