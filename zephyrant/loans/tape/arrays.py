"""Rows of a table of loans side by side, as arrays: those that are regular and sure to the cent."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from typing import Final

from ..document.floating import floating
from ..document.loan import Loan
from ..document.repaid import repaid_by
from ..ledger.level_arrays import (
    Level,
    balances,
    counts,
    payments,
    principals,
    to_whole,
)
from ..ledger.rolled_arrays import Rolled, rolled
from ..numbers.arrays import Flags, Floats, Texts, Wholes, np
from ..numbers.decimals import PERCENT_PLACES, Unit
from ..quotes.arrays import can_be_arrays, periodic_rates, quoted_percents, ratios
from ..roots.many_rates import rates, true_rates
from .array_cells import LONGEST, Cells
from .columns import ASKABLE, COST_PLACES, Defaults, FieldName

#: What is told of every row of a table, by result.
Results = dict[str, Texts]
#: Is told a loan like some rows, these as they will be paid, their places, what was asked for.
LaidTogether = Callable[[Loan, Level, Wholes, FieldName | None], None]

_SCALE: Final = 10.0**PERCENT_PLACES
_COST_SCALE: Final = 10.0**COST_PLACES
#: What floats may leave unsure of a balance at the end before they are not asked, in minor units.
_MOST_NOISE: Final = 0.1
_NEAR_GAP: Final = 1e-3
#: What floats leave unsure of a rate that is stated, relatively.
_UNSURE: Final = 4e-15


def is_plain(defaults: Defaults, loan: Loan) -> bool:
    """Whether rows like this one are such as arrays can work: level payments, rounded to the minor
    unit, quoted in a style without a time of its own."""
    rounding = defaults.rounding
    return (
        repaid_by(loan) == "level"
        and floating(loan) is None
        and loan.cover is None
        and loan.value is None
        and (rounding.payment, rounding.interest) == ("nearest", "nearest")
        and rounding.to is None
        and can_be_arrays(loan.style)
    )


@dataclass
class _Solved:
    """Rows with the same unknown: their figures as paid, the percent as quoted, the rate of a
    period as it was found or stated, and what floats leave `unsure` of it, relatively; `found` is
    NaN where that is not sure."""

    found: Floats
    level: Level
    percent: Floats
    footing: Floats
    unsure: Floats | float = _UNSURE
    gap: Floats | None = None


class Group:
    """Rows alike in everything but their figures; `rows` are their places in the table, `columns`
    their cells without spaces round them."""

    def __init__(
        self, columns: Mapping[FieldName, Texts], defaults: Defaults, loan: Loan, rows: Wholes
    ) -> None:
        self.cells = Cells(columns, defaults, loan, len(rows))
        #: Is told every row that is sure, laid out.
        self.laid: LaidTogether | None = None
        self.loan, self.rows = loan, rows
        self.often = loan.payments_a_year

    def solve(self, told: Results) -> Wholes:
        """Tells what is sure into `significant`; the places in the table of the rows that were."""
        unknown, readable = self.cells.unknowns()
        after = self.cells.after()
        readable &= after >= 0
        sure = [np.array([], dtype=np.int64)]
        for place in range(-1, len(ASKABLE)):
            here = np.flatnonzero(readable & (unknown == place))
            if len(here):
                name = ASKABLE[place] if place >= 0 else None
                sure.append(self._solve(name, here, after[here], told))
        return np.concatenate(sure)

    # Solving

    def _solve(self, name: FieldName | None, here: Wholes, after: Wholes, told: Results) -> Wholes:
        """Rows with one unknown (None: checked), told; their places that are sure."""
        with np.errstate(all="ignore"):
            solved = self._found(name, self._stated(here))
            level = solved.level
            sure = ~np.isnan(solved.found) & (level.principal > 0)
            noise = _noise(level)
            if name in (None, "balance"):
                # Only what is left at the end grows with the noise of floats.
                sure &= noise < _MOST_NOISE
            # One advance and one payment are costed by their term, the exact way.
            sure &= level.count > 1 + level.in_advance
            if name == "balance":
                sure &= solved.found > noise + 0.5
            schedule = self._rolled(name, level, after, sure)
            if name == "percent":
                # Payments are facts: the last one stands, and the last interest takes the cents.
                schedule = replace(schedule, paid=level.payment * level.count, final=level.payment)
                sure &= after < level.count
            if name == "balance":
                solved.level = level = replace(level, balance=schedule.left)
            sure &= ~np.isnan(schedule.paid) & (level.balance >= 0) & (level.payment > 0)
            results = self._results(solved, schedule)
            for column in results.values():
                sure &= ~np.isnan(column)
            if solved.gap is not None:
                self._held(solved, noise, sure, results)
        places = np.flatnonzero(sure)
        rows = self.rows[here[places]]
        self._tell(name, rows, {key: column[places] for key, column in results.items()}, told)
        self._tell_owed(rows, schedule.owed[places], after[places], told)
        if self.laid is not None and len(places):
            self.laid(self.loan, level.at(places), rows, name)
        return rows

    def _stated(self, here: Wholes) -> _Solved:
        """The figures of some rows as they are stated, nothing where they are asked for."""

        def figure(name: FieldName) -> Floats:
            stated: Floats = np.nan_to_num(self.cells.figures[name][here])
            return stated

        percent = figure("percent")
        top, bottom = ratios(percent, self.loan.style)
        rate = periodic_rates(percent, self.loan.style)
        level = Level(
            principal=figure("principal"),
            rate=rate,
            numerator=top,
            denominator=bottom,
            count=figure("count").astype(np.int64),
            balance=figure("balance"),
            payment=figure("payment"),
            in_advance=np.full(len(here), self.loan.timing == "in-advance"),
        )
        return _Solved(np.zeros(len(here)), level, percent, rate)

    def _found(self, name: FieldName | None, stated: _Solved) -> _Solved:
        """The unknown found, and put in its place as it will be paid."""
        level = stated.level
        if name == "payment":
            found = _money(payments(level), level)
            return replace(stated, found=found, level=replace(level, payment=found))
        if name == "principal":
            found = _money(principals(level), level)
            return replace(stated, found=found, level=replace(level, principal=found))
        if name == "percent":
            return self._found_rate(stated)
        if name == "count":
            found = _ended(level)
            count = np.nan_to_num(found).astype(np.int64)
            return replace(stated, found=found, level=replace(level, count=count))
        if name == "balance":
            return replace(stated, found=balances(level))
        return replace(stated, gap=balances(level) - level.balance)

    def _found_rate(self, stated: _Solved) -> _Solved:
        level = stated.level
        periodic = rates(level)
        percent = quoted_percents(periodic, self.loan.style) * _SCALE
        unsure = _unsure(level, periodic)
        near = np.abs(percent) * unsure
        whole = to_whole(percent, np.maximum(near, 1e-6))
        whole = np.where((whole >= 0) & (near < _MOST_NOISE), whole, np.nan)
        told = whole / _SCALE
        top, bottom = ratios(np.nan_to_num(told), self.loan.style)
        rated = replace(
            level, rate=periodic_rates(told, self.loan.style), numerator=top, denominator=bottom
        )
        return _Solved(whole, rated, told, periodic, unsure)

    @staticmethod
    def _rolled(name: FieldName | None, level: Level, after: Wholes, sure: Flags) -> Rolled:
        """The schedules of those that may be sure; the others stand idle."""
        some = np.flatnonzero(sure)
        schedule = rolled(
            level.at(some), is_open=name == "count", absorbs=name == "balance", after=after[some]
        )
        columns = np.full((5, len(sure)), np.nan)
        columns[:, some] = [
            schedule.count,
            schedule.paid,
            schedule.final,
            schedule.left,
            schedule.owed,
        ]
        return Rolled(*columns)

    def _results(self, solved: _Solved, schedule: Rolled) -> dict[str, Floats]:
        """Money in minor units, rates in units of their last decimal."""
        level, footing = solved.level, solved.footing
        cost = true_rates(level, schedule.count, schedule.final, schedule.left)
        nominal = 100 * self.often * footing
        # A quote on the clock of the payments is told as it stands.
        stated = np.abs(solved.percent - nominal) < 1e-11
        nominal = np.where(stated, solved.percent, nominal)
        effective = 100 * np.expm1(np.log1p(footing) * self.often)

        def told(value: Floats) -> Floats:
            near = np.abs(value) * _SCALE * solved.unsure + 1e-6
            return to_whole(value * _SCALE, np.minimum(0.5, near))

        return {
            "principal": level.principal,
            "payment": level.payment,
            "balance": level.balance,
            "count": level.count.astype(float),
            "total_paid": schedule.paid,
            "total_interest": schedule.paid + level.balance - level.principal,
            "final_payment": schedule.final,
            "percent": np.round(solved.percent * _SCALE),
            "periodic": told(100 * footing),
            "nominal": told(nominal),
            "effective": told(effective),
            "us_apr": to_whole(100 * self.often * cost * _COST_SCALE),
            "eu_aprc": to_whole(100 * np.expm1(np.log1p(cost) * self.often) * _COST_SCALE),
        }

    @staticmethod
    def _held(solved: _Solved, noise: Floats, sure: Flags, results: dict[str, Floats]) -> None:
        """Whether rows whose figures are all stated fit; what is not sure is given up."""
        gap, level = solved.gap, solved.level
        if gap is None:
            return
        near = np.minimum(_NEAR_GAP + noise, 0.5)
        whole, wanted = to_whole(gap, near), to_whole(payments(level))
        sure &= ~np.isnan(whole) & ~np.isnan(wanted) & (np.abs(np.abs(gap) - 0.5) > near)
        results["gap"] = whole
        results["fits"] = ((np.abs(gap) < 0.5) | (wanted == level.payment)).astype(float)

    # Telling

    def _tell(
        self, name: FieldName | None, rows: Wholes, results: dict[str, Floats], told: Results
    ) -> None:
        for column, values in results.items():
            told[column][rows] = self._written(column, values)
        if name is not None:
            told["unknown"][rows] = name
            told["found"][rows] = told[name][rows]

    def _written(self, column: str, values: Floats) -> list[str]:
        if column == "fits":
            return ["yes" if fits else "no" for fits in values.tolist()]
        if column in ("us_apr", "eu_aprc"):
            return _decimals(values / _COST_SCALE, COST_PLACES)
        if column in ("percent", "periodic", "nominal", "effective"):
            return _decimals(values / _SCALE, PERCENT_PLACES)
        return _whole(values, 0 if column == "count" else self.loan.decimals)

    def _tell_owed(self, rows: Wholes, owed: Floats, after: Wholes, told: Results) -> None:
        some = np.flatnonzero((after > 0) & np.isfinite(owed))
        told["owed"][rows[some]] = _whole(owed[some], self.loan.decimals)


def _whole(units: Floats, decimals: int) -> list[str]:
    """Whole numbers of a unit, each written with its decimals."""
    return Unit(decimals, decimals).write_all(units.astype(np.int64).tolist())


def _decimals(values: Floats, places: int) -> list[str]:
    """Numbers as they were rounded to so many decimals; nothing is not below zero."""
    form = f"%.{places}f"
    return [form % value for value in (values + 0.0).tolist()]


def _ended(level: Level) -> Floats:
    """The number of payments until the balance is reached, as rolling them to the cent shows."""
    unrounded = counts(level)
    found = np.full(len(unrounded), np.nan)
    for extra in (0, 1, -1):
        some = np.flatnonzero(np.isnan(found) & (unrounded < LONGEST))
        if len(some):
            trial = np.maximum(np.ceil(unrounded[some] - 1e-9) + extra, 1)
            trying = replace(level.at(some), count=trial.astype(np.int64))
            found[some] = rolled(trying, is_open=True).count
    return found


def _noise(level: Level) -> Floats:
    """What floats may leave unsure of a balance at the end, in minor units."""
    growth = np.exp(level.count * np.log1p(level.rate))
    noise: Floats = (level.principal + level.payment * level.count) * growth * 1e-13
    return noise


def _unsure(level: Level, rate: Floats) -> Floats:
    """What floats leave unsure of a found rate, relatively: the more the less interest there is."""
    unsure: Floats = 2e-15 * (1 + 4 / (level.count * np.abs(rate) + 1e-300))
    return unsure


def _money(amount: Floats, level: Level) -> Floats:
    """An amount found, to the minor unit, where floats of its size can tell."""
    near = 1e-4 + 1e-12 * (np.abs(amount) + level.principal + level.balance)
    return np.where(near < _MOST_NOISE, to_whole(amount, near), np.nan)
