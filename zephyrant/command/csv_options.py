"""The options by which CSV is written, for every part of the command that writes it."""

from collections.abc import Callable
from functools import wraps
from typing import Any, TypeVar, get_args

import click

from zephyrant.outlets.csv_form import CsvForm, DecimalName, SeparatorName

F = TypeVar("F", bound=Callable[..., Any])


def csv_options(function: F) -> F:
    """Gives a part of the command options for CSV, which it takes together as `csv`."""

    @click.option(
        "--separator",
        type=click.Choice(get_args(SeparatorName)),
        default="comma",
        help="Of csv: what stands between cells.",
    )
    @click.option(
        "--decimal",
        type=click.Choice(get_args(DecimalName)),
        default="point",
        help="Of csv: the decimal mark of our numbers.",
    )
    @click.option("--bom", is_flag=True, help="Of csv: begin with the mark of UTF-8.")
    @wraps(function)
    def with_form(
        *,
        separator: SeparatorName,
        decimal: DecimalName,
        bom: bool,
        **others: Any,  # noqa: ANN401
    ) -> object:
        return function(csv=CsvForm(separator, decimal, bom), **others)

    return with_form  # type: ignore[return-value]
