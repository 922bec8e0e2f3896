"""Loans ended early as contracts have it, and lent anew."""

from decimal import ROUND_HALF_UP, Decimal
from math import ceil
from typing import Any
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st
from mpmath import mp, mpf

from zephyrant import loans
from zephyrant.loans import PLAIN, NotALoan
from zephyrant.loans.questions.ending_charge import Charge
from zephyrant.loans.questions.payoff import payoff_at
from zephyrant.loans.questions.refinancing import Offer, Refinancing, refinanced
from zephyrant.loans.statement import Agreed, NewOffer, Statement, end_early, lent_anew

from .documents import document

CENT = Decimal("0.01")
#: 1,000 lent at 8 % a year, its interest paid each year for five years.
BOND: dict[str, Any] = {
    "principal": "1000",
    "rate": {"percent": "8"},
    "count": 5,
    "every": "year",
    "repayment": "interest-only",
}


def ended(at: str, charge: Charge, **changes: Any) -> Any:
    return payoff_at(loans.check(document(**changes)), at, charge, PLAIN)


def anew(at: str, charge: Charge, offer: Offer, **changes: Any) -> Refinancing:
    return refinanced(loans.check(document(**changes)), at, charge, offer, PLAIN)[0]


def make_whole(reference: str, spread: str = "0", **more: Any) -> Charge:
    return Charge(kind="make-whole", figure=Decimal(reference), spread=Decimal(spread), **more)


def cents(value: Any) -> Decimal:
    return Decimal(str(value)).quantize(CENT, ROUND_HALF_UP)


class Charges(TestCase):
    def test_make_whole_of_three_coupons(self) -> None:
        """80 / 1.05 + 80 / 1.1025 + 1,080 / 1.157625 = 1,081.697: 81.70 above what is owed. By
        hand; the clause is common practice."""
        told = ended("2", make_whole("4.5", "0.5"), **BOND)
        self.assertEqual((told["discounted"], told["charge"]), ("1081.70", "81.70"))
        self.assertEqual((told["percent"], told["payoff"]), ("5", "1081.70"))
        # At the rate of the loan, and above it, there is nothing to make whole.
        self.assertEqual(ended("2", make_whole("8"), **BOND)["charge"], "0.00")
        self.assertEqual(ended("2", make_whole("8", "1.25"), **BOND)["charge"], "0.00")

    def test_make_whole_of_level_payments(self) -> None:
        """The 48 payments left of 60, by the annuity's formula at 3 % / 12; the last is of its own
        amount."""
        loan = loans.check(document(rate={"percent": "6"}))
        rows = loans.solve(loan).schedule
        with mp.workdps(40):
            i = mpf("0.0025")
            level = mpf(rows[12]["payment"]) * (1 - (1 + i) ** -47) / i
            worth = level + mpf(rows[-1]["payment"]) * (1 + i) ** -48
        told = payoff_at(loan, "12", make_whole("2", "1"), PLAIN)
        self.assertEqual(Decimal(told["discounted"] or 0), cents(mp.nstr(worth, 20)))
        charge = cents(mp.nstr(worth, 20)) - Decimal(rows[11]["closing"])
        self.assertAlmostEqual(Decimal(told["charge"]), charge, delta=CENT)

    @given(
        st.sampled_from(
            [
                {},
                {"timing": "in-advance"},
                {"timing": "in-advance", "balance": "9000"},
                {"start": "2027-01-31", "day_count": "actual/360"},
                {"start": "2027-01-31", "first_payment": "2027-03-10"},
                {"start": "2027-01-31", "first_payment": "2027-03-10", "timing": "in-advance"},
                {"repayment": "equal-principal"},
                {"repayment": "interest-only"},
                {"amortized_over": 120},
                {"clauses": [{"at": 30, "repay": "3000"}, {"at": 40, "advance": "5000"}]},
                {
                    "start": "2027-01-31",
                    "day_count": "actual/365",
                    "clauses": [{"at": "2029-03-12", "repay": "3000"}],
                },
                {
                    "start": "2027-01-31",
                    "day_count": "30E/360",
                    "business_days": {"calendars": ["TARGET"], "adjusted": True},
                },
            ]
        ),
        st.integers(1, 58),
        st.sampled_from(["0", "3.1", "6.35", "14"]),
    )
    def test_at_its_own_rate_the_rest_is_worth_what_is_owed(
        self, changes: dict[str, Any], number: int, percent: str
    ) -> None:
        """Each row rounds by half a cent at the most, and a payment stated by its own step."""
        quote = {"percent": percent}
        told = ended(str(number), make_whole(percent), rate=quote, **changes)
        most = CENT * (61 - number) / 2 + CENT
        self.assertAlmostEqual(Decimal(told["discounted"] or 0), Decimal(told["owed"]), delta=most)

    def test_on_a_day_it_grows_from_the_payment_with_simple_interest(self) -> None:
        """10 of 365 days after payment 2 at 5 %: 1,081.697 x (1 + 0.05 x 10 / 365)."""
        dated = {**BOND, "start": "2026-03-01", "day_count": "actual/365"}
        told = ended("2028-03-11", make_whole("5"), **dated)
        # The year from 1 March 2028 has 365 days, and so have the two after it.
        self.assertEqual(told["discounted"], "1083.18")
        # What is owed has grown by 8 %: 1,000 x 0.08 x 10 / 365 = 2.1918, up to the cent.
        self.assertEqual(told["owed"], "1002.20")
        self.assertEqual(told["charge"], "80.98")

    def test_a_percent_that_falls(self) -> None:
        """5, 4, 3 % in the years one to three, none after them."""
        falls = Charge(kind="declining", percents=(Decimal(5), Decimal(4), Decimal(3)))
        for at, percent in (("1", 5), ("12", 5), ("13", 4), ("24", 4), ("36", 3), ("37", 0)):
            told = ended(at, falls)
            charge = cents(Decimal(told["owed"]) * percent / 100)
            self.assertEqual(Decimal(told["charge"]), charge, at)
            self.assertEqual(told["percent"], str(percent))
        # In advance payment 13 begins the second year.
        self.assertEqual(ended("12", falls, timing="in-advance")["year"], 1)
        self.assertEqual(ended("13", falls, timing="in-advance")["year"], 2)
        dated = {"start": "2027-03-01"}
        self.assertEqual(ended("2028-03-01", falls, **dated)["year"], 1)
        self.assertEqual(ended("2028-03-02", falls, **dated)["year"], 2)

    def test_what_is_free_in_a_year(self) -> None:
        """A charge of 2 % on what is owed less 4,825.00, a tenth of what was lent; in a year in
        which 3,000 have been repaid on top, less the 1,825.00 that are left of it."""
        charge = Charge(kind="percent", figure=Decimal(2), free_percent=Decimal(10))
        told = ended("12", charge)
        self.assertEqual(told["free"], "4825.00")
        self.assertEqual(Decimal(told["charge"]), cents((Decimal(told["owed"]) - 4825) * 2 / 100))
        repaid = {"clauses": [{"at": 15, "repay": "3000"}]}
        told = ended("18", charge, **repaid)
        self.assertEqual(told["free"], "1825.00")
        self.assertEqual(ended("25", charge, **repaid)["free"], "4825.00")
        self.assertEqual(ended("12", Charge(), **repaid)["free"], None)
        more = Charge(kind="percent", figure=Decimal(2), free=Decimal(90_000))
        told = ended("12", more)
        self.assertEqual((told["free"], told["charge"]), (told["owed"], "0.00"))

    def test_a_make_whole_of_what_is_not_free(self) -> None:
        """A tenth of the 1,000 is free: of 81.697 nine tenths."""
        told = ended("2", make_whole("5", free=Decimal(100)), **BOND)
        self.assertEqual(told["charge"], "73.53")

    def test_months_of_interest_on_what_is_not_free(self) -> None:
        """Three months at 6 % a year on (owed - 1,000): 1.5 %."""
        charge = Charge(kind="months", figure=Decimal(3), free=Decimal(1000))
        told = ended("12", charge, rate={"percent": "6"})
        self.assertEqual(Decimal(told["charge"]), cents((Decimal(told["owed"]) - 1000) * 15 / 1000))

    def test_what_cannot_be(self) -> None:
        alone = {"count": 0, "payment": None, "balance": "?", "clauses": [{"at": 3, "repay": "9"}]}
        for changes, reference, field, says in (
            (alone, "3", "charge.kind", "clauses alone"),
            ({"rate": {"percent": "3", "quoted": "flat"}}, "3", "charge.kind", "flat quote"),
            ({}, "-1000", "charge.figure", "nothing is left"),
        ):
            with self.subTest(says), self.assertRaises(NotALoan) as refused:
                ended("2", make_whole(reference), **changes)
            (error,) = refused.exception.errors
            self.assertEqual(error.field, field)
            self.assertIn(says, error.message.lower() if says == "flat quote" else error.message)


class Typed(TestCase):
    statement = Statement(principal="1,000", percent="8", count="5", every="year", payment="?")

    def told(self, **agreed: str) -> dict[str, str]:
        asked = Agreed.model_validate(agreed)
        return {row.title: row.cells[0] for row in end_early(self.statement, "2", asked).told}

    def test_as_people_type_it(self) -> None:
        told = self.told(kind="declining", figure="5 %; 4; 3", free="10 %")
        self.assertEqual(told["Charged in year 2"], "4.00 %")
        self.assertEqual(told["Free of charge in year 2"], "100.00")
        told = self.told(kind="make-whole", figure="2 1/2", spread="0.50")
        self.assertIn("The rest, discounted at 3.00 %", told)
        self.assertIn("The rest, discounted at 2.50 %", self.told(kind="make-whole", figure="2.5"))

    def test_what_cannot_be_read(self) -> None:
        for agreed, field in (
            ({"kind": "declining", "figure": ""}, "charge.figure"),
            ({"kind": "declining", "figure": "5; x"}, "charge.figure"),
            ({"kind": "make-whole", "figure": "?"}, "charge.figure"),
            ({"kind": "make-whole", "figure": "2", "spread": "x"}, "charge.spread"),
            ({"kind": "make-whole", "figure": "20000"}, "charge.figure"),
            ({"kind": "percent", "figure": "1", "free": "x"}, "charge.free"),
            ({"kind": "percent", "figure": "1", "free": "101 %"}, "charge.free"),
            ({"kind": "percent", "figure": "1", "free": "-5"}, "charge.free"),
        ):
            with self.subTest(agreed), self.assertRaises(NotALoan) as refused:
                self.told(**agreed)
            self.assertEqual(refused.exception.errors[0].field, field)


class LentAnew(TestCase):
    def test_payments_and_when_it_pays(self) -> None:
        """48,250 at 6 % over 60, ended after 12 with 1 % charged, lent anew at 4 % over the 48 that
        are left: the annuity's formula tells the new payment."""
        loan = {"rate": {"percent": "6"}}
        charge, offer = Charge(kind="percent", figure=Decimal(1)), Offer(percent=Decimal(4))
        found = anew("12", charge, offer, **loan)
        rows = loans.solve(loans.check(document(**loan))).schedule
        owed = Decimal(rows[11]["closing"])
        lent = owed + cents(owed / 100)
        self.assertEqual(Decimal(found.lent), lent)
        with mp.workdps(40):
            i = mpf(4) / 1200
            payment = mpf(str(lent)) * i / (1 - (1 + i) ** -48)
        self.assertEqual(Decimal(found.payment_after), cents(mp.nstr(payment, 20)))
        self.assertEqual(found.payments_after, 48)
        # After k payments: what they saved, and what is less owed, each by its formula.
        j, old = mpf(6) / 1200, mpf(found.payment_before)
        new = mpf(found.payment_after)
        ahead = []
        for k in range(48):
            one = mpf(str(owed)) * (1 + j) ** k - old * ((1 + j) ** k - 1) / j
            other = mpf(str(lent)) * (1 + i) ** k - new * ((1 + i) ** k - 1) / i
            ahead.append(k * (old - new) + one - other)
        wanted = next(k for k in range(48) if all(each >= 0 for each in ahead[k:]))
        self.assertEqual(found.pays_from, wanted)
        for k, each in enumerate(ahead):
            self.assertAlmostEqual(float(found.ahead[k]), float(each), delta=0.3)
        self.assertEqual(found.pays_from_by_payments, 0)
        self.assertIn(f"from payment {12 + wanted} of the loan on", found.says)

    @given(
        st.sampled_from([{}, {"timing": "in-advance"}, {"repayment": "equal-principal"}]),
        st.integers(1, 55),
        st.sampled_from(["1.5", "4", "6.35", "9"]),
        st.sampled_from(["0", "250", "1900"]),
        st.booleans(),
    )
    def test_at_the_new_rate_it_is_worth_the_rest_less_what_is_owed(
        self, changes: dict[str, Any], number: int, percent: str, fee: str, is_lent: bool
    ) -> None:
        """A law: discounted at the new loan's rate the new loan is worth what it lends. So the
        saving is worth the rest less what is owed, charge and fee."""
        loan = {"rate": {"percent": "6"}, **changes}
        charge = Charge(kind="amount", figure=Decimal(100))
        offer = Offer(percent=Decimal(percent), fee=Decimal(fee), is_lent=is_lent)
        found = anew(str(number), charge, offer, **loan)
        rest = ended(str(number), make_whole(percent), **loan)
        worth = Decimal(rest["discounted"]) - Decimal(rest["owed"]) - 100 - Decimal(fee)
        self.assertAlmostEqual(Decimal(found.present_value), worth, delta=CENT * 30)

    def test_a_make_whole_at_the_new_rate_leaves_nothing_to_save(self) -> None:
        """What a lower rate would save is what the charge makes whole."""
        found = anew("12", make_whole("3"), Offer(percent=Decimal(3)), rate={"percent": "6"})
        self.assertAlmostEqual(Decimal(found.present_value), Decimal(0), delta=CENT * 30)

    def test_the_same_rate_without_a_charge_changes_nothing(self) -> None:
        found = anew("12", Charge(), Offer(percent=Decimal(6)), rate={"percent": "6"})
        self.assertEqual(found.payment_after, found.payment_before)
        self.assertLess(abs(Decimal(found.saving)), Decimal("0.5"))

    def test_what_is_paid_at_once(self) -> None:
        charge = Charge(kind="amount", figure=Decimal(300))
        offer = Offer(percent=Decimal(5), fee_percent=Decimal(1), is_lent=False)
        found = anew("12", charge, offer, rate={"percent": "6"})
        fee = cents(Decimal(found.payoff["owed"]) / 100)
        self.assertEqual(Decimal(found.fee), fee)
        self.assertEqual(Decimal(found.at_once), fee + 300)
        self.assertEqual(found.lent, found.payoff["owed"])
        self.assertEqual(Decimal(found.ahead[0]), -(fee + 300))
        assert found.pays_from_by_payments
        saved = Decimal(found.payment_before) - Decimal(found.payment_after)
        self.assertEqual(found.pays_from_by_payments, ceil((fee + 300) / saved))

    def test_never(self) -> None:
        found = anew("48", Charge(), Offer(percent=Decimal(9)), rate={"percent": "6"})
        self.assertIsNone(found.pays_from)
        self.assertIn("never pays", found.says)
        self.assertLess(Decimal(found.present_value), 0)

    def test_on_the_dates_of_the_loan(self) -> None:
        loan = loans.check(document(rate={"percent": "6"}, start="2027-01-31"))
        found, new = refinanced(loan, "12", Charge(), Offer(percent=Decimal(5)), PLAIN)
        days = [row["date"] for row in loans.solve(new).schedule]
        self.assertEqual(days, [row["date"] for row in loans.solve(loan).schedule[12:]])
        self.assertEqual(new.start and new.start.isoformat(), "2028-01-31")
        self.assertEqual(found.payoff["date"], "2028-01-31")

    def test_a_longer_one_with_a_balloon(self) -> None:
        offer = Offer(percent=Decimal(5), count=60, balance=Decimal(10_000))
        found = anew("12", Charge(), offer, rate={"percent": "6"})
        self.assertEqual((found.payments_before, found.payments_after), (48, 60))
        self.assertEqual(len(found.ahead), 61)
        with mp.workdps(40):
            i = mpf(5) / 1200
            lent = mpf(found.lent) - 10_000 * (1 + i) ** -60
            payment = lent * i / (1 - (1 + i) ** -60)
        self.assertEqual(Decimal(found.payment_after), cents(mp.nstr(payment, 20)))

    def test_what_cannot_be(self) -> None:
        usual: dict[str, Any] = {"rate": {"percent": "6"}}
        four = Offer(percent=Decimal(4))
        for at, offer, changes, field in (
            ("60", four, usual, "at"),
            ("0", four, usual, "at"),
            ("12", Offer(percent=Decimal(-2000)), usual, "percent"),
            ("12", Offer(percent=Decimal(4), discount=Decimal(-2000)), usual, "discount"),
            ("12", four, {"rate": {"percent": "3", "quoted": "flat"}}, "percent"),
        ):
            with self.subTest(field, at=at), self.assertRaises(NotALoan) as refused:
                anew(at, Charge(), offer, **changes)
            self.assertEqual(refused.exception.errors[0].field, field)

    def test_as_people_type_it(self) -> None:
        statement = Statement(principal="48,250", percent="6", count="60", payment="?")
        agreed = Agreed(kind="percent", figure="1")
        offer = NewOffer(percent="4", count="5 years", fee="1 %", discount="3 1/2")
        found = lent_anew(statement, "12", agreed, offer)
        self.assertEqual((found.payments_after, found.discount), (60, "3.5"))
        self.assertEqual(found.statement.percent, "4.00")
        self.assertEqual(found.told.heads[0], "After payment")
        saving = Decimal(found.told.rows[-1].cells[-1].replace(",", "").replace("−", "-"))
        self.assertEqual(saving, Decimal(found.saving))
        for typed, field in (
            ({"percent": ""}, "percent"),
            ({"percent": "?"}, "percent"),
            ({"percent": "4", "count": "x"}, "count"),
            ({"percent": "4", "fee": "-5"}, "fee"),
            ({"percent": "4", "fee": "101 %"}, "fee"),
            ({"percent": "4", "balance": "x"}, "balance"),
            ({"percent": "4", "discount": "x"}, "discount"),
        ):
            with self.subTest(typed), self.assertRaises(NotALoan) as refused:
                lent_anew(statement, "12", Agreed(), NewOffer.model_validate(typed))
            self.assertEqual(refused.exception.errors[0].field, field)
