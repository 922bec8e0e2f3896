"""The working of a loan whose principal is shared out: one part, and the first payment."""

from decimal import Decimal

from zephyrant.texts import worded

from ..document.fields import UNKNOWN
from ..document.figure_path import PAYMENT, PRINCIPAL, RATE
from ..document.loan import Loan
from ..ledger.exact import EXACT
from ..line.line import Line
from ..unknowns.parts import first_part, interest_at
from ..unknowns.solution import Found
from .working_uneven import carried_steps, margin_step, periods_step
from .writer import Step, Writer, asked, asks_count, money_of, quote_back, quote_step


def parts_steps(
    loan: Loan, found: Found, line: Line, solution: Decimal, write: Writer
) -> list[Step]:
    """The part, the interest of the first payment that repays one, the figure."""
    path, way = asked(loan), []
    if loan.rate.percent != UNKNOWN:
        way.append(quote_step(loan, loan.rate, write))
    for number, clause in enumerate(loan.clauses, 1):
        if clause.rate is not None:
            of = worded(", clause {number}", number=number)
            way.append(quote_step(loan, clause.rate, write, of))
    way += periods_step(loan, line.terms, write)
    number, times = first_part(line)
    interest = interest_at(line, number, EXACT, line.principal)
    part = line.terms.part * times
    told = _First(number, part, interest, line)
    if path in (PAYMENT, RATE, PRINCIPAL):
        steps = [told.shared(write), told.interest_step(write)]
    else:
        steps = [told.interest_step(write), told.part_step(write)]
    if path.floats:
        steps = [
            told.shared(write),
            told.rate_step(write),
            margin_step(loan, solution, line, write),
        ]
    elif path == RATE:
        steps = [told.shared(write), told.rate_step(write), quote_back(loan, found, write)]
    else:
        steps.append(told.figure_step(loan, solution, write))
    way += [step for step in steps if step is not None]
    return [*way, *(carried_steps(line, write) if loan.clauses else ())]


class _First:
    """The first payment that repays a part, in letters: A = R + I."""

    def __init__(self, number: int, part: Decimal, interest: Decimal, line: Line) -> None:
        self.number, self.part, self.interest, self.line = number, part, interest, line
        parts = line.parts
        self.total = parts.total if parts is not None and not line.is_open else Decimal(0)
        self.times = parts.at(number) if parts is not None else Decimal(0)

    def shared(self, write: Writer) -> Step | None:
        """The part, as what is lent is shared out."""
        if not self.times:
            return None
        lent, left = write.money(self.line.principal), write.money(self.line.balance)
        share = f"{write.number(self.times)} / {write.number(self.total)}"
        if self.times == 1:
            share = f"1 / {write.number(self.total)}"
        return {
            "title": worded("The part that payment {number} repays", number=self.number),
            "formula": worded("R = (P − B) · its share"),
            "numbers": f"({lent} − {left}) × {share}",
            "result": write.number(self.part),
        }

    def interest_step(self, write: Writer) -> Step:
        """The interest of the payment."""
        return {
            "title": worded("The interest of payment {number}", number=self.number),
            "formula": worded("I = what is owed before it · the interest of its period"),
            "numbers": worded(
                "{owed} lent at the start, rolled to it", owed=write.money(self.line.principal)
            ),
            "result": write.number(self.interest),
        }

    def part_step(self, write: Writer) -> Step:
        """The part, as the payment leaves it."""
        paid = write.money(self.line.terms.payment)
        return {
            "title": worded("The part that payment {number} repays", number=self.number),
            "formula": "R = A − I",
            "numbers": f"{paid} − {write.number(self.interest)}",
            "result": write.number(self.part),
        }

    def rate_step(self, write: Writer) -> Step:
        """The interest the payment leaves, and the rate that makes it."""
        paid = write.money(self.line.terms.payment)
        return {
            "title": worded("The interest of payment {number}", number=self.number),
            "formula": worded("I = A − R, and i the only rate at which that is its interest"),
            "numbers": f"{paid} − {write.number(self.part)}",
            "result": write.number(self.interest),
        }

    def figure_step(self, loan: Loan, solution: Decimal, write: Writer) -> Step:
        """The figure asked for."""
        path, (lent, paid, left) = asked(loan), money_of(self.line.terms, write)
        part, interest = write.number(self.part), write.number(self.interest)
        title, formula, numbers = worded("The {name}", name=path.name), "A = R + I", ""
        if path == PAYMENT:
            numbers = f"{part} + {interest}"
        elif asks_count(loan):
            title, formula = worded("The number of payments"), "n = (P − B) / R"
            numbers = f"({lent} − {left}) / {part}"
        elif path.name == "balance":
            share = f"{write.number(self.total)} / {write.number(self.times)}"
            formula, numbers = worded("B = P − all parts"), f"{lent} − {part} × {share}"
        else:
            formula = worded("A = R + I, both linear in P: the only P at which it holds")
            numbers = f"{paid} = {part} + {interest}"
        return {
            "title": title,
            "formula": formula,
            "numbers": numbers,
            "result": write.number(solution),
        }
