"""The path of a figure: what stands there, and another value put there."""

from decimal import Decimal
from typing import Any

from .fields import UNKNOWN
from .loan import Loan
from .reading import check, write


def with_figure(loan: Loan, path: str, value: str) -> Loan:
    """The loan with another value in one place; raises `NotALoan` where it cannot stand there."""
    content = write(loan)
    content.pop("aim", None)
    *way, last = path.split(".")
    place: Any = content
    for step in way:
        place = place[int(step)] if isinstance(place, list) else place[step]
    place[last] = value
    return check(content)


def figure_at(loan: Loan, path: str) -> Decimal | None:
    """The value that stands at a path, if it is a number."""
    place: Any = write(loan)
    for step in path.split("."):
        # A balance that is not stated is nothing.
        place = place[int(step)] if isinstance(place, list) else place.get(step, "0")
    return None if place == UNKNOWN else Decimal(str(place))
