"""A document told back as one would type it; a statement in other marks."""

from datetime import date
from decimal import Decimal
from typing import Any, Final

from ..calendars.days_in_words import write_day
from ..document.bounds import cash_flows_in_words
from ..document.business_days import calendars_in_words
from ..document.clauses import ChargeShare, Clause, Share
from ..document.fields import UNKNOWN
from ..document.figure_path import FigurePath
from ..document.floating import floating, index_of
from ..document.loan import Loan
from ..document.repaid import repaid_by
from ..document.repayment import PartsInPercent, percents_in_words
from ..numbers.currencies import currencies
from ..wording.marks import MARKS, Marks, MarksName
from .parsing import PLACES, Reading
from .reading import BOUGHT, NUMBERS, readings
from .statement import Statement, TypedAim, TypedBusinessDays, TypedClause, TypedCover, TypedValue
from .typed_amounts import read_payment
from .typed_floating import floating_anew, typed_floating
from .typed_times import time_text


def as_typed(path: FigurePath, value: Decimal, marks: Marks, decimals: int) -> str:
    """A figure as one would type it where it stands."""
    least = 2 if path.is_rate or path.kind == "ratio" else decimals if path.kind == "money" else 0
    return marks.number(value, PLACES, least)


def restate(loan: Loan, marks_name: MarksName) -> Statement:
    """A document as the statement one would type for it."""
    marks, decimals = MARKS[marks_name], loan.decimals

    def amount(value: Decimal | str) -> str:
        return value if isinstance(value, str) else marks.number(value, PLACES, decimals)

    count, over = loan.count, loan.rate.over
    return Statement(
        marks=marks_name,
        name=loan.name,
        we=loan.we,
        currency=loan.currency,
        principal="" if loan.purchase else amount(loan.principal),
        **_typed_purchase(loan, marks),
        **_typed_rate(loan, marks),
        quoted=loan.rate.quoted,
        compounding=loan.rate.compounding,
        over=time_text(over.number, over.period, marks) if over else "",
        year_days=loan.rate.year_days or 365,
        count=count if isinstance(count, str) else marks.write(str(count)),
        every=loan.every,
        payment=amount(loan.payment) if loan.states_payment else "",
        balance=amount(loan.balance),
        **_typed_repayment(loan, marks),
        **_typed_bounds(loan, marks),
        timing=loan.timing,
        rounding=loan.rounding,
        start=write_day(loan.start) if loan.start else "",
        first_payment=write_day(loan.first_payment) if loan.first_payment else "",
        day_count=loan.day_count,
        odd_days=loan.odd_days,
        business_days=_typed_days(loan),
        clauses=tuple(typed_clause(clause, marks, decimals) for clause in loan.clauses),
        **_typed_aim(loan, marks),
    )


def _typed_rate(loan: Loan, marks: Marks) -> dict[str, Any]:
    """The rate as one would type it: its percent, or an index and what is added to it."""
    quote, percent = floating(loan), loan.rate.percent
    if quote is not None:
        return {"floating": typed_floating(quote, index_of(loan, quote), marks)}
    return {"percent": percent if isinstance(percent, str) else marks.number(percent, PLACES, 2)}


def _typed_repayment(loan: Loan, marks: Marks) -> dict[str, Any]:
    typed: dict[str, Any] = {"repaid": repaid_by(loan)}
    if isinstance(loan.repayment, PartsInPercent):
        typed["percents"] = percents_in_words(loan.repayment.percents, marks)
    if loan.amortized_over is not None:
        over = loan.amortized_over
        typed["amortized_over"] = over if isinstance(over, str) else marks.write(str(over))
    return typed


def _typed_bounds(loan: Loan, marks: Marks) -> dict[str, Any]:
    """Cover and value as one would type them."""
    typed: dict[str, Any] = {}
    if (cover := loan.cover) is not None:
        flows = (cover.cash_flow,) if cover.cash_flow is not None else cover.cash_flows or ()
        ratio = cover.ratio
        typed["cover"] = TypedCover(
            cash_flow=cash_flows_in_words(flows, marks, loan.decimals),
            every=cover.every,
            growth=marks.number(cover.growth, PLACES) if cover.growth else "",
            ratio=ratio if isinstance(ratio, str) else marks.number(ratio, PLACES, 2),
        )
    if (value := loan.value) is not None:
        typed["value"] = TypedValue(
            amount=marks.number(value.amount, PLACES, loan.decimals),
            highest=marks.number(value.highest, PLACES),
        )
    return typed


def _typed_days(loan: Loan) -> TypedBusinessDays | None:
    days = loan.business_days
    if days is None:
        return None
    calendars = calendars_in_words(days.calendars)
    return TypedBusinessDays(calendars=calendars, roll=days.roll, adjusted=days.adjusted)


def _typed_aim(loan: Loan, marks: Marks) -> dict[str, Any]:
    aim = loan.aim
    if aim is None:
        return {}
    if isinstance(aim.is_, date):
        return {"aim": TypedAim(figure=aim.figure, is_=write_day(aim.is_), by=aim.by)}
    places = {"count": 0, "effective": 2, "us_apr": 2, "eu_aprc": 2}
    least = places.get(aim.figure, loan.decimals)
    return {"aim": TypedAim(figure=aim.figure, is_=marks.number(aim.is_, PLACES, least), by=aim.by)}


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


def typed_clause(clause: Clause, marks: Marks, decimals: int) -> TypedClause:
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
    elif isinstance(clause.charge, ChargeShare):
        figure, in_percent = clause.charge.percent, True
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
        then=clause.then,
        of=clause.charge.of if isinstance(clause.charge, ChargeShare) else "balance",
        name=clause.name or "",
        in_costs=clause.in_costs is not False,
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
        if value in (None, UNKNOWN) or typed.rstrip().endswith("%"):
            return (
                typed.replace(was.decimal, marks.decimal) if typed.rstrip()[-1:] == "%" else typed
            )
        return marks.number(Decimal(value or "0"), PLACES, least)

    was = MARKS[statement.marks]
    least = {"percent": 2, "count": 0, "down": 0, "amortized_over": 0}
    entries: dict[str, Any] = {
        name: anew(
            name,
            getattr(statement, name),
            least.get(name, decimals),
        )
        for name in (
            *NUMBERS,
            *(BOUGHT if statement.is_purchase else ()),
            *(("amortized_over",) if "amortized_over" in read else ()),
        )
        if not (name == "principal" and statement.is_purchase)
    }
    if "over" in read and read["over"].value:
        number, _, period = read["over"].value.partition(" ")
        entries["over"] = time_text(Decimal(number), period, marks)
    if "percents" in read and (parts := read["percents"].value):
        entries["percents"] = percents_in_words([Decimal(each) for each in parts.split()], marks)
    if statement.aim and statement.aim.figure != "end_date":
        is_ = anew("aim.is", statement.aim.is_, 0)
        entries["aim"] = statement.aim.model_copy(update={"is_": is_})
    if statement.floating is not None:
        entries["floating"] = floating_anew(statement.floating, read, marks)
    entries |= _bounds_anew(statement, read, marks, decimals)
    entries["clauses"] = tuple(
        clause
        if clause.verb == "pay"
        else clause.model_copy(
            update={"figure": anew(f"clauses.{number}.figure", clause.figure, 0)}
        )
        for number, clause in enumerate(statement.clauses)
    )
    return statement.model_copy(update={**entries, "marks": marks_name})


def _bounds_anew(
    statement: Statement, read: dict[str, Reading], marks: Marks, decimals: int
) -> dict[str, Any]:
    """Cover and value in other marks."""

    def anew(name: str, typed: str, least: int) -> str:
        values = (read[name].value or "").split() if name in read else []
        if not values or UNKNOWN in values:
            return typed
        return "; ".join(marks.number(Decimal(each), PLACES, least) for each in values)

    entries: dict[str, Any] = {}
    if (cover := statement.cover) is not None:
        entries["cover"] = cover.model_copy(
            update={
                "cash_flow": anew("cover.cash_flow", cover.cash_flow, decimals),
                "growth": anew("cover.growth", cover.growth, 0),
                "ratio": anew("cover.ratio", cover.ratio, 2),
            }
        )
    if (value := statement.value) is not None:
        entries["value"] = value.model_copy(
            update={
                "amount": anew("value.amount", value.amount, decimals),
                "highest": anew("value.highest", value.highest, 0),
            }
        )
    return entries
