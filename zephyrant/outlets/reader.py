"""For whom a file is made: their marks, the paper of their country, how they write days and CSV."""

from collections.abc import Sequence
from typing import Final, Literal, NamedTuple

from zephyrant.loans import ENGINE, PLAIN, Marks

from .csv_form import PLAIN_CSV, CsvForm

#: What is on record of a loan, by whom and when: what is told and what it is.
Record = Sequence[tuple[str, str]]
PaperName = Literal["a4", "letter"]
#: Countries that print on paper of the size Letter; all others on A4 (Unicode CLDR, supplemental
#: data, measurement: paperSize).
_ON_LETTER: Final = frozenset(
    ["BZ", "CA", "CL", "CO", "CR", "GT", "MX", "NI", "PA", "PH", "PR", "SV", "US", "VE"]
)
_PAPER_OF_WORKBOOKS: Final[dict[PaperName, int]] = {"letter": 1, "a4": 9}


def paper_of(country: str | None) -> PaperName:
    """The paper of a country by its code (ISO 3166); A4 where none is known."""
    return "letter" if country in _ON_LETTER else "a4"


class Reader(NamedTuple):
    """For whom a file is made. `author`: who made it, for what programs tell of a file; `day`: how
    days stand in a workbook, in its own letters."""

    marks: Marks = PLAIN
    paper: PaperName = "a4"
    author: str = ""
    csv: CsvForm = PLAIN_CSV
    day: str = "d mmm yyyy"

    @property
    def properties(self) -> dict[str, str]:
        """What workbooks tell of themselves, beside their title."""
        return {"author": self.author or "Zephyrant", "comments": f"Made by {ENGINE}"}

    @property
    def paper_of_workbooks(self) -> int:
        """The number by which workbooks know the paper."""
        return _PAPER_OF_WORKBOOKS[self.paper]
