"""How solved rows of a table are told, a part at a time: CSV, JSON Lines, Markdown, text."""

import io
import shutil
from collections.abc import Callable, Sequence
from typing import Final, Literal, NamedTuple

from zephyrant.loans.tape import RESULTS
from zephyrant.outlets.markdown import table_of as markdown_table
from zephyrant.outlets.told import Rows

from .files import csv_text, json_lines

WayName = Literal["csv", "json", "md", "text"]
#: Of the results what is told to somebody who looks on; the others stand in the other ways.
_LOOKED_AT: Final = ("unknown", "found", "total_interest", "final_payment", "effective", "problem")


class Solved(NamedTuple):
    """Rows solved: the names of the table's own columns, every column, those of results last."""

    names: Sequence[str]
    columns: Sequence[Sequence[str]]


class WayOut(NamedTuple):
    """A way out: what stands before the rows, and some rows, which depend on no others."""

    head: Callable[[Sequence[str]], str]
    rows: Callable[[Solved], str]


def _csv_head(names: Sequence[str]) -> str:
    return csv_text([[name] for name in (*names, *RESULTS)])


def _csv(solved: Solved) -> str:
    # The results are numbers and words of our own, but for the sentence at their end.
    first = len(solved.names)
    return csv_text(solved.columns, range(first, first + len(RESULTS) - 1))


def _no_head(names: Sequence[str]) -> str:
    return ""


def _json(solved: Solved) -> str:
    return "".join(json_lines([*solved.names, *RESULTS], zip(*solved.columns, strict=True)))


def _looked_at(solved: Solved) -> Rows:
    own = len(solved.names)
    places = [*range(own), *(own + RESULTS.index(name) for name in _LOOKED_AT)]
    rows = zip(*(solved.columns[place] for place in places), strict=True)
    return Rows((*solved.names, *_LOOKED_AT), list(rows))


def _markdown_head(names: Sequence[str]) -> str:
    return "\n".join(markdown_table(Rows((*names, *_LOOKED_AT), [])))


def _markdown(solved: Solved) -> str:
    return "\n".join([*markdown_table(_looked_at(solved))][2:])


def _text(solved: Solved) -> str:
    from rich.console import Console

    from zephyrant.outlets.text import print_part, table_of

    out = io.StringIO()
    console = Console(file=out, width=shutil.get_terminal_size().columns, highlight=False)
    print_part(console, table_of(_looked_at(solved)))
    return out.getvalue()


WAYS_OUT: Final[dict[WayName, WayOut]] = {
    "csv": WayOut(_csv_head, _csv),
    "json": WayOut(_no_head, _json),
    "md": WayOut(_markdown_head, _markdown),
    "text": WayOut(_no_head, _text),
}
