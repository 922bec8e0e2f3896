"""A loan laid out to the cent, as it is told: rows are written when they are asked for."""

from collections.abc import Sequence
from datetime import date
from functools import cached_property
from itertools import repeat
from typing import Any, Final, Literal, NotRequired

from pydantic import BaseModel, ConfigDict
from typing_extensions import TypedDict

from ..document.loan import Loan
from ..document.named import COLUMNS_NAMED
from ..ledger.rows import Schedule
from ..numbers.decimals import Unit
from .bounded import Ratios

#: The columns of money: those of every schedule, and those that clauses bring.
_MONEY: Final = ("opening", "interest", "principal", "payment", "closing")
_Besides = Literal["advance", "fee", "repay", "charge", "actuarial_closing"]
_OF_CLAUSES: Final[tuple[_Besides, ...]] = ("advance", "fee", "repay", "charge")
#: The same, and what another rule of sharing interest out brings.
_BESIDES: Final[tuple[_Besides, ...]] = (*_OF_CLAUSES, "actuarial_closing")
#: What is told in no money.
_RATIOS: Final[tuple[Literal["cover_ratio", "loan_to_value"], ...]] = (
    "cover_ratio",
    "loan_to_value",
)
#: Whole numbers up to here are told apart by programs that count in floats.
_MOST_EXACT: Final = 2**53


class ScheduleRow(TypedDict):
    """One row of the schedule, money as decimal strings. `scheduled`: the day a payment stood on
    that business days moved.

    `advance`, `repay`, `fee` (added to what is owed) and `charge` (collected beside the payment)
    stand there where clauses have such,
    `actuarial_closing` where interest is shared out by another rule than on what is owed,
    `cover_ratio` (that of the period it lies in, nothing where nothing is paid) and `loan_to_value`
    (what is then owed, in percent) where a cover and a value are stated.
    """

    number: int
    date: str | None
    scheduled: NotRequired[str]
    opening: str
    interest: str
    principal: str
    payment: str
    closing: str
    advance: NotRequired[str]
    repay: NotRequired[str]
    fee: NotRequired[str]
    charge: NotRequired[str]
    actuarial_closing: NotRequired[str]
    cover_ratio: NotRequired[str]
    loan_to_value: NotRequired[str]


class ScheduleColumns(BaseModel):
    """The rows of a schedule, a column each. `money` is in whole units of which `decimals` figures
    stand after the point; a column with finer or larger amounts is told as decimal texts, as are
    `cover_ratio` and `loan_to_value`. `date`: None without dates; `scheduled`: where business days
    moved no payment."""

    model_config = ConfigDict(frozen=True, defer_build=True)

    decimals: int
    number: list[int]
    date: list[str] | None
    scheduled: list[str | None] | None
    money: dict[str, list[int] | list[str]]


class Laid:
    """A schedule, the days of its rows, and the carrying amounts after them where there are
    fees."""

    def __init__(
        self, loan: Loan, schedule: Schedule, carrying: tuple[str, ...], ratios: Ratios
    ) -> None:
        self.schedule, self.carrying, self.ratios = schedule, carrying, ratios
        self._calendar, self._decimals = loan.calendar, loan.decimals
        verbs = {clause.verb for clause in loan.clauses}
        self._besides: tuple[_Besides, ...] = tuple(name for name in _OF_CLAUSES if name in verbs)
        if loan.interest_shared:
            self._besides = (*self._besides, "actuarial_closing")

    def __eq__(self, other: object) -> bool:
        if not isinstance(other, Laid):
            return NotImplemented
        mine, theirs = ((each.schedule, each.carrying, each.days) for each in (self, other))
        return mine == theirs

    __hash__ = None  # type: ignore[assignment]

    @cached_property
    def days(self) -> tuple[date, ...] | None:
        """When what each row tells happens; None without dates."""
        return self.schedule.due(self._calendar)

    @cached_property
    def scheduled(self) -> tuple[date | None, ...] | None:
        """The days on which payments stood that business days moved; None where none is."""
        stood = self.schedule.stood_on(self._calendar)
        return stood if any(stood) else None

    @cached_property
    def rows(self) -> list[ScheduleRow]:
        """Every row."""
        columns, unit = self.schedule.columns, self.schedule.unit
        closing = unit.write_all(columns.closing)
        rows: list[ScheduleRow] = [
            {
                "number": number,
                "date": day,
                "opening": opening,
                "interest": interest,
                "principal": principal,
                "payment": payment,
                "closing": closes,
            }
            for number, day, opening, interest, principal, payment, closes in zip(
                columns.number,
                self._days_told or repeat(None, len(closing)),
                _opening(columns.opening, columns.closing, closing, unit),
                unit.write_all(columns.interest),
                unit.write_all(columns.principal),
                _written(columns.payment, unit),
                closing,
                strict=True,
            )
        ]
        for name in self._besides:
            column: Any = _written(getattr(columns, name), unit)
            for row, text in zip(rows, column, strict=True):
                row[name] = text
        for row, stood_on in zip(rows, self._scheduled_told or (), strict=False):
            if stood_on is not None:
                row["scheduled"] = stood_on
        for beside in _RATIOS:
            for row, text in zip(rows, self.ratios.columns.get(beside, ()), strict=False):
                row[beside] = text
        return rows

    @cached_property
    def columns_told(self) -> ScheduleColumns:
        """The rows as columns, the carrying amounts among them."""
        columns, unit, decimals = self.schedule.columns, self.schedule.unit, self._decimals
        money: dict[str, list[int] | list[str]] = {}
        for name in (*_MONEY, *self._besides):
            column: tuple[int, ...] = getattr(columns, name)
            whole = unit.places == decimals and max(map(abs, column)) < _MOST_EXACT
            money[name] = list(column) if whole else _units(unit.write_all(column), decimals)
        if self.carrying:
            money["carrying"] = _units(self.carrying, decimals)
        money |= self.ratios.columns
        return ScheduleColumns.model_construct(
            decimals=decimals,
            number=list(columns.number),
            date=self._days_told,
            scheduled=self._scheduled_told,
            money=money,
        )

    @cached_property
    def titles(self) -> tuple[str, ...]:
        """The columns there is something to say in, in the order one reads them. A fee kept back or
        paid apart moves no balance: a column of what clauses bring stands only where something
        stands in it."""
        there: dict[str, bool] = {
            "date": self.days is not None,
            "scheduled": self.scheduled is not None,
            "carrying": bool(self.carrying),
            **{name: name in self._besides and self.moves(name) for name in _BESIDES},
            **{name: name in self.ratios.columns for name in _RATIOS},
        }
        return tuple(name for name in COLUMNS_NAMED if there.get(name, True))

    def moves(self, name: str) -> bool:
        """Whether something stands in a column of money."""
        return any(getattr(self.schedule.columns, name))

    @cached_property
    def _scheduled_told(self) -> list[str | None] | None:
        if self.scheduled is None:
            return None
        return [None if day is None else day.isoformat() for day in self.scheduled]

    @cached_property
    def _days_told(self) -> list[str] | None:
        return None if self.days is None else [day.isoformat() for day in self.days]


def _opening(
    opening: Sequence[int], closing: Sequence[int], told: Sequence[str], unit: Unit
) -> list[str]:
    """What is owed before each row: where the last closed, as a schedule goes on."""
    if opening[1:] == closing[:-1]:
        return [unit.write(opening[0]), *told[:-1]]
    return unit.write_all(opening)


def _written(column: Sequence[int], unit: Unit) -> list[str]:
    """A column written; one in which little differs, each amount once."""
    each = set(column)
    if 2 * len(each) > len(column):
        return unit.write_all(column)
    texts = {units: unit.write(units) for units in each}
    return [texts[units] for units in column]


def _units(texts: Sequence[str], decimals: int) -> list[int] | list[str]:
    """Amounts written as whole units, where they are."""
    if any(len(text) - text.find(".") - 1 != decimals for text in texts) and decimals:
        return list(texts)
    if not decimals and any("." in text for text in texts):
        return list(texts)
    units = [int(text.replace(".", "")) for text in texts]
    return units if max(map(abs, units)) < _MOST_EXACT else list(texts)
