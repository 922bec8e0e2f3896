"""The line of a loan of clauses alone: what lies between two of them is grown at once."""

from collections.abc import Iterable, Iterator
from datetime import date
from fractions import Fraction

from ..numbers.decimals import precise
from ..numbers.ratios import as_decimal, as_fraction
from .stretch import Inner, Stretch


def joined(runs: Iterable[Stretch], last: int, stop: date | None) -> Iterator[Stretch]:
    """A stretch up to each payment's place at or before which something happens, and up to the
    `last`, which the day `stop` may come before.

    In advance the money of a period moves after its payment's place, on the way to the next.
    """
    quiet, lead = Fraction(1), Fraction(0)
    moved: tuple[Inner, ...] = ()
    for each in _one_by_one(runs):
        inner = (*moved, *(one for one in each.inner if not one.is_after))
        many = each.periods() - 1
        if many:
            whole = (1 + each.before) * (1 + each.after)
            quiet = _tidy(quiet * (1 + lead) * _growth(whole, many))
            lead = Fraction(0)
            each = each._replace(first=each.first + many)  # noqa: PLW2901
        grown = _tidy(quiet * (1 + lead) * (1 + each.before))
        if inner or not each.is_plain or each.first == last:
            yield each._replace(
                before=grown - 1,
                after=Fraction(0),
                inner=inner,
                ahead=quiet - 1,
                day=stop if each.first == last else None,
            )
            grown = Fraction(1)
        quiet, lead = grown, each.after
        moved = tuple(one._replace(is_after=False) for one in each.inner if one.is_after)


def _one_by_one(runs: Iterable[Stretch]) -> Iterator[Stretch]:
    """Runs in which nothing moves; what does, one by one."""
    moves_on = False
    for each in runs:
        last = each.last or each.first
        if each.is_plain and not moves_on:
            yield each
        elif each.is_plain:
            yield each._replace(last=each.first)
            if last > each.first:
                yield each._replace(first=each.first + 1)
        else:
            for number in range(each.first, last + 1):
                yield each._replace(first=number, last=number)
        moves_on = any(one.is_after for one in each.inner)


def _growth(whole: Fraction, periods: int) -> Fraction:
    """A growth over so many periods."""
    with precise(140):
        return as_fraction(as_decimal(whole) ** periods)


def _tidy(growth: Fraction) -> Fraction:
    """A growth kept to as many digits as a rate is."""
    if growth.denominator < 10**40:
        return growth
    with precise(140):
        return as_fraction(as_decimal(growth) - 1) + 1
