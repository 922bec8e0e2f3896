"""A document solved: the figure found, the loan to the cent, its working and its proof."""

from decimal import Decimal
from functools import cache
from typing import Final

from pydantic import BaseModel, ConfigDict
from typing_extensions import TypedDict

from . import working
from .document import FigureName, Loan
from .figures import Unit, plain, precise, to_step, told
from .find import (
    PERCENT_PLACES,
    Found,
    find,
    footing_rate,
    never_repays,
    payable_percent,
    payable_terms,
)
from .ledger import NeverSettlesError, Schedule, cash_rule, schedule
from .line import Line, Terms, lay_out
from .rates import Rates, footings
from .words import PLAIN, Marks, Money, Number, Sentence
from .working import Proof, Step

#: The version of the core, told with every answer.
ENGINE: Final = "zephyrant-loans 0.1.0"


class RatesTold(TypedDict):
    """Percent, 10 decimals: for one payment period, nominal at the payment frequency, effective
    a year."""

    periodic: str
    nominal: str
    effective: str


class Totals(TypedDict):
    """What the schedule adds up to. `payments`: rows in which something is paid."""

    paid: str
    interest: str
    principal: str
    fees: str
    final_payment: str
    payments: int


class RowTold(TypedDict):
    """One row of the schedule, money as decimal strings."""

    number: int
    date: str | None
    opening: str
    interest: str
    principal: str
    payment: str
    closing: str


class YearTold(TypedDict):
    """A year of the loan (from 1) and what its payments `first` to `last` add up to."""

    year: int
    first: int
    last: int
    opening: str
    interest: str
    principal: str
    payment: str
    closing: str


class Answer(BaseModel):
    """What is told of a loan. `value` is what the schedule shows, `exact` the mathematics.

    Without an answer `solutions` is empty and `reason` a sentence. `quote` says how the rate is
    quoted, `paid_as` what rounding did, `clock` how the quote became the rate of one payment,
    `notes` what might surprise.
    """

    model_config = ConfigDict(frozen=True)

    unknown: FigureName
    value: str | None
    exact: str | None
    solutions: tuple[str, ...]
    reason: str | None
    quote: str
    rates: RatesTold | None
    totals: Totals | None
    paid_as: str | None
    clock: str | None
    notes: tuple[str, ...]
    schedule: list[RowTold]
    by_year: list[YearTold]
    working: tuple[Step, ...]
    proof: Proof | None
    engine: str


def solve(loan: Loan, marks: Marks = PLAIN) -> Answer:
    """The answer to a document; numbers inside its sentences are written in `marks`."""
    found = find(loan)
    rate = footing_rate(loan, found)
    rates = None if rate is None else footings(rate, loan.payments_a_year)
    if found.reason:
        return _no_answer(loan, rates, found.reason, marks)
    solution = found.solutions[0]
    terms = payable_terms(loan, solution)
    line = lay_out(terms)
    try:
        laid = _to_the_cent(loan, line)
    except NeverSettlesError:
        if loan.unknown == "count":
            return _no_answer(loan, rates, _unsettled(loan, terms), marks)
        laid = None
    rates = rates or footings(Decimal(0), loan.payments_a_year)
    value = _value(loan, solution, terms, laid)
    notes = _notes(loan, solution, laid)
    return Answer.model_construct(
        unknown=loan.unknown,
        value=value,
        exact=plain(told(solution)),
        solutions=tuple(plain(told(each)) for each in found.solutions),
        reason=None,
        quote=loan.style.in_words(),
        rates=_rates_told(rates),
        totals=_totals(laid) if laid else None,
        paid_as=_paid_as(laid).say(marks) if laid else None,
        clock=working.clock_sentence(loan, found, rates, laid).say(marks),
        notes=tuple(note.say(marks) for note in notes),
        schedule=_rows_told(laid) if laid else [],
        by_year=_years_told(laid, loan.payments_a_year) if laid else [],
        working=working.steps(loan, found, terms, laid, marks),
        proof=working.prove(loan, found, terms, laid, marks),
        engine=ENGINE,
    )


def _no_answer(loan: Loan, rates: Rates | None, reason: Sentence, marks: Marks) -> Answer:
    return Answer.model_construct(
        unknown=loan.unknown,
        value=None,
        exact=None,
        solutions=(),
        reason=reason.say(marks),
        quote=loan.style.in_words(),
        rates=rates and _rates_told(rates),
        totals=None,
        paid_as=None,
        clock=rates and working.clock_sentence(loan, Found(()), rates, None).say(marks),
        notes=(),
        schedule=[],
        by_year=[],
        working=(),
        proof=None,
        engine=ENGINE,
    )


def _to_the_cent(loan: Loan, line: Line) -> Schedule:
    return schedule(
        line,
        cash_rule(
            line,
            loan.decimals,
            loan.rounding.payment,
            loan.rounding.interest,
            absorbs=loan.unknown == "balance",
        ),
    )


def _unsettled(loan: Loan, terms: Terms) -> Sentence:
    """Why a count that the mathematics knows is not reached in cents."""
    if terms.balance < terms.principal and terms.rate > 0:
        return never_repays(loan, terms)
    return Sentence(
        "Rounded to the cent, payments of {payment} never bring the balance to exactly {balance}.",
        payment=Money(terms.payment, loan.decimals),
        balance=Money(terms.balance, loan.decimals),
    )


def _value(loan: Loan, solution: Decimal, terms: Terms, laid: Schedule | None) -> str:
    if loan.unknown == "rate":
        return f"{payable_percent(solution):.{PERCENT_PLACES}f}"
    if loan.unknown == "count" and laid:
        return str(len(laid.rows))
    if loan.unknown == "balance":
        if laid:
            return laid.unit.write(laid.rows[-1].closing)
        return plain(told(solution), loan.decimals)
    return plain(getattr(terms, loan.unknown), loan.decimals)


def _notes(loan: Loan, solution: Decimal, laid: Schedule | None) -> list[Sentence]:
    notes = []
    if laid is None:
        notes.append(
            Sentence(
                "There is no schedule to the cent: rounded as stated, the payments drift so far "
                "that the loan cannot end with what is to be left. Round less coarsely."
            )
        )
        return notes
    if loan.unknown == "rate" and solution < 0:
        notes.append(
            Sentence(
                "The rate is below zero: payments and the balance left add up to less than the "
                "amount lent."
            )
        )
    if loan.unknown == "count":
        with precise():
            whole = int(told(solution).to_integral_value("ROUND_CEILING"))
        if whole != len(laid.rows):
            notes.append(
                Sentence(
                    "Rounding to the cent makes it {rows} payments; unrounded it would be {whole}.",
                    rows=Number(len(laid.rows)),
                    whole=Number(whole),
                )
            )
    elif laid.early:
        notes.append(
            Sentence(
                "As rounded, the payments repay the loan with payment {rows}, before the {count} "
                "stated.",
                rows=Number(len(laid.rows)),
                count=Number(int(loan.count)),
            )
        )
    return notes


def _rates_told(rates: Rates) -> RatesTold:
    periodic, nominal, effective = (_ten_places(rate) for rate in rates)
    return {"periodic": periodic, "nominal": nominal, "effective": effective}


def _ten_places(percent: Decimal) -> str:
    text = f"{percent:.{PERCENT_PLACES}f}"
    return text.removeprefix("-") if not text.strip("-0.") else text


def _totals(laid: Schedule) -> Totals:
    write, rows = laid.unit.write, laid.rows
    paid = [row.payment for row in rows if row.payment]
    return {
        "paid": write(sum(paid)),
        "interest": write(sum(row.interest for row in rows)),
        "principal": write(sum(row.principal for row in rows)),
        "fees": write(0),
        "final_payment": write(paid[-1] if paid else 0),
        "payments": len(paid),
    }


def _paid_as(laid: Schedule) -> Sentence:
    """What rounding did, as it will be paid."""
    rows, unit = laid.rows, laid.unit
    regular, final = rows[0].payment, rows[-1].payment
    figures: dict[str, Money | Number] = {
        "all": Number(len(rows)),
        "before": Number(len(rows) - 1),
        "regular": _money(unit, regular),
        "final": _money(unit, final),
        "left": _money(unit, rows[-1].closing),
    }
    if len(rows) == 1:
        text = "one payment of {final}"
    elif _shown(unit, regular) == _shown(unit, final):
        text = "{all} payments of {regular}"
    elif len(rows) == 2:
        text = "one payment of {regular} and a last one of {final}"
    else:
        text = "{before} payments of {regular} and a last one of {final}"
    if rows[-1].closing:
        text += ", then {left} still owed"
    return Sentence(text, **figures)


def _shown(unit: Unit, units: int) -> Decimal:
    return to_step(unit.amount(units), Decimal(1).scaleb(-unit.shown), "nearest")


def _money(unit: Unit, units: int) -> Money:
    return Money(unit.amount(units), unit.shown)


def _rows_told(laid: Schedule) -> list[RowTold]:
    # A row opens where the last closed and most payments are alike: each is written once.
    write = cache(laid.unit.write)
    return [
        {
            "number": number,
            "date": None,
            "opening": write(opening),
            "interest": write(interest),
            "principal": write(principal),
            "payment": write(payment),
            "closing": write(closing),
        }
        for number, opening, interest, principal, payment, closing in laid.rows
    ]


def _years_told(laid: Schedule, payments_a_year: int) -> list[YearTold]:
    write, rows = laid.unit.write, laid.rows
    years = (
        rows[start : start + payments_a_year] for start in range(0, len(rows), payments_a_year)
    )
    return [
        {
            "year": year,
            "first": stretch[0].number,
            "last": stretch[-1].number,
            "opening": write(stretch[0].opening),
            "interest": write(sum(row.interest for row in stretch)),
            "principal": write(sum(row.principal for row in stretch)),
            "payment": write(sum(row.payment for row in stretch)),
            "closing": write(stretch[-1].closing),
        }
        for year, stretch in enumerate(years, 1)
    ]
