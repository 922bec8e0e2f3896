"""What a table of loans moves, asked as people type it and told as they read it."""

from collections.abc import Sequence
from datetime import date
from decimal import Decimal
from typing import Annotated, Final

from pydantic import BaseModel, BeforeValidator, ConfigDict, Field, ValidationError

from zephyrant.texts import Worded, counted, worded

from ..calendars.days_in_words import day_form, read_days, write_day
from ..errors import NotALoan
from ..statement.typed_amounts import read_percent
from ..wording.marks import Marks
from ..wording.tables import TableTold, row_told
from .flows import SHIFTS, Scenario
from .portfolio import (
    By,
    Compounded,
    Portfolio,
    PortfolioAsked,
    PortfolioFlow,
    PortfolioPart,
    PortfolioScenario,
)

#: What flows are added up by.
FLOWS_BY: Final[Worded[By]] = Worded(
    {"month": "by month", "quarter": "by quarter", "year": "by year"}
)
#: How a rate at which they are discounted is quoted.
DISCOUNTED: Final[Worded[Compounded]] = Worded(
    {
        1: "effective",
        2: "nominal, compounded half-yearly",
        4: "nominal, compounded quarterly",
        12: "nominal, compounded monthly",
    }
)
_MOST_TYPED: Final = 60


def _number(value: object) -> object:
    """A number, also as it stands in an address."""
    return int(value) if isinstance(value, str) and value.isdecimal() else value


_TYPED: Final = Field(default="", max_length=_MOST_TYPED)


class PortfolioTyped(BaseModel):
    """The day that is looked at, percent repaid early a year and the rate at which is discounted,
    as typed, each may be left empty; what is told of which currency and scenario (empty: the
    first)."""

    model_config = ConfigDict(frozen=True, defer_build=True, extra="forbid")

    on: str = _TYPED
    early: str = _TYPED
    rate: str = _TYPED
    compounded: Annotated[Compounded, BeforeValidator(_number)] = 1
    by: By = "month"
    currency: str = Field(default="", max_length=3)
    scenario: Scenario = "agreed"


def portfolio_asked(typed: PortfolioTyped, marks: Marks) -> PortfolioAsked:
    """What is asked, read; raises `NotALoan` at its fields."""
    on = _day(typed.on) if typed.on.strip() else None
    early = _percent("early", typed.early, marks) if typed.early.strip() else Decimal(0)
    if not 0 <= early < 100:
        raise NotALoan.at("early", worded("From 0 % to less than 100 % a year is repaid early."))
    rate = _percent("rate", typed.rate, marks) if typed.rate.strip() else None
    try:
        return PortfolioAsked(
            on=on, early=early, by=typed.by, rate=rate, compounded=typed.compounded
        )
    except ValidationError:
        raise NotALoan.at(
            "rate", worded("They are discounted at a rate from −20 % to 1,000 % a year.")
        ) from None


def _day(typed: str) -> date:
    days = read_days(typed.strip())
    if len(days) != 1:
        raise NotALoan.at(
            "on",
            worded(
                "“{typed}” is not one day of the calendar. Write it as {day}.",
                typed=typed[:40],
                day=write_day(date(2027, 3, 15)),
            ),
        )
    return days[0]


def _percent(name: str, typed: str, marks: Marks) -> Decimal:
    otherwise = worded("Write a percent, such as 5.25.")
    return Decimal(read_percent(typed, marks).stated_at(name, otherwise))


class ScenarioTold(BaseModel):
    """A way it may go, and what it is called."""

    model_config = ConfigDict(frozen=True, defer_build=True)

    scenario: Scenario
    title: str


class FlowsDrawn(BaseModel):
    """Flows by period to be drawn, in the currency."""

    model_config = ConfigDict(frozen=True, defer_build=True)

    periods: tuple[str, ...]
    principal: tuple[float, ...]
    early: tuple[float, ...]
    interest: tuple[float, ...]
    balance: tuple[float, ...]


class PortfolioTold(BaseModel):
    """What the loans of one currency move: `says` how long they last, `ways` it may go side by
    side, the `flows` of one of them by period, and these to be drawn."""

    model_config = ConfigDict(frozen=True, defer_build=True)

    currencies: tuple[str, ...]
    currency: str
    scenario: Scenario
    scenarios: tuple[ScenarioTold, ...]
    says: str
    notes: tuple[str, ...]
    ways: TableTold
    flows: TableTold
    drawn: FlowsDrawn


def portfolio_told(portfolio: Portfolio, typed: PortfolioTyped, marks: Marks) -> PortfolioTold:
    """What a table moves in the marks of whoever reads it; raises `NotALoan` where no loan of it
    has an answer."""
    parts = portfolio["parts"]
    if not parts:
        raise NotALoan.at("", worded("No row of this table has an answer: nothing moves."))
    part = next((each for each in parts if each["currency"] == typed.currency), parts[0])
    ways = part["scenarios"]
    way = next((each for each in ways if each["scenario"] == typed.scenario), ways[0])
    told = _Told(portfolio, part, marks)
    return PortfolioTold(
        currencies=tuple(each["currency"] for each in parts),
        currency=part["currency"],
        scenario=way["scenario"],
        scenarios=tuple(
            ScenarioTold(scenario=each["scenario"], title=told.title(each["scenario"]))
            for each in ways
        ),
        says=told.says(way),
        notes=tuple(told.notes()),
        ways=told.ways(),
        flows=told.flows(way["flows"]),
        drawn=told.drawn(way["flows"]),
    )


class _Told:
    """What is told of the loans of one currency."""

    def __init__(self, portfolio: Portfolio, part: PortfolioPart, marks: Marks) -> None:
        self._portfolio, self._part, self._marks = portfolio, part, marks

    def title(self, scenario: Scenario) -> str:
        """What a way is called."""
        early = self._marks.percent(Decimal(self._portfolio["early"]), 4, 0)
        if scenario == "agreed":
            return worded("as agreed")
        if scenario == "early":
            return worded("{percent} a year repaid early", percent=early)
        points = int(SHIFTS[scenario])
        if points < 0:
            return counted(
                "indices {points} point lower",
                "indices {points} points lower",
                -points,
                points=-points,
            )
        return counted(
            "indices {points} point higher",
            "indices {points} points higher",
            points,
            points=points,
        )

    def says(self, way: PortfolioScenario) -> str:
        """How long a way lasts, and what it is worth."""
        if way["average_life"] is None:
            return worded("Nothing is left to be paid.")
        lasts = worded(
            "Principal is repaid after {life} years on average.",
            life=self._marks.number(Decimal(way["average_life"]), 2, 2),
        )
        if way["worth"] is None:
            return lasts
        worth = worded(
            "At {rate} what is paid is worth {worth} and comes after {macaulay} years on average; "
            "a point more takes about {modified} % off its worth.",
            rate=self._marks.percent(Decimal(self._portfolio["rate"] or 0)),
            worth=self._amount(way["worth"]),
            macaulay=self._marks.number(Decimal(way["macaulay"] or 0), 2, 2),
            modified=self._marks.number(Decimal(way["modified"] or 0), 2, 2),
        )
        return f"{lasts} {worth}"

    def notes(self) -> list[str]:
        """What is to be known beside it."""
        notes = []
        on = self._portfolio["on"]
        if on is not None:
            notes.append(
                worded(
                    "From {day} on: what was paid up to that day is past, and loans without dates "
                    "are lent on it.",
                    day=write_day(date.fromisoformat(on)),
                )
            )
        if self._part["floating"]:
            notes.append(
                worded(
                    "Loans that follow an index: {count}; it is shifted after its last fixing.",
                    count=self._count(self._part["floating"]),
                )
            )
            if Decimal(self._portfolio["early"]):
                notes.append(worded("Indices are shifted with what is repaid early."))
        notes += [
            worded(
                "Loans that cannot be paid with {title}: {count}; they are not in it.",
                count=self._count(way["missing"]),
                title=self.title(way["scenario"]),
            )
            for way in self._part["scenarios"]
            if way["missing"]
        ]
        return notes

    def _count(self, count: int) -> str:
        return self._marks.write(str(count))

    def _amount(self, amount: str) -> str:
        return self._marks.write(amount)

    def ways(self) -> TableTold:
        """Every way, side by side."""
        has_worth = self._portfolio["rate"] is not None
        has_early = any(Decimal(way["early"]) for way in self._part["scenarios"])
        heads = [
            "",
            worded("Loans"),
            worded("Principal"),
            *([worded("Repaid early")] if has_early else []),
            worded("Interest"),
            worded("Average life, years"),
        ]
        if has_worth:
            heads += [worded("Worth"), worded("Macaulay duration"), worded("Modified duration")]
        rows = []
        for way in self._part["scenarios"]:
            cells = [
                self._count(way["rows"]),
                self._amount(way["principal"]),
                *([self._amount(way["early"])] if has_early else []),
                self._amount(way["interest"]),
                self._years(way["average_life"]),
            ]
            if has_worth:
                cells += [
                    self._amount(way["worth"] or ""),
                    self._years(way["macaulay"]),
                    self._years(way["modified"]),
                ]
            rows.append(row_told(self.title(way["scenario"]), *cells))
        return TableTold(heads=tuple(heads), rows=tuple(rows))

    def _years(self, years: str | None) -> str:
        return "–" if years is None else self._marks.number(Decimal(years), 4, 4)

    def flows(self, flows: Sequence[PortfolioFlow]) -> TableTold:
        """One way, by period."""
        names = {
            "lent": worded("Lent"),
            "principal": worded("Principal"),
            "early": worded("Repaid early"),
            "interest": worded("Interest"),
            "balance": worded("Owed at its end"),
        }
        optional = ("lent", "early")
        shown = [
            name
            for name in names
            if name not in optional or any(Decimal(flow[name]) for flow in flows)  # type: ignore[literal-required]
        ]
        rows = (
            row_told(
                self._period(flow["period"]),
                *(self._amount(flow[name]) for name in shown),  # type: ignore[literal-required]
            )
            for flow in flows
        )
        return TableTold(
            heads=(worded("Period"), *(names[name] for name in shown)), rows=tuple(rows)
        )

    def _period(self, period: str) -> str:
        year, _, part = period.partition("-")
        if part.startswith("Q"):
            return worded("Q{quarter} {year}", quarter=part[1:], year=year)
        if part:
            return f"{day_form().months[int(part) - 1]} {year}"
        if len(year) == 4 and self._is_dated():
            return year
        names: dict[By, str] = {
            "month": worded("month {number}", number=self._count(int(year))),
            "quarter": worded("quarter {number}", number=self._count(int(year))),
            "year": worded("year {number}", number=self._count(int(year))),
        }
        return names[self._portfolio["by"]]

    def _is_dated(self) -> bool:
        return self._portfolio["dated"]

    def drawn(self, flows: Sequence[PortfolioFlow]) -> FlowsDrawn:
        """One way, as numbers."""
        return FlowsDrawn(
            periods=tuple(self._period(flow["period"]) for flow in flows),
            principal=tuple(float(flow["principal"]) for flow in flows),
            early=tuple(float(flow["early"]) for flow in flows),
            interest=tuple(float(flow["interest"]) for flow in flows),
            balance=tuple(float(flow["balance"]) for flow in flows),
        )
