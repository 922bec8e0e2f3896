"""A line read phrase by phrase: the longest that fits stands, what none fits is told."""

import re
from typing import Final, NamedTuple

from .asked import ASKED
from .bounds import BOUNDS
from .clauses import CLAUSES
from .days import BUSINESS_DAYS
from .phrase import ClausePhrase, Fact, Found, Phrase, Says
from .repaid import REPAID
from .short import SHORT
from .slots import stand_ins
from .terms import TERMS

MOST_CHARACTERS: Final = 2_000
_BETWEEN: Final = re.compile(r"[\s,;:.()|–-]+")
#: Words that join phrases and say nothing of their own.
_JOINING: Final = frozenset(
    (
        *("a", "an", "the", "and", "also", "but", "then", "with", "of", "on", "to", "for", "is"),
        *("are", "it", "its", "we", "that", "which", "this", "as", "by", "in", "at", "please"),
        *(
            "loan",
            "credit",
            "except",
            "there",
            "them",
            "so",
            "us",
            "our",
            "about",
            "per",
            "each",
            "what",
        ),
    )
)
_SAME: Final = {"−": "-", "‑": "-", "@": " at "}


#: Of those that are as long the first stands.
_PHRASES: Final[tuple[Phrase | ClausePhrase, ...]] = (
    *(*CLAUSES, *ASKED, *REPAID, *BOUNDS, *BUSINESS_DAYS, *SHORT, *TERMS),
)


class Unread(NamedTuple):
    """Words that no phrase fits, and where they stand."""

    text: str
    begin: int
    end: int


def plainly(line: str) -> tuple[str, list[int]]:
    """The line with one blank at a time and its own lines parted by `;`, and where in the line each
    of its characters stood."""
    text: list[str] = []
    places: list[int] = []
    stood = {begin: (end, stand_in) for begin, end, stand_in in stand_ins(line)}
    at = 0
    while at < len(line):
        end, plain = stood.get(at, (at + 1, line[at]))
        if end == at + 1:
            plain = ";" if plain in "\r\n" else " " if plain.isspace() else _SAME.get(plain, plain)
        if text[-1:] in ([], [" "]):
            plain = plain.lstrip(" ")
        if plain:
            text.extend(plain)
            places.extend([at] * len(plain))
        at = end
    return "".join(text), [*places, len(line)]


def scan(text: str) -> tuple[list[Fact], list[Unread]]:
    """What a plain line says, in its order, and what in it is not understood."""
    facts: list[Fact] = []
    unread: list[Unread] = []
    at = 0
    while at < len(text):
        at = _begins(text, at)
        if at >= len(text):
            break
        found = _longest(text, at)
        if found is not None:
            facts.extend(found[0])
            at = found[1]
            continue
        word = re.compile(r"[^\s,;:()]+").match(text, at)
        end = word.end() if word else at + 1
        if text[at:end].lower().strip(".!") not in _JOINING:
            unread.append(Unread(text[at:end], at, end))
        at = end
    return facts, _joined(unread, text)


def _begins(text: str, at: int) -> int:
    """Where the next phrase begins: a mark or a sign before a number belongs to it."""
    between = _BETWEEN.match(text, at)
    if between is None:
        return at
    end = between.end()
    before = text[end - 2 : end - 1]
    is_of_number = (
        text[end - 1] in "-.,"
        and text[end : end + 1].isdecimal()
        and (end - 1 == at or before.isspace())
    )
    return end - 1 if is_of_number else end


def _longest(text: str, at: int) -> tuple[list[Fact], int] | None:
    best: tuple[Found, Says] | None = None
    for each in _PHRASES:
        found = each.find(text, at)
        if found and (best is None or found.end > best[0].end):
            best = found, each.says
    return None if best is None else (list(best[1](best[0])), best[0].end)


def _joined(unread: list[Unread], text: str) -> list[Unread]:
    """Words beside each other as one."""
    joined: list[Unread] = []
    for each in unread:
        begin = each.begin
        if joined and not text[joined[-1].end : begin].strip():
            begin = joined.pop().begin
        joined.append(Unread(text[begin : each.end], begin, each.end))
    return joined
