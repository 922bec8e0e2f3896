"""The page that tells the API: what it is, examples that run, every operation to be tried."""

import json
from typing import Any, Final, NamedTuple

from csp.constants import SELF
from csp.decorators import csp_update
from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from ninja import NinjaAPI
from ninja.openapi.docs import Swagger

_LOAN: Final = {
    "zephyrant": "loan/1",
    "currency": "EUR",
    "principal": "48250.00",
    "rate": {"percent": "6.35", "compounding": "half-year"},
    "count": 60,
    "payment": "?",
}


class Example(NamedTuple):
    """A way to ask, and how it is written."""

    title: str
    text: str


def examples(address: str) -> list[Example]:
    """The same loan asked for from a shell, from Python and from TypeScript, at an address; each
    runs with a token in `ZEPHYRANT_TOKEN`."""
    document = json.dumps(_LOAN, indent=2).replace(
        json.dumps(_LOAN["rate"], indent=2).replace("\n", "\n  "), json.dumps(_LOAN["rate"])
    )
    shell = (
        f'curl {address}/api/v1/solve \\\n  -H "Authorization: Bearer $ZEPHYRANT_TOKEN" \\\n'
        f"  -H 'Content-Type: application/json' \\\n  -d '{document}'"
    )
    python = (
        "import json, os, urllib.request\n\n"
        f"loan = {document}\n"
        "request = urllib.request.Request(\n"
        f'    "{address}/api/v1/solve",\n'
        "    data=json.dumps(loan).encode(),\n"
        "    headers={\n"
        '        "Authorization": f"Bearer {os.environ[\'ZEPHYRANT_TOKEN\']}",\n'
        '        "Content-Type": "application/json",\n'
        "    },\n"
        ")\n"
        'print(json.load(urllib.request.urlopen(request))["value"])'
    )
    typescript = (
        f'const answer = await fetch("{address}/api/v1/solve", {{\n'
        '  method: "POST",\n'
        "  headers: {\n"
        "    Authorization: `Bearer ${process.env.ZEPHYRANT_TOKEN}`,\n"
        '    "Content-Type": "application/json",\n'
        "  },\n"
        f"  body: JSON.stringify({document}),\n"
        "});\n"
        "console.log((await answer.json()).value);"
    )
    return [
        Example("From a shell", shell),
        Example("From Python", python),
        Example("From TypeScript", typescript),
    ]


class Interface(Swagger):
    """The page, with the schema's operations in it."""

    def render_page(self, request: HttpRequest, api: NinjaAPI, **kwargs: Any) -> HttpResponse:  # noqa: ANN401
        """The page."""
        address = f"{request.scheme}://{request.get_host()}"
        openapi_url = self.get_openapi_url(api, kwargs)
        told = {**self.settings, "url": openapi_url, "docExpansion": "none"}
        context = {
            "swagger_settings": json.dumps(told).replace("<", "\\u003c"),
            "add_csrf": True,
            "openapi_url": openapi_url,
            "examples": examples(address),
        }
        return render(request, "desk/interface.html", context)


#: Its marks are drawn as data in its styles.
with_its_marks = csp_update({"img-src": [SELF, "data:"]})
