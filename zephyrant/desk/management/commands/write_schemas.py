"""`python manage.py write_schemas`: schemas, glossary and guide, written to docs/."""

import json
import sys
from itertools import groupby
from operator import attrgetter
from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandParser

from zephyrant.desk import guide
from zephyrant.desk.api import api
from zephyrant.loans import GLOSSARY, Answer, Loan
from zephyrant.loans.tape import Shocks
from zephyrant.tables.template import Template


def _named(name: str, schema: dict[str, Any]) -> dict[str, Any]:
    """A schema that stands alone says which dialect it is in and what it is called."""
    dialect = "https://json-schema.org/draft/2020-12/schema"
    return {"$schema": dialect, "$id": f"urn:zephyrant:{name}:1", **schema}


def glossary() -> str:
    """The words, under their headings."""
    lines = [
        "# Glossary",
        "",
        "The words of the trade and of the desk, as the screen explains them where they stand. "
        "Written by `make schemas` from `zephyrant/loans/wording/glossary.py`.",
    ]
    for about, terms in groupby(GLOSSARY.values(), key=attrgetter("about")):
        lines += ["", f"## {about}", ""]
        lines += [f"- **{term.title}:** {term.says}" for term in terms]
    return "\n".join(lines) + "\n"


def generated() -> dict[Path, str]:
    """Each generated file and what belongs in it."""
    docs = settings.BASE_DIR / "docs"
    contents = {
        docs / "loan-document.schema.json": _named("loan", Loan.model_json_schema()),
        docs / "answer.schema.json": _named(
            "answer", Answer.model_json_schema(mode="serialization")
        ),
        docs / "table-match.schema.json": _named("table-match", Template.model_json_schema()),
        docs / "shocks.schema.json": _named("shocks", Shocks.model_json_schema()),
        docs / "openapi.json": api.get_openapi_schema(path_prefix="/api/v1/"),
    }
    told = {
        path: json.dumps(content, indent=2, ensure_ascii=False, default=str) + "\n"
        for path, content in contents.items()
    }
    return {**told, docs / "glossary.md": glossary(), docs / "guide.md": guide.written()}


class Command(BaseCommand):
    """Write or check what is generated."""

    help = "Write schemas, glossary and guide; --check fails where they are stale."

    def add_arguments(self, parser: CommandParser) -> None:
        """Whether only to check."""
        parser.add_argument("--check", action="store_true")

    def handle(self, *args: Any, **options: Any) -> None:  # noqa: ANN401
        """Write or check."""
        for path, content in generated().items():
            if not options["check"]:
                path.write_text(content)
            elif not path.exists() or path.read_text() != content:
                self.stderr.write(f"{path.name} is stale: run make schemas.")
                sys.exit(1)
