"""The aim: which value of one figure gives a result the value it is to have.

The result is worked unrounded; what the document asks for is found anew at each trial. Where three
trials show the relation to be linear it is solved as such; elsewhere the range of the figure is
scanned and every change of sign narrowed down. A result that touches its aim between two points of
the scan without crossing it is not seen.
"""

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from datetime import date
from decimal import ROUND_CEILING, ROUND_FLOOR, Context, Decimal
from functools import lru_cache
from typing import Any, Final, cast

from typing_extensions import TypedDict

from ..budget import look
from ..calendars.days_in_words import write_day
from ..cost.costs import yearly_costs
from ..document.fields import MOST_PAYMENTS, UNKNOWN
from ..document.loan import Loan, check, write
from ..document.parts import Aim, Rounding
from ..errors import FieldError, NotALoan
from ..ledger.roll import Row, Schedule
from ..numbers.decimals import PERCENT_PLACES, plain, precise, to_step
from ..quotes.conversion import footings
from ..solve.solution import footing_rate
from ..solve.worked import Solved, due, work_out, work_out_unrounded
from ..wording.marks import PLAIN, Marks, Money, Number, Percent, Sentence

#: Digits a solution is told with: those that rolling at twenty decimals leaves sure.
_DIGITS: Final = 20
#: Digits where the result is a yearly cost, which is worked in floats.
_COST_DIGITS: Final = 9
_COSTS: Final = ("us_apr", "eu_aprc")
_MOST_TRIALS: Final = 90
#: Trials to find where a loan begins to have a result.
_EDGE_TRIALS: Final = 14
#: Terms of this many payments are tried where the count may move.
_LONGEST: Final = 1_200

_NAMES: Final = {
    "payment": "a payment",
    "total_paid": "a total paid",
    "total_interest": "a total interest",
    "final_payment": "a last payment",
    "count": "a number of payments",
    "effective": "an effective rate",
    "us_apr": "a US yearly rate",
    "eu_aprc": "an EU yearly rate",
    "end_date": "an end date",
}
_MOVES: Final = {
    "principal": "amount lent",
    "rate.percent": "rate",
    "count": "number of payments",
    "payment": "payment",
    "balance": "balance at the end",
    "purchase.price": "price",
    "purchase.down.percent": "down payment",
    "purchase.down.amount": "down payment",
}


class AimTold(TypedDict):
    """What came of an aim. `value`: the figure as it would be stated, with which the loan is then
    worked; `exact`: unrounded; `target`: what
    the result is to be; `solutions`: every one found, ascending. Without one `says` tells
    the nearest result that can be reached, `nearest` at which value of the figure."""

    figure: str
    by: str
    target: str
    value: str | None
    exact: str | None
    solutions: tuple[str, ...]
    nearest: str | None
    says: str


def put(loan: Loan, path: str, value: str) -> Loan:
    """The loan with another value in one place; raises `NotALoan` where it cannot stand there."""
    content = write(loan)
    content.pop("aim", None)
    *way, last = path.split(".")
    place: Any = content
    for step in way:
        place = place[int(step)] if isinstance(place, list) else place[step]
    place[last] = value
    return check(content)


def result(loan: Loan, figure: str, worked: Solved | None = None) -> Decimal | None:
    """A result of a loan, as its rounding leaves it; None where it has none.

    Money in the loan's currency, rates in percent; `figure` is one an aim can name.
    """
    found, terms, laid, _ = worked or work_out(loan)
    if found.reason or found.ordinary is None:
        return None
    if figure == loan.unknown:
        return found.solutions[0]
    if figure == "count":
        return Decimal(loan.count)
    if figure == "end_date":
        return _ends(loan, laid)
    if figure == "effective":
        rate = footing_rate(loan, found)
        return None if rate is None else footings(rate, loan.payments_a_year).effective
    if terms is None or laid is None:
        return None
    if figure in _COSTS:
        rate = footing_rate(loan, found) or Decimal(0)
        told = yearly_costs(loan, terms, laid, rate)[figure]  # type: ignore[literal-required]
        return None if told is None else Decimal(told)
    units = laid.unit.count(terms.payment) if figure == "payment" else _told_by(laid.rows, figure)
    return None if units is None else laid.unit.amount(units)


def _ends(loan: Loan, laid: Schedule | None) -> Decimal | None:
    """The day of the last payment, in the count of days."""
    if laid is None or loan.calendar is None:
        return None
    paying = [row for row in laid.rows if row.paid]
    day = due(loan, paying[-1] if paying else laid.rows[-1])
    return None if day is None else Decimal(day.toordinal())


def _told_by(rows: Sequence[Row], figure: str) -> int | None:
    """A result that the rows of a schedule tell, in units."""
    name, _, number = figure.partition("@")
    if name == "balance":
        after = {0: rows[0].opening, **{row.number: row.rest for row in rows}}
        return after.get(int(number))
    if name == "interest":
        first, last = map(int, number.split("-"))
        if not 1 <= first <= last <= len(rows):
            return None
        return sum(row.interest for row in rows[first - 1 : last])
    if name == "total_interest":
        return sum(row.interest for row in rows)
    paid = [row.paid for row in rows]
    if name == "total_paid":
        return sum(paid)
    return next((each for each in reversed(paid) if each), 0)


@dataclass(frozen=True)
class _Point:
    """A trial: the figure, and what the result then is beyond its aim."""

    at: Decimal
    gap: Decimal


class _Search:
    """One aim being sought."""

    def __init__(self, loan: Loan, aim: Aim) -> None:
        self.loan, self.aim = loan, aim
        self.free = loan.model_copy(
            update={"rounding": Rounding(payment="none", interest="none"), "aim": None}
        )
        self.is_cost = aim.figure in _COSTS
        self.is_whole = aim.by == "count"
        self.by_percent = aim.by.endswith("percent")
        self.digits = _COST_DIGITS if self.is_cost else _DIGITS
        self.standing = figure_at(loan, aim.by)

    def gap(self, at: Decimal) -> Decimal | None:
        """By how much the result lies beyond the aim, the figure being `at`."""
        look()
        try:
            trial = put(self.free, self.aim.by, plain(at))
            found = result(trial, self.aim.figure, work_out_unrounded(trial))
        except NotALoan:
            return None
        return None if found is None else found - self.aim.number

    def point(self, at: Decimal) -> _Point | None:
        """A trial, where the loan has that result."""
        gap = self.gap(at)
        return None if gap is None else _Point(at, gap)

    def size(self) -> Decimal:
        """Below this a gap is nothing."""
        return max(abs(self.aim.number), Decimal(1)).scaleb(-(self.digits - 4))

    # Where to look

    def trials(self) -> list[Decimal]:
        """The values to try, ascending."""
        by = self.aim.by
        if self.is_whole:
            most = min(MOST_PAYMENTS, max(_LONGEST, int(2 * (self.standing or 0))))
            counts = {min(most, int(1.08**power)) for power in range(_MOST_TRIALS + 1)}
            return [Decimal(count) for count in sorted({*counts, *range(1, 25)})]
        if by.endswith("rate.percent"):
            scale = Decimal(1)
            if self.loan.rate.quoted == "periodic":
                scale = Decimal(1) / self.loan.payments_a_year
            return [scale * Decimal(each) for each in _PERCENTS]
        if by.endswith("percent"):
            least = -50 if ".step." in by else 0
            return [Decimal(each) for each in range(least, 100, 2)]
        base = max(
            Decimal(1),
            self.standing or Decimal(0),
            *(
                Decimal(each)
                for each in (self.loan.principal, self.loan.payment, self.loan.balance)
                if each != UNKNOWN
            ),
        )
        powers = range(-24, 25)
        return [Decimal(0), *(round(base * Decimal(2) ** power, 10) for power in powers)]

    # What fits

    def solutions(self) -> tuple[list[Decimal], list[_Point]]:
        """Every value that reaches the aim, and the points tried."""
        if not (self.is_whole or self.is_cost):
            linear = self._linear()
            if linear is not None:
                return linear
        points = self._scanned()
        reached = list(self._narrowed(points))
        return reached, points

    def _scanned(self) -> list[_Point]:
        """The trials that have the result; where they begin to have it or cease to, up to there."""
        points: list[_Point] = []
        before: tuple[Decimal, _Point | None] | None = None
        for at in self.trials():
            point = self.point(at)
            if before and (point is None) != (before[1] is None) and not self.is_whole:
                found = list(self._up_to_the_edge(before, (at, point)))
                points += found if point is None else reversed(found)
            if point is not None:
                points.append(point)
            before = at, point
        return points

    def _up_to_the_edge(
        self, low: tuple[Decimal, _Point | None], high: tuple[Decimal, _Point | None]
    ) -> Iterator[_Point]:
        has, has_not = (low[0], high[0]) if low[1] else (high[0], low[0])
        for _ in range(_EDGE_TRIALS):
            middle = _cut((has + has_not) / 2, 12)
            point = self.point(middle)
            if point is None:
                has_not = middle
            else:
                has = middle
                yield point

    def _linear(self) -> tuple[list[Decimal], list[_Point]] | None:
        base = self.standing or Decimal(0)
        if base <= 0:
            base = Decimal(8) if self.aim.by.endswith("percent") else Decimal(1000)
        for parts in ((1, 2, 3), (4, 5, 6)):
            points = [point for part in parts if (point := self.point(base * part / 4))]
            if len(points) == 3:
                break
        else:
            return None
        one, two, three = points
        size = max(abs(point.gap) for point in points).scaleb(-15)
        if abs(one.gap - 2 * two.gap + three.gap) > size or abs(one.gap - three.gap) <= size:
            return None
        at = (one.at * three.gap - three.at * one.gap) / (three.gap - one.gap)
        again = self.point(_cut(at, self.digits + 8))
        if again is None or abs(again.gap) > self.size():
            return None
        return [at], points

    def _narrowed(self, points: list[_Point]) -> Iterator[Decimal]:
        narrow: Callable[[_Point, _Point], Decimal | None] = (
            self._whole if self.is_whole else self._between
        )
        enough = self._cent() if self.is_whole else self.size()
        for number, point in enumerate(points):
            before = points[number - 1] if number else point
            if abs(point.gap) <= enough:
                yield point.at
            elif before.gap * point.gap < 0 and abs(before.gap) > enough:
                found = narrow(points[number - 1], point)
                if found is not None:
                    yield found

    def _cent(self) -> Decimal:
        return self.loan.minor_unit / 2 if self.aim.figure not in _COSTS else Decimal("1e-9")

    def _between(self, low: _Point, high: _Point) -> Decimal | None:
        """A change of sign narrowed by the Illinois variant of the false position."""
        at_low, at_high, side = low.gap, high.gap, 0
        left, right = low.at, high.at
        best = min(low, high, key=lambda point: abs(point.gap))
        for _ in range(_MOST_TRIALS):
            at = (left * at_high - right * at_low) / (at_high - at_low)
            at = _cut(at, self.digits + 6)
            if not left < at < right:
                break
            point = self.point(at)
            if point is None:
                return None
            if abs(point.gap) <= abs(best.gap):
                best = point
            if not point.gap or right - left <= abs(at).scaleb(-self.digits - 1):
                break
            if (point.gap > 0) == (at_high > 0):
                right, at_high = at, point.gap
                at_low = at_low / 2 if side > 0 else at_low
                side = 1
            else:
                left, at_low = at, point.gap
                at_high = at_high / 2 if side < 0 else at_high
                side = -1
        if not best.gap and self.aim.figure == "end_date" and not self.by_percent:
            return self._least(low if low.gap else high, best)
        # Where the result jumps over the aim nothing reaches it.
        return best.at if abs(best.gap) <= self.size() else None

    def _least(self, beyond: _Point, reached: _Point) -> Decimal:
        """Of amounts that all reach an aim the one next to those that do not, to the minor unit."""
        minor = self.loan.minor_unit
        off, on = beyond.at, reached.at
        while abs(on - off) > minor / 8:
            middle = (on + off) / 2
            point = self.point(middle)
            if point is not None and not point.gap:
                on = middle
            else:
                off = middle
        units = (on / minor).to_integral_value(ROUND_CEILING if on > off else ROUND_FLOOR)
        return units * minor

    def _whole(self, low: _Point, high: _Point) -> Decimal | None:
        """The whole number within a change of sign that reaches the aim to the cent."""
        while high.at - low.at > 1:
            middle = self.point(Decimal(int(low.at + high.at) // 2))
            if middle is None:
                return None
            if abs(middle.gap) <= self._cent():
                return middle.at
            low, high = (middle, high) if middle.gap * high.gap < 0 else (low, middle)
        return None

    def nearest(self, points: list[_Point]) -> _Point | None:
        """The trial that comes nearest, narrowed between its neighbours."""
        if not points:
            return None
        place = min(range(len(points)), key=lambda number: abs(points[number].gap))
        best = points[place]
        low = points[max(0, place - 1)].at
        high = points[min(len(points) - 1, place + 1)].at
        for _ in range(24):
            third = (high - low) / 3
            spots = [low + third, high - third]
            if self.is_whole:
                spots = [spot.to_integral_value() for spot in spots]
            tried = [self.point(_cut(spot, 12)) for spot in spots]
            one, two = tried
            if one is None or two is None or high - low <= abs(high).scaleb(-8):
                break
            best = min(best, one, two, key=lambda point: abs(point.gap))
            low, high = (low, two.at) if abs(one.gap) <= abs(two.gap) else (one.at, high)
            if self.is_whole and high - low <= 1:
                break
        return best


#: Rates tried, in percent a year.
_PERCENTS: Final = (
    *("-50", "-20", "-10", "-5", "-2", "-1", "-0.5", "0", "0.25", "0.5"),
    *(str(each) for each in range(1, 31)),
    *("35", "40", "50", "60", "80", "100", "150", "200", "300", "500", "1000", "3000"),
)


def _cut(value: Decimal, digits: int) -> Decimal:
    return Context(prec=digits).plus(value)


def figure_at(loan: Loan, path: str) -> Decimal | None:
    """The value that stands at a path, if it is a number."""
    place: Any = write(loan)
    for step in path.split("."):
        # A balance that is not stated is nothing.
        place = place[int(step)] if isinstance(place, list) else place.get(step, "0")
    return None if place == UNKNOWN else Decimal(str(place))


def reach(loan: Loan, aim: Aim, marks: Marks) -> AimTold:
    """The aim of a loan sought."""
    search = _Search(loan, aim)
    target = str(write(loan)["aim"]["is"]) if loan.aim else plain(aim.number)
    with precise():
        reached, points = search.solutions()
        if not reached:
            nearest = search.nearest(points)
            told = None if nearest is None else plain(_as_stated(loan, aim.by, nearest.at))
            return {
                "figure": aim.figure,
                "by": aim.by,
                "target": target,
                "value": None,
                "exact": None,
                "solutions": (),
                "nearest": told,
                "says": _unreached(loan, aim, nearest).say(marks),
            }
        standing = search.standing
        meant = reached[0]
        if standing is not None:
            meant = min(reached, key=lambda each: abs(each - standing))
    value = _as_stated(loan, aim.by, meant)
    return {
        "figure": aim.figure,
        "by": aim.by,
        "target": target,
        "value": f"{value:f}",
        "exact": plain(_cut(meant, search.digits)),
        "solutions": tuple(plain(_cut(each, search.digits)) for each in reached),
        "nearest": None,
        "says": _reached(loan, aim, value, len(reached)).say(marks),
    }


def aimed(loan: Loan) -> Loan:
    """The loan with the figure that reaches its aim in its place; as it is where it has no aim.

    Raises `NotALoan` where nothing reaches it.
    """
    if loan.aim is None:
        return loan
    told = _reached_once(loan)
    if told["value"] is None:
        raise NotALoan([FieldError(field="aim.is", message=told["says"])])
    return put(loan, loan.aim.by, told["value"])


def nearest_to_aim(loan: Loan) -> Loan:
    """The loan with the figure that reaches its aim or comes nearest to it, to look at."""
    if loan.aim is None:
        return loan
    told = _reached_once(loan)
    value = told["value"] or told["nearest"]
    return loan.model_copy(update={"aim": None}) if value is None else put(loan, loan.aim.by, value)


@lru_cache(maxsize=16)
def _reached_once(loan: Loan) -> AimTold:
    return reach(loan, cast("Aim", loan.aim), PLAIN)


def _as_stated(loan: Loan, path: str, value: Decimal) -> Decimal:
    """A figure as one would state it: money to the minor unit, a percent to ten decimals."""
    if path == "count":
        return value.to_integral_value()
    if path.endswith("percent"):
        return round(value, PERCENT_PLACES)
    return to_step(value, loan.minor_unit, "nearest")


_Told = Money | Number | Percent | str


def _told_apart(target: Decimal, gap: Decimal) -> tuple[Number, Number]:
    """Two figures by a gap apart, with the digits that show it."""
    with precise():
        places = max(2, 1 - gap.adjusted()) if gap else 2
        return Number(target, places), Number(target + gap, places)


def _in_words(loan: Loan, figure: str, value: Decimal) -> _Told:
    if figure == "end_date":
        return write_day(date.fromordinal(int(value)))
    if figure in (*_COSTS, "effective") or figure.endswith("percent"):
        return Percent(value)
    if figure == "count":
        return Number(value, 4)
    return Money(value, loan.decimals)


def _names(aim: Aim) -> tuple[str, str]:
    """The result and the figure that moves, in words."""
    figure, _, number = aim.figure.partition("@")
    named = _NAMES.get(figure) or (
        f"an interest of payments {number}"
        if figure == "interest"
        else f"a balance after payment {number}"
    )
    return named, _MOVES.get(aim.by) or f"figure of clause {int(aim.by.split('.')[1]) + 1}"


def _reached(loan: Loan, aim: Aim, value: Decimal, many: int) -> Sentence:
    named, moves = _names(aim)
    text = "With {value} as the {moves}, " + "the loan has " + named + " of {target}."
    if many > 1:
        text += " {many} values do that; the nearest to what stood there is told."
    target = _in_words(loan, aim.figure, aim.number)
    paid = as_paid(put(loan, aim.by, f"{value:f}"), aim.figure)
    comes = target if paid is None else _in_words(loan, aim.figure, paid)
    if _said(comes) != _said(target):
        text += " As it will be paid that comes to {comes}."
    return Sentence(
        text,
        value=_in_words(loan, aim.by, value),
        moves=moves,
        target=target,
        many=Number(many),
        comes=comes,
    )


def _said(words: _Told) -> str:
    return words if isinstance(words, str) else words.say(PLAIN)


def as_paid(loan: Loan, figure: str) -> Decimal | None:
    """A result of a loan as its schedule to the cent has it."""
    _, terms, laid, _ = work_out(loan)
    if figure == "count" and laid is not None:
        return Decimal(len(laid.rows))
    if figure == "payment" and terms is not None:
        return terms.payment
    return result(loan, figure)


def _unreached(loan: Loan, aim: Aim, nearest: _Point | None) -> Sentence:
    named, moves = _names(aim)
    target: _Told = _in_words(loan, aim.figure, aim.number)
    text = "No {moves} gives the loan " + named + " of {target}"
    if nearest is None:
        text += ": with none that was tried has it an answer."
        return Sentence(text, moves=moves, target=target)
    reached: _Told = _in_words(loan, aim.figure, aim.number + nearest.gap)
    if _said(reached) == _said(target):
        # So near that as many digits as usual do not tell them apart.
        target, reached = _told_apart(aim.number, nearest.gap)
    return Sentence(
        text + "; the nearest is {result}, with {at}.",
        moves=moves,
        target=target,
        result=reached,
        at=_in_words(loan, aim.by, _as_stated(loan, aim.by, nearest.at)),
    )
