"""A loan said in a line, as an analyst would: "43,700 at 5.4 % over 4 years"."""

from .line import Line, read_line
from .read import LineError, LineErrors, Piece
from .scanning import MOST_CHARACTERS
from .stated import read_stated
from .typed import SaidClauses, SaidLoan, said_clauses, said_loan
from .usual import Usual

__all__ = [
    "MOST_CHARACTERS",
    "Line",
    "LineError",
    "LineErrors",
    "Piece",
    "SaidClauses",
    "SaidLoan",
    "Usual",
    "read_line",
    "read_stated",
    "said_clauses",
    "said_loan",
]
