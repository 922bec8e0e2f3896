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


class Saying(NamedTuple):
    """How whoever asks says which column is a figure, and what a setting is."""

    match: Callable[[str, str], str]
    setting: Callable[[str, Sequence[str]], str]


def matched(names: Sequence[str], given: Mapping[str, str], saying: Saying) -> dict[FieldName, int]:
    """The places of columns by the figures they hold: by their names, and as they were given.

    Raises `NotALoan` where one is not there, or a figure has none.
    """
    columns = match(list(names))
    listed = ", ".join(names)
    for field, name in given.items():
        if field not in FIELDS:
            message = f"“{field}” is no figure: write one of {', '.join(FIELDS)}."
            raise NotALoan.at("", message)
        if name not in names:
            raise NotALoan.at("", f"There is no column “{name}”: there are {listed}.")
        columns[field] = list(names).index(name)
    missing = unmatched(columns)
    if missing:
        say = saying.match("NAME", "COLUMN")
        raise NotALoan.at("", f"{missing} Say {say}; the columns are {listed}.")
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
