"""A tape of any length, in a file or a folder, solved by many machines."""

import os
from collections.abc import Mapping, Sequence
from pathlib import Path
from typing import TYPE_CHECKING, Any

from zephyrant.loans.tape import shocks_of
from zephyrant.tables.template import template_of

from .tapes import BY_LIBRARY

if TYPE_CHECKING:
    from zephyrant.cluster import TapeSummary


def solve_folder(
    tape: str | Path,
    out: str | Path,
    /,
    *,
    workers: int | None = None,
    cluster: str | None = None,
    shocks: Sequence[Mapping[str, str]] = (),
    rows: bool = True,
    part_rows: int | None = None,
    columns: Mapping[str, str] | None = None,
    template: Mapping[str, Any] | None = None,
    **settings: Any,  # noqa: ANN401
) -> "TapeSummary":
    """A tape in a file, or in the files of a folder (Parquet, CSV or JSON Lines), solved in parts
    into a folder of Parquet, by `workers` processes of this machine (each of its cores, where
    nothing is said) or those of the Dask scheduler at the address `cluster`, on a network one
    trusts. Gives what it comes to, which stands in `summary.json` too; started again, it goes on
    with what is missing. Needs `zephyrant[cluster]`.

    `shocks`: paths, each the tape with figures moved (`{"name": "rates up", "percent": "+1",
    "payment": "?"}`); `rows`: whether rows are written, or sums alone; `part_rows`: about how many
    rows are a part. `columns`, `template` and `settings` as `solve_tape` has them. A script that
    starts workers says so below `if __name__ == "__main__"`, as they read it too. Raises
    `zephyrant.NotALoan` where something has to be said first, the folder is not free, or machines
    cannot work or went away.

    >>> from tempfile import mkdtemp
    >>> here = Path(mkdtemp())
    >>> _ = (here / "tape.csv").write_text("Amount,Rate,Payments,Payment\\n48250,6.35,60,?\\n")
    >>> summary = solve_folder(here / "tape.csv", here / "solved", workers=1)
    >>> summary.paths[0].sums[0].payment
    Decimal('940.68')
    """
    try:
        from zephyrant.cluster import PART_ROWS, OnCluster, work_tape
    except ImportError as error:
        message = f"many machines need {error.name}: pip install 'zephyrant[cluster]'"
        raise ImportError(message, name=error.name) from None
    of = template_of(dict(template)) if template is not None else None
    paths = [dict(each) for each in shocks]
    asked = OnCluster(
        saying=BY_LIBRARY,
        stated={**(of.settings if of else {}), **settings},
        columns=columns or {},
        template=of,
        cluster=cluster,
        workers=workers or len(os.sched_getaffinity(0)),
        shocks=shocks_of({"zephyrant": "shocks/1", "paths": paths}) if paths else (),
        rows=rows,
        part_rows=part_rows or PART_ROWS,
    )
    return work_tape(str(tape), str(out), asked).summary
