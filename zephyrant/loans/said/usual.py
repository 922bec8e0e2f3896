"""What holds where a line does not say it."""

from typing import NamedTuple

from ..calendars import frequencies
from ..quotes.styles import Quoted


class Usual(NamedTuple):
    """The currency, how often it is paid and how a rate is quoted where a line says none of it;
    each is a guess then."""

    currency: str = "EUR"
    every: frequencies.Frequency = "month"
    quoted: Quoted = "nominal"
    compounding: frequencies.Compounding | None = None
