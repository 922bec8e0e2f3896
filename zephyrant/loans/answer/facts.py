"""What is told of an answer beside the figure found, one fact after the other: on the screen and in
files."""

from collections.abc import Iterator
from datetime import date
from decimal import Decimal
from typing import Literal, NamedTuple

from zephyrant.texts import worded

from ..document.fields import FIGURES, FigureName
from ..document.figure_path import figure_path
from ..document.floating import floating
from ..document.loan import Loan
from ..document.named import RESULTS_NAMED
from ..document.telling import headline, told
from ..numbers.decimals import plain
from ..wording.marks import Marks
from .answer import Answer
from .bounded import lowest_cover
from .results import as_paid

#: What a fact is about.
About = Literal["paid", "bounds", "cost", "rates", "yearly_cost"]


class Fact(NamedTuple):
    """A result: what it is about, its name, what it is called, and what it is in the reader's
    marks."""

    about: About
    name: str
    title: str
    text: str


def facts_of(loan: Loan, answer: Answer, marks: Marks) -> list[Fact]:
    """The results an answer has; fees and what they do where there are any."""
    titles = _titles(loan, answer)
    return [
        Fact(
            about,
            name,
            titles.get(name, RESULTS_NAMED[name].alone),
            result_text(name, value, marks),
        )
        for about, name, value in _values(loan, answer)
        if value is not None
    ]


def results_of(loan: Loan, answer: Answer) -> dict[str, str]:
    """The same by their names, as plain decimals; a day by its number in the count of days."""
    return {name: value for _, name, value in _values(loan, answer) if value is not None}


class Fitting(NamedTuple):
    """A figure, what it is called, and what it would have to be for the others, in the reader's
    marks; or the reason none fits."""

    name: FigureName
    title: str
    text: str | None
    reason: str | None


def what_would_fit(answer: Answer, marks: Marks) -> list[Fitting]:
    """What each of the five would have to be, where all of them are stated."""
    fitting = []
    for name in FIGURES if answer.would_fit else ():
        found, path = (answer.would_fit or {})[name], figure_path(name)
        text = None if found["value"] is None else headline(path.kind, found["value"], marks)
        if text and path.is_percent:
            text = f"{text} % {answer.quote}"
        fitting.append(Fitting(name, path.named.alone, text, found["reason"]))
    return fitting


def _values(loan: Loan, answer: Answer) -> Iterator[tuple[About, str, str | None]]:
    yield from _paid(loan, answer)
    yield from _bounds(answer)
    costs = answer.costs
    has_fees = answer.totals is not None and bool(Decimal(answer.totals["fees"]))
    if answer.final_date:
        yield "paid", "end_date", str(date.fromisoformat(answer.final_date).toordinal())
    if costs and (has_fees or (answer.laid and answer.laid.moves("advance"))):
        yield "cost", "net_proceeds", costs["net_proceeds"]
        yield "cost", "total_cost", costs["total_cost"]
        yield "cost", "per_thousand", costs["per_thousand"]
        yield "cost", "yield_nominal", costs["yield_nominal"]
        yield "cost", "yield_effective", costs["yield_effective"]
    if answer.rates:
        for name, percent in answer.rates.items():
            yield "rates", name, str(percent)
    if answer.yearly_cost:
        yield "yearly_cost", "us_apr", answer.yearly_cost["us_apr"]
        yield "yearly_cost", "eu_aprc", answer.yearly_cost["eu_aprc"]


def _paid(loan: Loan, answer: Answer) -> Iterator[tuple[About, str, str | None]]:
    """What the schedule adds up to."""
    totals = answer.totals
    if totals is None:
        return
    if loan.is_sized and (payment := as_paid(loan, "payment")) is not None:
        yield "paid", "payment", plain(payment, loan.decimals)
    # Where nothing is paid there is no last payment to tell.
    if totals["payments"]:
        yield "paid", "total_paid", totals["paid"]
    yield "paid", "total_interest", totals["interest"]
    if totals["payments"]:
        yield "paid", "final_payment", totals["final_payment"]
    if loan.amortized_over is not None:
        yield "paid", "balance_due", totals["balance_due"]
    if Decimal(totals["charges"]):
        yield "paid", "total_charges", totals["charges"]
    if Decimal(totals["fees"]):
        yield "paid", "total_fees", totals["fees"]


def _bounds(answer: Answer) -> Iterator[tuple[About, str, str | None]]:
    """What cover and value are, and by how much they would let more be lent."""
    yield "bounds", "lowest_cover", lowest_cover(answer.cover_ratios)
    yield "bounds", "loan_to_value", answer.loan_to_value
    for bound, more in (answer.slack or {}).items():
        if bound != answer.binding:
            yield "bounds", f"slack_{bound}", more


def _titles(loan: Loan, answer: Answer) -> dict[str, str]:
    """What facts are called, where that is not as usual."""
    titles = {}
    if loan.repayment not in ("level", "at-the-end"):
        titles["payment"] = worded("First payment")
    if floating(loan) is not None or any(clause.verb == "rate" for clause in loan.clauses):
        # Where clauses set other rates these hold first, if at all.
        from_the_start = any(clause.rate and clause.begin == 1 for clause in loan.clauses)
        which = worded("as stated") if from_the_start else worded("first")
        for name in ("periodic", "nominal", "effective"):
            alone = RESULTS_NAMED[name].alone
            titles[name] = f"{alone}, {which}"
    if loan.clauses:
        rows = answer.laid.schedule.rows if answer.laid else ()
        last = next((row for row in reversed(rows) if row.payment or row.repay), None)
        if last is not None:
            titles["final_payment"] = worded(
                "{alone}, number {number}",
                alone=RESULTS_NAMED["final_payment"].alone,
                number=last.number,
            )
    return titles


def result_text(name: str, value: str, marks: Marks) -> str:
    """A result as it is told."""
    # Money stands in an answer with the decimals it is told with.
    kind = RESULTS_NAMED[name].kind
    return marks.write(value) if kind == "money" else told(kind, Decimal(value), marks, 0)
