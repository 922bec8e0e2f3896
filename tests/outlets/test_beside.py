"""What stands beside the payments, in every outlet: charges, balances by sum-of-digits."""

import io
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

    def test_sum_of_digits(self) -> None:
        content = document(interest_shared="sum-of-digits", count=12, rate={"percent": "6"})
        self.columns(content, "actuarial_closing", "Actuarial closing balance")
