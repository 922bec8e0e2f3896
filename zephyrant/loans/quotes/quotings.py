"""The ways of quoting one can choose, in the order they are listed."""

from typing import Final, NamedTuple

from zephyrant.texts import Said

from ..calendars import frequencies
from .styles import CONVENTIONS, Quoted

#: A year for which a percent can be meant; `{days}` is to be filled.
YEAR_OF_DAYS: Final = "meant for a year of {days} days"
_AS_PAID: Final = "compounded as it is paid, {often}"
_NOMINAL: Final = CONVENTIONS["nominal"].title
_OTHERWISE: Final = "Otherwise"


class _Quoting(NamedTuple):
    quoted: Quoted
    compounding: frequencies.FrequencyName | None
    label: str
    under: str


class Quoting(_Quoting):
    """A way of quoting: its style, how often it is compounded where that is chosen with it, what it
    is called and stands under; `{often}` and `{noun}` (of a payment period) are to be filled."""

    __slots__ = ()

    #: What it is called.
    label = Said()
    #: What it stands under.
    under = Said()


def _quotings() -> list[Quoting]:
    nominal = [
        Quoting("nominal", None, _AS_PAID, _NOMINAL),
        *(
            Quoting("nominal", name, frequencies.compounded(name), _NOMINAL)
            for name in frequencies.PERIODS
        ),
    ]
    others = [
        Quoting(quoted, None, style.choice, _NOMINAL if quoted == "continuous" else _OTHERWISE)
        for quoted, style in CONVENTIONS.items()
        if not style.is_compounded
    ]
    # What is compounded at every moment ends the list of compoundings.
    return sorted([*nominal, *others], key=lambda each: each.under != _NOMINAL)


QUOTINGS: Final = tuple(_quotings())
