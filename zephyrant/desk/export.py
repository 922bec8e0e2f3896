"""Out of the door: cases and lists of quotes as files, and files as text.

What writes workbooks and pages is loaded when it is first asked for: a server starts the sooner.
"""

import io
import json
import re
import unicodedata
import zipfile
from collections.abc import Callable, Iterable, Sequence
from typing import Any, Final, Literal

from django.http import Http404, HttpResponse
from django.utils.http import content_disposition_header

from zephyrant.loans import PLAIN, Loan, NotALoan, as_text, check
from zephyrant.loans.files import table_of, write_json
from zephyrant.loans.questions import SideBySide
from zephyrant.loans.statement import QuoteList
from zephyrant.outlets.csv_form import CsvForm
from zephyrant.outlets.reader import Reader, Record
from zephyrant.texts import worded

from .cases import document_of
from .listed import PLAIN_COLUMNS, PLAIN_NUMBERS, called_so, told_plainly
from .models import Case, TableTemplate

CSV: Final = "text/csv; charset=utf-8"
JSON: Final = "application/json"
JSON_LINES: Final = "application/x-ndjson"
PDF: Final = "application/pdf"
ZIP: Final = "application/zip"
PARQUET: Final = "application/vnd.apache.parquet"
ARROW: Final = "application/vnd.apache.arrow.file"
WORKBOOK: Final = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"


#: Calls a function with what it takes, where it suits.
Made = Callable[..., Any]


def file_name(name: str, otherwise: str = "unnamed-case") -> str:
    """A name that every file system takes: "cider-press-orrin-daughters"."""
    plain = unicodedata.normalize("NFKD", name).encode("ascii", "ignore").decode().lower()
    return re.sub(r"[^a-z0-9]+", "-", plain).strip("-")[:80] or otherwise


def _attached(name: str) -> str:
    return content_disposition_header(True, name) or ""


def _file(content: bytes, name: str, kind: str) -> HttpResponse:
    response = HttpResponse(content, content_type=kind)
    response["Content-Disposition"] = _attached(name)
    return response


def _written(content: object) -> bytes:
    return (json.dumps(content, indent=2, ensure_ascii=False) + "\n").encode()


def one_json(case: Case) -> HttpResponse:
    """A case's document."""
    return _file(_written(document_of(case)), f"{file_name(called_so(case, PLAIN))}.json", JSON)


def loan_of(case: Case) -> tuple[Loan, str]:
    """The loan of a case, and what files of it are called."""
    return check(document_of(case)), called_so(case, PLAIN)


def schedule_csv(loan: Loan, name: str, reader: Reader, made: Made) -> HttpResponse:
    """A loan's schedule as a table."""
    from zephyrant.outlets.schedule_csv import csv_of

    return _file(made(csv_of, loan, reader.csv), f"{file_name(name)}-schedule.csv", CSV)


def schedule_xlsx(loan: Loan, name: str, reader: Reader, made: Made) -> HttpResponse:
    """A loan's schedule as a workbook of formulas."""
    from zephyrant.outlets.schedule_workbook import xlsx_of

    try:
        content = made(xlsx_of, loan, reader)
    except NotALoan as unreached:
        raise Http404 from unreached
    if content is None:
        raise Http404
    return _file(content, f"{file_name(name)}-schedule.xlsx", WORKBOOK)


def statement(
    loan: Loan, name: str, note: str, reader: Reader, made: Made, *, record: Record = ()
) -> HttpResponse:
    """A loan as a statement to file, with what is on record of it."""
    from zephyrant.outlets.statement_pdf import statement_of

    return _file(made(statement_of, loan, note, reader, record), f"{file_name(name)}.pdf", PDF)


def _whole(cases: Iterable[Case]) -> list[Case]:
    return [case for case in cases if case.document is not None]


def all_json(cases: Iterable[Case]) -> HttpResponse:
    """Every whole document, as one list."""
    documents = [document_of(case) for case in _whole(cases)]
    return _file(_written(documents), "zephyrant-cases.json", JSON)


def template_file(template: TableTemplate) -> HttpResponse:
    """A match of columns kept by a name."""
    return _file(_written(template.content), f"{file_name(template.name, 'match')}.json", JSON)


def all_zip(cases: Iterable[Case]) -> HttpResponse:
    """Every whole document, a file each; equal names are numbered."""
    content, used = io.BytesIO(), set[str]()
    with zipfile.ZipFile(content, "w", zipfile.ZIP_DEFLATED) as packed:
        for case in _whole(cases):
            name = stem = file_name(called_so(case, PLAIN))
            number = 1
            while name in used:
                number += 1
                name = f"{stem}-{number}"
            used.add(name)
            packed.writestr(f"{name}.json", _written(document_of(case)))
    return _file(content.getvalue(), "zephyrant-cases.zip", ZIP)


def all_csv(cases: Iterable[Case], form: CsvForm) -> HttpResponse:
    """What the list tells of each case, as a table of plain figures."""
    lines: list[Sequence[str]] = [PLAIN_COLUMNS]
    for case in cases:
        cells = zip(PLAIN_COLUMNS, told_plainly(case), strict=True)
        lines.append(
            [form.number(cell) if name in PLAIN_NUMBERS else as_text(cell) for name, cell in cells]
        )
    return _file((form.begins + form.lines(lines)).encode(), "zephyrant-cases.csv", CSV)


def quotes(content: QuoteList, kind: Literal["csv", "json"], form: CsvForm) -> HttpResponse:
    """A list of quotes; as CSV it is read back however it is written."""
    name = f"{file_name(content.name, 'quotes')}.{kind}"
    if kind == "csv":
        head, *rows = table_of(content)
        at = head.index("percent")
        for row in rows:
            row[at] = form.number(row[at])
        return _file((form.begins + form.lines([head, *rows])).encode(), name, CSV)
    return _file(write_json(content).encode(), name, JSON)


def beside(
    content: SideBySide, name: str, kind: Literal["csv", "xlsx", "pdf"], reader: Reader, made: Made
) -> HttpResponse:
    """Loans side by side."""
    from .beside_files import beside_csv, beside_pdf, beside_xlsx

    file = f"{file_name(name)}-side-by-side.{kind}"
    if kind == "csv":
        return _file(made(beside_csv, content, reader.csv).encode(), file, CSV)
    if kind == "xlsx":
        return _file(made(beside_xlsx, content, reader), file, WORKBOOK)
    title = worded("{name}, side by side", name=name)
    return _file(made(beside_pdf, content, title, reader), file, PDF)


def text_of(content: bytes) -> str:
    """The text of a file: UTF-8, else as older programs of the western world write it."""
    try:
        return content.decode("utf-8-sig")
    except UnicodeDecodeError:
        return content.decode("cp1252", errors="replace")
