"""The figures of a loan on the clock of its payments: how time is counted, how money is rounded,
clauses with their numbers."""

from collections.abc import Iterator
from dataclasses import dataclass, replace
from datetime import date
from decimal import Decimal
from fractions import Fraction
from math import log10
from typing import Any, Final, NamedTuple, cast

from ..calendars.dates import Calendar, DayCount
from ..document.clauses import Pay, Taken, VerbName
from ..document.figure_path import PART, PAYMENT, FigurePath
from ..document.limits import MOST_PAYMENTS
from ..numbers.annuity import Timing
from ..numbers.decimals import DIGITS, UNROUNDED_PLACES, precise, to_step
from ..numbers.decimals import Cash as CashWay
from .cash_flow import Cover
from .growth import NO_TIME, ONE_PERIOD
from .parts import Sharing
from .periods import PeriodRuns

#: Digits added at the most for loans whose balances grow beyond measure on the way.
_MOST_EXTRA_DIGITS: Final = 400


class Timetable(NamedTuple):
    """How time is counted: the dates, if there are any, and the day count."""

    calendar: Calendar | None
    day_count: DayCount
    a_year: int
    in_advance: bool


class Provision(NamedTuple):
    """A clause with its numbers: what it does, where, and how much.

    `amount` is its figure: money, or the percent of a fee (`of_money`), of a step or of a charge
    (`by_percent`; `of_balance`: of what a row opens with; `in_costs`: counted in yearly costs). A
    rate is a fraction of one period; one that `is_reset` follows an index, and gives way to every
    other.
    """

    verb: VerbName
    at: int | date | None
    begin: int | date | None
    to: int | date | None
    months: tuple[int, ...] | None
    amount: Decimal
    rate: Fraction | None = None
    pay: Pay | None = None
    every: int = 1
    taken: Taken | None = None
    of_money: bool = False
    by_percent: bool = False
    levels: bool = False
    of_balance: bool = False
    in_costs: bool = True
    is_reset: bool = False


class Cash(NamedTuple):
    """How money is rounded as it is paid: payments to `step`, other amounts to the minor unit.

    What a document states stands as it is; payments stated finer than the currency pays are rounded
    as others, to the minor unit alone where all amounts are facts (`as_stated`).
    """

    way: CashWay
    step: Decimal
    minor_unit: Decimal
    as_stated: bool = False

    def payment(self, amount: Decimal) -> Decimal:
        """A payment as it will be paid."""
        return _carried(to_step(amount, self.step, self.way))

    def amount(self, amount: Decimal) -> Decimal:
        """Another amount as it will be paid."""
        way: CashWay = "none" if self.way == "none" else "nearest"
        return _carried(to_step(amount, self.minor_unit, way))

    def stated_payment(self, amount: Decimal) -> Decimal:
        """A payment that the document states."""
        finer = self.way != "none" and amount % self.minor_unit
        step = self.step if finer and not self.as_stated else self.minor_unit
        return _carried(to_step(amount, step, self.way))


def _carried(amount: Decimal) -> Decimal:
    with precise(80):
        return round(amount, UNROUNDED_PLACES)


@dataclass(frozen=True, slots=True)
class Terms:
    """The figures of a loan, all on the clock of its payments.

    `rate` is the fraction of one period; `count` of None means that payments run until the
    balance is reached, 0 that the clauses, `provisions`, alone are the loan. `open_to`: how far a
    line without a count is laid out. `cash`: how money is rounded, where it is to be paid.
    `sharing`: how what is lent is shared out, if it is; with interest on top each payment repays a
    multiple of `part`, and `payment` is the first of them; where payments follow the cash flow
    `payment` is the part of it that they take. `whole`: where only the first of the payments are
    made, the terms over all of them. `cover`: the cash flow that is to cover the payments.
    """

    principal: Decimal
    rate: Fraction
    count: int | None
    payment: Decimal
    balance: Decimal
    runs: PeriodRuns
    time: Timetable
    provisions: tuple[Provision, ...] = ()
    open_to: int = MOST_PAYMENTS
    cash: Cash | None = None
    sharing: Sharing | None = None
    part: Decimal = Decimal(0)
    whole: "Terms | None" = None
    cover: Cover | None = None

    @property
    def has_parts(self) -> bool:
        """Whether each payment repays a part, with interest on top."""
        return self.sharing is not None and self.sharing.on_top

    @property
    def follows_cash_flow(self) -> bool:
        """Whether payments are a part of the cash flow, `payment`, each time."""
        return self.sharing is not None and self.sharing.follows is not None

    @property
    def regular(self) -> FigurePath:
        """What is paid regularly: the payment, or the part of one."""
        return PART if self.has_parts else PAYMENT

    def having_verb(self, *verbs: VerbName) -> Iterator[tuple[int, Provision]]:
        """The clauses that do one of these, each with its place in the list."""
        return (
            (place, provision)
            for place, provision in enumerate(self.provisions)
            if provision.verb in verbs
        )

    @property
    def in_advance(self) -> bool:
        """Whether payments are made at the start of their periods."""
        return self.time.in_advance

    @property
    def most_payments(self) -> int:
        """How many payments can be laid out, on the calendar where there is one."""
        calendar = self.time.calendar
        return min(MOST_PAYMENTS, calendar.most_payments()) if calendar else MOST_PAYMENTS

    @property
    def timing(self) -> Timing:
        """The same, as a document says it."""
        return "in-advance" if self.in_advance else "in-arrears"

    @property
    def is_level(self) -> bool:
        """Whether all periods are whole and all payments alike: closed forms hold."""
        if len(self.runs) > 1 or self.provisions or self.sharing:
            return False
        (run,) = self.runs
        both = (run.before, run.after)
        return both in ((ONE_PERIOD, NO_TIME), (NO_TIME, ONE_PERIOD))

    def amount(self, path: FigurePath) -> Decimal:
        """The amount that stands at a path."""
        if path.clause is not None:
            return self.provisions[path.clause].amount
        return cast(Decimal, getattr(self, path.name))

    def having(self, path: FigurePath, amount: Decimal) -> "Terms":
        """These terms with another amount in one place."""
        if path.clause is not None:
            return self._changing(path.clause, amount=amount)
        changed: dict[str, Any] = {path.name: amount}
        return replace(self, **changed)

    def rated(self, path: FigurePath, rate: Fraction) -> "Terms":
        """These terms with another rate, the loan's or a clause's."""
        if path.clause is not None:
            return self._changing(path.clause, rate=rate)
        return replace(self, rate=rate)

    def _changing(self, clause: int, **changed: Any) -> "Terms":  # noqa: ANN401
        provisions = tuple(
            provision._replace(**changed) if number == clause else provision
            for number, provision in enumerate(self.provisions)
        )
        return replace(self, provisions=provisions)


def digits_for(terms: Terms) -> int:
    """Digits that keep an unrounded roll exact to `DIGITS` through the growth of its balance."""
    longest = max(max(run.before.size, run.after.size) for run in terms.runs)
    growth = max(float(1 + terms.rate), 1e-300)
    extra = int(abs(log10(growth) * ((terms.count or 0) + longest)))
    return DIGITS + 10 + min(_MOST_EXTRA_DIGITS, extra)
