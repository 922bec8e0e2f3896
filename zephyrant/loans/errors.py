"""What is wrong with a document: one typed family, each with a field and a sentence."""

from collections.abc import Iterable
from typing import Self
from uuid import uuid4

from pydantic import BaseModel, ConfigDict

from zephyrant.texts import worded


class FieldError(BaseModel):
    """One thing wrong: the path of the field (`rate.percent`; empty for the whole) and why."""

    model_config = ConfigDict(frozen=True, defer_build=True)

    field: str
    message: str


class Errors(BaseModel):
    """What is answered in place of a solved loan when the document is not one."""

    model_config = ConfigDict(frozen=True, defer_build=True)

    errors: tuple[FieldError, ...]


class Fault(Errors):
    """What is answered where we failed, not the document: `fault` is the id under which our log
    tells more."""

    fault: str


def at_fault(name: str = "") -> Fault:
    """A fault of ours, with the id it has already, or one of its own."""
    name = name or uuid4().hex[:12]
    message = worded(
        "Something went wrong with this on our side, not with what was stated. "
        "Fault {name} is in the log.",
        name=name,
    )
    return Fault(errors=(FieldError(field="", message=message),), fault=name)


class LoansError(Exception):
    """What the core refuses, with every reason at its field; all its errors are of this family."""

    errors: tuple[FieldError, ...]


class NotALoan(LoansError):  # noqa: N818  (reads as the trade says it)
    """A document that cannot be read as a loan, or a question that it cannot be asked."""

    def __init__(self, errors: Iterable[FieldError]) -> None:
        self.errors = tuple(errors)
        super().__init__("; ".join(f"{error.field}: {error.message}" for error in self.errors))

    @classmethod
    def at(cls, field: str, message: str) -> Self:
        """What is wrong at one field (empty for the whole)."""
        return cls([FieldError(field=field, message=message)])

    def __reduce__(self) -> tuple[type["NotALoan"], tuple[tuple[FieldError, ...]]]:
        """Travels between processes with its reasons."""
        return type(self), (self.errors,)
