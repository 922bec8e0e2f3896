"""A figure by its path: what stands there, and another value put there."""

from decimal import Decimal
from typing import Any

from .fields import UNKNOWN
from .figure_path import FigurePath
from .loan import Loan
from .reading import check, write


def with_figure(loan: Loan, path: FigurePath, value: str) -> Loan:
    """The loan with another value in one place; raises `NotALoan` where it cannot stand there."""
    content = write(loan)
    content.pop("aim", None)
    *way, last = path.steps
    place: Any = content
    for step in way:
        # An index may not be shifted yet.
        place = place[int(step)] if isinstance(place, list) else place.setdefault(step, {})
    place[last] = value
    return check(content)


def figure_at(loan: Loan, path: FigurePath) -> Decimal | None:
    """The value that stands at a path, if it is a number."""
    place: Any = write(loan)
    for step in path.steps:
        # A balance that is not stated is nothing, and an index not shifted.
        if isinstance(place, str):
            break
        place = place[int(step)] if isinstance(place, list) else place.get(step, "0")
    return None if place == UNKNOWN else Decimal(str(place))
