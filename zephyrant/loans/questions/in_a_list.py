"""What a list of loans tells of each: the figures one compares from loan to loan."""

from datetime import date
from decimal import Decimal

from typing_extensions import TypedDict

from zephyrant.texts import ENGLISH, read_as

from ..answer.answer import AnswerHead
from ..answer.solving import with_the_answer
from ..document.fields import UNKNOWN
from ..document.loan import Loan


class LoanListed(TypedDict):
    """The figures of a loan, as they can be kept.

    Plain decimals, None for what a loan has not or what was not found: money in its currency, with
    so many `decimals`, rates in percent. `quote`: how the rate is quoted, in words. The last of
    `count` payments, each `every`, falls `years` after the start.
    """

    decimals: int
    amount: str | None
    payment: str | None
    rate: str | None
    quote: str
    effective: str | None
    count: str | None
    every: str | int
    years: str | None


def years_in(loan: Loan, place: int, day: date | None) -> float:
    """How many years after the start of a loan something happens: at the end of a period, or, where
    the loan has dates, on a day."""
    if loan.calendar is not None and day is not None:
        return (day - loan.calendar.start).days / 365.25
    in_advance = loan.timing == "in-advance"
    return (place - in_advance) / loan.payments_a_year


def listed(loan: Loan, answer: AnswerHead) -> LoanListed:
    """What a list tells of a loan with this answer; its words are kept, and are English."""
    with read_as(ENGLISH):
        quote = loan.style.in_words()
    whole = loan if answer.value is None else with_the_answer(loan)
    return {
        "decimals": loan.decimals,
        "amount": _known(whole.principal),
        "payment": _known(whole.payment) if whole.payment else None,
        "rate": _known(whole.rate.percent),
        "quote": quote,
        "effective": answer.rates["effective"] if answer.rates else None,
        "count": _known(whole.count) if whole.count else None,
        "every": loan.every,
        "years": _years(loan, answer),
    }


def _known(figure: Decimal | str | int) -> str | None:
    return None if figure == UNKNOWN else f"{Decimal(figure):f}"


def _years(loan: Loan, answer: AnswerHead) -> str | None:
    laid = answer.laid
    if laid is None or not laid.schedule.rows or not loan.payments_a_year:
        return None
    day = date.fromisoformat(answer.final_date) if answer.final_date else None
    years = years_in(loan, laid.schedule.columns.stands_at[-1], day)
    return f"{years:.4f}"
