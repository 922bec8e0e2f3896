"""Lists of quotes as files: CSV and JSON, written plainly and read row by row.

A row that cannot be read is named and left out; the rest is read. Numbers in files are plain
("6.35"); a CSV from elsewhere may have a byte-order mark, semicolons and decimal commas.
"""

import csv
import io
import json
from collections.abc import Sequence
from typing import Any, Final, NamedTuple, get_args

from pydantic import ValidationError

from zephyrant.texts import worded

from ..document.reading import field_errors, parse
from ..errors import FieldError, NotALoan
from ..quotes.styles import CONVENTIONS, YearDays
from ..statement.quote_lists import MOST_QUOTES, QuoteLine, QuoteList, Yardstick, mistakes, restated
from ..wording.cells import as_text, from_text

KIND: Final = "quotes/1"
COLUMNS: Final = (
    "name",
    "percent",
    "quoted",
    "compounding",
    "over",
    "year_days",
    "count",
    "every",
)


class ReadList(NamedTuple):
    """The quotes of a file that could be read, and a problem for each row that could not."""

    quotes: QuoteList
    problems: tuple[FieldError, ...]


def _row(quote: QuoteLine) -> dict[str, Any]:
    kept = quote.model_dump(mode="json")
    unset = {name for name in ("over", "count") if not kept[name]}
    if quote.year_days == 365:
        unset.add("year_days")
    convention = CONVENTIONS[quote.quoted]
    takes_its_own = convention.is_compounded and quote.compounding is None
    if not (convention.is_of_a_loan or convention.is_of_periods or takes_its_own):
        unset.add("every")
    return {name: value for name, value in kept.items() if name not in unset and value is not None}


def write_json(quotes: QuoteList) -> str:
    """The list as one JSON document."""
    plain = restated(quotes, "plain")
    content = {
        "zephyrant": KIND,
        "name": plain.name,
        "yardstick": plain.yardstick.model_dump(mode="json"),
        "quotes": [_row(quote) for quote in plain.quotes],
    }
    return json.dumps(content, indent=2, ensure_ascii=False) + "\n"


def table_of(quotes: QuoteList) -> list[list[str]]:
    """The quotes as rows of cells below their names, none of them a formula; numbers plain."""
    rows = [list(COLUMNS)]
    for quote in restated(quotes, "plain").quotes:
        told = _row(quote)
        rows.append([as_text(str(told.get(name, ""))) for name in COLUMNS])
    return rows


def read_file(text: str, name: str) -> ReadList:
    """A list from the text of a JSON or CSV file; raises `NotALoan` where it is neither."""
    text = text.removeprefix("\ufeff")
    if text.lstrip().startswith(("{", "[")):
        return _read_json(text, name)
    return _read_csv(text, name)


def _refused(message: str) -> NotALoan:
    return NotALoan.at("", message)


def _read_json(text: str, name: str) -> ReadList:
    content = parse(text)
    if not isinstance(content, dict) or content.get("zephyrant") != KIND:
        raise _refused(
            worded(
                'This is not a list of quotes: such a file says "zephyrant": "{kind}".', kind=KIND
            )
        )
    rows = content.get("quotes", [])
    if not isinstance(rows, list):
        raise _refused(worded('"quotes" is a list in brackets.'))
    try:
        yardstick = Yardstick.model_validate(content.get("yardstick", {}))
    except ValidationError as error:
        raise NotALoan(
            FieldError(field=f"yardstick.{each.field}", message=each.message)
            for each in field_errors(error.errors())
        ) from None
    said = content.get("name")
    return _gather(rows, said if isinstance(said, str) and said else name, yardstick, "quote")


def _read_csv(text: str, name: str) -> ReadList:
    lines = text.splitlines()
    head = lines[0] if lines else ""
    mark = max(",;\t", key=head.count)
    reader = csv.reader(io.StringIO(text), delimiter=mark)
    try:
        table = list(reader)
    except csv.Error as error:
        raise _refused(
            worded("This is not a table that can be read: {error}.", error=error)
        ) from None
    columns = [cell.strip().lower() for cell in table[0]] if table else []
    if "percent" not in columns or len(set(columns)) != len(columns):
        raise _refused(
            worded("The first row must name the columns, each once: ")
            + ", ".join(COLUMNS)
            + worded(". Only percent must be there.")
        )
    unknown = [column for column in columns if column not in COLUMNS]
    if unknown:
        raise _refused(
            worded(
                "No column of a list of quotes is called “{unknown}”. There are: ",
                unknown=unknown[0][:40],
            )
            + ", ".join(COLUMNS)
            + "."
        )
    rows = []
    for cells in table[1:]:
        row = dict(zip(columns, cells, strict=False))
        rows.append({column: cell.strip() for column, cell in row.items() if cell.strip()})
    return _gather(rows, name, Yardstick(), "row")


def _quote_of(row: object) -> QuoteLine:
    if not isinstance(row, dict):
        raise _refused(worded("a quote in braces is expected."))
    told = {key: from_text(cell) if isinstance(cell, str) else cell for key, cell in row.items()}
    for figure in ("percent", "count", "over"):
        if figure in told and not isinstance(told[figure], str | dict | list):
            told[figure] = str(told[figure])
    if "year_days" in told:
        days = {str(each): each for each in get_args(YearDays)}
        told["year_days"] = days.get(str(told["year_days"]), told["year_days"])
    try:
        quote = QuoteLine.model_validate(told)
    except ValidationError as error:
        raise NotALoan(field_errors(error.errors())) from None
    errors = mistakes(quote, "plain")
    if errors:
        raise NotALoan(errors)
    return quote


def _gather(rows: Sequence[object], name: str, yardstick: Yardstick, what: str) -> ReadList:
    quotes: list[QuoteLine] = []
    problems: list[FieldError] = []
    for number, row in enumerate(rows, 2 if what == "row" else 1):
        if row == {}:
            continue
        place = f"{what} {number}"
        if isinstance(row, dict) and isinstance(row.get("name"), str) and row["name"]:
            place += f" (“{row['name'][:40]}”)"
        if len(quotes) == MOST_QUOTES:
            problems.append(
                FieldError(
                    field=place,
                    message=worded("At most {most} quotes fit in a list.", most=MOST_QUOTES),
                )
            )
            break
        try:
            quotes.append(_quote_of(row))
        except NotALoan as wrong:
            said = "; ".join(
                f"{error.field}: {error.message}" if error.field else error.message
                for error in wrong.errors
            )
            problems.append(FieldError(field=place, message=said))
    listed = QuoteList(marks="plain", name=name[:200], yardstick=yardstick, quotes=tuple(quotes))
    return ReadList(listed, tuple(problems))
