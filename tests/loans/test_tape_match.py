"""Which column is which figure, what has to be asked, and what a table comes to."""

from typing import Any
from unittest import TestCase

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from zephyrant.loans import MARKS, PLAIN
from zephyrant.loans.tape.columns import FIELDS, RESULTS, FieldName
from zephyrant.loans.tape.looking import Looked, look, together, unanswered
from zephyrant.loans.tape.matching import counted_in, match
from zephyrant.loans.tape.named import FIELDS_NAMED, TOLD_NAMED
from zephyrant.loans.tape.rows import asked_in
from zephyrant.loans.tape.summary import SPREAD, outliers, summarise
from zephyrant.loans.tape.telling import row_in_words


class Told(TestCase):
    def test_where_the_unknown_of_a_row_stands(self) -> None:
        whole: dict[FieldName, str] = {
            "name": "Kiln",
            "principal": "100",
            "percent": "6",
            "count": "12",
            "payment": "9",
            "balance": "",
        }
        for changed, asked in (
            ({}, set()),
            ({"payment": ""}, {"payment"}),
            ({"payment": "n/a"}, {"payment"}),
            ({"payment": "?"}, {"payment"}),
            ({"balance": "?"}, {"balance"}),
            ({"payment": "", "percent": "?"}, {"percent"}),
            ({"payment": "", "income": "30", "share": "30"}, set()),
            ({"payment": "", "income": "30", "share": ""}, {"payment"}),
            ({"payment": "", "count": ""}, {"payment", "count"}),
        ):
            cells: dict[FieldName, str] = {**whole, **changed}  # type: ignore[dict-item]
            self.assertEqual(asked_in(cells), asked, changed)
        without: dict[FieldName, str] = {**whole}
        del without["payment"]
        self.assertEqual(asked_in(without), set())

    def test_a_row_as_it_is_read(self) -> None:
        row: dict[str, str | int | None] = {
            "row": 3,
            "c0": "1234.5",
            "unknown": "percent",
            "found": "7.5658429724",
            "percent": "7.5658429724",
            "payment": "1431.90",
            "fits": "",
            "problem": "",
            "outlier": "percent, count",
            "effective": None,
        }
        self.assertEqual(
            row_in_words(row, MARKS["point-comma"]),
            {
                "row": "3",
                "c0": "1234.5",
                "unknown": "rate",
                "found": "7,565843",
                "percent": "7,565843",
                "payment": "1.431,90",
                "fits": "",
                "problem": "",
                "outlier": "rate, payments",
                "effective": "",
            },
        )
        checked = row_in_words({**row, "unknown": "", "found": "", "fits": "no"}, PLAIN)
        self.assertEqual((checked["unknown"], checked["found"]), ("none: checked", "does not fit"))

    def test_every_column_has_a_name(self) -> None:
        self.assertEqual(set(FIELDS), set(FIELDS_NAMED))
        self.assertEqual(
            {*RESULTS, "row", "outlier", "cover", "margin", "first_rate"}, set(TOLD_NAMED)
        )


class Matching(TestCase):
    def test_columns_as_people_name_them(self) -> None:
        for names, fields in (
            (
                ["Loan ID", "Loan amount", "Interest rate", "Term (months)"],
                ["name", "principal", "percent", "count"],
            ),
            (
                ["ref.", "PRINCIPAL", "Coupon", "Instalments", "Monthly payment"],
                ["name", "principal", "percent", "count", "payment"],
            ),
            (
                ["Balloon", "Start date", "First payment date", "Ccy", "Frequency"],
                ["balance", "start", "first_payment", "currency", "every"],
            ),
            (["luck", "", "colour"], [None, None, None]),
        ):
            with self.subTest(names=names):
                found = {place: field for field, place in match(names).items()}
                self.assertEqual([found.get(place) for place in range(len(names))], fields)

    def test_no_column_is_two_figures_and_the_first_of_two_is_taken(self) -> None:
        found = match(["Rate", "rate", "Payments", "Payment"])
        self.assertEqual(found, {"percent": 0, "count": 2, "payment": 3})

    def test_what_a_term_counts_by_its_name(self) -> None:
        self.assertEqual(counted_in("Term (months)"), {"count_in": "months"})
        self.assertEqual(counted_in("Years left"), {"count_in": "years"})
        self.assertEqual(counted_in("Term"), {})


class Asking(TestCase):
    def asked(self, **columns: list[str]) -> tuple[dict[str, Any], list[str]]:
        found = look(columns)  # type: ignore[arg-type]
        return found.defaults, [question.about for question in found.questions]

    def test_the_decimal_mark(self) -> None:
        for cells, mark, asked in (
            (["1000", "?", ""], None, False),
            (["1,234.50"], "comma-point", False),
            (["1234.5"], "comma-point", False),
            (["1,234,567"], "comma-point", False),
            (["1.234,50"], "point-comma", False),
            (["0,5"], "point-comma", False),
            (["1.234.567"], "point-comma", False),
            (["0.635"], "comma-point", False),
            (["1,234"], None, True),
            (["1.234"], None, True),
            (["1,234", "1,234.5"], "comma-point", False),
            (["1.234,5", "1,234.5"], None, True),
        ):
            with self.subTest(cells=cells):
                defaults, about = self.asked(principal=cells)
                self.assertEqual(defaults.get("marks"), mark)
                self.assertEqual("marks" in about, asked)

    def test_what_a_rate_below_one_means(self) -> None:
        for cells, known, asked in (
            (["6.35", "0"], "percent", False),
            (["6.35 %", "0.5 %"], None, False),
            (["0.0635"], None, True),
            (["0.0635", "6.35"], None, True),
            (["?", "", "six"], None, False),
        ):
            with self.subTest(cells=cells):
                defaults, about = self.asked(percent=cells)
                self.assertEqual(defaults.get("percent_as"), known)
                self.assertEqual("percent_as" in about, asked)

    def test_which_of_day_and_month_comes_first(self) -> None:
        for cells, known, asked in (
            (["2027-03-01", "1 Mar 2027"], None, False),
            (["13/4/2027", "3/4/2027"], "day-first", False),
            (["4/13/2027", "3/4/2027"], "month-first", False),
            (["3/4/2027"], None, True),
            (["13/4/2027", "4/13/2027"], None, True),
            (["3/3/2027"], None, False),
        ):
            with self.subTest(cells=cells):
                defaults, about = self.asked(start=cells)
                self.assertEqual(defaults.get("dates"), known)
                self.assertEqual("dates" in about, asked)

    def test_parts_of_one_table_together(self) -> None:
        one, other = look({"principal": ["1.5"]}), look({"principal": ["1,5"]})
        self.assertEqual(together([one, one]).defaults, {"marks": "comma-point"})
        both = together([one, other, one])
        self.assertEqual([question.about for question in both.questions], ["marks"])
        self.assertEqual(both.defaults, {})
        unsure = look({"percent": ["0.05"]})
        self.assertEqual(len(together([one, unsure]).questions), 1)

    def test_a_question_is_answered_by_saying_so(self) -> None:
        found = look({"percent": ["0.0635"]})
        self.assertEqual(len(unanswered(found, {})), 1)
        self.assertEqual(unanswered(found, {"percent_as": "part"}), ())
        self.assertEqual(unanswered(Looked(defaults={}, questions=()), {}), ())


def told(size: int, **columns: list[str]) -> dict[str, list[str]]:
    return {name: columns.get(name, [""] * size) for name in RESULTS}


class ComesTo(TestCase):
    def test_sums_by_currency_and_averages_by_amount(self) -> None:
        # By hand: (1,000 x 5 + 3,000 x 7) / 4,000 = 6.5.
        table = told(
            4,
            principal=["1000.00", "3000.00", "500", ""],
            percent=["5.0", "7.0", "4.0", ""],
            payment=["10", "30", "5", ""],
            total_interest=["1", "2", "4", ""],
            count=["12", "24", "6", ""],
            fits=["yes", "no", "", ""],
            problem=["", "", "", "never repays"],
        )
        found = summarise(table, ["EUR", "EUR", "CHF", "EUR"], ["", "percent", "", ""])
        self.assertEqual(
            {name: found[name] for name in ("rows", "solved", "problems", "unfit", "outliers")},
            {"rows": 4, "solved": 3, "problems": 1, "unfit": 1, "outliers": 1},
        )
        swiss, euro = found["sums"]
        self.assertEqual((swiss["currency"], swiss["principal"]), ("CHF", 500))
        self.assertEqual((euro["rows"], euro["principal"], euro["payment"]), (2, 4000, 40))
        self.assertEqual((euro["percent"], euro["count"]), (6.5, 21))
        self.assertIsNone(euro["effective"])

    @given(st.lists(st.integers(1, 10_000), min_size=1, max_size=300))
    def test_every_row_is_in_one_bin(self, values: list[int]) -> None:
        size = len(values)
        texts = [str(value) for value in values]
        table = told(size, percent=texts, payment=texts, count=texts, principal=texts)
        spread = summarise(table, ["EUR"] * size, [""] * size)["spread"]
        for name in SPREAD:
            self.assertEqual(sum(each["rows"] for each in spread[name]), size)
            lows = [each["low"] for each in spread[name]]
            self.assertEqual(lows, sorted(lows))

    def test_what_lies_far_from_the_median_stands_out(self) -> None:
        percents = [f"{5 + (number % 7) / 10:.1f}" for number in range(60)]
        table = told(60, percent=[*percents[:-1], "38.0"], problem=[""] * 60)
        found = outliers(table)
        self.assertEqual((found[-1], set(found[:-1])), ("percent", {""}))
        # The modified z-score by its definition.
        values = np.array([*percents[:-1], "38.0"], dtype=float)
        middle = np.median(values)
        score = 0.6745 * abs(38 - middle) / np.median(np.abs(values - middle))
        self.assertGreater(score, 3.5)

    def test_too_few_or_all_alike_stand_out_by_nothing(self) -> None:
        few = told(3, percent=["1", "1", "90"])
        alike = told(30, percent=["5"] * 29 + ["90"])
        self.assertEqual({*outliers(few), *outliers(alike)}, {""})
