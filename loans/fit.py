"""Every figure stated: whether they fit, and what each would have to be."""

from decimal import Decimal

from typing_extensions import TypedDict

from .cut import lay_out
from .document import Loan
from .fields import FIGURES, UNKNOWN, FigureName
from .figures import plain, precise, told
from .find import find
from .ledger import unrounded_end
from .terms import Found, digits_for, levelled, payable_terms, stated_terms
from .words import Marks, Money, Sentence


class WouldFit(TypedDict):
    """What a figure would have to be for the others: as it would be paid, unrounded; or why none
    fits."""

    value: str | None
    exact: str | None
    reason: str | None


class Fit(TypedDict):
    """`gap`: what is left over at the end, unrounded; below zero, what is paid too much."""

    gap: str
    fits: bool
    says: str
    would_fit: dict[FigureName, WouldFit]


def _asking(loan: Loan, name: FigureName) -> Loan:
    """The same loan with one figure asked for."""
    if name == "rate":
        return loan.model_copy(update={"rate": loan.rate.model_copy(update={"percent": UNKNOWN})})
    bought = {"purchase": None} if name == "principal" else {}
    return loan.model_copy(update={name: UNKNOWN, **bought})


def fit(loan: Loan, marks: Marks) -> Fit:
    """The stated figures held against each other."""
    terms = levelled(stated_terms(loan))
    with precise(digits_for(terms)):
        gap = unrounded_end(lay_out(terms)) - terms.balance
    found = {name: _would_fit(_asking(loan, name), marks) for name in FIGURES}
    stated = payable_terms(loan, Decimal(0)).payment
    fits = abs(gap) < loan.minor_unit / 2 or found["payment"]["value"] == plain(
        stated, loan.decimals
    )
    return {
        "gap": plain(told(gap)),
        "fits": fits,
        "says": _says(loan, gap, fits=fits).say(marks),
        "would_fit": found,
    }


def _says(loan: Loan, gap: Decimal, *, fits: bool) -> Sentence:
    over = Money(abs(gap), loan.decimals)
    if abs(gap) < loan.minor_unit / 2:
        return Sentence("The figures fit: they end at exactly what is to be left.")
    if fits:
        return Sentence(
            "The figures fit as cash is paid: rounding each payment makes {over} at the end, which "
            "the last payment settles.",
            over=over,
        )
    if gap > 0:
        return Sentence("The figures do not fit: at the end {over} too much is owed.", over=over)
    return Sentence("The figures do not fit: by the end {over} too much has been paid.", over=over)


def _would_fit(loan: Loan, marks: Marks) -> WouldFit:
    if loan.rate.quoted == "flat" and loan.unknown in ("count", "balance"):
        reason = "A flat quote speaks of a stated number of payments that repay to nothing."
        return {"value": None, "exact": None, "reason": reason}
    found = find(loan)
    if found.reason:
        return {"value": None, "exact": None, "reason": found.reason.say(marks)}
    return {
        "value": _value(loan, found),
        "exact": plain(told(found.solutions[0])),
        "reason": None,
    }


def _value(loan: Loan, found: Found) -> str:
    solution = found.solutions[0]
    if loan.unknown == "rate":
        return f"{solution:.10f}"
    if loan.unknown == "count":
        return str(int(told(solution).to_integral_value("ROUND_CEILING")))
    if loan.unknown == "balance":
        return f"{told(solution):.{loan.decimals}f}"
    return plain(getattr(payable_terms(loan, solution), loan.unknown or ""), loan.decimals)
