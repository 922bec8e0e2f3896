"""Loans solved as a library: whatever way they are stated, as decimals, with their tables."""

import json
import tempfile
from collections.abc import Iterable
from datetime import date
from decimal import ROUND_HALF_UP, Decimal, localcontext
from pathlib import Path
from typing import Any
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

import zephyrant
from tests.loans.documents import document
from zephyrant import loans

CENT = Decimal("0.01")


def level_payment(principal: str, nominal: str, times: int, a_year: int, count: int) -> Decimal:
    """The level payment by the annuity formula (common practice), worked here: a nominal percent
    compounded `times` a year, paid `a_year` times."""
    with localcontext(prec=60):
        growth = (1 + Decimal(nominal) / 100 / times) ** (Decimal(times) / a_year)
        rate = growth - 1
        return Decimal(principal) * rate / (1 - growth**-count)


def to_the_cent(amount: Decimal) -> Decimal:
    return amount.quantize(CENT, ROUND_HALF_UP)


class Stated(TestCase):
    #: Each a loan of 48,250 at 6.35 % compounded half-yearly over 60 months.
    PRESS: dict[str, Any] = {  # noqa: RUF012
        "principal": 48250,
        "rate": "6.35 % compounded half-yearly",
        "count": 60,
    }

    def test_however_a_figure_is_written(self) -> None:
        expected = to_the_cent(level_payment("48250", "6.35", 2, 12, 60))
        for written in (
            {},
            {"principal": "48,250"},
            {"principal": "48250.00 EUR"},
            {"principal": Decimal("48250.00")},
            {"principal": 48250.0},
            {"principal": "48.25k"},
            {"count": "5 years"},
            {"count": "60 payments"},
            {"count": "60 monthly payments"},
            {"payment": "?"},
            {"rate": {"percent": "6.35", "compounding": "half-year"}},
            {"rate": "6.35 % nominal, compounded twice a year"},
            {"rate": {"percent": Decimal("6.35"), "compounding": 2}},
            {"every": "month"},
            {"every": "monthly", "timing": "in arrears"},
            {"balance": 0},
            {"name": "Cider press, 6 3/8"},
        ):
            with self.subTest(written):
                answer = zephyrant.solve(**{**self.PRESS, **written})
                self.assertEqual((answer.unknown, answer.value), ("payment", expected))

    def test_whatever_states_it(self) -> None:
        expected = to_the_cent(level_payment("48250", "6.35", 2, 12, 60))
        content = document()
        with tempfile.TemporaryDirectory() as folder:
            file = Path(folder) / "press.json"
            file.write_text(json.dumps(content))
            for stated in (
                content,
                json.dumps(content),
                loans.check(content),
                file,
                "48,250 at 6.35 % compounded half-yearly over 5 years",
                zephyrant.solve(content),
            ):
                with self.subTest(type(stated)):
                    self.assertEqual(zephyrant.solve(stated).value, expected)

    def test_figures_in_the_place_of_those_stated(self) -> None:
        press = zephyrant.solve(document())
        for figures, expected in (
            ({"principal": "50k"}, level_payment("50000", "6.35", 2, 12, 60)),
            ({"rate": 7}, level_payment("48250", "7", 12, 12, 60)),
            ({"count": "4 years"}, level_payment("48250", "6.35", 2, 12, 48)),
            ({"count": 20, "every": "quarterly"}, level_payment("48250", "6.35", 2, 4, 20)),
        ):
            with self.subTest(figures):
                self.assertEqual(zephyrant.solve(press, **figures).value, to_the_cent(expected))

    def test_figures_in_the_place_of_a_purchase(self) -> None:
        """Without interest: 7,500 less 1,500 down, or less a fifth, in 12 payments of 500."""
        bought = zephyrant.solve(price=7500, down="20 %", rate=0, count=12)
        for figures, expected in (
            ({"price": "9,000"}, 600),
            ({"down": 1500}, 500),
            ({"down": "3,000"}, 375),
            ({"principal": 1200}, 100),
            ({"price": 6000, "down": "10 %"}, 450),
        ):
            with self.subTest(figures):
                self.assertEqual(zephyrant.solve(bought, **figures).value, expected)
        lent = zephyrant.solve(principal=6000, rate=0, count=12)
        self.assertEqual(zephyrant.solve(lent, price=7500, down="20 %").value, 500)

    def test_numbers_in_the_marks_of_the_reader(self) -> None:
        german = {"principal": "6.000", "rate": 0, "count": 12}
        self.assertEqual(zephyrant.solve(**german, marks="point-comma").value, 500)
        self.assertEqual(
            zephyrant.solve("6.000 at 0 % over 1 year", marks="point-comma").value, 500
        )
        # Marks of files group nothing; whoever says a line may.
        for marks in ("plain", "comma-point", "point-comma", "space-comma"):
            said = zephyrant.solve("6,000 at 0 % over 1 year", marks=marks)
            stated = zephyrant.solve(principal="6,000", rate=0, count=12, marks=marks)
            self.assertEqual((said.value, stated.value), (500, 500), marks)
        with self.assertRaises(TypeError):
            zephyrant.solve(5)  # type: ignore[arg-type]

    def test_amounts_of_a_document_are_not_read_again(self) -> None:
        """1.500 is one and a half in a document, whatever the marks of what stands beside it."""
        deal = zephyrant.solve(document(principal="1.500"), payment="0,25", count="?")
        self.assertEqual(deal.document["principal"], "1.500")
        self.assertEqual(Decimal(deal.document["payment"]), Decimal("0.25"))

    def test_other_figures_asked_for(self) -> None:
        """The line of the contract's examples; 6,000 parted in 12 without interest."""
        self.assertEqual(
            zephyrant.solve("196k USD, 11 years monthly, pays 1,990, rate?").unknown, "rate"
        )
        free = zephyrant.solve(principal="?", rate=0, count=12, payment=500)
        self.assertEqual((free.unknown, free.value), ("principal", Decimal(6000)))
        owed = zephyrant.solve(principal=6000, rate=0, count=10, payment=500, balance="?")
        self.assertEqual((owed.unknown, owed.value), ("balance", Decimal(1000)))
        bought = zephyrant.solve(price=7500, down="20 %", rate=0, count=12)
        self.assertEqual(bought.value, Decimal(500))
        self.assertEqual(
            zephyrant.solve(price="?", down="20 %", rate=0, count=12, payment=500).value, 7500
        )

    def test_clauses_as_texts_and_as_parts(self) -> None:
        said = zephyrant.solve(**self.PRESS, clauses=["at 12 repay 5,000"])
        stated = zephyrant.solve(**self.PRESS, clauses=[{"at": 12, "repay": "5000"}])
        self.assertEqual(said.document["clauses"], [{"at": 12, "repay": "5000"}])
        self.assertEqual((said.value, said.schedule), (stated.value, stated.schedule))
        self.assertEqual(said.schedule[11].repay, 5000)
        self.assertEqual([row.repay for row in said.schedule].count(Decimal(0)), 59)

    def test_dates(self) -> None:
        dated = zephyrant.solve(**self.PRESS, start="10 March 2027", first_payment=date(2027, 5, 1))
        self.assertEqual(dated.schedule[0].date, date(2027, 5, 1))
        self.assertEqual(dated.final_date, date(2032, 4, 1))
        self.assertIsNone(zephyrant.solve(**self.PRESS).schedule[0].date)

    def test_what_is_wrong_is_told_at_its_field(self) -> None:
        for figures, field, says in (
            ({"rate": "6,35 or so"}, "rate", "not understood"),
            ({"rate": "6.35 %, pays 900"}, "rate", "more than belongs here"),
            ({"principal": -5}, "principal", "zero or more"),
            ({"principal": ""}, "principal", "Nothing is stated"),
            ({"count": 0}, "count", "clauses alone"),
            ({"principal": float("nan")}, "principal", "finite"),
            ({"principal": 10**60}, "principal", "digits"),
            ({"colour": "red"}, "colour", "Unknown key"),
            ({"clauses": ["at 12 dance"]}, "clauses", "not understood"),
            ({"rate": "9" * 3_000}, "", "too long"),
            ({"start": "03/04/2027"}, "start", "say the month"),
        ):
            with self.subTest(figures), self.assertRaises(zephyrant.NotALoan) as refused:
                zephyrant.solve(**{**self.PRESS, **figures})
            error = refused.exception.errors[0]
            self.assertEqual(error.field, field)
            self.assertIn(says, error.message)

    def test_what_is_missing_is_named(self) -> None:
        for figures, says in (
            ({}, "amount lent"),
            ({"principal": 1000, "rate": 5}, "number of payments and the payment"),
            ({"principal": "?", "rate": 5, "count": "?"}, "payment is not stated"),
        ):
            with self.subTest(figures), self.assertRaises(zephyrant.NotALoan) as refused:
                zephyrant.solve(**figures)
            self.assertIn(says, str(refused.exception))
        for nonsense in ("", "Dear sirs", "{", Path("/nowhere/loan.json"), {"principal": 5}):
            with self.subTest(nonsense), self.assertRaises(zephyrant.NotALoan):
                zephyrant.solve(nonsense)

    @given(
        principal=st.decimals("100", "9000000", places=2),
        percent=st.decimals("0.01", "30", places=3),
        count=st.integers(1, 480),
    )
    def test_numbers_and_what_is_said_come_to_the_same(
        self, principal: Decimal, percent: Decimal, count: int
    ) -> None:
        typed = zephyrant.solve(principal=principal, rate=percent, count=count)
        said = zephyrant.solve(
            principal=f"{principal:,}", rate=f"{percent} %", count=f"{count} months"
        )
        self.assertEqual(typed.schedule, said.schedule)
        self.assertEqual(typed.exact, said.exact)


class Answered(TestCase):
    def test_everything_is_what_the_contract_tells(self) -> None:
        """Every figure beside the one that the command prints of the same document."""
        for content in (
            document(),
            document(start="2027-03-15", clauses=[{"at": 0, "fee": "600", "taken": "added"}]),
            document(payment="900"),
            document(rate={"percent": "?"}, payment="900"),
            document(count="?", payment="100"),
        ):
            told = loans.solve(loans.check(content)).model_dump(mode="json")
            answer = zephyrant.solve(content, marks="plain")
            with self.subTest(content):
                self.assertEqual(answer.to_dict(), told)
                for name in ("value", "exact", "gap"):
                    self.assertEqual(getattr(answer, name), self.number(told[name]))
                self.assertEqual([str(each) for each in answer.solutions], told["solutions"])
                self.assertEqual(bool(answer), told["reason"] is None)
                for name in ("totals", "rates", "yearly_cost"):
                    mine = getattr(answer, name)
                    kept = {} if mine is None else mine._asdict()
                    theirs = {key: self.number(text) for key, text in (told[name] or {}).items()}
                    self.assertEqual(kept, theirs)
                self.rows(answer.schedule, told["schedule"])
                self.rows(answer.by_year, told["by_year"])
                self.assertEqual([step._asdict() for step in answer.working], told["working"])
                self.assertEqual(set(answer.would_fit), set(told["would_fit"] or {}))
                self.assertTrue(answer.proof is None or answer.proof.holds)

    @staticmethod
    def number(text: str | int | None) -> Decimal | None:
        return None if text is None else Decimal(text)

    def rows(self, mine: Iterable[Any], theirs: list[dict[str, Any]]) -> None:
        for row, line in zip(mine, theirs, strict=True):
            for name, value in row._asdict().items():
                if isinstance(value, Decimal):
                    self.assertEqual(value, Decimal(line.get(name, 0)), name)
                else:
                    told = value.isoformat() if isinstance(value, date) else value
                    self.assertEqual(told, line[name], name)

    def test_the_schedule_adds_up(self) -> None:
        answer = zephyrant.solve(document())
        self.assertEqual(sum(row.principal for row in answer.schedule), Decimal(48250))
        self.assertEqual(sum(answer.schedule.column("interest")), answer.totals.interest)  # type: ignore[union-attr]
        self.assertEqual(answer.schedule[-1].closing, 0)
        self.assertEqual(answer.by_year[-1].closing, 0)

    def test_none_and_its_reason(self) -> None:
        never = zephyrant.solve(document(count="?", payment="100"))
        self.assertFalse(never)
        self.assertEqual((never.value, never.solutions, len(never.schedule)), (None, (), 0))
        self.assertIn("never repays", never.reason or "")
        self.assertIn("never repays", repr(never))
        self.assertIn("never repays", never._repr_html_())

    def test_as_a_notebook_shows_it(self) -> None:
        shown = zephyrant.solve(document(name="<b>Kiln & sons</b>"))._repr_html_()
        self.assertIn("&lt;b&gt;Kiln &amp; sons", shown)
        self.assertNotIn("<b>Kiln", shown)
        for part in ("938.82", "8,079.38", "<svg", "Rolls forward to 0.00"):
            self.assertIn(part, shown)
        self.assertEqual(shown.count("<rect"), 120)

    def test_out_of_the_door(self) -> None:
        answer = zephyrant.solve(document())
        lines = answer.to_csv().splitlines()
        self.assertEqual(lines[1], "1,,48250.00,252.01,686.81,938.82,47563.19")
        self.assertEqual(len(lines), 61)
        self.assertEqual(
            (answer.to_pdf()[:5], (answer.to_workbook() or b"")[:2]), (b"%PDF-", b"PK")
        )
        self.assertIsNone(zephyrant.solve(document(count="?", payment="100")).to_workbook())
        self.assertIn("**938.82**", answer.to_markdown())
