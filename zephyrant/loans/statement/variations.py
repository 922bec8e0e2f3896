"""What moves a statement: figures typed to vary, read and swept."""

from collections.abc import Callable
from decimal import Decimal

from pydantic import BaseModel, ConfigDict, Field

from zephyrant.texts import worded

from ..answer.aim import aimed, nearest_to_aim
from ..document.figure_path import figure_path
from ..document.loan import Loan
from ..document.paths import figure_at, with_figure
from ..errors import FieldError, NotALoan
from ..numbers.decimals import plain
from ..questions.sensitivity import (
    MOST_POINTS,
    Axis,
    Sensitivity,
    not_yet,
    sensitivity_of,
)
from ..questions.small_changes import SmallChange, small_changes
from ..wording.marks import MARKS
from .restating import restate
from .statement import Statement
from .sweep_told import SweepTold, sweep_told
from .values import read_values, suggested_values
from .working import loan_of


class Varied(BaseModel):
    """A figure to vary, by its path, and what was typed for its values; nothing typed: some around
    the one that stands."""

    model_config = ConfigDict(frozen=True, defer_build=True, extra="forbid")

    path: str = Field(max_length=100)
    typed: str = Field(default="", max_length=2_000)


class Variations(BaseModel):
    """A sweep: what each figure was varied over, where it stands, and the small changes, which
    stand in the first part of it; and all that told."""

    varied: list[Varied]
    standing: list[str | None]
    swept: Sensitivity
    small_changes: list[SmallChange]
    told: SweepTold


def vary(
    statement: Statement,
    varied: list[Varied],
    results: list[str],
    start: int = 0,
    enough: Callable[[], bool] = not_yet,
) -> Variations:
    """Results of a statement for every value of one or two of its figures, or a part of them (see
    `sensitivity_of`).

    Raises `NotALoan` with what is wrong at its place.
    """
    loan = nearest_to_aim(loan_of(statement))
    axes, told, standing, stated = [], [], [], []
    for number, each in enumerate(varied):
        stands = _standing(loan, each.path, number)
        path = figure_path(each.path)
        typed = each.typed.strip() or suggested_values(path, stands or Decimal(0), statement)
        try:
            values = read_values(typed, path, statement, MOST_POINTS, stands)
        except ValueError as error:
            field = f"varied.{number}.typed"
            raise NotALoan.at(field, str(error)) from None
        axes.append(Axis(path=each.path, values=values))
        told.append(Varied(path=each.path, typed=typed))
        standing.append(None if stands is None else plain(stands))
        stated.append((axes[-1], stands))
    swept = sensitivity_of(loan, axes, results, start, enough)
    changes = small_changes(loan) if start == 0 else []
    return Variations(
        varied=told,
        standing=standing,
        swept=swept,
        small_changes=changes,
        told=sweep_told(loan, stated, swept, changes, MARKS[statement.marks]),
    )


def _standing(loan: Loan, path: str, number: int) -> Decimal | None:
    if path not in loan.paths():
        raise NotALoan([_no_figure(path, f"varied.{number}.path")])
    return figure_at(loan, figure_path(path))


def _no_figure(path: str, field: str) -> FieldError:
    message = worded("“{path}” is no figure of this loan.", path=path[:40])
    return FieldError(field=field, message=message)


def variant(statement: Statement, values: dict[str, str]) -> Statement:
    """The statement with other values in place, as a point of a sweep has them."""
    loan = aimed(loan_of(statement))
    for path, value in values.items():
        if path not in loan.paths():
            raise NotALoan([_no_figure(path, "values")])
        loan = with_figure(loan, figure_path(path), value)
    return restate(loan, statement.marks)
