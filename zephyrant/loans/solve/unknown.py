"""The unknown: which kind it is, and every solution or the reason there is none."""

from datetime import date
from decimal import Decimal
from fractions import Fraction
from typing import Final

from ..calendars import frequencies
from ..calendars.dates import Calendar
from ..document.limits import MOST_MONEY
from ..document.loan import Loan
from ..ledger.levelling import linear, unforeseen
from ..ledger.present_value import worth
from ..ledger.roll import rolled, unrounded_end
from ..line.periods import NO_TIME, Stretch, Terms, interests
from ..line.stretches import lay_out
from ..line.terms import digits_for, stated_terms
from ..numbers import annuity
from ..numbers.decimals import DIGITS, precise, to_step, told
from ..numbers.roots import root_of_falling, root_of_falling_convex, root_of_monotone
from ..quotes.conversion import as_decimal, quoted_percent
from ..wording.marks import Money, Number, Percent, Sentence
from .all_rates import RatesThatFit, rates_that_fit
from .solution import Found, asks_of_purchase, price_of, quote_of

#: Periods up to which an unknown count is sought before all are laid out.
_FIRST_TRIED: Final = 800


_CHANGES_NOTHING: Final = Sentence(
    "This figure does not change what is owed, so nothing tells it. A fee that is kept back or "
    "paid apart changes what the loan costs, not what it leaves."
)


def find(loan: Loan) -> Found:
    """Every solution for the figure marked `?`, unrounded, or the reason there is none."""
    terms, unknown = stated_terms(loan, _FIRST_TRIED), loan.unknown or ""
    by_kind = {
        "payment": _payment,
        "principal": _principal,
        "balance": _balance,
        "count": _count,
        "rate": _rate,
    }
    with precise(digits_for(terms)):
        if unknown == "payment":
            terms = unforeseen(terms)
        elif any(put.levels for put in terms.puts):
            return Found(
                (),
                Sentence(
                    "Where the payment is set anew the loan ends as stated whatever the other "
                    "figures are: only the payment before that can be asked for."
                ),
            )
        if not unknown.endswith("rate.percent") and unknown != "rate":
            if reason := _nothing_left(terms):
                return Found((), reason)
        elif unknown != "rate" or terms.puts:
            return _rates(loan, terms)
        if asks_of_purchase(loan):
            return _principal(loan, terms)
        return by_kind.get(unknown, _in_a_clause)(loan, terms)


def _nothing_left(terms: Terms) -> Sentence | None:
    """Why no money is left where a long period bears a rate far below zero."""
    if terms.rate >= 0:
        return None
    for beat, grown in zip(terms.beats, interests(terms.beats, terms.rate), strict=True):
        if min(grown) <= -1:
            return Sentence(
                "At this rate nothing is left of what is owed by payment {number}: the time before "
                "it is too long for a rate so far below zero.",
                number=Number(beat.first),
            )
    return None


def _below_zero(loan: Loan, value: Decimal) -> bool:
    return told(value) <= -loan.minor_unit / 2


def _span(loan: Loan, count: int) -> str:
    return frequencies.number_of(count, frequencies.period(loan.every).noun)


def _payment(loan: Loan, terms: Terms) -> Found:
    value = linear(terms, "payment")
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
            span=_span(loan, terms.count or 0),
        ),
    )


def _in_a_clause(loan: Loan, terms: Terms) -> Found:
    path = loan.unknown or ""
    if path.endswith("step.percent"):
        return _step(loan, terms, path)
    value = linear(terms, path)
    if value is None:
        return Found((), _CHANGES_NOTHING)
    if not _below_zero(loan, value) or ".step." in path:
        return Found((value,))
    verb = path.rsplit(".", 1)[-1]
    text = {
        "payment": "The other payments already repay more than is owed: this one would have to "
        "give back {over}.",
        "repay": "The payments already repay more than is owed: {over} would have to be given "
        "back here.",
        "advance": "The payments do not even repay what is lent without this: {over} less is "
        "needed.",
    }.get(verb, "This would have to be {over} below zero.")
    return Found((), Sentence(text, over=Money(-value, loan.decimals)))


def _step(loan: Loan, terms: Terms, path: str) -> Found:
    """The percent by which payments grow: the more, the less is left, so there is one or none."""

    def left(growth: Decimal) -> Decimal:
        line = lay_out(terms.having(path, 100 * (growth.exp() - 1)))
        return unrounded_end(line) - line.balance

    if left(Decimal(-1)) == left(Decimal(1)):
        return Found((), _CHANGES_NOTHING)
    growth = root_of_monotone(left)
    if growth is None:
        return Found((), Sentence("No growth of the payments ends the loan as stated."))
    return Found((told(100 * (growth.exp() - 1)),))


def _principal(loan: Loan, terms: Terms) -> Found:
    value = linear(terms, "principal")
    if asks_of_purchase(loan) and value is not None and not _below_zero(loan, value):
        return _bought(loan, value)
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


def _bought(loan: Loan, principal: Decimal) -> Found:
    """The price or the down payment from the amount that the payments repay."""
    if loan.purchase and loan.unknown != "purchase.price" and not loan.purchase.price:
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


def _balance(loan: Loan, terms: Terms) -> Found:
    value = unrounded_end(lay_out(terms))
    if value >= MOST_MONEY:
        return Found(
            (),
            Sentence(
                "The balance grows beyond {most} before the end: no such amount is owed. "
                "A payment of {least} keeps it from growing.",
                most=Money(MOST_MONEY, loan.decimals),
                least=Money(_standstill(terms), loan.decimals),
            ),
        )
    if not _below_zero(loan, value) or terms.count == 0:
        return Found((value,))
    enough = linear(terms.having("balance", Decimal(0)), "payment")
    if enough is None or terms.puts:
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


def _standstill(terms: Terms) -> Decimal:
    """The payment that just covers the interest."""
    rate = as_decimal(terms.rate)
    interest = terms.principal * rate
    return interest / (1 + rate) if terms.in_advance else interest


def never_repays(loan: Loan, terms: Terms) -> Sentence:
    """Why a payment no larger than the first interest leads nowhere, with that interest."""
    noun = frequencies.period(loan.every).noun
    unit, cash = loan.minor_unit, loan.rounding.interest
    with precise():
        rate = as_decimal(terms.rate)
        if rate <= 0:
            return Sentence(
                "With payments of {payment} at this rate the balance never comes to {balance}.",
                payment=Money(terms.payment, loan.decimals),
                balance=Money(terms.balance, loan.decimals),
            )
        least = to_step(_standstill(terms), unit, "up") + unit
        while True:
            owed = terms.principal - (least if terms.in_advance else 0)
            interest = to_step(owed * rate, unit, cash)
            if least <= interest:
                break
            least -= unit
    rest = " on the rest" if terms.in_advance else ""
    return Sentence(
        "A payment of {least} or less never repays: the first {noun}’s interest{rest} is "
        "{interest}.",
        least=Money(least, loan.decimals),
        noun=noun,
        rest=rest,
        interest=Money(interest, loan.decimals),
    )


def _count(loan: Loan, terms: Terms) -> Found:
    principal, balance = terms.principal, terms.balance
    rate = as_decimal(terms.rate)
    money = {
        "principal": Money(principal, loan.decimals),
        "balance": Money(balance, loan.decimals),
        "payment": Money(terms.payment, loan.decimals),
    }
    if balance == principal and not terms.puts:
        return Found(
            (), Sentence("Nothing is to be repaid: {principal} is lent and as much left.", **money)
        )
    value = _periods_until(terms)
    if value is None and (terms.puts or terms.beats[-1].last == _FIRST_TRIED):
        value = _periods_until(stated_terms(loan))
    if terms.puts and (value is None or value <= 0):
        if (repaid := _repaid_before_more_is_lent(loan, terms)) is not None:
            return Found((), repaid)
        return Found(
            (),
            Sentence(
                "With these clauses the balance never comes to {balance} in {most} payments.",
                balance=money["balance"],
                most=Number(terms.most_payments),
            ),
        )
    if value is None or value <= 0:
        if balance < principal:
            return Found((), never_repays(loan, terms))
        if rate <= 0:
            text = "At this rate the balance never grows to {balance}: {principal} is lent."
            return Found((), Sentence(text, **money))
        return Found(
            (),
            Sentence(
                "The balance never grows to {balance}: payments of {payment} bring it down from "
                "{principal}. A payment below {least} would let it grow.",
                least=Money(max(_standstill(terms), Decimal(0)), loan.decimals),
                **money,
            ),
        )
    most = terms.most_payments
    if value <= most:
        return Found((value,))
    by = annuity.factors(rate, most, terms.timing)
    return Found(
        (),
        Sentence(
            "It would take {value} payments; at most {most} are laid out here. {most} payments of "
            "{enough} would do it.",
            value=Number(told(value), 1),
            most=Number(most),
            enough=Money(annuity.payment(principal, balance, by), loan.decimals),
        ),
    )


def _periods_until(terms: Terms) -> Decimal | None:
    """After how many periods, not whole as a rule, the balance is owed; None: never.

    Where periods differ, rolled through them up to the one in which it is reached, and by the
    closed form in there.
    """
    line = lay_out(terms)
    owed, target, falls = line.principal, terms.balance, line.principal > terms.balance
    for stretch in line.stretches:
        lent_later = falls and line.lent_until > stretch.first
        is_past = (owed < target) if falls else (owed > target)
        within = None
        if not lent_later and not is_past:
            reached = _within_days if stretch.inner else _within
            within = reached(owed, stretch, target, terms, falls=falls)
        periods = None if stretch.last is None else stretch.last - stretch.first + 1
        if within is not None and within >= 0 and (periods is None or within <= periods):
            return stretch.first - 1 + within
        if periods is None:
            return None
        owed = rolled(owed, stretch, periods)
        if lent_later:
            continue
        if is_past and ((owed < target) if falls else (owed > target)):
            # Even with all that is lent later it has gone past the balance.
            return None
        if not is_past and ((owed <= target) if falls else (owed >= target)):
            return Decimal(stretch.last or 0)
    return None


def _repaid_before_more_is_lent(loan: Loan, terms: Terms) -> Sentence | None:
    """Why a loan never comes to its balance where what is lent last comes too late and is too
    little; None where that is not so."""
    line = lay_out(terms)
    owed = line.principal
    for stretch in line.stretches:
        if stretch.first > line.lent_until or stretch.last is None:
            return None
        owed = rolled(owed, stretch, stretch.last - stretch.first + 1)
        if stretch.first == line.lent_until and owed < terms.balance < line.principal:
            return Sentence(
                "The payments repay all before more is lent: after payment {number}, with what is "
                "lent there, {over} too much has been paid.",
                number=Number(stretch.first),
                over=Money(terms.balance - owed, loan.decimals),
            )
    return None


def _within_days(
    owed: Decimal, stretch: Stretch, target: Decimal, terms: Terms, *, falls: bool
) -> Decimal | None:
    """The same in a period in which money moves on days: the part of it up to the day on which it
    brings the balance there, else as if what moved had with its interest been there before."""
    calendar = terms.time.calendar
    payment = Decimal(0) if stretch.interest_only else stretch.payment
    at_payment = payment + stretch.repay - stretch.advance - stretch.fee
    for is_after, interest in ((False, stretch.before), (True, stretch.after)):
        base, days = owed, sorted(each.day for each in stretch.inner if each.is_after == is_after)
        for day in days:
            moved = [each for each in stretch.inner if each.is_after == is_after]
            share = next(each.interest for each in moved if each.day == day)
            owed = base * (1 + as_decimal(interest - share)) + sum(
                each.amount * (1 + as_decimal(each.interest - share))
                for each in moved
                if each.day <= day
            )
            if calendar and ((owed <= target) if falls else (owed >= target)):
                begins, ends = _around(calendar, stretch.first, is_after=is_after)
                return Decimal((day - begins).days) / Decimal((ends - begins).days)
        if days:
            growth = 1 + as_decimal(interest)
            owed = base + sum(
                each.amount * (1 + as_decimal(each.interest)) / growth
                for each in stretch.inner
                if each.is_after == is_after
            )
        if not is_after and stretch.after:
            owed = owed * (1 + as_decimal(interest)) - at_payment
    if stretch.after:
        return None
    return _within(owed, stretch._replace(inner=()), target, terms, falls=falls)


def _around(calendar: Calendar, number: int, *, is_after: bool) -> tuple[date, date]:
    """The days between which the time before a payment runs, or that after it."""
    if is_after:
        return calendar.payment(number), calendar.payment(number + 1)
    return (calendar.payment(number - 1) if number > 1 else calendar.start), calendar.payment(
        number
    )


def _within(
    owed: Decimal, stretch: Stretch, target: Decimal, terms: Terms, *, falls: bool
) -> Decimal | None:
    """After how many periods of a stretch the balance is reached, by the closed form."""
    if stretch.interest_only or stretch.inner:
        return None
    if stretch.before and stretch.after:
        # Interest on both sides of one payment: what lies before it is grown at once.
        owed *= 1 + as_decimal(stretch.before)
        stretch = stretch._replace(before=Fraction(0))
    paid = stretch.payment + stretch.repay - stretch.advance - stretch.fee
    if paid <= 0 and falls:
        return None
    rate = as_decimal(stretch.before or stretch.after)
    return annuity.count(owed, rate, paid, target, terms.timing)


def _rate(loan: Loan, terms: Terms) -> Found:
    """The rate: the one at which payments and balance are worth the principal.

    The worth falls as the rate rises, so there is one root or none. Where all periods are alike
    its logarithm is, in s = ln(1 + i), a log-sum-exp of falling lines: convex, too.
    """
    at_once = _paid_at_once(terms)
    lent = terms.principal - at_once
    if reason := _no_rate(loan, terms, lent, at_once):
        return Found((), reason)
    total = worth(terms, Decimal(0)).value
    periodic: Decimal | None = Decimal(0)
    if total != terms.principal:
        with precise(DIGITS + 30):
            periodic = _level_rate(terms, lent) if terms.is_level else _uneven_rate(terms, lent)
    if periodic is None:
        return Found((), Sentence("No rate between almost −100 % and beyond measure gives this."))
    percent = quoted_percent(periodic, loan.style)
    return Found((told(percent),), None, periodic)


def _rates(loan: Loan, terms: Terms) -> Found:
    """Every rate at which a loan with clauses ends as stated."""
    quote, path = quote_of(loan), loan.unknown or ""
    style = loan.style_of(quote)
    found = rates_that_fit(terms, path)
    if found.any_rate:
        return Found((), Sentence("Whatever the rate, the loan ends as stated: every rate fits."))
    if not found.rates:
        return Found((), _no_rate_fits(loan, terms, path))
    percents = tuple(told(quoted_percent(each.periodic, style)) for each in found.rates)
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
    listed = " and ".join(f"{{rate{number}}}" for number in range(min(6, len(percents))))
    text = "{count} rates fit: " + listed + " {quoted}."
    if len(percents) == 1:
        text = "One rate fits, {rate0} {quoted}, and the curve only touches there."
    elif found.ordinary is not None:
        text += (
            f" At {{rate{found.ordinary}}} alone nothing is ever owed the other way round: that "
        )
        text += "is the ordinary one."
    else:
        text += " The flows do not tell which of them is meant."
    if any(each.how == "touches, not certified" for each in touching):
        text += " A touch is told within 1e-9 and not certified."
    return Sentence(text, **figures)


def _no_rate_fits(loan: Loan, terms: Terms, path: str) -> Sentence:
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
    if not terms.in_advance or terms.beats[0].before != NO_TIME:
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
    spans = [span for beat in terms.beats for span in (beat.before, beat.after)]
    longest = max(Fraction(1), *(span.simple for span in spans))
    paid = terms.principal - lent

    def rate_at(exponent: Decimal) -> tuple[Decimal, Decimal]:
        growth = exponent.exp()
        return (growth - 1) / as_decimal(longest), growth / as_decimal(longest)

    def value_and_slope(exponent: Decimal) -> tuple[Decimal, Decimal]:
        rate, by_exponent = rate_at(exponent)
        value, slope = worth(terms, rate)
        return ((value - paid) / lent).ln(), slope * by_exponent / (value - paid)

    exponent = root_of_falling(value_and_slope)
    return None if exponent is None else rate_at(exponent)[0]


def _no_rate(loan: Loan, terms: Terms, lent: Decimal, at_once: Decimal) -> Sentence | None:
    """Why no rate fits, where none does.

    `lent` is what is owed after `at_once` has been paid at once.
    """
    total = worth(terms, Decimal(0)).value
    money = {
        "principal": Money(terms.principal, loan.decimals),
        "payment": Money(at_once or terms.payment, loan.decimals),
        "balance": Money(terms.balance, loan.decimals),
    }
    repaid, later = total, total - at_once
    if not terms.principal:
        text = (
            "Nothing is lent, so no rate explains what is repaid."
            if repaid
            else "Nothing is lent and nothing repaid: every rate fits."
        )
    elif not repaid:
        text = (
            "No rate gives this: {principal} is lent, and neither a payment nor a balance ever "
            "returns any of it."
        )
    elif lent > 0 and later:
        return None
    elif not lent and not later:
        text = "The first payment, at once, returns all that is lent: every rate fits."
    elif lent > 0:
        text = (
            "No rate gives this: the only payment, {payment}, is made at once, and nothing "
            "returns the rest of {principal}."
        )
    else:
        text = (
            "No rate gives this: the first payment, made at once, is {payment} of the "
            "{principal} lent. It must be below {principal}."
        )
    return Sentence(text, **money)
