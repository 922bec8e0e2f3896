"""Cases: listed, opened, saved, deleted, taken out."""

import uuid
from datetime import datetime
from typing import Any, Literal

from django.http import HttpResponse
from ninja import Query, Router, Schema
from pydantic import Field

from zephyrant.desk import answers, cases, export, limits, listed, reviews, revisions, several
from zephyrant.desk.asides import Asides, asides_of
from zephyrant.desk.case_list import Look, Sort, search, to_judge_by
from zephyrant.desk.cases import Content
from zephyrant.desk.files import CsvAsked, reader_of
from zephyrant.desk.models import BIN_KEEPS, Case
from zephyrant.desk.people import name_of
from zephyrant.desk.preferences import marks_of
from zephyrant.loans import MARKS, Loan, Marks, NotALoan
from zephyrant.loans.files import read_flows
from zephyrant.loans.statement import Statement, restate

from .base import (
    PAGE,
    REFUSALS,
    Making,
    Picked,
    Refusal,
    SignedIn,
    Start,
    answered,
    file_of,
    made,
    made_apart,
    noted,
    refuse,
    said,
)
from .review_told import Judging, judging, standings

router = Router(by_alias=True)


class CaseListed(Schema):
    """A case as the list shows it. `called`: its name, else its terms. `figures` are those of its
    loan. `owner` is named where it is someone else's. `standing`: how it was judged, in a word or
    two."""

    id: uuid.UUID
    name: str
    called: str
    currency: str
    tags: list[str]
    figures: listed.FiguresTold
    found: listed.FoundTold | None
    owner: str | None
    standing: str
    created_at: datetime
    changed_at: datetime


class CaseList(Schema):
    """A page of the list; `total` counts all that were found. `last_first`: which way it is
    sorted; `waiting`: how many cases are for whoever asks to judge."""

    items: list[CaseListed]
    total: int
    waiting: int
    last_first: bool


class CaseOpened(Schema):
    """A case whole, in the reader's marks.

    `may_edit`: whether what is changed is kept, which it is not where the case is locked.
    `differs` tells where a newer core answers it differently from the one that answered it when
    it was last saved.
    """

    id: uuid.UUID
    called: str
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
    judging: Judging


class CaseBinned(Schema):
    """A case in the bin, and until when it stays there."""

    id: uuid.UUID
    called: str
    deleted_at: datetime
    kept_until: datetime


class CaseBin(Schema):
    """A page of the bin."""

    items: list[CaseBinned]
    total: int


class Save(Content):
    """Content to keep, and the version of the case it started from; `left`: a field was left on its
    answer, which stays on the trail."""

    version: int
    left: bool = False


class Conflict(Refusal):
    """A save refused: what is kept is newer."""

    kept: CaseOpened


def _owner(case: Case, request: SignedIn) -> str | None:
    if case.owner_id == request.user.pk:
        return None
    return name_of(case.owner)


def _listed(case: Case, request: SignedIn, marks: Marks, standing: str) -> CaseListed:
    return CaseListed(
        id=case.pk,
        name=case.name,
        called=listed.called_so(case, marks),
        currency=listed.currency_of(case),
        tags=case.tags,
        figures=listed.figures_told(case, marks),
        found=listed.found_told(case, marks),
        owner=_owner(case, request),
        standing=standing,
        created_at=case.created_at,
        changed_at=case.changed_at,
    )


def opened(case: Case, request: SignedIn) -> CaseOpened:
    """A case as its page shows it."""
    marks = marks_of(request.user)
    last, judged = case.revisions.first(), judging(case, request.user)
    return CaseOpened(
        id=case.pk,
        called=listed.called_so(case, MARKS[marks]),
        statement=cases.statement_of(case, request.user),
        note=case.note,
        tags=case.tags,
        document=case.document,
        version=case.version,
        changed_at=case.changed_at,
        owner=_owner(case, request),
        may_edit=cases.may_edit(case, request.user) and judged.locked is None,
        differs=revisions.differences(last, marks, request.user) if last else [],
        asides=asides_of(case),
        judging=judged,
    )


@router.get("", response={200: CaseList, **REFUSALS}, operation_id="listCases")
def list_cases(
    request: SignedIn,
    q: str = "",
    sort: Sort = "changed",
    last_first: bool | None = None,
    start: Start = 0,
    *,
    to_judge: bool = False,
) -> CaseList:
    """The cases in which every word of `q` is found, a hundred from `start` on. `last_first`: the
    largest, the newest or the last of the alphabet first; left out, as is usual for `sort`. What
    has nothing to be sorted by comes last. `to_judge`: only those that are for whoever asks to
    judge."""
    marks = MARKS[marks_of(request.user)]
    look = Look(q, marks, sort, last_first, to_judge)
    found = search(request.user, look, start=start, size=PAGE)
    told = standings(found.cases, request.user)
    return CaseList(
        items=[_listed(case, request, marks, told.get(case.pk, "")) for case in found.cases],
        total=found.total,
        waiting=to_judge_by(request.user).count(),
        last_first=look.sorting.last_first,
    )


@router.post("", response={201: CaseOpened, **REFUSALS}, operation_id="startCase")
def start_case(request: SignedIn, content: Content) -> tuple[int, CaseOpened]:
    """A new case."""
    return 201, opened(cases.start(request.user, content), request)


@router.post(
    "from-document", response={201: CaseOpened, **REFUSALS}, operation_id="startCaseFromDocument"
)
def start_case_from_document(request: SignedIn, loan: Loan) -> tuple[int, CaseOpened]:
    """A new case from a loan document."""
    content = Content(statement=restate(loan, marks_of(request.user)))
    return 201, opened(cases.start(request.user, content), request)


class ManyStarted(Schema):
    """How many cases a file of several became. `unanswered`: how many of them had no answer in the
    time there is for a file; each is answered when it is opened."""

    cases: int
    unanswered: int


@router.post(
    "from-documents",
    response={201: ManyStarted, **REFUSALS},
    operation_id="startCasesFromDocuments",
)
def start_cases_from_documents(
    request: SignedIn, loans_: list[Loan], making: Making = None
) -> tuple[int, ManyStarted]:
    """A case for each document of a list, as all cases are taken out; all of them, or none."""
    worked = made_apart(request, making)(answers.kept_each, loans_, marks_of(request.user))
    unanswered = sum(kept.worked.answer is None for _, kept in worked)
    started = cases.start_all(request.user, worked)
    return 201, ManyStarted(cases=len(started), unanswered=unanswered)


class FlowsPasted(Schema):
    """A table of days and amounts, as text."""

    text: str = Field(max_length=limits.MOST_PASTED)
    name: str = Field(default="", max_length=limits.MOST_NAME)
    currency: str = "EUR"


@router.post(
    "from-flows", response={201: CaseOpened, **REFUSALS}, operation_id="startCaseFromFlows"
)
def start_case_from_flows(
    request: SignedIn, pasted: FlowsPasted
) -> tuple[int, CaseOpened] | HttpResponse:
    """A new case from flows without a loan round them: their rate is asked for."""
    try:
        loan = answered(request, read_flows, pasted.text, pasted.name, pasted.currency)
    except NotALoan as wrong:
        return refuse(422, *wrong.errors)
    content = Content(statement=restate(loan, marks_of(request.user)))
    return 201, opened(cases.start(request.user, content), request)


@router.get(
    "file",
    operation_id="takeCases",
    response=REFUSALS,
    openapi_extra=file_of(export.JSON, export.ZIP, export.CSV),
)
def take_cases(
    request: SignedIn,
    kind: Literal["json", "zip", "csv"] = "json",
    of: Picked = [],  # noqa: B006
    making: Making = None,
    *,
    csv: Query[CsvAsked],
) -> HttpResponse:
    """Cases as a file: those named by `of`, else all of the analyst's own. Every whole document in
    one file (JSON), or in a zip a file each; or what the list tells of each, as a table (CSV)."""
    chosen = several.picked(request.user, of) if of else several.own(request.user)
    which = ", ".join(f"case {case.pk}" for case in chosen) if of else "all cases"
    noted(request, "exported", f"{which} as {kind}")
    if kind == "csv":
        return export.all_csv(chosen, reader_of(request, request.user, csv).csv)
    return export.all_json(chosen) if kind == "json" else export.all_zip(chosen)


@router.get("bin", response={200: CaseBin, **REFUSALS}, operation_id="listCaseBin")
def list_bin(request: SignedIn, start: Start = 0) -> CaseBin:
    """What the analyst deleted in the last thirty days."""
    found = cases.binned(request.user)
    marks = MARKS[marks_of(request.user)]
    items = [
        CaseBinned(
            id=case.pk,
            called=listed.called_so(case, marks),
            deleted_at=case.deleted_at,
            kept_until=case.deleted_at + BIN_KEEPS,
        )
        for case in found[start : start + PAGE]
        if case.deleted_at
    ]
    return CaseBin(items=items, total=found.count())


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
        return opened(
            cases.save(request.user, case_id, kept, kept.version, left=kept.left), request
        )
    except cases.ChangedMeanwhileError as error:
        return 409, Conflict(
            errors=(said("This case was changed meanwhile."),), kept=opened(error.case, request)
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
    marks = MARKS[marks_of(request.user)]
    case = cases.bring_back(request.user, case_id)
    return _listed(case, request, marks, standings([case], request.user).get(case.pk, ""))


@router.post("{uuid:case_id}/copy", response={201: CaseOpened, **REFUSALS}, operation_id="copyCase")
def copy_case(request: SignedIn, case_id: uuid.UUID) -> tuple[int, CaseOpened]:
    """A new case that starts from this one."""
    return 201, opened(cases.copy(request.user, case_id), request)


@router.get(
    "{uuid:case_id}/document",
    operation_id="takeCaseDocument",
    response=REFUSALS,
    openapi_extra=file_of(export.JSON),
)
def take_document(request: SignedIn, case_id: uuid.UUID) -> HttpResponse:
    """The case's document as a file."""
    case = cases.one(request.user, case_id)
    noted(request, "exported", f"case {case_id} as JSON")
    return export.one_json(case)


@router.get(
    "{uuid:case_id}/schedule",
    operation_id="takeCaseSchedule",
    response=REFUSALS,
    openapi_extra=file_of(export.CSV, export.WORKBOOK),
)
def take_schedule(
    request: SignedIn,
    case_id: uuid.UUID,
    kind: Literal["csv", "xlsx"] = "csv",
    making: Making = None,
    *,
    csv: Query[CsvAsked],
) -> HttpResponse:
    """The case's schedule as a table (CSV) or as live arithmetic (XLSX)."""
    case = cases.one(request.user, case_id)
    noted(request, "exported", f"schedule of case {case_id} as {kind}")
    loan, name = export.loan_of(case)
    write = export.schedule_csv if kind == "csv" else export.schedule_xlsx
    return write(loan, name, reader_of(request, request.user, csv), made(request, making))


@router.get(
    "{uuid:case_id}/statement",
    operation_id="takeCaseStatement",
    response=REFUSALS,
    openapi_extra=file_of(export.PDF),
)
def take_statement(request: SignedIn, case_id: uuid.UUID, making: Making = None) -> HttpResponse:
    """The case as a statement to file (PDF)."""
    case = cases.one(request.user, case_id)
    noted(request, "exported", f"statement of case {case_id}")
    loan, name = export.loan_of(case)
    reader = reader_of(request, request.user)
    record = reviews.record_of(case, request.user)
    return export.statement(loan, name, case.note, reader, made(request, making), record=record)
