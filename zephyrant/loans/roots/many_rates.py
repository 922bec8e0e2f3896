"""The rates of many regular loans at once, as arrays: from the figures stated and from what is paid
to the cent."""

from typing import Final, Protocol

from ..numbers.arrays import Flags, Floats, Wholes, np

#: Loans that are worked together: so many that their arrays stay in the cache.
TOGETHER: Final = 32_768
#: Below this growth over the whole term the equation of the rate is taken by its series.
_FLAT: Final = 1e-4
#: A last step so small, of the rate or over the term, leaves less than a float holds.
_ENOUGH: Final = 1e-5
_ENOUGH_FLAT: Final = 1e-13
#: Rates of a period that are found: beyond them a loan goes the exact way.
_LEAST_RATE: Final = -0.5
_MOST_RATE: Final = 10.0


class LevelLoans(Protocol):
    """Regular loans: an array a figure, `rate` of one period."""

    @property
    def principal(self) -> Floats:
        """What is lent."""

    @property
    def rate(self) -> Floats:
        """The rate stated or found."""

    @property
    def count(self) -> Wholes:
        """How many payments."""

    @property
    def balance(self) -> Floats:
        """What is left at the end."""

    @property
    def payment(self) -> Floats:
        """The regular payment."""

    @property
    def in_advance(self) -> Flags:
        """Whether payments are made at the start of their periods."""


def rates(loans: LevelLoans) -> Floats:
    """The rate of one period of each by Halley's method; NaN where it does not settle or where
    there may be none or several.

    With a = (lent - left) / payment and b = left / payment (less 1 in advance) the rate is the root
    of a f + b r = 1, where f = r / (1 - (1 + r)^-n) is smooth through zero. The first guess matches
    f by a quotient of quadratics.
    """
    found = np.empty_like(loans.principal)
    work = [np.empty(min(TOGETHER, len(found))) for _ in range(11)]
    with np.errstate(all="ignore"):
        for start in range(0, len(found), TOGETHER):
            some = slice(start, start + TOGETHER)
            _rates(loans, some, [each[: len(found[some])] for each in work], found[some])
        lent, left = loans.principal, loans.balance
        one = (loans.payment > 0) & (lent > left) & (loans.count > loans.in_advance)
        one &= (found > _LEAST_RATE) & (found < _MOST_RATE)
    return np.where(one, found, np.nan)


def _rates(loans: LevelLoans, some: slice, work: list[Floats], rate: Floats) -> None:  # noqa: PLR0915
    """The rates of so many loans as fit the cache, into `rate`, in place throughout."""
    a, b, count, inverse, fall, value, slope, bend, gap, x, q = work
    np.copyto(count, loans.count[some])
    np.divide(1.0, count, out=inverse)
    np.subtract(loans.principal[some], loans.balance[some], out=a)
    a /= loans.payment[some]
    np.divide(loans.balance[some], loans.payment[some], out=b)
    b -= loans.in_advance[some]
    # The guess: p = n / a, s = 1 + 2 b / a + 1 / n.
    np.divide(count, a, out=x)
    np.divide(b, a, out=q)
    q *= 2
    q += 1
    q += inverse
    np.multiply(x, x, out=fall)
    np.multiply(q, q, out=value)
    value -= 1
    x *= q
    np.multiply(x, x, out=q)

    def half_growth(weight: float | Floats) -> None:
        """(p^2 - w) / (p s + sqrt(p^2 s^2 - (s^2 - 1)(p^2 - w))), into `bend`."""
        np.subtract(fall, weight, out=bend)
        np.multiply(value, bend, out=gap)
        np.subtract(q, gap, out=gap)
        np.sqrt(gap, out=gap)
        np.add(gap, x, out=gap)
        np.divide(bend, gap, out=bend)

    half_growth(1.0)
    np.multiply(bend, bend, out=rate)
    np.multiply(rate, 2 / 14_175, out=slope)
    for term in (1 / 315, 2 / 45, 1 / 3, 1.0):
        slope += term
        slope *= rate if term != 1.0 else 1.0
    np.divide(1.0, slope, out=slope)
    half_growth(slope)
    np.multiply(bend, 2, out=rate)
    rate *= inverse
    for _ in range(2):
        # fall = 1 - (1 + r)^-n, f = r / fall and its first two derivatives.
        np.log1p(rate, out=x)
        x *= count
        np.negative(x, out=x)
        np.expm1(x, out=fall)
        np.negative(fall, out=fall)
        flat = np.flatnonzero(np.abs(x) < _FLAT)
        np.divide(rate, fall, out=value)
        np.add(rate, 1, out=x)
        np.divide(1.0, x, out=x)
        np.multiply(count, x, out=q)
        np.subtract(1, fall, out=gap)
        gap *= q
        np.multiply(value, gap, out=slope)
        np.subtract(1, slope, out=slope)
        slope /= fall
        q += x
        q *= value
        np.multiply(slope, 2, out=bend)
        np.subtract(q, bend, out=bend)
        bend *= gap
        bend /= fall
        if len(flat):
            n, r = count[flat], rate[flat]
            first, second = (n + 1) / (2 * n), (n * n - 1) / (12 * n)
            value[flat] = 1 / n + first * r + second * r * r
            slope[flat] = first + 2 * second * r
            bend[flat] = 2 * second
        np.multiply(a, value, out=gap)
        np.multiply(b, rate, out=x)
        gap += x
        gap -= 1
        slope *= a
        slope += b
        bend *= a
        bend *= gap
        bend *= 0.5
        bend /= slope
        slope -= bend
        gap /= slope
        rate -= gap
    # Each step leaves the cube of what the one before it left.
    np.abs(gap, out=gap)
    np.abs(rate, out=x)
    x *= _ENOUGH
    inverse *= _ENOUGH_FLAT
    x += inverse
    rate[gap > x] = np.nan


def true_rates(loans: LevelLoans, count: Floats, final: Floats, left: Floats) -> Floats:
    """The rate of one period at which what is paid to the cent, and what is left, is worth what is
    lent: by Newton's method from the loan's own rate. NaN where it does not settle."""
    shift = loans.in_advance.astype(float)
    with np.errstate(all="ignore"):
        rate = np.where(loans.rate == 0, 1e-9, loans.rate)
        step = rate
        for _ in range(8):
            log = np.log1p(rate)
            before = count - 1
            fall = -np.expm1(-before * log)
            run = np.where(before == 0, 0.0, fall / rate)
            at_last = np.exp(-count * log)
            lift = np.exp(shift * log)
            present_value = (loans.payment * run + final * at_last) * lift + left * at_last
            slope = loans.payment * (before * (1 - fall) / (1 + rate) - run) / rate
            slope -= final * count * at_last / (1 + rate)
            slope = slope * lift + shift * (loans.payment * run + final * at_last)
            slope -= left * count * at_last / (1 + rate)
            step = (present_value - loans.principal) / slope
            rate = rate - step
        return np.where(np.abs(step) < 1e-12 + 1e-9 * np.abs(rate), rate, np.nan)
