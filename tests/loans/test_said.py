"""Loans said in a line. What each line means is written by hand, from the contract's rules."""

import json
from decimal import Decimal
from typing import Any
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from tests.loans.documents import PERIODS
from zephyrant import loans
from zephyrant.loans import MARKS
from zephyrant.loans.said import Line, Usual, read_line, said_clauses, said_loan
from zephyrant.loans.statement import Statement

POINT = MARKS["comma-point"]
#: What is not said, and so stands as usual.
USUAL = {
    "zephyrant": "loan/1",
    "currency": "EUR",
    "every": "month",
    "balance": "0",
    "timing": "in-arrears",
}

#: A line, and what of its document is not as usual.
SAID: list[tuple[str, dict[str, Any]]] = [
    (
        "43,700 at 5.4 % over 4 years",
        {"principal": "43700", "rate": {"percent": "5.4"}, "count": 48, "payment": "?"},
    ),
    (
        "196k USD, 11 years monthly, pays 1,990, rate?",
        {
            "currency": "USD",
            "principal": "196000",
            "rate": {"percent": "?"},
            "count": 132,
            "payment": "1990",
        },
    ),
    (
        "38,700 at 4.6 % paying 815 a month",
        {"principal": "38700", "rate": {"percent": "4.6"}, "count": "?", "payment": "815"},
    ),
    (
        "how much? pays 900 a quarter for 6 years at 4 1/4 %",
        {
            "principal": "?",
            "rate": {"percent": "4.25"},
            "count": 24,
            "payment": "900",
            "every": "quarter",
        },
    ),
    (
        "88k at 5 % compounded half-yearly, 7 years, 20k left at the end",
        {
            "principal": "88000",
            "rate": {"percent": "5", "compounding": "half-year"},
            "count": 84,
            "payment": "?",
            "balance": "20000",
        },
    ),
    (
        "6.1 % effective on 24,500, 36 payments, in advance",
        {
            "principal": "24500",
            "rate": {"percent": "6.1", "quoted": "effective"},
            "count": 36,
            "payment": "?",
            "timing": "in-advance",
        },
    ),
    (
        "price 60,000, 20 % down, 5.2 %, 6 years",
        {
            "purchase": {"price": "60000", "down": {"percent": "20"}},
            "rate": {"percent": "5.2"},
            "count": 72,
            "payment": "?",
        },
    ),
    (
        "30,000 at 6 %, lent 10 March 2027, first payment 1 May 2027, 60 payments, actual/360",
        {
            "principal": "30000",
            "rate": {"percent": "6"},
            "count": 60,
            "payment": "?",
            "start": "2027-03-10",
            "first_payment": "2027-05-01",
            "day_count": "actual/360",
        },
    ),
    (
        "2,350, 85 a month put aside, eight years at 3.2 %",
        {
            "we": "put-aside",
            "principal": "2350",
            "rate": {"percent": "3.2"},
            "count": 96,
            "payment": "0",
            "balance": "?",
            "clauses": [{"from": 1, "advance": "85"}],
        },
    ),
    (
        "30k at 0.6 % a month for 60 months",
        {
            "principal": "30000",
            "rate": {"percent": "0.6", "quoted": "periodic"},
            "count": 60,
            "payment": "?",
        },
    ),
    (
        "30k at 1.5 % a quarter, 60 payments",
        {
            "principal": "30000",
            "rate": {"percent": "6", "quoted": "nominal", "compounding": "quarter"},
            "count": 60,
            "payment": "?",
        },
    ),
    (
        "25 % balloon; 88k\nat 5 % and over 7 years",
        {
            "principal": "88000",
            "rate": {"percent": "5"},
            "count": 84,
            "payment": "?",
            "balance": "22000",
        },
    ),
    (
        "48,250 at 6.35 %, 60 payments, pays 938.82",
        {"principal": "48250", "rate": {"percent": "6.35"}, "count": 60, "payment": "938.82"},
    ),
    (
        "86,500 by 24 x 4,150, rate?",
        {"principal": "86500", "rate": {"percent": "?"}, "count": 24, "payment": "4150"},
    ),
    (
        "24 payments over 6 years, 30k, 5 %",
        {
            "principal": "30000",
            "rate": {"percent": "5"},
            "count": 24,
            "every": "quarter",
            "payment": "?",
        },
    ),
    (
        "we borrow €43.700 at 5,4 % for 48m",
        {
            "we": "borrow",
            "principal": "43700",
            "rate": {"percent": "5.4"},
            "count": 48,
            "payment": "?",
        },
    ),
    (
        "pays 32 % of 4,850 a month, 6.9 %, 7 years",
        {"principal": "?", "rate": {"percent": "6.9"}, "count": 84, "payment": "1552"},
    ),
    (
        "71,500 at 6.3 % over 5y6m, payments rounded up to 10",
        {
            "principal": "71500",
            "rate": {"percent": "6.3"},
            "count": 66,
            "payment": "?",
            "rounding": {"payment": "up", "to": "10"},
        },
    ),
]

SAID += [
    (
        "20k at 5 %, 26 times a year, 4 years",
        {
            "principal": "20000",
            "rate": {"percent": "5"},
            "count": 104,
            "every": "two-weeks",
            "payment": "?",
        },
    ),
    (
        "20k at 5 %, annual payments of 5,000",
        {
            "principal": "20000",
            "rate": {"percent": "5"},
            "count": "?",
            "every": "year",
            "payment": "5000",
        },
    ),
    (
        "20k at 5 % for the first year, then 6 %, 4 years",
        {
            "principal": "20000",
            "rate": {"percent": "5"},
            "count": 48,
            "payment": "?",
            "clauses": [{"from": 13, "rate": {"percent": "6"}}],
        },
    ),
    (
        "20k, 4 years, 5 % from 1 to 12, 6 % from 13 to 24 and 7 % thereafter",
        {
            "principal": "20000",
            "rate": {"percent": "5"},
            "count": 48,
            "payment": "?",
            "clauses": [
                {"from": 13, "to": 24, "rate": {"percent": "6"}},
                {"from": 25, "rate": {"percent": "7"}},
            ],
        },
    ),
    (
        "what rate is 20k over 48 months paying 470?",
        {"principal": "20000", "rate": {"percent": "?"}, "count": 48, "payment": "470"},
    ),
]

#: A clause as one says it, for 48 monthly payments from 1 March 2027, and as a document has it.
CLAUSES: list[tuple[str, dict[str, Any]]] = [
    ("at 12 repay 45,000", {"at": 12, "repay": "45000"}),
    ("at 12 repay 45,000 and re-level", {"at": 12, "repay": "45000", "then": "re-level"}),
    ("repay 5,000 after 2 years", {"at": 24, "repay": "5000"}),
    ("from 13 to 24 5 %", {"from": 13, "to": 24, "rate": {"percent": "5"}}),
    ("5 % from 13", {"from": 13, "rate": {"percent": "5"}}),
    ("from year 2 at 5 1/2 %", {"from": 13, "rate": {"percent": "5.5"}}),
    ("from 25 pays 700", {"from": 25, "payment": "700"}),
    ("one payment of 700 at 12", {"at": 12, "payment": "700"}),
    ("interest only for the first year", {"from": 1, "to": 12, "pay": "interest"}),
    ("interest only till 6", {"from": 1, "to": 6, "pay": "interest"}),
    ("pay interest only for 12 months", {"from": 1, "to": 12, "pay": "interest"}),
    ("pays nothing from 7 to 9", {"from": 7, "to": 9, "pay": "nothing"}),
    ("nothing for the last 3 payments", {"from": 46, "to": 48, "pay": "nothing"}),
    ("nothing in Dec Jan Feb", {"months": [12, 1, 2], "pay": "nothing"}),
    ("nothing in Dec, Jan and Feb", {"months": [12, 1, 2], "pay": "nothing"}),
    ("on 15 Mar 2028 repay 4,000", {"at": "2028-03-15", "repay": "4000"}),
    ("2 % fee kept back", {"at": 0, "fee": {"percent": "2"}, "taken": "from-proceeds"}),
    ("450 fee added to the balance", {"at": 0, "fee": "450", "taken": "added"}),
    ("fee of 450 paid apart at 12", {"at": 12, "fee": "450", "taken": "apart"}),
    ("two points", {"at": 0, "fee": {"percent": "2"}, "taken": "from-proceeds"}),
    ("5 a month fee paid apart", {"from": 1, "fee": "5", "taken": "apart"}),
    ("repay 100 extra a month", {"from": 1, "repay": "100"}),
    ("advance 10,000 at 6", {"at": 6, "advance": "10000"}),
    (
        "growing 3 % every 12 from 13",
        {"from": 13, "step": {"percent": "3"}, "every": 12},
    ),
    ("falling by 20 a year from 13", {"from": 13, "step": {"amount": "-20"}, "every": 12}),
]

WINTERS = "60,000 at 5 % over 5 years, lent 1 March 2027, nothing"
#: The same as one notes it down: a line, and the whole line it is short for.
SHORT = [
    ("38,700 4.6% 815pm", "38,700 at 4.6 %, pays 815 a month"),
    ("38,700 4.6 % 815 p.m.", "38,700 at 4.6 %, pays 815 a month"),
    ("54,000 6.2% 3,525 pq", "54,000 at 6.2 %, pays 3,525 a quarter"),
    ("48,000 0.5% pm 4y", "48,000 at 0.5 % a month over 4 years"),
    ("43,700 5.4% 48m", "43,700 at 5.4 % over 48 months"),
    ("43,700 5.4 48m", "43,700 at 5.4 % over 48 months"),
    ("64,000 7.2% 6y 2027-03-15", "64,000 at 7.2 % over 6 years, lent 15 March 2027"),
    ("74,200 6 3/8 10y", "74,200 at 6 3/8 % over 10 years"),
    ("43,700 - 5.4% - 48m", "43,700 at 5.4 % over 48 months"),
    ("22,300 7.4% 36 adv", "22,300 at 7.4 %, 36 payments, in advance"),
    ("22,300 7.4% 3y arr.", "22,300 at 7.4 % over 3 years, in arrears"),
    ("45,800 6.6% 6y up to 10", "45,800 at 6.6 % over 6 years, payment rounded up to 10"),
    (
        "186,000-22% 31,500bal 12y 5.15%",
        "price 186,000, 22 % down, 31,500 left, 12 years at 5.15 %",
    ),
    ("186,000 less 22 % 12y 5.15%", "price 186,000, 22 % down, 12 years at 5.15 %"),
    ("60,000 5% 5y bal 10%", "60,000 at 5 % over 5 years, 10 % left"),
    ("60,000 5y 5% bal 10%", "60,000 at 5 % over 5 years, 10 % left"),
    ("60,000 5y 5% bal. 6,000", "60,000 at 5 % over 5 years, 6,000 left"),
    ("60,000 5y 5% 6,000 bal", "60,000 at 5 % over 5 years, 6,000 left"),
    ("2,350+85pm 3.2% 8y", "2,350 put aside, 85 a month put aside, 8 years at 3.2 %"),
    ("+85 pm 3.2% 8y", "85 a month put aside, 8 years at 3.2 %"),
    ("60,000 5% 5y +20,000 at 4", "60,000 at 5 % over 5 years, at 4 advance 20,000"),
    ("60,000 5% 5y -4,500 at 12", "60,000 at 5 % over 5 years, at 12 repay 4,500"),
    ("60,000 5% 5y io 1y", "60,000 at 5 % over 5 years, interest only for the first year"),
    ("60,000 5% 5y io till 6", "60,000 at 5 % over 5 years, interest only till 6"),
    ("43,700 @ 5.4% over 4y", "43,700 at 5.4 % over 4 years"),
    ("60,000 5% 5y +20,000@4 -4,500@12", "60,000 5% 5y +20,000 at 4 -4,500 at 12"),
    ("60,000 5% 5y 2027-03-01 nothing in Dec-Feb", f"{WINTERS} in Dec Jan Feb"),
    ("60,000 5% 5y 2027-03-01 nothing in July to Aug", f"{WINTERS} in July, Aug"),
    ("96,300 7.1/6.4/6.9% 3y", "96,300 7.1/6.4/6.9 % by year 3y"),
    ("60,000 3/8% 3y", "60,000 at 0.375 % over 3 years"),
    (
        "96,300 7.1/6.4/6.9% by year 3y",
        "96,300 at 7.1 % over 3 years, 6.4 % from year 2, 6.9 % from year 3",
    ),
]

#: Words of lines, in any order.
WORDS = (
    *("43,700", "at", "5.4", "%", "over", "4", "years", "?", "repay", "from", "13", "to", "24"),
    *("a", "month", "fee", "left", "Dec", "2027", "price", "down", "in", "advance", "EUR", "k"),
    *("payments", "of", "and", "nothing", "first", "the", "1/2", ",", ";", "-", "+", "pm", "adv"),
    *("48m", "io", "7.1/6.4%", "by", "year", "bal", "up", "less"),
)
#: A line that is none, what is said of it, and the piece that is marked.
WRONG = [
    ("43,700 at 5.4 %", "number of payments and the payment", "43,700 at 5.4 %"),
    ("43,700, 4 years, rate?", "payment", "43,700, 4 years, rate?"),
    ("43,700 at 5.4 % over 4 years, 580", "Say what 580 is", "580"),
    ("43,700 at 5.4 % over 4 years, 5.8", "Say what 5.8 is", "5.8"),
    ("43,700 5.4 over 4 years, 36m", "Say what 36m is", "36m"),
    ("43,700 815 4y", "Say what 815 is", "815"),
    ("43,700 at 5.4 % over 4 years, 5.6 %", "said twice", "5.6 %"),
    ("43,700 at 5.4 % over 4 years over 60 months", "said twice", "over 60 months"),
    ("43,700 EUR at 5.4 %, pays 900 USD", "currency is said twice", "pays 900 USD"),
    ("43,700 at 5.4 %, 48 payments, lent 03/04/2027", "say the month", "lent 03/04/2027"),
    ("43,700 at 5.4 % over 4 years, nothing in Dec", "state the start", "nothing in Dec"),
    ("43,700 at 5.4 % over 4 years, then 6 %", "Say from when", "then 6 %"),
    ("43,700 bananas at 5.4 % over 4 years", "not understood", "bananas"),
    ("43,700 at 5.4 % over 4 years, at 60 repay 500", "no payment 60", "at 60 repay 500"),
    ("rate? payment? 43,700 over 4 years", "Only one figure", "rate?"),
    ("43,700 at 5.4 % over 5 weeks", "1.15 monthly payments", "over 5 weeks"),
    ("-5,000 at 5 % over 4 years", "zero or more", "-5,000"),
    ("25 % left, rate?, how much?, 12 payments", "needs that amount", "25 % left"),
    ("repay 100 a year, 43,700 at 5.4 % over 4 years", "say at which", "repay 100 a year"),
    ("", "Nothing is said", ""),
    ("?", "Not stated are", "?"),
    ("1" * 2_001, "too long", "1" * 2_001),
]


def content_of(line: Line) -> dict[str, Any]:
    assert line.loan is not None, [error.message for error in line.errors]
    return loans.write(line.loan)


class Lines(TestCase):
    maxDiff = None

    def test_a_line_is_the_document_it_says(self) -> None:
        for line, meant in SAID:
            with self.subTest(line):
                self.assertEqual(content_of(read_line(line)), {**USUAL, **meant})

    def test_a_short_form_is_the_line_it_is_short_for(self) -> None:
        for short, whole in SHORT:
            with self.subTest(short):
                self.assertEqual(content_of(read_line(short)), content_of(read_line(whole)))

    def test_what_a_short_form_may_not_mean_is_marked_as_a_guess(self) -> None:
        for short, field in (
            ("43,700 5.4% 48m", "count"),
            ("43,700 5.4 48m", "rate.percent"),
            ("22,300 7.4% 36 adv", "count"),
            ("45,800 6.6% 6y up to 10", "rounding.payment"),
            ("186,000-22% 12y 5.15%", "purchase.price"),
            ("2,350+85pm 3.2% 8y", "we"),
            ("96,300 7.1/6.4/6.9% 3y", "clauses.0.from"),
            ("60,000 5% 5y +20,000 at 4", "clauses.0.advance"),
            ("60,000 5% 5y -4,500 at 12", "clauses.0.repay"),
        ):
            with self.subTest(short):
                guesses = [piece.field for piece in read_line(short).read if piece.guess]
                self.assertIn(field, guesses)

    def test_three_years_of_nothing_but_lumps_ask_for_what_is_left(self) -> None:
        """96,300 x 1.071 - 21,000 = 82,137.30, x 1.064 - 38,500 = 48,894.09, x 1.069 = 52,267.78:
        by hand, each year to the cent."""
        said = "96,300 7.1/6.4/6.9% by year 3y yearly no payments -21,000 at 1 -38,500 at 2"
        line = read_line(said)
        assert line.loan is not None
        self.assertEqual(loans.solve(line.loan).value, "52267.78")

    def test_a_clause_is_the_clause_it_says(self) -> None:
        loan = "43,700 at 5.4 % over 4 years, lent 1 March 2027"
        for said, meant in CLAUSES:
            for line in (f"{loan}; {said}", f"{said}\n{loan}"):
                with self.subTest(line):
                    self.assertEqual(content_of(read_line(line))["clauses"], [meant])

    def test_what_is_put_aside_grows_to_what_the_contract_says(self) -> None:
        """2,350 and 85 a month over eight years at 3.2 %: 12,320.21 to the cent (the contract)."""
        line = read_line("2,350, 85 a month put aside, eight years at 3.2 %")
        assert line.loan is not None
        self.assertEqual(loans.solve(line.loan).value, "12320.21")

    def test_the_order_of_pieces_is_free(self) -> None:
        pieces = ["48,250", "at 6.35 %", "over 5 years", "20k left at the end", "in advance"]
        meant = content_of(read_line(", ".join(pieces)))
        for turn in range(len(pieces)):
            turned = pieces[turn:] + pieces[:turn]
            self.assertEqual(content_of(read_line("; ".join(turned))), meant)

    def test_what_is_wrong_is_told_where_it_stands(self) -> None:
        for line, says, marked in WRONG:
            with self.subTest(line[:60]):
                read = read_line(line)
                self.assertIsNone(read.loan)
                found = [error for error in read.errors if says in error.message]
                self.assertTrue(found, [error.message for error in read.errors])
                error = found[0]
                self.assertEqual(error.field, "line")
                self.assertEqual(line[slice(*error.at)], marked or line)

    def test_guesses_are_marked_and_nothing_else(self) -> None:
        read = read_line("43,700 at 5 over 4 years, 2 % fee").read
        guesses = {piece.field: (piece.text, piece.value) for piece in read if piece.guess}
        self.assertEqual(
            guesses,
            {
                "currency": ("", "EUR"),
                "every": ("", "month"),
                "rate.percent": ("at 5", "5"),
                "clauses.0.taken": ("2 % fee", "from-proceeds"),
            },
        )
        sure = {piece.field: piece.value for piece in read if not piece.guess}
        self.assertEqual((sure["principal"], sure["count"], sure["payment"]), ("43700", 48, "?"))

    def test_a_comma_groups_unless_a_number_shows_it_to_be_the_decimal_one(self) -> None:
        for line, principal in [
            ("43,700 at 5 % over 4 years", "43700"),
            ("43,700 at 5.4 % over 4 years", "43700"),
            ("43,7 at 5 % over 4 years", "43.7"),
            ("43,700 at 5,4 % over 4 years", "43.7"),
            ("43.700 at 5,4 % over 4 years", "43700"),
            ("1.234,50 at 5 % over 4 years", "1234.5"),
            ("48 250 at 5 % over 4 years", "48250"),
            ("1.2m at 5 % over 4 years", "1200000"),
            ("48,25,000 at 5 % over 4 years", "4825000"),
            ("4.5 lakh at 5 % over 4 years", "450000"),
            ("2 crores at 5 % over 4 years", "20000000"),
        ]:
            with self.subTest(line):
                self.assertEqual(content_of(read_line(line))["principal"], principal)
        comma = MARKS["point-comma"]
        for line, principal in [("43.700 at 5 %, 4y", "43700"), ("43,700 at 5 %, 4y", "43700")]:
            self.assertEqual(content_of(read_line(line, comma))["principal"], principal)

    @given(
        principal=st.decimals("1", "9999999", places=2),
        percent=st.decimals("0", "40", places=3),
        count=st.integers(1, 600),
        every=st.sampled_from(sorted(PERIODS)),
        timing=st.sampled_from(["in-arrears", "in-advance"]),
        quoted=st.sampled_from(["nominal", "effective"]),
        asked=st.sampled_from(["principal", "count", "payment", "balance", "rate"]),
        we=st.sampled_from(["lend", "borrow"]),
    )
    def test_the_sentence_of_a_loan_reads_as_that_loan(self, **drawn: Any) -> None:
        """Law: what our sentence says is understood as what it was said of."""
        asked, quoted = drawn.pop("asked"), drawn.pop("quoted")
        content: dict[str, Any] = {
            "zephyrant": "loan/1",
            "currency": "EUR",
            "principal": str(drawn["principal"]),
            "rate": {"percent": str(drawn["percent"]), "quoted": quoted},
            "count": drawn["count"],
            "every": drawn["every"],
            "payment": "123.45",
            "balance": "7.50",
            "timing": drawn["timing"],
            "we": drawn["we"],
        }
        if asked == "rate":
            content["rate"]["percent"] = "?"
        else:
            content[asked] = "?"
        loan = loans.check(content)
        read = read_line(loans.terms_in_words(loan, POINT))
        assert read.loan is not None, [error.message for error in read.errors]
        for name in ("principal", "count", "every", "payment", "balance", "timing", "we"):
            self.assertEqual(getattr(read.loan, name), getattr(loan, name), name)
        self.assertEqual(read.loan.rate.percent, loan.rate.percent)
        self.assertEqual(read.loan.style, loan.style)

    @given(st.text(max_size=300))
    def test_whatever_is_typed_is_read_or_refused(self, line: str) -> None:
        read = read_line(line)
        self.assertEqual(read.loan is None, bool(read.errors))
        for error in read.errors:
            begin, end = error.at
            self.assertTrue(0 <= begin <= end <= len(line))

    @given(
        st.lists(
            st.sampled_from(WORDS),
            max_size=30,
        )
    )
    def test_pieces_in_any_order_are_read_or_refused(self, words: list[str]) -> None:
        line = " ".join(words)
        read = read_line(line)
        self.assertEqual(read.loan is None, bool(read.errors))
        json.dumps([piece.model_dump() for piece in read.read])


class OnTheDesk(TestCase):
    def test_a_line_becomes_the_statement_one_would_type(self) -> None:
        said = said_loan("43.700 at 5,4 % over 4 years", "point-comma")
        statement = said.statement
        assert statement is not None and said.found is not None
        self.assertEqual(
            (statement.principal, statement.percent, statement.count, statement.payment),
            ("43.700,00", "5,40", "48", "?"),
        )
        assert said.sentence is not None
        self.assertIn("43.700,00 EUR", said.sentence)
        self.assertEqual((said.found.asks, said.found.unit), ("Each monthly payment is", "EUR"))
        level = Decimal(43700) * Decimal("0.0045") / (1 - Decimal("1.0045") ** -48)
        self.assertEqual(
            said.found.value, f"{level:.2f}".replace(".", ",").replace("1014", "1.014")
        )

    def test_what_is_missing_stays_empty_in_the_statement(self) -> None:
        said = said_loan("43,700 at 5.4 %", "comma-point")
        assert said.statement is not None
        self.assertEqual(said.missing, ("number of payments", "payment"))
        self.assertEqual((said.statement.count, said.statement.payment), ("", ""))
        self.assertEqual(said.statement.principal, "43,700.00")
        self.assertEqual(said.errors, ())

    def test_what_is_wrong_is_no_statement(self) -> None:
        said = said_loan("43,700 bananas", "comma-point")
        self.assertIsNone(said.statement)
        error = next(error for error in said.errors if "bananas" in error.message)
        self.assertEqual((error.begin, error.end), (7, 14))

    def test_a_loan_without_an_answer_says_why(self) -> None:
        said = said_loan("43,700 at 12 %, pays 100", "comma-point")
        assert said.found is not None
        self.assertIsNone(said.found.value)
        self.assertIn("437.00", said.found.reason or "")  # 43,700 x 1 %: the first interest

    def test_what_is_usual_holds_where_a_line_says_nothing(self) -> None:
        usual = Usual("CHF", "quarter", "effective")
        said = said_loan("43,700 at 5.4 over 4 years", "comma-point", usual)
        assert said.statement is not None
        told = said.statement
        self.assertEqual(
            (told.currency, told.every, told.quoted, told.count),
            ("CHF", "quarter", "effective", "16"),
        )
        self.assertEqual(
            [guess.says for guess in said.guesses if not guess.text],
            ["in CHF", "paid quarterly", "a rate quoted as effective"],
        )
        half = said_loan("43,700 at 5.4 %, 4 years", "comma-point", Usual(compounding="half-year"))
        assert half.statement is not None
        self.assertEqual(half.statement.compounding, "half-year")
        for line in (
            "€43,700 at 5.4 % nominal over 4 years monthly",
            "EUR 43,700 at 5.4 % compounded monthly over 48 monthly payments",
        ):
            otherwise = said_loan(line, "comma-point", usual).statement
            assert otherwise is not None
            self.assertEqual(
                (otherwise.currency, otherwise.every, otherwise.quoted), ("EUR", "month", "nominal")
            )

    def test_clauses_in_lines_are_typed_for_the_statement(self) -> None:
        statement = Statement(count="48", marks="comma-point")
        said = said_clauses("at 12 repay 4,500\n2 % fee; bananas\n43,700", statement)
        told = [(clause.verb, clause.at, clause.figure) for clause in said.clauses]
        self.assertEqual(told, [("repay", "12", "4,500.00"), ("fee", "0", "2")])
        self.assertEqual(
            [guess.says for guess in said.guesses], ["a fee kept back from the proceeds"]
        )
        self.assertEqual(len(said.errors), 2)
        last = said_clauses("nothing for the last 3 payments", statement).clauses[0]
        self.assertEqual((last.begin, last.to, last.pay), ("46", "48", "nothing"))
        aside = said_clauses("85 a month put aside", statement)
        self.assertEqual(
            [(each.verb, each.begin, each.figure) for each in aside.clauses],
            [("advance", "1", "85.00")],
        )
        self.assertEqual(aside.errors, ())
        unknown = said_clauses("nothing for the last 3 payments", Statement(count="?"))
        self.assertIn("state the term", unknown.errors[0].message)
