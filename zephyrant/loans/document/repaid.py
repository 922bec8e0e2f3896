"""What goes together with a way of repaying: its figures, its clauses, its time."""

from collections.abc import Sequence
from typing import TYPE_CHECKING, Any, Final

from zephyrant.texts import Worded, worded

from ..wording.marks import Marks
from .choices import REPAYMENT
from .fields import FIGURES, UNKNOWN, wrong_at
from .figure_path import FigurePath, figure_path
from .repayment import PartsInPercent, RepaidBy, percents_in_words

if TYPE_CHECKING:
    from .loan_fields import LoanFields

_LENT: Final = ("principal", "rate", "payment")
#: The figures that can be asked for, by way of repaying.
_ASKABLE: Final[dict[RepaidBy, tuple[str, ...]]] = {
    "level": FIGURES,
    "equal-principal": FIGURES,
    "interest-only": _LENT,
    "at-the-end": _LENT,
    "percents": (*_LENT, "balance"),
    "over": (*_LENT, "amortized_over"),
    "sum-of-digits": (*_LENT, "count"),
    "sculpted": ("principal", "cover.ratio"),
}


def repaid_by(loan: "LoanFields") -> RepaidBy:
    """How a loan is repaid, by name."""
    if isinstance(loan.repayment, PartsInPercent):
        return "percents"
    return "over" if loan.amortized_over is not None else loan.interest_shared or loan.repayment


def as_document(
    by: RepaidBy, *, percents: Sequence[str] = (), over: str | int = UNKNOWN
) -> dict[str, Any]:
    """A way of repaying as a document says it; level payments are not said."""
    if by == "percents":
        return {"repayment": {"percents": list(percents)}}
    if by == "over":
        return {"amortized_over": over}
    if by == "sum-of-digits":
        return {"interest_shared": by}
    return {} if by == "level" else {"repayment": by}


def repaid_in_words(loan: "LoanFields", marks: Marks) -> str:
    """How a loan is repaid, where terms are listed; nothing for level payments."""
    if isinstance(loan.repayment, PartsInPercent):
        return f"{percents_in_words(loan.repayment.percents, marks)} %"
    if loan.amortized_over is not None:
        over = loan.amortized_over
        return worded(
            "as over {over} payments",
            over=over if over == UNKNOWN else marks.write(str(over)),
        )
    by = repaid_by(loan)
    return "" if by == "level" else REPAYMENT[by].shown


#: Figures where they are listed.
_LISTED: Final[Worded[str]] = Worded(
    {
        "principal": "the amount",
        "rate": "the rate",
        "count": "the number of payments",
        "payment": "the payment",
        "balance": "the balance",
        "amortized_over": "the payments it is reckoned over",
        "cover.ratio": "the cover",
    }
)


def why_not_asked(loan: "LoanFields", path: FigurePath) -> str | None:
    """Why a figure cannot be asked for with this way of repaying; None where it can."""
    by = repaid_by(loan)
    names = _ASKABLE[by]
    if by == "level" or path.is_of_purchase or path in map(figure_path, names):
        return None
    if path.floats and "rate" in names:
        return None
    return worded(
        "With {way} the ? stands in one of these: {listed}.",
        way=REPAYMENT[by].shown,
        listed=", ".join(_LISTED[name] for name in names),
    )


def check_repayment(loan: "LoanFields") -> None:
    """Raises where the way of repaying does not go with the rest of the document."""
    if loan.repayment != "level":
        _check_style(loan)
    if loan.amortized_over is not None:
        _check_amortized(loan)
    if loan.interest_shared is not None:
        _check_shared(loan)
    if loan.asked is not None and (why := why_not_asked(loan, loan.asked)):
        raise wrong_at(loan.unknown or "", why)


def _check_style(loan: "LoanFields") -> None:
    words = REPAYMENT[repaid_by(loan)].shown
    for name in ("amortized_over", "interest_shared"):
        if getattr(loan, name) is not None:
            raise wrong_at(name, worded("This goes with level payments only."))
    if loan.timing != "in-arrears":
        raise wrong_at(
            "timing", worded("With {way} payments are made in arrears, at the end.", way=words)
        )
    if loan.count == 0:
        raise wrong_at("count", worded("With {way} state how many payments there are.", way=words))
    if loan.rate.convention.is_of_a_loan:
        raise wrong_at(
            "rate.quoted",
            worded("A flat quote speaks of level payments: quote the rate in another style."),
        )
    for number, clause in enumerate(loan.clauses):
        if clause.verb in ("payment", "step"):
            raise wrong_at(
                f"clauses.{number}.{clause.verb}",
                worded("With {way} no clause says what is paid: the parts do.", way=words),
            )
    if loan.repayment == "at-the-end":
        _states_no_balance(loan, worded("Everything is paid with the last payment"))
    if isinstance(loan.repayment, PartsInPercent) and isinstance(loan.count, int):
        _check_length(loan.repayment, loan.count, pauses="pay" in {c.verb for c in loan.clauses})


def _check_length(parts: PartsInPercent, count: int, *, pauses: bool) -> None:
    """As many parts as payments, or as payments that repay one: those are counted on the line."""
    given = len(parts.percents)
    if given == count or (pauses and given < count):
        return
    raise wrong_at(
        "repayment.percents",
        worded(
            "There are {given} parts for {count} payments: state one for each.",
            given=given,
            count=count,
        ),
    )


def _states_no_balance(loan: "LoanFields", why: str) -> None:
    if loan.balance != 0:
        raise wrong_at(
            "balance", worded("{why}: no balance is stated beside it, leave it at 0.", why=why)
        )


def _check_amortized(loan: "LoanFields") -> None:
    over, count = loan.amortized_over, loan.count
    if not isinstance(count, int) or not count:
        raise wrong_at(
            "count",
            worded("State how many payments are made of those the loan is reckoned over."),
        )
    if isinstance(over, int) and over < count:
        raise wrong_at(
            "amortized_over",
            worded(
                "The payments are reckoned over at least the {count} that are made.", count=count
            ),
        )
    if loan.rate.convention.is_of_a_loan:
        raise wrong_at(
            "rate.quoted",
            worded("A flat quote speaks of a loan that its payments repay: quote it otherwise."),
        )
    _states_no_balance(loan, worded("What the payments leave is due with the last"))


def _check_shared(loan: "LoanFields") -> None:
    if loan.amortized_over is not None:
        raise wrong_at("amortized_over", worded("Sum-of-digits shares out a loan that is repaid."))
    if loan.timing != "in-arrears":
        raise wrong_at("timing", worded("Sum-of-digits is for payments in arrears."))
    if loan.count == 0:
        raise wrong_at("count", worded("Sum-of-digits is for level payments: state how many."))
    calendar = loan.calendar
    if loan.day_count != "equal":
        raise wrong_at("day_count", worded("Sum-of-digits is for equal periods."))
    if calendar is not None and not calendar.is_regular:
        raise wrong_at(
            "first_payment", worded("Sum-of-digits is for equal periods: no odd first one.")
        )
    _states_no_balance(loan, worded("Sum-of-digits shares out a loan that is repaid"))
    for number, clause in enumerate(loan.clauses):
        if clause.verb not in ("fee", "charge"):
            raise wrong_at(
                f"clauses.{number}.{clause.verb}",
                worded("Beside sum-of-digits there are only fees and charges."),
            )
