"""How a step of the working is written: figures and sentences in the reader's marks."""

from decimal import Decimal
from typing import Final

from typing_extensions import TypedDict

from zephyrant.texts import worded

from ..calendars import frequencies
from ..document.figure_path import AMORTIZED_OVER, COUNT, PRINCIPAL, FigurePath
from ..document.loan import Loan
from ..document.quote import Quote
from ..line.terms import Terms
from ..numbers.ratios import as_decimal
from ..quotes.conversion import periodic_rate
from ..unknowns.solution import Found, quote_of
from ..wording.marks import Marks

PLACES: Final = 10


class Step(TypedDict):
    """One step: what it does, the formula, the formula with its numbers, what comes out."""

    title: str
    formula: str
    numbers: str
    result: str


class Writer:
    """Numbers of the steps, in the reader's marks."""

    def __init__(self, loan: Loan, marks: Marks) -> None:
        self.loan, self.marks = loan, marks

    def money(self, value: Decimal) -> str:
        """An amount with the decimals of its currency."""
        return self.marks.amount(value, self.loan.decimals)

    def number(self, value: Decimal) -> str:
        """Ten significant decimals, however small the value."""
        places = PLACES
        if value and value.adjusted() < -4:
            places = min(40, PLACES - value.adjusted())
        return self.marks.number(value, places)

    def percent(self, value: Decimal) -> str:
        """Ten significant decimals with their sign."""
        return f"{self.number(value)} %"


def money_of(solved: Terms, write: Writer) -> tuple[str, str, str]:
    """The amount lent, the payment and the balance of terms, as they are written."""
    return (
        write.money(solved.principal),
        write.money(solved.payment),
        write.money(solved.balance),
    )


def asked(loan: Loan) -> FigurePath:
    """The figure that is worked: of a purchase the amount lent."""
    if loan.asked is None:
        raise ValueError("no figure is asked for")
    return PRINCIPAL if loan.asked.is_of_purchase else loan.asked


def asks_count(loan: Loan) -> bool:
    """Whether a number of payments is worked."""
    return loan.asked in (COUNT, AMORTIZED_OVER)


def quote_step(loan: Loan, rate: Quote, write: Writer, of: str = "") -> Step:
    """From a quoted percent to the rate of one payment period."""
    style = loan.style_of(rate)
    formula, percent = style.convention.formula(style), Decimal(rate.percent)
    periodic = as_decimal(periodic_rate(percent, style))
    return {
        "title": worded(
            "One clock: the rate of one {noun}{of}", noun=frequencies.period(loan.every).noun, of=of
        ),
        "formula": formula.forward,
        "numbers": formula.numbers.format(p=write.percent(percent)),
        "result": write.percent(100 * periodic),
    }


def quote_back(loan: Loan, found: Found, write: Writer) -> Step:
    """From the rate of one payment period back to the quoted percent."""
    style = loan.style_of(quote_of(loan))
    return {
        "title": worded("As quoted: {in_words}", in_words=style.in_words()),
        "formula": style.convention.formula(style).back,
        "numbers": f"i = {write.percent(100 * (found.periodic or Decimal(0)))}",
        "result": write.percent(found.meant),
    }
