"""`make bench-cluster`: how the cost of a tape grows with workers and parts; ten million rows.

    python -m tools.bench_cluster [ROWS]

Prints a line each, of runs whose sums were looked at, and what follows for more workers than are
here.
"""

import random
import resource
import sys
import tempfile
import time
from decimal import Decimal
from pathlib import Path
from typing import Any

from zephyrant.cluster import OnCluster, Outcome, work_tape
from zephyrant.cluster.plan import Plan
from zephyrant.cluster.workers import machines
from zephyrant.tables.asked import BY_COMMAND
from zephyrant.tables.pieces import cut_tape, files_of

#: Rows of the shorter tapes.
SHORT = 1_000_000
HUNDRED_MILLION = 100_000_000


def write(path: Path, rows: int) -> Decimal:
    """A tape of an invented harbour: 60 % ask for the payment, 30 % for the rate, 10 % for the
    payment beside a balloon. Gives what is lent in all."""
    made = random.Random(7)
    lent = 0
    with path.open("w") as file:
        file.write("Loan,Amount,Rate,Payments,Payment,Balloon,Start\n")
        for number in range(rows):
            cents = made.randrange(500_000, 50_000_000)
            lent += cents
            amount, rate = cents / 100, made.randrange(100, 1200) / 100
            count, asks = made.choice([24, 36, 60, 84, 120, 180, 240, 360]), made.random()
            payment, balloon = "?", ""
            if 0.6 < asks < 0.9:
                payment = f"{amount / count * (1 + rate * count / 2400):.2f}"
            elif asks > 0.9:
                balloon = f"{amount / 5:.2f}"
            percent = str(rate) if payment == "?" else "?"
            day = f"2027-0{1 + number % 9}-15"
            file.write(f"H{number:08},{amount:.2f},{percent},{count},{payment},{balloon},{day}\n")
    return Decimal(lent).scaleb(-2)


def solved(tape: Path, lent: Decimal, out: Path, **asked: Any) -> tuple[Outcome, float]:  # noqa: ANN401
    """A run, and its seconds from beginning to end; its sums were looked at."""
    began = time.monotonic()
    outcome = work_tape(str(tape), str(out), OnCluster(BY_COMMAND, **asked))
    seconds = time.monotonic() - began
    (path,) = outcome.summary.paths
    (sums,) = path.sums
    assert (sums.principal, path.problems, outcome.summary.missing) == (lent, 0, 0), path
    return outcome, seconds


def tell(what: str, *figures: str) -> None:
    print(f"{what:<44}" + "".join(f"{figure:>18}" for figure in figures), flush=True)


def main(rows: int) -> None:
    with tempfile.TemporaryDirectory(prefix="zephyrant-bench-") as folder:
        here = Path(folder)
        short = here / "short.csv"
        lent = write(short, SHORT)
        began = time.monotonic()
        with machines(None, 2):
            start = time.monotonic() - began
        tell("two workers start", f"{start:.1f} s")
        tell("", "rows a second", "in all", "of a worker")
        for workers in (1, 2):
            outcome, seconds = solved(short, lent, here / f"by-{workers}", workers=workers)
            run = outcome.summary.run
            of_one = run["rows"] / run["worker_seconds"]
            figures = (f"{run['rows_a_second']:,.0f}", f"{seconds:.1f} s", f"{of_one:,.0f}")
            tell(f"{SHORT:,} rows, {workers} workers", *figures)
        tell("", "rows a second", "beside the work", "memory")
        for part in (1_000, 5_000, 20_000, 50_000, 200_000):
            tape, sum_of = short, lent
            outcome, _ = solved(tape, sum_of, here / f"parts-{part}", workers=2, part_rows=part)
            run = outcome.summary.run
            parts = outcome.summary.parts
            beside = (2 * run["seconds"] - run["worker_seconds"]) / parts
            tell(
                f"{SHORT:,} rows in {parts:,} parts",
                f"{run['rows_a_second']:,.0f}",
                f"{1000 * beside:.1f} ms a part",
                f"{run['most_memory_of_a_worker'] / 1e6:,.0f} MB",
            )
        far(here, rows)


def far(here: Path, rows: int) -> None:
    """The long tape, and what follows from it."""
    tape = here / "long.csv"
    lent = write(tape, rows)
    began = time.monotonic()
    cut_tape(files_of(str(tape)), 50_000)
    cutting = time.monotonic() - began
    outcome, seconds = solved(tape, lent, here / "long", workers=2)
    run = outcome.summary.run
    plan = Plan.model_validate_json((here / "long" / "_run" / "plan.json").read_bytes())
    began = time.monotonic()
    work_tape(str(tape), str(here / "long"), OnCluster(BY_COMMAND, workers=2))
    summing = time.monotonic() - began
    written = sum(part.stat().st_size for part in (here / "long").glob("part-*"))
    own = 1024 * resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
    tell(
        f"{rows:,} rows, two workers", f"{run['rows_a_second']:,.0f} a second", f"{seconds:,.0f} s"
    )
    tell("  of these: cutting", f"{cutting:.1f} s", f"{tape.stat().st_size / 1e6:,.0f} MB read")
    looking = seconds - run["seconds"] - cutting - summing
    tell("  start, and looking at all cells", f"{looking:.1f} s")
    tell("  solving", f"{run['seconds']:.1f} s", f"{written / 1e6:,.0f} MB written")
    tell("  summing up", f"{summing:.1f} s", f"{len(plan.pieces):,} parts")
    tell(
        "  most memory",
        f"{run['most_memory_of_a_worker'] / 1e6:,.0f} MB a worker",
        f"{own / 1e6:,.0f} MB here",
    )
    scale = HUNDRED_MILLION / rows
    of_one = run["worker_seconds"] / run["rows"]
    for workers in (8, 64, 512):
        working = HUNDRED_MILLION * of_one / workers
        looks = scale * max(looking - 10, 0) * 2 / workers
        alone = 10 + scale * (cutting + summing)
        tell(
            f"100,000,000 rows, {workers} workers: reckoned",
            f"{alone + looks + working + 50_000 * of_one:,.0f} s",
            f"{alone:,.0f} s alone",
        )


if __name__ == "__main__":
    main(int(sys.argv[1]) if len(sys.argv) > 1 else 10_000_000)
