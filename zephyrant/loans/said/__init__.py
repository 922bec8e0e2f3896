"""A loan said in a line, as an analyst would: "43,700 at 5.4 % over 4 years"."""

from .line import Line, read_line
from .read import LineError, LineErrors, Piece

__all__ = ["Line", "LineError", "LineErrors", "Piece", "read_line"]
