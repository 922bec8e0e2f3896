"""Which cases stay as they are: those that are being judged, and those that are approved."""

import uuid
from collections.abc import Iterable
from typing import Final

from zephyrant.texts import worded

from .models import Case, Review

_LOCKING: Final = (Review.OPEN, Review.APPROVED)


class LockedError(Exception):
    """The case is in review or approved: nobody changes it; the text says what can be done."""


def last_of(case: Case) -> Review | None:
    """The last review of a case of those that were not taken back."""
    judged = case.reviews.exclude(state=Review.TAKEN_BACK)
    return judged.select_related("revision__by").first()


def lock_of(case: Case) -> Review | None:
    """The review by which a case is locked, if it is."""
    last = last_of(case)
    return last if last is not None and last.state in _LOCKING else None


def locked_among(ids: Iterable[uuid.UUID]) -> list[uuid.UUID]:
    """Those of these cases that are locked. Nothing is put up for review while it is, nor after it
    was approved: one that locks is the last."""
    locking = Review.objects.filter(case__in=list(ids), state__in=_LOCKING)
    return list(locking.values_list("case_id", flat=True))


def check_unlocked(case: Case) -> None:
    """Raises `LockedError` where a case is locked."""
    lock = lock_of(case)
    if lock is not None:
        raise LockedError(why_locked(lock))


def why_locked(lock: Review) -> str:
    """Why a case stays as it is, and what can be done."""
    if lock.state == Review.APPROVED:
        return worded(
            "This case is approved and stays as it is: a change is a new version beside it."
        )
    return worded(
        "This case is in review and stays as it is until it is approved, sent back or taken back."
    )
