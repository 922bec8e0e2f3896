"""The command as a user calls it: documents in every form, answers in every way, exit statuses."""

import csv
import io
import json
import subprocess
import sys
import tempfile
from pathlib import Path
from typing import NamedTuple
from unittest import TestCase

from click.testing import CliRunner
from django.conf import settings

from tests.loans.documents import document
from zephyrant import loans
from zephyrant.command.main import zephyrant
from zephyrant.documents import read_document

YAML = """
zephyrant: loan/1
name: Cider press
currency: EUR
principal: 48250.00
rate:
  percent: 6.35
  compounding: half-year
count: 60
payment: "?"
start: 2027-03-15
clauses:
  - {at: 12, repay: 5000}
"""
TOML = """
zephyrant = "loan/1"
name = "Cider press"
currency = "EUR"
principal = 48250.00
count = 60
payment = "?"
start = 2027-03-15
rate = {percent = 6.35, compounding = "half-year"}
clauses = [{at = 12, repay = 5000}]
"""
SAME = document(start="2027-03-15", clauses=[{"at": 12, "repay": "5000"}])


class Done(NamedTuple):
    status: int
    out: str
    err: str


def run(*arguments: str, text: str = "", **surroundings: str) -> Done:
    """What the command does, as it does it in a process of its own (`test_wheel` holds that)."""
    done = CliRunner().invoke(
        zephyrant, arguments, input=text, env=surroundings, prog_name="zephyrant"
    )
    if done.exception is not None and not isinstance(done.exception, SystemExit):
        raise done.exception
    return Done(done.exit_code, done.stdout, done.stderr)


class InFolder(TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)

    def file(self, name: str, content: str) -> str:
        path = self.folder / name
        path.write_text(content)
        return str(path)


class Documents(InFolder):
    def test_the_same_loan_in_every_form(self) -> None:
        expected = loans.solve(loans.check(SAME)).model_dump(mode="json")
        names = [
            self.file("loan.json", json.dumps(SAME)),
            self.file("loan.yaml", YAML),
            self.file("loan.yml", YAML),
            self.file("loan.toml", TOML),
            self.file("loan", YAML),
            self.file("other", TOML),
        ]
        done = run("solve", *names)
        self.assertEqual(done.status, 0, done.err)
        for line in done.out.splitlines():
            self.assertEqual(json.loads(line)["schedule"], expected["schedule"])
            self.assertEqual(json.loads(line)["value"], expected["value"])

    def test_standard_input_in_every_form(self) -> None:
        expected = loans.solve(loans.check(SAME)).value
        for options, text in (((), json.dumps(SAME)), ((), YAML), (("--in", "toml"), TOML)):
            done = run("solve", "-", *options, text=text)
            self.assertEqual((done.status, json.loads(done.out)["value"]), (0, expected))

    def test_numbers_are_exact_and_days_are_days(self) -> None:
        yaml = read_document(YAML.replace("6.35", "6.3500000000000000000000001").encode(), "yaml")
        toml = read_document(TOML.replace("6.35", "6.3500000000000000000000001").encode(), "toml")
        for loan in (yaml, toml):
            self.assertEqual(str(loan.rate.percent), "6.3500000000000000000000001")
            self.assertEqual(str(loan.start), "2027-03-15")
        # YAML 1.1 has 0100 for 64 and 1_000 for a thousand, and 1:30 for ninety.
        for text in ("0100", "1:30", "1_000", "0x10"):
            content = YAML.replace("48250.00", text).encode()
            try:
                self.assertEqual(read_document(content, "yaml").principal, 100)
            except loans.NotALoan as refused:
                self.assertEqual(refused.errors[0].field, "principal")

    def test_what_is_no_document(self) -> None:
        wide = "\n".join(f"a{n}: &a{n} [*a{n - 1}, *a{n - 1}]" for n in range(1, 40))
        for form, text, says in (
            ("yaml", "b: 1\na: [1", "line 2"),
            ("yaml", "principal: 1\nprincipal: 2", "twice in line 2"),
            ("yaml", f"a0: &a0 x\n{wide}", "point elsewhere"),
            ("yaml", "!!python/object/apply:os.system [ls]", "not YAML"),
            ("yaml", "- 1", "braces"),
            ("yaml", "Dear sirs,", "braces"),
            ("yaml", "[" * 500_000, "nested too deeply"),
            ("yaml", "{a: " * 5_000, "nested too deeply"),
            ("yaml", "a: b\n---\nc: d", "not YAML"),
            ("toml", "principal = ", "not TOML"),
            ("toml", "principal = nan", "not TOML"),
            ("toml", "principal = 1\nprincipal = 2", "not TOML"),
            ("json", "{", "not JSON"),
            ("yaml", "\xff".encode("latin-1"), "UTF-8"),
            ("yaml", "a" * 1_000_002, "too long"),
        ):
            content = text if isinstance(text, bytes) else text.encode()
            with self.subTest(str(text)[:40]), self.assertRaises(loans.NotALoan) as refused:
                read_document(content, form)  # type: ignore[arg-type]
            self.assertIn(says, str(refused.exception))

    def test_a_document_that_costs_too_much(self) -> None:
        aimed = {
            **document(count=9_000, every="day", clauses=[{"at": 0, "fee": "500"}]),
            "aim": {"figure": "us_apr", "is": "6.9", "by": "principal"},
        }
        dear = self.file("dear.json", json.dumps(aimed))
        cheap = self.file("cheap.json", json.dumps(SAME))
        done = run("solve", dear, cheap, "--seconds", "0.05")
        told, other = map(json.loads, done.out.splitlines())
        self.assertEqual(done.status, 1)
        self.assertEqual((told["value"], told["solutions"], told["limit"]), (None, [], "aim.is"))
        self.assertIn("9,000 payments", told["reason"].replace("9000", "9,000"))
        self.assertEqual((told["schedule"], told["working"], told["totals"]), ([], [], None))
        # The others are answered.
        self.assertEqual((other["limit"], other["reason"]), (None, None))
        for way in ("text", "md", "csv"):
            said = run("solve", dear, "--seconds", "0.05", "--as", way)
            self.assertEqual(said.status, 1, way)
            self.assertIn("Aiming takes too long here", " ".join((said.out + said.err).split()))
        long = "100,000 at 4.2 % over 30,000 days, daily"
        line = run("solve", "--line", long, "--seconds", "0.001")
        self.assertEqual(line.status, 1, line.out)
        self.assertEqual(json.loads(line.out)["limit"], "count")
        # Who has the time is answered.
        self.assertEqual(run("solve", "--line", long, "--seconds", "0").status, 0)

    def test_the_fields_of_what_is_wrong(self) -> None:
        done = run("solve", self.file("loan.yaml", YAML.replace("6.35", "steep")))
        self.assertEqual(done.status, 2)
        self.assertEqual(json.loads(done.out)["errors"][0]["field"], "rate.percent")


class Ways(InFolder):
    def solve(self, way: str, *options: str) -> Done:
        return run("solve", self.file("loan.json", json.dumps(SAME)), "--as", way, *options)

    def test_json_is_what_manage_py_prints(self) -> None:
        name = self.file("loan.json", json.dumps(SAME))
        manage = [sys.executable, "manage.py", "solve", name]
        done = subprocess.run(manage, cwd=settings.BASE_DIR, capture_output=True, check=True)
        self.assertEqual(run("solve", name).out.encode(), done.stdout)
        self.assertEqual(self.solve("json").out.encode(), done.stdout)

    def test_text_and_markdown_tell_the_core_s_figures(self) -> None:
        marks = loans.MARKS["comma-point"]
        loan = loans.check(SAME)
        answer = loans.solve(loan, marks)
        assert answer.value and answer.totals and answer.proof
        for way in ("text", "md"):
            done = self.solve(way, "--rows", "--working")
            self.assertEqual(done.status, 0, done.err)
            told = " ".join(done.out.replace("\\", "").split())
            for figure in (
                "Cider press",
                loans.terms_in_words(loan, marks),
                marks.write(answer.value),
                answer.proof["says"],
                *(fact.text for fact in loans.facts_of(loan, answer, marks)),
                *(marks.write(row["closing"]) for row in answer.schedule),
                *(marks.write(year["interest"]) for year in answer.by_year),
                *(step["title"] for step in answer.working),
            ):
                self.assertIn(figure, told)
            self.assertNotIn("\x1b", done.out)
            self.assertNotIn("…", done.out)

    def test_marks(self) -> None:
        self.assertIn("48.250,00", self.solve("md", "--marks", "point-comma").out)
        self.assertIn("48250.00", self.solve("text", "--marks", "plain").out)

    def test_a_line_is_read_in_them(self) -> None:
        said = ("solve", "--line", "6.000 at 0 %, 1 year", "--marks", "point-comma", "--as")
        self.assertEqual(json.loads(run(*said, "json").out)["value"], "500.00")
        self.assertIn("**500,00**", run(*said, "md").out)
        usual = run("solve", "--line", "6,000 at 0 %, 1 year")
        self.assertEqual(json.loads(usual.out)["value"], "500.00")

    def test_csv_of_one_and_of_several(self) -> None:
        answer = loans.solve(loans.check(SAME))
        rows = list(csv.DictReader(io.StringIO(self.solve("csv").out)))
        self.assertEqual([row["closing"] for row in rows], [r["closing"] for r in answer.schedule])
        self.assertEqual(rows[11]["repay"], "5000.00")
        names = [
            self.file("=1.json", json.dumps(document())),
            self.file("never.json", json.dumps(document(count="?", payment="1"))),
            self.file("bad.json", "{"),
            self.file("b.json", json.dumps(SAME)),
        ]
        done = run("solve", *names, "--as", "csv")
        self.assertEqual(done.status, 2)
        rows = list(csv.DictReader(io.StringIO(done.out)))
        self.assertEqual([row["loan"] for row in rows], [names[0]] * 60 + [names[3]] * 60)
        self.assertEqual((rows[0]["repay"], rows[71]["repay"]), ("", "5000.00"))
        self.assertIn("never repays", done.err)
        self.assertIn("not JSON", done.err)

    def test_where_in_a_line_it_is_wrong(self) -> None:
        done = run("solve", "--line", "43,700 at 5.4 zz over 4 years", "--as", "text")
        self.assertEqual(done.status, 2)
        self.assertEqual(done.err.splitlines()[1].index("^"), "43,700 at 5.4 zz".index("zz"))

    def test_exit_statuses(self) -> None:
        good = self.file("good.json", json.dumps(document()))
        never = self.file("never.json", json.dumps(document(count="?", payment="1")))
        for way in ("text", "md", "csv", "json"):
            self.assertEqual(run("solve", good, "--as", way).status, 0)
            self.assertEqual(run("solve", good, never, "--as", way).status, 1)
            self.assertEqual(run("solve", good, never, "/nowhere", "--as", way).status, 2)
        for usage in (("solve",), ("solve", good, "--as", "song"), ("dance",), ("rates",)):
            self.assertEqual(run(*usage).status, 2)

    def test_a_fault_of_ours_ends_with_three(self) -> None:
        script = (
            "import zephyrant.command.solving as solving\n"
            "from zephyrant.command import main\n"
            "def failing(*_): raise ZeroDivisionError\n"
            "solving._TELLING = dict.fromkeys(solving._TELLING, failing)\n"
            "main(['solve', '--line', '1000 5 % 1 year'])\n"
        )
        done = subprocess.run(
            [sys.executable, "-c", script],
            cwd=settings.BASE_DIR,
            capture_output=True,
            text=True,
            check=False,
        )
        self.assertEqual(done.returncode, 3)
        self.assertIn("on our side", done.stderr)
        self.assertIn("ZeroDivisionError", done.stderr)


class Around(InFolder):
    def test_help_has_examples(self) -> None:
        for part in ((), ("solve",), ("table",), ("rates",)):
            done = run(*part, "--help")
            self.assertEqual(done.status, 0)
            _, _, examples = done.out.partition("Examples:")
            self.assertGreater(examples.count("\n    zephyrant "), 1)
        self.assertEqual(run("--version").out.split(), ["zephyrant", "0.1.0"])

    def test_a_folder_in_which_nothing_can_be_written(self) -> None:
        for command in ("serve", "demo"):
            asked = [command, "--data", "/proc/zephyrant", "--bind", "127.0.0.1:0"]
            done = subprocess.run(
                [sys.executable, "-m", "zephyrant", *asked],
                capture_output=True,
                text=True,
                check=False,
                cwd=settings.BASE_DIR,
            )
            self.assertEqual(done.returncode, 1, done.stderr)
            self.assertIn("Nothing can be written in /proc/zephyrant", done.stderr)
            self.assertNotIn("Traceback", done.stderr)

    def test_completion(self) -> None:
        for shell in ("bash", "zsh", "fish"):
            self.assertIn("_ZEPHYRANT_COMPLETE", run("completion", shell).out)
        done = run(COMP_WORDS="zephyrant ta", COMP_CWORD="1", _ZEPHYRANT_COMPLETE="bash_complete")
        self.assertEqual(done.out.strip(), "plain,table")

    def test_rates(self) -> None:
        """(1 + 0.0635/2)^2 - 1 = 6.450806..., and twelve months' 6.4 %: by definition."""
        done = run("rates", "6.35 % compounded half-yearly", "--as", "json")
        first = json.loads(done.out.splitlines()[0])
        self.assertEqual((done.status, first["percent"]), (0, "6.45080625"))
        done = run(
            "rates", "-", "--as", "csv", text="Birch: 6.4 %\nAlder: 6.35 % compounded half-yearly\n"
        )
        rows = list(csv.DictReader(io.StringIO(done.out)))
        self.assertEqual([row["name"] for row in rows], ["Alder", "Birch"])
        self.assertEqual(
            f"{float(rows[1]['effective']):.6f}", f"{100 * ((1 + 0.064 / 12) ** 12 - 1):.6f}"
        )
        for way in ("text", "md"):
            self.assertIn(
                "6.45080625", run("rates", "6.35 % compounded half-yearly", "--as", way).out
            )
        wrong = run("rates", "steep")
        self.assertEqual(wrong.status, 2)
        self.assertIn("not understood", wrong.err)

    def test_tables(self) -> None:
        tape = "Loan;Amount;Rate;Payments;Payment\nKiln;48250;6.35;60;?\n=1;100;5;12;?\n"
        file = self.file("tape.csv", tape)
        expected = list(csv.DictReader(io.StringIO(run("table", file).out)))
        self.assertEqual([row["Loan"] for row in expected], ["Kiln", "'=1"])
        found = expected[0]["found"]
        lines = run("table", "-", "--as", "json", text=tape).out.splitlines()
        self.assertEqual(json.loads(lines[0])["found"], found)
        for way in ("text", "md"):
            self.assertIn(found, run("table", file, "--as", way).out)
        for name in ("solved.csv", "solved.jsonl", "solved.md", "solved.txt"):
            done = run("table", file, "--out", str(self.folder / name))
            self.assertEqual((done.status, done.out), (0, ""), done.err)
            self.assertIn(found, (self.folder / name).read_text())
        self.assertEqual(list(self.folder.glob("*.part")), [])

    def test_what_stood_in_a_file_stays_where_nothing_takes_its_place(self) -> None:
        kept, bad = self.file("kept.csv", "precious"), self.file("bad.csv", "")
        self.assertEqual(run("table", bad, "--out", kept).status, 2)
        self.assertEqual(Path(kept).read_text(), "precious")
        self.assertEqual(run("table", bad, "--out", "/nowhere/x.csv").status, 2)
        for wrong, saying in (
            ((str(self.folder),), "is a folder: say --workers N, or --cluster ADDRESS"),
            ((bad, "--workers", "2", "--cluster", "tcp://x:1"), "not both"),
            ((bad, "--workers", "2"), "say --out FOLDER"),
            ((bad, "--workers", "2", "--out", "many", "--as", "csv"), "say --out FOLDER"),
            ((bad, "--workers", "none", "--out", "many"), "'none' is not a valid integer"),
        ):
            done = run("table", *wrong)
            self.assertEqual(done.status, 2)
            self.assertIn(saying, " ".join(done.err.split()))
        self.assertEqual(run("table", bad, "--out", str(self.folder / "x.song")).status, 2)
