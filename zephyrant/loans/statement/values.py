"""Values of a figure to try, as typed and as suggested."""

import re
from decimal import Decimal
from string import ascii_lowercase
from typing import Final

from zephyrant.texts import worded

from ..calendars import frequencies
from ..document.fields import UNKNOWN
from ..document.figure_path import FigurePath
from ..wording.marks import MARKS, Marks, Number, Sentence
from .parsing import PLACES, tidy
from .statement import Statement
from .typed_amounts import read_amount, read_percent
from .typed_times import read_count

#: What stands before how far on both sides of a figure its values lie.
_AROUND: Final = re.compile(r"(?:±|\+ ?/ ?[-−]|\+ ?[-−])\s*(?P<far>.+?) by (?P<step>.+)")


def read_values(
    typed: str,
    path: FigurePath,
    statement: Statement,
    most: int,
    standing: Decimal | None = None,
) -> tuple[Decimal, ...]:
    """Values of a figure to try: "5.5 to 7 by 1/8", "3 to 7 years by 1 year", "6; 6.35; 7", and
    around the one that stands "±0.75 by 1/8".

    Raises `ValueError` with a sentence where that cannot be read or is more than `most`.
    """
    marks = MARKS[statement.marks]

    def one(text: str) -> Decimal:
        if path.is_percent:
            reading = read_percent(text, marks)
        elif path.kind == "count":
            reading = read_count(text, marks, statement.every)
        else:
            reading = read_amount(text, marks, statement.currency)
        if reading.value is None or reading.value == UNKNOWN:
            raise ValueError(reading.error or worded("A value to try is a number."))
        return Decimal(reading.value)

    around = _AROUND.fullmatch(tidy(typed))
    if around is not None and standing is not None:
        far, by = one(around["far"]), one(around["step"])
        if far < 0 or by <= 0:
            raise ValueError(worded("Write it as ±0.75 by 0.125: how far on both sides, in steps."))
        each = int(far / by)
        _refuse_many(2 * each + 1, most, marks)
        return tuple(standing + by * step for step in range(-each, each + 1))
    first, _, rest = tidy(typed).partition(" to ")
    last, _, step = rest.partition(" by ")
    if not (first and last and step):
        parts = [part for part in re.split(r";|, | and ", " ".join(typed.split())) if part.strip()]
        _refuse_many(len(parts), most, marks)
        return tuple(one(part) for part in _in_the_last_unit(parts, path))
    unit = last[len(last.rstrip(ascii_lowercase)) :]
    if path.kind == "count" and first.isdecimal():
        first = f"{first} {unit}"
    begin, end, by = one(first), one(last), one(step)
    if by <= 0 or end < begin:
        raise ValueError(
            worded("Write it as 5.5 to 7 by 0.125: from the least to the most, in steps.")
        )
    many = int((end - begin) / by) + 1
    _refuse_many(many, most, marks)
    return tuple(begin + by * step for step in range(many))


def _refuse_many(many: int, most: int, marks: Marks) -> None:
    if many > most:
        text = worded("That is {many} values: at most {most} are worked at once.")
        raise ValueError(Sentence(text, many=Number(many), most=Number(most)).say(marks))


def _in_the_last_unit(parts: list[str], path: FigurePath) -> list[str]:
    """A term's unit said once, at the end, is that of all: "6, 8, 10 years"."""
    unit = re.search(r"\d\s*([a-z]+)\s*$", parts[-1].lower()) if parts else None
    if path.kind != "count" or unit is None:
        return parts
    return [f"{part.strip()} {unit[1]}" if part.strip().isdecimal() else part for part in parts]


def suggested_values(path: FigurePath, standing: Decimal, statement: Statement) -> str:
    """Values around the one that stands, as one would type them."""
    marks, each = MARKS[statement.marks], Decimal(1)
    if path.is_rate:
        each = Decimal("0.125")
    elif path.kind == "count":
        each = Decimal(frequencies.a_year(statement.every))
    elif not path.is_percent and standing > 0:
        each = Decimal(1).scaleb((standing / 10).adjusted())
    below = min(4, int((standing - (1 if path.kind == "count" else 0)) / each))
    least = standing - max(0, below) * each

    def text(value: Decimal) -> str:
        return marks.number(value, PLACES)

    return f"{text(least)} to {text(standing + 4 * each)} by {text(each)}"
