"""A statement's answer told in the marks of whoever typed it: every text a page shows of it, and
what is typed where something that was found is taken in."""

from decimal import Decimal
from typing import Final

from pydantic import BaseModel, ConfigDict

from zephyrant.texts import worded

from ..answer.aim import AimResult
from ..answer.answer import Answer, ScheduleYear
from ..answer.facts import About, facts_of, what_would_fit
from ..answer.schedule import whole_told
from ..answer.solving import with_the_answer
from ..document.calling import called, calling_of
from ..document.choices import PAY_SHORT, VERBS_NAMED, WE, Speaker
from ..document.fields import UNKNOWN
from ..document.figure_path import PAYMENT, FigurePath, figure_path
from ..document.loan import Loan
from ..document.named import Named, result_named
from ..document.sentence import terms_in_words
from ..document.telling import before_rounding, headline
from ..line.compiling import stated_terms
from ..line.places import Places
from ..numbers.decimals import PERCENT_PLACES
from ..wording.marks import MARKS, Marks
from ..wording.units import with_unit
from .entries import figures_of, typed_at
from .restating import as_typed
from .statement import Statement, TypedClause

_UNITS: Final = {"percent": "%", "count": "payments"}


class FactTold(BaseModel):
    """A result: what it is about, its name, what it is called, and what it is."""

    model_config = ConfigDict(frozen=True, defer_build=True)

    about: About
    name: str
    title: str
    text: str


class WouldFit(BaseModel):
    """What a figure would have to be for the others, or the reason why none fits; `entry`: where it
    is typed, None where it is worked from others."""

    model_config = ConfigDict(frozen=True, defer_build=True)

    entry: str | None
    title: str
    text: str | None
    reason: str | None


class Taken(BaseModel):
    """A figure that can be taken into the loan: as it is shown, and as it is typed."""

    model_config = ConfigDict(frozen=True, defer_build=True)

    text: str
    typed: str


class AimTold(BaseModel):
    """What came of an aim: the figure that moves and where it is typed, what it comes to, and what
    can be taken of it."""

    model_config = ConfigDict(frozen=True, defer_build=True)

    entry: str
    title: str
    figure: str
    target: str
    value: str | None
    unit: str
    exact: str | None
    solutions: tuple[str, ...]
    take: Taken | None


class ClausePlaced(BaseModel):
    """A clause on the line: what it does in a word or two, and the payments it holds for; those are
    None where it holds for none."""

    model_config = ConfigDict(frozen=True, defer_build=True)

    text: str
    first: int | None
    last: int | None


class LeftOver(BaseModel):
    """What is left at the end: the amount, what it is, and both where there is little room."""

    model_config = ConfigDict(frozen=True, defer_build=True)

    text: str
    title: str
    short: str


class Told(BaseModel):
    """An answer in the marks of whoever reads it. `value`: the figure found, `typed`: the same as
    one would type it, `typed_with`: by entry what is then typed besides, where that follows from
    cover and value; `exact`: unrounded; `gap`: what is left over where every figure is stated.
    `whole`: the schedule added up; `called`: what the loan is called without a name; `said`: the
    answer as a sentence, with the loan as it is with it."""

    model_config = ConfigDict(frozen=True, defer_build=True)

    value: str | None
    typed: str | None
    typed_with: dict[str, str]
    exact: str | None
    gap: str | None
    solutions: tuple[str, ...]
    facts: tuple[FactTold, ...]
    would_fit: tuple[WouldFit, ...]
    aim: AimTold | None
    columns: tuple[str, ...]
    whole: ScheduleYear | None
    called: str
    said: str
    left: LeftOver | None
    clauses: tuple[ClausePlaced, ...]


def tell(statement: Statement, loan: Loan, answer: Answer) -> Told:
    """The answer to a statement, in its marks."""
    marks = MARKS[statement.marks]
    path = None if answer.unknown is None else figure_path(answer.unknown)

    def shown(text: str) -> str:
        return headline(path.kind if path else "money", text, marks)

    found = path is not None and answer.value is not None
    return Told(
        value=shown(answer.value) if answer.value else None,
        typed=_typed(path, answer.value, loan, marks) if found else None,
        typed_with=_typed_with(loan, marks) if found else {},
        exact=before_rounding(answer.exact, marks) if answer.exact else None,
        gap=before_rounding(answer.gap, marks) if answer.gap else None,
        solutions=tuple(map(shown, answer.solutions)),
        facts=tuple(FactTold(**fact._asdict()) for fact in facts_of(loan, answer, marks)),
        would_fit=_would_fit(statement, answer, marks),
        aim=_aim(statement, loan, answer.aim, marks) if answer.aim else None,
        columns=answer.laid.titles if answer.laid else (),
        whole=whole_told(answer.laid) if answer.laid else None,
        called=called(calling_of(loan), marks),
        said=_said(loan, answer, shown(answer.value) if answer.value else None, marks),
        left=left_over(answer, WE[loan.we], marks),
        clauses=_placed(statement, loan, answer),
    )


def _said(loan: Loan, answer: Answer, value: str | None, marks: Marks) -> str:
    """The answer as a sentence to be quoted, then the loan."""
    if answer.reason or (answer.unknown is not None and value is None):
        return f"{answer.reason or worded('Several rates fit.')} {terms_in_words(loan, marks)}"
    whole = terms_in_words(with_the_answer(loan), marks)
    return whole if value is None else f"{answer.asks} {with_unit(value, answer.unit)}. {whole}"


def _typed(path: FigurePath | None, value: str | None, loan: Loan, marks: Marks) -> str | None:
    return as_typed(path, Decimal(value), marks, loan.decimals) if path and value else None


def _typed_with(loan: Loan, marks: Marks) -> dict[str, str]:
    """What else is typed where what can be lent is taken into the loan: the payment, or the cover
    that payments have which follow the cash flow."""
    if not loan.is_sized:
        return {}
    whole = with_the_answer(loan)
    if whole.states_payment:
        return {"payment": as_typed(PAYMENT, Decimal(whole.payment), marks, loan.decimals)}
    ratio = whole.cover.ratio if whole.cover else UNKNOWN
    if ratio == UNKNOWN:
        return {}
    return {"cover.ratio": marks.number(Decimal(ratio), PERCENT_PLACES, 2)}


def _would_fit(statement: Statement, answer: Answer, marks: Marks) -> tuple[WouldFit, ...]:
    typed = {figure.entry for figure in figures_of(statement)}
    told = []
    for fitting in what_would_fit(answer, marks):
        entry = typed_at(fitting.name)
        if fitting.name == "principal" and "price" in typed:
            # What is lent follows from the price: that is what can be found.
            entry = "price"
        told.append(
            WouldFit(
                entry=entry if entry in typed else None,
                title=fitting.title,
                text=fitting.text,
                reason=fitting.reason,
            )
        )
    return tuple(told)


def _aim(statement: Statement, loan: Loan, aim: AimResult, marks: Marks) -> AimTold:
    path = figure_path(aim["by"])
    kind, named = path.kind, result_named(aim["figure"])
    taken = aim["value"] if aim["value"] is not None else aim["nearest"]

    def shown(text: str) -> str:
        return headline(kind, text, marks)

    return AimTold(
        entry=typed_at(aim["by"]),
        title=path.named.title,
        figure=named.alone,
        target=_target(named, statement.aim.is_ if statement.aim else ""),
        value=shown(aim["value"]) if aim["value"] is not None else None,
        unit=_UNITS.get(kind, loan.currency),
        exact=before_rounding(aim["exact"], marks) if aim["exact"] else None,
        solutions=tuple(headline("percent", each, marks) for each in aim["solutions"]),
        take=None
        if taken is None
        else Taken(
            text=shown(taken),
            typed=as_typed(path, Decimal(taken), marks, loan.decimals),
        ),
    )


def _target(named: Named, typed: str) -> str:
    return f"{typed} %" if named.kind == "percent" else typed


def left_over(answer: Answer, words: Speaker, marks: Marks) -> LeftOver | None:
    """What the last row of a schedule leaves."""
    if answer.laid is None:
        return None
    schedule = answer.laid.schedule
    left = schedule.rows[-1].closing
    if not left:
        return None
    text = marks.write(schedule.unit.write(abs(left)))
    if left < 0:
        return LeftOver(
            text=marks.write(schedule.unit.write(left)),
            title=worded("Overpaid, to be given back"),
            short=f"{text} overpaid",
        )
    return LeftOver(text=text, title=words.balloon, short=worded("{amount} left", amount=text))


def _placed(statement: Statement, loan: Loan, answer: Answer) -> tuple[ClausePlaced, ...]:
    """Where each clause stands among the payments of the schedule."""
    if not loan.clauses or answer.laid is None:
        return ()
    terms, last = stated_terms(loan), answer.laid.schedule.rows[-1].number
    places = Places(terms)
    told = []
    for clause, provision in zip(statement.clauses, terms.provisions, strict=False):
        begins, ends = places.payments(provision)
        if provision.at is not None and begins > ends:
            # On a day between two payments: it stands at the one that comes next.
            begins = ends = places.begins(provision)
        holds = begins <= min(ends, last)
        told.append(
            ClausePlaced(
                text=_short(clause),
                first=begins if holds else None,
                last=min(ends, last) if holds else None,
            )
        )
    return tuple(told)


def _short(clause: TypedClause) -> str:
    """What a clause does, where there is little room."""
    verb = VERBS_NAMED[clause.verb]
    text = f"{verb.short} {clause.figure}" if verb.short else PAY_SHORT[clause.pay]
    return worded("{text}, some months", text=text) if clause.months else text
