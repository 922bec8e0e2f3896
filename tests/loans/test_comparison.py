"""Quotes side by side, and their lists as files."""

from decimal import Decimal
from typing import Any
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st
from mpmath import mp, mpf

from zephyrant import loans
from zephyrant.loans.files.quotes import read_file, table_of, write_json
from zephyrant.loans.statement.quote_lists import (
    MOST_QUOTES,
    QuoteLine,
    QuoteList,
    compare,
    restated,
)
from zephyrant.outlets.csv_form import SEPARATORS, CsvForm

MILL: dict[str, Any] = {"name": "Mill", "percent": "6.35", "compounding": "half-year"}
FORGE: dict[str, Any] = {"name": "Forge", "percent": "6.30"}
REED: dict[str, Any] = {"name": "Reed", "percent": "6.25", "quoted": "continuous"}
TARN: dict[str, Any] = {"name": "Tarn", "percent": "3.4", "quoted": "flat", "count": "5y"}
SKER: dict[str, Any] = {
    "name": "Sker",
    "percent": "5.9",
    "quoted": "discount",
    "over": "90 days",
    "year_days": 360,
}
ALL = [MILL, FORGE, REED, TARN, SKER]


def listed(*quotes: dict[str, Any], **beside: Any) -> QuoteList:
    return QuoteList.model_validate({"name": "Press", "quotes": quotes, **beside})


class SideBySide(TestCase):
    def test_ranked_by_what_a_year_really_costs(self) -> None:
        found = compare(listed(*ALL)).quotes
        # Each from its definition, by mpmath: the flat quote is 60 payments of 11,700 / 60.
        with mp.workdps(30):
            flat = mp.findroot(lambda i: 195 * (1 - (1 + i) ** -60) / i - 10_000, 0.005)
            expected = [
                (1 + mpf("0.0635") / 2) ** 2,
                (1 + mpf("0.063") / 12) ** 12,
                mp.exp(mpf("0.0625")),
                (1 + flat) ** 12,
                (1 - mpf("0.059") / 4) ** (-mpf(365) / 90),
            ]
            for quote, growth in zip(found, expected, strict=True):
                self.assertLess(abs(mpf(quote.effective or 0) - 100 * (growth - 1)), mpf("1e-20"))
            order = sorted(range(5), key=lambda k: expected[k])
            gap = mp.nstr((max(expected) - min(expected)) * 10_000, 4)
        self.assertEqual([found[k].rank for k in order], [1, 2, 3, 4, 5])
        self.assertEqual([found[order[0]].place, found[order[-1]].place], [0, 1])
        self.assertEqual(found[order[-1]].basis_points, f"{float(gap):.2f}")

    def test_in_money_on_the_loan_chosen(self) -> None:
        yardstick = {"principal": "48,250", "count": "5y", "currency": "EUR"}
        mill, forge = compare(listed(MILL, FORGE, yardstick=yardstick)).quotes
        assert mill.in_money and forge.in_money
        # The payment of the demo's press; and of the same loan at 6.30 % compounded monthly.
        self.assertEqual(mill.in_money["payment"], "938.82")
        self.assertEqual(mill.in_money["more_interest"], "0.00")
        rate = mpf("0.063") / 12
        payment = 48250 * rate / (1 - (1 + rate) ** -60)
        self.assertAlmostEqual(float(forge.in_money["payment"]), float(payment), delta=0.005)
        cost = [Decimal(each.in_money["interest"].replace(",", "")) for each in (mill, forge)]  # type: ignore[index]
        self.assertEqual(Decimal(forge.in_money["more_interest"]), cost[1] - cost[0])

    def test_equal_quotes_share_a_rank(self) -> None:
        same = {"name": "Same", "percent": "6.35", "compounding": "half-year"}
        found = compare(listed(MILL, same, {"percent": "7"}))
        self.assertEqual([quote.rank for quote in found.quotes], [1, 1, 3])
        self.assertIn("Mill is the cheapest at 6.4508 % effective", found.says or "")
        self.assertIn("the same effective", compare(listed(MILL, same)).says or "")

    def test_what_cannot_be_read_is_told_and_the_rest_ranked(self) -> None:
        cases: list[tuple[dict[str, Any], str]] = [
            ({"percent": ""}, "percent"),
            ({"percent": "six"}, "percent"),
            ({"percent": "?"}, "percent"),
            ({"percent": "-100", "quoted": "effective"}, "percent"),
            ({"percent": "3", "quoted": "flat"}, "count"),
            ({"percent": "3", "quoted": "flat", "count": "0"}, "count"),
            ({"percent": "3", "quoted": "simple"}, "over"),
            ({"percent": "500", "quoted": "discount", "over": "1y"}, "percent"),
        ]
        for wrong, field in cases:
            with self.subTest(**wrong):
                bad, good = compare(listed(wrong, MILL)).quotes
                self.assertEqual([error.field for error in bad.errors], [field])
                self.assertIsNone(bad.rank)
                self.assertEqual((good.rank, good.basis_points), (1, "0.00"))

    def test_a_loan_that_cannot_be_read_leaves_the_rank(self) -> None:
        for wrong in ({"principal": "lots"}, {"count": "0"}, {"count": "?"}):
            found = compare(listed(MILL, yardstick=wrong))
            self.assertEqual(
                [error.field.split(".")[0] for error in found.yardstick_errors][:1], [*wrong][:1]
            )
            self.assertEqual((found.quotes[0].rank, found.quotes[0].in_money), (1, None))

    def test_a_rate_beyond_what_a_loan_states_has_no_money(self) -> None:
        high = {"percent": "9000", "quoted": "continuous"}
        found = compare(listed(MILL, high)).quotes
        self.assertEqual(found[1].rank, 2)
        self.assertIsNone(found[1].in_money)

    def test_nothing_to_compare(self) -> None:
        found = compare(listed())
        self.assertEqual((found.quotes, found.says), ((), None))


class Files(TestCase):
    @given(
        st.lists(st.sampled_from(ALL), max_size=6),
        st.text(st.characters(exclude_categories=["C", "Z"]), max_size=20),
    )
    @settings(deadline=None, max_examples=60)
    def test_written_and_read_back(self, quotes: list[dict[str, Any]], name: str) -> None:
        plain = restated(listed(*(dict(quote, name=name) for quote in quotes)), "plain")
        table = table_of(plain)
        at = table[0].index("percent")
        with_commas = [
            [cell.replace(".", ",") if place == at else cell for place, cell in enumerate(row)]
            for row in table
        ]
        for text in (
            write_json(plain),
            *(CsvForm(mark).lines(table) for mark in SEPARATORS),
            CsvForm("semicolon", "comma").lines(with_commas),
        ):
            back = read_file(text, "Press")
            self.assertEqual(back.problems, ())
            told = [quote.effective for quote in compare(back.quotes).quotes]
            self.assertEqual(told, [quote.effective for quote in compare(plain).quotes])
            self.assertEqual([each.name for each in back.quotes.quotes], [name] * len(quotes))

    def test_a_broken_row_is_named_and_the_rest_read(self) -> None:
        text = "name,percent,quoted\nMill,6.35,\n\nForge,,effective\nReed,6,dear\nTarn,6.1,\n"
        found = read_file(text, "From a file")
        self.assertEqual([quote.name for quote in found.quotes.quotes], ["Mill", "Tarn"])
        self.assertEqual(
            [problem.field for problem in found.problems], ["row 4 (“Forge”)", "row 5 (“Reed”)"]
        )

    def test_a_table_from_elsewhere(self) -> None:
        text = "\ufeffName;Percent;Over;Quoted\r\nMühle;6,35 %;90 days;simple\r\n"
        (quote,) = read_file(text, "x").quotes.quotes
        self.assertEqual((quote.name, quote.over, quote.quoted), ("Mühle", "90 days", "simple"))
        self.assertEqual(
            compare(listed(quote.model_dump())).quotes[0].readings["percent"].value, "6.35"
        )

    def test_no_cell_is_a_formula(self) -> None:
        wrong = listed({"name": "=1+1", "percent": "@x"}, {"name": "-0.5", "percent": "-0.5"})
        rows = table_of(wrong)
        self.assertEqual((rows[1][:2], rows[2][:2]), (["'=1+1", "'@x"], ["-0.5", "-0.50"]))

    def test_what_is_no_list(self) -> None:
        for text in (
            "",
            "a,b\n1,2",
            "percent,percent\n1,2",
            "percent,colour\n1,red",
            "{",
            "[]",
            '{"zephyrant": "loan/1"}',
            '{"zephyrant": "quotes/1", "quotes": 7}',
            '{"zephyrant": "quotes/1", "yardstick": {"count": 7}}',
            "percent\n" + "9" * 200_000,
        ):
            with self.subTest(text[:40]), self.assertRaises(loans.NotALoan):
                read_file(text, "x")

    def test_no_more_than_fit(self) -> None:
        found = read_file("percent\n" + "6\n" * (MOST_QUOTES + 5), "x")
        self.assertEqual(len(found.quotes.quotes), MOST_QUOTES)
        self.assertIn("At most", found.problems[0].message)

    def test_in_other_marks(self) -> None:
        turned = restated(listed(MILL, yardstick={"principal": "48,250"}), "point-comma")
        self.assertEqual(turned.quotes[0].percent, "6,35")
        self.assertEqual(turned.yardstick.principal, "48.250,00")
        self.assertIsInstance(turned.quotes[0], QuoteLine)
