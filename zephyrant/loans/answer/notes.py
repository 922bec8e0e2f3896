"""What might surprise in an answer, in words."""

from decimal import Decimal

from zephyrant.texts import worded

from ..calendars.days_in_words import write_day
from ..document.loan import Loan
from ..ledger.rows import Schedule, due
from ..line.compiling import asks_rate
from ..unknowns.last_payment import rounding_reach
from ..unknowns.solution import whole_above
from ..unknowns.worked import Solved
from ..wording.marks import Money, Number, Sentence
from .bounds_notes import bounds_notes
from .floating_told import rests_on


def overpaid_note(loan: Loan, schedule: Schedule) -> list[Sentence]:
    """That a repayment lies above what is owed, and what became of it."""
    if not schedule.overpaid:
        return []
    row, amount = schedule.rows[-1], schedule.unit.amount
    over = Money(amount(schedule.overpaid), loan.decimals)
    if row.closing < 0:
        return [
            Sentence(
                "With payment {number} the loan is overpaid by {over}: shown as a balance below "
                "zero.",
                number=Number(row.number),
                over=over,
            )
        ]
    return [
        Sentence(
            "What is repaid with payment {number} is {over} more than is owed: it is cut to "
            "{repaid}, and the loan ends there.",
            number=Number(row.number),
            over=over,
            repaid=Money(amount(row.repay), loan.decimals),
        )
    ]


def _moved(loan: Loan, schedule: Schedule) -> list[Sentence]:
    """How many payments business days move, and the first of them."""
    calendar = loan.calendar
    if calendar is None or calendar.business_days is None:
        return []
    stood_on = schedule.stood_on(calendar)
    moved = [
        (row, day) for row, day in zip(schedule.rows, stood_on, strict=True) if day is not None
    ]
    if not moved:
        return [Sentence("Every payment falls on a business day: none is moved.")]
    row, day = moved[0]
    return [
        Sentence(
            "{moved} of {rows} payments fall on days that are closed and are moved; the first is "
            "payment {number}, from {stood} to {made}.",
            moved=Number(len(moved)),
            rows=Number(len(schedule.rows)),
            number=Number(row.number),
            stood=write_day(day),
            made=write_day(due(row, calendar) or day),
        )
    ]


def notes_of(loan: Loan, worked: Solved, solution: Decimal) -> list[Sentence]:
    """What is to be known beside the answer, each a sentence."""
    found, schedule, unlaid = worked.found, worked.schedule, worked.unlaid
    notes = [found.note] if found.note else []
    if schedule is None:
        return [*notes, *([unlaid] if unlaid else [])]
    if loan.unknown == "rate" and solution < 0:
        notes.append(
            Sentence(
                "The rate is below zero: payments and the balance left add up to less than the "
                "amount lent."
            )
        )
    if loan.unknown == "count":
        whole = whole_above(solution)
        if whole != len(schedule.rows):
            notes.append(
                Sentence(
                    "Rounding to the cent makes it {rows} payments; unrounded it would be {whole}.",
                    rows=Number(len(schedule.rows)),
                    whole=Number(whole),
                )
            )
    elif schedule.early and not schedule.overpaid:
        text = (
            worded(
                "The clauses leave nothing to be paid after payment {rows}: with it the "
                "loan is repaid."
            )
            if schedule.paused_after
            else worded(
                "As rounded, the payments repay the loan with payment {rows}, before the "
                "{count} stated."
            )
        )
        as_stated = loan.unknown is None or (worked.line and worked.line.terms.has_parts)
        if as_stated and not schedule.paused_after:
            text = worded(
                "The payments repay the loan with payment {rows}, before the {count} stated."
            )
        notes.append(Sentence(text, rows=Number(len(schedule.rows)), count=Number(int(loan.count))))
    path = rests_on(loan, schedule.rows[-1].stands_at)
    notes += [path] if path else []
    notes += bounds_notes(loan, worked)
    notes += [*_charged(loan, schedule), *_moved(loan, schedule)]
    notes += _more_at_last(loan, worked, schedule)
    return notes + overpaid_note(loan, schedule) + _taken(loan, schedule)


def _charged(loan: Loan, schedule: Schedule) -> list[Sentence]:
    """What the payments are with what is collected beside them."""
    collecting = [row for row in schedule.rows if row.charge]
    if not collecting:
        return []
    first, last = collecting[0], collecting[-1]
    if len({row.paid + row.charge for row in schedule.rows}) == 1:
        return [
            Sentence(
                "The payment is principal and interest; with charges it is {one}.",
                one=Money(schedule.unit.amount(first.paid + first.charge), loan.decimals),
            )
        ]
    both = [schedule.unit.amount(row.paid + row.charge) for row in (first, last)]
    text = worded(
        "Payments are principal and interest; with charges payment {first} is {one} and payment "
        "{last} {other}."
    )
    return [
        Sentence(
            text,
            first=Number(first.number),
            one=Money(both[0], loan.decimals),
            last=Number(last.number),
            other=Money(both[1], loan.decimals),
        )
    ]


def _more_at_last(loan: Loan, worked: Solved, schedule: Schedule) -> list[Sentence]:
    """That the last payment settles more than its part, interest or fees having been added."""
    line = worked.line
    if line is None or not line.terms.has_parts or line.is_open or schedule.early:
        return []
    stretch, row = line.stretches[-1], schedule.rows[-1]
    over = schedule.unit.amount(row.payment - row.interest) - stretch.payment
    if abs(over) <= rounding_reach(loan, line) + loan.step or row.number != stretch.last:
        return []
    return [
        Sentence(
            "The parts stay as they were shared out at the start: the last payment settles {over} "
            "{more} than its part.",
            over=Money(abs(over), loan.decimals),
            more=worded("more") if over > 0 else worded("less"),
        )
    ]


def _taken(loan: Loan, schedule: Schedule) -> list[Sentence]:
    """That the last interest took the cents that rounding left."""
    if not schedule.taken:
        return []
    last = next((row for row in reversed(schedule.rows) if row.interest), schedule.rows[-1])
    figures = {
        "taken": Money(abs(schedule.unit.amount(schedule.taken)), loan.decimals),
        "interest": Money(schedule.unit.amount(last.interest), loan.decimals),
    }
    more = worded("more") if schedule.taken > 0 else worded("less")
    if not asks_rate(loan):
        text = (
            worded(
                "No payment at the end settles what rounding leaves: the last interest "
                "takes it and is {taken} "
            )
            + more
            + "."
        )
    elif last.interest < 0:
        text = worded(
            "All that is stated stands as it is, so the last interest takes what "
            "rounding leaves: {interest}."
        )
    else:
        return []
    return [Sentence(text, **figures)]
