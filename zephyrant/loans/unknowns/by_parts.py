"""An unknown of a loan whose principal is shared out with interest on top.

One equation holds: the first payment that repays a part is that part and the interest of its
period. It is linear in every amount; in the rate it rises throughout.
"""

from collections.abc import Callable
from dataclasses import replace
from decimal import Decimal
from fractions import Fraction
from typing import Final

from ..document.figure_path import BALANCE, COUNT, PAYMENT, PRINCIPAL, RATE, FigurePath
from ..document.loan import Loan
from ..ledger.exact import AFFINE, EXACT, unrounded_end
from ..line.growth import ONE_PERIOD
from ..line.line import lay_out, with_asked
from ..line.terms import Terms
from ..numbers.affine import Affine
from ..numbers.decimals import DIGITS, precise, significant
from ..numbers.ratios import as_decimal, as_fraction
from ..quotes.conversion import quoted_percent
from ..roots.monotone import root_of_monotone
from ..wording.marks import Money, Number, Sentence
from .amounts import nothing_left, purchase_figure_of
from .counts import count_of, never_repays
from .parts import (
    NoPartError,
    first_part,
    first_payment,
    interest_at,
    part_by_payment,
    shared_out,
)
from .solution import Found, asks_of_purchase


def find_by_parts(loan: Loan, terms: Terms) -> Found:
    """Every solution for the figure asked for, unrounded, or the reason there is none."""
    path = loan.asked
    if path is None:
        raise ValueError("no figure is asked for")
    if path != RATE and (reason := nothing_left(terms)):
        return Found((), reason)
    by = PRINCIPAL if path.is_of_purchase else path
    try:
        return _BY_PATH[by](loan, terms)
    except NoPartError as error:
        return Found((), error.why)


def _payment(loan: Loan, terms: Terms) -> Found:
    line = lay_out(terms)
    if shared_out(line, line.principal) < 0:
        return Found((), _more_is_left(loan, terms))
    value = first_payment(line, line.principal, EXACT)
    if significant(value) <= -loan.minor_unit / 2:
        text = "At this rate the first payment would have to give back {over}."
        return Found((), Sentence(text, over=Money(-value, loan.decimals)))
    return Found((value,))


def _more_is_left(loan: Loan, terms: Terms) -> Sentence:
    return Sentence(
        "More is to be left, {balance}, than is owed at the start, {principal}: no part is repaid.",
        balance=Money(terms.balance, loan.decimals),
        principal=Money(lay_out(terms).principal, loan.decimals),
    )


def _principal(loan: Loan, terms: Terms) -> Found:
    line = with_asked(terms, PRINCIPAL)
    lent = Affine(Decimal(0), Decimal(0)) + line.principal
    value = (first_payment(line, lent, AFFINE) - terms.payment).root()
    if value is None:
        return Found((), Sentence("Without interest no payment of it tells what is lent."))
    lent_then = terms.having(PRINCIPAL, value)
    if significant(value) <= -loan.minor_unit / 2 or lay_out(lent_then).principal < terms.balance:
        text = "A first payment of {payment} does not even pay the interest on what is to be left."
        return Found((), Sentence(text, payment=Money(terms.payment, loan.decimals)))
    return purchase_figure_of(loan, value) if asks_of_purchase(loan) else Found((value,))


def _balance(loan: Loan, terms: Terms) -> Found:
    part = part_by_payment(lay_out(terms))
    if part < 0:
        return Found((), _no_part(loan, terms))
    value = unrounded_end(lay_out(replace(terms, part=part)))
    if significant(value) <= -loan.minor_unit / 2:
        return Found(
            (),
            Sentence(
                "The parts repay more than is owed: by the end {over} too much has been paid.",
                over=Money(-value, loan.decimals),
            ),
        )
    return Found((value,))


def _no_part(loan: Loan, terms: Terms) -> Sentence:
    line = lay_out(terms)
    number = first_part(line).number
    return Sentence(
        "Payment {number}, {payment}, repays no part: its interest is {interest}.",
        number=Number(number),
        payment=Money(terms.payment, loan.decimals),
        interest=Money(interest_at(line, number, EXACT, line.principal), loan.decimals),
    )


def _count(loan: Loan, terms: Terms) -> Found:
    part = part_by_payment(lay_out(terms))
    if part <= 0 and lay_out(terms).principal > terms.balance:
        plain = not terms.provisions and part_is_regular(terms)
        return Found((), never_repays(loan, terms) if plain else _no_part(loan, terms))
    return count_of(loan, replace(terms, part=part))


def part_is_regular(terms: Terms) -> bool:
    """Whether the first period is a whole one: its interest is the rate."""
    return terms.runs[0].before == ONE_PERIOD


def _rate(loan: Loan, terms: Terms) -> Found:
    line = lay_out(terms)
    number, times = first_part(line)
    due = terms.payment - shared_out(line, line.principal) * times
    if not line.principal:
        return Found((), Sentence("Nothing is lent, so no rate explains what is repaid."))
    periodic = _rate_for(terms, number, due)
    if periodic is None:
        return Found((), Sentence("No rate between almost −100 % and beyond measure gives this."))
    return Found((significant(quoted_percent(periodic, loan.style)),), None, periodic)


def _rate_for(terms: Terms, number: int, due: Decimal) -> Decimal | None:
    """The rate at which the interest of a payment is so much: it rises with the rate."""
    if number == 1 and not terms.provisions and part_is_regular(terms):
        rate = due / terms.principal
        return rate if rate > -1 else None
    longest = max(Fraction(1), *(span.simple for run in terms.runs for span in (run.before,)))

    def rate_at(growth: Decimal) -> Decimal:
        return (growth.exp() - 1) / as_decimal(longest)

    def over(growth: Decimal) -> Decimal:
        line = lay_out(terms.rated(RATE, as_fraction(rate_at(growth))))
        return interest_at(line, number, EXACT, line.principal) - due

    with precise(DIGITS + 30):
        found = root_of_monotone(over)
        return None if found is None else rate_at(found)


_BY_PATH: Final[dict[FigurePath, Callable[[Loan, Terms], Found]]] = {
    PAYMENT: _payment,
    PRINCIPAL: _principal,
    BALANCE: _balance,
    COUNT: _count,
    RATE: _rate,
}
