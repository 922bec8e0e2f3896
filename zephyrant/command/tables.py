"""`table FILE`: a table of loans, a row each."""

import sys
from collections.abc import Sequence
from pathlib import Path
from typing import TYPE_CHECKING, Final, TextIO

import click

from zephyrant.loans import NotALoan

from .statuses import ANSWERED, NO_ANSWER, NOT_A_DOCUMENT

if TYPE_CHECKING:
    from zephyrant.tables.ways_out import WayName
_WAYS: Final[dict[str, "WayName"]] = {
    ".csv": "csv",
    ".jsonl": "json",
    ".ndjson": "json",
    ".md": "md",
    ".txt": "text",
}


@click.command(
    context_settings={"help_option_names": ["-h", "--help"]},
    epilog="""
\b
Examples:
  zephyrant table tape.csv > solved.csv
  zephyrant table tape.xlsx --match percent="Price of money" --set every=quarter --out solved.csv
  cat tape.csv | zephyrant table - --as json

Exit status: 0 every row has an answer, 1 some have none (each says why), 2 it is no table or
something has to be said first, 3 a fault of ours.
""",
)
@click.argument("file")
@click.option(
    "--match",
    "matching",
    multiple=True,
    metavar="FIGURE=COLUMN",
    help="Which column is which figure, such as percent=Rate.",
)
@click.option(
    "--set",
    "settings",
    multiple=True,
    metavar="NAME=VALUE",
    help="What holds where no column says so, such as every=quarter or percent_as=part.",
)
@click.option(
    "--as",
    "way",
    type=click.Choice(["csv", "json", "text", "md"]),
    help="How rows come out: csv, or as the name of --out says; json is a line of JSON each.",
)
@click.option("--out", metavar="FILE", default="-", help="Where to; - is standard output.")
def table(
    file: str, matching: tuple[str, ...], settings: tuple[str, ...], way: "WayName | None", out: str
) -> None:
    """Solve a table of loans (CSV, JSON or JSON Lines; with [tables] XLSX, XLS and Parquet; packed
    with gzip or not; - is standard input). Its columns come out, then the results."""
    if out == "-":
        sys.exit(solve_as(file, way or "csv", settings, matching, sys.stdout))
    way = way or _WAYS.get(Path(out).suffix.lower())
    if way is None:
        raise click.UsageError(f"Say --as, or name it such as solved.csv: {', '.join(_WAYS)}.")
    # What stood there goes only when there is something in its place.
    unfinished = Path(f"{out}.part")
    try:
        with unfinished.open("w", encoding="utf-8", newline="") as opened:
            status = solve_as(file, way, settings, matching, opened)
        if status == NOT_A_DOCUMENT:
            unfinished.unlink()
        else:
            unfinished.replace(out)
    except OSError as error:
        raise click.UsageError(f"{out} cannot be written: {error.strerror or error}.") from None
    sys.exit(status)


def solve_as(
    file: str, way: "WayName", settings: Sequence[str], matching: Sequence[str], out: TextIO
) -> int:
    """Solves a table, and gives the status it ends with."""
    from zephyrant.tables.in_parts import solve_table

    try:
        problems = solve_table(file, out, list(settings), list(matching), way)
    except ImportError as error:
        missing = f"pip install 'zephyrant[tables]' brings {error.name}"
        raise click.UsageError(f"Reading such a file needs more: {missing}.") from None
    except NotALoan as error:
        for each in error.errors:
            field = f"{each.field}: " if each.field and each.field != "file" else ""
            sys.stderr.write(f"{field}{each.message}\n")
        return NOT_A_DOCUMENT
    return NO_ANSWER if problems else ANSWERED
