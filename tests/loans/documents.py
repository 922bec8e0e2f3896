"""Documents the tests start from, and strategies that make others."""

from typing import Any

from hypothesis import assume
from hypothesis import strategies as st

from zephyrant import loans
from zephyrant.loans import Answer, Loan

PRESS: dict[str, Any] = {
    "zephyrant": "loan/1",
    "name": "Cider press",
    "currency": "EUR",
    "principal": "48250.00",
    "rate": {"percent": "6.35", "quoted": "nominal", "compounding": "half-year"},
    "count": 60,
    "payment": "?",
}

#: Loans that are not repaid by level payments alone.
REPAID: list[dict[str, Any]] = [
    {"repayment": "equal-principal"},
    {"repayment": "interest-only", "balance": "8000"},
    {"repayment": "at-the-end"},
    {"repayment": {"percents": ["5", "5", "20", "70"]}, "count": 4, "every": "quarter"},
    {"amortized_over": 300},
    {"interest_shared": "sum-of-digits", "rate": {"percent": "6"}},
]

#: As much lent as a cash flow and a value allow; the payment is left out.
BOUNDED: dict[str, Any] = {
    "principal": "?",
    "payment": None,
    "cover": {"cash_flow": "31000", "growth": "2", "ratio": "1.30"},
    "value": {"amount": "90000", "highest": "80"},
}
#: Ways of repaying that, one bound or both beside, decide how much that is.
SIZED: list[dict[str, Any]] = [
    {},
    {"value": {"amount": "40000", "highest": "80"}},
    {"value": None},
    {"repayment": "equal-principal"},
    {"repayment": "interest-only", "value": None},
    {"repayment": "sculpted"},
    {"repayment": "sculpted", "value": {"amount": "40000", "highest": "80"}},
    {"repayment": "at-the-end", "cover": None},
    {"amortized_over": 300},
    {"principal": "40000", "repayment": "sculpted", "cover": {"cash_flow": "31000", "ratio": "?"}},
]

PERIODIC = {"quoted": "periodic"}

#: A loan counted by days: 10,000 at 7.3 % over 365 bear 2.00 a day.
BY_DAYS: dict[str, Any] = {
    "principal": "10000",
    "rate": {"percent": "7.3"},
    "start": "2027-03-01",
    "day_count": "actual/365",
}

PERIODS = {
    "year": 1,
    "half-year": 2,
    "quarter": 4,
    "two-months": 6,
    "month": 12,
    "half-month": 24,
    "four-weeks": 13,
    "two-weeks": 26,
    "week": 52,
    "day": 365,
}


def document(**changes: Any) -> dict[str, Any]:
    """The press loan with other figures; a figure of None is left out."""
    return {name: value for name, value in {**PRESS, **changes}.items() if value is not None}


def loan(**changes: Any) -> Loan:
    return loans.check(document(**changes))


def solve(**changes: Any) -> Answer:
    return loans.solve(loan(**changes))


def errors_of(content: object) -> list[tuple[str, str]]:
    """Field and sentence of everything wrong with a document; empty where nothing is."""
    try:
        loans.check(content)
    except loans.NotALoan as wrong:
        return [(error.field, error.message) for error in wrong.errors]
    return []


def decimals(least: int, most: int, places: int) -> st.SearchStrategy[str]:
    """Decimal strings between two whole numbers."""
    return st.decimals(least, most, places=places).map(lambda value: f"{value:f}")


money = decimals(1_000, 2_000_000, 2)
percents = decimals(0, 40, 3) | decimals(-5, 3, 4)
times = st.one_of(
    st.fixed_dictionaries({"number": st.integers(1, 700), "period": st.just("day")}),
    st.fixed_dictionaries(
        {"number": st.integers(1, 24), "period": st.sampled_from(["month", "quarter", "year"])}
    ),
)
year_days = st.sampled_from([360, 365])
quotes = st.one_of(
    st.fixed_dictionaries(
        {
            "percent": percents,
            "quoted": st.just("nominal"),
            "compounding": st.sampled_from([*PERIODS, "continuous", 7, 100]),
            "year_days": year_days,
        }
    ),
    # Over 24 years a simple rate of -4 % still leaves something of what is lent.
    st.fixed_dictionaries(
        {
            "percent": decimals(0, 40, 3) | decimals(-4, 3, 4),
            "quoted": st.just("simple"),
            "over": times,
            "year_days": year_days,
        }
    ),
    # Over two years at the most a discount of 40 % still leaves something to lend.
    st.fixed_dictionaries(
        {
            "percent": percents,
            "quoted": st.just("discount"),
            "over": st.fixed_dictionaries(
                {"number": st.integers(1, 24), "period": st.sampled_from(["month", "week"])}
            ),
            "year_days": year_days,
        }
    ),
    st.fixed_dictionaries(
        {"percent": percents, "quoted": st.sampled_from(["effective", "continuous"])}
    ),
    st.fixed_dictionaries(
        {"percent": decimals(-1, 4, 5), "quoted": st.just("periodic")},
    ),
)


@st.composite
def regular(draw: st.DrawFn) -> dict[str, Any]:
    """A regular loan whose payment is asked for and exists: the balloon stays below the amount."""
    principal = draw(money)
    share = draw(st.integers(0, 60))
    balloon = int(float(principal) * share / 100)
    return document(
        principal=principal,
        rate=draw(quotes),
        count=draw(st.integers(1, 420)),
        every=draw(st.sampled_from([*PERIODS, 5])),
        timing=draw(st.sampled_from(["in-arrears", "in-advance"])),
        balance=str(balloon),
        currency=draw(st.sampled_from(["EUR", "CHF", "USD"])),
    )


@st.composite
def irregular(draw: st.DrawFn) -> dict[str, Any]:
    """A loan with up to five clauses of every verb, its payment asked for."""
    count = draw(st.integers(3, 40))
    place = st.integers(1, count)

    def stretch() -> dict[str, int]:
        begin = draw(place)
        if draw(st.booleans()):
            return {"from": begin}
        return {"from": begin, "to": draw(st.integers(begin, count))}

    def where() -> dict[str, int]:
        return {"at": draw(place)} if draw(st.booleans()) else stretch()

    def clause() -> dict[str, Any]:
        match draw(st.sampled_from(["repay", "advance", "rate", "payment", "pay", "step", "fee"])):
            case "repay":
                return {**where(), "repay": draw(st.sampled_from(["50", "125.5"]))}
            case "advance":
                spot = {"at": draw(st.integers(0, count))}
                return {**spot, "advance": draw(st.sampled_from(["1000", "20000"]))}
            case "rate":
                percent = draw(st.sampled_from(["0", "0.4", "1.25"]))
                return {**stretch(), "rate": {"percent": percent, **PERIODIC}}
            case "payment":
                return {**where(), "payment": draw(st.sampled_from(["0", "310.25", "900"]))}
            case "pay":
                return {**where(), "pay": draw(st.sampled_from(["nothing", "interest"]))}
            case "step":
                step = draw(
                    st.sampled_from([{"percent": "3"}, {"amount": "20"}, {"percent": "-2"}])
                )
                return {**stretch(), "step": step, "every": draw(st.sampled_from([1, 6, 12]))}
        fee = draw(st.sampled_from(["150", {"percent": "2"}]))
        taken = draw(st.sampled_from(["added", "from-proceeds", "apart"]))
        return {"at": draw(st.integers(0, count)), "fee": fee, "taken": taken}

    clauses = [clause() for _ in range(draw(st.integers(1, 5)))]
    ones = [each.get("at") for each in clauses if "payment" in each and "at" in each]
    assume(len(ones) == len(set(ones)))
    return document(
        principal=draw(st.sampled_from(["48250", "9999.99"])),
        rate={"percent": draw(st.sampled_from(["6.35", "0", "11"]))},
        count=count,
        every="month",
        timing=draw(st.sampled_from(["in-arrears", "in-advance"])),
        balance=draw(st.sampled_from(["0", "2500"])),
        clauses=clauses,
    )
