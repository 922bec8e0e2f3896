"""Where requests go: the API, else the one page of the application."""

from django.urls import path, re_path

from desk.api import api
from desk.page import page

urlpatterns = [
    path("api/", api.urls),
    re_path(r"^(?!api/|static/).*$", page, name="page"),
]
