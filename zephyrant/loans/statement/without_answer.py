"""A statement without an answer: where it leads all the same, and what can be taken to give it
one, in its marks."""

from decimal import Decimal
from typing import Final

from pydantic import BaseModel, ConfigDict

from zephyrant.texts import Worded

from ..answer.aim import aimed
from ..answer.laid import ScheduleColumns
from ..answer.solving import solve
from ..calendars import frequencies
from ..document.choices import WE
from ..document.figure_path import BALANCE, COUNT, PAYMENT, FigurePath
from ..document.loan import Loan
from ..document.telling import headline
from ..questions.ways_out import WayOut, as_it_goes, ways_out
from ..wording.marks import MARKS, Marks
from .entries import typed_at
from .restating import as_typed
from .statement import Statement
from .telling import LeftOver, left_over
from .working import loan_of


class WayTold(BaseModel):
    """A figure to take at its entry, and what the answer then is."""

    model_config = ConfigDict(frozen=True, defer_build=True)

    entry: str
    typed: str
    text: str
    gives: str


class Unanswered(BaseModel):
    """The ways out of a loan without an answer, and how it goes: in words, and as the columns of a
    schedule; None where nothing simple shows it."""

    model_config = ConfigDict(frozen=True, defer_build=True)

    ways: tuple[WayTold, ...]
    goes: str | None
    schedule: ScheduleColumns | None
    left: LeftOver | None


#: How a loan is said to go, by what is asked for.
_GOES: Final = Worded(
    {
        COUNT: "As it goes, {found} is owed after {term}.",
        BALANCE: "As it goes, it is repaid after {term}.",
        PAYMENT: "With nothing paid, {found} is owed after {term}.",
    }
)


def unanswered(statement: Statement) -> Unanswered:
    """Where a statement without an answer leads, and what would give it one."""
    loan, marks = aimed(loan_of(statement)), MARKS[statement.marks]
    ways = tuple(_told(loan, way, marks) for way in ways_out(loan))
    goes = as_it_goes(loan)
    answer = solve(goes, marks) if goes else None
    says = _GOES.get(loan.asked) if loan.asked else None
    if goes is None or answer is None or answer.laid is None or says is None:
        return Unanswered(ways=ways, goes=None, schedule=None, left=None)
    columns = answer.laid.columns_told
    return Unanswered(
        ways=ways,
        goes=says.format(
            found=headline("money", answer.value or "0", marks),
            term=frequencies.term(len(columns.number), loan.every),
        ),
        schedule=columns,
        left=left_over(answer, WE[loan.we], marks),
    )


def _told(loan: Loan, way: WayOut, marks: Marks) -> WayTold:
    asked = loan.asked or COUNT
    return WayTold(
        entry=typed_at(str(way.path)),
        typed=as_typed(way.path, Decimal(way.value), marks, loan.decimals),
        text=_named(way.path, way.value, loan, marks),
        gives=_named(asked, way.answer, loan, marks),
    )


def _named(path: FigurePath, value: str, loan: Loan, marks: Marks) -> str:
    """ "payment 432.00", "1,096 payments (91 years 4 months)"."""
    match path.kind:
        case "count":
            count = int(Decimal(value))
            term = frequencies.term(count, loan.every)
            return f"{frequencies.number_of(marks.write(str(count)), 'payment')} ({term})"
        case "percent":
            return f"{path.named.title} {headline('percent', value, marks)} %"
    return f"{path.named.title} {marks.number(Decimal(value), 20, loan.decimals)}"
