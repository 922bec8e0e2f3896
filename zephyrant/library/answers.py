"""An answer as a library gives it: figures as decimals, days as days, tables that are tables."""

from collections.abc import Iterable, Iterator
from contextlib import contextmanager
from datetime import date
from decimal import Decimal
from functools import cached_property
from typing import Any

from zephyrant import loans
from zephyrant.loans import Loan, Marks
from zephyrant.loans.said import Piece
from zephyrant.outlets.reader import Reader

from .frames import Column, Frame
from .records import (
    Aimed,
    Check,
    Fitting,
    Proof,
    Rates,
    ScheduleRow,
    Step,
    Totals,
    YearlyCost,
    YearRow,
)


class Answer:
    """A loan solved: the figure found, the loan to the cent, its working and its proof.

    True where there is an answer, or all is stated; else `reason` says why there is none. Money is
    in the loan's currency, rates are in percent. A notebook shows it with its line drawn.
    """

    def __init__(
        self, loan: Loan, told: loans.Answer, marks: Marks, read: Iterable[Piece] = ()
    ) -> None:
        self._loan, self._told, self._marks = loan, told, marks
        self.read = tuple(read)
        "How what was said was read, piece by piece; `guess` marks what was not said outright."

    def __bool__(self) -> bool:
        return self._told.reason is None

    @property
    def document(self) -> dict[str, Any]:
        """The loan document that was solved, as JSON holds it."""
        return loans.write(self._loan)

    @property
    def sentence(self) -> str:
        """The terms as a sentence that can be read aloud."""
        return loans.terms_in_words(self._loan, self._marks)

    @property
    def unknown(self) -> str | None:
        """The figure that was asked for: `principal rate count payment balance`, or its path in the
        document; None where all were stated."""
        return self._told.unknown

    @property
    def value(self) -> Decimal | None:
        """The figure found, as it will be paid: money to the cent, whole payments, percent to ten
        decimals."""
        return _decimal(self._told.value)

    @property
    def exact(self) -> Decimal | None:
        """The figure before it is rounded, to 15 digits at the least."""
        return _decimal(self._told.exact)

    @property
    def solutions(self) -> tuple[Decimal, ...]:
        """Every figure that fits, ascending; none where there is a `reason`."""
        return tuple(map(Decimal, self._told.solutions))

    @property
    def reason(self) -> str | None:
        """Why there is no answer."""
        return self._told.reason

    @property
    def notes(self) -> tuple[str, ...]:
        """What might surprise."""
        return self._told.notes

    @property
    def clause_notes(self) -> tuple[tuple[str, ...], ...]:
        """Of each clause what it comes to beside the others."""
        return self._told.clause_notes

    @property
    def rates(self) -> Rates | None:
        """The rate on the clock of the payments, and a year."""
        told = self._told.rates
        return None if told is None else Rates(*(Decimal(told[name]) for name in Rates._fields))  # type: ignore[literal-required]

    @property
    def totals(self) -> Totals | None:
        """What the schedule adds up to."""
        told = self._told.totals
        if told is None:
            return None
        money: dict[str, Any] = {**told}
        payments = money.pop("payments")
        return Totals(**{name: Decimal(text) for name, text in money.items()}, payments=payments)

    @property
    def yearly_cost(self) -> YearlyCost | None:
        """What the loan costs a year, by the published rules."""
        told = self._told.yearly_cost
        return told and YearlyCost(_decimal(told["us_apr"]), _decimal(told["eu_aprc"]))

    @property
    def final_date(self) -> date | None:
        """When the loan ends; None without dates."""
        told = self._told.final_date
        return None if told is None else date.fromisoformat(told)

    @property
    def gap(self) -> Decimal | None:
        """Where all is stated, what is left over at the end, unrounded; below zero what is paid too
        much."""
        return _decimal(self._told.gap)

    @property
    def fits(self) -> bool | None:
        """Where all is stated, whether the gap is no more than rounding."""
        return self._told.fits

    @property
    def binding(self) -> str | None:
        """Which bound holds what is lent, `cover` or `value`, where as much is lent as they
        allow."""
        return self._told.binding

    @property
    def slack(self) -> dict[str, Decimal]:
        """By how much more each bound alone would let be lent."""
        return {name: Decimal(more) for name, more in (self._told.slack or {}).items()}

    @property
    def cover_ratios(self) -> tuple[tuple[int, Decimal | None], ...]:
        """Each period of the cover with how many times the cash flow is what is paid in it."""
        told = self._told.cover_ratios or ()
        return tuple((period, _decimal(ratio)) for period, ratio in told)

    @property
    def loan_to_value(self) -> Decimal | None:
        """What is lent in percent of the value it is lent on."""
        return _decimal(self._told.loan_to_value)

    @property
    def would_fit(self) -> dict[str, Fitting]:
        """Where all is stated, what each figure would have to be for the others."""
        return {
            str(name): Fitting(_decimal(each["value"]), _decimal(each["exact"]), each["reason"])
            for name, each in (self._told.would_fit or {}).items()
        }

    @property
    def aim(self) -> Aimed | None:
        """What came of the aim, where there is one."""
        told = self._told.aim
        if told is None:
            return None
        return Aimed(
            figure=told["figure"],
            by=told["by"],
            target=told["target"],
            value=_decimal(told["value"]),
            exact=_decimal(told["exact"]),
            solutions=tuple(map(Decimal, told["solutions"])),
            nearest=_decimal(told["nearest"]),
            says=told["says"],
        )

    @cached_property
    def schedule(self) -> Frame[ScheduleRow]:
        """The loan to the cent, row by row; the same columns whatever the loan, so that schedules
        can be put under one another."""
        return Frame(self._schedule_columns(), ScheduleRow)

    def _schedule_columns(self) -> dict[str, Column]:
        laid = self._told.laid
        if laid is None:
            kinds = {"number": "whole", "date": "day"}
            return {name: Column(kinds.get(name, "decimal"), ()) for name in ScheduleRow._fields}  # type: ignore[arg-type]
        whole, amount = laid.schedule.columns, laid.schedule.unit.amount
        days = laid.days or [None] * len(whole.number)
        columns = {"number": Column("whole", whole.number), "date": Column("day", days)}
        for name in ScheduleRow._fields[2:]:
            columns[name] = Column("decimal", tuple(map(amount, getattr(whole, name))))
        return columns

    @cached_property
    def by_year(self) -> Frame[YearRow]:
        """What each year of the schedule adds up to."""
        years: list[dict[str, Any]] = [{**year} for year in self._told.by_year]
        columns = {"label": Column("text", [year["label"] for year in years])}
        for name in ("first", "last"):
            columns[name] = Column("whole", [year[name] for year in years])
        for name in YearRow._fields[3:]:
            columns[name] = Column("decimal", [Decimal(year[name]) for year in years])
        return Frame(columns, YearRow)

    @property
    def working(self) -> tuple[Step, ...]:
        """The answer explained, step by step, with its numbers."""
        return tuple(Step(**step) for step in self._told.working)

    @property
    def proof(self) -> Proof | None:
        """The answer checked on a second way, and the schedule on its own sums."""
        told = self._told.proof
        if told is None:
            return None
        checks = tuple(Check(**each) for each in told["checks"])
        return Proof(told["holds"], told["digits"], told["says"], checks)

    @property
    def engine(self) -> str:
        """The version of the core that gave it."""
        return self._told.engine

    def to_dict(self) -> dict[str, Any]:
        """The answer as the command and the API tell it, for JSON; its figures are plain, its
        sentences in the marks that were asked for."""
        return self._told.model_dump(mode="json")

    def to_csv(self) -> str:
        """The schedule as CSV, numbers plain."""
        from zephyrant.outlets.schedule_csv import csv_parts

        return "".join(csv_parts(self._told))

    def to_markdown(self, *, rows: bool = False, working: bool = False) -> str:
        """The answer as Markdown; with every one of the `rows`, with its `working`."""
        from zephyrant.outlets.markdown import markdown_of

        return markdown_of(self._loan, self._told, self._marks, rows=rows, working=working)

    def to_workbook(self) -> bytes | None:
        """The schedule as a workbook of formulas (XLSX); None where there is no schedule.

        Needs `zephyrant[tables]`; raises `ImportError` where that is not installed.
        """
        with _brought_by("tables"):
            from zephyrant.outlets.schedule_workbook import xlsx_of
        return xlsx_of(self._loan, Reader(self._marks))

    def to_pdf(self, note: str = "") -> bytes:
        """The loan as a statement to file (PDF), with a note.

        Needs `zephyrant[pdf]`; raises `ImportError` where that is not installed.
        """
        with _brought_by("pdf"):
            from zephyrant.outlets.statement_pdf import statement_pdf
        return statement_pdf(self._loan, self._told, note, Reader(self._marks))

    def __repr__(self) -> str:
        if self.reason:
            return f"<Answer: none, {self.reason}>"
        if self.unknown is None:
            return f"<Answer: a check, {'fits' if self.fits else 'does not fit'}, gap {self.gap}>"
        return f"<Answer: {self.unknown} {self._told.value}>"

    def __str__(self) -> str:
        return self.to_markdown()

    def _repr_html_(self) -> str:
        from .notebook import html_of

        return html_of(self._loan, self._told, self._marks)


@contextmanager
def _brought_by(extra: str) -> Iterator[None]:
    """What is not installed is told with the extra that brings it."""
    try:
        yield
    except ImportError as error:
        message = f"This needs {error.name}: pip install 'zephyrant[{extra}]'."
        raise ImportError(message, name=error.name) from None


def _decimal(text: str | None) -> Decimal | None:
    return None if text is None else Decimal(text)
