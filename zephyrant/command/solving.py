"""`solve FILE [FILE ...]`: loan documents, and loans said in a line, each answered in the order
given."""

import json
import sys
import traceback
from collections.abc import Callable, Iterable, Iterator
from time import process_time
from typing import Any, Final, Literal, NamedTuple, get_args

import click

from zephyrant import loans
from zephyrant.documents import FORMS, Form, read_file
from zephyrant.loans import (
    A_QUESTION,
    MARKS,
    Answer,
    BudgetSpentError,
    Errors,
    Loan,
    Marks,
    MarksName,
    NotALoan,
    at_fault,
)
from zephyrant.outlets.csv_form import PLAIN_CSV, CsvForm

from .csv_options import csv_options
from .statuses import ANSWERED, NO_ANSWER, NOT_A_DOCUMENT, OUR_FAULT

Way = Literal["text", "json", "csv", "md"]


class Solved(NamedTuple):
    """What came of one thing that was asked: its loan and answer, or what is told in their place;
    the status it ends with."""

    name: str
    status: int
    loan: Loan | None = None
    answer: Answer | None = None
    errors: Errors | None = None
    beside: dict[str, Any] = {}  # noqa: RUF012  (never changed)

    def as_json(self) -> str:
        """The line of JSON it is told by."""
        if self.answer is None:
            assert self.errors is not None  # noqa: S101  (one or the other)
            return self.errors.model_dump_json()
        if not self.beside:
            return self.answer.model_dump_json()
        told = {**self.answer.model_dump(mode="json"), **self.beside}
        return json.dumps(told, ensure_ascii=False, separators=(",", ":"))


def _answered(loan: Loan, marks: Marks, seconds: float) -> Answer:
    """A loan solved within so many seconds of the processor; none are no bound."""
    if not seconds:
        return loans.solve(loan, marks)
    until = process_time() + seconds
    try:
        with loans.within(lambda: process_time() > until, seconds):
            return loans.solve(loan, marks)
    except BudgetSpentError:
        return loans.over_limit(loan, marks)


def solve_file(
    name: str,
    form: Form | None = None,
    marks: MarksName = "plain",
    seconds: float = A_QUESTION,
) -> Solved:
    """One document solved."""
    try:
        loan = read_file(name, form)
        answer = _answered(loan, MARKS[marks], seconds)
    except NotALoan as error:
        return Solved(name, NOT_A_DOCUMENT, errors=Errors(errors=error.errors))
    except Exception:
        return _fault(name)
    return Solved(name, NO_ANSWER if answer.reason else ANSWERED, loan, answer)


def solve_line(line: str, marks: MarksName = "plain", seconds: float = A_QUESTION) -> Solved:
    """A loan said in a line solved."""
    # What reads words takes as long to load as all else: documents do without.
    from zephyrant.loans.said import LineErrors, read_line

    try:
        said = read_line(line, MARKS[marks])
        if said.loan is None:
            errors = LineErrors(errors=said.errors)
            return Solved(line, NOT_A_DOCUMENT, errors=errors)  # type: ignore[arg-type]
        answer = _answered(said.loan, MARKS[marks], seconds)
    except Exception:
        return _fault(f"the line {line[:200]!r}")
    beside = {
        "document": loans.write(said.loan),
        "read": [piece.model_dump() for piece in said.read],
    }
    return Solved(line, NO_ANSWER if answer.reason else ANSWERED, said.loan, answer, None, beside)


def _fault(what: str) -> Solved:
    """A fault of ours in one document, told; it does not end the others."""
    fault = at_fault()
    sys.stderr.write(f"Fault {fault.fault}, {what}:\n{traceback.format_exc()}")
    return Solved(what, OUR_FAULT, errors=fault)


# How it is told


class Telling(NamedTuple):
    """How answers are told: in whose marks, with every row, with the working, in what CSV."""

    marks: MarksName
    rows: bool = False
    working: bool = False
    csv: CsvForm = PLAIN_CSV


def _tell_json(solved: Iterator[Solved], telling: Telling) -> Iterator[int]:
    for each in solved:
        sys.stdout.write(f"{each.as_json()}\n")
        yield each.status


def _tell_text(solved: Iterator[Solved], telling: Telling) -> Iterator[int]:
    from rich.console import Console

    from zephyrant.outlets.text import print_answer

    console = Console(highlight=False)
    for number, each in enumerate(solved):
        if number:
            console.rule(style="dim")
        if each.answer is None or each.loan is None:
            _tell_errors(each)
        else:
            marks = MARKS[telling.marks]
            rows, working = telling.rows, telling.working
            print_answer(console, each.loan, each.answer, marks, rows=rows, working=working)
        yield each.status


def _tell_markdown(solved: Iterator[Solved], telling: Telling) -> Iterator[int]:
    from zephyrant.outlets.markdown import markdown_of

    for each in solved:
        if each.answer is None or each.loan is None:
            _tell_errors(each)
        else:
            marks = MARKS[telling.marks]
            rows, working = telling.rows, telling.working
            told = markdown_of(each.loan, each.answer, marks, rows=rows, working=working)
            sys.stdout.write(f"{told}\n")
        yield each.status


def _tell_csv(solved: Iterator[Solved], telling: Telling) -> Iterator[int]:
    """The schedules under one another, each row with the loan it is of."""
    from zephyrant.outlets.schedule_csv import csv_of_several

    statuses: list[int] = []

    def answered() -> Iterator[tuple[str, Answer]]:
        for each in solved:
            statuses.append(each.status)
            if each.answer is None or each.answer.reason:
                _tell_errors(each)
            else:
                yield each.name, each.answer

    for line in csv_of_several(answered(), telling.csv):
        sys.stdout.write(line)
    yield from statuses


def _tell_errors(of: Solved) -> None:
    """What is wrong, where it does not stand between answers; with a line, where in it."""
    if of.answer is not None:
        sys.stderr.write(f"{of.name}: {of.answer.reason}\n")
    for error in of.errors.errors if of.errors else ():
        if at := getattr(error, "at", None):
            begin, end = at
            shown = " ".join(of.name.splitlines())
            sys.stderr.write(f"{shown}\n{' ' * begin}{'^' * max(1, end - begin)}\n")
            sys.stderr.write(f"{error.message}\n")
        else:
            field = f"{error.field}: " if error.field else ""
            sys.stderr.write(f"{of.name}: {field}{error.message}\n")


_TELLING: Final[dict[Way, Callable[[Iterator[Solved], Telling], Iterable[int]]]] = {
    "json": _tell_json,
    "text": _tell_text,
    "md": _tell_markdown,
    "csv": _tell_csv,
}


def usual_way() -> Way:
    """To somebody who looks on as text, to a program as JSON."""
    return "text" if sys.stdout.isatty() else "json"


@click.command(
    context_settings={"help_option_names": ["-h", "--help"]},
    epilog="""
\b
Examples:
  zephyrant solve loan.json other.yaml
  zephyrant solve --line "43,700 at 5.4 % over 4 years" --as text
  zephyrant solve - --in toml < loan.toml
  zephyrant solve loan.json --as csv > schedule.csv

Exit status, the highest of all: 0 an answer, 1 none, 2 not a document, 3 a fault of ours.
""",
)
@click.argument("files", nargs=-1, metavar="[FILE]...")
@click.option(
    "--line",
    "lines",
    multiple=True,
    metavar="WORDS",
    help='A loan as one says it, such as "43,700 at 5.4 % over 4 years"; before the files.',
)
@click.option(
    "--as",
    "way",
    type=click.Choice(get_args(Way)),
    help="How answers are told: text on a terminal, a line of JSON each elsewhere; csv is the "
    "schedule.",
)
@click.option(
    "--in", "form", type=click.Choice(FORMS), help="What files are in, where no name says it."
)
@click.option(
    "--marks",
    type=click.Choice(get_args(MarksName)),
    help="How numbers are written in lines, in text and md (comma-point), and in JSON (plain).",
)
@click.option("--rows", is_flag=True, help="Of text and md: every row of the schedule.")
@click.option("--working", is_flag=True, help="Of text and md: the working, step by step.")
@click.option(
    "--seconds",
    type=click.FloatRange(min=0),
    default=A_QUESTION,
    show_default=True,
    help="How long one loan may be worked; 0 is as long as it takes.",
)
@csv_options
@click.option("--table", metavar="FILE", hidden=True)
@click.option("--set", "settings", multiple=True, metavar="NAME=VALUE", hidden=True)
@click.option("--match", "matching", multiple=True, metavar="FIGURE=COLUMN", hidden=True)
def solve(
    *,
    files: tuple[str, ...],
    lines: tuple[str, ...],
    way: Way | None,
    form: Form | None,
    marks: MarksName | None,
    rows: bool,
    working: bool,
    seconds: float,
    csv: CsvForm,
    table: str | None,
    settings: tuple[str, ...],
    matching: tuple[str, ...],
) -> None:
    """Solve loan documents (JSON, YAML or TOML; - reads one from standard input), and loans said in
    a line, in the order given."""
    if table:
        from zephyrant.tables.asked import Asked

        from .tables import solve_as

        sys.exit(solve_as(table, sys.stdout.buffer, Asked(settings, matching, csv=csv)))
    if not files and not lines:
        raise click.UsageError("Name a file, or say a loan with --line.")
    way = way or usual_way()
    written: MarksName = marks or ("plain" if way == "json" else "comma-point")

    def solved() -> Iterator[Solved]:
        for line in lines:
            yield solve_line(line, written, seconds)
        for file in files:
            yield solve_file(file, form, written, seconds)

    telling = Telling(written, rows, working, csv)
    highest = max(_TELLING[way](solved(), telling), default=ANSWERED)
    sys.stdout.flush()
    sys.exit(highest)
