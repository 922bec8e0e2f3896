"""The schedule told: totals, rows, years, what is paid how often."""

from collections.abc import Iterator
from datetime import date
from decimal import Decimal
from functools import cache
from itertools import groupby
from typing import Any, Final

from ..document.loan import Loan
from ..document.named import COLUMNS_NAMED
from ..ledger.rows import Row, Schedule, due
from ..numbers.decimals import Unit, plain, to_step
from ..wording.marks import Money, Number, Sentence
from .answer import Answer, ScheduleRow, ScheduleYear, Totals

#: Columns that stand only where something stands in them: a fee kept back or paid apart moves no
#: balance.
_MOVED: Final = ("advance", "fee", "repay")


def columns_of(answer: Answer) -> tuple[str, ...]:
    """The columns a schedule has something to say in, in the order one reads them."""
    if not answer.schedule:
        return ()
    is_there = {
        "date": answer.schedule[0]["date"] is not None,
        "carrying": bool(answer.carrying),
        **{name: _moves(answer, name) for name in _MOVED},
    }
    return tuple(name for name in COLUMNS_NAMED if is_there.get(name, True))


def _moves(answer: Answer, name: str) -> bool:
    rows: list[Any] = answer.schedule
    return name in rows[0] and any(Decimal(row[name]) for row in rows)


def totals_of(schedule: Schedule, fees: Decimal) -> Totals:
    """What is paid, lent and owed in all, to the cent."""
    write, rows = schedule.unit.write, schedule.rows
    paid = [row.paid for row in rows if row.paid]
    return {
        "paid": write(sum(paid)),
        "interest": write(sum(row.interest for row in rows)),
        "principal": write(sum(row.principal for row in rows)),
        "fees": plain(fees, schedule.unit.shown),
        "final_payment": write(paid[-1] if paid else 0),
        "payments": len(paid),
    }


def paid_as(schedule: Schedule) -> Sentence:
    """What rounding did, as it will be paid."""
    rows, unit = schedule.rows, schedule.unit
    by_amount = {amount: shown(unit, amount) for amount in {row.payment for row in rows}}
    final = rows[-1]
    runs = [
        (amount, len(list(group)))
        for amount, group in groupby(rows[:-1], key=lambda row: by_amount[row.payment])
    ]
    figures: dict[str, Money | Number] = {
        "final": money_text(unit, final.payment),
        "left": money_text(unit, abs(final.closing)),
        "all": Number(len(rows)),
    }
    if len(runs) == 1 and runs[0][0] == by_amount[final.payment]:
        text = "{all} payments of {final}"
    elif not runs:
        text = "one payment of {final}"
    else:
        text = _runs(runs, figures, unit) + " and a last one of {final}"
    if final.closing:
        text += ", then {left} still owed" if final.closing > 0 else ", {left} overpaid"
    return Sentence(text, **figures)


#: Runs of payments alike that a sentence still tells one by one.
_MOST_RUNS: Final = 3


def _runs(runs: list[tuple[Decimal, int]], figures: dict[str, Money | Number], unit: Unit) -> str:
    if len(runs) > _MOST_RUNS:
        figures["before"] = Number(sum(length for _, length in runs))
        return "{before} payments of several sizes"
    told_runs = []
    for number, (amount, length) in enumerate(runs):
        figures[f"run{number}"] = Money(amount, unit.shown)
        figures[f"length{number}"] = Number(length)
        told_runs.append(
            f"one payment of {{run{number}}}"
            if length == 1
            else f"{{length{number}}} payments of {{run{number}}}"
        )
    return ", ".join(told_runs)


def shown(unit: Unit, units: int) -> Decimal:
    """Units as an amount of money, to the decimals that are shown."""
    return to_step(unit.amount(units), Decimal(1).scaleb(-unit.shown), "nearest")


def money_text(unit: Unit, units: int) -> Money:
    """An amount as it is printed to the minor unit."""
    return Money(unit.amount(units), unit.shown)


def rows_told(schedule: Schedule, loan: Loan) -> list[ScheduleRow]:
    """The rows of the schedule, to the cent, with their days."""
    # A row opens where the last closed and most payments are alike: each is written once.
    write = cache(schedule.unit.write)
    rows: list[ScheduleRow] = [
        {
            "number": row.number,
            "date": iso(due(row, loan.calendar)),
            "opening": write(row.opening),
            "interest": write(row.interest),
            "principal": write(row.principal),
            "payment": write(row.payment),
            "closing": write(row.closing),
        }
        for row in schedule.rows
    ]
    verbs = {clause.verb for clause in loan.clauses}
    for told_row, row in zip(rows, schedule.rows, strict=True) if verbs else ():
        if "advance" in verbs:
            told_row["advance"] = write(row.advance)
        if "repay" in verbs:
            told_row["repay"] = write(row.repay)
        if "fee" in verbs:
            told_row["fee"] = write(row.fee)
    return rows


def iso(day: date | None) -> str | None:
    """A day as the document writes it."""
    return None if day is None else day.isoformat()


def years_told(schedule: Schedule, loan: Loan, year_starts: int | None) -> list[ScheduleYear]:
    """The schedule by years, which start in a month or with the loan."""
    write = schedule.unit.write
    return [
        {
            "year": year,
            "label": label,
            "first": rows[0].number,
            "last": rows[-1].number,
            "opening": write(rows[0].opening),
            "interest": write(sum(row.interest for row in rows)),
            "principal": write(sum(row.principal for row in rows)),
            "payment": write(sum(row.paid for row in rows)),
            "closing": write(rows[-1].closing),
        }
        for year, label, rows in years_of(schedule, loan, year_starts)
    ]


def years_of(
    schedule: Schedule, loan: Loan, year_starts: int | None
) -> Iterator[tuple[int, str, list[Row]]]:
    """The rows by year: of the loan, or of years that start in a month of the calendar."""
    calendar = loan.calendar
    if calendar is None or year_starts is None:
        each = loan.payments_a_year
        for year, rows in groupby(
            schedule.rows, key=lambda row: max(0, row.stands_at - 1) // each + 1
        ):
            yield year, str(year), list(rows)
        return

    def year_of(row: Row) -> int:
        day = due(row, loan.calendar) or calendar.start
        return day.year if day.month >= (year_starts or 1) else day.year - 1

    for year, rows in groupby(schedule.rows, key=year_of):
        label = str(year) if year_starts == 1 else f"{year}/{(year + 1) % 100:02}"
        yield year, label, list(rows)
