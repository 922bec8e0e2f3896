"""How a schedule to the cent comes to the balance it is to end with.

As a rule the last payment settles. An amount that is asked for in the last place takes what
rounding leaves itself; where payments are facts (a rate is asked for) or the last one is paused,
the last interest does.
"""

from dataclasses import replace
from decimal import Decimal
from fractions import Fraction

from ..document.fields import UNKNOWN
from ..document.figure_path import BALANCE, PAYMENT
from ..document.loan import Loan
from ..ledger.exact import EXACT, unrounded_end
from ..ledger.levelling import left_over
from ..ledger.rows import Schedule
from ..ledger.settling import Ending, Settling
from ..line.compiling import asks_rate
from ..line.line import Line, lay_out
from ..line.terms import Terms, digits_for
from ..numbers.decimals import precise
from .parts import first_stated, fit_in_parts, gap_by_parts

#: Figures in a clause that are amounts, by what of a row they are told in.
_AMOUNTS: dict[str, Settling] = {
    "payment": "payment",
    "repay": "repay",
    "advance": "advance",
    "fee": "fee",
    "amount": "payment",
}


def ending_of(loan: Loan, line: Line) -> Ending:
    """How the schedule of a loan as it will be paid ends."""
    if loan.amortized_over is not None:
        return Ending("balance")
    if line.terms.has_parts:
        return Ending(_settles_by(loan, line), first=first_stated(loan, line))
    if line.terms.sharing is not None and line.terms.sharing.at_last:
        return Ending(_settles_by(loan, line), first=_all_stated(loan, line))
    if asks_rate(loan):
        return Ending(_by_interest(line), cuts=False)
    return Ending(_settles_by(loan, line), cuts=line.has_payments)


def _all_stated(loan: Loan, line: Line) -> tuple[int, Decimal] | None:
    """The payment at the end where it is stated: it stands, its interest takes the cents."""
    terms = line.terms
    if loan.payment == UNKNOWN or (loan.asked is None and not fits(loan, terms)):
        return None
    return terms.count or 0, terms.payment


def _by_interest(line: Line) -> Settling:
    """In advance nothing bears interest after a last payment that leaves nothing: then the interest
    before it takes the cents."""
    last = line.stretches[-1]
    idle = line.terms.in_advance and not line.balance and not last.inner
    several = line.has_payments and (last.last or last.first) > 1
    return "interest-before" if idle and several else "interest"


def _settles_by(loan: Loan, line: Line) -> Settling:
    if loan.asked == BALANCE:
        return "balance"
    if (own := asked_last(loan, line)) is not None:
        return own
    last = line.stretches[-1]
    if not line.has_payments:
        pays = bool(last.repay)
    elif line.parts is not None and line.terms.has_parts:
        pays = line.is_open or not line.parts.is_paused(last.first)
    elif loan.asked is None:
        pays = line.is_open or not _is_paused(line)
    else:
        pays = line.is_open or bool(last.payment)
    if pays:
        return "payment"
    if abs(_left(line.terms)) <= rounding_reach(loan, line):
        return "interest"
    if line.terms.has_parts:
        return "payment"
    return "nothing" if not line.has_payments or _is_paused(line) else "payment"


def rounding_reach(loan: Loan, line: Line) -> Decimal:
    """How far rounding every interest and payment to the cent can move the balance at the end."""
    step = loan.step if loan.rounding.payment != "none" else Decimal(0)
    each, nothing = 2 * loan.minor_unit + step, Decimal(0)
    with precise():
        return EXACT.carried(
            nothing,
            (
                stretch._replace(
                    # Where interest is paid as it accrues what was rounded bears none.
                    before=Fraction(0)
                    if stretch.on_top
                    else abs((1 + stretch.before) * (1 + stretch.after)) - 1,
                    after=Fraction(0),
                    payment=-each,
                    on_top=False,
                    advance=nothing,
                    fee=nothing,
                    repay=nothing,
                    inner=(),
                )
                for stretch in line.stretches
            ),
        )


def _is_paused(line: Line) -> bool:
    """Whether a clause says that the last payment is none, or the interest only."""
    last = line.stretches[-1]
    return not last.payment and (
        last.on_top or any(provision.pay for provision in line.terms.provisions)
    )


def asked_last(loan: Loan, line: Line) -> Settling | None:
    """What of the last row the amount that is asked for is told in, where it stands there alone."""
    path = loan.asked
    if path is None or not (path == PAYMENT or path.clause is not None):
        return None
    by = _AMOUNTS.get(path.name)
    return by if by is not None and line.moves_only_last(path) else None


def as_settled(loan: Loan, line: Line, schedule: Schedule) -> Line:
    """The line with an amount that is asked for in the last place as the schedule shows it."""
    own, path = asked_last(loan, line), loan.asked
    last, row, terms = line.stretches[-1], schedule.rows[-1], line.terms
    if own is None or path is None or row.stands_at != (last.last or last.first):
        return line
    unit = schedule.unit
    told = {"payment": row.payment, "repay": row.repay, "advance": row.advance, "fee": row.fee}
    on_the_line = {
        "payment": last.payment,
        "repay": last.repay,
        "advance": last.advance,
        "fee": last.fee,
    }
    with precise():
        amount = terms.amount(path)
        return lay_out(terms.having(path, amount + unit.amount(told[own]) - on_the_line[own]))


def _left(terms: Terms) -> Decimal:
    """What is left over at the end beyond what is to be left, unrounded; of parts, which do not
    foresee what moves, as they are."""
    if not terms.has_parts:
        return gap(terms)
    free = replace(terms, cash=None)
    with precise(digits_for(free)):
        return unrounded_end(lay_out(free)) - free.balance


def gap(terms: Terms) -> Decimal:
    """What is left over at the end beyond what is to be left, unrounded."""
    free = replace(terms.whole or terms, cash=None)
    with precise(digits_for(free)):
        if free.has_parts:
            return gap_by_parts(free)
        return unrounded_end(lay_out(free)) - free.balance


def _follows_alike(loan: Loan, terms: Terms, exact: Decimal) -> bool:
    """Whether payments that follow the cash flow are the same to a step where they take this part
    of it; in the decimal context in force."""
    parts = lay_out(terms).parts
    if parts is None:
        return False
    largest = max(parts.at(number) for number in (1, *parts.turns))
    return abs(exact - terms.payment) * largest < loan.step


def fits(loan: Loan, terms: Terms) -> bool:
    """Whether stated figures fit as cash is paid: no more is left over than rounding explains."""
    if terms.has_parts:
        return fit_in_parts(loan, terms)
    if abs(gap(terms)) < loan.minor_unit / 2:
        return True
    free = replace(terms.whole or terms, cash=None)
    with precise(digits_for(free)):
        exact = left_over(free, PAYMENT).root()
        if exact is not None and terms.follows_cash_flow:
            return _follows_alike(loan, free, exact)
    if exact is None or terms.cash is None or loan.payment == UNKNOWN:
        return False
    return terms.cash.payment(exact) == terms.cash.payment(terms.payment)
