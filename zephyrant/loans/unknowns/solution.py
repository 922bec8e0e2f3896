"""The solution of a document, put back: unrounded, and as it will be paid."""

from dataclasses import replace
from decimal import Decimal
from typing import Final, NamedTuple

from ..document.bounds import Bound
from ..document.figure_path import (
    AMORTIZED_OVER,
    BALANCE,
    COUNT,
    COVER_RATIO,
    PAYMENT,
    PRINCIPAL,
    RATE,
    FigurePath,
)
from ..document.limits import MOST_PAYMENTS
from ..document.loan import Loan
from ..document.quote import Quote
from ..ledger.levelling import is_anew_by_index, levelled, unforeseen
from ..line.compiling import (
    at_margin,
    cash_of,
    part_taken,
    payments_made,
    stated_rate,
    stated_terms,
)
from ..line.line import Line, lay_out
from ..line.terms import Cash, Terms
from ..numbers.decimals import DIGITS, PERCENT_PLACES, precise, significant, to_step
from ..numbers.decimals import Cash as CashWay
from ..numbers.ratios import as_decimal, as_fraction
from ..quotes.conversion import periodic_rate
from ..wording.marks import Sentence
from .parts import parted

#: Periods laid out beyond twice a count that was found.
_ROOM: Final = 60


class Sizing(NamedTuple):
    """What can be lent within cover and value: the payment that goes with it unrounded, what is
    `lent` and `paid` as it will be and the `way` payments are rounded, which bound is `binding`,
    and by how much more each alone would lend."""

    payment: Decimal
    lent: Decimal
    paid: Decimal
    way: CashWay
    binding: Bound
    slack: dict[Bound, Decimal]


class Found(NamedTuple):
    """Every solution, ascending; where there is none, the reason.

    A rate is told as the percent of its quote; `periodic` is then the rate of one payment period
    it stands for. Of several solutions `ordinary` is the place of the one that is meant as a rule,
    None where the flows do not make that clear; `note` says what is to be known of them. `sizing`:
    where as much is lent as cover and value allow, which of them does.
    """

    solutions: tuple[Decimal, ...]
    reason: Sentence | None = None
    periodic: Decimal | None = None
    ordinary: int | None = 0
    note: Sentence | None = None
    sizing: Sizing | None = None

    @property
    def is_one(self) -> bool:
        """Whether there is one answer, or none is asked for."""
        return not self.reason and not (self.solutions and self.ordinary is None)

    @property
    def meant(self) -> Decimal:
        """The solution that is meant; 0 where none is asked for."""
        return self.solutions[self.ordinary or 0] if self.solutions else Decimal(0)


def payable_line(loan: Loan, found: Found) -> Line:
    """The line with the solution put back as it will be paid, as the schedule starts from.

    A stated amount finer than the currency pays is rounded as the document rounds, but where a rate
    is asked for.
    """
    if found.sizing is not None:
        return as_payable(loan, found.sizing.lent, found.sizing.paid, found.sizing.way)
    solution, cash, path = found.meant, cash_of(loan), loan.asked
    terms = replace(_terms_around(loan, solution), cash=cash)
    if not terms.follows_cash_flow:
        terms = terms.having(PAYMENT, cash.stated_payment(terms.payment))
    if path is None or path in (COUNT, BALANCE, AMORTIZED_OVER):
        pass
    elif path.floats:
        terms = at_margin(loan, terms, **{path.name: payable_percent(solution)})
    elif path.is_rate:
        style = loan.style_of(quote_of(loan))
        terms = terms.rated(path, periodic_rate(payable_percent(solution), style))
    elif path == COVER_RATIO:
        terms = terms.having(PAYMENT, part_taken(payable_percent(solution)))
    elif path.is_of_purchase:
        terms = terms.having(PRINCIPAL, lent_for(loan, purchase_figure(loan, solution)))
    else:
        terms = terms.having(path, _as_paid(path, solution, cash))
    return as_made(loan, parted(loan, terms))


def as_payable(loan: Loan, lent: Decimal, payment: Decimal, way: CashWay) -> Line:
    """The line of a principal and its payment as they will be paid, rounded in a way."""
    terms = replace(stated_terms(loan), cash=cash_of(loan)._replace(way=way))
    return as_made(loan, parted(loan, terms.having(PRINCIPAL, lent).having(PAYMENT, payment)))


def as_made(loan: Loan, terms: Terms) -> Line:
    """The line of the payments that are made, those that are set anew among them."""
    return lay_out(payments_made(loan, levelled(terms)))


def _as_paid(path: FigurePath, solution: Decimal, cash: Cash) -> Decimal:
    """A figure found, as it is put back."""
    if path.is_percent:
        return payable_percent(solution)
    return cash.payment(solution) if path.name == "payment" else cash.amount(solution)


def quote_of(loan: Loan) -> Quote:
    """The quote whose percent is asked for; the loan's own where none is."""
    path = loan.asked
    if path is not None and path.is_rate and path.clause is not None:
        return loan.clauses[path.clause].rate or loan.rate
    return loan.rate


def _terms_around(loan: Loan, solution: Decimal) -> Terms:
    """The stated terms; of an unknown count with room for what rounding adds to the solution."""
    is_open = loan.asked in (COUNT, AMORTIZED_OVER)
    return stated_terms(loan, _ROOM + 2 * int(solution) if is_open else MOST_PAYMENTS)


def solved_line(loan: Loan, found: Found) -> Line:
    """The line with the solution put back unrounded; an unknown count stays open.

    A payment that is asked for is that before anything is set anew.
    """
    solution, path = found.meant, loan.asked
    terms = _terms_around(loan, solution)
    if (path in (PAYMENT, COVER_RATIO) or is_anew_by_index(terms)) and not terms.has_parts:
        terms = unforeseen(terms)
    if found.sizing is not None:
        terms = terms.having(PRINCIPAL, solution).having(PAYMENT, found.sizing.payment)
        return lay_out(parted(loan, levelled(terms)))
    if path is None or path in (COUNT, AMORTIZED_OVER):
        pass
    elif path.floats:
        terms = at_margin(loan, terms, **{path.name: solution})
    elif path.is_rate:
        terms = terms.rated(path, as_fraction(found.periodic or Decimal(0)))
    elif path == COVER_RATIO:
        terms = terms.having(PAYMENT, part_taken(solution))
    elif path.is_of_purchase:
        terms = terms.having(PRINCIPAL, lent_for(loan, solution, exactly=True))
    else:
        terms = terms.having(path, solution)
    return lay_out(parted(loan, terms))


def asks_of_purchase(loan: Loan) -> bool:
    """Whether the `?` stands in what is bought: the amount lent is what is really found."""
    return loan.asked is not None and loan.asked.is_of_purchase


def purchase_figure(loan: Loan, solution: Decimal) -> Decimal:
    """A figure found in a purchase as it is put back: money to the minor unit, a percent to ten
    decimals."""
    if loan.asked is not None and loan.asked.is_percent:
        return payable_percent(solution)
    return to_step(solution, loan.minor_unit, "nearest")


def lent_for(loan: Loan, figure: Decimal, *, exactly: bool = False) -> Decimal:
    """What is lent with a figure in place of the one asked for in the purchase."""
    if loan.purchase is None:
        raise ValueError("a loan without a purchase lends its principal")
    name = loan.asked.name if loan.asked else ""
    percent = loan.purchase.down.percent
    if exactly and name == "price" and isinstance(percent, Decimal):
        return figure * (1 - percent / 100)
    if exactly and name == "percent":
        return Decimal(loan.purchase.price) * (1 - figure / 100)
    return loan.purchase.lent(loan.minor_unit, **{name: figure})


def price_of(loan: Loan, principal: Decimal) -> Decimal:
    """The figure asked for in a purchase from the amount it lends."""
    if loan.purchase is None:
        raise ValueError("a loan without a purchase has no price")
    price, down = loan.purchase.price, loan.purchase.down
    match loan.asked and loan.asked.name:
        case "price":
            if isinstance(down.percent, Decimal):
                return principal / (1 - down.percent / 100)
            return principal + Decimal(down.amount or 0)
        case "percent":
            return 100 * (Decimal(price) - principal) / Decimal(price)
    return Decimal(price) - principal


def payable_percent(solution: Decimal) -> Decimal:
    """A found percent to the decimals it is put back with."""
    with precise(80):
        return round(solution, PERCENT_PLACES)


def whole_above(solution: Decimal) -> int:
    """A number of payments, whole and part, as whole ones."""
    with precise():
        return int(significant(solution).to_integral_value("ROUND_CEILING"))


def footing_rate(loan: Loan, found: Found) -> Decimal | None:
    """The unrounded rate of one payment period, if it is stated or was found."""
    if loan.asked == RATE or (loan.asked is not None and loan.asked.floats):
        return found.periodic
    with precise(DIGITS + 20):
        return as_decimal(stated_rate(loan))
