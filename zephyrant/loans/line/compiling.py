"""A document's figures as terms, on the clock of its payments."""

from collections.abc import Iterator
from dataclasses import replace
from decimal import Decimal
from fractions import Fraction
from typing import Final

from ..calendars import frequencies
from ..document.clauses import ChargeShare, Clause, Share
from ..document.fields import UNKNOWN
from ..document.floating import floating, resets_of
from ..document.limits import MOST_PAYMENTS
from ..document.loan import Loan
from ..document.repayment import PartsInPercent, StyleName
from ..numbers.decimals import DIGITS, precise
from ..quotes.conversion import periodic_rate
from .cash_flow import CashFlow, Cover
from .parts import Sharing
from .periods import PeriodRuns, period_runs
from .terms import Cash, Provision, Terms, Timetable


def _number(value: object) -> Decimal:
    return Decimal(0) if value == UNKNOWN else Decimal(value)  # type: ignore[arg-type]


def stated_rate(loan: Loan) -> Fraction:
    """The rate of one payment period as a fraction, zero where it is asked for."""
    percent = loan.rate.percent
    return Fraction(0) if percent == UNKNOWN else periodic_rate(percent, loan.style)


def stated_terms(loan: Loan, most: int = MOST_PAYMENTS) -> Terms:
    """The document's figures on the clock of its payments, zero where unknown.

    An unknown count has no end; periods that differ are laid out up to `most`.
    """
    over = loan.count if loan.amortized_over is None else loan.amortized_over
    count = None if over == UNKNOWN else over
    time = timetable(loan)
    return Terms(
        principal=_number(loan.principal),
        rate=stated_rate(loan),
        count=count,
        payment=_taken_of(loan) if loan.repayment == "sculpted" else _number(loan.payment),
        balance=_number(loan.balance),
        runs=period_runs(
            *time[:2],
            loan.odd_days,
            time.a_year,
            count=count or None,
            most=most,
            in_advance=time.in_advance,
        ),
        time=time,
        provisions=(
            *(_provision(loan, clause) for clause in loan.clauses),
            *resets(loan, count or most),
        ),
        open_to=most,
        sharing=_sharing(loan),
        cover=_cover(loan),
    )


def resets(loan: Loan, last: int, **figures: Decimal) -> Iterator[Provision]:
    """Where a floating rate turns after the first period, as provisions; `margin` or `first` in
    place of what is stated."""
    quote = floating(loan)
    if quote is None:
        return
    before: Decimal | None = None
    for period, percent in resets_of(loan, quote, last, **figures):
        if before is not None and percent != before:
            yield Provision(
                verb="rate",
                at=None,
                begin=period,
                to=None,
                months=None,
                amount=Decimal(0),
                rate=periodic_rate(percent, loan.style),
                levels=quote.then is not None,
                is_reset=True,
            )
        before = percent


def at_margin(loan: Loan, terms: Terms, **figures: Decimal) -> Terms:
    """Terms of a floating rate with another `margin`, or another `first` rate."""
    quote = floating(loan)
    if quote is None:
        raise ValueError("this rate does not float")
    last = terms.count or terms.open_to
    own = (each for each in terms.provisions if not each.is_reset)
    first = next(resets_of(loan, quote, 1, **figures)).percent
    return replace(
        terms,
        rate=periodic_rate(first, loan.style),
        provisions=(*own, *resets(loan, last, **figures)),
    )


def _sharing(loan: Loan) -> Sharing | None:
    """How what is lent is shared out; None where payments are level."""
    repayment, cover = loan.repayment, _cover(loan)
    if isinstance(repayment, PartsInPercent):
        return Sharing(percents=repayment.percents)
    if repayment == "sculpted" and cover is not None:
        return Sharing(on_top=False, follows=cover.flow)
    return _SHARING[repayment]


def _cover(loan: Loan) -> Cover | None:
    """The cash flow that is to cover the payments, if one is stated."""
    cover = loan.cover
    if cover is None:
        return None
    flow = CashFlow(
        first=Fraction(cover.cash_flow or 0),
        growth=Fraction(cover.growth) / 100,
        by_year=tuple(map(Fraction, cover.cash_flows or ())),
        each=loan.payments_a_year // frequencies.a_year(cover.every),
        a_year=loan.payments_a_year,
    )
    return Cover(flow, None if cover.ratio == UNKNOWN else Fraction(cover.ratio))


def _taken_of(loan: Loan) -> Decimal:
    """The part of the cash flow that sculpted payments take; of a cover that is asked for none."""
    ratio = loan.cover.ratio if loan.cover else UNKNOWN
    return Decimal(0) if ratio == UNKNOWN else part_taken(Decimal(ratio))


def part_taken(ratio: Decimal) -> Decimal:
    """The part of the cash flow that payments take which it covers so many times."""
    with precise(DIGITS + 40):
        return 1 / ratio


_SHARING: Final[dict[StyleName, Sharing | None]] = {
    "level": None,
    "equal-principal": Sharing(),
    "interest-only": Sharing(at_last=True),
    "at-the-end": Sharing(at_last=True, on_top=False),
    "sculpted": None,
}


def payments_made(loan: Loan, terms: Terms) -> Terms:
    """The terms of the payments that are made, where they are reckoned over more of them."""
    if loan.amortized_over is None or not isinstance(loan.count, int):
        return terms
    count = loan.count
    runs = (
        run._replace(last=min(count, run.last or count)) for run in terms.runs if run.first <= count
    )
    kept = (each for each in terms.provisions if not _begins_after(each, count))
    return replace(terms, count=count, runs=PeriodRuns(runs), provisions=tuple(kept), whole=terms)


def _begins_after(provision: Provision, count: int) -> bool:
    return isinstance(provision.begin, int) and provision.begin > count


def _provision(loan: Loan, clause: Clause) -> Provision:
    """A clause with its numbers, zero where unknown."""
    verb = clause.verb
    figure: object = getattr(clause, verb)
    rate, of_money, by_percent = None, False, False
    if clause.rate is not None:
        percent = clause.rate.percent
        rate = Fraction(0)
        if percent != UNKNOWN:
            rate = periodic_rate(percent, loan.style_of(clause.rate))
        figure = Decimal(0)
    elif isinstance(clause.fee, Share):
        figure, of_money = clause.fee.percent, True
    elif clause.step is not None:
        by_percent = clause.step.percent is not None
        figure = clause.step.percent if by_percent else clause.step.amount
    elif clause.pay is not None:
        figure = Decimal(0)
    elif isinstance(clause.charge, ChargeShare):
        figure, by_percent = clause.charge.percent, True
    return Provision(
        verb=verb,
        at=clause.at,
        begin=clause.begin,
        to=clause.to,
        months=clause.months,
        amount=_number(figure),
        rate=rate,
        pay=clause.pay,
        every=clause.every or loan.payments_a_year,
        taken=clause.taken or ("from-proceeds" if verb == "fee" else None),
        of_money=of_money,
        by_percent=by_percent,
        levels=clause.then is not None,
        of_balance=isinstance(clause.charge, ChargeShare) and clause.charge.of == "balance",
        in_costs=clause.in_costs is not False,
    )


def asks_rate(loan: Loan) -> bool:
    """Whether a rate is asked for, the loan's or a clause's: then all amounts stated are facts."""
    return loan.asked is not None and loan.asked.is_rate


def cash_of(loan: Loan) -> Cash:
    """How money is rounded as it is paid."""
    return Cash(loan.payments_round, loan.step, loan.minor_unit, as_stated=asks_rate(loan))


def timetable(loan: Loan) -> Timetable:
    """How time is counted in a document."""
    advance = loan.timing == "in-advance"
    return Timetable(loan.calendar, loan.day_count, loan.payments_a_year, advance)
