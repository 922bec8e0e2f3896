"""The working of a loan within its bounds: what the cash flow carries, what the value does; and of
payments that are sculpted to the cash flow."""

from decimal import Decimal
from typing import Final

from zephyrant.texts import worded

from ..document.figure_path import PAYMENT, PRINCIPAL
from ..document.loan import Loan
from ..ledger.covering import carried_in, service_of
from ..ledger.levelling import left_over, unforeseen
from ..line.cash_flow import Cover
from ..line.line import Line
from ..numbers.ratios import as_decimal
from ..unknowns.solution import Found, Sizing
from .working_uneven import carried_steps, periods_step
from .writer import Step, Writer, asked, quote_step


def bounds_steps(loan: Loan, found: Found, line: Line, write: Writer) -> list[Step]:
    """What can be lent within the bounds, or the cover of sculpted payments."""
    way = [quote_step(loan, loan.rate, write)]
    for number, clause in enumerate(loan.clauses, 1):
        if clause.rate is not None:
            of = worded(", clause {number}", number=number)
            way.append(quote_step(loan, clause.rate, write, of))
    way += periods_step(loan, line.terms, write)
    cover, sizing = line.terms.cover, found.sizing
    if line.terms.follows_cash_flow:
        way += _sculpted_steps(loan, line, write)
    if sizing is None:
        way.append(_ratio_step(line, found.meant, write))
    elif cover is not None and sizing.binding == "cover" and not line.terms.follows_cash_flow:
        way += _binding_steps(line, cover, found.meant, write)
    if sizing is not None:
        way += _lesser_steps(loan, sizing, found.meant, line, write)
    return [*way, *(carried_steps(line, write) if loan.clauses else ())]


#: Periods of the cover that are told one by one.
_LISTED: Final = 12


def _binding_steps(line: Line, cover: Cover, principal: Decimal, write: Writer) -> list[Step]:
    """The period in which the cash flow carries no more, and what is lent then."""
    last = line.stretches[-1].last or line.stretches[-1].first
    paid = service_of(line, cover)
    carries = {each: as_decimal(carried_in(cover, each, last)) for each in paid}
    tightest = max(paid, key=lambda each: paid[each] / (carries[each] or Decimal(1)))
    ratio = as_decimal(cover.ratio or cover.flow.first)
    listed = [f"{each}: {write.money(most)}" for each, most in list(carries.items())[:_LISTED]]
    more = len(carries) - len(listed)
    return [
        {
            "title": worded("What the cash flow carries in each period of the cover"),
            "formula": worded("its cash flow / the cover, of a short last one in proportion"),
            "numbers": "; ".join(listed)
            + (worded("; and {more} further ones", more=more) if more else ""),
            "result": worded("least for its payments in period {period}", period=tightest),
        },
        {
            "title": worded(
                "What may be paid in period {period} of the cover, which binds", period=tightest
            ),
            "formula": worded("C = its cash flow / the cover"),
            "numbers": f"{write.money(carries[tightest] * ratio)} / {write.number(ratio)}",
            "result": write.number(carries[tightest]),
        },
        {
            "title": worded("What is lent when that is paid"),
            "formula": worded(
                "what is paid there is then just covered, and in all other periods no less"
            ),
            "numbers": worded(
                "the regular payment is then {payment}", payment=write.number(line.terms.payment)
            ),
            "result": write.number(principal),
        },
    ]


def _lesser_steps(
    loan: Loan, sizing: Sizing, principal: Decimal, line: Line, write: Writer
) -> list[Step]:
    """What the value lets, and which bound is the lesser."""
    steps: list[Step] = []
    if loan.value is not None:
        worth = loan.value.most
        steps.append(
            {
                "title": worded("What may be lent on the value"),
                "formula": worded("V · h / 100, with h the highest percent of it"),
                "numbers": f"{write.money(loan.value.amount)} × "
                f"{write.number(loan.value.highest)} / 100",
                "result": write.number(worth),
            }
        )
    if len(sizing.slack) > 1:
        by_cover, by_value = (
            write.money(sizing.lent + sizing.slack[bound]) for bound in ("cover", "value")
        )
        steps.append(
            {
                "title": worded("The lesser of the two"),
                "formula": worded("P = the least that either lends alone"),
                "numbers": worded(
                    "by the cover {cover}, by the value {value}", cover=by_cover, value=by_value
                ),
                "result": write.number(principal),
            }
        )
    if sizing.binding == "value":
        steps.append(
            {
                "title": worded("The payment that repays it"),
                "formula": worded("of every payment the same part of its cash flow")
                if line.terms.follows_cash_flow
                else worded("A, with which the loan ends as stated"),
                "numbers": worded("P = {principal}", principal=write.money(principal)),
                "result": write.number(line.terms.payment),
            }
        )
    return steps


def _sculpted_steps(loan: Loan, line: Line, write: Writer) -> list[Step]:
    """What 1 lent and the whole cash flow grow to, and what is lent by that."""
    terms = unforeseen(line.terms)
    grown = left_over(terms, PRINCIPAL).slope
    added = -left_over(terms, PAYMENT).slope
    steps: list[Step] = [
        {
            "title": worded("What 1 lent grows to by the end"),
            "formula": worded("U = the growth of all periods, multiplied"),
            "numbers": f"{terms.count} periods",
            "result": write.number(grown),
        },
        {
            "title": worded("What the whole cash flow grows to by the end, paid as payments are"),
            "formula": worded("F = the growth after each of them, of its cash flow, added up"),
            "numbers": f"{terms.count} payments",
            "result": write.number(added),
        },
    ]
    if asked(loan) == PRINCIPAL and loan.cover is not None:
        left, ratio = write.money(terms.balance), write.number(Decimal(loan.cover.ratio))
        steps.append(
            {
                "title": worded("What is lent when each payment is its cash flow over the cover"),
                "formula": "P = (F / c + B) / U",
                "numbers": f"({write.number(added)} / {ratio} + {left}) / {write.number(grown)}",
                "result": write.number((added / Decimal(loan.cover.ratio) + terms.balance) / grown),
            }
        )
    return steps


def _ratio_step(line: Line, ratio: Decimal, write: Writer) -> Step:
    """How many times the cash flow is the payments."""
    terms = unforeseen(line.terms)
    grown = left_over(terms, PRINCIPAL).slope
    added = -left_over(terms, PAYMENT).slope
    lent, left = write.money(terms.principal), write.money(terms.balance)
    return {
        "title": worded("The cover"),
        "formula": "c = F / (P · U − B)",
        "numbers": f"{write.number(added)} / ({lent} × {write.number(grown)} − {left})",
        "result": write.number(ratio),
    }
