"""An aim: a result that is to have a value, and the figure that may move."""

import re
from datetime import date
from decimal import Decimal
from typing import Annotated, Final, Literal, Self, get_args

from pydantic import (
    BeforeValidator,
    ConfigDict,
    Field,
    PlainSerializer,
    WithJsonSchema,
    model_validator,
)

from zephyrant.texts import worded

from .field_schemas import number_schema
from .fields import DAY_SCHEMA, decimal_of, in_quotes, read_date, wrong, wrong_at
from .figure_path import FigurePath, figure_path
from .parts import Part

AimFigure = Literal[
    "payment",
    "total_paid",
    "total_interest",
    "final_payment",
    "count",
    "effective",
    "us_apr",
    "eu_aprc",
    "end_date",
]
#: Every result that can be aimed at, or watched; the last two at a payment, or over a stretch.
AIMS: Final = (*get_args(AimFigure), "balance", "interest")
#: Results at a payment, or over a stretch of them.
_PLACED_RESULT = re.compile(r"balance@(\d{1,6})|interest@(\d{1,6})-(\d{1,6})")


def is_result(name: str) -> bool:
    """Whether a name is that of a result: `total_interest`, `balance@24`, `interest@13-24`."""
    return name in get_args(AimFigure) or bool(_PLACED_RESULT.fullmatch(name))


def _aim_value(value: object) -> Decimal | date:
    if isinstance(value, date) or (isinstance(value, str) and value.count("-") == 2):
        return read_date(value)
    return decimal_of(value, "9000")


def _written_aim(value: Decimal | date) -> str:
    return value.isoformat() if isinstance(value, date) else f"{value:f}"


def _aim_figure(value: object) -> str:
    if isinstance(value, str) and is_result(value):
        return value
    names = ", ".join(get_args(AimFigure))
    raise wrong(
        worded(
            "{value} is no result: write one of {names}, balance@24 or interest@13-24.",
            value=in_quotes(value),
            names=names,
        )
    )


class Aim(Part):
    """Which result is to have which value, and which figure, by its path, may move for that."""

    figure: Annotated[str, BeforeValidator(_aim_figure), WithJsonSchema({"type": "string"})]
    is_: Annotated[
        Decimal | date,
        BeforeValidator(_aim_value),
        PlainSerializer(_written_aim, return_type=str),
        WithJsonSchema(number_schema(DAY_SCHEMA)),
    ] = Field(alias="is")
    by: str = Field(max_length=100)

    model_config = ConfigDict(frozen=True, defer_build=True, extra="forbid", validate_by_name=True)

    @property
    def path(self) -> FigurePath:
        """Where the figure stands that may move."""
        return figure_path(self.by)

    @property
    def number(self) -> Decimal:
        """What the result is to be; an end date by its day in the count of days."""
        return Decimal(self.is_.toordinal()) if isinstance(self.is_, date) else self.is_

    @model_validator(mode="after")
    def _dates_are_days(self) -> Self:
        if (self.figure == "end_date") != isinstance(self.is_, date):
            raise wrong_at(
                "is", worded("An end date is a day such as 2032-03-01; any other aim is a number.")
            )
        return self
