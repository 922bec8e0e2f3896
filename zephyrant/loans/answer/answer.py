"""A document solved: the figure found, the loan to the cent, its working and its proof."""

from typing import Any, Final, NotRequired

from pydantic import BaseModel, ConfigDict, PrivateAttr, computed_field
from typing_extensions import TypedDict

from zephyrant.version import __version__

from ..cost.costs import CostsOfLoan, FeeCharged
from ..cost.yearly_cost import YearlyCost
from ..document.bounds import Bound
from ..document.fields import FigureName
from .aim import AimResult
from .consistency import ConsistentFigure
from .laid import Laid, ScheduleRow
from .proof import Proof
from .writer import Step

#: The version of the core, told with every answer.
ENGINE: Final = f"zephyrant-loans {__version__}"


class RatesOfLoan(TypedDict):
    """Percent, 10 decimals: for one payment period, nominal at the payment frequency, effective
    a year."""

    periodic: str
    nominal: str
    effective: str


class Totals(TypedDict):
    """What the schedule adds up to. `payments`: rows in which something is paid; `balance_due`:
    what is owed at its end; `charges`: beside what is paid."""

    paid: str
    interest: str
    principal: str
    fees: str
    final_payment: str
    payments: int
    charges: str
    balance_due: str


class ScheduleYear(TypedDict):
    """A year and what its payments `first` to `last`, so many `rows`, add up to.

    A year of the loan is told by its number, one that starts in a month of the calendar by the year
    or years it lies in ("2028", "2027/28").
    """

    year: int
    label: str
    first: int
    last: int
    rows: int
    opening: str
    advance: str
    fee: str
    interest: str
    principal: str
    payment: str
    repay: str
    closing: str
    charge: NotRequired[str]
    actuarial_closing: NotRequired[str]
    cover_ratio: NotRequired[str]
    loan_to_value: NotRequired[str]


class AnswerHead(BaseModel):
    """What is told of a loan, without the rows of its schedule. `value` is what that shows, `exact`
    the mathematics.

    Without an answer `solutions` is empty and `reason` a sentence; where it takes more work than is
    allowed, `limit` is the path of the figure that costs most. `asks` and `unit` stand before
    and after the value where it is read. `quote` says how the rate is quoted, `paid_as` what
    rounding did, `clock` how the quote became the rate of one payment, `notes` what might surprise.
    Where every figure is stated nothing is `unknown`: `gap` is what is left over at the end, `fits`
    whether that is no more than rounding, `would_fit` what each figure would have to be.
    `binding`: where as much is lent as cover and value allow, which of them does, `slack`: by how
    much more each alone would lend. `cover_ratios`: of each period of the cover its number and how
    many times the cash flow is what is paid. `loan_to_value`: what is lent in percent of the value.
    `rates_used`: of a floating rate every reset with the rate from it on, after floor and cap;
    `rests_on`: on which path of its index that rests. `clauses`: each in words, `clause_notes`: for
    each what it comes to beside the others.
    """

    model_config = ConfigDict(frozen=True, defer_build=True)

    unknown: str | None
    value: str | None
    exact: str | None
    solutions: tuple[str, ...]
    reason: str | None
    asks: str
    unit: str
    quote: str
    rates: RatesOfLoan | None
    totals: Totals | None
    yearly_cost: YearlyCost | None
    costs: CostsOfLoan | None
    fees: tuple[FeeCharged, ...]
    clauses: tuple[str, ...]
    clause_notes: tuple[tuple[str, ...], ...]
    final_date: str | None
    gap: str | None
    fits: bool | None
    would_fit: dict[FigureName, ConsistentFigure] | None
    paid_as: str | None
    clock: str | None
    notes: tuple[str, ...]
    by_year: list[ScheduleYear]
    working: tuple[Step, ...]
    proof: Proof | None
    engine: str
    aim: AimResult | None = None
    limit: str | None = None
    binding: Bound | None = None
    slack: dict[Bound, str] | None = None
    cover_ratios: list[tuple[int, str | None]] | None = None
    loan_to_value: str | None = None
    rates_used: list[tuple[int, str]] | None = None
    rests_on: str | None = None

    _laid: Laid | None = PrivateAttr(None)

    @property
    def laid(self) -> Laid | None:
        """The loan to the cent; None where there is no schedule."""
        return self._laid


class Answer(AnswerHead):
    """What is told of a loan, with the rows of its `schedule` and, where there are `fees`, the
    `carrying` amount after each. Rows are written when they are asked for."""

    @computed_field  # type: ignore[prop-decorator]
    @property
    def carrying(self) -> tuple[str, ...]:
        """The carrying amount after each row, where there are fees."""
        return () if self._laid is None else self._laid.carrying

    @computed_field  # type: ignore[prop-decorator]
    @property
    def schedule(self) -> list[ScheduleRow]:
        """The schedule to the cent, row by row."""
        return [] if self._laid is None else self._laid.rows

    @classmethod
    def told(cls, laid: Laid | None, **fields: Any) -> "Answer":  # noqa: ANN401
        """An answer of its fields, which are not checked again."""
        answer = Answer.model_construct(**fields)
        answer._laid = laid
        return answer
