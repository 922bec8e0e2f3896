"""What stands beside the payments, in every outlet: charges, balances by sum-of-digits."""

import io
from decimal import Decimal
from typing import Any

import openpyxl
from django.test import SimpleTestCase

from tests.loans.documents import document
from zephyrant import loans
from zephyrant.loans import MARKS
from zephyrant.outlets.markdown import markdown_of
from zephyrant.outlets.reader import Reader
from zephyrant.outlets.schedule_csv import csv_of
from zephyrant.outlets.schedule_workbook import xlsx_of

from .test_statement_pdf import printed as pdf_text
from .test_text import printed

MARK = MARKS["comma-point"]
INSURANCE = {"from": 1, "charge": {"percent": "0.4", "of": "balance"}, "name": "insurance"}


class Beside(SimpleTestCase):
    def columns(self, content: dict[str, Any], name: str, title: str) -> None:
        asked = loans.check(content)
        rows: list[Any] = loans.solve(asked, MARK).schedule
        told = [row[name] for row in rows]
        lines = [line.split(",") for line in csv_of(asked).decode().splitlines()]
        self.assertEqual([line[lines[0].index(name)] for line in lines[1:]], told)
        file = xlsx_of(asked, Reader(MARK))
        assert file is not None
        cells = openpyxl.load_workbook(io.BytesIO(file))["Schedule"]
        self.assertEqual(cells["O1"].value, title)
        found = [cells[f"O{row}"].value for row in range(2, len(rows) + 2)]
        self.assertEqual(found, [float(each) for each in told])
        pdf, _ = pdf_text(content)
        text = printed(content, 120)
        for each in told:
            self.assertIn(MARK.write(each), pdf)
            self.assertIn(MARK.write(each), text)

    def test_charges(self) -> None:
        content = document(clauses=[INSURANCE], count=12)
        self.columns(content, "charge", "Charges")
        asked = loans.check(content)
        answer = loans.solve(asked, MARK)
        assert answer.totals is not None
        told = markdown_of(asked, answer, MARK)
        self.assertIn("Total charges", told)
        self.assertIn(MARK.write(answer.totals["charges"]), told)

    def test_cover_and_value(self) -> None:
        """A year in which nothing is paid has no cover; every outlet tells the others."""
        content = document(
            count=24,
            cover={"cash_flow": "31000", "growth": "2", "ratio": "1.30"},
            value={"amount": "90000", "highest": "80"},
            clauses=[{"from": 1, "to": 12, "pay": "nothing"}],
        )
        asked = loans.check(content)
        answer = loans.solve(asked, MARK)
        rows: list[Any] = answer.schedule
        lines = [line.split(",") for line in csv_of(asked).decode().splitlines()]
        file = xlsx_of(asked, Reader(MARK))
        assert file is not None
        cells = openpyxl.load_workbook(io.BytesIO(file))["Schedule"]
        pdf, _ = pdf_text(content)
        text = printed(content, 140)
        self.assertEqual([row["cover_ratio"] for row in rows[:12]], [""] * 12)
        for place, (name, letter) in enumerate((("cover_ratio", "O"), ("loan_to_value", "P"))):
            told = [row[name] for row in rows]
            self.assertEqual([line[lines[0].index(name)] for line in lines[1:]], told)
            self.assertEqual(cells[f"{letter}1"].value, ("Cover", "Loan to value, %")[place])
            for at, each in enumerate(told, 2):
                self.assertEqual(cells[f"{letter}{at}"].value is None, each == "")
                self.assertIn(MARK.write(each), pdf)
                self.assertIn(MARK.write(each), text)
        # 31,000 x 1.02 in the second year, over what is paid in it.
        paid = sum(Decimal(row["payment"]) for row in rows[12:])
        self.assertEqual(Decimal(rows[20]["cover_ratio"]), round(31620 / paid, 4))

    def test_rates_that_float(self) -> None:
        """4.46 % until the reset of January, then 4.65 %: 2.31 and 2.50 with 2.15 on them."""
        content = document(
            rate={"index": "weir", "margin": "2.15", "resets": "half-year"},
            indices={"weir": {"fixings": [["2026-06-30", "2.31"], ["2026-12-31", "2.50"]]}},
            start="2026-07-01",
            count=12,
        )
        asked = loans.check(content)
        answer = loans.solve(asked, MARK)
        pdf, _ = pdf_text(content)
        flat = " ".join(pdf.split())
        for told in (
            flat,
            " ".join(printed(content, 120).split()),
            markdown_of(asked, answer, MARK),
        ):
            self.assertIn("4.46", told)
            self.assertIn("4.65", told)
            self.assertIn("weir plus 2.15 %", told)
            self.assertIn("rests on", told)
        file = xlsx_of(asked, Reader(MARK))
        assert file is not None
        cells = openpyxl.load_workbook(io.BytesIO(file))["Schedule"]
        # The percent of a period, where it is not that of the terms: 4.65 / 12.
        self.assertAlmostEqual(float(cells["I9"].value), 4.65 / 12, places=9)

    def test_payments_that_are_moved(self) -> None:
        """Lent on 31 January 2026, paid monthly: due on Saturday 28 February and Sunday 31 May,
        made on 2 March and 1 June (TARGET)."""
        content = document(start="2026-01-31", count=6, business_days={"calendars": ["TARGET"]})
        moved = {1: ("2026-03-02", "2026-02-28"), 4: ("2026-06-01", "2026-05-31")}
        asked = loans.check(content)
        answer = loans.solve(asked, MARK)
        rows: list[Any] = answer.schedule
        told = {row["number"]: (row["date"], row.get("scheduled")) for row in rows}
        self.assertEqual({at: each for at, each in told.items() if each[1]}, moved)
        lines = [line.split(",") for line in csv_of(asked).decode().splitlines()]
        stood = [line[lines[0].index("scheduled")] for line in lines[1:]]
        self.assertEqual(stood, [moved.get(number, ("", ""))[1] for number in range(1, 7)])
        file = xlsx_of(asked, Reader(MARK))
        assert file is not None
        cells = openpyxl.load_workbook(io.BytesIO(file))["Schedule"]
        self.assertEqual(cells["O1"].value, "Scheduled for")
        for number, (made, was) in moved.items():
            row = number + 1
            self.assertEqual(cells[f"B{row}"].value.date().isoformat(), made)
            self.assertEqual(cells[f"O{row}"].value.date().isoformat(), was)
        self.assertIsNone(cells["O3"].value)
        pdf, _ = pdf_text(content)
        for text in (pdf, printed(content, 120)):
            flat = " ".join(text.split())
            for day in ("2 Mar 2026", "28 Feb 2026", "1 Jun 2026", "31 May 2026"):
                self.assertIn(day, flat)
            self.assertIn("2 of 6 payments fall on days that are closed", flat)
            self.assertIn("on business days of TARGET, following, unadjusted", flat)

    def test_sum_of_digits(self) -> None:
        content = document(interest_shared="sum-of-digits", count=12, rate={"percent": "6"})
        self.columns(content, "actuarial_closing", "Actuarial closing balance")
