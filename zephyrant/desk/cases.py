"""Cases kept: started, opened, saved, deleted; an older version never over a newer one."""

import logging
import uuid
from decimal import Decimal
from typing import Any, Final, NamedTuple

from django.contrib.auth.models import User
from django.db import transaction
from django.db.models import Q, QuerySet
from django.http import Http404
from django.shortcuts import get_object_or_404
from django.utils import timezone
from ninja import Schema
from pydantic import Field, field_validator
from typing_extensions import TypedDict

from zephyrant.loans import (
    MARKS,
    BudgetSpentError,
    Marks,
    MarksName,
    called,
    calling_of,
    check,
    figure_path,
    headline,
)
from zephyrant.loans.statement import (
    NUMBERS,
    Statement,
    Worked,
    readings,
    remark,
    unworked,
    work,
)

from . import heavy, revisions, trail
from .limits import MOST_NAME, MOST_NOTE, MOST_TAG, MOST_TAGS
from .models import BIN_KEEPS, Case, Preferences, Revision, TrailPoint

log = logging.getLogger(__name__)


class Content(Schema):
    """What an analyst puts into a case: the statement as typed, a note, tags."""

    statement: Statement
    note: str = Field(default="", max_length=MOST_NOTE)
    tags: list[str] = Field(default=[], max_length=MOST_TAGS)

    @field_validator("tags")
    @classmethod
    def _tidy(cls, tags: list[str]) -> list[str]:
        tidy = (" ".join(tag.lower().split())[:MOST_TAG] for tag in tags)
        return sorted({tag for tag in tidy if tag})


class FoundListed(TypedDict):
    """What the list of cases tells of an answer.

    `quote`: how its rate is quoted, in words. `fits`: where nothing is unknown, whether the figures
    do.
    """

    unknown: str | None
    value: str | None
    quote: str | None
    fits: bool | None
    reason: str | None


class FoundTold(Schema):
    """What the list of cases tells of an answer, in the reader's marks: what is asked for, what was
    found, and what else is to be said of it."""

    asks: str
    value: str | None
    says: str


class ChangedMeanwhileError(Exception):
    """The case was saved by someone else since the version this save started from."""

    def __init__(self, case: Case) -> None:
        super().__init__(f"version {case.version} is kept")
        self.case = case


class OnlyForReadingError(Exception):
    """The case is another analyst's and shared for reading."""


def marks_of(user: User) -> MarksName:
    """The number marks a user reads and types."""
    kept = Preferences.objects.filter(user=user).values_list("marks", flat=True).first()
    return kept or "comma-point"  # type: ignore[return-value]


def readable(user: User) -> QuerySet[Case]:
    """The cases a user may read: their own and those shared with them, none from the bin."""
    mine = Q(owner=user) | Q(pk__in=Case.objects.filter(shares__user=user))
    return Case.objects.filter(mine, deleted_at=None)


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


def _found(worked: Worked) -> FoundListed | None:
    answer = worked.answer
    if answer is None:
        return None
    return {
        "unknown": answer.unknown,
        "value": answer.value,
        "quote": answer.quote,
        "fits": answer.fits,
        "reason": answer.reason,
    }


#: What a case without a name and without a whole loan is called.
UNNAMED: Final = "Unnamed case"


def called_so(case: Case, marks: Marks) -> str:
    """What a case is called: its name, else its terms."""
    return case.name or (called(case.calling, marks) if case.calling else UNNAMED)


def called_by(case: Case, user: User) -> str:
    """What a case is called, in the marks `user` reads."""
    return called_so(case, MARKS[marks_of(user)])


def found_told(case: Case, marks: Marks) -> FoundTold | None:
    """What was found in a case when it was last saved; None where it was not whole."""
    if case.found is None:
        return None
    found: FoundListed = case.found
    unknown, value = found["unknown"], found["value"]
    if unknown is None:
        fits = "the figures fit" if found["fits"] else "the figures do not fit"
        return FoundTold(asks="every figure stated", value=fits, says="")
    path = figure_path(unknown)
    asks = f"asks for the {path.named.title}"
    if value is None:
        says = f"no answer: {found['reason']}" if found["reason"] else "several rates fit"
        return FoundTold(asks=asks, value=None, says=says)
    told = headline(path.kind, value, marks)
    match path.kind:
        case "percent":
            says = (found["quote"] or "") if path == figure_path("rate") else ""
            return FoundTold(asks=asks, value=f"{told} %", says=says)
        case "count":
            return FoundTold(asks=asks, value=f"{told} payments", says="")
    return FoundTold(asks=asks, value=told, says=case.statement.get("currency", "EUR"))


def _searched(content: Content, worked: Worked) -> str:
    """Everything a search may be for: names, note, tags, figures as plain numbers."""
    read = readings(content.statement)
    figures = [read[name].value for name in NUMBERS]
    if worked.answer and worked.answer.value:
        figures.append(worked.answer.value)
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
    worked: Worked
    searched: str
    digest: str | None
    calling: dict[str, Any] | None


def _prepared(user: User, content: Content) -> _Prepared:
    worked = _worked(user, content.statement)
    return _Prepared(
        content,
        content.statement.model_dump(mode="json", by_alias=True, exclude_unset=True),
        worked,
        _searched(content, worked),
        trail.digest_of(worked),
        dict(calling_of(check(worked.document))) if worked.document else None,
    )


def _worked(user: User, statement: Statement) -> Worked:
    """The statement worked; what an analyst typed is kept even where working it is beyond us."""
    try:
        return heavy.answered(user.pk, heavy.never, work, statement)
    except BudgetSpentError as spent:
        return unworked(statement, spent)
    except heavy.BusyError:
        return Worked(readings=readings(statement), errors=(), document=None, answer=None)
    except Exception:
        log.exception("a statement could not be worked, and is kept")
        return Worked(readings=readings(statement), errors=(), document=None, answer=None)


def _fill(case: Case, prepared: _Prepared) -> None:
    content, worked = prepared.content, prepared.worked
    case.name = content.statement.name
    case.statement = prepared.statement
    case.note, case.tags = content.note, content.tags
    case.found = _found(worked)
    case.search = prepared.searched
    # Where the statement is not a whole document yet, the last whole one stays.
    if worked.document is not None:
        case.document = worked.document
        case.calling = prepared.calling


def start(owner: User, content: Content) -> Case:
    """A new case of `owner`."""
    prepared = _prepared(owner, content)
    with transaction.atomic():
        return _started(owner, prepared)


def start_all(owner: User, contents: list[Content]) -> int:
    """New cases of `owner`, all of them or none; how many."""
    prepared = [_prepared(owner, content) for content in contents]
    with transaction.atomic():
        for each in prepared:
            _started(owner, each)
    return len(contents)


def _started(owner: User, prepared: _Prepared) -> Case:
    case = Case(owner=owner)
    _fill(case, prepared)
    case.save()
    # Whoever starts a case with an answer has it.
    _add(case, owner, prepared, left=True)
    return case


def _add(
    case: Case, by: User, prepared: _Prepared, *, step: bool = False, left: bool = False
) -> None:
    revisions.add(case, by, prepared.worked, step=step)
    trail.add(case, by, prepared.content.statement, prepared.worked, prepared.digest, left=left)


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

    Raises `ChangedMeanwhileError` where `version` is not the last, `OnlyForReadingError` where the
    user may only read. Saving what is kept already changes nothing, from whatever version: whoever
    did not hear that it was saved saves it again.
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
        if case.version != version:
            raise ChangedMeanwhileError(case)
        _fill(case, prepared)
        case.version += 1
        case.save()
        _add(case, user, prepared, step=step, left=left)
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
    """The case into its owner's bin."""
    case = own(user, case_id)
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
