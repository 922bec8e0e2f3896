"""Entries made to be slow to read: each is read in time that grows as its length does."""

import signal
from collections.abc import Callable, Iterator
from contextlib import contextmanager, suppress
from unittest import TestCase

from zephyrant.loans import MARKS, NotALoan
from zephyrant.loans.calendars.days_in_words import read_days
from zephyrant.loans.document.figure_path import figure_path
from zephyrant.loans.questions.balance_at import owed
from zephyrant.loans.questions.period_totals import period_totals_of
from zephyrant.loans.questions.their_table import decimal_mark, number_in
from zephyrant.loans.statement.statement import Statement
from zephyrant.loans.statement.typed_amounts import (
    read_amount,
    read_balance,
    read_payment,
    read_percent,
)
from zephyrant.loans.statement.typed_bounds import read_cash_flows, read_ratio
from zephyrant.loans.statement.typed_floating import read_fixings
from zephyrant.loans.statement.typed_times import read_count, read_date, read_place, read_time
from zephyrant.loans.statement.values import read_values
from zephyrant.loans.tape.not_loans import apart
from zephyrant.loans.wording.cells import as_text

from .documents import loan

MARK = MARKS["comma-point"]
LENT = read_amount("48,250", MARK, "EUR")
LOAN = loan(payment="?")

READERS: dict[str, Callable[[str], object]] = {
    "amount": lambda typed: read_amount(typed, MARK, "EUR"),
    "percent": lambda typed: read_percent(typed, MARK),
    "count": lambda typed: read_count(typed, MARK, "month"),
    "time": lambda typed: read_time(typed, MARK),
    "balance": lambda typed: read_balance(typed, MARK, "EUR", LENT),
    "payment": lambda typed: read_payment(typed, MARK, "EUR", "month"),
    "date": read_date,
    "fixings": lambda typed: read_fixings(typed, MARK),
    "ratio": lambda typed: read_ratio(typed, MARK),
    "cash flows": lambda typed: read_cash_flows(typed, MARK, "EUR"),
    "days": read_days,
    "place": lambda typed: read_place(typed, MARK),
    "values": lambda typed: read_values(typed, figure_path("rate.percent"), Statement(), 50),
    "terms": lambda typed: read_values(typed, figure_path("count"), Statement(), 50),
    "moments": lambda typed: owed(LOAN, typed, MARK),
    "stretches": lambda typed: period_totals_of(LOAN, typed, MARK),
    "number in a cell": lambda typed: number_in(typed, "."),
    "decimal mark of a cell": lambda typed: decimal_mark([typed]),
    "row apart": lambda typed: apart([typed, typed, "1"]),
    "text in a cell": as_text,
    "document": lambda typed: loan(payment=typed, principal=typed, count=typed),
}

#: A beginning, what is repeated, an end: each makes one kind of pattern go back and try again.
LINES = (
    ("5,400", " - 640", " -"),
    ("5,400", " less 640", " less"),
    ("35 % of 5,400", " - 640", " a fortnight"),
    ("", "35 % of ", "5,400"),
    ("", "1", "x"),
    ("", "1,", "x"),
    ("", "1.", "1"),
    ("-", "111,", "1 x"),
    ("", " ", "!"),
    ("1", " ", "%"),
    ("1", " ", "payments!"),
    ("(", "(", ")"),
    ("", "a", "!"),
    ("1 ", "y", "!"),
    ("", "1y", " and"),
    ("", "1 y and ", "1"),
    ("", " to ", " by "),
    ("1", " to 2", " by 1"),
    ("1", " by 2", " to 1"),
    ("1", " and 2", " and"),
    ("1", ";2", ";"),
    ("every 1", ", every 1", ""),
    ("12-24", ", 12-24", ""),
    ("1", "/2", ""),
    ("1", " 1", "/2"),
    ("1 ", "- ", "1/2"),
    ("1", "'000", "x"),
    ("=", "1.", "e"),
    ("total", " total", "s"),
    ("1", "m", "k"),
    ("1", " mn", " EUR EUR"),
    ("", "½", ""),
)


@contextmanager
def cpu_bound(seconds: float) -> Iterator[None]:
    """Fails what takes far longer than reading a line can; waiting does not count."""

    def over(signum: int, frame: object) -> None:
        raise AssertionError(f"still working after {seconds} s of CPU")

    before = signal.signal(signal.SIGVTALRM, over)
    signal.setitimer(signal.ITIMER_VIRTUAL, seconds)
    try:
        yield
    finally:
        signal.setitimer(signal.ITIMER_VIRTUAL, 0)
        signal.signal(signal.SIGVTALRM, before)


class Hostile(TestCase):
    def test_every_reader_reads_every_line(self) -> None:
        # Four times the time with each further part is past any bound at 30; the square, at 10,000.
        for name, reader in READERS.items():
            for begins, repeated, ends in LINES:
                for times in (3, 12, 30, 300, 10_000):
                    line = begins + repeated * times + ends
                    with (
                        self.subTest(name, line=line[:30], times=times),
                        cpu_bound(5),
                        suppress(NotALoan, ValueError),
                    ):
                        reader(line)

    def test_the_line_that_held_every_worker(self) -> None:
        reading = read_payment("5,400" + " - 640" * 28 + " -", MARK, "EUR", "month")
        self.assertIn("does not say what can be carried", reading.error or "")
        reading = read_payment("5,400" + " - 100" * 30 + " a month", MARK, "EUR", "month")
        self.assertEqual(reading.value, "2400")
