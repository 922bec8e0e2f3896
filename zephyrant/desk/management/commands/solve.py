"""`python manage.py solve`: see `zephyrant.desk.solve_command`."""

import sys
from typing import Any

from django.core.management.base import BaseCommand, CommandParser

from zephyrant.desk import solve_command


class Command(BaseCommand):
    """Solve loan documents, in the order given."""

    help = solve_command.HELP
    requires_system_checks = ()

    def add_arguments(self, parser: CommandParser) -> None:
        """The files, or a table and how it is read."""
        solve_command.add_arguments(parser)

    def handle(self, *args: Any, **options: Any) -> None:  # noqa: ANN401
        """Solve each and leave with the highest status."""
        asked = (options[name] for name in ("files", "line", "table", "set", "match"))
        if status := solve_command.run(*asked):
            sys.exit(status)
