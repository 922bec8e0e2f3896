"""How a quote becomes the rate of one payment period, as formulas that can be read.

p is the quoted rate, i the rate of one payment period, f the payments and m the compoundings a
year, t the years a quote is charged for, n the payments of a flat quote and T the years they run.
"""

from typing import NamedTuple

from ..calendars import frequencies
from .styles import Style


class Formula(NamedTuple):
    """Both ways between p and i; `numbers` is `forward` with its numbers, `{p}` to be filled."""

    forward: str
    back: str
    numbers: str


def quote_formula(style: Style) -> Formula:
    """The formulas of a style."""
    often = frequencies.a_year(style.every)
    p, shown, back = _scaled(style)
    match style.quoted:
        case "periodic":
            return Formula("i = p", "p = i", "{p}")
        case "effective":
            return Formula(
                "i = (1 + p)^(1/f) − 1", "p = (1 + i)^f − 1", f"(1 + {{p}})^(1/{often}) − 1"
            )
        case "flat":
            return _flat(style)
        case "simple" | "discount":
            years = style.over.in_years() if style.over else ""
            sign, power = ("+", "") if style.quoted == "simple" else ("−", "−")
            grown = "((1 + i)^(f·t) − 1)" if style.quoted == "simple" else "(1 − (1 + i)^(−f·t))"
            return Formula(
                f"i = (1 {sign} {p}·t)^({power}1/(f·t)) − 1",
                f"{back}{grown} / t",
                f"(1 {sign} {shown} × {years})^({power}1/({often} × {years})) − 1",
            )
    if style.quoted == "continuous" or style.compounding == "continuous":
        return Formula(f"i = e^({p}/f) − 1", f"{back}f · ln(1 + i)", f"e^({shown} / {often}) − 1")
    times = frequencies.a_year(style.compounding)
    if times == often:
        return Formula(f"i = {p} / f", f"{back}f · i", f"{shown} / {often}")
    return Formula(
        f"i = (1 + {p}/m)^(m/f) − 1",
        f"{back}m · ((1 + i)^(f/m) − 1)",
        f"(1 + {shown} / {times})^({times}/{often}) − 1",
    )


def _flat(style: Style) -> Formula:
    due = " · (1 + i)" if style.in_advance else ""
    return Formula(
        f"n payments of (1 + p·T)/n repay 1: (1 + p·T)/n · (1 − (1 + i)^−n) / i{due} = 1",
        f"p = (n · i / ((1 − (1 + i)^−n){due}) − 1) / T",
        f"n = {style.payments}, T = {style.term}, p = {{p}}",
    )


def growth_formula(style: Style) -> Formula:
    """The same between p and e, the effective rate a year, for styles that need no payments."""
    p, shown, back = _scaled(style)
    years = style.over.in_years() if style.over else ""
    match style.quoted:
        case "simple":
            return Formula(
                f"e = (1 + {p}·t)^(1/t) − 1",
                f"{back}((1 + e)^t − 1) / t",
                f"(1 + {shown} × {years})^(1/({years})) − 1",
            )
        case "discount":
            return Formula(
                f"e = (1 − {p}·t)^(−1/t) − 1",
                f"{back}(1 − (1 + e)^(−t)) / t",
                f"(1 − {shown} × {years})^(−1/({years})) − 1",
            )
        case "effective":
            return Formula("e = p", "p = e", "{p}")
    if style.quoted == "continuous" or style.compounding == "continuous":
        return Formula(f"e = exp({p}) − 1", f"{back}ln(1 + e)", f"exp({shown}) − 1")
    times = frequencies.a_year(style.compounding)
    return Formula(
        f"e = (1 + {p}/m)^m − 1",
        f"{back}m · ((1 + e)^(1/m) − 1)",
        f"(1 + {shown} / {times})^{times} − 1",
    )


def _scaled(style: Style) -> tuple[str, str, str]:
    if style.scale == 1:
        return "p", "{p}", "p = "
    return "p·365/360", "{p} × 365/360", "p = 360/365 · "
