"""What a worker does: it looks at a part of a tape, or solves it and writes it down.

What goes wrong comes back as a value that says so; only a fault of ours is raised.
"""

import errno
import resource
from collections.abc import Callable, Iterator, Mapping, Sequence
from functools import wraps
from pathlib import Path
from time import monotonic
from typing import Concatenate, Final, NamedTuple, ParamSpec, TypeVar

from zephyrant.loans import NotALoan
from zephyrant.loans.tape import FieldName, Looked, Shock, currency_codes, together
from zephyrant.tables.blocks import Matched, blocks_of, looked_at, solved
from zephyrant.tables.piece_rows import Held, held_in, rows_of
from zephyrant.tables.pieces import Piece
from zephyrant.tables.ways_out import WAYS_OUT

from .counting import Tally
from .edition import edition
from .folder import Folder

P = ParamSpec("P")
T = TypeVar("T")
#: What the system says where there is no room.
_FULL: Final = (errno.ENOSPC, errno.EDQUOT, errno.EFBIG)


class Refused(NamedTuple):
    """Why a worker did not do what it was asked."""

    message: str


def _answering(
    work: Callable[Concatenate[str, P], T],
) -> Callable[Concatenate[str, P], T | Refused]:
    """Work by the edition that is asked for alone; what is wrong is answered."""

    @wraps(work)
    def answered(wanted: str, /, *args: P.args, **named: P.kwargs) -> T | Refused:
        own = edition()
        if own != wanted:
            return Refused(
                f"A worker has zephyrant {own}, this machine {wanted}: install the same on all, "
                "or they may not solve alike."
            )
        try:
            return work(wanted, *args, **named)
        except NotALoan as error:
            return Refused("; ".join(each.message for each in error.errors))
        except OSError as error:
            if error.errno in _FULL:
                return Refused(
                    f"There is no room left to write a part ({error.strerror}). Make some and "
                    "start the same again: it goes on with what is missing."
                )
            at = error.filename or "a file"
            return Refused(f"A worker cannot read or write {at}: {error.strerror or error}.")

    return answered


@_answering
def sees(_: str, folder: str, token: str, files: Sequence[str]) -> str:
    """Whether a worker sees the folder that is written and the files that are read."""
    try:
        same = Folder(folder).token.read_text() == token
    except OSError:
        same = False
    missing = [file for file in files if not Path(file).exists()]
    if same and not missing:
        return ""
    here = missing[0] if missing else folder
    return (
        f"A worker does not see {here} as this machine does: tapes and results lie in a folder "
        "that every machine has at the same place."
    )


def _unchanged(piece: Piece) -> Piece:
    name, *lay = piece.file
    try:
        found = Path(name).stat()
    except OSError as error:
        raise NotALoan.at("", f"{name} cannot be read any more: {error.strerror}.") from None
    if [found.st_size, found.st_mtime_ns] != lay:
        raise NotALoan.at("", f"{name} was changed while it was worked: start again.")
    return piece


@_answering
def hold(_: str, piece: Piece) -> Held:
    """What a part of a tape holds."""
    return held_in(_unchanged(piece))


class Seen(NamedTuple):
    """How many rows a part has, and what their cells say of how they are written."""

    rows: int
    looked: Looked


@_answering
def look(
    _: str,
    names: Sequence[str],
    kinds: Sequence[str],
    columns: Mapping[FieldName, int],
    piece: Piece,
) -> Seen:
    """What the cells of a part say."""
    looks, rows = [], 0
    for whole in blocks_of(rows_of(_unchanged(piece), names)):
        looks.append(looked_at(columns, kinds, whole))
        rows += len(whole[0])
    return Seen(rows, together(looks))


class Job(NamedTuple):
    """A part to be solved, under a shock or as it stands; the number of its first row; whether its
    rows are written."""

    folder: str
    number: int
    piece: Piece
    first_row: int
    table: Matched
    shock: Shock | None
    rows: bool


class Done(NamedTuple):
    """A part that is written: its rows, how many of them have no answer, the seconds its worker
    took, and the most memory that one has taken so far, in bytes."""

    rows: int
    problems: int
    seconds: float
    most_memory: int


@_answering
def solve(_: str, job: Job) -> Done:
    """A part solved and written: what it comes to, and then its rows."""
    began = monotonic()
    folder = Folder(job.folder)
    name = job.shock.name if job.shock else None
    if folder.has(job.number, name, rows=job.rows):
        # A worker wrote it, and died before it could say so.
        return _done(Tally.of_json(folder.tally_of(job.number, name).read_text()), began)
    tally = Tally()

    def blocks() -> Iterator[bytes]:
        table, first = job.table, job.first_row
        own = [table.heads.names[at] for at in table.heads.own]
        for whole in blocks_of(rows_of(_unchanged(job.piece), own)):
            done = solved(table, whole, job.shock)
            codes = currency_codes(done.stated, table.defaults, len(whole[0]))
            tally.add(done.told, codes, first)
            first += len(whole[0])
            yield done.as_told(table.heads, "parquet") if job.rows else b""

    if job.rows:
        chunks = WAYS_OUT["parquet"].whole(job.table.heads, blocks())
        put = folder.written(folder.rows_of(job.number, name), chunks)
        folder.write(folder.tally_of(job.number, name), tally.as_json())
        put()
    else:
        for _block in blocks():
            pass
        folder.write(folder.tally_of(job.number, name), tally.as_json())
    return _done(tally, began)


def _done(tally: Tally, began: float) -> Done:
    # Linux tells it in kilobytes.
    most = 1024 * resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
    return Done(tally.counts.rows, tally.counts.problems, monotonic() - began, most)
