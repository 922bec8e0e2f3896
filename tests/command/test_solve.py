"""`manage.py solve` as a user calls it: a process of its own."""

import json
import subprocess
import sys
import tempfile
from contextlib import redirect_stderr
from io import StringIO
from pathlib import Path
from unittest import TestCase
from unittest.mock import patch

from django.conf import settings

from tests.loans.documents import document
from zephyrant import loans
from zephyrant.command.solving import solve_file


def solve(*arguments: str, text: str = "") -> tuple[list[dict[str, object]], int]:
    """The lines printed and the exit status."""
    done = subprocess.run(
        [sys.executable, "manage.py", "solve", *arguments],
        cwd=settings.BASE_DIR,
        input=text,
        capture_output=True,
        text=True,
        check=False,
    )
    return [json.loads(line) for line in done.stdout.splitlines()], done.returncode


class SolveCommand(TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)

    def file(self, name: str, content: object) -> str:
        path = self.folder / name
        path.write_text(content if isinstance(content, str) else json.dumps(content))
        return str(path)

    def test_a_line_each_in_the_order_given_and_the_highest_status(self) -> None:
        good = self.file("good.json", document())
        never = self.file("never.json", document(count="?", payment="252.01"))
        bad = self.file("bad.json", document(principal="?"))
        lines, status = solve(good)
        self.assertEqual((lines[0]["value"], status), ("938.82", 0))
        lines, status = solve(good, never)
        self.assertEqual((lines[1]["solutions"], status), ([], 1))
        stated = self.file("stated.json", document(payment="900"))
        lines, status = solve(stated)
        self.assertEqual((lines[0]["fits"], status), (False, 0))
        lines, status = solve(bad, good, never)
        self.assertEqual(status, 2)
        self.assertEqual(["errors" in line for line in lines], [True, False, False])
        self.assertEqual(
            [error["field"] for error in lines[0]["errors"]],  # type: ignore[attr-defined]
            ["principal", "payment"],
        )

    def test_standard_input(self) -> None:
        lines, status = solve("-", text=json.dumps(document()))
        self.assertEqual((lines[0]["value"], status), ("938.82", 0))

    def test_what_is_no_document(self) -> None:
        cases = [
            self.file("nan.json", '{"zephyrant": "loan/1", "principal": NaN}'),
            self.file("text.json", "Dear sirs,"),
            self.file("big.json", '"' + "x" * 2_000_000 + '"'),
            self.file("list.json", [document()]),
            str(self.folder / "nowhere.json"),
            str(self.folder),
        ]
        lines, status = solve(*cases)
        self.assertEqual(status, 2)
        self.assertEqual(len(lines), len(cases))
        for line in lines:
            self.assertEqual(list(line), ["errors"])

    def test_three_hundred_documents_in_one_call(self) -> None:
        names = [self.file(f"{number}.json", document(count=number + 1)) for number in range(300)]
        lines, status = solve(*names)
        self.assertEqual(status, 0)
        self.assertEqual([len(line["schedule"]) for line in lines], list(range(1, 301)))  # type: ignore[arg-type]

    def test_a_fault_of_ours_does_not_end_the_others(self) -> None:
        good, other = (self.file(name, document()) for name in ("good.json", "other.json"))
        real = loans.solve

        def failing(loan: loans.Loan, marks: loans.Marks) -> loans.Answer:
            if loan.name == "":
                raise ZeroDivisionError
            return real(loan, marks)

        bad = self.file("bad.json", document(name=None))
        with patch("zephyrant.loans.solve", failing), redirect_stderr(StringIO()) as said:
            told = [solve_file(name) for name in (good, bad, other)]
        self.assertEqual([each.status for each in told], [0, 3, 0])
        fault = json.loads(told[1].as_json())
        self.assertEqual(set(fault), {"errors", "fault"})
        self.assertEqual(fault["errors"][0]["field"], "")
        self.assertIn(fault["fault"], said.getvalue())
        self.assertIn("ZeroDivisionError", said.getvalue())
