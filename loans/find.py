"""The unknown: which kind it is, and its solution or the reason there is none."""

from dataclasses import replace
from decimal import Decimal
from fractions import Fraction
from math import log10
from typing import NamedTuple

from . import clock, closed_form
from .document import MOST_MONEY, MOST_PAYMENTS, UNKNOWN, Loan
from .figures import DIGITS, UNROUNDED_PLACES, decimal_places, precise, to_step, told
from .ledger import unrounded_end
from .line import NO_TIME, Line, Terms, beats_of, interests, lay_out
from .rates import as_decimal, as_fraction, periodic_rate, quoted_percent
from .roots import root_of_falling, root_of_falling_convex
from .words import Money, Number, Sentence
from .worth import worth

#: Decimals a found percent is put back with.
PERCENT_PLACES = 10
#: Periods laid out beyond twice a count that was found.
_ROOM = 60
#: Periods up to which an unknown count is sought before all are laid out.
_FIRST_TRIED = 800
#: Digits added at the most for loans whose balances grow beyond measure on the way.
_MOST_EXTRA_DIGITS = 400


class Found(NamedTuple):
    """Every solution, ascending; where there is none, the reason.

    A rate is told as the percent of the document's quote; `periodic` is then the rate of one
    payment period it stands for.
    """

    solutions: tuple[Decimal, ...]
    reason: Sentence | None = None
    periodic: Decimal | None = None


def _number(value: object) -> Decimal:
    return Decimal(0) if value == UNKNOWN else Decimal(value)  # type: ignore[arg-type]


def _stated_rate(loan: Loan) -> Fraction:
    percent = loan.rate.percent
    return Fraction(0) if percent == UNKNOWN else periodic_rate(percent, loan.style)


def stated_terms(loan: Loan, most: int = MOST_PAYMENTS) -> Terms:
    """The document's figures on the clock of its payments, zero where unknown.

    An unknown count has no end; periods that differ are laid out up to `most`.
    """
    count = None if loan.count == UNKNOWN else loan.count
    return Terms(
        principal=_number(loan.principal),
        rate=_stated_rate(loan),
        count=count,
        payment=_number(loan.payment),
        balance=_number(loan.balance),
        beats=beats_of(loan, count, most),
        odd=tuple((clause.at, _number(clause.payment)) for clause in loan.clauses),
    )


def payable_terms(loan: Loan, solution: Decimal) -> Terms:
    """The terms with the solution put back as it will be paid, as the schedule starts from.

    A stated payment finer than the currency pays is rounded as the document rounds payments.
    """
    terms, cash = _terms_around(loan, solution), loan.rounding.payment

    def paid(amount: Decimal) -> Decimal:
        return _carried(to_step(amount, loan.step, cash))

    for name, amount in (("payment", terms.payment), *((str(at), each) for at, each in terms.odd)):
        if decimal_places(amount) > loan.decimals:
            terms = terms.having(name, paid(amount))
    unknown = loan.unknown
    if unknown == "principal":
        nearest = to_step(solution, loan.minor_unit, "none" if cash == "none" else "nearest")
        return terms.having("principal", _carried(nearest))
    if unknown == "rate":
        return replace(terms, rate=periodic_rate(payable_percent(solution), loan.style))
    if unknown == "payment" or place_of(loan):
        return terms.having(place_of(loan) or "payment", paid(solution))
    return terms


def place_of(loan: Loan) -> str | None:
    """The place whose payment is asked for in a clause, if one is."""
    if loan.unknown is None or not loan.unknown.startswith("clauses."):
        return None
    return str(loan.clauses[int(loan.unknown.split(".")[1])].at)


def _terms_around(loan: Loan, solution: Decimal) -> Terms:
    """The stated terms; of an unknown count with room for what rounding adds to the solution."""
    return stated_terms(
        loan, _ROOM + 2 * int(solution) if loan.unknown == "count" else MOST_PAYMENTS
    )


def solved_terms(loan: Loan, found: Found) -> Terms:
    """The terms with the solution put back unrounded; an unknown count stays open."""
    solution = found.solutions[0]
    terms = _terms_around(loan, solution)
    if loan.unknown == "rate":
        return replace(terms, rate=as_fraction(found.periodic or Decimal(0)))
    if loan.unknown in ("principal", "payment", "balance"):
        return terms.having(loan.unknown, solution)
    at = place_of(loan)
    return terms if at is None else terms.having(at, solution)


def _carried(amount: Decimal) -> Decimal:
    with precise(80):
        return round(amount, UNROUNDED_PLACES)


def payable_percent(solution: Decimal) -> Decimal:
    """A found percent to the decimals it is put back with."""
    with precise(80):
        return round(solution, PERCENT_PLACES)


def digits_for(terms: Terms) -> int:
    """Digits that keep an unrounded roll exact to `DIGITS` through the growth of its balance."""
    longest = max(max(beat.before.size, beat.after.size) for beat in terms.beats)
    growth = max(float(1 + terms.rate), 1e-300)
    extra = int(abs(log10(growth) * ((terms.count or 0) + longest)))
    return DIGITS + 10 + min(_MOST_EXTRA_DIGITS, extra)


def find(loan: Loan) -> Found:
    """Every solution for the figure marked `?`, unrounded, or the reason there is none."""
    terms = stated_terms(loan, _FIRST_TRIED)
    by_kind = {
        "payment": _payment,
        "principal": _principal,
        "balance": _balance,
        "count": _count,
        "rate": _rate,
    }
    with precise(digits_for(terms)):
        if loan.unknown != "rate" and (reason := _nothing_left(terms)):
            return Found((), reason)
        return by_kind.get(loan.unknown or "", _odd_payment)(loan, terms)


def _nothing_left(terms: Terms) -> Sentence | None:
    """Why no money is left where a long period bears a rate far below zero."""
    for beat, grown in zip(terms.beats, interests(terms.beats, terms.rate), strict=True):
        if min(grown) <= -1:
            return Sentence(
                "At this rate nothing is left of what is owed by payment {number}: the time before "
                "it is too long for a rate so far below zero.",
                number=Number(beat.first),
            )
    return None


def _amount(terms: Terms, name: str) -> Decimal:
    """An unknown amount: what is left at the end is linear in it, so two rolls tell it."""
    left = []
    for trial in (Decimal(0), Decimal(1)):
        line = lay_out(terms.having(name, trial))
        left.append(unrounded_end(line) - line.balance)
    at_zero, at_one = left
    return at_zero / (at_zero - at_one)


def _below_zero(loan: Loan, value: Decimal) -> bool:
    return told(value) <= -loan.minor_unit / 2


def _span(loan: Loan, count: int) -> str:
    return clock.number_of(count, clock.period(loan.every).noun)


def _payment(loan: Loan, terms: Terms) -> Found:
    if len(terms.odd) == terms.count:
        return Found(
            (), Sentence("The clauses state every payment: no regular one is left to find.")
        )
    value = _amount(terms, "payment")
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


def _odd_payment(loan: Loan, terms: Terms) -> Found:
    at = place_of(loan) or ""
    value = _amount(terms, at)
    if not _below_zero(loan, value):
        return Found((value,))
    return Found(
        (),
        Sentence(
            "The other payments already repay more than is owed: payment {at} would have to give "
            "back {over}.",
            at=at,
            over=Money(-value, loan.decimals),
        ),
    )


def _principal(loan: Loan, terms: Terms) -> Found:
    return Found((_amount(terms, "principal"),))


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
    if not _below_zero(loan, value):
        return Found((value,))
    enough = _amount(terms.having("balance", Decimal(0)), "payment")
    return Found(
        (),
        Sentence(
            "The payments repay more than is owed: by the end {over} too much has been paid. "
            "{count} payments of {enough} repay it exactly.",
            over=Money(-value, loan.decimals),
            count=Number((terms.count or 0) - len(terms.odd)),
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
    noun = clock.period(loan.every).noun
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
    if balance == principal:
        return Found(
            (), Sentence("Nothing is to be repaid: {principal} is lent and as much left.", **money)
        )
    value = _periods_until(terms)
    if value is None and terms.beats[-1].last == _FIRST_TRIED:
        value = _periods_until(stated_terms(loan))
    if value is None or value <= 0:
        if balance < principal:
            return Found((), never_repays(loan, terms))
        return Found(
            (),
            Sentence(
                "The balance never grows to {balance}: payments of {payment} bring it down from "
                "{principal}. A payment below {least} would let it grow.",
                least=Money(max(_standstill(terms), Decimal(0)), loan.decimals),
                **money,
            ),
        )
    if value <= MOST_PAYMENTS:
        return Found((value,))
    by = closed_form.factors(rate, MOST_PAYMENTS, terms.timing)
    return Found(
        (),
        Sentence(
            "It would take {value} payments; at most {most} are laid out here. {most} payments of "
            "{enough} would do it.",
            value=Number(told(value), 1),
            most=Number(MOST_PAYMENTS),
            enough=Money(closed_form.payment(principal, balance, by), loan.decimals),
        ),
    )


def _periods_until(terms: Terms) -> Decimal | None:
    """After how many periods, not whole as a rule, the balance is owed; None: never.

    Where periods differ, rolled through them up to the one in which it is reached, and by the
    closed form in there.
    """
    owed, target, falls = terms.principal, terms.balance, terms.principal > terms.balance
    for stretch in lay_out(terms).stretches:
        if stretch.before and stretch.after:
            # Interest on both sides of one payment: what lies before it is grown at once.
            owed *= 1 + as_decimal(stretch.before)
            stretch = stretch._replace(before=Fraction(0))  # noqa: PLW2901
        rate = as_decimal(stretch.before or stretch.after)
        within = closed_form.count(owed, rate, stretch.payment, target, terms.timing)
        periods = None if stretch.last is None else stretch.last - stretch.first + 1
        if within is not None and within >= 0 and (periods is None or within <= periods):
            return stretch.first - 1 + within
        if periods is None:
            return None
        part = stretch._replace(first=1, last=periods)
        owed = unrounded_end(Line(owed, (part,), target))
        if (owed <= target) if falls else (owed >= target):
            return Decimal(stretch.last or 0)
    return None


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


def _paid_at_once(terms: Terms) -> Decimal:
    """What is paid the moment the money is lent: in advance, without time before it."""
    if not terms.in_advance or terms.beats[0].before != NO_TIME:
        return Decimal(0)
    return dict(terms.odd).get(1, terms.payment)


def _level_rate(terms: Terms, lent: Decimal) -> Decimal:
    count = terms.count or 1
    paid_later = count - 1 if terms.in_advance else count

    def value_and_slope(exponent: Decimal) -> tuple[Decimal, Decimal]:
        discount = (-exponent).exp()
        value, moment = closed_form.present_values(discount, paid_later, terms.payment, Decimal(0))
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


def footing_rate(loan: Loan, found: Found) -> Decimal | None:
    """The unrounded rate of one payment period, if it is stated or was found."""
    if loan.unknown == "rate":
        return found.periodic
    with precise(DIGITS + 20):
        return as_decimal(_stated_rate(loan))
