"""`python manage.py restore FILE`: the database as a backup has it."""

from contextlib import nullcontext
from pathlib import Path
from typing import Any

from django.core.management import call_command
from django.core.management.base import BaseCommand, CommandError, CommandParser
from django.db import connection

from zephyrant.desk import backup
from zephyrant.desk.upgrading import of_newer


class Command(BaseCommand):
    """Restore a backup."""

    help = "Replace the database by a backup; what is there is kept beside it first."

    def add_arguments(self, parser: CommandParser) -> None:
        """Where from."""
        parser.add_argument("file", type=Path)
        parser.add_argument("--force", action="store_true", help="even while the server runs")

    def handle(self, *args: Any, **options: Any) -> None:  # noqa: ANN401
        """Check the file, keep what is there, copy, bring the schema up to date."""
        source: Path = options["file"]
        database = Path(connection.settings_dict["NAME"])
        try:
            rows = backup.check(source)
            if newer := of_newer(source):
                raise backup.BackupError(
                    f"{source} is of a newer Zephyrant than this one ({newer})."
                )
            connection.close()
            alone = nullcontext() if options["force"] else backup.not_served(database.parent)
            with alone:
                if database.exists():
                    kept = database.with_name(f"{database.name}.before-restore")
                    backup.copy(database, kept)
                    self.stdout.write(f"What was there is kept in {kept}.")
                backup.copy(source, database)
                backup.check(database)
        except (backup.BackupError, OSError) as error:
            raise CommandError(str(error)) from None
        call_command("migrate", verbosity=0)
        self.stdout.write(f"Restored {rows['desk_case']} cases of {rows['auth_user']} analysts.")
