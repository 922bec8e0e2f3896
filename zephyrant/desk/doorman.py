"""What stands before every request: its id, a line in the access log, an answer of the API in the
API's own shape whatever answered, headers, and the two questions of whoever watches the server."""

import json
import logging
import re
import shutil
import sqlite3
import time
from collections.abc import Callable
from contextlib import ExitStack, closing
from contextvars import ContextVar
from datetime import UTC, datetime
from pathlib import Path
from typing import Any, Final
from uuid import uuid4

from django.conf import settings
from django.contrib.auth.models import AnonymousUser
from django.contrib.sessions.backends.base import UpdateError
from django.db import DatabaseError
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.http.response import HttpResponseBase

from zephyrant.texts import Reading, Worded, read_as, worded

from .files import language_of

Answering = Callable[[HttpRequest], HttpResponseBase]

#: The id of the request being answered.
_request_id: ContextVar[str] = ContextVar("request_id", default="")
_access: Final = logging.getLogger("zephyrant.access")
_WELL_FORMED: Final = re.compile(r"[A-Za-z0-9-]{8,64}")
#: What a browser is not to offer to this page.
_PERMISSIONS: Final = "camera=(), geolocation=(), microphone=(), payment=(), usb=()"
#: Sentences for refusals that come from before or beside the API.
_SAID: Final = Worded(
    {
        400: "This request cannot be read.",
        403: "This did not come from our own page. Load it again.",
        404: "There is nothing here.",
        405: "This is not how it is asked for here.",
        413: "This is too large.",
        500: "Something went wrong with this on our side, not with what was stated.",
    }
)
#: Bytes that have to be free where the database stands.
LEAST_FREE: Final = 200_000_000
#: Seconds after which a worker that gave no sign of life is held to be gone.
SILENCE: Final = 60
#: Seconds a session may stand before a request says that it is still used.
_SEEN_EACH: Final = 300
#: Where a session says when it was last used.
SEEN: Final = "seen"


def request_id() -> str:
    """The id of the request being answered; none outside one."""
    return _request_id.get()


class Doorman:
    """The outermost middleware."""

    def __init__(self, answer: Answering) -> None:
        self._answer = answer

    def __call__(self, request: HttpRequest) -> HttpResponseBase:
        """Answers, and tells of it."""
        if request.path in _WATCHED:
            return _WATCHED[request.path]()
        told = request.headers.get("X-Request-Id", "")
        name = told if _WELL_FORMED.fullmatch(told) else uuid4().hex[:16]
        token = _request_id.set(name)
        began = time.monotonic()
        try:
            # A place that is taken for this request is given back once it is answered.
            with ExitStack() as places:
                request.places = places  # type: ignore[attr-defined]
                response = self._answer(request)
            if request.path.startswith("/api/"):
                response = _in_our_shape(request, response, name)
                response.setdefault("Cache-Control", "no-store")
            response["X-Request-Id"] = name
            response.setdefault("Permissions-Policy", _PERMISSIONS)
            _tell(request, response, name, time.monotonic() - began)
            return response
        finally:
            _request_id.reset(token)


def _in_our_shape(request: HttpRequest, response: HttpResponseBase, name: str) -> HttpResponseBase:
    """A refusal of the API as JSON, with the id of its request."""
    if response.status_code < 400 or not isinstance(response, HttpResponse):
        return response
    kind = response.headers.get("Content-Type", "")
    content: dict[str, Any] = {}
    if kind.startswith("application/json"):
        content = json.loads(response.content)
    if "errors" not in content:
        # Who asks may not be known here: their browser says in which language.
        with read_as(Reading(language_of(request))):
            said = _SAID.get(response.status_code) or worded("This was refused.")
        content = {"errors": [{"field": "", "message": said}]}
    response.content = json.dumps({**content, "request": name}, ensure_ascii=False).encode()
    response["Content-Type"] = "application/json"
    response["Content-Length"] = str(len(response.content))
    return response


def _tell(request: HttpRequest, response: HttpResponseBase, name: str, seconds: float) -> None:
    """A line of the access log: no query, which may hold what is searched for."""
    user = getattr(request, "user", AnonymousUser())
    told = {
        "at": datetime.now(UTC).isoformat(timespec="milliseconds"),
        "request": name,
        "method": request.method,
        "path": request.path,
        "status": response.status_code,
        "ms": round(1000 * seconds, 1),
        "analyst": user.get_username() or "-",
    }
    if settings.LOG_AS == "json":
        _access.info("%s", json.dumps(told))
    else:
        _access.info("%s", " ".join(str(each) for each in told.values()))


class StillUsed:
    """Keeps a session from ending while it is used; inside the middleware of sessions."""

    def __init__(self, answer: Answering) -> None:
        self._answer = answer

    def __call__(self, request: HttpRequest) -> HttpResponseBase:
        """Answers; that a session is used is noted now and again, and never in the way of that."""
        response = self._answer(request)
        by_token = getattr(request, "by_token", False)
        if request.method == "GET" and request.user.is_authenticated and not by_token:
            now, seen = int(time.time()), request.session.get(SEEN)
            if seen is None or now - seen > _SEEN_EACH:
                _note(request, response, now)
        return response


def _note(request: HttpRequest, response: HttpResponseBase, now: int) -> None:
    session = request.session
    session[SEEN] = now
    try:
        session.save()
    except (UpdateError, DatabaseError):
        # Somebody holds the lock, or signed out elsewhere: another request notes it.
        return
    finally:
        session.modified = False
    response.set_cookie(
        settings.SESSION_COOKIE_NAME,
        session.session_key or "",
        max_age=settings.SESSION_COOKIE_AGE,
        secure=settings.SESSION_COOKIE_SECURE,
        httponly=True,
        samesite="Lax",
    )


# For whoever watches


def _healthy() -> HttpResponse:
    """The process answers."""
    return HttpResponse("ok\n", content_type="text/plain")


def _ready() -> HttpResponse:
    """Whether all that the desk needs is there."""
    problems = [said for ask in (_database, _worker, _disk) if (said := ask())]
    return JsonResponse(
        {"ready": not problems, "problems": problems}, status=503 if problems else 200
    )


def _database() -> str | None:
    name = settings.DATABASES["default"]["NAME"]
    try:
        with closing(sqlite3.connect(f"file:{name}?mode=rw", uri=True, timeout=2)) as database:
            database.execute("BEGIN IMMEDIATE")
            database.execute("ROLLBACK")
    except sqlite3.Error as error:
        return f"The database cannot be written: {error}."
    return None


def beat() -> Path:
    """The file whose age tells when the worker was last heard of."""
    path: Path = settings.DATA_DIR / "worker-beat"
    return path


def _worker() -> str | None:
    try:
        silent = time.time() - beat().stat().st_mtime
    except OSError:
        return "The worker of the tables was never heard of."
    return f"The worker of the tables is silent for {silent:.0f} s." if silent > SILENCE else None


def _disk() -> str | None:
    free = shutil.disk_usage(settings.DATA_DIR).free
    return f"Only {free:,} bytes are free." if free < LEAST_FREE else None


_WATCHED: Final[dict[str, Callable[[], HttpResponse]]] = {
    "/healthz": _healthy,
    "/readyz": _ready,
}
