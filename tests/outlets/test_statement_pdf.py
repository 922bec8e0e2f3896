"""The statement as PDF, read back: figures against the core's, names in every script."""

import io
import re
import unicodedata
from decimal import ROUND_HALF_UP, Decimal
from typing import Any

import pypdf
from django.test import SimpleTestCase

from tests.loans.documents import REPAID, document
from zephyrant import loans
from zephyrant.loans.wording.marks import MARKS
from zephyrant.outlets.reader import Reader
from zephyrant.outlets.statement_pdf import statement_pdf

MARK = MARKS["comma-point"]


def printed(content: dict[str, Any], note: str = "") -> tuple[str, loans.Answer]:
    asked = loans.check(content)
    answer = loans.solve(asked, MARK)
    pages = pypdf.PdfReader(io.BytesIO(statement_pdf(asked, answer, note, Reader(MARK)))).pages
    return "\n".join(page.extract_text() for page in pages), answer


class Statements(SimpleTestCase):
    def test_percents_are_rounded_as_everywhere(self) -> None:
        """To four decimals, ties away from zero: 6.26758894 is 6.2676."""
        for percent in ("6.35", "3.99", "0.4", "11.111", "7.77", "-0.3", "19.9"):
            text, answer = printed(document(rate={"percent": percent, "compounding": "half-year"}))
            assert answer.rates and answer.yearly_cost
            told = [*answer.rates.values(), *answer.yearly_cost.values()]
            for exact in told:
                rounded = Decimal(str(exact)).quantize(Decimal("0.0001"), ROUND_HALF_UP)
                self.assertIn(f"{rounded} %".replace("-", "−"), text)

    def test_every_way_of_repaying(self) -> None:
        for changes in REPAID:
            text, answer = printed(document(**changes))
            asked = loans.check(document(**changes))
            flat = " ".join(text.split())
            self.assertIn(" ".join(loans.terms_in_words(asked, MARK).split())[-60:-1], flat)
            for row in answer.schedule:
                for name in ("opening", "interest", "principal", "payment", "closing"):
                    self.assertIn(MARK.write(row[name]).replace("-", "−"), text)
                if "actuarial_closing" in row:
                    self.assertIn(MARK.write(row["actuarial_closing"]), text)

    def test_fees_and_what_they_come_to(self) -> None:
        """2 % of 48,250 is 965.00, kept back: 47,285.00 in hand; 300 paid apart besides."""
        clauses = [
            {"at": 0, "fee": {"percent": "2"}},
            {"at": 0, "fee": "300", "taken": "apart"},
        ]
        text, answer = printed(document(clauses=clauses))
        assert answer.costs
        self.assertRegex(text, r"Total fees\s+1,265\.00")
        self.assertRegex(text, r"Net proceeds\s+47,285\.00")
        cost = MARK.write(answer.costs["total_cost"])
        self.assertRegex(text, rf"Total cost: interest and fees\s+{re.escape(cost)}")
        self.assertRegex(text, r"at the start\s+kept back from the proceeds\s+965\.00")
        self.assertRegex(text, r"at the start\s+paid apart\s+300\.00")
        # Neither fee moves a balance: no column of zeros.
        self.assertNotIn("Fee\n", text)
        added, _ = printed(document(clauses=[{"at": 6, "fee": "150", "taken": "added"}]))
        self.assertIn("150.00", added)

    def test_names_in_every_script(self) -> None:
        for name in (
            "Сидровый пресс",
            "Μηλίτης",
            "苹果酒 压榨机",
            "りんご搾り機",
            "사과 압착기",
            "מכבש",
            "عصارة",
            "Ĝuste ŝarĝita",
        ):
            with self.subTest(name):
                text, _ = printed(document(name=name), note=f"{name}: {name}")
                # Letters in the forms they take beside each other are the same letters.
                self.assertIn(name, unicodedata.normalize("NFKC", text))
