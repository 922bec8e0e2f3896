"""What an answer holds, as records: money in the loan's currency, rates in percent."""

from datetime import date
from decimal import Decimal
from typing import NamedTuple


class ScheduleRow(NamedTuple):
    """One row of a schedule, money in the loan's currency. `date` is None without dates; `advance`,
    `fee` (added to what is owed) and `repay` are 0 where no clause brings them."""

    number: int
    date: date | None
    opening: Decimal
    advance: Decimal
    fee: Decimal
    interest: Decimal
    principal: Decimal
    payment: Decimal
    repay: Decimal
    closing: Decimal


class YearRow(NamedTuple):
    """What the payments `first` to `last` of a year of the loan add up to."""

    label: str
    first: int
    last: int
    opening: Decimal
    advance: Decimal
    fee: Decimal
    interest: Decimal
    principal: Decimal
    payment: Decimal
    repay: Decimal
    closing: Decimal


class Rates(NamedTuple):
    """Percent: of one payment period, nominal at the payment frequency, effective a year."""

    periodic: Decimal
    nominal: Decimal
    effective: Decimal


class Totals(NamedTuple):
    """What the schedule adds up to. `payments`: rows in which something is paid; `balance_due`:
    what is owed at its end; `charges`: what is collected beside what is paid."""

    paid: Decimal
    interest: Decimal
    principal: Decimal
    fees: Decimal
    final_payment: Decimal
    payments: int
    charges: Decimal
    balance_due: Decimal


class YearlyCost(NamedTuple):
    """Percent a year by the published rules: US actuarial, nominal; EU, effective. None where no
    rate or several fit."""

    us_apr: Decimal | None
    eu_aprc: Decimal | None


class Step(NamedTuple):
    """One step of the working: what it does, its formula, that with its numbers, what comes out."""

    title: str
    formula: str
    numbers: str
    result: str


class Check(NamedTuple):
    """One thing that was checked, what was found, what it should be, and whether it holds."""

    what: str
    found: str
    expected: str
    holds: bool


class Proof(NamedTuple):
    """Every check made of an answer; `digits` to which the two ways to it agree."""

    holds: bool
    digits: int
    says: str
    checks: tuple[Check, ...]


class Fitting(NamedTuple):
    """What a figure would have to be for the others: as it would be paid, unrounded; or the reason
    none fits."""

    value: Decimal | None
    exact: Decimal | None
    reason: str | None


class Aimed(NamedTuple):
    """What came of an aim: the figure `by` at which `figure` has the value `target`, as it would be
    stated and unrounded; every `solution`; else the `nearest` that can be had. `says` tells it."""

    figure: str
    by: str
    target: str
    value: Decimal | None
    exact: Decimal | None
    solutions: tuple[Decimal, ...]
    nearest: Decimal | None
    says: str
