"""The line cut where clauses change it: each period with its rate, its payment and what happens.

The payment at k is the document's, replaced by a `payment` clause (one `at` k beats a stretch, of
two stretches the later one wins, of two that begin together the later in the list), then stepped,
then replaced by `pay`; `repay` is always on top. At one moment interest accrues, then advances and
fees, then payments and repayments.
"""

from bisect import bisect_left
from collections.abc import Iterator
from dataclasses import dataclass, field, replace
from datetime import date, timedelta
from decimal import Decimal
from fractions import Fraction
from functools import cache
from itertools import islice
from typing import NamedTuple

from .dates import year_fraction
from .figures import precise
from .line import (
    NO_TIME,
    Inner,
    Line,
    Put,
    Span,
    Stretch,
    Terms,
    Timetable,
    plain_line,
)
from .rates import as_decimal, as_fraction

_NOTHING = Decimal(0)


class Fee(NamedTuple):
    """A fee: what, and where it is taken: at a payment (0: the start) or on a day between two."""

    place: int | date
    amount: Decimal
    taken: str


class _Period(NamedTuple):
    """A period between two payments."""

    number: int
    before: Span
    after: Span
    begins: date | None
    ends: date | None


@dataclass
class _Moment:
    """What happens at a payment besides it."""

    advance: Decimal = _NOTHING
    fee: Decimal = _NOTHING
    repay: Decimal = _NOTHING
    inner: list[tuple[date, Decimal, bool]] = field(default_factory=list)


def lay_out(terms: Terms) -> Line:
    """The line of a loan, with all its clauses."""
    if not terms.puts:
        return plain_line(terms)
    return _Cutting(terms).line()


def fees_of(terms: Terms) -> list[Fee]:
    """Every fee of a loan, in money."""
    return _Cutting(terms).fees() if terms.puts else []


class Between(NamedTuple):
    """Money that moves on a day between two payments, above zero what the borrower receives;
    `number` is that of the period, and of the row it is told in."""

    number: int
    day: date
    amount: Decimal


def between(terms: Terms) -> list[Between]:
    """All of it; a fee added to what is owed moves nothing."""
    if not terms.puts:
        return []
    return [
        Between(max(number, 1), day, amount)
        for number, moment in _Cutting(terms).moments.items()
        for day, amount, is_fee in moment.inner
        if not is_fee
    ]


def periods_of(terms: Terms) -> tuple[Stretch, ...]:
    """Every period of a loan on its own, even where only clauses are the loan."""
    return tuple(_Cutting(terms).each())


class Accrued(NamedTuple):
    """What accrues from a payment to a day before the next: `interest` on 1 owed after it, the
    money that moved meanwhile, and what a day more adds."""

    interest: Fraction
    inner: tuple[Inner, ...]
    next_day: Fraction


class Accruals:
    """Interest between the payments of a loan on dates."""

    def __init__(self, terms: Terms, last: int) -> None:
        self._cutting = _Cutting(terms)
        self._periods = list(islice(self._cutting.periods(), last))

    def whole(self, number: int) -> Fraction:
        """Interest on 1 over a whole period."""
        period = self._periods[number - 1]
        before, after = self._cutting.grown(period)
        return (1 + before) * (1 + after) - 1

    def until(self, number: int, day: date) -> Accrued:
        """From payment `number` (0: the start) to a day before the next one."""
        return self._cutting.until(self._periods, number, day)


def level_points(terms: Terms) -> list[int]:
    """The payments from which on the regular payment is set anew, in order."""
    if not any(put.levels for put in terms.puts):
        return []
    return sorted(set(_Cutting(terms).level_points()))


def known_at(terms: Terms, number: int) -> Terms:
    """The terms as known when the payment is set anew from `number` on: what sets it anew later is
    not foreseen."""
    cutting = _Cutting(terms)
    puts = []
    for put in terms.puts:
        if not put.levels:
            puts.append(put)
            continue
        points = cutting.points_of(put)
        if not points or points[0] > number:
            continue
        many = put.verb != "rate" and put.at is None
        puts.append(put._replace(to=number - 1) if many else put)
    return replace(terms, puts=tuple(puts))


class _Cutting:
    """One line being cut; nothing outlives it."""

    def __init__(self, terms: Terms) -> None:
        self.terms = terms
        self.time: Timetable = terms.time
        self.calendar = terms.time.calendar
        self.due = cache(self.calendar.payment) if self.calendar else None
        self.last = self._last()
        self.moments: dict[int, _Moment] = {}
        for put in terms.puts:
            self._gather(put)

    def _last(self) -> int:
        terms = self.terms
        if terms.count:
            return terms.count
        if terms.count is None:
            last = terms.beats[-1].last
            return last if last is not None else terms.open_to
        places = [place for put in terms.puts for place in (put.at, put.begin, put.to)]
        ints = [place for place in places if isinstance(place, int)]
        days = [place for place in places if isinstance(place, date)]
        on_days = self._number_of(max(days))[0] if days else 0
        return max([*ints, on_days, 1])

    # Where things stand

    def _number_of(self, day: date) -> tuple[int, bool]:
        """The first payment on or after a day, and whether it falls on it; 0: the start."""
        if self.calendar is None or self.due is None:
            raise ValueError("a day without dates")
        if day == self.calendar.start:
            return 0, True
        low, high = 1, 1
        while self.due(high) < day:
            low, high = high, 2 * high
        number = bisect_left(range(low, high + 1), day, key=self.due) + low
        return number, self.due(number) == day

    def _covers(self, put: Put, number: int) -> bool:
        """Whether a clause holds for a payment."""
        due = self.due(number) if self.due and number else None
        if put.at is not None:
            if isinstance(put.at, int):
                return put.at == number
            return put.at == (due or (self.calendar and self.calendar.start))
        for bound, is_first in ((put.begin, True), (put.to, False)):
            if bound is None:
                continue
            here: int | date | None = number if isinstance(bound, int) else due
            if here is None or (here < bound if is_first else here > bound):  # type: ignore[operator]
                return False
        return put.months is None or (due is not None and due.month in put.months)

    def _payments(self, put: Put) -> Iterator[int]:
        """The payments a clause holds for; 0 is the start."""
        if isinstance(put.at, int):
            yield put.at
            return
        if put.at is not None:
            number, is_on = self._number_of(put.at)
            if is_on:
                yield number
            return
        begin = put.begin if isinstance(put.begin, int) else 1
        end = put.to if isinstance(put.to, int) else self.last
        yield from (number for number in range(begin, end + 1) if self._covers(put, number))

    def _gather(self, put: Put) -> None:
        if put.verb not in ("repay", "advance", "fee") or put.taken in ("from-proceeds", "apart"):
            return
        if isinstance(put.at, date):
            number, is_on = self._number_of(put.at)
            if not is_on:
                amount = self._money(put, number, inner=True)
                period = number - 1 if self.time.in_advance else number
                signed = -amount if put.verb == "repay" else amount
                self._moment(period).inner.append((put.at, signed, put.verb == "fee"))
                return
        for number in self._payments(put):
            moment, amount = self._moment(number), self._money(put, number)
            if put.verb == "repay":
                moment.repay += amount
            elif put.verb == "advance":
                moment.advance += amount
            else:
                moment.fee += amount

    def _moment(self, number: int) -> _Moment:
        return self.moments.setdefault(number, _Moment())

    def _money(self, put: Put, number: int, *, inner: bool = False) -> Decimal:
        """The amount of a clause; a fee in percent is of the money advanced there, else of the
        principal."""
        cash = self.terms.cash
        if not put.of_money:
            return put.amount if cash is None else cash.amount(put.amount)
        advanced = self.terms.principal if number == 0 else _NOTHING
        for each in self.terms.puts:
            if each.verb == "advance" and (
                each.at == put.at if inner else self._covers(each, number)
            ):
                advanced += each.amount
        share = put.amount * (advanced or self.terms.principal) / 100
        return share if cash is None else cash.amount(share)

    def fees(self) -> list[Fee]:
        """Every fee, whichever way it is taken."""
        found = []
        for put in self.terms.puts:
            if put.verb != "fee":
                continue
            taken = put.taken or "from-proceeds"
            if isinstance(put.at, date):
                number, is_on = self._number_of(put.at)
                if not is_on:
                    found.append(Fee(put.at, self._money(put, number, inner=True), taken))
                    continue
            found += [
                Fee(number, self._money(put, number), taken) for number in self._payments(put)
            ]
        return found

    # Periods, rates and payments

    def periods(self) -> Iterator[_Period]:
        """Every period, as far as the loan may run."""
        dates = self.calendar.periods() if self.calendar else None
        for beat in self.terms.beats:
            last = self.last if beat.last is None else min(beat.last, self.last)
            for number in range(beat.first, last + 1):
                begins, ends = next(dates) if dates else (None, None)
                yield _Period(number, beat.before, beat.after, begins, ends)

    def _rate_at(self, number: int, day: date | None) -> Fraction:
        """The rate that holds in a period, on a day of it where days matter."""
        best: tuple[int, int] | None = None
        rate = self.terms.rate
        for index, put in enumerate(self.terms.puts):
            if put.verb != "rate" or put.rate is None:
                continue
            if not self._rate_covers(put, number, day):
                continue
            here = (self._rate_begins(put), index)
            if best is None or here >= best:
                best, rate = here, put.rate
        return rate

    def _rate_begins(self, put: Put) -> int:
        """Where a rate begins, to be compared with where others do: on which day of a dated loan,
        else in which period."""
        if isinstance(put.begin, date):
            return put.begin.toordinal()
        number = put.begin or 0
        if self.calendar is None or self.due is None:
            return number
        number -= 0 if self.time.in_advance else 1
        return (self.due(number) if number > 0 else self.calendar.start).toordinal()

    def _rate_covers(self, put: Put, number: int, day: date | None) -> bool:
        begin, to = put.begin, put.to
        if isinstance(begin, int) and number < begin:
            return False
        if isinstance(begin, date) and (day is None or day < begin):
            return False
        if isinstance(to, int) and number > to:
            return False
        return not (isinstance(to, date) and (day is None or day >= to))

    def _cuts(self, begins: date, ends: date) -> list[date]:
        """Days inside a period on which the rate changes."""
        days = {
            place
            for put in self.terms.puts
            if put.verb == "rate"
            for place in (put.begin, put.to)
            if isinstance(place, date) and begins < place < ends
        }
        return sorted(days)

    def _interest(
        self, period: _Period, span: Span, begins: date | None, ends: date | None
    ) -> Fraction:
        """Interest on 1 over a period, or from a day of it to its end."""
        if span == NO_TIME:
            return Fraction(0)
        if begins is None or ends is None or period.begins is None or period.ends is None:
            return span.interest(self._rate_at(period.number, None))
        cuts = self._cuts(begins, ends)
        whole = not cuts and (begins, ends) == (period.begins, period.ends)
        if whole:
            return span.interest(self._rate_at(period.number, begins))
        total = Fraction(0)
        length = (period.ends - period.begins).days
        for one, other in zip([begins, *cuts], [*cuts, ends], strict=True):
            rate = self._rate_at(period.number, one)
            if self.time.day_count == "equal":
                total += span.interest(rate) * Fraction((other - one).days, length)
            else:
                part = year_fraction(self.time.day_count, one, other)
                total += rate * self.time.a_year * part
        return total

    def _payment(self, number: int) -> tuple[Decimal, bool]:
        """What is paid regularly at a payment, or that it is the interest only."""
        if self.terms.count == 0:
            return _NOTHING, False
        amount = self.terms.payment
        best: tuple[bool, tuple[int, int], int] | None = None
        for index, put in enumerate(self.terms.puts):
            if put.verb == "payment" and self._covers(put, number):
                rank = (put.at is not None, self._begins(put), index)
                if best is None or rank >= best:
                    best, amount = rank, put.amount
        for put in self.terms.puts:
            if put.verb == "step":
                amount = self._stepped(put, number, amount)
        paid: tuple[tuple[int, int], int] | None = None
        interest_only = False
        for index, put in enumerate(self.terms.puts):
            if put.verb == "pay" and self._covers(put, number):
                here = (self._begins(put), index)
                if paid is None or here >= paid:
                    paid, interest_only = here, put.pay == "interest"
        if paid is not None:
            return _NOTHING, interest_only
        cash = self.terms.cash
        return (amount if cash is None else cash.payment(amount)), False

    def _begins(self, put: Put) -> tuple[int, int]:
        """The payment with which a clause begins, and the day: of two that begin with the same
        payment the later day counts; the payment's number stands for its own, the latest."""
        place = put.at if put.at is not None else put.begin
        if isinstance(place, date):
            return self._number_of(place)[0], place.toordinal()
        return place or 0, date.max.toordinal()

    def _stepped(self, put: Put, number: int, amount: Decimal) -> Decimal:
        begins, _ = self._begins(put)
        last = number
        if isinstance(put.to, int):
            last = min(number, put.to)
        elif put.to is not None and self.due:
            while last >= begins and self.due(last) > put.to:
                last -= 1
        if last < begins:
            return amount
        steps = (last - begins) // put.every + 1
        if put.by_percent:
            return amount * (1 + put.amount / 100) ** steps
        return amount + put.amount * steps

    def level_points(self) -> Iterator[int]:
        """The payments from which on the regular payment is set anew."""
        for put in self.terms.puts:
            if put.levels:
                yield from (number for number in self.points_of(put) if number <= self.last)

    def points_of(self, put: Put) -> list[int]:
        """Of one clause: the payments that follow what it does."""
        if put.verb == "rate":
            if not isinstance(put.begin, date):
                return [max(1, put.begin or 0)]
            number, is_on = self._number_of(put.begin)
            # In arrears a payment's day is the first of the period after it.
            return [max(1, number + (is_on and not self.time.in_advance))]
        if isinstance(put.at, date):
            number, is_on = self._number_of(put.at)
            return [number + 1 if is_on else number]
        return [number + 1 for number in self._payments(put)]

    # The line itself

    def line(self) -> Line:
        """The line."""
        terms = self.terms
        start = self.moments.get(0, _Moment())
        principal = terms.principal + start.advance + start.fee - start.repay
        stretches = self._joined() if terms.count == 0 else self.stretches()
        last = self.moments.get(self.last)
        settles = self._last_pays() if terms.count != 0 else bool(last and last.repay)
        return Line(
            principal,
            tuple(stretches),
            terms.balance,
            is_open=terms.count is None,
            settles=settles,
            cuts=terms.count != 0,
        )

    def _last_pays(self) -> bool:
        if self.terms.count is None:
            return True
        amount, interest_only = self._payment(self.last)
        return bool(amount) or not (
            interest_only or any(put.verb == "pay" for put in self.terms.puts)
        )

    def stretches(self) -> Iterator[Stretch]:
        """The periods, those that are alike together."""
        pending: Stretch | None = None
        for each in self.each():
            alike = (
                pending is not None
                and pending.is_quiet
                and each.is_quiet
                and pending[2:6] == each[2:6]
            )
            if pending is not None and alike:
                pending = pending._replace(last=each.last)
                continue
            if pending is not None:
                yield pending
            pending = each
        if pending is not None:
            yield pending

    def _has_stub(self, period: _Period) -> bool:
        """Whether interest runs before the first payment in advance."""
        return self.time.in_advance and period.number == 1 and period.before != NO_TIME

    def _up_to_payment(self, period: _Period) -> _Period:
        """The part of a period that lies before its payment."""
        begins, ends = period.begins, period.ends
        if self.calendar and self._has_stub(period):
            begins, ends = self.calendar.start, period.begins
        return _Period(period.number, period.before, NO_TIME, begins, ends)

    def grown(self, period: _Period) -> tuple[Fraction, Fraction]:
        """Interest on 1 before a period's payment and after it."""
        shift = self._up_to_payment(period)
        before = self._interest(shift, period.before, shift.begins, shift.ends)
        return before, self._interest(period, period.after, period.begins, period.ends)

    def until(self, periods: list[_Period], number: int, day: date) -> Accrued:
        """What accrues from payment `number` to a day before the next."""
        in_advance = self.time.in_advance
        place = number if in_advance and number else number + 1
        if place > len(periods):
            return Accrued(Fraction(0), (), Fraction(0))
        period = periods[place - 1]
        spot, span = period, period.after
        if not (in_advance and number):
            spot, span = self._up_to_payment(period), period.before

        def accrued(begins: date | None, ends: date) -> Fraction:
            return self._interest(spot, span, begins, ends)

        moved = self.moments.get(number if in_advance else place, _Moment()).inner
        inner = tuple(
            Inner(
                amount,
                accrued(moves, day) if moves < day else Fraction(0),
                in_advance,
                is_fee,
            )
            for moves, amount, is_fee in moved
            if moves <= day
        )
        if self.time.day_count in ("30/360", "30E/360"):
            daily = self._rate_at(period.number, day) * self.time.a_year / 360
        else:
            daily = accrued(day, day + timedelta(days=1))
        return Accrued(accrued(spot.begins, day), inner, daily)

    def each(self) -> Iterator[Stretch]:
        """Every period on its own."""
        for period in self.periods():
            moment = self.moments.get(period.number)
            payment, interest_only = self._payment(period.number)
            in_advance = self.time.in_advance
            stub = self._has_stub(period)
            shift = self._up_to_payment(period)
            before, after = self.grown(period)
            inner = []
            early = self.moments.get(0)
            days = list(moment.inner) if moment else []
            if stub and early:
                days += early.inner
            for day, amount, is_fee in days:
                is_after = in_advance and day > (period.begins or day)
                spot = period if is_after or not stub else shift
                span = period.after if is_after else period.before
                share = self._interest(spot, span, day, spot.ends)
                inner.append(Inner(amount, share, is_after, is_fee))
            yield Stretch(
                period.number,
                period.number,
                before,
                after,
                payment,
                interest_only=interest_only,
                advance=moment.advance if moment else _NOTHING,
                fee=moment.fee if moment else _NOTHING,
                repay=moment.repay if moment else _NOTHING,
                inner=tuple(inner),
            )

    def _joined(self) -> Iterator[Stretch]:
        """Without payments: a stretch for each moment at which something happens, and the end.

        What lies between two of them is grown at once.
        """
        growth = Fraction(1)
        for each in self.each():
            busy = not each.is_plain or each.first == self.last
            grown = _tidy(growth * (1 + each.before))
            if busy:
                yield each._replace(before=grown - 1, after=Fraction(0))
            growth = _tidy((Fraction(1) if busy else grown) * (1 + each.after))


def _tidy(growth: Fraction) -> Fraction:
    """A growth kept to as many digits as a rate is."""
    if growth.denominator < 10**40:
        return growth
    with precise(140):
        return as_fraction(as_decimal(growth) - 1) + 1
