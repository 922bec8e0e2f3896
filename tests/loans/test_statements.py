"""Statements as typed: every clause, place, day and purchase, in every reader's marks."""

from decimal import Decimal, InvalidOperation
from typing import Any
from unittest import TestCase

from hypothesis import assume, given, settings
from hypothesis import strategies as st

from zephyrant import loans
from zephyrant.loans.document.figure_path import figure_path
from zephyrant.loans.statement.restating import remark, restate
from zephyrant.loans.statement.statement import Statement
from zephyrant.loans.statement.values import read_values, suggested_values
from zephyrant.loans.statement.working import loan_of, work
from zephyrant.loans.wording.marks import MARKS, MarksName

from .documents import document, irregular, regular
from .test_dates import dated

ANY_MARKS: list[MarksName] = list(MARKS)
PRESS = Statement(
    principal="48,250", percent="6.35", compounding="half-year", count="60", payment="?"
)


def stated(**typed: Any) -> Statement:
    """The press loan with other entries."""
    return Statement.model_validate({**PRESS.model_dump(), **typed})


def clauses(*typed: dict[str, Any]) -> list[dict[str, Any]]:
    """The clauses of the document that such typing makes."""
    written: list[dict[str, Any]] = loans.write(loan_of(stated(clauses=typed)))["clauses"]
    return written


def meant(part: Any) -> Any:
    """What a document says, however its figures are written: 0.000 is 0, a year has 365 days."""
    if isinstance(part, dict):
        kept = {name: meant(value) for name, value in part.items() if value is not None}
        return {name: value for name, value in kept.items() if (name, value) != ("year_days", 365)}
    if isinstance(part, list):
        return [meant(each) for each in part]
    try:
        return Decimal(part) if isinstance(part, str) else part
    except InvalidOperation:
        return part


def same(one: loans.Loan, other: loans.Loan) -> tuple[Any, Any]:
    """Two loans as they are meant."""
    return meant(one.model_dump(mode="json")), meant(other.model_dump(mode="json"))


def mistakes(statement: Statement) -> dict[str, str]:
    """Each field that is wrong, with its sentence."""
    return {error.field: error.message for error in work(statement).errors}


class RoundTrips(TestCase):
    @given(st.one_of(regular(), irregular(), dated()), st.sampled_from(ANY_MARKS))
    @settings(deadline=None, max_examples=150)
    def test_a_document_restated_reads_as_itself(
        self, content: dict[str, Any], marks: MarksName
    ) -> None:
        loan = loans.check(content)
        self.assertEqual(*same(loan_of(restate(loan, marks)), loan))

    @given(
        st.one_of(regular(), irregular(), dated()),
        st.sampled_from(ANY_MARKS),
        st.sampled_from(ANY_MARKS),
    )
    @settings(deadline=None, max_examples=100)
    def test_in_another_readers_marks_it_is_the_same_loan(
        self, content: dict[str, Any], marks: MarksName, others: MarksName
    ) -> None:
        loan = loans.check(content)
        first = restate(loan, marks)
        again = remark(first, others)
        self.assertEqual(again.marks, others)
        self.assertEqual(*same(loan_of(again), loan))
        self.assertEqual(*same(loan_of(remark(again, marks)), loan))

    def test_purchases_and_aims(self) -> None:
        for changes in (
            {"principal": None, "purchase": {"price": "60000", "down": {"percent": "20"}}},
            {"principal": None, "purchase": {"price": "60000", "down": {"amount": "12000"}}},
            {
                "principal": None,
                "payment": "900",
                "purchase": {"price": "?", "down": {"percent": "12.5"}},
            },
            {"aim": {"figure": "total_interest", "is": "9000.5", "by": "principal"}},
            {"aim": {"figure": "effective", "is": "6.125", "by": "rate.percent"}},
            {"aim": {"figure": "balance@24", "is": "20000", "by": "count"}},
            {
                "start": "2027-03-01",
                "aim": {"figure": "end_date", "is": "2031-03-01", "by": "count"},
            },
        ):
            loan = loans.check(document(**changes))
            for marks in ANY_MARKS:
                with self.subTest(changes=changes, marks=marks):
                    self.assertEqual(*same(loan_of(restate(loan, marks)), loan))
                    self.assertEqual(*same(loan_of(remark(restate(loan, "plain"), marks)), loan))


class Clauses(TestCase):
    def test_each_verb_as_people_type_it(self) -> None:
        cases: list[tuple[dict[str, Any], dict[str, Any]]] = [
            ({"verb": "repay", "at": "12", "figure": "5k"}, {"at": 12, "repay": "5000"}),
            (
                {"verb": "repay", "at": " 12 ", "figure": "5,000.00", "then": "re-level"},
                {"at": 12, "repay": "5000", "then": "re-level"},
            ),
            (
                {"verb": "advance", "is_stretch": True, "from": "2", "to": "4", "figure": "1.5k"},
                {"from": 2, "to": 4, "advance": "1500"},
            ),
            (
                {"verb": "payment", "is_stretch": True, "from": "25", "figure": "910"},
                {"from": 25, "payment": "910"},
            ),
            (
                {"verb": "pay", "is_stretch": True, "from": "7", "to": "9", "pay": "interest"},
                {"from": 7, "to": 9, "pay": "interest"},
            ),
            (
                {
                    "verb": "step",
                    "is_stretch": True,
                    "from": "13",
                    "figure": "-2 1/2",
                    "in_percent": True,
                    "every": "1 year",
                },
                {"from": 13, "step": {"percent": "-2.5"}, "every": 12},
            ),
            (
                {"verb": "step", "is_stretch": True, "from": "13", "figure": "20"},
                {"from": 13, "step": {"amount": "20"}},
            ),
            (
                {"verb": "fee", "at": "0", "figure": "2", "in_percent": True},
                {"at": 0, "fee": {"percent": "2"}, "taken": "from-proceeds"},
            ),
            (
                {"verb": "fee", "at": "0", "figure": "600", "taken": "apart"},
                {"at": 0, "fee": "600", "taken": "apart"},
            ),
            (
                {
                    "verb": "rate",
                    "is_stretch": True,
                    "from": "13",
                    "figure": "7 1/8",
                    "compounding": "quarter",
                },
                {
                    "from": 13,
                    "rate": {"percent": "7.125", "quoted": "nominal", "compounding": "quarter"},
                },
            ),
            (
                {
                    "verb": "rate",
                    "is_stretch": True,
                    "from": "13",
                    "figure": "6",
                    "quoted": "discount",
                    "over": "90 days",
                    "year_days": 360,
                },
                {
                    "from": 13,
                    "rate": {
                        "percent": "6",
                        "quoted": "discount",
                        "over": {"number": "90", "period": "day"},
                        "year_days": 360,
                    },
                },
            ),
        ]
        for typed, written in cases:
            with self.subTest(typed=typed):
                self.assertEqual(clauses(typed), [written])

    def test_days_and_months_of_a_dated_loan(self) -> None:
        winter = {
            "verb": "pay",
            "is_stretch": True,
            "from": "1",
            "months": [12, 1, 2],
            "pay": "nothing",
        }
        lump = {"verb": "repay", "at": "17 May 2027", "figure": "500"}
        loan = loan_of(stated(start="1 Mar 2027", clauses=[winter, lump]))
        self.assertEqual(
            loans.write(loan)["clauses"],
            [
                {"from": 1, "months": [12, 1, 2], "pay": "nothing"},
                {"at": "2027-05-17", "repay": "500"},
            ],
        )

    def test_each_mistake_at_its_field(self) -> None:
        cases: list[tuple[dict[str, Any], str, str]] = [
            ({"verb": "repay", "at": "soon", "figure": "5"}, "at", "is no place"),
            ({"verb": "repay", "at": "", "figure": "5"}, "at", ""),
            ({"verb": "repay", "at": "99", "figure": "5"}, "at", "There is no payment 99"),
            ({"verb": "repay", "at": "3", "figure": "lots"}, "figure", "is not an amount"),
            ({"verb": "repay", "at": "3", "figure": "-5"}, "figure", "zero or more"),
            ({"verb": "repay", "at": "3", "figure": ""}, "figure", "Nothing is stated here"),
            (
                {"verb": "rate", "is_stretch": True, "from": "3", "figure": "a lot"},
                "figure",
                "is not a percentage",
            ),
            (
                {
                    "verb": "pay",
                    "is_stretch": True,
                    "from": "9",
                    "to": "7",
                },
                "to",
                "",
            ),
            (
                {
                    "verb": "step",
                    "is_stretch": True,
                    "from": "3",
                    "figure": "3",
                    "every": "0",
                },
                "every",
                "",
            ),
            (
                {
                    "verb": "rate",
                    "is_stretch": True,
                    "from": "3",
                    "figure": "6",
                    "quoted": "simple",
                    "over": "a while",
                },
                "over",
                "",
            ),
        ]
        for typed, field, says in cases:
            with self.subTest(typed=typed):
                found = mistakes(stated(clauses=[typed]))
                self.assertEqual([*found], [f"clauses.0.{field}"])
                self.assertIn(says, found[f"clauses.0.{field}"])

    def test_a_mistake_in_one_keeps_the_others(self) -> None:
        good = {"verb": "repay", "at": "12", "figure": "5k"}
        bad = {"verb": "repay", "at": "13", "figure": "5 k or so"}
        worked = work(stated(clauses=[good, bad]))
        self.assertEqual([error.field for error in worked.errors], ["clauses.1.figure"])
        self.assertEqual(worked.readings["clauses.0.figure"].text, "5,000.00")


class Aims(TestCase):
    def test_mistakes(self) -> None:
        for typed, says in (
            (
                {"aim": {"figure": "total_interest", "is": "?", "by": "principal"}},
                "An aim is a number",
            ),
            (
                {"aim": {"figure": "total_interest", "is": "lots", "by": "principal"}},
                "is not an amount",
            ),
            ({"aim": {"figure": "effective", "is": "x", "by": "principal"}}, "is not a percentage"),
            ({"aim": {"figure": "count", "is": "x", "by": "principal"}}, ""),
            (
                {"aim": {"figure": "end_date", "is": "", "by": "principal"}, "start": "1 Mar 2027"},
                "the day it is to end on",
            ),
            (
                {
                    "aim": {"figure": "end_date", "is": "30 Feb 2030", "by": "principal"},
                    "start": "1 Mar 2027",
                },
                "",
            ),
        ):
            with self.subTest(typed=typed):
                found = mistakes(stated(**typed))
                self.assertEqual([*found], ["aim.is"])
                self.assertIn(says, found["aim.is"])

    def test_read_as_people_type_it(self) -> None:
        for typed, read in (
            ({"aim": {"figure": "total_interest", "is": "9k", "by": "principal"}}, "9000"),
            ({"aim": {"figure": "effective", "is": "6 3/8", "by": "principal"}}, "6.375"),
            ({"aim": {"figure": "count", "is": "4 years", "by": "principal"}}, "48"),
        ):
            with self.subTest(typed=typed):
                loan = loan_of(stated(**typed))
                assert loan.aim
                self.assertEqual(loan.aim.is_, Decimal(read))


class KeptInOlderWords(TestCase):
    def test_clauses_and_aims_are_read(self) -> None:
        """As a case, a change of it or a draft was kept before the words were the document's."""
        older = {
            **PRESS.model_dump(exclude={"clauses", "aim"}),
            "clauses": [
                {"verb": "repay", "at": "12", "figure": "5k", "levels": True},
                {"verb": "advance", "at": "13", "figure": "5k", "levels": False},
                {"verb": "rate", "is_stretch": True, "begin": "25", "to": "36", "figure": "7"},
            ],
            "aim_figure": "total_interest",
            "aim_is": "9k",
            "aim_by": "principal",
        }
        read = Statement.model_validate(older)
        self.assertEqual([clause.then for clause in read.clauses], ["re-level", None, None])
        self.assertEqual((read.clauses[2].begin, read.clauses[2].to), ("25", "36"))
        self.assertEqual(
            read.model_dump(by_alias=True)["aim"],
            {"figure": "total_interest", "is": "9k", "by": "principal"},
        )
        without = Statement.model_validate({**older, "aim_figure": "", "aim_is": "", "aim_by": ""})
        self.assertIsNone(without.aim)
        self.assertEqual(
            Statement.model_validate(read.model_dump(by_alias=True)), read, "read as it is written"
        )


class ValuesToTry(TestCase):
    def test_read(self) -> None:
        for path, typed, values in (
            ("rate.percent", "5.5 to 6 by 1/8", ["5.5", "5.625", "5.75", "5.875", "6"]),
            ("rate.percent", "6; 6.35; 7", ["6", "6.35", "7"]),
            ("rate.percent", "6 and 7", ["6", "7"]),
            ("count", "3 to 5 years by 1 year", ["36", "48", "60"]),
            ("count", "12 to 36 by 12", ["12", "24", "36"]),
            ("principal", "40k to 50k by 5k", ["40000", "45000", "50000"]),
            ("principal", "40,000", ["40000"]),
            ("principal", " ", []),
        ):
            with self.subTest(typed=typed):
                self.assertEqual(
                    read_values(typed, figure_path(path), PRESS, 100),
                    tuple(Decimal(each) for each in values),
                )

    def test_around_what_stands(self) -> None:
        for path, standing, typed, values in (
            ("rate.percent", "6.35", "±1/4 by 1/8", ["6.1", "6.225", "6.35", "6.475", "6.6"]),
            ("rate.percent", "6", "+/- 0.3 by 0.25", ["5.75", "6", "6.25"]),
            ("rate.percent", "6", "+-0.25 by 0.25", ["5.75", "6", "6.25"]),
            ("count", "60", "± 1 year by 6 months", ["48", "54", "60", "66", "72"]),
            ("principal", "48250", "±2k by 1k", ["46250", "47250", "48250", "49250", "50250"]),
        ):
            with self.subTest(typed=typed):
                self.assertEqual(
                    read_values(typed, figure_path(path), PRESS, 100, Decimal(standing)),
                    tuple(Decimal(each) for each in values),
                )
        for typed, says in (
            ("±1 by 0", "how far on both sides"),
            ("±1 by 0.001", "2,001 values: at most 100"),
        ):
            with self.assertRaises(ValueError) as raised:
                read_values(typed, figure_path("rate"), PRESS, 100, Decimal(6))
            self.assertIn(says, str(raised.exception))

    def test_refused(self) -> None:
        for path, typed, says in (
            ("rate.percent", "7 to 6 by 1/8", "from the least to the most"),
            ("rate.percent", "6 to 7 by 0", "from the least to the most"),
            ("rate.percent", "1 to 100 by 0.001", "99,001 values: at most 100"),
            ("rate.percent", "?", "A value to try is a number"),
            ("principal", "lots", "is not an amount"),
            ("count", "2.5.1", ""),
        ):
            with self.subTest(typed=typed):
                with self.assertRaises(ValueError) as raised:
                    read_values(typed, figure_path(path), PRESS, 100)
                self.assertIn(says, str(raised.exception))

    @given(
        st.sampled_from(["rate.percent", "count", "principal", "payment", "balance"]),
        st.decimals("0.01", "99999", places=2),
        st.sampled_from(ANY_MARKS),
    )
    def test_what_is_suggested_can_be_read_and_holds_what_stands(
        self, path: str, standing: Decimal, marks: MarksName
    ) -> None:
        if path == "count":
            standing = Decimal(int(standing))
            assume(standing >= 1)
        statement = stated(marks=marks)
        values = read_values(
            suggested_values(figure_path(path), standing, statement),
            figure_path(path),
            statement,
            100,
        )
        self.assertIn(standing, values)
        self.assertEqual([*values], sorted(values))
