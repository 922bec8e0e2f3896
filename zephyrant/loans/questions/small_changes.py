"""What a little more of each figure does to the one that is asked for."""

from decimal import Decimal
from typing import Final

from typing_extensions import TypedDict

from ..document.figure_path import figure_path
from ..document.loan import Loan
from ..document.paths import figure_at, with_figure
from ..errors import NotALoan
from ..numbers.decimals import plain
from ..unknowns.worked import answered


class SmallChange(TypedDict):
    """A small change of one figure and what it does to the figure asked for."""

    path: str
    by: str
    value: str
    change: str


#: Small changes that analysts quote.
_NUDGES: Final = (
    ("principal", Decimal(1000)),
    ("rate.percent", Decimal("0.125")),
    ("count", Decimal(1)),
    ("payment", Decimal(1)),
    ("balance", Decimal(1000)),
)


def small_changes(loan: Loan) -> list[SmallChange]:
    """What a little more of each figure does to the one that is asked for."""
    here = _asked(loan)
    told: list[SmallChange] = []
    for path, by in _NUDGES:
        if path not in loan.paths() or here is None:
            continue
        stated = figure_at(loan, figure_path(path))
        if stated is None:
            continue
        try:
            there = _asked(with_figure(loan, figure_path(path), plain(stated + by)))
        except NotALoan:
            continue
        if there is not None:
            change = Decimal(there) - Decimal(here)
            told.append({"path": path, "by": plain(by), "value": there, "change": f"{change:f}"})
    return told


def _asked(loan: Loan) -> str | None:
    return answered(loan)[1]
