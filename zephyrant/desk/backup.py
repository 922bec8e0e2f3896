"""Backup and restore: whole copies of the database, checked."""

import sqlite3
from contextlib import closing
from pathlib import Path
from typing import Final

#: Marks a database as ours ("ZEPH"); SQLite keeps it in the file's header.
APPLICATION_ID: Final = 0x5A455048
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
    """A database copied page by page by SQLite's online backup, while others read and write."""
    with (
        closing(sqlite3.connect(source, timeout=60)) as reading,
        closing(sqlite3.connect(target, timeout=60)) as writing,
    ):
        reading.backup(writing, pages=500, sleep=0.02)
        writing.execute(f"PRAGMA application_id = {APPLICATION_ID}")
        writing.commit()
