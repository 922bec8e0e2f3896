"""What is said of a table by whoever has it worked, beside what stands in it."""

from collections.abc import Sequence
from typing import Any, Final, NamedTuple

from zephyrant.loans import NotALoan
from zephyrant.outlets.csv_form import PLAIN_CSV, CsvForm

from . import settling
from .template import Template
from .ways_out import WayName

#: How one says to the command what cannot be told from a table.
BY_COMMAND: Final = settling.Saying(
    match=lambda figure, column: f"--match {figure}={column}",
    setting=lambda name, choices: f"--set {name}={' or '.join(choices)}",
)


class Asked(NamedTuple):
    """What is said of a table: settings (`NAME=VALUE`) and columns (`FIGURE=COLUMN`) beside those
    of a template, the sheet of a workbook; and how it comes out."""

    settings: Sequence[str] = ()
    matching: Sequence[str] = ()
    sheet: str | None = None
    way: WayName = "csv"
    csv: CsvForm = PLAIN_CSV
    template: Template | None = None

    def stated(self) -> dict[str, Any]:
        """Settings as defaults hold them; raises `NotALoan`."""
        settings: dict[str, Any] = dict(_pairs(self.settings))
        if "rounding" in settings:
            way, _, step = settings["rounding"].partition(" ")
            settings["rounding"] = {"payment": way, **({"to": step} if step else {})}
        return {**(self.template.settings if self.template else {}), **settings}

    def columns(self) -> dict[str, str]:
        """Columns by the figures they are said to hold; raises `NotALoan`."""
        return _pairs(self.matching)


def _pairs(given: Sequence[str]) -> dict[str, str]:
    pairs = {}
    for each in given:
        name, sign, value = each.partition("=")
        if not sign:
            raise NotALoan.at("", f"“{each}” is not NAME=VALUE.")
        pairs[name.strip()] = value.strip()
    return pairs
