"""Cases: listed, opened, saved, deleted, taken out."""

import uuid
from datetime import datetime
from typing import Annotated, Any, Literal

from django.http import HttpResponse
from ninja import Query, Router, Schema
from pydantic import Field

from zephyrant.desk import cases, export, revisions
from zephyrant.desk.asides import Asides, asides_of
from zephyrant.desk.cases import Content
from zephyrant.desk.models import BIN_KEEPS, Case
from zephyrant.loans import MARKS, FieldError, Loan, NotALoan
from zephyrant.loans.files import read_flows
from zephyrant.loans.statement import Statement, restate

from .base import REFUSALS, Making, SignedIn, answered, file_of, made, noted, refuse, said

router = Router()
PAGE = 100
#: Further down no list is looked at.
MOST_LISTED = 1_000_000


class CaseListed(Schema):
    """A case as the list shows it. `owner` is named where it is someone else's."""

    id: uuid.UUID
    name: str
    currency: str
    tags: list[str]
    found: cases.FoundListed | None
    owner: str | None
    changed_at: datetime


class CaseList(Schema):
    """A page of the list; `total` counts all that were found."""

    cases: list[CaseListed]
    total: int


class CaseOpened(Schema):
    """A case whole, in the reader's marks.

    `differs` tells where a newer core answers it differently from the one that answered it when
    it was last saved.
    """

    id: uuid.UUID
    statement: Statement
    note: str
    tags: list[str]
    document: dict[str, Any] | None
    version: int
    changed_at: datetime
    owner: str | None
    may_edit: bool
    differs: list[str]
    asides: Asides


class CaseBinned(Schema):
    """A case in the bin, and until when it stays there."""

    id: uuid.UUID
    name: str
    deleted_at: datetime
    kept_until: datetime


class Save(Content):
    """Content to keep, and the version of the case it started from."""

    version: int


class Conflict(Schema):
    """A save refused: what is kept is newer."""

    errors: list[FieldError]
    kept: CaseOpened


def _owner(case: Case, request: SignedIn) -> str | None:
    if case.owner_id == request.user.pk:
        return None
    return case.owner.get_full_name() or case.owner.get_username()


def _listed(case: Case, request: SignedIn) -> CaseListed:
    return CaseListed(
        id=case.pk,
        name=case.name,
        currency=case.statement.get("currency", "EUR"),
        tags=case.tags,
        found=case.found,
        owner=_owner(case, request),
        changed_at=case.changed_at,
    )


def opened(case: Case, request: SignedIn) -> CaseOpened:
    """A case as its page shows it."""
    marks = cases.marks_of(request.user)
    last = case.revisions.first()
    return CaseOpened(
        id=case.pk,
        statement=cases.statement_of(case, request.user),
        note=case.note,
        tags=case.tags,
        document=case.document,
        version=case.version,
        changed_at=case.changed_at,
        owner=_owner(case, request),
        may_edit=cases.may_edit(case, request.user),
        differs=revisions.differences(last, marks, request.user) if last else [],
        asides=asides_of(case),
    )


@router.get("", response={200: CaseList, **REFUSALS}, operation_id="listCases")
def list_cases(
    request: SignedIn,
    q: str = "",
    sort: Literal["changed", "name", "created"] = "changed",
    start: Annotated[int, Query(ge=0, le=MOST_LISTED)] = 0,
) -> CaseList:
    """The cases in which every word of `q` is found, a hundred from `start` on."""
    found = cases.search(request.user, q, sort)
    page = found[start : start + PAGE]
    return CaseList(cases=[_listed(case, request) for case in page], total=found.count())


@router.post("", response={201: CaseOpened, **REFUSALS}, operation_id="startCase")
def start_case(request: SignedIn, content: Content) -> tuple[int, CaseOpened]:
    """A new case."""
    return 201, opened(cases.start(request.user, content), request)


@router.post("open", response={201: CaseOpened, **REFUSALS}, operation_id="openDocument")
def open_document(request: SignedIn, loan: Loan) -> tuple[int, CaseOpened]:
    """A new case from a loan document."""
    content = Content(statement=restate(loan, cases.marks_of(request.user)))
    return 201, opened(cases.start(request.user, content), request)


class ManyOpened(Schema):
    """How many cases a file of several became."""

    cases: int


@router.post("open-all", response={201: ManyOpened, **REFUSALS}, operation_id="openDocuments")
def open_documents(request: SignedIn, loans_: list[Loan]) -> tuple[int, ManyOpened]:
    """A case for each document of a list, as all cases are taken out; all of them, or none."""
    contents = [Content(statement=restate(loan, cases.marks_of(request.user))) for loan in loans_]
    return 201, ManyOpened(cases=cases.start_all(request.user, contents))


class FlowsPasted(Schema):
    """A table of days and amounts, as text."""

    text: str = Field(max_length=900_000)
    name: str = Field(default="", max_length=200)
    currency: str = "EUR"


@router.post("flows", response={201: CaseOpened, **REFUSALS}, operation_id="openFlows")
def open_flows(request: SignedIn, pasted: FlowsPasted) -> tuple[int, CaseOpened] | HttpResponse:
    """A new case from flows without a loan round them: their rate is asked for."""
    try:
        loan = answered(request, read_flows, pasted.text, pasted.name, pasted.currency)
    except NotALoan as wrong:
        return refuse(422, *wrong.errors)
    content = Content(statement=restate(loan, cases.marks_of(request.user)))
    return 201, opened(cases.start(request.user, content), request)


@router.get(
    "all.json", operation_id="takeAllJson", response=REFUSALS, openapi_extra=file_of(export.JSON)
)
def take_all_json(request: SignedIn) -> HttpResponse:
    """Every whole document of the analyst's own cases, in one file."""
    noted(request, "taken out", "all cases as JSON")
    return export.all_json(request.user)


@router.get(
    "all.zip", operation_id="takeAllZip", response=REFUSALS, openapi_extra=file_of(export.ZIP)
)
def take_all_zip(request: SignedIn) -> HttpResponse:
    """Every whole document of the analyst's own cases, a file each."""
    noted(request, "taken out", "all cases as a zip")
    return export.all_zip(request.user)


@router.get("bin", response={200: list[CaseBinned], **REFUSALS}, operation_id="listBin")
def list_bin(request: SignedIn) -> list[CaseBinned]:
    """What the analyst deleted in the last thirty days."""
    return [
        CaseBinned(
            id=case.pk,
            name=case.name,
            deleted_at=case.deleted_at,
            kept_until=case.deleted_at + BIN_KEEPS,
        )
        for case in cases.binned(request.user)
        if case.deleted_at
    ]


@router.get("{uuid:case_id}", response={200: CaseOpened, **REFUSALS}, operation_id="getCase")
def get_case(request: SignedIn, case_id: uuid.UUID) -> CaseOpened:
    """One case."""
    return opened(cases.one(request.user, case_id), request)


@router.put(
    "{uuid:case_id}",
    response={200: CaseOpened, 409: Conflict, **REFUSALS},
    operation_id="saveCase",
)
def save_case(
    request: SignedIn, case_id: uuid.UUID, kept: Save
) -> CaseOpened | tuple[int, Conflict]:
    """The case saved, unless it was saved by someone else meanwhile."""
    try:
        return opened(cases.save(request.user, case_id, kept, kept.version), request)
    except cases.ChangedMeanwhileError as error:
        return 409, Conflict(
            errors=[said("This case was changed meanwhile.")], kept=opened(error.case, request)
        )


@router.delete("{uuid:case_id}", response={204: None, **REFUSALS}, operation_id="deleteCase")
def delete_case(request: SignedIn, case_id: uuid.UUID) -> tuple[int, None]:
    """The case into the bin."""
    cases.throw_away(request.user, case_id)
    noted(request, "deleted", f"case {case_id}")
    return 204, None


@router.post(
    "{uuid:case_id}/undelete", response={200: CaseListed, **REFUSALS}, operation_id="undeleteCase"
)
def undelete_case(request: SignedIn, case_id: uuid.UUID) -> CaseListed:
    """The case out of the bin."""
    return _listed(cases.bring_back(request.user, case_id), request)


@router.post("{uuid:case_id}/copy", response={201: CaseOpened, **REFUSALS}, operation_id="copyCase")
def copy_case(request: SignedIn, case_id: uuid.UUID) -> tuple[int, CaseOpened]:
    """A new case that starts from this one."""
    return 201, opened(cases.copy(request.user, case_id), request)


@router.get(
    "{uuid:case_id}/document",
    operation_id="takeDocument",
    response=REFUSALS,
    openapi_extra=file_of(export.JSON),
)
def take_document(request: SignedIn, case_id: uuid.UUID) -> HttpResponse:
    """The case's document as a file."""
    case = cases.one(request.user, case_id)
    noted(request, "taken out", f"case {case_id} as JSON")
    return export.one_json(case)


@router.get(
    "{uuid:case_id}/schedule",
    operation_id="takeSchedule",
    response=REFUSALS,
    openapi_extra=file_of(export.CSV, export.WORKBOOK),
)
def take_schedule(
    request: SignedIn,
    case_id: uuid.UUID,
    kind: Literal["csv", "xlsx"] = "csv",
    making: Making = None,
) -> HttpResponse:
    """The case's schedule as a table (CSV) or as live arithmetic (XLSX)."""
    case = cases.one(request.user, case_id)
    noted(request, "taken out", f"schedule of case {case_id} as {kind}")
    if kind == "csv":
        return export.schedule_csv(case, made(request, making))
    return export.schedule_xlsx(case, MARKS[cases.marks_of(request.user)], made(request, making))


@router.get(
    "{uuid:case_id}/statement",
    operation_id="takeStatement",
    response=REFUSALS,
    openapi_extra=file_of(export.PDF),
)
def take_statement(request: SignedIn, case_id: uuid.UUID, making: Making = None) -> HttpResponse:
    """The case as a statement to file (PDF)."""
    case = cases.one(request.user, case_id)
    noted(request, "taken out", f"statement of case {case_id}")
    return export.statement(case, MARKS[cases.marks_of(request.user)], made(request, making))
