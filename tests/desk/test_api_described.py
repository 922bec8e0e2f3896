"""The schema of the API says what everything is, with examples that hold."""

import json
import re
from typing import Any
from unittest import TestCase

import jsonschema

from zephyrant.desk.api import api
from zephyrant.desk.api.vocabulary import WORDS

from .desk import Desk

#: What is done to things, and what is asked.
VERBS = (
    *("list", "get", "start", "save", "delete", "undelete", "copy", "take", "name", "restore"),
    *("stop", "change", "enter", "sign", "ask", "solve", "work", "approve", "send"),
)


def _schema() -> dict[str, Any]:
    told: dict[str, Any] = json.loads(json.dumps(api.get_openapi_schema(), default=str))
    return told


class Described(TestCase):
    def setUp(self) -> None:
        self.schema = _schema()
        self.parts: dict[str, Any] = self.schema["components"]["schemas"]

    def valid(self, example: Any, schema: dict[str, Any], where: str) -> None:
        whole = {**schema, "components": self.schema["components"]}
        wrong = jsonschema.exceptions.best_match(
            jsonschema.Draft202012Validator(whole).iter_errors(example)
        )
        self.assertIsNone(wrong and f"{wrong.message[:300]} at {list(wrong.path)}", where)

    def test_every_property_says_what_it_is(self) -> None:
        for name, part in self.parts.items():
            for title, told in part.get("properties", {}).items():
                with self.subTest(f"{name}.{title}"):
                    self.assertTrue(told["description"].endswith((".", "?")))
                    self.assertEqual(len(told["examples"]), 1)
                    self.valid(told["examples"][0], told, f"{name}.{title}")

    def test_no_word_is_left_over(self) -> None:
        names = {
            f"{name}.{title}"
            for name, part in self.parts.items()
            for title in part.get("properties", {})
        }
        plain = {name.partition(".")[2] for name in names if name not in WORDS}
        self.assertEqual({word for word in WORDS if word not in names | plain}, set())

    def test_every_operation_has_a_tag_a_description_and_examples(self) -> None:
        for path, operations in self.schema["paths"].items():
            self.assertTrue(path.startswith("/api/v1/"), path)
            for method, told in operations.items():
                with self.subTest(f"{method} {path}"):
                    self.assertTrue(told["tags"])
                    self.assertTrue(told["description"])
                    self.assertRegex(told["operationId"], rf"^({'|'.join(VERBS)})([A-Z]|$)")
                    self.assertEqual(path.startswith("/api/v1/ask/"), self.asks(told, path))
                    self.examples(told, f"{method} {path}")

    def asks(self, told: dict[str, Any], path: str) -> bool:
        return told["operationId"].startswith("ask") and not re.search(r"/\{[^}]*\}/ask/", path)

    def examples(self, told: dict[str, Any], where: str) -> None:
        good = [each for code, each in told["responses"].items() if int(code) < 300]
        bodies = [told["requestBody"]] if "requestBody" in told else []
        for each in (*good, *bodies):
            for kind, content in each.get("content", {}).items():
                if kind == "application/json" and content.get("schema"):
                    self.valid(content["example"], content["schema"], where)

    def test_refusals_have_one_shape(self) -> None:
        """Each has its errors and the name of its request."""
        for path, operations in self.schema["paths"].items():
            for method, told in operations.items():
                refusals = [each for code, each in told["responses"].items() if int(code) >= 400]
                for refusal in refusals:
                    schema = refusal["content"]["application/json"]["schema"]
                    name = schema["$ref"].rpartition("/")[2]
                    held = set(self.parts[name]["properties"])
                    self.assertLessEqual({"errors", "request"}, held, (method, path, name))

    def test_lists_come_in_pages(self) -> None:
        """But for what is kept whole: quoting habits, and with whom a case is shared."""
        for path, operations in self.schema["paths"].items():
            told = operations.get("get", {})
            whole = told.get("operationId") in ("listPresets", "listShares")
            if not told.get("operationId", "").startswith("list") or whole:
                continue
            with self.subTest(path):
                content = told["responses"]["200"]["content"]["application/json"]["schema"]
                part = self.parts[content["$ref"].rpartition("/")[2]]
                self.assertIn("total", part["properties"])
                self.assertIn("start", [each["name"] for each in told["parameters"]])


class ExamplesAreAnswered(Desk):
    def test_what_is_asked_in_the_examples_is_answered(self) -> None:
        schema = _schema()
        for path, operations in schema["paths"].items():
            if not path.startswith(("/api/v1/ask/", "/api/v1/solve", "/api/v1/work")):
                continue
            content = operations["post"]["requestBody"]["content"]["application/json"]
            asked = content["example"]
            if path.endswith("rate-curve"):
                asked = {"statement": {**asked["statement"], "percent": "?", "payment": "940.68"}}
            with self.subTest(path):
                answer = self.send("POST", path.removeprefix("/api/v1/"), asked)
                self.assertEqual(answer.status_code, 200, answer.content[:300])

    def test_the_example_of_a_document_has_the_answer_that_is_told(self) -> None:
        operation = _schema()["paths"]["/api/v1/solve"]["post"]
        asked = operation["requestBody"]["content"]["application/json"]["example"]
        told = operation["responses"]["200"]["content"]["application/json"]["example"]
        found = self.send("POST", "solve", asked).json()
        for name in ("unknown", "value", "exact", "solutions", "rates", "yearly_cost", "costs"):
            self.assertEqual(found[name], told[name], name)
