"""An answer as Markdown: the sentence, what was found, its facts, its years or all of its rows."""

from collections.abc import Iterator

from zephyrant.loans import Answer, Loan, Marks

from .told import Rows, schedule_of, tell, years_of


def markdown_of(
    loan: Loan, answer: Answer, marks: Marks, *, rows: bool = False, working: bool = False
) -> str:
    """The whole answer; with every one of the `rows`, with its `working`."""
    lines = [*_head(loan, answer, marks)]
    if working and answer.working:
        lines += _working(answer)
    if answer.by_year:
        lines += ["## Year by year", "", *table_of(years_of(answer, marks))]
    if rows and answer.schedule:
        lines += ["## The schedule", "", *table_of(schedule_of(answer, marks))]
    return "\n".join(lines) + "\n"


def _head(loan: Loan, answer: Answer, marks: Marks) -> Iterator[str]:
    """What was stated and what came of it."""
    told = tell(loan, answer, marks)
    yield from (f"# {plainly(told.name)}", "", plainly(told.sentence), "")
    if told.aim:
        yield from (plainly(told.aim), "")
    if told.reason:
        yield from ("**There is no answer.** " + plainly(told.reason), "")
        return
    if told.figure:
        figure = " ".join(f"**{text}**" if is_it else plainly(text) for text, is_it in told.figure)
        yield from (f"{plainly(told.label)}: {figure}", "")
    yield from (f"- {plainly(line)}" for line in told.lines)
    yield ""
    for table in (told.facts, told.fees, told.rates, told.fitting):
        if table:
            yield from table_of(table)
    if told.proof:
        yield from (f"**Proof.** {plainly(told.proof)}", "")


def _working(answer: Answer) -> Iterator[str]:
    yield from ("## Working", "")
    for step in answer.working:
        yield f"- **{plainly(step['title'])}**  "
        shown = (step["formula"], step["numbers"], step["result"])
        yield "  " + "  \n  ".join(plainly(each) for each in shown if each)
    yield ""


def table_of(of: Rows) -> Iterator[str]:
    """A table of texts, figures to the right."""
    yield _row(of.heads)
    yield _row(("---", *["---:"] * (len(of.heads) - 1)))
    yield from map(_row, of.rows)
    yield ""


def _row(cells: tuple[str, ...]) -> str:
    return f"| {' | '.join(map(plainly, cells))} |"


def plainly(text: str) -> str:
    """A text that nothing in it marks up."""
    for mark in ("\\", "|", "*", "_", "`", "<", "[", "#"):
        text = text.replace(mark, f"\\{mark}")
    return " ".join(text.split())
