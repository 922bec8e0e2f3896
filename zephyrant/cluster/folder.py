"""The folder a run writes: rows as Parquet, a file a part, and what it keeps of itself in `_run`.

A part is written under a name of its own, flushed and renamed: it is there whole or not at all, and
once, however many workers wrote it.
"""

import fcntl
import os
from collections.abc import Callable, Iterable, Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import IO, Final
from uuid import uuid4

from zephyrant.loans import NotALoan

_INSIDE: Final = "_run"


class Folder:
    """Where everything of a run lies; the same folder on every machine."""

    def __init__(self, path: str) -> None:
        self.path = Path(path).absolute()
        self.inside = self.path / _INSIDE

    @property
    def plan(self) -> Path:
        """What is worked here."""
        return self.inside / "plan.json"

    @property
    def token(self) -> Path:
        """By which a worker knows that it sees this very folder."""
        return self.inside / "token"

    @property
    def summary(self) -> Path:
        """What the tape comes to."""
        return self.path / "summary.json"

    def rows_of(self, part: int, shock: str | None) -> Path:
        """The rows of a part; of a path in a folder with its name, as other programs read it."""
        of = self.path if shock is None else self.path / f"path={shock}"
        return of / f"part-{part:06}.parquet"

    def tally_of(self, part: int, shock: str | None) -> Path:
        """What a part comes to."""
        name = "as-it-stands" if shock is None else f"path={shock}"
        return self.inside / name / f"part-{part:06}.json"

    def has(self, part: int, shock: str | None, *, rows: bool) -> bool:
        """Whether a part is done: its rows are renamed last."""
        has_rows = not rows or self.rows_of(part, shock).exists()
        return has_rows and self.tally_of(part, shock).exists()

    def begin(self) -> None:
        """Makes it, where it is not there; refuses one in which something else lies."""
        try:
            self.path.mkdir(parents=True, exist_ok=True)
            lies = sorted(each.name for each in self.path.iterdir())
            if lies and _INSIDE not in lies:
                raise NotALoan.at(
                    "",
                    f"{self.path} is not empty ({lies[0]} lies there), and no run of ours: say a "
                    "folder that is empty, or not there yet.",
                )
            self.inside.mkdir(exist_ok=True)
        except OSError as error:
            raise unwritten(self.path, error) from None

    @contextmanager
    def held(self) -> Iterator[None]:
        """Nobody else begins a run here."""
        self.begin()
        with (self.inside / "held").open("w") as file:
            try:
                fcntl.flock(file, fcntl.LOCK_EX | fcntl.LOCK_NB)
            except OSError:
                message = f"Another run is writing {self.path}: wait for it, or say another folder."
                raise NotALoan.at("", message) from None
            yield

    def tidy(self) -> None:
        """Takes away what workers left that did not come to an end."""
        for left in self.inside.glob("*.part"):
            left.unlink(missing_ok=True)

    def write(self, path: Path, content: str) -> None:
        """A text, whole or not at all."""
        self.written(path, [content.encode()])()

    def written(self, path: Path, chunks: Iterable[bytes]) -> Callable[[], None]:
        """A file under a name of its own; what is given back puts it in its place."""
        unfinished = self.inside / f"{uuid4().hex}.part"
        try:
            with unfinished.open("wb") as file:
                _fill(file, chunks)
        except BaseException:
            unfinished.unlink(missing_ok=True)
            raise

        def put() -> None:
            path.parent.mkdir(parents=True, exist_ok=True)
            unfinished.replace(path)

        return put


def _fill(file: IO[bytes], chunks: Iterable[bytes]) -> None:
    for chunk in chunks:
        file.write(chunk)
    file.flush()
    os.fsync(file.fileno())


def unwritten(path: Path, error: OSError) -> NotALoan:
    """A place that cannot be written to."""
    return NotALoan.at("", f"{path} cannot be written: {error.strerror or error}.")
