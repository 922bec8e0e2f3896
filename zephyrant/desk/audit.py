"""The audit log: who signed in, shared, judged, took out or deleted what, and when."""

import csv
import time
from collections.abc import Iterator
from typing import IO, Final, Literal

from django.contrib.auth.signals import user_logged_in, user_logged_out, user_login_failed
from django.db.models import QuerySet
from django.dispatch import receiver
from django.http import HttpRequest

from zephyrant.loans import as_text

from .doorman import SEEN, request_id
from .models import AuditEntry
from .throttle import address

Kind = Literal[
    "signed in",
    "sign-in refused",
    "signed out",
    "password changed",
    "token made",
    "token revoked",
    "shared",
    "exported",
    "deleted",
    "put up for review",
    "taken back",
    "commented",
    "approved",
    "sent back",
    "new version",
]
COLUMNS: Final = ("at", "who", "what", "about", "address", "request")


def note(request: HttpRequest | None, who: str, what: Kind, about: str = "") -> None:
    """Notes what somebody did."""
    AuditEntry.objects.create(
        who=who[:150],
        what=what,
        about=about[:300],
        address=address(request)[:64] if request else "",
        request=request_id()[:64],
    )


@receiver(user_logged_in)
def _signed_in(request: HttpRequest, user: object, **_: object) -> None:
    request.session[SEEN] = int(time.time())
    note(request, str(user), "signed in")


@receiver(user_logged_out)
def _signed_out(request: HttpRequest, user: object, **_: object) -> None:
    note(request, str(user), "signed out")


@receiver(user_login_failed)
def _refused(credentials: dict[str, str], request: HttpRequest | None = None, **_: object) -> None:
    note(request, str(credentials.get("username", "")), "sign-in refused")


def rows(entries: QuerySet[AuditEntry]) -> Iterator[list[str]]:
    """Entries as rows of a table, names of columns first; no cell is a formula."""
    yield list(COLUMNS)
    for entry in entries.iterator():
        told = (getattr(entry, name) for name in COLUMNS[1:])
        yield [entry.at.isoformat(), *(as_text(each) for each in told)]


def write(entries: QuerySet[AuditEntry], file: IO[str]) -> None:
    """Entries as CSV."""
    csv.writer(file).writerows(rows(entries))
