"""What is said to someone who tried too many passwords."""

from django.conf import settings
from django.http import HttpRequest, HttpResponse

from zephyrant.loans import Errors, FieldError


def too_many_attempts(
    request: HttpRequest, original: HttpResponse | None, credentials: object
) -> HttpResponse:
    """The refusal, in the shape the API's refusals have."""
    minutes = int(settings.AXES_COOLOFF_TIME.total_seconds() // 60)
    message = f"Too many attempts. Try again in {minutes} minutes."
    content = Errors(errors=(FieldError(field="", message=message),)).model_dump_json()
    return HttpResponse(content, status=429, content_type="application/json")
