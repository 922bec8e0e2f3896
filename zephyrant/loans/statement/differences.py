"""What changed between two statements, in words: "rate 6.35 % to 6.10 %"."""

from collections.abc import Callable
from decimal import Decimal
from typing import Final

from ..calendars import frequencies
from ..document.fields import UNKNOWN
from ..document.named import FIGURES_NAMED
from ..document.parts import Rounding
from ..wording.marks import MARKS, MarksName
from .parsing import Reading
from .reading import readings, style_of
from .statement import Statement, TypedClause

#: The entries of a statement that hold figures, and where those stand in the document.
_NAMES: Final = {
    "principal": "principal",
    "price": "purchase.price",
    "down": "purchase.down.amount",
    "percent": "rate.percent",
    "count": "count",
    "payment": "payment",
    "balance": "balance",
}


def _quote(statement: Statement) -> str:
    style = style_of(statement)
    if style is None:
        return f"{statement.quoted}, over {statement.over or 'no stated time or term'}"
    # Of a flat quote the count is told on its own.
    return (
        style.quoted if style.convention.is_of_a_loan else style.in_words().removeprefix("a year, ")
    )


def _rounding(rounding: Rounding) -> str:
    payments = {"nearest": "nearest", "up": "up", "none": "not rounded"}[rounding.payment]
    step = f" {rounding.to:f}" if rounding.to and rounding.payment != "none" else ""
    interest = "" if rounding.interest == "nearest" else ", interest unrounded"
    interest += "" if rounding.overpaid == "cut" else ", overpaid shown"
    return payments + step + interest


def _dated(statement: Statement, name: str) -> str:
    read = readings(statement)[name]
    return read.text or getattr(statement, name) or "without a date"


def _clauses(statement: Statement) -> str:
    return "; ".join(_clause(clause) for clause in statement.clauses) or "none"


def _aim(statement: Statement) -> str:
    if not statement.aim_figure:
        return "none"
    return f"{statement.aim_figure} {statement.aim_is} by {statement.aim_by}"


def _clause(clause: TypedClause) -> str:
    where = f"from {clause.begin}" + (f" to {clause.to}" if clause.to else "")
    if not clause.is_stretch:
        where = f"at {clause.at}"
    figure = clause.pay if clause.verb == "pay" else clause.figure
    percent = " %" if clause.in_percent or clause.verb == "rate" else ""
    level = ", set anew" if clause.levels else ""
    return f"{where} {clause.verb} {figure}{percent}{level}"


#: What is chosen or told as one, in words.
_WORDS: Final[dict[str, tuple[str, Callable[[Statement], str]]]] = {
    "name": ("name", lambda statement: f"“{statement.name}”"),
    "currency": ("currency", lambda statement: statement.currency),
    "quote": ("quoted", _quote),
    "every": ("paid", lambda statement: frequencies.period(statement.every).often),
    "timing": ("paid", lambda statement: statement.timing.replace("-", " ")),
    "rounding": ("rounding", lambda statement: _rounding(statement.rounding)),
    "start": ("lent on", lambda statement: _dated(statement, "start")),
    "first_payment": ("first payment on", lambda statement: _dated(statement, "first_payment")),
    "day_count": ("days counted", lambda statement: statement.day_count),
    "odd_days": ("odd days bear", lambda statement: f"{statement.odd_days} interest"),
    "clauses": ("clauses", _clauses),
    "aim": ("aim", _aim),
}


def _value(read: dict[str, Reading], statement: Statement, name: str) -> str:
    """What stands in an entry; nothing where a statement has no such entry."""
    reading = read.get(name)
    return (reading.value or str(getattr(statement, name))) if reading else ""


def changed_figures(before: Statement, after: Statement) -> frozenset[str]:
    """The names of what differs; 48,250 and 48250 do not."""
    was, now = readings(before), readings(after)
    typed = {name for name in _NAMES if _value(was, before, name) != _value(now, after, name)}
    chosen = {name for name, (_, told) in _WORDS.items() if told(before) != told(after)}
    return frozenset(typed | chosen)


def changes(before: Statement, after: Statement, marks_name: MarksName) -> list[str]:
    """A phrase for each thing that changed, in the marks of the reader."""
    different = changed_figures(before, after)
    marks = MARKS[marks_name]
    was, now = readings(before), readings(after)

    def shown(statement: Statement, name: str, read: dict[str, Reading]) -> str:
        if name not in read:
            return "none"
        value = read[name].value
        if value is None:
            return f"“{getattr(statement, name)}”"
        if value == UNKNOWN:
            return UNKNOWN
        if name == "percent" or (name == "down" and statement.down_in_percent):
            return marks.percent(Decimal(value), 10)
        return marks.number(Decimal(value), 10, 2 if name != "count" else 0)

    same_quote = "" if "quote" in different else f", {_quote(after)}"
    told = [
        f"{FIGURES_NAMED[path].title} {shown(before, name, was)} to {shown(after, name, now)}"
        + (same_quote if name == "percent" else "")
        for name, path in _NAMES.items()
        if name in different
    ]
    for name, (title, words) in _WORDS.items():
        if name in different:
            told.append(f"{title} {words(before)} to {words(after)}")
    return told
