"""`solve FILE [FILE ...]`: one line of JSON for each loan document; with `--table FILE` a table of
loans, a row each. Nothing here needs Django: it starts at once."""

import argparse
import sys
import traceback
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


def solve_one(name: str) -> tuple[str, int]:
    """The line for one document, and its exit status."""
    try:
        answer = loans.solve(loans.read(_text(name)))
    except NotALoan as error:
        return Errors(errors=error.errors).model_dump_json(), NOT_A_DOCUMENT
    except Exception:
        # A fault of ours in one document does not end the others.
        fault = at_fault()
        sys.stderr.write(f"Fault {fault.fault}, {name}:\n{traceback.format_exc()}")
        return fault.model_dump_json(), OUR_FAULT
    return answer.model_dump_json(), NO_ANSWER if answer.reason else ANSWERED


def add_arguments(parser: argparse.ArgumentParser) -> None:
    """The files, or a table and how it is read."""
    parser.add_argument(
        "files", nargs="*", metavar="FILE", help="a document; - reads one from standard input"
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


def run(files: list[str], table: str | None, settings: list[str], matching: list[str]) -> int:
    """Solves each, or the table; gives the highest status."""
    if table:
        return _table(table, settings, matching)
    if not files:
        sys.stderr.write("Name a file, or a table with --table.\n")
        return NO_ANSWER
    highest = ANSWERED
    for name in files:
        line, status = solve_one(name)
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
