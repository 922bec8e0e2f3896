"""The schedule to the cent: its laws, and a second ledger written for the tests."""

from decimal import ROUND_HALF_UP, Decimal
from fractions import Fraction
from typing import Any
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st

from zephyrant import loans
from zephyrant.loans.quotes.conversion import periodic_rate
from zephyrant.loans.quotes.styles import Style
from zephyrant.loans.statement import restate, work

from .documents import document, regular, solve

CENT = Decimal("0.01")


def money(row: Any, name: str) -> Decimal:
    return Decimal(row[name])


class Laws(TestCase):
    @given(
        regular(), st.sampled_from(["nearest", "up", "none"]), st.sampled_from(["nearest", "none"])
    )
    @settings(deadline=None, max_examples=150)
    def test_every_row_and_column_adds_up(
        self, content: dict[str, Any], payment: str, interest: str
    ) -> None:
        content = {**content, "rounding": {"payment": payment, "interest": interest}}
        answer = loans.solve(loans.check(content))
        if not answer.schedule:
            self.assertTrue(answer.reason or answer.notes)
            return
        rows = answer.schedule
        closing = Decimal(content["principal"])
        for number, row in enumerate(rows, 1):
            self.assertEqual(row["number"], number)
            self.assertEqual(money(row, "opening"), closing)
            self.assertEqual(
                money(row, "interest") + money(row, "principal"), money(row, "payment")
            )
            closing = money(row, "opening") - money(row, "principal")
            self.assertEqual(money(row, "closing"), closing)
            self.assertGreaterEqual(closing, 0)
        self.assertEqual(closing, Decimal(content["balance"]))
        totals = answer.totals
        assert totals is not None
        self.assertEqual(
            Decimal(totals["principal"]),
            Decimal(content["principal"]) - Decimal(content["balance"]),
        )
        self.assertEqual(
            Decimal(totals["paid"]), Decimal(totals["interest"]) + Decimal(totals["principal"])
        )
        assert answer.proof is not None
        self.assertTrue(answer.proof["holds"], answer.proof)

    @given(regular())
    @settings(deadline=None, max_examples=60)
    def test_years_add_up_to_the_whole(self, content: dict[str, Any]) -> None:
        answer = loans.solve(loans.check(content))
        if answer.totals is None:
            return
        for column, total in (("payment", "paid"), ("interest", "interest")):
            of_years = sum((Decimal(year[column]) for year in answer.by_year), Decimal(0))
            self.assertEqual(of_years, Decimal(answer.totals[total]))

    def test_years_and_the_whole_add_up_in_every_column(self) -> None:
        content = document(
            count=30,
            clauses=[
                {"at": 6, "advance": "5000"},
                {"from": 3, "to": 9, "repay": "150"},
                {"at": 12, "fee": "90", "taken": "added"},
            ],
        )
        loan = loans.check(content)
        told = work(restate(loan, "plain")).told
        answer = loans.solve(loan)
        assert told is not None and told.whole is not None
        years: list[Any] = [*answer.by_year, told.whole]
        rows: list[Any] = list(answer.schedule)
        self.assertEqual([(year["first"], year["last"]) for year in years][-1], (1, 30))
        for year in years:
            some = rows[year["first"] - 1 : year["last"]]
            for column in ("advance", "fee", "interest", "principal", "payment", "repay"):
                added = sum((Decimal(row[column]) for row in some), Decimal(0))
                self.assertEqual(Decimal(year[column]), added, column)

    @given(regular())
    @settings(deadline=None, max_examples=80)
    def test_what_was_found_put_back_is_found_again(self, content: dict[str, Any]) -> None:
        """A payment as it will be paid, given, asks for the same loan of any other figure."""
        answer = loans.solve(loans.check(content))
        if answer.value is None or Decimal(answer.value) == 0:
            return
        principal = loans.solve(loans.check({**content, "payment": answer.exact, "principal": "?"}))
        self.assertEqual(
            Decimal(principal.value or "0"), Decimal(content["principal"]).quantize(CENT)
        )


def by_hand(content: dict[str, Any], payment: Decimal, rate: Fraction) -> list[Decimal]:
    """Closing balances as one would write them down, in exact fractions, to the cent."""

    def cents(value: Fraction) -> Decimal:
        exact = Decimal(value.numerator * 10**12 // value.denominator).scaleb(-12)
        return exact.quantize(CENT, ROUND_HALF_UP)

    owed, closings = Decimal(content["principal"]), []
    for _ in range(content["count"] - 1):
        if content["timing"] == "in-advance":
            owed -= payment
            owed += cents(Fraction(owed) * rate)
        else:
            owed += cents(Fraction(owed) * rate) - payment
        closings.append(owed)
    return closings


class ASecondLedger(TestCase):
    @given(regular())
    @settings(deadline=None, max_examples=100)
    def test_every_closing_balance(self, content: dict[str, Any]) -> None:
        content["rate"] = {"percent": str(abs(Decimal(content["rate"]["percent"])))}
        answer = loans.solve(loans.check(content))
        if len(answer.schedule) != content["count"]:
            return
        loan = loans.check(content)
        rate = Fraction(Decimal(content["rate"]["percent"])) / 100 / loan.payments_a_year
        ours = [money(row, "closing") for row in answer.schedule[:-1]]
        self.assertEqual(ours, by_hand(content, Decimal(answer.value or "0"), rate))


class CashAsItIsPaid(TestCase):
    def test_the_first_row_by_hand(self) -> None:
        # 48,250 at 1.0635/2 half-yearly growth: 48,250 x 0.5222990783 % = 252.009..., paid 938.82.
        row = solve().schedule[0]
        self.assertEqual(
            [row[name] for name in ("opening", "interest", "principal", "payment", "closing")],
            ["48250.00", "252.01", "686.81", "938.82", "47563.19"],
        )

    def test_ties_go_away_from_zero(self) -> None:
        # 100.00 at 1.5 % a period is 1.50; 33.00 at 1.5 % is 0.495, a tie: 0.50.
        for percent, interest in (("1.5", "0.50"), ("-1.5", "-0.50")):
            found = solve(
                principal="33.00",
                count=2,
                payment="?",
                rate={"percent": percent, "quoted": "periodic"},
            )
            self.assertEqual(found.schedule[0]["interest"], interest)

    def test_a_seventh_of_a_year_is_divided_last(self) -> None:
        # 600.00 at 7 % / 12 is 3.50 exactly; a twelfth of 7 % written out first would fall short.
        found = solve(principal="600.00", rate={"percent": "7"}, count=3)
        self.assertEqual(found.schedule[0]["interest"], "3.50")

    def test_steps(self) -> None:
        cases = [
            ({"payment": "nearest", "to": "0.05"}, "938.80"),
            ({"payment": "up", "to": "0.05"}, "938.85"),
            ({"payment": "nearest", "to": "1"}, "939.00"),
            ({"payment": "up", "to": "10"}, "940.00"),
        ]
        for rounding, paid in cases:
            with self.subTest(rounding=rounding):
                found = solve(rounding=rounding)
                self.assertEqual(found.value, paid)
                self.assertEqual(found.schedule[-1]["closing"], "0.00")

    def test_up_leaves_a_whole_cent_alone(self) -> None:
        found = solve(principal="1200", rate={"percent": "0"}, count=12, rounding={"payment": "up"})
        self.assertEqual(found.value, "100.00")

    def test_currencies_without_and_with_three_decimals(self) -> None:
        # ISO 4217: JPY has no minor unit, KWD has thousandths.
        self.assertRegex(solve(currency="JPY").value or "", r"^\d+$")
        self.assertRegex(solve(currency="KWD").value or "", r"^\d+\.\d{3}$")

    def test_an_overpaying_payment_is_cut_and_says_so(self) -> None:
        found = solve(
            principal="100.00",
            rate={"percent": "0"},
            count=60,
            rounding={"payment": "up", "to": "1"},
        )
        self.assertEqual(found.value, "2.00")
        self.assertEqual(len(found.schedule), 50)
        self.assertIn("with payment 50, before the 60 stated", found.notes[0])

    def test_a_balance_absorbs_what_rounding_leaves(self) -> None:
        found = solve(payment="900", balance="?")
        self.assertEqual({row["payment"] for row in found.schedule}, {"900.00"})
        self.assertEqual(found.value, found.schedule[-1]["closing"])

    def test_in_advance_with_a_balance_the_last_interest_absorbs_the_cent(self) -> None:
        found = solve(timing="in-advance", balance="10000")
        last = found.schedule[-1]
        self.assertEqual(last["closing"], "10000.00")
        rest = money(last, "opening") - money(last, "payment")
        rate = periodic_rate(Decimal("6.35"), Style("nominal", "half-year", 12))
        whole = Decimal(rate.numerator) / Decimal(rate.denominator) * rest
        self.assertLessEqual(abs(money(last, "interest") - whole), CENT)

    def test_carried_unrounded_the_last_payment_is_still_cash(self) -> None:
        found = solve(rounding={"interest": "none"})
        last = found.schedule[-1]
        self.assertEqual(money(last, "payment"), money(last, "payment").quantize(CENT))
        self.assertEqual(last["closing"], "0.00")

    def test_rounding_that_cannot_end_well_is_told(self) -> None:
        found = solve(
            principal="10.00",
            balance="9.00",
            count=400,
            rate={"percent": "0"},
            rounding={"payment": "up", "to": "10"},
        )
        self.assertEqual(found.schedule, [])
        self.assertIn("no schedule to the cent", found.notes[0])

    def test_a_document_given_finer_than_the_currency_pays(self) -> None:
        found = solve(payment=solve().exact, rate={"percent": "?", "compounding": "half-year"})
        self.assertEqual(found.value, "6.3500000000")
        self.assertEqual(found.schedule[0]["payment"], "938.82")
