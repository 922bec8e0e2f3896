"""Texts in cells of tables that other programs open."""

import re
from typing import Final

_STARTS: Final = ("=", "+", "-", "@", "\t", "\r")
_NUMBER: Final = re.compile(r"[+-]?[\d.,]+(e[+-]?\d+)?", re.ASCII | re.IGNORECASE)


def as_text(text: str) -> str:
    """A text that no program takes for a formula.

    One that starts like one, and is no number, gets an apostrophe (OWASP, CSV injection).
    """
    return f"'{text}" if text.startswith(_STARTS) and not _NUMBER.fullmatch(text) else text


def from_text(cell: str) -> str:
    """What `as_text` was given."""
    return cell[1:] if cell.startswith("'") and cell[1:].startswith(_STARTS) else cell
