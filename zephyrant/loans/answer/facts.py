"""What is told of an answer beside the figure found, one fact after the other: as files tell it."""

from datetime import date
from decimal import Decimal
from typing import NamedTuple

from ..document.named import RESULTS_NAMED, Named
from ..document.telling import told
from ..wording.marks import Marks
from .answer import Answer


class Fact(NamedTuple):
    """A result, and what it is, in the reader's marks."""

    named: Named
    text: str


def facts_of(answer: Answer, marks: Marks) -> list[Fact]:
    """The results an answer has; fees and what they do where there are any."""
    values: dict[str, str | None] = {}
    if answer.totals:
        values["total_paid"] = answer.totals["paid"]
        values["total_interest"] = answer.totals["interest"]
        values["final_payment"] = answer.totals["final_payment"]
    if answer.totals and answer.costs and Decimal(answer.totals["fees"]):
        values["total_fees"] = answer.totals["fees"]
        values["net_proceeds"] = answer.costs["net_proceeds"]
        values["total_cost"] = answer.costs["total_cost"]
    if answer.final_date:
        values["end_date"] = str(date.fromisoformat(answer.final_date).toordinal())
    percents = {**(answer.rates or {}), **(answer.yearly_cost or {})}
    values |= {name: None if text is None else str(text) for name, text in percents.items()}
    return [
        Fact(named, _text(named, value, marks))
        for name, value in values.items()
        if value is not None and (named := RESULTS_NAMED[name])
    ]


def _text(named: Named, value: str, marks: Marks) -> str:
    # Money stands in an answer with the decimals it is told with.
    return (
        marks.write(value) if named.kind == "money" else told(named.kind, Decimal(value), marks, 0)
    )
