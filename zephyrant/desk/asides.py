"""What is asked beside a case and kept with it: what moves it, paying more, points, what it is
pinned beside."""

import uuid
from typing import Final

from django.contrib.auth.models import User
from ninja import Schema
from pydantic import Field

from zephyrant.loans.questions import MOST_BESIDE, SideBySide
from zephyrant.loans.statement import Candidate, More, Points, Varied, side_by_side
from zephyrant.texts import worded

from . import heavy
from .cases import OnlyForReadingError, may_edit, one, readable, statement_of
from .listed import called_by
from .models import Case
from .preferences import marks_of

_GONE: Final = "This case was deleted, or is no longer shared with you."
_NO_POINT: Final = "This answer is no longer on the trail of its case."


class MovesAside(Schema):
    """What was varied last, and the results watched."""

    varied: list[Varied] = Field(max_length=2)
    results: list[str] = Field(max_length=12)


class Pin(Schema):
    """A loan pinned beside a case: another case as it stands, or an answer of a trail."""

    case: uuid.UUID
    point: int | None = None


class Asides(Schema):
    """What is asked beside a case. `base`: which of the loans side by side the others are held
    against; the case itself is the first of them."""

    moves: MovesAside | None = None
    more: More | None = None
    points: Points | None = None
    pins: list[Pin] = Field(default=[], max_length=MOST_BESIDE - 1)
    base: int = Field(default=0, ge=0, lt=MOST_BESIDE)


def asides_of(case: Case) -> Asides:
    """What is kept beside a case."""
    return Asides.model_validate(case.asides)


def keep(user: User, case_id: uuid.UUID, asides: Asides) -> None:
    """Keeps what is asked beside a case, the last one said; it is no step of its history."""
    case = one(user, case_id)
    if not may_edit(case, user):
        raise OnlyForReadingError
    Case.objects.filter(pk=case.pk).update(asides=asides.model_dump(mode="json"))


def beside(user: User, case: Case, is_gone: heavy.Gone) -> SideBySide:
    """A case and what is pinned beside it. What is gone meanwhile says so in its place."""
    asides = asides_of(case)
    candidates = [Candidate(called_by(case, user), statement_of(case, user))]
    candidates += [_candidate(user, pin) for pin in asides.pins]
    base = asides.base if asides.base < len(candidates) else 0
    return _beside(user, candidates, base, is_gone)


def beside_each_other(
    user: User, ids: list[uuid.UUID], base: int, is_gone: heavy.Gone
) -> SideBySide:
    """Cases beside each other as they stand, without any of them keeping it."""
    candidates = [_candidate(user, Pin(case=each)) for each in ids]
    return _beside(user, candidates, base, is_gone)


def _beside(user: User, candidates: list[Candidate], base: int, is_gone: heavy.Gone) -> SideBySide:
    return heavy.answered(user.pk, is_gone, side_by_side, candidates, base, marks_of(user))


def _candidate(user: User, pin: Pin) -> Candidate:
    case = readable(user).filter(pk=pin.case).first()
    if case is None:
        return Candidate(worded("A case that is gone"), None, worded(_GONE))
    name = called_by(case, user)
    if pin.point is None:
        return Candidate(name, statement_of(case, user))
    point = case.trail.filter(number=pin.point).first()
    if point is None:
        return Candidate(
            worded("{name}, answer {point}", name=name, point=pin.point), None, worded(_NO_POINT)
        )
    return Candidate(
        point.name or worded("{name}, answer {point}", name=name, point=pin.point),
        statement_of(point, user),
    )
