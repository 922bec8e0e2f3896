"""The API against its own schema: whatever is sent, no fault of ours and no answer outside it.

A fixed number of requests here; `make fuzz` sends more (ZEPHYRANT_FUZZ, examples an operation).
"""

import json
import logging
import os
from typing import Any, cast
from unittest import mock
from urllib.parse import quote

import jsonschema
import schemathesis
from django.test import Client
from hypothesis import HealthCheck, Phase, given, settings
from hypothesis import strategies as st
from schemathesis import GenerationMode

from zephyrant.desk import heavy
from zephyrant.desk.api import api

from .desk import Desk

EXAMPLES = int(os.environ.get("ZEPHYRANT_FUZZ", "6"))
#: What ends the session that asks, and what waits for the next look of somebody else.
_APART = {("delete", "/api/v1/session"), ("put", "/api/v1/password"), ("post", "/api/v1/session")}


def _schema() -> dict[str, Any]:
    told: dict[str, Any] = json.loads(json.dumps(api.get_openapi_schema(), default=str))
    return told


class SchemaHolds(Desk):
    def test_every_operation(self) -> None:
        """No answer of 500, and none that the schema does not tell of."""
        logging.disable(logging.CRITICAL)
        self.addCleanup(logging.disable, logging.NOTSET)
        self.client.raise_request_exception = False
        content, asked = _schema(), 0
        loaded = schemathesis.openapi.from_dict(content)
        for result in loaded.get_all_operations():
            operation = cast("Any", result).ok()
            if (operation.method.lower(), operation.path) in _APART:
                continue
            with self.subTest(f"{operation.method} {operation.path}"):
                asked += self.operation(operation, content)
        self.assertGreater(asked, EXAMPLES * 40)

    def operation(self, operation: Any, content: dict[str, Any]) -> int:
        asked = 0

        @settings(
            max_examples=EXAMPLES,
            deadline=None,
            phases=[Phase.generate],
            suppress_health_check=list(HealthCheck),
            derandomize="ZEPHYRANT_FUZZ" not in os.environ,
        )
        @given(
            st.one_of(
                operation.as_strategy(generation_mode=GenerationMode.POSITIVE),
                operation.as_strategy(generation_mode=GenerationMode.NEGATIVE),
            )
        )
        def ask(case: Any) -> None:
            nonlocal asked
            asked += 1
            self.holds(case, content)

        ask()
        return asked

    def holds(self, case: Any, content: dict[str, Any]) -> None:
        path = case.operation.path
        for name, value in (case.path_parameters or {}).items():
            path = path.replace("{" + name + "}", quote(str(value), safe=""))
        kind = case.media_type or "application/json"
        body: Any = b""
        if kind == "multipart/form-data":
            part = b'Content-Disposition: form-data; name="file"; filename="a.csv"'
            text = str(case.body).encode("utf-8", "replace")
            body = b"--x\r\n" + part + b"\r\n\r\n" + text + b"\r\n--x--\r\n"
            kind = f"{kind}; boundary=x"
        elif case.body is not schemathesis.core.NOT_SET:
            body = case.body if kind == "text/plain" else json.dumps(case.body, default=str)
        client: Client = self.client
        with mock.patch.object(heavy, "QUESTION", 2.0), mock.patch.object(heavy, "FILE", 2.0):
            answer = client.generic(
                case.method,
                path,
                body if isinstance(body, bytes) else str(body).encode("utf-8", "surrogatepass"),
                kind,
                QUERY_STRING="&".join(
                    f"{quote(str(name))}={quote(str(value))}"
                    for name, value in (case.query or {}).items()
                ),
            )
        self.assertLess(answer.status_code, 500, (case.method, path, body, answer.content[:300]))
        told = content["paths"][case.operation.path][case.method.lower()]["responses"]
        if answer.status_code >= 400:
            refused = json.loads(answer.content)
            self.assertTrue(refused["errors"], refused)
            # An id that is none leads nowhere, as any path that is none.
            self.assertTrue(str(answer.status_code) in told or answer.status_code == 404, answer)
            return
        self.assertIn(str(answer.status_code), told, (case.method, path))
        shape = told[str(answer.status_code)].get("content", {}).get("application/json")
        if shape and answer.get("Content-Type", "").startswith("application/json"):
            jsonschema.validate(
                json.loads(answer.content),
                {**shape["schema"], "components": content["components"]},
                cls=jsonschema.Draft202012Validator,
            )
