"""A table that is read: names, rows of texts, and what its columns hold."""

from collections.abc import Iterator
from typing import NamedTuple

from zephyrant.loans import NotALoan
from zephyrant.texts import worded

from .limits import MOST_COLUMNS


class Table(NamedTuple):
    """The names of columns, each once, and rows of as many texts. `notes`: what was done about
    names that were missing or there twice. `kinds`: what the columns hold; see there."""

    names: list[str]
    rows: Iterator[list[str]]
    notes: list[str]
    kinds: list[str]


def refused(message: str) -> NotALoan:
    """A file that is not taken, and why."""
    return NotALoan.at("file", message)


def hold_within(rows: int, columns: int, most_rows: int) -> None:
    """Refuses more rows or columns than are read."""
    if rows > most_rows:
        raise refused(
            worded(
                "That is more than {most_rows} rows: give them in parts, or use the command.",
                most_rows=f"{most_rows:,}",
            )
        )
    if columns > MOST_COLUMNS:
        raise refused(
            worded(
                "That is {columns} columns: at most {most} are read.",
                columns=f"{columns:,}",
                most=MOST_COLUMNS,
            )
        )


def unread(name: str, error: OSError) -> NotALoan:
    """A file that the system does not give."""
    return NotALoan.at("", f"{name} cannot be read: {error.strerror or error}.")
