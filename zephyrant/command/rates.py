"""`rates QUOTE [QUOTE ...]`: one quote on every footing, several ranked."""

import csv
import io
import json
import sys
from collections.abc import Callable
from typing import Any, Final, Literal, get_args

import click

from zephyrant.loans import MARKS, MarksName, NotALoan

from .solving import usual_way
from .statuses import ANSWERED, NOT_A_DOCUMENT

Way = Literal["text", "json", "csv", "md"]
_Row = tuple[str, ...]


@click.command(
    context_settings={"help_option_names": ["-h", "--help"], "ignore_unknown_options": True},
    epilog="""
\b
Examples:
  zephyrant rates "6.35 % compounded half-yearly"
  zephyrant rates "Alder: 6.35 % compounded half-yearly" "Birch: 6.4 %" "Rowan: 6.5 % effective"
  zephyrant rates "0.55 % a month" --as csv

Exit status: 0 an answer, 2 no quote, 3 a fault of ours.
""",
)
@click.argument("quotes", nargs=-1, required=True, metavar="QUOTE...")
@click.option("--every", default="month", show_default=True, help="How often a loan at it is paid.")
@click.option(
    "--count", default=60, show_default=True, help="Payments of the loan, for flat quotes."
)
@click.option("--as", "way", type=click.Choice(get_args(Way)), help="As for solve.")
@click.option("--marks", type=click.Choice(get_args(MarksName)), help="As for solve.")
def rates(
    quotes: tuple[str, ...], every: str, count: int, way: Way | None, marks: MarksName | None
) -> None:
    """Put one quote on every footing, or several on one, the cheapest first. A quote may begin with
    who made it: "Alder: 6.35 %"; - reads them from standard input, a line each."""
    from zephyrant.library import compare_quotes, equivalents

    way = way or usual_way()
    asked = [quote for each in quotes for quote in _each(each)]
    step = int(every) if every.isdecimal() else every
    try:
        if len(asked) == 1:
            _, quote = _named(asked[0])
            found: Any = equivalents(quote, every=step, count=count)
        else:
            named = [_named(each) for each in asked]
            found = compare_quotes(
                {name or quote: quote for name, quote in named}, every=step, count=count
            )
    except NotALoan as error:
        for each in error.errors:
            sys.stderr.write(f"{each.field}: {each.message}\n")
        sys.exit(NOT_A_DOCUMENT)
    written = MARKS[marks or ("plain" if way in ("json", "csv") else "comma-point")]
    rows = [tuple(_cell(value, written.number) for value in row) for row in found]
    _TELLING[way](found.names, rows)
    sys.exit(ANSWERED)


def _each(quote: str) -> list[str]:
    if quote != "-":
        return [quote]
    return [line.strip() for line in sys.stdin if line.strip()]


def _named(quote: str) -> tuple[str, str]:
    """Who made a quote, where that is said, and the quote."""
    name, parted, rest = quote.partition(":")
    return (name.strip(), rest.strip()) if parted else ("", quote)


def _cell(value: object, number: Callable[..., str]) -> str:
    if isinstance(value, str | int):
        return str(value)
    return number(value, 10, 2)


def _tell_json(names: _Row, rows: list[_Row]) -> None:
    for row in rows:
        sys.stdout.write(json.dumps(dict(zip(names, row, strict=True)), ensure_ascii=False) + "\n")


def _tell_csv(names: _Row, rows: list[_Row]) -> None:
    out = io.StringIO()
    csv.writer(out, lineterminator="\r\n").writerows([names, *rows])
    sys.stdout.write(out.getvalue())


def _tell_markdown(names: _Row, rows: list[_Row]) -> None:
    from zephyrant.outlets.markdown import table_of
    from zephyrant.outlets.told import Rows

    sys.stdout.write("\n".join(table_of(Rows(names, rows))))


def _tell_text(names: _Row, rows: list[_Row]) -> None:
    from rich.console import Console

    from zephyrant.outlets.text import print_part, table_of
    from zephyrant.outlets.told import Rows

    print_part(Console(highlight=False), table_of(Rows(names, rows)))


_TELLING: Final[dict[Way, Callable[[_Row, list[_Row]], None]]] = {
    "text": _tell_text,
    "json": _tell_json,
    "csv": _tell_csv,
    "md": _tell_markdown,
}
