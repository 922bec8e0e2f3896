"""The statement of a case as PDF, fit for a credit file: terms, answer, line, totals, schedule."""

import io
from collections.abc import Sequence
from datetime import date
from typing import Any, Final
from xml.sax.saxutils import escape

from reportlab.graphics.shapes import Drawing, Line, Polygon, PolyLine, Rect
from reportlab.lib.colors import HexColor
from reportlab.lib.pagesizes import A4
from reportlab.lib.units import mm
from reportlab.platypus import Paragraph, SimpleDocTemplate, Spacer, Table, TableStyle

from zephyrant.loans import (
    COLUMNS_NAMED,
    Answer,
    Loan,
    Marks,
    aimed,
    called,
    calling_of,
    choices,
    facts_of,
    figure_path,
    grown,
    headline,
    solve,
    terms_in_words,
    write_day,
)

from .pdf import (
    BODY,
    GRID,
    GRID_ROW,
    HEAD,
    INK,
    LABEL,
    LARGE,
    REASON,
    RULE,
    SENTENCE,
    SOFT,
    TITLE,
    numbered,
    register,
    written,
)

_PRINCIPAL, _INTEREST, _FILL = HexColor("#2a6d72"), HexColor("#8d78b0"), HexColor("#dfe6e3")
_WIDTH: Final = A4[0] - 36 * mm


def statement_of(loan: Loan, note: str, marks: Marks) -> bytes:
    """A loan solved, as a statement to file."""
    return statement_pdf(loan, solve(loan, marks), note, marks)


def statement_pdf(loan: Loan, answer: Answer, note: str, marks: Marks) -> bytes:
    """The whole statement; numbers in the reader's marks."""
    register()
    out = io.BytesIO()
    name = loan.name or called(calling_of(loan), marks)
    document = SimpleDocTemplate(
        out,
        pagesize=A4,
        leftMargin=18 * mm,
        rightMargin=18 * mm,
        topMargin=16 * mm,
        bottomMargin=18 * mm,
        title=name,
        author="Zephyrant",
    )
    worked = aimed(loan) if answer.aim and answer.aim["value"] else loan
    story = [
        written(name, TITLE),
        written(terms_in_words(worked, marks), SENTENCE),
    ]
    if answer.aim and answer.aim["value"]:
        story.append(written(answer.aim["says"], BODY))
    story += _answer(worked, answer, marks)
    if note:
        story += [Paragraph("Note", HEAD), written(note, BODY)]
    if answer.schedule:
        story += [Paragraph("The line", HEAD), _line(answer)]
        story += [Paragraph("Year by year", HEAD), _years(answer, marks)]
        story += [Paragraph("The schedule", HEAD), *_schedule(answer, marks)]

    flowed = _Flowed()
    document.setProgressCallBack(flowed)
    document.build(story, canvasmaker=numbered(f"{name} · {answer.engine}", A4[0]))
    return out.getvalue()


#: The part of the time that laying out the rows takes, before they come on pages.
_LAYING: Final = 0.2


class _Flowed:
    """Tells how much of a document has come on its pages."""

    def __init__(self) -> None:
        self.whole = 0

    def __call__(self, what: str, value: int) -> None:
        if what == "SIZE_EST":
            self.whole = value
        elif what == "PROGRESS":
            grown(_LAYING + (1 - _LAYING) * value / self.whole, 1)


def _answer(loan: Loan, answer: Answer, marks: Marks) -> list[Any]:
    if answer.reason:
        return [Paragraph("There is no answer", LABEL), written(answer.reason, REASON)]
    story: list[Any] = []
    if answer.value is not None:
        value = headline(figure_path(answer.unknown or "").kind, answer.value, marks)
        story += [
            Paragraph(escape(f"{answer.asks} (found)"), LABEL),
            Paragraph(f"{escape(value)} <font size=12>{escape(answer.unit)}</font>", LARGE),
        ]
    lines = [f"before rounding {marks.write(answer.exact)}"] if answer.exact else []
    lines += [answer.paid_as] if answer.paid_as else []
    lines += [*answer.notes, *([answer.clock] if answer.clock else [])]
    story += [written(line, BODY) for line in lines]
    story += [Spacer(1, 5), _facts(loan, answer, marks)]
    if answer.fees:
        story += [Paragraph("Fees", HEAD), _fees(answer, marks)]
    if answer.proof:
        story += [Spacer(1, 4), written(f"Proof. {answer.proof['says']}", BODY)]
    return story


def _facts(loan: Loan, answer: Answer, marks: Marks) -> Table:
    facts = [(fact.title, fact.text) for fact in facts_of(loan, answer, marks)]
    table = Table(facts, colWidths=[_WIDTH * 0.5, _WIDTH * 0.25], hAlign="LEFT")
    table.setStyle(
        TableStyle(
            [
                ("FONT", (0, 0), (0, -1), "Sans", 9.5),
                ("FONT", (1, 0), (1, -1), "Sans-Bold", 9.5),
                ("ALIGN", (1, 0), (1, -1), "RIGHT"),
                ("TEXTCOLOR", (0, 0), (0, -1), SOFT),
                ("TOPPADDING", (0, 0), (-1, -1), 1),
                ("BOTTOMPADDING", (0, 0), (-1, -1), 1.5),
                ("LEFTPADDING", (0, 0), (0, -1), 0),
            ]
        )
    )
    return table


def _fees(answer: Answer, marks: Marks) -> Table:
    """Every fee, whichever way it is taken."""
    rows = [["Taken", "How", "Amount"]]
    for fee in answer.fees:
        at = f"at payment {fee['number']}" if fee["number"] else "at the start"
        if fee["date"]:
            at += f", {write_day(date.fromisoformat(fee['date']))}"
        rows.append([at, choices.TAKEN[fee["taken"]].label, marks.write(fee["amount"])])
    return _table(rows, 0.4)


def _line(answer: Answer) -> Drawing:
    """What is owed above, what is paid below; only for the eye."""
    rows, height, base = answer.schedule, 96.0, 34.0
    drawing = Drawing(_WIDTH, height)
    owed = [float(rows[0]["opening"]), *(float(row["closing"]) for row in rows)]
    most = max(*owed, 1e-9)
    step = _WIDTH / len(rows)
    points: list[float] = []
    for number, amount in enumerate(owed):
        points += [number * step, base + amount / most * (height - base - 2)]
    drawing.add(Polygon([0.0, base, *points, _WIDTH, base], fillColor=_FILL, strokeColor=None))
    drawing.add(PolyLine(points, strokeColor=INK, strokeWidth=1.1))
    drawing.add(Line(0, base, _WIDTH, base, strokeColor=RULE))
    paid = max(*(float(row["payment"]) for row in rows), 1e-9)
    together = max(1, len(rows) // 160)
    for first in range(0, len(rows), together):
        row = rows[first]
        width = max(0.6, step * together * 0.65)
        x = (first + together) * step - width
        principal = max(0.0, float(row["principal"])) / paid * (base - 6)
        interest = (
            max(0.0, float(row["payment"]) - max(0.0, float(row["principal"]))) / paid * (base - 6)
        )
        drawing.add(
            Rect(x, base - 3 - principal, width, principal, fillColor=_PRINCIPAL, strokeColor=None)
        )
        drawing.add(
            Rect(
                x,
                base - 3 - principal - interest,
                width,
                interest,
                fillColor=_INTEREST,
                strokeColor=None,
            )
        )
    return drawing


#: Rows laid out as one table: the time for one grows with its square.
_TOGETHER: Final = 400


def _table(rows: Sequence[Sequence[str]], first: float) -> Table:
    others = len(rows[0]) - 1
    widths = [_WIDTH * first, *[_WIDTH * (1 - first) / others] * others]
    # Every cell is one line: no height has to be worked out.
    heights = [GRID_ROW] * len(rows)
    table = Table([list(row) for row in rows], colWidths=widths, rowHeights=heights, repeatRows=1)
    table.setStyle(TableStyle(GRID))
    return table


def _years(answer: Answer, marks: Marks) -> Table:
    names = _money(answer)
    rows = [["Year", *(COLUMNS_NAMED[name].title.capitalize() for name in names)]]
    for year in answer.by_year:
        told: dict[str, Any] = dict(year)
        label = f"{year['label']} ({year['first']}–{year['last']})"
        rows.append([label, *(marks.write(told[name]) for name in names)])
    return _table(rows, 0.2)


def _money(answer: Answer) -> list[str]:
    """The columns of money there is something to say in, but for the carrying amounts."""
    columns = answer.laid.titles if answer.laid else ()
    return [name for name in columns if name not in ("number", "date", "carrying")]


def _schedule(answer: Answer, marks: Marks) -> list[Table]:
    columns = answer.laid.titles if answer.laid else ()
    names = _money(answer)
    titles = (COLUMNS_NAMED[name].title.capitalize() for name in names)
    head = ["No.", *(["Due"] if "date" in columns else []), *titles]
    rows = []
    for place, row in enumerate(answer.schedule):
        grown(_LAYING * place, len(answer.schedule))
        told: dict[str, Any] = dict(row)
        due = [write_day(date.fromisoformat(row["date"]))] if row["date"] else []
        rows.append([str(row["number"]), *due, *(marks.write(told[name]) for name in names)])
    return [
        _table([head, *rows[first : first + _TOGETHER]], 0.08)
        for first in range(0, len(rows), _TOGETHER)
    ]
