"""A sweep told in the marks of the statement that was varied."""

from datetime import date
from decimal import Decimal

from pydantic import BaseModel

from ..calendars.days_in_words import write_day
from ..document.figure_path import FigurePath, figure_path
from ..document.loan import Loan
from ..document.named import Kind, Named, result_named
from ..document.telling import headline
from ..questions.sensitivity import ANSWER, ANSWER_TITLE, Axis, Sensitivity
from ..questions.small_changes import SmallChange
from ..wording.marks import Marks
from ..wording.tables import TableTold, row_told
from .parsing import PLACES


class SweepTold(BaseModel):
    """A sweep in the marks of the statement. For each figure varied what it is called, its values,
    and the place of the one that stands, if it is among them; what each result is called and is at
    every point; the small changes."""

    titles: tuple[str, ...]
    values: tuple[tuple[str, ...], ...]
    stands: tuple[int | None, ...]
    heads: dict[str, str]
    results: dict[str, list[list[str | None]]]
    small_changes: TableTold


def sweep_told(
    loan: Loan,
    stated: list[tuple[Axis, Decimal | None]],
    swept: Sensitivity,
    changes: list[SmallChange],
    marks: Marks,
) -> SweepTold:
    """A sweep as it is read; `stated`: each figure varied, and where it stands."""
    paths = [figure_path(axis.path) for axis, _ in stated]
    asked = _asked(loan)
    kinds: dict[str, Named] = {
        name: asked if name == ANSWER else result_named(name) for name in swept["results"]
    }
    return SweepTold(
        titles=tuple(path.named.title for path in paths),
        values=tuple(
            tuple(_value(path, value, loan, marks) for value in axis.values)
            for path, (axis, _) in zip(paths, stated, strict=True)
        ),
        stands=tuple(
            next((place for place, each in enumerate(axis.values) if each == stands), None)
            for axis, stands in stated
        ),
        heads={name: named.alone for name, named in kinds.items()},
        results={
            name: [[_result(kinds[name].kind, text, marks) for text in row] for row in rows]
            for name, rows in swept["results"].items()
        },
        small_changes=TableTold(
            heads=("", asked.alone, ""),
            rows=tuple(
                row_told(
                    f"{path.named.title} + {_value(path, Decimal(change['by']), loan, marks)}",
                    _result(asked.kind, change["value"], marks) or "",
                    _change(asked.kind, change["change"], marks),
                )
                for change in changes
                if (path := figure_path(change["path"]))
            ),
        ),
    )


def _asked(loan: Loan) -> Named:
    """What the figure asked for is called, and its kind."""
    kind = loan.asked.kind if loan.asked is not None else "money"
    return Named(ANSWER_TITLE, kind)


def _value(path: FigurePath, value: Decimal, loan: Loan, marks: Marks) -> str:
    """A value of a figure varied."""
    if path.is_percent:
        return f"{headline('percent', str(value), marks)} %"
    return marks.number(value, PLACES, loan.decimals if path.kind == "money" else 0)


def _result(kind: Kind, text: str | None, marks: Marks) -> str | None:
    """A result as the sweep has it."""
    if text is None:
        return None
    if kind == "day":
        return write_day(date.fromisoformat(text))
    return f"{headline(kind, text, marks)} %" if kind == "percent" else headline(kind, text, marks)


def _change(kind: Kind, text: str, marks: Marks) -> str:
    """By how much a result changes."""
    told = _result(kind, text, marks) or ""
    return f"+{told}" if Decimal(text) > 0 else told
