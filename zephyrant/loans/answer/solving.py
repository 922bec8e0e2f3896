"""A document solved, and told."""

from decimal import Decimal
from typing import Any, Final

from zephyrant.texts import worded

from ..answer import working
from ..cost.costs import costs
from ..document.choices import WE
from ..document.figure_path import PAYMENT
from ..document.floating import floating
from ..document.loan import Loan
from ..document.paths import with_figure
from ..document.price import told_at_its_figure, told_of
from ..document.reading import check, write
from ..errors import NotALoan
from ..ledger.rows import Schedule
from ..line.line import Line
from ..numbers.decimals import percent_text, plain, precise, significant
from ..quotes.conversion import Rates, footings
from ..unknowns.solution import Found, Sizing, footing_rate
from ..unknowns.worked import Solved, end_of, payment_as_paid, value_as_paid, work_out
from ..wording.marks import PLAIN, Marks, Sentence
from .aim import aimed, reach
from .answer import ENGINE, Answer, RatesOfLoan
from .around import around, asks_for_payment, words_around
from .bounded import UNBOUNDED, Ratios, bounds_told
from .consistency import Consistency, consistency
from .floating_told import FIXED, rates_used, rests_on
from .laid import Laid
from .notes import notes_of
from .proof import prove
from .schedule import iso, paid_as, totals_of, years_told


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
        answer = _solved(with_figure(loan, loan.aim.path, aim["value"]), marks, year_starts)
        return answer.model_copy(update={"aim": aim})
    if loan.unknown is None:
        return _checked(loan, marks, year_starts)
    worked = work_out(loan)
    found, line, schedule = worked.found, worked.line, worked.schedule
    rate = footing_rate(loan, found)
    rates = None if rate is None else footings(rate, loan.payments_a_year)
    if found.reason:
        return _no_answer(loan, rates, found.reason, marks)
    if line is None:
        return _several(loan, found, marks)
    solution = found.meant
    rates = rates or footings(Decimal(0), loan.payments_a_year)
    value = value_as_paid(loan, solution, line.terms, schedule)
    words = around(loan, marks)
    differ = loan.clauses or loan.repayment != "level" or floating(loan) is not None
    if loan.asked == PAYMENT and differ and schedule:
        words["asks"] = asks_for_payment(loan, schedule, value)
    return Answer.told(
        unknown=loan.unknown,
        value=value,
        exact=plain(significant(solution)),
        solutions=tuple(plain(significant(each)) for each in found.solutions),
        reason=None,
        **words,
        rates=_rates_told(rates),
        **_laid_told(loan, worked, rates, marks=marks, year_starts=year_starts),
        **_fit_told(None),
        clock=working.clock_sentence(loan, found, rates, schedule).say(marks),
        notes=tuple(note.say(marks) for note in notes_of(loan, worked, solution)),
        working=working.steps(loan, worked, marks),
        proof=prove(loan, worked, marks),
        engine=ENGINE,
    )


def _checked(loan: Loan, marks: Marks, year_starts: int | None) -> Answer:
    """A document in which every figure is stated."""
    held = consistency(loan, marks)
    worked = work_out(loan)
    found, schedule = worked.found, worked.schedule
    rate = footing_rate(loan, found) or Decimal(0)
    rates = footings(rate, loan.payments_a_year)
    notes = notes_of(loan, worked, Decimal(0))
    return Answer.told(
        unknown=None,
        value=None,
        exact=None,
        solutions=(),
        reason=None,
        **around(loan, marks),
        rates=_rates_told(rates),
        **_laid_told(loan, worked, rates, marks=marks, year_starts=year_starts),
        **_fit_told(held),
        clock=working.clock_sentence(loan, found, rates, schedule).say(marks),
        notes=(held["says"], *(note.say(marks) for note in notes)),
        working=(),
        proof=None,
        engine=ENGINE,
    )


def _fit_told(held: Consistency | None) -> dict[str, Any]:
    if held is None:
        return {"gap": None, "fits": None, "would_fit": None}
    return {name: held[name] for name in ("gap", "fits", "would_fit")}


_NOT_LAID: Final[dict[str, Any]] = {
    "totals": None,
    "yearly_cost": None,
    "costs": None,
    "fees": (),
    "final_date": None,
    "paid_as": None,
    "laid": None,
    "by_year": [],
    **UNBOUNDED,
    **FIXED,
}


def _laid_told(
    loan: Loan, worked: Solved, rates: Rates, *, marks: Marks, year_starts: int | None
) -> dict[str, Any]:
    """What is told of a schedule to the cent, if there is one."""
    line, schedule = worked.line, worked.schedule
    if schedule is None or line is None:
        return {**_NOT_LAID, **bounds_told(loan, line, None, worked.found.sizing)}
    end = end_of(loan, schedule)
    cost = costs(line, schedule, rates.periodic / 100)
    ratios, path = Ratios(loan, line, schedule), rests_on(loan, schedule.rows[-1].stands_at)
    laid = Laid(loan, schedule, cost.carrying, ratios)
    return {
        "totals": totals_of(schedule, cost.fees),
        "yearly_cost": cost.yearly,
        "costs": cost.told,
        "fees": cost.fees_told,
        "final_date": iso(end),
        "paid_as": paid_as(schedule, WE[loan.we].there).say(marks),
        "laid": laid,
        "by_year": years_told(laid, loan, year_starts),
        **bounds_told(loan, line, ratios, worked.found.sizing),
        "rates_used": rates_used(loan, worked.found, schedule.rows[-1].stands_at),
        "rests_on": path and path.say(marks),
    }


def _no_answer(loan: Loan, rates: Rates | None, reason: Sentence | None, marks: Marks) -> Answer:
    return Answer.told(
        unknown=loan.unknown,
        value=None,
        exact=None,
        solutions=(),
        reason=reason.say(marks) if reason else None,
        **around(loan, marks),
        rates=rates and _rates_told(rates),
        **_NOT_LAID,
        **_fit_told(None),
        clock=rates and working.clock_sentence(loan, Found(()), rates, None).say(marks),
        notes=(),
        working=(),
        proof=None,
        engine=ENGINE,
    )


def over_limit(loan: Loan, marks: Marks = PLAIN) -> Answer:
    """What is told in place of an answer that takes more work than is allowed: why, and `limit`,
    the path of the figure that costs most."""
    error = told_of(loan, marks)
    return Answer.told(
        unknown=loan.unknown,
        value=None,
        exact=None,
        solutions=(),
        reason=error.message,
        limit=error.field,
        **words_around(loan),
        clause_notes=(),
        rates=None,
        **_NOT_LAID,
        **_fit_told(None),
        clock=None,
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
            "solutions": tuple(plain(significant(each)) for each in found.solutions),
            "notes": (found.note.say(marks),) if found.note else (),
        }
    )


def with_the_answer(loan: Loan) -> Loan:
    """The loan with what was found for its unknown, or reaches its aim, stated in its place.

    Raises `NotALoan` with the reason where there is no answer.
    """
    loan = aimed(loan)
    if loan.asked is None:
        return loan
    worked = work_out(loan)
    found, line = worked.found, worked.line
    if found.reason or line is None or not found.solutions:
        said = found.reason.say() if found.reason else worded("The loan has no answer.")
        raise NotALoan.at("", said)
    value = value_as_paid(loan, found.meant, line.terms, worked.schedule)
    if found.sizing is not None:
        return as_sized(loan, value, found.sizing, line, worked.schedule)
    return with_figure(loan, loan.asked, value)


def as_sized(loan: Loan, value: str, sizing: Sizing, line: Line, schedule: Schedule | None) -> Loan:
    """The loan that is lent within the bounds, with all that follows from them stated."""
    content = write(loan)
    content.pop("aim", None)
    content["principal"] = value
    if loan.repayment == "sculpted":
        with precise():
            content["cover"]["ratio"] = plain(significant(1 / sizing.paid))
    else:
        content["payment"] = payment_as_paid(loan, line.terms, schedule)
    stated = check(content)
    return stated.rounding_down() if sizing.way == "down" else stated


def _rates_told(rates: Rates) -> RatesOfLoan:
    periodic, nominal, effective = (percent_text(rate) for rate in rates)
    return {"periodic": periodic, "nominal": nominal, "effective": effective}
