"""Reviews: a case put up, commented on by figure, approved or sent back; a version beside it."""

import uuid
from datetime import datetime

from ninja import Router, Schema
from pydantic import Field

from zephyrant.desk import reviews
from zephyrant.desk.cases import ChangedMeanwhileError, Content, one
from zephyrant.desk.limits import MOST_NAME, MOST_SAID
from zephyrant.desk.listed import currency_of
from zephyrant.desk.models import Comment
from zephyrant.desk.preferences import marks_of
from zephyrant.loans import MARKS, Marks
from zephyrant.loans.statement import pointed_at
from zephyrant.texts import worded

from .base import REFUSALS, Refusal, SignedIn, noted, said
from .cases import CaseOpened, Conflict, opened
from .review_told import ReviewTold, review_told

router = Router(by_alias=True)


class PutUpAsked(Schema):
    """Who is to judge a case, by the name they sign in with, what they are told, and the version of
    the case that is meant."""

    reviewer: str = Field(max_length=MOST_NAME)
    asked: str = Field(default="", max_length=MOST_SAID)
    version: int


class Judged(Schema):
    """What is said of a case by whoever judges it."""

    said: str = Field(default="", max_length=MOST_SAID)


class PointedTold(Schema):
    """A figure that can be commented on, what it is called and what it comes to."""

    name: str
    title: str
    text: str | None


class CommentAsked(Schema):
    """What is said of a figure, by its name; of the whole case where that is empty."""

    figure: str = Field(default="", max_length=120)
    text: str = Field(max_length=MOST_SAID)


class CommentTold(Schema):
    """A comment: on which figure (`title`: what that is called, empty for the whole case), what it
    came to then (`stood`), by whom, when; `revision`: the step of the case it was said of."""

    figure: str
    title: str
    stood: str | None
    by: str
    at: datetime
    text: str
    revision: int


class ReviewsTold(Schema):
    """The reviews of a case, the newest first, its comments, the oldest first, and the figures that
    can be commented on."""

    reviews: list[ReviewTold]
    comments: list[CommentTold]
    figures: list[PointedTold]


class VersionAsked(Schema):
    """What stands in a new version; left out, what stands in the approved one."""

    content: Content | None = None


@router.get(
    "{uuid:case_id}/reviews", response={200: ReviewsTold, **REFUSALS}, operation_id="getReviews"
)
def get_reviews(request: SignedIn, case_id: uuid.UUID) -> ReviewsTold:
    """The reviews and the comments of a case."""
    case = one(request.user, case_id)
    marks, currency = MARKS[marks_of(request.user)], currency_of(case)
    standing = reviews.standing(request.user, case)
    return ReviewsTold(
        reviews=[
            review_told(each, request.user) for each in case.reviews.select_related("revision")
        ],
        comments=[
            _comment(each, currency, marks) for each in case.comments.select_related("revision")
        ],
        figures=[
            PointedTold(**pointed_at(name, value, currency, marks)._asdict())
            for name, value in standing.items()
        ],
    )


def _comment(comment: Comment, currency: str, marks: Marks) -> CommentTold:
    pointed = pointed_at(comment.figure, comment.stood, currency, marks) if comment.figure else None
    return CommentTold(
        figure=comment.figure,
        title=pointed.title if pointed else "",
        stood=pointed and pointed.text,
        by=comment.by_name,
        at=comment.at,
        text=comment.text,
        revision=comment.revision.number,
    )


@router.post(
    "{uuid:case_id}/reviews",
    response={201: CaseOpened, 409: Conflict, **REFUSALS},
    operation_id="startReview",
)
def put_up(
    request: SignedIn, case_id: uuid.UUID, put: PutUpAsked
) -> tuple[int, CaseOpened | Conflict]:
    """The case put before a colleague, who is none of its authors, to be judged; it stays as it is
    until they have."""
    try:
        case, shared = reviews.put_up(request.user, case_id, put.reviewer, put.asked, put.version)
    except ChangedMeanwhileError as error:
        message = worded(
            "This case was changed meanwhile: open it anew, and look at it before it is put up."
        )
        return 409, Conflict(errors=(said(message),), kept=opened(error.case, request))
    if shared:
        noted(request, "shared", f"case {case_id} with {put.reviewer} to review")
    noted(request, "put up for review", f"case {case_id} to {put.reviewer}")
    return 201, opened(case, request)


@router.post(
    "{uuid:case_id}/reviews/{int:number}/approve",
    response={200: CaseOpened, 409: Refusal, **REFUSALS},
    operation_id="approveReview",
)
def approve(request: SignedIn, case_id: uuid.UUID, number: int, judged: Judged) -> CaseOpened:
    """The case approved by its reviewer: it stays as it is from then on."""
    case = reviews.approve(request.user, case_id, number, judged.said)
    noted(request, "approved", f"case {case_id}, review {number}")
    return opened(case, request)


@router.post(
    "{uuid:case_id}/reviews/{int:number}/send-back",
    response={200: CaseOpened, 409: Refusal, **REFUSALS},
    operation_id="sendReviewBack",
)
def send_back(request: SignedIn, case_id: uuid.UUID, number: int, judged: Judged) -> CaseOpened:
    """The case sent back by its reviewer, with what has to change."""
    case = reviews.send_back(request.user, case_id, number, judged.said)
    noted(request, "sent back", f"case {case_id}, review {number}")
    return opened(case, request)


@router.post(
    "{uuid:case_id}/reviews/{int:number}/take-back",
    response={200: CaseOpened, 409: Refusal, **REFUSALS},
    operation_id="stopReview",
)
def take_back(request: SignedIn, case_id: uuid.UUID, number: int) -> CaseOpened:
    """The case taken back by an author before it was judged."""
    case = reviews.take_back(request.user, case_id, number)
    noted(request, "taken back", f"case {case_id}, review {number}")
    return opened(case, request)


@router.post(
    "{uuid:case_id}/comments",
    response={201: CommentTold, **REFUSALS},
    operation_id="startComment",
)
def comment_on(
    request: SignedIn, case_id: uuid.UUID, asked: CommentAsked
) -> tuple[int, CommentTold]:
    """Something said of a figure of the case, or of the whole."""
    kept = reviews.comment(request.user, case_id, asked.figure, asked.text)
    noted(request, "commented", f"case {case_id}, {asked.figure or 'the whole'}")
    marks = MARKS[marks_of(request.user)]
    return 201, _comment(kept, currency_of(kept.case), marks)


@router.post(
    "{uuid:case_id}/new-version",
    response={201: CaseOpened, **REFUSALS},
    operation_id="startNewVersion",
)
def start_new_version(
    request: SignedIn, case_id: uuid.UUID, asked: VersionAsked
) -> tuple[int, CaseOpened]:
    """A new case beside an approved one."""
    case = reviews.new_version(request.user, case_id, asked.content)
    noted(request, "new version", f"case {case.pk} beside case {case_id}")
    return 201, opened(case, request)
