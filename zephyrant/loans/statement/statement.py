"""A loan as typed: read into a document, worked, and a document told back as typed.

A statement is a loan document whose figures stand as typed, in the marks of whoever types.
"""

import re
from contextlib import suppress
from datetime import date
from decimal import Decimal
from string import ascii_lowercase
from typing import Any, Final

from pydantic import BaseModel, ConfigDict, Field

from ..answer.answer import Answer
from ..answer.solving import solve
from ..budget import BudgetSpentError
from ..calendars import frequencies
from ..calendars.dates import DayCount, later, pace
from ..calendars.days_in_words import write_day
from ..document.clauses import Clause, Pay, Share, Taken, VerbName
from ..document.fields import UNKNOWN, CompoundingField, CurrencyCode, Every, OddDays
from ..document.limits import MOST_CLAUSES, MOST_PAYMENTS
from ..document.loan import Loan
from ..document.parts import Rounding
from ..document.price import told_of
from ..document.reading import check, write
from ..errors import FieldError, NotALoan
from ..numbers.annuity import Timing
from ..numbers.currencies import currencies
from ..numbers.decimals import plain, precise, to_step
from ..quotes.styles import SCALED, TIMED, Quoted, Style, YearDays
from ..wording.marks import MARKS, Marks, MarksName, Number, Sentence
from .parsing import (
    PLACES,
    Reading,
    read_amount,
    read_balance,
    read_count,
    read_date,
    read_payment,
    read_percent,
    read_place,
    read_time,
    tidy,
    time_of,
    time_text,
)

_TYPED: Final = Field(default="", max_length=200)


class TypedClause(BaseModel):
    """A clause as typed: where (`at`, or `begin` and `to`), what is done, and how much.

    `figure` is the verb's amount or percent. Places are numbers of payments or days.
    """

    model_config = ConfigDict(frozen=True, extra="forbid")

    verb: VerbName = "payment"
    at: str = _TYPED
    begin: str = _TYPED
    to: str = _TYPED
    is_stretch: bool = False
    months: tuple[int, ...] = Field(default=(), max_length=12)
    figure: str = _TYPED
    in_percent: bool = False
    quoted: Quoted = "nominal"
    compounding: CompoundingField | None = None
    over: str = _TYPED
    year_days: YearDays = 365
    pay: Pay = "nothing"
    every: str = _TYPED
    taken: Taken = "from-proceeds"
    levels: bool = False


class Statement(BaseModel):
    """A loan as typed: figures are text in `marks`, choices are the document's own.

    Of a purchase `price` and `down` are typed, and the principal follows from them. An aim names
    its result and the figure that moves as a document does; what it is to be is typed.
    """

    model_config = ConfigDict(frozen=True, extra="forbid")

    marks: MarksName = "comma-point"
    name: str = Field(default="", max_length=200)
    currency: CurrencyCode = "EUR"
    principal: str = Field(default="", max_length=200)
    is_purchase: bool = False
    price: str = _TYPED
    down: str = _TYPED
    down_in_percent: bool = True
    percent: str = Field(default="", max_length=200)
    quoted: Quoted = "nominal"
    compounding: CompoundingField | None = None
    over: str = Field(default="", max_length=200)
    year_days: YearDays = 365
    count: str = Field(default="", max_length=200)
    every: Every = "month"
    payment: str = Field(default="", max_length=200)
    balance: str = Field(default="0", max_length=200)
    timing: Timing = "in-arrears"
    rounding: Rounding = Rounding()
    start: str = Field(default="", max_length=200)
    first_payment: str = Field(default="", max_length=200)
    day_count: DayCount = "equal"
    odd_days: OddDays = "simple"
    clauses: tuple[TypedClause, ...] = Field(default=(), max_length=MOST_CLAUSES)
    aim_figure: str = Field(default="", max_length=20)
    aim_is: str = _TYPED
    aim_by: str = Field(default="", max_length=100)


class Worked(BaseModel):
    """A statement worked: how each entry was read, the document, its answer or what is wrong."""

    model_config = ConfigDict(frozen=True)

    readings: dict[str, Reading]
    errors: tuple[FieldError, ...]
    document: dict[str, Any] | None
    answer: Answer | None


def read_values(typed: str, path: str, statement: Statement, most: int) -> tuple[Decimal, ...]:
    """Values of a figure to try: "5.5 to 7 by 1/8", "3 to 7 years by 1 year", "6; 6.35; 7".

    Raises `ValueError` with a sentence where that cannot be read or is more than `most`.
    """
    marks = MARKS[statement.marks]

    def one(text: str) -> Decimal:
        if path.endswith("percent"):
            reading = read_percent(text, marks)
        elif path == "count":
            reading = read_count(text, marks, statement.every)
        else:
            reading = read_amount(text, marks, statement.currency)
        if reading.value is None or reading.value == UNKNOWN:
            raise ValueError(reading.error or "A value to try is a number.")
        return Decimal(reading.value)

    first, _, rest = tidy(typed).partition(" to ")
    last, _, step = rest.partition(" by ")
    if not (first and last and step):
        parts = [part for part in re.split(r";|, | and ", " ".join(typed.split())) if part.strip()]
        _refuse_many(len(parts), most, marks)
        return tuple(one(part) for part in _in_the_last_unit(parts, path))
    unit = last[len(last.rstrip(ascii_lowercase)) :]
    if path == "count" and first.isdecimal():
        first = f"{first} {unit}"
    begin, end, by = one(first), one(last), one(step)
    if by <= 0 or end < begin:
        raise ValueError("Write it as 5.5 to 7 by 0.125: from the least to the most, in steps.")
    many = int((end - begin) / by) + 1
    _refuse_many(many, most, marks)
    return tuple(begin + by * step for step in range(many))


def _refuse_many(many: int, most: int, marks: Marks) -> None:
    if many > most:
        text = "That is {many} values: at most {most} are worked at once."
        raise ValueError(Sentence(text, many=Number(many), most=Number(most)).say(marks))


def _in_the_last_unit(parts: list[str], path: str) -> list[str]:
    """A term's unit said once, at the end, is that of all: "6, 8, 10 years"."""
    unit = re.search(r"\d\s*([a-z]+)\s*$", parts[-1].lower()) if parts else None
    if path != "count" or unit is None:
        return parts
    return [f"{part.strip()} {unit[1]}" if part.strip().isdecimal() else part for part in parts]


def suggested_values(path: str, standing: Decimal, statement: Statement) -> str:
    """Values around the one that stands, as one would type them."""
    marks, each = MARKS[statement.marks], Decimal(1)
    if path.endswith("rate.percent"):
        each = Decimal("0.125")
    elif path == "count":
        each = Decimal(frequencies.a_year(statement.every))
    elif not path.endswith("percent") and standing > 0:
        each = Decimal(1).scaleb((standing / 10).adjusted())
    below = min(4, int((standing - (1 if path == "count" else 0)) / each))
    least = standing - max(0, below) * each

    def text(value: Decimal) -> str:
        return marks.number(value, PLACES)

    return f"{text(least)} to {text(standing + 4 * each)} by {text(each)}"


#: The entries of a statement that are plain numbers once they are read.
NUMBERS: Final = ("principal", "percent", "count", "payment", "balance")
#: Where the entries of a statement stand in the document, if under another name.
_FIELDS: Final = {"percent": "rate.percent", "over": "rate.over"}
#: The entries of a purchase.
BOUGHT: Final = ("price", "down")
#: Fields of a clause in the document, by where they are typed.
_TYPED_AT: Final = (
    (r"purchase\.price", "price"),
    (r"aim\.(figure|is|by)", r"aim_\1"),
    (r"purchase\.down(?:\.(?:percent|amount))?", "down"),
    (r"(clauses\.\d+)\.from", r"\1.begin"),
    (r"(clauses\.\d+)\.rate\.over", r"\1.over"),
    (
        r"(clauses\.\d+)\.(?:(?:rate|step|fee)\.(?:percent|amount)|repay|advance|payment|fee)",
        r"\1.figure",
    ),
)


def typed_at(field: str) -> str:
    """Where what is wrong with a field of a document was typed into the statement."""
    for pattern, typed in _TYPED_AT:
        if re.fullmatch(pattern, field):
            return re.sub(pattern, typed, field)
    return field


def loan_of(statement: Statement) -> Loan:
    """A statement as the document it says; raises `NotALoan` with what is wrong at its fields."""
    return _loan_of(statement, readings(statement))


def _loan_of(statement: Statement, read: dict[str, Reading]) -> Loan:
    errors = [
        FieldError(field=_FIELDS.get(name, name), message=reading.error)
        for name, reading in read.items()
        if reading.error
    ]
    try:
        loan = check(_document(statement, read))
    except NotALoan as wrong:
        unread = {error.field for error in errors}
        # A stand-in for an unread entry is nobody's mistake; what else is wrong is.
        typed = (
            FieldError(field=typed_at(error.field), message=error.message) for error in wrong.errors
        )
        errors += [error for error in typed if error.field not in unread]
        raise NotALoan(errors) from None
    if errors:
        raise NotALoan(errors)
    return loan


def work(statement: Statement, year_starts: int | None = None) -> Worked:
    """A statement read, checked and solved; what is wrong is told at its field.

    Raises `BudgetSpentError` as `solve` does.

    `year_starts`: the month in which the years of the schedule start; None: those of the loan.
    """
    read = readings(statement)
    try:
        loan = _loan_of(statement, read)
    except NotALoan as wrong:
        return Worked(readings=read, errors=wrong.errors, document=None, answer=None)
    answer = solve(loan, MARKS[statement.marks], year_starts)
    return Worked(readings=read, errors=(), document=write(loan), answer=answer)


def unworked(statement: Statement, spent: BudgetSpentError) -> Worked:
    """A statement that takes too much work: how it is read, the document, and why not."""
    read, errors, document = readings(statement), spent.errors, None
    with suppress(NotALoan):
        loan = _loan_of(statement, read)
        document = write(loan)
        errors = (told_of(loan, MARKS[statement.marks]),)
    errors = tuple(
        FieldError(field=typed_at(error.field), message=error.message) for error in errors
    )
    return Worked(readings=read, errors=errors, document=document, answer=None)


def readings(statement: Statement) -> dict[str, Reading]:
    """How each entry of a statement is read, in its own marks."""
    marks, currency = MARKS[statement.marks], statement.currency
    timed = {"over": read_time(statement.over, marks)} if statement.quoted in TIMED else {}
    bought = _purchase_readings(statement, marks) if statement.is_purchase else {}
    principal = (
        _lent(statement, bought, marks)
        if bought
        else read_amount(statement.principal, marks, currency)
    )
    start = read_date(statement.start)
    clauses = {}
    if statement.aim_figure:
        clauses["aim_is"] = _aim_reading(statement, marks)
    for number, clause in enumerate(statement.clauses):
        for name, reading in _clause_readings(clause, statement).items():
            clauses[f"clauses.{number}.{name}"] = reading
    return {
        **timed,
        **bought,
        "principal": principal,
        "percent": read_percent(statement.percent, marks),
        "count": read_count(statement.count, marks, statement.every),
        "payment": read_payment(statement.payment, marks, currency, statement.every),
        "balance": read_balance(statement.balance, marks, currency, principal),
        "start": start,
        "first_payment": _first_payment(statement, start),
        **clauses,
    }


def _aim_reading(statement: Statement, marks: Marks) -> Reading:
    """What a result is to be: money, a percentage or a number of payments."""
    figure, typed = statement.aim_figure, statement.aim_is
    if figure == "count":
        reading = read_count(typed, marks, statement.every)
    elif figure == "end_date":
        reading = read_date(typed)
        if reading.value is None and reading.error is None:
            reading = Reading(error="Nothing is stated here. Write the day it is to end on.")
    elif figure in ("effective", "us_apr", "eu_aprc"):
        reading = read_percent(typed, marks)
    else:
        reading = read_amount(typed, marks, statement.currency)
    if reading.value == UNKNOWN:
        return Reading(error="An aim is a number: what the result is to be.")
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
    places = ("begin", "to") if clause.is_stretch else ("at",)
    read = {
        name: read_place(getattr(clause, name), marks, may_be_open=clause.is_stretch)
        for name in places
    }
    if clause.verb == "rate" or (clause.verb in ("step", "fee") and clause.in_percent):
        read["figure"] = read_percent(clause.figure, marks)
    elif clause.verb != "pay":
        read["figure"] = read_amount(clause.figure, marks, statement.currency)
    if clause.verb == "rate" and clause.quoted in TIMED:
        read["over"] = read_time(clause.over, marks)
    if clause.verb == "step" and clause.every.strip():
        read["every"] = read_count(clause.every, marks, statement.every)
    return read


def _clause(clause: TypedClause, number: int, read: dict[str, Reading]) -> dict[str, Any]:  # noqa: PLR0912
    """A typed clause as the document holds it: one branch for each verb."""

    def value(name: str, otherwise: str = "1") -> str:
        return read[f"clauses.{number}.{name}"].value or otherwise

    told: dict[str, Any] = {}
    if clause.is_stretch:
        for name, key in (("begin", "from"), ("to", "to")):
            if place := read[f"clauses.{number}.{name}"].value:
                told[key] = place
        if clause.months:
            told["months"] = list(clause.months)
    else:
        told["at"] = value("at")
    match clause.verb:
        case "pay":
            told["pay"] = clause.pay
        case "rate":
            rate: dict[str, Any] = {"percent": value("figure"), "quoted": clause.quoted}
            if clause.compounding is not None:
                rate["compounding"] = clause.compounding
            if clause.quoted in TIMED:
                rate["over"] = _over(value("over", "1 year"))
            if clause.year_days != 365 and clause.quoted in SCALED:
                rate["year_days"] = clause.year_days
            told["rate"] = rate
        case "step":
            told["step"] = {"percent" if clause.in_percent else "amount": value("figure")}
            if f"clauses.{number}.every" in read:
                told["every"] = value("every")
        case "fee":
            figure = value("figure")
            told["fee"] = {"percent": figure} if clause.in_percent else figure
            told["taken"] = clause.taken
        case verb:
            told[verb] = value("figure")
    if clause.levels and clause.verb in ("rate", "repay", "advance"):
        told["then"] = "re-level"
    return told


def _over(text: str) -> dict[str, str]:
    number, _, period = text.partition(" ")
    return {"number": number, "period": period}


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
    if statement.quoted == "flat":
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


def _rate(statement: Statement, read: dict[str, Reading]) -> dict[str, Any]:
    rate: dict[str, Any] = {"percent": read["percent"].value or "1", "quoted": statement.quoted}
    if statement.compounding is not None:
        rate["compounding"] = statement.compounding
    if "over" in read:
        rate["over"] = _over(read["over"].value or "1 year")
    if statement.year_days != 365 and statement.quoted in SCALED:
        rate["year_days"] = statement.year_days
    return rate


def _document(statement: Statement, read: dict[str, Reading]) -> dict[str, Any]:
    value = {name: reading.value or "1" for name, reading in read.items()}
    dated: dict[str, Any] = {
        name: read[name].value for name in ("start", "first_payment") if read[name].value
    }
    if "start" in dated:
        dated["day_count"], dated["odd_days"] = statement.day_count, statement.odd_days
    if statement.aim_figure:
        dated["aim"] = {
            "figure": statement.aim_figure,
            "is": value["aim_is"],
            "by": statement.aim_by,
        }
    if statement.clauses:
        dated["clauses"] = [
            _clause(clause, number, read) for number, clause in enumerate(statement.clauses)
        ]
    lent: dict[str, Any] = {"principal": value["principal"]}
    if statement.is_purchase:
        kind = "percent" if statement.down_in_percent else "amount"
        lent = {"purchase": {"price": value["price"], "down": {kind: value["down"]}}}
    return {
        "zephyrant": "loan/1",
        "name": statement.name,
        "currency": statement.currency,
        **lent,
        "rate": _rate(statement, read),
        "count": value["count"],
        "every": statement.every,
        "payment": value["payment"],
        "balance": value["balance"],
        "timing": statement.timing,
        "rounding": statement.rounding.model_dump(mode="json", exclude_unset=True),
        **dated,
    }


def restate(loan: Loan, marks_name: MarksName) -> Statement:
    """A document as the statement one would type for it."""
    marks, decimals = MARKS[marks_name], loan.decimals

    def amount(value: Decimal | str) -> str:
        return value if isinstance(value, str) else marks.number(value, PLACES, decimals)

    percent, count, over = loan.rate.percent, loan.count, loan.rate.over
    return Statement(
        marks=marks_name,
        name=loan.name,
        currency=loan.currency,
        principal="" if loan.purchase else amount(loan.principal),
        **_typed_purchase(loan, marks),
        percent=percent if isinstance(percent, str) else marks.number(percent, PLACES, 2),
        quoted=loan.rate.quoted,
        compounding=loan.rate.compounding,
        over=time_text(over.number, over.period, marks) if over else "",
        year_days=loan.rate.year_days or 365,
        count=count if isinstance(count, str) else marks.write(str(count)),
        every=loan.every,
        payment=amount(loan.payment),
        balance=amount(loan.balance),
        timing=loan.timing,
        rounding=loan.rounding,
        start=write_day(loan.start) if loan.start else "",
        first_payment=write_day(loan.first_payment) if loan.first_payment else "",
        day_count=loan.day_count,
        odd_days=loan.odd_days,
        clauses=tuple(_typed_clause(clause, marks, decimals) for clause in loan.clauses),
        **_typed_aim(loan, marks),
    )


def _typed_aim(loan: Loan, marks: Marks) -> dict[str, Any]:
    aim = loan.aim
    if aim is None:
        return {}
    if isinstance(aim.is_, date):
        return {"aim_figure": aim.figure, "aim_is": write_day(aim.is_), "aim_by": aim.by}
    places = {"count": 0, "effective": 2, "us_apr": 2, "eu_aprc": 2}
    least = places.get(aim.figure, loan.decimals)
    return {
        "aim_figure": aim.figure,
        "aim_is": marks.number(aim.is_, PLACES, least),
        "aim_by": aim.by,
    }


def _typed_purchase(loan: Loan, marks: Marks) -> dict[str, Any]:
    if loan.purchase is None:
        return {}
    price, down = loan.purchase.price, loan.purchase.down
    paid = down.percent if down.percent is not None else down.amount

    def number(value: Decimal | str | None, least: int) -> str:
        return value if isinstance(value, str) else marks.number(value or _NONE, PLACES, least)

    return {
        "is_purchase": True,
        "price": number(price, loan.decimals),
        "down": number(paid, 0 if down.percent is not None else loan.decimals),
        "down_in_percent": down.percent is not None,
    }


_NONE: Final = Decimal(0)


def _typed_clause(clause: Clause, marks: Marks, decimals: int) -> TypedClause:
    """A clause of a document as one would type it."""

    def place(value: int | date | None) -> str:
        if value is None:
            return ""
        return write_day(value) if isinstance(value, date) else str(value)

    figure: object = getattr(clause, clause.verb)
    in_percent, rate = False, clause.rate
    if rate is not None:
        figure = rate.percent
    elif isinstance(clause.fee, Share):
        figure, in_percent = clause.fee.percent, True
    elif clause.step is not None:
        in_percent = clause.step.percent is not None
        figure = clause.step.percent if in_percent else clause.step.amount
    text = ""
    if clause.pay is None:
        least = 2 if rate is not None else 0 if in_percent else decimals
        text = (
            figure if isinstance(figure, str) else marks.number(Decimal(figure), PLACES, least)  # type: ignore[arg-type]
        )
    quote: dict[str, Any] = {}
    if rate is not None:
        over = rate.over
        quote = {
            "quoted": rate.quoted,
            "compounding": rate.compounding,
            "over": time_text(over.number, over.period, marks) if over else "",
            "year_days": rate.year_days or 365,
        }
    return TypedClause(
        verb=clause.verb,
        at=place(clause.at),
        begin=place(clause.begin),
        to=place(clause.to),
        is_stretch=clause.is_stretch,
        months=clause.months or (),
        figure=text,
        in_percent=in_percent,
        pay=clause.pay or "nothing",
        every=str(clause.every) if clause.every else "",
        taken=clause.taken or "from-proceeds",
        levels=clause.then is not None,
        **quote,
    )


def remark(statement: Statement, marks_name: MarksName) -> Statement:
    """A statement in other marks: what can be read is written anew, what cannot stays."""
    if statement.marks == marks_name:
        return statement
    read = readings(statement)
    marks, decimals = MARKS[marks_name], currencies()[statement.currency].decimals

    def anew(name: str, typed: str, least: int) -> str:
        value = read[name].value
        if name == "payment" and read[name].note and not read[name].other:
            carried = read_payment(typed, was, statement.currency, statement.every, marks)
            return carried.text or typed
        if name == "aim_is" and statement.aim_figure == "end_date":
            return typed
        if value in (None, UNKNOWN) or typed.rstrip().endswith("%"):
            return (
                typed.replace(was.decimal, marks.decimal) if typed.rstrip()[-1:] == "%" else typed
            )
        return marks.number(Decimal(value or "0"), PLACES, least)

    was = MARKS[statement.marks]
    least = {"percent": 2, "count": 0, "down": 0, "aim_is": 0}
    entries: dict[str, Any] = {
        name: anew(
            name,
            getattr(statement, name),
            least.get(name, decimals),
        )
        for name in (
            *NUMBERS,
            *(BOUGHT if statement.is_purchase else ()),
            *(("aim_is",) if statement.aim_figure else ()),
        )
        if not (name == "principal" and statement.is_purchase)
    }
    if "over" in read and read["over"].value:
        number, _, period = read["over"].value.partition(" ")
        entries["over"] = time_text(Decimal(number), period, marks)
    entries["clauses"] = tuple(
        clause
        if clause.verb == "pay"
        else clause.model_copy(
            update={"figure": anew(f"clauses.{number}.figure", clause.figure, 0)}
        )
        for number, clause in enumerate(statement.clauses)
    )
    return statement.model_copy(update={**entries, "marks": marks_name})
