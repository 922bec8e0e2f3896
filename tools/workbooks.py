"""Workbooks of every shape, their inputs changed, recalculated by LibreOffice, against the core.

`make check-workbooks` (not in CI): every cell of every schedule against `solve` of the document
changed alike.
"""

import os
import shutil
import subprocess
import sys
import tempfile
from pathlib import Path

import django

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "zephyrant.site.settings")
django.setup()

import openpyxl  # noqa: E402

from tests.loans.sheet import changed, changes  # noqa: E402
from zephyrant import loans  # noqa: E402
from zephyrant.loans.files.formula_sheet import FIRST_ROW  # noqa: E402
from zephyrant.loans.files.workbook import workbook_of  # noqa: E402
from zephyrant.loans.ledger.rows import Schedule  # noqa: E402
from zephyrant.loans.unknowns.worked import work_out  # noqa: E402
from zephyrant.outlets.reader import Reader  # noqa: E402
from zephyrant.outlets.schedule_workbook import xlsx  # noqa: E402

CELLS = {"principal": "B3", "percent": "B4", "payment": "B6", "balance": "B7"}


def written(folder: Path) -> list[tuple[Path, Schedule, int]]:
    """The changed workbooks, with the schedule each is to show and how many rows it has."""
    made = []
    for number, (content, name, value) in enumerate(changes()):
        loan = loans.check(content)
        found = workbook_of(loan)
        assert found is not None
        if not getattr(found.terms, name).is_input:
            continue
        rows = len(found.rows)
        try:
            laid = work_out(loans.check(changed(content, name, value, rows))).schedule
        except loans.NotALoan:
            continue
        if laid is None or len(laid.rows) > rows:
            continue
        file = xlsx(loan, "", Reader())
        assert file is not None
        book = openpyxl.load_workbook(file)
        book["Terms"][CELLS[name]] = float(value)
        path = folder / f"{number:03}.xlsx"
        book.save(path)
        made.append((path, laid, rows))
    return made


def differing(path: Path, laid: Schedule, rows: int) -> list[str]:
    """Cells that do not show what the core says."""
    sheet = openpyxl.load_workbook(path, data_only=True)["Schedule"]
    wrong = []
    for at in range(rows):
        expected = [0.0] * 5
        if at < len(laid.rows):
            row = laid.rows[at]
            ours = (row.opening, row.interest, row.principal, row.payment, row.closing)
            expected = [float(laid.unit.amount(units)) for units in ours]
        for column, value in zip("CDEFG", expected, strict=True):
            cell = f"{column}{FIRST_ROW + at}"
            told = sheet[cell].value
            if told is None or abs(float(told) - value) > 1e-6:
                wrong.append(f"{path.name} {cell}: {told}, not {value}")
    return wrong


def main() -> None:
    """All of them, or the first that differ."""
    if not shutil.which("soffice"):
        sys.exit("The program that recalculates is missing: make check-workbooks installs it.")
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        made = written(folder)
        out = folder / "recalculated"
        command = ["soffice", "--headless", f"-env:UserInstallation=file://{folder}/office"]
        command += ["--convert-to", "xlsx", "--outdir", str(out)]
        subprocess.run(
            [*command, *(str(path) for path, _, _ in made)], check=True, capture_output=True
        )
        wrong = [
            each for path, laid, rows in made for each in differing(out / path.name, laid, rows)
        ]
        cells = sum(5 * rows for _, _, rows in made)
    print(f"{len(made)} workbooks, {cells:,} cells, {len(wrong)} differ")
    print("\n".join(wrong[:20]))
    sys.exit(bool(wrong))


if __name__ == "__main__":
    main()
