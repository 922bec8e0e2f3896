"""Cases kept: started, opened, saved, deleted; an older version never over a newer one."""

import logging
import uuid
from collections.abc import Iterable, Sequence
from decimal import Decimal
from typing import Any, NamedTuple

from django.contrib.auth.models import User
from django.db import transaction
from django.db.models import Q, QuerySet
from django.http import Http404
from django.shortcuts import get_object_or_404
from django.utils import timezone
from ninja import Schema
from pydantic import Field, field_validator

from zephyrant.loans import BudgetSpentError
from zephyrant.loans.statement import (
    NUMBERS,
    Kept,
    Reading,
    Statement,
    keep_worked,
    readings,
    remark,
    unread,
    unworked,
    work_to_keep,
)

from . import heavy, listed, revisions, trail
from .limits import MOST_NAME, MOST_NOTE, MOST_TAG, MOST_TAGS
from .locked import check_unlocked
from .models import BIN_KEEPS, Case, Revision, TrailPoint
from .preferences import marks_of

log = logging.getLogger(__name__)


def tidy_tags(tags: list[str]) -> list[str]:
    """Tags as they are kept: each once, without capitals, none longer than a tag may be."""
    tidy = (" ".join(tag.lower().split())[:MOST_TAG] for tag in tags)
    return sorted({tag for tag in tidy if tag})


class Content(Schema):
    """What an analyst puts into a case: the statement as typed, a note, tags."""

    statement: Statement
    note: str = Field(default="", max_length=MOST_NOTE)
    tags: list[str] = Field(default=[], max_length=MOST_TAGS)

    @field_validator("tags")
    @classmethod
    def _tidy(cls, tags: list[str]) -> list[str]:
        return tidy_tags(tags)


class ChangedMeanwhileError(Exception):
    """The case was saved by someone else since the version this save started from."""

    def __init__(self, case: Case) -> None:
        super().__init__(f"version {case.version} is kept")
        self.case = case


class OnlyForReadingError(Exception):
    """The case is another analyst's and shared for reading."""


def readable(user: User) -> QuerySet[Case]:
    """The cases a user may read: their own and those shared with them, none from the bin."""
    mine = Q(owner=user) | Q(pk__in=Case.objects.filter(shares__user=user))
    return Case.objects.filter(mine, deleted_at=None)


def check_may_change(case: Case, user: User) -> None:
    """Raises `OnlyForReadingError` where the user may only read a case, `LockedError` where nobody
    may change it."""
    if not may_edit(case, user):
        raise OnlyForReadingError
    check_unlocked(case)


def may_edit(case: Case, user: User) -> bool:
    """Whether a user who may read a case may change it."""
    return case.owner_id == user.pk or case.shares.filter(user=user, may_edit=True).exists()


def one(user: User, case_id: uuid.UUID) -> Case:
    """A case the user may read; to anyone else there is none."""
    return get_object_or_404(readable(user).select_related("owner"), pk=case_id)


def own(user: User, case_id: uuid.UUID) -> Case:
    """A case of the user's own; one that is shared with them is only for its owner to do this."""
    case = one(user, case_id)
    if case.owner_id != user.pk:
        raise OnlyForReadingError
    return case


def statement_of(case: Case | Revision | TrailPoint, user: User) -> Statement:
    """What stands on the page of a case, in the marks `user` reads."""
    return remark(Statement.model_validate(case.statement), marks_of(user))


def searched(content: Content, read: dict[str, Reading], found: str | None) -> str:
    """Everything a search may be for: names, note, tags, figures as plain numbers."""
    figures = [*(read[name].value for name in NUMBERS), found]
    plain = [f"{Decimal(figure):f}" for figure in figures if figure and figure != "?"]
    padded = [f"{Decimal(figure):.2f}" for figure in plain]
    tags = [f"#{tag}" for tag in content.tags]
    return "\n".join(
        [content.statement.name, content.statement.currency, content.note, *tags, *plain, *padded]
    ).lower()


class _Prepared(NamedTuple):
    """Content ready to be kept: nothing of this is worked while others wait to write."""

    content: Content
    statement: dict[str, Any]
    kept: Kept
    searched: str
    digest: str | None


def _prepared(user: User, content: Content) -> _Prepared:
    return _prepared_as(content, _worked(user, content.statement))


def _prepared_as(content: Content, kept: Kept) -> _Prepared:
    answer = kept.worked.answer
    return _Prepared(
        content,
        content.statement.model_dump(mode="json", by_alias=True, exclude_unset=True),
        kept,
        searched(content, kept.worked.readings, answer.value if answer else None),
        trail.digest_of(kept.worked),
    )


def _worked(user: User, statement: Statement) -> Kept:
    """The statement worked; what an analyst typed is kept even where working it is beyond us."""
    try:
        return heavy.answered(user.pk, heavy.never, work_to_keep, statement)
    except BudgetSpentError as spent:
        return keep_worked(unworked(statement, spent))
    except heavy.BusyError:
        return keep_worked(unread(statement))
    except Exception:
        log.exception("a statement could not be worked, and is kept")
        return keep_worked(unread(statement))


def _fill(case: Case, prepared: _Prepared) -> None:
    content, worked = prepared.content, prepared.kept.worked
    case.name = content.statement.name
    case.statement = prepared.statement
    case.note, case.tags = content.note, content.tags
    case.search = prepared.searched
    # Where the statement is not a whole document yet, the last whole one stays.
    if worked.document is not None:
        case.document = worked.document
    listed.fill(case, prepared.kept)


def start(owner: User, content: Content, follows: Case | None = None) -> Case:
    """A new case of `owner`; `follows`: beside which it is a new version."""
    return _start(owner, [_prepared(owner, content)], follows)[0]


def start_all(owner: User, worked: Iterable[tuple[Statement, Kept]]) -> list[Case]:
    """New cases of `owner`, of statements that were worked to be kept: all of them or none."""
    contents = (_prepared_as(Content(statement=statement), kept) for statement, kept in worked)
    return _start(owner, [*contents])


def _start(owner: User, prepared: Sequence[_Prepared], follows: Case | None = None) -> list[Case]:
    # Nobody else saves while these are written: all is ready by then, and written at once.
    cases = [Case(owner=owner, follows=follows) for _ in prepared]
    started: list[Revision] = []
    found: list[TrailPoint] = []
    for case, each in zip(cases, prepared, strict=True):
        _fill(case, each)
        worked = each.kept.worked
        started.append(revisions.first(case, owner, revisions.answered_now(worked)))
        found += trail.first(case, owner, each.content.statement, worked, each.digest)
    with transaction.atomic():
        Case.objects.bulk_create(cases)
        Revision.objects.bulk_create(started)
        TrailPoint.objects.bulk_create(found)
    return cases


def _add(
    case: Case, by: User, prepared: _Prepared, *, step: bool = False, left: bool = False
) -> None:
    worked = prepared.kept.worked
    revisions.add(case, by, revisions.answered_now(worked), step=step)
    trail.add(case, by, prepared.content.statement, worked, prepared.digest, left=left)


def save(
    user: User,
    case_id: uuid.UUID,
    content: Content,
    version: int,
    *,
    step: bool = False,
    left: bool = False,
) -> Case:
    """The case with other content; with `step` a revision of its own in any case. `left`: a field
    was left on its answer.

    Raises `ChangedMeanwhileError` where `version` is not the last, and as `check_may_change` does.
    Saving what is kept already changes nothing, from whatever version: whoever did not hear that it
    was saved saves it again.
    """
    if not may_edit(one(user, case_id), user):
        raise OnlyForReadingError
    prepared = _prepared(user, content)
    with transaction.atomic():
        # The transaction holds the write lock from its start (see DATABASES): none saves between.
        case = one(user, case_id)
        if not may_edit(case, user):
            raise OnlyForReadingError
        if (case.statement, case.note, case.tags) == (
            prepared.statement,
            content.note,
            content.tags,
        ):
            if left and prepared.digest:
                case.trail.filter(digest=prepared.digest).update(left=True)
            return case
        check_unlocked(case)
        if case.version != version:
            raise ChangedMeanwhileError(case)
        _fill(case, prepared)
        case.version += 1
        case.save()
        _add(case, user, prepared, step=step, left=left)
        return case


def answer_anew(user: User, case: Case) -> Case:
    """A case whose last revision an earlier core answered, with one that this core answers."""
    statement = Statement.model_validate(case.statement)
    prepared = _prepared(user, Content(statement=statement, note=case.note, tags=case.tags))
    with transaction.atomic():
        case = one(user, case.pk)
        check_may_change(case, user)
        _fill(case, prepared)
        case.save()
        _add(case, user, prepared, step=True)
    return case


def retag(user: User, case_id: uuid.UUID, tags: list[str]) -> Case:
    """The case with other tags, which change nothing that was worked.

    Raises `ValueError` for too many of them, and as `check_may_change` does.
    """
    with transaction.atomic():
        case = one(user, case_id)
        check_may_change(case, user)
        statement = Statement.model_validate(case.statement)
        content = Content(statement=statement, note=case.note, tags=tags)
        if case.tags == content.tags:
            return case
        case.tags = content.tags
        found = case.found and case.found["value"]
        case.search = searched(content, readings(statement), found)
        case.version += 1
        case.save(update_fields=["tags", "search", "version", "changed_at"])
        revisions.add(case, user, revisions.answered_before(case))
        return case


def copy(user: User, case_id: uuid.UUID) -> Case:
    """A case of the user's own that starts from another."""
    case = one(user, case_id)
    statement = statement_of(case, user)
    # One without a name is called by its terms, and so is its copy.
    name = f"{statement.name} (copy)"[:MOST_NAME] if statement.name else ""
    named = statement.model_copy(update={"name": name})
    return start(user, Content(statement=named, note=case.note, tags=case.tags))


def throw_away(user: User, case_id: uuid.UUID) -> None:
    """The case into its owner's bin; raises `LockedError` where it is locked."""
    with transaction.atomic():
        case = own(user, case_id)
        check_unlocked(case)
        Case.objects.filter(pk=case.pk).update(deleted_at=timezone.now())
    empty_bins()


def binned(user: User) -> QuerySet[Case]:
    """What is in the user's bin; what has lain there too long is gone."""
    empty_bins()
    return Case.objects.filter(owner=user).exclude(deleted_at=None).order_by("-deleted_at")


def empty_bins() -> int:
    """Cases deleted longer than `BIN_KEEPS` ago leave for good; gives their number."""
    gone, _ = Case.objects.filter(deleted_at__lt=timezone.now() - BIN_KEEPS).delete()
    return gone


def bring_back(user: User, case_id: uuid.UUID) -> Case:
    """The case out of the bin again."""
    case = get_object_or_404(binned(user), pk=case_id)
    Case.objects.filter(pk=case.pk).update(deleted_at=None)
    case.deleted_at = None
    return case


def go_back(user: User, case_id: uuid.UUID, number: int, version: int) -> Case:
    """The case as it stood in a revision, saved as its newest."""
    case = one(user, case_id)
    revision = case.revisions.filter(number=number).first()
    if revision is None:
        raise Http404
    content = Content(
        statement=statement_of(revision, user), note=revision.note, tags=revision.tags
    )
    return save(user, case_id, content, version, step=True)


def document_of(case: Case) -> dict[str, Any]:
    """The last whole document of a case."""
    if case.document is None:
        raise Http404
    return dict(case.document)
