"""How a solved table comes out, a part at a time: as text for people and programs, or as a file
whose columns have kinds."""

import io
import pickle
import shutil
import tempfile
from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from pathlib import Path
from typing import IO, TYPE_CHECKING, Final, Literal, NamedTuple

from zephyrant.loans import grown
from zephyrant.loans.tape import RESULTS
from zephyrant.outlets.markdown import table_of as markdown_table
from zephyrant.outlets.reader import Reader
from zephyrant.outlets.told import Rows

from .kinds import RESULT_KINDS, TEXT, is_number, texts_of, typed
from .writing import apart, csv_text, json_lines

if TYPE_CHECKING:
    import polars as pl

WayName = Literal["csv", "json", "md", "text", "xlsx", "parquet", "arrow"]
#: Of the results what is told to somebody who looks on; the others stand in the other ways.
_LOOKED_AT: Final = ("unknown", "found", "total_interest", "final_payment", "effective", "problem")
#: Rows of a table that is kept which are told at once.
_ROWS: Final = 2_000
#: Bytes of a file that are handed on at once.
_AT_ONCE: Final = 1_000_000
Columns = Sequence[Sequence[str]]


class Heads(NamedTuple):
    """The columns of a solved table: what they are called, what they hold, which of them are the
    table's own, the others being results; and for whom they are told."""

    names: tuple[str, ...]
    kinds: tuple[str, ...]
    own: range
    reader: Reader = Reader()

    @classmethod
    def beside(cls, names: Sequence[str], kinds: Sequence[str], reader: Reader) -> "Heads":
        """A table's own columns, the results after them."""
        told = (RESULT_KINDS[name] for name in RESULTS)
        return cls((*names, *RESULTS), (*kinds, *told), range(len(names)), reader)

    @property
    def apart(self) -> list[str]:
        """The names, each once; see `writing.apart`."""
        own = [self.names[at] for at in self.own]
        given = apart([*own, *(n for at, n in enumerate(self.names) if at not in self.own)])
        results = iter(given[len(own) :])
        return [n if at in self.own else next(results) for at, n in enumerate(self.names)]


class WayOut(NamedTuple):
    """A way out: some rows of a table, which depend on no others, and all of them put together."""

    part: Callable[[Heads, Columns], bytes]
    whole: Callable[[Heads, Iterable[bytes]], Iterator[bytes]]


def _in_a_row(head: Callable[[Heads], str]) -> Callable[[Heads, Iterable[bytes]], Iterator[bytes]]:
    """One part after the other, below a head."""

    def whole(heads: Heads, parts: Iterable[bytes]) -> Iterator[bytes]:
        yield head(heads).encode()
        yield from parts

    return whole


def _csv_head(heads: Heads) -> str:
    form = heads.reader.csv
    return form.begins + csv_text([[name] for name in heads.names], (), form)


def _csv(heads: Heads, columns: Columns) -> bytes:
    # Numbers, whichever they are: of results those that are texts alone may read as a formula.
    ours = [at for at, kind in enumerate(heads.kinds) if is_number(kind)]
    return csv_text(columns, ours, heads.reader.csv).encode()


def _no_head(heads: Heads) -> str:
    return ""


def _json(heads: Heads, columns: Columns) -> bytes:
    # Results are texts, as they are in an answer.
    kinds = [kind if at in heads.own else TEXT for at, kind in enumerate(heads.kinds)]
    return json_lines(heads.apart, columns, kinds).encode()


def _looked_at(heads: Heads, columns: Columns) -> Rows:
    places = [at for at, name in enumerate(heads.names) if at in heads.own or name in _LOOKED_AT]
    rows = zip(*(columns[place] for place in places), strict=True)
    return Rows(tuple(heads.names[place] for place in places), list(rows))


def _markdown_head(heads: Heads) -> str:
    return "\n".join(markdown_table(_looked_at(heads, [()] * len(heads.names))))


def _markdown(heads: Heads, columns: Columns) -> bytes:
    return "\n".join([*markdown_table(_looked_at(heads, columns))][2:]).encode()


def _text(heads: Heads, columns: Columns) -> bytes:
    from rich.console import Console

    from zephyrant.outlets.text import print_part, table_of

    out = io.StringIO()
    console = Console(file=out, width=shutil.get_terminal_size().columns, highlight=False)
    print_part(console, table_of(_looked_at(heads, columns)))
    return out.getvalue().encode()


# Files whose columns have kinds


def _with_types(heads: Heads, columns: Columns) -> bytes:
    """Some rows as a file of Arrow."""
    import polars as pl

    frame = pl.DataFrame(
        {
            name: typed(cells, kind)
            for name, kind, cells in zip(heads.apart, heads.kinds, columns, strict=True)
        }
    )
    out = io.BytesIO()
    frame.write_ipc(out)
    return out.getvalue()


def _parquet_of(heads: Heads, parts: Iterable[bytes]) -> Iterator[bytes]:
    yield from _together(heads, parts, lambda frame, path: frame.sink_parquet(path))


def _arrow_of(heads: Heads, parts: Iterable[bytes]) -> Iterator[bytes]:
    yield from _together(heads, parts, lambda frame, path: frame.sink_ipc(path))


def _together(
    heads: Heads, parts: Iterable[bytes], sink: "Callable[[pl.LazyFrame, Path], object]"
) -> Iterator[bytes]:
    """Parts put together on disk, where they may be as long as they are."""
    import polars as pl

    with tempfile.TemporaryDirectory(prefix="zephyrant-") as folder:
        files = []
        for number, part in enumerate(parts):
            files.append(Path(folder) / f"{number:09}.arrow")
            files[-1].write_bytes(part)
        if not files:
            files.append(Path(folder) / "none.arrow")
            files[-1].write_bytes(_with_types(heads, [()] * len(heads.names)))
        whole = Path(folder) / "whole"
        sink(pl.scan_ipc(files), whole)
        with whole.open("rb") as file:
            yield from _chunks(file)


def _chunks(file: IO[bytes]) -> Iterator[bytes]:
    while chunk := file.read(_AT_ONCE):
        yield chunk


def _for_a_workbook(heads: Heads, columns: Columns) -> bytes:
    return pickle.dumps([list(column) for column in columns])


def _workbook_of(heads: Heads, parts: Iterable[bytes]) -> Iterator[bytes]:
    from .workbook_out import write_workbook

    with tempfile.TemporaryFile() as file:
        unpacked = (pickle.loads(part) for part in parts)  # noqa: S301  (what we packed)
        write_workbook(file, heads, unpacked)
        file.seek(0)
        yield from _chunks(file)


WAYS_OUT: Final[Mapping[WayName, WayOut]] = {
    "csv": WayOut(_csv, _in_a_row(_csv_head)),
    "json": WayOut(_json, _in_a_row(_no_head)),
    "md": WayOut(_markdown, _in_a_row(_markdown_head)),
    "text": WayOut(_text, _in_a_row(_no_head)),
    "xlsx": WayOut(_for_a_workbook, _workbook_of),
    "parquet": WayOut(_with_types, _parquet_of),
    "arrow": WayOut(_with_types, _arrow_of),
}
#: Ways that are files for programs alone.
BINARY: Final[frozenset[WayName]] = frozenset(("xlsx", "parquet", "arrow"))


def told(way: WayName, heads: Heads, parts: Iterable[Columns]) -> Iterator[bytes]:
    """Parts of a table told one way."""
    of = WAYS_OUT[way]
    return of.whole(heads, (of.part(heads, columns) for columns in parts))


def file_of(way: WayName, content: bytes, inside: Sequence[str], heads: Heads) -> bytes:
    """Columns of texts that are kept as Parquet, by their names there, as a file."""
    import polars as pl

    frame = pl.read_parquet(io.BytesIO(content), columns=list(inside))
    return b"".join(told(way, heads, parts_of(frame, inside)))


def parts_of(frame: "pl.DataFrame", inside: Sequence[str]) -> Iterator[Columns]:
    """Columns of texts in parts; tells how many rows are done."""
    for done, part in enumerate(frame.select(inside).iter_slices(_ROWS)):
        grown(done * _ROWS, frame.height)
        yield [texts_of(column) for column in part.iter_columns()]
