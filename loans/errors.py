"""What is wrong with a document: one typed family, each with a field and a sentence."""

from collections.abc import Iterable

from pydantic import BaseModel, ConfigDict


class FieldError(BaseModel):
    """One thing wrong: the path of the field (`rate.percent`; empty for the whole) and why."""

    model_config = ConfigDict(frozen=True)

    field: str
    message: str


class Errors(BaseModel):
    """What is answered in place of a solved loan when the document is not one."""

    model_config = ConfigDict(frozen=True)

    errors: tuple[FieldError, ...]


class NotALoan(Exception):  # noqa: N818  (reads as the trade says it)
    """A document that cannot be read as a loan; `errors` tells every reason found."""

    def __init__(self, errors: Iterable[FieldError]) -> None:
        self.errors = tuple(errors)
        super().__init__("; ".join(f"{error.field}: {error.message}" for error in self.errors))
