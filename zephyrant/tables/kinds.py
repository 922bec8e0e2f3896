"""What the columns of a table hold. Cells are texts wherever they are read; a column's kind says
what they were in the file and will be again in one that has kinds.

`text`; `json`; `mixed` (numbers, days and words in one column); `flag`; `day`; `moment`, with its
unit and zone (`moment us Europe/Berlin`); `exact` (numbers as somebody wrote them); `decimal` with
its digits and places (`decimal 12 2`); and numbers by their usual names (`Int64`, `UInt8`,
`Float32`).
"""

import json
import math
import re
from collections.abc import Collection, Iterable, Mapping, Sequence
from datetime import date, datetime
from decimal import Decimal
from typing import TYPE_CHECKING, Any, Final

from zephyrant.loans.tape import RESULTS, FieldName

if TYPE_CHECKING:
    import polars as pl

TEXT: Final = "text"
#: What stands in braces or brackets in JSON.
JSON: Final = "json"
MIXED: Final = "mixed"
FLAG: Final = "flag"
DAY: Final = "day"
MOMENT: Final = "moment us"
EXACT: Final = "exact"
WHOLE: Final = "Int64"
NUMBER: Final = "Float64"

#: A flag that is up; whether figures fit is told by yes and no.
_YES: Final = ("true", "yes")
_NUMBERS: Final = re.compile(r"(U?Int|Float)\d+")
#: How a moment stands in a cell; at midnight it is a day.
_MIDNIGHT: Final = " 00:00:00"
_MOMENT: Final = "%Y-%m-%d %H:%M:%S%.f"
#: Digits that a workbook shows of a number, and that a figure is read by.
_DIGITS: Final = 15
_STARTS_A_MOMENT: Final = re.compile(r"\d{4}-\d\d-\d\d ")
#: Texts of so many characters at the most have no more digits.
_SHORT: Final = 16


def is_number(kind: str) -> bool:
    """Whether a column holds numbers alone."""
    return bool(_NUMBERS.fullmatch(kind)) or kind == EXACT or kind.startswith("decimal")


def cell_text(value: object) -> str:
    """A value as the text that stands in a cell; nothing where there is none."""
    if value is None or value != value:  # noqa: PLR0124  (no number)
        return ""
    if isinstance(value, bool):
        return str(value).lower()
    if isinstance(value, float):
        return _shortest(str(value))
    if isinstance(value, datetime):
        return str(value).removesuffix(_MIDNIGHT)
    if isinstance(value, date):
        return value.isoformat()
    return str(value)


def _shortest(text: str) -> str:
    """The fewest digits that give a number back, without exponent."""
    return f"{Decimal(text):f}" if "e" in text else text.removesuffix(".0")


def as_figures(cells: Sequence[str], kind: str) -> Sequence[str]:
    """The cells of a column that is a figure: of a binary fraction the fifteen digits that are
    meant, of a moment its day; no number can be taken for one whose point groups."""
    if kind.startswith(("Float", "moment")) or kind == MIXED:
        return [_meant(cell) if len(cell) > _SHORT else _ungrouped(cell) for cell in cells]
    return list(map(_ungrouped, cells)) if is_number(kind) else cells


def _ungrouped(cell: str) -> str:
    """1.234 as 1.2340, which is one and a little in whatever marks."""
    return f"{cell}0" if cell[-4:-3] == "." else cell


def _meant(cell: str) -> str:
    if _STARTS_A_MOMENT.match(cell):
        return cell[: len("2027-03-15")]
    try:
        number = float(cell)
    except ValueError:
        return cell
    return _ungrouped(f"{number:.{_DIGITS}g}") if abs(number) < 10**_DIGITS else cell


def figures(
    whole: Sequence[Sequence[str]], columns: Mapping[FieldName, int], kinds: Sequence[str]
) -> dict[FieldName, Sequence[str]]:
    """The columns of a table that are figures, as they are read."""
    return {name: as_figures(whole[place], kinds[place]) for name, place in columns.items()}


# What cells were


class Seen:
    """What the cells of columns were, as they come by."""

    def __init__(self) -> None:
        self._seen: list[set[str]] = []

    def add(self, kinds: Iterable[str]) -> None:
        """The kinds of the cells of a row; none for one in which nothing stands."""
        for place, kind in enumerate(kinds):
            while place >= len(self._seen):
                self._seen.append(set())
            self._seen[place].add(kind)

    def each(self, width: int) -> list[frozenset[str]]:
        """Of so many columns, everything that their cells were."""
        seen = [*self._seen, *[set[str]()] * width][:width]
        return [frozenset(each - {""}) for each in seen]

    def kinds(self, width: int) -> list[str]:
        """Of so many columns, what all of their cells were."""
        return list(map(kind_of_all, self.each(width)))


def kind_of_all(kinds: Collection[str]) -> str:
    """What a column is whose cells, or parts, were these."""
    kinds = set(kinds)
    if len(kinds) < 2:
        return next(iter(kinds), TEXT)
    if kinds <= {WHOLE, NUMBER, EXACT}:
        return EXACT if EXACT in kinds else NUMBER
    return MOMENT if kinds <= {DAY, MOMENT} else MIXED


def kind_of(value: object) -> str:
    """What one value is; nothing where there is none."""
    if value is None or (isinstance(value, str) and not value.strip()):
        return ""
    if isinstance(value, bool):
        return FLAG
    if isinstance(value, int):
        return WHOLE
    if isinstance(value, float):
        return NUMBER
    if isinstance(value, datetime):
        return MOMENT
    return DAY if isinstance(value, date) else TEXT


# Columns that have kinds


def kind_of_type(dtype: "pl.DataType") -> str:
    """The kind of a column of a table that has types."""
    import polars as pl

    if isinstance(dtype, pl.Decimal):
        return f"decimal {dtype.precision} {dtype.scale}"
    if isinstance(dtype, pl.Datetime):
        return f"moment {dtype.time_unit} {dtype.time_zone or ''}".rstrip()
    if dtype == pl.Boolean:
        return FLAG
    if dtype == pl.Date:
        return DAY
    name = str(dtype)
    return name if _NUMBERS.fullmatch(name) else TEXT


def texts_of(column: "pl.Series") -> list[str]:
    """The cells of a typed column as texts."""
    import polars as pl

    if column.dtype.is_temporal() and isinstance(column.dtype, pl.Datetime):
        zone = "%z" if column.dtype.time_zone else ""
        texts = column.dt.to_string(_MOMENT + zone).str.strip_suffix(_MIDNIGHT)
        return texts.fill_null("").to_list()
    if column.dtype.is_float():
        told = column.fill_nan(None).cast(pl.String).fill_null("").to_list()
        return [_shortest(text) for text in told]
    try:
        return column.cast(pl.String).fill_null("").to_list()
    except pl.exceptions.PolarsError:
        # What no text is made of by itself: spans of time, lists, bytes.
        return [cell_text(value) for value in column.to_list()]


def typed(cells: Sequence[str], kind: str) -> "pl.Series":
    """The cells of a column as what they were; none where nothing stands."""
    import polars as pl

    texts = pl.Series(cells, dtype=pl.String)
    texts = texts.set(texts == "", None)
    form, _, of = kind.partition(" ")
    if _NUMBERS.fullmatch(form):
        return texts.cast(getattr(pl, form)())
    match form:
        case "decimal":
            digits, places = map(int, of.split())
            return texts.cast(pl.Decimal(digits, places))
        case "exact":
            return texts.cast(pl.Float64)
        case "day":
            return texts.str.to_date("%Y-%m-%d", strict=False)
        case "flag":
            return texts.is_in(_YES)
        case "moment":
            return _moments(texts, of)
    return texts


def _moments(texts: "pl.Series", of: str) -> "pl.Series":
    import polars as pl

    unit, _, zone = of.partition(" ")
    at_midnight = texts.str.len_chars() == len("2027-03-15")
    frame = pl.DataFrame({"text": texts, "day": at_midnight})
    whole = frame.select(
        pl.when("day").then(pl.col("text") + _MIDNIGHT).otherwise("text").alias("text")
    )["text"]
    form = _MOMENT + ("%z" if zone else "")
    read = whole.str.to_datetime(form, time_unit=unit, strict=False)  # type: ignore[arg-type]
    return read.dt.convert_time_zone(zone) if zone else read


#: What results are in a file that has kinds: decimals of ten places, as percents are told.
RESULT_KINDS: Final = {
    **dict.fromkeys(RESULTS, "decimal 38 10"),
    **dict.fromkeys(("unknown", "problem", "binding"), TEXT),
    "count": WHOLE,
    "fits": FLAG,
}


def value_of(cell: str, kind: str) -> Any:  # noqa: ANN401  (whatever stands there)
    """A cell as the value that a workbook or JSON has for it; None where nothing stands."""
    if not cell:
        return None
    if kind == FLAG:
        return cell in _YES
    if kind == MIXED:
        return _of_a_mixed(cell)
    if kind == WHOLE or _NUMBERS.fullmatch(kind):
        return float(cell) if kind.startswith("Float") else int(cell)
    if kind == EXACT or kind.startswith("decimal"):
        return Decimal(cell)
    if kind == DAY:
        return date.fromisoformat(cell)
    if kind.startswith("moment"):
        return datetime.fromisoformat(cell)
    return cell


def _of_a_mixed(cell: str) -> Any:  # noqa: ANN401
    """What is written as a number or a day is written, is one."""
    try:
        number = float(cell)
    except ValueError:
        pass
    else:
        return number if math.isfinite(number) and cell_text(number) == cell else cell
    try:
        return datetime.fromisoformat(cell) if len(cell) >= len("2027-03-15") else cell
    except ValueError:
        return cell


def json_of(cell: str, kind: str) -> str:
    """A cell as JSON: a number as it stands, exactly."""
    if kind in (FLAG, JSON):
        return cell
    value = value_of(cell, kind) if is_number(kind) or kind == MIXED else cell
    if isinstance(value, (int, float, Decimal)) and _IN_JSON.fullmatch(cell):
        return cell
    return json.dumps(cell, ensure_ascii=False)


_IN_JSON: Final = re.compile(r"-?(0|[1-9]\d*)(\.\d+)?([eE][+-]?\d+)?")
