"""The line as a picture: what is owed above, what is paid below, as shares of the greatest. Laid
out once, for every outlet that draws it."""

from typing import NamedTuple

from zephyrant.loans import Answer


class Bar(NamedTuple):
    """What one payment is made of, as shares of the greatest of all."""

    principal: float
    interest: float


class Picture(NamedTuple):
    """`owed`: at the start and after each row, as shares of the most that is owed, below zero where
    more than all is repaid; `bars`: one for each `together` rows, the first of them."""

    owed: tuple[float, ...]
    bars: tuple[Bar, ...]
    together: int


def picture_of(answer: Answer, most_bars: int = 160) -> Picture | None:
    """The picture of an answer's schedule; None where it has none."""
    if answer.laid is None or not answer.laid.schedule.rows:
        return None
    columns = answer.laid.schedule.columns
    owed = (columns.opening[0], *columns.closing)
    most = max(*map(abs, owed), 1)
    paid = max(*columns.payment, 1)
    together = max(1, len(columns.number) // most_bars)
    bars = []
    for place in range(0, len(columns.number), together):
        payment = columns.payment[place]
        principal = max(0, columns.principal[place])
        bars.append(Bar(principal / paid, max(0, payment - principal) / paid))
    return Picture(tuple(amount / most for amount in owed), tuple(bars), together)
