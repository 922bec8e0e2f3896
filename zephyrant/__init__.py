"""Loans solved: state a loan, mark what is missing, get the whole loan to the cent.

>>> import zephyrant
>>> zephyrant.solve(principal=48250, rate="6.35 % compounded half-yearly", count=60).value
Decimal('938.82')
"""

from typing import TYPE_CHECKING

from .version import __version__

if TYPE_CHECKING:
    from .library import (
        Answer,
        Frame,
        LoansError,
        NotALoan,
        aim,
        compare_quotes,
        equivalents,
        explain,
        solve,
        solve_folder,
        solve_tape,
        sweep,
    )

__all__ = [
    "Answer",
    "Frame",
    "LoansError",
    "NotALoan",
    "__version__",
    "aim",
    "compare_quotes",
    "equivalents",
    "explain",
    "solve",
    "solve_folder",
    "solve_tape",
    "sweep",
]


def __getattr__(name: str) -> object:
    # What is of the library is loaded when it is first asked for: the core and the commands, which
    # stand below it, start without it.
    if name in __all__:
        from zephyrant import library  # noqa: PLC0415

        return getattr(library, name)
    raise AttributeError(f"module {__name__!r} has no attribute {name!r}")


def __dir__() -> list[str]:
    return [*globals(), *__all__]
