"""Every operation of the API with a request that succeeds, on a desk where there is one of each
thing."""

import uuid
from collections.abc import Iterator
from typing import Any, NamedTuple

from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client

from tests.loans.documents import document
from zephyrant.desk import jobs
from zephyrant.desk.api import api

from .desk import PRESS, Desk, content

TAPE = "Loan;Amount;Rate;Payments;Payment\nKiln;48,250.00;6.35;60;?\n"
QUOTES = {"name": "Kilns", "quotes": [{"name": "A", "percent": "6"}]}
INDEX = {"name": "quay-3", "fixings": "2026-06-30 2.31"}
#: Operations for which the example of the API's own description does not fit this desk.
SENT: dict[str, Any] = {
    "startTable": "",
    "startQuoteListFromFile": "name,percent\nA,6\n",
    "startTableFromText": {"text": TAPE},
    "startCaseFromFlows": {"text": "Day;Amount\n2026-01-01;-1000\n2027-01-01;1080"},
    "startCase": content(),
    "startCaseFromDocument": document(),
    "startCasesFromDocuments": [document()] * 40,
    "solve": document(),
    "solveSchedule": document(),
    "solveStatement": document(),
    "work": PRESS,
    "signIn": {"username": "ilse", "password": "sorrel-and-flint"},
    "changePassword": {"old": "sorrel-and-flint", "new": "teasel-and-granite"},
    "startToken": {"name": "Night run", "may": ["read"], "days": 7},
    "startQuoteList": QUOTES,
    "saveQuoteList": {"content": QUOTES, "version": 1},
    "saveIndex": INDEX,
    "saveAsides": {},
    "savePresets": {"presets": []},
    "saveColumns": {"columns": ["payment"]},
    "askTableFlows": {},
    "askRateCurve": {"statement": {**PRESS, "percent": "?", "payment": "942"}},
    "askLine": {"line": "1,000 at 5 % over 1 year"},
}


class Request(NamedTuple):
    """An operation with the request that asks for it."""

    operation: str
    method: str
    path: str
    sent: Any


class EveryOperation(Desk):
    """A desk with one of each thing."""

    ids: dict[str, Any]

    def setUp(self) -> None:
        super().setUp()
        case = self.start()["id"]
        self.send("POST", f"cases/{case}/comments", {"text": "Seen."})
        table = self.table()
        matched = {"columns": table["columns"], "defaults": {}}
        asked = {**matched, "name": "Tapes of the harbour"}
        template = self.given("POST", f"tables/{table['id']}/templates", asked)
        self.given("PUT", f"tables/{table['id']}/matching", matched)
        taken = jobs.take_up()
        assert taken is not None
        jobs.work_on(taken)
        self.matched = matched
        token = self.given("POST", "tokens", {"name": "x", "may": ["read"], "days": 1})
        self.ids = {
            "case_id": case,
            "list_id": self.given("POST", "quote-lists", QUOTES)["id"],
            "table_id": table["id"],
            "template_id": template["id"],
            "index_id": self.given("POST", "indices", INDEX)["id"],
            "token_id": token["id"],
            "making": uuid.uuid4(),
            "number": 1,
            "row": 1,
            "name": self.given("GET", "guide")[0]["name"],
        }

    def table(self) -> Any:
        return self.given("POST", "tables/from-text", {"text": TAPE, "name": "Kilns"})

    def given(self, method: str, path: str, sent: Any = None) -> Any:
        answer = self.send(method, path, sent)
        self.assertLess(answer.status_code, 300, answer.content)
        return answer.json()

    def every(self) -> Iterator[Request]:
        """Every operation: first those that leave all as it is, last those that delete."""
        operations = [
            (operation, method.upper(), path)
            for path, methods in api.get_openapi_schema()["paths"].items()
            for method, operation in methods.items()
        ]
        order = ("GET", "POST", "PUT", "DELETE")
        for told, method, path in sorted(operations, key=lambda each: order.index(each[1])):
            operation = told["operationId"]
            plain = path.removeprefix("/api/v1/").format(**self.ids)
            if operation in {"getSeveralSideBySide", "takeSeveralSideBySide"}:
                plain += f"?of={self.ids['case_id']}"
            yield Request(operation, method, plain, self.sent(operation, told))

    def sent(self, operation: str, told: dict[str, Any]) -> Any:
        if operation in {"saveTableMatching", "askTableReading"}:
            return self.matched
        if operation == "startTableTemplate":
            return {**self.matched, "name": "Tapes of the quay"}
        if operation in SENT:
            return SENT[operation]
        kinds = told.get("requestBody", {}).get("content", {})
        example = kinds.get("application/json", {}).get("example")
        if isinstance(example, dict):
            changed = dict(example)
            if "statement" in changed:
                changed["statement"] = PRESS
            if "version" in changed:
                changed["version"] = 1
            if "cases" in changed:
                changed["cases"] = [self.ids["case_id"]]
            return changed
        return example

    def ask(self, request: Request, client: Client) -> Any:
        if request.operation == "startTable":
            file = SimpleUploadedFile("kilns.csv", TAPE.encode())
            return client.post(f"/api/v1/{request.path}", {"file": file})
        if request.operation == "startQuoteListFromFile":
            return client.generic("POST", f"/api/v1/{request.path}", request.sent, "text/plain")
        return self.send(request.method, request.path, request.sent, client)
