"""The desk: cases, the API and the commands."""

from django.apps import AppConfig


class DeskConfig(AppConfig):
    """The application's one Django app."""

    name = "zephyrant.desk"
    label = "desk"
