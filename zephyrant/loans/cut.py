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
from itertools import islice, pairwise
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
from .parts import VerbName
from .rates import as_decimal, as_fraction

_NOTHING = Decimal(0)
#: The kind of clause that replaces what another kind says.
_OVER: dict[VerbName, VerbName | None] = {"payment": "pay", "pay": None, "rate": None}


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


def moves_only_last(terms: Terms, name: str) -> bool:
    """Whether an amount, `payment` or one of a clause by its path, stands in the last place alone:
    that of the last payment, or of the end where clauses alone are the loan."""
    if not terms.puts:
        return name == "payment" and terms.count == 1
    return _Cutting(terms).moves_only_last(name)


class GivesWay(NamedTuple):
    """Payments (of a rate the periods) for which a clause holds and another one of its kind, by its
    place in the list, wins."""

    first: int
    last: int
    wins: int


def giving_way(terms: Terms) -> dict[int, list[GivesWay]]:
    """Where each clause, by its place in the list, gives way to another."""
    return _Cutting(terms).giving_way()


def fee_bases(terms: Terms, place: int) -> list[tuple[int | date, Decimal]]:
    """Where a fee in percent is taken, and the money advanced there that it is of; nothing where
    it is of the principal."""
    return _Cutting(terms).bases(place)


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
        #: The day between two payments with which a loan of clauses alone ends.
        self.stop: date | None = None
        self.last = self._last()
        if self.stop is not None:
            self.due = self._due_or_stop
        self.moments: dict[int, _Moment] = {}
        self.lent_until = 0
        for put in terms.puts:
            self._gather(put)

    def _last(self) -> int:
        terms = self.terms
        if terms.count:
            return terms.count
        if terms.count is None:
            last = terms.beats[-1].last
            return min(terms.open_to if last is None else last, terms.most_payments)
        places = [place for put in terms.puts for place in (put.at, put.begin, put.to)]
        ints = [place for place in places if isinstance(place, int)]
        # Money of a stretch moves on payment days: the last of them lies on or before its end.
        spans = [
            self._number_of(put.to, after=put.verb == "rate")[0]
            for put in terms.puts
            if isinstance(put.to, date)
        ]
        begins = [
            self._number_of(put.begin)[0] for put in terms.puts if isinstance(put.begin, date)
        ]
        numbers = [*ints, *spans, *begins, 1]
        days = [put.at for put in terms.puts if isinstance(put.at, date)]
        if not days:
            return max(numbers)
        on_days, is_on = self._number_of(max(days))
        if on_days > max(numbers) and not is_on:
            self.stop = max(days)
        return max([*numbers, on_days])

    def _due_or_stop(self, number: int) -> date:
        """The day of a payment; that of the last one is the end of the loan."""
        if self.calendar is None:
            raise ValueError("a number without dates")
        return self.stop if self.stop and number == self.last else self.calendar.payment(number)

    # Where things stand

    def _number_of(self, day: date, *, after: bool = True) -> tuple[int, bool]:
        """The first payment on or after a day (not `after`: the last on or before it), and whether
        it falls on it; 0: the start."""
        if self.calendar is None or self.due is None:
            raise ValueError("a day without dates")
        if day == self.calendar.start:
            return 0, True
        most = self.calendar.most_payments()
        low, high = 1, 1
        while high < most and self.due(high) < day:
            low, high = high, min(2 * high, most)
        number = bisect_left(range(low, high + 1), day, key=self.due) + low
        is_on = number <= most and self.due(number) == day
        return (number if after or is_on else number - 1), is_on

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
                self._lends(put, max(1, period), amount)
                return
        for number in self._payments(put):
            moment, amount = self._moment(number), self._money(put, number)
            if put.verb == "repay":
                moment.repay += amount
            elif put.verb == "advance":
                moment.advance += amount
                self._lends(put, number, amount)
            else:
                moment.fee += amount

    def _lends(self, put: Put, number: int, amount: Decimal) -> None:
        """Notes that more is lent; what goes on to the end of a loan does not say when that is."""
        says_when = self.terms.count is not None or put.at is not None or put.to is not None
        if put.verb == "advance" and amount and says_when:
            self.lent_until = max(self.lent_until, number)

    def _moment(self, number: int) -> _Moment:
        return self.moments.setdefault(number, _Moment())

    def _money(self, put: Put, number: int, *, inner: bool = False) -> Decimal:
        """The amount of a clause; a fee in percent is of the money advanced there, else of the
        principal."""
        cash = self.terms.cash
        if not put.of_money:
            return put.amount if cash is None else cash.amount(put.amount)
        share = (
            put.amount * (self._advanced(put, number, inner=inner) or self.terms.principal) / 100
        )
        return share if cash is None else cash.amount(share)

    def _advanced(self, put: Put, number: int, *, inner: bool) -> Decimal:
        """What is lent at the place of a clause."""
        advanced = self.terms.principal if number == 0 else _NOTHING
        for each in self.terms.puts:
            if each.verb != "advance":
                continue
            if inner:
                is_there = each.at == put.at
            elif isinstance(each.at, date):
                # Where money moves: in advance the day of the start is that of payment 1, too.
                is_there = self._number_of(each.at) == (number, True)
            else:
                is_there = self._covers(each, number)
            advanced += each.amount if is_there else _NOTHING
        return advanced

    # What clauses come to

    def giving_way(self) -> dict[int, list[GivesWay]]:
        """Where each clause gives way; a payment gives way to `pay`, too."""
        found: dict[int, list[GivesWay]] = {}
        for verb, over in _OVER.items():
            places = [place for place, put in enumerate(self.terms.puts) if put.verb == verb]
            rivals = [put for put in self.terms.puts if put.verb in (verb, over)]
            if not places or len(rivals) < 2:
                continue
            for first, last in self._alike(rivals):
                day = self._begins_on(first)
                wins = self._rate_ruling(first, day) if verb == "rate" else self.ruling(verb, first)
                if verb == "payment" and (paid := self.ruling("pay", first)) is not None:
                    wins = paid
                for place in places:
                    put = self.terms.puts[place]
                    holds = (
                        self._rate_covers(put, first, day)
                        if verb == "rate"
                        else self._covers(put, first)
                    )
                    if holds and wins is not None and wins != place:
                        found.setdefault(place, []).append(GivesWay(first, last, wins))
        return found

    def _alike(self, puts: list[Put]) -> Iterator[tuple[int, int]]:
        """Stretches of payments, each as a whole in the same of some clauses."""
        if any(put.months for put in puts):
            yield from ((number, number) for number in range(1, self.last + 1))
            return
        edges = {1, self.last + 1}
        for place in (place for put in puts for place in (put.at, put.begin, put.to)):
            number = self._number_of(place)[0] if isinstance(place, date) else place
            # A day inside a period turns there; the end of a stretch with the number after it.
            edges |= {number, number + 1} if number is not None else set()
        inside = sorted(edge for edge in edges if 1 <= edge <= self.last + 1)
        yield from ((first, after - 1) for first, after in pairwise(inside))

    def _begins_on(self, number: int) -> date | None:
        """The day a period begins."""
        if self.calendar is None or self.due is None:
            return None
        before = number if self.time.in_advance else number - 1
        return self.due(before) if before else self.calendar.start

    def bases(self, place: int) -> list[tuple[int | date, Decimal]]:
        """Where a fee in percent is taken, and the money advanced there that it is a percent of;
        nothing where it is of the principal."""
        put = self.terms.puts[place]
        if isinstance(put.at, date):
            number, is_on = self._number_of(put.at)
            if not is_on:
                return [(put.at, self._advanced(put, number, inner=True))]
        return [
            (number, self._advanced(put, number, inner=False)) for number in self._payments(put)
        ]

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
        place = self._rate_ruling(number, day)
        rate = None if place is None else self.terms.puts[place].rate
        return self.terms.rate if rate is None else rate

    def _rate_ruling(self, number: int, day: date | None) -> int | None:
        """Of the clauses that set the rate of a period, or of a day of it, the one that wins."""
        ranks = [
            (self._rate_begins(put), index)
            for index, put in enumerate(self.terms.puts)
            if put.verb == "rate" and self._rate_covers(put, number, day)
        ]
        return max(ranks)[-1] if ranks else None

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
        if self.stop is not None:
            ends = min(ends, self.stop)
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
        paid = self.ruling("pay", number)
        if paid is not None:
            return _NOTHING, self.terms.puts[paid].pay == "interest"
        stated = self.ruling("payment", number)
        amount = base = self.terms.payment if stated is None else self.terms.puts[stated].amount
        for put in self.terms.puts:
            if put.verb == "step":
                amount = self._stepped(put, number, amount)
        cash = self.terms.cash
        if cash is None:
            return amount, False
        return (cash.stated_payment(base) if amount == base else cash.payment(amount)), False

    def ruling(self, verb: VerbName, number: int) -> int | None:
        """Of the clauses of one kind that hold for a payment the place in the list of the one that
        wins: one at a payment beats a stretch, then the later beginning wins, then the later in the
        list."""
        ranks = [
            (put.at is not None, self.begins(put), index)
            for index, put in enumerate(self.terms.puts)
            if put.verb == verb and self._covers(put, number)
        ]
        return max(ranks)[-1] if ranks else None

    def moves_only_last(self, name: str) -> bool:
        """Whether an amount stands in the last place alone."""
        is_paid = name.endswith(("payment", "amount"))
        if is_paid and self.ruling("pay", self.last) is not None:
            return False
        if name == "payment":
            return all(
                self.ruling("payment", number) is not None or self.ruling("pay", number) is not None
                for number in range(1, self.last)
            )
        place = int(name.split(".")[1])
        put = self.terms.puts[place]
        if put.verb == "payment" and self.ruling("payment", self.last) != place:
            return False
        # The last of its payments first: a long stretch is not gone through.
        return next(self._payments(put), None) == self.last

    def begins(self, put: Put) -> int:
        """The payment with which a clause begins: of a day the first on or after it, of months of
        the year without a beginning the first of all."""
        place = put.at if put.at is not None else put.begin
        if isinstance(place, date):
            return self._number_of(place)[0]
        return 1 if place is None else place

    def _stepped(self, put: Put, number: int, amount: Decimal) -> Decimal:
        begins = self.begins(put)
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
        has_payments = terms.count != 0
        return Line(
            principal,
            tuple(self.stretches() if has_payments else self._joined()),
            terms.balance,
            is_open=terms.count is None,
            has_payments=has_payments,
            cuts=has_payments,
            most=terms.most_payments,
            lent_until=self.lent_until,
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
                moves,
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
                inner.append(Inner(amount, share, is_after, is_fee, day))
            if self.terms.count == 0 and period.number == self.last:
                # A loan of clauses alone ends with the last of them.
                after = Fraction(0)
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
        """Without payments: a stretch up to each payment's place at or before which something
        happens, and up to the end.

        What lies between two of them is grown at once. In advance the money of a period moves after
        its payment's place, on the way to the next.
        """
        quiet, lead = Fraction(1), Fraction(0)
        moved: tuple[Inner, ...] = ()
        for each in self.each():
            inner = (*moved, *(one for one in each.inner if not one.is_after))
            grown = _tidy(quiet * (1 + lead) * (1 + each.before))
            if inner or not each.is_plain or each.first == self.last:
                yield each._replace(
                    before=grown - 1,
                    after=Fraction(0),
                    inner=inner,
                    ahead=quiet - 1,
                    day=self.stop if each.first == self.last else None,
                )
                grown = Fraction(1)
            quiet, lead = grown, each.after
            moved = tuple(one._replace(is_after=False) for one in each.inner if one.is_after)


def _tidy(growth: Fraction) -> Fraction:
    """A growth kept to as many digits as a rate is."""
    if growth.denominator < 10**40:
        return growth
    with precise(140):
        return as_fraction(as_decimal(growth) - 1) + 1
