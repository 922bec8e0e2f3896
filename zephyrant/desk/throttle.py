"""Signing in kept from being tried out: by name and address together, and by address over all
names. Nobody can lock out who comes from another address."""

from datetime import timedelta
from typing import Final

from axes.models import AccessAttempt
from django.conf import settings
from django.db.models import Sum
from django.http import HttpRequest, HttpResponse
from django.utils import timezone

from zephyrant.loans import Errors, FieldError
from zephyrant.texts import worded

#: Wrong passwords from one address over all names, within the time a door stays closed.
MOST_FROM_ONE_ADDRESS: Final = 60


def address(request: HttpRequest) -> str:
    """Where a request comes from: what the stated number of trusted proxies say, and no more."""
    seen = str(request.META.get("REMOTE_ADDR", ""))
    if not settings.PROXIES:
        return seen
    told = [each.strip() for each in request.headers.get("X-Forwarded-For", "").split(",")]
    # Each proxy appends whom it was asked by; what stands before that anybody may have written.
    return told[-settings.PROXIES] if len(told) >= settings.PROXIES and told[0] else seen


def is_closed(request: HttpRequest) -> bool:
    """Whether too many wrong passwords came from an address, whatever the names."""
    since: timedelta = settings.AXES_COOLOFF_TIME
    tried = AccessAttempt.objects.filter(
        ip_address=address(request), attempt_time__gt=timezone.now() - since
    ).aggregate(failures=Sum("failures_since_start"))["failures"]
    return (tried or 0) >= MOST_FROM_ONE_ADDRESS


def too_many_attempts(
    request: HttpRequest, original: HttpResponse | None = None, credentials: object = None
) -> HttpResponse:
    """The refusal, in the shape the API's refusals have."""
    minutes = int(settings.AXES_COOLOFF_TIME.total_seconds() // 60)
    message = worded("Too many attempts. Try again in {minutes} minutes.", minutes=minutes)
    content = Errors(errors=(FieldError(field="", message=message),)).model_dump_json()
    return HttpResponse(content, status=429, content_type="application/json")
