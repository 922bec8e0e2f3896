"""What a table of loans moves, by month, quarter or year: its average life, what it is worth at a
stated rate, its durations.

Average life is the time at which principal is repaid, weighted by it. Macaulay duration is the time
at which money comes, weighted by what that is worth at the rate stated; modified duration is that
over 1 + the rate of one period of its compounding (common practice). Times run from the day that is
looked at or, of loans lent later, from then.
"""

from datetime import date
from decimal import ROUND_HALF_UP, Decimal
from math import ceil, fsum
from operator import sub
from typing import Final, Literal, NamedTuple

from pydantic import Field
from typing_extensions import TypedDict

from ..numbers.currencies import currencies
from ..numbers.decimals import Unit, plain
from .flows import SCENARIOS, SHIFTS, Flows, FlowsAsked, Kind, Moved, Scenario, TapeFlows, add
from .laid import Moment

By = Literal["month", "quarter", "year"]
#: Periods of each kind in a year.
_A_YEAR: Final[dict[By, int]] = {"month": 12, "quarter": 4, "year": 1}
#: How often a year the stated rate is compounded; once: it is effective.
Compounded = Literal[1, 2, 4, 12]
#: Decimals of years that are told.
YEARS_PLACES: Final = 6


class PortfolioAsked(FlowsAsked):
    """`by`: what flows are added up by; `rate`: percent a year at which they are discounted,
    `compounded` so often; None: they are not."""

    by: By = "month"
    rate: Decimal | None = Field(default=None, ge=-20, le=1_000)
    compounded: Compounded = 1


class PortfolioFlow(TypedDict):
    """What moves in one period, money in the currency: `period` is 2027-03, 2027-Q1 or 2027, of
    loans without dates its number from the start; `balance` is owed at its end."""

    period: str
    lent: str
    principal: str
    early: str
    interest: str
    balance: str


class PortfolioScenario(TypedDict):
    """One way it may go: `rows` loans, `missing` such as cannot be laid out so; `owed` on the day
    that is looked at, by loans lent before. Times in years."""

    scenario: Scenario
    rows: int
    missing: int
    owed: str
    lent: str
    principal: str
    early: str
    interest: str
    average_life: str | None
    worth: str | None
    macaulay: str | None
    modified: str | None
    flows: list[PortfolioFlow]


class PortfolioPart(TypedDict):
    """The loans of one currency; `floating` of them follow an index."""

    currency: str
    floating: int
    scenarios: list[PortfolioScenario]


class Portfolio(TypedDict):
    """What a table moves, as it was asked for, by currency. `dated`: by the calendar, else from the
    start of each loan."""

    on: str | None
    dated: bool
    early: str
    by: By
    rate: str | None
    compounded: Compounded
    parts: list[PortfolioPart]


def portfolio_of(flows: TapeFlows, asked: PortfolioAsked) -> Portfolio:
    """What a table moves by period, with what that lasts and is worth."""
    codes = sorted({kind.currency for kind in flows})
    return {
        "on": None if asked.on is None else asked.on.isoformat(),
        "dated": any(isinstance(day, date) for each in flows.values() for day in each.moved),
        "early": plain(asked.early),
        "by": asked.by,
        "rate": None if asked.rate is None else plain(asked.rate),
        "compounded": asked.compounded,
        "parts": [_part(code, flows, asked) for code in codes],
    }


def _part(code: str, flows: TapeFlows, asked: PortfolioAsked) -> PortfolioPart:
    floating = flows.get(Kind(code, True, "agreed"), Flows()).rows
    base: Scenario = "early" if asked.early else "agreed"
    scenarios: list[PortfolioScenario] = []
    for scenario in SCENARIOS:
        is_shift = scenario in SHIFTS
        if (scenario == "early" and not asked.early) or (is_shift and not floating):
            continue
        whole = Flows()
        for kind in (Kind(code, False, base if is_shift else scenario), Kind(code, True, scenario)):
            whole.add(flows.get(kind, Flows()))
        scenarios.append(_scenario(scenario, code, whole, asked))
    return {"currency": code, "floating": floating, "scenarios": scenarios}


def _scenario(
    scenario: Scenario, code: str, flows: Flows, asked: PortfolioAsked
) -> PortfolioScenario:
    decimals = currencies()[code].decimals
    periods = _by_period(flows, asked.by)
    owed = balance = _whole(flows.owed)
    told: list[PortfolioFlow] = []
    for period, moved in periods:
        balance += moved.lent - moved.principal - moved.early
        told.append(
            {
                "period": period,
                "lent": _money(moved.lent, decimals),
                "principal": _money(moved.principal, decimals),
                "early": _money(moved.early, decimals),
                "interest": _money(moved.interest, decimals),
                "balance": _money(balance, decimals),
            }
        )
    whole = [sum(column) for column in zip(*(moved for _, moved in periods), strict=True)]
    lent, principal, early, interest = whole or [0] * 4
    lasts = _lasts(flows, asked)
    return {
        "scenario": scenario,
        "rows": flows.rows,
        "missing": flows.missing,
        "owed": _money(owed, decimals),
        "lent": _money(lent, decimals),
        "principal": _money(principal, decimals),
        "early": _money(early, decimals),
        "interest": _money(interest, decimals),
        "average_life": _years(lasts.average_life),
        "worth": None if lasts.worth is None else _money(_whole(lasts.worth), decimals),
        "macaulay": _years(lasts.macaulay),
        "modified": _years(lasts.modified),
        "flows": told,
    }


class _Units(NamedTuple):
    """What moves in a period, in whole minor units."""

    lent: int
    principal: int
    early: int
    interest: int


def _by_period(flows: Flows, by: By) -> list[tuple[str, _Units]]:
    """Every period from the first in which money moves to the last. All up to the end of each is
    rounded to the minor unit, so that periods add up to the whole."""
    moved: dict[int, Moved] = {}
    for moment, each in flows.moved.items():
        place = _place(moment, by)
        known = moved.get(place, Moved())
        moved[place] = Moved(*map(add, known, each))
    if not moved:
        return []
    is_dated = isinstance(next(iter(flows.moved)), date)
    told, until, before = [], Moved(), _Units(0, 0, 0, 0)
    for place in range(min(moved), max(moved) + 1):
        here = moved.get(place, Moved())
        until = Moved(*map(add, until, here))
        now = _Units(*map(_whole, until))
        name = _name(place, by) if is_dated else str(place)
        told.append((name, _Units(*map(sub, now, before))))
        before = now
    return told


def _place(moment: Moment, by: By) -> int:
    """The period in which a moment lies: one of the calendar, or from the start on by number."""
    a_year = _A_YEAR[by]
    if isinstance(moment, date):
        return moment.year * a_year + (moment.month - 1) * a_year // 12
    return max(1, ceil(moment * a_year))


def _name(place: int, by: By) -> str:
    year, part = divmod(place, _A_YEAR[by])
    ends = {"month": f"-{part + 1:02}", "quarter": f"-Q{part + 1}", "year": ""}
    return f"{year:04}{ends[by]}"


class _Lasts(NamedTuple):
    """How long it lasts, in years, and what it is worth, in minor units; None where nothing is paid
    or no rate is stated."""

    average_life: float | None = None
    worth: float | None = None
    macaulay: float | None = None
    modified: float | None = None


def _lasts(flows: Flows, asked: PortfolioAsked) -> _Lasts:
    lasting = [
        (years, float(each.paid), float(each.repaid)) for years, each in flows.lasting.items()
    ]
    whole = fsum(repaid for _, _, repaid in lasting)
    if not whole:
        return _Lasts()
    life = fsum(years * repaid for years, _, repaid in lasting) / whole
    if asked.rate is None:
        return _Lasts(life)
    a_year = asked.compounded
    grows = 1 + float(asked.rate) / 100 / a_year
    worths = [(years, paid * grows ** (-a_year * years)) for years, paid, _ in lasting]
    worth = fsum(each for _, each in worths)
    if not worth:
        return _Lasts(life, worth)
    macaulay = fsum(years * each for years, each in worths) / worth
    return _Lasts(life, worth, macaulay, macaulay / grows)


def _whole(amount: float | Decimal) -> int:
    return int(Decimal(amount).to_integral_value(ROUND_HALF_UP))


def _money(units: int, decimals: int) -> str:
    return Unit(decimals, decimals).write(units)


def _years(years: float | None) -> str | None:
    return None if years is None else f"{years:.{YEARS_PLACES}f}"
