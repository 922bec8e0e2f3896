"""A document solved: the figure found, the loan to the cent, its working and its proof."""

from collections.abc import Iterator
from datetime import date
from decimal import Decimal
from functools import cache
from itertools import groupby
from typing import Any, Final, NotRequired

from pydantic import BaseModel, ConfigDict
from typing_extensions import TypedDict

from ..calendars import frequencies
from ..cost.costs import CostsTold, FeeTold, costs
from ..cost.yearly_cost import YearlyCost
from ..document.fields import FigureName
from ..document.loan import Loan
from ..document.price import told_at_its_figure
from ..document.sentence import clause_in_words
from ..errors import FieldError, NotALoan
from ..ledger.roll import Row, Schedule
from ..line.periods import Terms
from ..line.terms import asks_rate, stated_terms
from ..numbers.decimals import Unit, percent_text, plain, precise, to_step, told
from ..quotes.conversion import Rates, footings
from ..solve.solution import Found, footing_rate, quote_of
from ..solve.worked import Solved, due, end_of, value_as_paid, work_out
from ..wording.marks import PLAIN, Marks, Money, Number, Sentence
from . import working
from .aim import AimTold, aimed, put, reach
from .clause_notes import clause_notes
from .consistency import Fit, WouldFit, fit
from .proof import Proof, prove
from .working import Step

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
    """One row of the schedule, money as decimal strings.

    `advance`, `repay` and `fee` (added to what is owed) stand there where clauses have such.
    """

    number: int
    date: str | None
    opening: str
    interest: str
    principal: str
    payment: str
    closing: str
    advance: NotRequired[str]
    repay: NotRequired[str]
    fee: NotRequired[str]


class YearTold(TypedDict):
    """A year and what its payments `first` to `last` add up to.

    A year of the loan is told by its number, one that starts in a month of the calendar by the year
    or years it lies in ("2028", "2027/28").
    """

    year: int
    label: str
    first: int
    last: int
    opening: str
    interest: str
    principal: str
    payment: str
    closing: str


class Answer(BaseModel):
    """What is told of a loan. `value` is what the schedule shows, `exact` the mathematics.

    Without an answer `solutions` is empty and `reason` a sentence. `asks` and `unit` stand before
    and after the value where it is read. `quote` says how the rate is quoted, `paid_as` what
    rounding did, `clock` how the quote became the rate of one payment, `notes` what might surprise.
    Where every figure is stated nothing is `unknown`: `gap` is what is left over at the end, `fits`
    whether that is no more than rounding, `would_fit` what each figure would have to be.
    `carrying`: the carrying amount after each row, where there are `fees`. `clauses`: each in
    words, `clause_notes`: for each what it comes to beside the others.
    """

    model_config = ConfigDict(frozen=True)

    unknown: str | None
    value: str | None
    exact: str | None
    solutions: tuple[str, ...]
    reason: str | None
    asks: str
    unit: str
    quote: str
    rates: RatesTold | None
    totals: Totals | None
    yearly_cost: YearlyCost | None
    costs: CostsTold | None
    carrying: tuple[str, ...]
    fees: tuple[FeeTold, ...]
    clauses: tuple[str, ...]
    clause_notes: tuple[tuple[str, ...], ...]
    final_date: str | None
    gap: str | None
    fits: bool | None
    would_fit: dict[FigureName, WouldFit] | None
    paid_as: str | None
    clock: str | None
    notes: tuple[str, ...]
    schedule: list[RowTold]
    by_year: list[YearTold]
    working: tuple[Step, ...]
    proof: Proof | None
    engine: str
    aim: AimTold | None = None


def solve(loan: Loan, marks: Marks = PLAIN, year_starts: int | None = None) -> Answer:
    """The answer to a document; numbers inside its sentences are written in `marks`.

    `year_starts`: the month (1 to 12) in which the years of `by_year` start; None for those of the
    loan, as where it has no dates. With an aim it is the loan with the figure that reaches it.
    Raises `BudgetSpentError` where a budget stands round it and is spent.
    """
    with told_at_its_figure(loan, marks):
        return _solved(loan, marks, year_starts)


def _solved(loan: Loan, marks: Marks, year_starts: int | None) -> Answer:
    if loan.aim is not None:
        aim = reach(loan, loan.aim, marks)
        if aim["value"] is None:
            answer = _no_answer(loan, None, None, marks)
            return answer.model_copy(update={"reason": aim["says"], "aim": aim})
        answer = _solved(put(loan, loan.aim.by, aim["value"]), marks, year_starts)
        return answer.model_copy(update={"aim": aim})
    if loan.unknown is None:
        return _checked(loan, marks, year_starts)
    worked = work_out(loan)
    found, terms, laid, _ = worked
    rate = footing_rate(loan, found)
    rates = None if rate is None else footings(rate, loan.payments_a_year)
    if found.reason:
        return _no_answer(loan, rates, found.reason, marks)
    if terms is None:
        return _several(loan, found, marks)
    solution = found.solutions[found.ordinary or 0]
    rates = rates or footings(Decimal(0), loan.payments_a_year)
    return Answer.model_construct(
        unknown=loan.unknown,
        value=value_as_paid(loan, solution, terms, laid),
        exact=plain(told(solution)),
        solutions=tuple(plain(told(each)) for each in found.solutions),
        reason=None,
        **_headline(loan, marks),
        rates=_rates_told(rates),
        **_laid_told(loan, terms, laid, rates, marks=marks, year_starts=year_starts),
        **_fit_told(None),
        clock=working.clock_sentence(loan, found, rates, laid).say(marks),
        notes=tuple(note.say(marks) for note in _notes(loan, worked, solution)),
        working=working.steps(loan, found, terms, laid, marks),
        proof=prove(loan, found, terms, laid, marks),
        engine=ENGINE,
    )


def _checked(loan: Loan, marks: Marks, year_starts: int | None) -> Answer:
    """A document in which every figure is stated."""
    held = fit(loan, marks)
    worked = work_out(loan)
    found, terms, laid, _ = worked
    rate = footing_rate(loan, found) or Decimal(0)
    rates = footings(rate, loan.payments_a_year)
    notes = _notes(loan, worked, Decimal(0))
    return Answer.model_construct(
        unknown=None,
        value=None,
        exact=None,
        solutions=(),
        reason=None,
        **_headline(loan, marks),
        rates=_rates_told(rates),
        **_laid_told(loan, terms, laid, rates, marks=marks, year_starts=year_starts),
        **_fit_told(held),
        clock=working.clock_sentence(loan, found, rates, laid).say(marks),
        notes=(held["says"], *(note.say(marks) for note in notes)),
        working=(),
        proof=None,
        engine=ENGINE,
    )


def _fit_told(held: Fit | None) -> dict[str, Any]:
    if held is None:
        return {"gap": None, "fits": None, "would_fit": None}
    return {name: held[name] for name in ("gap", "fits", "would_fit")}


def _headline(loan: Loan, marks: Marks) -> dict[str, Any]:
    """The words around the figure that is found."""
    period = frequencies.period(loan.every)
    quote = loan.style.in_words()
    asks, unit = {
        "payment": (f"Each {period.often} payment is", loan.currency),
        "principal": ("The amount lent is", loan.currency),
        "balance": ("Still owed at the end is", loan.currency),
        "count": ("It is repaid by", f"{period.often} payments"),
        "rate": ("The rate is", f"% {quote}"),
        "purchase.price": ("The price is", loan.currency),
        "purchase.down.percent": ("The down payment is", "% of the price"),
        "purchase.down.amount": ("The down payment is", loan.currency),
        None: ("Every figure is stated", ""),
    }.get(loan.unknown, ("", loan.currency))
    clauses = tuple(clause_in_words(loan, clause, PLAIN) for clause in loan.clauses)
    if loan.unknown and loan.unknown.startswith("clauses."):
        place, figure = loan.unknown.split(".", 2)[1:]
        asks = f"In “{clauses[int(place)]}” the ? is"
        if figure.endswith("percent"):
            unit = "%"
        if figure == "rate.percent":
            quote = loan.style_of(quote_of(loan)).in_words()
            unit = f"% {quote}"
    terms = (work_out(loan).terms if loan.clauses else None) or stated_terms(loan, _LAID_FOR_NOTES)
    notes = clause_notes(loan, terms, marks) if loan.clauses else ()
    return {
        "asks": asks,
        "unit": unit,
        "quote": quote,
        "clauses": clauses,
        "clause_notes": notes,
    }


#: Payments for which it is told how clauses stand to each other where nothing is laid out.
_LAID_FOR_NOTES: Final = 600
_NOT_LAID: Final[dict[str, Any]] = {
    "totals": None,
    "yearly_cost": None,
    "costs": None,
    "carrying": (),
    "fees": (),
    "final_date": None,
    "paid_as": None,
    "schedule": [],
    "by_year": [],
}


def _laid_told(
    loan: Loan,
    terms: Terms | None,
    laid: Schedule | None,
    rates: Rates,
    *,
    marks: Marks,
    year_starts: int | None,
) -> dict[str, Any]:
    """What is told of a schedule to the cent, if there is one."""
    if laid is None or terms is None:
        return _NOT_LAID
    end = end_of(loan, laid)
    cost = costs(loan, terms, laid, rates.periodic / 100)
    return {
        "totals": _totals(laid, cost.fees),
        "yearly_cost": cost.yearly,
        "costs": cost.told,
        "carrying": cost.carrying,
        "fees": cost.fees_told,
        "final_date": _iso(end),
        "paid_as": _paid_as(laid).say(marks),
        "schedule": _rows_told(laid, loan),
        "by_year": _years_told(laid, loan, year_starts),
    }


def _no_answer(loan: Loan, rates: Rates | None, reason: Sentence | None, marks: Marks) -> Answer:
    return Answer.model_construct(
        unknown=loan.unknown,
        value=None,
        exact=None,
        solutions=(),
        reason=reason.say(marks) if reason else None,
        **_headline(loan, marks),
        rates=rates and _rates_told(rates),
        **_NOT_LAID,
        **_fit_told(None),
        clock=rates and working.clock_sentence(loan, Found(()), rates, None).say(marks),
        notes=(),
        working=(),
        proof=None,
        engine=ENGINE,
    )


def _several(loan: Loan, found: Found, marks: Marks) -> Answer:
    """Several rates fit, and the flows do not tell which is meant: all are told, none is worked."""
    answer = _no_answer(loan, None, None, marks)
    return answer.model_copy(
        update={
            "solutions": tuple(plain(told(each)) for each in found.solutions),
            "notes": (found.note.say(marks),) if found.note else (),
        }
    )


def with_the_answer(loan: Loan) -> Loan:
    """The loan with what was found for its unknown, or reaches its aim, stated in its place.

    Raises `NotALoan` with the reason where there is no answer.
    """
    loan = aimed(loan)
    if loan.unknown is None:
        return loan
    found, terms, laid, _ = work_out(loan)
    if found.reason or terms is None or not found.solutions:
        said = found.reason.say() if found.reason else "The loan has no answer."
        raise NotALoan([FieldError(field="", message=said)])
    value = value_as_paid(loan, found.solutions[found.ordinary or 0], terms, laid)
    return put(loan, "rate.percent" if loan.unknown == "rate" else loan.unknown, value)


def _overpaid(loan: Loan, laid: Schedule) -> list[Sentence]:
    """That a repayment lies above what is owed, and what became of it."""
    if not laid.overpaid:
        return []
    row, amount = laid.rows[-1], laid.unit.amount
    over = Money(amount(laid.overpaid), loan.decimals)
    if row.closing < 0:
        return [
            Sentence(
                "With payment {number} the loan is overpaid by {over}: shown as a balance below "
                "zero.",
                number=Number(row.number),
                over=over,
            )
        ]
    return [
        Sentence(
            "What is repaid with payment {number} is {over} more than is owed: it is cut to "
            "{repaid}, and the loan ends there.",
            number=Number(row.number),
            over=over,
            repaid=Money(amount(row.repay), loan.decimals),
        )
    ]


def _notes(loan: Loan, worked: Solved, solution: Decimal) -> list[Sentence]:
    found, _, laid, unlaid = worked
    notes = [found.note] if found.note else []
    if laid is None:
        return [*notes, *([unlaid] if unlaid else [])]
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
    elif laid.early and not laid.overpaid:
        text = (
            "The clauses leave nothing to be paid after payment {rows}: with it the loan is repaid."
            if laid.paused_after
            else "As rounded, the payments repay the loan with payment {rows}, before the {count} "
            "stated."
        )
        if loan.unknown is None and not laid.paused_after:
            text = "The payments repay the loan with payment {rows}, before the {count} stated."
        notes.append(Sentence(text, rows=Number(len(laid.rows)), count=Number(int(loan.count))))
    return notes + _overpaid(loan, laid) + _taken(loan, laid)


def _taken(loan: Loan, laid: Schedule) -> list[Sentence]:
    """That the last interest took the cents that rounding left."""
    if not laid.taken:
        return []
    last = next((row for row in reversed(laid.rows) if row.interest), laid.rows[-1])
    figures = {
        "taken": Money(abs(laid.unit.amount(laid.taken)), loan.decimals),
        "interest": Money(laid.unit.amount(last.interest), loan.decimals),
    }
    more = "more" if laid.taken > 0 else "less"
    if not asks_rate(loan):
        text = (
            "No payment at the end settles what rounding leaves: the last interest takes it and is "
            "{taken} " + more + "."
        )
    elif last.interest < 0:
        text = (
            "All that is stated stands as it is, so the last interest takes what rounding leaves: "
            "{interest}."
        )
    else:
        return []
    return [Sentence(text, **figures)]


def _rates_told(rates: Rates) -> RatesTold:
    periodic, nominal, effective = (percent_text(rate) for rate in rates)
    return {"periodic": periodic, "nominal": nominal, "effective": effective}


def _totals(laid: Schedule, fees: Decimal) -> Totals:
    write, rows = laid.unit.write, laid.rows
    paid = [row.paid for row in rows if row.paid]
    return {
        "paid": write(sum(paid)),
        "interest": write(sum(row.interest for row in rows)),
        "principal": write(sum(row.principal for row in rows)),
        "fees": plain(fees, laid.unit.shown),
        "final_payment": write(paid[-1] if paid else 0),
        "payments": len(paid),
    }


def _paid_as(laid: Schedule) -> Sentence:
    """What rounding did, as it will be paid."""
    rows, unit = laid.rows, laid.unit
    by_amount = {amount: _shown(unit, amount) for amount in {row.payment for row in rows}}
    final = rows[-1]
    runs = [
        (amount, len(list(group)))
        for amount, group in groupby(rows[:-1], key=lambda row: by_amount[row.payment])
    ]
    figures: dict[str, Money | Number] = {
        "final": _money(unit, final.payment),
        "left": _money(unit, abs(final.closing)),
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


def _shown(unit: Unit, units: int) -> Decimal:
    return to_step(unit.amount(units), Decimal(1).scaleb(-unit.shown), "nearest")


def _money(unit: Unit, units: int) -> Money:
    return Money(unit.amount(units), unit.shown)


def _rows_told(laid: Schedule, loan: Loan) -> list[RowTold]:
    # A row opens where the last closed and most payments are alike: each is written once.
    write = cache(laid.unit.write)
    rows: list[RowTold] = [
        {
            "number": row.number,
            "date": _iso(due(loan, row)),
            "opening": write(row.opening),
            "interest": write(row.interest),
            "principal": write(row.principal),
            "payment": write(row.payment),
            "closing": write(row.closing),
        }
        for row in laid.rows
    ]
    verbs = {clause.verb for clause in loan.clauses}
    for told_row, row in zip(rows, laid.rows, strict=True) if verbs else ():
        if "advance" in verbs:
            told_row["advance"] = write(row.advance)
        if "repay" in verbs:
            told_row["repay"] = write(row.repay)
        if "fee" in verbs:
            told_row["fee"] = write(row.fee)
    return rows


def _iso(day: date | None) -> str | None:
    return None if day is None else day.isoformat()


def _years_told(laid: Schedule, loan: Loan, year_starts: int | None) -> list[YearTold]:
    write = laid.unit.write
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
        for year, label, rows in years_of(laid, loan, year_starts)
    ]


def years_of(
    laid: Schedule, loan: Loan, year_starts: int | None
) -> Iterator[tuple[int, str, list[Row]]]:
    """The rows by year: of the loan, or of years that start in a month of the calendar."""
    calendar = loan.calendar
    if calendar is None or year_starts is None:
        each = loan.payments_a_year
        for year, rows in groupby(laid.rows, key=lambda row: max(0, row.stands_at - 1) // each + 1):
            yield year, str(year), list(rows)
        return

    def year_of(row: Row) -> int:
        day = due(loan, row) or calendar.start
        return day.year if day.month >= (year_starts or 1) else day.year - 1

    for year, rows in groupby(laid.rows, key=year_of):
        label = str(year) if year_starts == 1 else f"{year}/{(year + 1) % 100:02}"
        yield year, label, list(rows)
