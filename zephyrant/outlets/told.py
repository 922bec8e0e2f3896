"""An answer told in parts, in the reader's marks: what text, Markdown, the PDF and a notebook show
of it."""

from collections.abc import Iterator, Sequence
from datetime import date
from typing import Any, Final, NamedTuple

from zephyrant.loans import (
    COLUMNS_NAMED,
    Answer,
    Loan,
    Marks,
    aimed,
    choices,
    facts_of,
    figure_path,
    grown,
    headline,
    is_first,
    name_of,
    terms_in_words,
    what_would_fit,
    write_day,
)
from zephyrant.texts import worded


class Rows(NamedTuple):
    """A table of texts: what stands over its columns, and its rows."""

    heads: tuple[str, ...]
    rows: Sequence[tuple[str, ...]]


class Told(NamedTuple):
    """An answer in parts. `label`, `figure`: what was found with its unit, in the order in which
    they are read, each with whether it is the figure; none of a check, nor where there is a
    `reason` instead. `lines`: what is said of it, one after the other."""

    loan: Loan
    name: str
    sentence: str
    aim: str | None
    label: str
    figure: tuple[tuple[str, bool], ...]
    reason: str | None
    lines: tuple[str, ...]
    facts: Rows
    fees: Rows | None
    rates: Rows | None
    fitting: Rows | None
    proof: str | None


def _figure(value: str, unit: str) -> tuple[tuple[str, bool], ...]:
    parts = ((value, True), (unit, False)) if unit else ((value, True),)
    return parts[::-1] if is_first(unit) else parts


def tell(loan: Loan, answer: Answer, marks: Marks) -> Told:
    """What an answer says; of one with an aim that is reached, of the loan that reaches it."""
    has_aim = bool(answer.aim and answer.aim["value"])
    worked = aimed(loan) if has_aim else loan
    found = answer.value is not None
    kind = figure_path(answer.unknown).kind if answer.unknown else "money"
    return Told(
        loan=worked,
        name=name_of(loan, marks),
        sentence=terms_in_words(worked, marks),
        aim=answer.aim["says"] if answer.aim and has_aim else None,
        label=worded("{asks} (found)", asks=answer.asks) if found else "",
        figure=_figure(headline(kind, answer.value, marks), answer.unit) if answer.value else (),
        reason=answer.reason,
        lines=tuple(_lines(answer, marks)),
        facts=Rows(
            (worded("Result"), worded("Value")),
            [(fact.title, fact.text) for fact in facts_of(worked, answer, marks)],
        ),
        fees=_fees(answer, marks) if answer.fees else None,
        rates=_rates(answer, marks),
        fitting=_fitting(answer, marks) if answer.would_fit else None,
        proof=answer.proof["says"] if answer.proof else None,
    )


def _lines(answer: Answer, marks: Marks) -> Iterator[str]:
    if answer.reason:
        return
    if answer.exact:
        yield worded("before rounding {exact}", exact=marks.write(answer.exact))
    if answer.paid_as:
        yield answer.paid_as
    yield from answer.notes
    if answer.clock:
        yield answer.clock


def _fees(answer: Answer, marks: Marks) -> Rows:
    """Every fee, whichever way it is taken."""
    rows = []
    for fee in answer.fees:
        at = (
            worded("at payment {number}", number=fee["number"])
            if fee["number"]
            else worded("at the start")
        )
        if fee["date"]:
            at += f", {write_day(date.fromisoformat(fee['date']))}"
        rows.append((at, choices.TAKEN[fee["taken"]].label, marks.write(fee["amount"])))
    return Rows((worded("Taken"), worded("How"), worded("Amount")), rows)


#: Rates of a loan that floats up to which each is told where it begins.
_MOST_RATES: Final = 60


def _rates(answer: Answer, marks: Marks) -> Rows | None:
    """The rates of a loan that floats, where each begins; nothing of a fixed one."""
    used = answer.rates_used or []
    turns = [each for at, each in enumerate(used) if not at or each[1] != used[at - 1][1]]
    if not 0 < len(turns) <= _MOST_RATES:
        return None
    return Rows(
        (worded("From payment"), worded("Rate, %")),
        [(marks.write(str(period)), marks.write(percent)) for period, percent in turns],
    )


def _fitting(answer: Answer, marks: Marks) -> Rows:
    """Where every figure is stated, what each would have to be for the others."""
    fitting = what_would_fit(answer, marks)
    return Rows(
        (worded("With the others would fit"), worded("Value")),
        [(each.title, each.text or each.reason or "") for each in fitting],
    )


def _money(answer: Answer) -> list[str]:
    """The columns of money there is something to say in, but for the carrying amounts."""
    columns = answer.laid.titles if answer.laid else ()
    return [name for name in columns if name not in ("number", "date", "scheduled", "carrying")]


def _heads(names: list[str]) -> tuple[str, ...]:
    return tuple(COLUMNS_NAMED[name].title.capitalize() for name in names)


def years_of(answer: Answer, marks: Marks) -> Rows:
    """What each year of a schedule adds up to."""
    names = _money(answer)
    rows = []
    for year in answer.by_year:
        told: dict[str, Any] = dict(year)
        label = f"{year['label']} ({year['first']}–{year['last']})"
        rows.append((label, *(marks.write(told[name]) for name in names)))
    return Rows((worded("Year"), *_heads(names)), rows)


def schedule_of(answer: Answer, marks: Marks, share: float = 1) -> Rows:
    """Every row of a schedule; tells as it grows up to a `share` of the whole."""
    names = _money(answer)
    titles = answer.laid.titles if answer.laid else ()
    days = [name for name in ("date", "scheduled") if name in titles]
    rows = []
    for place, row in enumerate(answer.schedule):
        grown(share * place, len(answer.schedule))
        told: dict[str, Any] = dict(row)
        due = [write_day(date.fromisoformat(told[name])) if told.get(name) else "" for name in days]
        rows.append((str(row["number"]), *due, *(marks.write(told[name]) for name in names)))
    return Rows((worded("No."), *_heads([*days, *names])), rows)
