"""What the loans of a table move, added up: principal and interest by the day, as agreed, with
early repayment, with the indices of floating rates shifted.

Each loan is looked at from the day that is asked for or, where it is lent later, from then on; what
was paid up to that day is past. Early repayment takes the same part of what is owed each month,
1 - (1 - a)^(1/12) for a yearly rate a (common practice), and its interest with it.
"""

from bisect import bisect_right
from collections import defaultdict
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from datetime import date
from decimal import Decimal
from typing import Final, Literal, NamedTuple, get_args

from pydantic import BaseModel, ConfigDict, Field

from zephyrant.texts import worded

from ..answer.solving import with_the_answer
from ..budget import look
from ..document.figure_path import FigurePath
from ..document.floating import floating
from ..document.loan import Loan
from ..document.paths import figure_at, with_figure
from ..errors import NotALoan
from ..ledger.level_arrays import Level
from ..numbers.arrays import Texts, Wholes
from ..numbers.decimals import plain
from ..unknowns.worked import schedule_of, work_out
from ..wording.marks import PLAIN
from .columns import Columns, Defaults, FieldName
from .laid import Amount as Stands
from .laid import Laid, Moment, laid_alone, laid_together
from .not_loans import Apart, stated
from .rows import day_of
from .solving import Tape, rows_kept

Scenario = Literal["agreed", "early", "-200", "-100", "+100", "+200"]
SCENARIOS: Final[tuple[Scenario, ...]] = get_args(Scenario)
#: By how much indices are shifted, in points of percent.
SHIFTS: Final[dict[Scenario, Decimal]] = {
    "-200": Decimal(-2),
    "-100": Decimal(-1),
    "+100": Decimal(1),
    "+200": Decimal(2),
}


class FlowsAsked(BaseModel):
    """`on`: the day from which on the loans are looked at, and on which such without dates are
    lent; None: from the start of each. `early`: percent a year that are repaid early."""

    model_config = ConfigDict(frozen=True, defer_build=True, extra="forbid")

    on: date | None = None
    early: Decimal = Field(default=Decimal(0), ge=0, lt=100)


#: In minor units: whole as agreed, but where a loan is not rounded to them.
Amount = int | Decimal | float


class Moved(NamedTuple):
    """What moves at a moment."""

    lent: Amount = 0
    principal: Amount = 0
    early: Amount = 0
    interest: Amount = 0


class Lasting(NamedTuple):
    """What is paid so many years after a loan is looked at, and what of it repays principal:
    interest that is added to what is owed repays none, and is repaid with it."""

    paid: Amount = 0
    repaid: Amount = 0


@dataclass
class Flows:
    """Flows of some loans, in minor units. `owed`: of loans lent before the day that is asked for,
    on it; `missing`: loans that cannot be laid out so."""

    rows: int = 0
    missing: int = 0
    owed: Amount = 0
    moved: dict[Moment, Moved] = field(default_factory=dict)
    lasting: dict[float, Lasting] = field(default_factory=dict)

    def add(self, other: "Flows") -> None:
        """The flows of others, too."""
        self.rows += other.rows
        self.missing += other.missing
        self.owed = add(self.owed, other.owed)
        for moment, moved in other.moved.items():
            self.put(moment, moved)
        for years, lasting in other.lasting.items():
            self.last(years, lasting)

    def put(self, moment: Moment, moved: Moved) -> None:
        """What moves at a moment, too."""
        known = self.moved.get(moment)
        self.moved[moment] = moved if known is None else Moved(*map(add, known, moved))

    def last(self, years: float, lasting: Lasting) -> None:
        """What is paid after so many years, too."""
        known = self.lasting.get(years)
        self.lasting[years] = lasting if known is None else Lasting(*map(add, known, lasting))


def add(one: Amount, other: Amount) -> Amount:
    """Two amounts in minor units: exactly, where both are exact."""
    if isinstance(one, float) or isinstance(other, float):
        return float(one) + float(other)
    return one + other


class Kind(NamedTuple):
    """Loans that are added up together."""

    currency: str
    floats: bool
    scenario: Scenario


#: What a table moves, by what is added up together.
TapeFlows = dict[Kind, Flows]


def flows_of(
    columns: Columns, defaults: Defaults, asked: FlowsAsked, set_apart: Sequence[Apart] = ()
) -> TapeFlows:
    """What the loans of a table move; rows without an answer, and such as are no loans, move
    nothing.

    Raises `NotALoan` at `on` where some loans have dates, some have none, and no day is stated on
    which these are lent.
    """
    kept = rows_kept(len(next(iter(columns.values()))), defaults, set_apart)
    if not kept:
        return {}
    some = {name: [column[row] for row in kept] for name, column in columns.items()}
    some["start"] = _starts(some.get("start", [""] * len(kept)), asked.on)
    tape = Tape(some, defaults, len(kept))
    adding = _Adding(defaults, asked, tape.columns["start"])
    tape.laid_alone, tape.laid_together = adding.alone, adding.together
    tape.solve()
    return dict(adding.flows)


def _starts(cells: Sequence[str], on: date | None) -> list[str]:
    """The days on which loans are lent, one without such on the day that is asked for."""
    starts = [stated(cell) for cell in cells]
    without = starts.count("")
    if on is None and 0 < without < len(starts):
        raise NotALoan.at(
            "on",
            worded(
                "Rows that have no day on which they are lent: {count}. State the day from which "
                "on to look; they are taken as lent on it.",
                count=without,
            ),
        )
    return [cell or ("" if on is None else on.isoformat()) for cell in starts]


class _Adding:
    """Adds up loans as they are laid out."""

    def __init__(self, defaults: Defaults, asked: FlowsAsked, starts: Texts) -> None:
        self.flows: defaultdict[Kind, Flows] = defaultdict(Flows)
        self._defaults, self._asked, self._starts = defaults, asked, starts

    def together(self, loan: Loan, level: Level, rows: Wholes, unknown: FieldName | None) -> None:
        """Rows like one loan, side by side."""
        cells = self._starts[rows].tolist()
        days = {cell: day_of(cell, self._defaults) for cell in set(cells)}
        # Of a rate that was found payments are facts; a balance that was takes what is left.
        stands, absorbs = unknown == "percent", unknown == "balance"
        lent_on = [days[cell] for cell in cells]
        for laid in laid_together(loan, level, lent_on, stands=stands, absorbs=absorbs):
            look()
            self._add(loan.currency, laid, floats=False)

    def alone(self, loan: Loan) -> None:
        """A row, worked alone."""
        schedule = work_out(loan).schedule
        if schedule is None:
            return
        floats = floating(loan) is not None
        self._add(loan.currency, laid_alone(loan, schedule), floats=floats)
        if not floats:
            return
        answered = with_the_answer(loan)
        for scenario, points in SHIFTS.items():
            flows = self.flows[Kind(loan.currency, floats, scenario)]
            try:
                shifted = _shifted(answered, points)
                laid = laid_alone(shifted, schedule_of(shifted, PLAIN))
            except NotALoan:
                flows.missing += 1
            else:
                self._run_off(flows, laid, self._asked.early)

    def _add(self, currency: str, laid: Laid, *, floats: bool) -> None:
        self._run_off(self.flows[Kind(currency, floats, "agreed")], laid, Decimal(0))
        if self._asked.early:
            self._run_off(self.flows[Kind(currency, floats, "early")], laid, self._asked.early)

    def _run_off(self, flows: Flows, laid: Laid, early: Decimal) -> None:
        flows.rows += laid.rows
        begins, first = laid.start, 0
        on = self._asked.on
        before = laid.lent
        if on is not None and isinstance(begins, date) and begins < on:
            begins, first = on, bisect_right(laid.moments, on)
            before = laid.owed[first - 1] if first else laid.lent
            flows.owed = add(flows.owed, before)
        else:
            flows.put(begins, Moved(lent=laid.lent))
        for moment, years, moved in _run_off(laid, begins, first, before, 1 - float(early) / 100):
            flows.put(moment, moved)
            repaid = add(moved.principal, moved.early)
            flows.last(years, Lasting(add(repaid, moved.interest), max(repaid, 0)))


def _run_off(
    laid: Laid, begins: Moment, first: int, before: Stands, stays: float
) -> Iterator[tuple[Moment, float, Moved]]:
    """Each payment from a place on: when, so many years after `begins`, and what it is; a part of
    `stays` is not repaid early within a year."""
    left = 1.0
    soonest = laid.years(begins, first) if first < len(laid.paid) else 0.0
    for place in range(first, len(laid.paid)):
        moment, paid, owed = laid.moments[place], laid.paid[place], laid.owed[place]
        years = soonest + (place - first) / laid.clock.a_year
        interest = owed - before + paid
        before = owed
        if stays == 1:
            yield moment, years, Moved(0, paid - interest, 0, interest)
            continue
        still = stays**years
        yield (
            moment,
            years,
            Moved(
                lent=0,
                principal=float(paid - interest) * left,
                early=float(owed) * (left - still),
                interest=float(interest) * left,
            ),
        )
        left = still


def _shifted(loan: Loan, points: Decimal) -> Loan:
    """The loan with its index shifted by so much more."""
    rate = floating(loan)
    if rate is None:
        raise ValueError("a rate that follows no index")
    path = FigurePath(("indices", rate.index, "shift", "percent"))
    return with_figure(loan, path, plain((figure_at(loan, path) or Decimal(0)) + points))
