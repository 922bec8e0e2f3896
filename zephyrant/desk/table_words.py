"""How far a table of loans is, in words."""

from zephyrant.loans import MARKS, Marks, MarksName

from .models import LoanTable


def state_in_words(table: LoanTable, marks_name: MarksName) -> str:
    """ "998 solved, 2 without an answer"."""
    marks = MARKS[marks_name]
    match table.state:
        case "matching":
            return "its columns are to be confirmed"
        case "waiting" if not table.done:
            return "waits for its turn"
        case "waiting" | "running":
            return f"{_number(table.done, marks)} of {_number(table.rows, marks)} rows done"
        case "done":
            return _came_to(table, marks)
        case "cancelled":
            return "cancelled"
    return table.why or "failed"


def _came_to(table: LoanTable, marks: Marks) -> str:
    summary = table.summary
    if not summary:
        return "done"
    parts = [f"{_number(summary['solved'], marks)} solved"]
    if summary["problems"]:
        parts.append(f"{_number(summary['problems'], marks)} without an answer")
    if summary["apart"]:
        parts.append(f"{_number(summary['apart'], marks)} left out")
    return ", ".join(parts)


def _number(number: int, marks: Marks) -> str:
    return marks.write(str(number))
