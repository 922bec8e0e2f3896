"""An unknown rate, every one that fits, or the reason there is none."""

from decimal import Decimal
from fractions import Fraction

from zephyrant.texts import worded

from ..document.figure_path import RATE, FigurePath
from ..document.loan import Loan
from ..ledger.discounting_sloped import worth_at
from ..ledger.exact import unrounded_end
from ..line.growth import NO_TIME
from ..line.line import in_rate, lay_out
from ..line.terms import Terms
from ..numbers import annuity
from ..numbers.decimals import DIGITS, precise, significant
from ..numbers.ratios import as_decimal
from ..quotes.conversion import quoted_percent
from ..roots.monotone import root_of_falling, root_of_falling_convex
from ..wording.marks import Money, Number, Percent, Sentence
from .all_rates import RatesThatFit, rates_that_fit
from .solution import Found, quote_of


def rate_of(loan: Loan, terms: Terms) -> Found:
    """The rate: the one at which payments and balance are worth the principal.

    The worth falls as the rate rises, so there is one root or none. Where all periods are alike
    its logarithm is, in s = ln(1 + i), a log-sum-exp of falling lines: convex, too.
    """
    at_once = _paid_at_once(terms)
    lent = terms.principal - at_once
    if reason := _no_rate(loan, terms, lent, at_once):
        return Found((), reason)
    total = terms.principal - worth_at(in_rate(terms, RATE), Decimal(0)).value
    periodic: Decimal | None = Decimal(0)
    if total != terms.principal:
        with precise(DIGITS + 30):
            periodic = _level_rate(terms, lent) if terms.is_level else _uneven_rate(terms, lent)
    if periodic is None:
        return Found((), Sentence("No rate between almost −100 % and beyond measure gives this."))
    percent = quoted_percent(periodic, loan.style)
    return Found((significant(percent),), None, periodic)


def rates_of(loan: Loan, terms: Terms) -> Found:
    """Every rate at which a loan with clauses ends as stated."""
    style, path = loan.style_of(quote_of(loan)), loan.asked or RATE
    found = rates_that_fit(terms, path)
    if found.any_rate:
        return Found((), Sentence("Whatever the rate, the loan ends as stated: every rate fits."))
    if not found.rates:
        return Found((), _no_rate_fits(loan, terms, path))
    percents = tuple(significant(quoted_percent(each.periodic, style)) for each in found.rates)
    ordinary = found.ordinary
    periodic = None if ordinary is None else found.rates[ordinary].periodic
    return Found(percents, None, periodic, ordinary, _of_several(percents, found, style.in_words()))


def _of_several(percents: tuple[Decimal, ...], found: RatesThatFit, quoted: str) -> Sentence | None:
    touching = [each for each in found.rates if each.how != "crosses"]
    if len(percents) == 1 and not touching:
        return None
    figures: dict[str, Percent | Number | str] = {"quoted": quoted, "count": Number(len(percents))}
    for number, percent in enumerate(percents):
        figures[f"rate{number}"] = Percent(percent)
    listed = worded(" and ").join(f"{{rate{number}}}" for number in range(min(6, len(percents))))
    text = worded("{count} rates fit: ") + listed + " {quoted}."
    if len(percents) == 1:
        text = worded("One rate fits, {rate0} {quoted}, and the curve only touches there.")
    elif found.ordinary is not None:
        text += worded(
            " At {rate} alone nothing is ever owed the other way round: that is the ordinary one.",
            rate=f"{{rate{found.ordinary}}}",
        )
    else:
        text += worded(" The flows do not tell which of them is meant.")
    if any(each.how == "touches, not certified" for each in touching):
        text += worded(" A touch is told within 1e-9 and not certified.")
    return Sentence(text, **figures)


def _no_rate_fits(loan: Loan, terms: Terms, path: FigurePath) -> Sentence:
    at_zero, at_one = (
        unrounded_end(lay_out(terms.rated(path, Fraction(rate)))) - terms.balance for rate in (0, 1)
    )
    if at_zero == at_one:
        return Sentence("This rate does not change what is owed: another clause overrules it.")
    over = Money(abs(at_zero), loan.decimals)
    if at_zero > 0:
        return Sentence(
            "No rate between −99.9 % and +10,000 % effective a year gives this: without interest "
            "{over} more is owed at the end than is to be left.",
            over=over,
        )
    return Sentence(
        "No rate between −99.9 % and +10,000 % effective a year gives this: without interest "
        "{over} more is paid than is lent.",
        over=over,
    )


def _paid_at_once(terms: Terms) -> Decimal:
    """What is paid the moment the money is lent: in advance, without time before it."""
    if not terms.in_advance or terms.runs[0].before != NO_TIME:
        return Decimal(0)
    return terms.payment


def _level_rate(terms: Terms, lent: Decimal) -> Decimal:
    count = terms.count or 1
    paid_later = count - 1 if terms.in_advance else count

    def value_and_slope(exponent: Decimal) -> tuple[Decimal, Decimal]:
        discount = (-exponent).exp()
        value, moment = annuity.present_values(discount, paid_later, terms.payment, Decimal(0))
        final = terms.balance * discount**count
        value, moment = value + final, moment + count * final
        return (value / lent).ln(), -moment / value

    return root_of_falling_convex(value_and_slope).exp() - 1


def _uneven_rate(terms: Terms, lent: Decimal) -> Decimal | None:
    """In x, with i = (e^x - 1) c, where c keeps the growth of every period above zero."""
    spans = [span for run in terms.runs for span in (run.before, run.after)]
    longest = max(Fraction(1), *(span.simple for span in spans))
    paid, line = terms.principal - lent, in_rate(terms, RATE)

    def rate_at(exponent: Decimal) -> tuple[Decimal, Decimal]:
        growth = exponent.exp()
        return (growth - 1) / as_decimal(longest), growth / as_decimal(longest)

    def value_and_slope(exponent: Decimal) -> tuple[Decimal, Decimal]:
        rate, by_exponent = rate_at(exponent)
        over, slope = worth_at(line, rate)
        value = terms.principal - over - paid
        return (value / lent).ln(), -slope * by_exponent / value

    exponent = root_of_falling(value_and_slope)
    return None if exponent is None else rate_at(exponent)[0]


def _no_rate(loan: Loan, terms: Terms, lent: Decimal, at_once: Decimal) -> Sentence | None:
    """Why no rate fits, where none does.

    `lent` is what is owed after `at_once` has been paid at once.
    """
    total = terms.principal - worth_at(in_rate(terms, RATE), Decimal(0)).value
    money = {
        "principal": Money(terms.principal, loan.decimals),
        "payment": Money(at_once or terms.payment, loan.decimals),
        "balance": Money(terms.balance, loan.decimals),
    }
    repaid, later = total, total - at_once
    if not terms.principal:
        text = (
            worded("Nothing is lent, so no rate explains what is repaid.")
            if repaid
            else worded("Nothing is lent and nothing repaid: every rate fits.")
        )
    elif not repaid:
        text = worded(
            "No rate gives this: {principal} is lent, and neither a payment nor a "
            "balance ever returns any of it."
        )
    elif lent > 0 and later:
        return None
    elif not lent and not later:
        text = worded("The first payment, at once, returns all that is lent: every rate fits.")
    elif lent > 0:
        text = worded(
            "No rate gives this: the only payment, {payment}, is made at once, and "
            "nothing returns the rest of {principal}."
        )
    else:
        text = worded(
            "No rate gives this: the first payment, made at once, is {payment} of "
            "the {principal} lent. It must be below {principal}."
        )
    return Sentence(text, **money)
