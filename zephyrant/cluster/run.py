"""A tape worked by many machines: settled, cut, solved part by part, summed up."""

from collections.abc import Iterator, Mapping, Sequence
from pathlib import Path
from typing import Any, Final, NamedTuple
from uuid import uuid4

from pydantic import ValidationError

from zephyrant.loans import NotALoan
from zephyrant.loans.tape import Shock, together, unmoved
from zephyrant.tables.piece_rows import Held, has_to_be_read, held_in, names_together
from zephyrant.tables.pieces import Piece, TapeFile, cut_tape, files_of
from zephyrant.tables.settling import Saying, matched, settled
from zephyrant.tables.template import Template

from . import work
from .edition import edition
from .folder import Folder, unwritten
from .plan import Plan, Wanted
from .progress import RunProgress
from .tape_summary import TapeSummary, summary_of
from .workers import LOST, Machines, machines

#: Rows of a part: a second or two of a worker.
PART_ROWS: Final = 50_000


class OnCluster(NamedTuple):
    """What is said of a tape that many machines work. `stated`: settings, those of a template among
    them; `columns`: those beside a template; `saying`: how one says them. `cluster`: the address of
    a scheduler, else `workers` processes here. `shocks`: paths; `rows`: whether rows are written,
    or sums alone.
    """

    saying: Saying
    stated: Mapping[str, Any] = {}
    columns: Mapping[str, str] = {}
    template: Template | None = None
    cluster: str | None = None
    workers: int = 1
    shocks: Sequence[Shock] = ()
    rows: bool = True
    part_rows: int = PART_ROWS


class Outcome(NamedTuple):
    """What a tape comes to, by path, and where it is written; how many parts could not be worked,
    as their workers died."""

    summary: TapeSummary
    path: Path
    lost: int

    @property
    def problems(self) -> int:
        """Rows without an answer, in all paths."""
        return sum(path.problems for path in self.summary.paths)


def work_tape(source: str, folder: str, asked: OnCluster) -> Outcome:
    """Solves a file, or the files of a folder, into a folder; progress goes to standard error. A
    run that was broken off goes on with what is missing.

    Raises `NotALoan` where it cannot be read, something has to be said first, the folder is not
    free, or machines cannot work or went away; what is written stays.
    """
    out = Folder(folder)
    if out.path.is_relative_to(Path(source).absolute()):
        raise NotALoan.at("", f"{out.path} lies in the tape itself: say a folder beside it.")
    try:
        with out.held():
            return _worked(source, out, asked)
    except OSError as error:
        raise unwritten(Path(error.filename or out.path), error) from None


def _worked(source: str, out: Folder, asked: OnCluster) -> Outcome:
    progress = RunProgress()
    wanted = _wanted(files_of(source), asked)
    plan = _plan_in(out, wanted)
    if plan is not None and _is_done(plan, out):
        progress.note(f"All of it is written in {out.path} already.")
        return _summed(plan, out, progress, 0)
    with machines(asked.cluster, asked.workers) as crew:
        _ready(crew, out, wanted)
        if plan is None:
            plan = _settled(asked, wanted, crew, progress)
            out.write(out.plan, plan.model_dump_json(exclude_unset=True))
        out.tidy()
        lost = _work(plan, out, crew, progress)
        out.tidy()
    return _summed(plan, out, progress, lost)


def _wanted(files: Sequence[TapeFile], asked: OnCluster) -> Wanted:
    template = asked.template
    wanted = Wanted(
        files=tuple(files),
        stated=dict(asked.stated),
        columns=dict(asked.columns),
        template=template.model_dump(mode="json", exclude_unset=True) if template else None,
        part_rows=asked.part_rows,
        shocks=tuple(asked.shocks),
        rows=asked.rows,
        edition=edition(),
    )
    # As it is when it is read again: days are texts there.
    return Wanted.model_validate_json(wanted.model_dump_json())


def _plan_in(out: Folder, wanted: Wanted) -> Plan | None:
    """The plan of a run that was begun in a folder; refuses one that is another."""
    try:
        plan = Plan.model_validate_json(out.plan.read_bytes())
    except FileNotFoundError:
        return None
    except ValidationError:
        raise NotALoan.at(
            "", f"{out.plan} cannot be read: say another folder, or delete this one."
        ) from None
    if plan.wanted != wanted:
        differ = [name for name, value in wanted if getattr(plan.wanted, name) != value]
        says = ", ".join(_SAYS[name] for name in differ)
        raise NotALoan.at(
            "",
            f"{out.path} holds another run: {says} differ. Say another folder, or delete this one.",
        )
    return plan


_SAYS: Final = {
    "files": "the files of the tape",
    "stated": "settings",
    "columns": "columns",
    "template": "templates",
    "part_rows": "the rows of a part",
    "shocks": "shocks",
    "rows": "whether rows are written",
    "edition": "the versions of zephyrant",
}


def _ready(crew: Machines, out: Folder, wanted: Wanted) -> None:
    token = uuid4().hex
    out.write(out.token, token)
    names = [wanted.files[0].name, wanted.files[-1].name]
    crew.ask_all(work.sees, edition(), str(out.path), token, names)


def _settled(asked: OnCluster, wanted: Wanted, crew: Machines, progress: RunProgress) -> Plan:
    """A tape cut and read: what its columns are and hold, and how its cells are read."""
    pieces, notes = cut_tape(wanted.files, wanted.part_rows)
    for note in notes:
        progress.note(note)
    unread = [piece for piece in pieces if has_to_be_read(piece)]
    read = dict(zip(unread, _in_order(crew, progress, "read", work.hold, unread), strict=True))
    held: list[Held] = [read[piece] if piece in read else held_in(piece) for piece in pieces]
    for note in dict.fromkeys(note for each in held for note in each.notes):
        progress.note(note)
    of = names_together(list(zip(pieces, held, strict=True)))
    names, kinds = list(of), list(of.values())
    columns = matched(names, asked.columns, asked.saying, asked.template)
    unmoved(asked.shocks, columns)
    seen: list[work.Seen] = _in_order(
        crew, progress, "looked at", work.look, pieces, names, kinds, columns
    )
    looked = together(each.looked for each in seen)
    return Plan(
        zephyrant="tape-run/1",
        wanted=wanted,
        names=tuple(names),
        kinds=tuple(kinds),
        columns=columns,
        defaults=settled(looked, names, columns, asked.stated, asked.saying),
        pieces=tuple(pieces),
        part_rows=tuple(each.rows for each in seen),
    )


def _in_order(
    crew: Machines,
    progress: RunProgress,
    what: str,
    asks: Any,  # noqa: ANN401
    pieces: Sequence[Piece],
    *given: object,
) -> list[Any]:
    """What workers say of each piece."""
    found: dict[Piece, Any] = {}
    for piece, answer in crew.each(asks, pieces, edition(), *given):
        if answer is LOST:
            raise NotALoan.at("", f"Workers died over a part of {Path(piece.file.name).name}.")
        found[piece] = answer
        progress.parts(what, len(found), len(pieces))
    return [found[piece] for piece in pieces]


def _is_done(plan: Plan, out: Folder) -> bool:
    return next(_missing(plan, out), None) is None


def _missing(plan: Plan, out: Folder) -> Iterator[work.Job]:
    """The parts that are not written, path by path."""
    table = plan.matched()
    for shock in plan.paths:
        first_row = 1
        for number, piece in enumerate(plan.pieces, 1):
            name = shock.name if shock else None
            if not out.has(number, name, rows=plan.wanted.rows):
                yield work.Job(
                    str(out.path), number, piece, first_row, table, shock, plan.wanted.rows
                )
            first_row += plan.part_rows[number - 1]


def _work(plan: Plan, out: Folder, crew: Machines, progress: RunProgress) -> int:
    """Every part that is missing, and how many were lost."""
    whole = plan.rows * len(plan.paths)
    missing = sum(plan.part_rows[job.number - 1] for job in _missing(plan, out))
    progress.begin(whole, already=whole - missing)
    lost = 0
    for job, done in crew.each(work.solve, _missing(plan, out), edition()):
        if isinstance(done, work.Done):
            progress.done(done)
        else:
            lost += 1
            progress.note(f"Part {job.number} was given up: its workers died, again and again.")
    progress.end()
    return lost


def _summed(plan: Plan, out: Folder, progress: RunProgress, lost: int) -> Outcome:
    summary = summary_of(plan, out, progress)
    out.write(out.summary, summary.model_dump_json(indent=2) + "\n")
    return Outcome(summary, out.summary, lost)
