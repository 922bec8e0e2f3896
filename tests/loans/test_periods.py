"""What happens in a period, in every arithmetic: they tell the same."""

from datetime import date, timedelta
from decimal import Decimal
from fractions import Fraction
from typing import Any, cast
from unittest import TestCase

import numpy as np
from hypothesis import assume, given
from hypothesis import strategies as st

from zephyrant import loans
from zephyrant.loans.document.figure_path import RATE
from zephyrant.loans.ledger.discounting import discounted, logarithms
from zephyrant.loans.ledger.discounting_sloped import worth_at
from zephyrant.loans.ledger.exact import AFFINE, EXACT, Carrying, unrounded_end
from zephyrant.loans.ledger.level_arrays import Level
from zephyrant.loans.ledger.period import Reckoned, Reckoning, happens, happens_until
from zephyrant.loans.ledger.plain_numbers import IN_FLOATS, IN_FRACTIONS
from zephyrant.loans.ledger.rolled_arrays import rolled
from zephyrant.loans.ledger.rows import CashRule
from zephyrant.loans.ledger.whole_units import WholeUnits
from zephyrant.loans.line.compiling import stated_terms
from zephyrant.loans.line.growth import NO_TIME, Span, growth_in
from zephyrant.loans.line.line import in_rate, lay_out
from zephyrant.loans.line.stretch import Inner, Stretch
from zephyrant.loans.numbers.affine import ASKED, Affine
from zephyrant.loans.numbers.decimals import Unit, precise
from zephyrant.loans.numbers.ratios import as_decimal, as_fraction

from .documents import irregular, loan, regular
from .test_against_oracle import Draw

RATES = st.decimals("-0.1", "0.1", allow_nan=False, places=6).map(as_fraction)
MONEY = st.decimals("-50000", "50000", allow_nan=False, places=2)
DAY = date(2027, 3, 1)


def stretches(inner: st.SearchStrategy[tuple[Inner, ...]]) -> st.SearchStrategy[Stretch]:
    return st.builds(
        Stretch,
        first=st.just(1),
        last=st.integers(1, 200),
        before=RATES,
        after=RATES,
        payment=MONEY,
        on_top=st.booleans(),
        advance=MONEY,
        fee=MONEY,
        repay=MONEY,
        inner=inner,
        ahead=st.just(Fraction(0)),
        day=st.none(),
    )


INNER = st.lists(
    st.builds(
        Inner,
        amount=MONEY,
        interest=RATES,
        is_after=st.booleans(),
        is_fee=st.just(False),
        day=st.integers(0, 27).map(lambda days: DAY + timedelta(days=days)),
    ),
    max_size=3,
).map(lambda moved: tuple(sorted(moved, key=lambda each: (each.is_after, each.day))))
QUIET = stretches(st.just(()))
BUSY = stretches(INNER)


def one_by_one(owed: Any, stretch: Stretch, by: Reckoning[Any, Any]) -> Any:
    """Period by period, as any arithmetic does that knows no shorter way."""
    return Reckoning.through(by, owed, stretch, stretch.periods())


class ManyAtOnce(TestCase):
    """A run of like periods at once is the same as one by one."""

    def near(self, one: Decimal, other: Decimal, size: Decimal) -> None:
        self.assertLess(abs(one - other), max(size, Decimal(1)).scaleb(-50), (one, other))

    @given(QUIET, MONEY)
    def test_a_run(self, stretch: Stretch, owed: Decimal) -> None:
        with precise(60):
            # A last digit lost at the start grows as what is owed does, whichever way it is rolled.
            growth = (1 + as_decimal(stretch.before)) * (1 + as_decimal(stretch.after))
            size = Decimal(10**9) * max(growth, Decimal(1)) ** (stretch.last or 1)
            at_once = EXACT.carried(owed, (stretch,))
            self.near(at_once, one_by_one(owed, stretch, EXACT), size)

    @given(st.lists(QUIET, min_size=1, max_size=5), MONEY, MONEY, st.data())
    def test_carried_from_any_payment(
        self, drawn: list[Stretch], owed: Decimal, asked: Decimal, data: st.DataObject
    ) -> None:
        line, first = [], 1
        for stretch in drawn:
            last = first + (stretch.last or 1) % 20
            line.append(stretch._replace(first=first, last=last))
            first = last + 1
        begins = data.draw(st.integers(1, first - 1))
        rest = [
            stretch._replace(first=max(stretch.first, begins), payment=asked)
            for stretch in line
            if (stretch.last or 0) >= begins
        ]
        in_x = cast(
            "list[Stretch[Affine]]",
            [each._replace(payment=cast(Decimal, ASKED)) for each in line],
        )
        with precise(80):
            told = Carrying(in_x).from_payment(begins, owed).at(asked)
            self.near(told, EXACT.carried(owed, rest), Decimal(10) ** 20)

    @given(
        QUIET,
        st.integers(1, 5_000_000),
        st.sampled_from([1, 100]),
        st.sampled_from([Decimal("0"), Decimal("120.5"), Decimal("3999.99")]),
    )
    def test_rows_alike_are_those_of_single_periods(
        self, stretch: Stretch, opening: int, step: int, payment: Decimal
    ) -> None:
        nothing = Decimal(0)
        plain = stretch._replace(
            payment=payment, on_top=False, advance=nothing, fee=nothing, repay=nothing
        )
        places = 2 if step == 1 else 4
        units = WholeUnits(CashRule(Unit(places, 2), interest_step=step, cash_step=step))
        period = Reckoned(plain, units)
        rows = units.alike(opening, period, range(1, plain.periods() + 1), None)
        for row in rows:
            it = happens(opening, period)
            told = (it.interest + it.later, it.paid, it.closing, it.rest)
            self.assertEqual((row.interest, row.payment, row.closing), told[:3])
            self.assertEqual((row.opening, row.rest > 0), (opening, True))
            opening = row.closing
        if len(rows) < plain.periods():
            # It stops where all is repaid, or more is owed than is told.
            it = happens(opening, period)
            self.assertTrue(it.rest <= 0 or it.closing > units.most)


class OneMeaning(TestCase):
    """The same periods in decimals, fractions, floats and in an amount that is asked for."""

    @given(st.lists(BUSY, min_size=1, max_size=4), MONEY)
    def test_decimals_are_fractions(self, drawn: list[Stretch], owed: Decimal) -> None:
        line = [each._replace(last=each.periods() % 4 + 1) for each in drawn]
        with precise(90):
            told = EXACT.carried(owed, line)
            exact = IN_FRACTIONS.carried(Fraction(owed), line)
            self.assertLess(abs(Fraction(told) - exact), Fraction(1, 10**60))
        self.assertAlmostEqual(IN_FLOATS.carried(float(owed), line), float(exact), delta=1e-4)

    @given(BUSY, MONEY, MONEY)
    def test_affine_in_what_is_asked_for(
        self, stretch: Stretch, owed: Decimal, asked: Decimal
    ) -> None:
        stretch = stretch._replace(last=stretch.periods() % 30 + 1)
        for name in ("payment", "advance", "fee", "repay"):
            x: dict[str, Any] = {name: ASKED}
            amount: dict[str, Any] = {name: asked}
            in_x = cast("Stretch[Affine]", stretch._replace(**x))
            with precise(80):
                told = AFFINE.carried(Affine(owed, Decimal(0)), (in_x,)).at(asked)
                put = EXACT.carried(owed, (stretch._replace(**amount),))
                self.assertLess(abs(told - put), Decimal("1e-50"))

    @given(BUSY, MONEY)
    def test_up_to_a_day(self, stretch: Stretch, opening: Decimal) -> None:
        """What accrues by a day and what accrues from it on make the whole."""
        opening_ = Fraction(opening)
        whole = happens(opening_, Reckoned(stretch, IN_FRACTIONS))
        for place, moves in enumerate(stretch.inner):
            it = happens_until(opening_, stretch, place, IN_FRACTIONS)
            bearing = (it.rest if moves.is_after else opening_) + sum(
                Fraction(each.amount)
                for each in stretch.inner[:place]
                if each.is_after == moves.is_after
            )
            rest = bearing * moves.interest + sum(
                Fraction(each.amount) * each.interest
                for each in stretch.inner[place:]
                if each.is_after == moves.is_after
            )
            by_then = it.later if moves.is_after else it.interest
            accrued = whole.later if moves.is_after else whole.interest
            self.assertEqual(by_then + rest, accrued)


class ToldAsFlows(TestCase):
    """A line discounted is the line rolled."""

    def agree(self, content: dict[str, Any]) -> None:
        """With what the roll leaves, what is lent is worth what is paid; in every telling."""
        terms = stated_terms(loans.check(content))
        line = lay_out(terms)
        with precise(80):
            sides = discounted(line, left=unrounded_end(line))
            size = max(abs(sides.lent), abs(sides.paid), Decimal(1))
            self.assertLess(abs(sides.lent - sides.paid), size.scaleb(-40))
            told = worth_at(in_rate(terms, RATE), as_decimal(terms.rate))
            known = discounted(line)
            self.assertLess(abs(told.value - (known.lent - known.paid)), size.scaleb(-30))
            more = Decimal("1e-20")
            other = worth_at(in_rate(terms, RATE), as_decimal(terms.rate) + more)
            slope = (other.value - told.value) / more
            self.assertLess(abs(slope - told.slope), max(size, abs(slope)).scaleb(-12))
        curves = logarithms(in_rate(terms, RATE), np.array([float(terms.rate)]))
        with np.errstate(over="ignore"):
            gap = float(np.exp(curves.lent[0]) - np.exp(curves.paid[0]))
        self.assertAlmostEqual(gap, float(told.value), delta=1e-8 * float(size))

    @given(regular())
    def test_regular_loans(self, content: dict[str, Any]) -> None:
        content = {**content, "payment": "731.5"}
        assume(content["count"] <= 120)
        self.agree(content)

    @given(irregular())
    def test_clauses(self, content: dict[str, Any]) -> None:
        self.agree({**content, "payment": "731.5"})

    def test_days_inside_periods(self) -> None:
        told = 0
        for seed in range(300):
            drawn = Draw(seed)
            content = drawn.having("3" if drawn.asked == "rate" else "777.7")
            if not drawn.content["count"]:
                continue
            with self.subTest(seed=seed):
                try:
                    loans.check(content)
                except loans.NotALoan:
                    continue
                self.agree(content)
                told += 1
        self.assertGreater(told, 200)


class AsArrays(TestCase):
    """Many loans rolled at once are each rolled alone."""

    def test_rows_of_single_periods(self) -> None:
        chance = np.random.default_rng(14)
        size = 400
        count = chance.integers(1, 60, size)
        thousandths = chance.integers(0, 12, size)
        for in_advance in (False, True):
            lent = chance.integers(100_000, 9_000_000, size).astype(float)
            payment = np.round(lent / count * chance.uniform(0.9, 1.2, size))
            level = Level(
                principal=lent,
                rate=thousandths / 1_000,
                numerator=thousandths,
                denominator=np.full(size, 1_000),
                count=count,
                balance=np.zeros(size),
                payment=payment,
                in_advance=np.full(size, in_advance),
            )
            after = np.minimum(count, 7)
            told = rolled(level, after=after)
            units = WholeUnits(CashRule(Unit(2, 2), interest_step=1, cash_step=1))
            sure = 0
            for place in np.flatnonzero(~np.isnan(told.final)).tolist():
                rate, nothing = Fraction(int(thousandths[place]), 1_000), Decimal(0)
                period = Reckoned(
                    Stretch(
                        1,
                        None,
                        Fraction(0) if in_advance else rate,
                        rate if in_advance else Fraction(0),
                        Decimal(int(payment[place])) / 100,
                        False,
                        nothing,
                        nothing,
                        nothing,
                    ),
                    units,
                )
                owed, paid = int(lent[place]), 0
                for number in range(1, int(count[place])):
                    it = happens(owed, period)
                    owed, paid = it.closing, paid + it.paid
                    if number == after[place]:
                        self.assertEqual(it.rest, told.owed[place])
                last = happens(owed, period).due
                self.assertEqual((last, paid + last), (told.final[place], told.paid[place]))
                sure += 1
            self.assertGreater(sure, size // 2)


class InTheRate(TestCase):
    @given(RATES, st.fractions(0, 40), st.fractions(0, 30, max_denominator=12))
    def test_growth_over_an_odd_time(
        self, rate: Fraction, simple: Fraction, power: Fraction
    ) -> None:
        """(1 + simple i)(1 + i)^power, told in i and put at a rate, is what it is at that rate."""
        simple = simple.limit_denominator(30) / 40
        span = Span(simple, power)
        with precise(80):
            asked = in_rate(stated_terms(loan(payment="1")), RATE).terms.rate
            growth, pull = growth_in(span.interest(asked), as_decimal)(as_decimal(rate))
            self.assertLess(abs(growth - 1 - as_decimal(span.interest(rate))), Decimal("1e-50"))
            more = Decimal("1e-25")
            other, _ = growth_in(span.interest(asked), as_decimal)(as_decimal(rate) + more)
            self.assertLess(abs((other.ln() - growth.ln()) / more - pull), Decimal("1e-18"))
        self.assertFalse(NO_TIME.interest(asked))
