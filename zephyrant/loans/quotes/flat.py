"""Flat (add-on) rates: a flat rate p over n level payments in T years is the rate at which n
payments of (1 + p T)/n repay 1 (standard interest mathematics)."""

from decimal import Decimal
from fractions import Fraction
from typing import TYPE_CHECKING

from zephyrant.texts import worded

from ..calendars import frequencies
from ..numbers import annuity
from ..numbers.ratios import as_decimal, power
from ..roots.monotone import root_of_falling_convex
from .convention import Bounds, Convention, Formula

if TYPE_CHECKING:
    from .styles import Style


class Flat(Convention):
    """Charged on all that is lent for all the time the payments run."""

    is_of_a_loan = True
    beyond = "the first payment, at once, returns all that is lent"
    said = "a year, flat (add-on)"
    needs = ", over {payments}"
    title, choice = "Flat (add-on)", "flat (add-on), on the amount lent throughout"

    def bounds(self, style: "Style") -> Bounds:
        """In advance the first payment must leave something lent."""
        most = None
        if style.in_advance:
            most = Fraction(100 * ((style.payments or 1) - 1)) / style.term
        return -100 / style.term, most

    def growth(self, share: Decimal, style: "Style") -> Decimal:
        """By the rate of one period."""
        return (1 + self.rate(share, style)) ** frequencies.a_year(style.every)

    def share(self, growth: Decimal, style: "Style") -> Decimal:
        """By the rate of one period."""
        rate = power(growth, Fraction(1, frequencies.a_year(style.every))) - 1
        return self.share_of(rate, style)

    def rate(self, share: Decimal, style: "Style") -> Decimal:
        """The rate of one period at which the payments repay what is lent.

        What they are worth, on a logarithmic scale, is convex and falls with the rate: one root.
        """
        if not share:
            return Decimal(0)
        count = style.payments or 1
        level = (1 + share * as_decimal(style.term)) / count
        lent, later = (1 - level, count - 1) if style.in_advance else (Decimal(1), count)

        def value_and_slope(exponent: Decimal) -> tuple[Decimal, Decimal]:
            discount = (-exponent).exp()
            present_value, moment = annuity.present_values(discount, later, level, Decimal(0))
            return (present_value / lent).ln(), -moment / present_value

        return root_of_falling_convex(value_and_slope).exp() - 1

    def share_of(self, rate: Decimal, style: "Style") -> Decimal:
        """What level payments at a rate come to, a year."""
        count = style.payments or 1
        by = annuity.factors(rate, count, "in-advance" if style.in_advance else "in-arrears")
        level = annuity.payment(Decimal(1), Decimal(0), by)
        return (count * level - 1) / as_decimal(style.term)

    def formula(self, style: "Style") -> Formula:
        """As the equation it is."""
        due = " · (1 + i)" if style.in_advance else ""
        return Formula(
            worded(
                "n payments of (1 + p·T)/n repay 1: (1 + p·T)/n · (1 − (1 + i)^−n) / i{due} = 1",
                due=due,
            ),
            f"p = (n · i / ((1 − (1 + i)^−n){due}) − 1) / T",
            f"n = {style.payments}, T = {style.term}, p = {{p}}",
        )
