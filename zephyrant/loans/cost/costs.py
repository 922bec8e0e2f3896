"""What a loan costs beside its interest: fees, net proceeds, yearly cost, the carrying amount.

Worked on what moves to the cent. A fee kept back or paid apart at the start lessens what is
received; one paid apart later is paid besides. A balance left counts as paid at the end.
"""

from collections.abc import Callable
from datetime import date
from decimal import Decimal
from functools import partial
from itertools import groupby
from typing import Final, NamedTuple

from typing_extensions import TypedDict

from ..ledger.rows import Schedule, due
from ..line.line import Line
from ..line.moves import Between, Fee
from ..numbers.arrays import Floats, np
from ..numbers.decimals import percent_text, plain, precise, to_step
from .unit_times import times_of
from .yearly_cost import Flows, Moved, Run, YearlyCost, general_cost, us_force, yearly_cost

#: Nearer than this to a tie a float is looked at exactly; and where there are so many units.
_TIE: Final = 1e-4
_MOST_UNITS: Final = 1e11
#: Less than a day, in periods of any length.
_MOMENT: Final = 1e-6


class CostsOfLoan(TypedDict):
    """Money as decimal strings, rates in percent with ten decimals.

    `net_proceeds`: what the borrower receives; `total_cost`: all that is paid beyond it;
    `per_thousand`: of each 1,000 lent. The lender's yield is nominal at the payment frequency and
    effective a year, none where the periods are not alike.
    """

    net_proceeds: str
    total_cost: str
    per_thousand: str
    yield_nominal: str | None
    yield_effective: str | None


class FeeCharged(TypedDict):
    """A fee: before or with which payment (0: the start) and when it is taken, and how."""

    number: int
    date: str | None
    amount: str
    taken: str


class Costs(NamedTuple):
    """What a schedule costs; the carrying amount after each row, where there are fees."""

    told: CostsOfLoan
    yearly: YearlyCost
    fees: Decimal
    carrying: tuple[str, ...]
    fees_told: tuple[FeeCharged, ...]


def costs(line: Line, schedule: Schedule, periodic: Decimal) -> Costs:
    """The costs of a loan; `periodic` is the rate of one period, a guess for its yearly cost."""
    flows = _flows_of(line, schedule)
    yearly, force = flows.cost(line, schedule, periodic)
    money = partial(_money, decimals=schedule.unit.shown)
    fees = flows.fees
    lent = schedule.unit.amount(schedule.rows[0].opening)
    advanced = schedule.unit.amount(sum(schedule.columns.advance))
    kept_back = sum((fee.amount for fee in fees if fee.taken == "from-proceeds"), Decimal(0))
    apart = sum((fee.amount for fee in fees if fee.taken == "apart"), Decimal(0))
    received = lent - _added_at_start(fees) + advanced - kept_back
    paid = schedule.unit.amount(sum(schedule.columns.collected) + schedule.rows[-1].closing)
    total = paid + apart - received
    with precise():
        base = received + kept_back
        per_thousand = 1000 * total / base if base else Decimal(0)
    rate = None if force is None else float(force)
    told: CostsOfLoan = {
        "net_proceeds": money(received),
        "total_cost": money(total),
        "per_thousand": money(per_thousand),
        "yield_nominal": _percent(rate, line, effective=False),
        "yield_effective": _percent(rate, line, effective=True),
    }
    all_fees = sum((fee.amount for fee in fees), Decimal(0))
    carrying = _carrying(line, schedule, flows.moved, rate) if fees else ()
    return Costs(
        told, yearly, all_fees, carrying, tuple(_fee_told(line, schedule, fee) for fee in fees)
    )


def yearly_costs(line: Line, schedule: Schedule, periodic: Decimal) -> YearlyCost:
    """Both yearly costs alone."""
    return _flows_of(line, schedule).cost(line, schedule, periodic)[0]


def moved_in(line: Line, schedule: Schedule) -> list[tuple[int | date, Decimal]]:
    """All that moves on a schedule but its fees, and what is left as paid at the end: above zero
    what the borrower receives; places are those of `Moved`."""
    happens = _until_the_end(line, schedule)
    on_days = [] if schedule.by_day else [each for each in line.between if happens(each.day)]
    moved = [
        *_moved(schedule, [], on_days, schedule.columns.paid),
        *_left(line, schedule),
    ]
    return [(place, Decimal(repr(amount))) for place, amount in moved]


class _FlowsOf(NamedTuple):
    """The fees of a loan, and all that moves where payments are not alone."""

    fees: list[Fee]
    moved: list[Moved]
    on_days: list[Between]

    def cost(
        self, line: Line, schedule: Schedule, periodic: Decimal
    ) -> tuple[YearlyCost, float | None]:
        """Both yearly costs, and the force of one period."""
        columns, guess = schedule.columns, float(periodic)
        yearly, force = _cost(line, schedule, columns.paid, self.moved, guess)
        if any(columns.charge):
            # What is collected for others is no yield of the lender.
            moved = self.moved and _moved(schedule, self.fees, self.on_days, columns.collected)
            yearly, _ = _cost(line, schedule, columns.collected, moved, guess)
        return yearly, force


def _cost(
    line: Line, schedule: Schedule, paid: tuple[int, ...], moved: list[Moved], guess: float
) -> tuple[YearlyCost, float | None]:
    """Both yearly costs, and the force of one period, of what is paid by row."""
    time = line.terms.time
    if moved:
        return general_cost(
            [*moved, *_left(line, schedule)],
            time.calendar,
            time.a_year,
            in_advance=time.in_advance,
            guess=guess,
        )
    flows = _level_flows(line, schedule, paid)
    is_regular = time.calendar is None or time.calendar.is_regular
    return yearly_cost(flows, guess), us_force(flows, guess) if is_regular else None


def _flows_of(line: Line, schedule: Schedule) -> _FlowsOf:
    happens = _until_the_end(line, schedule)
    fees = [fee for fee in line.fees if happens(fee.place)]
    on_days = [each for each in line.between if happens(each.day)]
    last = schedule.rows[-1]
    ends_on_a_day = last.day is not None or last.ended is not None
    columns = schedule.columns
    back = last.closing < 0 or min(columns.paid) < 0 or any(columns.advance)
    if not (fees or on_days or back or ends_on_a_day or not line.has_payments):
        return _FlowsOf(fees, [], on_days)
    on_days = [] if schedule.by_day else on_days
    return _FlowsOf(fees, _moved(schedule, fees, on_days, columns.paid), on_days)


def _added_at_start(fees: list[Fee]) -> Decimal:
    return sum((fee.amount for fee in fees if fee.taken == "added" and fee.place == 0), Decimal(0))


def _fee_told(line: Line, schedule: Schedule, fee: Fee) -> FeeCharged:
    calendar, place = line.terms.time.calendar, fee.place
    if isinstance(place, date):
        day: date | None = place
        number = next(
            (row.number for row in schedule.rows if (due(row, calendar) or place) >= place), 0
        )
    else:
        number = place
        day = calendar and (calendar.due(place) if place else calendar.start)
    return {
        "number": number,
        "date": day.isoformat() if day else None,
        "amount": _money(fee.amount, schedule.unit.shown),
        "taken": fee.taken,
    }


def _money(amount: Decimal, decimals: int) -> str:
    return plain(to_step(amount, Decimal(1).scaleb(-decimals), "nearest"), decimals)


def _money_of(amounts: Floats, decimals: int) -> tuple[str, ...]:
    """The same of floats: written by their own digits, but where they are too near to a tie."""
    units = np.abs(amounts) * 10**decimals
    unsure = (np.abs(units % 1 - 0.5) < _TIE) | ~((units > 1) & (units < _MOST_UNITS))
    return tuple(
        _money(Decimal(amount), decimals) if is_unsure else f"{amount:.{decimals}f}"
        for amount, is_unsure in zip(amounts.tolist(), unsure.tolist(), strict=True)
    )


def _percent(force: float | None, line: Line, *, effective: bool) -> str | None:
    if force is None:
        return None
    often = line.terms.time.a_year
    with precise():
        rate = Decimal(force).exp() - 1
        told = (1 + rate) ** often - 1 if effective else often * rate
        return percent_text(100 * told)


def _level_flows(line: Line, schedule: Schedule, paid: tuple[int, ...]) -> Flows:
    """What is paid to the cent, in runs, and what is left as paid at the end."""
    scale = 10.0**-schedule.unit.places
    columns, time = schedule.columns, line.terms.time
    # Places count from the first payment where there are dates, else from the start.
    place = 0 if time.calendar or time.in_advance else 1
    runs: list[Run] = []
    for amount, group in groupby(paid):
        alike = len(list(group))
        runs.append(Run(amount * scale, place, alike))
        place += alike
    if columns.closing[-1]:
        end = place if time.in_advance else place - 1
        runs.append(Run(columns.closing[-1] * scale, end))
    return Flows(columns.opening[0] * scale, runs, time.a_year, time.calendar)


def _until_the_end(line: Line, schedule: Schedule) -> Callable[[int | date], bool]:
    """Whether what a clause says of a place comes about: a loan that has ended has no more fees."""
    row, terms = schedule.rows[-1], line.terms
    ended = row.stands_at
    if row.day and not schedule.by_day:
        # Settled on a day between two payments: with what stands there by then.
        ended = row.number - 1
    elif row.ended and not terms.in_advance:
        ended -= 1
    elif not row.ended and (not line.has_payments or ended == terms.count):
        return lambda place: True
    day = row.ended.day if row.ended else due(row, terms.time.calendar)
    return lambda place: place <= (ended if isinstance(place, int) else day)  # type: ignore[operator]


def _moved(
    schedule: Schedule, fees: list[Fee], on_days: list[Between], paid_by_row: tuple[int, ...]
) -> list[Moved]:
    """What moves between lender and borrower, but for what is left: above zero what the borrower
    receives."""
    told_with: dict[int, int] = {}
    for each in on_days:
        told_with[each.number] = told_with.get(each.number, 0) + schedule.unit.count(each.amount)
    unit = schedule.unit
    # A quotient of whole numbers is the nearest float.
    scale = 10**unit.places
    moved = [Moved(0, float(unit.amount(schedule.rows[0].opening) - _added_at_start(fees)))]
    columns = schedule.columns
    rows = zip(schedule.rows, columns.stands_at, columns.advance, paid_by_row, strict=True)
    # Where a loan is settled on a day its last two rows can be of one period: the later tells it.
    for row, stands_at, advance, paid in reversed(list(rows)):
        net = advance - paid
        stated = told_with.pop(stands_at, 0)
        if row.ended:
            # What ended the loan is cut on its day; what was paid before stands at its payment.
            by_then = row.ended.moved
            moved.append(Moved(row.ended.day, (by_then - stated) / scale))
            stated = by_then
        if net - stated:
            moved.append(Moved(row.day or stands_at, (net - stated) / scale))
    moved += [Moved(each.day, float(each.amount)) for each in on_days]
    moved += [Moved(fee.place, -float(fee.amount)) for fee in fees if fee.taken != "added"]
    return moved


def _left(line: Line, schedule: Schedule) -> list[Moved]:
    """What is left, as paid at the end."""
    last = schedule.rows[-1]
    if not last.closing:
        return []
    # In advance a balloon is owed at the end of the last period; what is overpaid, at once.
    late = line.terms.in_advance and line.has_payments and last.closing > 0
    place = last.day or (last.ended.day if last.ended else last.stands_at + late)
    return [Moved(place, -float(schedule.unit.amount(last.closing)))]


def _carrying(
    line: Line, schedule: Schedule, moved: list[Moved], force: float | None
) -> tuple[str, ...]:
    """What has moved by the end of each row, worth then at the lender's yield (the
    effective-interest method)."""
    if force is None or not line.has_payments:
        return ()
    time = line.terms.time
    in_advance, often = time.in_advance, time.a_year
    years = times_of(time.calendar, often, in_advance).years
    flows = sorted((often * years(each.place), each.amount) for each in moved)
    times, amounts = (np.array(column) for column in zip(*flows, strict=True))
    by_then = np.concatenate([[0.0], np.cumsum(amounts * np.exp(-force * times))])
    # In advance a row ends just before the next payment.
    ends = np.array([often * years(row.number + in_advance) for row in schedule.rows])
    until = ends - _MOMENT if in_advance else ends + _MOMENT
    worth = np.exp(force * ends) * by_then[np.searchsorted(times, until, side="right")]
    return _money_of(worth, schedule.unit.shown)
