"""How far a run of many machines is, and what it takes of them."""

from zephyrant.tables.progress import Progress

from .work import Done


class RunProgress(Progress):
    """What workers did besides: the seconds of all of them, the most memory of one, in bytes."""

    def __init__(self) -> None:
        super().__init__()
        self.worker_seconds, self.most_memory = 0.0, 0

    def done(self, part: Done) -> None:
        """A part is written."""
        self.worker_seconds += part.seconds
        self.most_memory = max(self.most_memory, part.most_memory)
        self.add(part.rows, part.problems)
