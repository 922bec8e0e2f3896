"""What a table of loans moves: sums, lives, durations, early repayment, shifted indices."""

from datetime import date
from decimal import ROUND_HALF_UP, Decimal
from typing import Any
from unittest import TestCase

import QuantLib as Ql
from hypothesis import given
from hypothesis import strategies as st
from mpmath import mp, mpf

from zephyrant.loans import MARKS, NotALoan
from zephyrant.loans.tape import (
    Defaults,
    Portfolio,
    PortfolioAsked,
    PortfolioTyped,
    currency_codes,
    flows_of,
    outliers,
    portfolio_asked,
    portfolio_of,
    portfolio_told,
    solve_tape,
    summarise,
)

CENT = Decimal("0.01")
#: Fixed at 3 % before the loans begin, and no more after that.
INDEX: dict[str, Any] = {"harbour": {"fixings": [["2026-12-31", "3"]]}}


def table(*rows: dict[str, str]) -> dict[Any, list[str]]:
    """Rows as columns."""
    names = dict.fromkeys(name for row in rows for name in row)
    return {name: [row.get(name, "") for row in rows] for name in names}


def loan(**figures: str) -> dict[str, str]:
    return {"principal": "12000", "percent": "6", "count": "12", "payment": "?", **figures}


def moved(
    columns: dict[Any, list[str]], defaults: Defaults | None = None, **asked: Any
) -> Portfolio:
    question = PortfolioAsked(**asked)
    defaults = defaults or Defaults()
    return portfolio_of(flows_of(columns, defaults, question), question)


def way(portfolio: Portfolio, scenario: str = "agreed", currency: str = "EUR") -> Any:
    (part,) = (each for each in portfolio["parts"] if each["currency"] == currency)
    return {each["scenario"]: each for each in part["scenarios"]}[scenario]  # type: ignore[index]


def cents(value: Any) -> Decimal:
    return Decimal(mp.nstr(value, 20)).quantize(CENT, ROUND_HALF_UP)


ROWS = st.fixed_dictionaries(
    {
        "principal": st.integers(1_000, 900_000).map(str),
        "percent": st.sampled_from(["0.5", "4.125", "6.35", "11"]),
        "count": st.integers(2, 60).map(str),
        "payment": st.just("?"),
        "balance": st.sampled_from(["0", "", "400"]),
        "timing": st.sampled_from(["", "in-advance"]),
        "every": st.sampled_from(["", "quarter", "year", "week"]),
        "repaid": st.sampled_from(["", "", "equal-principal", "interest-only", "at-the-end"]),
        "start": st.sampled_from(["2027-01-31", "2027-03-15"]),
    }
)


class Sums(TestCase):
    @given(st.lists(ROWS, min_size=1, max_size=4), st.sampled_from(["payment", "balance"]))
    def test_they_are_those_of_the_rows(self, rows: list[dict[str, str]], unknown: str) -> None:
        """Principal is what was lent, interest what the rows tell; quarters are three months."""
        if unknown == "balance":
            rows = [{**row, "payment": "30", "balance": "?"} for row in rows]
        columns = table(*rows)
        told = solve_tape(columns, Defaults())
        codes = currency_codes(columns, Defaults(), len(rows))
        summed = summarise(told, codes, outliers(told))["sums"]
        portfolio = moved(columns)
        if not summed:
            self.assertEqual(portfolio["parts"], [])
            return
        (sums,) = summed
        whole = way(portfolio)
        self.assertEqual(whole["rows"], sums["rows"])
        self.assertEqual(float(whole["lent"]), sums["principal"])
        self.assertEqual(float(whole["principal"]), sums["principal"])
        self.assertEqual(float(whole["interest"]), sums["total_interest"])
        self.assertEqual(Decimal(whole["flows"][-1]["balance"]), 0)
        months, quarters = whole["flows"], way(moved(columns, by="quarter"))["flows"]
        by_quarter: dict[str, Decimal] = {}
        for each in months:
            year, month = each["period"].split("-")
            name = f"{year}-Q{(int(month) + 2) // 3}"
            by_quarter[name] = by_quarter.get(name, Decimal(0)) + Decimal(each["interest"])
        for each in quarters:
            self.assertEqual(Decimal(each["interest"]), by_quarter.get(each["period"], 0))

    @given(st.lists(ROWS, min_size=1, max_size=2), st.sampled_from(["payment", "percent"]))
    def test_side_by_side_and_alone_are_the_same(
        self, rows: list[dict[str, str]], unknown: str
    ) -> None:
        """A row that is told on a day goes the exact way."""
        if unknown == "percent":
            rows = [
                {
                    **{name: text for name, text in row.items() if name != "repaid"},
                    "percent": "?",
                    "payment": str(int(row["principal"]) * 11 // (int(row["count"]) * 10) + 1),
                }
                for row in rows
            ]
        columns = table(*rows)
        asked: dict[str, Any] = {"on": date(2027, 5, 1), "early": Decimal(8), "rate": Decimal(5)}
        alone = moved(columns, Defaults(owed_on=date(2027, 5, 1)), **asked)
        self.assertEqual(moved(columns, **asked), alone)

    def test_by_hand(self) -> None:
        """12,000 in twelve parts of 1,000, half a percent a month: interest 60, 55, ... 5."""
        flows = way(moved(table(loan(repaid="equal-principal"))))["flows"]
        self.assertEqual([each["interest"] for each in flows][:3], ["60.00", "55.00", "50.00"])
        self.assertEqual({each["principal"] for each in flows}, {"1000.00"})
        self.assertEqual([each["balance"] for each in flows][-2:], ["1000.00", "0.00"])
        self.assertEqual([each["period"] for each in flows], [str(n) for n in range(1, 13)])
        quarters = way(moved(table(loan(repaid="equal-principal")), by="quarter"))["flows"]
        self.assertEqual(quarters[0]["interest"], "165.00")

    def test_what_is_left_is_paid_at_the_end(self) -> None:
        flows = way(moved(table(loan(repaid="interest-only"))))["flows"]
        self.assertEqual(flows[-1]["principal"], "12000.00")
        self.assertEqual(flows[-2]["balance"], "12000.00")
        # In advance the end of the last period is a month after the last payment.
        advance = way(moved(table(loan(balance="4000", timing="in-advance"))))["flows"]
        self.assertEqual((len(advance), advance[-1]["balance"]), (12, "0.00"))
        self.assertGreater(Decimal(advance[-1]["principal"]), 3_900)

    def test_currencies_stand_apart_and_rows_without_an_answer_move_nothing(self) -> None:
        none = loan(percent="?", payment="?")
        rows = table(loan(), loan(currency="JPY", principal="1200000"), none)
        portfolio = moved(rows)
        self.assertEqual([part["currency"] for part in portfolio["parts"]], ["EUR", "JPY"])
        self.assertEqual(way(portfolio, currency="JPY")["principal"], "1200000")
        self.assertEqual(way(portfolio)["rows"], 1)
        self.assertEqual(moved(table(none))["parts"], [])


class Lives(TestCase):
    def test_of_equal_principal(self) -> None:
        """(n + 1) / 2 periods, a closed form."""
        for count, every, a_year in (("12", "", 12), ("40", "quarter", 4), ("7", "year", 1)):
            row = loan(repaid="equal-principal", count=count, every=every, principal="16800")
            life = way(moved(table(row)))["average_life"]
            self.assertAlmostEqual(float(life), (int(count) + 1) / 2 / a_year, places=5)

    def test_interest_is_principal_by_rate_by_life(self) -> None:
        """Total interest = principal x periodic rate x average life in periods, but for the
        rounding of each row."""
        for row in (loan(), loan(count="60"), loan(repaid="equal-principal", count="36")):
            whole = way(moved(table(row)))
            interest = 12000 * 0.005 * float(whole["average_life"]) * 12
            self.assertAlmostEqual(float(whole["interest"]), interest, delta=0.005 * 60)

    def test_weighted_by_what_is_lent(self) -> None:
        """One of a year and three times as much of three years, each repaid at its end."""
        rows = table(
            loan(repaid="interest-only", count="1", every="year"),
            loan(repaid="interest-only", count="3", every="year", principal="36000"),
        )
        self.assertEqual(way(moved(rows))["average_life"], "2.500000")

    def test_of_a_loan_repaid_at_its_end(self) -> None:
        """Interest is added, nothing is repaid before the end: its term, and so is its duration."""
        row = loan(repaid="at-the-end", count="3", every="year")
        told = way(moved(table(row), rate=Decimal(6)))
        self.assertEqual((told["average_life"], told["macaulay"]), ("3.000000", "3.000000"))
        self.assertAlmostEqual(float(told["worth"]), 12000, delta=0.01)


class Durations(TestCase):
    def test_of_a_bond_at_par(self) -> None:
        """Macaulay (1 + y) / y x (1 - (1 + y)^-n), modified (1 - (1 + y)^-n) / y: closed forms."""
        bond = loan(principal="1000", percent="5", count="10", every="year", repaid="interest-only")
        told = way(moved(table(bond), rate=Decimal(5)))
        with mp.workdps(30):
            modified = (1 - mpf("1.05") ** -10) / mpf("0.05")
        self.assertEqual(told["worth"], "1000.00")
        self.assertAlmostEqual(float(told["modified"]), float(modified), places=6)
        self.assertAlmostEqual(float(told["macaulay"]), float(modified) * 1.05, places=6)

    def test_of_level_payments(self) -> None:
        """(1 + i) / i - n / ((1 + i)^n - 1) periods, of an annuity at its own rate; compounded as
        it is paid, modified by one of its periods. Of so much cents do not show."""
        row = loan(count="60", principal="12000000")
        told = way(moved(table(row), rate=Decimal(6), compounded=12))
        with mp.workdps(30):
            i = mpf("0.005")
            periods = (1 + i) / i - 60 / ((1 + i) ** 60 - 1)
        self.assertAlmostEqual(float(told["macaulay"]), float(periods) / 12, places=5)
        self.assertAlmostEqual(float(told["modified"]), float(periods / 12 / (1 + i)), places=5)
        self.assertAlmostEqual(float(told["worth"]), 12_000_000, delta=0.6)

    def test_as_an_independent_library_has_them(self) -> None:
        """QuantLib's flows of the same amounts, at whole years of 30/360."""
        row = loan(count="20", every="quarter", repaid="equal-principal", start="2027-01-15")
        told = way(moved(table(row), by="quarter", rate=Decimal("4.5")))
        legs, start = [], Ql.Date(15, 1, 2027)
        calendar = Ql.NullCalendar()
        for number, flow in enumerate(told["flows"][1:], 1):
            day = calendar.advance(start, Ql.Period(3 * number, Ql.Months))
            legs.append(Ql.SimpleCashFlow(float(flow["principal"]) + float(flow["interest"]), day))
        rate = Ql.InterestRate(
            0.045, Ql.Thirty360(Ql.Thirty360.BondBasis), Ql.Compounded, Ql.Annual
        )
        for name, kind in (("macaulay", Ql.Duration.Macaulay), ("modified", Ql.Duration.Modified)):
            there = Ql.CashFlows.duration(legs, rate, kind, False, start)
            self.assertAlmostEqual(float(told[name]), there, places=6)
        self.assertAlmostEqual(
            float(told["worth"]), Ql.CashFlows.npv(legs, rate, False, start), places=2
        )

    def test_at_its_own_rate_it_is_worth_what_is_owed_however_early_it_is_repaid(self) -> None:
        for early in ("0", "6", "40"):
            asked: dict[str, Any] = {"early": Decimal(early), "rate": Decimal(6)}
            told = moved(table(loan(count="48")), compounded=12, **asked)
            name = "early" if early != "0" else "agreed"
            self.assertAlmostEqual(float(way(told, name)["worth"]), 12000, delta=0.5)


class RepaidEarly(TestCase):
    def test_the_same_part_each_month(self) -> None:
        """6 % a year is 1 - 0.94^(1/12) = 0.5143 % of what is owed each month: rolled here."""
        told = way(moved(table(loan(repaid="equal-principal")), early=Decimal(6)), "early")
        with mp.workdps(30):
            part = 1 - mpf("0.94") ** (mpf(1) / 12)
            self.assertEqual(mp.nstr(100 * part, 4), "0.5143")
            owed, early, interest = mpf(12000), [], []
            for number in range(12):
                interest.append(owed * mpf("0.005"))
                owed -= owed / (12 - number)
                early.append(owed * part)
                owed -= early[-1]
        for flow, here, there in zip(told["flows"], early, interest, strict=True):
            # Each is what all until then comes to, rounded, less what came before.
            self.assertAlmostEqual(Decimal(flow["early"]), cents(here), delta=CENT)
            self.assertAlmostEqual(Decimal(flow["interest"]), cents(there), delta=CENT)
        self.assertEqual(Decimal(told["early"]), cents(sum(early)))
        self.assertEqual(Decimal(told["interest"]), cents(sum(interest)))
        self.assertEqual(Decimal(told["principal"]) + Decimal(told["early"]), 12000)

    def test_by_the_time_between_payments(self) -> None:
        """By quarters three months of it at once: 1,200 paid, then 1 - 0.94^(1/4) of the rest."""
        row = loan(repaid="equal-principal", count="10", every="quarter")
        told = way(moved(table(row), by="quarter", early=Decimal(6)), "early")
        with mp.workdps(30):
            part = 1 - mpf("0.94") ** (mpf(1) / 4)
        self.assertEqual(Decimal(told["flows"][0]["early"]), cents(10800 * part))

    def test_a_loan_in_advance_bears_no_interest_on_what_has_gone(self) -> None:
        """1,000 owed after the first payment; after it the part is gone, with its interest."""
        row = loan(repaid="", count="12", timing="in-advance")
        told = way(moved(table(row), early=Decimal(12)), "early")
        agreed = way(moved(table(row)))
        with mp.workdps(30):
            stays = mpf("0.88") ** (mpf(1) / 12)
        # The first payment is made at the start, when nothing has gone; at the second the interest
        # of the first month is borne by all of it, too.
        self.assertEqual(told["flows"][0]["interest"], agreed["flows"][0]["interest"])
        third = Decimal(agreed["flows"][1]["interest"])
        expected = cents(mpf(str(third)) * stays)
        self.assertAlmostEqual(Decimal(told["flows"][1]["interest"]), expected, delta=CENT)


class OnADay(TestCase):
    def test_what_was_paid_is_past(self) -> None:
        """After five of twelve payments of 1,000 seven are left, over (1 + 7) / 2 months."""
        row = loan(repaid="equal-principal", start="2027-01-15")
        told = way(moved(table(row), on=date(2027, 6, 15)))
        self.assertEqual((told["owed"], told["lent"]), ("7000.00", "0.00"))
        self.assertEqual((told["flows"][0]["period"], len(told["flows"])), ("2027-07", 7))
        self.assertAlmostEqual(float(told["average_life"]), 4 / 12, places=6)
        # A day before the fifth it is not past.
        earlier = way(moved(table(row), on=date(2027, 6, 14)))
        self.assertEqual((earlier["owed"], len(earlier["flows"])), ("8000.00", 8))
        later = way(moved(table(row), on=date(2029, 1, 1)))
        self.assertEqual((later["flows"], later["average_life"]), ([], None))

    def test_those_without_dates_are_lent_on_it(self) -> None:
        rows = table(loan(start="2027-03-31"), loan())
        with self.assertRaises(NotALoan) as caught:
            moved(rows)
        (error,) = caught.exception.errors
        self.assertEqual(error.field, "on")
        self.assertIn("no day on which they are lent: 1.", error.message)
        # A row that is no loan has no day, and needs none.
        question = PortfolioAsked()
        flows = flows_of(rows, Defaults(), question, ["", "total"])
        self.assertEqual(way(portfolio_of(flows, question))["rows"], 1)
        told = way(moved(rows, on=date(2027, 2, 28)))
        self.assertEqual(told["flows"][0]["period"], "2027-02")
        self.assertEqual(told["flows"][1]["lent"], "12000.00")
        self.assertEqual(told["lent"], "24000.00")


class Shifted(TestCase):
    def floating(self, **more: str) -> dict[str, str]:
        row = {
            **loan(repaid="interest-only", start="2027-01-01", count="12"),
            **{"index": "harbour", "margin": "2", "resets": "month"},
        }
        del row["percent"]
        return {**row, **more}

    def moved(self, *rows: dict[str, str], **asked: Any) -> Portfolio:
        defaults = Defaults.model_validate({"indices": INDEX})
        return moved(table(*rows), defaults, **asked)

    def test_indices_a_point_higher_and_lower(self) -> None:
        """12,000 at 3 + 2 %, 600 a year; a point is 10 a month, from the first reset on: the first
        month is fixed when it is lent."""
        fixed = Decimal(way(moved(table(loan())))["interest"])
        told = {
            name: Decimal(way(self.moved(self.floating()), name)["interest"])
            for name in ("agreed", "-200", "-100", "+100", "+200")
        }
        self.assertEqual(told["agreed"], 600)
        self.assertEqual(told["+100"] - told["agreed"], 110)
        self.assertEqual(told["+200"] - told["agreed"], 220)
        self.assertEqual(told["-100"] - told["agreed"], -110)
        self.assertEqual(told["-200"] - told["agreed"], -220)
        # One at a fixed rate stays as it is.
        both = self.moved(self.floating(), {**loan(), "start": "2027-01-01"})
        self.assertEqual(Decimal(way(both, "+100")["interest"]), told["+100"] + fixed)
        self.assertEqual(both["parts"][0]["floating"], 1)

    def test_a_floor_holds(self) -> None:
        """The index at 2.5 % at the least: 50 in the first month, 45 in each of the others."""
        told = self.moved(self.floating(floor="2.5"))
        self.assertEqual(way(told, "-200")["interest"], "545.00")

    def test_rows_that_are_no_loans_so_shifted_are_counted_apart(self) -> None:
        """At 3 - 2 % two points less leave a rate below 0, at which there is no interest to pay;
        the other, at 5 %, pays 50 in the first month and 30 in each of the others."""
        told = self.moved(self.floating(margin="-2"), self.floating())
        shifted = way(told, "-200")
        self.assertEqual((shifted["missing"], shifted["rows"]), (1, 1))
        self.assertEqual(shifted["interest"], "380.00")
        self.assertEqual((way(told, "-100")["missing"], way(told, "-100")["rows"]), (0, 2))
        said = portfolio_told(told, PortfolioTyped(scenario="-200"), MARKS["comma-point"])
        self.assertIn(
            "Loans that cannot be paid with indices 2 points lower: 1; they are not in it.",
            said.notes,
        )
        titles = [each.title for each in said.scenarios]
        self.assertEqual(titles[2:4], ["indices 1 point lower", "indices 1 point higher"])

    def test_payments_that_are_kept_leave_the_rest_to_the_last(self) -> None:
        """Over 40 years those at 3.2 % do not pay the interest at 5.2 %: more is owed than was
        lent, and the last payment takes it."""
        told = way(self.moved(self.floating(repaid="level", count="480", margin="0.2")), "+200")
        self.assertEqual((told["missing"], told["rows"], told["principal"]), (0, 1, "12000.00"))
        self.assertGreater(Decimal(told["flows"][-1]["principal"]), 12_000)
        self.assertLess(Decimal(told["flows"][1]["principal"]), 0)

    def test_with_what_is_repaid_early(self) -> None:
        told = self.moved(self.floating(), early=Decimal(6))
        self.assertEqual(
            [each["scenario"] for each in told["parts"][0]["scenarios"]],
            ["agreed", "early", "-200", "-100", "+100", "+200"],
        )
        # Of what is owed after the first month 6 % are borne in place of 5 %.
        shifted, early = (Decimal(way(told, name)["interest"]) for name in ("+100", "early"))
        self.assertAlmostEqual(shifted, 50 + (early - 50) * 6 / 5, delta=CENT)


class Asked(TestCase):
    def refused(self, field: str, says: str, **typed: Any) -> None:
        with self.assertRaises(NotALoan) as caught:
            portfolio_asked(PortfolioTyped(**typed), MARKS["comma-point"])
        (error,) = caught.exception.errors
        self.assertEqual(error.field, field)
        self.assertIn(says, error.message)

    def test_as_people_type_it(self) -> None:
        asked = portfolio_asked(
            PortfolioTyped(on="15 Mar 2027", early="6 %", rate="5 1/4"), MARKS["comma-point"]
        )
        self.assertEqual(asked.on, date(2027, 3, 15))
        self.assertEqual((asked.early, asked.rate), (Decimal(6), Decimal("5.25")))
        self.assertIsNone(portfolio_asked(PortfolioTyped(), MARKS["comma-point"]).rate)

    def test_what_cannot_be(self) -> None:
        self.refused("on", "not one day of the calendar", on="soon")
        self.refused("on", "not one day of the calendar", on="31 Feb 2027")
        self.refused("early", "less than 100 %", early="100")
        self.refused("early", "less than 100 %", early="-1")
        self.refused("early", "", early="much")
        self.refused("rate", "from −20 %", rate="-30")
        self.refused("rate", "from −20 %", rate="100000")
        self.refused("rate", "not a percentage", rate="1e9")
        self.refused("rate", "", rate="?")

    def test_told(self) -> None:
        typed = PortfolioTyped(early="6", rate="5", scenario="early", by="quarter")
        marks = MARKS["comma-point"]
        asked = portfolio_asked(typed, marks)
        rows = table(loan(repaid="equal-principal", start="2027-01-15"))
        portfolio = portfolio_of(flows_of(rows, Defaults(), asked), asked)
        told = portfolio_told(portfolio, typed, marks)
        self.assertEqual([each.title for each in told.scenarios][1], "6 % a year repaid early")
        self.assertEqual(told.flows.rows[0].title, "Q1 2027")
        self.assertEqual(told.flows.rows[0].cells[0], "12,000.00")
        self.assertIn("years on average. At 5.00 %", told.says)
        with self.assertRaises(NotALoan):
            portfolio_told({**portfolio, "parts": []}, typed, marks)
