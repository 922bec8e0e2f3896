"""`python manage.py fetch_index [NAME ...]`: fixings of indices from the feed, for everyone."""

from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from zephyrant.desk import feed, indices


class Command(BaseCommand):
    """Fetch indices."""

    help = "Fetch the fixings of indices from the feed (a made-up one ships as a stand-in)."

    def add_arguments(self, parser: CommandParser) -> None:
        """Which of them; all where none is named."""
        parser.add_argument("names", nargs="*", metavar="NAME")

    def handle(self, *args: Any, **options: Any) -> None:  # noqa: ANN401
        """Fetch and tell."""
        for name in options["names"] or feed.names():
            try:
                kept, new = indices.fetch(name)
            except KeyError:
                known = ", ".join(feed.names())
                raise CommandError(f"The feed has no index {name}: it has {known}.") from None
            day, percent = kept.fixings[-1]
            count = len(kept.fixings)
            self.stdout.write(f"{name}: {count} fixings up to {day}, {percent} %; {new} new")
