"""Tapes worked by many machines: what they write is what one machine writes, whatever happens to
them on the way."""

import csv
import json
import random
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from decimal import ROUND_HALF_UP, Decimal
from pathlib import Path
from typing import Any
from unittest import TestCase
from unittest.mock import patch

import polars as pl

from zephyrant.cluster import OnCluster, work_tape
from zephyrant.loans import NotALoan
from zephyrant.tables.asked import BY_COMMAND, Asked
from zephyrant.tables.in_parts import solve_table

from .machines import ended, run, scheduler, started, until, worker, workers_of

HEAD = ["Loan", "Amount", "Rate", "Payments", "Payment", "Balloon", "Start"]
MONEY = ("principal", "payment", "total_paid", "total_interest")


def rows(many: int) -> Iterator[list[str]]:
    """Loans of an invented harbour: most ask for the payment, some for the rate, some are checked,
    some have a balloon, every thousandth cannot be read."""
    made = random.Random(7)
    for number in range(many):
        amount = Decimal(made.randrange(500_000, 50_000_000)).scaleb(-2)
        rate = Decimal(made.randrange(100, 1200)).scaleb(-2)
        count = made.choice([24, 36, 60, 84, 120, 180, 240, 360])
        likely = round(amount / count * (1 + rate * count / 2400), 2)
        asks = made.random()
        yield [
            f"H{number:07}",
            "nonsense" if number % 1000 == 999 else str(amount),
            "?" if 0.7 < asks < 0.89 else str(rate),
            str(count),
            str(likely) if 0.7 < asks < 0.9 else "?",
            str(round(amount / 5, 2)) if asks > 0.9 else "",
            f"2027-0{1 + number % 9}-15",
        ]


def write(path: Path, tape: list[list[str]]) -> Path:
    with path.open("w", newline="") as file:
        csv.writer(file).writerows([HEAD, *tape])
    return path


def together(folder: Path) -> pl.DataFrame:
    """The rows that a run wrote, in the order of its parts."""
    return pl.concat([pl.read_parquet(part) for part in sorted(folder.glob("part-*.parquet"))])


def summary(folder: Path) -> dict[str, Any]:
    return json.loads((folder / "summary.json").read_text())


@contextmanager
def room() -> Iterator[Path]:
    with tempfile.TemporaryDirectory() as folder:
        yield Path(folder)


class ManyMachines(TestCase):
    """One class: each starts processes, which are few at a time so."""

    def held_to(self, whole: pl.DataFrame, path: dict[str, Any]) -> None:
        """The sums of a path against those of the rows that one machine wrote."""
        solved = whole.filter(pl.col("problem").is_null())
        (sums,) = path["sums"]
        self.assertEqual(path["rows"], len(whole))
        self.assertEqual(path["problems"], len(whole) - len(solved))
        self.assertEqual(path["unfit"], len(whole.filter(~pl.col("fits"))))
        for name in MONEY:
            self.assertEqual(Decimal(sums[name]), solved[name].sum(), name)
        lent = pl.col("principal").cast(float)
        weighed = (pl.col("percent").cast(float) * lent).sum() / lent.sum()
        self.assertAlmostEqual(sums["percent"], solved.select(weighed).item(), 9)
        counts = path["spread"]["count"]
        self.assertEqual(counts["rank_error"], 0)
        self.assertEqual(counts["middle"], solved["count"].median())
        payments = path["spread"]["payment"]
        values = solved["payment"].cast(float).sort()
        for name, part in (("low", 0.005), ("middle", 0.5), ("high", 0.995)):
            rank = values.search_sorted(payments[name]) / len(values)
            self.assertLess(abs(rank - part), 3 * payments["rank_error"] + 1e-9, name)
        for figure in path["spread"].values():
            self.assertEqual(sum(each["rows"] for each in figure["bins"]), len(solved))
        farthest = payments["farthest"][0]
        self.assertEqual(farthest["value"], values[-1])
        self.assertEqual(float(whole["payment"][farthest["row"] - 1]), values[-1])

    def test_200_000_rows_by_two_workers_of_which_one_is_killed(self) -> None:
        with room() as here:
            tape = write(here / "tape.csv", list(rows(200_000)))
            self.assertEqual(run("table", tape, "--out", here / "one.parquet").status, 1)
            asked = ("table", tape, "--out", here / "many", "--workers", "2")
            process = started(*asked, "--part-rows", "20000")
            until(lambda: list((here / "many").glob("part-*")), process)
            workers_of(process)[-1].kill()
            there = {part: part.stat().st_mtime_ns for part in (here / "many").glob("part-*")}
            busy = run(*asked)
            self.assertEqual(busy.status, 2)
            self.assertIn("Another run is writing", busy.err)
            done = ended(process)
            self.assertEqual(done.status, 1, done.err)
            # What was written when it died was not written again.
            self.assertEqual({part: part.stat().st_mtime_ns for part in there}, there)
            whole = pl.read_parquet(here / "one.parquet")
            many = together(here / "many")
            self.assertEqual(many.schema, whole.schema)
            self.assertTrue(many.equals(whole))
            self.assertIn("200,000 of 200,000 rows", done.err)
            told = summary(here / "many")
            self.assertEqual((told["missing"], len(told["paths"])), (0, 1))
            self.held_to(whole, told["paths"][0])
            self.assertGreater(told["run"]["most_memory_of_a_worker"], 50_000_000)
            self.assertIn("All of it stands in", done.out)
            self.goes_on_with_what_is_missing(here / "many", asked, whole)

    def goes_on_with_what_is_missing(
        self, many: Path, asked: tuple[str | Path, ...], whole: pl.DataFrame
    ) -> None:
        parts = sorted(many.glob("part-*"))
        self.assertGreater(len(parts), 8)
        self.assertEqual(list((many / "_run").glob("*.part")), [])
        before = {part: part.stat().st_mtime_ns for part in parts}
        parts[3].unlink()
        (many / "_run" / "as-it-stands" / f"{parts[7].stem}.json").unlink()
        other = run(*asked)
        self.assertEqual(other.status, 2)
        self.assertIn("holds another run: the rows of a part differ", other.err)
        again = run(*asked, "--part-rows", "20000")
        self.assertEqual(again.status, 1, again.err)
        anew = [part for part in parts if part.stat().st_mtime_ns != before[part]]
        self.assertEqual(anew, [parts[3], parts[7]])
        self.assertTrue(together(many).equals(whole))
        self.held_to(whole, summary(many)["paths"][0])
        third = run(*asked, "--part-rows", "20000")
        self.assertIn("All of it is written in", third.err)

    def test_shocks_are_the_tape_with_its_cells_moved_by_hand(self) -> None:
        tape = [row for row in rows(600) if row[1] != "nonsense"]
        paths = [
            {"name": "base"},
            {"name": "rates up", "percent": "+50 bp", "payment": "?"},
            {"name": "shorter and smaller", "principal": "-10 %", "count": "-1 year"},
        ]
        shocks = {"zephyrant": "shocks/1", "paths": paths}
        with room() as here:
            parts = here / "tapes"
            parts.mkdir()
            write(parts / "a.csv", tape[:250])
            write(parts / "b.csv", tape[250:])
            (here / "shocks.json").write_text(json.dumps(shocks))
            done = run(
                *("table", parts, "--out", here / "many", "--workers", "1"),
                *("--part-rows", "100", "--shocks", here / "shocks.json"),
            )
            self.assertIn(done.status, (0, 1), done.err)
            told = summary(here / "many")
            self.assertEqual(
                [path["path"] for path in told["paths"]], [each["name"] for each in paths]
            )
            for path, move in zip(told["paths"], (self.as_it_is, self.up, self.less), strict=True):
                by_hand = write(here / "by-hand.csv", [move(row) for row in tape])
                with (here / "one.parquet").open("wb") as out:
                    solve_table(str(by_hand), out, Asked(way="parquet"))
                whole = pl.read_parquet(here / "one.parquet")
                many = together(here / "many" / f"path={path['path']}")
                # Own columns stay what they were; what is found is that of the moved loan.
                results = whole.columns[len(HEAD) :]
                self.assertTrue(many.select(results).equals(whole.select(results)), path["path"])
                self.assertEqual(many["Amount"].to_list(), [row[1] for row in tape])
                self.assertEqual(Decimal(path["sums"][0]["total_paid"]), whole["total_paid"].sum())

    @staticmethod
    def as_it_is(row: list[str]) -> list[str]:
        return row

    @staticmethod
    def up(row: list[str]) -> list[str]:
        name, amount, rate, count, payment, *others = row
        if rate != "?":
            rate, payment = str(Decimal(rate) + Decimal("0.5")), "?"
        return [name, amount, rate, count, payment, *others]

    @staticmethod
    def less(row: list[str]) -> list[str]:
        name, amount, rate, count, payment, *others = row
        less = (Decimal(amount) * Decimal("0.9")).quantize(Decimal("0.01"), ROUND_HALF_UP)
        return [name, str(less), rate, str(int(count) - 12), payment, *others]

    def test_schedulers_and_workers_that_are_not_as_they_should_be(self) -> None:
        with room() as here, scheduler() as (process, address):
            tape = write(here / "tape.csv", list(rows(60_000)))
            asked = OnCluster(BY_COMMAND, cluster=address, part_rows=5_000)

            def refused(saying: str) -> None:
                with self.assertRaisesRegex(NotALoan, saying):
                    work_tape(str(tape), str(here / "many"), asked)

            with worker(address, "import sys; sys.modules['zephyrant'] = None"):
                refused(r"A worker lacks the package: install zephyrant\[cluster\]")
            with worker(address, "import zephyrant.version as of; of.__version__ = '9.9.9'"):
                refused(r"A worker has zephyrant 9\.9\.9 \(\w+\), this machine \S+ \(")
            with worker(address):
                self.goes_away(process, tape, here / "many", address)
            with patch("zephyrant.cluster.workers._ANSWERS", 1):
                refused(f"No scheduler answers at {address}")
            # What was written stays, whole.
            one = run("table", tape, "--out", here / "one.parquet")
            self.assertEqual(one.status, 1, one.err)
            there = together(here / "many")
            self.assertGreater(len(there), 0)
            self.assertTrue(there.equals(pl.read_parquet(here / "one.parquet").head(len(there))))

    def goes_away(self, process: Any, tape: Path, many: Path, address: str) -> None:
        asked = ("table", tape, "--out", many, "--cluster", address, "--part-rows", "5000")
        under_way = started(*asked)
        until(lambda: list(many.glob("part-*")), under_way)
        process.kill()
        done = ended(under_way)
        self.assertEqual(done.status, 2)
        self.assertIn("went away. Start the same again", done.err)
        self.assertNotIn("Traceback", done.err)

    def test_the_library_does_what_its_docstring_shows(self) -> None:
        script = (
            "import doctest, zephyrant.library.folders as of; done = doctest.testmod(of); "
            "assert done.attempted > 4 and not done.failed"
        )
        done = subprocess.run(
            [sys.executable, "-c", script], capture_output=True, text=True, check=False
        )
        self.assertEqual(done.returncode, 0, done.stdout + done.stderr)

    def test_a_folder_in_which_something_else_lies_is_left_alone(self) -> None:
        with room() as here:
            tape = write(here / "tape.csv", list(rows(10)))
            (here / "mine").mkdir()
            (here / "mine" / "letter.txt").write_text("Dear harbour")
            done = run("table", tape, "--out", here / "mine", "--workers", "1")
            self.assertEqual(done.status, 2)
            self.assertIn("is not empty (letter.txt lies there), and no run of ours", done.err)
            self.assertEqual([each.name for each in (here / "mine").iterdir()], ["letter.txt"])
            inside = run("table", here, "--out", here / "out", "--workers", "1")
            self.assertEqual(inside.status, 2)
            self.assertIn("lies in the tape itself", inside.err)
            self.assertFalse((here / "out").exists())
