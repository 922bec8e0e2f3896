"""The API: one short function an endpoint; what comes in and goes out stands in its signature."""

import uuid
from datetime import datetime
from typing import Any

from django.conf import settings
from django.contrib.auth.models import User
from django.core.exceptions import RequestDataTooBig
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from ninja import NinjaAPI, Schema
from ninja.errors import AuthenticationError, HttpError, ValidationError
from ninja.parser import Parser
from ninja.security import django_auth

import loans
from loans import Answer, Errors, FieldError, Loan, MarksName, NotALoan
from loans.document import field_errors
from loans.entry import Statement, Worked, restate, work

from . import cases, words
from .models import Case, Preferences


class StrictParser(Parser):
    """JSON read as strictly by the API as by the command."""

    def parse_body(self, request: HttpRequest) -> Any:  # noqa: ANN401
        """Whatever JSON the body holds."""
        return loans.parse(request.body)


api = NinjaAPI(
    title="Zephyrant",
    version="1",
    description="State a loan, put a ? where a figure is missing, get the whole loan.",
    auth=django_auth,
    parser=StrictParser(),
    docs_url=None,
)


def _errors(status: int, *errors: FieldError) -> HttpResponse:
    content = Errors(errors=errors).model_dump_json()
    return HttpResponse(content, status=status, content_type="application/json")


@api.exception_handler(ValidationError)
def _not_valid(request: HttpRequest, error: ValidationError) -> HttpResponse:
    # Paths begin with "body" and the name of the parameter.
    return _errors(422, *field_errors(error.errors, prefix=2))  # type: ignore[arg-type]


@api.exception_handler(HttpError)
def _refused(request: HttpRequest, error: HttpError) -> HttpResponse:
    if isinstance(error.__cause__, NotALoan):
        return _errors(422, *error.__cause__.errors)
    return _errors(error.status_code, FieldError(field="", message=str(error)))


@api.exception_handler(RequestDataTooBig)
def _too_long(request: HttpRequest, error: RequestDataTooBig) -> HttpResponse:
    message = "This is too long for a loan document: at most one million bytes."
    return _errors(422, FieldError(field="", message=message))


@api.exception_handler(AuthenticationError)
def _stranger(request: HttpRequest, error: AuthenticationError) -> HttpResponse:
    return _errors(401, FieldError(field="", message="Please sign in."))


def _json(content: Answer | Worked) -> HttpResponse:
    """Ready JSON: a schedule is not validated a second time on its way out."""
    return HttpResponse(content.model_dump_json(), content_type="application/json")


class SignedIn(HttpRequest):
    """A request behind the API's authentication."""

    user: User


_REFUSALS = {401: Errors, 403: Errors, 422: Errors}


@api.post("solve", response={200: Answer, **_REFUSALS}, operation_id="solve")
def solve(request: SignedIn, loan: Loan) -> HttpResponse:
    """The answer to a loan document."""
    return _json(loans.solve(loan))


@api.post("work", response={200: Worked, **_REFUSALS}, operation_id="work")
def work_statement(request: HttpRequest, statement: Statement) -> HttpResponse:
    """A statement read, checked and solved."""
    return _json(work(statement))


@api.get("words", response={200: words.Words, 401: Errors}, operation_id="words")
def get_words(request: SignedIn) -> words.Words:
    """The choices a statement offers, and what they are called."""
    return words.words()


class Me(Schema):
    """Who is at the desk, and the marks they read."""

    name: str
    marks: MarksName
    demo: bool


class MyMarks(Schema):
    """A choice of marks."""

    marks: MarksName


def _me(request: SignedIn) -> Me:
    user = request.user
    return Me(
        name=user.get_full_name() or user.get_username(),
        marks=cases.marks_of(user),
        demo=settings.DEMO,
    )


@api.get("me", response={200: Me, 401: Errors}, operation_id="me")
def get_me(request: SignedIn) -> Me:
    """Who is at the desk."""
    return _me(request)


@api.put("me", response={200: Me, **_REFUSALS}, operation_id="setMarks")
def set_marks(request: SignedIn, chosen: MyMarks) -> Me:
    """Other number marks."""
    Preferences.objects.filter(user=request.user).update(marks=chosen.marks)
    return _me(request)


class CaseListed(Schema):
    """A case as the list shows it."""

    id: uuid.UUID
    name: str
    currency: str
    found: cases.FoundListed | None
    changed_at: datetime


class CaseOpened(Schema):
    """A case whole: the statement in the reader's marks, the document last read from it."""

    id: uuid.UUID
    statement: Statement
    document: dict[str, Any] | None
    version: int
    changed_at: datetime


class Save(Schema):
    """A statement to keep, and the version of the case it started from."""

    statement: Statement
    version: int


class Conflict(Schema):
    """A save refused: what is kept is newer."""

    errors: list[FieldError]
    kept: CaseOpened


def _opened(case: Case, request: SignedIn) -> CaseOpened:
    return CaseOpened(
        id=case.pk,
        statement=cases.statement_of(case, request.user),
        document=case.document,
        version=case.version,
        changed_at=case.changed_at,
    )


@api.get("cases", response={200: list[CaseListed], 401: Errors}, operation_id="listCases")
def list_cases(request: SignedIn) -> list[CaseListed]:
    """The analyst's cases, the last changed first."""
    return [
        CaseListed(
            id=case.pk,
            name=case.name,
            currency=case.statement.get("currency", "EUR"),
            found=case.found,
            changed_at=case.changed_at,
        )
        for case in Case.objects.filter(owner=request.user)
    ]


@api.post("cases", response={201: CaseOpened, **_REFUSALS}, operation_id="startCase")
def start_case(request: SignedIn, statement: Statement) -> tuple[int, CaseOpened]:
    """A new case."""
    return 201, _opened(cases.start(request.user, statement), request)


@api.post("cases/open", response={201: CaseOpened, **_REFUSALS}, operation_id="openDocument")
def open_document(request: SignedIn, loan: Loan) -> tuple[int, CaseOpened]:
    """A new case from a loan document."""
    statement = restate(loan, cases.marks_of(request.user))
    return 201, _opened(cases.start(request.user, statement), request)


def _case(request: SignedIn, case_id: uuid.UUID) -> Case:
    return get_object_or_404(Case, pk=case_id, owner=request.user)


@api.get(
    "cases/{case_id}", response={200: CaseOpened, 401: Errors, 404: Errors}, operation_id="getCase"
)
def get_case(request: SignedIn, case_id: uuid.UUID) -> CaseOpened:
    """One case."""
    return _opened(_case(request, case_id), request)


@api.put(
    "cases/{case_id}",
    response={200: CaseOpened, 404: Errors, 409: Conflict, **_REFUSALS},
    operation_id="saveCase",
)
def save_case(
    request: SignedIn, case_id: uuid.UUID, kept: Save
) -> CaseOpened | tuple[int, Conflict]:
    """The case saved, unless it was saved by someone else meanwhile."""
    try:
        saved = cases.save(_case(request, case_id), kept.statement, kept.version)
        return _opened(saved, request)
    except cases.ChangedMeanwhileError as error:
        message = "This case was changed meanwhile."
        return 409, Conflict(
            errors=[FieldError(field="", message=message)], kept=_opened(error.case, request)
        )
