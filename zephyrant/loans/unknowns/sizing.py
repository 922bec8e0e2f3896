"""What can be lent: the greatest principal whose payments the cash flow covers as often as it has
to, and which is no more of the value than may be lent on it.

With any principal go the payments that repay it; what is paid in a period of the cover is linear in
it. In cents payments round down where the cover binds, and the principal falls until all fit.
"""

from dataclasses import replace
from decimal import Decimal
from fractions import Fraction
from typing import Final, NamedTuple

from ..budget import look
from ..document.bounds import Bound
from ..document.figure_path import PAYMENT, PRINCIPAL
from ..document.loan import Loan
from ..ledger.covering import carried_in, periods_of, service_of
from ..ledger.exact import EXACT, unrounded_end
from ..ledger.levelling import left_over, unforeseen
from ..ledger.roll import roll_schedule
from ..ledger.rows import NeverSettlesError, cash_rule
from ..line.cash_flow import Cover
from ..line.compiling import cash_of
from ..line.line import Line, lay_out
from ..line.terms import Terms
from ..numbers.decimals import Cash, significant, to_step
from ..numbers.ratios import as_decimal
from ..wording.marks import Money, Number, Sentence
from .amounts import payment_of
from .last_payment import ending_of
from .parts import NoPartError, first_part, first_payment, parted
from .solution import Found, Sizing, as_made, as_payable

#: Less than this of what is carried is the noise of many digits.
_NOISE: Final = Decimal("1e-40")
#: Times that which growth to the end makes of it.
_WIDE: Final = Decimal(10) ** 15
#: Cents, and times, that are gone one by one in search of what fits before larger steps are taken;
#: with parts, whose roundings go up and down, more, as long as no more rows than so many are laid.
_NEAR: Final = 32
_NEAR_PARTS: Final = 256
_ROWS: Final = 20_000


class _Exact(NamedTuple):
    """A bound unrounded: the principal, and the payment that repays it."""

    principal: Decimal
    payment: Decimal


class _InCents(NamedTuple):
    """A principal with its payment as they will be paid, and how payments are rounded."""

    lent: Decimal
    payment: Decimal
    way: Cash


class _NothingLentError(Exception):
    """The bounds let nothing be lent; `why` says it."""

    def __init__(self, why: Sentence) -> None:
        super().__init__("nothing can be lent")
        self.why = why


def size_of(loan: Loan, terms: Terms) -> Found:
    """The greatest principal within the bounds, and which of them binds; or why there is none. In
    the decimal context in force."""
    try:
        exact: dict[Bound, _Exact] = {}
        if terms.cover is not None:
            exact["cover"] = _by_cover(loan, terms, terms.cover)
        if loan.value is not None:
            principal = loan.value.most
            exact["value"] = _Exact(principal, _payment_for(loan, terms, principal))
        return _least(loan, terms, exact)
    except _NothingLentError as nothing:
        return Found((), nothing.why)
    except NoPartError as error:
        return Found((), error.why)


def _least(loan: Loan, terms: Terms, exact: dict[Bound, _Exact]) -> Found:
    """The lesser of the bounds, as it will be lent."""
    alone: dict[Bound, _InCents] = {}
    if "cover" in exact:
        alone["cover"] = _falling(loan, terms, exact["cover"], None)
    if "value" in exact:
        alone["value"] = _on_value(loan, exact["value"])
    binding: Bound = "cover"
    if "cover" not in alone or ("value" in alone and alone["value"].lent < alone["cover"].lent):
        binding = "value"
    taken = alone[binding]
    if binding == "value" and "cover" in alone and _excess(loan, terms, taken) > 0:
        # Rounded as payments are, they would be a cent more than the cash flow carries.
        taken = _falling(loan, terms, exact["cover"], taken.lent)
    sizing = Sizing(
        exact[binding].payment,
        *taken,
        binding,
        {bound: each.lent - taken.lent for bound, each in alone.items()},
    )
    return Found((exact[binding].principal,), sizing=sizing)


# Unrounded


def _line_for(loan: Loan, terms: Terms, exact: _Exact) -> Line:
    """The line of a principal with its payments, unrounded."""
    moved = terms.having(PRINCIPAL, exact.principal).having(PAYMENT, exact.payment)
    return as_made(loan, parted(loan, moved))


def _payment_for(loan: Loan, terms: Terms, principal: Decimal) -> Decimal:
    """The payment that repays a principal: of parts the first; where payments follow the cash flow
    the part of it that they take."""
    moved = terms.having(PRINCIPAL, principal)
    if terms.has_parts:
        line = lay_out(moved)
        first_part(line)
        return first_payment(line, line.principal, EXACT)
    if terms.sharing is not None and terms.sharing.at_last:
        return left_over(moved, PAYMENT).root() or Decimal(0)
    found = payment_of(loan, unforeseen(moved))
    if found.reason and left_over(unforeseen(moved), PAYMENT).root() is not None:
        raise _NothingLentError(found.reason)
    return found.meant


def _by_cover(loan: Loan, terms: Terms, cover: Cover) -> _Exact:
    """The greatest principal whose payments the cash flow covers in every period."""
    last = loan.count if isinstance(loan.count, int) else 0
    carries = {
        period: as_decimal(carried_in(cover, period, last))
        for period in range(1, cover.flow.period(last) + 1)
    }
    # Linear in the principal, so that two of the size it has tell it.
    scale = sum(carries.values(), Decimal(1))
    at = [_serving(loan, terms, cover, scale * times) for times in (1, 2)]
    lowest, highest = Decimal("-Infinity"), Decimal("Infinity")
    for period, carried in carries.items():
        one, two = (each.get(period, Decimal(0)) for each in at)
        slope = (two - one) / scale
        fixed = one - slope * scale
        if abs(slope) < _NOISE:
            if fixed - carried > _NOISE * scale:
                raise _NothingLentError(_states_more(loan, period, fixed, carried))
        elif slope > 0:
            highest = min(highest, (carried - fixed) / slope)
        else:
            lowest = max(lowest, (carried - fixed) / slope)
    if highest < lowest or significant(highest) < loan.minor_unit:
        raise _NothingLentError(_nothing_carried(loan, cover, last, highest))
    if highest.is_infinite():
        raise _NothingLentError(
            Sentence("No payment depends on what is lent: the cover does not tell it.")
        )
    exact = _Exact(highest, _payment_for(loan, terms, highest))
    if loan.amortized_over is None:
        line = _line_for(loan, terms, exact)
        if abs(unrounded_end(line) - terms.balance) > _NOISE * scale * _WIDE:
            raise _NothingLentError(
                Sentence(
                    "The clauses repay more than can be lent within the cover, {lent}: let them "
                    "repay less.",
                    lent=Money(highest, loan.decimals),
                )
            )
    return exact


def _serving(loan: Loan, terms: Terms, cover: Cover, principal: Decimal) -> dict[int, Decimal]:
    exact = _Exact(principal, _any_payment_for(terms, principal))
    return service_of(_line_for(loan, terms, exact), cover)


def _any_payment_for(terms: Terms, principal: Decimal) -> Decimal:
    """The same, whether above zero or not."""
    moved = terms.having(PRINCIPAL, principal)
    if terms.has_parts:
        first_part(lay_out(moved))
        return Decimal(0)
    return left_over(unforeseen(moved), PAYMENT).root() or Decimal(0)


def _states_more(loan: Loan, period: int, paid: Decimal, carried: Decimal) -> Sentence:
    return Sentence(
        "Whatever is lent, {paid} is paid in period {period} of the cover, and the cash flow "
        "carries {carried} there.",
        paid=Money(paid, loan.decimals),
        period=Number(period),
        carried=Money(carried, loan.decimals),
    )


def _nothing_carried(loan: Loan, cover: Cover, last: int, highest: Decimal) -> Sentence:
    periods = range(1, cover.flow.period(last) + 1)
    empty = next((each for each in periods if not carried_in(cover, each, last)), None)
    if empty is not None:
        return Sentence(
            "Nothing can be lent: in period {period} of the cover there is no cash flow to pay "
            "from.",
            period=Number(empty),
        )
    return Sentence(
        "Nothing can be lent: what the clauses lend and what is to be left already take more than "
        "the cash flow carries, by {over}.",
        over=Money(max(-highest, Decimal(0)) if highest.is_finite() else Decimal(0), loan.decimals),
    )


# In cents


def _on_value(loan: Loan, exact: _Exact) -> _InCents:
    """As much as may be lent on the value, its payments rounded as any."""
    cash = cash_of(loan)
    lent = cash.amount(exact.principal)
    if cash.way != "none":
        lent = to_step(exact.principal, loan.minor_unit, "down")
    return _InCents(lent, _as_paid(loan, exact.payment, cash.way), cash.way)


def _as_paid(loan: Loan, payment: Decimal, way: Cash) -> Decimal:
    """A payment as it will be paid; a part of the cash flow is no amount."""
    if loan.repayment == "sculpted":
        return payment
    return cash_of(loan)._replace(way=way).payment(payment)


def _falling(loan: Loan, terms: Terms, exact: _Exact, most: Decimal | None) -> _InCents:
    """The greatest principal, of `most` at the most, whose payments, rounded down, all fit."""
    cash = cash_of(loan)
    if cash.way == "none":
        lent = cash.amount(exact.principal)
        lent = lent if most is None else min(most, lent)
        return _InCents(lent, _as_paid(loan, exact.payment, "none"), "none")
    cent = loan.minor_unit
    start = to_step(exact.principal, cent, "down")
    start = start if most is None else min(most, start)
    payment = _as_paid(loan, exact.payment, "down")

    def excess(lent: Decimal) -> Fraction:
        look()
        return _excess(loan, terms, _InCents(lent, payment, "down"))

    # By how much the last payment falls with the principal, at the least.
    fixed = replace(terms, part=Decimal(0)).having(PAYMENT, exact.payment)
    pull = Fraction(1) if terms.has_parts else Fraction(left_over(fixed, PRINCIPAL).slope)
    farther = min(_NEAR_PARTS, _ROWS // (terms.count or 1)) if terms.has_parts else 0
    near = max(_NEAR, farther)
    lent = above = start
    tried = 0
    while lent > 0 and (over := excess(lent)) > 0:
        tried, above = tried + 1, lent
        # What pays interest alone turns on its rounding: cent by cent it would fall for hours.
        wide = 1 << max(0, tried - near)
        steps = max(wide, int(over / Fraction(cent) / max(pull, Fraction(1))))
        lent = max(lent - steps * cent, Decimal(0))
    while above - lent > near * cent:
        middle = to_step((above + lent) / 2, cent, "down")
        above, lent = (middle, lent) if excess(middle) > 0 else (above, middle)
    while lent < start and excess(lent + cent) <= 0:
        lent += cent
    return _InCents(lent, payment, "down")


def _excess(loan: Loan, terms: Terms, paid: _InCents) -> Fraction:
    """By how much the payments of the schedule to the cent exceed, in the period in which they do
    so most, what the cash flow carries. Of one that cannot be laid out nothing."""
    cover = terms.cover
    if cover is None or cover.ratio is None:
        return Fraction(0)
    line, rounding = as_payable(loan, paid.lent, paid.payment, paid.way), loan.rounding
    rule = cash_rule(line, loan.decimals, rounding.payment, rounding.interest)
    try:
        schedule = roll_schedule(line, rule, ending_of(loan, line))
    except NeverSettlesError:
        return Fraction(0)
    return max(each.excess(cover.ratio) for each in periods_of(line, schedule))
