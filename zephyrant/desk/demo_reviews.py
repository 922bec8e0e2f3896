"""The demo desk's committee: one case for the demo analyst to judge, one that was approved."""

from typing import Any, Final

from django.contrib.auth.models import User
from django.db import transaction

from zephyrant.loans.statement import Statement

from . import reviews
from .cases import Content, start
from .demo import ANALYST, COLLEAGUE
from .models import Case, Review

_APPROVED: Final = "Six looms, Weft House"
_TO_JUDGE: Final[dict[str, Any]] = {
    "name": "Smokehouse, Lower Skerrow",
    "currency": "EUR",
    "principal": "58,400.00",
    "percent": "6.75",
    "count": "72",
    "payment": "?",
}


@transaction.atomic
def lay_reviews() -> None:
    """The reviews of the demo desk, where there is none yet."""
    if Review.objects.exists():
        return
    analyst = User.objects.get(username=ANALYST)
    colleague = User.objects.get(username=COLLEAGUE[0])
    theirs = start(
        colleague,
        Content(
            statement=Statement.model_validate(_TO_JUDGE),
            note="Two of the four ovens are paid for. The rest is new.",
            tags=["committee 10 dec"],
        ),
    )
    reviews.comment(
        colleague, theirs.pk, "rate.percent", "A quarter over our list: they are new to us."
    )
    reviews.put_up(colleague, theirs.pk, ANALYST, "For Thursday, please.", theirs.version)
    ours = Case.objects.filter(owner=analyst, name=_APPROVED, deleted_at=None).first()
    if ours is None:
        return
    reviews.put_up(analyst, ours.pk, colleague.username, "As we discussed.", ours.version)
    reviews.comment(colleague, ours.pk, "payment", "Can they carry it in winter?")
    reviews.comment(analyst, ours.pk, "payment", "The orders of three winters are in the file.")
    reviews.approve(colleague, ours.pk, 1, "Within the limits.")
