"""Points for a lower rate: two offers, when the dearer start has paid off, and what each costs
where the loan ends earlier.

A point is a percent of what is lent, paid apart when the loan is made (common practice).
"""

from collections.abc import Sequence
from decimal import ROUND_FLOOR, Decimal
from itertools import accumulate
from typing import NamedTuple

from pydantic import BaseModel
from typing_extensions import TypedDict

from zephyrant.texts import worded

from ..answer.solving import with_the_answer
from ..document.fields import UNKNOWN
from ..document.figure_path import RATE
from ..document.loan import Loan
from ..document.paths import with_figure
from ..document.reading import check, write
from ..document.telling import told
from ..errors import NotALoan
from ..ledger.exact import EXACT
from ..ledger.period import Reckoned, happens
from ..ledger.rows import Row, Schedule
from ..line.stretch import Stretch
from ..numbers.decimals import precise, to_step
from ..unknowns.worked import schedule_of, work_out
from ..wording.marks import Marks, Money, Number, Sentence
from ..wording.refusals import no_payment
from ..wording.tables import TableTold, row_told
from .ending_charge import Charge
from .payoff import payoff_at
from .staying_ahead import stays_from


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


class Offers(BaseModel):
    """`paid_off`: the payment from which the offer with points is ahead in money, what is still
    owed counted; `paid_off_by_payments`: from which its smaller payments alone have made up for it;
    `cheaper_from`: from which it is the cheaper one by its true cost, money later counting for less
    at the rate of the loan as it stands (not told where periods are not alike). None: never.
    `ahead` in money after each payment from 0. `terms`: what the points buy, in words."""

    payment: str
    payment_with_points: str
    points_cost: str
    less_each: str
    paid_off: int | None
    paid_off_by_payments: int | None
    cheaper_from: int | None
    ends: list[EndedAt]
    ahead: list[str]
    says: str
    terms: str
    told: TableTold


class PointsOffer:
    """A loan as it stands and the same at another rate with points, both laid out to the cent.

    `percent` and `points` are in percent, the one quoted as the loan's, the other of what is lent.
    Raises `NotALoan` where they do not end together.
    """

    def __init__(self, loan: Loan, percent: str, points: str, marks: Marks) -> None:
        self.marks = marks
        self.mine = _asking_payment(loan)
        self.theirs = _with_points(self.mine, percent, points)
        self.one, self.two = schedule_of(self.mine, marks), schedule_of(self.theirs, marks)
        if len(self.one.rows) != len(self.two.rows):
            raise NotALoan.at("", worded("The two offers do not end together."))
        unit = self.one.unit
        lent = unit.amount(self.one.rows[0].opening)
        share = to_step(lent * Decimal(points) / 100, self.mine.minor_unit, "nearest")
        self.cost = unit.count(share)

    @property
    def last(self) -> int:
        """The number of the last payment."""
        return len(self.one.rows)

    def at_ends(self, ends: Sequence[int]) -> Offers:
        """Both offers held against each other, ended after the payments `ends` too.

        Raises `NotALoan` where there is no such payment.
        """
        one, two, unit = self.one, self.two, self.one.unit
        pairs = list(zip(one.rows, two.rows, strict=True))
        by_payments = [
            *accumulate((a.payment - b.payment for a, b in pairs), initial=-self.cost),
        ]
        owed = [0, *(a.rest - b.rest for a, b in pairs)]
        ahead = [paid + left for paid, left in zip(by_payments, owed, strict=True)]
        when = _When(
            stays_from(ahead), stays_from(by_payments), _cheaper_from(self.mine, pairs, self.cost)
        )
        first, second = one.rows[0].payment, two.rows[0].payment
        ended = [self._ended(number, unit.write(ahead[number])) for number in self._of(ends)]
        figures = {
            "theirs": (two.unit, second),
            "mine": (unit, first),
            "less": (unit, first - second),
            "cost": (unit, self.cost),
        }
        text = worded(
            "Payments of {theirs} instead of {mine}: {less} less each. The points cost {cost}."
        )
        if self.mine.repayment != "level":
            text = worded(
                "A first payment of {theirs} instead of {mine}, {less} less. The points cost "
                "{cost}."
            )
        terms = Sentence(
            text,
            **{
                name: Money(each.amount(units), self.mine.decimals)
                for name, (each, units) in figures.items()
            },
        )
        return Offers(
            payment=unit.write(first),
            payment_with_points=two.unit.write(second),
            points_cost=unit.write(self.cost),
            less_each=unit.write(first - second),
            paid_off=when.ahead,
            paid_off_by_payments=when.by_payments,
            cheaper_from=when.cheaper,
            ends=ended,
            ahead=[unit.write(units) for units in ahead],
            says=_says(self.mine, one, self.cost, when).say(self.marks),
            terms=terms.say(self.marks),
            told=_told(ended, self.marks),
        )

    def _of(self, ends: Sequence[int]) -> Sequence[int]:
        for number in ends:
            if not 1 <= number <= self.last:
                message = no_payment(number, self.last)
                raise NotALoan.at("ends", message)
        return ends

    def _ended(self, number: int, ahead: str) -> EndedAt:
        a = payoff_at(self.mine, str(number), Charge(), self.marks)
        b = payoff_at(self.theirs, str(number), Charge(), self.marks)
        return EndedAt(
            number=number,
            date=a["date"],
            as_it_stands_eu=a["yearly_cost"]["eu_aprc"],
            with_points_eu=b["yearly_cost"]["eu_aprc"],
            as_it_stands_us=a["yearly_cost"]["us_apr"],
            with_points_us=b["yearly_cost"]["us_apr"],
            ahead=ahead,
        )


def _told(ends: Sequence[EndedAt], marks: Marks) -> TableTold:
    """Each end with what the offers come to there."""

    def percent(text: str | None) -> str:
        return worded("none fits") if text is None else told("percent", Decimal(text), marks, 0)

    return TableTold(
        heads=(
            worded("Ended after"),
            worded("With points, ahead by"),
            worded("True cost as it stands, effective (EU)"),
            worded("with points"),
            worded("As it stands, nominal (US)"),
            worded("with points"),
        ),
        rows=tuple(
            row_told(
                worded("payment {number}", number=end["number"]),
                marks.write(end["ahead"]),
                percent(end["as_it_stands_eu"]),
                percent(end["with_points_eu"]),
                percent(end["as_it_stands_us"]),
                percent(end["with_points_us"]),
            )
            for end in ends
        ),
    )


def _asking_payment(loan: Loan) -> Loan:
    """The loan with everything but its payment stated."""
    if loan.unknown == "payment" and loan.aim is None:
        return loan
    content = write(with_the_answer(loan))
    content.pop("aim", None)
    return check({**content, "payment": UNKNOWN})


def _with_points(loan: Loan, percent: str, points: str) -> Loan:
    content = write(with_figure(loan, RATE, percent))
    fee = {"at": 0, "fee": {"percent": points}, "taken": "apart"}
    if Decimal(points):
        content["clauses"] = [*content.get("clauses", []), fee]
    return check(content)


def _cheaper_from(loan: Loan, pairs: list[tuple[Row, Row]], cost: int) -> int | None:
    """From which payment on the offer with points costs less a year, if the loan ends there.

    Its yearly cost is the lower one where, at the rate of the loan as it stands, what it saves is
    worth more than the points: they are rolled as if they were lent, and repaid by what is saved.
    """
    calendar, line = loan.calendar, work_out(loan).line
    if line is None or (calendar is not None and not calendar.is_regular):
        return None
    owed, nothing, ahead = Decimal(cost), Decimal(0), [-cost]
    with precise():
        for run in line.runs:
            for mine, theirs in pairs[run.first - 1 : run.last]:
                saved = Stretch(
                    mine.number,
                    mine.number,
                    run.before,
                    run.after,
                    Decimal(mine.payment - theirs.payment),
                    on_top=False,
                    advance=nothing,
                    fee=nothing,
                    repay=nothing,
                )
                it = happens(owed, Reckoned(saved, EXACT))
                gained = mine.rest - theirs.rest - it.rest
                ahead.append(int(gained.to_integral_value(ROUND_FLOOR)))
                owed = it.closing
    return stays_from(ahead)


class _When(NamedTuple):
    """From which payment on: ahead in money, by the payments alone, cheaper by its true cost."""

    ahead: int | None
    by_payments: int | None
    cheaper: int | None


def _says(loan: Loan, schedule: Schedule, cost: int, when: _When) -> Sentence:
    paid_off, alone, cheaper = when
    text = worded("The points of {cost} have paid off ")
    if not cost:
        text = worded("There are no points to make up for.")
    elif paid_off is None:
        text = worded("The points of {cost} never pay off.")
    else:
        text += worded("after payment {paid_off}, counting what is still owed")
        text += (
            worded("; by the smaller payments alone after payment {alone}.")
            if alone is not None
            else worded("; the smaller payments alone never make up for them.")
        )
        if cheaper is not None:
            text += worded(
                " By its true yearly cost it is the cheaper one from payment {cheaper} on."
            )
    return Sentence(
        text,
        cost=Money(schedule.unit.amount(cost), loan.decimals),
        paid_off=Number(paid_off or 0),
        alone=Number(alone or 0),
        cheaper=Number(cheaper or 0),
    )
