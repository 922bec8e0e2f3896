"""Lists of quotes kept: started, saved, deleted; an older version never over a newer one."""

import uuid
from typing import Any

from django.contrib.auth.models import User
from django.db import transaction
from django.db.models import QuerySet
from django.shortcuts import get_object_or_404
from django.utils import timezone

from zephyrant.loans.statement import QuoteList as Content
from zephyrant.loans.statement import restated

from .models import BIN_KEEPS, QuoteList
from .preferences import marks_of


class ListChangedMeanwhileError(Exception):
    """The list was saved from elsewhere since the version this save started from."""

    def __init__(self, kept: QuoteList) -> None:
        super().__init__(f"version {kept.version} is kept")
        self.kept = kept


def _mine(user: User) -> QuerySet[QuoteList]:
    return QuoteList.objects.filter(owner=user, deleted_at=None)


def listed(user: User) -> QuerySet[QuoteList]:
    """The user's lists, the last changed first."""
    return _mine(user)


def one(user: User, list_id: uuid.UUID) -> QuoteList:
    """A list of the user's own; to anyone else there is none."""
    return get_object_or_404(_mine(user), pk=list_id)


def content_of(kept: QuoteList, user: User) -> Content:
    """What stands in a list, in the marks `user` reads."""
    return restated(Content.model_validate(kept.content), marks_of(user))


def _stored(content: Content) -> dict[str, Any]:
    return content.model_dump(mode="json", exclude_unset=True)


def start(owner: User, content: Content) -> QuoteList:
    """A new list."""
    return QuoteList.objects.create(owner=owner, name=content.name, content=_stored(content))


@transaction.atomic
def save(user: User, list_id: uuid.UUID, content: Content, version: int) -> QuoteList:
    """The list with other content.

    Raises `ListChangedMeanwhileError` where `version` is not the last.
    """
    kept = one(user, list_id)
    if kept.version != version:
        raise ListChangedMeanwhileError(kept)
    stored = _stored(content)
    if kept.content != stored:
        kept.name, kept.content, kept.version = content.name, stored, version + 1
        kept.save()
    return kept


def throw_away(user: User, list_id: uuid.UUID) -> None:
    """The list into the bin."""
    kept = one(user, list_id)
    QuoteList.objects.filter(pk=kept.pk).update(deleted_at=timezone.now())


def binned(user: User) -> QuerySet[QuoteList]:
    """What is in the user's bin; what has lain there too long is gone."""
    QuoteList.objects.filter(deleted_at__lt=timezone.now() - BIN_KEEPS).delete()
    return QuoteList.objects.filter(owner=user).exclude(deleted_at=None).order_by("-deleted_at")


def bring_back(user: User, list_id: uuid.UUID) -> QuoteList:
    """The list out of the bin again."""
    kept = get_object_or_404(binned(user), pk=list_id)
    QuoteList.objects.filter(pk=kept.pk).update(deleted_at=None)
    return kept
