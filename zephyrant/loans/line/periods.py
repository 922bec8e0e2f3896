"""A document laid out on its time line: what happens when, in order.

The beats of a line are its periods, those that are alike together: how interest grows in them,
whatever the rate. With a rate and amounts they become stretches, which the ledger rolls; it knows
nothing else.
"""

from collections.abc import Iterator
from dataclasses import dataclass, replace
from datetime import date
from decimal import Decimal
from fractions import Fraction
from functools import lru_cache
from itertools import groupby, islice
from typing import Any, Final, Literal, NamedTuple

from ..calendars.dates import Calendar, DayCount, odd_time, year_fraction
from ..document.clauses import Pay, Taken, VerbName
from ..document.limits import MOST_PAYMENTS
from ..document.loan import Loan
from ..numbers.annuity import Timing
from ..numbers.decimals import DIGITS, UNROUNDED_PLACES, precise, to_step
from ..numbers.decimals import Cash as CashWay
from ..quotes.conversion import as_decimal, as_fraction, power

#: Whole periods up to which an odd time is kept as an exact fraction.
_MOST_EXACT: Final = 3


class Span(NamedTuple):
    """How money grows over a time at a rate i of one period: (1 + simple i)(1 + i)^power."""

    simple: Fraction
    power: Fraction = Fraction(0)

    def interest(self, rate: Fraction) -> Fraction:
        """Interest on 1 over this time, above -1 where `rate` is."""
        if not self.power:
            return self.simple * rate
        if self.power.denominator == 1 and self.power <= _MOST_EXACT:
            return (1 + self.simple * rate) * (1 + rate) ** int(self.power) - 1
        with precise(DIGITS + 40):
            growth = power(1 + as_decimal(rate), self.power)
            return as_fraction((1 + as_decimal(self.simple * rate)) * growth - 1)

    @property
    def size(self) -> int:
        """Its length in periods, roughly."""
        return int(self.simple + self.power)

    def force(self, rate: Decimal) -> Decimal:
        """The derivative of the logarithm of the growth by the rate."""
        simple = as_decimal(self.simple)
        return simple / (1 + simple * rate) + as_decimal(self.power) / (1 + rate)


NO_TIME: Final = Span(Fraction(0))
ONE_PERIOD: Final = Span(Fraction(1))


class Beat(NamedTuple):
    """Periods `first` to `last` (None: without end) that are alike.

    Interest accrues over `before` a payment and over `after` it: in arrears all of the period lies
    before its payment, in advance after it.
    """

    first: int
    last: int | None
    before: Span
    after: Span


class Beats(tuple[Beat, ...]):
    """The periods of a loan, made once for a document; the same only as itself, so that what is
    worked out for them can be kept."""

    __slots__ = ()

    def __eq__(self, other: object) -> bool:
        return self is other

    def __hash__(self) -> int:
        return id(self)


class Timetable(NamedTuple):
    """How time is counted: the dates, if there are any, and the day count."""

    calendar: Calendar | None
    day_count: DayCount
    a_year: int
    in_advance: bool


class Put(NamedTuple):
    """A clause with its numbers: what it does, where, and how much.

    `amount` is its figure: money, or the percent of a fee (`of_money`) or of a step (`by_percent`).
    A rate is a fraction of one period.
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
    balance is reached, 0 that the clauses, `puts`, alone are the loan. `open_to`: how far a line
    without a count is laid out. `cash`: how money is rounded, where it is to be paid.
    """

    principal: Decimal
    rate: Fraction
    count: int | None
    payment: Decimal
    balance: Decimal
    beats: Beats
    time: Timetable
    puts: tuple[Put, ...] = ()
    open_to: int = MOST_PAYMENTS
    cash: Cash | None = None

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
        (beat, *others) = self.beats
        whole = {beat.before, beat.after} == {NO_TIME, ONE_PERIOD}
        return whole and not others and not self.puts

    def having(self, name: str, amount: Decimal) -> "Terms":
        """These terms with another amount in one place: a figure's name or a clause's path."""
        if name == "principal":
            return replace(self, principal=amount)
        if name == "payment":
            return replace(self, payment=amount)
        if name == "balance":
            return replace(self, balance=amount)
        return self._putting(name, amount=amount)

    def rated(self, name: str, rate: Fraction) -> "Terms":
        """These terms with another rate: the loan's (`rate`) or a clause's, by its path."""
        if name == "rate":
            return replace(self, rate=rate)
        return self._putting(name, rate=rate)

    def _putting(self, name: str, **changed: Any) -> "Terms":  # noqa: ANN401
        at = int(name.split(".")[1])
        puts = tuple(
            put._replace(**changed) if number == at else put for number, put in enumerate(self.puts)
        )
        return replace(self, puts=puts)


class Inner(NamedTuple):
    """Money that moves on a day between two payments, or a fee added there: what is owed grows by
    `amount`, which bears the fraction `interest` until the period's interest is reckoned; before
    its payment or after it."""

    amount: Decimal
    interest: Fraction
    is_after: bool
    is_fee: bool
    day: date


class Stretch(NamedTuple):
    """Periods `first` to `last` (None: without end), all alike.

    `before` and `after` are the interest, as a fraction of what is owed, up to the payment and from
    it on; `payment` is what is paid in each, or the interest alone. At the payment's moment first
    `advance` and `fee` are added to what is owed; `repay` is paid on top. Where clauses alone are
    the loan, `ahead` is the part of the interest that is added before the period in which the
    `inner` money moves, and `day` the one with which the loan ends, if no payment's.
    """

    first: int
    last: int | None
    before: Fraction
    after: Fraction
    payment: Decimal
    interest_only: bool = False
    advance: Decimal = Decimal(0)
    fee: Decimal = Decimal(0)
    repay: Decimal = Decimal(0)
    inner: tuple[Inner, ...] = ()
    ahead: Fraction = Fraction(0)
    day: date | None = None

    @property
    def is_quiet(self) -> bool:
        """Whether nothing but a payment happens in it."""
        return not (self.advance or self.fee or self.repay or self.inner)

    @property
    def is_plain(self) -> bool:
        """Whether nothing but a level payment happens in it."""
        return self.is_quiet and not self.interest_only


#: What brings the balance of a schedule to what is to be left: the last payment (and what is repaid
#: with it), one amount in the last place alone, the last interest, that of the row before it, the
#: balance itself, or nothing.
Settling = Literal[
    "payment", "repay", "advance", "fee", "interest", "interest-before", "balance", "nothing"
]


class Line(NamedTuple):
    """What is lent at 0, the stretches that follow in order, what is to be left at the end.

    `is_open`: payments run until the balance is reached, however many they are, `most` at the most.
    `has_payments`: there are regular ones, not clauses alone. `settles_by` and `cuts` (what would
    overpay is cut to what is owed and ends the loan) matter to the schedule to the cent. Up to the
    period `lent_until` more will be lent: nothing before it ends the loan.
    """

    principal: Decimal
    stretches: tuple[Stretch, ...]
    balance: Decimal
    is_open: bool = False
    has_payments: bool = True
    settles_by: Settling = "payment"
    cuts: bool = True
    most: int = MOST_PAYMENTS
    lent_until: int = 0


def beats_of(loan: Loan, count: int | None, most: int = MOST_PAYMENTS) -> Beats:
    """The periods of a document, up to `count` where that is known.

    Where it is not, periods that a day count measures are laid out up to `most` and the end of the
    calendar.
    """
    return _beats(
        loan.calendar,
        loan.day_count,
        loan.odd_days,
        loan.payments_a_year,
        count=count,
        most=most,
        in_advance=loan.timing == "in-advance",
    )


@lru_cache(maxsize=64)
def _beats(
    calendar: Calendar | None,
    day_count: DayCount,
    odd_days: str,
    a_year: int,
    *,
    count: int | None,
    most: int,
    in_advance: bool,
) -> Beats:
    regular = _beat(1, count, ONE_PERIOD, advance=in_advance)
    if calendar is None or (day_count == "equal" and calendar.is_regular):
        return Beats((regular,))
    if day_count == "equal":
        return Beats(_with_odd_first(calendar, odd_days, count))
    periods = min(count or most, calendar.most_payments())
    return Beats(_measured(calendar, day_count, a_year, periods))


def _beat(first: int, last: int | None, span: Span, *, advance: bool) -> Beat:
    return Beat(first, last, NO_TIME, span) if advance else Beat(first, last, span, NO_TIME)


def _with_odd_first(calendar: Calendar, odd_days: str, count: int | None) -> tuple[Beat, ...]:
    whole, fraction = odd_time(calendar.start, calendar.first, calendar.step)
    odd = Span(fraction, Fraction(whole))
    if odd_days == "compound":
        odd = Span(Fraction(0), whole + fraction)
    first = Beat(1, 1, odd, ONE_PERIOD if calendar.in_advance else NO_TIME)
    if count == 1:
        return (first,)
    return first, _beat(2, count, ONE_PERIOD, advance=calendar.in_advance)


def _measured(calendar: Calendar, day_count: DayCount, a_year: int, most: int) -> Iterator[Beat]:
    """Periods as a day count measures them; those of one length that follow each other together."""

    def span(begins: date, ends: date) -> Span:
        return Span(a_year * year_fraction(day_count, begins, ends))

    periods = islice(calendar.periods(), most)
    spans = [span(begins, ends) for begins, ends in periods]
    number = 1
    stub = span(calendar.start, calendar.first) if calendar.in_advance else NO_TIME
    if stub.simple:
        yield Beat(1, 1, stub, spans[0])
        spans, number = spans[1:], 2
    for alike, group in groupby(spans):
        length = len(list(group))
        yield _beat(number, number + length - 1, alike, advance=calendar.in_advance)
        number += length


@lru_cache(maxsize=64)
def interests(beats: Beats, rate: Fraction) -> tuple[tuple[Fraction, Fraction], ...]:
    """Interest on 1 before and after the payments of each beat."""
    return tuple((beat.before.interest(rate), beat.after.interest(rate)) for beat in beats)


def plain_line(terms: Terms) -> Line:
    """The line of a loan without clauses: its beats at its rate."""
    stretches = tuple(
        Stretch(beat.first, beat.last, before, after, terms.payment)
        for beat, (before, after) in zip(
            terms.beats, interests(terms.beats, terms.rate), strict=True
        )
    )
    is_open = terms.count is None
    return Line(terms.principal, stretches, terms.balance, is_open, most=terms.most_payments)


def timetable(loan: Loan) -> Timetable:
    """How time is counted in a document."""
    advance = loan.timing == "in-advance"
    return Timetable(loan.calendar, loan.day_count, loan.payments_a_year, advance)
