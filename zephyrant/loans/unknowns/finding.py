"""The unknown: which kind it is, and every solution or the reason there is none."""

from typing import Final

from ..document.figure_path import (
    AMORTIZED_OVER,
    BALANCE,
    COUNT,
    COVER_RATIO,
    PAYMENT,
    PRINCIPAL,
    FigurePath,
)
from ..document.loan import Loan
from ..ledger.levelling import is_anew_by_index, unforeseen
from ..line.compiling import stated_terms
from ..line.terms import Terms, digits_for
from ..numbers.decimals import precise
from ..wording.marks import Sentence
from .amounts import (
    balance_of,
    clause_figure_of,
    cover_of,
    nothing_left,
    payment_of,
    principal_of,
)
from .by_parts import find_by_parts
from .counts import FIRST_TRIED, count_of
from .floating import margin_of
from .rates import rate_of, rates_of
from .sizing import size_of
from .solution import Found


def find(loan: Loan) -> Found:
    """Every solution for the figure marked `?`, unrounded, or the reason there is none."""
    terms, path = stated_terms(loan, FIRST_TRIED), loan.asked
    if path is None:
        raise ValueError("no figure is asked for")
    with precise(digits_for(terms)):
        if loan.is_sized:
            reason = nothing_left(terms)
            return Found((), reason) if reason else size_of(loan, terms)
        if path.floats:
            return margin_of(loan, terms)
        if terms.has_parts and path != BALANCE:
            return find_by_parts(loan, terms)
        if path in (PAYMENT, COVER_RATIO) or is_anew_by_index(terms):
            terms = unforeseen(terms)
        elif any(provision.levels for provision in terms.provisions):
            return Found(
                (),
                Sentence(
                    "Where the payment is set anew the loan ends as stated whatever the other "
                    "figures are: only the payment before that can be asked for."
                ),
            )
        return find_by_parts(loan, terms) if terms.has_parts else _of_payments(loan, terms, path)


def _of_payments(loan: Loan, terms: Terms, path: FigurePath) -> Found:
    """The figure of a loan that payments of principal and interest together repay."""
    if path.is_rate:
        return rate_of(loan, terms) if not terms.provisions else rates_of(loan, terms)
    if reason := nothing_left(terms):
        return Found((), reason)
    if path.is_of_purchase:
        return principal_of(loan, terms)
    return _BY_PATH.get(path, clause_figure_of)(loan, terms)


_BY_PATH: Final = {
    PAYMENT: payment_of,
    PRINCIPAL: principal_of,
    BALANCE: balance_of,
    COUNT: count_of,
    AMORTIZED_OVER: count_of,
    COVER_RATIO: cover_of,
}
