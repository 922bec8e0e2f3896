"""The line cut where clauses change it: each period with its rate, its payment and what happens.

The payment at k is the document's, replaced by a `payment` clause (one `at` k beats a stretch, of
two stretches the later one wins, of two that begin together the later in the list), then stepped,
then replaced by `pay`; `repay` is always on top. At one moment interest accrues, then advances and
fees, then payments and repayments.
"""

from bisect import bisect_left, bisect_right
from collections.abc import Iterator, Sequence
from dataclasses import replace
from datetime import date, timedelta
from decimal import Decimal
from fractions import Fraction
from functools import cached_property
from itertools import pairwise
from typing import NamedTuple

from ..budget import look
from ..calendars.dates import year_fraction
from ..document.clauses import VerbName
from ..numbers.decimals import precise
from ..quotes.conversion import as_decimal, as_fraction
from .line import Inner, Line, Stretch, plain_line
from .periods import NO_TIME, PeriodRun, Span, interests
from .places import Holding, Pieces, Places, Steps, in_force, turning
from .terms import Provision, Terms

_NOTHING = Decimal(0)
#: Later than every day of a period.
_ANY_DAY = date.max.toordinal() + 1


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


class _Moved(NamedTuple):
    """Money that moves on a day between two payments: above zero what is added to what is owed."""

    day: date
    amount: Decimal
    is_fee: bool


def lay_out(terms: Terms) -> Line:
    """The line of a loan, with all its clauses."""
    if not terms.provisions:
        return plain_line(terms)
    return _Cutting(terms).line()


def fees_of(terms: Terms) -> list[Fee]:
    """Every fee of a loan, in money."""
    return _Cutting(terms).fees() if terms.provisions else []


class Between(NamedTuple):
    """Money that moves on a day between two payments, above zero what the borrower receives;
    `number` is that of the period, and of the row it is told in."""

    number: int
    day: date
    amount: Decimal


def between(terms: Terms) -> list[Between]:
    """All of it; a fee added to what is owed moves nothing."""
    if not terms.provisions:
        return []
    return [
        Between(max(number, 1), day, amount)
        for number, moved in _Cutting(terms).on_days.items()
        for day, amount, is_fee in moved
        if not is_fee
    ]


def moves_only_last(terms: Terms, name: str) -> bool:
    """Whether an amount, `payment` or one of a clause by its path, stands in the last place alone:
    that of the last payment, or of the end where clauses alone are the loan."""
    if not terms.provisions:
        return name == "payment" and terms.count == 1
    return _Cutting(terms).moves_only_last(name)


class GivesWay(NamedTuple):
    """Payments (of a rate the periods) for which a clause holds and another one of its kind, by its
    place in the list, wins."""

    first: int
    last: int
    wins: int


def giving_way(terms: Terms, clauses: int) -> dict[int, list[GivesWay]]:
    """Where each of the first so many clauses, by its place in the list, gives way to another."""
    return _Cutting(terms).giving_way(clauses)


def fee_bases(terms: Terms, place: int) -> list[tuple[int | date, Decimal]]:
    """Where a fee in percent is taken, and the money advanced there that it is of; nothing where
    it is of the principal."""
    return _Cutting(terms).bases(place)


def periods_of(terms: Terms) -> tuple[Stretch, ...]:
    """Every period of a loan on its own, even where only clauses are the loan."""
    return tuple(_Cutting(terms).each_alone())


class Accrued(NamedTuple):
    """What accrues from a payment to a day before the next: `interest` on 1 owed after it, the
    money that moved meanwhile, and what a day more adds."""

    interest: Fraction
    inner: tuple[Inner, ...]
    next_day: Fraction


class Accruals:
    """Interest between the payments of a loan on dates; periods are those up to payment `last`."""

    def __init__(self, terms: Terms, last: int) -> None:
        self._cutting = _Cutting(terms)
        self._last = min(last, self._cutting.places.last)

    def whole(self, number: int) -> Fraction:
        """Interest on 1 over a whole period."""
        before, after = self._cutting.grown(self._cutting.period(number))
        return (1 + before) * (1 + after) - 1

    def until(self, number: int, day: date) -> Accrued:
        """From payment `number` (0: the start) to a day before the next one."""
        return self._cutting.until(number, day, self._last)


class Levelling:
    """A line on which the regular payment is set anew, carried on from one such payment to the
    next: what was set before stays, what will set it anew later is not foreseen."""

    def __init__(self, terms: Terms) -> None:
        self._terms = replace(terms, cash=None)
        self._past = _Cutting(self._terms)
        #: Clauses by their place in the list, with the last payment that they may matter to.
        self._known: dict[int, int] = {}
        self._rates: list[Holding] = []
        self._waiting: list[tuple[int, int]] = []
        for place, provision in enumerate(terms.provisions):
            if not provision.levels:
                self._known[place] = self._last_of(place, provision)
            elif provision.verb == "rate":
                self._waiting.append((self._past.points_of(provision)[0], place))
        self._waiting.sort(reverse=True)
        self._ahead: tuple[list[int], Ahead] | None = None

    def _last_of(self, place: int, provision: Provision) -> int:
        places = self._past.places
        if provision.verb == "step":
            # A payment stays as large as its steps have made it.
            return places.last
        if provision.verb == "rate":
            return places.rate_holds(provision, place).ends[0]
        if isinstance(provision.at, date):
            return places.number_of(provision.at)[0]
        return places.payments(provision)[1]

    @property
    def points(self) -> list[int]:
        """The payments from which on the regular payment is set anew, in order."""
        return sorted(set(self._past.level_points()))

    @property
    def principal(self) -> Decimal:
        """What is owed after all that moves at the start."""
        return self._past.principal

    def until(self, first: int, number: int) -> Iterator[Stretch]:
        """The line from one payment up to before another, as it turned out."""
        return self._past.stretches(first, number - 1)

    def known_from(self, number: int) -> "Ahead":
        """The line from a payment on, as it is known when the payment is set anew there."""
        while self._waiting and self._waiting[-1][0] <= number:
            place = self._waiting.pop()[1]
            self._rates.append(self._past.places.rate_holds(self._terms.provisions[place], place))
        self._rates = in_force(self._rates, (number, 0))
        self._known = {place: last for place, last in self._known.items() if last >= number}
        known = sorted([*self._known, *(each.place for each in self._rates)])
        if self._ahead is None or self._ahead[0] != known:
            provisions = tuple(self._terms.provisions[place] for place in known)
            self._ahead = known, Ahead(_Cutting(replace(self._terms, provisions=provisions)))
        return self._ahead[1]

    def set_anew(self, number: int, payment: Decimal) -> None:
        """From a payment on it is this."""
        self._past.set_anew(number, payment)


class Ahead:
    """What is known of a line from a payment on."""

    def __init__(self, cutting: "_Cutting") -> None:
        self._cutting = cutting
        #: Whether all payments are the regular one, wherever it is set: no clause states another.
        self.is_regular = not cutting.stating.spots

    def paying(self, payment: Decimal, number: int) -> Iterator[Stretch]:
        """The line from a payment on, the regular one being this from there."""
        self._cutting.set_anew(number, payment)
        return self._cutting.stretches(number, self._cutting.places.last)


class _Cutting:
    """One line being cut; nothing outlives it."""

    def __init__(self, terms: Terms) -> None:
        self.terms = terms
        self.time = terms.time
        self.calendar = terms.time.calendar
        self.places = Places(terms)
        self.lent_until = 0
        #: What moves on days between two payments, by the number of the period.
        self.on_days: dict[int, list[_Moved]] = {}
        self._anew: tuple[int, Decimal] | None = None
        self._interests: dict[tuple[Span, Fraction], Fraction] = {}
        self._gather()

    def set_anew(self, number: int, payment: Decimal) -> None:
        """From a payment on, and up to where a clause that begins later says another, the regular
        payment is this; those before it are not asked for any more."""
        self._anew = number, payment

    # What clauses come to

    def _of(self, *verbs: VerbName) -> Iterator[tuple[int, Provision]]:
        return (
            (place, provision)
            for place, provision in enumerate(self.terms.provisions)
            if provision.verb in verbs
        )

    def _gather(self) -> None:
        """All that moves besides the payments: at them, and on days between."""
        moves: dict[VerbName, list[tuple[Holding, Decimal]]] = {
            "repay": [],
            "advance": [],
            "fee": [],
        }
        for place, provision in self._of("advance", "repay", "fee"):
            if provision.taken in ("from-proceeds", "apart"):
                continue
            if isinstance(provision.at, date):
                number, is_on = self.places.number_of(provision.at)
                if not is_on:
                    amount = self._money_on_a_day(provision)
                    period = number - 1 if self.time.in_advance else number
                    signed = -amount if provision.verb == "repay" else amount
                    moved = _Moved(provision.at, signed, provision.verb == "fee")
                    self.on_days.setdefault(period, []).append(moved)
                    self._lends(provision, max(1, period), amount)
                    continue
            amounts = list(self._moving(place, provision))
            moves[provision.verb] += amounts
            if provision.verb == "advance" and amounts:
                self._lends(provision, self._last_of(provision), amounts[-1][1])
        self.repaid, self.advanced, self.charged = (
            self.places.added(moves[verb]) for verb in ("repay", "advance", "fee")
        )

    def _moving(self, place: int, provision: Provision) -> Iterator[tuple[Holding, Decimal]]:
        """An amount of a clause, from payment to payment; a percent of what is advanced there, and
        of the principal where that is nothing."""
        first, last = self.places.payments(provision)
        if not provision.of_money:
            yield (
                Holding((first, 0), (last + 1, 0), place, provision.months),
                self._cash(provision.amount),
            )
            return
        for begins, ends, base in self._bases(first, last):
            share = self._cash(provision.amount * (base or self.terms.principal) / 100)
            yield Holding((begins, 0), (ends + 1, 0), place, provision.months), share

    def _bases(self, first: int, last: int) -> Iterator[tuple[int, int, Decimal]]:
        """What is lent at payments, where money moves."""
        if first <= 0 <= last:
            yield 0, 0, self.lent.at(0) + self.terms.principal
        if max(first, 1) <= last:
            yield from self.lent.within(max(first, 1), last)

    @cached_property
    def lent(self) -> Pieces[Decimal]:
        """What clauses lend at each payment, as stated."""
        amounts = []
        for place, provision in self._of("advance"):
            first, last = self.places.payments(provision)
            amounts.append(
                (Holding((first, 0), (last + 1, 0), place, provision.months), provision.amount)
            )
        return self.places.added(amounts)

    def _money_on_a_day(self, provision: Provision) -> Decimal:
        if not provision.of_money:
            return self._cash(provision.amount)
        base = self._lent_on(provision.at) or self.terms.principal
        return self._cash(provision.amount * base / 100)

    def _lent_on(self, day: int | date | None) -> Decimal:
        return sum(
            (provision.amount for _, provision in self._of("advance") if provision.at == day),
            _NOTHING,
        )

    def _cash(self, amount: Decimal) -> Decimal:
        return amount if self.terms.cash is None else self.terms.cash.amount(amount)

    def _last_of(self, provision: Provision) -> int:
        first, last = self.places.payments(provision)
        if provision.months is None:
            return last
        return next(
            (
                each
                for each in range(last, first - 1, -1)
                if self.places.month(each) in provision.months
            ),
            0,
        )

    def _lends(self, provision: Provision, number: int, amount: Decimal) -> None:
        """Notes that more is lent; what goes on to the end of a loan does not say when that is."""
        says_when = (
            self.terms.count is not None or provision.at is not None or provision.to is not None
        )
        if provision.verb == "advance" and amount and says_when:
            self.lent_until = max(self.lent_until, number)

    def bases(self, place: int) -> list[tuple[int | date, Decimal]]:
        """Where a fee in percent is taken, and the money advanced there that it is a percent of;
        nothing where it is of the principal."""
        provision = self.terms.provisions[place]
        if isinstance(provision.at, date) and not self.places.number_of(provision.at)[1]:
            return [(provision.at, self._lent_on(provision.at))]
        return [
            (number, self.lent.at(number) + (_NOTHING if number else self.terms.principal))
            for number in self.places.each(provision)
        ]

    def fees(self) -> list[Fee]:
        """Every fee, whichever way it is taken."""
        found: list[Fee] = []
        for place, provision in self._of("fee"):
            taken = provision.taken or "from-proceeds"
            if isinstance(provision.at, date) and not self.places.number_of(provision.at)[1]:
                found.append(Fee(provision.at, self._money_on_a_day(provision), taken))
                continue
            found += [
                Fee(number, amount, taken)
                for holding, amount in self._moving(place, provision)
                for number in range(holding.begins[0], holding.ends[0])
                if provision.months is None or self.places.month(number) in provision.months
            ]
        return found

    # Which clause holds

    @cached_property
    def stating(self) -> Pieces[int | None]:
        """The clauses that say what the regular payment is."""
        return self._paid_by("payment")

    @cached_property
    def pausing(self) -> Pieces[int | None]:
        """The clauses that say that nothing or the interest only is paid."""
        return self._paid_by("pay")

    def _paid_by(self, verb: VerbName) -> Pieces[int | None]:
        return self.places.strongest(
            self.places.paid_holds(provision, place) for place, provision in self._of(verb)
        )

    @cached_property
    def rating(self) -> Pieces[int | None]:
        """The clauses that set the rate."""
        return self.places.strongest(
            self.places.rate_holds(provision, place) for place, provision in self._of("rate")
        )

    def giving_way(self, clauses: int) -> dict[int, list[GivesWay]]:
        """Where each clause gives way; a payment gives way to `pay`, too."""
        found: dict[int, list[GivesWay]] = {}
        for place, provision in enumerate(self.terms.provisions[:clauses]):
            if provision.verb == "rate":
                holding, ruling = self.places.rate_holds(provision, place), [self.rating]
            elif provision.verb in ("payment", "pay"):
                ruling = [self.stating] if provision.verb == "payment" else []
                holding, ruling = self.places.paid_holds(provision, place), [*ruling, self.pausing]
            else:
                continue
            if ways := self._ways_of(place, provision, holding, ruling):
                found[place] = ways
        return found

    def _ways_of(
        self,
        place: int,
        provision: Provision,
        holding: Holding,
        ruling: Sequence[Pieces[int | None]],
    ) -> list[GivesWay]:
        """Where one clause holds and another of those ruling wins."""
        last, is_rate = self.places.last, provision.verb == "rate"
        turns = turning(ruling) | {holding.begins[0], holding.ends[0], 1, last + 1}
        if is_rate:
            # A rate that turns inside a period is that of the next one's beginning.
            turns |= {number + 1 for number in turns}
        if provision.months:
            turns.update(self.places.turns_of_months)
        ways: list[GivesWay] = []
        for first, after in pairwise(sorted(turn for turn in turns if 1 <= turn <= last + 1)):
            day = self._first_day(first).toordinal() if self.calendar and is_rate else 0
            winners = [wins for each in ruling if (wins := each.at(first, day)) is not None]
            holds = holding.is_at((first, day), self.places.month(first))
            if not holds or not winners or winners[-1] == place:
                continue
            if ways and ways[-1].last == first - 1 and ways[-1].wins == winners[-1]:
                ways[-1] = ways[-1]._replace(last=after - 1)
            else:
                ways.append(GivesWay(first, after - 1, winners[-1]))
        return ways

    def moves_only_last(self, name: str) -> bool:
        """Whether an amount stands in the last place alone."""
        last = self.places.last
        is_paid = name.endswith(("payment", "amount"))
        if is_paid and self.pausing.at(last) is not None:
            return False
        if name == "payment":
            turns = sorted({1, *(turn for turn in turning((self.stating, self.pausing)))})
            return all(
                self.stating.at(number) is not None or self.pausing.at(number) is not None
                for number in turns
                if 1 <= number < last
            )
        place = int(name.split(".")[1])
        provision = self.terms.provisions[place]
        if provision.verb == "payment" and self.stating.at(last) != place:
            return False
        # The first of its payments alone: a long stretch is not gone through.
        return next(self.places.each(provision), None) == last

    # Periods, rates and payments

    def period(self, number: int) -> _Period:
        """A period with its days."""
        run = self._run_of(number)
        begins = ends = None
        if self.calendar:
            # The last period of clauses alone is a whole one, wherever they stop.
            due, first = self.calendar.payment, number if self.time.in_advance else number - 1
            begins, ends = due(first) if first else self.calendar.start, due(first + 1)
        return _Period(number, run.before, run.after, begins, ends)

    def _first_day(self, number: int) -> date:
        """The day a period begins; in advance that of its payment."""
        return self.places.due(number if self.time.in_advance else number - 1)

    def _run_of(self, number: int) -> PeriodRun:
        place = bisect_right(self._runs, number) - 1
        return self.terms.runs[place]

    @cached_property
    def _runs(self) -> list[int]:
        return [run.first for run in self.terms.runs]

    def _rate_at(self, number: int, day: int) -> Fraction:
        """The rate that holds in a period, on a day of it where days matter."""
        place = self.rating.at(number, day)
        rate = None if place is None else self.terms.provisions[place].rate
        return self.terms.rate if rate is None else rate

    @cached_property
    def _days_of_rates(self) -> list[date]:
        days = {
            place for _, provision in self._of("rate") for place in (provision.begin, provision.to)
        }
        return sorted(day for day in days if isinstance(day, date))

    @cached_property
    def _turning_inside(self) -> set[int]:
        """The periods in which a rate may turn."""
        return {self.places.spot(day)[0] for day in self._days_of_rates}

    def _cuts(self, begins: date, ends: date) -> list[date]:
        """Days inside a period on which the rate changes."""
        days = self._days_of_rates
        return days[bisect_right(days, begins) : bisect_left(days, ends)]

    def _over(self, span: Span, rate: Fraction) -> Fraction:
        """Interest on 1 over a whole span."""
        if not span.power:
            return span.simple * rate
        known = self._interests.get((span, rate))
        if known is None:
            known = self._interests[span, rate] = span.interest(rate)
        return known

    def _of_run(self, number: int) -> tuple[Fraction, Fraction]:
        """Interest on 1 before and after a payment, where no rate turns inside its period."""
        place = bisect_right(self._runs, number) - 1
        if not self.rating.spots:
            return self._at_one_rate[place]
        run, rate = self.terms.runs[place], self._rate_at(number, _ANY_DAY)
        return self._over(run.before, rate), self._over(run.after, rate)

    @cached_property
    def _at_one_rate(self) -> tuple[tuple[Fraction, Fraction], ...]:
        return interests(self.terms.runs, self.terms.rate)

    def _interest(
        self, period: _Period, span: Span, begins: date | None, ends: date | None
    ) -> Fraction:
        """Interest on 1 over a period, or from a day of it to its end."""
        if span == NO_TIME:
            return Fraction(0)
        if begins is None or ends is None or period.begins is None or period.ends is None:
            return self._over(span, self._rate_at(period.number, 0))
        if self.places.stop is not None:
            ends = min(ends, self.places.stop)
        cuts = self._cuts(begins, ends)
        whole = not cuts and (begins, ends) == (period.begins, period.ends)
        if whole:
            return self._over(span, self._rate_at(period.number, begins.toordinal()))
        total = Fraction(0)
        length = (period.ends - period.begins).days
        for one, other in zip([begins, *cuts], [*cuts, ends], strict=True):
            rate = self._rate_at(period.number, one.toordinal())
            if self.time.day_count == "equal":
                total += self._over(span, rate) * Fraction((other - one).days, length)
            else:
                part = year_fraction(self.time.day_count, one, other)
                total += rate * self.time.a_year * part
        return total

    def _payment(self, number: int) -> tuple[Decimal, bool]:
        """What is paid regularly at a payment, or that it is the interest only."""
        if self.terms.count == 0:
            return _NOTHING, False
        paid = self.pausing.at(number)
        if paid is not None:
            return _NOTHING, self.terms.provisions[paid].pay == "interest"
        base = self._stated(number)
        amount = base if self.steps.is_none else self.steps.stepped(number, base)
        cash = self.terms.cash
        if cash is None:
            return amount, False
        return (cash.stated_payment(base) if amount == base else cash.payment(amount)), False

    def _stated(self, number: int) -> Decimal:
        """The regular payment before any step."""
        stated = self.stating.at(number)
        provision = None if stated is None else self.terms.provisions[stated]
        if self._anew and self._anew[0] <= number:
            begins, amount = self._anew
            if provision is None or (
                provision.at is None and self.places.begins(provision) <= begins
            ):
                return amount
        return self.terms.payment if provision is None else provision.amount

    @cached_property
    def steps(self) -> Steps:
        """How the payments grow."""
        return Steps((provision for _, provision in self._of("step")), self.places)

    def level_points(self) -> Iterator[int]:
        """The payments from which on the regular payment is set anew."""
        for provision in self.terms.provisions:
            if provision.levels:
                yield from (each for each in self.points_of(provision) if each <= self.places.last)

    def points_of(self, provision: Provision) -> list[int]:
        """Of one clause: the payments that follow what it does."""
        if provision.verb == "rate":
            if not isinstance(provision.begin, date):
                return [max(1, provision.begin or 0)]
            number, is_on = self.places.number_of(provision.begin)
            # In arrears a payment's day is the first of the period after it.
            return [max(1, number + (is_on and not self.time.in_advance))]
        if isinstance(provision.at, date):
            number, is_on = self.places.number_of(provision.at)
            return [number + 1 if is_on else number]
        return [number + 1 for number in self.places.each(provision)]

    # The line itself

    @property
    def principal(self) -> Decimal:
        """What is owed after all that moves at the start."""
        return self.terms.principal + self.advanced.at(0) + self.charged.at(0) - self.repaid.at(0)

    def line(self) -> Line:
        """The line."""
        terms = self.terms
        has_payments = terms.count != 0
        stretches = self.stretches(1, self.places.last) if has_payments else self._joined()
        return Line(
            self.principal,
            tuple(stretches),
            terms.balance,
            is_open=terms.count is None,
            has_payments=has_payments,
            cuts=has_payments,
            most=terms.most_payments,
            lent_until=self.lent_until,
        )

    def stretches(self, first: int, last: int) -> Iterator[Stretch]:
        """The periods from one payment to another, those that are alike together."""
        pending: Stretch | None = None
        for each in self.each(first, last):
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

    def until(self, number: int, day: date, last: int) -> Accrued:
        """What accrues from payment `number` to a day before the next, in periods up to `last`."""
        in_advance = self.time.in_advance
        place = number if in_advance and number else number + 1
        if place > last:
            return Accrued(Fraction(0), (), Fraction(0))
        period = self.period(place)
        spot, span = period, period.after
        if not (in_advance and number):
            spot, span = self._up_to_payment(period), period.before

        def accrued(begins: date | None, ends: date) -> Fraction:
            return self._interest(spot, span, begins, ends)

        inner = tuple(
            Inner(
                amount,
                accrued(moves, day) if moves < day else Fraction(0),
                in_advance,
                is_fee,
                moves,
            )
            for moves, amount, is_fee in self.on_days.get(number if in_advance else place, ())
            if moves <= day
        )
        if self.time.day_count in ("30/360", "30E/360"):
            daily = self._rate_at(period.number, day.toordinal()) * self.time.a_year / 360
        else:
            daily = accrued(day, day + timedelta(days=1))
        return Accrued(accrued(spot.begins, day), inner, daily)

    @cached_property
    def _edges(self) -> list[int]:
        """The payments at which anything may change but a step."""
        last = self.places.last
        kinds = (self.stating, self.pausing, self.rating)
        edges = turning(kinds) | turning((self.repaid, self.advanced, self.charged))
        edges |= {self.lent_until, *self._runs, *self._alone}
        edges |= {each + 1 for each in (self.lent_until, *self._alone)}
        return sorted(each for each in edges if 1 < each <= last)

    @cached_property
    def _alone(self) -> set[int]:
        """The periods that are like no other: money moves or a rate turns within, or a loan of
        clauses alone ends with it."""
        last = self.places.last
        # In advance the period before the last payment's place leads up to the end.
        ends = {last - 1, last} if self.terms.count == 0 else set()
        early = {1} if 0 in self.on_days else set()
        return {*self.on_days, *self._turning_inside, *ends, *early}

    def each_alone(self) -> Iterator[Stretch]:
        """Every period on its own."""
        for each in self.each(1, self.places.last):
            yield each._replace(last=each.first)
            for number in range(each.first + 1, (each.last or each.first) + 1):
                yield each._replace(first=number, last=number)

    def each(self, first: int, last: int) -> Iterator[Stretch]:
        """Runs of periods in which nothing changes."""
        edges = self._edges
        place = bisect_right(edges, first)
        while first <= last:
            until = edges[place] - 1 if place < len(edges) else last
            place += 1
            while first <= min(until, last):
                to = min(until, last)
                if not self.steps.is_none:
                    to = min(to, self.steps.next_after(first) - 1)
                yield from self._run(first, to)
                first = to + 1

    def _run(self, first: int, last: int) -> Iterator[Stretch]:
        look()
        payment, interest_only = self._payment(first)
        inner: tuple[Inner, ...] = ()
        if first in self._alone:
            period = self.period(first)
            before, after = self.grown(period)
            inner = tuple(self._moved_in(period))
            if self.terms.count == 0 and first == self.places.last:
                # A loan of clauses alone ends with the last of them.
                after = Fraction(0)
        else:
            before, after = self._of_run(first)
        run = Stretch(
            first,
            last,
            before,
            after,
            payment,
            interest_only=interest_only,
            advance=self.advanced.at(first),
            fee=self.charged.at(first),
            repay=self.repaid.at(first),
            inner=inner,
        )
        if interest_only and not run.is_quiet:
            # What is owed falls though only the interest is paid: when, is asked for one by one.
            yield from (run._replace(first=each, last=each) for each in range(first, last + 1))
        else:
            yield run

    def _moved_in(self, period: _Period) -> Iterator[Inner]:
        """What moves on days of a period, each with its interest to the end of it."""
        stub, shift = self._has_stub(period), self._up_to_payment(period)
        days = list(self.on_days.get(period.number, ()))
        if stub:
            days += self.on_days.get(0, ())
        for day, amount, is_fee in days:
            is_after = self.time.in_advance and day > (period.begins or day)
            spot = period if is_after or not stub else shift
            span = period.after if is_after else period.before
            yield Inner(amount, self._interest(spot, span, day, spot.ends), is_after, is_fee, day)

    def _joined(self) -> Iterator[Stretch]:
        """Without payments: a stretch up to each payment's place at or before which something
        happens, and up to the end.

        What lies between two of them is grown at once. In advance the money of a period moves after
        its payment's place, on the way to the next.
        """
        quiet, lead = Fraction(1), Fraction(0)
        moved: tuple[Inner, ...] = ()
        for each in self._runs_joined():
            inner = (*moved, *(one for one in each.inner if not one.is_after))
            many = (each.last or each.first) - each.first
            if many:
                whole = (1 + each.before) * (1 + each.after)
                quiet = _tidy(quiet * (1 + lead) * _growth(whole, many))
                lead = Fraction(0)
                each = each._replace(first=each.first + many)  # noqa: PLW2901
            grown = _tidy(quiet * (1 + lead) * (1 + each.before))
            if inner or not each.is_plain or each.first == self.places.last:
                yield each._replace(
                    before=grown - 1,
                    after=Fraction(0),
                    inner=inner,
                    ahead=quiet - 1,
                    day=self.places.stop if each.first == self.places.last else None,
                )
                grown = Fraction(1)
            quiet, lead = grown, each.after
            moved = tuple(one._replace(is_after=False) for one in each.inner if one.is_after)

    def _runs_joined(self) -> Iterator[Stretch]:
        """Runs in which nothing moves; what does, one by one."""
        moves_on = False
        for each in self.each(1, self.places.last):
            last = each.last or each.first
            if each.is_plain and not moves_on:
                yield each
            elif each.is_plain:
                yield each._replace(last=each.first)
                if last > each.first:
                    yield each._replace(first=each.first + 1)
            else:
                for number in range(each.first, last + 1):
                    yield each._replace(first=number, last=number)
            moves_on = any(one.is_after for one in each.inner)


def _growth(whole: Fraction, periods: int) -> Fraction:
    """A growth over so many periods."""
    with precise(140):
        return as_fraction(as_decimal(whole) ** periods)


def _tidy(growth: Fraction) -> Fraction:
    """A growth kept to as many digits as a rate is."""
    if growth.denominator < 10**40:
        return growth
    with precise(140):
        return as_fraction(as_decimal(growth) - 1) + 1
