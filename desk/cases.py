"""Cases kept: started, opened, saved; an older version never written over a newer one."""

from typing import Any

from django.contrib.auth.models import User
from django.db import transaction
from django.shortcuts import get_object_or_404
from typing_extensions import TypedDict

from loans import MarksName
from loans.entry import Statement, Worked, remark, work

from .models import Case, Preferences


class ChangedMeanwhileError(Exception):
    """The case was saved by someone else since the version this save started from."""

    def __init__(self, case: Case) -> None:
        super().__init__(f"version {case.version} is kept")
        self.case = case


def marks_of(user: User) -> MarksName:
    """The number marks a user reads and types."""
    preferences, _ = Preferences.objects.get_or_create(user=user)
    return preferences.marks  # type: ignore[return-value]


def statement_of(case: Case, user: User) -> Statement:
    """What stands on the page of a case, in the marks `user` reads."""
    return remark(Statement.model_validate(case.statement), marks_of(user))


class FoundListed(TypedDict):
    """What the list of cases tells of an answer."""

    unknown: str
    value: str | None
    reason: str | None


def _found(worked: Worked) -> FoundListed | None:
    answer = worked.answer
    if answer is None:
        return None
    return {"unknown": answer.unknown, "value": answer.value, "reason": answer.reason}


def _kept(statement: Statement, worked: Worked) -> dict[str, Any]:
    return {
        "name": statement.name,
        "statement": statement.model_dump(mode="json", exclude_unset=True),
        "found": _found(worked),
    }


def start(owner: User, statement: Statement) -> Case:
    """A new case of `owner`."""
    worked = work(statement)
    return Case.objects.create(owner=owner, document=worked.document, **_kept(statement, worked))


@transaction.atomic
def save(case: Case, statement: Statement, version: int) -> Case:
    """The case with another statement; raises `ChangedMeanwhileError` if `version` is not its last.

    Where the statement is not a whole document yet, the last whole one stays.
    """
    worked = work(statement)
    # The transaction holds the write lock from its start (see DATABASES): none saves between.
    kept = get_object_or_404(Case, pk=case.pk)
    if kept.version != version:
        raise ChangedMeanwhileError(kept)
    for name, value in _kept(statement, worked).items():
        setattr(kept, name, value)
    if worked.document is not None:
        kept.document = worked.document
    kept.version += 1
    kept.save()
    return kept
