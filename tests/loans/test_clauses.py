"""Clauses: every verb against an independent roll in mpmath, and the laws that hold of them."""

from decimal import Decimal
from typing import Any
from unittest import TestCase

from hypothesis import assume, given, settings
from hypothesis import strategies as st
from mpmath import mp, mpf

from zephyrant import loans

from . import reference
from .documents import BY_DAYS, document, errors_of, irregular, loan, solve


def pays(document: dict[str, Any], number: int, payment: mpf) -> mpf | str:
    """The payment at a number, as the document says it: from the text of the contract."""
    amount, best = payment, (-1, -1, -1)
    for index, clause in enumerate(document["clauses"]):
        if "payment" in clause and holds(clause, number):
            rank = (1 if "at" in clause else 0, clause.get("from", 0), index)
            if rank >= best:
                best, amount = rank, mpf(clause["payment"])
    for clause in document["clauses"]:
        if "step" in clause and number >= clause["from"]:
            last = min(number, clause.get("to", number))
            steps = (last - clause["from"]) // clause["every"] + 1
            if "percent" in clause["step"]:
                amount *= (1 + mpf(clause["step"]["percent"]) / 100) ** steps
            else:
                amount += mpf(clause["step"]["amount"]) * steps
    best_pay, told = (False, -1, -1), None
    for index, clause in enumerate(document["clauses"]):
        if "pay" in clause and holds(clause, number):
            # A place alone beats a stretch, then the later beginning, then the later in the list.
            rank_pay = ("at" in clause, clause.get("from", clause.get("at", 0)), index)
            if rank_pay >= best_pay:
                best_pay, told = rank_pay, clause["pay"]
    if told == "interest":
        return "interest"
    return mpf(0) if told == "nothing" else amount


def holds(clause: dict[str, Any], number: int) -> bool:
    if "at" in clause:
        return bool(clause["at"] == number)
    return bool(clause["from"] <= number <= clause.get("to", 10**9))


def rate_in(document: dict[str, Any], number: int) -> mpf:
    best, rate = (-1, -1), reference.rate_of_one_period(document)
    for index, clause in enumerate(document["clauses"]):
        if "rate" in clause and holds(clause, number) and (clause["from"], index) >= best:
            best = (clause["from"], index)
            rate = mpf(clause["rate"]["percent"]) / 100
    return rate


def moved(document: dict[str, Any], number: int, principal: mpf) -> mpf:
    """What a moment adds to what is owed, payments apart."""
    total = mpf(0)
    for clause in document["clauses"]:
        if not holds(clause, number):
            continue
        if "advance" in clause:
            total += mpf(clause["advance"])
        if "repay" in clause:
            total -= mpf(clause["repay"])
        if clause.get("taken") == "added":
            base = principal if number == 0 else mpf(0)
            for other in document["clauses"]:
                if "advance" in other and holds(other, number):
                    base += mpf(other["advance"])
            fee = clause["fee"]
            if isinstance(fee, dict):
                total += mpf(fee["percent"]) * (base or principal) / 100
            else:
                total += mpf(fee)
    return total


def rolled(document: dict[str, Any], **figures: Any) -> mpf:
    """What is owed at the end, period by period."""
    principal = mpf(figures.get("principal", document["principal"]))
    payment = mpf(figures.get("payment", document["payment"]))
    owed = principal + moved(document, 0, principal)
    for number in range(1, document["count"] + 1):
        rate = rate_in(document, number)
        paid = pays(document, number, payment)
        if document["timing"] == "in-arrears":
            interest = owed * rate
            owed += interest + moved(document, number, principal)
            owed -= interest if paid == "interest" else paid
        else:
            owed += moved(document, number, principal)
            owed -= owed * rate / (1 + rate) if paid == "interest" else paid
            owed *= 1 + rate
    return owed


def payment_of(content: dict[str, Any]) -> mpf | None:
    """The payment by two rolls; None where none is left to find."""
    at_zero, at_one = rolled(content, payment=0), rolled(content, payment=1)
    if abs(at_zero - at_one) < mpf("1e-20"):
        return None
    return (at_zero - mpf(content["balance"])) / (at_zero - at_one)


class AgainstARollInMpmath(TestCase):
    def near(self, found: str | None, expected: mpf) -> None:
        self.assertIsNotNone(found)
        self.assertLess(abs(mpf(found) - expected), mpf("1e-20") * (1 + abs(expected)))

    @given(irregular())
    @settings(deadline=None, max_examples=200)
    def test_the_payment_and_the_proof(self, content: dict[str, Any]) -> None:
        expected = payment_of(content)
        answer = loans.solve(loans.check(content))
        if expected is None:
            self.assertIn("no regular one is left", answer.reason or "")
            return
        if expected < 0:
            self.assertEqual(answer.solutions, ())
            return
        self.near(answer.exact, expected)
        assert answer.proof
        self.assertTrue(answer.proof["holds"], answer.proof)
        self.assertGreaterEqual(answer.proof["digits"], 20)

    @given(irregular(), st.integers(0, 4))
    @settings(deadline=None, max_examples=200)
    def test_any_figure_of_any_clause_leads_back(self, content: dict[str, Any], which: int) -> None:
        """Solving for a figure of a loan that ends as stated finds the one that stood there."""
        payment = payment_of(content)
        assume(payment is not None and payment > 1)
        place = which % len(content["clauses"])
        clause = dict(content["clauses"][place])
        verb = next(
            name
            for name in ("repay", "advance", "payment", "rate", "step", "fee", "pay")
            if name in clause
        )
        assume(verb not in ("pay", "rate"))
        if isinstance(clause[verb], dict):
            ((kind, stated),) = clause[verb].items()
            clause[verb], path = {kind: "?"}, f"clauses.{place}.{verb}.{kind}"
        else:
            stated, clause[verb], path = clause[verb], "?", f"clauses.{place}.{verb}"
        clauses = [*content["clauses"]]
        clauses[place] = clause
        asked = {**content, "payment": mp.nstr(payment, 40), "clauses": clauses}
        answer = loans.solve(loans.check(asked))
        self.assertEqual(answer.unknown, path)
        if answer.reason:
            # Overruled by another clause, or a fee that is not added: it moves nothing.
            changed = [*content["clauses"]]
            double = mpf(stated) * 2 + 1
            put = {
                **clause,
                verb: {kind: mp.nstr(double, 20)}
                if isinstance(clause[verb], dict)
                else mp.nstr(double, 20),
            }
            changed[place] = put
            before = rolled(content, payment=payment)
            after = rolled({**content, "clauses": changed}, payment=payment)
            self.assertLess(abs(before - after), mpf("1e-15"))
            return
        self.assertLess(abs(mpf(answer.exact) - mpf(stated)), mpf("1e-12"))

    @given(irregular())
    @settings(deadline=None, max_examples=80)
    def test_the_rate_leads_back_and_every_root_closes_the_loan(
        self, content: dict[str, Any]
    ) -> None:
        payment = payment_of(content)
        assume(payment is not None and payment > 1)
        stated = content["rate"]["percent"]
        asked = {**content, "payment": mp.nstr(payment, 40), "rate": {"percent": "?"}}
        answer = loans.solve(loans.check(asked))
        if "every rate fits" in (answer.reason or ""):
            for percent in ("1", "30"):
                other = {**content, "rate": {"percent": percent}}
                left = rolled(other, payment=payment) - mpf(content["balance"])
                self.assertLess(abs(left), mpf("1e-15"))
            return
        self.assertTrue(answer.solutions, answer.reason)
        gaps = [abs(mpf(each) - mpf(stated)) for each in answer.solutions]
        self.assertLess(min(gaps), mpf("1e-9"))
        for each in answer.solutions:
            found = {**content, "rate": {"percent": each}}
            left = rolled(found, payment=payment) - mpf(content["balance"])
            self.assertLess(abs(left), mpf("1e-6") * mpf(content["principal"]))

    @given(irregular())
    @settings(deadline=None, max_examples=80)
    def test_rows_add_up_and_the_last_closes(self, content: dict[str, Any]) -> None:
        answer = loans.solve(loans.check(content))
        owed = None
        for row in answer.schedule:
            told = {
                name: Decimal(str(row.get(name) or 0))
                for name in (
                    "opening",
                    "interest",
                    "principal",
                    "payment",
                    "closing",
                    "advance",
                    "repay",
                    "fee",
                )
            }
            if owed is not None:
                self.assertEqual(told["opening"], owed)
            self.assertEqual(told["interest"] + told["principal"], told["payment"] + told["repay"])
            owed = told["opening"] + told["advance"] + told["fee"] - told["principal"]
            self.assertEqual(told["closing"], owed)
        if answer.proof:
            self.assertTrue(answer.proof["holds"], answer.proof)


class Laws(TestCase):
    @given(irregular(), st.sampled_from(["repay", "advance", "fee"]), st.integers(1, 3))
    @settings(deadline=None, max_examples=60)
    def test_a_clause_of_nothing_changes_nothing(
        self, content: dict[str, Any], verb: str, at: int
    ) -> None:
        nothing = {"at": at, verb: "0", **({"taken": "added"} if verb == "fee" else {})}
        with_it = {**content, "clauses": [*content["clauses"], nothing]}
        before, after = (loans.solve(loans.check(each)) for each in (content, with_it))
        self.assertEqual((before.exact, before.reason), (after.exact, after.reason))
        closings = [[row["closing"] for row in each.schedule] for each in (before, after)]
        self.assertEqual(closings[0], closings[1])

    def test_a_level_loan_split_into_clauses_is_the_same_loan(self) -> None:
        whole = solve(payment="938.82", balance="?")
        half = {"percent": "6.35", "quoted": "nominal", "compounding": "half-year"}
        split = solve(
            payment="1",
            balance="?",
            rate={"percent": "1"},
            clauses=[
                {"from": 1, "to": 30, "payment": "938.82"},
                {"from": 31, "payment": "938.82"},
                {"from": 1, "to": 20, "rate": half},
                {"from": 21, "rate": half},
            ],
        )
        self.assertEqual(whole.exact, split.exact)
        self.assertEqual(whole.schedule, split.schedule)
        alone = solve(
            count=0, payment=None, balance="?", clauses=[{"from": 1, "to": 60, "repay": "938.82"}]
        )
        self.assertEqual(alone.exact, whole.exact)

    @given(irregular(), st.data())
    @settings(deadline=None, max_examples=40)
    def test_cut_anywhere_and_carried_on_it_ends_the_same(
        self, content: dict[str, Any], data: st.DataObject
    ) -> None:
        """Stopped at k and gone on from the unrounded balance there, a loan ends where it did."""
        assume(not any("step" in each or "fee" in each for each in content["clauses"]))
        cut = data.draw(st.integers(1, content["count"] - 1))
        stated = {**content, "payment": "700", "balance": "?"}
        rest_count = content["count"] - cut

        def shifted(clause: dict[str, Any]) -> dict[str, Any] | None:
            moved_on = dict(clause)
            for name in ("at", "from", "to"):
                if name in moved_on:
                    moved_on[name] -= cut
            if "at" in moved_on:
                return moved_on if moved_on["at"] >= 1 else None
            if moved_on.get("to", 1) < 1:
                return None
            moved_on["from"] = max(1, moved_on["from"])
            return moved_on

        # Stretches that began earlier keep the order in which they began.
        early = sorted(content["clauses"], key=lambda each: each.get("from", 0))
        first = [each for each in content["clauses"] if each.get("at", each.get("from")) <= cut]
        head = {
            **stated,
            "count": cut,
            "clauses": [
                {**each, **({"to": min(each.get("to", cut), cut)} if "from" in each else {})}
                for each in first
            ],
        }
        owed = loans.solve(loans.check(head)).exact
        assume(owed is not None and not owed.startswith("-"))
        tail = {
            **stated,
            "principal": owed,
            "count": rest_count,
            "clauses": [each for each in map(shifted, early) if each],
        }
        whole, rest = (loans.solve(loans.check(each)) for each in (stated, tail))
        assume(whole.exact is not None and rest.exact is not None)
        self.assertLess(abs(mpf(whole.exact) - mpf(rest.exact)), mpf("1e-15"))


class SetAnew(TestCase):
    def test_keeps_the_end(self) -> None:
        # 40,000 at 7.1 %: 60 payments; from payment 25 at 6.4 %, the rest repaid by 36: by hand.
        i, later = mpf("0.071") / 12, mpf("0.064") / 12
        first = 40000 * i / (1 - (1 + i) ** -60)
        paid = mpf(mp.nstr(first, 5))
        owed = 40000 * (1 + i) ** 24 - paid * ((1 + i) ** 24 - 1) / i
        again = owed * later / (1 - (1 + later) ** -36)
        found = solve(
            principal="40000",
            rate={"percent": "7.1"},
            clauses=[{"from": 25, "rate": {"percent": "6.4"}, "then": "re-level"}],
        )
        self.assertLess(abs(mpf(found.exact or 0) - first), mpf("1e-20"))
        self.assertEqual(found.schedule[23]["payment"], mp.nstr(first, 5))
        self.assertEqual(found.schedule[24]["payment"], mp.nstr(again, 5))
        self.assertEqual((len(found.schedule), found.schedule[-1]["closing"]), (60, "0.00"))

    def test_without_it_the_end_moves(self) -> None:
        kept = solve(
            payment="938.82", balance="0", clauses=[{"at": 12, "repay": "5000"}], count="?"
        )
        self.assertLess(int(kept.value or 0), 60)
        anew = solve(clauses=[{"at": 12, "repay": "5000", "then": "re-level"}])
        self.assertEqual(len(anew.schedule), 60)
        self.assertLess(Decimal(anew.schedule[12]["payment"]), Decimal(anew.schedule[0]["payment"]))

    def test_what_it_leaves_nothing_to_find_of(self) -> None:
        found = solve(
            payment="900",
            principal="?",
            clauses=[{"at": 12, "repay": "5000", "then": "re-level"}],
        )
        self.assertIn("set anew", found.reason or "")


class OnDates(TestCase):
    def test_between_two_payments_by_days(self) -> None:
        # 10,000 at 7.3 % by actual/365 on 1 March; 1,000 more on 16 March: 62.00 + 3.20 on 1 April.
        found = solve(
            **BY_DAYS,
            payment="500",
            balance="?",
            count=2,
            clauses=[{"at": "2027-03-16", "advance": "1000"}],
        )
        row = found.schedule[0]
        self.assertEqual((row["interest"], row.get("advance")), ("65.20", "1000.00"))
        self.assertEqual(row["closing"], "10565.20")

    def test_a_rate_from_a_day(self) -> None:
        # 15 days at 7.3 %, 16 at 3.65 %: 30.00 + 16.00.
        found = solve(
            **BY_DAYS,
            payment="500",
            balance="?",
            count=2,
            clauses=[{"from": "2027-03-16", "rate": {"percent": "3.65"}}],
        )
        self.assertEqual(found.schedule[0]["interest"], "46.00")

    def test_of_two_rates_the_one_that_begins_later(self) -> None:
        """However they are listed: a day at 7.3 %, 30 at 3.65 %, then none."""
        later, sooner = (
            {"from": "2027-04-01", "rate": {"percent": "0"}},
            {"from": "2027-03-02", "rate": {"percent": "3.65"}},
        )
        for clauses in ([later, sooner], [sooner, later]):
            found = solve(
                **BY_DAYS,
                payment="500",
                balance="?",
                count=2,
                clauses=clauses,
            )
            self.assertEqual([row["interest"] for row in found.schedule], ["32.00", "0.00"])

    def test_set_anew_from_a_day_as_from_the_period_that_begins_on_it(self) -> None:
        for timing in ("in-arrears", "in-advance"):
            by_day, by_number = (
                solve(
                    start="2027-03-01",
                    timing=timing,
                    clauses=[{"from": begin, "rate": {"percent": "9"}, "then": "re-level"}],
                )
                for begin in ("2027-05-01", 3)
            )
            with self.subTest(timing):
                self.assertEqual(
                    [row["payment"] for row in by_day.schedule][:4],
                    [row["payment"] for row in by_number.schedule][:4],
                )

    def test_winter_months(self) -> None:
        found = solve(start="2027-03-01", clauses=[{"months": [12, 1, 2], "pay": "nothing"}])
        paid = {
            row["date"][5:7] for row in found.schedule if Decimal(row["payment"]) and row["date"]
        }
        self.assertEqual(paid & {"12", "01", "02"}, set())

    def test_a_day_that_is_a_payments_own(self) -> None:
        by_day = solve(start="2027-03-01", clauses=[{"at": "2028-03-01", "repay": "5000"}])
        by_number = solve(start="2027-03-01", clauses=[{"at": 12, "repay": "5000"}])
        self.assertEqual(by_day.schedule, by_number.schedule)


class Fees(TestCase):
    def test_points_raise_what_the_money_costs(self) -> None:
        # Common practice, no source: 2 points on 48,250 are 965, kept back from the proceeds. The
        # cost is the rate of 47,285 repaid by the same payments, by mpmath.
        found = solve(clauses=[{"at": 0, "fee": {"percent": "2"}, "taken": "from-proceeds"}])
        self.assertEqual(found.value, "938.82")
        assert found.costs and found.yearly_cost and found.totals
        self.assertEqual(
            (found.costs["net_proceeds"], found.totals["fees"]), ("47285.00", "965.00")
        )
        flows = [mpf("938.82")] * 59 + [mpf("939.00")]
        rate = mp.findroot(
            lambda i: sum(a / (1 + i) ** k for k, a in enumerate(flows, 1)) - 47285, 0.005
        )
        self.assertLess(abs(mpf(found.yearly_cost["us_apr"] or 0) - 1200 * rate), mpf("1e-8"))
        self.assertLess(
            abs(mpf(found.costs["yield_effective"] or 0) - 100 * ((1 + rate) ** 12 - 1)),
            mpf("1e-8"),
        )
        self.assertEqual(len(found.carrying), 60)
        self.assertLess(abs(Decimal(found.carrying[-1])), Decimal("0.02"))
        carried = 47285 * (1 + rate) - flows[0]
        self.assertEqual(found.carrying[0], mp.nstr(carried, 7))

    def test_a_charge_each_quarter(self) -> None:
        found = solve(clauses=[{"from": 3, "to": 60, "fee": "25", "taken": "apart"}])
        assert found.totals and found.yearly_cost
        self.assertEqual(found.totals["fees"], "1450.00")
        self.assertGreater(float(found.yearly_cost["eu_aprc"] or 0), 6.46)

    def test_of_an_advance_between_two_payments(self) -> None:
        """2 % of the 1,000 advanced on that day, not of the principal; 17 days of both follow."""
        found = solve(
            **BY_DAYS,
            payment="500",
            balance="?",
            count=2,
            clauses=[
                {"at": "2027-03-15", "advance": "1000"},
                {"at": "2027-03-15", "fee": {"percent": "2"}, "taken": "added"},
            ],
        )
        # 10,000 over 31 days and 1,020 over 17, at 7.3 %: 62.00 + 3.468.
        row = found.schedule[0]
        self.assertEqual((row["interest"], row["closing"]), ("65.47", "10585.47"))

    def test_of_an_advance_that_is_asked_for(self) -> None:
        """A fee in percent of the very advance: 1,000 and its 2 % are repaid at once, by hand."""
        found = solve(
            principal="1000",
            rate={"percent": "1", "quoted": "periodic"},
            count=2,
            # 1,010 and 1,020 at 1 % are owed after the second period, paid then.
            payment=str(Decimal("2030") * Decimal("1.01")),
            clauses=[
                {"at": 1, "pay": "nothing"},
                {"at": 1, "advance": "?"},
                {"at": 1, "fee": {"percent": "2"}, "taken": "added"},
            ],
        )
        self.assertEqual((found.reason, found.value), (None, "1000.00"))

    def test_which_way_it_is_taken(self) -> None:
        added = solve(clauses=[{"at": 0, "fee": "1000", "taken": "added"}])
        self.assertEqual(added.schedule[0]["opening"], "49250.00")
        for taken in ("from-proceeds", "apart"):
            same = solve(clauses=[{"at": 0, "fee": "1000", "taken": taken}])
            self.assertEqual(same.value, "938.82")
        asked = solve(payment="900", clauses=[{"at": 0, "fee": "?", "taken": "apart"}])
        self.assertIn("does not change what is owed", asked.reason or "")


class Refused(TestCase):
    def test_each_at_its_field(self) -> None:
        cases: list[tuple[dict[str, Any], str]] = [
            ({}, ""),
            ({"at": 5}, ""),
            ({"repay": "5"}, "at"),
            ({"at": 5, "from": 7, "repay": "5"}, "at"),
            ({"at": 5, "repay": "5", "advance": "7"}, "advance"),
            ({"from": 9, "to": 7, "repay": "5"}, "to"),
            ({"at": 61, "repay": "5"}, "at"),
            ({"from": 5, "to": 61, "repay": "5"}, "to"),
            ({"at": "2027-03-01", "repay": "5"}, "at"),
            ({"months": [1], "pay": "nothing"}, "months"),
            ({"months": [13], "pay": "nothing"}, "months.0"),
            ({"at": 0, "payment": "5"}, "at"),
            ({"at": 5, "rate": {"percent": "5"}}, "at"),
            ({"from": 5, "rate": {"percent": "5", "quoted": "flat"}}, "rate.quoted"),
            ({"from": 5, "rate": {"percent": "-1300"}}, "rate.percent"),
            ({"from": 5, "step": {}}, "step"),
            ({"from": 5, "step": {"percent": "1", "amount": "1"}}, "step"),
            ({"at": 5, "repay": "5", "taken": "added"}, "taken"),
            ({"at": 5, "payment": "5", "then": "re-level"}, "then"),
            ({"at": 5, "pay": "half"}, "pay"),
            ({"at": 5, "repay": "-5"}, "repay"),
            ({"at": -1, "repay": "5"}, "at"),
            ({"at": 5, "fee": "5", "taken": "later"}, "taken"),
            ({"at": 5, "surplus": "5"}, "surplus"),
        ]
        for clause, field in cases:
            with self.subTest(**clause):
                found = errors_of(document(clauses=[clause]))
                self.assertTrue(found)
                self.assertIn(f"clauses.0.{field}".rstrip("."), [name for name, _ in found])

    def test_a_thousand_clauses(self) -> None:
        clauses = [{"at": at % 60 + 1, "repay": "1"} for at in range(1000)]
        self.assertTrue(solve(clauses=clauses).value)
        self.assertEqual(errors_of(document(clauses=[*clauses, clauses[0]]))[0][0], "clauses")

    def test_more_repaid_than_is_owed_ends_the_loan(self) -> None:
        found = solve(payment="938.82", balance="0", clauses=[{"at": 3, "repay": "90000"}])
        self.assertEqual((len(found.schedule), found.schedule[-1]["closing"]), (3, "0.00"))

    def test_the_order_of_clauses_does_not_matter_where_they_do_not_overlap(self) -> None:
        clauses = [{"at": 30, "repay": "500"}, {"from": 2, "to": 9, "pay": "interest"}]
        self.assertEqual(
            solve(clauses=clauses).schedule, solve(clauses=[*reversed(clauses)]).schedule
        )

    def test_round_trips(self) -> None:
        for clause in (
            {"from": 3, "to": 9, "months": [1, 2], "pay": "interest"},
            {"at": "2027-05-17", "advance": "5000"},
            {"from": 13, "step": {"percent": "-3"}, "every": 6},
        ):
            whole = loan(start="2027-03-01", clauses=[clause])
            self.assertEqual(loans.check(loans.write(whole)), whole)
            self.assertEqual(loans.write(whole)["clauses"], [clause])
