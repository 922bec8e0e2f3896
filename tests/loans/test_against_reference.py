"""`exact` against 50-digit mpmath for each of the five unknowns, on loans of every shape."""

from decimal import Decimal
from typing import Any
from unittest import TestCase

from hypothesis import assume, given, settings
from hypothesis import strategies as st
from mpmath import mp, mpf

from zephyrant import loans

from . import reference
from .documents import document, regular

settings.register_profile("core", deadline=None, max_examples=120)
settings.load_profile("core")


def exact(content: dict[str, Any]) -> mpf:
    answer = loans.solve(loans.check(content))
    assert answer.exact is not None, answer.reason
    return mpf(answer.exact)


class FiveUnknowns(TestCase):
    def close(self, found: mpf, expected: mpf, scale: Any = 0) -> None:
        """Within 1e-12 relative (of the figure, or of the loan where it cancels)."""
        size = max(abs(expected), abs(mpf(str(scale))))
        self.assertLessEqual(abs(found - expected), size * mpf("1e-12"))

    @given(regular())
    def test_payment(self, content: dict[str, Any]) -> None:
        expected = reference.payment(content)
        assume(expected > 0)
        self.close(exact(content), expected)

    @given(regular())
    def test_principal(self, content: dict[str, Any]) -> None:
        payment = reference.payment(content)
        assume(payment > 1)
        asked = {**content, "payment": mp.nstr(payment, 30), "principal": "?"}
        self.close(exact(asked), mpf(content["principal"]))

    @given(regular())
    def test_balance(self, content: dict[str, Any]) -> None:
        payment = mp.nstr(reference.payment(content) * mpf("0.9"), 30)
        assume(mpf(payment) > 1)
        rate = reference.rate_of_one_period(content)
        expected = reference.left_at_the_end(
            content, rate, principal=content["principal"], payment=payment, count=content["count"]
        )
        assume(0 <= expected < 10**14)
        asked = {**content, "payment": payment, "balance": "?"}
        grown = mpf(content["principal"]) * (1 + rate) ** content["count"]
        self.close(exact(asked), expected, scale=grown * mpf("1e-15"))

    @given(regular())
    def test_rate(self, content: dict[str, Any]) -> None:
        """Rates to 1e-10 percent: the payment of a known rate leads back to it."""
        payment = reference.payment(content)
        assume(payment > mpf("0.01"))
        if content["timing"] == "in-advance":
            assume(payment < mpf(content["principal"]))
            assume(content["count"] > 1 or content["balance"] != "0")
        quote = {**content["rate"], "percent": "?"}
        asked = {**content, "payment": mp.nstr(payment, 38, min_fixed=-99), "rate": quote}
        stated = mpf(content["rate"]["percent"])
        self.assertLessEqual(abs(exact(asked) - stated), mpf("1e-10"))

    @given(regular(), st.integers(0, 99))
    def test_count(self, content: dict[str, Any], part: int) -> None:
        """The fraction for which the balance, as a power of the growth, is what is to be left."""
        rate = reference.rate_of_one_period(content)
        count = mpf(content["count"]) + mpf(part) / 100
        assume(abs(rate) > mpf("1e-9"))
        growth = (1 + rate) ** count
        added = (growth - 1) / rate * (1 + rate if content["timing"] == "in-advance" else 1)
        payment = (mpf(content["principal"]) * growth - mpf(content["balance"])) / added
        # Further on the balance hardly moves, and cents decide whether it is ever reached.
        assume(payment > 1 and abs(mp.log(growth)) < 8)
        # A first principal part of a cent or two is lost to rounding: then nothing is repaid.
        owed = mpf(content["principal"])
        owed -= payment if content["timing"] == "in-advance" else 0
        assume(abs(payment - owed * rate) > mpf("0.05"))
        # Below zero the balance can slip past a balloon by itself, and no payment settles it.
        assume(rate > 0 or content["balance"] == "0")
        asked = {**content, "payment": mp.nstr(payment, 38), "count": "?"}
        self.close(exact(asked), count)

    def test_a_rate_of_exactly_zero(self) -> None:
        found = loans.solve(
            loans.check(document(principal="1200", count=12, payment="100", rate={"percent": "?"}))
        )
        self.assertEqual(found.exact, "0")
        self.assertEqual(found.value, "0.0000000000")

    def test_tiny_rates_keep_their_digits(self) -> None:
        for percent in ("0.0000001", "-0.0000001", "0.000000000001"):
            content = document(rate={"percent": percent}, count=360, balance="0")
            self.close(exact(content), reference.payment(content))

    def test_rates_down_to_where_money_vanishes(self) -> None:
        for percent in ("-50", "-99", "-99.9999"):
            rate = {"percent": percent, "quoted": "effective"}
            content = document(rate=rate, balance="0", count=60)
            self.close(exact(content), reference.payment(content))

    def test_exact_is_told_with_at_least_fifteen_digits(self) -> None:
        told = loans.solve(loans.check(document())).exact or ""
        self.assertGreaterEqual(len(Decimal(told).as_tuple().digits), 15)
