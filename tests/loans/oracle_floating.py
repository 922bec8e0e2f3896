"""Floating rates once more from the contract: which rate a period has, looked up fixing by
fixing."""

from datetime import date, timedelta
from fractions import Fraction
from typing import Any

from .documents import PERIODS
from .oracle import Deal


class FloatingDeal(Deal):
    """A document whose rate may follow an index; one that does not is as any."""

    def between(self) -> int:
        """Payment periods between two resets."""
        return self.often // PERIODS[self.content["rate"]["resets"]]

    def moment(self, at: Any) -> Any:
        return date.fromisoformat(at) if isinstance(at, str) else at

    def fixed_on(self, reset: int) -> Any:
        """When the rate of a reset, counted from 0, is fixed."""
        lag = self.content["rate"].get("lag_days", 0)
        before = reset * self.between()
        if self.start is None:
            return before - lag
        begins = self.due(before + 1 if self.advance else before)
        assert begins is not None
        return begins - timedelta(days=lag)

    def percent(self, reset: int) -> Fraction:
        """The rate from a reset on, as quoted."""
        quote = self.content["rate"]
        if reset == 0 and "first" in quote:
            return Fraction(quote["first"])
        index = self.content["indices"][quote["index"]]
        day, last = self.fixed_on(reset), self.moment(index["fixings"][-1][0])
        entries = list(index["fixings"])
        if index.get("ahead", "flat") != "flat":
            entries += [each for each in index["ahead"] if self.moment(each[0]) > last]
        known = [Fraction(value) for at, value in entries if self.moment(at) <= day]
        value = known[-1]
        if "shift" in index:
            begin = index["shift"].get("from")
            if (day > last) if begin is None else (day >= self.moment(begin)):
                value += Fraction(index["shift"]["percent"])
        margin = Fraction(quote["margin"])
        on_sum = quote.get("on") == "rate"
        value += margin if on_sum else 0
        if "floor" in quote:
            value = max(value, Fraction(quote["floor"]))
        if "cap" in quote:
            value = min(value, Fraction(quote["cap"]))
        return value + (0 if on_sum else margin)

    def rate_on(self, number: int, day: date | None) -> Fraction:
        if "index" not in self.content["rate"]:
            return super().rate_on(number, day)
        floating = self.content["rate"]
        percent = self.percent((max(1, number) - 1) // self.between())
        self.content = {**self.content, "rate": {"percent": str(percent)}}
        try:
            return super().rate_on(number, day)
        finally:
            self.content = {**self.content, "rate": floating}
