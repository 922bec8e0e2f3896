"""The desk: cases, the API and the commands."""

from django.apps import AppConfig


class DeskConfig(AppConfig):
    """The application's one Django app."""

    name = "zephyrant.desk"
    label = "desk"

    def ready(self) -> None:
        """What listens to who signs in."""
        from . import audit  # noqa: F401, PLC0415
