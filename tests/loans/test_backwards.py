"""Asking backwards: what is bought, and aims; against mpmath, published questions and inversion."""

from decimal import Decimal
from typing import Any
from unittest import TestCase

from hypothesis import assume, given, settings
from hypothesis import strategies as st
from mpmath import findroot, mp, mpf

from zephyrant import loans
from zephyrant.loans.answer.results import result
from zephyrant.loans.document.figure_path import figure_path
from zephyrant.loans.document.paths import with_figure
from zephyrant.loans.document.sentence import terms_in_words
from zephyrant.loans.statement.restating import restate
from zephyrant.loans.statement.statement import Statement
from zephyrant.loans.statement.working import loan_of, work
from zephyrant.loans.wording.marks import MARKS

from .documents import document, errors_of, irregular, loan, regular

mp.dps = 40
HALF_YEARLY = (1 + mpf("0.0635") / 2) ** (mpf(1) / 6) - 1
UNROUNDED = {"payment": "none", "interest": "none"}


def annuity(rate: mpf, count: int) -> mpf:
    """What `count` payments of 1 in arrears are worth at the start."""
    return (1 - (1 + rate) ** -count) / rate


def bought(down: dict[str, str], price: str = "60312.50", **changes: Any) -> loans.Answer:
    return loans.solve(loan(principal=None, purchase={"price": price, "down": down}, **changes))


class AimsWithPaymentsSetAnew(TestCase):
    def test_the_interest_of_a_loan_whose_payment_is_set_anew(self) -> None:
        """20,000 over 48 months, 4,000 repaid after the twelfth and the payment set anew then: the
        rate at which 2,000 of interest is paid, by mpmath from the two annuities."""

        def over(rate: mpf) -> mpf:
            first = 20_000 / annuity(rate, 48)
            owed = first * annuity(rate, 36) - 4_000
            return 12 * first + 4_000 + 36 * owed / annuity(rate, 36) - 22_000

        expected = 1200 * findroot(over, mpf("0.0046"))
        found = loans.solve(
            loan(
                principal="20000",
                rate={"percent": "6"},
                count=48,
                clauses=[{"at": 12, "repay": "4000", "then": "re-level"}],
                aim={"figure": "total_interest", "is": "2000", "by": "rate.percent"},
            )
        )
        assert found.aim and found.totals
        self.assertLess(abs(mpf(found.aim["exact"]) / expected - 1), mpf("1e-15"))
        self.assertLess(abs(Decimal(found.totals["interest"]) - 2000), Decimal("0.30"))


class Purchases(TestCase):
    def near(self, found: str | None, expected: mpf, digits: int = 18) -> None:
        self.assertIsNotNone(found)
        self.assertLess(abs(mpf(found) / expected - 1), mpf(10) ** -digits)

    def test_the_price_that_a_payment_carries(self) -> None:
        lent = 750 * annuity(HALF_YEARLY, 60)
        for down, expected in (
            ({"percent": "20"}, lent / mpf("0.8")),
            ({"amount": "9000"}, lent + 9000),
        ):
            found = bought(down, price="?", payment="750")
            self.near(found.exact, expected)
            self.assertEqual(found.unknown, "purchase.price")
            assert found.proof
            self.assertTrue(found.proof["holds"])

    def test_the_down_payment_that_a_payment_needs(self) -> None:
        lent = 750 * annuity(HALF_YEARLY, 60)
        price = mpf("60312.5")
        self.near(bought({"percent": "?"}, payment="750").exact, 100 * (price - lent) / price)
        self.near(bought({"amount": "?"}, payment="750").exact, price - lent)

    def test_the_rest_is_lent_to_the_cent(self) -> None:
        # By hand: 12.5 % of 1,234.57 is 154.32125, paid as 154.32; 1,080.25 is lent.
        found = bought({"percent": "12.5"}, price="1234.57", payment="?")
        self.assertEqual(found.schedule[0]["opening"], "1080.25")

    @given(st.decimals(1000, 900_000, places=2), st.decimals(0, 95, places=2), st.integers(6, 90))
    @settings(deadline=None, max_examples=60)
    def test_each_figure_leads_back(self, price: Decimal, percent: Decimal, count: int) -> None:
        payment = bought(
            {"percent": f"{percent}"},
            price=f"{price}",
            payment="?",
            count=count,
            rounding=UNROUNDED,
        ).exact
        assert payment
        again = {"count": count, "rounding": UNROUNDED, "payment": payment[:28]}
        found = bought({"percent": f"{percent}"}, price="?", **again).exact
        self.near(found, mpf(str(price)), 15)
        found = bought({"percent": "?"}, price=f"{price}", **again).exact
        assert found
        self.assertLess(abs(Decimal(found) - percent), Decimal("1e-15"))

    def test_figures_that_cannot_be(self) -> None:
        price = {"price": "60000", "down": {"percent": "20"}}
        for changes, field in (
            ({"principal": "48000", "purchase": price}, "principal"),
            ({"purchase": {"price": "60000", "down": {}}}, "purchase.down"),
            ({"purchase": {"price": "60000", "down": {"percent": "100"}}}, "purchase.down.percent"),
            (
                {"purchase": {"price": "60000", "down": {"amount": "60001"}}},
                "purchase.down.amount",
            ),
            ({"purchase": {"price": "?", "down": {"amount": "1"}}}, "purchase.price"),
        ):
            with self.subTest(field):
                content = document(**{"principal": None, **changes})
                self.assertIn(field, [name for name, _ in errors_of(content)])
        found = bought({"percent": "?"}, price="40000", payment="938.82")
        self.assertIn("more than the price", found.reason or "")

    def test_said_checked_typed_and_written_again(self) -> None:
        asked = loan(principal=None, purchase={"price": "60312.5", "down": {"percent": "20"}})
        self.assertIn(
            "60,312.50 EUR 20 % is paid at once", terms_in_words(asked, MARKS["comma-point"])
        )
        self.assertEqual(loans.check(loans.write(asked)), asked)
        self.assertEqual(loan_of(restate(asked, "point-comma")), asked)
        stated = loan(**{**loans.write(asked), "principal": None, "payment": "938.82"})
        fits = loans.solve(stated).would_fit
        assert fits
        self.assertEqual(fits["principal"]["value"], "48249.85")
        typed = Statement(is_purchase=True, price="60k", down="110", percent="6", count="60")
        wrong = {error.field for error in work(typed).errors}
        self.assertIn("down", wrong)
        self.assertNotIn("principal", wrong)


def aimed(figure: str, is_: str, by: str, **changes: Any) -> loans.Answer:
    return loans.solve(loan(aim={"figure": figure, "is": is_, "by": by}, **changes))


class Aims(TestCase):
    def near(self, answer: loans.Answer, expected: mpf, digits: int = 15) -> None:
        assert answer.aim and answer.aim["exact"]
        self.assertLess(abs(mpf(answer.aim["exact"]) / expected - 1), mpf(10) ** -digits)

    def test_linear_ones_by_their_formula(self) -> None:
        grown = (1 + HALF_YEARLY) ** 60
        each = 1 / annuity(HALF_YEARLY, 60)
        self.near(aimed("total_interest", "9000", "principal"), 9000 / (60 * each - 1))
        self.near(aimed("total_paid", "50000", "principal"), 50000 / (60 * each))
        self.near(aimed("payment", "800", "balance"), (48250 - 800 / each) * grown)
        left = (1 + HALF_YEARLY) ** 24
        after = left - each * (left - 1) / HALF_YEARLY
        self.near(aimed("balance@24", "30000", "principal"), 30000 / after)
        # Interest of payments 13 to 24: what is paid less what is repaid of the principal.
        year = (1 + HALF_YEARLY) ** 12
        before = year - each * (year - 1) / HALF_YEARLY
        self.near(
            aimed("interest@13-24", "2000", "principal"), 2000 / (12 * each - (before - after))
        )

    def test_a_rate_by_an_independent_root(self) -> None:
        root = findroot(lambda rate: 48250 / annuity(rate, 60) - 900, (mpf("0.003"), mpf("0.005")))
        quoted = 200 * ((1 + root) ** 6 - 1)
        self.near(aimed("payment", "900", "rate.percent"), quoted)
        self.near(aimed("effective", "7", "rate.percent"), 200 * (mp.sqrt(mpf("1.07")) - 1))

    def test_a_payment_for_a_number_of_payments(self) -> None:
        answer = aimed("count", "48", "payment", count="?", payment="900")
        self.near(answer, 48250 / annuity(HALF_YEARLY, 48))

    def test_an_end_date(self) -> None:
        dated = {"start": "2027-03-01"}
        # 48 months after 1 Mar 2027.
        answer = aimed("end_date", "2031-03-01", "count", **dated)
        self.assertEqual(answer.aim and answer.aim["value"], "48")
        # The least payment, to the cent, that repays it in 48 months.
        answer = aimed(
            "end_date", "2031-03-01", "payment", **{**dated, "count": "?", "payment": "900"}
        )
        assert answer.aim and answer.aim["value"]
        least = 48250 / annuity(HALF_YEARLY, 48)
        self.assertEqual(Decimal(answer.aim["value"]), Decimal(int(mp.ceil(100 * least))) / 100)
        self.assertEqual(answer.final_date, "2031-03-01")
        self.assertEqual(len(answer.schedule), 48)
        # On no payment's day.
        answer = aimed("end_date", "2031-03-10", "count", **dated)
        self.assertIn("the nearest is 1 Mar 2031, with 48", answer.reason or "")

    def test_yearly_costs_to_their_digits(self) -> None:
        # Without fees the EU rate is the effective one; the US rate here twelve times the month's.
        self.near(aimed("eu_aprc", "7", "rate.percent"), 200 * (mp.sqrt(mpf("1.07")) - 1), 4)
        monthly = mpf("0.07") / 12
        self.near(aimed("us_apr", "7", "rate.percent"), 200 * ((1 + monthly) ** 6 - 1), 8)

    def test_the_price_that_a_payment_carries(self) -> None:
        purchase = {"price": "1", "down": {"percent": "20"}}
        answer = aimed("payment", "750", "purchase.price", principal=None, purchase=purchase)
        self.near(answer, 750 * annuity(HALF_YEARLY, 60) / mpf("0.8"))
        self.assertEqual(answer.value, "750.00")

    def test_a_published_question_asked_backwards(self) -> None:
        # Society of Actuaries, Exam FM sample questions (from memory): four yearly payments at
        # 8 %, 559.12 owed after the third; the principal in the first payment is 444.
        answer = aimed(
            "balance@3",
            "559.12",
            "principal",
            rate={"percent": "8", "quoted": "effective"},
            every="year",
            count=4,
        )
        self.assertEqual(round(Decimal(answer.schedule[0]["principal"])), 444)

    @given(
        regular() | irregular(),
        st.sampled_from(["payment", "total_interest", "total_paid", "balance@2"]),
        st.sampled_from(["principal", "balance", "rate.percent"]),
    )
    @settings(deadline=None, max_examples=60)
    def test_aim_is_the_inverse_of_solve(
        self, content: dict[str, Any], figure: str, by: str
    ) -> None:
        """The result of a loan, aimed at from elsewhere, leads back to the loan's own figure."""
        content = {**content, "count": min(content["count"], 24), "rounding": UNROUNDED}
        content["clauses"] = []
        rate = content["rate"]
        assume(rate.get("quoted", "nominal") in ("nominal", "effective"))
        assume(by != "rate.percent" or 0 <= Decimal(rate["percent"]) <= 30)
        asked = loans.check(content)
        is_ = result(asked, figure)
        assume(is_ is not None and abs(is_) > 1)
        assert is_ is not None
        stated = Decimal(rate["percent"] if by == "rate.percent" else content[by])
        elsewhere = stated + 1 if by == "rate.percent" else stated * 2 + 1000
        moved = loans.check(content)
        moved = with_figure(moved, figure_path(by), f"{elsewhere:f}")
        away = result(moved, figure)
        assume(away is not None and abs(away - is_) > Decimal("0.01"))
        aim = {"figure": figure, "is": f"{is_:f}", "by": by}
        answer = loans.solve(loans.check({**loans.write(moved), "aim": aim}))
        assert answer.aim
        near = [abs(Decimal(each) - stated) for each in answer.aim["solutions"]]
        self.assertLess(min(near, default=Decimal(1)), Decimal("1e-9"), answer.aim["says"])

    def test_what_cannot_be_reached_tells_the_nearest(self) -> None:
        answer = aimed("payment", "900", "count")
        assert answer.aim and answer.reason
        # By the formula 62 payments would be 913.03 each, 63 are 900.76.
        self.assertEqual((answer.aim["solutions"], answer.aim["nearest"]), ((), "63"))
        self.assertIn("the nearest is 900.76, with 63", answer.reason)
        answer = aimed("total_interest", "-5", "principal")
        assert answer.aim
        self.assertEqual((answer.aim["value"], answer.aim["nearest"]), (None, "0"))

    def test_the_loan_is_worked_with_the_figure_that_was_found(self) -> None:
        answer = aimed("total_interest", "9000", "principal")
        assert answer.aim
        self.assertEqual(answer.schedule[0]["opening"], answer.aim["value"])
        self.assertEqual(answer.unknown, "payment")

    def test_refused_with_a_sentence(self) -> None:
        for aim, field in (
            ({"figure": "payment", "is": "900", "by": "payment"}, "aim.by"),
            ({"figure": "total_paid", "is": "900", "by": "payment"}, "aim.by"),
            ({"figure": "total_paid", "is": "900", "by": "luck"}, "aim.by"),
            ({"figure": "luck", "is": "900", "by": "principal"}, "aim.figure"),
            ({"figure": "balance@x", "is": "900", "by": "principal"}, "aim.figure"),
            ({"figure": "end_date", "is": "2031-03-01", "by": "count"}, "aim.figure"),
            ({"figure": "end_date", "is": "900", "by": "count"}, "aim.is"),
            ({"figure": "end_date", "is": "2031-02-30", "by": "count"}, "aim.is"),
            ({"figure": "payment", "is": "?", "by": "principal"}, "aim.is"),
            ({"figure": "payment", "by": "principal"}, "aim.is"),
        ):
            with self.subTest(aim=aim):
                wrong = errors_of(document(aim=aim))
                self.assertEqual([name for name, _ in wrong], [field])
                self.assertRegex(wrong[0][1], r"^.{12,}[.]$")

    def test_typed_and_written_again(self) -> None:
        asked = loan(aim={"figure": "total_interest", "is": "9000", "by": "principal"})
        self.assertEqual(loans.check(loans.write(asked)), asked)
        typed = restate(asked, "point-comma")
        assert typed.aim
        self.assertEqual((typed.aim.is_, loan_of(typed)), ("9.000,00", asked))
        aimed = typed.aim.model_copy(update={"is_": "nine"})
        wrong = work(typed.model_copy(update={"aim": aimed}))
        self.assertEqual([error.field for error in wrong.errors], ["aim.is"])
