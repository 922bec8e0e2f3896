"""What changed between two statements, in words: "rate 6.35 % to 6.10 %"."""

from collections.abc import Callable
from decimal import Decimal
from typing import Final, NamedTuple

from zephyrant.texts import worded

from ..calendars import frequencies
from ..document.choices import (
    ADJUSTED,
    CHARGED_OF,
    IN_COSTS,
    ODD_DAYS,
    REPAYMENT,
    ROLLS,
    TIMED,
    WE,
    Choice,
)
from ..document.fields import UNKNOWN
from ..document.named import FIGURES_NAMED
from ..document.parts import Rounding
from ..wording.marks import MARKS, Marks, MarksName
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
    "amortized_over": "amortized_over",
}


def _quote(statement: Statement) -> str:
    style = style_of(statement)
    if style is None:
        return worded(
            "{quoted}, over {over}",
            quoted=statement.quoted,
            over=statement.over or worded("no stated time or term"),
        )
    # Of a flat quote the count is told on its own.
    return (
        style.quoted if style.convention.is_of_a_loan else style.in_words().removeprefix("a year, ")
    )


def _rounding(rounding: Rounding) -> str:
    payments = worded("not rounded") if rounding.payment == "none" else rounding.payment
    step = f" {rounding.to:f}" if rounding.to and rounding.payment != "none" else ""
    interest = "" if rounding.interest == "nearest" else worded(", interest unrounded")
    interest += "" if rounding.overpaid == "cut" else worded(", overpaid shown")
    return payments + step + interest


def _repaid(statement: Statement) -> str:
    by = REPAYMENT[statement.repaid].shown
    return f"{by} {statement.percents}" if statement.repaid == "percents" else by


def _dated(statement: Statement, name: str) -> str:
    read = readings(statement)[name]
    return read.text or getattr(statement, name) or worded("without a date")


def _floating(statement: Statement) -> str:
    floats = statement.floating
    if floats is None:
        return worded("none")
    text = f"{floats.index} + {floats.margin} %"
    told = {name: FIGURES_NAMED[f"rate.{name}"].title for name in ("floor", "cap", "first")}
    for name, title in {**told, "shift": worded("shift")}.items():
        text += f", {title} {getattr(floats, name)} %" if getattr(floats, name).strip() else ""
    text += worded(", set anew") if floats.then else ""
    lines = len(floats.fixings.splitlines())
    ahead = len(floats.ahead.splitlines())
    return text + worded(", {lines} fixings, {ahead} ahead", lines=lines, ahead=ahead)


def _cover(statement: Statement) -> str:
    cover = statement.cover
    if cover is None:
        return worded("none")
    noun = frequencies.period(cover.every).noun
    grows = f" +{cover.growth} %" if cover.growth.strip() else ""
    return f"{cover.cash_flow} / {noun}{grows}, {cover.ratio}×"


def _worth(statement: Statement) -> str:
    value = statement.value
    return worded("none") if value is None else f"{value.amount}, {value.highest} %"


def _clauses(statement: Statement) -> str:
    return "; ".join(_clause(clause) for clause in statement.clauses) or "none"


def _aim(statement: Statement) -> str:
    aim = statement.aim
    return (
        "none"
        if aim is None
        else worded("{figure} {value} by {by}", figure=aim.figure, value=aim.is_, by=aim.by)
    )


def _clause(clause: TypedClause) -> str:
    where = worded("from {begin}", begin=clause.begin) + (
        worded(" to {to}", to=clause.to) if clause.to else ""
    )
    if not clause.is_stretch:
        where = worded("at {at}", at=clause.at)
    figure = clause.pay if clause.verb == "pay" else clause.figure
    percent = " %" if clause.in_percent or clause.verb == "rate" else ""
    level = worded(", set anew") if clause.then else ""
    beside = _beside(clause) if clause.verb == "charge" else ""
    return f"{where} {clause.verb} {figure}{percent}{level}{beside}"


def _beside(clause: TypedClause) -> str:
    """What a charge is of, what it is for, and whether the yearly costs count it."""
    of = f" {CHARGED_OF[clause.of].in_sentence}" if clause.in_percent else ""
    name = worded(" for {name}", name=clause.name) if clause.name else ""
    return of + name + ("" if clause.in_costs else f", {IN_COSTS['no'].label}")


def _business_days(statement: Statement) -> str:
    """Business days, told as one."""
    days = statement.business_days
    if days is None:
        return worded("none")
    interest = ADJUSTED["yes" if days.adjusted else "no"].in_sentence
    return f"{days.calendars}, {ROLLS[days.roll].in_sentence}, {interest}"


#: What is chosen or told as one, in words.
_WORDS: Final[dict[str, tuple[Choice, Callable[[Statement], str]]]] = {
    "name": (Choice("name"), lambda statement: f"“{statement.name}”"),
    "we": (Choice("part we take"), lambda statement: WE[statement.we].within),
    "currency": (Choice("currency"), lambda statement: statement.currency),
    "quote": (Choice("quoted"), _quote),
    "every": (Choice("paid"), lambda statement: frequencies.period(statement.every).often),
    "repaid": (Choice("repaid"), _repaid),
    "timing": (Choice("paid"), lambda statement: TIMED[statement.timing]),
    "rounding": (Choice("rounding"), lambda statement: _rounding(statement.rounding)),
    "start": (Choice("lent on"), lambda statement: _dated(statement, "start")),
    "first_payment": (
        Choice("first payment on"),
        lambda statement: _dated(statement, "first_payment"),
    ),
    "day_count": (Choice("days counted"), lambda statement: statement.day_count),
    "odd_days": (Choice("odd days bear"), lambda statement: ODD_DAYS[statement.odd_days].label),
    "business_days": (Choice("business days"), _business_days),
    "floating": (Choice("floating rate"), _floating),
    "cover": (Choice("cash flow and cover"), _cover),
    "value": (Choice("value"), _worth),
    "clauses": (Choice("clauses"), _clauses),
    "aim": (Choice("aim"), _aim),
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


class Differing(NamedTuple):
    """What two statements say otherwise: its name, what it is called, what each says, and the
    fields that say so."""

    name: str
    title: str
    one: str
    other: str
    fields: tuple[str, ...]


#: The fields that say one thing together, where it is more than one of its name.
_FIELDS: Final = {
    "principal": ("principal", "is_purchase"),
    "price": ("price", "is_purchase"),
    "down": ("down", "down_in_percent", "is_purchase"),
    "repaid": ("repaid", "percents"),
    "quote": ("quoted", "compounding", "over", "year_days"),
}


def differing(one: Statement, other: Statement, marks_name: MarksName) -> list[Differing]:
    """Each thing that two statements say otherwise, in the marks of the reader."""
    different = changed_figures(one, other)
    was, now, marks = readings(one), readings(other), MARKS[marks_name]
    told = [
        (
            name,
            FIGURES_NAMED[path].title,
            _shown(name, one, was, marks),
            _shown(name, other, now, marks),
        )
        for name, path in _NAMES.items()
        if name in different
    ]
    told += [
        (name, title.label, words(one), words(other))
        for name, (title, words) in _WORDS.items()
        if name in different
    ]
    return [
        Differing(name, title, first, second, _FIELDS.get(name, (name,)))
        for name, title, first, second in told
    ]


def _shown(name: str, statement: Statement, read: dict[str, Reading], marks: Marks) -> str:
    """What stands in an entry, as it is told to people."""
    if name not in read:
        return "none"
    value = read[name].value
    if value is None:
        return f"“{getattr(statement, name)}”"
    if value == UNKNOWN:
        return UNKNOWN
    if name == "percent" or (name == "down" and statement.down_in_percent):
        return marks.percent(Decimal(value), 10)
    return marks.number(Decimal(value), 10, 0 if name in ("count", "amortized_over") else 2)


def changes(before: Statement, after: Statement, marks_name: MarksName) -> list[str]:
    """A phrase for each thing that changed, in the marks of the reader."""
    told = differing(before, after, marks_name)
    same_quote = "" if any(each.name == "quote" for each in told) else f", {_quote(after)}"
    return [
        worded("{title} {one} to {other}", title=each.title, one=each.one, other=each.other)
        + (same_quote if each.name == "percent" else "")
        for each in told
    ]


def stated_in_words(statement: Statement, marks_name: MarksName) -> str:
    """What stands in a statement that is not whole: "amount lent 48,250.00; payment ?"."""
    read, marks = readings(statement), MARKS[marks_name]
    return "; ".join(
        f"{FIGURES_NAMED[path].title} {_shown(name, statement, read, marks)}"
        for name, path in _NAMES.items()
        if getattr(statement, name).strip() and name in read
    )
