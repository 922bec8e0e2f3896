"""Columns of a table and its results by name: what people call them, and of what kind they are;
what is asked about a table, and what is answered."""

from typing import Final, NamedTuple

from zephyrant.texts import Worded

from ..document.named import FIGURES_NAMED, RESULTS_NAMED, Kind, Named
from ..document.parts import Rounding
from .columns import FieldName

#: What a column of a file can be.
FIELDS_NAMED: Final[Worded[FieldName]] = Worded(
    {
        "name": "name of the loan",
        "currency": "currency",
        "principal": FIGURES_NAMED["principal"].title,
        "percent": FIGURES_NAMED["rate.percent"].title,
        "quoted": "style of the quote",
        "compounding": "compounding",
        "count": FIGURES_NAMED["count"].title,
        "every": "how often it is paid",
        "payment": FIGURES_NAMED["payment"].title,
        "balance": FIGURES_NAMED["balance"].title,
        "timing": "in arrears or in advance",
        "repaid": "how it is repaid",
        "amortized_over": FIGURES_NAMED["amortized_over"].title,
        "index": "index the rate follows",
        "margin": FIGURES_NAMED["rate.margin"].title,
        "floor": FIGURES_NAMED["rate.floor"].title,
        "cap": FIGURES_NAMED["rate.cap"].title,
        "resets": "how often it is reset",
        "first_rate": FIGURES_NAMED["rate.first"].title,
        "at_resets": "payments at resets",
        "cash_flow": FIGURES_NAMED["cover.cash_flow"].title,
        "cash_flow_every": "period of the cash flow",
        "growth": FIGURES_NAMED["cover.growth"].title,
        "cover": FIGURES_NAMED["cover.ratio"].title,
        "value": FIGURES_NAMED["value.amount"].title,
        "highest": FIGURES_NAMED["value.highest"].title,
        "start": "lent on",
        "first_payment": "first payment on",
        "day_count": "days counted",
        "business_days": "calendars of business days",
        "roll": "where payments move",
        "adjusted": "to which day interest is counted",
        "after": "owed after payment …",
        "income": "income that carries the payment",
        "share": "share of it that can be carried, %",
    }
)

#: Columns of a result that hold words.
WORDS: Final = frozenset(("row", "unknown", "problem", "outlier", "fits", "binding"))
#: What a column of a result is called, and of what kind what stands in it is.
TOLD_NAMED: Final[dict[str, Named]] = {
    "row": Named("row", "count"),
    "unknown": Named("asked for", "count"),
    "found": Named("found", "money"),
    "principal": FIGURES_NAMED["principal"],
    "percent": Named("rate", "percent", "Rate, %"),
    "count": Named("payments", "count"),
    "payment": FIGURES_NAMED["payment"],
    "balance": Named("balance", "money", "Left at the end"),
    "periodic": Named("per period", "percent", "Per period, %"),
    "nominal": Named("nominal", "percent", "Nominal, as paid, %"),
    "effective": Named("effective", "percent", "Effective, %"),
    "total_paid": RESULTS_NAMED["total_paid"],
    "total_interest": RESULTS_NAMED["total_interest"],
    "final_payment": RESULTS_NAMED["final_payment"],
    "binding": Named("what binds", "count"),
    "lowest_cover": RESULTS_NAMED["lowest_cover"],
    "loan_to_value": Named("loan to value", "percent", "Loan to value, %"),
    "cover": FIGURES_NAMED["cover.ratio"],
    "margin": FIGURES_NAMED["rate.margin"],
    "first_rate": FIGURES_NAMED["rate.first"],
    "owed": Named("owed after", "money"),
    "us_apr": Named("US yearly rate", "percent", "US yearly rate, %"),
    "eu_aprc": Named("EU yearly rate", "percent", "EU yearly rate, %"),
    "gap": Named("over at the end", "money"),
    "fits": Named("fits", "count"),
    "problem": Named("why not", "count"),
    "outlier": Named("stands out by", "count"),
}


def kind_of(column: str, unknown: str) -> Kind:
    """Of what kind a result is; that of what was found is that of the unknown."""
    return TOLD_NAMED[unknown if column == "found" and unknown else column].kind


#: The answers to what has to be asked about a table.
ANSWERS: Final = Worded(
    {
        "comma-point": "the point: 1,234.50",
        "point-comma": "the comma: 1.234,50",
        "plain": "the point, nothing groups: 1234.50",
        "part": "6.35 %",
        "percent": "as they stand, in percent",
        "part-below-one": "those below 1 are parts: 0.0635 is 6.35 %",
        "day-first": "the day: 3/4 is 3 April",
        "month-first": "the month: 3/4 is 4 March",
        "payments": "payments",
        "months": "months",
        "years": "years",
        "leave-out": "left out, and shown as that",
        "solve": "solved as loans all the same",
    }
)


class NamedRounding(NamedTuple):
    """A rounding that all rows of a table can have."""

    title: str
    rounding: Rounding


ROUNDINGS: Final = (
    NamedRounding("to the nearest minor unit", Rounding(payment="nearest")),
    NamedRounding("up to the minor unit", Rounding(payment="up")),
    NamedRounding("up to 0.05", Rounding.model_validate({"payment": "up", "to": "0.05"})),
    NamedRounding("up to whole units", Rounding.model_validate({"payment": "up", "to": "1"})),
)
