"""The statement of a case as PDF, fit for a credit file: terms, answer, line, totals, schedule."""

import io
from typing import Any, Final
from xml.sax.saxutils import escape

from reportlab.graphics.shapes import Drawing, Line, Polygon, PolyLine, Rect
from reportlab.lib.colors import HexColor
from reportlab.lib.pagesizes import A4
from reportlab.lib.units import mm
from reportlab.platypus import Paragraph, SimpleDocTemplate, Spacer, Table, TableStyle

from zephyrant.loans import Answer, Loan, Marks, grown, solve

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
from .picture import Picture, picture_of
from .told import Rows, Told, schedule_of, tell, years_of

_PRINCIPAL, _INTEREST, _FILL = HexColor("#2a6d72"), HexColor("#8d78b0"), HexColor("#dfe6e3")
_WIDTH: Final = A4[0] - 36 * mm


def statement_of(loan: Loan, note: str, marks: Marks) -> bytes:
    """A loan solved, as a statement to file."""
    return statement_pdf(loan, solve(loan, marks), note, marks)


def statement_pdf(loan: Loan, answer: Answer, note: str, marks: Marks) -> bytes:
    """The whole statement; numbers in the reader's marks."""
    register()
    out = io.BytesIO()
    told = tell(loan, answer, marks)
    document = SimpleDocTemplate(
        out,
        pagesize=A4,
        leftMargin=18 * mm,
        rightMargin=18 * mm,
        topMargin=16 * mm,
        bottomMargin=18 * mm,
        title=told.name,
        author="Zephyrant",
    )
    story = [written(told.name, TITLE), written(told.sentence, SENTENCE)]
    if told.aim:
        story.append(written(told.aim, BODY))
    story += _answer(told)
    if note:
        story += [Paragraph("Note", HEAD), written(note, BODY)]
    picture = picture_of(answer)
    if picture:
        story += [Paragraph("The line", HEAD), _line(picture)]
        story += [Paragraph("Year by year", HEAD), _table(years_of(answer, marks), 0.2)]
        story += [Paragraph("The schedule", HEAD), *_schedule(answer, marks)]

    flowed = _Flowed()
    document.setProgressCallBack(flowed)
    document.build(story, canvasmaker=numbered(f"{told.name} · {answer.engine}", A4[0]))
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


def _answer(told: Told) -> list[Any]:
    if told.reason:
        return [Paragraph("There is no answer", LABEL), written(told.reason, REASON)]
    story: list[Any] = []
    if told.value is not None:
        story += [
            Paragraph(escape(told.label), LABEL),
            Paragraph(f"{escape(told.value)} <font size=12>{escape(told.unit)}</font>", LARGE),
        ]
    story += [written(line, BODY) for line in told.lines]
    story += [Spacer(1, 5), _facts(told.facts)]
    if told.fees:
        story += [Paragraph("Fees", HEAD), _table(told.fees, 0.4)]
    if told.fitting:
        story += [Spacer(1, 4), _facts(told.fitting)]
    if told.proof:
        story += [Spacer(1, 4), written(f"Proof. {told.proof}", BODY)]
    return story


def _facts(facts: Rows) -> Table:
    table = Table(facts.rows, colWidths=[_WIDTH * 0.5, _WIDTH * 0.25], hAlign="LEFT")
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


def _line(picture: Picture) -> Drawing:
    """What is owed above, what is paid below; only for the eye."""
    height, base = 96.0, 34.0
    drawing = Drawing(_WIDTH, height)
    step = _WIDTH / (len(picture.owed) - 1)
    points: list[float] = []
    for number, share in enumerate(picture.owed):
        points += [number * step, base + share * (height - base - 2)]
    drawing.add(Polygon([0.0, base, *points, _WIDTH, base], fillColor=_FILL, strokeColor=None))
    drawing.add(PolyLine(points, strokeColor=INK, strokeWidth=1.1))
    drawing.add(Line(0, base, _WIDTH, base, strokeColor=RULE))
    width = max(0.6, step * picture.together * 0.65)
    for number, bar in enumerate(picture.bars, 1):
        x, foot = number * picture.together * step - width, base - 3
        for share, colour in ((bar.principal, _PRINCIPAL), (bar.interest, _INTEREST)):
            tall = share * (base - 6)
            foot -= tall
            drawing.add(Rect(x, foot, width, tall, fillColor=colour, strokeColor=None))
    return drawing


#: Rows laid out as one table: the time for one grows with its square.
_TOGETHER: Final = 400


def _table(of: Rows, first: float) -> Table:
    others = len(of.heads) - 1
    widths = [_WIDTH * first, *[_WIDTH * (1 - first) / others] * others]
    rows = [of.heads, *of.rows]
    # Every cell is one line: no height has to be worked out.
    heights = [GRID_ROW] * len(rows)
    table = Table([list(row) for row in rows], colWidths=widths, rowHeights=heights, repeatRows=1)
    table.setStyle(TableStyle(GRID))
    return table


def _schedule(answer: Answer, marks: Marks) -> list[Table]:
    told = schedule_of(answer, marks, _LAYING)
    return [
        _table(Rows(told.heads, told.rows[first : first + _TOGETHER]), 0.08)
        for first in range(0, len(told.rows), _TOGETHER)
    ]
