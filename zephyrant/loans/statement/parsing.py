"""What people type, understood: `48,250`, `48k`, `6 3/8`, `5y6m`, and told back in one form.

Which mark is the decimal one is the reader's setting; an entry that could be read two ways is read
by that setting, says how it was read and offers the other reading.
"""

import re
import unicodedata
from collections.abc import Callable
from decimal import Decimal
from fractions import Fraction
from typing import Final, NamedTuple

from pydantic import BaseModel, ConfigDict

from zephyrant.texts import worded

from ..document.fields import UNKNOWN
from ..errors import NotALoan
from ..numbers.decimals import plain, precise
from ..wording.marks import Marks, grouped_by

MOST_CHARACTERS: Final = 80
PLACES: Final = 30
FRACTION_PLACES: Final = 12
#: Words after a number, and the power of ten by which they take it.
TIMES: Final = {
    **{"k": 3, "thousand": 3, "m": 6, "mn": 6, "million": 6},
    **{"lakhs": 5, "lakh": 5, "crores": 7, "crore": 7},
}


class Reading(BaseModel):
    """How one entry was understood.

    `value` as the document holds it, `text` in the reader's marks; `note` where more is to be
    said; `other` the text of the other reading, where there are two; `error` where there is none.
    """

    model_config = ConfigDict(frozen=True, defer_build=True)

    value: str | None = None
    text: str | None = None
    note: str | None = None
    other: str | None = None
    error: str | None = None

    def at(self, field: str) -> str:
        """What was read; raises `NotALoan` at a field where it could not be."""
        if self.value is None:
            raise NotALoan.at(field, self.error or worded("This cannot be read."))
        return self.value

    def stated_at(self, field: str, otherwise: str) -> str:
        """The same of what cannot be asked for; `otherwise` is said where it is not stated."""
        if self.error is None and (self.value is None or UNKNOWN in self.value):
            raise NotALoan.at(field, otherwise)
        return self.at(field)


class Unreadable(Exception):  # noqa: N818
    """An entry that cannot be read; its text is the sentence for the field."""


class TypedNumber(NamedTuple):
    """A number as read, and the other one it might be by other marks."""

    value: Decimal
    other: Decimal | None = None


def tidy(typed: str) -> str:
    """What was typed in plain characters, lower case, one space at a time, without marks between
    thousands."""
    spaced = re.sub(r"(?<=\d)(?=[¼-¾⅐-⅞])", " ", typed)
    text = " ".join(unicodedata.normalize("NFKC", spaced).lower().split())
    text = text.replace("⁄", "/").replace("−", "-").replace("–", "-")
    return re.sub(r"(?<=\d)['’_ ](?=\d{3}(\D|$))", "", text)


def without(text: str, *endings: str) -> tuple[str, str]:
    """A text without the first of these endings that it has, and that ending."""
    for ending in endings:
        if text.endswith(ending):
            return text.removesuffix(ending).rstrip(), ending
    return text, ""


def _fraction(text: str) -> Decimal | None:
    found = re.fullmatch(r"(?:(\d{1,12})[ -]+)?(\d{1,9}) ?/ ?(\d{1,9})", text)
    if not found or not int(found[3]):
        return None
    value = int(found[1] or 0) + Fraction(int(found[2]), int(found[3]))
    with precise():
        return round(Decimal(value.numerator) / value.denominator, FRACTION_PLACES)


def _plain_number(text: str, marks: Marks, *, may_group: bool) -> TypedNumber | None:
    """Digits with at most commas and points; `may_group`: three digits after one mark group."""
    if not re.fullmatch(r"[\d.,]+", text, re.ASCII) or not text.strip(".,"):
        return None
    kinds = [mark for mark in ",." if mark in text]
    if not kinds:
        return TypedNumber(Decimal(text))
    if len(kinds) == 2:
        return _with_both_marks(text)
    return _with_one_mark(text, kinds[0], marks, may_group=may_group)


def _grouped(mark: str) -> str:
    return grouped_by(re.escape(mark), pairs=True)


def _with_both_marks(text: str) -> TypedNumber | None:
    """The mark that comes last is the decimal one; the other groups, whoever's marks they are."""
    group, decimal_mark = sorted(",.", key=text.rfind)
    whole, _, part = text.partition(decimal_mark)
    if decimal_mark in part or not re.fullmatch(_grouped(group), whole):
        return None
    return TypedNumber(Decimal(f"{whole.replace(group, '')}.{part or '0'}"))


def _with_one_mark(text: str, mark: str, marks: Marks, *, may_group: bool) -> TypedNumber | None:
    if text.count(mark) > 1:
        grouped = re.fullmatch(_grouped(mark), text)
        return TypedNumber(Decimal(text.replace(mark, ""))) if grouped else None
    whole, _, part = text.partition(mark)
    as_decimal = Decimal(f"{whole or '0'}.{part or '0'}")
    joined = Decimal(whole + part)
    looks_grouped = may_group and len(part) == 3 and 1 <= len(whole) <= 3 and whole[0] != "0"
    if mark != marks.group:
        return TypedNumber(as_decimal, joined if looks_grouped else None)
    if looks_grouped:
        return TypedNumber(joined)
    return TypedNumber(as_decimal, joined if part and whole.strip("0") else None)


def read_number(text: str, marks: Marks, *, may_group: bool = True) -> TypedNumber | None:
    """A number in the reader's marks, in figures, fractions or thousands; None where it is none."""
    sign = 1
    if text.startswith("(") and text.endswith(")"):
        sign, text = -1, text[1:-1].strip()
    elif text[:1] in ("-", "+"):
        sign, text = (-1 if text[0] == "-" else 1), text[1:].strip()
    body, ending = without(text, *TIMES)
    times = TIMES.get(ending, 0)
    fraction = _fraction(body)
    number = TypedNumber(fraction) if fraction is not None else None
    number = number or _plain_number(body, marks, may_group=may_group)
    if number is None:
        return None
    with precise(100):
        other = None if number.other is None else number.other.scaleb(times) * sign
        return TypedNumber(number.value.scaleb(times) * sign, other)


def quote_typed(typed: str) -> str:
    """What was typed as it stands in a sentence about it."""
    text = typed.strip()
    return f"“{text[:40]}…”" if len(text) > 40 else f"“{text}”"


def reading_of(number: TypedNumber, tell: Callable[[Decimal], str]) -> Reading:
    """A number as it was read, with the other one it might be."""
    text = tell(number.value)
    other = None if number.other is None else tell(number.other)
    note = worded("Read as {text}.", text=text) if other else None
    return Reading(value=plain(number.value), text=text, note=note, other=other)


def read_typed(typed: str, what: str, example: str, reader: Callable[[str], Reading]) -> Reading:
    """An entry read by `reader`; `?`, an empty one and nonsense are told in sentences."""
    text = tidy(typed)
    if text == UNKNOWN:
        return Reading(value=UNKNOWN, text=UNKNOWN)
    if not text:
        return Reading(
            error=worded("Nothing is stated here. Write {what}, or ? to have it found.", what=what)
        )
    if len(text) > MOST_CHARACTERS:
        return Reading(error=worded("This is too long to be {what}.", what=what))
    try:
        return reader(text)
    except Unreadable as error:
        return Reading(error=str(error))
    except ValueError:
        return Reading(
            error=worded(
                "{typed} is not {what}. Write it as {example}.",
                typed=quote_typed(typed),
                what=what,
                example=example,
            )
        )
