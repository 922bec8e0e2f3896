"""What parts come to, put together: exact where it is said to be, else within the bound."""

import math
from decimal import Decimal
from unittest import TestCase

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from zephyrant.cluster.counting import SIZE, Tally, tallied
from zephyrant.loans.tape import RESULTS
from zephyrant.loans.tape.summary import SPREAD, distribution, far_off, spread_of, summarise

Told = dict[str, list[str]]


def told(payments: list[str], rate: str = "5", count: str = "12") -> Told:
    """Solved rows with these payments, each of a loan of ten of them."""
    size = len(payments)
    columns = {name: [""] * size for name in RESULTS}
    columns |= {"payment": payments, "percent": [rate] * size, "count": [count] * size}
    columns["principal"] = [str(10 * Decimal(payment)) for payment in payments]
    columns["total_paid"] = columns["total_interest"] = payments
    return columns


def parts(whole: Told, size: int) -> list[Told]:
    many = len(whole["problem"])
    return [
        {name: cells[at : at + size] for name, cells in whole.items()}
        for at in range(0, many, size)
    ]


def kept(whole: Told, size: int) -> Tally:
    """Each part counted by itself, kept as text, and put together."""
    texts, first = [], 1
    for part in parts(whole, size):
        tally = Tally()
        tally.add(part, ["EUR"] * len(part["problem"]), first)
        first += len(part["problem"])
        texts.append(tally.as_json())
    return tallied(texts)


CENTS = st.integers(1, 10**14).map(lambda cents: str(Decimal(cents).scaleb(-2)))


class Sums(TestCase):
    @given(st.lists(CENTS, min_size=1, max_size=40), st.integers(1, 40))
    def test_money_is_exact_however_it_was_cut(self, payments: list[str], size: int) -> None:
        sums = kept(told(payments), size).counts.sums["EUR"]
        self.assertEqual(sums.money["payment"], sum(map(Decimal, payments)))
        self.assertEqual(sums.money["principal"], 10 * sum(map(Decimal, payments)))
        self.assertTrue(math.isclose(sums.average("percent") or 0, 5, rel_tol=1e-12))

    @given(st.lists(CENTS, min_size=1, max_size=60), st.integers(1, 60))
    @settings(max_examples=50)
    def test_few_values_are_told_as_one_table_tells_them(
        self, payments: list[str], size: int
    ) -> None:
        whole = told(payments)
        figures = kept(whole, size).figures
        summary = summarise(whole, ["EUR"] * len(payments), [""] * len(payments))
        for name in SPREAD:
            values, weights = figures[name].weighed()
            self.assertEqual(figures[name].rank_error, 0)
            for mine, theirs in zip(
                distribution(values, weights), summary["spread"][name], strict=True
            ):
                self.assertTrue(math.isclose(mine["low"], theirs["low"], rel_tol=1e-9))
                self.assertEqual(mine["rows"], theirs["rows"])


class ManyValues(TestCase):
    def test_places_among_rows_are_right_within_the_bound(self) -> None:
        made = np.random.default_rng(11)
        cents = np.rint(np.exp(made.normal(7, 1, 60_000)) * 100).astype(int)
        payments = [str(Decimal(int(each)).scaleb(-2)) for each in cents]
        figure = kept(told(payments), 9_000).figures["payment"]
        values, weights = figure.weighed()
        self.assertEqual(weights.sum(), 60_000)
        self.assertTrue(0 < figure.rank_error < 0.003)
        self.assertLess(len(values), 10 * SIZE)
        spread, exact = spread_of(values, weights), np.sort(cents / 100)
        assert spread is not None
        for value, part in ((spread.low, 0.005), (spread.middle, 0.5), (spread.high, 0.995)):
            rank = np.searchsorted(exact, value) / len(exact)
            # Nine times the bound of 99 in 100: the sketch draws lots.
            self.assertLess(abs(rank - part), 3 * figure.rank_error)
        outlying = far_off(exact, spread_of(exact)).sum()
        found = weights[far_off(values, spread)].sum()
        self.assertLess(abs(outlying - found) / 60_000, 6 * figure.rank_error)
        self.assertEqual([far.value for far in figure.highest], exact[::-1][:10].tolist())
        self.assertEqual(cents[figure.highest[0].row - 1] / 100, exact[-1])
        self.assertEqual([far.value for far in figure.lowest], exact[:10].tolist())
