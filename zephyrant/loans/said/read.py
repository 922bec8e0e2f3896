"""What came of a line: each piece as it was read, and what is wrong where."""

from typing import Literal

from pydantic import BaseModel, ConfigDict

from ..errors import FieldError


class Piece(BaseModel):
    """A piece of a line: its text (empty where nothing was said), the field of the document it is
    read into and what stands there; whether that is a guess."""

    model_config = ConfigDict(frozen=True, defer_build=True)

    text: str
    field: str
    value: str | int
    guess: bool = False


class LineError(FieldError):
    """What is wrong with a line, and where in it: the first character and the one after the
    last."""

    field: Literal["line"] = "line"
    at: tuple[int, int]


class LineErrors(BaseModel):
    """What is answered in place of a solved loan when a line is none."""

    model_config = ConfigDict(frozen=True, defer_build=True)

    errors: tuple[LineError, ...]
