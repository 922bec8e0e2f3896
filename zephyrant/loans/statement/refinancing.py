"""A loan ended early and lent anew, with the new offer as typed."""

from decimal import Decimal
from typing import Any

from pydantic import BaseModel, ConfigDict

from zephyrant.texts import worded

from ..answer.aim import aimed
from ..errors import NotALoan
from ..questions.refinancing import Offer, Refinancing, refinanced
from ..wording.marks import MARKS, Marks
from .early_end import Agreed, charge_of
from .parsing import Reading
from .restating import restate
from .statement import TYPED, Statement
from .typed_amounts import read_amount, read_percent
from .typed_times import read_count
from .working import loan_of


class NewOffer(BaseModel):
    """The new loan as typed: its rate, how many payments (empty: as many as are left), what is owed
    at their end (empty: what is owed there now), a fee in money or "1 %" of what is owed, whether
    charge and fee are lent, too; the rate at which the saving is discounted (empty: the new
    one)."""

    model_config = ConfigDict(frozen=True, defer_build=True, extra="forbid")

    percent: str = TYPED
    count: str = TYPED
    balance: str = TYPED
    fee: str = TYPED
    is_lent: bool = True
    discount: str = TYPED


class LentAnew(Refinancing):
    """What refinancing comes to; `statement` is the new loan, to open as a case of its own."""

    statement: Statement


def lent_anew(statement: Statement, at: str, agreed: Agreed, offer: NewOffer) -> LentAnew:
    """The loan ended after a payment or on a day with what is agreed for that, and lent anew.

    Raises `NotALoan` with what is wrong at its place.
    """
    marks = MARKS[statement.marks]
    loan = aimed(loan_of(statement))
    charge = charge_of(agreed, loan.currency, marks)
    read = _offer(offer, statement, marks)
    found, anew = refinanced(loan, at, charge, read, marks)
    return LentAnew(**dict(found), statement=restate(anew, statement.marks))


def _offer(offer: NewOffer, statement: Statement, marks: Marks) -> Offer:
    figures: dict[str, Any] = {"is_lent": offer.is_lent}
    figures["percent"] = Decimal(_stated("percent", read_percent(offer.percent, marks)))
    if offer.count.strip():
        count = _stated("count", read_count(offer.count, marks, statement.every))
        figures["count"] = int(count)
        if not figures["count"]:
            raise NotALoan.at("count", worded("The new loan has at least one payment."))
    if offer.balance.strip():
        balance = read_amount(offer.balance, marks, statement.currency)
        figures["balance"] = _amount("balance", balance)
    if offer.fee.strip().endswith("%"):
        percent = _amount("fee", read_percent(offer.fee, marks))
        if percent > 100:
            raise NotALoan.at("fee", worded("A fee is at most 100 % of what is owed."))
        figures["fee_percent"] = percent
    elif offer.fee.strip():
        figures["fee"] = _amount("fee", read_amount(offer.fee, marks, statement.currency))
    if offer.discount.strip():
        figures["discount"] = Decimal(_stated("discount", read_percent(offer.discount, marks)))
    return Offer(**figures)


def _stated(name: str, reading: Reading) -> str:
    return reading.stated_at(name, worded("This has to be stated: an offer says its figures."))


def _amount(name: str, reading: Reading) -> Decimal:
    amount = Decimal(_stated(name, reading))
    if amount < 0:
        raise NotALoan.at(name, worded("This is not less than nothing."))
    return amount
