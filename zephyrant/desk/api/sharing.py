"""Sharing a case with named colleagues."""

import uuid

from django.contrib.auth.models import User
from django.db import transaction
from django.http import HttpResponse
from ninja import Router, Schema

from zephyrant.desk import cases
from zephyrant.desk.models import Case, Review, Share
from zephyrant.desk.people import name_of
from zephyrant.loans import FieldError
from zephyrant.texts import worded

from .base import PAGE, REFUSALS, SignedIn, Start, noted, refuse

router = Router(by_alias=True)


class Colleague(Schema):
    """Another analyst."""

    username: str
    name: str


class ColleagueList(Schema):
    """A page of colleagues."""

    items: list[Colleague]
    total: int


class Shared(Schema):
    """A colleague with whom a case is shared."""

    username: str
    may_edit: bool


@router.get("colleagues", response={200: ColleagueList, **REFUSALS}, operation_id="listColleagues")
def list_colleagues(request: SignedIn, start: Start = 0) -> ColleagueList:
    """Everyone else who has an account."""
    others = User.objects.filter(is_active=True).exclude(pk=request.user.pk).order_by("username")
    items = [
        Colleague(username=user.username, name=name_of(user))
        for user in others[start : start + PAGE]
    ]
    return ColleagueList(items=items, total=others.count())


def _shares(case: Case) -> list[Shared]:
    return [
        Shared(username=share.user.username, may_edit=share.may_edit)
        for share in case.shares.select_related("user").order_by("user__username")
    ]


@router.get(
    "cases/{uuid:case_id}/shares",
    response={200: list[Shared], **REFUSALS},
    operation_id="listShares",
)
def list_shares(request: SignedIn, case_id: uuid.UUID) -> list[Shared]:
    """With whom a case of one's own is shared."""
    return _shares(cases.own(request.user, case_id))


@router.put(
    "cases/{uuid:case_id}/shares",
    response={200: list[Shared], **REFUSALS},
    operation_id="saveShares",
)
@transaction.atomic
def save_shares(
    request: SignedIn, case_id: uuid.UUID, shared: list[Shared]
) -> list[Shared] | HttpResponse:
    """Share a case of one's own with these and nobody else."""
    case = cases.own(request.user, case_id)
    wanted = {each.username: each.may_edit for each in shared}
    users = User.objects.filter(username__in=wanted, is_active=True).exclude(pk=request.user.pk)
    unknown = set(wanted) - {user.username for user in users}
    if unknown:
        message = worded("No colleague has the name {unknown}.", unknown=sorted(unknown)[0])
        return refuse(422, FieldError(field="username", message=message))
    judge = case.reviews.filter(state=Review.OPEN).first()
    if judge and judge.reviewer and judge.reviewer.username not in wanted:
        message = worded(
            "{name} is judging this case: take it back first.", name=judge.reviewer_name
        )
        return refuse(422, FieldError(field="username", message=message))
    case.shares.all().delete()
    Share.objects.bulk_create(
        Share(case=case, user=user, may_edit=wanted[user.username]) for user in users
    )
    named = ", ".join(f"{name}{' to edit' if may else ''}" for name, may in sorted(wanted.items()))
    about = f"case {case.pk} with {named or 'nobody'}"
    noted(request, "shared", about)
    return _shares(case)
