"""Examples of the guide that are no loan said in a line."""

from typing import Any, Final

#: Offers quoted in three ways.
QUOTES: Final[dict[str, Any]] = {
    "name": "Three offers, each quoted in its own way",
    "yardstick": {"principal": "43,700.00", "count": "48"},
    "quotes": [
        {"name": "Half-yearly", "percent": "4.6", "compounding": "half-year"},
        {"name": "Monthly", "percent": "4.6", "compounding": "month"},
        {"name": "Weekly", "percent": "4.6", "compounding": "week"},
    ],
}
#: Days and amounts without a loan round them.
FLOWS: Final = (
    "date;amount\n1 Mar 2027;-186400\n1 Sep 2027;22000\n15 Mar 2028;41500\n"
    "1 Sep 2028;52000\n1 Mar 2029;104300\n"
)
#: A table, a figure missing in each row.
TABLE: Final = (
    "Name;Amount;Rate;Payments;Payment\n"
    "Loom;19800;6.75;48;?\n"
    "Kiln;17840;?;48;432\n"
    "Press;?;6.35;60;938.82\n"
    "Cold store;64800;5.95;?;1230\n"
    "Rafts;72900;7.1;120;?\n"
)
