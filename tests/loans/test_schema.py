"""The published JSON Schema against the core: what one takes the other takes."""

import json
from pathlib import Path
from typing import Any
from unittest import TestCase

from hypothesis import given, settings
from jsonschema import Draft202012Validator
from jsonschema.exceptions import best_match

from zephyrant import loans
from zephyrant.loans.answer.bounded import BoundsTold
from zephyrant.loans.answer.floating_told import FloatingTold

from .documents import document, errors_of, irregular, regular

SCHEMA = json.loads(
    (Path(__file__).parents[2] / "docs" / "loan-document.schema.json").read_text(encoding="utf-8")
)
VALIDATOR = Draft202012Validator(SCHEMA)
OF_ANSWERS = Draft202012Validator(
    json.loads((Path(__file__).parents[2] / "docs" / "answer.schema.json").read_text())
)

BOUGHT = document(principal=None, purchase={"price": "60000", "down": {"percent": "20"}})
DEAL = document(
    count=0,
    payment=None,
    balance="?",
    clauses=[{"at": 6, "repay": "500"}, {"at": 12, "advance": 7}],
)


def clause(**content: Any) -> dict[str, Any]:
    return document(
        clauses=[{"from" if name == "begin" else name: c for name, c in content.items()}]
    )


class TheSchema(TestCase):
    def test_it_names_itself(self) -> None:
        Draft202012Validator.check_schema(SCHEMA)
        self.assertEqual(SCHEMA["$schema"], "https://json-schema.org/draft/2020-12/schema")
        self.assertEqual(SCHEMA["$id"], "urn:zephyrant:loan:1")

    @given(regular() | irregular())
    @settings(deadline=None, max_examples=150)
    def test_it_takes_what_the_core_takes(self, content: dict[str, Any]) -> None:
        loans.check(content)
        self.assertTrue(VALIDATOR.is_valid(content), content)

    def test_every_released_document(self) -> None:
        files = sorted((Path(__file__).parent / "released").glob("*.json"))
        self.assertGreater(len(files), 8)
        for file in files:
            with self.subTest(file.name):
                content = json.loads(file.read_text())["document"]
                if content.get("zephyrant") == "loan/1":
                    self.assertIsNone(best_match(VALIDATOR.iter_errors(content)))
                # An answer is what its own schema says.
                told = loans.solve(loans.check(content)).model_dump(mode="json")
                self.assertIsNone(best_match(OF_ANSWERS.iter_errors(told)))

    def test_the_schema_of_answers_refuses_what_is_none(self) -> None:
        told = loans.solve(loans.check(document())).model_dump(mode="json")
        self.assertTrue(OF_ANSWERS.is_valid(told))
        wrongs: tuple[dict[str, Any], ...] = (
            {"value": 938.82},
            {"solutions": "938.82"},
            {"schedule": None},
            {"totals": {}},
            {"engine": None},
        )
        for wrong in wrongs:
            self.assertFalse(OF_ANSWERS.is_valid({**told, **wrong}), wrong)
        for name in told:
            later = {**BoundsTold.__annotations__, **FloatingTold.__annotations__}
            if name not in ("aim", "limit", *later):
                lacking = {key: each for key, each in told.items() if key != name}
                self.assertFalse(OF_ANSWERS.is_valid(lacking), name)

    def test_what_both_take(self) -> None:
        for content in (BOUGHT, DEAL, document(count="60"), document(principal=48250)):
            self.assertEqual(errors_of(content), [])
            self.assertTrue(VALIDATOR.is_valid(content), content)

    def test_what_both_refuse(self) -> None:
        for content in (
            document(principal=None),
            document(payment=None),
            document(principal="-5"),
            document(principal=-5),
            document(balance="-0.01"),
            {**BOUGHT, "principal": "48000"},
            clause(at=1, fee="-1"),
            clause(at=1, fee={"percent": "-1"}),
            clause(at=1, repay="5", advance="5"),
            clause(at=1, begin=2, repay="5"),
            clause(repay="5"),
            clause(at=1),
            clause(begin=1, step={"percent": "1", "amount": "2"}),
            document(colour="red"),
            document(zephyrant="loan/9"),
            document(currency="EURO"),
            document(currency=None),
            document(count="-3"),
            document(count=1.5),
            document(every="fortnight and a bit"),
            document(rate=None),
            document(rate={"percent": "six"}),
            document(rate={"percent": "6", "quoted": "somehow"}),
            document(timing="sometimes"),
            document(rounding={"payment": "up", "to": "-1"}),
            document(start="15/03/2027"),
            document(clauses={"at": 1}),
            clause(at=-1, repay="5"),
            [document()],
            "a loan",
            None,
        ):
            self.assertNotEqual(errors_of(content), [], content)
            self.assertFalse(VALIDATOR.is_valid(content), content)

    def test_errors_speak_of_the_document_alone(self) -> None:
        """Paths are keys of the document, whatever the models behind them are called."""
        cases = [
            (clause(at=1, fee="-1"), "clauses.0.fee"),
            (clause(at=1, fee={"percent": "x"}), "clauses.0.fee.percent"),
            (clause(at=1, fee={"percent": "1", "x": 2}), "clauses.0.fee.x"),
            (clause(begin=1, step={"amount": "x"}), "clauses.0.step.amount"),
            (document(aim={"figure": "count", "is": [], "by": "payment"}), "aim.is"),
        ]
        for content, field in cases:
            self.assertEqual([found for found, _ in errors_of(content)], [field])
