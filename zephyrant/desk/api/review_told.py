"""What a case tells of how it was judged, and of the versions beside it."""

import uuid
from collections.abc import Iterable
from datetime import datetime
from typing import Literal, cast

from django.contrib.auth.models import User
from ninja import Schema

from zephyrant.desk import reviews
from zephyrant.desk.cases import may_edit, readable
from zephyrant.desk.listed import called_by
from zephyrant.desk.locked import last_of, lock_of, why_locked
from zephyrant.desk.models import Case, Review
from zephyrant.texts import worded

State = Literal["open", "approved", "sent-back", "taken-back"]


class ReviewTold(Schema):
    """A review: where it stands (`says`: in words), who put the case up, for whom, and what each
    said; `revision`: the step of the case that is judged; `engine`: the core that answered it as it
    was judged; `mine`: it is for whoever asks to judge."""

    number: int
    state: State
    says: str
    by: str
    put_up_at: datetime
    asked: str
    reviewer: str
    ended_at: datetime | None
    said: str
    revision: int
    engine: str
    mine: bool


class VersionBeside(Schema):
    """A case that is a version of another."""

    id: uuid.UUID
    called: str


def review_told(review: Review, reader: User) -> ReviewTold:
    """A review, told to a reader."""
    return ReviewTold(
        number=review.number,
        state=cast(State, review.state),
        says=reviews.in_words(review),
        by=review.by_name,
        put_up_at=review.put_up_at,
        asked=review.asked,
        reviewer=review.reviewer_name,
        ended_at=review.ended_at,
        said=review.said,
        revision=review.revision.number,
        engine=review.engine,
        mine=review.reviewer_id == reader.pk,
    )


class Judging(Schema):
    """How a case is judged: its last review that was not taken back; `locked`: why it stays as it
    is, where it does; `may_judge`, `may_put_up`, `may_take_back`, `may_renew`: what whoever asks
    can do now; how many comments it bears; the approved case it is a new version of, and those that
    are one of it."""

    last: ReviewTold | None
    locked: str | None
    may_judge: bool
    may_put_up: bool
    may_take_back: bool
    may_renew: bool
    comments: int
    follows: VersionBeside | None
    followed_by: list[VersionBeside]


def judging(case: Case, reader: User) -> Judging:
    """How a case is judged, told to a reader."""
    last, lock, edits = last_of(case), lock_of(case), may_edit(case, reader)
    is_open = lock is not None and lock.state == Review.OPEN
    judges = lock is not None and is_open and lock.reviewer_id == reader.pk
    return Judging(
        last=review_told(last, reader) if last else None,
        locked=why_locked(lock) if lock else None,
        may_judge=judges,
        may_put_up=edits and lock is None,
        may_take_back=edits and is_open and not judges,
        may_renew=edits and lock is not None and not is_open,
        comments=case.comments.count(),
        follows=_beside(case.follows_id, reader),
        followed_by=[
            VersionBeside(id=each.pk, called=called_by(each, reader))
            for each in readable(reader).filter(follows=case).order_by("created_at")
        ],
    )


def _beside(case_id: uuid.UUID | None, reader: User) -> VersionBeside | None:
    case = readable(reader).filter(pk=case_id).first() if case_id else None
    return VersionBeside(id=case.pk, called=called_by(case, reader)) if case else None


def standings(cases: Iterable[Case], reader: User) -> dict[uuid.UUID, str]:
    """Where the last review of each of these cases stands, in a word or two; nothing of those never
    put up, nor of those taken back."""
    told = {}
    judged = Review.objects.filter(case__in=list(cases)).exclude(state=Review.TAKEN_BACK)
    # The last comes last, and stands.
    for review in judged.order_by("number"):
        told[review.case_id] = _standing(review, reader)
    return told


def _standing(review: Review, reader: User) -> str:
    match review.state:
        case Review.OPEN:
            mine = review.reviewer_id == reader.pk
            return worded("for you to judge") if mine else worded("in review")
        case Review.APPROVED:
            return worded("approved")
    return worded("sent back")
