"""The schedule as columns: money in whole minor units, to be sent and laid out quickly."""

from collections.abc import Sequence
from typing import Any, Final

from pydantic import BaseModel, ConfigDict

from .answer import Answer

#: Whole numbers up to here are told apart by programs that count in floats.
_MOST_EXACT: Final = 2**53
_MONEY: Final = (
    *("opening", "interest", "principal", "payment", "closing"),
    *("advance", "fee", "repay"),
)


class ScheduleColumns(BaseModel):
    """The rows of a schedule, a column each. `money` is in whole units of which `decimals` figures
    stand after the point; a column with finer or larger amounts is told as decimal texts. `date`:
    None without dates."""

    model_config = ConfigDict(frozen=True)

    decimals: int
    number: list[int]
    date: list[str] | None
    money: dict[str, list[int] | list[str]]


def columns_told(answer: Answer, decimals: int) -> ScheduleColumns | None:
    """The schedule of an answer, with the carrying amounts, as columns; None without one."""
    rows: list[Any] = answer.schedule
    if not rows:
        return None
    money = {
        name: _units([row[name] for row in rows], decimals) for name in _MONEY if name in rows[0]
    }
    if answer.carrying:
        money["carrying"] = _units(answer.carrying, decimals)
    dates = [row["date"] for row in rows]
    return ScheduleColumns.model_construct(
        decimals=decimals,
        number=[row["number"] for row in rows],
        date=dates if dates[0] is not None else None,
        money=money,
    )


def _units(texts: Sequence[str], decimals: int) -> list[int] | list[str]:
    if any(len(text) - text.find(".") - 1 != decimals for text in texts) and decimals:
        return list(texts)
    if not decimals and any("." in text for text in texts):
        return list(texts)
    units = [int(text.replace(".", "")) for text in texts]
    return units if max(map(abs, units)) < _MOST_EXACT else list(texts)
