"""How large the figures of a document may be, and how many there may be."""

from decimal import Decimal
from typing import Final

#: A hundred years of daily payments.
MOST_PAYMENTS: Final = 36_500
#: The largest amount: one below a quadrillion.
MOST_MONEY: Final = Decimal(10) ** 15
#: Percents a year are below this.
MOST_PERCENT: Final = Decimal(10_000)
MOST_PLACES: Final = 40
MOST_COMPOUNDINGS: Final = 10_000
MOST_PAYMENTS_A_YEAR: Final = 366
MOST_CLAUSES: Final = 1_000
#: Years are counted back from days, and payments laid out after them: within the calendar.
FIRST_YEAR: Final = 1000
LAST_YEAR: Final = 9900
#: Characters of JSON a document may have.
MOST_TEXT: Final = 1_000_000
