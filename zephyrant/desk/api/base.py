"""What every endpoint shares: the strict reader of JSON, who asks, and how it is refused."""

import logging
import re
from collections.abc import Callable
from contextlib import ExitStack
from functools import partial
from typing import Annotated, Any, Final, ParamSpec, TypeVar
from uuid import UUID

from django.contrib.auth.models import User
from django.core.exceptions import RequestDataTooBig
from django.db import OperationalError
from django.http import Http404, HttpRequest, HttpResponse
from django.utils.datastructures import MultiValueDict
from ninja import Query
from ninja.errors import AuthenticationError, HttpError, ValidationError
from ninja.parser import Parser
from ninja.security import HttpBearer, SessionAuth

from zephyrant import loans
from zephyrant.desk import audit, heavy, tokens
from zephyrant.desk.cases import OnlyForReadingError
from zephyrant.desk.doorman import request_id
from zephyrant.desk.files import reading_of
from zephyrant.desk.limits import MOST_PICKED
from zephyrant.desk.locked import LockedError
from zephyrant.desk.models import Token
from zephyrant.desk.reviews import EndedError
from zephyrant.desk.token_rights import NEEDED
from zephyrant.loans import BudgetSpentError, Errors, FieldError, NotALoan, at_fault, field_errors
from zephyrant.texts import read_from_here, worded

from .described import DescribedAPI
from .interface import Interface, with_its_marks

log = logging.getLogger(__name__)
P = ParamSpec("P")
T = TypeVar("T")


#: What a name has that people give to a thing: something to read, on one line.
A_NAME: Final = r"^[^\x00-\x1f\x7f]*[^\s\x00-\x1f\x7f][^\x00-\x1f\x7f]*$"
#: Characters that no text holds: they break files, and nobody can see them.
_CONTROL: Final = re.compile(r"[\x00-\x08\x0b\x0c\x0e-\x1f\x7f]")
#: How JSON writes them; also a text that only looks like it, which is then looked at.
_CONTROL_ESCAPED: Final = re.compile(rb"\\u00[017]|\\[bf]|\x7f")


class StrictParser(Parser):
    """JSON read as strictly by the API as by the command; no text with control characters."""

    def parse_body(self, request: HttpRequest) -> Any:  # noqa: ANN401
        """Whatever JSON the body holds."""
        if request.content_type != "application/json":
            raise HttpError(415, worded("JSON is expected here: send it as application/json."))
        body = loans.parse(request.body)
        if _CONTROL_ESCAPED.search(request.body):
            _check_texts(body, "")
        return body

    def parse_querydict(
        self,
        data: MultiValueDict,  # type: ignore[type-arg]
        list_fields: list[str],
        request: HttpRequest,
    ) -> Any:  # noqa: ANN401
        """What stands in the address, or in a form."""
        for name, values in data.lists():
            for value in values:
                _check_texts(value, name)
        return super().parse_querydict(data, list_fields, request)


def _check_texts(found: object, path: str) -> None:
    """Raises `NotALoan` at a text that holds a control character."""
    match found:
        case str():
            if _CONTROL.search(found):
                raise NotALoan.at(path, worded("Remove the control characters from this text."))
        case dict():
            for name, value in found.items():
                _check_texts(value, f"{path}.{name}" if path else name)
        case list():
            for place, value in enumerate(found):
                _check_texts(value, f"{path}.{place}" if path else str(place))


class Bearer(HttpBearer):
    """Who asks by a token: in the name of the analyst whose it is, and only what it may."""

    def authenticate(self, request: HttpRequest, token: str) -> Token:
        """The token; raises where it does not hold, or does not go so far."""
        held = tokens.holder(token)
        if held is None:
            raise AuthenticationError(401, _HOLDS_NOT)
        needed = NEEDED[api.operation_of(request)]
        if not needed:
            raise HttpError(403, worded("No token can do this: sign in."))
        for may in needed:
            if may not in held.may:
                raise HttpError(
                    403, worded("This token may not {may}: make one that may.", may=may)
                )
        request.user = held.owner
        request.by_token = True  # type: ignore[attr-defined]
        read_from_here(reading_of(held.owner, request))
        _read_in_turn(request, held.owner)
        return held


class Session(SessionAuth):
    """Who asks by the session of the page."""

    def authenticate(self, request: HttpRequest, key: str | None) -> User | None:
        """The analyst who is signed in; none where nobody is."""
        user = request.user
        if not isinstance(user, User):
            return None
        _read_in_turn(request, user)
        return user


def _read_in_turn(request: HttpRequest, user: User) -> None:
    """Takes a place for a large request before its body is read, until it is answered."""
    size = int(request.META.get("CONTENT_LENGTH") or 0)
    places: ExitStack = request.places  # type: ignore[attr-defined]
    places.enter_context(heavy.reading(user.pk, size))


_HOLDS_NOT: Final = "This token does not hold: it was revoked, has ended, or is none of ours."


class SignedIn(HttpRequest):
    """A request behind the API's authentication."""

    user: User


#: Things on a page of a list; further down than so many no list is looked at.
PAGE: Final = 100
_MOST_LISTED: Final = 1_000_000
Start = Annotated[int, Query(ge=0, le=_MOST_LISTED)]
#: The cases that are picked.
Picked = Annotated[list[UUID], Query(max_length=MOST_PICKED)]


class Refusal(Errors):
    """What is wrong, and the id of the request, under which the log tells of it."""

    request: str = ""


REFUSALS: Final = {
    400: Refusal,
    401: Refusal,
    403: Refusal,
    404: Refusal,
    405: Refusal,
    413: Refusal,
    415: Refusal,
    422: Refusal,
    429: Refusal,
    500: Refusal,
    503: Refusal,
}

api = DescribedAPI(
    title="Zephyrant",
    version="1",
    description="State a loan, put a ? where a figure is missing, get the whole loan.",
    # A token first: who shows one needs no session, and no proof that our own page asks.
    auth=[Bearer(), Session()],
    parser=StrictParser(),
    docs=Interface(),
    docs_url="docs",
    docs_decorator=with_its_marks,
)


def answered(request: SignedIn, function: Callable[P, T], *args: P.args, **named: P.kwargs) -> T:
    """What a function of the core gives: where that is heavy, by a process of its own, for as long
    as the page waits for it."""
    return heavy.answered(request.user.pk, heavy.gone(request), function, *args, **named)


def worked_apart(
    request: SignedIn, function: Callable[P, T], *args: P.args, **named: P.kwargs
) -> T:
    """The same by a process of its own from the start, for what is known to be heavy."""
    return heavy.worked_apart(
        request.user.pk, heavy.gone(request), heavy.QUESTION, function, *args, **named
    )


#: What whoever asks for a file, or opens one, calls it, to ask meanwhile how much of it is done.
Making = Annotated[UUID | None, Query()]


def made(request: SignedIn, making: UUID | None = None) -> Callable[..., Any]:
    """Calls what makes a file; by a process of its own where that is heavy."""
    return partial(heavy.made, request.user.pk, heavy.gone(request), making)


def made_apart(request: SignedIn, making: UUID | None = None) -> Callable[..., Any]:
    """The same by a process of its own from the start, for what is known to be heavy."""
    return partial(heavy.made_apart, request.user.pk, heavy.gone(request), making)


JSON: Final = "application/json"


def file_of(*kinds: str) -> dict[str, Any]:
    """What the schema tells of an endpoint that gives a file of one of these kinds."""
    binary = {"schema": {"type": "string", "format": "binary"}}
    names = [kind.partition(";")[0] for kind in kinds]
    told: dict[str, Any] = {name: {} if name == JSON else binary for name in names}
    return {"responses": {200: {"description": "The file", "content": told}}}


def noted(request: SignedIn, what: audit.Kind, about: str = "") -> None:
    """What an analyst did, in the audit log."""
    audit.note(request, request.user.get_username(), what, about)


def refuse(status: int, *errors: FieldError) -> HttpResponse:
    """A refusal in the one shape all have."""
    content = Errors(errors=errors).model_dump_json()
    return HttpResponse(content, status=status, content_type="application/json")


def again(status: int, message: str, seconds: int) -> HttpResponse:
    """A refusal of what may be asked again after so many seconds."""
    response = refuse(status, said(message))
    response["Retry-After"] = str(seconds)
    return response


def said(message: str) -> FieldError:
    """An error of the whole request."""
    return FieldError(field="", message=message)


@api.exception_handler(ValidationError)
def _not_valid(request: HttpRequest, error: ValidationError) -> HttpResponse:
    # Paths begin with "body" and the name of the parameter.
    return refuse(422, *field_errors(error.errors, prefix=2))  # type: ignore[arg-type]


@api.exception_handler(HttpError)
def _refused(request: HttpRequest, error: HttpError) -> HttpResponse:
    # What the parser refused comes as the cause of a refusal by the library.
    cause = error.__cause__
    if isinstance(cause, NotALoan):
        return refuse(422, *cause.errors)
    refused = cause if isinstance(cause, HttpError) else error
    return refuse(refused.status_code, said(str(refused)))


@api.exception_handler(NotALoan)
def _not_a_loan(request: HttpRequest, error: NotALoan) -> HttpResponse:
    return refuse(422, *error.errors)


@api.exception_handler(BudgetSpentError)
def _too_much(request: HttpRequest, error: BudgetSpentError) -> HttpResponse:
    return refuse(422, *error.errors)


@api.exception_handler(heavy.BusyError)
def _busy(request: HttpRequest, error: heavy.BusyError) -> HttpResponse:
    return again(error.status, str(error), error.retry_after)


@api.exception_handler(heavy.GoneError)
def _gone(request: HttpRequest, error: heavy.GoneError) -> HttpResponse:
    # Whoever asked does not read this any more.
    return refuse(503, said(worded("Nobody waited for this answer.")))


@api.exception_handler(OperationalError)
def _no_database(request: HttpRequest, error: OperationalError) -> HttpResponse:
    if "locked" in str(error):
        return again(503, worded("The desk is busy saving. This is tried again."), 2)
    if "full" in str(error):
        log.error("The disk is full: %s", error)
        return refuse(503, said(worded("The disk of the desk is full: nothing was saved.")))
    return _our_fault(request, error)


@api.exception_handler(RequestDataTooBig)
def _too_long(request: HttpRequest, error: RequestDataTooBig) -> HttpResponse:
    return refuse(
        422, said(worded("This is too long for a loan document: at most one million bytes."))
    )


@api.exception_handler(Exception)
def _our_fault(request: HttpRequest, error: Exception) -> HttpResponse:
    fault = at_fault(request_id())
    log.error("Fault %s at %s", fault.fault, request.path, exc_info=error)
    return HttpResponse(fault.model_dump_json(), status=500, content_type="application/json")


@api.exception_handler(AuthenticationError)
def _stranger(request: HttpRequest, error: AuthenticationError) -> HttpResponse:
    return refuse(
        401, said(worded(_HOLDS_NOT if error.message == _HOLDS_NOT else "Please sign in."))
    )


@api.exception_handler(Http404)
def _nothing(request: HttpRequest, error: Http404) -> HttpResponse:
    return refuse(404, said(worded("There is nothing here, or it is not yours.")))


@api.exception_handler(OnlyForReadingError)
def _only_for_reading(request: HttpRequest, error: OnlyForReadingError) -> HttpResponse:
    return refuse(403, said(worded("This case is shared with you for reading only.")))


@api.exception_handler(LockedError)
def _locked(request: HttpRequest, error: LockedError) -> HttpResponse:
    return refuse(403, said(str(error)))


@api.exception_handler(EndedError)
def _ended(request: HttpRequest, error: EndedError) -> HttpResponse:
    return refuse(409, said(str(error)))
