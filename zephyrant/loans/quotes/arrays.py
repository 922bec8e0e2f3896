"""Many rates of one style at once, as arrays: from the percent to the rate of one period and back.

Percents and rates are floats, a year of 365 days."""

from ..calendars import frequencies
from ..numbers.arrays import Floats, Wholes, np
from .styles import Style


def can_be_arrays(style: Style) -> bool:
    """Whether rates of a style can be worked so."""
    return style.convention.has_arrays and style.scale == 1


def periodic_rates(percent: Floats, style: Style) -> Floats:
    """The rate of one period of each."""
    share, divisor = percent / 100, style.convention.divisor(style)
    if divisor is not None:
        return share / divisor
    return np.expm1(style.convention.force(share, style) / frequencies.a_year(style.every))


def quoted_percents(periodic: Floats, style: Style) -> Floats:
    """`periodic_rates` undone."""
    divisor = style.convention.divisor(style)
    if divisor is not None:
        return 100 * divisor * periodic
    force = np.log1p(periodic) * frequencies.a_year(style.every)
    return 100 * style.convention.share_of_force(force, style)


def ratios(percent: Floats, style: Style) -> tuple[Wholes, Wholes]:
    """The rate of a period of each as a small ratio, where it is one; else 0 / 1."""
    divisor = style.convention.divisor(style)
    scaled = np.round(percent * 10_000)
    exact = (np.abs(scaled / 10_000 - percent) < 1e-13) & (scaled < 1e8) & (divisor is not None)
    top = np.where(exact, scaled, 0).astype(np.int64)
    return top, np.where(exact, 1_000_000 * (divisor or 1), 1).astype(np.int64)
