"""The figures of a document as terms: as stated, as they will be paid, as they were solved."""

from dataclasses import replace
from datetime import date
from decimal import Decimal
from fractions import Fraction
from math import log10
from typing import Final, NamedTuple

from ..calendars.dates import Calendar
from ..document.fields import MOST_PAYMENTS, UNKNOWN
from ..document.loan import Loan
from ..document.parts import Clause, Quote, Share
from ..ledger.roll import Carrying, carried, unrounded_end
from ..numbers.decimals import DIGITS, PERCENT_PLACES, precise, to_step
from ..quotes.conversion import as_decimal, as_fraction, periodic_rate
from ..wording.marks import Sentence
from .periods import Cash, Put, Terms, beats_of, timetable
from .stretches import Ahead, Levelling, lay_out

#: Digits added at the most for loans whose balances grow beyond measure on the way.
_MOST_EXTRA_DIGITS: Final = 400
#: Periods laid out beyond twice a count that was found.
_ROOM: Final = 60


class Found(NamedTuple):
    """Every solution, ascending; where there is none, the reason.

    A rate is told as the percent of its quote; `periodic` is then the rate of one payment period
    it stands for. Of several solutions `ordinary` is the place of the one that is meant as a rule,
    None where the flows do not make that clear; `note` says what is to be known of them.
    """

    solutions: tuple[Decimal, ...]
    reason: Sentence | None = None
    periodic: Decimal | None = None
    ordinary: int | None = 0
    note: Sentence | None = None


def _number(value: object) -> Decimal:
    return Decimal(0) if value == UNKNOWN else Decimal(value)  # type: ignore[arg-type]


def _stated_rate(loan: Loan) -> Fraction:
    percent = loan.rate.percent
    return Fraction(0) if percent == UNKNOWN else periodic_rate(percent, loan.style)


def stated_terms(loan: Loan, most: int = MOST_PAYMENTS) -> Terms:
    """The document's figures on the clock of its payments, zero where unknown.

    An unknown count has no end; periods that differ are laid out up to `most`.
    """
    count = None if loan.count == UNKNOWN else loan.count
    return Terms(
        principal=_number(loan.principal),
        rate=_stated_rate(loan),
        count=count,
        payment=_number(loan.payment),
        balance=_number(loan.balance),
        beats=beats_of(loan, count or None, most),
        time=timetable(loan),
        puts=tuple(_put(loan, clause) for clause in loan.clauses),
        open_to=most,
    )


def _put(loan: Loan, clause: Clause) -> Put:
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
    return Put(
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
    )


def asks_rate(loan: Loan) -> bool:
    """Whether a rate is asked for, the loan's or a clause's: then all amounts stated are facts."""
    unknown = loan.unknown or ""
    return unknown == "rate" or unknown.endswith("rate.percent")


def cash_of(loan: Loan) -> Cash:
    """How money is rounded as it is paid."""
    return Cash(loan.rounding.payment, loan.step, loan.minor_unit, as_stated=asks_rate(loan))


def payable_terms(loan: Loan, solution: Decimal) -> Terms:
    """The terms with the solution put back as it will be paid, as the schedule starts from.

    A stated amount finer than the currency pays is rounded as the document rounds, but where a rate
    is asked for.
    """
    cash = cash_of(loan)
    terms, unknown = replace(_terms_around(loan, solution), cash=cash), loan.unknown
    terms = terms.having("payment", cash.stated_payment(terms.payment))
    if unknown and asks_rate(loan):
        style = loan.style_of(quote_of(loan))
        terms = terms.rated(unknown, periodic_rate(payable_percent(solution), style))
    elif unknown == "principal":
        terms = terms.having("principal", cash.amount(solution))
    elif asks_of_purchase(loan):
        terms = terms.having("principal", lent_for(loan, purchase_figure(loan, solution)))
    elif unknown == "payment":
        terms = terms.having("payment", cash.payment(solution))
    elif unknown and unknown.startswith("clauses."):
        terms = terms.having(unknown, _clause_cash(unknown, solution, cash))
    return levelled(terms)


def _clause_cash(path: str, solution: Decimal, cash: Cash) -> Decimal:
    """A figure found in a clause, as it is put back."""
    if path.endswith("percent"):
        return payable_percent(solution)
    return cash.payment(solution) if path.endswith("payment") else cash.amount(solution)


def quote_of(loan: Loan) -> Quote:
    """The quote whose percent is asked for; the loan's own where none is."""
    unknown = loan.unknown
    if unknown and unknown.endswith("rate.percent"):
        rate = loan.clauses[int(unknown.split(".")[1])].rate
        if rate is not None:
            return rate
    return loan.rate


def _terms_around(loan: Loan, solution: Decimal) -> Terms:
    """The stated terms; of an unknown count with room for what rounding adds to the solution."""
    return stated_terms(
        loan, _ROOM + 2 * int(solution) if loan.unknown == "count" else MOST_PAYMENTS
    )


def solved_terms(loan: Loan, found: Found) -> Terms:
    """The terms with the solution put back unrounded; an unknown count stays open.

    A payment that is asked for is that before anything is set anew.
    """
    solution, unknown = found.solutions[0], loan.unknown
    if found.ordinary is not None:
        solution = found.solutions[found.ordinary]
    terms = _terms_around(loan, solution)
    if unknown == "payment":
        terms = unforeseen(terms)
    if unknown and asks_rate(loan):
        return terms.rated(unknown, as_fraction(found.periodic or Decimal(0)))
    if unknown in (None, "count"):
        return terms
    if asks_of_purchase(loan):
        return terms.having("principal", lent_for(loan, solution, exactly=True))
    return terms.having(unknown or "", solution)


def asks_of_purchase(loan: Loan) -> bool:
    """Whether the `?` stands in what is bought: the amount lent is what is really found."""
    return (loan.unknown or "").startswith("purchase.")


def purchase_figure(loan: Loan, solution: Decimal) -> Decimal:
    """A figure found in a purchase as it is put back: money to the minor unit, a percent to ten
    decimals."""
    if (loan.unknown or "").endswith("percent"):
        return payable_percent(solution)
    return to_step(solution, loan.minor_unit, "nearest")


def lent_for(loan: Loan, figure: Decimal, *, exactly: bool = False) -> Decimal:
    """What is lent with a figure in place of the one asked for in the purchase."""
    if loan.purchase is None:
        raise ValueError("a loan without a purchase lends its principal")
    name = (loan.unknown or "").rsplit(".", 1)[-1]
    percent = loan.purchase.down.percent
    if exactly and name == "price" and isinstance(percent, Decimal):
        return figure * (1 - percent / 100)
    if exactly and name == "percent":
        return Decimal(loan.purchase.price) * (1 - figure / 100)
    return loan.purchase.lent(loan.minor_unit, **{name: figure})


def price_of(loan: Loan, principal: Decimal) -> Decimal:
    """The figure asked for in a purchase from the amount it lends."""
    if loan.purchase is None:
        raise ValueError("a loan without a purchase has no price")
    price, down = loan.purchase.price, loan.purchase.down
    match (loan.unknown or "").rsplit(".", 1)[-1]:
        case "price":
            if isinstance(down.percent, Decimal):
                return principal / (1 - down.percent / 100)
            return principal + Decimal(down.amount or 0)
        case "percent":
            return 100 * (Decimal(price) - principal) / Decimal(price)
    return Decimal(price) - principal


def unforeseen(terms: Terms) -> Terms:
    """The terms without what sets the payment anew: what was not known when it was first set."""
    return replace(terms, puts=tuple(put for put in terms.puts if not put.levels))


def levelled(terms: Terms) -> Terms:
    """The terms with each payment that is set anew as a clause of its own.

    Each time the regular payment from the next one on is made such that the loan ends as stated
    with its last payment, later ones of the kind not being foreseen.
    """
    if not any(put.levels for put in terms.puts):
        return terms
    line = Levelling(terms)
    anew: list[Put] = []
    with precise(digits_for(terms)):
        owed, begins = line.principal, 1
        ahead: _Ahead | None = None
        for number in line.points:
            owed, begins = carried(owed, line.until(begins, number)), number
            known = line.known_from(number)
            if ahead is None or ahead.known is not known:
                ahead = _Ahead(known, number)
            amount = ahead.payment(number, owed, terms.balance)
            if amount is None:
                continue
            paid = max(amount, Decimal(0))
            if terms.cash is not None:
                paid = terms.cash.payment(paid)
            anew.append(Put("payment", None, number, None, None, paid))
            line.set_anew(number, paid)
    return replace(terms, puts=(*terms.puts, *anew))


class _Ahead:
    """What is known of a line, carried through to its end with two payments."""

    def __init__(self, known: Ahead, number: int) -> None:
        self.known = known
        self._trials = self._carryings(number)

    def _carryings(self, number: int) -> tuple[Carrying, Carrying]:
        one, two = (Carrying(self.known.paying(Decimal(trial), number)) for trial in (1, 2))
        return one, two

    def payment(self, number: int, owed: Decimal, balance: Decimal) -> Decimal | None:
        """The payment from a number on that leads to the balance; None where it moves nothing."""
        if not self.known.is_regular:
            self._trials = self._carryings(number)
        one, two = (trial.from_payment(number, owed) - balance for trial in self._trials)
        return None if one == two else 1 + one / (one - two)


def linear(terms: Terms, name: str) -> Decimal | None:
    """An unknown amount: what is left at the end is linear in it, so two rolls tell it.

    None where it moves nothing. In the decimal context in force. Both rolls are made with some
    amount: where nothing is advanced a fee in percent is of the principal instead.
    """
    left = []
    for trial in (Decimal(1), Decimal(2)):
        line = lay_out(terms.having(name, trial))
        left.append(unrounded_end(line) - line.balance)
    at_one, at_two = left
    return None if at_one == at_two else 1 + at_one / (at_one - at_two)


def owed_on(terms: Terms, day: date) -> Decimal:
    """What a loan of clauses alone has owing on a day, after what moves on it, unrounded.

    In the decimal context in force.
    """
    calendar = terms.time.calendar
    if calendar is None:
        raise ValueError("a loan without dates has no days to ask for")

    def by_then(put: Put) -> Put | None:
        begins = put.at or put.begin or 0
        on = begins if isinstance(begins, date) else calendar.payment(begins) if begins else None
        if on is not None and on > day and put.verb != "rate":
            return None
        lasts = put.at is None and put.verb != "rate"
        return put._replace(to=_earlier(put.to, day, calendar)) if lasts else put

    kept = tuple(each for each in map(by_then, terms.puts) if each is not None)
    end = Put("repay", day, None, None, None, Decimal(0))
    return unrounded_end(lay_out(replace(terms, puts=(*kept, end))))


def _earlier(to: int | date | None, day: date, calendar: Calendar) -> date:
    ends = calendar.payment(to) if isinstance(to, int) else to
    return day if ends is None else min(ends, day)


def payable_percent(solution: Decimal) -> Decimal:
    """A found percent to the decimals it is put back with."""
    with precise(80):
        return round(solution, PERCENT_PLACES)


def digits_for(terms: Terms) -> int:
    """Digits that keep an unrounded roll exact to `DIGITS` through the growth of its balance."""
    longest = max(max(beat.before.size, beat.after.size) for beat in terms.beats)
    growth = max(float(1 + terms.rate), 1e-300)
    extra = int(abs(log10(growth) * ((terms.count or 0) + longest)))
    return DIGITS + 10 + min(_MOST_EXTRA_DIGITS, extra)


def footing_rate(loan: Loan, found: Found) -> Decimal | None:
    """The unrounded rate of one payment period, if it is stated or was found."""
    if loan.unknown == "rate":
        return found.periodic
    with precise(DIGITS + 20):
        return as_decimal(_stated_rate(loan))
