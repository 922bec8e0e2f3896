"""What is asked of a table of loans: how it is matched, which of its rows to see."""

from collections.abc import Mapping, Sequence
from typing import Final

from ninja import Schema
from pydantic import Field

from zephyrant.loans import NotALoan
from zephyrant.loans.tape import Defaults, FieldName
from zephyrant.texts import worded

#: Rows of a page of the result.
MOST_SHOWN: Final = 500
#: The farthest row that is looked for: no table has as many.
MOST_ROWS: Final = 10_000_000


class Matching(Schema):
    """Which column, by its place, is which figure, and what holds where no column says so."""

    columns: dict[FieldName, int]
    defaults: Defaults


def check_columns(names: Sequence[str], columns: Mapping[FieldName, int]) -> None:
    """Raises `NotALoan` where a matched column is none of the file, or one is two figures."""
    for figure, place in columns.items():
        if not 0 <= place < len(names):
            raise NotALoan.at(f"columns.{figure}", worded("There is no such column in the file."))
    if len(set(columns.values())) < len(columns):
        raise NotALoan.at("columns", worded("One column cannot be two figures."))


class Looking(Schema):
    """Which rows to show, and how: `only` those with a problem, that do not fit, that stand out;
    those in which `text` stands; those whose figure lies between `least` and `most`. With `told`
    also as they are read."""

    start: int = Field(default=0, ge=0, le=MOST_ROWS)
    size: int = Field(default=100, ge=1, le=MOST_SHOWN)
    sort: str = Field(default="row", max_length=40)
    descending: bool = False
    only: str = Field(default="all", pattern="^(all|problems|unfit|outliers)$")
    text: str = Field(default="", max_length=200)
    figure: str = Field(default="", max_length=40)
    least: float | None = None
    most: float | None = None
    told: bool = False
