"""The tests. Hypothesis draws the same examples each time, so that a change is judged by what it
changes; by `make check-far` (ZEPHYRANT_FAR) new ones."""

import os

from hypothesis import settings

settings.register_profile("same", derandomize=True, deadline=None)
if "ZEPHYRANT_FAR" not in os.environ:
    settings.load_profile("same")
