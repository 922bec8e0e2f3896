"""Loans side by side as files: CSV, XLSX, PDF."""

import io
from collections.abc import Sequence
from typing import Any
from xml.sax.saxutils import escape

import xlsxwriter
from reportlab.platypus import Paragraph, Spacer, Table

from zephyrant.loans import as_text
from zephyrant.loans.questions import Cell, SideBySide, SideBySideRow
from zephyrant.outlets.csv_form import CsvForm
from zephyrant.outlets.pdf import BODY, GRID, HEAD, TITLE, Pages, in_markup, register, written
from zephyrant.outlets.reader import Reader
from zephyrant.texts import worded


def _rows(beside: SideBySide) -> list[tuple[SideBySideRow, str]]:
    """Every row, and of which kind it is told: in words or as plain figures."""
    return [*((row, "text") for row in beside.terms), *((row, "value") for row in beside.results)]


def _head(beside: SideBySide) -> list[str]:
    return [
        f"{name} ({currency})" if currency else name
        for name, currency in zip(beside.names, beside.currencies, strict=True)
    ]


def beside_csv(beside: SideBySide, form: CsvForm) -> str:
    """Rows are figures and results, columns loans; figures as plain numbers."""
    lines: list[Sequence[str]] = [["", *map(as_text, _head(beside))]]
    for row, kind in _rows(beside):
        cells = [str(dict(cell)[kind] or "") for cell in row["cells"]]
        told = list(map(as_text, cells)) if kind == "text" else form.numbers(cells)
        lines.append([row["name"], *told])
    if any(beside.wrong):
        lines.append([worded("Not worked"), *(wrong or "" for wrong in beside.wrong)])
    return form.begins + form.lines(lines)


def beside_xlsx(beside: SideBySide, reader: Reader) -> bytes:
    """The same as a workbook; differences to the base are formulas."""
    out = io.BytesIO()
    book = xlsxwriter.Workbook(out, {"in_memory": True})
    sheet = book.add_worksheet(worded("Side by side"))
    book.set_properties({"title": worded("Side by side"), **reader.properties})
    sheet.freeze_panes(1, 1)
    sheet.set_landscape()
    sheet.set_paper(reader.paper_of_workbooks)
    sheet.fit_to_pages(1, 0)
    bold, wrap = book.add_format({"bold": True}), book.add_format({"text_wrap": True})
    money, rate = (
        book.add_format({"num_format": "#,##0.00"}),
        book.add_format({"num_format": "0.0000"}),
    )
    sheet.set_column(0, 0, 44)
    sheet.set_column(1, 2 * len(beside.names), 20)
    for column, name in enumerate(_head(beside)):
        sheet.write_string(0, 1 + column, name, bold)
        sheet.write_string(0, 1 + len(beside.names) + column, f"{name}, difference", bold)
    at = 0
    for row, kind in _rows(beside):
        at += 1
        sheet.write_string(at, 0, row["name"])
        style = rate if row["kind"] == "percent" else money if row["kind"] == "money" else None
        for column, cell in enumerate(row["cells"]):
            text = dict(cell)[kind]
            if text is None:
                continue
            if kind == "text" or row["kind"] == "day":
                sheet.write_string(at, 1 + column, str(text), wrap)
                continue
            sheet.write_number(at, 1 + column, float(str(text)), style)
            if column != beside.base and cell["differs"] is not None:
                mine = xlsxwriter.utility.xl_rowcol_to_cell(at, 1 + column)
                base = xlsxwriter.utility.xl_rowcol_to_cell(at, 1 + beside.base)
                ours = float(str(dict(row["cells"][beside.base])[kind]))
                sheet.write_formula(
                    at,
                    1 + len(beside.names) + column,
                    f"={mine}-{base}",
                    style,
                    float(str(text)) - ours,
                )
    for column, wrong in enumerate(beside.wrong):
        if wrong:
            sheet.write_string(at + 1, 1 + column, wrong, wrap)
    book.close()
    return out.getvalue()


def _cell(cell: Cell, *, is_base: bool, stands_out: bool) -> Paragraph:
    text = in_markup(cell["text"] or "–", "Sans")
    if stands_out:
        text = f"<b>{text}</b>"
    if cell["differs"] and not is_base:
        more = f" ({cell['percent']})" if cell["percent"] else ""
        text += f"<br/><font size=7.5>{escape(cell['differs'] + more)}</font>"
    return Paragraph(text, BODY)


def beside_pdf(beside: SideBySide, title: str, reader: Reader) -> bytes:
    """The same as pages to print."""
    register()
    out = io.BytesIO()
    document = Pages(out, title, reader, lies=True)
    wide = document.width
    first = 0.2
    widths = [wide * first, *[wide * (1 - first) / len(beside.names)] * len(beside.names)]
    story: list[Any] = [written(title, TITLE)]
    head = ["", *(Paragraph(f"<b>{in_markup(name, 'Sans')}</b>", BODY) for name in _head(beside))]
    for heading, rows in ((worded("Terms"), beside.terms), (worded("Results"), beside.results)):
        table: list[list[Any]] = [head]
        for row in rows:
            cells = [
                _cell(cell, is_base=number == beside.base, stands_out=row["stands_out"])
                for number, cell in enumerate(row["cells"])
            ]
            table.append([Paragraph(escape(row["name"]), BODY), *cells])
        grid = Table(table, colWidths=widths, repeatRows=1)
        grid.setStyle([*GRID, ("VALIGN", (0, 0), (-1, -1), "TOP")])
        story += [Paragraph(heading, HEAD), grid]
    for name, wrong in zip(beside.names, beside.wrong, strict=True):
        if wrong:
            story.append(written(f"{name}: {wrong}", BODY))
    base = beside.names[beside.base]
    story += [
        Spacer(1, 6),
        written(worded("Differences are to: {base}. bp: basis points.", base=base), BODY),
    ]
    document.write(story)
    return out.getvalue()
