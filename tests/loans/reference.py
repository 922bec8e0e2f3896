"""The mathematics of a regular loan once more, in mpmath with 50 digits: the tests' own ruler.

Written from the textbook definitions and sharing no code with the core.
"""

from typing import Any

from mpmath import mp, mpf

from .documents import PERIODS

mp.dps = 50


def per_year(every: Any) -> int:
    return every if isinstance(every, int) else PERIODS[every]


def rate_of_one_period(document: dict[str, Any], percent: Any = None) -> mpf:
    """The growth of one payment period less one, through the growth of a year."""
    quote = document["rate"]
    p = mpf(str(quote["percent"] if percent is None else percent)) / 100
    p = p * 365 / quote.get("year_days", 365)
    often = per_year(document.get("every", "month"))
    quoted = quote.get("quoted", "nominal")
    if quoted == "periodic":
        return p
    if quoted == "effective":
        return mp.expm1(mp.log1p(p) / often)
    if quoted in ("simple", "discount"):
        years = mpf(quote["over"]["number"]) / per_year(quote["over"]["period"])
        grown = 1 + p * years if quoted == "simple" else 1 / (1 - p * years)
        return mp.expm1(mp.log(grown) / years / often)
    compounding = quote.get("compounding", document.get("every", "month"))
    if quoted == "continuous" or compounding == "continuous":
        return mp.expm1(p / often)
    times = per_year(compounding)
    return mp.expm1(mp.log1p(p / times) * times / often)


def left_at_the_end(document: dict[str, Any], rate: mpf, **figures: Any) -> mpf:
    """What is owed after the last period, as a sum of every flow carried to the end."""
    principal, payment = mpf(str(figures["principal"])), mpf(str(figures["payment"]))
    count = int(figures["count"])
    advance = document.get("timing") == "in-advance"
    growth = 1 + rate
    owed = principal
    for _ in range(count):
        owed = (owed - payment) * growth if advance else owed * growth - payment
    return owed


def payment(document: dict[str, Any]) -> mpf:
    """The payment, from two trial runs of the balance."""
    rate = rate_of_one_period(document)
    known = {"principal": document["principal"], "count": document["count"]}
    nothing = left_at_the_end(document, rate, payment=0, **known)
    one = left_at_the_end(document, rate, payment=1, **known)
    return (nothing - mpf(document["balance"])) / (nothing - one)
