"""What the cells of a table say of how they are written, and what has to be asked, not guessed."""

import re
from collections.abc import Iterable, Iterator, Mapping, Sequence
from typing import Any, Final, Literal, cast

from pydantic import BaseModel, ConfigDict

from zephyrant.texts import worded

from ..calendars.days_in_words import read_days
from .columns import Defaults, FieldName
from .not_loans import aparts, stated

About = Literal["percent_as", "marks", "dates", "count_in", "apart"]


class Question(BaseModel):
    """What about a table cannot be told from its cells: `about` names the default that answers it.
    `sure`: whether the answer found among `choices` is the only one that fits."""

    model_config = ConfigDict(frozen=True, defer_build=True)

    field: FieldName
    about: About
    says: str
    choices: tuple[str, ...]


class Looked(BaseModel):
    """What a look at the cells of matched columns says: defaults that follow, questions left."""

    model_config = ConfigDict(frozen=True, defer_build=True)

    defaults: dict[str, Any]
    questions: tuple[Question, ...]


def look(columns: Mapping[FieldName, Sequence[str]], whole: Sequence[Sequence[str]] = ()) -> Looked:
    """What the cells of matched columns say of how they are written; the `whole` table, column by
    column, tells which rows are no loans."""
    defaults: dict[str, Any] = {}
    questions: list[Question] = []
    for answer in (_marks(columns), _percents(columns), _dates(columns), _set_apart(whole)):
        if isinstance(answer, Question):
            questions.append(answer)
        elif answer:
            defaults |= answer
    return Looked(defaults=defaults, questions=tuple(questions))


_NUMBERS: Final[tuple[FieldName, ...]] = ("principal", "percent", "payment", "balance")


def _cells(columns: Mapping[FieldName, Sequence[str]], *fields: FieldName) -> Iterator[str]:
    return (
        cell.strip().rstrip("% ")
        for field in fields
        for cell in columns.get(field, ())
        if stated(cell) not in ("", "?")
    )


def _mark_of(cell: str) -> str:
    """Which mark a number has as its decimal one: "point", "comma", "either", "" where none."""
    points, commas = cell.count("."), cell.count(",")
    if not points and not commas:
        return ""
    if points and commas:
        return "point" if cell.rfind(".") > cell.rfind(",") else "comma"
    mark, name, other = (".", "point", "comma") if points else (",", "comma", "point")
    if points + commas > 1:
        # A mark that stands there twice groups.
        return other
    whole, _, part = cell.partition(mark)
    groups = len(part) == 3 and 1 <= len(whole.lstrip("-")) <= 3 and whole.lstrip("-") != "0"
    return "either" if groups else name


def _marks(columns: Mapping[FieldName, Sequence[str]]) -> Question | dict[str, Any] | None:
    """The decimal mark: told by cells that can be read one way only."""
    seen = set()
    only_points = not any(
        "," in cell or cell.count(".") > 1 for name in _NUMBERS for cell in columns.get(name, ())
    )
    for mark in map(_mark_of, _cells(columns, *_NUMBERS)):
        seen.add(mark)
        if only_points and mark == "point":
            break
    point, comma, either = "point" in seen, "comma" in seen, "either" in seen
    if point and not comma:
        return {"marks": "comma-point"}
    if comma and not point:
        return {"marks": "point-comma"}
    if not (either or (point and comma)):
        return None
    says = (
        worded(
            "Some amounts have a decimal comma and some a decimal point: which is the decimal mark?"
        )
        if point and comma
        else worded("Amounts such as 1,234 can be read two ways: which is the decimal mark?")
    )
    return Question(
        field="principal", about="marks", says=says, choices=("comma-point", "point-comma")
    )


def _percents(columns: Mapping[FieldName, Sequence[str]]) -> Question | dict[str, Any] | None:
    """Whether 0.0635 is meant as 6.35 %: asked wherever a cell lies below 1 without its sign."""
    below = above = False
    for raw in columns.get("percent", ()):
        try:
            value = abs(float(raw.replace(",", ".")))
        except ValueError:
            # An empty cell, a ?, words, or a number with its sign.
            continue
        below |= 0 < value < 1
        above |= value >= 1
    if not below:
        return {"percent_as": "percent"} if above else None
    says = (
        worded(
            "Some rates are below 1 and some above, such as 0.0635 beside 6.35: are "
            "those below 1 parts of 1?"
        )
        if above
        else worded("All rates are below 1: is 0.0635 6.35 % or 0.0635 %?")
    )
    choices = ("part-below-one", "percent") if above else ("part", "percent")
    return Question(field="percent", about="percent_as", says=says, choices=choices)


def _dates(columns: Mapping[FieldName, Sequence[str]]) -> Question | dict[str, Any] | None:
    """Whether 3/4/2027 is in April or in March: told by days above 12, else asked."""
    open_ = day_first = month_first = False
    for cell in _cells(columns, "start", "first_payment"):
        numbers = re.fullmatch(r"(\d{1,2})/(\d{1,2})/\d{4}", cell)
        if not numbers or not read_days(cell):
            continue
        first, second = int(numbers[1]), int(numbers[2])
        day_first |= first > 12
        month_first |= second > 12
        open_ |= first <= 12 and second <= 12 and first != second
    if day_first != month_first:
        return {"dates": "day-first" if day_first else "month-first"}
    if not open_ and not (day_first and month_first):
        return None
    return Question(
        field="start",
        about="dates",
        says=worded("Days such as 3/4/2027 can be read two ways: which comes first?"),
        choices=("day-first", "month-first"),
    )


def _set_apart(columns: Sequence[Sequence[str]]) -> Question | None:
    """Whether rows that read as totals or notes are to be left out."""
    told = aparts(columns)
    found = [[column[at] for column in columns] for at, what in enumerate(told) if what]
    if not found:
        return None
    first = " · ".join(cell.strip() for cell in found[0] if cell.strip())[:60]
    says = worded(
        "A row, “{first}”, reads as a total or a note, not as a loan: is it to be left out?",
        first=first,
    )
    if len(found) > 1:
        says = worded(
            "{found} rows, the first of them “{first}”, read as totals or notes, not "
            "as loans: are they to be left out?",
            found=len(found),
            first=first,
        )
    return Question(field="name", about="apart", says=says, choices=("leave-out", "solve"))


def together(looks: Iterable[Looked]) -> Looked:
    """What several parts of one table say: what one of them asks, or where they disagree, is
    asked."""
    defaults: dict[str, Any] = {}
    questions: dict[str, Question] = {}
    for each in looks:
        questions |= {question.about: question for question in each.questions}
        for name, value in each.defaults.items():
            if defaults.setdefault(name, value) != value:
                about = cast("About", name)
                says = worded(
                    "Different parts of the table are written differently: how is it meant?"
                )
                choices = (str(defaults[name]), str(value))
                questions[name] = Question(field="name", about=about, says=says, choices=choices)
    kept = {name: value for name, value in defaults.items() if name not in questions}
    return Looked(defaults=kept, questions=tuple(questions.values()))


def unanswered(looked: Looked, answered: Mapping[str, Any]) -> tuple[Question, ...]:
    """The questions that nobody has answered."""
    known = set(answered) & set(Defaults.model_fields)
    return tuple(question for question in looked.questions if question.about not in known)
