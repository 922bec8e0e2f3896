"""Where requests go: the API, the administration, else the one page of the application."""

from django.contrib import admin
from django.urls import path, re_path

from zephyrant.desk.api import api
from zephyrant.desk.page import page

urlpatterns = [
    path("api/", api.urls),
    path("admin/", admin.site.urls),
    re_path(r"^(?!api/|static/|admin/).*$", page, name="page"),
]
