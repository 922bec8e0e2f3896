"""Cases put before somebody else to be judged: put up, commented on by figure, approved or sent
back by whoever is none of their authors. What is approved stays; a change is a new version beside
it.

Whoever is asked to judge a case may read it from then on, as though it had been shared with them.
"""

import uuid
from datetime import UTC, datetime
from typing import Final, NamedTuple

from django.contrib.auth.models import User
from django.db import transaction
from django.http import Http404
from django.utils import timezone

from zephyrant.loans import ENGINE, BudgetSpentError, NotALoan, write_day
from zephyrant.loans.statement import Statement, figures_standing, figures_stated
from zephyrant.texts import worded

from . import cases, heavy, revisions
from .cases import Content, OnlyForReadingError, one
from .limits import MOST_COMMENTS
from .locked import LockedError, last_of, lock_of, why_locked
from .models import Case, Comment, Review, Revision, Share
from .people import name_of
from .preferences import marks_of

#: What a figure's name is where the whole case is meant.
WHOLE: Final = ""


class EndedError(Exception):
    """The review has ended meanwhile; the text says how."""


class PutUp(NamedTuple):
    """A case put up for review; `shared`: whether its reviewer could not read it before."""

    case: Case
    shared: bool


def authors_of(case: Case) -> set[int]:
    """The keys of those who wrote a case: whose it is, and who changed it."""
    wrote = case.revisions.exclude(by=None).order_by().values_list("by_id", flat=True)
    return {case.owner_id, *wrote.distinct()}


def put_up(user: User, case_id: uuid.UUID, reviewer: str, asked: str, version: int) -> PutUp:
    """A case put up for review by a colleague, of this name, who is none of its authors.

    Raises `NotALoan` at what is wrong, `ChangedMeanwhileError` where `version` is not the last, and
    as `check_may_change` does.
    """
    case, _ = _may_put_up(user, case_id, reviewer, version)
    last = case.revisions.first()
    if last is not None and last.engine != ENGINE:
        cases.answer_anew(user, case)
    with transaction.atomic():
        case, judge = _may_put_up(user, case_id, reviewer, version)
        revision = _to_judge(case)
        Review.objects.create(
            case=case,
            revision=revision,
            number=case.reviews.count() + 1,
            by=user,
            by_name=name_of(user),
            put_up_at=timezone.now(),
            asked=asked.strip(),
            reviewer=judge,
            reviewer_name=name_of(judge),
        )
        _, shared = Share.objects.get_or_create(case=case, user=judge)
    return PutUp(case, shared)


def _may_put_up(user: User, case_id: uuid.UUID, reviewer: str, version: int) -> tuple[Case, User]:
    """The case and who is to judge it, where it may be put up so."""
    case = one(user, case_id)
    cases.check_may_change(case, user)
    if case.version != version:
        raise cases.ChangedMeanwhileError(case)
    return case, _judge(user, case, reviewer)


def _judge(user: User, case: Case, username: str) -> User:
    judge = User.objects.filter(username=username, is_active=True).first()
    if judge is None:
        raise NotALoan.at(
            "reviewer", worded("No colleague has the name {unknown}.", unknown=username)
        )
    if judge.pk == user.pk:
        raise NotALoan.at(
            "reviewer",
            worded("You are an author of this case: it is for somebody else to judge."),
        )
    if judge.pk in authors_of(case):
        raise NotALoan.at(
            "reviewer",
            worded(
                "{name} is an author of this case: it is for somebody else to judge.",
                name=name_of(judge),
            ),
        )
    return judge


def _to_judge(case: Case) -> Revision:
    """The case as it stands, where there is something to judge."""
    last = case.revisions.first()
    if last is None or last.document is None or last.answer is None:
        raise NotALoan.at("", worded("This case is not whole yet: there is nothing to judge."))
    reason = last.answer["reason"]
    if reason:
        raise NotALoan.at("", worded("There is no answer to judge: {reason}", reason=reason))
    return last


def approve(user: User, case_id: uuid.UUID, number: int, said: str) -> Case:
    """A case approved by its reviewer; it stays as it is from then on. Raises `EndedError`,
    `OnlyForReadingError`, and `NotALoan` where this core answers what was put up differently."""
    review = _to_end(user, case_id, number)
    told = revisions.differences(review.revision, marks_of(user), user)
    if told:
        raise NotALoan.at(
            "",
            worded(
                "This core answers differently from the one it was put up with: {told}. It has to "
                "be put up anew.",
                told="; ".join(told),
            ),
        )
    return _end(user, case_id, number, Review.APPROVED, said)


def send_back(user: User, case_id: uuid.UUID, number: int, said: str) -> Case:
    """A case sent back by its reviewer, with what has to change; raises as `approve` does."""
    if not said.strip():
        raise NotALoan.at("said", worded("Say what has to change."))
    return _end(user, case_id, number, Review.SENT_BACK, said)


def take_back(user: User, case_id: uuid.UUID, number: int) -> Case:
    """A case taken back by one of those who may change it; raises as `approve` does."""
    return _end(user, case_id, number, Review.TAKEN_BACK, "")


def _end(user: User, case_id: uuid.UUID, number: int, state: str, said: str) -> Case:
    with transaction.atomic():
        review = _to_end(user, case_id, number, by_author=state == Review.TAKEN_BACK)
        review.state, review.said = state, said.strip()
        review.ended_at, review.engine = timezone.now(), ENGINE
        review.ended_by_name = name_of(user)
        review.save()
    return one(user, case_id)


def _to_end(user: User, case_id: uuid.UUID, number: int, *, by_author: bool = False) -> Review:
    """A review that is still open, for whoever may end it."""
    case = one(user, case_id)
    review = case.reviews.select_related("revision").filter(number=number).first()
    if review is None:
        raise Http404
    mine = review.reviewer_id == user.pk
    if not (cases.may_edit(case, user) and not mine if by_author else mine):
        raise OnlyForReadingError
    if review.state != Review.OPEN:
        raise EndedError(in_words(review))
    return review


def comment(user: User, case_id: uuid.UUID, figure: str, text: str) -> Comment:
    """What a reader of a case says of one of its figures, or of the whole. Raises `NotALoan` at
    what is wrong, and `LockedError` where it was approved."""
    case = one(user, case_id)
    _check_is_open(case)
    if not text.strip():
        raise NotALoan.at("text", worded("Say something of it."))
    if case.comments.count() >= MOST_COMMENTS:
        message = worded("A case bears {most} comments at most.", most=MOST_COMMENTS)
        raise NotALoan.at("text", message)
    revision, stood = case.revisions.earliest("-number"), standing(user, case)
    if figure != WHOLE and figure not in stood:
        raise NotALoan.at(
            "figure", worded("This case has no figure of the name {figure}.", figure=figure)
        )
    with transaction.atomic():
        case = one(user, case_id)
        _check_is_open(case)
        return Comment.objects.create(
            case=case,
            revision=revision,
            figure=figure,
            stood=stood.get(figure),
            by=user,
            by_name=name_of(user),
            at=timezone.now(),
            text=text.strip(),
        )


def standing(user: User, case: Case) -> dict[str, str | None]:
    """What each figure of a case that can be commented on comes to; where that takes too much, of
    those that are stated."""
    statement = Statement.model_validate(case.statement)
    try:
        return heavy.answered(user.pk, heavy.never, figures_standing, statement)
    except (BudgetSpentError, heavy.BusyError):
        return figures_stated(statement)


def _check_is_open(case: Case) -> None:
    lock = lock_of(case)
    if lock is not None and lock.state == Review.APPROVED:
        raise LockedError(why_locked(lock))


def new_version(user: User, case_id: uuid.UUID, content: Content | None) -> Case:
    """A case of the user's own beside an approved one, with what stands in that or other content.
    Raises `NotALoan` where it is not approved, `OnlyForReadingError` where it may only be read."""
    case = one(user, case_id)
    if not cases.may_edit(case, user):
        raise OnlyForReadingError
    lock = lock_of(case)
    if lock is None or lock.state != Review.APPROVED:
        raise NotALoan.at(
            "", worded("This case is not approved: change it, there is no need of a new version.")
        )
    if content is None:
        statement = cases.statement_of(case, user)
        content = Content(statement=statement, note=case.note, tags=case.tags)
    return cases.start(user, content, follows=case)


def moment(at: datetime) -> str:
    """When something was, for the file: the day and the time, in UTC."""
    utc = at.astimezone(UTC)
    return worded("{day}, {time} UTC", day=write_day(utc.date()), time=f"{utc:%H:%M}")


def in_words(review: Review) -> str:
    """Where a review stands, in words."""
    match review.state:
        case Review.APPROVED:
            return worded("Approved by {name}", name=review.ended_by_name)
        case Review.SENT_BACK:
            return worded("Sent back by {name}", name=review.ended_by_name)
        case Review.TAKEN_BACK:
            return worded("Taken back by {name}", name=review.ended_by_name)
    return worded("In review by {name}", name=review.reviewer_name)


def told_of(revision: Revision) -> list[str]:
    """How a revision was judged, each time it was put up."""
    return [in_words(review) for review in revision.reviews.all()]


def record_of(case: Case, reader: User) -> list[tuple[str, str]]:
    """What the statement to file bears: who wrote it, who judged it, when, and by which version of
    the core it was computed; what is told and what it is."""
    last, lock = last_of(case), lock_of(case)
    revision = lock.revision if lock else _whole(case)
    if revision is None:
        return []
    by = name_of(revision.by) if revision.by else worded("someone who left")
    rows = [*_judged(last)] if last else [(worded("Review"), worded("Not reviewed"))]
    rows.append((worded("Last changed by"), _who(by, revision.saved_at)))
    engine = lock.engine if lock and lock.engine else ENGINE
    rows.append((worded("Computed by"), engine))
    if engine != ENGINE:
        rows.append((worded("This statement computed by"), ENGINE))
    differs = revisions.differences(revision, marks_of(reader), reader)
    rows += [(worded("It differs"), each) for each in differs]
    rows.append(
        (worded("Case"), worded("{case}, step {number}", case=case.pk, number=revision.number))
    )
    return rows


def _who(name: str, at: datetime) -> str:
    return f"{name}, {moment(at)}"


def _judged(review: Review) -> list[tuple[str, str]]:
    ended = _who(review.ended_by_name, review.ended_at or review.put_up_at)
    match review.state:
        case Review.APPROVED:
            rows = [(worded("Approved by"), ended)]
        case Review.SENT_BACK:
            rows = [(worded("Not approved: sent back by"), ended)]
        case _:
            rows = [(worded("Not approved yet: in review by"), review.reviewer_name)]
    if review.said:
        rows.append((worded("Their words"), review.said))
    return [*rows, (worded("Put up for review by"), _who(review.by_name, review.put_up_at))]


def _whole(case: Case) -> Revision | None:
    """The last revision that is a whole loan: what is filed of a case."""
    return case.revisions.select_related("by").filter(document__isnull=False).first()
