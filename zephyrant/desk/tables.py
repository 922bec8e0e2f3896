"""Tables of loans kept: opened, matched, worked by whoever does the long work, looked at."""

import hashlib
import io
import json
import shutil
import tempfile
import time
import uuid
from collections.abc import Callable, Iterator, Mapping, Sequence
from functools import lru_cache, partial
from typing import IO, Any, Final, NamedTuple, Protocol

import polars as pl
from django.contrib.auth.models import User
from django.db import transaction
from django.db.models import QuerySet
from django.shortcuts import get_object_or_404
from django.utils import timezone

from zephyrant.loans import ENGINE, BudgetSpentError, FieldError, NotALoan, check
from zephyrant.loans.statement import restate
from zephyrant.loans.tape import (
    RESULTS,
    TOLD_NAMED,
    WORDS,
    Apart,
    Defaults,
    FieldName,
    Looked,
    aparts,
    asked_in,
    counted_in,
    currency_codes,
    outliers,
    row_document,
    solve_tape,
    summarise,
    unanswered,
    unmatched,
)
from zephyrant.outlets.reader import Reader
from zephyrant.tables.kinds import RESULT_KINDS, TEXT, WHOLE, figures
from zephyrant.tables.packed import Packed, column_name, looked_at, read_packed
from zephyrant.tables.ways_out import BINARY, Heads, WayName, file_of, parts_of, told
from zephyrant.texts import worded

from . import heavy, indices, table_templates
from .cases import Content, start
from .export import Made
from .models import Case, LoanTable, TableMatch, TablePart, TableTemplate
from .people import name_of
from .preferences import marks_of
from .table_asks import Looking, Matching, check_columns

#: Tables of one analyst that may wait or be worked on at once.
MOST_WAITING: Final = 5
#: Tables an analyst keeps.
MOST_TABLES: Final = 50
#: Rows whose cells are looked at where the request is served; more, by a process of its own.
_AT_ONCE: Final = 1_000
#: Rows that are solved as one part: the first of a turn, at the least and at the most.
FIRST_TOGETHER: Final = 100
LEAST_TOGETHER: Final = 50
MOST_TOGETHER: Final = 50_000
#: Times as many rows as before that are worked next at the most.
_STEP: Final = 16
#: A table that is to be worked, or is.
UNDER_WAY: Final = ("waiting", "running")
#: What asking for a table changes of it; the file as it was read stays where it is.
_ASKED: Final = (
    *("columns", "defaults", "state", "done", "why", "result", "summary"),
    *("began_at", "ended_at", "beat_at", "asked_at"),
)


def listed(user: User) -> QuerySet[LoanTable]:
    """The user's tables without what is in them, the newest first."""
    return LoanTable.objects.filter(owner=user).defer("source", "result")


def one(user: User, table_id: uuid.UUID) -> LoanTable:
    """A table of the user's own; to anyone else there is none."""
    return get_object_or_404(listed(user), pk=table_id)


# Opened and matched


def _packed(frame: pl.DataFrame) -> bytes:
    out = io.BytesIO()
    frame.write_parquet(out, compression_level=1)
    return out.getvalue()


def open_file(user: User, file: IO[bytes], name: str, sheet: str | None = None) -> list[LoanTable]:
    """The tables of a file, their columns matched by their names as far as they can be: several of
    a workbook whose sheets have different columns, or the one on a sheet.

    Raises `NotALoan` where it cannot be read, or too many are kept.
    """
    kept = LoanTable.objects.filter(owner=user).count()
    read = _read_apart(user, file, name, sheet) if kept < MOST_TABLES else []
    if kept + max(1, len(read)) > MOST_TABLES:
        raise NotALoan.at(
            "file",
            worded("At most {most} tables are kept: delete one first.", most=MOST_TABLES),
        )
    titles = [f"{name or worded('Table')}, {', '.join(each.sheets)}" for each in read]
    if len(read) == 1:
        return [_opened(user, read[0], name or worded("Table"))]
    with transaction.atomic():
        # The first stands first in the list, which begins with the newest.
        tables = [_opened(user, *each) for each in reversed([*zip(read, titles, strict=True)])]
    return tables[::-1]


def _opened(user: User, read: Packed, name: str) -> LoanTable:
    remembered = TableMatch.objects.filter(owner=user, digest=_digest(read.names)).first()
    kept = None if remembered else table_templates.fitting(user, read.names)
    notes = read.notes
    if remembered:
        matched, defaults = remembered.columns, remembered.defaults
    elif kept:
        template, fit = kept
        matched = fit.columns
        stated = table_templates.settings_of(template)
        defaults = {**_first_defaults(read.names, matched, user), **stated}
        notes = [*notes, _matched_by(template, user)]
    else:
        matched, defaults = read.matched, _first_defaults(read.names, read.matched, user)
    return LoanTable.objects.create(
        owner=user,
        name=name[:200],
        names=read.names,
        notes=notes,
        rows=read.rows,
        source=read.content,
        kinds=read.kinds,
        columns=matched,
        defaults=defaults,
        looked=_kept_look(read.matched, read.looked),
    )


def _matched_by(template: TableTemplate, user: User) -> str:
    """Which template matched a table, and whose it is where it is another's."""
    if template.owner_id == user.pk:
        return worded("Columns matched by your template “{name}”.", name=template.name)
    return worded(
        "Columns matched by the template “{name}”, shared by {owner}.",
        name=template.name,
        owner=name_of(template.owner),
    )


def _read_apart(user: User, file: IO[bytes], name: str, sheet: str | None) -> list[Packed]:
    """A file read by a process of its own: whatever is in it, it takes no more than a share of
    memory and time."""
    with tempfile.NamedTemporaryFile(prefix="zephyrant-") as kept:
        shutil.copyfileobj(file, kept)
        kept.flush()
        try:
            return heavy.worked_apart(
                user.pk, heavy.never, heavy.FILE, read_packed, kept.name, name, sheet
            )
        except BudgetSpentError:
            raise NotALoan.at(
                "file",
                worded(
                    "Opened, this file takes more memory or time than a table may: give it "
                    "in parts, or delete what is empty around the table."
                ),
            ) from None


def _first_defaults(names: list[str], matched: dict[FieldName, int], user: User) -> dict[str, Any]:
    told: dict[str, Any] = {"marks": marks_of(user)}
    if "count" in matched:
        told |= counted_in(names[matched["count"]])
    return told


def _digest(names: list[str]) -> str:
    return hashlib.sha256(json.dumps(names).encode()).hexdigest()


def _frame(content: bytes | memoryview) -> pl.DataFrame:
    return pl.read_parquet(io.BytesIO(bytes(content)))


def _cells(table: LoanTable, columns: dict[FieldName, int]) -> dict[FieldName, Sequence[str]]:
    """The columns that are figures, as they are read."""
    return figures(_every_column(table), columns, kinds_of(table))


def kinds_of(table: LoanTable) -> list[str]:
    """What the columns of the file hold; of one kept before that was told, texts."""
    return table.kinds or [TEXT] * len(table.names)


def _every_column(table: LoanTable) -> list[list[str]]:
    return [column.to_list() for column in _frame(table.source).iter_columns()]


def looked(table: LoanTable, columns: dict[FieldName, int]) -> Looked:
    """What the cells of the matched columns say of how they are written."""
    check_columns(table.names, columns)
    # The file of a table never changes.
    kept = table.looked
    if kept and (kept["columns"], kept["engine"]) == (columns, ENGINE):
        return Looked.model_validate(kept["says"])
    asked = bytes(table.source), columns, kinds_of(table)
    says = (
        looked_at(*asked)
        if table.rows <= _AT_ONCE
        else heavy.worked_apart(table.owner_id, heavy.never, heavy.QUESTION, looked_at, *asked)
    )
    LoanTable.objects.filter(pk=table.pk).update(looked=_kept_look(columns, says))
    return says


def _kept_look(columns: dict[FieldName, int], says: Looked) -> dict[str, Any]:
    return {"columns": columns, "engine": ENGINE, "says": says.model_dump(mode="json")}


def sample(table: LoanTable, rows: int = 8) -> list[list[str]]:
    """The first rows of the file."""
    return [list(row) for row in _frame(table.source).head(rows).rows()]


def asked_in_sample(table: LoanTable, columns: dict[FieldName, int]) -> list[list[int]]:
    """Of each row of the sample, the places of the cells in which its unknown stands."""
    return [
        sorted(columns[name] for name in asked_in({n: row[at] for n, at in columns.items()}))
        for row in sample(table)
    ]


def _with_indices(user: User, matching: Matching, stated: dict[str, Any]) -> dict[str, Any]:
    """What holds for every row, with the indices that are kept on the desk where rows name one."""
    if "index" not in matching.columns:
        return stated
    return {**stated, "indices": {**stated.get("indices", {}), **indices.as_documents(user)}}


def ask(user: User, table_id: uuid.UUID, matching: Matching) -> LoanTable:
    """The table matched, and set to be worked; how is remembered for files with these columns."""
    table = one(user, table_id)
    check_columns(table.names, matching.columns)
    missing = unmatched(matching.columns)
    if missing:
        raise NotALoan.at("columns", missing)
    stated = matching.defaults.model_dump(mode="json", exclude_unset=True)
    # Its cells are looked at before anybody has to wait for the write lock.
    left = unanswered(looked(table, matching.columns), stated)
    if left:
        raise NotALoan(
            [FieldError(field=question.about, message=question.says) for question in left]
        )
    with transaction.atomic():
        waiting = LoanTable.objects.filter(owner=user, state__in=UNDER_WAY)
        if waiting.exclude(pk=table.pk).count() >= MOST_WAITING:
            raise NotALoan.at(
                "",
                worded(
                    "{most} tables are being worked already: wait for one.",
                    most=MOST_WAITING,
                ),
            )
        TableMatch.objects.update_or_create(
            owner=user,
            digest=_digest(table.names),
            defaults={"columns": matching.columns, "defaults": stated},
        )
        table.parts.all().delete()
        table.columns = dict(matching.columns)
        table.defaults = _with_indices(user, matching, stated)
        table.state, table.done, table.why = "waiting", 0, ""
        table.result = table.summary = table.began_at = table.ended_at = table.beat_at = None
        table.asked_at = timezone.now()
        table.save(update_fields=_ASKED)
    return table


def cancel(user: User, table_id: uuid.UUID) -> None:
    """Stops the work on a table; it can be asked for again."""
    one(user, table_id)
    LoanTable.objects.filter(pk=table_id, state__in=UNDER_WAY).update(
        state="cancelled", ended_at=timezone.now()
    )


def throw_away(user: User, table_id: uuid.UUID) -> None:
    """A table gone for good."""
    one(user, table_id).delete()


# Worked


class Progress(Protocol):
    """Is told the rows done; `kept`: they are kept, and the work may go on later. Ends the work by
    raising what it likes."""

    def __call__(self, rows: int, *, kept: bool) -> None:
        """Told."""


def work(table: LoanTable, progress: Progress) -> None:
    """Solves a table part by part, going on after those that are there.

    A part is as many rows as take about a second, so that others have their turn.
    """
    columns = _cells(table, table.columns)
    defaults = Defaults.model_validate(table.defaults)
    aside = aparts(_every_column(table))
    last = table.parts.last()
    first = last.first + len(_frame(last.content)) if last else 0
    together = FIRST_TOGETHER
    while first < table.rows:
        began = time.monotonic()
        rows = range(first, min(table.rows, first + together))
        told = _solved(columns, defaults, aside, rows, partial(progress, first, kept=False))
        part = pl.DataFrame(told)
        TablePart.objects.update_or_create(
            table=table, first=first, defaults={"content": _packed(part)}
        )
        first = min(table.rows, first + together)
        together = _next_part(together, time.monotonic() - began)
        if first < table.rows:
            progress(first, kept=True)
    progress(first, kept=False)
    finish(table, columns, defaults)


#: Rows that are worth a process of their own.
_WORTH: Final = 100


def _solved(
    columns: Mapping[FieldName, Sequence[str]],
    defaults: Defaults,
    aside: Sequence[Apart],
    rows: range,
    waiting: Callable[[], None],
) -> dict[str, list[str]]:
    """Some rows solved, on as many cores as they are worth."""
    parts = max(1, min(heavy.CORES, len(rows) // _WORTH))
    each = -(-len(rows) // parts)
    asked = []
    for first in range(rows.start, rows.stop, each):
        here = slice(first, min(first + each, rows.stop))
        some = {name: cells[here] for name, cells in columns.items()}
        asked.append((some, defaults, aside[here]))
    solved = heavy.side_by_side(solve_tape, asked, waiting)
    return {name: [text for told in solved for text in told[name]] for name in RESULTS}


def _next_part(rows: int, seconds: float) -> int:
    """How many rows to work next: as many as take a second, not many more than before at once."""
    wanted = int(rows / max(seconds, 1e-3))
    return max(LEAST_TOGETHER, min(wanted, _STEP * rows, MOST_TOGETHER))


def finish(
    table: LoanTable, columns: Mapping[FieldName, Sequence[str]], defaults: Defaults
) -> None:
    """The parts put together, summed up, and what stands out marked."""
    told = pl.concat([_frame(part.content) for part in table.parts.all()])
    texts = {name: told[name].to_list() for name in told.columns}
    far = outliers(texts)
    summary = summarise(texts, currency_codes(columns, defaults, table.rows), far)
    result = _beside_source(table, told, far)
    with transaction.atomic():
        done = LoanTable.objects.filter(pk=table.pk, state="running").update(
            state="done",
            done=table.rows,
            result=_packed(result),
            summary=summary,
            ended_at=timezone.now(),
        )
        if done:
            table.parts.all().delete()


def _beside_source(table: LoanTable, told: pl.DataFrame, far: list[str]) -> pl.DataFrame:
    """The first rows of a table with what is told of them: their numbers, their cells, and the
    figures by which they stand out."""
    return pl.concat(
        [
            pl.DataFrame({"row": range(1, len(told) + 1)}),
            _frame(table.source).head(len(told)),
            told.with_columns(pl.Series("outlier", far, dtype=pl.String)),
        ],
        how="horizontal",
    )


# Looked at


def not_yet() -> NotALoan:
    """A table has no result."""
    return NotALoan.at("", worded("This table has not been worked yet."))


@lru_cache(maxsize=4)
def _result(table_id: uuid.UUID, ended_at: str) -> pl.DataFrame:
    content = LoanTable.objects.values_list("result", flat=True).get(pk=table_id)
    if content is None:
        raise not_yet()
    return _frame(content)


def result_of(table: LoanTable) -> pl.DataFrame:
    """The rows of a table with their results; raises `NotALoan` where there are none yet."""
    if table.state != "done":
        raise not_yet()
    return _result(table.pk, str(table.ended_at))


def shown(table: LoanTable, looking: Looking) -> tuple[int, list[dict[str, Any]]]:
    """How many rows there are to see, and those of the page; of a table that is being worked, of
    the rows that were solved first."""
    result = _first_part(table) if table.state in UNDER_WAY else result_of(table)
    frame = _sorted(_filtered(result, looking), looking)
    return len(frame), frame.slice(looking.start, looking.size).to_dicts()


def _first_part(table: LoanTable) -> pl.DataFrame:
    """The rows that were solved first, nothing being known yet of which stand out."""
    part = table.parts.first()
    if part is None:
        raise not_yet()
    told = _frame(part.content)
    return _beside_source(table, told, [""] * len(told))


def _filtered(frame: pl.DataFrame, looking: Looking) -> pl.DataFrame:
    if looking.only == "problems":
        frame = frame.filter(pl.col("problem") != "")
    elif looking.only == "unfit":
        frame = frame.filter(pl.col("fits") == "no")
    elif looking.only == "outliers":
        frame = frame.filter(pl.col("outlier") != "")
    if looking.text.strip():
        wanted = looking.text.strip().lower()
        texts = [
            pl.col(name).str.to_lowercase().str.contains(wanted, literal=True)
            for name in frame.columns
            if name != "row"
        ]
        frame = frame.filter(pl.any_horizontal(texts))
    if looking.figure:
        value = _as_number(frame, looking.figure)
        if looking.least is not None:
            frame = frame.filter(value >= looking.least)
        if looking.most is not None:
            frame = frame.filter(_as_number(frame, looking.figure) <= looking.most)
    return frame


def _as_number(frame: pl.DataFrame, name: str) -> pl.Expr:
    if name not in frame.columns:
        raise NotALoan.at("figure", worded("There is no column “{name}”.", name=name[:40]))
    return pl.col(name).cast(pl.Float64, strict=False)


def _sorted(frame: pl.DataFrame, looking: Looking) -> pl.DataFrame:
    if looking.sort == "row" and not looking.descending:
        return frame
    if looking.sort not in frame.columns:
        raise NotALoan.at("sort", worded("There is no column “{sort}”.", sort=looking.sort[:40]))
    number = pl.col(looking.sort).cast(pl.Float64, strict=False)
    text = pl.col(looking.sort).cast(pl.String)
    return frame.sort(
        [number, text, pl.col("row")],
        descending=[looking.descending, looking.descending, False],
        nulls_last=True,
    )


class Column(NamedTuple):
    """A column of a result: what it is called inside, and by people; whether it is one of the file,
    and whether it holds words."""

    name: str
    title: str
    is_of_file: bool
    is_words: bool


def columns_of(table: LoanTable) -> list[Column]:
    """Every column of a result, those of the file after the number of the row."""
    row, *results = (
        Column(name, TOLD_NAMED[name].alone, is_of_file=False, is_words=name in WORDS)
        for name in ("row", *RESULTS, "outlier")
    )
    source = [
        Column(column_name(place), name, is_of_file=True, is_words=True)
        for place, name in enumerate(table.names)
    ]
    return [row, *source, *results]


def _in_files(table: LoanTable, reader: Reader) -> tuple[list[str], Heads]:
    """Every column of a result: what it is called inside, and in files for other programs."""
    every, own = columns_of(table), iter(kinds_of(table))
    names = [each.title if each.is_of_file or each.name == "row" else each.name for each in every]
    told = {**RESULT_KINDS, "row": WHOLE, "outlier": TEXT}
    kinds = [next(own) if each.is_of_file else told[each.name] for each in every]
    first = next(at for at, each in enumerate(every) if each.is_of_file)
    heads = Heads(tuple(names), tuple(kinds), range(first, first + len(table.names)), reader)
    return [each.name for each in every], heads


def taken_out(table: LoanTable, way: WayName, reader: Reader, made: Made) -> Iterator[bytes]:
    """The result to take out: as text while it is read, as a file for programs made whole."""
    inside, heads = _in_files(table, reader)
    if way not in BINARY:
        return told(way, heads, parts_of(result_of(table), inside))
    if table.state != "done":
        raise not_yet()
    result = LoanTable.objects.values_list("result", flat=True).get(pk=table.pk)
    try:
        file: bytes = made(file_of, way, bytes(result or b""), inside, heads)
    except BudgetSpentError:
        message = worded(
            "This table is too large for such a file here: take it out as CSV or JSON Lines."
        )
        raise NotALoan.at("", message) from None
    return iter((file,))


def open_row(user: User, table: LoanTable, row: int) -> Case:
    """A row as a case of its own."""
    frame = _frame(get_object_or_404(LoanTable, owner=user, pk=table.pk).source)
    if not 1 <= row <= len(frame):
        raise NotALoan.at("", worded("There is no row {row}.", row=row))
    cells = frame.row(row - 1)
    columns: dict[FieldName, int] = table.columns
    defaults = Defaults.model_validate(table.defaults)
    # A table of one row.
    read = figures([[cell] for cell in cells], columns, kinds_of(table))
    document, _ = row_document({name: read[name][0] for name in columns}, defaults)
    document["name"] = (
        document["name"] or worded("{name}, row {row}", name=table.name, row=row)[:200]
    )
    return start(user, Content(statement=restate(check(document), marks_of(user))))
