"""`python manage.py backup FILE`: the whole database, while the application runs."""

from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser
from django.db import connection

from zephyrant.desk import backup


class Command(BaseCommand):
    """Take a backup."""

    help = "Write a checked copy of the database to FILE, while the application runs."

    def add_arguments(self, parser: CommandParser) -> None:
        """Where to."""
        parser.add_argument("file", type=Path, help="a file, or a folder for one named by the time")
        parser.add_argument("--keep", type=int, metavar="N", help="of a folder the newest N stay")

    def handle(self, *args: Any, **options: Any) -> None:  # noqa: ANN401
        """Take it, and let older ones go."""
        target: Path = options["file"]
        if options["keep"] is not None and options["keep"] < 1:
            raise CommandError("At least one backup is kept.")
        database = Path(connection.settings_dict["NAME"])
        if not database.exists():
            raise CommandError(f"There is no database in {database.parent} yet.")
        folder = target if target.is_dir() else None
        try:
            target, rows = backup.take(database, target)
        except (backup.BackupError, OSError) as error:
            raise CommandError(str(error)) from None
        self.stdout.write(
            f"{target}: {rows['auth_user']} analysts, {rows['desk_case']} cases, "
            f"{rows['desk_revision']} revisions; checked."
        )
        for gone in (
            backup.keep_newest(folder, options["keep"]) if folder and options["keep"] else ()
        ):
            self.stdout.write(f"{gone} is gone: {options['keep']} are kept.")
