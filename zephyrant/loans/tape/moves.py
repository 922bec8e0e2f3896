"""How a figure of a tape moves, as one types it: `+0.5`, `-250`, `* 0.9`, `-10 %`, `+50 bp`,
`+1 year`; `?` asks for it."""

import re
from collections.abc import Callable, Mapping
from decimal import Decimal
from typing import Final

from zephyrant.texts import worded

from ..calendars import frequencies
from ..document.fields import UNKNOWN, wrong_at
from ..statement.parsing import tidy
from ..statement.typed_amounts import read_percent
from ..statement.typed_times import read_count
from ..wording.marks import PLAIN
from .columns import FieldName
from .named import FIELDS_NAMED

_MOVE: Final = re.compile(r"([+*x-]) ?(\S.*)")
_NUMBER: Final = re.compile(r"\d{1,15}(\.\d{1,15})?", re.ASCII)


#: How one figure moves: what comes of its value, in a row paid so often.
Move = Callable[[Decimal, frequencies.Frequency], Decimal]


def move_of(name: FieldName, typed: str) -> Move | None:
    """How a figure moves; None where it is asked for. Raises the error of a model, at its
    figure."""
    text = tidy(typed)
    if text == UNKNOWN:
        return None
    found = _MOVE.fullmatch(text)
    move = found and _MOVES[name](found[1], found[2])
    if not move:
        examples = {"percent": "+0.5, +50 bp, * 1.1", "count": "+12, +1 year, * 1.1"}
        raise wrong_at(
            name,
            worded(
                "“{typed}” does not say how the {figure} moves: write it as {examples} or ?.",
                typed=typed[:40],
                figure=FIELDS_NAMED[name].lower(),
                examples=examples.get(name, "+500, -10 %, * 0.9"),
            ),
        )
    return move


def _times(text: str) -> Move | None:
    if not _NUMBER.fullmatch(text):
        return None
    factor = Decimal(text)
    return lambda value, every: value * factor


def _amount(sign: str, text: str) -> Move | None:
    if sign in "*x":
        return _times(text)
    share = text.removesuffix("%").rstrip()
    if not _NUMBER.fullmatch(share):
        return None
    by = Decimal(f"{sign}{share}")
    if share != text:
        return lambda value, every: value * (100 + by) / 100
    return lambda value, every: value + by


def _percent(sign: str, text: str) -> Move | None:
    if sign in "*x":
        return _times(text)
    # "+1 %" of a rate may mean two things.
    points = None if "%" in text else read_percent(text, PLAIN).value
    if points is None or points == UNKNOWN:
        return None
    by = Decimal(points) if sign == "+" else -Decimal(points)
    return lambda value, every: value + by


def _count(sign: str, text: str) -> Move | None:
    if sign in "*x":
        return _times(text)
    if (read_count(text, PLAIN, "month").value or UNKNOWN) == UNKNOWN:
        return None
    factor = 1 if sign == "+" else -1

    def by(value: Decimal, every: frequencies.Frequency) -> Decimal:
        payments = read_count(text, PLAIN, every).value
        # A time that is no number of payments makes none of the row either, and it says so.
        return value + factor * Decimal(payments) if payments else Decimal("NaN")

    return by


_MOVES: Final[Mapping[FieldName, Callable[[str, str], Move | None]]] = {
    **dict.fromkeys(("principal", "payment", "balance"), _amount),
    "percent": _percent,
    "count": _count,
}
