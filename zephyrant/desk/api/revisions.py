"""Revisions: what a case said and when; any of them can be brought back."""

import uuid
from datetime import datetime
from itertools import pairwise

from django.shortcuts import get_object_or_404
from ninja import Router, Schema

from zephyrant.desk import cases, reviews, revisions
from zephyrant.desk.models import Revision
from zephyrant.desk.people import name_of
from zephyrant.desk.preferences import marks_of
from zephyrant.loans import FieldError
from zephyrant.loans.statement import Statement
from zephyrant.texts import worded

from .base import PAGE, REFUSALS, SignedIn, Start
from .cases import CaseOpened, Conflict, opened

router = Router(by_alias=True)


class RevisionListed(Schema):
    """A revision in the list: when, by whom, what changed in words; `judged`: how it was."""

    number: int
    by: str
    began_at: datetime
    saved_at: datetime
    changes: list[str]
    judged: list[str]


class RevisionOpened(RevisionListed):
    """A revision whole, with the answer it had and where the core of today differs; what was given
    and found, in words."""

    statement: Statement
    given: str
    note: str
    tags: list[str]
    answer: revisions.AnswerKept | None
    found: str
    engine: str
    differs: list[str]


class RevisionList(Schema):
    """A page of the revisions."""

    items: list[RevisionListed]
    total: int


class Version(Schema):
    """The version of the case that is gone on from."""

    version: int


def _by(revision: Revision) -> str:
    if revision.by is None:
        return worded("someone who left")
    return name_of(revision.by)


@router.get(
    "{uuid:case_id}/revisions",
    response={200: RevisionList, **REFUSALS},
    operation_id="listRevisions",
)
def list_revisions(request: SignedIn, case_id: uuid.UUID, start: Start = 0) -> RevisionList:
    """The revisions of a case, the newest first."""
    marks = marks_of(request.user)
    found = (
        cases.one(request.user, case_id).revisions.select_related("by").prefetch_related("reviews")
    )
    # One more than is shown: each is told against the one before it.
    page = [*found[start : start + PAGE + 1], None]
    items = [
        RevisionListed(
            number=revision.number,
            by=_by(revision),
            began_at=revision.began_at,
            saved_at=revision.saved_at,
            changes=revisions.in_words(before, revision, marks),
            judged=reviews.told_of(revision),
        )
        for revision, before in pairwise(page[: PAGE + 1])
        if revision is not None
    ]
    return RevisionList(items=items, total=found.count())


@router.get(
    "{uuid:case_id}/revisions/{int:number}",
    response={200: RevisionOpened, **REFUSALS},
    operation_id="getRevision",
)
def get_revision(request: SignedIn, case_id: uuid.UUID, number: int) -> RevisionOpened:
    """A revision whole."""
    marks = marks_of(request.user)
    kept = cases.one(request.user, case_id).revisions
    revision = get_object_or_404(kept, number=number)
    return RevisionOpened(
        number=revision.number,
        by=_by(revision),
        began_at=revision.began_at,
        saved_at=revision.saved_at,
        changes=revisions.in_words(kept.filter(number=number - 1).first(), revision, marks),
        judged=reviews.told_of(revision),
        statement=cases.statement_of(revision, request.user),
        given=revisions.given(revision, marks),
        note=revision.note,
        tags=revision.tags,
        answer=revision.answer,
        found=revisions.found(revision, marks),
        engine=revision.engine,
        differs=revisions.differences(revision, marks, request.user),
    )


@router.post(
    "{uuid:case_id}/revisions/{int:number}/restore",
    response={200: CaseOpened, 409: Conflict, **REFUSALS},
    operation_id="restoreRevision",
)
def restore_revision(
    request: SignedIn, case_id: uuid.UUID, number: int, going_on: Version
) -> CaseOpened | tuple[int, Conflict]:
    """The case as it stood in a revision, as its newest."""
    try:
        case = cases.go_back(request.user, case_id, number, going_on.version)
    except cases.ChangedMeanwhileError as error:
        message = worded("This case was changed meanwhile.")
        return 409, Conflict(
            errors=(FieldError(field="", message=message),), kept=opened(error.case, request)
        )
    return opened(case, request)
