"""Sentences of the contract, each as a case.

Expected values are arithmetic done beside the case, published figures, or roots found by mpmath
from flows written out here; none comes from the core.
"""

from collections.abc import Callable
from datetime import date
from decimal import Decimal
from fractions import Fraction
from typing import Any
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st
from mpmath import mp, mpf

from zephyrant import loans
from zephyrant.loans import Answer
from zephyrant.loans.answer.proof import prove
from zephyrant.loans.ledger.rows import Schedule
from zephyrant.loans.unknowns.finding import find
from zephyrant.loans.unknowns.solution import solved_line
from zephyrant.loans.unknowns.worked import work_out
from zephyrant.loans.wording.marks import MARKS

from .documents import document, errors_of, loan, solve
from .oracle import Deal

ASKED = {"percent": "?"}
SIX = {"percent": "6"}
EQUAL = "equal-principal"
#: A check of the proof: rows and terms.
FOLLOW = "Before the last two rows, interest and payment follow from the opening balance"


def plain(**changes: Any) -> Answer:
    """A loan of plain figures: 10,000, twelve months at 6 %, its payment asked for."""
    base = {"principal": "10000", "count": 12, "rate": SIX, "name": None}
    return solve(**{**base, **changes})


def balanced(flows: Callable[[mpf], mpf], guess: float) -> mpf:
    """The rate of one period at which flows come to nothing."""
    with mp.workdps(40):
        return mp.findroot(flows, (guess, guess * 1.1), tol=1e-60)


def money(row: Any, name: str) -> Decimal:
    return Decimal(row[name])


class RatesThatAreThere(TestCase):
    """A rate is found in a first period of several periods in which money moves."""

    def test_an_advance_inside_three_periods(self) -> None:
        """(1 + i)^3 over 90 days, linear within them: 75 of them are left for the advance."""
        found = plain(
            principal="20000",
            count=24,
            start="2025-01-10",
            first_payment="2025-04-10",
            payment="1400",
            rate=ASKED,
            clauses=[{"at": "2025-01-25", "advance": "5000"}],
        )

        def left(i: mpf) -> mpf:
            whole = (1 + i) ** 3
            owed = 20000 * whole + 5000 * (1 + (whole - 1) * 75 / 90)
            return owed - 1400 * (1 + (1 - (1 + i) ** -23) / i)

        self.assertAlmostEqual(float(1200 * balanced(left, 0.02)), float(found.exact or 0), 12)
        self.assertEqual(f"{Decimal(found.exact or 0):.14f}", "25.80777265783578")

    @given(
        st.sampled_from(["in-arrears", "in-advance"]),
        st.sampled_from(["simple", "compound"]),
        st.sampled_from(["month", "quarter", "half-month"]),
        st.integers(1, 40),
    )
    @settings(deadline=None, max_examples=60)
    def test_in_every_shape(self, timing: str, odd_days: str, every: str, day: int) -> None:
        content = document(
            principal="20000",
            count=12,
            every=every,
            start="2025-01-10",
            first_payment="2025-12-15",
            timing=timing,
            odd_days=odd_days,
            payment="2400",
            balance="0",
            rate=ASKED,
            clauses=[{"at": date(2025, 2, day % 27 + 1).isoformat(), "advance": "5000"}],
        )
        found = loans.solve(loans.check(content))
        self.assertEqual(len(found.solutions), 1, found.reason)
        content["rate"] = {"percent": found.exact}
        self.assertLess(abs(Deal(content).roll()), Fraction(1, 10**15))

    def test_three_advances_and_240_payments(self) -> None:
        """12 CFR 1026 App. J (c)(6)(i): 10.25 %."""
        found = plain(
            principal="20000",
            count=240,
            start="1979-04-10",
            first_payment="1979-12-10",
            payment="612.36",
            rate=ASKED,
            clauses=[
                {"at": "1979-06-12", "advance": "20000"},
                {"at": "1979-09-18", "advance": "20000"},
            ],
        )
        self.assertEqual(len(found.solutions), 1, found.reason)
        assert found.yearly_cost
        self.assertEqual(f"{Decimal(found.yearly_cost['us_apr'] or 0):.2f}", "10.25")

    def test_one_payment_in_advance_after_a_stub(self) -> None:
        """30 June to 26 August: a month and 26 days, the days first and simple; then a month."""
        stub = {"count": 1, "start": "2025-06-30", "first_payment": "2025-08-26"}
        for payment, balance in ((1000, 9100), (10100, 0)):
            found = plain(
                **stub,
                payment=str(payment),
                balance=str(balance),
                timing="in-advance",
                rate=ASKED,
            )

            def left(i: mpf, payment: int = payment, balance: int = balance) -> mpf:
                owed = 10000 * (1 + i * 26 / 30) * (1 + i)
                return (owed - payment) * (1 + i) - balance

            expected = 1200 * balanced(left, 0.004)
            self.assertAlmostEqual(float(expected), float(found.exact or 0), 11)
            assert found.proof
            self.assertTrue(found.proof["holds"])


class HalfMonths(TestCase):
    def test_the_first_interest_is_eight_fifteenths(self) -> None:
        found = plain(
            count=24,
            every="half-month",
            start="2025-04-27",
            first_payment="2025-05-05",
            rate={"percent": "12"},
        )
        self.assertEqual(found.schedule[0]["interest"], "26.67")
        self.assertEqual(f"{Decimal(found.exact or 0):.5f}", "442.17710")


class RateAsked(TestCase):
    """Where a rate is asked for what is stated stands."""

    def test_payments_are_facts(self) -> None:
        """24 x 4,150 = 99,600; less 86,500 is 13,100."""
        found = plain(principal="86500", count=24, payment="4150", rate=ASKED)
        assert found.totals
        self.assertEqual(found.totals["paid"], "99600.00")
        self.assertEqual(found.totals["interest"], "13100.00")
        self.assertEqual(found.totals["final_payment"], "4150.00")
        self.assertEqual(found.schedule[-1]["closing"], "0.00")

    def test_however_coarse_the_step(self) -> None:
        found = plain(
            principal="86500",
            count=24,
            payment="4150",
            rate=ASKED,
            rounding={"payment": "up", "to": "100"},
            clauses=[{"at": 3, "repay": "0.07"}],
        )
        assert found.totals
        self.assertEqual(found.totals["paid"], "99600.07")

    def test_in_advance_the_row_before_takes_the_cents(self) -> None:
        found = plain(count=24, payment="433.21", rate=ASKED, timing="in-advance")
        last = found.schedule[-1]
        self.assertEqual((last["opening"], last["interest"]), ("433.21", "0.00"))
        self.assertEqual(last["payment"], "433.21")
        interest = sum(money(row, "interest") for row in found.schedule)
        self.assertEqual(interest, 24 * Decimal("433.21") - 10000)

    def test_nothing_is_cut_and_the_balance_may_pass_zero(self) -> None:
        """Repaid in full by the third row, lent again at the sixth."""
        clauses = [{"at": 3, "repay": "9000"}, {"at": 6, "advance": "9500"}]
        found = plain(payment="850", rate=ASKED, clauses=clauses)
        self.assertEqual(len(found.schedule), 12, found.reason)
        self.assertTrue(any(money(row, "closing") < 0 for row in found.schedule))
        assert found.totals
        self.assertEqual(Decimal(found.totals["paid"]), 12 * 850 + 9000)

    def test_published_odd_first_periods(self) -> None:
        """12 CFR 1026 App. J (c)(1)(ii): 6,000 on 10 February, 36 x 200 from 1 April: 11.82 %."""
        found = plain(
            principal="6000",
            count=36,
            payment="200",
            rate=ASKED,
            start="1978-02-10",
            first_payment="1978-04-01",
        )
        assert found.yearly_cost and found.totals
        self.assertEqual(f"{Decimal(found.yearly_cost['us_apr'] or 0):.2f}", "11.82")
        self.assertEqual(found.totals["paid"], "7200.00")


class OneAdvanceOnePayment(TestCase):
    """12 CFR 1026 App. J (b)(4), (c)(4)(i) to (iii): the unit-period is the term."""

    def apr(self, start: str, first: str, payment: str, **changes: Any) -> str:
        found = plain(
            principal="1000",
            count=1,
            payment=payment,
            start=start,
            first_payment=first,
            rate=ASKED,
            **changes,
        )
        assert found.yearly_cost
        return f"{Decimal(found.yearly_cost['us_apr'] or 0):.2f}"

    def test_published(self) -> None:
        self.assertEqual(self.apr("1978-01-03", "1978-09-15", "1080"), "11.45")
        self.assertEqual(self.apr("1978-01-03", "1978-07-03", "1044"), "8.80")
        self.assertEqual(self.apr("1978-01-03", "1979-07-03", "1135.19"), "8.76")

    def test_in_net_flows_after_fees(self) -> None:
        """20 kept back of 1,000: 1,044 / 980 over six months, twice that a year."""
        told = self.apr("1978-01-03", "1978-07-03", "1044", clauses=[{"at": 0, "fee": "20"}])
        self.assertEqual(told, f"{Decimal(200) * (Decimal(1044) / 980 - 1):.2f}")

    def test_without_dates(self) -> None:
        """Six months without payments, then all: (1 + 6 x 0.5 %) compounded, by the term."""
        found = plain(count=6, payment="0", balance="?")
        assert found.yearly_cost
        owed = Decimal(found.value or 0)
        expected = 200 * (owed / 10000 - 1)
        self.assertAlmostEqual(Decimal(found.yearly_cost["us_apr"] or 0), expected, 9)


class Fees(TestCase):
    @given(
        st.sampled_from(["month", "half-month", "two-weeks", "quarter"]),
        st.integers(1, 40),
        st.sampled_from(["in-arrears", "in-advance"]),
        st.sampled_from([1, 2, 7, 24]),
    )
    @settings(deadline=None, max_examples=60)
    def test_a_fee_of_nothing_moves_nothing(
        self, every: str, days: int, timing: str, count: int
    ) -> None:
        first = date.fromordinal(date(2025, 1, 31).toordinal() + days).isoformat()
        dates = {"start": "2025-01-31", "first_payment": first, "timing": timing}
        shape = {"every": every, "count": count, "balance": "500", **dates}
        none = plain(**shape)
        some = plain(**shape, clauses=[{"at": 0, "fee": "0"}])
        assert none.yearly_cost and some.yearly_cost
        for name in ("us_apr", "eu_aprc"):
            one, other = (Decimal(each.yearly_cost[name] or 0) for each in (none, some))  # type: ignore[index]
            self.assertLess(abs(one - other), Decimal("1e-9"), name)

    def test_no_yearly_cost_is_told_where_several_fit(self) -> None:
        """(1.1 - v)(1.5 - v)(1.501 - v) as flows a year apart: 10, 50 and 50.1 %."""
        found = loans.solve(
            loans.check(
                document(
                    principal="100000",
                    every="year",
                    count=0,
                    payment=None,
                    rate=ASKED,
                    clauses=[
                        {"at": 1, "repay": "410100"},
                        {"at": 2, "advance": "555260"},
                        {"at": 3, "repay": "247665"},
                    ],
                )
            )
        )
        # x^3 - 4.101 x^2 + 5.5526 x - 2.47665 = (x - 1.1)(x - 1.5)(x - 1.501)... held here:
        with mp.workdps(30):
            roots = sorted(mp.polyroots([1, -4.101, 5.5526, -2.47665]))
        self.assertEqual([round(float(100 * (x - 1)), 2) for x in roots], [10.0, 50.0, 50.1])
        told = [round(float(each), 2) for each in found.solutions]
        self.assertEqual(told, [10.0, 50.0, 50.1])
        costed = loans.solve(
            loans.check(
                document(
                    principal="100000",
                    every="year",
                    count=0,
                    payment=None,
                    rate={"percent": "10"},
                    balance="?",
                    clauses=[
                        {"at": 1, "repay": "410100"},
                        {"at": 2, "advance": "555260"},
                        {"at": 3, "repay": "247665"},
                    ],
                )
            )
        )
        assert costed.yearly_cost
        self.assertEqual(costed.yearly_cost, {"us_apr": None, "eu_aprc": None})


class WhatSettles(TestCase):
    def test_the_amount_in_the_last_place_is_what_the_schedule_pays(self) -> None:
        """9,876.54 at half a percent, each interest to the cent, 843.37 eleven times."""
        owed = Decimal("9876.54")
        for _ in range(11):
            interest = (owed * 5 / 1000).quantize(Decimal("0.01"), "ROUND_HALF_UP")
            owed += interest - Decimal("843.37")
        last = owed + (owed * 5 / 1000).quantize(Decimal("0.01"), "ROUND_HALF_UP")
        shape = {"principal": "9876.54", "payment": "843.37"}
        paid = plain(**shape, clauses=[{"at": 12, "payment": "?"}])
        self.assertEqual((paid.value, paid.schedule[-1]["payment"]), (f"{last}", f"{last}"))
        more = plain(**shape, clauses=[{"at": 12, "repay": "?"}])
        self.assertEqual(more.value, f"{last - Decimal('843.37')}")
        self.assertEqual(more.schedule[-1]["payment"], "843.37")
        lent = plain(principal="9000", payment="843.37", clauses=[{"at": 12, "advance": "?"}])
        row = lent.schedule[-1]
        self.assertEqual((row["payment"], row["advance"]), ("843.37", lent.value))
        stretch = plain(**shape, clauses=[{"from": 12, "payment": "?"}])
        self.assertEqual(stretch.value, f"{last}")

    def test_without_payments_too(self) -> None:
        found = plain(
            count=0,
            payment=None,
            principal="9876.54",
            clauses=[{"at": 6, "repay": "5000"}, {"at": 12, "repay": "?"}],
        )
        self.assertEqual(found.value, found.schedule[-1]["repay"])
        self.assertEqual(found.schedule[-1]["closing"], "0.00")

    def test_a_paused_end_closes_at_the_balance_and_says_how(self) -> None:
        for pay in ("nothing", "interest"):
            found = plain(balance="2000", count=30, clauses=[{"from": 28, "to": 30, "pay": pay}])
            self.assertEqual(found.schedule[-1]["closing"], "2000.00")
            natural = money(found.schedule[-1], "opening") * 5 / 1000
            taken = money(found.schedule[-1], "interest") - round(natural, 2)
            self.assertLess(abs(taken), Decimal("0.20"))
            if taken:
                self.assertTrue(any(f"{abs(taken):.2f}" in note for note in found.notes))

    def test_days_of_a_deal_have_rows_of_their_own(self) -> None:
        """10,000 at 6 %: six months at half a percent, then 10 of 31 days of the seventh."""
        found = plain(
            count=0,
            payment=None,
            start="2025-01-10",
            clauses=[
                {"at": "2025-07-20", "repay": "3000"},
                {"at": "2025-07-25", "repay": "500"},
                {"at": "2026-02-11", "repay": "?"},
            ],
        )
        told = [(row["number"], row["date"]) for row in found.schedule]
        self.assertEqual(told, [(1, "2025-07-20"), (2, "2025-07-25"), (3, "2026-02-11")])
        grown = Fraction(10000) * Fraction(1005, 1000) ** 6
        first = grown * (1 + Fraction(5, 1000) * Fraction(10, 31)) - 10000
        self.assertEqual(found.schedule[0]["interest"], f"{float(first):.2f}")
        # Interest bears none before the end of its period.
        second = (grown - 3000) * Fraction(5, 1000) * Fraction(5, 31)
        self.assertEqual(found.schedule[1]["interest"], f"{float(second):.2f}")
        self.assertEqual(found.final_date, "2026-02-11")
        assert found.proof
        self.assertTrue(found.proof["holds"])


class WhichClauseWins(TestCase):
    def paused(self, *clauses: dict[str, Any], **changes: Any) -> set[int]:
        found = plain(count=30, start="2025-01-10", clauses=list(clauses), **changes)
        return {row["number"] for row in found.schedule if row["payment"] == "0.00"}

    def test_months_without_a_beginning_begin_with_payment_one(self) -> None:
        """Payments 11, 12 and 1 fall in December to February, as 23 to 25 do."""
        winter, interest = {"months": [12, 1, 2], "pay": "nothing"}, {"pay": "interest"}
        first_year = {"from": 1, "to": 12, **interest}
        self.assertEqual(self.paused(first_year, winter), {1, 11, 12, 13, 23, 24, 25})
        self.assertEqual(self.paused(winter, first_year), {13, 23, 24, 25})
        later = {"from": 2, "to": 12, **interest}
        self.assertEqual(self.paused(later, winter), {1, 13, 23, 24, 25})

    def test_one_payment_beats_a_stretch(self) -> None:
        one, stretch = {"at": 5, "pay": "interest"}, {"from": 4, "to": 6, "pay": "nothing"}
        self.assertEqual(self.paused(one, stretch), {4, 6})
        self.assertEqual(self.paused(stretch, one), {4, 6})

    def test_a_day_counts_as_the_first_payment_on_or_after_it(self) -> None:
        """Both begin with payment 3, due on 10 April: the later in the list wins."""
        by_day = {"from": "2025-03-20", "payment": "140"}
        by_number = {"from": 3, "payment": "130"}
        for clauses, expected in (
            ([by_day, by_number], "130.00"),
            ([by_number, by_day], "140.00"),
        ):
            found = plain(count=30, payment="200", balance="?", start="2025-01-10", clauses=clauses)
            self.assertEqual(found.schedule[2]["payment"], expected)

    def test_what_gives_way_is_said_with_the_clause(self) -> None:
        found = plain(
            count=30,
            start="2025-01-10",
            clauses=[
                {"from": 1, "to": 12, "pay": "interest"},
                {"months": [12, 1, 2], "pay": "nothing"},
                {"at": 4, "fee": {"percent": "2"}},
                {"at": 4, "advance": "3000"},
                {"at": 5, "fee": {"percent": "1"}, "taken": "added"},
            ],
        )
        gives_way, wins, on_advance, advance, on_principal = found.clause_notes
        said = "“every year in Dec, Jan, Feb nothing is paid” holds instead."
        self.assertEqual(gives_way, (f"Payments 1 and 11 to 12: {said}",))
        self.assertEqual((wins, advance), ((), ()))
        self.assertEqual(on_advance, ("2 % of the 3000.00 advanced there.",))
        self.assertEqual(on_principal, ("1 % of the principal, 10000.00.",))

    def test_a_payment_set_anew_is_said_to_hold(self) -> None:
        clauses = [{"from": 2, "payment": "300"}, {"at": 4, "repay": "500", "then": "re-level"}]
        found = plain(clauses=clauses)
        self.assertEqual(found.clause_notes[1], ())
        self.assertEqual(
            found.clause_notes[0], ("Payments 5 to 12: “the payment is set anew” holds instead.",)
        )


class Aims(TestCase):
    """With a rate asked for: what the flows add up to does not depend on its digits."""

    def aim(self, figure: str, to: str, by: str, **changes: Any) -> Any:
        shape = {"principal": "20000", "count": 24, "payment": "900", "rate": ASKED, **changes}
        found = plain(**shape, aim={"figure": figure, "is": to, "by": by})
        assert found.aim
        return found.aim

    def test_totals(self) -> None:
        """24 A - 20,000 = 2,000; 24 x 900 - P = 2,000; 24 x 900 + B - 20,000 = 2,000."""
        by = {"payment": "916.66666666666", "principal": "19600", "balance": "400"}
        for name, expected in by.items():
            told = self.aim("total_interest", "2000", name)
            self.assertTrue((told["exact"] or "").startswith(expected), (name, told))
        told = self.aim("total_paid", "24000", "payment")
        self.assertEqual(told["exact"], "1000")

    def test_a_balance_on_the_way(self) -> None:
        """The payment at which 10,500 is owed after twelve, whatever the rate then is."""
        told = self.aim("balance@12", "10500", "payment")

        def owed(payment: mpf) -> mpf:
            i = mp.findroot(
                lambda x: 20000 - payment * (1 - (1 + x) ** -24) / x, (0.005, 0.006), tol=1e-50
            )
            return payment * (1 - (1 + i) ** -12) / i - 10500

        with mp.workdps(40):
            expected = mp.findroot(owed, (920, 930), tol=1e-45)
        self.assertLess(abs(expected - mpf(told["exact"])), 1e-12)

    def test_interest_of_a_stretch(self) -> None:
        """What twelve payments pay is interest but for what they take off 20,000: 1,500 of it."""
        told = self.aim("interest@1-12", "1500", "payment")

        def interest(payment: mpf) -> mpf:
            i = mp.findroot(
                lambda x: 20000 - payment * (1 - (1 + x) ** -24) / x, (0.006, 0.007), tol=1e-50
            )
            owed = payment * (1 - (1 + i) ** -12) / i
            return 12 * payment - (20000 - owed) - 1500

        with mp.workdps(40):
            expected = mp.findroot(interest, (920, 930), tol=1e-45)
        self.assertLess(abs(expected - mpf(told["exact"])), 1e-12)

    def test_wanted_and_nearest_are_never_the_same_words(self) -> None:
        """A count of whole payments misses by less than a cent: more digits tell them apart."""
        told = plain(aim={"figure": "effective", "is": "6.167781186449", "by": "rate.percent"}).aim
        assert told
        self.assertIsNotNone(told["value"])
        missed = plain(
            rate={"percent": "0"},
            payment="833.33",
            principal="?",
            aim={"figure": "total_paid", "is": "10000.003", "by": "count"},
        ).aim
        assert missed
        wanted, nearest = missed["says"].split("; the nearest is ")
        self.assertNotIn(wanted.rsplit(" ", 1)[-1], nearest.split(",")[0])


class NothingEndsInACrash(TestCase):
    def test_a_count_beyond_the_calendar(self) -> None:
        """800 a year does not pay the interest of 1,000."""
        found = plain(
            count="?",
            payment="800",
            every="year",
            rate={"percent": "10"},
            start="2030-10-30",
            first_payment="2031-10-30",
            clauses=[{"at": "2035-01-01", "repay": "100"}],
        )
        self.assertEqual(found.solutions, ())
        self.assertTrue(found.reason)

    def test_more_payments_than_days_are_left(self) -> None:
        """A payment a year for 10,000 years; the last period ends within the year 9999."""
        found = plain(
            count="?", payment="1", every="year", rate={"percent": "0"}, start="2025-01-01"
        )
        self.assertEqual(found.solutions, ())
        self.assertIn("7973", (found.reason or "").replace(",", ""))

    def test_numbers_of_any_length(self) -> None:
        for digits in (29, 35, 41):
            field = [name for name, _ in errors_of(document(count="1" * digits))]
            self.assertEqual(field, ["count"])
            clauses = [{"at": "1" * digits, "repay": "5"}]
            self.assertEqual(
                [name for name, _ in errors_of(document(clauses=clauses))], ["clauses.0.at"]
            )


class Proofs(TestCase):
    """Each check fails on an answer that is wrong in what it checks."""

    SHAPES: tuple[dict[str, Any], ...] = (
        {},
        {"clauses": [{"at": 3, "repay": "500"}]},
        {"start": "2025-01-10", "clauses": [{"at": "2025-03-20", "advance": "500"}]},
        {
            "count": 0,
            "payment": None,
            "start": "2025-01-10",
            "balance": "0",
            "clauses": [{"at": "2025-05-20", "repay": "4000"}, {"at": "2026-01-20", "repay": "?"}],
        },
        {"count": "?", "payment": "500"},
        {
            "count": "?",
            "payment": "500",
            "start": "2025-01-10",
            "clauses": [{"at": "2025-03-20", "repay": "900"}],
        },
        {"payment": "500", "balance": "?"},
        {"payment": "900", "rate": ASKED},
    )

    def test_right_answers_hold(self) -> None:
        for shape in self.SHAPES:
            proof = plain(**shape).proof
            assert proof
            self.assertTrue(proof["holds"], (shape, proof))

    def test_a_wrong_solution_fails_both_ways(self) -> None:
        for shape in self.SHAPES:
            asked = loan(**{"principal": "10000", "count": 12, "rate": SIX, **shape})
            worked = work_out(asked)
            found = worked.found
            off = found.solutions[0] * Decimal("1.0001") + (asked.unknown == "count")
            wrong = found._replace(solutions=(off,), periodic=found.periodic and off / 1200)
            put = worked._replace(found=wrong, solved=solved_line(asked, wrong))
            checks = prove(asked, put, MARKS["plain"])["checks"]
            self.assertFalse(checks[0]["holds"], (shape, checks[0]))
            if asked.unknown != "count":
                self.assertFalse(checks[1]["holds"], (shape, checks[1]))

    def test_the_rows_of_another_loan_fail(self) -> None:
        """Each column, and all of them, of a loan at another rate or of another amount; and one
        row whose interest and payment are both 1.00 higher, which every sum of the rows misses."""
        base: dict[str, Any] = {"principal": "10000", "count": 12, "rate": SIX, "payment": "?"}
        columns = ("opening", "interest", "principal", "payment", "closing")
        for shape in ({}, {"timing": "in-advance"}, {"balance": "2500"}, {"repayment": EQUAL}):
            asked = loan(**{**base, **shape})
            worked = work_out(asked)
            assert worked.schedule
            self.assertTrue(prove(asked, worked, MARKS["plain"])["holds"])
            unit, mine = worked.schedule.unit, worked.schedule.rows

            def fails(rows: Any, asked: Any = asked, worked: Any = worked, unit: Any = unit) -> Any:
                put = worked._replace(schedule=Schedule(tuple(rows), unit))
                proof = prove(asked, put, MARKS["plain"])
                self.assertFalse(proof["holds"])
                return {each["what"] for each in proof["checks"] if not each["holds"]}

            for other in ({"rate": {"percent": "9"}}, {"principal": "11000"}):
                found = work_out(loan(**{**base, **shape, **other})).schedule
                assert found
                theirs = found.rows
                failed = fails(theirs)
                if "principal" in other:
                    self.assertIn("The first row opens with the amount lent", failed)
                else:
                    self.assertIn(FOLLOW, failed)
                for name in columns:
                    pairs = [*zip(mine, theirs, strict=True)]
                    if all(getattr(one, name) == getattr(two, name) for one, two in pairs):
                        # The equal parts of a loan are the same at any rate.
                        continue
                    with self.subTest(shape=shape, other=other, column=name):
                        fails(one._replace(**{name: getattr(two, name)}) for one, two in pairs)
            more = unit.count(Decimal(1))
            raised = mine[4]._replace(
                interest=mine[4].interest + more, payment=mine[4].payment + more
            )
            self.assertEqual(fails([*mine[:4], raised, *mine[5:]]), {FOLLOW})

    def test_a_wrong_row_fails(self) -> None:
        for shape in self.SHAPES:
            asked = loan(**{"principal": "10000", "count": 12, "rate": SIX, **shape})
            worked = work_out(asked)
            laid = worked.schedule
            assert laid
            last = laid.rows[-1]
            # A last row that closes elsewhere, though its own sums are right.
            more = 500_000
            spoilt = last._replace(closing=last.closing + more, principal=last.principal - more)
            rows = (*laid.rows[:-1], spoilt._replace(payment=spoilt.payment - more))
            put = worked._replace(schedule=Schedule(rows, laid.unit))
            checks = prove(asked, put, MARKS["plain"])["checks"]
            closes = next(each for each in checks if each["what"] == "The last row closes at")
            self.assertFalse(closes["holds"], shape)
            adds_up = next(each for each in checks if each["what"].startswith("Principal parts"))
            self.assertFalse(adds_up["holds"], shape)
            rows = (laid.rows[0]._replace(interest=laid.rows[0].interest + 1), *laid.rows[1:])
            put = worked._replace(schedule=Schedule(rows, laid.unit))
            checks = prove(asked, put, MARKS["plain"])["checks"]
            chained = next(each for each in checks if each["what"].startswith("In every row"))
            self.assertFalse(chained["holds"], shape)

    def test_a_count_met_on_a_day_is_told_by_days(self) -> None:
        """The balance is met on 20 July, 10 of 31 days into the seventh period."""
        found = plain(
            count="?",
            payment="900",
            start="2025-01-10",
            clauses=[{"at": "2025-07-20", "repay": "6000"}],
        )
        self.assertEqual(found.value, "7")
        self.assertEqual(f"{Decimal(found.exact or 0):.10f}", f"{6 + Decimal(10) / 31:.10f}")
        # And where it is met after a payment the fraction lies within that period.
        later = plain(
            count="?",
            payment="900",
            start="2025-01-10",
            clauses=[{"at": "2025-07-20", "repay": "4000"}],
        )
        self.assertTrue(6 < Decimal(later.exact or 0) < 7)


class ReasonsOfItsOwn(TestCase):
    def test_interest_below_zero_is_not_paid(self) -> None:
        found = plain(rate={"percent": "-3"}, clauses=[{"from": 1, "to": 6, "pay": "interest"}])
        self.assertEqual(found.schedule, [])
        self.assertIn("the interest, which alone is to be paid with payment 1", found.notes[0])

    def test_figures_that_do_not_fit(self) -> None:
        found = plain(principal="1000", payment="500", balance="300")
        self.assertIn("the figures do not fit", found.notes[-1])
        self.assertNotIn("coarse", " ".join(found.notes))

    def test_a_paused_end_is_no_rounding(self) -> None:
        found = plain(
            count=84, start="2025-01-10", clauses=[{"months": [12, 1, 2], "pay": "nothing"}]
        )
        self.assertEqual(len(found.schedule), 82)
        self.assertNotIn("rounded", " ".join(found.notes))
        self.assertIn("after payment 82", found.notes[0])

    def test_what_is_found_is_found_again(self) -> None:
        """A figure that was found, stated: the same loan, and it fits."""
        asked = loan(principal="10000", count=12, rate=SIX, clauses=[{"at": 12, "pay": "interest"}])
        self.assertEqual(find(asked).reason, None)
        value = loans.solve(asked).value
        checked = plain(payment=value, clauses=[{"at": 12, "pay": "interest"}])
        self.assertTrue(checked.fits)
        self.assertEqual(checked.schedule[-1]["closing"], "0.00")
