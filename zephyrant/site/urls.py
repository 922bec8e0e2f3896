"""Where requests go: the API, the administration, else the one page of the application."""

from django.conf import settings
from django.contrib import admin
from django.http import Http404, HttpRequest, HttpResponse
from django.urls import URLPattern, URLResolver, include, path, re_path

from zephyrant.desk.admin import change_password, sign_in
from zephyrant.desk.api import api
from zephyrant.desk.page import page, texts


def _nothing(request: HttpRequest) -> HttpResponse:
    raise Http404


urlpatterns: list[URLPattern | URLResolver] = [
    path("api/v1/", api.urls),
    re_path(r"^api(?:/.*)?$", _nothing),
    path("admin/login/", sign_in),
    path("admin/password_change/", change_password),
    path("admin/", admin.site.urls),
    *([path("", include("django_prometheus.urls"))] if settings.METRICS else []),
    re_path(r"^texts/(?P<language>\w{2,12})-(?P<digest>[0-9a-f]{12})\.js$", texts),
    re_path(r"^(?!static/).*$", page, name="page"),
]
