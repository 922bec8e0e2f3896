"""Tokens: keys by which programs ask in an analyst's name. Each may read, compute or write, or more
of these, and ends on a day; it is shown once and kept as what only it gives."""

import hashlib
import secrets
from datetime import datetime, timedelta
from typing import Final
from uuid import UUID

from django.contrib.auth.models import User
from django.db import OperationalError
from django.db.models import BooleanField, ExpressionWrapper, Q, QuerySet
from django.shortcuts import get_object_or_404
from django.utils import timezone

from zephyrant.loans import NotALoan
from zephyrant.texts import Worded, worded

from .limits import MOST_TOKENS
from .models import Token
from .token_rights import MAY, May

#: What each may, as it is chosen.
MAY_NAMED: Final[Worded[May]] = Worded(
    {
        "read": "read cases, tables and lists",
        "compute": "compute: solve, ask, convert",
        "write": "write: start, change and delete cases and tables",
    }
)
#: For how many days tokens are offered.
DAYS: Final = (7, 30, 90, 365)
#: What every token begins with, by which it is found where it does not belong.
_MARK: Final = "zph_"
_SHOWN: Final = 8
#: How often it is noted that a token is used.
_NOTED_EACH: Final = timedelta(minutes=1)
#: How long those that ended stay in the list.
_LISTED_FOR: Final = timedelta(days=90)


def digest_of(key: str) -> str:
    """What is kept of a token: 256 random bits need no slow hash."""
    return hashlib.sha256(key.encode()).hexdigest()


def _holding(now: datetime) -> Q:
    """What holds of a token that may still be used."""
    return Q(revoked_at=None, ends_at__gt=now)


def make(user: User, name: str, may: list[May], days: int) -> tuple[Token, str]:
    """A new token, and the key that is shown once. Raises `NotALoan` where there are too many."""
    now = timezone.now()
    long_ago = now - _LISTED_FOR
    Token.objects.filter(owner=user).filter(
        Q(ends_at__lt=long_ago) | Q(revoked_at__lt=long_ago)
    ).delete()
    held = Token.objects.filter(_holding(now), owner=user).count()
    if held >= MOST_TOKENS:
        message = worded("You have {most} tokens that hold: revoke one first.", most=MOST_TOKENS)
        raise NotALoan.at("", message)
    key = _MARK + secrets.token_urlsafe(32)
    token = Token.objects.create(
        owner=user,
        name=name,
        digest=digest_of(key),
        begins=key[: len(_MARK) + _SHOWN],
        may=[each for each in MAY if each in may],
        ends_at=now + timedelta(days=days),
    )
    return token, key


def of(user: User) -> QuerySet[Token]:
    """Every token of an analyst, the newest first, with whether it `holds`."""
    holds = ExpressionWrapper(_holding(timezone.now()), BooleanField())
    return Token.objects.filter(owner=user).annotate(holds=holds)


def revoke(user: User, pk: UUID) -> Token:
    """Ends a token at once. Raises `Http404` where it is not the analyst's."""
    token = get_object_or_404(Token, owner=user, pk=pk)
    if token.revoked_at is None:
        token.revoked_at = timezone.now()
        token.save(update_fields=["revoked_at"])
    return token


def holder(key: str) -> Token | None:
    """The token of a key, where it holds and whose it is may still come in."""
    now = timezone.now()
    token = (
        Token.objects.select_related("owner")
        .filter(_holding(now), digest=digest_of(key), owner__is_active=True)
        .first()
    )
    if token is not None:
        _used(token, now)
    return token


def _used(token: Token, now: datetime) -> None:
    """Notes now and again that a token is used; never in the way of what it is used for."""
    if token.used_at is not None and now - token.used_at < _NOTED_EACH:
        return
    try:
        Token.objects.filter(pk=token.pk).update(used_at=now)
    except OperationalError:
        return
