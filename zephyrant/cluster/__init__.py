"""Tapes beyond one machine: a tape is cut into parts, and each is solved by a worker of Dask with
the function that serves one machine. For a network one trusts: whoever reaches a scheduler or a
worker runs what they like there.
"""

from .run import PART_ROWS, OnCluster, Outcome, work_tape
from .tape_summary import TapeSummary

__all__ = ["PART_ROWS", "OnCluster", "Outcome", "TapeSummary", "work_tape"]
