"""Money, rounding and numbers in sentences: tables."""

from decimal import Decimal
from fractions import Fraction
from typing import Any
from unittest import TestCase

from babel.numbers import format_decimal
from hypothesis import given
from hypothesis import strategies as st

from zephyrant.loans.numbers.decimals import Unit, decimal_places, divide_nearest, plain, to_step
from zephyrant.loans.wording.marks import MARKS, Money, Number, Percent, Sentence


class Rounding(TestCase):
    def test_to_a_step_as_cash_is_paid(self) -> None:
        cases: list[tuple[str, str, Any, str]] = [
            ("938.824", "0.01", "nearest", "938.82"),
            ("938.825", "0.01", "nearest", "938.83"),
            ("938.821", "0.01", "up", "938.83"),
            ("938.82", "0.01", "up", "938.82"),
            ("938.825", "0.05", "nearest", "938.85"),
            ("938.82", "0.05", "nearest", "938.80"),
            ("938.81", "0.05", "up", "938.85"),
            ("934.99", "10", "nearest", "930"),
            ("935", "10", "nearest", "940"),
            ("931", "10", "up", "940"),
            ("0.004", "0.01", "nearest", "0"),
            ("0.004", "0.01", "up", "0.01"),
            ("938.8249", "0.01", "none", "938.8249"),
        ]
        for value, step, cash, expected in cases:
            with self.subTest(value=value, step=step, cash=cash):
                self.assertEqual(to_step(Decimal(value), Decimal(step), cash), Decimal(expected))

    def test_noise_never_lifts_a_cent(self) -> None:
        noisy = Decimal("100") + Decimal("1e-40")
        self.assertEqual(to_step(noisy, Decimal("0.01"), "up"), Decimal(100))

    @given(st.integers(-(10**12), 10**12), st.integers(1, 10**6))
    def test_the_nearest_whole_number_ties_away_from_zero(self, top: int, bottom: int) -> None:
        found = divide_nearest(top, bottom)
        gap = abs(Fraction(top, bottom) - found)
        self.assertLessEqual(gap, Fraction(1, 2))
        if gap == Fraction(1, 2):
            self.assertGreater(abs(found), abs(Fraction(top, bottom)))


class Written(TestCase):
    def test_units(self) -> None:
        cases = [
            (Unit(2, 2), 0, "0.00"),
            (Unit(2, 2), 5, "0.05"),
            (Unit(2, 2), -5, "-0.05"),
            (Unit(2, 2), 4825000, "48250.00"),
            (Unit(2, 2), -100, "-1.00"),
            (Unit(0, 0), 4825, "4825"),
            (Unit(3, 3), 938823, "938.823"),
            (Unit(4, 2), 12340, "1.234"),
            (Unit(4, 2), 12300, "1.23"),
            (Unit(4, 2), -12000, "-1.20"),
            (Unit(4, 0), 120000, "12"),
        ]
        for unit, units, text in cases:
            with self.subTest(text):
                self.assertEqual(unit.write(units), text)
                self.assertEqual(unit.amount(units), Decimal(text))

    @given(st.integers(-(10**15), 10**15), st.integers(0, 6))
    def test_a_unit_written_and_counted_is_the_same(self, units: int, places: int) -> None:
        unit = Unit(places, min(places, 2))
        self.assertEqual(unit.count(Decimal(unit.write(units))), units)
        self.assertEqual(unit.write_all([units, 0, -units]), [*map(unit.write, (units, 0, -units))])
        self.assertEqual(unit.write_all([abs(units)]), [unit.write(abs(units))])

    def test_plain(self) -> None:
        cases = [
            ("1E+3", 0, "1000"),
            ("1.500", 0, "1.5"),
            ("1.500", 2, "1.50"),
            ("7", 2, "7.00"),
            ("-0.00", 0, "0"),
            ("-0.00", 2, "0.00"),
            ("-0.01", 2, "-0.01"),
        ]
        for value, places, text in cases:
            with self.subTest(value):
                self.assertEqual(plain(Decimal(value), places), text)

    def test_decimal_places(self) -> None:
        for value, places in (("1", 0), ("1.10", 1), ("1E+5", 0), ("0.005", 3)):
            self.assertEqual(decimal_places(Decimal(value)), places)

    def test_marks(self) -> None:
        shown = {
            "plain": "-1234567.50",
            "comma-point": "−1,234,567.50",
            "point-comma": "−1.234.567,50",
            "space-comma": "−1\xa0234\xa0567,50",
            "apostrophe-point": "−1’234’567.50",
            "pairs-point": "−12,34,567.50",
        }
        for name, text in shown.items():
            written = MARKS[name].amount(Decimal("-1234567.5"), 2)  # type: ignore[index]
            self.assertEqual(written.replace("−", "-"), text.replace("−", "-"))

    @given(st.decimals(-(10**15), 10**15, places=2))
    def test_groups_are_those_of_the_places_they_come_from(self, value: Decimal) -> None:
        """Against Babel, which has them from Unicode's CLDR."""
        for name, locale in (
            ("comma-point", "en_US"),
            ("point-comma", "de_DE"),
            ("pairs-point", "en_IN"),
            ("space-comma", "fr_FR"),
        ):
            theirs = format_decimal(value, "#,##0.00", locale)
            if locale == "en_IN":
                theirs = format_decimal(value, "#,##,##0.00", locale)
            ours = MARKS[name].amount(value, 2)  # type: ignore[index]
            # Narrow or not, no line breaks at the space; the minus is the printed one.
            theirs = theirs.replace("\u202f", "\u00a0").replace("-", "−")
            self.assertEqual(ours, theirs)

    def test_numbers_beyond_measure(self) -> None:
        self.assertEqual(
            MARKS["comma-point"].number(Decimal("1.23456789E+40"), 10), "1.234568 × 10^40"
        )

    def test_a_sentence_in_the_readers_marks(self) -> None:
        sentence = Sentence(
            "{count} payments of {amount} at {rate}",
            count=Number(1040),
            amount=Money(Decimal("465.5"), 2),
            rate=Percent(Decimal("4.85"), least_places=2),
        )
        self.assertEqual(sentence.say(), "1040 payments of 465.50 at 4.85 %")
        self.assertEqual(sentence.say(MARKS["point-comma"]), "1.040 payments of 465,50 at 4,85 %")
