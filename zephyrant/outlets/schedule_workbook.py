"""A schedule as a workbook of live arithmetic."""

import tempfile
from collections.abc import Sequence
from datetime import date
from typing import IO, Any, Final, NamedTuple

import xlsxwriter
from xlsxwriter.worksheet import Worksheet

from zephyrant.loans import (
    COLUMNS_NAMED,
    Loan,
    aimed,
    due,
    grown,
    terms_in_words,
)
from zephyrant.loans.files import (
    FIRST_ROW,
    NAMES,
    FormulaRow,
    FormulaSheet,
    FormulaTerm,
    workbook_of,
)
from zephyrant.texts import worded

from .reader import Reader
from .schedule_csv import COLUMNS


def xlsx_of(loan: Loan, reader: Reader) -> bytes | None:
    """The schedule of a loan, or of the one that reaches its aim, as a workbook; none without a
    schedule. Raises `NotALoan` where nothing reaches the aim."""
    reached = aimed(loan)
    file = xlsx(reached, terms_in_words(reached, reader.marks), reader)
    if file is None:
        return None
    with file:
        return file.read()


def xlsx(loan: Loan, sentence: str, reader: Reader) -> IO[bytes] | None:
    """The schedule as a workbook of formulas, with our values in them; none without a schedule."""
    schedule = workbook_of(loan)
    if schedule is None:
        return None
    file = tempfile.TemporaryFile()  # noqa: SIM115  (closed by the response it goes out with)
    # One row at a time goes to disk; memory does not grow with the schedule.
    options = {"constant_memory": True, "default_date_format": reader.day}
    with xlsxwriter.Workbook(file, options) as book:
        _terms(book, loan, schedule, sentence, reader)
        _rows(book, loan, schedule, reader)
        book.set_properties({"title": loan.name or worded("Schedule"), **reader.properties})
    file.seek(0)
    return file


class _OldFunctions(Worksheet):  # type: ignore[misc]
    """A sheet whose formulas use functions alone that workbooks have always had: none has to be
    marked as newer, and the library need not look for forty of those in each."""

    def _prepare_formula(self, formula: str, expand_future_functions: bool = False) -> str:
        return formula.removeprefix("=")


def _terms(
    book: xlsxwriter.Workbook, loan: Loan, schedule: FormulaSheet, sentence: str, reader: Reader
) -> None:
    sheet = book.add_worksheet(worded("Terms"))
    bold = book.add_format({"bold": True})
    shown = {
        "money": _money_format(loan.decimals),
        "rate": "0.0000000000",
    }
    #: What is there to be changed looks so; the rest is worked out.
    inputs = {
        kind: book.add_format({"num_format": form, "bg_color": "#E3EEF0", "border": 1})
        for kind, form in shown.items()
    }
    worked = {kind: book.add_format({"num_format": form}) for kind, form in shown.items()}
    soft = book.add_format({"text_wrap": True, "valign": "top"})
    sheet.set_column(0, 0, 44)
    sheet.set_column(1, 1, 24)
    sheet.set_column(2, 2, 70)
    terms = schedule.terms
    sheet.write_string(0, 0, loan.name or worded("Schedule"), bold)
    sheet.write_string(1, 0, sentence)
    lines: list[tuple[str, FormulaTerm, str]] = [
        (worded("Amount lent, {currency}", currency=loan.currency), terms.principal, "money"),
        (worded("Percent {in_words}", in_words=loan.style.in_words()), terms.percent, "rate"),
        (worded("Percent of one payment period"), terms.per_period, "rate"),
        (
            _payment_named(loan),
            terms.payment,
            "rate" if loan.repayment == "sculpted" else "money",
        ),
        (worded("Still owed at the end"), terms.balance, "money"),
    ]
    for number, (label, term, kind) in enumerate(lines, 2):
        sheet.write_string(number, 0, label)
        form = (inputs if term.is_input else worked)[kind]
        if term.formula is None:
            sheet.write_number(number, 1, float(term.value), form)
        else:
            sheet.write_formula(number, 1, term.formula, form, float(term.value))
        sheet.write_string(number, 2, term.note)
    for name, cell in NAMES.items():
        book.define_name(name, f"={cell}")
    for number, said in enumerate(schedule.says, 8):
        sheet.write_string(number, 0, said, soft)
    _printed(sheet, reader, landscape=False)


def _payment_named(loan: Loan) -> str:
    """What the payment of the terms is called: not all of them are alike."""
    if loan.repayment == "at-the-end":
        return worded("Payment at the end")
    if loan.repayment == "sculpted":
        return worded("Part of the cash flow that is paid: 1 over the cover")
    return worded("Regular payment") if loan.repayment == "level" else worded("First payment")


def _printed(sheet: Worksheet, reader: Reader, *, landscape: bool) -> None:
    """As wide as a page, on as many as it takes."""
    sheet.set_paper(reader.paper_of_workbooks)
    if landscape:
        sheet.set_landscape()
    sheet.fit_to_pages(1, 0)
    sheet.set_footer("&L&A&R&P / &N")


def _rows(book: xlsxwriter.Workbook, loan: Loan, schedule: FormulaSheet, reader: Reader) -> None:
    sheet = book.add_worksheet(worded("Schedule"), worksheet_class=_OldFunctions)
    head = book.add_format({"bold": True, "bottom": 1, "align": "right"})
    money = book.add_format({"num_format": _money_format(loan.decimals)})
    marked = book.add_format({"num_format": _money_format(loan.decimals), "bg_color": "#FFE9B8"})
    day = book.add_format({"num_format": reader.day, "align": "right"})
    sheet.set_column(0, 1, 13)
    sheet.set_column(2, 6, 17)
    sheet.set_column(7, 7, 14)
    sheet.set_column(8, 8, 22)
    sheet.freeze_panes(1, 0)
    sheet.set_column(9, 10, 17 if schedule.busy else None)
    own = any(row.percent is not None for row in schedule.rows)
    further = (
        worded("Percent of this period") if own else "",
        *(_moved_heads() if schedule.busy else ()),
    )
    for column, name in enumerate((*_heads(), schedule.measured_in or "", *further)):
        if name:
            sheet.write_string(0, column, name[:1].upper() + name[1:], head)
    if schedule.finds:
        sheet.set_column(11, 12, 20)
        asked = "payment" if loan.unknown == "payment" else worded("amount lent")
        sheet.write_string(0, 11, worded("Owed without the {asked}", asked=asked), head)
        sheet.write_string(0, 12, worded("Owed by each 1 of the {asked}", asked=asked), head)
    ratio = book.add_format({"num_format": "0.0000"})
    beside = [*_beside(schedule, money, ratio), *_stood_on(loan, schedule, day)]
    for column, each in enumerate(beside, _BESIDE_FROM):
        sheet.set_column(column, column, 20)
        sheet.write_string(0, column, COLUMNS_NAMED[each.name].alone, head)
    for at, live_row in enumerate(schedule.rows, FIRST_ROW - 1):
        grown(at, len(schedule.rows))
        falls_due = due(live_row.row, loan.calendar)
        sheet.write_number(at, 0, live_row.row.number)
        if falls_due is not None:
            sheet.write_datetime(at, 1, falls_due, day)
        _row(sheet, at, live_row, schedule, (money, marked))
        _write_beside(sheet, at, beside)
    sheet.repeat_rows(0)
    _printed(sheet, reader, landscape=True)
    last = len(schedule.rows) + 1
    sheet.write_string(last, 0, worded("Total"), head)
    for column, name in ((3, "interest"), (4, "principal"), (5, "payment")):
        letter = "ABCDEFG"[column]
        total = sum(getattr(live_row.row, name) for live_row in schedule.rows)
        value = float(schedule.schedule.unit.amount(total))
        formula = f"=SUM({letter}{FIRST_ROW}:{letter}{last})"
        sheet.write_formula(last, column, formula, money, value)


#: The first column of what stands beside the arithmetic.
_BESIDE_FROM: Final = 14


class _Beside(NamedTuple):
    """A column beside the arithmetic: its formulas, none where numbers stand there, and values."""

    name: str
    cells: Sequence[tuple[str, float] | None]
    form: Any


def _beside(schedule: FormulaSheet, money: Any, ratio: Any) -> list[_Beside]:  # noqa: ANN401
    """The columns beside the arithmetic that a schedule has: charges, what is owed by the interest
    on what is owed where it is shared out by another rule, and what cover and value come to."""
    columns, amount = schedule.schedule.columns, schedule.schedule.unit.amount
    found = []
    for name in ("charge", "actuarial_closing"):
        units: tuple[int, ...] = getattr(columns, name)
        if any(units):
            cells = [("", float(amount(each))) for each in units]
            found.append(_Beside(name, cells, money))
    return found + [_Beside(live.name, live.cells, ratio) for live in schedule.beside]


def _stood_on(loan: Loan, schedule: FormulaSheet, day: Any) -> list[_Beside]:  # noqa: ANN401
    """The days on which payments stood that business days moved, if any did."""
    stood = schedule.schedule.stood_on(loan.calendar)
    if not any(stood):
        return []
    # A sheet counts days from the last but one of 1899.
    cells = [None if each is None else ("", float((each - _DAY_0).days)) for each in stood]
    return [_Beside("scheduled", cells, day)]


#: What is day 0 of a sheet.
_DAY_0: Final = date(1899, 12, 30)


def _write_beside(sheet: Worksheet, at: int, beside: list[_Beside]) -> None:
    for column, each in enumerate(beside, _BESIDE_FROM):
        cell = each.cells[at - FIRST_ROW + 1]
        if cell is None:
            continue
        formula, value = cell
        if formula:
            sheet.write_formula(at, column, formula, each.form, value)
        else:
            sheet.write_number(at, column, value, each.form)


def _row(
    sheet: Worksheet,
    at: int,
    live_row: FormulaRow,
    schedule: FormulaSheet,
    formats: tuple[Any, ...],
) -> None:
    money, marked = formats
    row, amount = live_row.row, schedule.schedule.unit.amount
    for column, name in enumerate(COLUMNS[2:], 2):
        text, value = getattr(live_row, name), float(amount(getattr(row, name)))
        form = marked if live_row.marked and name == "interest" else money
        if text.startswith("="):
            sheet.write_formula(at, column, text, form, value)
        else:
            sheet.write_number(at, column, value, form)
    if live_row.measured is not None:
        sheet.write_number(at, 7, float(live_row.measured))
    if live_row.percent is not None:
        sheet.write_number(at, 8, float(live_row.percent))
    if schedule.busy:
        sheet.write_number(at, 9, float(live_row.added), money)
        sheet.write_number(at, 10, float(live_row.repaid), money)
    if schedule.finds:
        for column, text in ((11, live_row.without), (12, live_row.each)):
            sheet.write_formula(at, column, text, money)
    if live_row.marked:
        sheet.write_string(at, 13, live_row.marked)


def _money_format(decimals: int) -> str:
    return "#,##0" + ("." + "0" * decimals if decimals else "")


def _heads() -> list[str]:
    return [COLUMNS_NAMED[name].alone for name in COLUMNS]


def _moved_heads() -> list[str]:
    return [worded("Further lent and fees"), worded("Paid on top")]
