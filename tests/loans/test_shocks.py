"""Shocks: how figures of a tape move, read as they are typed, in whatever way the tape is
written."""

from decimal import ROUND_HALF_UP, Decimal
from typing import Any
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from zephyrant.loans import NotALoan
from zephyrant.loans.tape import Defaults, Shock, moved, shocks_of, solve_tape, unmoved

ROW = {"principal": "1000", "percent": "6", "count": "24", "payment": "?", "balance": "100"}


def cells(shock: dict[str, str], row: dict[str, str] | None = None, **defaults: Any) -> Any:
    """A row under a shock: its cells that are others now."""
    before = row or ROW
    columns: Any = {name: [cell] for name, cell in before.items()}
    after = moved(columns, Defaults(**defaults), Shock(name="moved", **shock))
    return {name: column[0] for name, column in after.items() if column[0] != before.get(name)}


class HowFiguresMove(TestCase):
    def test_each_way_to_move(self) -> None:
        for name, typed, expected in (
            ("percent", "+1", "7"),
            ("percent", "-0.25", "5.75"),
            ("percent", "+50 bp", "6.5"),
            ("percent", "−50bp", "5.5"),
            ("percent", "* 1.1", "6.6"),
            ("percent", "+ 3/8", "6.375"),
            ("principal", "+500", "1500.00"),
            ("principal", "-10 %", "900.00"),
            ("principal", "x 0.3333", "333.30"),
            ("principal", "*1.00005", "1000.05"),
            ("balance", "-100", "0.00"),
            ("count", "+12", "36"),
            ("count", "-1 year", "12"),
            ("count", "+6 months", "30"),
            ("count", "* 1.1", "26"),
        ):
            self.assertEqual(cells({name: typed}), {name: expected}, typed)

    def test_money_is_rounded_to_the_minor_unit_ties_away_from_zero(self) -> None:
        self.assertEqual(cells({"principal": "* 1.0000050"}), {"principal": "1000.01"})
        yen = cells({"principal": "* 1.0005"}, {**ROW, "currency": "JPY"})
        self.assertEqual(yen, {"principal": "1001"})

    def test_what_is_not_stated_stays(self) -> None:
        nothing = {**ROW, "principal": "n/a", "percent": "?", "balance": ""}
        self.assertEqual(cells({"principal": "+1", "percent": "+1", "balance": "+1"}, nothing), {})
        self.assertEqual(cells({"principal": "+1"}, {**ROW, "principal": "nonsense"}), {})
        self.assertEqual(cells({"principal": "+1"}, {**ROW, "currency": "nowhere"}), {})
        self.assertEqual(cells({"count": "+1 year"}, {**ROW, "every": "now and then"}), {})

    def test_a_figure_is_asked_for_in_rows_that_state_all_of_them(self) -> None:
        whole = {**ROW, "payment": "45"}
        self.assertEqual(cells({"payment": "?"}, whole), {"payment": "?"})
        for own in ({"percent": "?"}, {"count": ""}, {"principal": "-"}, {"balance": "?"}):
            self.assertEqual(cells({"payment": "?"}, {**whole, **own}), {}, own)

    def test_cells_are_written_as_the_tape_writes(self) -> None:
        comma = {**ROW, "principal": "12.345,60", "percent": "6,5"}
        found = cells({"principal": "+0.40", "percent": "+1"}, comma, marks="point-comma")
        self.assertEqual(found, {"principal": "12346,00", "percent": "7,5"})
        part = cells({"percent": "+1"}, {**ROW, "percent": "0.06"}, percent_as="part")
        self.assertEqual(part, {"percent": "7 %"})
        for count_in, stated, expected in (
            ("months", "24", "27"),
            ("years", "2", "9 payments"),
            ("years", "3", "13 payments"),
        ):
            row = {**ROW, "count": stated, "every": "quarter"}
            found = cells({"count": "+1"}, row, count_in=count_in)
            self.assertEqual(found, {"count": expected}, count_in)

    def test_a_time_that_is_no_number_of_payments_makes_no_other_loan_of_the_row(self) -> None:
        columns: Any = {name: [cell] for name, cell in {**ROW, "every": "year"}.items()}
        found = moved(columns, Defaults(), Shock(name="moved", count="+1 month"))
        told = solve_tape(found, Defaults())
        self.assertIn("no whole number of payments", told["problem"][0])

    @given(
        st.integers(1, 10**12),
        st.integers(0, 10**8),
        st.sampled_from(["plain", "comma-point", "point-comma", "space-comma", "pairs-point"]),
    )
    def test_a_moved_amount_is_what_decimals_give_in_whatever_marks(
        self, cents: int, factor: int, marks: Any
    ) -> None:
        amount, by = Decimal(cents).scaleb(-2), Decimal(factor).scaleb(-6)
        (found,) = cells({"principal": f"* {by}"}, {**ROW, "principal": f"{amount}"}).values() or (
            f"{amount:.2f}",
        )
        self.assertEqual(Decimal(found), (amount * by).quantize(Decimal("0.01"), ROUND_HALF_UP))
        written = f"{amount:f}".replace(".", "," if marks.split("-")[-1] == "comma" else ".")
        here = cells({"principal": f"* {by}"}, {**ROW, "principal": written}, marks=marks)
        for cell in here.values():
            self.assertEqual(cell.replace(",", "."), found)


class Documents(TestCase):
    def refused(self, paths: Any, field: str, saying: str) -> None:
        with self.assertRaises(NotALoan) as caught:
            shocks_of({"zephyrant": "shocks/1", "paths": paths})
        (error,) = caught.exception.errors
        self.assertEqual(error.field, field)
        self.assertIn(saying, error.message)

    def test_what_is_wrong_is_told_at_its_place(self) -> None:
        self.refused([{"name": "a", "percent": "5"}], "paths.0.percent", "does not say how the")
        self.refused([{"name": "a", "percent": "+1 %"}], "paths.0.percent", "+0.5, +50 bp, * 1.1")
        self.refused([{"name": "a", "count": "+x"}], "paths.0.count", "+12, +1 year")
        self.refused([{"name": "a", "principal": "ten"}], "paths.0.principal", "-10 %")
        self.refused([{"name": "a", "percent": 1}], "paths.0.percent", "in quotes")
        self.refused([{"name": "../a"}], "paths.0.name", "A path is called by")
        self.refused([{"name": "a"}, {"name": "A"}], "paths", "Two paths are called “A”")
        self.refused([{"name": "a", "rate": "+1"}], "paths.0.rate", "")
        self.refused([], "paths", "That is 0 paths: a run has 1 to 10,000")
        with self.assertRaisesRegex(NotALoan, "no list of shocks"):
            shocks_of([{"name": "a"}])

    def test_a_figure_without_a_column_cannot_move(self) -> None:
        shocks = [Shock(name="a", balance="+1"), Shock(name="b", payment="?")]
        with self.assertRaises(NotALoan) as caught:
            unmoved(shocks, ("principal", "percent", "count"))
        (error,) = caught.exception.errors
        self.assertEqual(error.field, "paths.0.balance")
        self.assertIn("which no column holds", error.message)
