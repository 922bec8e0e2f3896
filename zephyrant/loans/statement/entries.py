"""What is typed into a statement: what each entry is called, what belongs there, where it stands in
the document."""

import re
from typing import Final, NamedTuple

from zephyrant.texts import Said

from ..document.choices import REPAYMENT, VERBS_NAMED
from ..document.figure_path import (
    AMORTIZED_OVER,
    BALANCE,
    COUNT,
    PAYMENT,
    PRINCIPAL,
    RATE,
    FigurePath,
    figure_path,
)
from ..document.named import FIGURES_NAMED, Named
from .statement import Statement, TypedClause, follows_from_bounds, is_by_year


class _Entry(NamedTuple):
    title: str
    help: str
    may_be_asked: bool = False
    may_be_empty: bool = False


class Entry(_Entry):
    """What an entry is called, what belongs there, whether it may be asked for or stay empty; in
    the language of whoever reads it."""

    __slots__ = ()

    #: What it is called.
    title = Said()
    #: What belongs there.
    help = Said()


def _asked(figure: str, says: str) -> Entry:
    return Entry(FIGURES_NAMED[figure].alone, says, may_be_asked=True)


#: By the name of the entry; those of clauses without their place in the list.
ENTRIES: Final[dict[str, Entry]] = {
    "principal": _asked(
        "principal",
        "What is lent at the start, before anything is repaid. Such as 48,250 or 48k.",
    ),
    "price": _asked(
        "purchase.price",
        "What is bought for. The amount lent is the price less what is paid at once. Such as "
        "60,000 or 60k.",
    ),
    "down": _asked(
        "purchase.down.amount",
        "What is paid of the price at once: a percent of it, or an amount. Such as 20 or 12,000.",
    ),
    "percent": _asked(
        "rate.percent",
        "The rate as it is quoted; the words after it say how. Such as 6.35 or 6 3/8.",
    ),
    "count": _asked(
        "count",
        "How many payments there are, or the time they take. Such as 60, 5 years or 5y6m.",
    ),
    "payment": _asked(
        "payment",
        "What is paid each time, principal and interest together. Such as 938.82.",
    ),
    "balance": _asked(
        "balance",
        "What is still owed when the last period is over: 0 where the payments repay it all, more "
        "where a balloon is left; 30 % is that share of the amount lent.",
    ),
    "amortized_over": Entry(
        FIGURES_NAMED["amortized_over"].alone,
        "Over how many payments each is reckoned, where fewer are made and the rest is due with "
        "the last. Such as 300 or 25 years.",
        may_be_asked=True,
    ),
    "percents": Entry(
        "Parts of the principal",
        "What each payment repays of the principal, in percent; together 100. Such as 4 × 5; 20; "
        "60.",
    ),
    "floating.index": Entry("Index", "What the index is called. Such as harbour-6."),
    "floating.margin": Entry(
        FIGURES_NAMED["rate.margin"].alone,
        "Percentage points on the index. Such as 2.15.",
        may_be_asked=True,
    ),
    "floating.first": Entry(
        FIGURES_NAMED["rate.first"].alone,
        "The whole rate until the first reset, margin included; left empty the index tells it.",
        may_be_asked=True,
        may_be_empty=True,
    ),
    "floating.floor": Entry(
        FIGURES_NAMED["rate.floor"].alone,
        "What the index, or the rate, is at least; left empty it has no floor.",
        may_be_empty=True,
    ),
    "floating.cap": Entry(
        FIGURES_NAMED["rate.cap"].alone,
        "What the index, or the rate, is at most; left empty it has no cap.",
        may_be_empty=True,
    ),
    "floating.lag_days": Entry(
        "Days before",
        "How many days before a period begins its rate is fixed; left empty on its first day.",
        may_be_empty=True,
    ),
    "floating.fixings": Entry(
        "Fixings",
        "What the index was and when, a line each, as pasted from a list: 2026-06-30 2.31. Without "
        "dates numbers of periods in place of days.",
    ),
    "floating.ahead": Entry(
        "Path ahead",
        "What the index is taken to be after the last fixing, a line each; left empty it stays.",
        may_be_empty=True,
    ),
    "floating.shift": Entry(
        "Shift",
        "Percentage points added to the index from a day on; left empty none. Such as 1 or −0.5.",
        may_be_empty=True,
    ),
    "floating.shift_from": Entry(
        "Shifted from",
        "The day from which on the shift is added; left empty after the last fixing.",
        may_be_empty=True,
    ),
    "cover.cash_flow": Entry(
        FIGURES_NAMED["cover.cash_flow"].alone,
        "What there is to pay from in each period, or in each year of the loan, one after the "
        "other. Such as 186,000 or 186k; 192k; 201k.",
    ),
    "cover.growth": Entry(
        FIGURES_NAMED["cover.growth"].alone,
        "By how many percent the cash flow grows with each year of the loan; left empty it stays. "
        "Such as 2 or −1.5.",
        may_be_empty=True,
    ),
    "cover.ratio": Entry(
        FIGURES_NAMED["cover.ratio"].alone,
        "How many times the payments of each period the cash flow is to be, at least; of payments "
        "sculpted to it exactly. Such as 1.30 or 1.3x.",
        may_be_asked=True,
    ),
    "value.amount": Entry(
        FIGURES_NAMED["value.amount"].alone,
        "What the loan is lent on, such as a mill by its valuation. Such as 1,450,000 or 1.45m.",
    ),
    "value.highest": Entry(
        FIGURES_NAMED["value.highest"].alone,
        "How many percent of the value are lent at the most. Such as 65.",
    ),
    "aim.is": Entry("Aim", "What the result is to be. Such as 9,000; of a yearly cost a percent."),
    "over": Entry(
        "Charged for",
        "The time the quoted interest is charged for at once. Such as 90 days, 6 months or 1 year.",
    ),
    "start": Entry(
        "Lent on",
        "The day the money is lent. Such as 1 Mar 2027 or 2027-03-01.",
        may_be_empty=True,
    ),
    "first_payment": Entry(
        "First payment",
        "The day of the first payment. Left empty it is one period after the start, in advance the "
        "start itself.",
        may_be_empty=True,
    ),
    "business_days.calendars": Entry(
        "Calendars",
        "Whose business days payments are made on: countries by their names or two letters, or "
        "TARGET; closed where any of them is. Such as DE, or DE and TARGET.",
    ),
    "clauses.at": Entry(
        "Place",
        "The number of the payment it stands at, 0 for the start; a loan with dates takes a day. "
        "Such as 12 or 15 Mar 2028.",
    ),
    "clauses.from": Entry(
        "From", "The first payment it holds for, or a day. Such as 13 or 1 Jan 2029."
    ),
    "clauses.to": Entry(
        "To",
        "The last payment it holds for, or a day; left empty it holds to the end.",
        may_be_empty=True,
    ),
    "clauses.figure": Entry(
        "Figure", "How much: an amount, or a percent where the words say so.", may_be_asked=True
    ),
    "clauses.over": Entry(
        "Charged for", "The time the quoted interest is charged for at once. Such as 90 days."
    ),
    "clauses.every": Entry(
        "Payments between steps",
        "After how many payments the next step comes; left empty, a year of them.",
        may_be_empty=True,
    ),
}

#: Fields of the document by where they are typed, if that is elsewhere.
_TYPED_AT: Final = (
    (r"rate\.(percent|over)", r"\1"),
    (r"rate\.(index|margin|first|floor|cap|lag_days)", r"floating.\1"),
    (r"indices\..*\.(fixings|ahead)(?:\.\d+)*", r"floating.\1"),
    (r"indices\..*\.shift\.from", "floating.shift_from"),
    (r"indices\..*\.shift(?:\.percent)?", "floating.shift"),
    (r"rate\.(?:resets|then|on)", "floating.resets"),
    (r"rate", "percent"),
    (r"repayment(?:\.percents)?(?:\.\d+)?", "percents"),
    (r"cover\.cash_flows(?:\.\d+)?", "cover.cash_flow"),
    (r"cover(?:\.every)?", "cover.cash_flow"),
    (r"value", "value.amount"),
    (r"business_days(?:\..+)?", "business_days.calendars"),
    (r"purchase\.price", "price"),
    (r"purchase\.down(?:\.(?:percent|amount))?", "down"),
    (r"(clauses\.\d+)\.rate\.over", r"\1.over"),
    (
        r"(clauses\.\d+)\.(?:(?:rate|step|fee|charge)\.(?:percent|amount)|repay|advance|payment|fee|charge)",
        r"\1.figure",
    ),
)


def typed_at(field: str) -> str:
    """The entry at which a field of the document is typed."""
    for pattern, typed in _TYPED_AT:
        if re.fullmatch(pattern, field):
            return re.sub(pattern, typed, field)
    return field


class TypedFigure(NamedTuple):
    """A figure of a statement: the entry it is typed at, its path in the document, what it is
    called in a sentence, the text that stands there."""

    entry: str
    path: FigurePath
    named: Named
    text: str


def figures_of(statement: Statement) -> list[TypedFigure]:
    """The figures of a statement, in the order of the sentence."""
    lent = [("principal", PRINCIPAL, statement.principal)]
    if statement.is_purchase:
        kind = "percent" if statement.down_in_percent else "amount"
        lent = [
            ("price", figure_path("purchase.price"), statement.price),
            ("down", figure_path(f"purchase.down.{kind}"), statement.down),
        ]
    terms = [
        *lent,
        *_of_rate(statement),
        ("count", COUNT, statement.count),
        *(() if follows_from_bounds(statement) else (("payment", PAYMENT, statement.payment),)),
        *(
            (("balance", BALANCE, statement.balance),)
            if REPAYMENT[statement.repaid].states_balance
            else ()
        ),
    ]
    if statement.repaid == "over":
        terms.append(("amortized_over", AMORTIZED_OVER, statement.amortized_over))
    terms += _bounds_of(statement)
    clauses = [
        (f"clauses.{place}.figure", _path_in(clause, place), clause.figure)
        for place, clause in enumerate(statement.clauses)
        if VERBS_NAMED[clause.verb].figure != "none"
    ]
    return [TypedFigure(entry, path, path.named, text) for entry, path, text in (*terms, *clauses)]


def _of_rate(statement: Statement) -> list[tuple[str, FigurePath, str]]:
    """The figures of the rate."""
    floats = statement.floating
    if floats is None:
        return [("percent", RATE, statement.percent)]
    figures = [("margin", floats.margin), ("first", floats.first)]
    figures += [("floor", floats.floor), ("cap", floats.cap)]
    told = [
        (f"floating.{name}", figure_path(f"rate.{name}"), text)
        for name, text in figures
        if text.strip() or name == "margin"
    ]
    path = FigurePath(("indices", floats.index.strip(), "shift", "percent"))
    told.append(("floating.shift", path, floats.shift or "0"))
    return told


def _bounds_of(statement: Statement) -> list[tuple[str, FigurePath, str]]:
    """The figures of cover and value."""
    figures = []
    if (cover := statement.cover) is not None:
        if not is_by_year(cover):
            figures.append(("cover.cash_flow", cover.cash_flow))
            figures.append(("cover.growth", cover.growth or "0"))
        figures.append(("cover.ratio", cover.ratio))
    if (value := statement.value) is not None:
        figures += [("value.amount", value.amount), ("value.highest", value.highest)]
    return [(name, figure_path(name), text) for name, text in figures]


def _path_in(clause: TypedClause, place: int) -> FigurePath:
    steps: list[str] = [clause.verb]
    if clause.verb == "rate" or (clause.in_percent and clause.verb in ("step", "fee", "charge")):
        steps.append("percent")
    elif clause.verb == "step":
        steps.append("amount")
    return FigurePath(("clauses", str(place), *steps))
