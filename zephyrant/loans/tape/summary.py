"""What a solved table comes to: sums, averages weighted by amount, distributions, outliers."""

from collections.abc import Mapping, Sequence
from typing import Final

from typing_extensions import TypedDict

from ..numbers.arrays import Flags, Floats, np
from .not_loans import APART_SAYS

_BINS: Final = 24
#: A value so many times as far from the median as is usual stands out (the modified z-score of
#: Iglewicz and Hoaglin, 1993).
_FAR: Final = 3.5
_USUAL: Final = 0.6745
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


def numbers(texts: Sequence[str]) -> Floats:
    """Texts as floats, NaN where there is none."""
    return np.array([text or "nan" for text in texts], dtype=float)


def outliers(told: Mapping[str, Sequence[str]]) -> list[str]:
    """For each row the names of the figures by which it stands out, "" for none."""
    size = len(told["problem"])
    names = [""] * size
    for name in SPREAD:
        for row in np.flatnonzero(_far(numbers(told[name]))).tolist():
            names[row] = f"{names[row]}, {name}" if names[row] else name
    return names


def _far(values: Floats) -> Flags:
    known = ~np.isnan(values)
    if known.sum() < 10:
        return np.zeros(len(values), dtype=bool)
    middle = np.median(values[known])
    usual = np.median(np.abs(values[known] - middle))
    if not usual:
        return np.zeros(len(values), dtype=bool)
    far: Flags = known & (_USUAL * np.abs(values - middle) > _FAR * usual)
    return far


def summarise(
    told: Mapping[str, Sequence[str]], currencies: Sequence[str], standing_out: Sequence[str]
) -> Summary:
    """What a table comes to; `currencies` is that of each row."""
    has_answer = np.array([not problem for problem in told["problem"]])
    aside = sum(problem in APART_SAYS.values() for problem in told["problem"])
    figures = {
        name: numbers(told[name])
        for name in (
            "principal",
            "payment",
            "total_paid",
            "total_interest",
            "percent",
            "effective",
            "count",
        )
    }
    codes = np.array(list(currencies), dtype=object)
    sums = []
    for code in sorted({str(each) for each in codes[has_answer]}):
        mine = has_answer & (codes == code)
        sums.append(_sums(code, {name: values[mine] for name, values in figures.items()}))
    return {
        "rows": len(has_answer),
        "solved": int(has_answer.sum()),
        "problems": int((~has_answer).sum()) - aside,
        "apart": aside,
        "unfit": sum(fits == "no" for fits in told["fits"]),
        "outliers": sum(bool(names) for names in standing_out),
        "sums": sums,
        "spread": {name: _bins(figures[name][has_answer]) for name in SPREAD},
    }


def _sums(code: str, figures: dict[str, Floats]) -> SumsTold:
    lent = figures["principal"]

    def weighted(name: str) -> float | None:
        known = ~np.isnan(figures[name]) & ~np.isnan(lent)
        weight = lent[known].sum()
        return float((figures[name][known] * lent[known]).sum() / weight) if weight else None

    return {
        "currency": code,
        "rows": len(lent),
        "principal": float(np.nansum(lent)),
        "payment": float(np.nansum(figures["payment"])),
        "total_paid": float(np.nansum(figures["total_paid"])),
        "total_interest": float(np.nansum(figures["total_interest"])),
        "percent": weighted("percent"),
        "effective": weighted("effective"),
        "count": weighted("count"),
    }


def _bins(values: Floats) -> list[Bin]:
    known = values[~np.isnan(values)]
    if not len(known):
        return []
    low, high = np.percentile(known, [0.5, 99.5])
    if low == high:
        return [{"low": float(low), "high": float(high), "rows": len(known)}]
    # What lies beyond is counted at the ends.
    counted, edges = np.histogram(np.clip(known, low, high), bins=_BINS)
    return [
        {"low": float(edges[place]), "high": float(edges[place + 1]), "rows": int(rows)}
        for place, rows in enumerate(counted)
    ]
