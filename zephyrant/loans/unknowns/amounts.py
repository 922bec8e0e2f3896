"""An unknown amount: the payment, the principal, the balance, a figure of a clause."""

from decimal import Decimal
from typing import Final

from ..document.figure_path import BALANCE, PAYMENT, PRINCIPAL, FigurePath
from ..document.limits import MOST_MONEY
from ..document.loan import Loan
from ..ledger.exact import unrounded_end
from ..ledger.levelling import left_over
from ..line.line import lay_out
from ..line.periods import interests
from ..line.terms import Terms
from ..numbers.decimals import significant
from ..roots.monotone import root_of_monotone
from ..wording.marks import Money, Number, Sentence
from .counts import span, standstill
from .solution import Found, asks_of_purchase, price_of

_CHANGES_NOTHING: Final = (
    "This figure does not change what is owed, so nothing tells it. A fee that is kept back or "
    "paid apart changes what the loan costs, not what it leaves."
)


def nothing_left(terms: Terms) -> Sentence | None:
    """Why no money is left where a long period bears a rate far below zero."""
    if terms.rate >= 0:
        return None
    for run, grown in zip(terms.runs, interests(terms.runs, terms.rate), strict=True):
        if min(grown) <= -1:
            return Sentence(
                "At this rate nothing is left of what is owed by payment {number}: the time before "
                "it is too long for a rate so far below zero.",
                number=Number(run.first),
            )
    return None


def _below_zero(loan: Loan, value: Decimal) -> bool:
    return significant(value) <= -loan.minor_unit / 2


def payment_of(loan: Loan, terms: Terms) -> Found:
    """The payment, linear in what is left at the end."""
    value = left_over(terms, PAYMENT).root()
    if value is None:
        return Found(
            (), Sentence("The clauses state every payment: no regular one is left to find.")
        )
    if not _below_zero(loan, value):
        return Found((value,))
    grown = unrounded_end(lay_out(terms))
    return Found(
        (),
        Sentence(
            "No payment leaves {balance}: even with nothing paid only {grown} is owed after "
            "{span}.",
            balance=Money(terms.balance, loan.decimals),
            grown=Money(grown, loan.decimals),
            span=span(loan, terms.count or 0),
        ),
    )


def cover_of(loan: Loan, terms: Terms) -> Found:
    """How many times the cash flow is the payments that are sculpted to it."""
    found = payment_of(loan, terms)
    if found.reason:
        return found
    if found.meant <= 0:
        return Found(
            (), Sentence("Nothing is to be repaid: whatever the cover, nothing is paid from it.")
        )
    return Found((1 / found.meant,))


def clause_figure_of(loan: Loan, terms: Terms) -> Found:
    """A figure of a clause, linear in what is left at the end but for a step in percent."""
    path = loan.asked
    if path is None:
        raise ValueError("no figure is asked for")
    if path.is_step and path.is_percent:
        return _step(loan, terms, path)
    value = left_over(terms, path).root()
    if value is None:
        return Found((), Sentence(_CHANGES_NOTHING))
    if not _below_zero(loan, value) or path.is_step:
        return Found((value,))
    text = {
        "payment": "The other payments already repay more than is owed: this one would have to "
        "give back {over}.",
        "repay": "The payments already repay more than is owed: {over} would have to be given "
        "back here.",
        "advance": "The payments do not even repay what is lent without this: {over} less is "
        "needed.",
    }.get(path.name, "This would have to be {over} below zero.")
    return Found((), Sentence(text, over=Money(-value, loan.decimals)))


def _step(loan: Loan, terms: Terms, path: FigurePath) -> Found:
    """The percent by which payments grow: the more, the less is left, so there is one or none."""

    def left(growth: Decimal) -> Decimal:
        line = lay_out(terms.having(path, 100 * (growth.exp() - 1)))
        return unrounded_end(line) - line.balance

    if left(Decimal(-1)) == left(Decimal(1)):
        return Found((), Sentence(_CHANGES_NOTHING))
    growth = root_of_monotone(left)
    if growth is None:
        return Found((), Sentence("No growth of the payments ends the loan as stated."))
    return Found((significant(100 * (growth.exp() - 1)),))


def principal_of(loan: Loan, terms: Terms) -> Found:
    """The amount lent, or what is asked of the purchase."""
    value = left_over(terms, PRINCIPAL).root()
    if asks_of_purchase(loan) and value is not None and not _below_zero(loan, value):
        return purchase_figure_of(loan, value)
    if value is None or _below_zero(loan, value):
        return Found(
            (),
            Sentence(
                "What the clauses lend is more than the payments repay: {over} less would have to "
                "be lent.",
                over=Money(-(value or Decimal(0)), loan.decimals),
            ),
        )
    return Found((value,))


def purchase_figure_of(loan: Loan, principal: Decimal) -> Found:
    """The price or the down payment from the amount that the payments repay."""
    asks_price = loan.asked is not None and loan.asked.name == "price"
    if loan.purchase and not asks_price and not loan.purchase.price:
        return Found((), Sentence("The price is nothing, so no down payment explains the loan."))
    figure = price_of(loan, principal)
    if figure < 0:
        return Found(
            (),
            Sentence(
                "The payments repay {lent}, more than the price: nothing is to be paid down.",
                lent=Money(principal, loan.decimals),
            ),
        )
    return Found((figure,))


def balance_of(loan: Loan, terms: Terms) -> Found:
    """What is left at the end."""
    value = unrounded_end(lay_out(terms))
    if value >= MOST_MONEY:
        return Found(
            (),
            Sentence(
                "The balance grows beyond {most} before the end: no such amount is owed. "
                "A payment of {least} keeps it from growing.",
                most=Money(MOST_MONEY, loan.decimals),
                least=Money(standstill(terms), loan.decimals),
            ),
        )
    if not _below_zero(loan, value) or terms.count == 0:
        return Found((value,))
    enough = left_over(terms.having(BALANCE, Decimal(0)), PAYMENT).root()
    if enough is None or terms.provisions:
        return Found(
            (),
            Sentence(
                "More is repaid than is owed: by the end {over} too much has been paid.",
                over=Money(-value, loan.decimals),
            ),
        )
    return Found(
        (),
        Sentence(
            "The payments repay more than is owed: by the end {over} too much has been paid. "
            "{count} payments of {enough} repay it exactly.",
            over=Money(-value, loan.decimals),
            count=Number(terms.count or 0),
            enough=Money(enough, loan.decimals),
        ),
    )
