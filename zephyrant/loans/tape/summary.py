"""What a solved table comes to: sums, averages weighted by amount, distributions, outliers."""

from collections.abc import Mapping, Sequence
from typing import Final, NamedTuple

from typing_extensions import TypedDict

from ..numbers.arrays import Flags, Floats, Wholes, np
from .counts import Counts, Sums, count_up, numbers

_BINS: Final = 24
#: A value so many times as far from the median as is usual stands out (the modified z-score of
#: Iglewicz and Hoaglin, 1993).
_FAR: Final = 3.5
_USUAL: Final = 0.6745
#: Of fewer values none stands out.
_FEWEST: Final = 10
#: Where the bins of a distribution begin and end, as parts of its rows: what lies beyond is counted
#: at the ends.
_ENDS: Final = (0.005, 0.995)
#: What is looked at for its distribution and for outliers.
SPREAD: Final = ("percent", "payment", "count")


class Bin(TypedDict):
    """Rows whose value lies from `low` to below `high`."""

    low: float
    high: float
    rows: int


class SumsTold(TypedDict):
    """Sums in one currency, and averages weighted by the amount lent; to look at, in floats."""

    currency: str
    rows: int
    principal: float
    payment: float
    total_paid: float
    total_interest: float
    percent: float | None
    effective: float | None
    count: float | None


class Summary(TypedDict):
    """`problems`: rows without an answer; `apart`: rows that are no loans, left out; `unfit`: rows
    whose stated figures do not fit."""

    rows: int
    solved: int
    problems: int
    apart: int
    unfit: int
    outliers: int
    sums: list[SumsTold]
    spread: dict[str, list[Bin]]


# How figures are spread


class Spread(NamedTuple):
    """How the values of a figure are spread: how many there are, where most lie (`_ENDS`), their
    median, and the median of how far from it they lie."""

    rows: int
    low: float
    high: float
    middle: float
    usual: float

    def limits(self) -> tuple[float, float] | None:
        """The values beyond which one stands out; None where none does."""
        if self.rows < _FEWEST or not self.usual:
            return None
        reach = _FAR * self.usual / _USUAL
        return self.middle - reach, self.middle + reach

    def edges(self) -> list[float]:
        """Where its bins begin, and the last one ends."""
        if self.low == self.high:
            return [self.low, self.high]
        edges: list[float] = np.linspace(self.low, self.high, _BINS + 1).tolist()
        return edges


class Known(NamedTuple):
    """The values of a figure where it has one in a row with an answer, and the places of these
    rows."""

    values: Floats
    rows: Wholes


def known_numbers(told: Mapping[str, Sequence[str]], name: str) -> Known:
    """The values of a figure in the rows that have an answer and it."""
    values = numbers(told[name])
    has_answer = np.array([not problem for problem in told["problem"]], dtype=bool)
    rows = np.flatnonzero(has_answer & ~np.isnan(values))
    return Known(values[rows], rows)


def spread_of(values: Floats, weights: Floats | None = None) -> Spread | None:
    """How values are spread, each of which stands for so many; None where there are none."""
    if not len(values):
        return None
    low, middle, high = _quantiles(values, weights, [_ENDS[0], 0.5, _ENDS[1]])
    (usual,) = _quantiles(np.abs(values - middle), weights, [0.5])
    rows = len(values) if weights is None else int(weights.sum())
    return Spread(rows, low, high, middle, usual)


def _quantiles(values: Floats, weights: Floats | None, parts: Sequence[float]) -> list[float]:
    if weights is None:
        found: list[float] = np.quantile(values, parts).tolist()
        return found
    order = np.argsort(values)
    ordered, ranks = values[order], np.cumsum(weights[order])
    # As if each value stood there as often as it stands for.
    at = np.array(parts) * (ranks[-1] - 1)
    below, above = (
        ordered[np.searchsorted(ranks, rank, side="right").clip(max=len(ordered) - 1)]
        for rank in (np.floor(at), np.ceil(at))
    )
    between: list[float] = (below + (above - below) * (at - np.floor(at))).tolist()
    return between


def outliers(told: Mapping[str, Sequence[str]]) -> list[str]:
    """For each row the names of the figures by which it stands out, "" for none."""
    size = len(told["problem"])
    names = [""] * size
    for name in SPREAD:
        values = numbers(told[name])
        spread = spread_of(values[~np.isnan(values)])
        for row in np.flatnonzero(far_off(values, spread)).tolist():
            names[row] = f"{names[row]}, {name}" if names[row] else name
    return names


def far_off(values: Floats, spread: Spread | None) -> Flags:
    """Which values stand out of such as are spread so."""
    limits = spread and spread.limits()
    if not limits:
        return np.zeros(len(values), dtype=bool)
    far: Flags = (values < limits[0]) | (values > limits[1])
    return far


# Told


def summarise(
    told: Mapping[str, Sequence[str]], codes: Sequence[str], standing_out: Sequence[str]
) -> Summary:
    """What a table comes to; `codes` is the currency of each row."""
    return summed_up(
        count_up(told, codes),
        sum(bool(names) for names in standing_out),
        {name: distribution(known_numbers(told, name).values) for name in SPREAD},
    )


def distribution(values: Floats, weights: Floats | None = None) -> list[Bin]:
    """Where values lie, each of which stands for so many; one bin where all are one."""
    spread = spread_of(values, weights)
    if spread is None:
        return []
    edges = spread.edges()
    if len(edges) == 2:
        return [{"low": spread.low, "high": spread.high, "rows": spread.rows}]
    inside = np.clip(values, spread.low, spread.high)
    counted = np.histogram(inside, bins=edges, weights=weights)[0].tolist()
    return [
        {"low": low, "high": high, "rows": int(rows)}
        for low, high, rows in zip(edges, edges[1:], counted, strict=False)
    ]


def summed_up(counts: Counts, outlying: int, spread: dict[str, list[Bin]]) -> Summary:
    """What was counted, as it is told."""
    return {
        "rows": counts.rows,
        "solved": counts.solved,
        "problems": counts.problems,
        "apart": counts.apart,
        "unfit": counts.unfit,
        "outliers": outlying,
        "sums": [_sums_told(code, sums) for code, sums in counts.sums.items()],
        "spread": spread,
    }


def _sums_told(code: str, sums: Sums) -> SumsTold:
    return {
        "currency": code,
        "rows": sums.rows,
        "principal": float(sums.money["principal"]),
        "payment": float(sums.money["payment"]),
        "total_paid": float(sums.money["total_paid"]),
        "total_interest": float(sums.money["total_interest"]),
        "percent": sums.average("percent"),
        "effective": sums.average("effective"),
        "count": sums.average("count"),
    }
