"""What is to be known of a loan’s cover and its value, in words."""

from ..document.loan import Loan
from ..ledger.covering import periods_of
from ..line.line import Line
from ..numbers.ratios import as_decimal
from ..unknowns.solution import Sizing
from ..unknowns.worked import Solved
from ..wording.marks import Money, Number, Percent, Sentence

#: Decimals of a cover in a sentence.
_PLACES = 4


def bounds_notes(loan: Loan, worked: Solved) -> list[Sentence]:
    """Which bound binds and by how much the other is slack; where none steers, which does not
    hold."""
    sizing, line = worked.found.sizing, worked.line
    if sizing is not None:
        return [_binds(loan, sizing)]
    if line is None or worked.schedule is None:
        return []
    return [*_not_covered(line, worked), *_above_value(loan, line)]


def _binds(loan: Loan, sizing: Sizing) -> Sentence:
    alone = {bound: Money(more, loan.decimals) for bound, more in sizing.slack.items()}
    if sizing.binding == "cover":
        if "value" not in alone:
            return Sentence("The cover binds: no more can be lent and still be covered.")
        return Sentence(
            "The cover binds: the value alone would let {more} more be lent.", more=alone["value"]
        )
    if "cover" not in alone:
        return Sentence("The value binds: no more may be lent on it.")
    return Sentence(
        "The value binds: the cover alone would let {more} more be lent.", more=alone["cover"]
    )


def _not_covered(line: Line, worked: Solved) -> list[Sentence]:
    """The periods in which the cash flow is less often what is paid than it is to be."""
    cover, schedule = line.terms.cover, worked.schedule
    if cover is None or cover.ratio is None or schedule is None or line.terms.follows_cash_flow:
        return []
    periods = periods_of(line, schedule)
    short = [each for each in periods if each.excess(cover.ratio) > 0]
    lowest = min(short, key=lambda each: each.ratio or 0, default=None)
    if lowest is None or lowest.ratio is None:
        return []
    return [
        Sentence(
            "The cover is not held in {count} of {all} periods: least in period {period}, {ratio} "
            "where {asked} is asked for.",
            count=Number(len(short)),
            all=Number(len(periods)),
            period=Number(lowest.number),
            ratio=Number(as_decimal(lowest.ratio), _PLACES, 2),
            asked=Number(as_decimal(cover.ratio), _PLACES, 2),
        )
    ]


def _above_value(loan: Loan, line: Line) -> list[Sentence]:
    """That more is lent than may be on the value."""
    value = loan.value
    if value is None or line.terms.principal <= value.most:
        return []
    return [
        Sentence(
            "More is lent than may be on the value: {percent} of it, where {highest} is the most.",
            percent=Percent(as_decimal(value.percent_of(line.terms.principal)), 2, 2),
            highest=Percent(value.highest, 2, 0),
        )
    ]
