"""What rows of a solved table come to, counted in as many parts as they are worked in and put
together: the same whichever way a table was cut."""

from collections import Counter
from collections.abc import Iterable, Mapping, Sequence
from decimal import Decimal
from typing import Final, NamedTuple

from ..numbers.arrays import Floats, np
from ..numbers.currencies import currencies
from ..numbers.decimals import precise
from .not_loans import APART_SAYS

_SUMMED: Final = ("principal", "payment", "total_paid", "total_interest")
_WEIGHTED: Final = ("percent", "effective", "count")


def numbers(texts: Sequence[str]) -> Floats:
    """Texts as floats, NaN where there is none."""
    return np.array([text or "nan" for text in texts], dtype=float)


class Sums(NamedTuple):
    """Rows of one currency: money summed exactly; and of each figure that is averaged its values
    times the amounts lent, and these amounts."""

    rows: int = 0
    money: Mapping[str, Decimal] = dict.fromkeys(_SUMMED, Decimal(0))
    weighed: Mapping[str, float] = dict.fromkeys(_WEIGHTED, 0.0)
    weights: Mapping[str, float] = dict.fromkeys(_WEIGHTED, 0.0)

    def average(self, name: str) -> float | None:
        """A figure's average weighted by the amounts lent; None where there is none."""
        return self.weighed[name] / self.weights[name] if self.weights[name] else None


class Counts(NamedTuple):
    """What some rows of a table come to, as `Summary` counts them; sums by currency."""

    rows: int = 0
    solved: int = 0
    apart: int = 0
    unfit: int = 0
    sums: Mapping[str, Sums] = {}

    @property
    def problems(self) -> int:
        """Rows without an answer."""
        return self.rows - self.solved - self.apart


def count_up(told: Mapping[str, Sequence[str]], codes: Sequence[str]) -> Counts:
    """What rows of a solved table come to; `codes` is the currency of each."""
    problems, apart = told["problem"], frozenset(APART_SAYS.values())
    figures = {name: numbers(told[name]) for name in {*_SUMMED, *_WEIGHTED}}
    of_code: dict[str, list[int]] = {}
    for row, (problem, code) in enumerate(zip(problems, codes, strict=True)):
        if not problem:
            of_code.setdefault(code, []).append(row)
    return Counts(
        rows=len(problems),
        solved=sum(map(len, of_code.values())),
        apart=sum(many for problem, many in Counter(problems).items() if problem in apart),
        unfit=sum(fits == "no" for fits in told["fits"]),
        sums={code: _summed(told, figures, code, of_code[code]) for code in sorted(of_code)},
    )


def _summed(
    told: Mapping[str, Sequence[str]], figures: Mapping[str, Floats], code: str, rows: Sequence[int]
) -> Sums:
    places = np.array(rows)
    lent = figures["principal"][places]
    weighed, weights = {}, {}
    for name in _WEIGHTED:
        values = figures[name][places]
        known = ~np.isnan(values) & ~np.isnan(lent)
        weighed[name] = float((values[known] * lent[known]).sum())
        weights[name] = float(lent[known].sum())
    money = {}
    for name in _SUMMED:
        units = _in_units(figures[name][places], currencies()[code].decimals)
        money[name] = _exactly(told[name][row] for row in rows) if units is None else units
    return Sums(len(rows), money, weighed, weights)


def _in_units(values: Floats, decimals: int) -> Decimal | None:
    """The sum of amounts in whole minor units; None where floats do not hold each of them."""
    values = values[~np.isnan(values)]
    scale = 10.0**decimals
    units = np.rint(values * scale)
    if np.abs(units).max(initial=0) * len(units) > _MOST_UNITS or (units / scale != values).any():
        return None
    return Decimal(int(units.astype(np.int64).sum())).scaleb(-decimals)


#: A sum of whole numbers so large is one of whole numbers still.
_MOST_UNITS: Final = 2.0**62


def _exactly(texts: Iterable[str]) -> Decimal:
    with precise():
        return sum((Decimal(text) for text in texts if text), Decimal(0))


def counted_together(parts: Iterable[Counts]) -> Counts:
    """What parts of a table come to as one."""
    whole = Counts()
    for part in parts:
        whole = Counts(
            rows=whole.rows + part.rows,
            solved=whole.solved + part.solved,
            apart=whole.apart + part.apart,
            unfit=whole.unfit + part.unfit,
            sums={
                code: _added(whole.sums.get(code, Sums()), part.sums.get(code, Sums()))
                for code in sorted({*whole.sums, *part.sums})
            },
        )
    return whole


def _added(mine: Sums, other: Sums) -> Sums:
    with precise():
        return Sums(
            rows=mine.rows + other.rows,
            money={name: value + other.money[name] for name, value in mine.money.items()},
            weighed={name: value + other.weighed[name] for name, value in mine.weighed.items()},
            weights={name: value + other.weights[name] for name, value in mine.weights.items()},
        )
