"""Every figure stated: whether they fit, and what each would have to be."""

from decimal import Decimal

from typing_extensions import TypedDict

from zephyrant.texts import worded

from ..document.fields import FIGURES, UNKNOWN, FigureName
from ..document.floating import floating
from ..document.loan import Loan
from ..document.repaid import why_not_asked
from ..ledger.levelling import levelled
from ..line.compiling import stated_terms
from ..numbers.decimals import plain, significant
from ..unknowns.last_payment import fits, gap
from ..unknowns.solution import Found, payable_line
from ..unknowns.worked import value_as_paid, work_out
from ..wording.marks import Marks, Money, Number, Sentence


class ConsistentFigure(TypedDict):
    """What a figure would have to be for the others: as it would be paid, unrounded; or why none
    fits."""

    value: str | None
    exact: str | None
    reason: str | None


class Consistency(TypedDict):
    """`gap`: what is left over at the end, unrounded; below zero, what is paid too much."""

    gap: str
    fits: bool
    says: str
    would_fit: dict[FigureName, ConsistentFigure]


def asking(loan: Loan, name: FigureName) -> Loan:
    """A loan whose figures are all stated, with one of them asked for."""
    if name == "rate" and floating(loan) is not None:
        return loan.model_copy(update={"rate": loan.rate.model_copy(update={"margin": UNKNOWN})})
    if name == "rate":
        return loan.model_copy(update={"rate": loan.rate.model_copy(update={"percent": UNKNOWN})})
    bought = {"purchase": None} if name == "principal" else {}
    return loan.model_copy(update={name: UNKNOWN, **bought})


def consistency(loan: Loan, marks: Marks) -> Consistency:
    """The stated figures held against each other."""
    line = payable_line(loan, Found(()))
    would_fit = {name: _would_fit(asking(loan, name), marks) for name in FIGURES}
    paid = would_fit["payment"]["value"]
    # What would be found for the payment, to the cent, fits as well.
    do_fit = fits(loan, line.terms) or (paid is not None and Decimal(paid) == loan.payment)
    over = gap(levelled(stated_terms(loan)))
    return {
        "gap": plain(significant(over)),
        "fits": do_fit,
        "says": _says(loan, over, fits=do_fit).say(marks),
        "would_fit": would_fit,
    }


def _says(loan: Loan, left: Decimal, *, fits: bool) -> Sentence:
    over = Money(abs(left), loan.decimals)
    if abs(left) < loan.minor_unit / 2:
        return Sentence("The figures fit: they end at exactly what is to be left.")
    if fits and loan.amortized_over is not None:
        return Sentence(
            "The figures fit as cash is paid: over all {count} payments rounding makes {over}.",
            count=Number(int(loan.amortized_over)),
            over=over,
        )
    if fits:
        return Sentence(
            "The figures fit as cash is paid: rounding each payment makes {over} at the end, which "
            "the last payment settles.",
            over=over,
        )
    if left > 0:
        return Sentence("The figures do not fit: at the end {over} too much is owed.", over=over)
    return Sentence("The figures do not fit: by the end {over} too much has been paid.", over=over)


def _would_fit(loan: Loan, marks: Marks) -> ConsistentFigure:
    if loan.rate.convention.is_of_a_loan and loan.unknown in ("count", "balance"):
        reason = worded("A flat quote speaks of a stated number of payments that repay to nothing.")
        return {"value": None, "exact": None, "reason": reason}
    if loan.asked and (why_not := why_not_asked(loan, loan.asked)):
        return {"value": None, "exact": None, "reason": why_not}
    worked = work_out(loan)
    found, line = worked.found, worked.line
    why = found.note if found.reason is None and found.ordinary is None else found.reason
    if why is not None or line is None:
        return {"value": None, "exact": None, "reason": why.say(marks) if why else None}
    solution = found.meant
    return {
        "value": value_as_paid(loan, solution, line.terms, worked.schedule),
        "exact": plain(significant(solution)),
        "reason": None,
    }
