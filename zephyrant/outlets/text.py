"""An answer as text for a terminal: as wide as that is, in colours only where it has them."""

from collections.abc import Iterator
from textwrap import fill
from typing import Final

from rich.box import SIMPLE_HEAD
from rich.console import Console, RenderableType
from rich.table import Table
from rich.text import Text

from zephyrant.loans import Answer, Loan, Marks

from .picture import Picture, picture_of
from .told import Rows, schedule_of, tell, years_of

#: The one accent is kept for the figure that was found.
_FOUND: Final = "bold dark_orange"
#: Lines of text that a picture is tall, and a column of one, an eighth at a time.
_TALL: Final = 5
_EIGHTHS: Final = " ▁▂▃▄▅▆▇█"
_WIDEST: Final = 100
#: What is longer than this is words, which may stand on several lines.
_SENTENCE: Final = 30


def print_answer(
    console: Console,
    loan: Loan,
    answer: Answer,
    marks: Marks,
    *,
    rows: bool = False,
    working: bool = False,
) -> None:
    """Prints the whole answer; with every one of the `rows`, with its `working`."""
    for part in _parts(console, loan, answer, marks):
        print_part(console, part)
    if working:
        for step in answer.working:
            print_part(console, Text(step["title"], style="bold"))
            for line in (step["formula"], step["numbers"], step["result"]):
                if line:
                    print_part(console, Text(f"  {line}"))
        console.print()
    if answer.by_year:
        print_part(console, table_of(years_of(answer, marks)))
    if rows and answer.schedule:
        print_part(console, table_of(schedule_of(answer, marks)))


def print_part(console: Console, part: RenderableType) -> None:
    """Prints a part; a table that does not fit is as wide as it has to be, for no figure is cut."""
    width = console.width
    needed = console.measure(part).minimum if isinstance(part, Table) else 0
    try:
        console.width = max(width, needed)
        console.print(part, crop=False)
    finally:
        console.width = width


def _parts(console: Console, loan: Loan, answer: Answer, marks: Marks) -> Iterator[RenderableType]:
    told = tell(loan, answer, marks)
    yield Text(told.name, style="bold")
    yield Text(told.sentence)
    if told.aim:
        yield Text(told.aim)
    yield ""
    if told.reason:
        yield Text("There is no answer", style="bold")
        yield Text(told.reason)
        return
    if told.figure:
        yield Text(told.label)
        figure = [(text, _FOUND) if is_value else text for text, is_value in told.figure]
        yield Text.assemble("  ", Text(" ").join(Text.assemble(each) for each in figure))
    for line in told.lines:
        yield Text(fill(line, console.width, initial_indent="  ", subsequent_indent="  "), "dim")
    yield ""
    yield table_of(told.facts, headed=False)
    yield ""
    for table in (told.fees, told.rates, told.fitting):
        if table:
            yield table_of(table)
    picture = picture_of(answer, most_bars=_WIDEST)
    if picture:
        yield from _drawn(picture, min(console.width, _WIDEST))
    if told.proof:
        yield Text.assemble(("Proof. ", "bold"), told.proof)
        yield ""


def table_of(of: Rows, *, headed: bool = True) -> Table:
    """A table of texts, figures to the right; no figure is broken."""
    table = Table(
        box=SIMPLE_HEAD if headed else None,
        show_header=headed,
        pad_edge=False,
        header_style="bold",
    )
    for number, head in enumerate(of.heads):
        cells = [row[number] for row in of.rows] + ([head] if headed else [])
        widest = max((len(cell) for cell in cells if len(cell) <= _SENTENCE), default=0)
        table.add_column(Text(head), justify="right" if number else "left", min_width=widest)
    for row in of.rows:
        table.add_row(*map(Text, row))
    return table


def _drawn(picture: Picture, width: int) -> Iterator[Text]:
    """What is owed from the start to the end, an eighth of a line at a time."""
    owed = picture.owed
    width = max(2, min(width, 2 * len(owed)))
    last = len(owed) - 1
    shares = [max(0.0, owed[round(at * last / (width - 1))]) for at in range(width)]
    for line in reversed(range(_TALL)):
        eighths = (min(8, max(0, round(8 * (share * _TALL - line)))) for share in shares)
        yield Text("".join(_EIGHTHS[each] for each in eighths), no_wrap=True, style="cyan")
    ends = f"1{last:>{width - 1}}" if width > len(f"1{last}") else ""
    yield Text(ends, style="dim", no_wrap=True)
    yield Text("What is owed, from the first payment to the last", style="dim")
    yield Text("")
