"""The working of a loan whose periods and payments are all alike: by formula."""

from decimal import Decimal

from zephyrant.texts import worded

from ..calendars import frequencies
from ..document.loan import Loan
from ..line.terms import Terms
from ..numbers import annuity
from ..numbers.ratios import as_decimal
from .writer import Step, Writer, asked, asks_count, money_of


def _accumulated_formula(terms: Terms) -> str:
    if not terms.rate:
        return "s = n"
    return "s = (uⁿ − 1) / i" + (" · (1 + i)" if terms.in_advance else "")


def _by(terms: Terms) -> annuity.Factors:
    return annuity.factors(as_decimal(terms.rate), terms.count or 0, terms.timing)


def level_steps(loan: Loan, solved: Terms, solution: Decimal, write: Writer) -> list[Step]:
    """The figure by the closed form, or the count or the rate."""
    if asks_count(loan):
        return [_count_step(solved, solution, write)]
    return [*_factor_steps(solved, write), _figure_step(loan, solved, solution, write)]


def _factor_steps(solved: Terms, write: Writer) -> list[Step]:
    by, rate, count = _by(solved), as_decimal(solved.rate), solved.count or 0
    if rate:
        numbers = f"({write.number(by.growth)} − 1) / {write.number(rate)}"
        numbers += f" × {write.number(1 + rate)}" if solved.in_advance else ""
    else:
        numbers = write.number(Decimal(count))
    return [
        {
            "title": worded("What 1 lent grows to in {count} periods", count=count),
            "formula": "uⁿ = (1 + i)ⁿ",
            "numbers": f"{write.number(1 + rate)}^{count}",
            "result": write.number(by.growth),
        },
        {
            "title": worded("What {count} payments of 1 grow to", count=count),
            "formula": _accumulated_formula(solved),
            "numbers": numbers,
            "result": write.number(by.accumulated),
        },
    ]


def _figure_step(loan: Loan, solved: Terms, solution: Decimal, write: Writer) -> Step:
    lent, paid, left = money_of(solved, write)
    by = _by(solved)
    growth, added = write.number(by.growth), write.number(by.accumulated)
    formula, numbers = {
        "payment": ("A = (P · uⁿ − B) / s", f"({lent} × {growth} − {left}) / {added}"),
        "principal": ("P = (A · s + B) / uⁿ", f"({paid} × {added} + {left}) / {growth}"),
        "balance": ("B = P · uⁿ − A · s", f"{lent} × {growth} − {paid} × {added}"),
    }[asked(loan).name]
    return {
        "title": worded("The {name}", name=asked(loan).name),
        "formula": formula,
        "numbers": numbers,
        "result": write.number(solution),
    }


def _count_step(solved: Terms, solution: Decimal, write: Writer) -> Step:
    lent, paid, left = money_of(solved, write)
    i = write.number(as_decimal(solved.rate))
    at_end = "A · (1 + i)" if solved.in_advance else "A"
    paid_at_end = f"{paid} × (1 + {i})" if solved.in_advance else paid
    formula = f"n = ln(({at_end} − B · i) / ({at_end} − P · i)) / ln(1 + i)"
    numbers = f"ln(({paid_at_end} − {left} × {i}) / ({paid_at_end} − {lent} × {i})) / ln(1 + {i})"
    if not solved.rate:
        formula, numbers = "n = (P − B) / A", f"({lent} − {left}) / {paid}"
    return {
        "title": worded("The number of payments"),
        "formula": formula,
        "numbers": numbers,
        "result": write.number(solution),
    }


def rate_step(loan: Loan, solved: Terms, write: Writer) -> list[Step]:
    """The rate by the closed form's only root."""
    by = _by(solved)
    lent, paid, left = money_of(solved, write)
    return [
        {
            "title": worded(
                "The rate of one {noun}: the only one at which the payments and the "
                "balance are worth what is lent",
                noun=frequencies.period(loan.every).noun,
            ),
            "formula": worded(
                "P · uⁿ = A · s + B, with u = 1 + i and {solved}",
                solved=_accumulated_formula(solved),
            ),
            "numbers": f"{lent} × {write.number(by.growth)} = {paid} × "
            f"{write.number(by.accumulated)} + {left}",
            "result": f"i = {write.percent(100 * as_decimal(solved.rate))}",
        }
    ]
