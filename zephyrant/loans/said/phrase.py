"""A phrase: words with slots for figures, and what it says of a loan."""

import dataclasses
import re
from collections.abc import Callable, Iterable
from dataclasses import dataclass
from typing import Any, Final

from .places import PLACE, STRETCH
from .slots import (
    ADVERB,
    AMOUNT,
    CURRENCY,
    DAY,
    EACH,
    INTEGER,
    OFTEN,
    PER,
    PERCENT,
    TERM,
    TERM_AFTER,
)

#: How a rate is meant, said after it.
_MODES: Final = (
    r"(?:(?:\s|,\s)(?:nominal|effective|continuous|flat"
    r"|interest(?!\s(?:only|alone|shared|added))|fixed)\b"
    rf"|(?:\s|,\s)(?:compounded|compounding)\s(?:{PER}|continuously)"
    rf"|\s?{EACH}|\s{ADVERB}(?!\s(?:payments?|instal?lments?)\b)){{0,4}}"
)
#: A place belongs to the clause after it where one begins there.
_NO_CLAUSE: Final = (
    r"(?!\s(?:repay|advance|pays?\b|paying|nothing|interest\sonly|only|grow|the\spayment|extra))"
)
_LESS: Final = r"\s?(?:-|−|less)\s?"
_SLOTS: Final = {
    "amount": AMOUNT,
    "percent": PERCENT,
    "figure": rf"(?:{PERCENT}|{AMOUNT})",
    "integer": INTEGER,
    "many": rf"(?:{INTEGER}|\?)",
    "term": TERM,
    "time": TERM_AFTER,
    "per": PER,
    "often": OFTEN,
    "day": DAY,
    "currency": CURRENCY,
    "modes": _MODES,
    "income": rf"(?:{PERCENT}\sof\s{AMOUNT}(?:{_LESS}{AMOUNT}){{0,3}}"
    rf"|(?!{DAY}){AMOUNT}(?:{_LESS}{AMOUNT}(?!\s?%)){{1,3}})(?:\s(?:a|per|each)\s(?:month|year|quarter|week)\b)?",
}


@dataclass(frozen=True)
class Fact:
    """One thing said of a loan: the field it speaks of, the text of its figure, where in the line
    it stands; `more` holds what else is said of it."""

    field: str
    said: str
    begin: int
    end: int
    guess: bool = False
    more: dict[str, Any] = dataclasses.field(default_factory=dict)


@dataclass(frozen=True)
class Found:
    """A phrase found in a line: its words, and of a clause where it stands and whether the payment
    is set anew."""

    match: re.Match[str]
    begin: int
    end: int
    place: str = ""
    levels: bool = False

    def __getitem__(self, slot: str) -> str:
        """The text in a slot; empty where it is not there."""
        groups = self.match.groupdict()
        return (groups.get(slot) or groups.get(f"{slot}_") or "").strip()

    def fact(self, field: str, said: str = "", *, guess: bool = False, **more: Any) -> Fact:  # noqa: ANN401
        """What it says of a field."""
        return Fact(field, said, self.begin, self.end, guess, more)


Says = Callable[[Found], Iterable[Fact]]

_PLACE: Final = re.compile(PLACE, re.IGNORECASE)
_STRETCH: Final = re.compile(STRETCH, re.IGNORECASE)
_BEFORE: Final = re.compile(r"(?:,|:)?\s")
_AFTER: Final = re.compile(rf"\s(?P<place>{PLACE}){_NO_CLAUSE}", re.IGNORECASE)
_AFTER_STRETCH: Final = re.compile(rf"\s(?P<place>{STRETCH}){_NO_CLAUSE}", re.IGNORECASE)
_LEVEL: Final = re.compile(
    r"(?:,?\sand)?\s(?:re-?level(?:led|ling)?|(?:the\s)?payment\s(?:is\s)?set\sanew)(?![a-z])",
    re.IGNORECASE,
)


@dataclass(frozen=True)
class Phrase:
    """A pattern with slots in braces, and what is said where it is found."""

    pattern: re.Pattern[str]
    says: Says

    def find(self, text: str, at: int) -> Found | None:
        """The phrase where it begins at a character of the text."""
        match = self.pattern.match(text, at)
        return Found(match, at, match.end()) if match and match.end() > at else None


@dataclass(frozen=True)
class ClausePhrase:
    """What a clause does, said after its place, before it or, unless it needs one, without."""

    pattern: re.Pattern[str]
    says: Says
    needs_place: bool = True
    is_stretch: bool = False

    def find(self, text: str, at: int) -> Found | None:
        """The clause, with its place, where it begins at a character of the text."""
        place = (_STRETCH if self.is_stretch else _PLACE).match(text, at)
        parted = place and _BEFORE.match(text, place.end())
        match = parted and self.pattern.match(text, parted.end())
        if place and match:
            return self._levelled(match, at, match.end(), place[0], text)
        match = self.pattern.match(text, at)
        if not match or match.end() == at:
            return None
        after = (_AFTER_STRETCH if self.is_stretch else _AFTER).match(text, match.end())
        if after:
            return self._levelled(match, at, after.end(), after["place"], text)
        return None if self.needs_place else self._levelled(match, at, match.end(), "", text)

    @staticmethod
    def _levelled(match: re.Match[str], at: int, end: int, place: str, text: str) -> Found:
        level = _LEVEL.match(text, end)
        return Found(match, at, level.end() if level else end, place, level is not None)


def _compiled(words: str) -> re.Pattern[str]:
    text = words.replace(" ", r"\s")
    for name, slot in _SLOTS.items():
        text = text.replace(f"{{{name}}}", f"(?P<{name}>{slot})")
        text = text.replace(f"{{{name}_}}", f"(?P<{name}_>{slot})")
    return re.compile(rf"(?:{text})(?:(?<=[^a-z0-9])|(?![a-z0-9]))", re.IGNORECASE)


def phrase(words: str, says: Says) -> Phrase:
    """A phrase of words and slots: `{amount}` stands for a figure, a blank for any space; a slot
    that may stand twice is `{amount_}` the second time."""
    return Phrase(_compiled(words), says)


def clause(
    words: str, says: Says, *, needs_place: bool = True, is_stretch: bool = False
) -> ClausePhrase:
    """A clause in words and slots, as `phrase` has them."""
    return ClausePhrase(_compiled(words), says, needs_place, is_stretch)
