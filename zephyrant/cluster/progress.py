"""How far a run is, told on standard error."""

import sys
from time import monotonic

from .work import Done

#: Seconds between two lines, where somebody looks on, and where they go into a file.
_OFTEN = 0.2
_SELDOM = 30.0


class Progress:
    """Rows done, rows a second, time left, and the most memory of a worker."""

    def __init__(self) -> None:
        self._began = monotonic()
        self._whole = self._done = self._already = self.problems = 0
        self.most_memory = 0
        self.seconds = self.worker_seconds = 0.0
        self._is_open = False
        self._told = 0.0
        self._is_seen = sys.stderr.isatty()

    def note(self, text: str) -> None:
        """A line of its own."""
        self.end()
        sys.stderr.write(f"{text}\n")

    def parts(self, what: str, done: int, whole: int) -> None:
        """How many parts are read, or looked at."""
        self._write(f"{done:,} of {whole:,} parts {what}", is_last=done == whole)
        if done == whole:
            self.end()

    def begin(self, whole: int, already: int) -> None:
        """Rows are solved from now on."""
        self._began = monotonic()
        self._whole, self._already = whole, already
        if already:
            self.note(f"{already:,} of {whole:,} rows are written already.")

    def add(self, done: Done) -> None:
        """A part is written."""
        self._done += done.rows
        self.problems += done.problems
        self.most_memory = max(self.most_memory, done.most_memory)
        self.worker_seconds += done.seconds
        self.seconds = monotonic() - self._began
        left = (self._whole - self._already - self._done) / max(self.rows_a_second, 1e-9)
        self._write(
            f"{self._already + self._done:,} of {self._whole:,} rows, "
            f"{self.rows_a_second:,.0f} a second, {in_words(left)} left, "
            f"{self.problems:,} without answer",
            is_last=self._already + self._done >= self._whole,
        )

    @property
    def rows_a_second(self) -> float:
        """Of those that this run solved."""
        return self._done / max(self.seconds, 1e-9)

    @property
    def solved(self) -> int:
        """Rows that this run solved."""
        return self._done

    def end(self) -> None:
        """What comes next stands on a line of its own."""
        if self._is_open:
            sys.stderr.write("\n")
            self._is_open = False

    def _write(self, text: str, *, is_last: bool) -> None:
        """A line over the last one; where nobody looks on, one under the other, now and then."""
        now = monotonic()
        if not is_last and now - self._told < (_OFTEN if self._is_seen else _SELDOM):
            return
        self._told = now
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
