"""How far a table of loans is, in words."""

from zephyrant.loans import MARKS, Marks, MarksName
from zephyrant.texts import worded

from .models import LoanTable


def state_in_words(table: LoanTable, marks_name: MarksName) -> str:
    """ "998 solved, 2 without an answer"."""
    marks = MARKS[marks_name]
    match table.state:
        case "matching":
            return worded("its columns are to be confirmed")
        case "waiting" if not table.done:
            return worded("waits for its turn")
        case "waiting" | "running":
            return worded(
                "{done} of {rows} rows done",
                done=_number(table.done, marks),
                rows=_number(table.rows, marks),
            )
        case "done":
            return _came_to(table, marks)
        case "cancelled":
            return worded("cancelled")
    return worded(table.why or "failed")


def _came_to(table: LoanTable, marks: Marks) -> str:
    summary = table.summary
    if not summary:
        return worded("done")
    parts = [worded("{solved} solved", solved=_number(summary["solved"], marks))]
    if summary["problems"]:
        parts.append(
            worded("{problems} without an answer", problems=_number(summary["problems"], marks))
        )
    if summary["apart"]:
        parts.append(worded("{apart} left out", apart=_number(summary["apart"], marks)))
    return ", ".join(parts)


def _number(number: int, marks: Marks) -> str:
    return marks.write(str(number))
