"""Asking a loan: owed at a moment, the sum of a stretch, its end brought forward, its rate's curve,
somebody's schedule held against it, what moves it, more paid, points for a lower rate."""

from typing import Annotated

from ninja import Router, Schema
from pydantic import Field

from zephyrant.desk import answers, conflicts, limits
from zephyrant.desk.cases import Content
from zephyrant.desk.preferences import begins_of, marks_of
from zephyrant.loans import CurrencyCode
from zephyrant.loans.questions import (
    MOST_POINTS,
    Matched,
    Owed,
    PayoffRounding,
    PeriodTotals,
    RateCurve,
    Reconciliation,
)
from zephyrant.loans.said import MOST_CHARACTERS, SaidClauses, SaidLoan, said_clauses, said_loan
from zephyrant.loans.statement import (
    Agreed,
    EndedEarly,
    LentAnew,
    More,
    NewOffer,
    PaidMore,
    Points,
    Statement,
    TwoOffers,
    Unanswered,
    Variations,
    Varied,
    end_early,
    hold_against,
    lent_anew,
    paying_more,
    two_offers,
    unanswered,
    variant,
    vary,
)

from .base import REFUSALS, SignedIn, answered, worked_apart

router = Router(by_alias=True)


class AskBalanceAt(Schema):
    """A statement, and the moments asked for: "13", "every 12", "1 Mar 2029"."""

    statement: Statement
    at: str = Field(max_length=limits.MOST_ASKED)
    payoff: PayoffRounding = "nearest"


class AskPeriodTotals(Schema):
    """A statement, and the stretch asked for: "13-24", "year 2", "2028", "last 12"."""

    statement: Statement
    stretch: str = Field(max_length=limits.MOST_STRETCH)


class AskReconciliation(Schema):
    """A statement, the text of somebody's schedule, which of its columns is which where that has
    been asked, and by how much a figure may differ, as typed."""

    statement: Statement
    text: str = Field(max_length=limits.MOST_PASTED)
    matched: Matched | None = None
    tolerance: str = Field(default="0", max_length=limits.MOST_NAME)


@router.post("balance-at", response={200: list[Owed], **REFUSALS}, operation_id="askBalanceAt")
def ask_balance_at(request: SignedIn, asked: AskBalanceAt) -> list[Owed]:
    """What is owed after payments or on days, with the interest accrued to each."""
    return answered(request, answers.owed, asked.statement, asked.at, asked.payoff)


@router.post(
    "period-totals", response={200: list[PeriodTotals], **REFUSALS}, operation_id="askPeriodTotals"
)
def ask_period_totals(request: SignedIn, asked: AskPeriodTotals) -> list[PeriodTotals]:
    """What stretches of payments add up to, each on its own."""
    return answered(request, answers.period_totals_of, asked.statement, asked.stretch)


@router.post(
    "reconciliation", response={200: Reconciliation, **REFUSALS}, operation_id="askReconciliation"
)
def ask_reconciliation(request: SignedIn, asked: AskReconciliation) -> Reconciliation:
    """Somebody's schedule against ours, row by row."""
    return answered(
        request, hold_against, asked.statement, asked.text, asked.matched, asked.tolerance
    )


class AskLine(Schema):
    """A loan as one says it, and the currency where the line says none: left out, the one with
    which a new case of the analyst begins."""

    line: str = Field(max_length=MOST_CHARACTERS)
    currency: CurrencyCode | None = None


class AskClauses(Schema):
    """A statement, and clauses for it as one says them: a line each, or parted by `;`."""

    statement: Statement
    text: str = Field(max_length=MOST_CHARACTERS)


@router.post("line", response={200: SaidLoan, **REFUSALS}, operation_id="askLine")
def ask_line(request: SignedIn, asked: AskLine) -> SaidLoan:
    """A line read as a statement, with what was guessed, what is missing, and its answer."""
    usual = begins_of(request.user).usual
    if asked.currency is not None:
        usual = usual._replace(currency=asked.currency)
    return answered(request, said_loan, asked.line, marks_of(request.user), usual)


@router.post("clauses", response={200: SaidClauses, **REFUSALS}, operation_id="askClauses")
def ask_clauses(request: SignedIn, asked: AskClauses) -> SaidClauses:
    """Clauses said in words, as they are typed."""
    return answered(request, said_clauses, asked.text, asked.statement)


class AskPayoff(Schema):
    """A statement, the payment after which or the day on which it ends, what is agreed for that."""

    statement: Statement
    at: str = Field(max_length=limits.MOST_STRETCH)
    charge: Agreed = Agreed()


class AskRefinancing(Schema):
    """A statement, when it is ended and what is agreed for that, and the new offer."""

    statement: Statement
    at: str = Field(max_length=limits.MOST_STRETCH)
    charge: Agreed = Agreed()
    offer: NewOffer


class AskRateCurve(Schema):
    """A statement whose rate is asked for."""

    statement: Statement


@router.post("payoff", response={200: EndedEarly, **REFUSALS}, operation_id="askPayoff")
def ask_payoff(request: SignedIn, asked: AskPayoff) -> EndedEarly:
    """What it costs to end the loan after a payment or on a day, and the yearly cost if it does."""
    return answered(request, end_early, asked.statement, asked.at, asked.charge)


@router.post("refinancing", response={200: LentAnew, **REFUSALS}, operation_id="askRefinancing")
def ask_refinancing(request: SignedIn, asked: AskRefinancing) -> LentAnew:
    """The loan ended early with its charge against a new one: when that pays, what it saves."""
    return answered(request, lent_anew, asked.statement, asked.at, asked.charge, asked.offer)


@router.post("rate-curve", response={200: RateCurve, **REFUSALS}, operation_id="askRateCurve")
def ask_rate_curve(request: SignedIn, asked: AskRateCurve) -> RateCurve:
    """What is left at the end against the rate, and where that is as stated."""
    return answered(request, answers.curve, asked.statement)


class AskUnanswered(Schema):
    """A statement without an answer."""

    statement: Statement


@router.post("ways-out", response={200: Unanswered, **REFUSALS}, operation_id="askWaysOut")
def ask_ways_out(request: SignedIn, asked: AskUnanswered) -> Unanswered:
    """Where a loan without an answer leads, and what would give it one."""
    return answered(request, unanswered, asked.statement)


class AskSensitivity(Schema):
    """A statement, one or two figures to vary, and the results to see.

    `start`: where they are to be told in parts, the point a part begins with: 0, then each part's
    `swept.next`. All at once without it.
    """

    statement: Statement
    varied: list[Varied] = Field(max_length=2)
    results: list[str] = Field(max_length=12)
    start: Annotated[int, Field(ge=0, le=MOST_POINTS)] | None = None


class AskVariant(Schema):
    """A statement and the values, by path, to put into it."""

    statement: Statement
    values: dict[str, str] = Field(max_length=4)


@router.post("sensitivity", response={200: Variations, **REFUSALS}, operation_id="askSensitivity")
def ask_sensitivity(request: SignedIn, asked: AskSensitivity) -> Variations:
    """Results for every value of one or two figures, and what small changes do."""
    question = (asked.statement, asked.varied, asked.results)
    if asked.start is None:
        return answered(request, vary, *question)
    # What follows a first part is known to be heavy.
    worked = answered if asked.start == 0 else worked_apart
    return worked(request, answers.moves, *question, asked.start)


@router.post("variant", response={200: Statement, **REFUSALS}, operation_id="askVariant")
def ask_variant(request: SignedIn, asked: AskVariant) -> Statement:
    """The statement with the values of a point of a sweep."""
    return answered(request, variant, asked.statement, asked.values)


class AskPayingMore(Schema):
    """A statement, and what is paid on top."""

    statement: Statement
    more: More


class AskPoints(Schema):
    """A statement, and the other offer."""

    statement: Statement
    points: Points


@router.post("paying-more", response={200: PaidMore, **REFUSALS}, operation_id="askPayingMore")
def ask_paying_more(request: SignedIn, asked: AskPayingMore) -> PaidMore:
    """The loan with more paid than is due, against the loan as it stands."""
    return answered(request, paying_more, asked.statement, asked.more)


@router.post("points", response={200: TwoOffers, **REFUSALS}, operation_id="askPoints")
def ask_points(request: SignedIn, asked: AskPoints) -> TwoOffers:
    """The loan as it stands against the same at another rate with points."""
    return answered(request, two_offers, asked.statement, asked.points)


class AskDifferences(Schema):
    """Two versions of what stands in a case, and the one both began with."""

    mine: Content
    theirs: Content
    base: Content


@router.post(
    "differences",
    response={200: list[conflicts.VersionDifference], **REFUSALS},
    operation_id="askDifferences",
)
def ask_differences(request: SignedIn, asked: AskDifferences) -> list[conflicts.VersionDifference]:
    """What two versions of a case say otherwise, and which of them changed it."""
    marks = marks_of(request.user)
    return conflicts.differences(asked.mine, asked.theirs, asked.base, marks)
