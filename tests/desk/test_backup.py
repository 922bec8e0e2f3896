"""Backup and restore, by the commands, on a database file of their own."""

import os
import shutil
import sqlite3
import subprocess
import sys
import tempfile
from contextlib import closing
from pathlib import Path
from typing import ClassVar
from unittest import TestCase

from django.conf import settings

from zephyrant.desk import backup
from zephyrant.desk.demo import CASES

#: Those of the analyst, and the one her colleague put up for her to judge.
LAID = len(CASES) + 1


class BackupAndRestore(TestCase):
    template: ClassVar[Path]

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        folder = tempfile.TemporaryDirectory()
        cls.addClassCleanup(folder.cleanup)
        cls.template = Path(folder.name)
        for command in ("migrate", "lay_demo"):
            done = cls.command(cls.template, command)
            assert done.returncode == 0, done.stderr

    @staticmethod
    def command(folder: Path, *arguments: str) -> subprocess.CompletedProcess[str]:
        surroundings = {**os.environ, "ZEPHYRANT_HTTPS": "off", "ZEPHYRANT_DATA": str(folder)}
        return subprocess.run(
            [sys.executable, "manage.py", *arguments],
            cwd=settings.BASE_DIR,
            env=surroundings,
            capture_output=True,
            text=True,
            check=False,
        )

    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        self.live = self.folder / "zephyrant.sqlite3"
        shutil.copytree(self.template, self.folder, dirs_exist_ok=True)
        self.kept = self.folder / "kept.sqlite3"

    def cases(self, path: Path) -> int:
        with closing(sqlite3.connect(path)) as file:
            return int(file.execute("SELECT count(*) FROM desk_case").fetchone()[0])

    def backup(self) -> Path:
        done = self.command(self.folder, "backup", str(self.kept))
        self.assertEqual(done.returncode, 0, done.stderr)
        self.assertIn(f"{LAID} cases", done.stdout)
        return self.kept

    def test_taken_while_another_writes_and_restored(self) -> None:
        with closing(sqlite3.connect(self.live)) as writer:
            writer.execute("BEGIN IMMEDIATE")
            writer.execute("UPDATE desk_case SET name = 'half done'")
            self.backup()
            writer.rollback()
            writer.execute("DELETE FROM desk_revision")
            writer.execute("DELETE FROM desk_case")
            writer.commit()
        with closing(sqlite3.connect(self.kept)) as file:
            names = {name for (name,) in file.execute("SELECT name FROM desk_case")}
        self.assertNotIn("half done", names)
        self.assertEqual(list(self.folder.glob("*.part")), [])
        done = self.command(self.folder, "restore", str(self.kept))
        self.assertEqual(done.returncode, 0, done.stderr)
        self.assertEqual(self.cases(self.live), LAID)
        self.assertEqual(self.cases(self.folder / "zephyrant.sqlite3.before-restore"), 0)

    def test_a_restored_desk_works(self) -> None:
        kept = self.backup()
        fresh = self.folder / "fresh"
        done = self.command(fresh, "restore", str(kept))
        self.assertEqual(done.returncode, 0, done.stderr)
        self.assertEqual(self.cases(fresh / "zephyrant.sqlite3"), LAID)

    def test_broken_and_foreign_files_are_refused(self) -> None:
        whole = self.backup()
        broken = self.folder / "broken.sqlite3"
        content = bytearray(whole.read_bytes())
        content[4096 * 3 : 4096 * 9] = b"\x5a" * (4096 * 6)
        broken.write_bytes(content)
        foreign = self.folder / "foreign.sqlite3"
        with closing(sqlite3.connect(foreign)) as file:
            file.execute("CREATE TABLE ledger (id)")
        text = self.folder / "text.sqlite3"
        text.write_text("not a database at all, but long enough to look at")
        for path, why in (
            (broken, "broken"),
            (foreign, "not a backup of Zephyrant"),
            (text, "broken or no database"),
            (self.folder / "nowhere", "is not there"),
        ):
            with self.subTest(path.name), self.assertRaisesRegex(backup.BackupError, why):
                backup.check(path)
        newer = self.folder / "newer.sqlite3"
        shutil.copy(whole, newer)
        with closing(sqlite3.connect(newer)) as file:
            file.execute(
                "INSERT INTO django_migrations (app, name, applied) "
                "VALUES ('desk', '9999_later', '2030-01-01')"
            )
            file.commit()
        before = self.live.read_bytes()
        for path, why in ((broken, "broken"), (newer, "newer Zephyrant")):
            done = self.command(self.folder, "restore", str(path))
            self.assertEqual(done.returncode, 1)
            self.assertIn(why, done.stderr)
        self.assertEqual(self.live.read_bytes(), before)
