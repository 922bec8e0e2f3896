"""Numbers inside sentences, in the marks the reader uses."""

import re
from decimal import ROUND_HALF_UP, Decimal
from functools import cache
from typing import Final, Literal, NamedTuple

from zephyrant.texts import worded

from ..numbers.decimals import context, plain

#: Powers of ten beyond which a number is written with one.
_MOST_WRITTEN: Final = 24


#: Digits wide enough for any number that is written out.
_WIDE: Final = 80


@cache
def _step(places: int) -> Decimal:
    """One of the last place of so many."""
    return Decimal(1).scaleb(-places)


class Marks(NamedTuple):
    """How digits are grouped and which mark is the decimal one; `pairs`: before the last three they
    stand in twos, as in India (48,25,000)."""

    group: str
    decimal: str
    minus: str = "−"
    pairs: bool = False

    def write(self, text: str) -> str:
        """A plain decimal string ("48250.00") in these marks ("48,250.00"); nothing stays that."""
        if not text:
            return ""
        sign, digits = (self.minus, text[1:]) if text.startswith("-") else ("", text)
        whole, _, part = digits.partition(".")
        return sign + self._grouped(whole) + (self.decimal + part if part else "")

    def _grouped(self, whole: str) -> str:
        if not self.group:
            return whole
        if not self.pairs:
            return f"{int(whole):,}".replace(",", self.group)
        head, last = whole[:-3], whole[-3:]
        twos = [head[max(0, at - 2) : at] for at in range(len(head), 0, -2)]
        return self.group.join([*reversed(twos), last])

    def grouping(self) -> str:
        """What whole numbers match that are grouped, as a regular expression; the mark is escaped.
        Of digits in twos those in threes are grouped, too."""
        return grouped_by(re.escape(self.group), pairs=self.pairs)

    def amount(self, value: Decimal, decimals: int) -> str:
        """Money rounded to the currency's decimals."""
        return self.number(value, decimals, decimals)

    def number(self, value: Decimal, places: int, least_places: int = 0) -> str:
        """A number rounded to `places` decimals, needless zeros dropped down to `least_places`."""
        if value.adjusted() > _MOST_WRITTEN:
            power = value.adjusted()
            return f"{self.number(value.scaleb(-power), 6)} × 10^{power}"
        rounded = value.quantize(_step(places), ROUND_HALF_UP, context(_WIDE))
        return self.write(plain(rounded, least_places))

    def percent(self, value: Decimal, places: int = 4, least_places: int = 2) -> str:
        """A percentage with its sign: "6.35 %"."""
        return f"{self.number(value, places, least_places)} %"


def grouped_by(group: str, *, pairs: bool) -> str:
    """A regular expression of whole numbers of several groups."""
    threes = rf"\d{{1,3}}(?:{group}\d{{3}})+"
    twos = rf"\d{{1,2}}(?:{group}\d{{2}})+{group}\d{{3}}"
    return rf"(?:{threes}|{twos})" if pairs else threes


MarksName = Literal[
    "plain", "comma-point", "point-comma", "space-comma", "apostrophe-point", "pairs-point"
]

#: The marks on offer; `plain` is what files and the command speak.
MARKS: Final[dict[MarksName, Marks]] = {
    "plain": Marks("", ".", "-"),
    "comma-point": Marks(",", "."),
    "point-comma": Marks(".", ","),
    "space-comma": Marks("\N{NO-BREAK SPACE}", ","),
    "apostrophe-point": Marks("’", "."),
    "pairs-point": Marks(",", ".", pairs=True),
}
PLAIN: Final = MARKS["plain"]


class Money(NamedTuple):
    """An amount in a sentence, with the decimals of its currency."""

    value: Decimal
    decimals: int

    def say(self, marks: Marks) -> str:
        """As it stands in the sentence."""
        return marks.amount(self.value, self.decimals)


class Percent(NamedTuple):
    """A percentage in a sentence."""

    value: Decimal
    places: int = 4
    least_places: int = 4

    def say(self, marks: Marks) -> str:
        """As it stands in the sentence."""
        return marks.percent(self.value, self.places, self.least_places)


class Number(NamedTuple):
    """A count or a bare number in a sentence."""

    value: Decimal | int
    places: int = 0
    least_places: int = 0

    def say(self, marks: Marks) -> str:
        """As it stands in the sentence."""
        return marks.number(Decimal(self.value), self.places, self.least_places)


class Sentence:
    """A sentence with figures in it, in the language of whoever reads it, said in their marks."""

    def __init__(self, text: str, **figures: "Money | Percent | Number | Sentence | str") -> None:
        self.text = worded(text)
        self.figures = figures

    def say(self, marks: Marks = PLAIN) -> str:
        """The sentence with its figures written out."""
        spoken = {
            name: figure if isinstance(figure, str) else figure.say(marks)
            for name, figure in self.figures.items()
        }
        return self.text.format(**spoken)
