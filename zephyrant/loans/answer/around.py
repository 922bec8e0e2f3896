"""The words around the figure that is found."""

from typing import Any, Final

from zephyrant.texts import Worded, worded

from ..calendars import frequencies
from ..document.choices import WE
from ..document.figure_path import (
    AMORTIZED_OVER,
    BALANCE,
    COUNT,
    COVER_RATIO,
    FIRST,
    MARGIN,
    PAYMENT,
    PRINCIPAL,
    RATE,
    FigurePath,
)
from ..document.loan import Loan
from ..document.sentence import clause_in_words
from ..ledger.rows import Schedule
from ..line.compiling import stated_terms
from ..line.line import lay_out
from ..unknowns.solution import quote_of
from ..unknowns.worked import work_out
from ..wording.marks import PLAIN, Marks
from .clause_notes import clause_notes

#: Payments for which it is told how clauses stand to each other where nothing is laid out.
_LAID_FOR_NOTES: Final = 600


def around(loan: Loan, marks: Marks) -> dict[str, Any]:
    """The words around the figure that is found, and how clauses stand to each other."""
    notes: tuple[tuple[str, ...], ...] = ()
    if loan.clauses:
        line = work_out(loan).line or lay_out(stated_terms(loan, _LAID_FOR_NOTES))
        notes = clause_notes(loan, line, marks)
    return {**words_around(loan), "clause_notes": notes}


def words_around(loan: Loan) -> dict[str, Any]:
    """The words around the figure that is found, for which nothing is worked."""
    path = loan.asked
    quote = loan.style_of(quote_of(loan)).in_words()
    clauses = tuple(clause_in_words(loan, clause, PLAIN) for clause in loan.clauses)
    if path is not None and path.clause is not None:
        asks = worded("In “{clauses}” the ? is", clauses=clauses[path.clause])
    else:
        period = frequencies.period(loan.every)
        words = WE[loan.we]
        asks = _ASKS[path].format(payment=period.payment, **words._asdict())
    return {"asks": asks, "unit": _unit(loan, quote), "quote": quote, "clauses": clauses}


def asks_for_payment(loan: Loan, schedule: Schedule, value: str) -> str:
    """What is said of a payment beside clauses, or of one that repays a part: each, the first, the
    last or from which one on it is so."""
    payment = frequencies.period(loan.every).payment
    paid, unit = schedule.columns.payment, schedule.unit
    if loan.repayment == "at-the-end":
        return worded("The payment at the end is")
    if loan.repayment == "interest-only":
        return worded("Each {payment} of interest is", payment=payment)
    if len(set(paid[:-1])) <= 1:
        return worded("Each {payment} is", payment=payment)
    first = next((place for place, each in enumerate(paid) if unit.write(each) == value), 0)
    if first == 0:
        return worded("The first {payment} is", payment=payment)
    return worded(
        "From payment {number} the {payment} is",
        number=schedule.columns.number[first],
        payment=payment,
    )


#: What is said before the figure that is found, but for those of clauses.
_ASKS: Final[Worded[FigurePath | None]] = Worded(
    {
        PAYMENT: "Each {payment} is",
        PRINCIPAL: "The amount {lent} is",
        BALANCE: "{left} is",
        COUNT: "It is {repaid}",
        RATE: "The rate is",
        MARGIN: "The margin on the index is",
        FIRST: "The first rate is",
        AMORTIZED_OVER: "It is reckoned over",
        COVER_RATIO: "The payments are covered",
        FigurePath(("purchase", "price")): "The price is",
        FigurePath(("purchase", "down", "percent")): "The down payment is",
        FigurePath(("purchase", "down", "amount")): "The down payment is",
        None: "Every figure is stated",
    }
)


def _unit(loan: Loan, quote: str) -> str:
    """What is said after it."""
    path = loan.asked
    if path is None:
        return ""
    match path.kind:
        case "money":
            return loan.currency
        case "count":
            return frequencies.period(loan.every).payments()
        case "ratio":
            return worded("times")
    if path == MARGIN:
        return worded("percentage points")
    if path.is_rate:
        return f"% {quote}"
    return worded("% of the price") if path.is_of_purchase else "%"
