"""How much work a question may be: the one who asks hands in a budget, the core looks at it while
it works, and has no clock of its own."""

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from typing import Final, NamedTuple

from zephyrant.texts import worded

from .errors import FieldError, LoansError

#: Seconds one question may be worked, where whoever asks says nothing else.
A_QUESTION: Final = 20.0
#: Tells whether the budget is spent.
Spent = Callable[[], bool]
#: Is told how much of what was asked is done, from 0 to 1.
Told = Callable[[float], object]


def _to_nobody(share: float) -> None:
    """Nobody wants to know how much is done."""


class _Budget(NamedTuple):
    spent: Spent
    seconds: float
    told: Told


_budget: ContextVar[_Budget | None] = ContextVar("budget", default=None)


class BudgetSpentError(LoansError):
    """What was asked takes more work than is allowed; `errors` says so at the figure that costs
    most."""

    def __init__(self, *errors: FieldError) -> None:
        self.errors = errors or (FieldError(field="", message=worded(_TOO_MUCH)),)
        super().__init__(*self.errors)


_TOO_MUCH: Final = "This takes too long to be worked. Ask for less of it at once."


@contextmanager
def within(spent: Spent, seconds: float, told: Told = _to_nobody) -> Iterator[None]:
    """What is asked inside is worked until the budget is spent; then, or where the price of a loan
    lies far above so many seconds, `BudgetSpentError`. What grows (a file) tells how far it is."""
    token = _budget.set(_Budget(spent, seconds, told))
    try:
        yield
    finally:
        _budget.reset(token)


def look() -> None:
    """Looks at the budget; raises `BudgetSpentError` where it is spent."""
    budget = _budget.get()
    if budget is not None and budget.spent():
        raise BudgetSpentError


def allowed() -> float | None:
    """How many seconds there are in all for what is asked; None: no bound."""
    budget = _budget.get()
    return None if budget is None else budget.seconds


def grown(done: float, whole: float) -> None:
    """So much of a file is made; looks at the budget too."""
    look()
    budget = _budget.get()
    if budget is not None and whole:
        budget.told(min(1.0, done / whole))
