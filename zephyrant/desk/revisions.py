"""Revisions: what a case said, when, by whom, and what its answer was then."""

from datetime import datetime, timedelta
from decimal import Decimal
from typing import Any, Final, NamedTuple

from django.contrib.auth.models import User
from django.utils import timezone
from typing_extensions import TypedDict

from zephyrant import loans
from zephyrant.loans import ENGINE, MARKS, MarksName
from zephyrant.loans.statement import (
    Statement,
    Worked,
    changed_figures,
    changes,
    stated_in_words,
)
from zephyrant.texts import Worded, worded

from . import heavy
from .models import Case, Revision

#: A pause after which the next change is a step of its own.
PAUSE: Final = timedelta(minutes=2)


class AnswerKept(TypedDict):
    """What a revision keeps of its answer."""

    unknown: str | None
    value: str | None
    exact: str | None
    reason: str | None
    total_paid: str | None
    total_interest: str | None


def kept(answer: loans.AnswerHead | None) -> AnswerKept | None:
    """What is kept of an answer."""
    if answer is None:
        return None
    totals = answer.totals
    return {
        "unknown": answer.unknown,
        "value": answer.value,
        "exact": answer.exact,
        "reason": answer.reason,
        "total_paid": totals["paid"] if totals else None,
        "total_interest": totals["interest"] if totals else None,
    }


def _changed(before: Revision, case: Case) -> list[str]:
    figures = changed_figures(
        Statement.model_validate(before.statement), Statement.model_validate(case.statement)
    )
    beside = [name for name in ("note", "tags") if getattr(before, name) != getattr(case, name)]
    return sorted([*figures, *beside])


class Answered(NamedTuple):
    """The document of a revision, what is kept of its answer, and the core that gave it."""

    document: dict[str, Any] | None
    answer: AnswerKept | None
    engine: str


def answered_now(worked: Worked) -> Answered:
    """What this core has just answered."""
    return Answered(worked.document, kept(worked.answer), ENGINE)


def answered_before(case: Case) -> Answered:
    """What was answered when a case was last saved."""
    last = case.revisions.first()
    return Answered(last.document, last.answer, last.engine) if last else Answered(None, None, "")


def add(case: Case, by: User, answered: Answered, *, step: bool = False) -> Revision:
    """What was just saved, as a revision of its own (always, with `step`) or as more of the last.

    It is more of the same where the same analyst, without a long pause, goes on changing nothing
    but the figures the last step changed.
    """
    now = timezone.now()
    last = case.revisions.first()
    if last is None:
        started = first(case, by, answered)
        started.save()
        return started
    content = _content(case, answered, now)
    changed = _changed(last, case)
    if (
        not step
        and last.by_id == by.pk
        and last.number > 1
        and not _is_spoken_of(last)
        and now - last.saved_at < PAUSE
        and (set(changed) <= set(last.changed))
    ):
        Revision.objects.filter(pk=last.pk).update(**content)
        return last
    return Revision.objects.create(
        case=case, number=last.number + 1, by=by, began_at=now, changed=changed, **content
    )


def _is_spoken_of(revision: Revision) -> bool:
    """Whether a revision was put up for review or commented on: it stays as it was then."""
    return revision.reviews.exists() or revision.comments.exists()


def first(case: Case, by: User, answered: Answered) -> Revision:
    """What a case says as it is started, to be kept with it."""
    now = timezone.now()
    return Revision(
        case=case, number=1, by=by, began_at=now, changed=[], **_content(case, answered, now)
    )


def _content(case: Case, answered: Answered, now: datetime) -> dict[str, Any]:
    return {
        "statement": case.statement,
        "note": case.note,
        "tags": case.tags,
        **answered._asdict(),
        "saved_at": now,
    }


def in_words(before: Revision | None, after: Revision, marks: MarksName) -> list[str]:
    """What a revision changed, a phrase for each."""
    if before is None:
        return [worded("started")]
    told = changes(
        Statement.model_validate(before.statement),
        Statement.model_validate(after.statement),
        marks,
    )
    if before.note != after.note:
        told.append(worded("note changed"))
    gained = [tag for tag in after.tags if tag not in before.tags]
    lost = [tag for tag in before.tags if tag not in after.tags]
    told += [worded("tag “{tag}” added", tag=tag) for tag in gained]
    told += [worded("tag “{tag}” taken off", tag=tag) for tag in lost]
    if not told and before.engine != after.engine:
        told.append(worded("answered anew by {engine}", engine=after.engine))
    return told or [worded("written differently, the figures unchanged")]


def given(revision: Revision, marks: MarksName) -> str:
    """What stood in a revision: the sentence, or its figures where it was not whole."""
    if revision.document is None:
        return stated_in_words(Statement.model_validate(revision.statement), marks)
    return loans.terms_in_words(loans.check(revision.document), MARKS[marks])


def found(revision: Revision, marks: MarksName) -> str:
    """The answer a revision had."""
    answer: AnswerKept | None = revision.answer
    if answer is None or (answer["value"] is None and answer["reason"] is None):
        return worded("It was not whole then.") if answer is None else ""
    if answer["value"] is None:
        return answer["reason"] or ""
    path = loans.figure_path(answer["unknown"] or "")
    return worded(
        "Answer then: {value}", value=loans.headline(path.kind, answer["value"], MARKS[marks])
    )


#: What is held against what was answered then, in this order.
_FIGURES: Final = ("value", "exact", "total_paid", "total_interest", "reason")
_CALLED: Final = Worded(
    {
        "value": "the answer",
        "exact": "the answer before rounding",
        "reason": "the reason",
    }
)


def differences(revision: Revision, marks_name: MarksName, reader: User) -> list[str]:
    """Where the core of today answers a revision differently, and by how much.

    Empty where the revision is this core's own or the answers agree; where answering it again
    takes too much, that is said.
    """
    if revision.engine == ENGINE or revision.document is None or revision.answer is None:
        return []
    loan = loans.check(revision.document)
    try:
        answer = heavy.answered(reader.pk, heavy.never, loans.solve, loan)
    except (loans.BudgetSpentError, heavy.BusyError):
        return [
            worded("it was answered by another version, and answering it again takes too long here")
        ]
    now: dict[str, Any] = dict(kept(answer) or {})
    then: dict[str, Any] = revision.answer
    marks = MARKS[marks_name]
    told = []
    for name in _FIGURES:
        words = _CALLED.get(name) or loans.RESULTS_NAMED[name].title
        was, is_now = then.get(name), now.get(name)
        if was == is_now:
            continue
        if name != "reason" and was is not None and is_now is not None:
            gap = marks.number(Decimal(is_now) - Decimal(was), 12)
            told.append(
                worded(
                    "{figure} was {was}, now {now} ({gap})",
                    figure=words,
                    was=marks.write(was),
                    now=marks.write(is_now),
                    gap=gap,
                )
            )
        else:
            told.append(
                worded(
                    "{figure} was {was}, now {now}",
                    figure=words,
                    was=was or worded("none"),
                    now=is_now or worded("none"),
                )
            )
    return told
