"""Cover and loan to value, told: of the whole loan, of its periods, its rows and its years."""

from collections.abc import Sequence
from decimal import Decimal
from fractions import Fraction
from functools import cached_property
from typing import Final

from typing_extensions import TypedDict

from ..document.bounds import Bound
from ..document.loan import Loan
from ..ledger.covering import PeriodCovered, periods_covered, regularly_paid
from ..ledger.rows import Schedule
from ..line.line import Line
from ..numbers.decimals import PERCENT_PLACES, divide_nearest, plain
from ..unknowns.solution import Sizing

#: Decimals of a cover, and of a percent of the value, in the rows of a schedule.
_PLACES: Final = {"cover_ratio": 4, "loan_to_value": 2}


class BoundsTold(TypedDict):
    """`binding`: which bound holds what is lent, `slack`: by how much more each alone would lend,
    both where as much is lent as they allow. `cover_ratios`: of each period of the cover its number
    and how many times the cash flow is what is paid in it, nothing where nothing is.
    `loan_to_value`: what is lent in percent of the value."""

    binding: Bound | None
    slack: dict[Bound, str] | None
    cover_ratios: list[tuple[int, str | None]] | None
    loan_to_value: str | None


class Ratios:
    """Cover and loan to value of a schedule to the cent."""

    def __init__(self, loan: Loan, line: Line, schedule: Schedule) -> None:
        self._line, self._schedule, self.value = line, schedule, loan.value
        self.cover = line.terms.cover

    @cached_property
    def paid(self) -> list[Fraction]:
        """What is regularly paid in each row."""
        return regularly_paid(self._line, self._schedule)

    @cached_property
    def periods(self) -> list[PeriodCovered]:
        """The periods of the cover."""
        return [] if self.cover is None else periods_covered(self.cover.flow, self.paid)

    @cached_property
    def columns(self) -> dict[str, list[str]]:
        """What rows tell of them: the cover of the period each lies in, and what is owed after it
        in percent of the value."""
        told = {}
        if self.cover is not None:
            by_row: list[str] = []
            for each in self.periods:
                by_row += [_written("cover_ratio", each.ratio)] * (each.last - each.first + 1)
            told["cover_ratio"] = by_row + [""] * (len(self.paid) - len(by_row))
        if self.value is not None:
            closing, amount = self._schedule.columns.closing, self._schedule.unit.amount
            told["loan_to_value"] = [
                _written("loan_to_value", self.value.percent_of(amount(each))) for each in closing
            ]
        return told

    def of_rows(self, begins: int, ends: int) -> dict[str, str]:
        """What some rows together tell, from a place up to another."""
        told = {}
        if self.cover is not None:
            flow = self.cover.flow
            cash = sum((flow.share(place + 1) for place in range(begins, ends)), Fraction(0))
            paid = sum(self.paid[begins:ends], Fraction(0))
            is_known = flow.is_known(ends) and paid > 0
            told["cover_ratio"] = _written("cover_ratio", cash / paid if is_known else None)
        if self.value is not None:
            told["loan_to_value"] = self.columns["loan_to_value"][ends - 1]
        return told


def _written(name: str, ratio: Fraction | None) -> str:
    return "" if ratio is None else _decimal(ratio, _PLACES[name])


def _decimal(ratio: Fraction, places: int) -> str:
    """A ratio to so many decimals."""
    units = divide_nearest(ratio.numerator * 10**places, ratio.denominator)
    return f"{Decimal(units).scaleb(-places):f}"


def bounds_told(
    loan: Loan, line: Line | None, ratios: Ratios | None, sizing: Sizing | None
) -> BoundsTold:
    """The bounds of a loan, as its answer tells them; nothing of one that has none."""
    slack = sizing and {
        bound: plain(amount, loan.decimals) for bound, amount in sizing.slack.items()
    }
    ratio = None
    if loan.value is not None and line is not None:
        ratio = _decimal(loan.value.percent_of(line.terms.principal), PERCENT_PLACES)
    return {
        "binding": sizing.binding if sizing else None,
        "slack": slack or None,
        "cover_ratios": _cover_ratios(ratios.periods) if ratios and ratios.cover else None,
        "loan_to_value": ratio,
    }


def _cover_ratios(periods: Sequence[PeriodCovered]) -> list[tuple[int, str | None]]:
    return [
        (each.number, None if each.ratio is None else _decimal(each.ratio, PERCENT_PLACES))
        for each in periods
    ]


def lowest_cover(answer_ratios: Sequence[tuple[int, str | None]] | None) -> str | None:
    """The lowest cover of any period; None where none is told."""
    told = [ratio for _, ratio in answer_ratios or () if ratio is not None]
    return min(told, key=Decimal, default=None)


#: What is told of a loan without cover and value.
UNBOUNDED: Final[BoundsTold] = {
    "binding": None,
    "slack": None,
    "cover_ratios": None,
    "loan_to_value": None,
}
