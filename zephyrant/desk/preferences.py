"""How each analyst has the desk: the marks of numbers, the columns of the list."""

from typing import Any, Final, Literal

from django.contrib.auth.models import User
from ninja import Schema

from zephyrant.loans import CompoundingField, CurrencyCode, Every, MarksName
from zephyrant.loans.said import Usual
from zephyrant.texts import Worded

from .models import Preferences

Column = Literal[
    "amount",
    "rate",
    "payment",
    "term",
    "effective",
    "asked",
    "answer",
    "tags",
    "created",
    "changed",
]
#: The columns the list of cases may have beside what a case is called, and what stands over them.
COLUMNS: Final[Worded[Column]] = Worded(
    {
        "amount": "Amount",
        "rate": "Rate",
        "payment": "Payment",
        "term": "Term",
        "effective": "Effective a year",
        "asked": "Asked for",
        "answer": "Answer",
        "tags": "Tags",
        "created": "Started",
        "changed": "Changed",
    }
)
#: Those of who has chosen none.
USUAL_COLUMNS: Final[tuple[Column, ...]] = (
    "amount",
    "rate",
    "term",
    "asked",
    "answer",
    "tags",
    "changed",
)


def _kept(user: User, name: str) -> Any:  # noqa: ANN401
    return Preferences.objects.filter(user=user).values_list(name, flat=True).first()


def keep(user: User, **chosen: Any) -> None:  # noqa: ANN401
    """Keeps what a user has chosen, and the rest as it is."""
    Preferences.objects.update_or_create(user=user, defaults=chosen)


class Begins(Schema):
    """How a new case begins, and what a line means that does not say it."""

    currency: CurrencyCode = "EUR"
    every: Every = "month"
    quoted: Literal["nominal", "effective", "continuous", "flat"] = "nominal"
    compounding: CompoundingField | None = None
    timing: Literal["in-arrears", "in-advance"] = "in-arrears"

    @property
    def usual(self) -> Usual:
        """The same as the grammar of lines takes it."""
        return Usual(self.currency, self.every, self.quoted, self.compounding)


def begins_of(user: User) -> Begins:
    """How a new case of a user begins."""
    return Begins.model_validate(_kept(user, "begins") or {})


def marks_of(user: User) -> MarksName:
    """The number marks a user reads and types."""
    return _kept(user, "marks") or "comma-point"


def files_of(user: User) -> Any:  # noqa: ANN401
    """How files are made for a user, as it is kept; None where nothing was chosen."""
    return _kept(user, "files")


def columns_of(user: User) -> list[str]:
    """The columns the list of cases has for a user, in their order."""
    kept = _kept(user, "columns")
    return list(USUAL_COLUMNS) if kept is None else [each for each in kept if each in COLUMNS]
