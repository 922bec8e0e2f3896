"""`table FILE`: a table of loans, a row each."""

import gzip
import sys
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import IO, TYPE_CHECKING, Final

import click

from zephyrant.loans import NotALoan
from zephyrant.outlets.csv_form import CsvForm

from .csv_options import csv_options
from .many_machines import (
    ManyMachines,
    cluster_options,
    tell_errors,
    with_template,
    work_on_many,
)
from .statuses import ANSWERED, NO_ANSWER, NOT_A_DOCUMENT

if TYPE_CHECKING:
    from zephyrant.tables.asked import Asked
    from zephyrant.tables.ways_out import WayName
_WAYS: Final[dict[str, "WayName"]] = {
    ".csv": "csv",
    ".jsonl": "json",
    ".ndjson": "json",
    ".md": "md",
    ".txt": "text",
    ".xlsx": "xlsx",
    ".parquet": "parquet",
    ".arrow": "arrow",
    ".feather": "arrow",
}


@click.command(
    context_settings={"help_option_names": ["-h", "--help"]},
    epilog="""
\b
Examples:
  zephyrant table tape.csv > solved.csv
  zephyrant table tape.xlsx --match percent="Price of money" --set every=quarter --out solved.csv
  zephyrant table tape.parquet --out solved.parquet
  zephyrant table tapes.xlsx --sheet "Harbour 2027" --out solved.csv.gz
  cat tape.csv | zephyrant table - --as json
  zephyrant table tapes/ --out solved/ --workers 8
  zephyrant table tapes/ --out shocked/ --cluster tcp://10.0.0.5:8786 --shocks shocks.yaml

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
    type=click.Choice(list(dict.fromkeys(_WAYS.values()))),
    help="How rows come out: csv, or as the name of --out says; json is a line of JSON each. xlsx, "
    "parquet and arrow need [tables].",
)
@click.option(
    "--template",
    metavar="FILE",
    help="Columns and settings as the desk keeps them by a name (JSON, YAML or TOML); --match and "
    "--set come before it.",
)
@csv_options
@click.option("--sheet", metavar="NAME", help="Which sheet of a workbook is read.")
@click.option(
    "--out",
    metavar="FILE",
    default="-",
    help="Where to; - is standard output; a name with .gz is packed. Of many machines a folder.",
)
@cluster_options
def table(
    *,
    file: str,
    matching: tuple[str, ...],
    settings: tuple[str, ...],
    way: "WayName | None",
    template: str | None,
    csv: CsvForm,
    sheet: str | None,
    out: str,
    many: ManyMachines | None,
) -> None:
    """Solve a table of loans (CSV, JSON or JSON Lines; with [tables] XLSX, XLS, Parquet and Arrow;
    packed with gzip or not; - is standard input). Its columns come out, then the results.

    With --workers or --cluster [cluster] FILE may be a folder of Parquet, CSV or JSON Lines, and is
    worked in parts, into a folder of Parquet with summary.json. Started again, a run goes on with
    what is missing.
    """
    from zephyrant.tables.asked import Asked
    from zephyrant.tables.ways_out import BINARY

    asked = Asked(settings, matching, sheet, way or "csv", csv)
    if many is not None:
        if out == "-" or sheet is not None or way not in (None, "parquet"):
            raise click.UsageError("Many machines write Parquet into a folder: say --out FOLDER.")
        sys.exit(work_on_many(file, out, asked, template, many))
    if Path(file).is_dir():
        raise click.UsageError(f"{file} is a folder: say --workers N, or --cluster ADDRESS.")
    if out == "-":
        if asked.way in BINARY and sys.stdout.isatty():
            raise click.UsageError(f"A terminal shows no {way}: say --out FILE.")
        status = solve_as(file, sys.stdout.buffer, asked, template)
        sys.stdout.flush()
        sys.exit(status)
    bare = out.removesuffix(".gz")
    way = way or _WAYS.get(Path(bare).suffix.lower())
    if way is None:
        raise click.UsageError(f"Say --as, or name it such as solved.csv: {', '.join(_WAYS)}.")
    # What stood there goes only when there is something in its place.
    unfinished = Path(f"{out}.part")
    try:
        with unfinished.open("wb") as opened, _packing(opened, is_packed=bare != out) as written:
            status = solve_as(file, written, asked._replace(way=way), template)
        if status != NOT_A_DOCUMENT:
            unfinished.replace(out)
    except OSError as error:
        raise click.UsageError(f"{out} cannot be written: {error.strerror or error}.") from None
    finally:
        unfinished.unlink(missing_ok=True)
    sys.exit(status)


@contextmanager
def _packing(file: IO[bytes], *, is_packed: bool) -> Iterator[IO[bytes]]:
    """Where to write, so that it is packed or not."""
    if not is_packed:
        yield file
        return
    # Without a name and a time the same rows are the same file.
    with gzip.GzipFile(filename="", mode="wb", fileobj=file, mtime=0) as packed:
        yield packed  # type: ignore[misc]


def solve_as(file: str, out: IO[bytes], asked: "Asked", template: str | None = None) -> int:
    """Solves a table, as the template in a file says too, and gives the status it ends with."""
    from zephyrant.tables.in_parts import solve_table

    try:
        problems = solve_table(file, out, with_template(asked, template))
    except ImportError as error:
        missing = f"pip install 'zephyrant[tables]' brings {error.name}"
        raise click.UsageError(f"Such a file needs more: {missing}.") from None
    except NotALoan as error:
        tell_errors(error)
        return NOT_A_DOCUMENT
    return NO_ANSWER if problems else ANSWERED
