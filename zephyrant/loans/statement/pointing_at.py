"""The figures of a case that can be pointed at, and what they come to: whoever judges it says of
which one they speak."""

from decimal import Decimal
from typing import NamedTuple

from ..answer.facts import results_of
from ..answer.solving import solve
from ..document.fields import UNKNOWN
from ..document.figure_path import figure_path
from ..document.named import FIGURES_NAMED, RESULTS_NAMED, Named
from ..document.telling import told
from ..errors import NotALoan
from ..numbers.currencies import currencies
from ..wording.marks import Marks
from .entries import figures_of
from .reading import readings
from .statement import Statement
from .working import loan_of


class Pointed(NamedTuple):
    """A figure by its path in the document, or a result by its name; what it is called, and what it
    comes to in the reader's marks (None where that is not known)."""

    name: str
    title: str
    text: str | None


def figures_stated(statement: Statement) -> dict[str, str | None]:
    """What is stated for each figure of a statement, as plain decimals; None of the one asked for
    and of those that cannot be read."""
    read = readings(statement)
    stated = {str(path): read[entry].value for entry, path, _, _ in figures_of(statement)}
    return {name: None if value == UNKNOWN else value for name, value in stated.items()}


def figures_standing(statement: Statement) -> dict[str, str | None]:
    """What each figure of a statement comes to, stated or found, then each result, as plain
    decimals (a day by its number in the count of days); None where that is not known.

    Raises `BudgetSpentError` as `solve` does.
    """
    standing = figures_stated(statement)
    try:
        loan = loan_of(statement)
    except NotALoan:
        return standing
    answer = solve(loan)
    if answer.unknown is not None:
        standing[str(figure_path(answer.unknown))] = answer.value
    if answer.aim is not None and answer.aim["value"] is not None:
        standing[str(figure_path(answer.aim["by"]))] = answer.aim["value"]
    for name, value in results_of(loan, answer).items():
        # What is stated and comes of it as well (a payment) is one figure.
        standing.setdefault(name, value)
    return standing


def pointed_at(name: str, value: str | None, currency: str, marks: Marks) -> Pointed:
    """A figure with what it came to, told to a reader."""
    named = _named(name)
    if value is None:
        return Pointed(name, named.alone, None)
    return Pointed(
        name, named.alone, told(named.kind, Decimal(value), marks, currencies()[currency].decimals)
    )


def _named(name: str) -> Named:
    is_of_document = name in FIGURES_NAMED or "." in name
    return figure_path(name).named if is_of_document else RESULTS_NAMED[name]
