"""What a table of loans that is kept moves, worked and told as files."""

import io
from collections.abc import Mapping, Sequence
from typing import TYPE_CHECKING, Final

from zephyrant.loans.tape import (
    Defaults,
    FieldName,
    FlowsAsked,
    Portfolio,
    TapeFlows,
    aparts,
    flows_of,
)
from zephyrant.outlets.reader import Reader

from .kinds import TEXT, figures
from .ways_out import Columns, Heads, WayName, told

if TYPE_CHECKING:
    pass

_MONEY: Final = ("lent", "principal", "early", "interest", "balance")
_MONEY_KIND: Final = "decimal 38 4"
#: What a file of flows tells of each period.
NAMES: Final = ("currency", "scenario", "period", *_MONEY)


def flows_in(
    content: bytes,
    columns: Mapping[FieldName, int],
    kinds: Sequence[str],
    defaults: Defaults,
    asked: FlowsAsked,
) -> TapeFlows:
    """What the rows of a table (Parquet) move; raises `NotALoan` where the day from which on they
    are looked at has to be stated."""
    import polars as pl

    frame = pl.read_parquet(io.BytesIO(content))
    whole = [column.to_list() for column in frame.iter_columns()]
    return flows_of(figures(whole, columns, kinds), defaults, asked, aparts(whole))


def flows_file(way: WayName, portfolio: Portfolio, reader: Reader) -> bytes:
    """Every flow of a portfolio by currency, scenario and period, as a file."""
    kinds = (TEXT, TEXT, TEXT, *(_MONEY_KIND for _ in _MONEY))
    heads = Heads(NAMES, kinds, range(len(NAMES)), reader)
    rows = [
        (
            *(part["currency"], scenario["scenario"], flow["period"]),
            *(flow["lent"], flow["principal"], flow["early"], flow["interest"], flow["balance"]),
        )
        for part in portfolio["parts"]
        for scenario in part["scenarios"]
        for flow in scenario["flows"]
    ]
    columns: Columns = [list(column) for column in zip(*rows, strict=True)] or [[]] * len(NAMES)
    return b"".join(told(way, heads, [columns]))
