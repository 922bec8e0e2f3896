"""The trail: every answer found in a case, with what was given for it."""

import hashlib
import json
from datetime import datetime, timedelta
from itertools import zip_longest
from typing import Any, Final

from django.contrib.auth.models import User
from django.utils import timezone
from ninja import Schema

from zephyrant.loans import (
    MARKS,
    Marks,
    MarksName,
    check,
    figure_path,
    headline,
    terms_in_words,
)
from zephyrant.loans.statement import Statement, Worked, changes
from zephyrant.texts import worded

from .models import Case, TrailPoint
from .people import name_of
from .revisions import kept

#: Answers a case keeps; beyond them the oldest without a name goes.
MOST_POINTS: Final = 300
#: An answer replaced so soon was that to half a figure, still being typed.
TYPING: Final = timedelta(seconds=2)


class TrailTold(Schema):
    """An answer of the trail, in the reader's marks: `given` in words, `changes` from the one
    before it; what was found; `stands`: it is the answer to what stands in the case."""

    number: int
    found_at: datetime
    by: str
    name: str
    given: str
    changes: list[str]
    title: str
    value: str | None
    total_interest: str | None
    stands: bool


def _digest(document: dict[str, Any]) -> str:
    """That of what is given, said or left to be as usual; the name of a case is not part of it."""
    given = check(document).model_dump(mode="json", exclude={"name"})
    return hashlib.sha256(json.dumps(given, sort_keys=True).encode()).hexdigest()


def digest_of(worked: Worked) -> str | None:
    """That of an answer to be listed; None where there is none."""
    if worked.answer is None or worked.document is None or worked.answer.reason:
        return None
    return _digest(worked.document)


def add(
    case: Case,
    by: User,
    statement: Statement,
    worked: Worked,
    digest: str | None,
    *,
    left: bool = False,
    typing: bool = True,
) -> None:
    """The answer just found, where there is one that is not listed yet.

    While `typing` it takes the place of one found a moment before, unless a field was `left` on
    that one.
    """
    if digest is None:
        return
    listed = case.trail.filter(digest=digest)
    if listed.exists():
        if left:
            listed.update(left=True)
        return
    now = timezone.now()
    last = case.trail.first()
    soon = last is not None and now - last.found_at < TYPING
    if typing and last and soon and not last.name and not last.left and last.by_id == by.pk:
        last.delete()
    point = _point(case, by, statement, worked, digest)
    point.number, point.left = last.number + 1 if last else 1, left
    point.save()
    beyond = list(case.trail.values_list("pk", flat=True)[MOST_POINTS:])
    case.trail.filter(pk__in=beyond, name="").delete()


def first(
    case: Case, by: User, statement: Statement, worked: Worked, digest: str | None
) -> list[TrailPoint]:
    """The answer with which a case is started, to be kept with it, where there is one: whoever
    starts a case with an answer has it."""
    if digest is None:
        return []
    point = _point(case, by, statement, worked, digest)
    point.number, point.left = 1, True
    return [point]


def _point(case: Case, by: User, statement: Statement, worked: Worked, digest: str) -> TrailPoint:
    return TrailPoint(
        case=case,
        digest=digest,
        by=by,
        found_at=timezone.now(),
        statement=statement.model_dump(mode="json", by_alias=True, exclude_unset=True),
        document=worked.document,
        answer=kept(worked.answer),
    )


def _found(answer: dict[str, str | None], marks: Marks) -> dict[str, Any]:
    unknown, value, interest = (answer[name] for name in ("unknown", "value", "total_interest"))
    if unknown is None:
        title = worded("Nothing was asked for: the figures were checked")
        return {"title": title, "value": None, "total_interest": interest and marks.write(interest)}
    path = figure_path(unknown)
    return {
        "title": path.named.alone,
        "value": None if value is None else headline(path.kind, value, marks),
        "total_interest": interest and marks.write(interest),
    }


def told(case: Case, marks: MarksName) -> list[TrailTold]:
    """The trail of a case, the newest first, in the reader's marks."""
    points = list(case.trail.select_related("by"))
    # Half-typed the case has no document of its own: the last whole one stands.
    stands = _digest(case.document) if case.document else None
    listed = []
    for point, before in zip_longest(points, points[1:]):
        loan = check(point.document)
        changed = []
        if before is not None:
            then = Statement.model_validate(before.statement)
            changed = changes(then, Statement.model_validate(point.statement), marks)
        listed.append(
            TrailTold(
                number=point.number,
                found_at=point.found_at,
                by=name_of(point.by) if point.by else "",
                name=point.name,
                given=terms_in_words(loan, MARKS[marks]),
                changes=changed,
                **_found(point.answer, MARKS[marks]),
                stands=point.digest == stands,
            )
        )
    return listed
