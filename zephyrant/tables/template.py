"""A match kept by its name: which columns, by what they are called, are which figures, and what
holds where no column says so. It is a document, so that it can be shared and kept beside a tape.

    {"zephyrant": "table-match/1", "name": "Harbour tape",
     "columns": {"principal": "Outlay", "percent": "Price of money"},
     "settings": {"every": "quarter", "percent_as": "part"}}
"""

from collections.abc import Mapping, Sequence
from typing import Any, Final, Literal, NamedTuple

from pydantic import BaseModel, ConfigDict, Field, ValidationError

from zephyrant.loans import NotALoan, field_errors
from zephyrant.loans.tape import Defaults, FieldName
from zephyrant.texts import worded

KIND: Final = "table-match/1"
MOST_NAME: Final = 80


class Template(BaseModel):
    """A match of columns by their names; `settings` are those of `Defaults` that were stated."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    zephyrant: Literal["table-match/1"]
    name: str = Field(default="", max_length=MOST_NAME)
    columns: dict[FieldName, str]
    settings: dict[str, Any] = {}


class Fitted(NamedTuple):
    """The places of a template's columns in a table, and the names of those that are not there."""

    columns: dict[FieldName, int]
    missing: list[str]


def template_of(content: object) -> Template:
    """A template from a document; raises `NotALoan` with what is wrong at its field."""
    if not isinstance(content, dict) or content.get("zephyrant") != KIND:
        message = worded(
            'This is no match of columns: such a document says "zephyrant": "{kind}".', kind=KIND
        )
        raise NotALoan.at("zephyrant", message)
    try:
        template = Template.model_validate(content)
    except ValidationError as error:
        raise NotALoan(field_errors(error.errors())) from None
    try:
        Defaults.model_validate(template.settings)
    except ValidationError as error:
        raise NotALoan(
            each.model_copy(update={"field": f"settings.{each.field}"})
            for each in field_errors(error.errors())
        ) from None
    return template


def made(
    name: str,
    names: Sequence[str],
    columns: Mapping[FieldName, int],
    settings: Mapping[str, Any],
) -> Template:
    """How a table with these names of columns is matched."""
    called = {figure: names[place] for figure, place in columns.items()}
    return Template(zephyrant=KIND, name=name, columns=called, settings=dict(settings))


def fitted(template: Template, names: Sequence[str]) -> Fitted:
    """Where the columns of a template are in a table, whatever the case of their letters."""
    places = {_bare(name): place for place, name in reversed([*enumerate(names)])}
    columns: dict[FieldName, int] = {}
    missing = []
    for figure, name in template.columns.items():
        place = places.get(_bare(name))
        if place is None:
            missing.append(name)
        else:
            columns[figure] = place
    return Fitted(columns, missing)


def _bare(name: str) -> str:
    return " ".join(name.casefold().split())
