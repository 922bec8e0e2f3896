"""Charges that are collected with the payments: insurance, taxes, service. They move no balance."""

from collections.abc import Callable
from dataclasses import replace
from fractions import Fraction
from typing import Final

from ..budget import look
from ..line.line import Line
from ..line.terms import Provision
from ..numbers.decimals import divide_nearest
from .rounding import rounded_fraction
from .rows import CashRule, Schedule

#: So many rows are charged between two looks at the budget.
_LOOKS_EACH: Final = 500


def charged(line: Line, schedule: Schedule, rule: CashRule) -> Schedule:
    """A schedule with the charges of its line: in every row of their stretches, paused ones too, as
    long as the loan lasts. A percent is of what the row opens with or of the principal: a year's
    share of one regular period, to the nearest minor unit."""
    charges = list(line.charges)
    if not charges:
        return schedule
    rows = schedule.rows
    all_of_it, counted = [0] * len(rows), [0] * len(rows)
    for provision, numbers in charges:
        amount_of = _amounts(provision, line, rule)
        for number in numbers:
            if number > len(rows):
                break
            if not number % _LOOKS_EACH:
                look()
            amount = amount_of(rows[number - 1].opening)
            all_of_it[number - 1] += amount
            if provision.in_costs:
                counted[number - 1] += amount
    both = zip(rows, all_of_it, counted, strict=True)
    told = (row._replace(charge=each, charge_in_costs=part) for row, each, part in both)
    return replace(schedule, rows=tuple(told))


def _amounts(provision: Provision, line: Line, rule: CashRule) -> Callable[[int], int]:
    """What one charge is in a row, in units, by what that opens with."""
    minor = rule.unit.minor
    if not provision.by_percent:
        stated = rounded_fraction(Fraction(provision.amount) * 10**rule.unit.places, minor)
        return lambda opening: stated
    share = Fraction(provision.amount) / 100 / line.terms.time.a_year
    if not provision.of_balance:
        of_principal = rounded_fraction(rule.unit.count(line.terms.principal) * share, minor)
        return lambda opening: of_principal
    above, below = share.numerator, share.denominator * minor
    return lambda opening: divide_nearest(opening * above, below) * minor
