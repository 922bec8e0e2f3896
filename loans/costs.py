"""What a loan costs beside its interest: fees, net proceeds, yearly cost, the carrying amount.

Worked on what moves to the cent. A fee kept back or paid apart at the start lessens what is
received; one paid apart later is paid besides. A balance left counts as paid at the end.
"""

from decimal import Decimal
from itertools import groupby
from typing import NamedTuple

from typing_extensions import TypedDict

from .cut import Fee, fees_of
from .document import Loan
from .figures import precise, to_step
from .ledger import Schedule
from .line import Terms
from .yearly_cost import Flows, Moved, Run, YearlyCost, general_cost, us_force, yearly_cost


class CostsTold(TypedDict):
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


class Costs(NamedTuple):
    """What a schedule costs; the carrying amount after each row, where there are fees."""

    told: CostsTold
    yearly: YearlyCost
    fees: Decimal
    carrying: tuple[str, ...]


def costs(loan: Loan, terms: Terms, laid: Schedule, periodic: Decimal) -> Costs:
    """The costs of a loan; `periodic` is the rate of one period, a guess for its yearly cost."""
    fees = fees_of(terms)
    guess = float(periodic)
    lent = laid.unit.amount(laid.rows[0].opening)
    advanced = sum((laid.unit.amount(row.advance) for row in laid.rows), Decimal(0))
    kept_back = sum((fee.amount for fee in fees if fee.taken == "from-proceeds"), Decimal(0))
    apart = sum((fee.amount for fee in fees if fee.taken == "apart"), Decimal(0))
    added_at_start = sum(
        (fee.amount for fee in fees if fee.taken == "added" and fee.place == 0), Decimal(0)
    )
    received = lent - added_at_start + advanced - kept_back
    paid = sum(
        (laid.unit.amount(row.payment + row.repay) for row in laid.rows), Decimal(0)
    ) + laid.unit.amount(laid.rows[-1].closing)
    total = paid + apart - received
    with precise():
        base = received + kept_back
        per_thousand = 1000 * total / base if base else Decimal(0)
    force = None
    if not fees and not advanced:
        flows = _level_flows(loan, laid)
        yearly = yearly_cost(flows, guess)
        if loan.calendar is None or loan.calendar.is_regular:
            force = us_force(flows, guess)
    else:
        moved = _moved(loan, laid, fees)
        yearly, force = general_cost(
            moved,
            loan.calendar,
            loan.payments_a_year,
            in_advance=loan.timing == "in-advance",
        )
    rate = None if force is None else float(force)
    told: CostsTold = {
        "net_proceeds": _money(received, loan),
        "total_cost": _money(total, loan),
        "per_thousand": _money(per_thousand, loan),
        "yield_nominal": _percent(rate, loan, effective=False),
        "yield_effective": _percent(rate, loan, effective=True),
    }
    all_fees = sum((fee.amount for fee in fees), Decimal(0))
    carrying = _carrying(loan, laid, fees, received - advanced, rate) if fees else ()
    return Costs(told, yearly, all_fees, carrying)


def _money(amount: Decimal, loan: Loan) -> str:
    return f"{to_step(amount, loan.minor_unit, 'nearest'):.{loan.decimals}f}"


def _percent(force: float | None, loan: Loan, *, effective: bool) -> str | None:
    if force is None:
        return None
    often = loan.payments_a_year
    with precise():
        rate = Decimal(force).exp() - 1
        told = (1 + rate) ** often - 1 if effective else often * rate
        return f"{100 * told:.10f}"


def _level_flows(loan: Loan, laid: Schedule) -> Flows:
    """What is paid to the cent, in runs, and what is left as paid at the end."""
    scale = 10.0**-laid.unit.places
    rows, calendar = laid.rows, loan.calendar
    # Places count from the first payment where there are dates, else from the start.
    place = 0 if calendar or loan.timing == "in-advance" else 1
    if loan.count == 0:
        place = rows[0].number - (1 if calendar else 0)
    runs: list[Run] = []
    alike = groupby(rows, key=lambda row: row.payment + row.repay)
    for paid, group in alike:
        members = list(group)
        if loan.count == 0:
            shift = 1 if calendar or loan.timing == "in-advance" else 0
            runs += [Run(paid * scale, row.number - shift) for row in members if paid]
            continue
        runs.append(Run(paid * scale, place, len(members)))
        place += len(members)
    if rows[-1].closing:
        end = place if loan.timing == "in-advance" else place - 1
        if loan.count == 0:
            end = rows[-1].number - (1 if calendar or loan.timing == "in-advance" else 0)
        runs.append(Run(rows[-1].closing * scale, end))
    return Flows(rows[0].opening * scale, runs, loan.payments_a_year, calendar)


def _moved(loan: Loan, laid: Schedule, fees: list[Fee]) -> list[Moved]:
    """Everything that moves between lender and borrower: above zero what the borrower receives."""
    unit = laid.unit
    first = laid.rows[0].opening
    added = sum((fee.amount for fee in fees if fee.taken == "added" and fee.place == 0), Decimal(0))
    moved = [Moved(0, float(unit.amount(first) - added))]
    for row in laid.rows:
        net = row.advance - row.payment - row.repay
        if net:
            moved.append(Moved(row.number, float(unit.amount(net))))
    moved += [Moved(fee.place, -float(fee.amount)) for fee in fees if fee.taken != "added"]
    last = laid.rows[-1]
    if last.closing:
        end = last.number + (1 if loan.timing == "in-advance" and loan.count != 0 else 0)
        moved.append(Moved(end, -float(unit.amount(last.closing))))
    return moved


def _carrying(
    loan: Loan, laid: Schedule, fees: list[Fee], received: Decimal, force: float | None
) -> tuple[str, ...]:
    """Net proceeds rolled at the lender's yield (the effective-interest method), after each row."""
    if force is None or loan.count == 0:
        return ()
    paid_apart: dict[int, Decimal] = {}
    for fee in fees:
        if fee.taken != "added" and isinstance(fee.place, int) and fee.place:
            paid_apart[fee.place] = paid_apart.get(fee.place, Decimal(0)) + fee.amount
    for fee in fees:
        if fee.taken == "from-proceeds" and fee.place != 0:
            received += fee.amount
        if fee.taken == "apart" and fee.place == 0:
            received -= fee.amount
    in_advance = loan.timing == "in-advance"
    carried, told = received, []
    with precise():
        growth = Decimal(force).exp()
        for row in laid.rows:
            net = laid.unit.amount(row.advance - row.payment - row.repay)
            net -= paid_apart.get(row.number, Decimal(0))
            carried = (carried + net) * growth if in_advance else carried * growth + net
            told.append(_money(carried, loan))
    return tuple(told)
