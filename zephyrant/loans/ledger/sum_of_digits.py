"""Interest shared out by the sum of the digits: an old rule that contracts still name.

Of n payments the first bears n parts of the interest, the last one, of n (n + 1) / 2 parts in all
(common practice; for twelve payments, 78 parts).
"""

from dataclasses import replace

from ..numbers.decimals import divide_nearest
from .rows import Row, Schedule


def by_sum_of_digits(schedule: Schedule) -> Schedule:
    """A schedule with its interest shared out so: each share to the nearest minor unit, the last
    taking the rest. Payments stay as they are."""
    rows, minor = schedule.rows, schedule.unit.minor
    count, total = len(rows), sum(schedule.columns.interest)
    digits = count * (count + 1) // 2
    shared: list[Row] = []
    opening, left = rows[0].opening, total
    for place, row in enumerate(rows):
        interest = left
        if place < count - 1:
            part = total * (count - place)
            interest = divide_nearest(part, digits * minor) * minor
        left -= interest
        closing = opening + interest + row.advance + row.fee - row.paid
        shared.append(
            row._replace(
                opening=opening,
                interest=interest,
                principal=row.paid - interest,
                closing=closing,
                rest=closing,
                actuarial=row.closing,
            )
        )
        opening = closing
    return replace(schedule, rows=tuple(shared))
