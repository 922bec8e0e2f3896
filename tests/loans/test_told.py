"""What people are told: an answer in their marks, where what they typed stands, what can be chosen.

The figures are those of other tests, which say where they come from; here it is how they are told.
"""

from decimal import Decimal
from fractions import Fraction
from itertools import product
from typing import Any, ClassVar, get_args
from unittest import TestCase

from hypothesis import given
from pydantic import BaseModel

from zephyrant.loans import (
    AIMS,
    CONVENTIONS,
    OF_360_DAYS,
    PERIODS,
    QUOTINGS,
    RESULTS_NAMED,
    Loan,
    check,
    choices,
    facts_of,
    frequencies,
    solve,
)
from zephyrant.loans.document.aim import Aim
from zephyrant.loans.document.clauses import VERBS, Clause
from zephyrant.loans.document.parts import Rounding
from zephyrant.loans.quotes.styles import Style, Time
from zephyrant.loans.statement import Statement, work
from zephyrant.loans.statement.differences import differing, stated_in_words
from zephyrant.loans.statement.entries import ENTRIES, figures_of, typed_at
from zephyrant.loans.statement.restating import restate
from zephyrant.loans.statement.telling import Told
from zephyrant.loans.statement.variations import Varied, vary
from zephyrant.loans.wording.marks import MARKS

from .documents import document, irregular, loan


def typed(**changes: Any) -> Statement:
    """The cider press as a German types it."""
    return restate(loan(**changes), "point-comma")


def told(statement: Statement) -> Told:
    """What is told of a statement's answer."""
    worked = work(statement)
    assert worked.told is not None, worked.errors
    return worked.told


def facts(statement: Statement) -> dict[str, str]:
    """The facts by what they are called."""
    return {fact.title: fact.text for fact in told(statement).facts}


class Answers(TestCase):
    def test_a_figure_in_the_reader_s_marks(self) -> None:
        found = told(typed())
        self.assertEqual(
            (found.value, found.typed, found.exact), ("938,82", "938,82", "938,822994396")
        )
        self.assertEqual(
            found.columns, ("number", "opening", "interest", "principal", "payment", "closing")
        )
        self.assertIsNone(found.left)

    def test_a_rate_to_six_decimals_and_typed_whole(self) -> None:
        # 17,840 over 48 payments of 431.90: SciPy's brentq gives 7.5658429724 %.
        kiln = typed(principal="17840", rate={"percent": "?"}, count=48, payment="431.90")
        found = told(kiln)
        self.assertEqual((found.value, found.typed), ("7,565843", "7,5658429724"))

    def test_what_comes_of_it(self) -> None:
        self.assertEqual(
            facts(typed()),
            {
                "Total paid": "56.329,38",
                "Total interest": "8.079,38",
                "Last payment": "939,00",
                "Rate of one payment period": "0,5223 %",
                "Nominal rate a year": "6,2676 %",
                "Effective rate a year": "6,4508 %",
                "US actuarial APR, nominal": "6,2676 %",
                "EU APRC, effective": "6,4508 %",
            },
        )

    def test_where_clauses_set_a_rate_the_terms_are_told_as_such(self) -> None:
        there = facts(typed(clauses=[{"from": 13, "rate": {"percent": "7"}}]))
        self.assertIn("Rate of one payment period, first", there)
        self.assertIn("Last payment, number 60", there)

    def test_it_is_said_which_payment_it_is_where_clauses_change_some(self) -> None:
        pause = {"from": 1, "to": 12, "pay": "interest"}
        grows = {"from": 13, "step": {"percent": "3"}, "every": 12}
        for clauses, asks in (
            ([], "Each monthly payment is"),
            ([{"at": 0, "fee": "100"}], "Each monthly payment is"),
            ([pause], "From payment 13 the monthly payment is"),
            ([grows], "The first monthly payment is"),
        ):
            self.assertEqual(solve(loan(clauses=clauses)).asks, asks)

    def test_where_nothing_is_paid_no_payment_is_told(self) -> None:
        saved = typed(payment="0", balance="?", we="put-aside")
        self.assertNotIn("Last payment", facts(saved))
        self.assertNotIn("Total paid", facts(saved))
        left = told(saved).left
        assert left is not None
        self.assertEqual(left.title, "There at the end")

    def test_fees_and_further_lending_have_costs(self) -> None:
        names = ("Net proceeds", "Cost of each 1,000 lent", "Lender’s yield, effective a year")
        fee = {"at": 0, "fee": "100", "taken": "from-proceeds"}
        for clauses, tell in (([], False), ([fee], True), ([{"at": 3, "advance": "10"}], True)):
            there = facts(typed(clauses=clauses))
            self.assertEqual([name in there for name in names], [tell] * 3)
        self.assertEqual(facts(typed(clauses=[fee]))["Net proceeds"], "48.150,00")

    def test_what_is_left(self) -> None:
        for balance, clauses, short in (
            ("9650", [], "9.650,00 left"),
            ("0", [{"at": 2, "repay": "60000"}], "overpaid"),
        ):
            shown = {"payment": "nearest", "overpaid": "shown"}
            given = typed(
                balance=balance, payment="900", count="?", clauses=clauses, rounding=shown
            )
            if balance != "0":
                given = typed(balance=balance)
            left = told(given).left
            assert left
            self.assertIn(short, left.short)

    def test_what_would_fit_stands_where_it_is_typed(self) -> None:
        stated = told(typed(payment="938.82"))
        self.assertEqual(
            [each.entry for each in stated.would_fit],
            ["principal", "percent", "count", "payment", "balance"],
        )
        rate = stated.would_fit[1].text
        assert rate
        self.assertIn(" % a year, nominal, compounded half-yearly", rate)
        bought = {"price": "60000", "down": {"amount": "11750"}}
        terms = document(payment="938.82", purchase=bought)
        terms.pop("principal")
        entries = [each.entry for each in told(restate(check(terms), "plain")).would_fit]
        # What is lent follows from the price, and is found by it.
        self.assertEqual(entries[0], "price")

    def test_an_aim_is_told_and_can_be_taken(self) -> None:
        aim = {"figure": "payment", "is": "900", "by": "principal"}
        found = told(typed(aim=aim)).aim
        assert found
        assert found.take
        # 900 over 938.822994395... of 48,250.
        self.assertEqual(
            (found.entry, found.title, found.unit), ("principal", "amount lent", "EUR")
        )
        self.assertEqual((found.value, found.take.typed), ("46.254,73", "46.254,73"))
        never = {"figure": "effective", "is": "400", "by": "principal"}
        nothing = work(typed(aim=never))
        assert nothing.told
        assert nothing.told.aim
        self.assertIsNone(nothing.told.aim.value)

    def test_clauses_stand_on_the_line(self) -> None:
        dated: dict[str, Any] = {"start": "2027-03-01"}
        for clause, text, places in (
            ({"at": 12, "repay": "5000"}, "repaid 5.000,00", (12, 12)),
            ({"at": "2028-03-01", "repay": "50"}, "repaid 50,00", (12, 12)),
            ({"at": "2028-03-02", "repay": "50"}, "repaid 50,00", (13, 13)),
            ({"from": 13, "to": 24, "pay": "interest"}, "interest only", (13, 24)),
            ({"from": 13, "rate": {"percent": "7"}}, "rate 7,00", (13, 60)),
            ({"months": [1], "pay": "nothing"}, "nothing paid, some months", (1, 60)),
            ({"at": 0, "fee": {"percent": "1"}}, "fee 1", (0, 0)),
        ):
            (placed,) = told(typed(**dated, clauses=[clause])).clauses
            self.assertEqual((placed.text, (placed.first, placed.last)), (text, places))


class Columns(TestCase):
    def held(self, terms: dict[str, Any]) -> None:
        """Every amount of a column is that of its row."""
        asked = check(terms)
        answer = solve(asked)
        if answer.laid is None:
            self.assertEqual(answer.schedule, [])
            return
        columns = answer.laid.columns_told
        rows: list[Any] = answer.schedule
        self.assertEqual(columns.number, [row["number"] for row in rows])
        self.assertEqual(columns.date or [None] * len(rows), [row["date"] for row in rows])
        for name, amounts in columns.money.items():
            texts: list[str] = (
                [row[name] for row in rows] if name != "carrying" else [*answer.carrying]
            )
            for amount, text in zip(amounts, texts, strict=True):
                whole = Decimal(str(amount))
                if isinstance(amount, int):
                    whole = whole.scaleb(-asked.decimals)
                self.assertEqual(whole, Decimal(text))

    @given(irregular())
    def test_amounts_are_those_of_the_rows(self, terms: dict[str, Any]) -> None:
        self.held(terms)

    def test_what_is_finer_or_larger_than_units_stays_a_text(self) -> None:
        fee = [{"at": 0, "fee": "10", "taken": "apart"}]
        for changes, kind in (
            ({}, int),
            ({"clauses": fee}, int),
            ({"currency": "JPY", "principal": "48250"}, int),
            ({"currency": "KWD"}, int),
            ({"principal": "99999999999999"}, str),
            ({"rounding": {"payment": "none", "interest": "none"}}, str),
        ):
            laid = solve(loan(**changes)).laid
            assert laid
            self.assertIsInstance(laid.columns_told.money["closing"][0], kind, changes)
            self.held(document(**changes))


class WhereItIsTyped(TestCase):
    @given(irregular())
    def test_every_figure_of_a_document_has_its_entry(self, terms: dict[str, Any]) -> None:
        asked = check(terms)
        figures = figures_of(restate(asked, "plain"))
        paths = {str(figure.path): figure.entry for figure in figures}
        self.assertLessEqual(set(asked.paths()), set(paths))
        for path, entry in paths.items():
            self.assertEqual(typed_at(path), entry)

    def test_every_entry_that_can_be_wrong_is_named(self) -> None:
        clauses = [
            {"verb": "rate", "is_stretch": True, "quoted": "simple", "from": "x", "to": "y"},
            {"verb": "step", "is_stretch": True, "every": "z"},
            {"verb": "repay", "at": "q"},
        ]
        wrong = work(
            Statement.model_validate(
                {
                    "quoted": "discount",
                    "is_purchase": True,
                    "start": "someday",
                    "first_payment": "later",
                    "aim": {"figure": "count", "by": "principal"},
                    "clauses": clauses,
                }
            )
        )
        fields = {error.field for error in wrong.errors}
        self.assertGreater(len(fields), 12)
        for field in fields:
            head, _, tail = field.partition(".")
            entry = f"{head}.{tail.partition('.')[2]}" if head == "clauses" else field
            self.assertIn(entry, ENTRIES, field)


class Chosen(TestCase):
    #: What a document lets one choose, and its words.
    CHOICES: ClassVar[list[tuple[type[BaseModel], str, dict[Any, choices.Choice]]]] = [
        (Loan, "timing", {**choices.TIMING}),
        (Loan, "day_count", {**choices.DAY_COUNTS}),
        (Loan, "odd_days", {**choices.ODD_DAYS}),
        (Rounding, "payment", {**choices.PAYMENT_ROUNDING}),
        (Rounding, "interest", {**choices.INTEREST_ROUNDING}),
        (Rounding, "overpaid", {**choices.OVERPAID}),
    ]

    def test_every_choice_of_a_document_has_words(self) -> None:
        for model, name, words in self.CHOICES:
            self.assertEqual(set(get_args(model.model_fields[name].annotation)), set(words))
        self.assertEqual(set(choices.VERBS_NAMED), set(VERBS))

    def test_verbs_that_hold_for_a_stretch_are_refused_at_a_payment(self) -> None:
        figure: dict[str, Any] = {
            "repay": "1",
            "advance": "1",
            "rate": {"percent": "5"},
            "payment": "1",
            "pay": "nothing",
            "step": {"percent": "5"},
            "fee": "1",
            "charge": "1",
        }
        for verb, words in choices.VERBS_NAMED.items():
            for place, extra in product(("at", "from"), ({}, {"then": "re-level"})):
                fine = not (words.is_stretch and place == "at")
                fine &= not extra or words.may_level
                content = {place: 3, verb: figure[verb], **extra}
                try:
                    Clause.model_validate(content)
                    taken = True
                except ValueError:
                    taken = False
                self.assertEqual(taken, fine, content)

    def test_every_style_can_be_chosen_and_said(self) -> None:
        self.assertEqual({each.quoted for each in QUOTINGS}, set(CONVENTIONS))
        nominal = [each.compounding for each in QUOTINGS if each.quoted == "nominal"]
        self.assertEqual(nominal, [None, *PERIODS])
        time = Time(number=Fraction(90), period="day")
        for name, convention in CONVENTIONS.items():
            style = Style(name, "half-year", "month", over=time, year_days=360, payments=60)
            said = (convention.said + convention.needs).format(
                compounded=frequencies.compounded("half-year"),
                noun="month",
                over="90 days",
                payments="60 monthly payments",
            )
            after = f", {OF_360_DAYS}" if convention.is_scaled else ""
            self.assertEqual(style.in_words(), said + after)

    def test_whatever_can_be_aimed_at_has_a_name(self) -> None:
        for name in AIMS:
            placed = {"balance": "balance@12", "interest": "interest@1-12"}.get(name, name)
            value = "2030-01-01" if name == "end_date" else "1"
            Aim.model_validate({"figure": placed, "is": value, "by": "principal"})
            self.assertTrue(RESULTS_NAMED[name].title)


class Differences(TestCase):
    def test_what_two_versions_say_otherwise(self) -> None:
        one = typed()
        other = one.model_copy(
            update={"principal": "50.000", "quoted": "effective", "compounding": None}
        )
        self.assertEqual(
            [each[:4] for each in differing(one, other, "point-comma")],
            [
                ("principal", "amount lent", "48.250,00", "50.000,00"),
                ("quote", "quoted", "nominal, compounded half-yearly", "effective"),
            ],
        )
        quote = differing(one, other, "plain")[1]
        self.assertEqual(quote.fields, ("quoted", "compounding", "over", "year_days"))

    def test_what_is_not_whole_is_told_by_its_figures(self) -> None:
        half = Statement(principal="48k", percent="lots", count="5 years", payment="?")
        self.assertEqual(
            stated_in_words(half, "comma-point"),
            "amount lent 48,000.00; rate “lots”; number of payments 60; payment ?; "
            "balance at the end 0.00",
        )


class Sweeps(TestCase):
    def test_a_sweep_as_it_is_read(self) -> None:
        varied = [Varied(path="rate.percent", typed="6,1; 6,35; 6,6")]
        swept = vary(typed(), varied, ["answer", "effective"])
        read = swept.told
        self.assertEqual(read.titles, ("rate",))
        self.assertEqual((read.values, read.stands), ((("6,1 %", "6,35 %", "6,6 %"),), (1,)))
        self.assertEqual(read.results["answer"][1], ["938,82"])
        # (1 + 0.0635/2)^2 - 1.
        self.assertEqual(read.results["effective"][1], ["6,450806 %"])
        self.assertEqual(read.small_changes.rows[0].title, "amount lent + 1.000,00")
        self.assertTrue(read.small_changes.rows[0].cells[1].startswith("+"))

    def test_an_end_date_is_a_day(self) -> None:
        varied = [Varied(path="count", typed="12; 24")]
        swept = vary(typed(start="2027-03-01", count=60), varied, ["end_date"])
        self.assertEqual(swept.told.results["end_date"], [["1 Mar 2028"], ["1 Mar 2029"]])


class InFiles(TestCase):
    def test_files_tell_the_same_facts(self) -> None:
        asked = loan()
        marks = MARKS["point-comma"]
        self.assertEqual(
            [tuple(fact) for fact in facts_of(asked, solve(asked, marks), marks)],
            [tuple(fact.model_dump().values()) for fact in told(typed()).facts],
        )
