"""The figures of a line read: by the readers of what people type, in the marks the line shows."""

import re
from dataclasses import dataclass
from decimal import Decimal
from typing import Any, Final, NamedTuple

from zephyrant.texts import worded

from ..calendars import frequencies
from ..document.fields import UNKNOWN
from ..numbers.decimals import plain, precise
from ..statement.parsing import Reading
from ..statement.typed_amounts import read_amount, read_payment, read_percent
from ..statement.typed_bounds import read_ratio
from ..statement.typed_parts import read_percents
from ..statement.typed_times import read_count, read_date
from ..wording.marks import MARKS, Marks
from .phrase import Fact
from .slots import ADVERB, EACH, FIGURES, currency_in, day_in, frequency, in_figures


class Unsaid(Exception):  # noqa: N818
    """What cannot be read; its text is the sentence."""


class Value(NamedTuple):
    """A figure as the document holds it, and whether that is a guess."""

    value: str
    guess: bool = False


def marks_shown(text: str, usual: Marks) -> Marks:
    """The marks a line is written in: where a number in it shows which mark is the decimal one,
    that one. A comma before three digits groups, unless a number shows it to be the decimal one;
    else the reader's marks hold; plain ones, which files have, group nothing: whoever says a line
    may."""
    if not usual.group:
        usual = MARKS["comma-point"]
    shown, groups = set(), set()
    for number in re.findall(FIGURES, text):
        mark = re.search(r"([.,])([0-9]+)$", number)
        if not mark or "/" in number:
            continue
        both = "," in number and "." in number
        if both or (number.count(mark[1]) == 1 and len(mark[2]) != 3):
            shown.add(mark[1])
        else:
            groups.add(mark[1])
    decimal = min(shown) if len(shown) == 1 else None
    if decimal is None and groups == {","}:
        decimal = "."
    if decimal in (None, usual.decimal):
        return usual
    return MARKS["point-comma" if decimal == "," else "comma-point"]


@dataclass(frozen=True)
class Figures:
    """How the figures of one line are read: its marks, its currency, how often it is paid."""

    marks: Marks
    currency: str
    every: frequencies.Frequency = "month"

    def amount(self, said: str) -> Value:
        """Money; raises `Unsaid`."""
        text, _, _ = currency_in(said)
        return _value(read_amount(text, self.marks, self.currency))

    def percent(self, said: str) -> Value:
        """A percentage; raises `Unsaid`."""
        text = re.sub(r"per cent", "percent", said, flags=re.IGNORECASE)
        return _value(read_percent(text, self.marks))

    def either(self, said: str) -> tuple[Value, bool]:
        """An amount or a percentage, and whether it is the latter."""
        in_percent = said.rstrip()[-1:] == "%" or bool(re.search(r"[0-9?]\s?(?:p|bp|basis)", said))
        return (self.percent(said) if in_percent else self.amount(said)), in_percent

    def count(self, said: str) -> Value:
        """A number of payments, or the time they take; raises `Unsaid`."""
        return _value(read_count(in_figures(said), self.marks, self.every))

    def percents(self, said: str) -> list[str]:
        """Parts in percent; raises `Unsaid`."""
        return _value(read_percents(said, self.marks)).value.split()

    def ratio(self, said: str) -> Value:
        """How many times a cash flow is the payments; raises `Unsaid`."""
        return _value(read_ratio(said, self.marks))

    def counted(self, time: str) -> int:
        """How many payments a time is."""
        return int(self.count(time).value)

    def income(self, said: str) -> Value:
        """What of an income can be carried; raises `Unsaid`."""
        return _value(read_payment(said, self.marks, self.currency, self.every))

    def day(self, said: str) -> Value:
        """A day; one that could be two is refused. Raises `Unsaid`."""
        reading = read_date(day_in(said))
        if reading.other:
            raise Unsaid(
                worded(
                    "“{said}” could be {text} or {other}: say the month, such as {text}.",
                    said=day_in(said),
                    text=reading.text,
                    other=reading.other,
                )
            )
        return Value(_value(reading).value)

    def quote(self, fact: Fact) -> tuple[dict[str, Any], bool]:
        """A rate with how it is meant, as a document has it; and whether the compounding is a
        guess. Raises `Unsaid`."""
        percent = UNKNOWN if fact.said.startswith(UNKNOWN) else self.percent(fact.said).value
        quote: dict[str, Any] = {"percent": percent}
        modes = f"{fact.more.get('before', '')} {fact.more.get('modes', '')}".lower()
        for word in _QUOTED:
            if re.search(rf"\b{word}\b", modes):
                quote["quoted"] = word
        compounded = re.search(
            rf"compound(?:ed|ing)\s(continuously|{EACH}|{ADVERB})", modes, re.IGNORECASE
        )
        if compounded:
            said = compounded[1]
            quote["compounding"] = "continuous" if said == "continuously" else frequency(said)
            modes = modes.replace(compounded[0], " ")
        adverb = re.search(ADVERB, str(fact.more.get("modes", "")), re.IGNORECASE)
        if adverb and not compounded and "quoted" not in quote:
            return {**quote, "compounding": frequency(adverb[0])}, True
        each = re.search(EACH, modes, re.IGNORECASE) or re.search(
            ADVERB, str(fact.more.get("before", "")), re.IGNORECASE
        )
        per = frequency(each[0]) if each else "year"
        if per != "year":
            quote.update(self._each_period(percent, per))
        return quote, False

    def _each_period(self, percent: str, per: frequencies.Frequency) -> dict[str, Any]:
        """A rate for a period that is no year."""
        if per == self.every:
            return {"quoted": "periodic"}
        nominal = {"quoted": "nominal", "compounding": per}
        if percent == UNKNOWN:
            return nominal
        with precise():
            return {**nominal, "percent": plain(Decimal(percent) * frequencies.a_year(per))}


_QUOTED: Final = ("nominal", "effective", "continuous", "flat")


def _value(reading: Reading) -> Value:
    if reading.value is None:
        raise Unsaid(reading.error or worded("Nothing is stated here."))
    return Value(reading.value, reading.other is not None)
