"""Tables of loans: opened, matched, worked, looked at, taken out.

What reads and keeps tables is loaded when it is first asked for: a server starts the sooner.
"""

import uuid
from datetime import datetime
from typing import TYPE_CHECKING, Annotated, Any, Final, Literal

from django.http import HttpResponse, StreamingHttpResponse
from django.http.response import HttpResponseBase
from django.utils.http import content_disposition_header
from ninja import File, Query, Router, Schema
from ninja.files import UploadedFile
from pydantic import Field

from zephyrant.desk import limits, table_words
from zephyrant.desk.export import ARROW, CSV, JSON_LINES, PARQUET, WORKBOOK, file_name
from zephyrant.desk.files import CsvAsked, reader_of
from zephyrant.desk.models import LoanTable
from zephyrant.desk.preferences import marks_of
from zephyrant.desk.table_asks import Looking, Matching
from zephyrant.loans import MARKS, Marks, MarksName
from zephyrant.loans.tape import (
    Defaults,
    FieldName,
    Portfolio,
    PortfolioTold,
    PortfolioTyped,
    Question,
    Summary,
    SummaryTold,
    portfolio_asked,
    portfolio_told,
    row_in_words,
    summary_in_words,
)
from zephyrant.texts import worded

from .base import PAGE, REFUSALS, Making, SignedIn, Start, file_of, made, noted, refuse, said
from .cases import CaseOpened, opened

if TYPE_CHECKING:
    from zephyrant.tables.ways_out import WayName

router = Router(by_alias=True)


class TableListed(Schema):
    """A table in the list: how far it is, also in words, and what it came to."""

    id: uuid.UUID
    name: str
    rows: int
    state: str
    done: int
    why: str
    asked_at: datetime | None
    began_at: datetime | None
    ended_at: datetime | None
    created_at: datetime
    summary: Summary | None
    says: str


class TableList(Schema):
    """A page of tables."""

    items: list[TableListed]
    total: int


class Titled(Schema):
    """A column of a result: what it is called inside, and by people; whether it is one of the file,
    and whether it holds words."""

    name: str
    title: str
    is_of_file: bool
    is_words: bool


class TableOpened(TableListed):
    """A table whole: the names of its columns, how they are matched, its first rows.

    `defaults_said`: which of the defaults were stated, not only such as everyone starts with.
    `told`: what it came to, as it is read.
    """

    names: list[str]
    notes: list[str]
    columns: dict[FieldName, int]
    defaults: Defaults
    defaults_said: list[str]
    sample: list[list[str]]
    titles: list[Titled]
    told: SummaryTold | None


class Pasted(Schema):
    """A table as text."""

    text: str = Field(max_length=limits.MOST_PASTED)
    name: str = Field(default="", max_length=limits.MOST_NAME)


class ColumnsMatched(Schema):
    """Which column is which figure."""

    columns: dict[FieldName, int]


class TableLooked(Schema):
    """What the cells say of how they are written, and what has to be asked; `asked`: of each row of
    the sample, the places of the cells in which its unknown stands."""

    defaults: dict[str, Any]
    questions: list[Question]
    asked: list[list[int]]


class Page(Schema):
    """Rows of a result: texts by the inner name of their column; `told`: the same as they are read,
    where that was asked for."""

    total: int
    items: list[dict[str, str | int | None]]
    told: list[dict[str, str]]


def _listed(table: LoanTable, marks: MarksName) -> dict[str, Any]:
    names = [name for name in TableListed.model_fields if name != "says"]
    told = {name: getattr(table, name) for name in names}
    if table.state == "waiting" and table.done:
        # Between two turns it is still being worked.
        told["state"] = "running"
    return {**told, "says": table_words.state_in_words(table, marks)}


def _opened(table: LoanTable, request: SignedIn) -> TableOpened:
    from zephyrant.desk import tables

    marks = marks_of(request.user)
    return TableOpened(
        **_listed(table, marks),
        names=table.names,
        notes=table.notes,
        columns=table.columns,
        defaults=Defaults.model_validate(table.defaults),
        defaults_said=list(table.defaults),
        sample=tables.sample(table),
        titles=[Titled(**each._asdict()) for each in tables.columns_of(table)],
        told=summary_in_words(table.summary, MARKS[marks]) if table.summary else None,
    )


@router.get("", response={200: TableList, **REFUSALS}, operation_id="listTables")
def list_tables(request: SignedIn, start: Start = 0) -> TableList:
    """The analyst's tables, the newest first."""
    tables = LoanTable.objects.filter(owner=request.user).defer("source", "result")
    marks = marks_of(request.user)
    items = [TableListed(**_listed(table, marks)) for table in tables[start : start + PAGE]]
    return TableList(items=items, total=tables.count())


@router.post("", response={201: TableOpened, **REFUSALS}, operation_id="startTable")
def start_table(
    request: SignedIn,
    file: File[UploadedFile],
    sheet: Annotated[str | None, Query(max_length=limits.MOST_NAME)] = None,
) -> tuple[int, TableOpened] | HttpResponse:
    """A table from a file: CSV, XLSX, XLS, Parquet, Arrow, JSON or JSON Lines, packed with gzip or
    not. `sheet`: of a workbook that sheet alone. Of one whose sheets have different columns each is
    a table; the first is given."""
    from zephyrant.desk import tables
    from zephyrant.tables import limits

    if (file.size or 0) > limits.MOST_BYTES:
        return refuse(
            422, said(worded("This file is too large: at most 50 MB are read on the desk."))
        )
    if file.file is None:
        return refuse(422, said(worded("There is no file.")))
    first, *_ = tables.open_file(request.user, file.file, file.name or "", sheet)
    return 201, _opened(first, request)


@router.post(
    "from-text", response={201: TableOpened, **REFUSALS}, operation_id="startTableFromText"
)
def start_table_from_text(request: SignedIn, pasted: Pasted) -> tuple[int, TableOpened]:
    """A table from text."""
    import io

    from zephyrant.desk import tables

    file = io.BytesIO(pasted.text.encode())
    first, *_ = tables.open_file(request.user, file, pasted.name or worded("Pasted"))
    return 201, _opened(first, request)


@router.get("{uuid:table_id}", response={200: TableOpened, **REFUSALS}, operation_id="getTable")
def get_table(request: SignedIn, table_id: uuid.UUID) -> TableOpened:
    """One table."""
    from zephyrant.desk import tables

    return _opened(tables.one(request.user, table_id), request)


@router.get(
    "{uuid:table_id}/progress",
    response={200: TableListed, **REFUSALS},
    operation_id="getTableProgress",
)
def get_table_progress(request: SignedIn, table_id: uuid.UUID) -> TableListed:
    """How far a table is."""
    from zephyrant.desk import tables

    return TableListed(**_listed(tables.one(request.user, table_id), marks_of(request.user)))


@router.post(
    "{uuid:table_id}/ask/reading",
    response={200: TableLooked, **REFUSALS},
    operation_id="askTableReading",
)
def ask_table_reading(request: SignedIn, table_id: uuid.UUID, asked: ColumnsMatched) -> TableLooked:
    """What the cells of matched columns say of how they are written."""
    from zephyrant.desk import tables

    table = tables.one(request.user, table_id)
    looked = tables.looked(table, asked.columns)
    return TableLooked(
        defaults=looked.defaults,
        questions=list(looked.questions),
        asked=tables.asked_in_sample(table, asked.columns),
    )


@router.put(
    "{uuid:table_id}/matching",
    response={200: TableOpened, **REFUSALS},
    operation_id="saveTableMatching",
)
def save_table_matching(request: SignedIn, table_id: uuid.UUID, matching: Matching) -> TableOpened:
    """The table matched, and set to be worked."""
    from zephyrant.desk import tables

    return _opened(tables.ask(request.user, table_id, matching), request)


@router.delete("{uuid:table_id}/work", response={204: None, **REFUSALS}, operation_id="stopTable")
def stop_table(request: SignedIn, table_id: uuid.UUID) -> tuple[int, None]:
    """The work on a table stopped."""
    from zephyrant.desk import tables

    tables.cancel(request.user, table_id)
    return 204, None


@router.delete("{uuid:table_id}", response={204: None, **REFUSALS}, operation_id="deleteTable")
def delete_table(request: SignedIn, table_id: uuid.UUID) -> tuple[int, None]:
    """The table gone for good."""
    from zephyrant.desk import tables

    tables.throw_away(request.user, table_id)
    noted(request, "deleted", f"table {table_id}")
    return 204, None


@router.get("{uuid:table_id}/rows", response={200: Page, **REFUSALS}, operation_id="listTableRows")
def list_table_rows(request: SignedIn, table_id: uuid.UUID, looking: Query[Looking]) -> Page:
    """A page of the result, sorted and filtered; while a table is being worked, of the rows that
    were solved first."""
    from zephyrant.desk import tables

    total, rows = tables.shown(tables.one(request.user, table_id), looking)
    marks = MARKS[marks_of(request.user)]
    told = [row_in_words(row, marks) for row in rows] if looking.told else []
    return Page(total=total, items=rows, told=told)


@router.post(
    "{uuid:table_id}/rows/{int:row}/case",
    response={201: CaseOpened, **REFUSALS},
    operation_id="startCaseFromRow",
)
def start_case_from_row(request: SignedIn, table_id: uuid.UUID, row: int) -> tuple[int, CaseOpened]:
    """A row as a case of its own."""
    from zephyrant.desk import tables

    case = tables.open_row(request.user, tables.one(request.user, table_id), row)
    return 201, opened(case, request)


FileKind = Literal["csv", "xlsx", "jsonl", "parquet", "arrow"]
_FILES: Final[dict[FileKind, tuple["WayName", str]]] = {
    "csv": ("csv", CSV),
    "xlsx": ("xlsx", WORKBOOK),
    "jsonl": ("json", JSON_LINES),
    "parquet": ("parquet", PARQUET),
    "arrow": ("arrow", ARROW),
}


@router.get(
    "{uuid:table_id}/file",
    operation_id="takeTableFile",
    response=REFUSALS,
    openapi_extra=file_of(*(content_type for _, content_type in _FILES.values())),
)
def take_table_file(
    request: SignedIn,
    table_id: uuid.UUID,
    csv: Query[CsvAsked],
    kind: FileKind = "csv",
    making: Making = None,
) -> HttpResponseBase:
    """The result as a file; the file's own columns are what they were in it, where the kind of file
    has kinds of columns."""
    from zephyrant.desk import tables
    from zephyrant.tables.ways_out import BINARY
    from zephyrant.texts import read_throughout

    table = tables.one(request.user, table_id)
    noted(request, "exported", f"table {table_id} as {kind}")
    way, content_type = _FILES[kind]
    told = tables.taken_out(
        table, way, reader_of(request, request.user, csv), made(request, making)
    )
    # Text grows as it is read, a file for programs is there whole.
    response: HttpResponseBase = (
        HttpResponse(b"".join(told), content_type=content_type)
        if way in BINARY
        else StreamingHttpResponse(read_throughout(told), content_type=content_type)
    )
    return _called(response, table, f"solved.{kind}")


def _called(response: HttpResponseBase, table: LoanTable, ends: str) -> HttpResponseBase:
    """A file that is called as its table, and ends so."""
    name = f"{file_name(table.name.rpartition('.')[0] or table.name, 'table')}-{ends}"
    response["Content-Disposition"] = content_disposition_header(True, name) or ""
    return response


class TableFlows(Schema):
    """What the loans of a table move: as figures, as they are read of one currency."""

    portfolio: Portfolio
    told: PortfolioTold


@router.post(
    "{uuid:table_id}/ask/flows",
    response={200: TableFlows, **REFUSALS},
    operation_id="askTableFlows",
)
def ask_table_flows(
    request: SignedIn, table_id: uuid.UUID, asked: PortfolioTyped, making: Making = None
) -> TableFlows:
    """What the loans of a solved table move by month, quarter or year: principal, interest and
    balance as agreed, with early repayment, with the indices of floating rates shifted; average
    life, worth and durations."""
    portfolio, marks = _portfolio(request, table_id, asked, making)
    return TableFlows(portfolio=portfolio, told=portfolio_told(portfolio, asked, marks))


def _portfolio(
    request: SignedIn, table_id: uuid.UUID, asked: PortfolioTyped, making: Making
) -> tuple[Portfolio, Marks]:
    from zephyrant.desk import table_flows, tables

    marks = MARKS[marks_of(request.user)]
    read = portfolio_asked(asked, marks)
    table = tables.one(request.user, table_id)
    return table_flows.portfolio(table, read, made(request, making)), marks


@router.get(
    "{uuid:table_id}/flows/file",
    operation_id="takeTableFlowsFile",
    response=REFUSALS,
    openapi_extra=file_of(*(content_type for _, content_type in _FILES.values())),
)
def take_table_flows_file(  # noqa: PLR0917
    request: SignedIn,
    table_id: uuid.UUID,
    csv: Query[CsvAsked],
    asked: Query[PortfolioTyped],
    kind: FileKind = "csv",
    making: Making = None,
) -> HttpResponseBase:
    """Every flow of a table by currency, scenario and period, as a file."""
    from zephyrant.tables.flows import flows_file

    portfolio, _ = _portfolio(request, table_id, asked, making)
    noted(request, "exported", f"flows of table {table_id} as {kind}")
    way, content_type = _FILES[kind]
    reader = reader_of(request, request.user, csv)
    content = made(request, making)(flows_file, way, portfolio, reader)
    table = LoanTable.objects.only("name").get(pk=table_id)
    return _called(HttpResponse(content, content_type=content_type), table, f"flows.{kind}")
