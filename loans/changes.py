"""What changed between two statements, in words: "rate 6.35 % to 6.10 %"."""

from decimal import Decimal
from typing import Final

from . import clock
from .document import UNKNOWN, Rounding
from .entry import Statement, readings, style_of
from .words import MARKS, MarksName

_NAMES: Final = {
    "principal": "amount lent",
    "percent": "rate",
    "count": "number of payments",
    "payment": "payment",
    "balance": "balance at the end",
}


def _quote(statement: Statement) -> str:
    style = style_of(statement)
    if style is None:
        return f"{statement.quoted}, over {statement.over or 'no stated time or term'}"
    # Of a flat quote the count is told on its own.
    return "flat" if style.quoted == "flat" else style.in_words().removeprefix("a year, ")


def _rounding(rounding: Rounding) -> str:
    payments = {"nearest": "nearest", "up": "up", "none": "not rounded"}[rounding.payment]
    step = f" {rounding.to:f}" if rounding.to and rounding.payment != "none" else ""
    interest = "" if rounding.interest == "nearest" else ", interest unrounded"
    return payments + step + interest


def changed_figures(before: Statement, after: Statement) -> frozenset[str]:
    """The names of what differs; 48,250 and 48250 do not."""
    was, now = readings(before), readings(after)
    typed = {
        name
        for name in _NAMES
        if (was[name].value or getattr(before, name)) != (now[name].value or getattr(after, name))
    }
    chosen = {
        name
        for name in ("name", "currency", "every", "timing", "rounding")
        if getattr(before, name) != getattr(after, name)
    }
    return frozenset(typed | chosen | ({"quote"} if _quote(before) != _quote(after) else set()))


def changes(before: Statement, after: Statement, marks_name: MarksName) -> list[str]:
    """A phrase for each thing that changed, in the marks of the reader."""
    different = changed_figures(before, after)
    marks = MARKS[marks_name]
    was, now = readings(before), readings(after)

    def shown(statement: Statement, name: str, value: str | None) -> str:
        if value is None:
            return f"“{getattr(statement, name)}”"
        if value == UNKNOWN:
            return UNKNOWN
        if name == "percent":
            return marks.percent(Decimal(value), 10)
        return marks.number(Decimal(value), 10, 2 if name != "count" else 0)

    same_quote = "" if "quote" in different else f", {_quote(after)}"
    told = [
        f"{word} {shown(before, name, was[name].value)} to {shown(after, name, now[name].value)}"
        + (same_quote if name == "percent" else "")
        for name, word in _NAMES.items()
        if name in different
    ]
    words = {
        "name": (f"“{before.name}”", f"“{after.name}”"),
        "currency": (before.currency, after.currency),
        "quote": (_quote(before), _quote(after)),
        "every": (clock.period(before.every).often, clock.period(after.every).often),
        "timing": (before.timing.replace("-", " "), after.timing.replace("-", " ")),
        "rounding": (_rounding(before.rounding), _rounding(after.rounding)),
    }
    titles = {"quote": "quoted", "every": "paid", "timing": "paid"}
    for name, (earlier, later) in words.items():
        if name in different:
            told.append(f"{titles.get(name, name)} {earlier} to {later}")
    return told
