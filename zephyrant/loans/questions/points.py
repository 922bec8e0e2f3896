"""Points for a lower rate: two offers, when the dearer start has paid off, and what each costs
where the loan ends earlier.

A point is a percent of what is lent, paid apart when the loan is made (common practice).
"""

from decimal import ROUND_FLOOR, Decimal
from itertools import accumulate
from typing import NamedTuple

from pydantic import BaseModel, ConfigDict, Field
from typing_extensions import TypedDict

from ..answer.aim import put
from ..answer.answer import with_the_answer
from ..document.fields import UNKNOWN
from ..document.loan import Loan, check, write
from ..errors import FieldError, NotALoan
from ..ledger.roll import Row, Schedule
from ..line.terms import footing_rate
from ..numbers.decimals import precise, to_step
from ..solve.worked import schedule_of, work_out
from ..statement.parsing import Reading, read_percent
from ..statement.statement import Statement, loan_of, read_values, restate
from ..wording.marks import MARKS, Marks, Money, Number, Sentence
from .payoff import Charge, settled

#: Ends that are told at once.
MOST_ENDS = 60


class Points(BaseModel):
    """The other offer as typed: its rate, quoted as the loan's, its `points` in percent of what is
    lent, and the payments after which the loan might end."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    percent: str = Field(default="", max_length=200)
    points: str = Field(default="1", max_length=200)
    ends: str = Field(default="", max_length=500)


class EndedAt(TypedDict):
    """Both offers ended after a payment: true yearly costs in percent, effective (EU rule) and
    nominal (US rule), and by how much the offer with points is then ahead."""

    number: int
    date: str | None
    as_it_stands_eu: str | None
    with_points_eu: str | None
    as_it_stands_us: str | None
    with_points_us: str | None
    ahead: str


class TwoOffers(BaseModel):
    """`paid_off`: the payment from which the offer with points is ahead in money, what is still
    owed counted; `paid_off_by_payments`: from which its smaller payments alone have made up for it;
    `cheaper_from`: from which it is the cheaper one by its true cost, money later counting for less
    at the rate of the loan as it stands (not told where periods are not alike). None: never.
    `ahead` in money after each payment from 0."""

    payment: str
    payment_with_points: str
    points_cost: str
    less_each: str
    paid_off: int | None
    paid_off_by_payments: int | None
    cheaper_from: int | None
    ends: list[EndedAt]
    ends_typed: str
    ahead: list[str]
    says: str
    statement: Statement


def two_offers(statement: Statement, other: Points) -> TwoOffers:
    """The loan as it stands against the same at another rate with points.

    Raises `NotALoan` with what is wrong at its place.
    """
    marks = MARKS[statement.marks]
    percent, points = _typed(other, marks)
    mine = _asking_payment(loan_of(statement))
    theirs = _with_points(mine, percent, points)
    one, two = schedule_of(mine, marks), schedule_of(theirs, marks)
    if len(one.rows) != len(two.rows):
        raise NotALoan([FieldError(field="", message="The two offers do not end together.")])
    lent = one.unit.amount(one.rows[0].opening)
    share = to_step(lent * Decimal(points) / 100, mine.minor_unit, "nearest")
    cost = one.unit.count(share)
    pairs = list(zip(one.rows, two.rows, strict=True))
    by_payments = list(accumulate((a.payment - b.payment for a, b in pairs), initial=-cost))
    owed = [0, *(a.rest - b.rest for a, b in pairs)]
    ahead = [paid + left for paid, left in zip(by_payments, owed, strict=True)]
    typed = other.ends.strip() or _suggested(mine, len(one.rows))
    try:
        ends = read_values(typed, "count", statement, MOST_ENDS)
    except ValueError as error:
        raise NotALoan([FieldError(field="ends", message=str(error))]) from None
    told = []
    for end in ends:
        number = int(end)
        if not 1 <= number <= len(one.rows):
            message = f"There is no payment {number}: the loan has {len(one.rows)}."
            raise NotALoan([FieldError(field="ends", message=message)])
        a = settled(mine, str(number), Charge(), marks)
        b = settled(theirs, str(number), Charge(), marks)
        told.append(
            EndedAt(
                number=number,
                date=a["date"],
                as_it_stands_eu=a["yearly_cost"]["eu_aprc"],
                with_points_eu=b["yearly_cost"]["eu_aprc"],
                as_it_stands_us=a["yearly_cost"]["us_apr"],
                with_points_us=b["yearly_cost"]["us_apr"],
                ahead=one.unit.write(ahead[number]),
            )
        )
    when = _When(_from(ahead), _from(by_payments), _cheaper_from(mine, pairs, cost))
    each = one.rows[0].payment - two.rows[0].payment
    return TwoOffers(
        payment=one.unit.write(one.rows[0].payment),
        payment_with_points=two.unit.write(two.rows[0].payment),
        points_cost=one.unit.write(cost),
        less_each=one.unit.write(each),
        paid_off=when.ahead,
        paid_off_by_payments=when.by_payments,
        cheaper_from=when.cheaper,
        ends=told,
        ends_typed=typed,
        ahead=[one.unit.write(units) for units in ahead],
        says=_says(mine, one, cost, when).say(marks),
        statement=restate(theirs, statement.marks),
    )


def _typed(other: Points, marks: Marks) -> tuple[str, str]:
    wrong = []
    values = []
    for name, typed in (("percent", other.percent), ("points", other.points)):
        reading: Reading = read_percent(typed, marks)
        message = reading.error
        if reading.value == UNKNOWN:
            message = "This has to be stated: an offer says its rate and its points."
        elif reading.value is not None and name == "points" and Decimal(reading.value) < 0:
            message = "Points are not less than nothing."
        if message:
            wrong.append(FieldError(field=name, message=message))
        values.append(reading.value or "0")
    if wrong:
        raise NotALoan(wrong)
    return values[0], values[1]


def _asking_payment(loan: Loan) -> Loan:
    """The loan with everything but its payment stated."""
    if loan.unknown == "payment" and loan.aim is None:
        return loan
    content = write(with_the_answer(loan))
    content.pop("aim", None)
    return check({**content, "payment": UNKNOWN})


def _with_points(loan: Loan, percent: str, points: str) -> Loan:
    content = write(put(loan, "rate.percent", percent))
    fee = {"at": 0, "fee": {"percent": points}, "taken": "apart"}
    if Decimal(points):
        content["clauses"] = [*content.get("clauses", []), fee]
    return check(content)


def _suggested(loan: Loan, last: int) -> str:
    """The ends of the first years, and the end of the loan."""
    year = loan.payments_a_year
    return "; ".join(
        str(number)
        for number in sorted({*(year * each for each in (1, 2, 3, 5, 7, 10)), last})
        if number <= last
    )


def _from(ahead: list[int]) -> int | None:
    """The first payment from which on an offer stays ahead."""
    found = None
    for number, units in enumerate(ahead):
        if units < 0:
            found = None
        elif found is None:
            found = number
    return found


def _cheaper_from(loan: Loan, pairs: list[tuple[Row, Row]], cost: int) -> int | None:
    """From which payment on the offer with points costs less a year, if the loan ends there.

    Its yearly cost is the lower one where, at the rate of the loan as it stands, what it saves is
    worth more than the points.
    """
    calendar = loan.calendar
    rate = footing_rate(loan, work_out(loan).found)
    if rate is None or (calendar is not None and not calendar.is_regular):
        return None
    in_advance = loan.timing == "in-advance"
    worth, ahead = Decimal(-cost), [-cost]
    with precise():
        for number, (mine, theirs) in enumerate(pairs):
            if number or not in_advance:
                worth *= 1 + rate
            worth += mine.payment - theirs.payment
            ahead.append(int((worth + mine.rest - theirs.rest).to_integral_value(ROUND_FLOOR)))
    return _from(ahead)


class _When(NamedTuple):
    """From which payment on: ahead in money, by the payments alone, cheaper by its true cost."""

    ahead: int | None
    by_payments: int | None
    cheaper: int | None


def _says(loan: Loan, laid: Schedule, cost: int, when: _When) -> Sentence:
    paid_off, alone, cheaper = when
    text = "The points of {cost} have paid off "
    if not cost:
        text = "There are no points to make up for."
    elif paid_off is None:
        text = "The points of {cost} never pay off."
    else:
        text += "after payment {paid_off}, counting what is still owed"
        text += (
            "; by the smaller payments alone after payment {alone}."
            if alone is not None
            else "; the smaller payments alone never make up for them."
        )
        if cheaper is not None:
            text += " By its true yearly cost it is the cheaper one from payment {cheaper} on."
    return Sentence(
        text,
        cost=Money(laid.unit.amount(cost), loan.decimals),
        paid_off=Number(paid_off or 0),
        alone=Number(alone or 0),
        cheaper=Number(cheaper or 0),
    )
