"""Which rules a machine solves by: what the client has, its workers have to have, or none of it is
worked."""

import hashlib
from functools import cache
from pathlib import Path
from typing import Final

from zephyrant.version import __version__

#: The packages by which a tape is worked.
_RULES: Final = ("texts", "loans", "tables", "cluster")


@cache
def edition() -> str:
    """The version, and a digest of the very source: two machines of one version may differ."""
    root = Path(__file__).parents[1]
    digest = hashlib.sha256()
    for package in _RULES:
        for path in sorted((root / package).rglob("*.py")):
            digest.update(f"{path.relative_to(root)}\0".encode())
            digest.update(path.read_bytes())
    return f"{__version__} ({digest.hexdigest()[:12]})"
