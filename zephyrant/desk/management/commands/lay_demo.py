"""`python manage.py lay_demo`: the demo desk, its analyst and her cases."""

from typing import Any

from django.core.management.base import BaseCommand

from zephyrant.desk.demo import lay_a_table, lay_the_desk
from zephyrant.desk.demo_reviews import lay_reviews


class Command(BaseCommand):
    """Lay the demo desk."""

    help = "The demo analyst and her cases, where there are none yet."

    def handle(self, *args: Any, **options: Any) -> None:  # noqa: ANN401
        """Lay it."""
        lay_the_desk()
        lay_a_table()
        lay_reviews()
