"""A loan ended early and lent anew: what the new payments save, from when on that has made up for
the charge and the fee, and what the saving is worth when it begins.

What is saved is worth what is still to be paid of the loan as it stands, discounted, less what is
to be paid of the new one, less what is paid at once. Discounted at the new loan's own rate the new
loan is worth what it lends.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date
from decimal import Decimal
from functools import cached_property
from itertools import accumulate
from typing import Any, Final, NamedTuple

from pydantic import BaseModel, ConfigDict, Field

from zephyrant.texts import worded

from ..calendars.days_in_words import write_day
from ..cost.rest import Moment, Rest
from ..document.fields import UNKNOWN
from ..document.limits import MOST_PAYMENTS
from ..document.loan import Loan
from ..document.quote import outside
from ..document.reading import check, write
from ..errors import NotALoan
from ..ledger.rows import Row, Schedule
from ..line.line import Line
from ..numbers.decimals import plain, precise, to_step
from ..quotes.conversion import periodic_rate
from ..unknowns.worked import schedule_of, work_out
from ..wording.marks import Marks, Money, Number, Sentence
from ..wording.tables import TableTold, row_told
from .ending_charge import Charge
from .payoff import PayoffAmount, payoff_at
from .staying_ahead import stays_from

#: Ways of repaying that a new loan has like the one before it.
_KEPT: Final = ("level", "equal-principal", "interest-only")
#: What a new loan has of the one before it.
_SAME: Final = ("zephyrant", "currency", "every", "rounding", "day_count", "odd_days", "we")


class Offer(BaseModel):
    """The new loan: its rate in percent, quoted as the loan's; how many payments (None: as many as
    are left), what is owed at their end (None: what is owed there now), the fee in money or in
    percent of what is owed, and whether charge and fee are lent, too, or paid at once.
    `discount`: the rate at which the saving is worth less later, in percent, quoted as the loan's;
    None: the offer's."""

    model_config = ConfigDict(frozen=True, defer_build=True, extra="forbid")

    percent: Decimal
    count: int | None = Field(default=None, ge=1, le=MOST_PAYMENTS)
    balance: Decimal | None = Field(default=None, ge=0)
    fee: Decimal = Field(default=Decimal(0), ge=0)
    fee_percent: Decimal = Field(default=Decimal(0), ge=0, le=100)
    is_lent: bool = True
    discount: Decimal | None = None


class Refinancing(BaseModel):
    """The loan as it stands against the new one. Money in the loan's currency. `at_once`: what is
    paid when it is changed; `lent`: by the new loan. `ahead`: by how much one is ahead after each
    payment from 0, counting what is still owed; `pays_from`: the payment from which on one stays
    so, `pays_from_by_payments` by the payments alone (None: never). `saving`: in all;
    `present_value`: of it, when it is changed, at `discount` percent."""

    payoff: PayoffAmount
    fee: str
    at_once: str
    lent: str
    payment_before: str
    payment_after: str
    payments_before: int
    payments_after: int
    ahead: list[str]
    pays_from: int | None
    pays_from_by_payments: int | None
    saving: str
    present_value: str
    discount: str
    says: str
    terms: str
    told: TableTold


@dataclass(frozen=True)
class _Laid:
    """A loan laid out from a moment on: what is paid with each payment after it, what is owed right
    after each, and what all of it is worth at a rate."""

    loan: Loan
    line: Line
    schedule: Schedule
    moment: Moment

    @cached_property
    def _rows(self) -> list[Row]:
        return [row for row in self.schedule.rows if row.stands_at > self.moment.number]

    @cached_property
    def paid(self) -> list[Decimal]:
        """What is paid with each payment, less what is lent with it; what is left with the last."""
        rows, unit, (number, day) = self._rows, self.schedule.unit, self.moment
        paid = [unit.amount(row.paid - row.advance) for row in rows]
        if paid and rows[-1].closing > 0:
            paid[-1] += unit.amount(rows[-1].closing)
        if paid and day is not None:
            # What has moved by then in the period is not paid any more.
            period = max(1, number) if self.loan.timing == "in-advance" else number + 1
            gone = (each for each in self.line.between if each.number == period)
            paid[0] += sum((each.amount for each in gone if each.day <= day), Decimal(0))
        return paid

    @cached_property
    def owed(self) -> list[Decimal]:
        """What is owed right after each payment; after the last nothing, what is left being paid
        with it."""
        unit = self.schedule.unit
        return [*(unit.amount(row.rest) for row in self._rows[:-1]), Decimal(0)]

    def worth(self, percent: Decimal) -> Decimal:
        """What is still to be paid, discounted at a rate quoted as the loan's."""
        rest = Rest(self.line, self.schedule, self.moment)
        return rest.worth(periodic_rate(percent, self.loan.style))


def refinanced(
    loan: Loan, typed: str, charge: Charge, offer: Offer, marks: Marks
) -> tuple[Refinancing, Loan]:
    """The loan ended at a moment with its charge, and lent anew; the new loan, too.

    Raises `NotALoan` at `at`, `charge`, `percent`, `count`, `balance`, `fee` or `discount`.
    """
    before = _laid(loan, Moment(0), marks)
    if not before.line.has_payments:
        raise NotALoan.at("at", worded("Clauses alone are this loan: it has no payments to save."))
    for name, percent in (("percent", offer.percent), ("discount", offer.discount)):
        if percent is not None and (sentence := _unquotable(loan, percent)):
            raise NotALoan.at(name, sentence)
    ended = payoff_at(loan, typed, charge, marks)
    day = date.fromisoformat(ended["date"]) if ended["date"] else None
    moment = Moment(ended["number"], day if ended["on_a_day"] else None)
    before = replace(before, moment=moment)
    if not before.paid:
        raise NotALoan.at("at", worded("Nothing is left to be paid then: name an earlier payment."))
    owed, charged = Decimal(ended["owed"]), Decimal(ended["charge"])
    fee = offer.fee + to_step(owed * offer.fee_percent / 100, loan.minor_unit, "nearest")
    at_once = Decimal(0) if offer.is_lent else charged + fee
    lent = owed + charged + fee - at_once
    anew = _anew(before, day, offer, lent)
    after = _laid(anew, Moment(0), marks)
    ahead = _ahead(before, after, lent - owed + at_once, at_once)
    discount = offer.percent if offer.discount is None else offer.discount
    with precise():
        value = before.worth(discount) - after.worth(discount) - at_once
    told = _Told(loan, before, after, ahead, marks)

    def money(amount: Decimal) -> str:
        return plain(to_step(amount, loan.minor_unit, "nearest"), loan.decimals)

    return (
        Refinancing(
            payoff=ended,
            fee=money(fee),
            at_once=money(at_once),
            lent=money(lent),
            payment_before=money(before.paid[0]),
            payment_after=money(after.paid[0]),
            payments_before=len(before.paid),
            payments_after=len(after.paid),
            ahead=[money(each) for each in ahead.counting_owed],
            pays_from=stays_from(ahead.counting_owed),
            pays_from_by_payments=stays_from(ahead.by_payments),
            saving=money(ahead.counting_owed[-1]),
            present_value=money(value),
            discount=plain(discount),
            says=told.says(value, discount),
            terms=told.terms(lent, charged + fee, is_lent=offer.is_lent),
            told=told.table(),
        ),
        anew,
    )


def _unquotable(loan: Loan, percent: Decimal) -> str | None:
    if loan.rate.convention.is_of_a_loan:
        return worded("A flat quote speaks of a whole loan: quote the rate in another style.")
    return outside(percent, loan.style)


def _laid(loan: Loan, moment: Moment, marks: Marks) -> _Laid:
    schedule, line = schedule_of(loan, marks), work_out(loan).line
    if line is None:
        raise ValueError("a loan with a schedule has its line")
    return _Laid(loan, line, schedule, moment)


def _anew(before: _Laid, day: date | None, offer: Offer, lent: Decimal) -> Loan:
    """The new loan: paid as the one before it, from the moment on, without its clauses."""
    loan, number = before.loan, before.moment.number
    if lent <= 0:
        raise NotALoan.at("at", worded("Nothing is owed then: there is nothing to lend anew."))
    content: dict[str, Any] = {name: value for name, value in write(loan).items() if name in _SAME}
    rate = {name: getattr(loan.rate, name) for name in ("quoted", "compounding")}
    if loan.rate.year_days:
        rate["year_days"] = loan.rate.year_days
    if loan.rate.over:
        rate["over"] = loan.rate.over.model_dump(mode="json")
    content["rate"] = {
        **{name: value for name, value in rate.items() if value is not None},
        "percent": plain(offer.percent),
    }
    if day is not None and loan.calendar is not None:
        content["start"] = day.isoformat()
        content["first_payment"] = loan.calendar.unmoved(number + 1).isoformat()
        if loan.business_days is not None:
            content["business_days"] = loan.business_days.model_dump(mode="json")
    left = max(before.schedule.unit.amount(before.schedule.rows[-1].closing), Decimal(0))
    content |= {
        "principal": plain(lent),
        "count": offer.count or len(before.paid),
        "payment": UNKNOWN,
        "balance": plain(left if offer.balance is None else offer.balance),
        "repayment": loan.repayment if loan.repayment in _KEPT else "level",
    }
    try:
        return check(content)
    except NotALoan as wrong:
        error = wrong.errors[0]
        known = {"rate.percent": "percent", "count": "count", "balance": "balance"}
        raise NotALoan.at(known.get(error.field, "at"), error.message) from None


class _Ahead(NamedTuple):
    """By how much one is ahead after each payment from 0: counting what is still owed, and by the
    payments alone."""

    counting_owed: list[Decimal]
    by_payments: list[Decimal]


def _ahead(before: _Laid, after: _Laid, costs: Decimal, at_once: Decimal) -> _Ahead:
    """`costs`: charge and fee; `at_once`: what of them is paid when the loan is changed."""
    last = max(len(before.paid), len(after.paid))

    def filled(amounts: Sequence[Decimal]) -> list[Decimal]:
        return [*amounts, *[Decimal(0)] * (last - len(amounts))]

    saved = [
        one - other for one, other in zip(filled(before.paid), filled(after.paid), strict=True)
    ]
    by_payments = [*accumulate(saved, initial=-at_once)]
    owed = [one - other for one, other in zip(filled(before.owed), filled(after.owed), strict=True)]
    # At the moment itself more is lent than was owed where charge and fee are lent, too.
    counting = [-costs, *(paid + left for paid, left in zip(by_payments[1:], owed, strict=True))]
    return _Ahead(counting, by_payments)


class _Told(NamedTuple):
    """What is said of it, in the reader's marks."""

    loan: Loan
    before: _Laid
    after: _Laid
    ahead: _Ahead
    marks: Marks

    def _money(self, amount: Decimal) -> Money:
        return Money(amount, self.loan.decimals)

    def says(self, value: Decimal, discount: Decimal) -> str:
        """When it pays, and what it is worth."""
        pays, first = stays_from(self.ahead.counting_owed), self.before.moment.number
        if pays is None:
            text = worded("It never pays: charge and fee are more than is saved. ")
        elif not pays:
            text = worded("It pays from the start. ")
        else:
            text = worded("It has paid from payment {pays} of the loan on{day}. ")
        text += (
            worded("What is saved is worth {value} when it is changed, at {discount} %.")
            if value >= 0
            else worded("What is lost is worth {value} when it is changed, at {discount} %.")
        )
        calendar, number = self.loan.calendar, first + (pays or 0)
        day = write_day(calendar.due(number)) if calendar and pays else ""
        return Sentence(
            text,
            pays=Number(number),
            day=f", {day}" if day else "",
            value=self._money(abs(value)),
            discount=Number(discount, 6, 2),
        ).say(self.marks)

    def terms(self, lent: Decimal, costs: Decimal, *, is_lent: bool) -> str:
        """What is lent anew, and how the payments change."""
        text = worded("{lent} is lent anew, {costs} of it for charge and fee. ")
        if not is_lent:
            text = worded("{lent} is lent anew; {costs} for charge and fee is paid at once. ")
        if not costs:
            text = worded("{lent} is lent anew, without charge or fee. ")
        text += worded("The next payment is {after} instead of {before}.")
        return Sentence(
            text,
            lent=self._money(lent),
            costs=self._money(costs),
            after=self._money(self.after.paid[0]),
            before=self._money(self.before.paid[0]),
        ).say(self.marks)

    def table(self) -> TableTold:
        """Some payments with what is paid and owed of both loans, and how far one is ahead."""
        marks, year = self.marks, self.loan.payments_a_year
        last = len(self.ahead.counting_owed) - 1
        some = sorted(
            {
                *(each for each in (1, *(year * many for many in _YEARS)) if each <= last),
                last,
                *(each for each in (stays_from(self.ahead.counting_owed),) if each),
            }
        )

        def at(amounts: Sequence[Decimal], place: int) -> str:
            if not 0 <= place < len(amounts):
                return marks.number(Decimal(0), 20, self.loan.decimals)
            return marks.number(amounts[place], 20, self.loan.decimals)

        first = self.before.moment.number
        return TableTold(
            heads=(
                worded("After payment"),
                worded("Paid as it stands"),
                worded("Paid anew"),
                worded("Owed as it stands"),
                worded("Owed anew"),
                worded("Ahead by"),
            ),
            rows=tuple(
                row_told(
                    marks.write(str(first + number)),
                    at(self.before.paid, number - 1),
                    at(self.after.paid, number - 1),
                    at(self.before.owed, number - 1),
                    at(self.after.owed, number - 1),
                    at(self.ahead.counting_owed, number),
                )
                for number in some
            ),
        )


#: After how many years it is told.
_YEARS: Final = (1, 2, 3, 5, 7, 10, 15, 20, 25, 30)
