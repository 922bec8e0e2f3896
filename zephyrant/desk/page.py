"""The one page of the application; everything on it is the front end's."""

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.views.decorators.cache import never_cache
from django.views.decorators.csrf import ensure_csrf_cookie


@never_cache
@ensure_csrf_cookie
def page(request: HttpRequest) -> HttpResponse:
    """The front end."""
    built = settings.STATIC_ROOT / "index.html"
    if not built.exists():
        return HttpResponse("The front end is not built: run make setup.", status=503)
    return HttpResponse(built.read_bytes())
