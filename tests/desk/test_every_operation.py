"""What holds of every operation of the API: none is left out when one is added."""

import json
from collections import Counter
from contextlib import ExitStack
from typing import Any
from unittest import mock

from django.test import Client

from zephyrant.desk import heavy
from zephyrant.desk.api import api
from zephyrant.desk.token_rights import MAY, NEEDED
from zephyrant.loans import budget

from .every_operation import EveryOperation, Request

#: Operations that cannot succeed on this desk: there is nothing in a bin, in review or in a demo.
CANNOT = {
    *("undeleteCase", "undeleteQuoteList", "enterDemo", "stopTable", "startNewVersion"),
    *("approveReview", "sendReviewBack", "stopReview", "startReview", "restoreRevision"),
    "saveShares",
}
#: Pieces of work that a request may begin one after the other.
MOST_PIECES = 4


class Rights(EveryOperation):
    def token(self, *may: str) -> Client:
        made = self.given("POST", "tokens", {"name": "x", "may": may, "days": 1})
        return Client(enforce_csrf_checks=True, headers={"authorization": f"Bearer {made['key']}"})

    def test_each_operation_has_its_rights_and_no_token_goes_beyond_them(self) -> None:
        every = list(self.every())
        self.assertEqual({each.operation for each in every}, set(NEEDED))
        tokens = {
            without: self.token(*(may for may in MAY if may != without)) for without in (*MAY, "")
        }
        for request in every:
            needed = NEEDED[request.operation]
            if request.operation in {"getDoor", "signIn", "enterDemo"}:
                continue
            if request.method == "GET" and needed:
                self.assertIn("read", needed, request.operation)
            # All rights but one are not enough; and no right at all is, where people are meant.
            for without in needed or ("",):
                with self.subTest(request.operation, without=without):
                    refused = self.ask(request, tokens[without])
                    self.assertEqual(refused.status_code, 403, refused.content)
                    said = refused.json()["errors"][0]["message"]
                    self.assertIn(f"may not {without}" if needed else "sign in", said)

    def test_a_header_moves_no_request_to_another_right(self) -> None:
        """With `SCRIPT_NAME: /ask` a path was once cut so that making a token looked like asking;
        here each kind of token asks for what it may not, under such names."""
        for may, path, sent in (
            ("compute", "tokens", {"name": "y", "may": ["write"], "days": 1}),
            ("compute", "cases", {"statement": {}}),
            ("read", "solve", {}),
        ):
            for named in ("/ask", "/api/v1/ask", "/solve", "/work"):
                answer = self.token(may).generic(
                    *("POST", f"/api/v1/{path}", json.dumps(sent), "application/json"),
                    SCRIPT_NAME=named,
                )
                self.assertEqual(answer.status_code, 403, (path, named))


class Strangers(EveryOperation):
    def test_nothing_of_anyone_else_is_there(self) -> None:
        other, mine = self.colleague(), {str(each) for each in self.ids.values()}
        for request in self.every():
            if not any(f"/{each}" in f"/{request.path}" for each in mine if len(each) > 30):
                continue
            if request.operation == "getFileProgress":
                continue
            with self.subTest(request.operation):
                answer = self.ask(request, other)
                if "of=" in request.path:
                    told = answer.content.decode(errors="replace")
                    self.assertNotIn("938.82", told)
                else:
                    self.assertEqual(answer.status_code, 404, answer.content)


class Bounded(EveryOperation):
    """No endpoint works a loan but within a budget, or begins many pieces of work one by one."""

    def test_every_operation(self) -> None:
        before, asked, pieces, unbounded = budget._budget, "", Counter[str](), set[str]()

        class Watched:
            """The budget of the core; notes whoever looks at it where none is set."""

            set, reset = before.set, before.reset

            def get(self) -> Any:
                found = before.get()
                if found is None:
                    unbounded.add(asked)
                return found

        def counted(name: str) -> Any:
            whole = getattr(heavy, name)

            def call(*args: Any, **named: Any) -> Any:
                pieces[asked] += 1
                return whole(*args, **named)

            return mock.patch.object(heavy, name, call)

        worked = list[Request]()
        with ExitStack() as watching:
            watching.enter_context(mock.patch.object(budget, "_budget", Watched()))
            for name in ("_answered", "made_apart", "worked_apart"):
                watching.enter_context(counted(name))
            for request in self.every():
                asked = request.operation
                answer = self.ask(request, self.client)
                if asked in CANNOT:
                    self.assertIn(answer.status_code, (404, 409, 422), asked)
                else:
                    said = b"" if answer.streaming else answer.content[:300]
                    self.assertLess(answer.status_code, 300, (asked, said))
                if answer.streaming:
                    b"".join(answer.streaming_content)
                worked.append(request)
                if asked in {"changePassword", "signOut"}:
                    self.analyst.refresh_from_db()
                    self.client.force_login(self.analyst)
        self.assertEqual(len(worked), len(NEEDED))
        # The rows of a table are streamed as they were solved: no loan is worked.
        self.assertEqual(unbounded - {"takeTableFile"}, set())
        self.assertEqual({name for name, count in pieces.items() if count > MOST_PIECES}, set())
        # Whatever this watches it can see: these work loans.
        self.assertLessEqual({"solve", "startCase", "startCasesFromDocuments"}, set(pieces))
        self.assertEqual(set(NEEDED), {each["operationId"] for each in _operations()})


def _operations() -> list[dict[str, Any]]:
    paths = api.get_openapi_schema()["paths"]
    return [operation for methods in paths.values() for operation in methods.values()]
