"""Several cases at once: those picked in the list."""

import uuid
from typing import NamedTuple

from django.contrib.auth.models import User
from django.db import transaction
from django.db.models import QuerySet
from django.utils import timezone

from . import cases
from .locked import LockedError, locked_among
from .models import Case


class Done(NamedTuple):
    """The cases something was done to, and how many of those picked stay as they are: they are a
    colleague's, locked, or gone."""

    changed: list[uuid.UUID]
    left: int


def own(user: User) -> list[Case]:
    """All cases of the user's own."""
    return list(Case.objects.filter(owner=user, deleted_at=None))


def picked(user: User, ids: list[uuid.UUID]) -> list[Case]:
    """The cases of these keys that a user may read, in their order, each once."""
    found = cases.readable(user).select_related("owner").in_bulk(ids)
    return [found[each] for each in dict.fromkeys(ids) if each in found]


def _keep(found: QuerySet[Case], ids: list[uuid.UUID], **changed: object) -> Done:
    keys = list(found.filter(pk__in=ids).values_list("pk", flat=True))
    found.filter(pk__in=keys).update(**changed)
    return Done(keys, len(set(ids)) - len(keys))


def throw_away(user: User, ids: list[uuid.UUID]) -> Done:
    """The user's own among these cases into the bin, those that are not locked."""
    with transaction.atomic():
        own = Case.objects.filter(owner=user, deleted_at=None).exclude(pk__in=locked_among(ids))
        done = _keep(own, ids, deleted_at=timezone.now())
    cases.empty_bins()
    return done


def bring_back(user: User, ids: list[uuid.UUID]) -> Done:
    """These cases out of the bin again."""
    return _keep(cases.binned(user), ids, deleted_at=None)


def tag(user: User, ids: list[uuid.UUID], add: list[str], take_off: list[str]) -> Done:
    """Tags put on these cases, and others taken off; those the user may not change, and those that
    would have too many, stay as they are."""
    found, changed = picked(user, ids), []
    left = len(set(ids)) - len(found)
    gone = set(cases.tidy_tags(take_off))
    for case in found:
        before = list(case.tags)
        try:
            after = cases.retag(
                user, case.pk, [each for each in [*before, *add] if each not in gone]
            )
        except (cases.OnlyForReadingError, LockedError, ValueError):
            left += 1
            continue
        if after.tags != before:
            changed.append(case.pk)
    return Done(changed, left)
