"""Tables of loans: the array path against the exact one to the cent, published answers, a large
table put back row by row, and what people's files hold."""

import random
from decimal import Decimal
from math import expm1, isnan, log1p
from typing import Any, cast
from unittest import TestCase
from unittest.mock import patch

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.optimize import brentq

from zephyrant import loans
from zephyrant.loans.ledger.level_arrays import Level
from zephyrant.loans.roots import many_rates
from zephyrant.loans.tape.columns import ASKABLE, RESULTS, Defaults, FieldName
from zephyrant.loans.tape.rows import row_document
from zephyrant.loans.tape.solving import Tape, solve_tape

Row = dict[FieldName, str]
PRESS: Row = {
    "principal": "48,250.00",
    "percent": "6.35",
    "count": "60",
    "payment": "?",
    "compounding": "half-year",
}


def table(*rows: Row) -> dict[FieldName, list[str]]:
    """Rows as the columns of a table."""
    names = list(dict.fromkeys(name for row in rows for name in row))
    return {name: [row.get(name, "") for row in rows] for name in names}


def solved(*rows: Row, **defaults: Any) -> list[dict[str, str]]:
    """Each row's results, those it has."""
    told = solve_tape(table(*rows), Defaults(**defaults))
    return [
        {name: column[place] for name, column in told.items() if column[place]}
        for place in range(len(rows))
    ]


def some_row(chance: random.Random) -> Row:
    """A row of any shape whose figures fit, one of them asked for, or none."""
    lent = round(chance.uniform(500, 500_000), 2)
    percent = round(
        chance.choice([0, 0.001, chance.uniform(0, 3), chance.uniform(1, 40)]),
        chance.choice([0, 2, 3, 4]),
    )
    count = chance.choice([1, 2, 5, 12, 36, 60, 84, 120, 240])
    left = 0 if chance.random() < 0.5 else round(lent * chance.uniform(0, 0.6), 2)
    quoted = chance.choice(["nominal", "nominal", "effective", "periodic", "continuous"])
    row: Row = {
        "principal": f"{lent:.2f}",
        "percent": f"{percent / 12:.3f}" if quoted == "periodic" else f"{percent}",
        "count": str(count),
        "payment": "?",
        "balance": f"{left:.2f}",
        "every": chance.choice(["month", "month", "quarter", "year", "week"]),
        "timing": chance.choice(["in-arrears", "in-arrears", "in-advance"]),
        "quoted": quoted,
        "compounding": chance.choice(["", "half-year", "year"]) if quoted == "nominal" else "",
        "after": chance.choice(["", "1", "3", "12"]),
    }
    document, _ = row_document(row, Defaults(marks="plain"))
    row["payment"] = loans.solve(loans.check(document)).value or "100.00"
    asked: FieldName | None = chance.choice([*ASKABLE, None])
    if asked is None or chance.random() < 0.2:
        row["payment"] = f"{float(row['payment']) * chance.uniform(0.93, 1.05):.2f}"
    if asked is not None:
        row[asked] = "?"
    return row


def some_row_that_grows(chance: random.Random) -> Row:
    """A row at a rate and over a term that make a cent at the start thousands at the end."""
    lent = round(chance.uniform(1_000, 1_000_000), 2)
    percent, count = round(chance.uniform(15, 60), 2), chance.randint(120, 480)
    left = 0 if chance.random() < 0.5 else round(lent * chance.uniform(0, 1.1), 2)
    document, _ = row_document(
        {
            "principal": str(lent),
            "percent": str(percent),
            "count": str(count),
            "balance": str(left),
        },
        Defaults(marks="plain"),
    )
    payment = float(loans.solve(loans.check(document)).value or "100")
    row: Row = {
        "principal": f"{lent:.2f}",
        "percent": f"{percent}",
        "count": str(count),
        "payment": f"{payment * chance.choice([1, 1, chance.uniform(1, 1.01)]):.2f}",
        "balance": f"{left:.2f}",
        "timing": "in-arrears",
    }
    row[chance.choice(ASKABLE)] = "?"
    return row


class TheArraysAreTheExactWay(TestCase):
    """What arrays tell is what a case tells, figure by figure."""

    def of_a_case(self, row: Row) -> dict[str, str]:
        document, after = row_document(row, Defaults(marks="plain"))
        answer = loans.solve(loans.check(document))
        self.assertIsNone(answer.reason, row)
        assert answer.totals and answer.rates and answer.yearly_cost
        told = {
            "unknown": {"rate": "percent"}.get(answer.unknown or "", answer.unknown or ""),
            "found": answer.value or "",
            "periodic": answer.rates["periodic"],
            "nominal": answer.rates["nominal"],
            "effective": answer.rates["effective"],
            "total_paid": answer.totals["paid"],
            "total_interest": answer.totals["interest"],
            "final_payment": answer.totals["final_payment"],
        }
        if 0 < after <= len(answer.schedule) and row["timing"] == "in-arrears":
            told["owed"] = answer.schedule[after - 1]["closing"]
        for name in ("us_apr", "eu_aprc"):
            cost = answer.yearly_cost[name]
            told[name] = f"{float(cost or 'nan') + 0.0:.6f}".replace("-0.000000", "0.000000")
        if answer.unknown is None:
            told["fits"] = "yes" if answer.fits else "no"
        return told

    def held(self, rows: list[Row], least: float) -> None:
        """At least so many of the rows are told by arrays, each as a case tells it."""
        tape = Tape(table(*rows), Defaults(marks="plain"), len(rows))
        done = tape.side_by_side()
        self.assertGreater(done.mean(), least)
        for place in np.flatnonzero(done).tolist():
            told = {name: tape.told[name][place] for name in RESULTS}
            for name, expected in self.of_a_case(rows[place]).items():
                self.assertEqual(told[name], expected, (name, rows[place]))

    @given(st.integers(0, 10**9))
    @settings(deadline=None, max_examples=12)
    def test_on_random_rows_of_every_shape(self, seed: int) -> None:
        chance = random.Random(seed)
        self.held([some_row(chance) for _ in range(40)], 0.4)

    @given(st.integers(0, 10**9))
    @settings(deadline=None, max_examples=6)
    def test_on_rows_that_grow_beyond_measure(self, seed: int) -> None:
        """Floats tell nothing of what is left at the end of such a loan; arrays tell the others."""
        chance = random.Random(seed)
        self.held([some_row_that_grows(chance) for _ in range(40)], 0.3)

    def test_what_arrays_cannot_promise_goes_the_exact_way(self) -> None:
        rows: list[Row] = [
            {**PRESS, "payment": "5", "count": "?"},
            {**PRESS, "start": "1 Mar 2027", "first_payment": "20 Apr 2027"},
            {**PRESS, "quoted": "flat", "compounding": ""},
            {**PRESS, "principal": "48,250.005"},
            {**PRESS, "percent": "-1"},
            {**PRESS, "principal": "0"},
        ]
        tape = Tape(table(*rows), Defaults(), len(rows))
        self.assertFalse(tape.side_by_side().any())
        told = solve_tape(table(*rows), Defaults())
        self.assertIn("never repays", told["problem"][0])
        for place in (1, 2, 3, 4):
            document, _ = row_document(rows[place], Defaults())
            self.assertEqual(told["found"][place], loans.solve(loans.check(document)).value)


class Kernels(TestCase):
    """The five figures unrounded, against roots found otherwise."""

    def level(self, **figures: Any) -> Level:
        size = len(figures["count"])
        figures = {"rate": np.zeros(size), "balance": np.zeros(size), **figures}
        return Level(
            numerator=np.zeros(size, dtype=np.int64),
            denominator=np.ones(size, dtype=np.int64),
            **figures,
        )

    @given(
        st.floats(-0.02, 0.2),
        st.integers(2, 600),
        st.floats(0, 0.95),
        st.booleans(),
    )
    @settings(max_examples=300, deadline=None)
    def test_the_rate_by_bisection(self, rate: float, n: int, left: float, advance: bool) -> None:
        def payment_at(r: float) -> float:
            if r == 0:
                return (1 - left) / n
            grown = expm1(n * log1p(r))
            return (1 + grown - left) * r / grown / (1 + r if advance else 1)

        payment = payment_at(rate)
        if payment <= 0:
            return
        level = self.level(
            principal=np.array([1.0]),
            payment=np.array([payment]),
            balance=np.array([left]),
            count=np.array([n]),
            in_advance=np.array([advance]),
        )
        (found,) = many_rates.rates(level).tolist()
        if isnan(found):
            # Given up, never wrong; and only where the rate is far below zero.
            self.assertLess(rate * n, -0.3)
            return
        root = float(brentq(lambda r: payment_at(r) - payment, -0.3, 1.0, xtol=1e-15, rtol=1e-14))
        self.assertAlmostEqual(found, root, delta=1e-9 * abs(root) + 1e-12)

    def test_a_rate_of_nothing_and_next_to_it(self) -> None:
        rates = np.array([0.0, 1e-12, 1e-9, 1e-6])
        count = np.array([120, 7, 360, 480])
        with np.errstate(all="ignore"):
            fall = -np.expm1(-count * np.log1p(rates))
            payment = np.where(rates == 0, 1 / count, rates / fall)
        level = self.level(
            principal=np.ones(4), payment=payment, count=count, in_advance=np.zeros(4, dtype=bool)
        )
        self.assertLess(np.abs(many_rates.rates(level) - rates).max(), 1e-13)

    def test_none_where_there_may_be_none_or_several(self) -> None:
        level = self.level(
            principal=np.array([100.0, 100.0, 100.0]),
            payment=np.array([0.0, 10.0, 100.0]),
            balance=np.array([0.0, 200.0, 0.0]),
            count=np.array([12, 12, 1]),
            in_advance=np.array([False, False, True]),
        )
        self.assertTrue(np.isnan(many_rates.rates(level)).all())


class Published(TestCase):
    def test_a_table_of_them(self) -> None:
        # 12 CFR 1026, Appendix J: 5,000 in 36 monthly payments of 166.07, 12.00 % nominal (printed
        # to two decimals); 6,000 in 48 of 160.45: 12.75 % with payments of 1.0 odd period.
        # Society of Actuaries, Exam FM sample questions (from memory): four yearly payments of a
        # loan at 8 % effective with 559.12 owed after the third.
        rows = solved(
            {"principal": "5000", "count": "36", "payment": "166.07", "percent": "?"},
            {
                "principal": "2000",
                "percent": "8",
                "quoted": "effective",
                "count": "4",
                "every": "year",
                "payment": "?",
                "after": "3",
            },
        )
        self.assertEqual(round(float(rows[0]["us_apr"]), 2), 12.0)
        # By the formula of the annuity.
        payment = 2000 * 0.08 / (1 - 1.08**-4)
        self.assertEqual(rows[1]["found"], f"{payment:.2f}")
        self.assertAlmostEqual(float(rows[1]["owed"]), payment / 1.08, delta=0.03)


class AHundredThousand(TestCase):
    def test_every_row_put_back(self) -> None:
        size, chance = 100_000, np.random.default_rng(2027)
        lent = np.round(chance.uniform(1_000, 400_000, size), 2)
        count = chance.choice([12, 24, 36, 48, 60, 84, 120, 180, 240], size)
        percent = np.round(chance.uniform(0.5, 14, size), 2)
        advance = chance.random(size) < 0.3
        left = np.where(chance.random(size) < 0.3, np.round(lent * 0.3, 2), 0.0)
        asked = chance.integers(0, 3, size)
        rate = percent / 1200
        grown = (1 + rate) ** count
        shift = np.where(advance, 1 + rate, 1.0)
        payment = np.round((lent * grown - left) * rate / (grown - 1) / shift, 2)
        columns: dict[FieldName, list[str]] = {
            "principal": [f"{each:.2f}" for each in lent],
            "percent": [f"{each:.2f}" for each in percent],
            "payment": [f"{each:.2f}" for each in payment],
            "count": [str(each) for each in count],
            "balance": [f"{each:.2f}" for each in left],
            "timing": ["in-advance" if each else "in-arrears" for each in advance],
        }
        names: tuple[FieldName, ...] = ("principal", "percent", "payment")
        for row, which in enumerate(asked.tolist()):
            columns[names[which]][row] = "?"
        told = solve_tape(columns, Defaults(marks="plain"))
        self.assertEqual(set(told["problem"]), {""})
        found = {name: np.array(told[name], dtype=float) for name in names}
        rate = found["percent"] / 1200
        grown, shift = (1 + rate) ** count, np.where(advance, 1 + rate, 1.0)
        added = (grown - 1) / rate * shift
        over = found["principal"] * grown - found["payment"] * added - left
        # Half a cent of what was found, or half a unit of the percent's tenth decimal.
        steep = found["principal"] * count * grown / 1200 * 1e-10
        bound = np.choose(asked, [0.005 * grown, steep, 0.005 * added]) * 1.001 + 1e-6
        self.assertTrue((np.abs(over) <= bound).all())
        paid = np.array(told["total_paid"], dtype=float)
        interest = np.array(told["total_interest"], dtype=float)
        self.assertLess(np.abs(paid + left - found["principal"] - interest).max(), 1e-6)


class AsFilesHoldThem(TestCase):
    def test_an_empty_cell_is_the_unknown_of_its_row(self) -> None:
        rows = solved(
            {**PRESS, "payment": ""},
            {**PRESS, "payment": "938.82", "percent": ""},
            {**PRESS, "payment": "938.82", "count": " "},
            {**PRESS, "payment": "1000", "balance": ""},
        )
        self.assertEqual([row["unknown"] for row in rows[:3]], ["payment", "percent", "count"])
        self.assertEqual((rows[0]["found"], rows[2]["found"]), ("938.82", "61"))
        # An empty balance is nothing: all figures are stated, and held against each other.
        self.assertNotIn("unknown", rows[3])
        self.assertEqual((rows[3]["balance"], rows[3]["fits"]), ("0.00", "no"))

    def test_cells_as_people_write_them(self) -> None:
        for cells, defaults in (
            ({"principal": "48.250,00", "percent": "6,35"}, {"marks": "point-comma"}),
            ({"principal": "48.25k", "percent": "6.35 %"}, {}),
            ({"percent": "0.0635"}, {"percent_as": "part"}),
            ({"percent": "0.0635"}, {"percent_as": "part-below-one"}),
            ({"percent": "6.35"}, {"percent_as": "part-below-one"}),
            ({"percent": "6.35 %"}, {"percent_as": "part"}),
            ({"count": "5"}, {"count_in": "years"}),
            ({"count": "60"}, {"count_in": "months"}),
            ({"count": "5y"}, {}),
            ({"compounding": ""}, {"compounding": "half-year"}),
        ):
            with self.subTest(cells):
                changed: Row = {**PRESS, **cast("Row", cells)}
                (row,) = solved(changed, **defaults)
                self.assertEqual(row.get("found"), "938.82", row)

    def test_a_row_that_cannot_be_solved_says_why_and_stops_nobody(self) -> None:
        bad: list[tuple[Row, str]] = [
            ({"principal": "?"}, "Only one figure"),
            ({"principal": "some"}, "Amount: “some” is not an amount"),
            ({"percent": "six"}, "Rate: "),
            ({"count": "2.5"}, "whole number"),
            ({"currency": "GOLD"}, "no currency"),
            ({"every": "now and then"}, "how many payments a year"),
            ({"timing": "whenever"}, "arrears"),
            ({"start": "31 Feb 2027"}, "no day"),
            ({"after": "soon"}, "no number of a payment"),
            ({"principal": "1e99"}, "Amount"),
        ]
        rows = solved(PRESS, *({**PRESS, **cells} for cells, _ in bad), PRESS)
        self.assertEqual((rows[0]["found"], rows[-1]["found"]), ("938.82", "938.82"))
        for row, (cells, says) in zip(rows[1:-1], bad, strict=True):
            with self.subTest(cells):
                self.assertIn(says, row.get("problem", ""))

    def test_a_payment_that_cents_keep_from_repaying(self) -> None:
        """A month's interest is 621.9189: unrounded 621.92 repays in the end, to the cent never."""
        told = solve_tape(
            {
                "principal": ["21796.23", "1000"],
                "percent": ["34.24", "5"],
                "count": ["?", "12"],
                "payment": ["621.92", "?"],
            },
            Defaults(marks="plain"),
        )
        self.assertIn("621.92 or less never repays", told["problem"][0])
        self.assertEqual((told["found"][0], told["problem"][1]), ("", ""))

    def test_an_accident_in_one_row_stops_nobody(self) -> None:
        columns: dict[FieldName, list[str]] = {
            "principal": ["1000", "1000"],
            "percent": ["5", "5"],
            "count": ["12", "12"],
            "payment": ["?", "?"],
            "start": ["1 Mar 2027", ""],
            "first_payment": ["15 Apr 2027", ""],
        }
        with (
            patch("zephyrant.loans.tape.solving.exact_row", side_effect=ZeroDivisionError),
            self.assertLogs("zephyrant.loans.tape.solving"),
        ):
            told = solve_tape(columns, Defaults(marks="plain"))
        self.assertIn("Something went wrong on our side", told["problem"][0])
        self.assertEqual((told["found"][1], told["problem"][1]), ("85.61", ""))

    def test_days_in_the_order_of_the_table(self) -> None:
        dated: Row = {**PRESS, "start": "3/4/2027", "first_payment": "20/5/2027"}
        first = solved(dated)[0]["found"]
        other = solved({**dated, "first_payment": "5/20/2027"}, dates="month-first")[0]["found"]
        # 47 days to the first payment; read the other way round 78.
        self.assertLess(Decimal(first), Decimal(other))

    def test_owed_on_a_day(self) -> None:
        dated: Row = {**PRESS, "start": "1 Mar 2027", "after": ""}
        rows = solved(dated, PRESS, {**dated, "after": "12"}, owed_on="2028-03-01")
        # On the day of the twelfth payment it is what that payment leaves.
        self.assertEqual(rows[0]["owed"], rows[2]["owed"])
        self.assertNotIn("owed", rows[1])
        document, _ = row_document(dated, Defaults())
        schedule = loans.solve(loans.check(document)).schedule
        self.assertEqual(rows[0]["owed"], schedule[11]["closing"])
        (late,) = solved(dated, owed_on="2040-01-01")
        self.assertEqual((late["found"], late.get("owed", "0.00")), ("938.82", "0.00"))

    def test_figures_that_are_all_stated_are_held_against_each_other(self) -> None:
        rows = solved(
            {**PRESS, "payment": "938.82"},
            {**PRESS, "payment": "930.00"},
        )
        self.assertEqual([row["fits"] for row in rows], ["yes", "no"])
        # What 8.8234 less each month grow to, by the formula.
        month = (1 + 0.0635 / 2) ** (1 / 6) - 1
        exact = 48250 * month / (1 - (1 + month) ** -60)
        over = (exact - 930) * ((1 + month) ** 60 - 1) / month
        self.assertAlmostEqual(float(rows[1]["gap"]), over, delta=0.01)

    def test_other_currencies_and_roundings(self) -> None:
        yen = {**PRESS, "currency": "JPY", "principal": "4,825,000"}
        (row,) = solved(yen)
        self.assertEqual(row["found"], "93882")
        (row,) = solved(PRESS, rounding={"payment": "up", "to": "0.05"})
        self.assertEqual(row["found"], "938.85")

    def test_columns_of_unequal_length(self) -> None:
        with self.assertRaises(ValueError):
            solve_tape({"principal": ["1"], "percent": []}, Defaults())
