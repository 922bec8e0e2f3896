"""The database brought up to this version of the desk; what stood there is copied first."""

from pathlib import Path

from django.core.management import call_command
from django.db import connection
from django.db.migrations.executor import MigrationExecutor
from django.db.migrations.loader import MigrationLoader

from zephyrant.version import __version__

from . import backup


def of_newer(database: Path) -> str | None:
    """The migration by which a database is of a newer Zephyrant than this one; none where it is
    not."""
    known = set(MigrationLoader(None).disk_migrations)
    newer = sorted(backup.migrations(database) - known)
    return newer[0][1] if newer else None


def bring_up_to_date() -> Path | None:
    """Migrates the database where it is of an older version, after a checked copy of it; gives that
    copy, none where there was nothing to keep.

    Raises `BackupError` where the database is of a newer version, or cannot be copied.
    """
    database = Path(connection.settings_dict["NAME"])
    copied = None
    if database.exists():
        if newer := of_newer(database):
            raise backup.BackupError(
                f"{database} is of a newer Zephyrant than {__version__} ({newer}): install that."
            )
        executor = MigrationExecutor(connection)
        if not executor.migration_plan(executor.loader.graph.leaf_nodes()):
            return None
        folder = database.parent / "before-upgrades"
        folder.mkdir(exist_ok=True)
        copied, _ = backup.take(database, folder)
    call_command("migrate", verbosity=0, interactive=False)
    return copied
