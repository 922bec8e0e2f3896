"""How each entry of a statement is read, in its own marks."""

from datetime import date
from decimal import Decimal
from typing import Final

from zephyrant.texts import worded

from ..calendars.dates import later, pace
from ..calendars.days_in_words import write_day
from ..document.fields import UNKNOWN
from ..document.limits import MOST_PAYMENTS
from ..numbers.currencies import currencies
from ..numbers.decimals import plain, precise, to_step
from ..quotes.styles import CONVENTIONS, Style
from ..wording.marks import MARKS, Marks
from .parsing import PLACES, Reading
from .statement import Statement, TypedAim, TypedClause, follows_from_bounds
from .typed_amounts import read_amount, read_balance, read_payment, read_percent
from .typed_bounds import bounds_readings
from .typed_days import days_readings
from .typed_floating import floating_readings
from .typed_parts import read_percents
from .typed_times import read_count, read_date, read_place, read_time, time_of

#: The entries of a statement that are plain numbers once they are read.
NUMBERS: Final = ("principal", "percent", "count", "payment", "balance")
#: The entries of a purchase.
BOUGHT: Final = ("price", "down")


def readings(statement: Statement) -> dict[str, Reading]:
    """How each entry of a statement is read, in its own marks."""
    marks, currency = MARKS[statement.marks], statement.currency
    timed = (
        {"over": read_time(statement.over, marks)} if CONVENTIONS[statement.quoted].is_timed else {}
    )
    bought = _purchase_readings(statement, marks) if statement.is_purchase else {}
    principal = (
        _lent(statement, bought, marks)
        if bought
        else read_amount(statement.principal, marks, currency)
    )
    start = read_date(statement.start)
    clauses = {}
    if statement.aim:
        clauses["aim.is"] = _aim_reading(statement, statement.aim, marks)
    for number, clause in enumerate(statement.clauses):
        for name, reading in _clause_readings(clause, statement).items():
            clauses[f"clauses.{number}.{name}"] = reading
    return {
        **timed,
        **bought,
        "principal": principal,
        "percent": _percent(statement, marks),
        **floating_readings(statement, marks),
        "count": read_count(statement.count, marks, statement.every),
        "payment": _payment(statement, marks),
        **_repaid_readings(statement, marks),
        **bounds_readings(statement, marks),
        "balance": read_balance(statement.balance, marks, currency, principal),
        "start": start,
        "first_payment": _first_payment(statement, start),
        **days_readings(statement),
        **clauses,
    }


def _percent(statement: Statement, marks: Marks) -> Reading:
    """The percent of the rate; of one that floats none is typed."""
    return Reading() if statement.floating else read_percent(statement.percent, marks)


def _payment(statement: Statement, marks: Marks) -> Reading:
    """The payment; where it follows from cover and value what stands in its place."""
    if follows_from_bounds(statement):
        return Reading(text=worded("as the bounds allow"))
    return read_payment(statement.payment, marks, statement.currency, statement.every)


def _repaid_readings(statement: Statement, marks: Marks) -> dict[str, Reading]:
    """How parts in percent, or over how many payments they are reckoned, are read."""
    if statement.repaid == "percents":
        return {"percents": read_percents(statement.percents, marks)}
    if statement.repaid == "over":
        every = statement.every
        return {"amortized_over": read_count(statement.amortized_over, marks, every)}
    return {}


def _aim_reading(statement: Statement, aim: TypedAim, marks: Marks) -> Reading:
    """What a result is to be: money, a percentage or a number of payments."""
    figure, typed = aim.figure, aim.is_
    if figure == "count":
        reading = read_count(typed, marks, statement.every)
    elif figure == "end_date":
        reading = read_date(typed)
        if reading.value is None and reading.error is None:
            reading = Reading(
                error=worded("Nothing is stated here. Write the day it is to end on.")
            )
    elif figure in ("effective", "us_apr", "eu_aprc"):
        reading = read_percent(typed, marks)
    else:
        reading = read_amount(typed, marks, statement.currency)
    if reading.value == UNKNOWN:
        return Reading(error=worded("An aim is a number: what the result is to be."))
    return reading


def _purchase_readings(statement: Statement, marks: Marks) -> dict[str, Reading]:
    """How a price and what is paid of it at once are read."""
    currency = statement.currency
    down = (
        read_percent(statement.down, marks)
        if statement.down_in_percent
        else read_amount(statement.down, marks, currency)
    )
    return {"price": read_amount(statement.price, marks, currency), "down": down}


def _lent(statement: Statement, bought: dict[str, Reading], marks: Marks) -> Reading:
    """The amount lent, where price and down payment tell it."""
    price, down = (bought[name].value for name in BOUGHT)
    if price is None or down is None or UNKNOWN in (price, down):
        return Reading()
    decimals = currencies()[statement.currency].decimals
    with precise():
        paid = Decimal(down)
        if statement.down_in_percent:
            paid = to_step(Decimal(price) * paid / 100, Decimal(1).scaleb(-decimals), "nearest")
        lent = Decimal(price) - paid
    if lent < 0:
        return Reading()
    return Reading(value=plain(lent), text=marks.number(lent, PLACES, decimals))


def _clause_readings(clause: TypedClause, statement: Statement) -> dict[str, Reading]:
    """How what is typed in a clause is read; what its verb does not need is not."""
    marks = MARKS[statement.marks]
    places = {"from": clause.begin, "to": clause.to} if clause.is_stretch else {"at": clause.at}
    read = {
        name: read_place(typed, marks, may_be_open=clause.is_stretch)
        for name, typed in places.items()
    }
    if clause.verb == "rate" or (clause.verb in ("step", "fee", "charge") and clause.in_percent):
        read["figure"] = read_percent(clause.figure, marks)
    elif clause.verb != "pay":
        read["figure"] = read_amount(clause.figure, marks, statement.currency)
    if clause.verb == "rate" and CONVENTIONS[clause.quoted].is_timed:
        read["over"] = read_time(clause.over, marks)
    if clause.verb == "step" and clause.every.strip():
        read["every"] = read_count(clause.every, marks, statement.every)
    return read


def _first_payment(statement: Statement, start: Reading) -> Reading:
    """The day of the first payment; where none is typed, the text of the regular one."""
    step = pace(statement.every)
    if statement.first_payment.strip() or start.value is None or step is None:
        return read_date(statement.first_payment)
    day = date.fromisoformat(start.value)
    try:
        regular = day if statement.timing == "in-advance" else later(day, step, 1)
    except OverflowError:
        return Reading()
    return Reading(text=write_day(regular))


def style_of(statement: Statement) -> Style | None:
    """How the rate of a statement is quoted; none while its time or its term is not stated."""
    read = readings(statement)
    over = time_of(read["over"]) if "over" in read else None
    if "over" in read and over is None:
        return None
    payments = None
    if CONVENTIONS[statement.quoted].is_of_a_loan:
        count = read["count"].value
        if count is None or not count.isdecimal() or not 1 <= int(count) <= MOST_PAYMENTS:
            return None
        payments = int(count)
    every = statement.every
    return Style(
        quoted=statement.quoted,
        compounding=every if statement.compounding is None else statement.compounding,
        every=every,
        over=over,
        year_days=statement.year_days,
        payments=payments,
        in_advance=payments is not None and statement.timing == "in-advance",
    )
