"""Cover and loan to value as columns of formulas beside the schedule."""

from ..answer.bounded import Ratios
from ..document.loan import Loan
from ..ledger.covering import PeriodCovered, repays_at_last
from ..ledger.rows import Schedule
from ..line.line import Line
from ..numbers.ratios import as_decimal
from .formula_sheet import FIRST_ROW, FormulaColumn


def bounds_columns(loan: Loan, line: Line, schedule: Schedule) -> tuple[FormulaColumn, ...]:
    """The columns that cover and value have."""
    ratios = Ratios(loan, line, schedule)
    columns = []
    if ratios.cover is not None:
        cells: list[tuple[str, float] | None] = []
        for period in ratios.periods:
            cells += [_covered(period, line, schedule)] * (period.last - period.first + 1)
        cells += [None] * (len(schedule.rows) - len(cells))
        columns.append(FormulaColumn("cover_ratio", tuple(cells)))
    if loan.value is not None:
        worth, amount = loan.value.amount, schedule.unit.amount
        closings = enumerate(schedule.columns.closing, FIRST_ROW)
        columns.append(
            FormulaColumn(
                "loan_to_value",
                tuple(
                    (f"=100*G{at}/{worth:f}", float(100 * amount(closing) / worth))
                    for at, closing in closings
                ),
            )
        )
    return tuple(columns)


def _covered(period: PeriodCovered, line: Line, schedule: Schedule) -> tuple[str, float] | None:
    """How many times the cash flow is what is paid in a period of the cover."""
    if period.ratio is None:
        return None
    first, last = (FIRST_ROW + number - 1 for number in (period.first, period.last))
    paid = f"SUM(F{first}:F{last})"
    if repays_at_last(line) and period.last == len(schedule.rows):
        # The principal that is repaid at the end is not tested.
        paid = f"({paid}-E{last})"
    return f"={as_decimal(period.cash):f}/{paid}", float(period.ratio)
