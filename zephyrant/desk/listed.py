"""What the list tells of a case: by what it is called, its figures, what was asked and found."""

from decimal import Decimal
from typing import Any, Final

from django.contrib.auth.models import User
from ninja import Schema
from typing_extensions import TypedDict

from zephyrant.loans import (
    MARKS,
    PLAIN,
    AnswerHead,
    Marks,
    called,
    figure_path,
    frequencies,
    headline,
    told,
)
from zephyrant.loans.questions import LoanListed
from zephyrant.loans.statement import Kept
from zephyrant.texts import ENGLISH, read_as, worded

from .models import Case
from .preferences import marks_of

#: Decimals of a percent in a column.
_PLACES: Final = 4
#: What a case without a name and without a whole loan is called.
UNNAMED: Final = "Unnamed case"


class FoundListed(TypedDict):
    """What the list of cases tells of an answer.

    `quote`: how its rate is quoted, in words. `fits`: where nothing is unknown, whether the figures
    do.
    """

    unknown: str | None
    value: str | None
    quote: str | None
    fits: bool | None
    reason: str | None


class FoundTold(Schema):
    """What the list of cases tells of an answer, in the reader's marks: what was asked for, what
    was found and in which currency, and what else is to be said of it."""

    asked: str
    value: str | None
    unit: str = ""
    says: str = ""


class FiguresTold(Schema):
    """The figures of a loan in the reader's marks; empty where it has none, or it was not found."""

    amount: str = ""
    payment: str = ""
    rate: str = ""
    quote: str = ""
    effective: str = ""
    term: str = ""


def found_listed(answer: AnswerHead | None) -> FoundListed | None:
    """What is kept of an answer for the list."""
    if answer is None:
        return None
    return {
        "unknown": answer.unknown,
        "value": answer.value,
        "quote": answer.quote,
        "fits": answer.fits,
        "reason": answer.reason,
    }


def called_so(case: Case, marks: Marks) -> str:
    """What a case is called: its name, else its terms."""
    return case.name or (called(case.calling, marks) if case.calling else worded(UNNAMED))


def called_by(case: Case, user: User) -> str:
    """What a case is called, in the marks `user` reads."""
    return called_so(case, MARKS[marks_of(user)])


def currency_of(case: Case) -> str:
    """The currency of a case."""
    return str(case.statement.get("currency", "EUR"))


def found_told(case: Case, marks: Marks) -> FoundTold | None:
    """What was found in a case when it was last saved; None where it was not whole."""
    if case.found is None:
        return None
    found: FoundListed = case.found
    unknown, value = found["unknown"], found["value"]
    asked = _asked(found)
    if unknown is None:
        fits = worded("the figures fit" if found["fits"] else "the figures do not fit")
        return FoundTold(asked=asked, value=fits)
    path = figure_path(unknown)
    if value is None:
        says = (
            worded("no answer: {reason}", reason=found["reason"])
            if found["reason"]
            else worded("several rates fit")
        )
        return FoundTold(asked=asked, value=None, says=says)
    figure = headline(path.kind, value, marks)
    match path.kind:
        case "percent":
            quote = (case.listed or found)["quote"] or ""
            says = quote if path == figure_path("rate") else ""
            return FoundTold(asked=asked, value=f"{figure} %", says=says)
        case "count":
            return FoundTold(asked=asked, value=frequencies.number_of(figure, "payment"))
    return FoundTold(asked=asked, value=figure, unit=currency_of(case))


def _asked(found: FoundListed) -> str:
    unknown = found["unknown"]
    return worded("every figure stated") if unknown is None else figure_path(unknown).named.title


def figures_told(case: Case, marks: Marks) -> FiguresTold:
    """The figures of a case when it was last saved."""
    listed: LoanListed | None = case.listed
    if listed is None:
        return FiguresTold()

    def percent(name: str) -> str:
        text = listed[name]  # type: ignore[literal-required]
        return f"{marks.number(Decimal(text), _PLACES)} %" if text else ""

    def money(name: str) -> str:
        text = listed[name]  # type: ignore[literal-required]
        return told("money", Decimal(text), marks, listed["decimals"]) if text else ""

    return FiguresTold(
        amount=money("amount"),
        payment=money("payment"),
        rate=percent("rate"),
        quote=listed["quote"],
        effective=percent("effective"),
        term=_term(listed, marks),
    )


def _term(listed: LoanListed, marks: Marks) -> str:
    count, years = listed["count"], listed["years"]
    every: Any = listed["every"]
    if count is not None:
        return frequencies.term(int(count), every)
    return worded("{count} years", count=marks.number(Decimal(years), 1)) if years else ""


def fill(case: Case, kept: Kept) -> None:
    """Puts into a case what the list tells of it, and is sorted by."""
    case.found = found_listed(kept.worked.answer)
    # Where the statement is not a whole document yet, the last whole one names it.
    if kept.calling is not None:
        case.calling = dict(kept.calling)
    fill_figures(case, kept.listed)


def fill_figures(case: Case, figures: LoanListed | None) -> None:
    """The figures of a case, and with what was found what the list is sorted by."""
    case.listed = None if figures is None else dict(figures)
    for name in ("amount", "payment", "rate", "effective", "years"):
        text = (case.listed or {}).get(name)
        setattr(case, name, None if text is None else float(text))
    found: FoundListed | None = case.found
    with read_as(ENGLISH):
        # It is what cases are sorted by.
        case.asked = "" if found is None else _asked(found)
    case.answer = float(found["value"]) if found and found["value"] else None


#: The columns of a table of cases for other programs, and where each figure of it is from.
PLAIN_COLUMNS: Final = (
    "name",
    "currency",
    "amount",
    "payment",
    "rate",
    "quote",
    "effective",
    "count",
    "every",
    "years",
    "asked",
    "answer",
    "tags",
    "started",
    "changed",
)


#: Those of them that hold plain numbers.
PLAIN_NUMBERS: Final = frozenset(
    ("amount", "payment", "rate", "effective", "count", "years", "answer")
)


def told_plainly(case: Case) -> list[str]:
    """What the list tells of a case, as plain decimals and ISO days, a cell for each column."""
    listed: dict[str, Any] = case.listed or {}
    cells = {
        **listed,
        "name": called_so(case, PLAIN),
        "currency": currency_of(case),
        "asked": case.asked,
        "answer": (case.found or {}).get("value"),
        "tags": " ".join(f"#{tag}" for tag in case.tags),
        "started": f"{case.created_at:%Y-%m-%d}",
        "changed": f"{case.changed_at:%Y-%m-%d}",
    }
    return [str(cells.get(name) or "") for name in PLAIN_COLUMNS]
