"""From when on something stays ahead."""

from collections.abc import Sequence
from decimal import Decimal


def stays_from(ahead: Sequence[int | Decimal]) -> int | None:
    """The first payment, counted from 0, from which on what is ahead never falls below nothing;
    None: never."""
    found = None
    for number, units in enumerate(ahead):
        if units < 0:
            found = None
        elif found is None:
            found = number
    return found
