"""`python manage.py write_schemas`: what is generated from the models, written to docs/."""

import json
import sys
from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandParser

from zephyrant.desk.api import api
from zephyrant.loans import Answer, Loan


def _named(name: str, schema: dict[str, Any]) -> dict[str, Any]:
    """A schema that stands alone says which dialect it is in and what it is called."""
    dialect = "https://json-schema.org/draft/2020-12/schema"
    return {"$schema": dialect, "$id": f"urn:zephyrant:{name}:1", **schema}


def schemas() -> dict[Path, str]:
    """Each generated file and what belongs in it."""
    docs = settings.BASE_DIR / "docs"
    contents = {
        docs / "loan-document.schema.json": _named("loan", Loan.model_json_schema()),
        docs / "answer.schema.json": _named(
            "answer", Answer.model_json_schema(mode="serialization")
        ),
        docs / "openapi.json": api.get_openapi_schema(path_prefix="/api/v1/"),
    }
    return {
        path: json.dumps(content, indent=2, ensure_ascii=False, default=str) + "\n"
        for path, content in contents.items()
    }


class Command(BaseCommand):
    """Write or check the generated schemas."""

    help = "Write the JSON Schemas and the OpenAPI schema; --check fails where they are stale."

    def add_arguments(self, parser: CommandParser) -> None:
        """Whether only to check."""
        parser.add_argument("--check", action="store_true")

    def handle(self, *args: Any, **options: Any) -> None:  # noqa: ANN401
        """Write or check."""
        for path, content in schemas().items():
            if not options["check"]:
                path.write_text(content)
            elif not path.exists() or path.read_text() != content:
                self.stderr.write(f"{path.name} is stale: run make schemas.")
                sys.exit(1)
