"""The statement of a case as PDF, fit for a credit file: terms, answer, line, totals, schedule."""

import io
from typing import Any, Final
from xml.sax.saxutils import escape

from reportlab.graphics.shapes import Drawing, Line, Polygon, PolyLine, Rect
from reportlab.lib.colors import HexColor
from reportlab.platypus import Paragraph, Spacer, Table, TableStyle

from zephyrant.loans import Answer, Loan, Marks, grown, solve
from zephyrant.texts import worded

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
    Pages,
    register,
    written,
)
from .picture import Picture, picture_of
from .reader import Reader, Record
from .told import Rows, Told, schedule_of, tell, years_of

_TITLED: Final = BODY.clone("titled", textColor=SOFT)
_PRINCIPAL, _INTEREST, _FILL = HexColor("#2a6d72"), HexColor("#8d78b0"), HexColor("#dfe6e3")


def statement_of(loan: Loan, note: str, reader: Reader, record: Record = ()) -> bytes:
    """A loan solved, as a statement to file."""
    return statement_pdf(loan, solve(loan, reader.marks), note, reader, record)


def statement_pdf(
    loan: Loan, answer: Answer, note: str, reader: Reader, record: Record = ()
) -> bytes:
    """The whole statement, for a reader; with what is on record of it."""
    register()
    out, marks = io.BytesIO(), reader.marks
    told = tell(loan, answer, marks)
    document = Pages(out, told.name, reader, says=told.sentence)
    width = document.width
    story = [written(told.name, TITLE), written(told.sentence, SENTENCE)]
    if told.aim:
        story.append(written(told.aim, BODY))
    if record:
        story.append(_record(record, width))
    story += _answer(told, width)
    if note:
        story += [Paragraph(worded("Note"), HEAD), written(note, BODY)]
    picture = picture_of(answer)
    if picture:
        story += [Paragraph(worded("The line"), HEAD), _line(picture, width)]
        story += [
            Paragraph(worded("Year by year"), HEAD),
            _table(years_of(answer, marks), width, 0.2),
        ]
        story += [Paragraph(worded("The schedule"), HEAD), *_schedule(answer, marks, width)]

    flowed = _Flowed()
    document.setProgressCallBack(flowed)
    document.write(story)
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


def _record(record: Record, width: float) -> Table:
    """Who wrote it, who judged it and when; whatever they are called and however much they said."""
    rows = [[written(title, _TITLED), written(text, BODY)] for title, text in record]
    table = Table(rows, colWidths=[width * 0.28, width * 0.72], hAlign="LEFT", spaceAfter=6)
    table.setStyle(
        TableStyle(
            [
                ("VALIGN", (0, 0), (-1, -1), "TOP"),
                ("LINEABOVE", (0, 0), (-1, 0), 0.8, RULE),
                ("LINEBELOW", (0, -1), (-1, -1), 0.8, RULE),
                ("TOPPADDING", (0, 0), (-1, -1), 1),
                ("BOTTOMPADDING", (0, 0), (-1, -1), 1.5),
                ("LEFTPADDING", (0, 0), (0, -1), 0),
            ]
        )
    )
    return table


def _answer(told: Told, width: float) -> list[Any]:
    if told.reason:
        return [Paragraph(worded("There is no answer"), LABEL), written(told.reason, REASON)]
    story: list[Any] = []
    if told.figure:
        figure = " ".join(
            escape(text) if is_it else f"<font size=12>{escape(text)}</font>"
            for text, is_it in told.figure
        )
        story += [Paragraph(escape(told.label), LABEL), Paragraph(figure, LARGE)]
    story += [written(line, BODY) for line in told.lines]
    story += [Spacer(1, 5), _facts(told.facts, width)]
    if told.fees:
        story += [Paragraph(worded("Fees"), HEAD), _table(told.fees, width, 0.4)]
    if told.rates:
        story += [Paragraph(worded("Rates"), HEAD), _table(told.rates, width, 0.4)]
    if told.fitting:
        story += [Spacer(1, 4), _facts(told.fitting, width)]
    if told.proof:
        story += [Spacer(1, 4), written(f"Proof. {told.proof}", BODY)]
    return story


def _facts(facts: Rows, width: float) -> Table:
    table = Table(facts.rows, colWidths=[width * 0.5, width * 0.25], hAlign="LEFT")
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


def _line(picture: Picture, across: float) -> Drawing:
    """What is owed above, what is paid below; only for the eye."""
    height, base = 96.0, 34.0
    drawing = Drawing(across, height)
    step = across / (len(picture.owed) - 1)
    points: list[float] = []
    for number, share in enumerate(picture.owed):
        points += [number * step, base + share * (height - base - 2)]
    drawing.add(Polygon([0.0, base, *points, across, base], fillColor=_FILL, strokeColor=None))
    drawing.add(PolyLine(points, strokeColor=INK, strokeWidth=1.1))
    drawing.add(Line(0, base, across, base, strokeColor=RULE))
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


def _table(of: Rows, width: float, first: float) -> Table:
    others = len(of.heads) - 1
    widths = [width * first, *[width * (1 - first) / others] * others]
    rows = [of.heads, *of.rows]
    # Every cell is one line: no height has to be worked out.
    heights = [GRID_ROW] * len(rows)
    table = Table([list(row) for row in rows], colWidths=widths, rowHeights=heights, repeatRows=1)
    table.setStyle(TableStyle(GRID))
    return table


def _schedule(answer: Answer, marks: Marks, width: float) -> list[Table]:
    told = schedule_of(answer, marks, _LAYING)
    return [
        _table(Rows(told.heads, told.rows[first : first + _TOGETHER]), width, 0.08)
        for first in range(0, len(told.rows), _TOGETHER)
    ]
