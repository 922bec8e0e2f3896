"""Clauses on days: against a roll of the balance day by day, written anew from the contract.

Between two payments interest accrues by days and is added at the end of the period. Each amount
bears it from its own day: over the day count's fraction of what is left of the period (QuantLib's),
or its share of the days where periods count as equal.
"""

from collections.abc import Iterator
from datetime import date, timedelta
from decimal import Decimal
from typing import Any
from unittest import TestCase

from hypothesis import assume, given, settings
from hypothesis import strategies as st
from mpmath import mp, mpf

from zephyrant import loans
from zephyrant.loans.questions.balance_at import owed
from zephyrant.loans.wording.marks import MARKS

from .documents import BY_DAYS, document, irregular, solve
from .test_dates import THEIRS, quantlib

A_YEAR = {"month": 12, "quarter": 4, "week": 52, "two-weeks": 26}
CENT = Decimal("0.01")


def following(start: date, every: str, number: int) -> date:
    """The day so many periods after the start; starts lie before the 29th."""
    if every in ("week", "two-weeks"):
        return start + timedelta(days=number * (7 if every == "week" else 14))
    months = start.month - 1 + number * (1 if every == "month" else 3)
    return date(start.year + months // 12, months % 12 + 1, start.day)


def part(day_count: str, begins: date, ends: date, whole: tuple[date, date], often: int) -> mpf:
    """How much of a period's rate a part of it bears."""
    if day_count == "equal":
        return mpf((ends - begins).days) / (whole[1] - whole[0]).days
    theirs = THEIRS[day_count].yearFraction(quantlib(begins), quantlib(ends))
    # Their fraction is a float of a quotient of days: taken back to it.
    return often * mpf(str(round(Decimal(theirs) * 365 * 366 * 360, 0))) / (365 * 366 * 360)


class Deal:
    """A document of the strategy below, rolled in mpmath."""

    def __init__(self, content: dict[str, Any]) -> None:
        self.content, self.often = content, A_YEAR[content["every"]]
        self.start = date.fromisoformat(content["start"])
        self.moved: dict[date, mpf] = {}
        self.rates: list[tuple[date, mpf]] = [(self.start, self._rate(content["rate"]))]
        for clause in content["clauses"]:
            if "rate" in clause:
                day = date.fromisoformat(clause["from"])
                self.rates.append((day, self._rate(clause["rate"])))
                continue
            day = date.fromisoformat(clause["at"])
            amount = mpf(clause["advance"]) if "advance" in clause else -mpf(clause["repay"])
            self.moved[day] = self.moved.get(day, mpf(0)) + amount

    def _rate(self, quote: dict[str, Any]) -> mpf:
        return mpf(quote["percent"]) / 100 / self.often

    def rate_on(self, day: date) -> mpf:
        """The rate of a period from a day on: the one that begins last, of two the later stated."""
        return max(
            enumerate(self.rates), key=lambda each: (each[1][0] <= day, each[1][0], each[0])
        )[1][1]

    def periods(self) -> Iterator[tuple[date, date]]:
        for number in range(self.content["count"]):
            yield (
                following(self.start, self.content["every"], number),
                following(self.start, self.content["every"], number + 1),
            )

    def interest(self, day: date, until: date, whole: tuple[date, date]) -> mpf:
        """On 1 from a day of a period to another, cut where the rate changes."""
        cuts = sorted({each for each, _ in self.rates if day < each < until})
        return sum(
            self.rate_on(one) * part(self.content["day_count"], one, other, whole, self.often)
            for one, other in zip([day, *cuts], [*cuts, until], strict=True)
        )

    def until(self, balance: mpf, day: date, whole: tuple[date, date]) -> tuple[mpf, mpf]:
        """What has moved since a period began, and the interest up to a day of it: an amount bears
        it from its own day, so that nothing moved changes nothing."""
        moved = {each: amount for each, amount in self.moved.items() if whole[0] < each < whole[1]}
        moved = {each: amount for each, amount in moved.items() if each <= day}
        interest = balance * self.interest(whole[0], day, whole)
        interest += sum(
            amount * self.interest(each, day, whole) for each, amount in moved.items() if each < day
        )
        return sum(moved.values()), interest

    def closings(self, payment: mpf) -> list[mpf]:
        """What is owed after each payment, unrounded."""
        balance, told = mpf(self.content["principal"]) + self.moved.get(self.start, mpf(0)), []
        for begins, ends in self.periods():
            moved, interest = self.until(balance, ends, (begins, ends))
            balance += moved + interest + self.moved.get(ends, mpf(0)) - payment
            told.append(balance)
        return told


@st.composite
def on_days(draw: st.DrawFn) -> dict[str, Any]:
    """A dated loan whose clauses fall on any day."""
    start = date(draw(st.integers(2021, 2032)), draw(st.integers(1, 12)), draw(st.integers(1, 28)))
    every, count = draw(st.sampled_from(sorted(A_YEAR))), draw(st.integers(2, 18))
    length = (following(start, every, count) - start).days

    def day() -> str:
        if draw(st.integers(0, 3)) == 0:
            return following(start, every, draw(st.integers(0, count))).isoformat()
        return (start + timedelta(days=draw(st.integers(0, length)))).isoformat()

    def clause() -> dict[str, Any]:
        match draw(st.sampled_from(["advance", "repay", "rate"])):
            case "rate":
                percent = draw(st.sampled_from(["0", "3.65", "9.5", "-1"]))
                return {"from": day(), "rate": {"percent": percent}}
            case verb:
                return {"at": day(), verb: draw(st.sampled_from(["250", "1000.55", "4000"]))}

    return document(
        principal=draw(st.sampled_from(["48250", "20000"])),
        rate={"percent": draw(st.sampled_from(["6.35", "0", "12"]))},
        count=count,
        every=every,
        start=start.isoformat(),
        day_count=draw(st.sampled_from(["equal", *THEIRS])),
        balance=draw(st.sampled_from(["0", "1500"])),
        clauses=[clause() for _ in range(draw(st.integers(1, 4)))],
    )


class AgainstARollByDays(TestCase):
    def payment(self, content: dict[str, Any]) -> mpf:
        deal = Deal(content)
        at_zero, at_one = deal.closings(mpf(0))[-1], deal.closings(mpf(1))[-1]
        return (at_zero - mpf(content["balance"])) / (at_zero - at_one)

    @given(on_days())
    @settings(deadline=None, max_examples=150)
    def test_the_payment(self, content: dict[str, Any]) -> None:
        expected = self.payment(content)
        assume(expected > 1)
        answer = loans.solve(loans.check(content))
        self.assertLess(abs(mpf(answer.exact) - expected), mpf("1e-18") * expected)
        assert answer.proof
        self.assertTrue(answer.proof["holds"], answer.proof)

    @given(on_days())
    @settings(deadline=None, max_examples=100)
    def test_each_row(self, content: dict[str, Any]) -> None:
        """Unrounded, every row of the schedule is the roll."""
        expected = self.payment(content)
        assume(expected > 1)
        unrounded = {
            **content,
            "rounding": {"payment": "none", "interest": "none"},
        }
        answer = loans.solve(loans.check(unrounded))
        closings = Deal(content).closings(expected)
        assume(min(closings) >= 0)
        for row in answer.schedule:
            self.assertLess(abs(mpf(row["closing"]) - closings[row["number"] - 1]), mpf("1e-5"))

    @given(on_days(), st.data())
    @settings(deadline=None, max_examples=80)
    def test_any_amount_leads_back(self, content: dict[str, Any], data: st.DataObject) -> None:
        payment = self.payment(content)
        assume(payment > 1)
        amounts = [place for place, each in enumerate(content["clauses"]) if "rate" not in each]
        assume(amounts)
        place = data.draw(st.sampled_from(amounts))
        clause = content["clauses"][place]
        verb = "advance" if "advance" in clause else "repay"
        asked = {
            **content,
            "payment": mp.nstr(payment, 36),
            "clauses": [
                {**each, verb: "?"} if number == place else each
                for number, each in enumerate(content["clauses"])
            ],
        }
        answer = loans.solve(loans.check(asked))
        self.assertEqual(answer.unknown, f"clauses.{place}.{verb}")
        self.assertAlmostEqual(float(answer.exact or 0), float(clause[verb]), places=9)

    @given(on_days())
    @settings(deadline=None, max_examples=60)
    def test_the_rate_leads_back(self, content: dict[str, Any]) -> None:
        payment = self.payment(content)
        assume(payment > 1)
        assume(min(Deal(content).closings(payment)[:-1], default=mpf(1)) > 0)
        asked = {
            **content,
            "payment": mp.nstr(payment, 36),
            "rate": {"percent": "?"},
        }
        answer = loans.solve(loans.check(asked))
        if answer.reason:
            # A rate from the start on, or nothing owed while it holds: it moves nothing.
            other = {**content, "rate": {"percent": "5"}}
            left, same = (Deal(each).closings(payment)[-1] for each in (content, other))
            self.assertLess(abs(left - same), mpf("1e-15"))
            return
        stated = float(content["rate"]["percent"])
        self.assertTrue(any(abs(float(each) - stated) < 1e-9 for each in answer.solutions))


class OwedOnADay(TestCase):
    @given(on_days(), st.data())
    @settings(deadline=None, max_examples=80)
    def test_with_the_interest_to_that_day(
        self, content: dict[str, Any], data: st.DataObject
    ) -> None:
        """On a day between two payments: what was owed, what moved, and interest by days."""
        content = {
            **content,
            "balance": "?",
            "payment": "100",
            "rounding": {"interest": "none", "payment": "none"},
        }
        deal = Deal({**content, "balance": "0"})
        closings = deal.closings(mpf(100))
        assume(min(closings) > 0)
        number = data.draw(st.integers(0, content["count"] - 1))
        begins, ends = [*deal.periods()][number]
        day = begins + timedelta(days=data.draw(st.integers(1, (ends - begins).days - 1)))
        balance = mpf(content["principal"]) + deal.moved.get(deal.start, mpf(0))
        balance = closings[number - 1] if number else balance
        moved, interest = deal.until(balance, day, (begins, ends))
        answer = loans.solve(loans.check(content))
        assume(answer.schedule)
        (told,) = owed(loans.check(content), day.isoformat(), MARKS["plain"])
        self.assertEqual(told["number"], number)
        owes = balance + moved + interest
        self.assertLess(abs(mpf(told["owed"]) - owes), mpf("0.0051"))

    def test_by_hand(self) -> None:
        # 10,000 at 7.3 % by actual/365 from 1 March; 1,000 repaid on 11 March: on 21 March 10 days
        # of 10,000 and 10 of 9,000 are 20.00 + 18.00.
        content = document(
            **BY_DAYS,
            count=3,
            clauses=[{"at": "2027-03-11", "repay": "1000"}],
        )
        (told,) = owed(loans.check(content), "21 March 2027", MARKS["plain"])
        self.assertEqual(
            (told["balance"], told["accrued"], told["owed"]), ("9000.00", "38.00", "9038.00")
        )
        self.assertEqual(told["per_day"], "1.8000")

    def test_a_rate_that_falls_on_the_day_asked(self) -> None:
        found = solve(
            **BY_DAYS,
            count=3,
            clauses=[{"from": "2027-03-11", "rate": {"percent": "3.65"}}],
        )
        (told,) = owed(
            loans.check(
                document(
                    **BY_DAYS,
                    count=3,
                    clauses=[{"from": "2027-03-11", "rate": {"percent": "3.65"}}],
                )
            ),
            "11 Mar 2027",
            MARKS["plain"],
        )
        # Ten days of 10,000 at 7.3 %, and a day more at 3.65 %.
        self.assertEqual((told["accrued"], told["per_day"]), ("20.00", "1.0000"))
        # 20.00 and 21 days at half the rate.
        self.assertEqual(found.schedule[0]["interest"], "41.00")


@st.composite
def placed(draw: st.DrawFn) -> tuple[dict[str, Any], dict[str, Any]]:
    """A dated loan with clauses of every verb by number, and the same by the days of these."""
    content = draw(irregular())
    start = date(draw(st.integers(2021, 2032)), draw(st.integers(1, 12)), draw(st.integers(1, 28)))
    advance = content["timing"] == "in-advance"

    def due(number: int) -> str:
        """The day of a payment: at the end of its period, in advance at its start."""
        return following(start, "month", number - advance if number else 0).isoformat()

    by_number, by_day = [], []
    for clause in content["clauses"]:
        levels = draw(st.booleans()) and {"rate", "repay", "advance"} & clause.keys()
        said = {**clause, **({"then": "re-level"} if levels else {})}
        by_number.append(said)
        told = dict(said)
        for name in {"at", "from", "to"} & clause.keys():
            number = clause[name]
            # In advance the first payment stands on the day the money is lent, which is place 0.
            if advance and number == 1:
                continue
            if "rate" in clause:
                # Period k begins where payment k - 1 stands, in advance where its own does; a rate
                # ends before the day that ends it.
                shift = (0 if advance else 1) if name == "from" else (-1 if advance else 0)
                told[name] = due(number - shift) if number - shift else start.isoformat()
            else:
                told[name] = due(number)
        by_day.append(told)
    dated = {**content, "start": start.isoformat()}
    return {**dated, "clauses": by_number}, {**dated, "clauses": by_day}


class WithinTheFirstPeriod(TestCase):
    """A deal of clauses alone that is over before its first payment would fall due."""

    def test_it_ends_on_its_last_day(self) -> None:
        """By hand: 10,000 at 12 % of 365 days; 19 days bear 62.47."""
        deal = {**BY_DAYS, "count": 0, "payment": "0", "rate": {"percent": "12"}}
        found = solve(**deal, clauses=[{"at": "2027-03-20", "repay": "?"}])
        self.assertEqual(found.exact, "10062.4657534246575342465753425")
        (row,) = found.schedule
        self.assertEqual(
            (row["date"], row["interest"], row["closing"]), ("2027-03-20", "62.47", "0.00")
        )
        self.assertEqual(found.final_date, "2027-03-20")

    def test_what_is_owed_on_a_day_of_it(self) -> None:
        """10,000 bear 3.2877 a day, from the tenth on 9,000 bear 2.9589."""
        deal = {**BY_DAYS, "count": 0, "payment": "0", "rate": {"percent": "12"}}
        clauses = [{"at": "2027-03-10", "repay": "1000"}, {"at": "2027-03-20", "repay": "?"}]
        asked = loans.check(document(**deal, clauses=clauses))
        early, late = owed(asked, "2027-03-05, 2027-03-15", MARKS["plain"])
        self.assertEqual((early["accrued"], early["per_day"]), ("13.15", "3.2877"))
        self.assertEqual((late["accrued"], late["per_day"]), ("14.79", "2.9589"))
        self.assertEqual(late["balance"], "9029.59")


class ByNumberOrByDay(TestCase):
    @given(placed())
    @settings(deadline=None, max_examples=200)
    def test_the_day_of_a_payment_is_its_number(
        self, both: tuple[dict[str, Any], dict[str, Any]]
    ) -> None:
        by_number, by_day = (loans.solve(loans.check(content)) for content in both)
        self.assertEqual(by_day.reason, by_number.reason)
        self.assertEqual(by_day.exact, by_number.exact)
        self.assertEqual(by_day.schedule, by_number.schedule)

    def test_in_advance_the_first_payment_stands_on_the_day_of_the_start(self) -> None:
        terms: dict[str, Any] = {"start": "2027-03-01", "timing": "in-advance"}
        by_day, by_number = (
            solve(**terms, clauses=[{"at": at, "payment": "77.50"}]) for at in ("2027-03-01", 1)
        )
        self.assertEqual(by_day.schedule[0]["payment"], "77.50")
        self.assertEqual(by_day.schedule, by_number.schedule)

    @given(placed())
    @settings(deadline=None, max_examples=100)
    def test_dates_alone_change_nothing(self, both: tuple[dict[str, Any], dict[str, Any]]) -> None:
        content = both[0]
        undated = {name: value for name, value in content.items() if name != "start"}
        one, other = (loans.solve(loans.check(each)) for each in (content, undated))
        self.assertEqual(one.exact, other.exact)
        rows = [{**row, "date": None} for row in one.schedule]
        self.assertEqual(rows, other.schedule)
