"""What a worker does of its own, and what it answers where it cannot."""

import errno
import io
import json
import tempfile
from collections.abc import Callable, Iterable, Iterator
from concurrent.futures import CancelledError
from contextlib import contextmanager
from pathlib import Path
from typing import Any
from unittest import TestCase
from unittest.mock import MagicMock, patch

import polars as pl
from distributed.scheduler import KilledWorker

from zephyrant.cluster import work
from zephyrant.cluster.edition import edition
from zephyrant.cluster.folder import Folder
from zephyrant.cluster.run import OnCluster, work_tape
from zephyrant.cluster.workers import LOST, Machines
from zephyrant.loans import NotALoan
from zephyrant.loans.tape import Defaults
from zephyrant.outlets.reader import Reader
from zephyrant.tables.asked import BY_COMMAND, Asked
from zephyrant.tables.blocks import Matched
from zephyrant.tables.in_parts import solve_table
from zephyrant.tables.pieces import cut_tape, files_of
from zephyrant.tables.ways_out import Heads

NAMES = ("Loan", "Amount", "Rate", "Payments", "Every")
TAPE = "Loan,Amount,Rate,Payments,Every\nA,12000,6,24,month\nB,48250,5,36500,day\n"
COLUMNS = {"name": 0, "principal": 1, "percent": 2, "count": 3, "every": 4}


@contextmanager
def job(tape: str = TAPE, **defaults: object) -> Iterator[work.Job]:
    """A part of a tape to be solved, in a folder of its own."""
    with tempfile.TemporaryDirectory() as folder:
        Path(folder, "tape.csv").write_text(tape)
        out = Folder(f"{folder}/out")
        out.begin()
        (piece,) = cut_tape(files_of(f"{folder}/tape.csv"), 100).pieces
        heads = Heads.beside(NAMES, ["text"] * len(NAMES), Reader())
        matched = Matched(heads, COLUMNS, Defaults.model_validate(defaults))  # type: ignore[arg-type]
        yield work.Job(str(out.path), 1, piece, 1, matched, None, rows=True)


class Working(TestCase):
    def refused(self, answer: object, saying: str) -> None:
        assert isinstance(answer, work.Refused), answer
        self.assertIn(saying, answer.message)

    def test_a_row_that_takes_the_limit_says_so_and_stops_no_other(self) -> None:
        with (
            job(rounding={"payment": "up"}) as asked,
            patch("zephyrant.tables.blocks.A_QUESTION", 0.02),
        ):
            done = work.solve(edition(), asked)
            assert isinstance(done, work.Done), done
            self.assertEqual((done.rows, done.problems), (2, 1))
            (part,) = Path(asked.folder).glob("part-*.parquet")
            rows = pl.read_parquet(part)
        self.assertEqual(rows["problem"].is_null().to_list(), [True, False])
        self.assertIn("36500 payments take too long to be worked here", rows["problem"][1])

    def test_a_part_that_is_there_is_not_written_again(self) -> None:
        with job() as asked:
            first = work.solve(edition(), asked)
            (part,) = Path(asked.folder).glob("part-*.parquet")
            written = part.stat().st_mtime_ns
            with patch("zephyrant.cluster.work.solved", side_effect=AssertionError):
                again = work.solve(edition(), asked)
            self.assertEqual(part.stat().st_mtime_ns, written)
        assert isinstance(first, work.Done), first
        assert isinstance(again, work.Done), again
        self.assertEqual((again.rows, again.problems), (first.rows, first.problems))

    def test_a_full_disk_leaves_nothing_half_written(self) -> None:
        full = OSError(errno.ENOSPC, "No space left on device")
        with job() as asked, patch("zephyrant.cluster.folder.os.fsync", side_effect=full):
            self.refused(work.solve(edition(), asked), "There is no room left to write a part")
            left = [each for each in Path(asked.folder).rglob("*") if each.is_file()]
        self.assertEqual(left, [])

    def test_a_folder_that_cannot_be_written_is_named(self) -> None:
        denied = PermissionError(errno.EACCES, "Permission denied", "/out")
        with job() as asked, patch("zephyrant.cluster.folder.os.fsync", side_effect=denied):
            answer = work.solve(edition(), asked)
            self.refused(answer, "A worker cannot read or write /out: Permission denied")

    def test_a_tape_that_was_changed_under_way_is_not_worked(self) -> None:
        with job() as asked:
            Path(asked.piece.file.name).write_text(TAPE + "C,1,1,1,month\n")
            self.refused(work.solve(edition(), asked), "tape.csv was changed while it was worked")
            Path(asked.piece.file.name).unlink()
            self.refused(work.solve(edition(), asked), "tape.csv cannot be read any more")

    def test_another_edition_does_nothing(self) -> None:
        with job() as asked:
            self.refused(work.solve("0.0.1 (abc)", asked), f"A worker has zephyrant {edition()}")

    def test_a_worker_that_sees_another_folder_says_which(self) -> None:
        with job() as asked:
            folder, tape = asked.folder, asked.piece.file.name
            Folder(folder).write(Folder(folder).token, "this one")
            self.assertEqual(work.sees(edition(), folder, "this one", [tape]), "")
            for token, file in (("another", tape), ("this one", "/nowhere/tape.csv")):
                answer = work.sees(edition(), folder, token, [file])
                self.assertIn("A worker does not see", str(answer))

    def test_a_job_whose_workers_all_died_is_lost_and_the_others_are_not(self) -> None:
        class Ended:
            """A job as a client has it that came to an end."""

            def __init__(self, status: str, error: Exception | None = None) -> None:
                self.status, self.error = status, error

            def result(self) -> object:
                assert self.error is not None
                raise self.error

        died = KilledWorker("part", None, 3)  # type: ignore[arg-type]
        jobs: Any = [Ended("finished"), Ended("error", died), Ended("finished")]
        crew = AtOnce()
        crew.client = MagicMock()
        crew.client.gather.return_value = ["one", "three"]
        self.assertEqual(crew._answers(jobs), ["one", LOST, "three"])
        crew.client.gather.return_value = ["one", work.Refused("It is full.")]
        with self.assertRaisesRegex(NotALoan, "It is full"):
            crew._answers(jobs)
        crew.where = "tcp://there"
        jobs[1] = Ended("cancelled", CancelledError())
        crew.client.gather.return_value = ["one", "three"]
        with self.assertRaisesRegex(NotALoan, "went away. Start the same again"):
            crew._answers(jobs)


class PartsOfATape(TestCase):
    def test_json_lines_and_parquet_come_out_as_one_machine_writes_them(self) -> None:
        rows = [{"Loan": n, "Amount": 1000.5 + n, "Rate": 5, "Payments": 12} for n in range(40)]
        rows[33]["Note"] = True
        frame = io.BytesIO()
        pl.DataFrame(rows[:30]).write_parquet(frame)
        lines = "".join(json.dumps(row) + "\n" for row in rows)
        for name, content in (("t.jsonl", lines.encode()), ("t.parquet", frame.getvalue())):
            with tempfile.TemporaryDirectory() as folder:
                self.same(Path(folder), name, content)

    def same(self, folder: Path, name: str, content: bytes) -> None:
        """By the functions of workers, in this process, against `solve_table`."""
        (folder / name).write_bytes(content)
        with (folder / "one.parquet").open("wb") as out:
            solve_table(str(folder / name), out, Asked(way="parquet"))
        asked = OnCluster(BY_COMMAND, part_rows=7)
        with patch("zephyrant.cluster.run.machines", at_once):
            work_tape(str(folder / name), str(folder / "many"), asked)
        parts = sorted((folder / "many").glob("part-*"))
        self.assertGreater(len(parts), 4)
        many = pl.concat([pl.read_parquet(part) for part in parts])
        whole = pl.read_parquet(folder / "one.parquet")
        self.assertEqual(many.schema, whole.schema)
        self.assertTrue(many.equals(whole))


class AtOnce(Machines):
    """Work done here, one job after the other."""

    def __init__(self) -> None:
        pass

    def ask_all(self, ask: Callable[..., str | work.Refused], *given: object) -> None:
        pass

    def each(self, work: Callable[..., Any], jobs: Iterable[Any], *given: object) -> Iterator[Any]:
        for each in jobs:
            yield each, work(*given, each)


@contextmanager
def at_once(cluster: str | None, workers: int) -> Iterator[AtOnce]:
    yield AtOnce()
