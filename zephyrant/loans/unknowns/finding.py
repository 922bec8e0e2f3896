"""The unknown: which kind it is, and every solution or the reason there is none."""

from ..document.loan import Loan
from ..ledger.levelling import unforeseen
from ..line.compiling import stated_terms
from ..line.terms import digits_for
from ..numbers.decimals import precise
from ..wording.marks import Sentence
from .amounts import balance_of, clause_figure_of, nothing_left, payment_of, principal_of
from .counts import FIRST_TRIED, count_of
from .rates import rate_of, rates_of
from .solution import Found, asks_of_purchase


def find(loan: Loan) -> Found:
    """Every solution for the figure marked `?`, unrounded, or the reason there is none."""
    terms, unknown = stated_terms(loan, FIRST_TRIED), loan.unknown or ""
    by_kind = {
        "payment": payment_of,
        "principal": principal_of,
        "balance": balance_of,
        "count": count_of,
        "rate": rate_of,
    }
    with precise(digits_for(terms)):
        if unknown == "payment":
            terms = unforeseen(terms)
        elif any(provision.levels for provision in terms.provisions):
            return Found(
                (),
                Sentence(
                    "Where the payment is set anew the loan ends as stated whatever the other "
                    "figures are: only the payment before that can be asked for."
                ),
            )
        if not unknown.endswith("rate.percent") and unknown != "rate":
            if reason := nothing_left(terms):
                return Found((), reason)
        elif unknown != "rate" or terms.provisions:
            return rates_of(loan, terms)
        if asks_of_purchase(loan):
            return principal_of(loan, terms)
        return by_kind.get(unknown, clause_figure_of)(loan, terms)
