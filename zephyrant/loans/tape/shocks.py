"""A tape under shocks: the same loans with their rates, balances or terms moved.

A shock says of some of the five figures how they move: `+0.5`, `-250`, `* 0.9`, `-10 %`; a rate by
points of percent or basis points (`+1`, `+50 bp`), a number of payments by payments or time (`+12`,
`+1 year`). `?` asks for a figure in rows that state all of them; a row that asks for one of its own
keeps its question. A cell in which nothing is stated, or what is asked for, is not moved.
"""

import re
from collections.abc import Collection, Sequence
from decimal import Decimal
from typing import Annotated, Any, Final, NamedTuple

from pydantic import BaseModel, ConfigDict, Field, ValidationError, model_validator

from zephyrant.texts import worded

from ..calendars import frequencies
from ..document.fields import UNKNOWN, wrong_at
from ..document.reading import field_errors
from ..errors import FieldError, NotALoan
from ..numbers.currencies import currencies
from ..numbers.decimals import is_whole, plain, precise, to_step
from ..wording.marks import MARKS
from .array_cells import plainly
from .columns import ASKABLE, MONEY, Columns, Defaults, FieldName
from .moves import Move, move_of
from .named import FIELDS_NAMED
from .not_loans import NOTHING, stated
from .rows import currency_of, every_of, read_figure

KIND: Final = "shocks/1"
MOST_SHOCKS: Final = 10_000
_NAME: Final = re.compile(r"[\w+-][\w .+-]{0,59}")
#: Decimals a moved rate has at the most, as a percent is put back with.
_PERCENT_STEP: Final = Decimal("1e-10")


MoveField = Annotated[str, Field(json_schema_extra={"pattern": r"^(|\s*[?]\s*|\s*[-+*x−].*)$"})]


class Shock(BaseModel):
    """One path: what it is called, and how each figure moves; those it does not name stay."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    name: str = Field(json_schema_extra={"pattern": f"^{_NAME.pattern}$"})
    principal: MoveField = ""
    percent: MoveField = ""
    count: MoveField = ""
    payment: MoveField = ""
    balance: MoveField = ""

    @model_validator(mode="before")
    @classmethod
    def _are_texts(cls, content: Any) -> Any:  # noqa: ANN401  (whatever a document holds)
        for name in ASKABLE if isinstance(content, dict) else ():
            if not isinstance(content.get(name, ""), str):
                raise wrong_at(
                    name,
                    worded(
                        "Write how it moves in quotes, such as “+1”: of a bare number its sign is "
                        "lost."
                    ),
                )
        return content

    @model_validator(mode="after")
    def _can_be_read(self) -> "Shock":
        if not _NAME.fullmatch(self.name):
            raise wrong_at(
                "name",
                worded(
                    "A path is called by 1 to 60 letters, digits, spaces and . _ + -, no space or "
                    "point first: its rows stand in a folder of that name."
                ),
            )
        for name, typed in self.stated().items():
            move_of(name, typed)
        return self

    def stated(self) -> dict[FieldName, str]:
        """The figures it names, and how they move."""
        return {name: typed for name in ASKABLE if (typed := getattr(self, name))}


class Shocks(BaseModel):
    """The paths of one run, each by a name of its own."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    zephyrant: str = Field(pattern=f"^{KIND}$")
    paths: tuple[Shock, ...] = Field(json_schema_extra={"minItems": 1, "maxItems": MOST_SHOCKS})

    @model_validator(mode="before")
    @classmethod
    def _are_some(cls, content: Any) -> Any:  # noqa: ANN401  (whatever a document holds)
        paths = content.get("paths") if isinstance(content, dict) else None
        if isinstance(paths, list) and not 1 <= len(paths) <= MOST_SHOCKS:
            message = worded(
                "That is {paths} paths: a run has 1 to {most}.",
                paths=f"{len(paths):,}",
                most=f"{MOST_SHOCKS:,}",
            )
            raise wrong_at("paths", message)
        return content

    @model_validator(mode="after")
    def _have_names(self) -> "Shocks":
        seen: set[str] = set()
        for shock in self.paths:
            bare = shock.name.casefold()
            if bare in seen:
                raise wrong_at("paths", worded("Two paths are called “{name}”.", name=shock.name))
            seen.add(bare)
        return self


def shocks_of(content: object) -> tuple[Shock, ...]:
    """The paths of a document; raises `NotALoan` with what is wrong at its field."""
    if not isinstance(content, dict) or content.get("zephyrant") != KIND:
        message = worded(
            'This is no list of shocks: such a document says "zephyrant": "{kind}".', kind=KIND
        )
        raise NotALoan.at("zephyrant", message)
    try:
        return Shocks.model_validate(content).paths
    except ValidationError as error:
        raise NotALoan(field_errors(error.errors())) from None


def unmoved(shocks: Sequence[Shock], columns: Collection[FieldName]) -> None:
    """Raises `NotALoan` where a shock moves a figure that no column holds."""
    errors = [
        FieldError(
            field=f"paths.{number}.{name}",
            message=worded(
                "“{shock}” moves the {figure}, which no column holds.",
                shock=shock.name,
                figure=FIELDS_NAMED[name].lower(),
            ),
        )
        for number, shock in enumerate(shocks)
        for name, typed in shock.stated().items()
        if typed.strip() != UNKNOWN and name not in columns
    ]
    if errors:
        raise NotALoan(errors)


def moved(columns: Columns, defaults: Defaults, shock: Shock) -> Columns:
    """The cells of a table as they stand under a shock, to be read by the same defaults.

    A row that cannot be read stays as it is, and says so when it is solved.
    """
    moves = {name: move_of(name, typed) for name, typed in shock.stated().items()}
    if not moves:
        return columns
    size = len(next(iter(columns.values())))
    kinds = _kinds(columns, defaults, size)
    cells: dict[FieldName, Sequence[str]] = dict(columns)
    for name, move in moves.items():
        if move is None:
            own = columns.get(name, [""] * size)
            asks = _ask(columns, size)
            cells[name] = [
                cell if has_own else UNKNOWN for cell, has_own in zip(own, asks, strict=True)
            ]
        else:
            known: dict[tuple[str, _Kind | None], str] = {}
            cells[name] = [
                known.get(key := (cell, kind))
                or known.setdefault(key, _moved_cell(name, move, key, defaults))
                for cell, kind in zip(columns[name], kinds, strict=True)
            ]
    return cells


def _ask(columns: Columns, size: int) -> list[bool]:
    """Which rows ask for a figure of their own: one is marked, or left empty."""
    blank = [""] * size
    four = (columns.get(name, blank) for name in ASKABLE if name != "balance")
    marked = columns.get("balance", blank)
    return [
        any(cell in _ASKING for cell in map(str.strip, row)) or last.strip() == UNKNOWN
        for row, last in zip(zip(*four, strict=True), marked, strict=True)
    ]


_ASKING: Final = frozenset((UNKNOWN, *NOTHING))


class _Kind(NamedTuple):
    """What a row's figures are read by."""

    currency: str
    every: frequencies.Frequency


def _kinds(columns: Columns, defaults: Defaults, size: int) -> Sequence[_Kind | None]:
    """What the figures of each row are read by; none where that cannot be read."""
    blank = [""] * size
    keys = list(zip(*(columns.get(name, blank) for name in _READ_BY), strict=True))
    kinds = {key: _kind(key, defaults) for key in set(keys)}
    return [kinds[key] for key in keys]


_READ_BY: Final[tuple[FieldName, ...]] = ("currency", "every")


def _kind(key: tuple[str, ...], defaults: Defaults) -> _Kind | None:
    text = {name: stated(cell) for name, cell in zip(_READ_BY, key, strict=True)}
    try:
        every = every_of(text, defaults)
        frequencies.a_year(every)
        return _Kind(currency_of(text, defaults), every)
    except (NotALoan, KeyError):
        return None


def _moved_cell(
    name: FieldName, move: Move, key: tuple[str, _Kind | None], defaults: Defaults
) -> str:
    """A cell moved, by what its row is read by; as it is where it cannot be, or states nothing."""
    cell, kind = key
    text = stated(cell)
    if kind is None or text in ("", UNKNOWN):
        return cell
    marks = MARKS[defaults.marks]
    # What is plainly a number needs no reader of what people type.
    figure = plainly(marks)(text) if name in MONEY else ""
    if not figure:
        try:
            figure = read_figure(name, {name: text}, defaults, marks, kind.currency, kind.every)
        except NotALoan:
            return cell
    return _cell(name, move(Decimal(figure), kind.every), kind, defaults)


def _cell(name: FieldName, value: Decimal, kind: _Kind, defaults: Defaults) -> str:
    """A moved figure as its cell holds it: money to the minor unit, payments whole."""
    if value.is_nan():
        return worded("no whole number of payments")
    with precise():
        if name == "percent":
            text = _marked(to_step(value, _PERCENT_STEP, "nearest"), defaults)
            return text if defaults.percent_as == "percent" else f"{text} %"
        if name == "count":
            return _term(to_step(value, Decimal(1), "nearest"), kind.every, defaults)
        decimals = currencies()[kind.currency].decimals
        return _marked(to_step(value, Decimal(1).scaleb(-decimals), "nearest"), defaults, decimals)


def _marked(value: Decimal, defaults: Defaults, places: int = 0) -> str:
    return plain(value, places).replace(".", MARKS[defaults.marks].decimal)


def _term(payments: Decimal, every: frequencies.Frequency, defaults: Defaults) -> str:
    """A number of payments as a bare term counts."""
    if defaults.count_in == "payments":
        return plain(payments)
    a_year = 12 if defaults.count_in == "months" else 1
    term = payments * a_year / frequencies.a_year(every)
    return plain(term) if is_whole(term) else f"{plain(payments)} payments"
