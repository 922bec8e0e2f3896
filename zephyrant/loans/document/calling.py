"""What a loan without a name is called: by its terms."""

from decimal import Decimal
from typing import Any

from typing_extensions import TypedDict

from zephyrant.texts import worded

from ..calendars import frequencies
from ..numbers.decimals import is_whole
from ..wording.marks import Marks
from ..wording.units import with_unit
from .fields import UNKNOWN
from .figure_path import figure_path
from .loan import Loan


class Calling(TypedDict):
    """By what a loan is called, as it can be kept: plain decimals, and the path of what is asked
    for (None where every figure is stated)."""

    amount: str
    currency: str
    count: str
    every: str | int
    asked: str | None


def calling_of(loan: Loan) -> Calling:
    """By what a loan is called."""
    amount: Any = loan.purchase.price if loan.purchase else loan.principal
    return {
        "amount": amount if amount == UNKNOWN else f"{amount:f}",
        "currency": loan.currency,
        "count": str(loan.count),
        "every": loan.every,
        "asked": loan.unknown,
    }


def called(by: Calling, marks: Marks) -> str:
    """ "43,700 EUR over 48 months: payment"."""
    amount, count = by["amount"], by["count"]
    if amount != UNKNOWN:
        value = Decimal(amount)
        amount = marks.number(value, 20, 0 if is_whole(value) else 2)
    every: Any = by["every"]
    over = ""
    if count not in (UNKNOWN, "0"):
        noun = frequencies.period(every).noun
        over = worded(" over {count}", count=frequencies.number_of(marks.write(count), noun))
    asked = figure_path(by["asked"]).named.title if by["asked"] else "a check"
    return f"{with_unit(amount, by['currency'])}{over}: {asked}"


def name_of(loan: Loan, marks: Marks) -> str:
    """What a loan is called: its name, else its terms."""
    return loan.name or called(calling_of(loan), marks)
