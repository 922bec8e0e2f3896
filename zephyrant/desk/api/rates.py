"""Asking about rates: a quote on every footing, the ways to change one, quotes compared."""

from ninja import Router, Schema

from zephyrant.loans import Every
from zephyrant.loans.statement import (
    Comparison,
    QuoteList,
    Quoting,
    RateAnswer,
    RateQuestion,
    Statement,
    Way,
    answer,
    compare,
    repace,
    requote,
)

from .base import REFUSALS, SignedIn, answered

router = Router(by_alias=True)


class AskRequoting(Schema):
    """A statement, and how its rate is to be quoted from now on."""

    statement: Statement
    quoting: Quoting


class AskRepacing(Schema):
    """A statement, and how often payments are to be made from now on."""

    statement: Statement
    every: Every


@router.post(
    "equivalent-rates", response={200: RateAnswer, **REFUSALS}, operation_id="askEquivalentRates"
)
def ask_equivalent_rates(request: SignedIn, question: RateQuestion) -> RateAnswer:
    """A quote worked: its missing figure found, the rate in every style."""
    return answered(request, answer, question)


@router.post("requoting", response={200: list[Way], **REFUSALS}, operation_id="askRequoting")
def ask_requoting(request: SignedIn, asked: AskRequoting) -> list[Way]:
    """Keep the number (another rate) or keep the rate (another number)."""
    return answered(request, requote, asked.statement, asked.quoting)


@router.post("repacing", response={200: list[Way], **REFUSALS}, operation_id="askRepacing")
def ask_repacing(request: SignedIn, asked: AskRepacing) -> list[Way]:
    """Keep the term (another count) or keep the count (another term)."""
    return answered(request, repace, asked.statement, asked.every)


@router.post("comparison", response={200: Comparison, **REFUSALS}, operation_id="askComparison")
def ask_comparison(request: SignedIn, quotes: QuoteList) -> Comparison:
    """Quotes on one footing, ranked, and in money on the loan stated with them."""
    return answered(request, compare, quotes)
