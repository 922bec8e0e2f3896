"""Zephyrant as a library: loans solved, swept, aimed at, quotes compared, tapes of loans, with
figures as decimals and tables as tables. `import zephyrant` gives all of it."""

from zephyrant.loans import LoansError, NotALoan

from .answers import Answer
from .asking import aim, solve, sweep
from .folders import solve_folder
from .frames import Frame
from .quotes import compare_quotes, equivalents
from .tapes import solve_tape
from .words import explain

__all__ = [
    "Answer",
    "Frame",
    "LoansError",
    "NotALoan",
    "aim",
    "compare_quotes",
    "equivalents",
    "explain",
    "solve",
    "solve_folder",
    "solve_tape",
    "sweep",
]
