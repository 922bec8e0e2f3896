"""`solve FILE [FILE ...]`: one line of JSON for each loan document; with `--table FILE` a table of
loans, a row each. Nothing here needs Django: it starts at once."""

import argparse
import json
import sys
import traceback
from itertools import chain
from pathlib import Path
from typing import Final

from zephyrant import loans
from zephyrant.loans import MOST_TEXT, Errors, NotALoan, at_fault

ANSWERED, NO_ANSWER, NOT_A_DOCUMENT, OUR_FAULT = 0, 1, 2, 3
HELP: Final = (
    "Solve loan documents. Prints one line of JSON for each, in the order given. Exit status, "
    "the highest of all: 0 an answer, 1 none, 2 not a document, 3 a fault of ours."
)


def _text(name: str) -> bytes:
    """The file's content, or so much of it that its being too long shows."""
    if name == "-":
        return sys.stdin.buffer.read(MOST_TEXT + 1)
    try:
        with Path(name).open("rb") as file:
            return file.read(MOST_TEXT + 1)
    except OSError as error:
        message = f"{name} cannot be read: {error.strerror or error}."
        raise NotALoan.at("", message) from None


def solve_line(line: str) -> tuple[str, int]:
    """The line of JSON for a loan said in a line of words, and its exit status."""
    from zephyrant.loans.said import LineErrors, read_line  # noqa: PLC0415  (documents do without)

    try:
        said = read_line(line)
        if said.loan is None:
            return LineErrors(errors=said.errors).model_dump_json(), NOT_A_DOCUMENT
        answer = loans.solve(said.loan)
    except Exception:
        return _fault(f"the line {line[:200]!r}")
    told = {
        **answer.model_dump(mode="json"),
        "document": loans.write(said.loan),
        "read": [piece.model_dump() for piece in said.read],
    }
    line_told = json.dumps(told, ensure_ascii=False, separators=(",", ":"))
    return line_told, NO_ANSWER if answer.reason else ANSWERED


def _fault(what: str) -> tuple[str, int]:
    """A fault of ours in one document, told; it does not end the others."""
    fault = at_fault()
    sys.stderr.write(f"Fault {fault.fault}, {what}:\n{traceback.format_exc()}")
    return fault.model_dump_json(), OUR_FAULT


def solve_one(name: str) -> tuple[str, int]:
    """The line for one document, and its exit status."""
    try:
        answer = loans.solve(loans.read(_text(name)))
    except NotALoan as error:
        return Errors(errors=error.errors).model_dump_json(), NOT_A_DOCUMENT
    except Exception:
        return _fault(name)
    return answer.model_dump_json(), NO_ANSWER if answer.reason else ANSWERED


def add_arguments(parser: argparse.ArgumentParser) -> None:
    """The files, or a table and how it is read."""
    parser.add_argument(
        "files", nargs="*", metavar="FILE", help="a document; - reads one from standard input"
    )
    parser.add_argument(
        "--line",
        action="append",
        default=[],
        metavar="WORDS",
        help='a loan as one says it, such as "43,700 at 5.4 %% over 4 years"; before the files',
    )
    parser.add_argument(
        "--table",
        metavar="FILE",
        help="a table of loans (CSV, XLSX, JSON Lines) in place of documents; CSV comes out",
    )
    parser.add_argument(
        "--set",
        action="append",
        default=[],
        metavar="NAME=VALUE",
        help="of a table: what holds where no column says so, such as every=quarter or "
        "percent_as=part",
    )
    parser.add_argument(
        "--match",
        action="append",
        default=[],
        metavar="FIGURE=COLUMN",
        help="of a table: which column is which figure, such as percent=Rate",
    )


def run(
    files: list[str],
    lines: list[str],
    table: str | None,
    settings: list[str],
    matching: list[str],
) -> int:
    """Solves each, or the table; gives the highest status."""
    if table:
        return _table(table, settings, matching)
    if not files and not lines:
        sys.stderr.write("Name a file, say a loan with --line, or name a table with --table.\n")
        return NO_ANSWER
    highest = ANSWERED
    solved = chain(map(solve_line, lines), map(solve_one, files))
    for line, status in solved:
        sys.stdout.write(f"{line}\n")
        highest = max(highest, status)
    sys.stdout.flush()
    return highest


def _table(name: str, settings: list[str], matching: list[str]) -> int:
    """A table; the exit status is 1 where a row has no answer, 2 where it is no table."""
    from .table_command import solve_table  # noqa: PLC0415  (documents do without)

    try:
        problems = solve_table(name, sys.stdout, settings, matching)
    except NotALoan as error:
        for each in error.errors:
            said = f"{each.field}: {each.message}" if each.field else each.message
            sys.stderr.write(f"{said}\n")
        return NOT_A_DOCUMENT
    return NO_ANSWER if problems else ANSWERED
