"""The loan document once more, from its contract alone: dates, clauses, rows to the cent.

Shares no code with the core. Money and rates are exact fractions; where a growth has a fractional
power it is taken to 60 digits. What a document leaves to find is found here by the balance being
affine in every amount; a rate is not sought here, a stated one is rolled.
"""

from calendar import monthrange
from datetime import date, timedelta
from fractions import Fraction
from typing import Any, NamedTuple

from mpmath import mp, mpf

from .documents import PERIODS

MONTHS = {"year": 12, "half-year": 6, "quarter": 3, "two-months": 2, "month": 1}
DAYS = {"four-weeks": 28, "two-weeks": 14, "week": 7, "day": 1}


def nearest(value: Fraction, step: Fraction) -> Fraction:
    """To a multiple of a step, ties away from zero."""
    size = (abs(value) / step + Fraction(1, 2)).__floor__() * step
    return size if value >= 0 else -size


def up(value: Fraction, step: Fraction) -> Fraction:
    return -((-value / step).__floor__()) * step


def months_on(day: date, months: int) -> date:
    total = day.year * 12 + day.month - 1 + months
    year, month = total // 12, total % 12 + 1
    return date(year, month, min(day.day, monthrange(year, month)[1]))


def moved(day: date, every: str, times: int) -> date:
    """A day so many payment periods later; half-months keep to a day and that fifteen days on."""
    if every in DAYS:
        return day + timedelta(days=DAYS[every] * times)
    if every in MONTHS:
        return months_on(day, MONTHS[every] * times)
    whole, half = times // 2, times % 2
    base = months_on(day, whole)
    if not half:
        return base
    if day.day <= 15:
        return base.replace(day=min(day.day + 15, monthrange(base.year, base.month)[1]))
    return months_on(base.replace(day=1), 1).replace(day=day.day - 15)


def odd(begins: date, ends: date, every: str) -> tuple[int, Fraction]:
    """Whole periods before the first payment and the fraction that stands before them."""
    if every in DAYS:
        whole, days = divmod((ends - begins).days, DAYS[every])
        return whole, Fraction(days, DAYS[every])
    whole = 0
    while moved(ends, every, -whole - 1) >= begins:
        whole += 1
    if moved(begins, every, whole + 1) == ends:
        return whole + 1, Fraction(0)
    rest = moved(ends, every, -whole)
    if every == "half-month":
        return whole, Fraction((rest - begins).days, 15)
    months = 0
    while months_on(rest, -months - 1) >= begins:
        months += 1
    days = (months_on(rest, -months) - begins).days
    return whole, (months + Fraction(days, 30)) / MONTHS[every]


def year_part(day_count: str, begins: date, ends: date) -> Fraction:
    """ISDA 2006, 4.16 (b), (d), (e), (f), (g)."""
    days = (ends - begins).days
    if day_count == "actual/365":
        return Fraction(days, 365)
    if day_count == "actual/360":
        return Fraction(days, 360)
    if day_count == "actual/actual":
        part, day = Fraction(0), begins
        while day < ends:
            turn = min(ends, date(day.year + 1, 1, 1))
            length = (date(day.year + 1, 1, 1) - date(day.year, 1, 1)).days
            part += Fraction((turn - day).days, length)
            day = turn
        return part
    first = min(begins.day, 30)
    last = 30 if ends.day == 31 and (day_count == "30E/360" or first == 30) else ends.day
    return Fraction(
        360 * (ends.year - begins.year) + 30 * (ends.month - begins.month) + last - first, 360
    )


class Period(NamedTuple):
    """A time in which interest is reckoned, up to payment `number` or from it on."""

    number: int
    begins: date | None
    ends: date | None
    whole: int
    fraction: Fraction


class Row(NamedTuple):
    number: int
    date: date | None
    opening: Fraction
    interest: Fraction
    payment: Fraction
    repay: Fraction
    advance: Fraction
    fee: Fraction
    closing: Fraction


class Moves(NamedTuple):
    """What is lent, added as fees and repaid at one moment."""

    lent: Fraction
    fees: Fraction
    paid: Fraction

    @property
    def net(self) -> Fraction:
        return self.lent + self.fees - self.paid


class Happening:
    """A row coming about."""

    def __init__(
        self,
        number: int,
        opening: Fraction,
        before: Fraction,
        later: Fraction,
        amount: Fraction,
        here: Moves,
        inside: list[Moves],
        inside_later: list[Moves],
    ) -> None:
        self.number, self.opening, self.before, self.later = number, opening, before, later
        self.amount, self.here = amount, here
        self.inside, self.inside_later = inside, inside_later

    @property
    def rest(self) -> Fraction:
        inside = sum((each.net for each in self.inside), Fraction(0))
        return self.opening + self.before + inside + self.here.net - self.amount

    @property
    def closing(self) -> Fraction:
        return self.rest + self.later + sum((each.net for each in self.inside_later), Fraction(0))

    def met_on_a_day(self, deal: "Deal", balance: Fraction) -> bool:
        """Whether a repayment on a day between two payments ends the loan: it is cut to what is
        owed then, and nothing else happens any more."""
        parts = [(deal.before(self.number), self.opening, self.inside, True)]
        if self.inside_later:
            parts.append((deal.after(self.number), self.rest, self.inside_later, False))
        for period, base, inside, is_before in parts:
            if period is None:
                continue
            days = deal.days_in(period.begins, period.ends)
            for place, day in enumerate(days):
                left = deal.interest(period, day, period.ends)
                gained = base * (deal.interest(period, period.begins, period.ends) - left)
                for moves, since in zip(inside[:place], days, strict=False):
                    gained += moves.net * (deal.interest(period, since, period.ends) - left)
                gained = nearest(gained, deal.cent)
                owed = base + gained + sum(each.net for each in inside[: place + 1])
                if owed > 0 or not inside[place].paid:
                    continue
                if balance:
                    raise NotImplementedError
                cut = inside[place]._replace(paid=inside[place].paid + owed)
                inside[place:] = [cut]
                if is_before:
                    self.before, self.later, self.amount = gained, Fraction(0), Fraction(0)
                    self.here, self.inside_later = Moves(*[Fraction(0)] * 3), []
                else:
                    self.later = gained
                return True
        return False

    def row(self, day: date | None) -> Row:
        every = [self.here, *self.inside, *self.inside_later]
        return Row(
            self.number,
            day,
            self.opening,
            self.before + self.later,
            self.amount,
            sum((each.paid for each in every), Fraction(0)),
            sum((each.lent for each in every), Fraction(0)),
            sum((each.fees for each in every), Fraction(0)),
            self.closing,
        )


class Deal:
    """A document with every figure stated, ready to be rolled."""

    def __init__(self, content: dict[str, Any]) -> None:
        self.content = content
        self.every = content.get("every", "month")
        self.often = PERIODS[self.every]
        self.count = int(content["count"])
        self.advance = content.get("timing") == "in-advance"
        self.day_count = content.get("day_count", "equal")
        self.clauses: list[dict[str, Any]] = content.get("clauses", [])
        start = content.get("start")
        self.start = date.fromisoformat(start) if start else None
        first = content.get("first_payment")
        self.first = date.fromisoformat(first) if first else None
        if self.start and not self.first:
            self.first = self.start if self.advance else moved(self.start, self.every, 1)
        self.cent = Fraction(1, 100)
        rounding = content.get("rounding", {})
        self.to = Fraction(rounding.get("to", "0.01"))
        self.up = rounding.get("payment") == "up"
        self.facts = False  # a rate is asked for

    # Dates and places

    def due(self, number: int) -> date | None:
        """Of a regular loan the payments keep the day of its start, else that of the first."""
        if self.start is None or self.first is None:
            return None
        if number == 0:
            return self.start
        if self.first == moved(self.start, self.every, 0 if self.advance else 1):
            return moved(self.start, self.every, number - (1 if self.advance else 0))
        return moved(self.first, self.every, number - 1)

    def place(self, at: Any) -> int | date:
        return date.fromisoformat(at) if isinstance(at, str) else at

    def number_of(self, at: Any) -> int:
        """The first payment on or after a place."""
        place = self.place(at)
        if isinstance(place, int):
            return place
        if place == self.start:
            return 0
        number = 1
        while (due := self.due(number)) and due < place:
            number += 1
        return number

    def day_of(self, at: Any) -> Any:
        """When a place is, to be compared."""
        place = self.place(at)
        return (self.due(place) or place) if isinstance(place, int) else place

    def holds(self, clause: dict[str, Any], number: int) -> bool:
        """Whether a clause holds for a payment."""
        due = self.due(number)
        if "at" in clause:
            place = self.place(clause["at"])
            return place == (number if isinstance(place, int) else due)
        for name, sign in (("from", 1), ("to", -1)):
            if name in clause:
                place = self.place(clause[name])
                here: Any = number if isinstance(place, int) else due
                if (here < place) if sign > 0 else (here > place):
                    return False
        if number == 0 and "from" not in clause:
            return False
        return "months" not in clause or bool(due and due.month in clause["months"])

    def ruling(self, verb: str, number: int) -> dict[str, Any] | None:
        ranked = [
            ("at" in clause, self.number_of(clause.get("at", clause.get("from", 1))), place)
            for place, clause in enumerate(self.clauses)
            if verb in clause and self.holds(clause, number)
        ]
        return self.clauses[max(ranked)[-1]] if ranked else None

    # Rates

    def periodic(self, quote: dict[str, Any]) -> Fraction:
        percent = Fraction(str(quote["percent"])) / 100
        return percent if quote.get("quoted") == "periodic" else percent / self.often

    def rate_on(self, number: int, day: date | None) -> Fraction:
        best: tuple[Any, int] | None = None
        rate = self.periodic(self.content["rate"])
        for place, clause in enumerate(self.clauses):
            if "rate" not in clause:
                continue
            begin, end = self.place(clause["from"]), self.place(clause.get("to", 10**9))
            if (number < begin) if isinstance(begin, int) else (day is None or day < begin):
                continue
            if (number > end) if isinstance(end, int) else (day is None or day >= end):
                continue
            since: Any = begin
            if self.start and isinstance(begin, int):
                since = self.due(begin if self.advance else begin - 1)
            if best is None or (since, place) >= best:
                best, rate = (since, place), self.periodic(clause["rate"])
        return rate

    def interest(self, period: Period, begins: date | None, ends: date | None) -> Fraction:
        """Interest on 1 over a period or a part of it."""
        if begins is None or ends is None or period.begins is None or period.ends is None:
            return self.rate_on(period.number, None)
        turns = sorted(
            {
                place
                for clause in self.clauses
                if "rate" in clause
                for place in (self.place(clause[name]) for name in ("from", "to") if name in clause)
                if isinstance(place, date) and begins < place < ends
            }
        )
        total, length = Fraction(0), (period.ends - period.begins).days
        for one, other in zip([begins, *turns], [*turns, ends], strict=True):
            rate = self.rate_on(period.number, one)
            if self.day_count != "equal":
                total += rate * self.often * year_part(self.day_count, one, other)
            else:
                total += self.whole(period, rate) * Fraction((other - one).days, length)
        return total

    def whole(self, period: Period, rate: Fraction) -> Fraction:
        """Interest on 1 over a whole period that counts as equal; odd time stands first."""
        if self.content.get("odd_days") == "compound" and period.fraction.denominator > 1:
            with mp.workdps(80):
                times = mpf(period.fraction.numerator) / period.fraction.denominator + period.whole
                grown = (1 + mpf(rate.numerator) / rate.denominator) ** times
                return Fraction(mp.nstr(grown, 65)) - 1
        power = (1 + rate) ** (period.whole + int(period.fraction))
        return (1 + (period.fraction % 1) * rate) * power - 1

    def before(self, number: int) -> Period | None:
        """The time before a payment in which interest is reckoned with it."""
        if self.advance and not (number == 1 and self.start and self.first != self.start):
            return None
        if number > 1 or self.start is None or self.first is None:
            return Period(number, self.due(number - 1), self.due(number), 1, Fraction(0))
        whole, fraction = odd(self.start, self.first, self.every)
        if self.first == moved(self.start, self.every, 1):
            whole, fraction = 1, Fraction(0)
        return Period(number, self.start, self.first, whole, fraction)

    def after(self, number: int) -> Period | None:
        if not self.advance:
            return None
        return Period(number, self.due(number), self.due(number + 1), 1, Fraction(0))

    # Amounts

    def payment(self, number: int) -> tuple[Fraction, bool]:
        """What is paid regularly, or that it is the interest alone."""
        if (pay := self.ruling("pay", number)) is not None:
            return Fraction(0), pay["pay"] == "interest"
        own = self.ruling("payment", number)
        stated = amount = Fraction(str(own["payment"] if own else self.content["payment"]))
        for clause in self.clauses:
            if "step" not in clause:
                continue
            begins = self.number_of(clause["from"])
            last = number
            while "to" in clause and last >= begins and not self.holds({"to": clause["to"]}, last):
                last -= 1
            if last < begins:
                continue
            steps = (last - begins) // clause.get("every", self.often) + 1
            if "percent" in clause["step"]:
                amount *= (1 + Fraction(clause["step"]["percent"]) / 100) ** steps
            else:
                amount += Fraction(clause["step"]["amount"]) * steps
        if not self.rounds:
            return amount, False
        if amount == stated:
            return amount, False
        return (up if self.up else nearest)(amount, self.to), False

    def money(self, clause: dict[str, Any], verb: str, advanced: Fraction) -> Fraction:
        figure = clause[verb]
        amount = Fraction(str(figure)) if not isinstance(figure, dict) else Fraction(0)
        if isinstance(figure, dict):
            of = advanced or Fraction(str(self.content["principal"]))
            amount = of * Fraction(figure["percent"]) / 100
        return nearest(amount, self.cent) if self.rounds else amount

    def at(self, number: int, day: date | None = None) -> "Moves":
        """Advances, fees added and repayments at a payment, or on a day between two."""
        here = [
            clause
            for clause in self.clauses
            if (
                self.holds(clause, number)
                if day is None
                else "at" in clause and self.place(clause["at"]) == day
            )
        ]
        lent = sum(
            (self.money(c, "advance", Fraction(0)) for c in here if "advance" in c), Fraction(0)
        )
        stated = sum((Fraction(str(c["advance"])) for c in here if "advance" in c), Fraction(0))
        if number == 0 and day is None:
            stated += Fraction(str(self.content["principal"]))
        fees = sum(
            (
                self.money(c, "fee", stated)
                for c in here
                if "fee" in c and c.get("taken", "from-proceeds") == "added"
            ),
            Fraction(0),
        )
        paid = sum((self.money(c, "repay", Fraction(0)) for c in here if "repay" in c), Fraction(0))
        return Moves(lent, fees, paid)

    def days_in(self, begins: date | None, ends: date | None) -> list[date]:
        """Days strictly inside a time on which money moves."""
        if begins is None or ends is None:
            return []
        return sorted(
            {
                place
                for clause in self.clauses
                if "at" in clause and ({"repay", "advance", "fee"} & set(clause))
                if clause.get("taken", "added" if "fee" not in clause else "from-proceeds")
                == "added"
                for place in [self.place(clause["at"])]
                if isinstance(place, date) and begins < place < ends
            }
        )

    # Rolling

    rounds = False

    def roll(self) -> Fraction:
        """What is owed at the end, unrounded, never cut."""
        self.rounds = False
        owed = self.lent()
        if self.count == 0:
            return self.events(owed, [])
        for number in range(1, self.count + 1):
            owed = self.happens(number, owed).closing
        return owed

    def lent(self) -> Fraction:
        lent, fees, paid = self.at(0)
        return Fraction(str(self.content["principal"])) + lent + fees - paid

    def accrued(self, period: Period | None, owed: Fraction) -> tuple[Fraction, list[Moves]]:
        """Interest over a time on what is owed at its beginning and what moves inside."""
        if period is None:
            return Fraction(0), []
        interest, inside = owed * self.interest(period, period.begins, period.ends), []
        for day in self.days_in(period.begins, period.ends):
            inside.append(self.at(-1, day))
            interest += inside[-1].net * self.interest(period, day, period.ends)
        return (nearest(interest, self.cent) if self.rounds else interest), inside

    def happens(self, number: int, opening: Fraction) -> "Happening":
        """A payment's row before anything settles it."""
        before, inside = self.accrued(self.before(number), opening)
        here = self.at(number)
        amount, interest_only = self.payment(number)
        owed = opening + before + sum(each.net for each in inside) + here.net
        after = self.after(number)
        if interest_only:
            # The interest up to the payment and, in advance, that which the rest will bear.
            amount = before
            if after is not None:
                rate = self.interest(after, after.begins, after.ends)
                ahead = (owed - before) * rate / (1 + rate)
                amount += nearest(ahead, self.cent) if self.rounds else ahead
        later, inside_later = self.accrued(after, owed - amount)
        if interest_only and after is not None and not inside and not inside_later:
            later = amount - before
        return Happening(number, opening, before, later, amount, here, inside, inside_later)

    def rows(self, asked: str = "payment", *, pauses: bool = False) -> list[Row]:
        """The schedule to the cent; `asked`: what the `?` stands in."""
        self.rounds = True
        self.facts = asked == "rate"
        balance = Fraction(str(self.content.get("balance", "0")))
        if self.count == 0:
            told: list[Row] = []
            self.events(self.lent(), told, asked, balance)
            return told
        told, opening = [], self.lent()
        lends_until = max(
            [n for n in range(1, self.count + 1) if self.at(n).lent]
            + [
                n
                for n in range(1, self.count + 1)
                for period in (self.before(n), self.after(n))
                if period
                and any(self.at(-1, d).lent for d in self.days_in(period.begins, period.ends))
            ],
            default=0,
        )
        for number in range(1, self.count + 1):
            it = self.happens(number, opening)
            if not self.facts and number >= lends_until and it.met_on_a_day(self, balance):
                told.append(it.row(self.due(number)))
                break
            last = number == self.count
            moves_later = bool(it.inside_later)
            ends = it.rest <= 0 and number >= lends_until and not moves_later
            if self.facts:
                self._facts(it, balance)
            elif last and asked != "balance":
                self._settle(it, balance, asked, pauses=pauses)
            elif ends:
                owed = it.rest + it.amount + it.here.paid
                # The payment first; what is repaid on top is cut before it.
                it.amount = min(it.amount, owed) if it.here.paid else owed
                it.here = it.here._replace(paid=owed - it.amount)
                it.later = Fraction(0)
            told.append(it.row(self.due(number)))
            opening = it.closing
            gone = not it.closing and number >= lends_until
            if (ends or gone) and not self.facts:
                break
        return told

    def _facts(self, it: "Happening", balance: Fraction) -> None:
        """Where a rate is asked for all stands and the last interest takes the cents."""
        takes = self.count
        ahead = None
        if self.advance and not balance and self.count > 1 and self.before(self.count) is None:
            final = self.happens(self.count, Fraction(0))
            if not final.inside_later:
                takes, ahead = self.count - 1, -final.rest
                if self.payment(self.count)[1]:
                    ahead = -final.here.net
        if it.number == takes:
            it.later += (balance if ahead is None else ahead) - it.closing

    def _settle(self, it: "Happening", balance: Fraction, asked: str, *, pauses: bool) -> None:
        if pauses:
            it.later += balance - it.closing
            return
        kept = balance - sum(each.net for each in it.inside_later)
        if it.inside_later:
            raise NotImplementedError
        after = self.after(it.number)
        if after is not None:
            kept = nearest(kept / (1 + self.interest(after, after.begins, after.ends)), self.cent)
        more = it.rest - kept
        if asked == "repay":
            it.here = it.here._replace(paid=it.here.paid + more)
        elif asked == "advance":
            it.here = it.here._replace(lent=it.here.lent - more)
        elif it.here.paid and it.amount + more + it.here.paid < it.amount:
            it.amount, it.here = it.amount + more + it.here.paid, it.here._replace(paid=Fraction(0))
        elif it.here.paid:
            it.here = it.here._replace(paid=it.here.paid + more)
        else:
            it.amount += more
        it.later += balance - it.closing

    def events(
        self,
        owed: Fraction,
        rows: list[Row],
        asked: str = "balance",
        balance: Fraction = Fraction(0),
    ) -> Fraction:
        """A deal of clauses alone, event by event; rows are filled where money is rounded."""
        moving = [c for c in self.clauses if {"repay", "advance", "fee"} & set(c)]
        events: set[Any] = set()
        last = 0
        for clause in self.clauses:
            for name in ("at", "from", "to"):
                if name in clause and (isinstance(clause[name], int) or "rate" in clause):
                    last = max(last, self.number_of(clause[name]))
        days = sorted({date.fromisoformat(c["at"]) for c in moving if isinstance(c.get("at"), str)})
        end: date | None = None
        if days and self.number_of(days[-1].isoformat()) > last:
            end, last = days[-1], self.number_of(days[-1].isoformat())
        last = max(last, 1)
        for number in range(1, last + 1):
            if any(self.at(number)) or number == last:
                events.add(number)
        opening, told, owed_now = owed, Fraction(0), owed
        numbered = 0
        on_places = [self.due(number) for number in range(last + 1)]
        stirring = [
            self.place(c["at"])
            for c in moving
            if isinstance(c.get("at"), str) and ("fee" not in c or c.get("taken") == "added")
        ]
        by_day = any(day not in on_places for day in [*stirring, *([end] if end else [])])
        for number in range(1, last + 1):
            period = self.before(number) or (self.after(number - 1) if number > 1 else None)
            stops = list(self.days_in(period and period.begins, period and period.ends))
            limit = period.ends if period else None
            if end is not None and number == last and limit is not None:
                stops = [d for d in stops if d < end]
                limit = end
            bearing, pending = owed_now, Fraction(0)
            since = period.begins if period else None
            for stop in [*stops, None]:
                until = limit if stop is None else stop
                if period is not None:
                    # What a day count gives the rest of a period is not given before it.
                    rest = Fraction(0) if stop is None else self.interest(period, until, limit)
                    gained = bearing * (self.interest(period, since, limit) - rest)
                    pending, told = pending + gained, told + gained
                since = until
                is_end = stop is None
                if is_end and number not in events:
                    break
                if is_end:
                    at_end = end if number == last and end else None
                    moves = self.at(-1, at_end) if at_end else self.at(number)
                else:
                    moves = self.at(-1, stop)
                interest = nearest(told, self.cent) if self.rounds else told
                pending, told = pending + interest - told, Fraction(0)
                if self.rounds and is_end and number == last and asked != "balance":
                    more = bearing + pending + moves.net - balance
                    if asked == "rate" or not (moves.paid or asked == "advance"):
                        interest, pending = interest - more, pending - more
                    elif asked == "advance":
                        moves = moves._replace(lent=moves.lent - more)
                    else:
                        moves = moves._replace(paid=moves.paid + more)
                lent, fees, paid = moves
                bearing += moves.net
                closing = bearing + pending
                numbered += 1
                rows.append(
                    Row(
                        numbered if by_day else number,
                        until or self.due(number),
                        opening,
                        interest,
                        Fraction(0),
                        paid,
                        lent,
                        fees,
                        closing,
                    )
                )
                opening = closing
            owed_now = bearing + pending
        return owed_now
