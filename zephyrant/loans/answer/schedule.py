"""The schedule told: totals, rows, years, what is paid how often."""

from collections.abc import Iterator
from datetime import date
from decimal import Decimal
from itertools import groupby
from operator import gt
from typing import Any, Final

from zephyrant.texts import worded

from ..document.loan import Loan
from ..ledger.rows import Schedule
from ..numbers.decimals import Unit, plain, to_step
from ..wording.marks import Money, Number, Sentence
from .answer import ScheduleYear, Totals
from .laid import Laid


def totals_of(schedule: Schedule, fees: Decimal) -> Totals:
    """What is paid, lent and owed in all, to the cent."""
    write, columns = schedule.unit.write, schedule.columns
    paid = [amount for amount in columns.paid if amount]
    return {
        "paid": write(sum(paid)),
        "interest": write(sum(columns.interest)),
        "principal": write(sum(columns.principal)),
        "fees": plain(fees, schedule.unit.shown),
        "final_payment": write(paid[-1] if paid else 0),
        "payments": len(paid),
        "charges": write(sum(columns.charge)),
        "balance_due": write(columns.closing[-1]),
    }


def paid_as(schedule: Schedule, there: str) -> Sentence:
    """What rounding did, as it will be paid; `there` says what becomes of a balance."""
    rows, unit = schedule.rows, schedule.unit
    payments = schedule.columns.payment
    by_amount = {amount: shown(unit, amount) for amount in set(payments)}
    final = rows[-1]
    runs = [
        (amount, len(list(group)))
        for amount, group in groupby(map(by_amount.__getitem__, payments[:-1]))
    ]
    figures: dict[str, Money | Number] = {
        "final": money_text(unit, final.payment),
        "left": money_text(unit, abs(final.closing)),
        "all": Number(len(rows)),
    }
    if not any(payments):
        text = worded("no regular payments")
    elif len(runs) == 1 and runs[0][0] == by_amount[final.payment]:
        text = worded("{all} payments of {final}")
    elif not runs:
        text = worded("one payment of {final}")
    elif not any(payments[:-1]):
        text = worded("one payment of {final}, the last of {all}")
    elif len(runs) > _MOST_RUNS and all(map(gt, payments, payments[1:])):
        figures["first"] = money_text(unit, payments[0])
        text = worded("{all} payments that fall from {first} to {final}")
    else:
        text = _runs(runs, figures, unit) + worded(" and a last one of {final}")
    if final.closing:
        text += (
            worded(", then {left} {there}", there=there)
            if final.closing > 0
            else worded(", {left} overpaid")
        )
    return Sentence(text, **figures)


#: Runs of payments alike that a sentence still tells one by one.
_MOST_RUNS: Final = 3


def _runs(runs: list[tuple[Decimal, int]], figures: dict[str, Money | Number], unit: Unit) -> str:
    if len(runs) > _MOST_RUNS:
        figures["before"] = Number(sum(length for _, length in runs))
        return worded("{before} payments of several sizes")
    told_runs = []
    for number, (amount, length) in enumerate(runs):
        figures[f"run{number}"] = Money(amount, unit.shown)
        figures[f"length{number}"] = Number(length)
        told_runs.append(
            worded("one payment of {final}", final=f"{{run{number}}}")
            if length == 1
            else worded(
                "{all} payments of {final}", all=f"{{length{number}}}", final=f"{{run{number}}}"
            )
        )
    return ", ".join(told_runs)


def shown(unit: Unit, units: int) -> Decimal:
    """Units as an amount of money, to the decimals that are shown."""
    return to_step(unit.amount(units), Decimal(1).scaleb(-unit.shown), "nearest")


def money_text(unit: Unit, units: int) -> Money:
    """An amount as it is printed to the minor unit."""
    return Money(unit.amount(units), unit.shown)


def iso(day: date | None) -> str | None:
    """A day as the document writes it."""
    return None if day is None else day.isoformat()


#: What a stretch of rows adds up to.
_SUMMED: Final = ("advance", "fee", "interest", "principal", "payment", "repay")


def years_told(laid: Laid, loan: Loan, year_starts: int | None) -> list[ScheduleYear]:
    """The schedule by years, which start in a month or with the loan."""
    return _stretches(laid, list(_years_of(laid, loan, year_starts)))


def whole_told(laid: Laid) -> ScheduleYear:
    """The schedule added up, as though it were one year."""
    [whole] = _stretches(laid, [(0, "", 0, len(laid.schedule.rows))])
    return whole


def _stretches(laid: Laid, stretches: list[tuple[int, str, int, int]]) -> list[ScheduleYear]:
    """What stretches of rows add up to in every column of money."""
    columns, write_all = laid.schedule.columns, laid.schedule.unit.write_all
    opening = write_all([columns.opening[begins] for _, _, begins, _ in stretches])
    closing = write_all([columns.closing[ends - 1] for *_, ends in stretches])
    sums = {
        name: write_all(
            [sum(getattr(columns, name)[begins:ends]) for *_, begins, ends in stretches]
        )
        for name in _SUMMED
    }
    told: list[ScheduleYear] = [
        {
            "year": year,
            "label": label,
            "first": columns.number[begins],
            "last": columns.number[ends - 1],
            "rows": ends - begins,
            "opening": opening[place],
            "advance": sums["advance"][place],
            "fee": sums["fee"][place],
            "interest": sums["interest"][place],
            "principal": sums["principal"][place],
            "payment": sums["payment"][place],
            "repay": sums["repay"][place],
            "closing": closing[place],
        }
        for place, (year, label, begins, ends) in enumerate(stretches)
    ]
    if any(columns.charge):
        charges = [sum(columns.charge[begins:ends]) for *_, begins, ends in stretches]
        for stretch, text in zip(told, write_all(charges), strict=True):
            stretch["charge"] = text
    if columns.actuarial_closing:
        beside = write_all([columns.actuarial_closing[ends - 1] for *_, ends in stretches])
        for stretch, text in zip(told, beside, strict=True):
            stretch["actuarial_closing"] = text
    for stretch, (*_, begins, ends) in zip(told, stretches, strict=True):
        ratios: Any = laid.ratios.of_rows(begins, ends)
        stretch.update(ratios)
    return told


def _years_of(
    laid: Laid, loan: Loan, year_starts: int | None
) -> Iterator[tuple[int, str, int, int]]:
    """Each year, of the loan or starting in a month of the calendar: its number, its label, where
    its rows begin and end."""
    each, days = loan.payments_a_year, laid.days
    if days is None or year_starts is None:
        # The start is of the first year.
        years = [(place + each - 1) // each or 1 for place in laid.schedule.columns.stands_at]
    else:
        years = [day.year - (day.month < year_starts) for day in days]
    begins = 0
    for year, some in groupby(years):
        ends = begins + len(list(some))
        label = str(year)
        if days is not None and year_starts not in (None, 1):
            label = f"{year}/{(year + 1) % 100:02}"
        yield year, label, begins, ends
        begins = ends
