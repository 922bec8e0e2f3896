"""The desk: cases, the API and the commands."""

from django.apps import AppConfig
from django.conf import settings

from zephyrant.texts import look_in


class DeskConfig(AppConfig):
    """The application's one Django app."""

    name = "zephyrant.desk"
    label = "desk"

    def ready(self) -> None:
        """What listens to who signs in; translations that are kept beside the data."""
        look_in(settings.DATA_DIR / "languages")
        from . import audit  # noqa: F401, PLC0415
