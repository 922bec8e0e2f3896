"""Charges beside the payment: insurance, taxes, service. By hand, and as laws."""

from decimal import ROUND_HALF_UP, Decimal
from typing import Any
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st
from scipy.optimize import brentq

from zephyrant import loans
from zephyrant.loans.questions.ending_charge import Charge
from zephyrant.loans.questions.payoff import payoff_at
from zephyrant.loans.said import read_line
from zephyrant.loans.statement import Statement, restate, work
from zephyrant.loans.statement.differences import changes
from zephyrant.loans.wording.marks import MARKS

from .documents import document, errors_of, irregular, solve

CENT = Decimal("0.01")
INSURANCE = {"from": 1, "charge": "18.50", "name": "insurance"}


def column(answer: loans.Answer, name: str) -> list[Decimal]:
    rows: list[Any] = answer.schedule
    return [Decimal(row[name]) for row in rows]


def without_charges(answer: loans.Answer) -> dict[str, Any]:
    """What charges leave as it is."""
    told = answer.model_dump()
    rows = [{name: row[name] for name in row if name != "charge"} for row in told["schedule"]]
    totals = {name: each for name, each in told["totals"].items() if name != "charges"}
    return {"value": told["value"], "rows": rows, "totals": totals, "rates": told["rates"]}


class ByHand(TestCase):
    def test_an_amount(self) -> None:
        answer, plain = solve(clauses=[INSURANCE]), solve()
        self.assertEqual(column(answer, "charge"), [Decimal("18.50")] * 60)
        assert answer.totals is not None
        # 60 x 18.50.
        self.assertEqual(answer.totals["charges"], "1110.00")
        self.assertEqual(answer.value, plain.value)
        self.assertEqual(without_charges(answer), without_charges(plain))
        self.assertIn("with charges payment 1 is 957.32", " ".join(answer.notes))
        self.assertEqual(answer.costs and answer.costs["total_cost"], "9189.38")

    def test_a_percent_of_the_balance_and_of_the_principal(self) -> None:
        # 0.4 % a year of each opening balance, a twelfth of it, to the nearest cent.
        of_balance = {"from": 1, "charge": {"percent": "0.4", "of": "balance"}}
        answer = solve(clauses=[of_balance])
        for opening, charge in zip(
            column(answer, "opening"), column(answer, "charge"), strict=True
        ):
            share = (opening * Decimal("0.004") / 12).quantize(CENT, ROUND_HALF_UP)
            self.assertEqual(charge, share)
        # 48,250 x 0.4 % / 12 = 16.08; of 4 quarters of them 48.25 each.
        of_principal = {"from": 3, "to": 5, "charge": {"percent": "0.4", "of": "principal"}}
        answer = solve(clauses=[of_principal])
        expected = [Decimal(0)] * 2 + [Decimal("16.08")] * 3 + [Decimal(0)] * 55
        self.assertEqual(column(answer, "charge"), expected)
        quarterly = solve(clauses=[of_principal], every="quarter", count=8)
        self.assertEqual(column(quarterly, "charge")[2], Decimal("48.25"))

    def test_paused_rows_and_the_end(self) -> None:
        """Collected while nothing is paid, too; not after the loan has ended."""
        clauses = [INSURANCE, {"from": 3, "to": 4, "pay": "nothing"}, {"at": 10, "repay": "90000"}]
        answer = solve(clauses=clauses, payment="938.82")
        self.assertEqual(len(answer.schedule), 10)
        self.assertEqual(column(answer, "charge"), [Decimal("18.50")] * 10)
        months = solve(
            start="2027-01-15", clauses=[{"from": 1, "months": [3], "charge": "120", "name": "tax"}]
        )
        charged = [row["date"] for row in months.schedule if Decimal(row["charge"])]
        self.assertEqual([day and day[5:] for day in charged], ["03-15"] * 5)

    def test_the_yearly_costs_count_it_unless_it_is_said_not_to(self) -> None:
        """Of a loan of regular months the EU cost is the effective rate at which payments with
        their charges are worth what is lent: found here by Brent's method of SciPy."""
        answer, plain = solve(clauses=[INSURANCE]), solve()
        flows = [float(each) + 18.5 for each in column(answer, "payment")]

        def worth(rate: float) -> float:
            return sum(flow * (1 + rate) ** (-k / 12) for k, flow in enumerate(flows, 1)) - 48_250

        yearly = 100 * brentq(worth, 0.0, 1.0, xtol=1e-14)
        assert answer.yearly_cost and plain.yearly_cost
        self.assertAlmostEqual(float(answer.yearly_cost["eu_aprc"] or 0), yearly, delta=1e-8)
        not_counted = solve(clauses=[{**INSURANCE, "in_costs": False}])
        self.assertEqual(not_counted.yearly_cost, plain.yearly_cost)
        self.assertEqual(not_counted.costs, plain.costs)
        # With fees and irregular days the general rule counts it all the same.
        fee = {"at": 0, "fee": "300"}
        with_fee = solve(clauses=[fee, INSURANCE], start="2027-01-15")
        dear = solve(clauses=[fee], start="2027-01-15")
        assert with_fee.yearly_cost and dear.yearly_cost
        self.assertGreater(
            Decimal(with_fee.yearly_cost["eu_aprc"] or 0),
            Decimal(dear.yearly_cost["eu_aprc"] or 0),
        )
        # The lender's yield and the carrying amounts are without it.
        self.assertEqual(with_fee.carrying, dear.carrying)
        assert with_fee.costs and dear.costs
        self.assertEqual(with_fee.costs["yield_nominal"], dear.costs["yield_nominal"])

    def test_ended_early(self) -> None:
        """What has been collected by then counts, no more: 12 x 18.50 = 222.00."""
        asked = loans.check(document(clauses=[INSURANCE]))
        plain = loans.check(document())
        ended = [payoff_at(each, "12", Charge(), loans.PLAIN) for each in (asked, plain)]
        self.assertEqual(ended[0]["payoff"], ended[1]["payoff"])
        more = Decimal(ended[0]["total_cost"]) - Decimal(ended[1]["total_cost"])
        self.assertEqual(more, Decimal("222.00"))

    def test_beside_styles_and_sum_of_digits(self) -> None:
        of_balance = {"from": 1, "charge": {"percent": "1.2", "of": "balance"}}
        for style in (
            {"repayment": "equal-principal"},
            {"repayment": "at-the-end"},
            {"interest_shared": "sum-of-digits"},
            {"amortized_over": 300},
        ):
            answer, plain = solve(**style, clauses=[of_balance]), solve(**style)
            for opening, charge in zip(
                column(answer, "opening"), column(answer, "charge"), strict=True
            ):
                self.assertEqual(charge, (opening / 1000).quantize(CENT, ROUND_HALF_UP))
            self.assertEqual(without_charges(answer), without_charges(plain))


class Laws(TestCase):
    @given(irregular(), st.integers(1, 40), st.sampled_from(["0", "7.25", "120"]))
    def test_charges_move_no_balance(self, content: dict[str, Any], at: int, charge: str) -> None:
        begins = min(at, content["count"])
        charged = {**content, "clauses": [*content["clauses"], {"from": begins, "charge": charge}]}
        try:
            plain, answer = (loans.solve(loans.check(each)) for each in (content, charged))
        except loans.NotALoan:
            return
        if plain.value is None or not plain.schedule:
            self.assertEqual(answer.reason, plain.reason)
            return
        self.assertEqual(without_charges(answer), without_charges(plain))
        total = sum(column(answer, "charge"))
        rows = max(0, len(answer.schedule) - begins + 1)
        self.assertEqual(total, Decimal(charge) * rows)

    @given(st.sampled_from(["principal", "rate", "count", "payment", "balance"]))
    def test_whatever_is_asked(self, name: str) -> None:
        stated: dict[str, Any] = {"payment": "940", name: "?"}
        if name == "rate":
            stated["rate"] = {"percent": "?"}
        plain, answer = solve(**stated), solve(**stated, clauses=[INSURANCE])
        self.assertEqual(answer.value, plain.value)
        gap = Decimal(answer.exact or 0) - Decimal(plain.exact or 0)
        self.assertLess(abs(gap), Decimal("1e-20"))


class SaidAndTyped(TestCase):
    def test_lines(self) -> None:
        balance = {"percent": "0.4", "of": "balance"}
        for said, clause in (
            ("insurance 18.50 a month", {"from": 1, "charge": "18.5", "name": "insurance"}),
            ("18.50 a month insurance", {"from": 1, "charge": "18.5", "name": "insurance"}),
            (
                "0.4 % of the balance insurance",
                {"from": 1, "charge": balance, "name": "insurance"},
            ),
            ("tax 40 a month from 13", {"from": 13, "charge": "40", "name": "tax"}),
            (
                "tax 40 a month, not counted in the yearly costs",
                {"from": 1, "charge": "40", "name": "tax", "in_costs": False},
            ),
        ):
            with self.subTest(said):
                line = read_line(f"43,700 at 5.4 % over 4 years, {said}")
                assert line.loan is not None, line.errors
                self.assertEqual(loans.write(line.loan)["clauses"], [clause])
                sentence = loans.terms_in_words(line.loan, MARKS["comma-point"])
                again = read_line(sentence)
                assert again.loan is not None, again.errors
                self.assertEqual(loans.write(again.loan)["clauses"], [clause])

    def test_what_changed_is_told_in_words(self) -> None:
        typed: dict[str, Any] = {"principal": "48,250", "percent": "6", "count": "12"}
        clause = {"verb": "charge", "from": "1", "is_stretch": True, "figure": "0.4"}
        more = {"in_percent": True, "name": "insurance", "in_costs": False}
        one = Statement.model_validate({**typed, "clauses": [clause]})
        other = Statement.model_validate({**typed, "clauses": [{**clause, **more}]})
        (told,) = changes(one, other, "comma-point")
        said = "charge 0.4 % of the balance for insurance, not counted in the yearly costs"
        self.assertIn(said, told)

    def test_typed_and_told_back(self) -> None:
        for clause in (
            {"verb": "charge", "from": "1", "is_stretch": True, "figure": "18.50"},
            {
                **{"verb": "charge", "from": "2", "to": "9", "is_stretch": True, "figure": "0.4"},
                **{"in_percent": True, "of": "principal", "name": "service", "in_costs": False},
            },
        ):
            typed = {"principal": "48,250", "percent": "6", "count": "12", "payment": "?"}
            worked = work(Statement.model_validate({**typed, "clauses": [clause]}))
            assert worked.document is not None, worked.errors
            again = restate(loans.check(worked.document), "comma-point")
            self.assertEqual(work(again).document, worked.document)


class BadInput(TestCase):
    def refused(self, field: str, says: str, clause: dict[str, Any], **changes: Any) -> None:
        found = errors_of(document(clauses=[clause], **changes))
        self.assertEqual(found[0][0], field, found)
        self.assertIn(says, found[0][1])

    def test_each_at_its_field(self) -> None:
        self.refused("clauses.0.charge", "is stated", {"from": 1, "charge": "?"})
        percent = {"percent": "?", "of": "balance"}
        self.refused("clauses.0.charge.percent", "is stated", {"from": 1, "charge": percent})
        wrong = {"percent": "1", "of": "rows"}
        self.refused("clauses.0.charge.of", "not known", {"from": 1, "charge": wrong})
        self.refused("clauses.0.charge.of", "missing", {"from": 1, "charge": {"percent": "1"}})
        self.refused("clauses.0.at", "numbered from 1", {"at": 0, "charge": "5"})
        self.refused("clauses.0.charge", "", {"from": 1, "charge": "-5"})
        self.refused("clauses.0.name", "goes with charge", {"at": 3, "repay": "5", "name": "x"})
        deal = {"count": 0, "payment": "0"}
        found = errors_of(
            document(**deal, clauses=[{"at": 3, "repay": "?"}, {"from": 1, "to": 3, "charge": "5"}])
        )
        self.assertEqual(found[0][0], "clauses.1.charge")
