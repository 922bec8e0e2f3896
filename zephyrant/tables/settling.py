"""How a table of loans is read, settled before it is solved: which column is which figure, and what
its cells leave open. Nothing is guessed: what is open is asked, with what one says to answer."""

from collections.abc import Callable, Mapping, Sequence
from typing import Any, NamedTuple

from pydantic import ValidationError

from zephyrant.loans import FieldError, NotALoan, field_errors
from zephyrant.loans.tape import (
    FIELDS,
    Defaults,
    FieldName,
    Looked,
    counted_in,
    match,
    unanswered,
    unmatched,
)
from zephyrant.texts import worded

from .template import Template, fitted


class Saying(NamedTuple):
    """How whoever asks says which column is a figure, and what a setting is."""

    match: Callable[[str, str], str]
    setting: Callable[[str, Sequence[str]], str]


def matched(
    names: Sequence[str],
    given: Mapping[str, str],
    saying: Saying,
    template: Template | None = None,
) -> dict[FieldName, int]:
    """The places of columns by the figures they hold: as a template says, else by their names; and
    as they were given.

    Raises `NotALoan` where one is not there, or a figure has none.
    """
    listed = ", ".join(names)
    columns = match(list(names)) if template is None else _as_it_says(template, names, listed)
    for field, name in given.items():
        if field not in FIELDS:
            message = worded(
                "“{field}” is no figure: write one of {listed}.",
                field=field,
                listed=", ".join(FIELDS),
            )
            raise NotALoan.at("", message)
        if name not in names:
            raise NotALoan.at(
                "",
                worded(
                    "There is no column “{name}”: there are {listed}.", name=name, listed=listed
                ),
            )
        place = list(names).index(name)
        columns = {other: at for other, at in columns.items() if at != place}
        columns[field] = place
    missing = unmatched(columns)
    if missing:
        say = saying.match("NAME", "COLUMN")
        raise NotALoan.at(
            "",
            worded(
                "{missing} Say {say}; the columns are {listed}.",
                missing=missing,
                say=say,
                listed=listed,
            ),
        )
    return columns


def _as_it_says(template: Template, names: Sequence[str], listed: str) -> dict[FieldName, int]:
    columns, missing = fitted(template, names)
    if missing:
        named = ", ".join(f"“{each}”" for each in missing)
        message = worded(
            "The template has columns that are not there: {named}; {listed} are.",
            named=named,
            listed=listed,
        )
        raise NotALoan.at("", message)
    return columns


def settled(
    looked: Looked,
    names: Sequence[str],
    columns: Mapping[FieldName, int],
    said: Mapping[str, Any],
    saying: Saying,
) -> Defaults:
    """How the cells are read: as said, else as they can only be meant. Raises `NotALoan` with every
    question that is left, and where what was said cannot be."""
    stated: dict[str, Any] = dict(said)
    if "count" in columns:
        stated = {**counted_in(names[columns["count"]]), **stated}
    left = unanswered(looked, stated)
    if left:
        raise NotALoan(
            FieldError(
                field="",
                message=f"{each.says} Say {saying.setting(each.about, each.choices)}.",
            )
            for each in left
        )
    try:
        return Defaults.model_validate({"marks": "plain", **looked.defaults, **stated})
    except ValidationError as error:
        raise NotALoan(field_errors(error.errors())) from None
