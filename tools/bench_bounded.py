"""What clauses, aims and long loans cost, each beside the plain loan of as many payments.

    python -m tools.bench_bounded

Every line is of an answer that was looked at. What is heavier than a second says so.
"""

import os
import time
from collections.abc import Callable
from decimal import Decimal
from typing import Any, Final

from zephyrant import loans
from zephyrant.loans import MARKS
from zephyrant.loans.document.price import price
from zephyrant.loans.questions.rate_curve import curve_of_rate
from zephyrant.loans.questions.sensitivity import Axis, sensitivity_of
from zephyrant.loans.statement.offers import More, paying_more
from zephyrant.loans.statement.restating import restate
from zephyrant.outlets.reader import Reader
from zephyrant.outlets.schedule_workbook import xlsx_of
from zephyrant.outlets.statement_pdf import statement_of

DATED: Final[dict[str, Any]] = {"start": "2027-01-31"}
BY_DAYS: Final[dict[str, Any]] = {**DATED, "day_count": "actual/365"}
DAILY: Final[dict[str, Any]] = {"count": 36_500, "every": "day"}
FEE: Final = {"at": 0, "fee": "2500"}
LEVELLED: Final = {"from": 1, "to": 359, "repay": "1", "then": "re-level"}
RATES: Final = [{"from": k + 1, "rate": {"percent": f"{4 + k % 7 / 10}"}} for k in range(1_000)]
REPAID: Final = [{"at": k + 1, "repay": "5"} for k in range(999)]
MARK: Final = MARKS["comma-point"]


def document(**changes: Any) -> loans.Loan:  # noqa: ANN401
    """A loan of thirty years, changed."""
    return loans.check(
        {
            "zephyrant": "loan/1",
            "currency": "EUR",
            "principal": "250000",
            "rate": {"percent": "4.2"},
            "count": 360,
            "payment": "?",
            **changes,
        }
    )


def aim(figure: str, to: str) -> dict[str, str]:
    """What a result is to be, the rate moving."""
    return {"figure": figure, "is": to, "by": "rate.percent"}


DOCUMENTS: Final[dict[str, loans.Loan]] = {
    "set anew at 359 payments": document(clauses=[LEVELLED]),
    "the same, by days": document(**BY_DAYS, clauses=[LEVELLED]),
    "36,500 days, 100 repayments": document(
        **DAILY, clauses=[{"at": 300 * (k + 1), "repay": "10"} for k in range(100)]
    ),
    "36,500 days, one fee": document(**DAILY, clauses=[FEE]),
    "1,200 months, 1,000 rates": document(count=1_200, clauses=RATES),
    "the same, set anew at each": document(
        count=1_200, clauses=[{**each, "then": "re-level"} for each in RATES]
    ),
    "200 steps": document(
        principal="2500000",
        clauses=[{"from": k + 1, "step": {"amount": "1"}} for k in range(200)],
    ),
    "1,000 stretches of repayments": document(
        count=1_200, clauses=[{"from": k + 1, "to": 1_200, "repay": "1"} for k in range(1_000)]
    ),
    "the rate asked, 999 clauses": document(
        count=1_200, rate={"percent": "?"}, payment="1100", clauses=REPAID
    ),
    "aim at the US rate, 360 months": document(clauses=[FEE], aim=aim("us_apr", "4.5")),
    "aim at the EU rate, 360 months": document(clauses=[FEE], aim=aim("eu_aprc", "4.6")),
    "aim at the US rate, by days": document(**BY_DAYS, clauses=[FEE], aim=aim("us_apr", "4.5")),
}


def seconds(run: Callable[[], object]) -> tuple[float, object]:
    """Seconds of a core, and what came of it."""
    began = time.process_time()
    told = run()
    return time.process_time() - began, told


def plain(loan: loans.Loan) -> float:
    """What the plain loan of as many payments takes."""
    bare = document(count=loan.count, every=loan.every)
    loans.solve(bare.model_copy(update={"name": "warm"}))
    return min(
        seconds(lambda name=name: loans.solve(bare.model_copy(update={"name": name})))[0]  # type: ignore[misc]
        for name in ("one", "two", "three")
    )


def main() -> None:
    """The table."""
    # A statement tells its day as the desk's settings do.
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "zephyrant.site.settings")
    print(f"{'document':34} {'seconds':>8} {'x plain':>8} {'price':>7}")
    for name, loan in DOCUMENTS.items():
        took, answer = seconds(lambda loan=loan: loans.solve(loan))  # type: ignore[misc]
        found = answer.value or answer.reason  # type: ignore[attr-defined]
        if not found:
            raise AssertionError(f"{name}: nothing was found")
        told = f"{took:8.2f} {took / plain(loan):8.1f} {price(loan).seconds:7.2f}"
        print(f"{name:34} {told}  {'HEAVY' if took > 1 else ''}", flush=True)
    rates = Axis(path="rate.percent", values=tuple(3 + Decimal(k) / 20 for k in range(50)))
    lent = Axis(path="principal", values=tuple(Decimal(200_000 + 1_000 * k) for k in range(50)))
    pause = {"from": 13, "to": 24, "pay": "interest"}
    moved = document(clauses=[{"at": 12, "repay": "1000"}, pause])
    more, bare = More(each="1", lump="1000", at="100"), restate(document(**DAILY), "comma-point")
    asked = document(count=1_200, rate={"percent": "?"}, payment="1100", clauses=REPAID)
    daily = document(**DAILY, **DATED)
    for name, limit, run in (
        ("sweep of 2,500 points", 5, lambda: sensitivity_of(moved, [rates, lent], ["answer"])),
        ("paying more, 36,500 days", 1, lambda: paying_more(bare, more)),
        ("the curve of 999 clauses", 1, lambda: curve_of_rate(asked, MARK)),
        ("workbook of 36,500 rows", 10, lambda: xlsx_of(daily, Reader(MARK))),
        ("statement (PDF) of 36,500 rows", 10, lambda: statement_of(daily, "", Reader(MARK))),
    ):  # fmt: skip
        took, told_ = seconds(run)
        if not told_:
            raise AssertionError(f"{name}: nothing came of it")
        print(f"{name:34} {took:8.2f} of {limit:2} s  {'OVER' if took > limit else ''}", flush=True)


if __name__ == "__main__":
    main()
