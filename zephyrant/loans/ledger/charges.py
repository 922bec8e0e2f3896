"""Charges that are collected with the payments: insurance, taxes, service. They move no balance."""

from collections.abc import Iterable
from dataclasses import replace
from fractions import Fraction

from ..budget import look
from ..line.line import Line
from ..line.terms import Provision
from .rounding import rounded_fraction
from .rows import CashRule, Row, Schedule


def charged(line: Line, schedule: Schedule, rule: CashRule) -> Schedule:
    """A schedule with the charges of its line: in every row of their stretches, paused ones too, as
    long as the loan lasts. A percent is of what the row opens with or of the principal: a year's
    share of one regular period, to the nearest minor unit."""
    charges = list(line.charges)
    if not charges:
        return schedule
    rows = list(schedule.rows)
    principal = rule.unit.count(line.terms.principal)
    for provision, numbers in charges:
        for number in _within(numbers, len(rows)):
            row = rows[number - 1]
            amount = _amount(provision, line, row, principal, rule)
            rows[number - 1] = row._replace(
                charge=row.charge + amount,
                charge_in_costs=row.charge_in_costs + (amount if provision.in_costs else 0),
            )
    return replace(schedule, rows=tuple(rows))


def _within(numbers: Iterable[int], last: int) -> Iterable[int]:
    for number in numbers:
        if number > last:
            return
        look()
        yield number


def _amount(provision: Provision, line: Line, row: Row, principal: int, rule: CashRule) -> int:
    """What one charge is in a row, in units."""
    minor = rule.minor_unit
    if not provision.by_percent:
        return rounded_fraction(Fraction(provision.amount) * 10**rule.unit.places, minor)
    base = row.opening if provision.of_balance else principal
    share = Fraction(provision.amount) / 100 / line.terms.time.a_year
    return rounded_fraction(base * share, minor)
