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


#: Where a user, who is another object for each request, holds what was read of it.
_READ: Final = "_preferences_read"


def kept(user: User, name: str) -> Any:  # noqa: ANN401
    """What a user has chosen, as it is kept; None where nothing was."""
    read: dict[str, Any] | None = getattr(user, _READ, None)
    if read is None:
        read = dict(Preferences.objects.filter(user=user).values().first() or {})
        setattr(user, _READ, read)
    return read.get(name)


def forget(user: User) -> None:
    """What a user has chosen is read anew: they may have chosen meanwhile, by another request."""
    setattr(user, _READ, None)


def keep(user: User, **chosen: Any) -> None:  # noqa: ANN401
    """Keeps what a user has chosen, and the rest as it is."""
    Preferences.objects.update_or_create(user=user, defaults=chosen)
    forget(user)


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
    return Begins.model_validate(kept(user, "begins") or {})


def marks_of(user: User) -> MarksName:
    """The number marks a user reads and types."""
    return kept(user, "marks") or "comma-point"


def columns_of(user: User) -> list[str]:
    """The columns the list of cases has for a user, in their order."""
    chosen = kept(user, "columns")
    return list(USUAL_COLUMNS) if chosen is None else [each for each in chosen if each in COLUMNS]
