"""The margin of a floating rate, or its first rate: what is left at the end rises with it, so there
is one or none."""

from decimal import Decimal

from ..document.figure_path import MARGIN
from ..document.floating import floating, index_of, least_of
from ..document.limits import MOST_PERCENT
from ..document.loan import Loan
from ..line.compiling import at_margin
from ..line.terms import Terms
from ..numbers.decimals import significant
from ..numbers.ratios import as_decimal
from ..roots.monotone import WIDEST, root_of_monotone
from ..wording.marks import Money, Sentence
from .last_payment import gap
from .solution import Found

#: How near a quote may come to the rate at which nothing is left.
_LEAST_ABOVE = Decimal("1e-6")


def margin_of(loan: Loan, terms: Terms) -> Found:
    """The margin, or the first rate, in percent as quoted; in the decimal context in force."""
    path = loan.asked
    name = "margin" if path == MARGIN else "first"
    if not terms.principal:
        return Found((), Sentence("Nothing is lent, so no rate explains what is repaid."))

    def left(growth: Decimal) -> Decimal:
        return gap(_at(loan, terms, name, 100 * (growth.exp() - 1)))

    found = root_of_monotone(left)
    if found is None:
        lowest, highest = left(Decimal(-WIDEST)), left(Decimal(WIDEST))
        if lowest == highest:
            return Found(
                (), Sentence("This figure does not change the balance: no payment depends on it.")
            )
        if bound := _out_of_bounds(loan, lowest, highest):
            return Found((), bound)
        return Found((), _none_fits(loan, left(Decimal(0))))
    percent = significant(100 * (found.exp() - 1))
    periodic = as_decimal(_at(loan, terms, name, percent).rate)
    return Found((percent,), None, periodic)


def _at(loan: Loan, terms: Terms, name: str, percent: Decimal) -> Terms:
    """The terms with it; no rate so low that nothing would be left, none that cannot be stated."""
    within = min(max(percent, _least(loan)), MOST_PERCENT)
    return at_margin(loan, terms, **{name: within})


def _least(loan: Loan) -> Decimal:
    """The lowest percent that is tried: no rate on the index may be one that cannot be quoted."""
    least, _ = loan.style.bounds()
    quote = floating(loan)
    if least is None or quote is None:
        return Decimal(-10_000)
    index = quote.held(least_of(index_of(loan, quote)))
    return as_decimal(least) + _LEAST_ABOVE - min(index, Decimal(0))


def _out_of_bounds(loan: Loan, lowest: Decimal, highest: Decimal) -> Sentence | None:
    """That the floor or the cap of the rate itself keeps every margin from being enough."""
    quote = floating(loan)
    if quote is None or quote.on != "rate" or loan.asked != MARGIN:
        return None
    if lowest > 0 and quote.floor is not None:
        return Sentence(
            "No margin fits: even with the rate at its floor, the final balance is {over} too "
            "high.",
            over=Money(lowest, loan.decimals),
        )
    if highest < 0 and quote.cap is not None:
        return Sentence(
            "No margin fits: even with the rate at its cap, the loan is overpaid by {over}.",
            over=Money(-highest, loan.decimals),
        )
    return None


def _none_fits(loan: Loan, left: Decimal) -> Sentence:
    over = Money(abs(left), loan.decimals)
    if left > 0:
        return Sentence(
            "No margin gives this: at the index alone {over} more is owed at the end than is to be "
            "left, and no rate is low enough.",
            over=over,
        )
    return Sentence(
        "No margin gives this: at the index alone {over} more is paid than is owed, and no rate is "
        "high enough.",
        over=over,
    )
