"""Signing in and out, and who is at the desk."""

from django.conf import settings
from django.contrib.auth import authenticate, login, logout, update_session_auth_hash
from django.contrib.auth.models import User
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.http import Http404, HttpRequest, HttpResponse
from django.middleware.csrf import CsrfViewMiddleware, get_token
from django.views.decorators.debug import sensitive_variables
from ninja import Router, Schema
from pydantic import Field

from zephyrant.desk import preferences
from zephyrant.desk.demo import ANALYST
from zephyrant.desk.files import FileChoices, HowFiles, choices, choose, how_files
from zephyrant.desk.hashing import waiting
from zephyrant.desk.people import name_of
from zephyrant.desk.preferences import Begins, Column
from zephyrant.desk.throttle import is_closed, too_many_attempts
from zephyrant.loans import FieldError, MarksName
from zephyrant.texts import worded

from .base import REFUSALS, SignedIn, noted, refuse, said

router = Router(by_alias=True)


class Door(Schema):
    """What a stranger is told."""

    demo: bool


class Credentials(Schema):
    """Who one is and the proof of it."""

    username: str
    password: str


class Me(Schema):
    """Who is at the desk, the marks they read, the columns their list of cases has, how a new case
    of theirs begins, how files are made for them."""

    username: str
    name: str
    marks: MarksName
    columns: list[str]
    begins: Begins
    files: HowFiles
    demo: bool


class MyMarks(Schema):
    """A choice of marks."""

    marks: MarksName


class MyColumns(Schema):
    """A choice of columns for the list of cases, in their order."""

    columns: list[Column] = Field(max_length=len(preferences.COLUMNS))


class NewPassword(Schema):
    """The password there is and the one that is to be."""

    old: str
    new: str


def _me(user: User) -> Me:
    return Me(
        username=user.get_username(),
        name=name_of(user),
        marks=preferences.marks_of(user),
        columns=preferences.columns_of(user),
        begins=preferences.begins_of(user),
        files=how_files(user),
        demo=settings.DEMO,
    )


def _from_elsewhere(request: HttpRequest) -> bool:
    """Whether a request without a session lacks the token of our own page."""
    check = CsrfViewMiddleware(lambda _: HttpResponse())
    check.process_request(request)
    return check.process_view(request, lambda _: HttpResponse(), (), {}) is not None


@router.get("door", auth=None, response=Door, operation_id="getDoor")
def get_door(request: HttpRequest) -> Door:
    """Whether there is a demo desk to enter; brings the token that signing in must show."""
    get_token(request)
    return Door(demo=settings.DEMO)


@router.post("session", auth=None, response={200: Me, **REFUSALS}, operation_id="signIn")
@sensitive_variables("credentials")
def sign_in(request: HttpRequest, credentials: Credentials) -> Me | HttpResponse:
    """Sign in; the session gets a new key, so that one planted before is worth nothing."""
    if _from_elsewhere(request):
        return refuse(403, said(worded("This did not come from the sign-in page. Load it again.")))
    if is_closed(request):
        return too_many_attempts(request)
    # After too many attempts for this name the middleware of the throttle answers in our place.
    with waiting():
        user = authenticate(request, username=credentials.username, password=credentials.password)
    if not isinstance(user, User):
        return refuse(401, said(worded("This name and this password do not belong together.")))
    login(request, user)
    return _me(user)


@router.post("session/demo", auth=None, response={200: Me, **REFUSALS}, operation_id="enterDemo")
def enter_demo(request: HttpRequest) -> Me | HttpResponse:
    """Sit down at the demo desk, where there is one."""
    if not settings.DEMO:
        raise Http404
    if _from_elsewhere(request):
        return refuse(403, said(worded("This did not come from the sign-in page. Load it again.")))
    analyst = User.objects.filter(username=ANALYST).first()
    if analyst is None:
        raise Http404
    login(request, analyst, backend="django.contrib.auth.backends.ModelBackend")
    return _me(analyst)


@router.delete("session", response={204: None, **REFUSALS}, operation_id="signOut")
def sign_out(request: SignedIn) -> tuple[int, None]:
    """Sign out."""
    logout(request)
    return 204, None


@router.put("password", response={204: None, **REFUSALS}, operation_id="changePassword")
@sensitive_variables("passwords")
def change_password(request: SignedIn, passwords: NewPassword) -> tuple[int, None] | HttpResponse:
    """Another password; this session goes on, others of the same analyst end."""
    user = request.user
    if is_closed(request):
        return too_many_attempts(request)
    # As when signing in: a wrong password counts, and too many close this door, too.
    with waiting():
        known = authenticate(request, username=user.get_username(), password=passwords.old)
    if known != user:
        return refuse(422, FieldError(field="old", message="This is not your password."))
    try:
        validate_password(passwords.new, user)
    except ValidationError as error:
        return refuse(422, *(FieldError(field="new", message=text) for text in error.messages))
    with waiting():
        user.set_password(passwords.new)
    user.save(update_fields=["password"])
    update_session_auth_hash(request, user)
    noted(request, "password changed")
    return 204, None


@router.get("me", response={200: Me, **REFUSALS}, operation_id="getMe")
def get_me(request: SignedIn) -> Me:
    """Who is at the desk."""
    return _me(request.user)


@router.put("me", response={200: Me, **REFUSALS}, operation_id="saveMarks")
def save_marks(request: SignedIn, chosen: MyMarks) -> Me:
    """Other number marks."""
    preferences.keep(request.user, marks=chosen.marks)
    return _me(request.user)


@router.put("me/columns", response={200: Me, **REFUSALS}, operation_id="saveColumns")
def save_columns(request: SignedIn, chosen: MyColumns) -> Me:
    """Other columns of the list of cases."""
    preferences.keep(request.user, columns=list(dict.fromkeys(chosen.columns)))
    return _me(request.user)


@router.put("me/begins", response={200: Me, **REFUSALS}, operation_id="saveBegins")
def save_begins(request: SignedIn, chosen: Begins) -> Me:
    """How a new case is to begin."""
    preferences.keep(request.user, begins=chosen.model_dump(mode="json"))
    return _me(request.user)


@router.put("me/files", response={200: Me, **REFUSALS}, operation_id="saveFiles")
def save_files(request: SignedIn, chosen: HowFiles) -> Me:
    """How files are to be made: for which country, and what CSV is like. What is not said stays as
    it is."""
    choose(request.user, chosen)
    return _me(request.user)


@router.get(
    "me/files/choices", response={200: FileChoices, **REFUSALS}, operation_id="getFileChoices"
)
def get_file_choices(request: SignedIn) -> FileChoices:
    """What can be chosen of how files are made."""
    return choices(request)
