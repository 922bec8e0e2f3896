"""Tables of texts as people read them: written once, in the reader's marks, wherever they stand."""

from pydantic import BaseModel, ConfigDict


class RowTold(BaseModel):
    """A row of a table: what it is called, and a text in each of its cells."""

    model_config = ConfigDict(frozen=True, defer_build=True)

    title: str
    cells: tuple[str, ...]


class TableTold(BaseModel):
    """A table: what stands over its columns, over that of the titles too, and its rows."""

    model_config = ConfigDict(frozen=True, defer_build=True)

    heads: tuple[str, ...]
    rows: tuple[RowTold, ...]


def row_told(title: str, *cells: str) -> RowTold:
    """A row of a table."""
    return RowTold(title=title, cells=cells)
