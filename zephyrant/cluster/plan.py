"""What a run works: kept in its folder, so that a run started again is known to be the same."""

from collections.abc import Mapping, Sequence
from typing import Any, Literal

from pydantic import BaseModel, ConfigDict

from zephyrant.loans.tape import Defaults, FieldName, Shock
from zephyrant.outlets.reader import Reader
from zephyrant.tables.blocks import Matched
from zephyrant.tables.pieces import Piece, TapeFile
from zephyrant.tables.ways_out import Heads


class Wanted(BaseModel):
    """What whoever starts a run says: the tape as it lies there, how it is read, and under which
    shocks (none: as it stands, once); `rows`: whether they are written, or sums alone."""

    model_config = ConfigDict(frozen=True)

    files: tuple[TapeFile, ...]
    stated: Mapping[str, Any]
    columns: Mapping[str, str]
    template: Mapping[str, Any] | None
    part_rows: int
    shocks: tuple[Shock, ...]
    rows: bool
    edition: str


class Plan(BaseModel):
    """A tape settled: what its columns are and hold, how cells are read, its parts with the number
    of rows in each."""

    model_config = ConfigDict(frozen=True)

    zephyrant: Literal["tape-run/1"] = "tape-run/1"
    wanted: Wanted
    names: tuple[str, ...]
    kinds: tuple[str, ...]
    columns: dict[FieldName, int]
    defaults: Defaults
    pieces: tuple[Piece, ...]
    part_rows: tuple[int, ...]

    @property
    def paths(self) -> Sequence[Shock | None]:
        """The paths of the run; None: the tape as it stands."""
        return self.wanted.shocks or (None,)

    @property
    def rows(self) -> int:
        """The rows of the tape."""
        return sum(self.part_rows)

    def matched(self) -> Matched:
        """The tape as each part of it is worked."""
        heads = Heads.beside(self.names, self.kinds, Reader())
        return Matched(heads, self.columns, self.defaults)
