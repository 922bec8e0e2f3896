"""Backup and restore: whole copies of the database, checked."""

import sqlite3
from collections.abc import Iterator
from contextlib import closing, contextmanager
from pathlib import Path
from typing import Final

from django.utils import timezone

from .locks import held

#: Marks a database as ours ("ZEPH"); SQLite keeps it in the file's header.
APPLICATION_ID: Final = 0x5A455048
#: The file that a server holds locked for as long as it runs.
SERVING: Final = "serving"
_TABLES: Final = ("auth_user", "desk_case", "desk_revision", "django_migrations")


class BackupError(Exception):
    """A file that is no whole backup of this application; the sentence says why."""


def check(path: Path) -> dict[str, int]:
    """The number of rows of each table that matters; raises `BackupError` where it is not whole."""
    if not path.is_file():
        raise BackupError(f"{path} is not there.")
    try:
        with closing(sqlite3.connect(f"{path.resolve().as_uri()}?mode=ro", uri=True)) as database:
            if database.execute("PRAGMA application_id").fetchone()[0] != APPLICATION_ID:
                raise BackupError(f"{path} is not a backup of Zephyrant.")
            (whole,) = database.execute("PRAGMA integrity_check").fetchone()
            if whole != "ok":
                raise BackupError(f"{path} is broken: {whole}.")
            return {
                table: database.execute(f"SELECT count(*) FROM {table}").fetchone()[0]  # noqa: S608
                for table in _TABLES
            }
    except sqlite3.DatabaseError as error:
        raise BackupError(f"{path} is broken or no database: {error}.") from None


def migrations(path: Path) -> set[tuple[str, str]]:
    """The migrations a database has been through."""
    with closing(sqlite3.connect(path)) as database:
        return set(database.execute("SELECT app, name FROM django_migrations").fetchall())


def copy(source: Path, target: Path) -> None:
    """A database as it stands at one moment, while others read and write: copied by SQLite's online
    backup in one step, so that no write makes it begin again."""
    with (
        closing(sqlite3.connect(source, timeout=60)) as reading,
        closing(sqlite3.connect(target, timeout=60)) as writing,
    ):
        reading.backup(writing)
        writing.execute(f"PRAGMA application_id = {APPLICATION_ID}")
        writing.commit()


def close_up(copied: Path) -> None:
    """Makes a copy one file that stands alone, without a log beside it."""
    with closing(sqlite3.connect(copied)) as database:
        database.execute("PRAGMA journal_mode = DELETE")


def take(database: Path, target: Path) -> tuple[Path, dict[str, int]]:
    """A checked copy of a database as a file that stands alone, or in a folder, named by the time;
    gives it and what `check` gives. What stood there goes only once the copy is whole.

    Raises `BackupError` or `OSError`, and leaves nothing half behind.
    """
    if target.is_dir():
        target = target / f"zephyrant-{timezone.now():%Y%m%d-%H%M%S}.sqlite3"
    unchecked = target.with_name(f"{target.name}.part")
    unchecked.unlink(missing_ok=True)
    try:
        copy(database, unchecked)
        close_up(unchecked)
        rows = check(unchecked)
        unchecked.replace(target)
    except (BackupError, OSError):
        unchecked.unlink(missing_ok=True)
        raise
    return target, rows


def keep_newest(folder: Path, number: int) -> list[Path]:
    """Of the backups in a folder the newest stay; gives those that went."""
    kept = sorted(folder.glob("zephyrant-*.sqlite3"), key=lambda each: each.name, reverse=True)
    for old in kept[number:]:
        old.unlink()
    return kept[number:]


@contextmanager
def not_served(folder: Path) -> Iterator[None]:
    """While no server runs on a folder of data; raises `BackupError` where one does."""
    with held(folder / SERVING, wait=False) as mine:
        if not mine:
            raise BackupError(
                "The server runs: stop it first, or restore with --force, which may lose what is "
                "saved meanwhile."
            )
        yield
