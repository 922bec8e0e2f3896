"""Random documents of every shape against a second reading of the contract, row by row.

`ZEPHYRANT_FAR` (set by `make check-far`) is how many documents are drawn instead of a few hundred.
"""

import os
import random
from copy import deepcopy
from datetime import date, timedelta
from decimal import Decimal
from fractions import Fraction
from math import ceil
from typing import Any
from unittest import TestCase

from zephyrant import loans

from .oracle import Deal, moved, nearest, up

DRAWN = int(os.environ.get("ZEPHYRANT_FAR", "500"))
CENT = Fraction(1, 100)
NAMES = ("opening", "interest", "payment", "closing")


class Draw:
    """One random document; what is asked, and where it stands."""

    def __init__(self, seed: int) -> None:
        self.random = random.Random(seed)
        pick, chance = self.random.choice, self.random.random
        every = pick(["month"] * 4 + ["quarter", "half-month", "two-weeks", "week", "year"])
        self.count = self.random.randint(1, 16)
        self.content: dict[str, Any] = {
            "zephyrant": "loan/1",
            "currency": "EUR",
            "principal": pick(["20000", "9876.54", "48250", "1000"]),
            "rate": {"percent": pick(["0", "4.2", "6", "6.35", "12", "23.9", "-1.5"])},
            "count": self.count,
            "every": every,
            "payment": pick(["900", "1234.56", "210.07", "75"]),
            "balance": pick(["0", "0", "0", "2500", "431.17"]),
            "timing": pick(["in-arrears", "in-arrears", "in-advance"]),
        }
        if chance() < 0.7:
            self._dates(every)
        if chance() < 0.25:
            self.content["rounding"] = {
                "payment": pick(["nearest", "up"]),
                "to": pick(["0.01", "0.05", "1"]),
            }
        if chance() < 0.15:
            self.content["count"] = 0
            self.content["payment"] = "0"
        clauses = [self._clause() for _ in range(self.random.randint(0, 4))]
        if not self.content["count"]:
            clauses = [c for c in clauses if not {"payment", "pay", "step", "months"} & set(c)]
            clauses.append({"at": self._place(1), "repay": "8000"})
        self.content["clauses"] = self._without_twins(clauses)
        self.asked, self.path = self._asked()

    def _dates(self, every: str) -> None:
        pick = self.random.choice
        start = date(2024, 1, 1) + timedelta(days=self.random.randint(0, 1500))
        self.content["start"] = start.isoformat()
        self.content["day_count"] = pick(
            ["equal"] * 4 + ["30/360", "30E/360", "actual/365", "actual/360", "actual/actual"]
        )
        if self.random.random() < 0.5:
            longest = (moved(start, every, 4) - start).days
            first = start + timedelta(days=self.random.randint(1, longest))
            self.content["first_payment"] = first.isoformat()
            self.content["odd_days"] = pick(["simple", "compound"])

    def _place(self, least: int) -> int | str:
        number = self.random.randint(least, self.count)
        if "start" not in self.content or self.random.random() < 0.5:
            return number
        deal = Deal({**self.content, "count": self.count})
        begins = deal.due(max(0, number - 1))
        ends = deal.due(number)
        assert begins and ends
        if begins >= ends:
            return number
        day = begins + timedelta(days=self.random.randint(1, (ends - begins).days))
        return day.isoformat()

    def _stretch(self) -> dict[str, Any]:
        if "start" in self.content and self.random.random() < 0.2:
            months = sorted(self.random.sample(range(1, 13), self.random.randint(1, 5)))
            where: dict[str, Any] = {"months": months}
            if self.random.random() < 0.5:
                where["from"] = self.random.randint(1, self.count)
            return where
        where = {"from": self._place(1)}
        if self.random.random() < 0.6:
            begin = Deal({**self.content, "count": self.count}).number_of(where["from"])
            if begin <= self.count:
                where["to"] = self.random.randint(begin, self.count)
        return where

    def _clause(self) -> dict[str, Any]:
        pick = self.random.choice
        where = self._stretch() if self.random.random() < 0.5 else {"at": self._place(1)}
        match pick(["repay", "advance", "rate", "payment", "pay", "step", "fee"]):
            case "repay":
                return {**where, "repay": pick(["50", "125.5", "333.33"])}
            case "advance":
                return {"at": self._place(0), "advance": pick(["1000", "5000"])}
            case "rate":
                where = {"from": self._place(1)}
                return {**where, "rate": {"percent": pick(["0", "3", "9.75"])}}
            case "payment":
                return {**where, "payment": pick(["310.25", "1200"])}
            case "pay":
                return {**where, "pay": pick(["nothing", "interest"])}
            case "step":
                by = pick([{"percent": "3"}, {"amount": "20"}, {"percent": "-2"}])
                return {"from": self._place(1), "step": by, "every": pick([1, 6, 12])}
        fee = pick(["150", {"percent": "2"}, "0"])
        return {"at": self._place(0), "fee": fee, "taken": pick(["added", "apart"])}

    @staticmethod
    def _without_twins(clauses: list[dict[str, Any]]) -> list[dict[str, Any]]:
        seen, kept = set(), []
        for clause in clauses:
            if "payment" in clause and "at" in clause:
                if clause["at"] in seen:
                    continue
                seen.add(clause["at"])
            kept.append(clause)
        return kept

    def _asked(self) -> tuple[str, tuple[Any, ...]]:
        figures: list[tuple[str, tuple[Any, ...]]] = [
            ("balance", ("balance",)),
            ("principal", ("principal",)),
            ("rate", ("rate", "percent")),
        ]
        if self.content["count"]:
            figures += [("payment", ("payment",))] * 3
        for place, clause in enumerate(self.content["clauses"]):
            for verb in ("repay", "advance", "payment", "fee"):
                if isinstance(clause.get(verb), str) and clause.get("taken", "added") == "added":
                    figures.append((verb, ("clauses", place, verb)))
        return self.random.choice(figures)

    def having(self, value: object) -> dict[str, Any]:
        content = deepcopy(self.content)
        *way, last = self.path
        here: Any = content
        for step in way:
            here = here[step]
        here[last] = value
        return content


def exact_of(drawn: Draw) -> Fraction | None:
    """The amount asked for: what is left at the end is affine in it."""
    ends = []
    for trial in (1, 2):
        content = drawn.having(str(trial))
        balance = Fraction(trial) if drawn.asked == "balance" else Fraction(content["balance"])
        ends.append(Deal(content).roll() - balance)
    return None if ends[0] == ends[1] else 1 + ends[0] / (ends[0] - ends[1])


#: Payments among which a balance is looked for.
LOOKED_AT = 24


def first_reached(content: dict[str, Any]) -> int | None:
    """The payment with which an unrounded loan comes to its balance."""
    deal = Deal(content)
    deal.rounds = False
    owed, balance = deal.lent(), Fraction(content["balance"])
    falls = owed > balance
    follows = 0
    for clause in content["clauses"]:
        if "advance" in clause:
            number = deal.number_of(clause["at"])
            between = isinstance(clause["at"], str) and deal.day_of(number) != deal.day_of(
                clause["at"]
            )
            follows = max(follows, number - (deal.advance and between))
    was_past = False
    for number in range(1, deal.count + 1):
        owed = deal.happens(number, owed).closing
        is_past = owed <= balance if falls else owed >= balance
        if is_past and not (falls and number < follows):
            return None if was_past else number
        was_past = is_past
    return None


class AgainstTheContract(TestCase):
    def test_random_documents(self) -> None:
        answered = dict.fromkeys(("payment", "principal", "balance", "rate", "clauses"), 0)
        for seed in range(DRAWN):
            drawn = Draw(seed)
            with self.subTest(seed=seed, document=drawn.having("?")):
                try:
                    answer = loans.solve(loans.check(drawn.having("?")))
                except loans.NotALoan:
                    continue
                if drawn.asked == "rate":
                    answered["rate"] += self.rate_holds(drawn, answer)
                else:
                    answered[drawn.path[0]] += self.amount_holds(drawn, answer)
        for asked, number in answered.items():
            self.assertGreater(number, DRAWN // 40, f"too few documents ask for the {asked}")

    def test_how_many_payments(self) -> None:
        """The first payment at which the balance is reached and, where it is paid down, no advance
        follows; then the schedule is that of a loan of so many."""
        answered = 0
        for seed in range(10**6, 10**6 + DRAWN // 8):
            drawn = Draw(seed)
            drawn.asked, drawn.path = "count", ("count",)
            if not drawn.count or not drawn.content["count"]:
                continue
            with self.subTest(seed=seed, document=drawn.having("?")):
                try:
                    answer = loans.solve(loans.check(drawn.having("?")))
                except loans.NotALoan:
                    continue
                answered += self.count_holds(drawn, answer)
        self.assertGreater(answered, DRAWN // 40)

    def count_holds(self, drawn: Draw, answer: loans.Answer) -> bool:
        reached = first_reached(drawn.having(LOOKED_AT))
        if answer.exact is None:
            if reached is not None:
                # Interest alone that is below zero cannot be paid.
                self.assertLess(Fraction(drawn.content["rate"]["percent"]), 0, answer.reason)
                self.assertIn("lies below zero", answer.reason or "")
            return False
        if Fraction(answer.exact) > LOOKED_AT:
            self.assertIsNone(reached)
            return False
        self.assertEqual(ceil(Fraction(answer.exact)), reached)
        if not answer.schedule:
            return False
        self.rows_agree(drawn, drawn.having(len(answer.schedule)), answer)
        return True

    def amount_holds(self, drawn: Draw, answer: loans.Answer) -> bool:
        exact = exact_of(drawn)
        if answer.exact is None:
            # None, or below nothing, by the contract's own arithmetic, too.
            if exact is not None:
                self.assertLess(exact, 0, answer.reason)
            return False
        assert exact is not None
        told = Fraction(answer.exact)
        size = max(abs(exact), Fraction(1))
        self.assertLess(abs(told - exact) / size, Fraction(1, 10**25), (answer.exact, float(exact)))
        if not answer.schedule:
            return False
        rounding = drawn.content.get("rounding", {})
        step = Fraction(rounding.get("to", "0.01")) if drawn.asked == "payment" else CENT
        is_up = rounding.get("payment") == "up" and drawn.asked == "payment"
        paid = (up if is_up else nearest)(exact, step)
        self.rows_agree(drawn, drawn.having(str(float(paid))), answer)
        return True

    def rate_holds(self, drawn: Draw, answer: loans.Answer) -> bool:
        for solution in answer.solutions:
            deal = Deal(drawn.having(solution))
            slightly = Deal(drawn.having(str(Fraction(solution) + Fraction(1, 10**12))))
            gap = deal.roll() - Fraction(drawn.content["balance"])
            slope = abs(slightly.roll() - deal.roll())
            self.assertLess(abs(gap), slope + Fraction(1, 10**9), (solution, float(gap)))
        if answer.value is None or not answer.schedule:
            return False
        self.rows_agree(drawn, drawn.having(answer.value), answer)
        return True

    def rows_agree(self, drawn: Draw, content: dict[str, Any], answer: loans.Answer) -> None:
        deal = Deal(content)
        last = deal.count
        asked = drawn.asked
        own = asked in ("repay", "advance", "fee") and deal.holds(
            drawn.content["clauses"][drawn.path[1]], last
        )
        if own:
            clause = drawn.content["clauses"][drawn.path[1]]
            own = not any(deal.holds(clause, number) for number in range(last))
        elif not last and asked == "advance":
            place = drawn.content["clauses"][drawn.path[1]]["at"]
            own = all(
                deal.day_of(place) > deal.day_of(each.get("to", each.get("at", 0)))
                for number, each in enumerate(drawn.content["clauses"])
                if number != drawn.path[1]
            )
        if asked not in ("rate", "balance"):
            asked = asked if own or asked == "count" else "payment"
        # How many payments is asked: then the last one is smaller, whatever falls on it.
        pauses = bool(last) and deal.ruling("pay", last) is not None and not own
        pauses = pauses and asked != "count"
        expected = deal.rows(asked, pauses=pauses)
        told = [
            (
                row["number"],
                row["date"],
                *(Fraction(row[name]) for name in NAMES),
                *(Fraction(str(row.get(name, 0))) for name in ("advance", "repay", "fee")),
            )
            for row in answer.schedule
        ]
        wanted = [
            (
                row.number,
                row.date.isoformat() if row.date else None,
                *(getattr(row, name) for name in (*NAMES, "advance", "repay", "fee")),
            )
            for row in expected
        ]
        for ours, theirs in zip(told, wanted, strict=False):
            shown = [
                [
                    str(Decimal(float(x)).quantize(Decimal("0.001")))
                    if isinstance(x, Fraction)
                    else x
                    for x in each
                ]
                for each in (ours, theirs)
            ]
            self.assertEqual(ours, theirs, shown)
        self.assertEqual(len(told), len(wanted))
