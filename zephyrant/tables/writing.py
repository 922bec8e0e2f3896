"""Rows of a table as text for other programs: CSV and JSON Lines."""

import re
from collections.abc import Sequence
from typing import Final

from zephyrant.loans import as_text
from zephyrant.outlets.csv_form import PLAIN_CSV, CsvForm

from .kinds import TEXT, json_of

#: What stands in quotes in CSV, but for the ends of lines.
_QUOTED: Final = re.compile(r'[",\r]')
#: What may be taken for a formula.
_FORMULA: Final = re.compile(r"^[=+\-@\t\r]", re.MULTILINE)


def csv_text(
    columns: Sequence[Sequence[str]], ours: Sequence[int] = (), form: CsvForm = PLAIN_CSV
) -> str:
    """Rows of a table, told by its columns, as lines of CSV; `ours` are the places of those that
    hold numbers or words of our own, none of which means something in it."""
    safe = []
    plain = len(columns) > 1 and form.separator == "comma" and form.decimal == "point"
    for place, column in enumerate(columns):
        if place in ours:
            safe.append(form.numbers(column))
            continue
        cells, text = column, "\n".join(column)
        if _FORMULA.search(text):
            cells = [as_text(cell) for cell in column]
            text = "\n".join(cells)
        plain &= text.count("\n") == len(cells) - 1 and not _QUOTED.search(text)
        safe.append(cells)
    rows = zip(*safe, strict=True)
    if plain:
        return "".join([f"{line}\r\n" for line in map(",".join, rows)])
    return form.lines(rows)


def apart(names: Sequence[str]) -> list[str]:
    """The names of a table's own columns and of results after them, each once: a result whose name
    a column has already is called `found_` and that, as often as it takes."""
    given: dict[str, None] = {}
    for each in names:
        name = each
        while name in given:
            name = f"found_{name}"
        given[name] = None
    return list(given)


def json_lines(names: Sequence[str], columns: Sequence[Sequence[str]], kinds: Sequence[str]) -> str:
    """A loan in braces on each line, every column by a name of its own and its values as what they
    are; what is empty is left out."""
    keys = [f"{json_of(name, TEXT)}: " for name in names]
    told = [
        [f"{key}{json_of(cell, kind)}" if cell else "" for cell in column]
        for key, column, kind in zip(keys, columns, kinds, strict=True)
    ]
    return "".join(f"{{{', '.join(filter(None, row))}}}\n" for row in zip(*told, strict=True))
