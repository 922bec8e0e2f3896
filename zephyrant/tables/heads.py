"""The names of columns found among the first lines of a file, below titles or in two rows."""

from collections.abc import Callable, Iterable, Iterator, Sequence
from itertools import chain, islice
from typing import Final

from zephyrant.texts import worded

from .kinds import TEXT, Seen
from .table import Table, hold_within, refused

#: Characters of a cell that are kept.
_MOST_CELL: Final = 1_000


def tidy(
    lines: Iterator[list[str]],
    name: str,
    most_rows: int,
    kinds: Callable[[], Iterator[Sequence[str]]] | None = None,
) -> Table:
    """Names from the row that holds them, rows made as long as it; empty rows left out. `kinds`:
    what the cells are of each line that is not empty, where the file says it."""
    lines = filled(lines)
    head = Head(lines, name, most_rows)
    held = [TEXT] * len(head.names) if kinds is None else _seen(kinds(), head)
    rows = as_wide(chain(head.begun, lines), len(head.names), most_rows)
    return Table(head.names, rows, head.notes, held)


def filled(lines: Iterator[list[str]]) -> Iterator[list[str]]:
    """The lines in which something stands."""
    return (line for line in lines if any(map(str.strip, line)))


class Head:
    """The names of columns among the first lines of a file in which something stands, how many of
    these lines come before its rows, what was done about it, and the rows that were read on the
    way."""

    def __init__(self, lines: Iterator[list[str]], name: str, most_rows: int) -> None:
        first = list(islice(lines, MOST_TITLES))
        if not first:
            raise refused(
                worded(
                    "{name} is empty: a row of names and rows of loans are expected.",
                    name=name or worded("This file"),
                )
            )
        self.notes: list[str] = []
        head, rest = _head(first, self.notes)
        hold_within(0, len(head), most_rows)
        self.names = each_once(head, self.notes)
        self.above = len(first) - rest
        self.begun = first[self.above :]


def as_wide(lines: Iterable[list[str]], width: int, most_rows: int) -> Iterator[list[str]]:
    """Lines as rows of a width, no cell longer than is kept."""
    for number, line in enumerate(lines, 1):
        if number > most_rows:
            hold_within(number, width, most_rows)
        if len(line) == width and max(map(len, line)) <= _MOST_CELL:
            yield line
            continue
        cells = [cell[:_MOST_CELL] for cell in line[:width]]
        yield cells + [""] * (width - len(cells))


def _seen(lines: Iterator[Sequence[str]], head: Head) -> list[str]:
    seen, width = Seen(), len(head.names)
    for kinds in islice(lines, head.above, None):
        seen.add(kinds[:width])
    return seen.kinds(width)


#: Lines among which the names of columns are looked for: titles may stand above them.
MOST_TITLES: Final = 12
_TWO_ROWS: Final = "Two rows hold the names of columns: they are read together."


def _trimmed(line: list[str]) -> list[str]:
    end = len(line)
    while end and not line[end - 1].strip():
        end -= 1
    return line[:end]


def _head(first: list[list[str]], notes: list[str]) -> tuple[list[str], int]:
    """The names of columns, from one row or two under each other, and how many of the rows come
    after them."""
    widest = max(sum(bool(cell.strip()) for cell in line) for line in first)
    at = next(
        (
            place
            for place, line in enumerate(first)
            if _holds_names(line) and 2 * sum(bool(cell.strip()) for cell in line) > widest
        ),
        None,
    )
    if at is None:
        if not any(_is_name(cell) for cell in first[0]):
            notes.append(worded("The first row holds no names of columns: they are numbered."))
            return [f"Column {n}" for n in range(1, len(_trimmed(first[0])) + 1)], len(first)
        at = 0
    above = _trimmed(first[at - 1]) if at else []
    has_gaps = any(not cell.strip() for cell in above)
    groups = above if has_gaps and _holds_names(above, all_of_it=True) else []
    for line in first[: at - 1 if groups else at]:
        title = " ".join(cell.strip() for cell in line if cell.strip())[:80]
        notes.append(
            worded("“{title}” stands above the names of columns and is left out.", title=title)
        )
    head, rest = _trimmed(first[at]), first[at + 1 :]
    if groups:
        notes.append(worded(_TWO_ROWS))
        return _joined_heads(groups, head), len(rest)
    if rest and any(not cell.strip() for cell in head) and _holds_names(rest[0], all_of_it=True):
        notes.append(worded(_TWO_ROWS))
        return _joined_heads(head, rest[0]), len(rest) - 1
    return head, len(rest)


def _holds_names(line: list[str], *, all_of_it: bool = False) -> bool:
    """Whether a row reads as names of columns: two at the least, and hardly a number."""
    cells = [cell for cell in line if cell.strip()]
    names = sum(map(_is_name, cells))
    return names >= 2 and (names == len(cells) if all_of_it else 2 * names > len(cells))


def _joined_heads(above: list[str], below: list[str]) -> list[str]:
    """Names over several columns stand before those under them."""
    below, over, joined = _trimmed(below), "", []
    for place in range(max(len(above), len(below))):
        over = (above[place].strip() if place < len(above) else "") or over
        under = below[place].strip() if place < len(below) else ""
        joined.append(f"{over} {under}".strip())
    return joined


def _is_name(cell: str) -> bool:
    return any(character.isalpha() for character in cell) and cell.strip() != "?"


def each_once(head: Sequence[str], notes: list[str]) -> list[str]:
    """Names of columns, each once and none empty; what was done about it is noted."""
    names: list[str] = []
    for number, cell in enumerate(head, 1):
        name = " ".join(cell.split())[:80] or f"Column {number}"
        if name in names:
            again = 2
            while f"{name} ({again})" in names:
                again += 1
            notes.append(
                worded(
                    "Two columns are called “{name}”: the second is “{name} ({again})”.",
                    name=name,
                    again=again,
                )
            )
            name = f"{name} ({again})"
        names.append(name)
    return names
