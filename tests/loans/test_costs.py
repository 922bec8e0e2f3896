"""Yearly cost, yield and carrying amount: each put back into the equation that defines it.

The flows are gathered anew from the rows told and from the document's fees; the equations are those
of 2014/17/EU Annex I and 12 CFR 1026 Appendix J (b)(8), in mpmath.
"""

from calendar import monthrange
from collections.abc import Mapping, Sequence
from datetime import date
from decimal import Decimal
from typing import Any
from unittest import TestCase

from hypothesis import assume, example, given, settings
from hypothesis import strategies as st
from mpmath import mp, mpf

from zephyrant import loans
from zephyrant.loans.questions.ending_charge import Charge
from zephyrant.loans.questions.payoff import payoff_at
from zephyrant.loans.wording.marks import PLAIN

from .documents import BY_DAYS, document, irregular, solve
from .test_dated_clauses import following, on_days, placed


def cents(amount: mpf) -> mpf:
    """To the cent, ties away from zero."""
    return mp.sign(amount) * mp.floor(abs(amount) * 100 + mpf("0.5")) / 100


def on(year: int, month: int, day: int) -> date:
    """That day, or the last of a month that has none."""
    return date(year, month, min(day, monthrange(year, month)[1]))


def months_between(start: date, day: date) -> mpf:
    """Annex I, in months: whole ones back from the day, then days over those of the complete year
    counted backwards from the day they end on."""
    whole = (day.year - start.year) * 12 + day.month - start.month
    while True:
        year, month = divmod(day.year * 12 + day.month - 1 - whole, 12)
        landed = on(year, month + 1, day.day)
        if landed >= start:
            break
        whole -= 1
    a_year = (landed - on(landed.year - 1, landed.month, landed.day)).days
    return whole + mpf(12 * (landed - start).days) / a_year


def flows(
    content: dict[str, Any], rows: Sequence[Mapping[str, Any]], payoff: mpf | None = None
) -> list[tuple[mpf, mpf]]:
    """Months from the start, and what the borrower receives then (below zero: pays).

    A `payoff` is paid right after the last of the rows; else what is left is, at its end.
    """
    advance = content.get("timing") == "in-advance"
    start = date.fromisoformat(content["start"]) if "start" in content else None

    def place(told: int | str) -> mpf:
        if isinstance(told, str):
            assert start
            return months_between(start, date.fromisoformat(told))
        return mpf(max(0, told - advance) if told else 0)

    last = rows[-1]["number"]
    is_cut = last < content["count"] or payoff is not None
    end = place(rows[-1]["date"] if start else last)
    moved = [(mpf(0), mpf(content["principal"]))]
    on_days: dict[int, mpf] = {}
    for clause in content["clauses"]:
        if "at" not in clause:
            continue
        at = clause["at"]
        if isinstance(at, int):
            when, day = place(at), None
        else:
            when, day = place(at), date.fromisoformat(at)
        at_start = at == 0 or (day is not None and day == start)
        if is_cut and when > end:
            continue
        if "fee" in clause and clause.get("taken") != "added":
            told = clause["fee"]
            there = [
                mpf(each["advance"])
                for each in content["clauses"]
                if "advance" in each and each.get("at") == at
            ]
            if at_start:
                there.append(mpf(content["principal"]))
            base = sum(there) or mpf(content["principal"])
            fee = cents(mpf(told["percent"]) * base / 100) if isinstance(told, dict) else mpf(told)
            moved.append((when, -fee))
        if at_start:
            moved.append((when, mpf(clause.get("advance", 0)) - mpf(clause.get("repay", 0))))
        if day and start and day > start:
            # Between two payments: it moves on its own day, not with the row that tells it.
            number = next(
                number for number in range(1, 999) if day <= following(start, "month", number)
            )
            if day != following(start, "month", number):
                amount = mpf(clause.get("advance", 0)) - mpf(clause.get("repay", 0))
                moved.append((when, amount))
                on_days[number] = on_days.get(number, mpf(0)) + amount
    for row in rows:
        net = mpf(row.get("advance", 0)) - mpf(row["payment"]) - mpf(row.get("repay", 0))
        when = place(row["date"] if start else row["number"])
        moved.append((when, net - on_days.get(row["number"], mpf(0))))
    if payoff is not None:
        return [*moved, (end, -payoff)]
    left = mpf(rows[-1]["closing"])
    return [*moved, (place(last + 1) if advance else end, -left)]


class PutBack(TestCase):
    def present_value(self, moved: list[tuple[mpf, mpf]], effective: mpf) -> mpf:
        return sum(amount * (1 + effective) ** (-when / 12) for when, amount in moved)

    def holds(self, content: dict[str, Any]) -> None:
        answer = loans.solve(loans.check(content))
        assume(answer.schedule and answer.yearly_cost and answer.yearly_cost["eu_aprc"])
        moved = flows(content, answer.schedule)
        size = sum(abs(amount) for _, amount in moved)
        assert answer.yearly_cost
        told = mpf(answer.yearly_cost["eu_aprc"]) / 100
        self.assertLess(abs(self.present_value(moved, told)), size * mpf("1e-8"))
        assert answer.costs and answer.costs["yield_effective"]
        self.assertEqual(answer.costs["yield_effective"], answer.yearly_cost["eu_aprc"])
        if "start" not in content:
            self.by_unit_periods(moved, mpf(answer.yearly_cost["us_apr"]) / 100)
        self.carried(answer, moved, told)

    def by_unit_periods(self, moved: list[tuple[mpf, mpf]], told: mpf) -> None:
        """By unit periods of a month the rate is twelve times a month's; with two net flows the
        term is the unit period, at most a year (12 CFR 1026 Appendix J (b)(4) and (5))."""
        net: dict[mpf, mpf] = {}
        for when, amount in moved:
            net[when] = net.get(when, mpf(0)) + amount
        net = {when: amount for when, amount in net.items() if abs(amount) > mpf("1e-9")}
        unit = max(net) - min(net) if len(net) == 2 else mpf(1)
        of_unit, (years, months) = told * min(unit, 12) / 12, divmod(unit, 12)
        growth = (1 + of_unit) ** years * (1 + of_unit * months / 12)
        if unit <= 12:
            growth = 1 + of_unit
        present_value = sum(amount * growth ** (-when / unit) for when, amount in net.items())
        self.assertLess(
            abs(present_value), sum(abs(amount) for amount in net.values()) * mpf("1e-8")
        )

    def carried(self, answer: loans.Answer, moved: list[tuple[mpf, mpf]], told: mpf) -> None:
        """The carrying amount ends at what is left, rolled at the yield."""
        if not answer.carrying:
            return
        self.assertEqual(len(answer.carrying), len(answer.schedule))
        size = max(abs(mpf(each)) for each in answer.carrying)
        closing = mpf(answer.schedule[-1]["closing"])
        self.assertLess(abs(mpf(answer.carrying[-1]) - closing), size * mpf("1e-6") + mpf("0.02"))

    @given(irregular())
    @example(
        {
            **document(principal="48250", count=3, timing="in-advance", balance="2500"),
            "clauses": [{"from": 2, "payment": "0"}, {"at": 1, "repay": "50"}],
        }
    )
    @settings(deadline=None, max_examples=150)
    def test_with_clauses(self, content: dict[str, Any]) -> None:
        self.holds(content)

    @given(irregular() | on_days(), st.data())
    @settings(deadline=None, max_examples=150)
    def test_settled_early(self, content: dict[str, Any], data: st.DataObject) -> None:
        """What falls due after the end no longer does: neither payments nor fees."""
        assume(content["every"] == "month")
        loan = loans.check(content)
        answer = loans.solve(loan)
        assume(len(answer.schedule) > 1)
        number = data.draw(st.integers(1, len(answer.schedule) - 1))
        charge = Charge(kind="percent", figure=Decimal(data.draw(st.integers(0, 3))))
        told = payoff_at(loan, str(number), charge, PLAIN)
        assume(told["yearly_cost"]["eu_aprc"])
        share = cents(mpf(told["owed"]) * mpf(str(charge.figure)) / 100)
        self.assertEqual(mpf(told["charge"]), share)
        self.assertLess(abs(mpf(told["payoff"]) - mpf(told["owed"]) - share), mpf("0.001"))
        moved = flows(content, answer.schedule[:number], mpf(told["payoff"]))
        size = sum(abs(amount) for _, amount in moved)
        rate = mpf(told["yearly_cost"]["eu_aprc"]) / 100
        self.assertLess(abs(self.present_value(moved, rate)), size * mpf("1e-8"))
        cost = -sum(amount for _, amount in moved)
        self.assertLess(abs(mpf(told["total_cost"]) - cost), mpf("0.006"))

    @given(placed())
    @settings(deadline=None, max_examples=60)
    def test_on_dates(self, both: tuple[dict[str, Any], dict[str, Any]]) -> None:
        """By number and by day the same; the number's is put back."""
        by_number, by_day = (loans.solve(loans.check(content)) for content in both)
        self.assertEqual(by_number.yearly_cost, by_day.yearly_cost)
        self.assertEqual(by_number.costs, by_day.costs)
        self.assertEqual(by_number.carrying, by_day.carrying)

    @given(on_days(), st.booleans())
    @settings(deadline=None, max_examples=120)
    def test_with_money_on_days_between_payments(self, content: dict[str, Any], fee: bool) -> None:
        assume(content["every"] == "month")
        if fee:
            taken = {"at": content["start"], "fee": "150", "taken": "from-proceeds"}
            content = {**content, "clauses": [*content["clauses"], taken]}
        self.holds(content)


class ByHand(TestCase):
    def test_a_fee_after_the_end_is_none(self) -> None:
        """Repaid with payment 12, a fee at 24 is never taken: the cost is the interest alone."""
        found = solve(
            payment="938.82",
            clauses=[
                {"at": 12, "repay": "90000"},
                {"at": 24, "fee": "500", "taken": "apart"},
            ],
        )
        assert found.totals and found.costs
        self.assertEqual((len(found.schedule), found.totals["fees"]), (12, "0.00"))
        self.assertEqual(found.costs["total_cost"], found.totals["interest"])

    def test_settled_early_only_the_charges_until_then_are_paid(self) -> None:
        """10 a month apart: after 12 payments 120, beside the interest of these twelve."""
        content = document(clauses=[{"from": 1, "to": 60, "fee": "10", "taken": "apart"}])
        loan = loans.check(content)
        told = payoff_at(loan, "12", Charge(), PLAIN)
        interest = sum(Decimal(row["interest"]) for row in loans.solve(loan).schedule[:12])
        self.assertEqual(Decimal(told["total_cost"]), interest + 120)

    def test_settled_while_too_much_has_been_paid(self) -> None:
        """The one payment repays beforehand what is lent with the last: settled sooner it comes
        back, at the rate of the loan: 6.35 % / 12 a month."""
        content = document(
            principal="11999.99",
            rate={"percent": "6.35"},
            count=6,
            clauses=[{"at": 6, "advance": "20000"}, {"from": 2, "payment": "0"}],
        )
        told = payoff_at(loans.check(content), "2", Charge(), PLAIN)
        self.assertLess(Decimal(told["payoff"]), 0)
        self.assertAlmostEqual(float(told["yearly_cost"]["us_apr"] or 0), 6.35, places=2)

    def test_settled_in_advance_what_moves_after_it_does_not(self) -> None:
        terms = {**BY_DAYS, "timing": "in-advance", "count": 6}
        later, none = {"at": "2027-05-20", "advance": "700"}, Charge()
        without, beside = (
            payoff_at(loans.check(document(**terms, payment="500", clauses=each)), "3", none, PLAIN)
            for each in ([], [later])
        )
        self.assertEqual(without, beside)

    def test_an_advance_two_days_after_the_start(self) -> None:
        """10,000 on 1 March and 50,000 on the 3rd, repaid by two: the 50,000 move on the 3rd."""
        found = solve(
            **BY_DAYS,
            count=2,
            clauses=[{"at": "2027-03-03", "advance": "50000"}],
        )
        first, second = (mpf(row["payment"]) for row in found.schedule)
        expected = mp.findroot(
            lambda i: (
                10000
                + 50000 * (1 + i) ** (mpf(-2) / 365)
                - first * (1 + i) ** (mpf(-1) / 12)
                - second * (1 + i) ** (mpf(-2) / 12)
            ),
            0.07,
        )
        assert found.yearly_cost
        self.assertAlmostEqual(
            float(found.yearly_cost["eu_aprc"] or 0), float(100 * expected), places=8
        )

    def test_a_fee_added_on_a_day_is_not_received(self) -> None:
        """Added to what is owed it moves nothing: 10,000 are received, and a fee is told."""
        found = solve(
            **BY_DAYS,
            count=2,
            clauses=[{"at": "2027-03-15", "fee": "100", "taken": "added"}],
        )
        assert found.costs and found.totals
        self.assertEqual(found.costs["net_proceeds"], "10000.00")
        self.assertEqual(found.totals["fees"], "100.00")
        row = found.schedule[0]
        self.assertEqual((row.get("fee"), Decimal(row.get("advance") or 0)), ("100.00", 0))


class SettledOnADay(TestCase):
    """Ended between two payments: owed with interest to the day, rounded up, and no more."""

    def test_by_hand(self) -> None:
        """10,000 at 7.3 % over 365 is 2.00 a day: 100 days are 200.00."""
        loan = loans.check(document(**BY_DAYS, count=1, every="year", payment="?", balance="0"))
        told = payoff_at(loan, "9 Jun 2027", Charge(), PLAIN)
        self.assertEqual((told["owed"], told["payoff"]), ("10200.00", "10200.00"))
        self.assertEqual(told["total_cost"], "200.00")
        # One advance and one payment: 2 % over 100 days, 365 / 100 times a year. By Annex I three
        # months back from 9 June, then eight days of 365.
        self.assertAlmostEqual(float(told["yearly_cost"]["us_apr"] or 0), 7.3, 9)
        self.assertAlmostEqual(
            float(told["yearly_cost"]["eu_aprc"] or 0),
            100 * (1.02 ** (1 / (3 / 12 + 8 / 365)) - 1),
            9,
        )

    def test_between_payments_in_both_timings(self) -> None:
        for timing in ("in-arrears", "in-advance"):
            asked = loans.check(document(start="2027-03-01", timing=timing))
            on, after = (payoff_at(asked, at, Charge(), PLAIN) for at in ("1 Mar 2028", "12"))
            if timing == "in-arrears":
                self.assertEqual(on["payoff"], after["payoff"])
            later = payoff_at(asked, "16 Mar 2028", Charge(), PLAIN)
            self.assertGreater(Decimal(later["payoff"]), Decimal(on["payoff"]))
            # Costed at the loan's own rate, whenever it ends.
            for told in (on, later):
                rate = float(told["yearly_cost"]["eu_aprc"] or 0)
                self.assertAlmostEqual(rate, 6.4508, delta=0.02)

    def test_money_in_the_last_period_counts_if_it_has_moved(self) -> None:
        for timing in ("in-arrears", "in-advance"):
            clauses = [
                {"at": "2028-03-10", "advance": "5000"},
                {"at": "2028-03-20", "advance": "9000"},
            ]
            shape = {"start": "2027-03-01", "timing": timing, "payment": "900", "balance": "?"}
            asked = loans.check(document(**shape, clauses=clauses))
            told = payoff_at(asked, "16 Mar 2028", Charge(), PLAIN)
            rate = float(told["yearly_cost"]["eu_aprc"] or 0)
            self.assertAlmostEqual(rate, 6.4508, delta=0.02)
            before = payoff_at(asked, "9 Mar 2028", Charge(), PLAIN)
            self.assertGreater(Decimal(told["payoff"]), Decimal(before["payoff"]) + 5000)
            self.assertLess(Decimal(told["payoff"]), Decimal(before["payoff"]) + 5100)

    def test_refused_at_its_field(self) -> None:
        for at in ("", "0", "61", "12, 13", "1 Mar 2028", "soon"):
            with self.assertRaises(loans.NotALoan) as raised:
                payoff_at(loans.check(document()), at, Charge(), PLAIN)
            self.assertEqual({error.field for error in raised.exception.errors}, {"at"}, at)
