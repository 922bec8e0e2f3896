"""Indices kept on the desk: those an analyst keeps, and those that came from the feed for all."""

import uuid
from typing import Any, Final

from django.contrib.auth.models import User
from django.db import transaction
from django.db.models import Q, QuerySet
from django.shortcuts import get_object_or_404

from zephyrant.loans import MARKS, MarksName, NotALoan
from zephyrant.loans.statement import check_fixings, read_fixings
from zephyrant.texts import worded

from . import feed
from .models import KeptIndex

#: Indices an analyst keeps.
MOST_INDICES: Final = 100


def seen_by(user: User) -> QuerySet[KeptIndex]:
    """The indices a user may take, their own and those of the feed, by their names."""
    return KeptIndex.objects.filter(Q(owner=user) | Q(owner=None)).order_by("name", "pk")


def keep(user: User, name: str, typed: str, marks: MarksName) -> KeptIndex:
    """Fixings kept by a name, in place of the user's own of that name.

    Raises `NotALoan` where they cannot be read, are not of days, or too many indices are kept.
    """
    fixings = check_fixings(read_fixings(typed, MARKS[marks]).at("fixings"))
    with transaction.atomic():
        others = KeptIndex.objects.filter(owner=user).exclude(name=name)
        if others.count() >= MOST_INDICES:
            message = worded(
                "At most {most} indices are kept: delete one first.", most=MOST_INDICES
            )
            raise NotALoan.at("name", message)
        kept, _ = KeptIndex.objects.update_or_create(
            owner=user, name=name, defaults={"fixings": fixings}
        )
    return kept


def as_documents(user: User) -> dict[str, dict[str, Any]]:
    """The indices a user may take, by name, as a document has them: their own before the feed's."""
    seen = sorted(seen_by(user), key=lambda index: index.owner_id is not None)
    return {index.name: {"fixings": index.fixings} for index in seen}


def throw_away(user: User, index_id: uuid.UUID) -> None:
    """An index of the user's own gone for good; loans that took its fixings keep them."""
    get_object_or_404(KeptIndex, owner=user, pk=index_id).delete()


def fetch(name: str) -> tuple[KeptIndex, int]:
    """An index fetched from the feed for everyone, and how many of its fixings are new; raises
    `KeyError` where the feed has none of that name."""
    fixings = feed.fetched(name)
    with transaction.atomic():
        before = KeptIndex.objects.filter(owner=None, name=name).first()
        known = len(before.fixings) if before else 0
        kept, _ = KeptIndex.objects.update_or_create(
            owner=None, name=name, defaults={"fixings": fixings}
        )
    return kept, len(fixings) - known
