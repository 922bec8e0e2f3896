"""Rates: a quote on every footing, and the ways to change one in a statement."""

from ninja import Router, Schema

from zephyrant.loans import Every
from zephyrant.loans.statement import (
    Quoting,
    RateAnswer,
    RateQuestion,
    Statement,
    Way,
    answer,
    repace,
    requote,
)

from .base import REFUSALS, SignedIn, answered

router = Router()


class Requote(Schema):
    """A statement, and how its rate is to be quoted from now on."""

    statement: Statement
    quoting: Quoting


class Repace(Schema):
    """A statement, and how often payments are to be made from now on."""

    statement: Statement
    every: Every


@router.post("rates", response={200: RateAnswer, **REFUSALS}, operation_id="rates")
def work_rates(request: SignedIn, question: RateQuestion) -> RateAnswer:
    """A quote worked: its missing figure found, the rate in every style."""
    return answered(request, answer, question)


@router.post("requote", response={200: list[Way], **REFUSALS}, operation_id="requote")
def ways_to_requote(request: SignedIn, asked: Requote) -> list[Way]:
    """Keep the number (another rate) or keep the rate (another number)."""
    return answered(request, requote, asked.statement, asked.quoting)


@router.post("repace", response={200: list[Way], **REFUSALS}, operation_id="repace")
def ways_to_repace(request: SignedIn, asked: Repace) -> list[Way]:
    """Keep the term (another count) or keep the count (another term)."""
    return answered(request, repace, asked.statement, asked.every)
