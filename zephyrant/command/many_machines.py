"""`table FILE-or-FOLDER --out FOLDER --workers N`: a tape worked by many machines."""

import os
import sys
from collections.abc import Callable
from functools import wraps
from typing import TYPE_CHECKING, Any, NamedTuple, TypeVar

import click

from zephyrant.loans import MARKS, NotALoan

from .statuses import ANSWERED, NO_ANSWER, NOT_A_DOCUMENT

if TYPE_CHECKING:
    from zephyrant.cluster import Outcome
    from zephyrant.tables.asked import Asked
F = TypeVar("F", bound=Callable[..., Any])


class ManyMachines(NamedTuple):
    """Which machines work, in parts of how many rows, under which shocks; whether sums alone are
    wanted."""

    cluster: str | None
    workers: int
    shocks: str | None
    part_rows: int | None
    sums_alone: bool


def cluster_options(function: F) -> F:
    """Gives a part of the command the options of many machines, which it takes together as
    `many`; none where they are not asked for."""

    @click.option(
        "--workers",
        type=click.IntRange(1, 1_024),
        metavar="N",
        help="So many processes of this machine.  [cluster]",
    )
    @click.option(
        "--cluster",
        metavar="ADDRESS",
        help="The workers of a Dask scheduler, such as tcp://10.0.0.5:8786, on a network you "
        "trust: whoever reaches it runs what they like there.  [cluster]",
    )
    @click.option(
        "--shocks",
        metavar="FILE",
        help="Paths, each the tape with rates, balances or terms moved (JSON, YAML or TOML).  "
        "[cluster]",
    )
    @click.option(
        "--sums-only", "sums_alone", is_flag=True, help="Write no rows, sums alone.  [cluster]"
    )
    @click.option(
        "--part-rows",
        type=click.IntRange(100, 5_000_000),
        metavar="N",
        help="Rows of a part, about: 50,000.  [cluster]",
    )
    @wraps(function)
    def with_machines(
        *,
        workers: int | None,
        cluster: str | None,
        shocks: str | None,
        sums_alone: bool,
        part_rows: int | None,
        **others: Any,  # noqa: ANN401
    ) -> object:
        if workers and cluster:
            raise click.UsageError("Say --workers or --cluster, not both.")
        many = None
        if workers or cluster or shocks or sums_alone or part_rows:
            workers = workers or len(os.sched_getaffinity(0))
            many = ManyMachines(cluster, workers, shocks, part_rows, sums_alone)
        return function(many=many, **others)

    return with_machines  # type: ignore[return-value]


def with_template(asked: "Asked", template: str | None) -> "Asked":
    """What is said of a table, and by the template in a file; raises `NotALoan`."""
    from zephyrant.documents import read_content
    from zephyrant.tables.template import template_of

    return asked._replace(template=template_of(read_content(template))) if template else asked


def tell_errors(error: NotALoan) -> None:
    """What is wrong, a line each, on standard error."""
    for each in error.errors:
        field = f"{each.field}: " if each.field and each.field != "file" else ""
        sys.stderr.write(f"{field}{each.message}\n")


def _tell(outcome: "Outcome") -> None:
    """What a tape comes to, on a terminal."""
    from rich.console import Console

    from zephyrant.outlets.text import print_part, table_of

    console, marks = Console(highlight=False), MARKS["comma-point"]
    for rows in (outcome.summary.sums(marks), outcome.summary.spread(marks)):
        if rows.rows:
            print_part(console, table_of(rows))
    for path in outcome.summary.paths:
        counts = (
            f"{path.rows:,} rows, {path.problems:,} without answer, {path.apart:,} left out, "
            f"{path.unfit:,} do not fit"
        )
        console.print(path.called(counts))
    console.print(f"All of it stands in {outcome.path}.", soft_wrap=True)


def work_on_many(
    source: str, folder: str, asked: "Asked", template: str | None, many: ManyMachines
) -> int:
    """Has a tape worked, tells what it comes to, and gives the status it ends with."""
    try:
        from zephyrant.cluster import PART_ROWS, OnCluster, work_tape
    except ImportError as error:
        missing = f"pip install 'zephyrant[cluster]' brings {error.name}"
        raise click.UsageError(f"Many machines need more: {missing}.") from None
    from zephyrant.documents import read_content
    from zephyrant.loans.tape import shocks_of
    from zephyrant.tables.asked import BY_COMMAND

    try:
        asked = with_template(asked, template)
        shocks = shocks_of(read_content(many.shocks)) if many.shocks else ()
        wanted = OnCluster(
            saying=BY_COMMAND,
            stated=asked.stated(),
            columns=asked.columns(),
            template=asked.template,
            cluster=many.cluster,
            workers=many.workers,
            shocks=shocks,
            rows=not many.sums_alone,
            part_rows=many.part_rows or PART_ROWS,
        )
        outcome = work_tape(source, folder, wanted)
    except NotALoan as error:
        tell_errors(error)
        return NOT_A_DOCUMENT
    _tell(outcome)
    if outcome.lost:
        sys.stderr.write(
            f"{outcome.lost} parts are missing: start the same again, and only they are worked.\n"
        )
        return NOT_A_DOCUMENT
    return NO_ANSWER if outcome.problems else ANSWERED
