"""A sheet of formulas: its terms, its rows, where they stand and what does not follow."""

from decimal import Decimal
from typing import Final, NamedTuple

from ..ledger.rows import Row, Schedule

#: Where the terms stand on their sheet, and what the cells are called.
PRINCIPAL, PERCENT, PER_PERIOD = "Terms!$B$3", "Terms!$B$4", "Terms!$B$5"
PAYMENT, BALANCE = "Terms!$B$6", "Terms!$B$7"
NAMES: Final = {
    "Principal": PRINCIPAL,
    "Percent": PERCENT,
    "Percent_of_one_period": PER_PERIOD,
    "Regular_payment": PAYMENT,
    "Balance_at_the_end": BALANCE,
}
#: The first row of the schedule's sheet that holds a payment.
FIRST_ROW: Final = 2
#: Decimals at which the noise of binary arithmetic is gone and no cent has been decided.
QUIET: Final = 8


class FormulaRow(NamedTuple):
    """The cells of a payment: formulas as text, our values beside them.

    `measured`: days or parts of a year, where interest needs them. `percent`: of the period, where
    it is not that of the terms. `added` and `repaid`: what was lent or taken as a fee meanwhile,
    and what was paid on top. `marked`: why a cell holds a number in place of a formula. `without`
    and `each`: the balance rolled unrounded without the figure that is asked for, and with 1 of it.
    """

    row: Row
    opening: str
    interest: str
    principal: str
    payment: str
    closing: str
    measured: Decimal | None
    percent: Decimal | None
    added: str
    repaid: str
    marked: str | None
    without: str
    each: str


class FormulaColumn(NamedTuple):
    """A column beside the arithmetic: its name, and of each row the formula with our value; nothing
    where there is none."""

    name: str
    cells: tuple[tuple[str, float] | None, ...]


class FormulaTerm(NamedTuple):
    """A figure of the terms: its value or, where others tell it, its formula; `note` says what
    follows it and what does not. `is_input`: it is there to be changed."""

    value: Decimal
    formula: str | None
    note: str
    is_input: bool


class FormulaTerms(NamedTuple):
    """The terms the formulas refer to."""

    principal: FormulaTerm
    percent: FormulaTerm
    per_period: FormulaTerm
    payment: FormulaTerm
    balance: FormulaTerm


class FormulaSheet(NamedTuple):
    """A whole schedule as formulas; `busy`: money moves besides the payments; `finds`: a formula
    finds the figure that is asked for; `says`: what does not follow; `beside`: columns of cover and
    value."""

    terms: FormulaTerms
    rows: tuple[FormulaRow, ...]
    schedule: Schedule
    measured_in: str | None
    busy: bool
    finds: bool
    says: tuple[str, ...]
    beside: tuple[FormulaColumn, ...] = ()
