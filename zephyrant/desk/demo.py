"""The demo desk: an invented mutual that lends to workshops and growers."""

import io
import random
from typing import Any, Final

from django.contrib.auth.models import User
from django.db import transaction

from zephyrant.loans.statement import QuoteList, Statement, work
from zephyrant.loans.tape import Defaults

from . import feed, indices, quote_lists, trail
from .asides import Asides, Pin, keep
from .cases import Content, start
from .models import Case, TableTemplate
from .table_asks import Matching

ANALYST: Final = "demo-analyst"
_NAME: Final = ("Maren", "Tolliver")
COLLEAGUE: Final = ("demo-colleague", "Edda", "Quarrie")

#: Each shows something different; the first in the list is the one opened most.
CASES: Final[list[dict[str, Any]]] = [
    {
        "name": "Water turbine, Upper Ferrow Mill",
        "currency": "CHF",
        "principal": "312,750.00",
        "percent": "4.85",
        "quoted": "effective",
        "count": "1040",
        "every": "week",
        "payment": "?",
        "rounding": {"payment": "up", "to": "0.05"},
    },
    {
        "name": "Oyster rafts, Skerrow Sound",
        "tags": ["growers"],
        "note": "They offer 431 a month. Show them why that never ends.",
        "principal": "72,900.00",
        "percent": "7.10",
        "count": "?",
        "payment": "431.00",
    },
    {
        "name": "Boat shed, Skerrow Sound",
        "tags": ["workshop"],
        "note": "They can carry 900 a month. How much has to be paid at once?",
        "is_purchase": True,
        "price": "118,000.00",
        "down": "15",
        "percent": "6.20",
        "count": "120",
        "payment": "?",
        "aim": {"figure": "payment", "is": "900.00", "by": "purchase.down.percent"},
    },
    {
        "name": "Stone crusher, Skerrow Quarry",
        "tags": ["workshop"],
        "note": "Their figures as they stated them. Do they fit? The old schedule is in the file.",
        "principal": "96,300.00",
        "percent": "6.15",
        "count": "84",
        "payment": "1,412.60",
        "start": "1 Mar 2027",
        "business_days": {"calendars": "DE, TARGET", "roll": "modified-following"},
    },
    {
        "name": "Apple store, Ferrow Orchards",
        "tags": ["growers", "committee 3 dec"],
        "note": "Lent at picking time; the first payment only once the first lorries are paid.",
        "principal": "64,800.00",
        "percent": "5.95",
        "count": "48",
        "payment": "?",
        "balance": "20 %",
        "start": "18 Sep 2027",
        "first_payment": "1 Dec 2027",
        "day_count": "equal",
        "clauses": [{"verb": "payment", "at": "12", "figure": "4,000.00"}],
    },
    {
        "name": "Cider hall, Hask Growers",
        "tags": ["growers"],
        "note": "Paid out as the walls go up; nothing in winter, when the presses stand still.",
        "principal": "40,000.00",
        "percent": "7.10",
        "count": "60",
        "payment": "?",
        "start": "1 Mar 2027",
        "clauses": [
            {"verb": "advance", "at": "4", "figure": "35,000.00"},
            {"verb": "advance", "at": "8", "figure": "25,000.00"},
            {"verb": "pay", "is_stretch": True, "from": "1", "to": "12", "pay": "interest"},
            {"verb": "pay", "is_stretch": True, "from": "13", "months": [12, 1, 2]},
            {
                "verb": "rate",
                "is_stretch": True,
                "from": "25",
                "figure": "6.40",
                "compounding": "month",
            },
        ],
    },
    {
        "name": "Slate quarry, Upper Ferrow",
        "tags": ["workshop"],
        "note": "The ground has to be made good in the second year: which rate is it?",
        "principal": "16,000.00",
        "percent": "?",
        "quoted": "effective",
        "count": "0",
        "every": "year",
        "payment": "0",
        "clauses": [
            {"verb": "repay", "at": "1", "figure": "42,400.00"},
            {"verb": "advance", "at": "2", "figure": "27,600.00"},
        ],
    },
    {
        "name": "Letter press, Weft House",
        "tags": ["workshop", "committee 3 dec"],
        "note": "An arrangement fee kept back and a service charge each quarter.",
        "principal": "27,300.00",
        "percent": "6.60",
        "count": "48",
        "payment": "?",
        "clauses": [
            {"verb": "fee", "at": "0", "figure": "1.5", "in_percent": True},
            {
                "verb": "fee",
                "is_stretch": True,
                "from": "1",
                "to": "48",
                "figure": "9.50",
                "taken": "apart",
            },
        ],
    },
    {
        "name": "Orchard netting, Lower Hask",
        "principal": "?",
        "percent": "6.9",
        "quoted": "continuous",
        "count": "12",
        "every": "half-year",
        "payment": "6,450.00",
        "balance": "9,500.00",
    },
    {
        "name": "Grain mill, Tarn Bakers",
        "tags": ["workshop"],
        "note": "How much can they carry? Their cash flow grows; the house is valued carefully.",
        "principal": "?",
        "percent": "6.15",
        "count": "144",
        "payment": "",
        "cover": {"cash_flow": "186,000.00", "growth": "1.5", "ratio": "1.30"},
        "value": {"amount": "1,980,000.00", "highest": "65"},
    },
    {
        "name": "Harvest store, Lower Hask",
        "tags": ["growers"],
        "note": "A cold store repaid out of the harvest, on a floating rate with a floor.",
        "principal": "240,000.00",
        "count": "40",
        "every": "quarter",
        "payment": "?",
        "start": "1 Oct 2026",
        "floating": {
            "index": "harbour-6",
            "margin": "2.15",
            "floor": "2.00",
            "resets": "half-year",
            "then": "re-level",
            "fixings": "2025-12-31 2.01\n2026-03-31 1.94\n2026-06-30 1.82\n2026-09-30 1.74",
            "ahead": "2027-03-31 2.10\n2027-09-30 2.40\n2028-03-31 2.60",
        },
    },
    {
        "name": "Tile kiln, Skerrow Brickworks",
        "tags": ["workshop"],
        "note": "Equal principal; while it is built only the interest is paid.",
        "principal": "96,000.00",
        "percent": "5.75",
        "count": "60",
        "payment": "?",
        "repaid": "equal-principal",
        "clauses": [{"verb": "pay", "from": "1", "to": "6", "is_stretch": True, "pay": "interest"}],
    },
    {
        "name": "Cold store, Hask Growers",
        "tags": ["growers", "committee 3 dec"],
        "principal": "186,400.00",
        "percent": "5.85",
        "quoted": "effective",
        "count": "20",
        "every": "quarter",
        "payment": "8,750.00",
        "balance": "?",
        "timing": "in-advance",
    },
    {
        "name": "Six looms, Weft House",
        "principal": "23,640.00",
        "percent": "7 3/8",
        "count": "?",
        "payment": "645.00",
    },
    {
        "name": "Kiln, Tarn Pottery",
        "tags": ["workshop"],
        "principal": "17,840.00",
        "percent": "?",
        "quoted": "nominal",
        "compounding": "month",
        "count": "48",
        "payment": "431.90",
    },
    {
        "name": "Cider press, Orrin & Daughters",
        "tags": ["workshop", "committee 3 dec"],
        "note": "Second press, the first is paid off. They ask whether a balloon would help.",
        "principal": "48,250.00",
        "percent": "6.35",
        "compounding": "half-year",
        "count": "60",
        "payment": "?",
    },
]


_QUOTES: Final[dict[str, Any]] = {
    "name": "Offers for the second press",
    "yardstick": {"principal": "48,250.00", "count": "60"},
    "quotes": [
        {"name": "Ferrow Valley, fixed", "percent": "6.35", "compounding": "half-year"},
        {"name": "Ferrow Valley, floating", "percent": "6.30", "compounding": "month"},
        {"name": "Press dealer", "percent": "3.4", "quoted": "flat", "count": "60"},
        {"name": "Hask Growers’ fund", "percent": "6.25", "quoted": "continuous"},
        {
            "name": "Skerrow Bills",
            "percent": "6.05",
            "quoted": "discount",
            "over": "90 days",
            "year_days": 360,
        },
    ],
}


#: What was tried in a case: what each is called, and what it changed.
_TRIED: Final[dict[str, list[tuple[str, dict[str, str]]]]] = {
    "Cider press, Orrin & Daughters": [
        ("Locked a quarter lower", {"percent": "6.10"}),
        ("Over four years", {"count": "48"}),
        ("With a balloon of 9,650", {"balance": "9,650.00"}),
    ],
}


@transaction.atomic
def lay_the_desk() -> None:
    """The demo analyst and her cases, anew where none are kept yet."""
    analyst, _ = User.objects.get_or_create(
        username=ANALYST, defaults={"first_name": _NAME[0], "last_name": _NAME[1]}
    )
    # Someone to share with; nobody can sign in as her, as she has no password.
    username, first_name, last_name = COLLEAGUE
    User.objects.get_or_create(
        username=username, defaults={"first_name": first_name, "last_name": last_name}
    )
    if not analyst.cases.exists():
        for case in CASES:
            content = {name: case[name] for name in ("note", "tags") if name in case}
            stated = {name: value for name, value in case.items() if name not in content}
            statement = Statement.model_validate(stated)
            begun = start(analyst, Content(statement=statement, **content))
            _try(begun, analyst, statement)
        quote_lists.start(analyst, QuoteList.model_validate(_QUOTES))
    for name in feed.names():
        indices.fetch(name)


def _try(case: Case, analyst: User, statement: Statement) -> None:
    """What was tried in a case, on its trail and pinned beside it."""
    pins = []
    for name, changed in _TRIED.get(case.name, []):
        tried = statement.model_copy(update=changed)
        worked = work(tried)
        trail.add(case, analyst, tried, worked, trail.digest_of(worked), typing=False)
        point = case.trail.all()[0]
        point.name = name
        point.save(update_fields=["name"])
        pins.append(Pin(case=case.pk, point=point.number))
    if pins:
        keep(analyst, case.pk, Asides(pins=pins))


def lay_a_table() -> None:
    """A solved table of the demo analyst, anew where none is kept yet."""
    # Loaded here: most who lay the desk lay no table.
    from . import jobs, tables  # noqa: PLC0415

    analyst = User.objects.get(username=ANALYST)
    if analyst.loan_tables.exists():
        return
    TableTemplate.objects.get_or_create(
        owner=User.objects.get(username=COLLEAGUE[0]),
        name=_TEMPLATE["name"],
        defaults={"content": _TEMPLATE, "shared": True},
    )
    file = io.BytesIO(_tape().encode())
    (table,) = tables.open_file(analyst, file, "Growers’ loans, Hask and Ferrow.csv")
    matching = Matching(columns=table.columns, defaults=Defaults(marks="comma-point", after=12))
    tables.ask(analyst, table.pk, matching)
    taken = jobs.take_up()
    if taken is not None:
        jobs.work_on(taken)


#: How a colleague matches what another branch sends.
_TEMPLATE: Final[dict[str, Any]] = {
    "zephyrant": "table-match/1",
    "name": "Ledger of the Skerrow branch",
    "columns": {
        "name": "Ledger",
        "principal": "Outlay",
        "percent": "Price of money",
        "count": "Quarters",
        "payment": "Instalment",
    },
    "settings": {"every": "quarter"},
}
_PLACES: Final = ("Hask", "Ferrow", "Skerrow", "Tarn", "Orrin", "Weft", "Lower Hask", "Quarrie")
_THINGS: Final = ("press", "kiln", "loom", "netting", "rafts", "cold store", "turbine", "boat")


def _tape() -> str:
    """An invented tape: most rows ask for a figure, some state all, a few cannot be."""
    chance = random.Random(20_27)  # noqa: S311  (nothing secret)
    lines = ["Loan;Amount;Rate;Payments;Payment;Balloon;Due"]
    for number in range(1, 481):
        lent = chance.randrange(4_000, 240_000, 250)
        percent = chance.randrange(300, 1_150, 5) / 100
        count = chance.choice((24, 36, 48, 60, 84, 120))
        balloon = lent // 5 if chance.random() < 0.2 else 0
        due = "in-advance" if chance.random() < 0.25 else "in-arrears"
        month = percent / 1200
        grown = (1 + month) ** count
        payment = (lent * grown - balloon) * month / (grown - 1)
        payment /= 1 + month if due == "in-advance" else 1
        cells = [f"{lent:,.2f}", f"{percent:.2f}", str(count), f"{payment:,.2f}"]
        what = chance.random()
        if what < 0.85:
            cells[chance.randrange(4)] = "?"
        elif what < 0.9:
            cells[3] = f"{payment * 0.97:,.2f}"
        elif what < 0.92:
            cells[3], cells[2] = f"{lent * month * 0.9:,.2f}", "?"
        name = f"{chance.choice(_PLACES)} {chance.choice(_THINGS)} {number:03d}"
        left = f"{balloon:,.2f}" if balloon else ""
        lines.append(";".join([name, *cells, left, due]))
    return "\n".join(lines)
