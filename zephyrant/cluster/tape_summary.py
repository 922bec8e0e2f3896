"""What a tape comes to, path by path: as a document, and on a terminal."""

from decimal import Decimal
from itertools import accumulate
from pathlib import Path
from typing import Any, Final, Literal, cast

from pydantic import BaseModel, ConfigDict

from zephyrant.loans import Marks
from zephyrant.loans.tape import (
    SPREAD,
    TOLD_NAMED,
    Summary,
    distribution,
    far_off,
    spread_of,
    summary_in_words,
)
from zephyrant.outlets.told import Rows

from .counting import Far, Figure, Tally, tallied
from .folder import Folder
from .plan import Plan
from .progress import RunProgress

_FROZEN: Final = ConfigDict(frozen=True)


class SumsOf(BaseModel):
    """Sums of one currency, exact; averages weighted by the amounts lent."""

    model_config = _FROZEN

    currency: str
    rows: int
    principal: Decimal
    payment: Decimal
    total_paid: Decimal
    total_interest: Decimal
    percent: float | None
    effective: float | None
    count: float | None


class Outlier(BaseModel):
    """A row that stands out: its number in the tape, its file, and the figure."""

    model_config = _FROZEN

    row: int
    file: str
    value: float


class SpreadOf(BaseModel):
    """How a figure is spread. Of all its rows one in 200 lies below `low`, one above `high`;
    `middle` is the median; a place among the rows is right to `rank_error` of all of them (0:
    exact). `outliers`: about how many stand out, and those farthest from the middle."""

    model_config = _FROZEN

    rows: int
    low: float
    middle: float
    high: float
    rank_error: float
    bins: list[dict[str, Any]]
    outliers: int
    farthest: list[Outlier]


class PathSummary(BaseModel):
    """What a tape comes to under one shock, or as it stands (no path)."""

    model_config = _FROZEN

    path: str | None
    rows: int
    solved: int
    problems: int
    apart: int
    unfit: int
    sums: list[SumsOf]
    spread: dict[str, SpreadOf]

    def called(self, title: str) -> str:
        """A row of it, after the name of the path."""
        return f"{self.path}: {title}" if self.path else title


class TapeSummary(BaseModel):
    """What a tape comes to. `run`: of the run that wrote this, rows it solved, seconds, those of
    its workers together, rows a second, and the most memory of a worker in bytes."""

    model_config = _FROZEN

    zephyrant: Literal["tape-summary/1"] = "tape-summary/1"
    edition: str
    files: list[str]
    parts: int
    missing: int
    run: dict[str, float]
    paths: list[PathSummary]

    def sums(self, marks: Marks) -> Rows:
        """Sums by path and currency, as one looks at them."""
        heads: tuple[str, ...] = ()
        rows = []
        for path in self.paths:
            told = summary_in_words(_as_told(path), marks)
            heads = told.sums.heads
            rows += [(path.called(row.title), *row.cells) for row in told.sums.rows]
        return Rows(heads, rows)

    def spread(self, marks: Marks) -> Rows:
        """How figures are spread by path, and which rows stand out most."""

        def number(value: float, figure: str) -> str:
            places = 0 if TOLD_NAMED[figure].kind == "count" else 2
            return marks.number(Decimal(value), places, places)

        rows = []
        for path in self.paths:
            for figure, of in path.spread.items():
                ends = (number(value, figure) for value in (of.low, of.middle, of.high))
                farthest = [
                    f"row {marks.write(str(far.row))}: {number(far.value, figure)}"
                    for far in of.farthest[:1]
                ]
                title = path.called(TOLD_NAMED[figure].alone)
                rows.append((title, *ends, marks.write(str(of.outliers)), "".join(farthest)))
        heads = ("", "1 in 200 below", "Median", "1 in 200 above", "Stand out", "Farthest")
        return Rows(heads, rows)


def _as_told(path: PathSummary) -> Summary:
    """As the core tells it in words."""
    kept = (sums.model_dump() for sums in path.sums)
    sums = [
        {name: float(value) if isinstance(value, Decimal) else value for name, value in of.items()}
        for of in kept
    ]
    told = path.model_dump(exclude={"path"}) | {"sums": sums, "spread": {}, "outliers": 0}
    return cast("Summary", told)


def summary_of(plan: Plan, out: Folder, progress: RunProgress) -> TapeSummary:
    """What the parts come to that are written."""
    paths, missing = [], 0
    for shock in plan.paths:
        name = shock.name if shock else None
        numbers = range(1, len(plan.pieces) + 1)
        there = [part for part in numbers if out.has(part, name, rows=plan.wanted.rows)]
        missing += len(numbers) - len(there)
        tally = tallied(out.tally_of(part, name).read_text() for part in there)
        paths.append(_path(name, tally, plan))
    run = {
        "rows": progress.solved,
        "seconds": round(progress.seconds, 1),
        "worker_seconds": round(progress.worker_seconds, 1),
        "rows_a_second": round(progress.rows_a_second),
        "most_memory_of_a_worker": progress.most_memory,
    }
    return TapeSummary(
        edition=plan.wanted.edition,
        files=[file.name for file in plan.wanted.files],
        parts=len(plan.pieces) * len(plan.paths),
        missing=missing,
        run=run,
        paths=paths,
    )


def _path(name: str | None, tally: Tally, plan: Plan) -> PathSummary:
    counts = tally.counts
    spread = {figure: _spread(tally.figures[figure], plan) for figure in SPREAD}
    return PathSummary(
        path=name,
        rows=counts.rows,
        solved=counts.solved,
        problems=counts.problems,
        apart=counts.apart,
        unfit=counts.unfit,
        sums=[
            SumsOf(
                currency=code,
                rows=sums.rows,
                **sums.money,
                percent=sums.average("percent"),
                effective=sums.average("effective"),
                count=sums.average("count"),
            )
            for code, sums in counts.sums.items()
        ],
        spread={figure: each for figure, each in spread.items() if each is not None},
    )


def _spread(figure: Figure, plan: Plan) -> SpreadOf | None:
    values, weights = figure.weighed()
    spread = spread_of(values, weights)
    if spread is None:
        return None
    limits = spread.limits()
    far = (
        sorted(
            (
                each
                for each in {*figure.lowest, *figure.highest}
                if each.value < limits[0] or each.value > limits[1]
            ),
            key=lambda each: (-abs(each.value - spread.middle), each.row),
        )
        if limits
        else []
    )
    return SpreadOf(
        rows=spread.rows,
        low=spread.low,
        middle=spread.middle,
        high=spread.high,
        rank_error=figure.rank_error,
        bins=[dict(each) for each in distribution(values, weights)],
        outliers=max(int(weights[far_off(values, spread)].sum()), len(far)),
        farthest=[_outlier(each, plan) for each in far],
    )


def _outlier(far: Far, plan: Plan) -> Outlier:
    ends = accumulate(plan.part_rows)
    piece = next(piece for piece, end in zip(plan.pieces, ends, strict=True) if far.row <= end)
    return Outlier(row=far.row, file=Path(piece.file.name).name, value=far.value)
