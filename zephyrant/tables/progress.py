"""How far a table is, told on standard error."""

import sys
from time import monotonic
from typing import Final

#: Seconds between two lines, where somebody looks on, and where they go into a file.
_OFTEN: Final = 0.2
_SELDOM: Final = 30.0


class Progress:
    """Rows done, rows a second, those without an answer; and the time left, where it is known how
    many there are."""

    def __init__(self) -> None:
        self._is_seen = sys.stderr.isatty()
        self._is_open, self._told, self._untold = False, 0.0, ""
        self.begin()

    def begin(self, whole: int | None = None, already: int = 0) -> None:
        """Rows are solved from now on: of so many, of which some were before."""
        self._began = monotonic()
        self._whole, self._already = whole, already
        self.solved = self.problems = 0
        self.seconds = 0.0
        if already:
            self.note(f"{already:,} of {whole:,} rows are written already.")

    def add(self, rows: int, problems: int) -> None:
        """Some more are solved."""
        self.solved, self.problems = self.solved + rows, self.problems + problems
        self.seconds = monotonic() - self._began
        done = self._already + self.solved
        of, left = "", ""
        if self._whole is not None:
            of = f" of {self._whole:,}"
            left = f"{in_words((self._whole - done) / max(self.rows_a_second, 1e-9))} left, "
        self._tell(
            f"{done:,}{of} rows, {self.rows_a_second:,.0f} a second, {left}"
            f"{self.problems:,} without answer"
        )

    @property
    def rows_a_second(self) -> float:
        """Since they are solved."""
        return self.solved / max(self.seconds, 1e-9)

    def parts(self, what: str, done: int, whole: int) -> None:
        """How many parts are read, or looked at."""
        self._tell(f"{done:,} of {whole:,} parts {what}")
        if done == whole:
            self.end()

    def note(self, text: str) -> None:
        """A line of its own."""
        self.end()
        sys.stderr.write(f"{text}\n")

    def end(self) -> None:
        """The last of it is told, and what comes next stands on a line of its own."""
        if self._untold:
            self._write(self._untold)
        if self._is_open:
            sys.stderr.write("\n")
            self._is_open = False

    def _tell(self, text: str) -> None:
        """Now and then."""
        self._untold = text
        if monotonic() - self._told >= (_OFTEN if self._is_seen else _SELDOM):
            self._write(text)

    def _write(self, text: str) -> None:
        """Over the last line; where nobody looks on, under it."""
        self._told, self._untold = monotonic(), ""
        sys.stderr.write(f"\r{text:<78}" if self._is_seen else f"{text}\n")
        sys.stderr.flush()
        self._is_open = self._is_seen


def in_words(seconds: float) -> str:
    """A time as one says it: 2 h 5 min, 3 min 20 s, 40 s."""
    whole = round(seconds)
    hours, minutes = whole // 3600, whole % 3600 // 60
    if hours:
        return f"{hours:,} h {minutes} min"
    return f"{minutes} min {whole % 60} s" if minutes else f"{whole} s"
