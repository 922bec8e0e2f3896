"""What else could be agreed, as typed: more paid than is due, points for a lower rate, loans side
by side."""

from collections.abc import Sequence
from decimal import Decimal
from typing import Final, NamedTuple

from pydantic import BaseModel, ConfigDict, Field

from zephyrant.texts import worded

from ..answer.solving import with_the_answer
from ..document.fields import UNKNOWN
from ..document.figure_path import COUNT
from ..document.loan import Loan
from ..errors import FieldError, NotALoan
from ..numbers.decimals import plain
from ..questions import paying_more as more_paid
from ..questions import side_by_side as beside
from ..questions.points import Offers, PointsOffer
from ..questions.side_by_side import Contender, SideBySide
from ..wording.marks import MARKS, Marks, MarksName
from .parsing import PLACES, Reading
from .restating import restate
from .statement import Statement
from .typed_amounts import read_amount, read_percent
from .typed_times import read_place
from .values import read_values
from .working import loan_of

#: Ends that are told at once.
MOST_ENDS: Final = 60


class Candidate(NamedTuple):
    """A loan as typed to stand beside others; without a statement `wrong` says why there is
    none."""

    name: str
    statement: Statement | None
    wrong: str | None = None


def side_by_side(candidates: Sequence[Candidate], base: int, marks_name: MarksName) -> SideBySide:
    """Loans as typed beside each other.

    Raises `NotALoan` where there are none or too many, or `base` is none of them.
    """
    return beside.side_by_side([_contender(each) for each in candidates], base, marks_name)


def _contender(candidate: Candidate) -> Contender:
    name, statement, wrong = candidate
    if statement is None:
        return Contender(name, "", None, wrong)
    try:
        return Contender(name, statement.currency, loan_of(statement))
    except NotALoan as mistaken:
        return Contender(name, statement.currency, None, mistaken.errors[0].message)


class More(BaseModel):
    """What is paid on top, as typed: with `each` payment, `instead` of the payment that is due, and
    a `lump` at a payment or on a day."""

    model_config = ConfigDict(frozen=True, defer_build=True, extra="forbid")

    each: str = Field(default="", max_length=200)
    instead: str = Field(default="", max_length=200)
    lump: str = Field(default="", max_length=200)
    at: str = Field(default="12", max_length=200)


class PaidMore(more_paid.Saving):
    """A loan as it stands and with more paid; `statement` is the loan with more paid, to open as a
    case of its own."""

    statement: Statement


def paying_more(statement: Statement, more: More) -> PaidMore:
    """The loan with more paid, against the loan as it stands.

    Raises `NotALoan` with what is wrong at its place.
    """
    marks = MARKS[statement.marks]
    loan = loan_of(statement)
    saving, after = more_paid.paying_more(loan, _clauses(more, loan, marks), marks)
    return PaidMore(**dict(saving), statement=restate(after, statement.marks))


def _clauses(more: More, loan: Loan, marks: Marks) -> list[dict[str, object]]:
    """The repayments on top as a document holds them."""
    told: list[dict[str, object]] = []
    wrong: list[FieldError] = []
    if not (more.each.strip() or more.instead.strip() or more.lump.strip()):
        message = worded("Say what is paid on top: with each payment, in its place, or once.")
        raise NotALoan.at("each", message)
    amounts = {
        name: _amount(name, typed, loan, marks, wrong)
        for name in ("each", "instead", "lump")
        if (typed := getattr(more, name)).strip()
    }
    place = read_place(more.at, marks) if "lump" in amounts else Reading()
    if place.error:
        wrong.append(FieldError(field="at", message=place.error))
    if wrong:
        raise NotALoan(wrong)
    if "each" in amounts:
        told.append({"from": 1, "repay": amounts["each"]})
    if "instead" in amounts:
        told.append({"from": 1, "repay": _above_what_is_due(amounts["instead"], loan, marks)})
    if "lump" in amounts:
        at = place.value or ""
        told.append({"at": int(at) if at.isdecimal() else at, "repay": amounts["lump"]})
    return told


def _amount(name: str, typed: str, loan: Loan, marks: Marks, wrong: list[FieldError]) -> str:
    """An amount above nothing; what is wrong with it is added to `wrong`."""
    reading: Reading = read_amount(typed, marks, loan.currency)
    message = reading.error
    if reading.value == UNKNOWN:
        message = worded("What is paid on top has to be stated. To have it found, aim at a result.")
    elif reading.value is not None and Decimal(reading.value) <= 0:
        message = worded("What is paid on top is more than nothing.")
    if message:
        wrong.append(FieldError(field=name, message=message))
    return reading.value or ""


def _above_what_is_due(paid: str, loan: Loan, marks: Marks) -> str:
    """What a new payment is above the one that is due; raises `NotALoan` where it is not."""
    whole = with_the_answer(loan)
    if not whole.states_payment:
        raise NotALoan.at(
            "instead",
            worded("Payments that follow the cash flow differ: say what is paid with each on top."),
        )
    due = Decimal(whole.payment)
    if Decimal(paid) <= due:
        shown = marks.number(due, PLACES, loan.decimals)
        raise NotALoan.at(
            "instead", worded("{shown} is due each time: this is no more than that.", shown=shown)
        )
    return plain(Decimal(paid) - due)


class Points(BaseModel):
    """The other offer as typed: its rate, quoted as the loan's, its `points` in percent of what is
    lent, and the payments after which the loan might end."""

    model_config = ConfigDict(frozen=True, defer_build=True, extra="forbid")

    percent: str = Field(default="", max_length=200)
    points: str = Field(default="1", max_length=200)
    ends: str = Field(default="", max_length=500)


class TwoOffers(Offers):
    """The loan as it stands against the same with points; `ends_typed` are the ends that were asked
    for or suggested, `statement` the offer with points, to open as a case of its own."""

    ends_typed: str
    statement: Statement


def two_offers(statement: Statement, other: Points) -> TwoOffers:
    """The loan as it stands against the same at another rate with points.

    Raises `NotALoan` with what is wrong at its place.
    """
    marks = MARKS[statement.marks]
    percent, points = _typed(other, marks)
    offer = PointsOffer(loan_of(statement), percent, points, marks)
    typed = other.ends.strip() or _suggested(offer.mine, offer.last)
    try:
        ends = read_values(typed, COUNT, statement, MOST_ENDS)
    except ValueError as error:
        raise NotALoan.at("ends", str(error)) from None
    return TwoOffers(
        **dict(offer.at_ends([int(end) for end in ends])),
        ends_typed=typed,
        statement=restate(offer.theirs, statement.marks),
    )


def _typed(other: Points, marks: Marks) -> tuple[str, str]:
    wrong = []
    values = []
    for name, typed in (("percent", other.percent), ("points", other.points)):
        reading: Reading = read_percent(typed, marks)
        message = reading.error
        if reading.value == UNKNOWN:
            message = worded("This has to be stated: an offer says its rate and its points.")
        elif reading.value is not None and name == "points" and Decimal(reading.value) < 0:
            message = worded("Points are not less than nothing.")
        if message:
            wrong.append(FieldError(field=name, message=message))
        values.append(reading.value or "0")
    if wrong:
        raise NotALoan(wrong)
    return values[0], values[1]


def _suggested(loan: Loan, last: int) -> str:
    """The ends of the first years, and the end of the loan."""
    year = loan.payments_a_year
    return "; ".join(
        str(number)
        for number in sorted({*(year * each for each in (1, 2, 3, 5, 7, 10)), last})
        if number <= last
    )
