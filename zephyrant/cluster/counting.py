"""What a part of a tape comes to, small enough to be kept beside it and put together with others:
counts and sums exactly, distributions of many values by sketches (KLL: Karnin, Lang and Liberty
2016, as Apache DataSketches has it).
"""

import base64
import json
import zlib
from collections.abc import Iterable, Mapping, Sequence
from decimal import Decimal
from typing import Any, Final, NamedTuple, Self

import numpy as np
from datasketches import kll_doubles_sketch

from zephyrant.loans.tape import SPREAD, Counts, Sums, count_up, counted_together, known_numbers

#: Its size: of 99 in 100 answers the rank is right to 0.28 %; so many values and fewer are exact.
SIZE: Final = 1_000
#: Different values of a figure that are counted one by one: terms, rates in eighths.
_FEW: Final = 2_000
#: How many of the lowest and of the highest values are kept with their rows.
_FARTHEST: Final = 10
Floats = np.ndarray[Any, np.dtype[np.float64]]
Wholes = np.ndarray[Any, np.dtype[np.int64]]


class Far(NamedTuple):
    """A value at one end of a figure, and the row it stands in, counted from the first of all."""

    value: float
    row: int


class Figure:
    """How a figure is spread: how often each of its values came, as long as they are few; a sketch
    of them all; and those at its ends."""

    def __init__(self) -> None:
        self._sketch: Any = kll_doubles_sketch(SIZE)
        self._often: dict[float, int] | None = {}
        self.lowest: list[Far] = []
        self.highest: list[Far] = []

    def add(self, values: Floats, rows: Wholes) -> None:
        """Values, and the rows they stand in."""
        if not len(values):
            return
        self._sketch.update(np.ascontiguousarray(values, dtype=np.float64))
        if self._often is not None:
            different, often = np.unique(values, return_counts=True)
            self._count(zip(different.tolist(), often.tolist(), strict=True), len(different))
        order = np.argsort(values, kind="stable")
        ends = ((self.lowest, order[:_FARTHEST]), (self.highest, order[::-1][:_FARTHEST]))
        for kept, places in ends:
            kept += [Far(float(values[at]), int(rows[at])) for at in places]
        self._keep_ends()

    def merge(self, other: Self) -> None:
        """Those of another part."""
        self._sketch.merge(other._sketch)
        if other._often is None:
            self._often = None
        else:
            self._count(other._often.items(), len(other._often))
        self.lowest += other.lowest
        self.highest += other.highest
        self._keep_ends()

    def _count(self, often: Iterable[tuple[float, int]], different: int) -> None:
        if self._often is None or different > _FEW:
            self._often = None
            return
        for value, times in often:
            self._often[value] = self._often.get(value, 0) + times
        if len(self._often) > _FEW:
            self._often = None

    def _keep_ends(self) -> None:
        self.lowest = sorted(self.lowest)[:_FARTHEST]
        self.highest = sorted(self.highest, key=lambda far: (-far.value, far.row))[:_FARTHEST]

    def weighed(self) -> tuple[Floats, Floats]:
        """Values, and of how many each is told."""
        if self._often is not None:
            often = list(self._often.values())
            return np.array(list(self._often), dtype=float), np.array(often, dtype=float)
        # The weights that its items come with are wrong where its first level is empty
        # (datasketches 5.2): their ranks are not.
        values = np.unique([value for value, _ in self._sketch])
        below = np.array(self._sketch.get_cdf(values.tolist(), True)[:-1])
        return values, np.diff(np.rint(below * self._sketch.n), prepend=0.0)

    @property
    def rank_error(self) -> float:
        """By how much of all rows a place among them may be wrong (99 in 100); 0: it is exact."""
        if self._often is not None or not self._sketch.is_estimation_mode():
            return 0.0
        return float(self._sketch.normalized_rank_error(False))

    def as_json(self) -> dict[str, Any]:
        """As it is kept."""
        packed = base64.b64encode(zlib.compress(self._sketch.serialize())).decode()
        often = None if self._often is None else list(self._often.items())
        return {"sketch": packed, "often": often, "lowest": self.lowest, "highest": self.highest}

    @classmethod
    def of_json(cls, kept: Mapping[str, Any]) -> Self:
        """As it was kept."""
        figure = cls()
        packed = zlib.decompress(base64.b64decode(kept["sketch"]))
        figure._sketch = kll_doubles_sketch.deserialize(packed)
        figure._often = None if kept["often"] is None else dict(kept["often"])
        figure.lowest = [Far(*each) for each in kept["lowest"]]
        figure.highest = [Far(*each) for each in kept["highest"]]
        return figure


class Tally:
    """What rows come to that were solved."""

    def __init__(self) -> None:
        self.counts = Counts()
        self.figures = {name: Figure() for name in SPREAD}

    def add(self, told: Mapping[str, Sequence[str]], codes: Sequence[str], first_row: int) -> None:
        """A block of rows, the first of which has this number."""
        self.counts = counted_together([self.counts, count_up(told, codes)])
        for name, figure in self.figures.items():
            known = known_numbers(told, name)
            figure.add(known.values, known.rows + first_row)

    def merge(self, other: Self) -> None:
        """What another part came to."""
        self.counts = counted_together([self.counts, other.counts])
        for name, figure in self.figures.items():
            figure.merge(other.figures[name])

    def as_json(self) -> str:
        """As it is kept beside a part."""
        counts = self.counts
        sums = {
            code: {
                "rows": sums.rows,
                "money": {name: str(value) for name, value in sums.money.items()},
                "weighed": sums.weighed,
                "weights": sums.weights,
            }
            for code, sums in counts.sums.items()
        }
        spread = {name: figure.as_json() for name, figure in self.figures.items()}
        return json.dumps({**counts._asdict(), "sums": sums, "spread": spread})

    @classmethod
    def of_json(cls, text: str) -> Self:
        """As it was kept."""
        kept = json.loads(text)
        tally = cls()
        tally.figures = {name: Figure.of_json(each) for name, each in kept.pop("spread").items()}
        sums = {
            code: Sums(
                rows=each["rows"],
                money={name: Decimal(text) for name, text in each["money"].items()},
                weighed=each["weighed"],
                weights=each["weights"],
            )
            for code, each in kept.pop("sums").items()
        }
        tally.counts = Counts(**kept, sums=sums)
        return tally


def tallied(texts: Iterable[str]) -> Tally:
    """What parts come to as one, as they were kept."""
    whole = Tally()
    for text in texts:
        whole.merge(Tally.of_json(text))
    return whole
