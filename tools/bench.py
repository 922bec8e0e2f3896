"""`make bench`: how fast, as ratios within one run; the machine's mood falls out of a ratio.

Prints one line a measurement: the median, the 95th percentile, and the ratio or bound it is held
against. Nothing here fails a build: a claim is made with the figures of a run.
"""

import json
import resource
import statistics
import subprocess
import sys
import tempfile
import time
import urllib.request
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from decimal import ROUND_HALF_UP, Decimal
from fractions import Fraction
from functools import partial
from http.cookiejar import CookieJar
from math import log
from pathlib import Path
from typing import Any

import numpy as np
import pyxirr
from playwright.sync_api import sync_playwright
from scipy.optimize import brentq

from tools.demo_server import ROOT, demo_server, enter, open_case
from zephyrant import loans
from zephyrant.loans import tape
from zephyrant.loans.ledger.level_arrays import Level, balances, counts, payments, principals
from zephyrant.loans.ledger.roll import roll_schedule
from zephyrant.loans.ledger.rows import cash_rule
from zephyrant.loans.ledger.settling import Ending
from zephyrant.loans.questions.sensitivity import Axis, sensitivity_of
from zephyrant.loans.roots.crossings import LEAST_GROWTH, MOST_GROWTH, isolate
from zephyrant.loans.roots.flows import Flow, Flows, crossings, only_crossing
from zephyrant.loans.roots.many_rates import rates as rates_of_many
from zephyrant.loans.tape.solving import Tape
from zephyrant.loans.unknowns.finding import find
from zephyrant.loans.unknowns.solution import payable_line
from zephyrant.loans.unknowns.worked import work_out
from zephyrant.outlets.reader import Reader
from zephyrant.outlets.schedule_workbook import xlsx
from zephyrant.tables import files as table_files
from zephyrant.tables.writing import csv_text

DOCUMENT = {
    "zephyrant": "loan/1",
    "name": "Press",
    "currency": "EUR",
    "principal": "48250.00",
    "rate": {"percent": "6.35", "quoted": "nominal", "compounding": "half-year"},
    "count": 360,
    "payment": "?",
}
PORT = 8977
EIGHTH = Decimal("0.125")


def timed(run: Callable[[], object], rounds: int, before: int = 5) -> list[float]:
    """Milliseconds of each round, after a few that do not count."""
    for _ in range(before):
        run()
    taken = []
    for _ in range(rounds):
        begun = time.perf_counter()
        run()
        taken.append(1000 * (time.perf_counter() - begun))
    return taken


def median(taken: list[float]) -> float:
    return statistics.median(taken)


def tell(name: str, taken: list[float], note: str = "") -> None:
    late = sorted(taken)[int(len(taken) * 0.95) - 1]
    print(f"{name:<58} median {median(taken):8.3f} ms   95 % {late:8.3f} ms   {note}")


def bare_loop() -> Decimal:
    """360 multiplications and roundings, nothing else: what no ledger can be faster than."""
    owed, rate, cent = Decimal("48250.00"), Decimal("0.005222990783"), Decimal("0.01")
    for _ in range(360):
        owed = (owed * rate).quantize(cent, ROUND_HALF_UP) + 48000
    return owed


def core() -> None:
    text = json.dumps(DOCUMENT)
    loan = loans.read(text)
    line = payable_line(loan, find(loan))
    rule = cash_rule(line, 2, "nearest", "nearest")

    def whole() -> object:
        # Each time anew: a schedule that was asked for a moment ago is kept.
        work_out.cache_clear()
        return loans.solve(loans.read(text)).model_dump_json()

    parts: dict[str, Callable[[], object]] = {
        "bare": bare_loop,
        "ledger": lambda: roll_schedule(line, rule, Ending()),
        "whole": whole,
    }
    # Turn and turn about, so that a slow moment hits all alike.
    taken: dict[str, list[float]] = {name: [] for name in parts}
    for _ in range(30):
        for name, run in parts.items():
            taken[name] += timed(run, 5)
    bare = median(taken["bare"])
    tell("a bare loop of 360 Decimal products and roundings", taken["bare"])
    for name, said, bound in (
        ("ledger", "the ledger, 360 rows to the cent", 4),
        ("whole", "document in, answer with schedule out (360 payments)", 15),
    ):
        ratio = median(taken[name]) / bare
        tell(said, taken[name], f"{ratio:.1f} x the bare loop (aim: at most {bound})")
    for unknown, aim in (("principal", 4), ("rate", 10), ("count", 4), ("balance", 4)):
        _asking(f"asking for the {unknown}", _asked(unknown), aim)
    _asking("with five clauses, asking for the payment", {**DOCUMENT, "clauses": CLAUSES}, 8)
    _asking(
        "with five clauses, asking for the rate",
        {**_asked("rate"), "clauses": CLAUSES_OF_PAYMENTS},
        30,
    )


CLAUSES = [
    {"from": 13, "to": 24, "rate": {"percent": "5.1", "quoted": "nominal", "compounding": "month"}},
    {"at": 30, "repay": "2000", "then": "re-level"},
    {"from": 60, "to": 65, "pay": "interest"},
    {"at": 100, "advance": "3000"},
    {"at": 120, "fee": "150", "taken": "added"},
]
CLAUSES_OF_PAYMENTS = [
    {"at": 30, "repay": "2000"},
    {"from": 60, "to": 65, "pay": "interest"},
    {"at": 100, "advance": "3000"},
    {"at": 120, "fee": "150", "taken": "added"},
    {"from": 200, "to": 210, "payment": "350"},
]


def _asked(unknown: str) -> dict[str, Any]:
    """The document with another figure asked for."""
    asked: dict[str, Any] = {**DOCUMENT, "payment": "301.20", unknown: "?"}
    if unknown == "rate":
        asked["rate"] = {**DOCUMENT["rate"], "percent": "?"}  # type: ignore[dict-item]
    if unknown == "balance":
        asked["payment"] = "250"
    return asked


def _asking(name: str, document: dict[str, Any], aim: int) -> None:
    """A document with its schedule told, and without, beside the bare loop."""
    text = json.dumps(document)

    def whole() -> object:
        work_out.cache_clear()
        answer = loans.solve(loans.read(text))
        if not (answer.solutions and answer.schedule):
            raise AssertionError(f"a refusal was measured: {answer.reason}")
        return answer.model_dump_json()

    def lean() -> object:
        work_out.cache_clear()
        if work_out(loans.read(text)).schedule is None:
            raise AssertionError("a refusal was measured")
        return None

    runs: list[Callable[[], object]] = [bare_loop, whole, lean]
    taken: list[list[float]] = [[], [], []]
    for _ in range(12):
        for each, run in zip(taken, runs, strict=True):
            each.extend(timed(run, 5, before=1))
    bare, told, untold = map(median, taken)
    tell(
        name,
        taken[1],
        f"{told / bare:.1f} x the bare loop told (aim 15), "
        f"{untold / bare:.1f} x untold (aim {aim})",
    )


def schedules() -> None:
    """The schedule of thirty years of weekly payments: worked, and as a workbook."""
    weekly = {**DOCUMENT, "count": 1560, "every": "week", "start": "2027-03-01"}
    for name, changes in (
        ("every period alike", {}),
        ("by actual/365", {"day_count": "actual/365"}),
    ):
        text = json.dumps({**weekly, **changes})

        def worked(text: str = text) -> object:
            work_out.cache_clear()
            return loans.solve(loans.read(text)).model_dump_json()

        tell(f"1,560 weekly payments on dates, {name}: answer as JSON", timed(worked, 20))
    loan = loans.read(json.dumps(weekly))
    tell(
        "the same as a workbook of formulas (aim: within 1,000 ms)",
        timed(lambda: xlsx(loan, "", Reader()), 5),
    )


def sweeps() -> None:
    """41 x 41 points of a 360-payment loan, against as many single solves."""
    thousands = tuple(Decimal(40_000 + 250 * step) for step in range(41))
    lent = Axis(path="principal", values=thousands)
    percents = Axis(
        path="rate.percent", values=tuple(Decimal("4") + step * EIGHTH for step in range(41))
    )
    payments = Axis(path="payment", values=tuple(Decimal(300 + 2 * step) for step in range(41)))
    regular = loans.check(DOCUMENT)
    rate = {**DOCUMENT["rate"], "percent": "?"}  # type: ignore[dict-item]
    asking_rate = loans.check({**DOCUMENT, "payment": "301.20", "rate": rate})
    for name, loan, axes, results in (
        ("payment", regular, (lent, percents), ("answer",)),
        ("payment, total interest", regular, (lent, percents), ("answer", "total_interest")),
        ("solved rate", asking_rate, (lent, payments), ("answer",)),
    ):

        def found(loan: loans.Loan = loan) -> object:
            work_out.cache_clear()
            return work_out(loan)

        def solved(loan: loans.Loan = loan) -> object:
            work_out.cache_clear()
            return loans.solve(loan)

        lean, whole = median(timed(found, 40)), median(timed(solved, 40))
        taken = timed(partial(sensitivity_of, loan, axes, results), 7)
        solves, rolls = (1_681 * each / median(taken) for each in (whole, lean))
        said = f"{solves:.0f} x faster than 1,681 single solves, {rolls:.0f} x than their schedules"
        tell(f"41 x 41 points: {name}", taken, said)


def _million() -> tuple[Level, np.ndarray]:
    """A million regular loans of every shape, and the rate each was made with."""
    chance, size = np.random.default_rng(2027), 1_000_000
    count = chance.integers(2, 481, size)
    rate = np.exp(chance.uniform(np.log(1e-6), np.log(0.03), size))
    rate[::10], rate[1::10] = 0.0, 1e-9
    lent = np.round(chance.uniform(1_000, 1_000_000, size), 2)
    left = np.where(chance.random(size) < 0.3, lent * chance.uniform(0, 0.6, size), 0.0)
    advance = chance.random(size) < 0.4
    with np.errstate(all="ignore"):
        fall = -np.expm1(-count * np.log1p(rate))
        each = np.where(rate == 0, 1 / count, rate / fall)
    payment = ((lent - left) * each + left * rate) / (1 + rate * advance)
    whole = np.zeros(size, dtype=np.int64)
    return Level(lent, rate, whole, whole + 1, count, left, payment, advance), rate


def many_at_once() -> None:
    """The figures of a million regular loans, one thread, against pyxirr's vectorised rate."""
    loans_, made = _million()
    size = len(made)
    other = np.random.default_rng(1).random(size)

    def passes() -> None:
        for _ in range(2):
            np.expm1(np.log1p(other))

    def theirs(some: slice) -> np.ndarray:
        part = loans_.at(some)
        return np.array(
            pyxirr.rate(
                part.count,
                -part.payment,
                part.principal,
                -part.balance,
                pmt_at_beginning=part.in_advance,
            )
        )

    def right(found: np.ndarray, some: slice) -> float:
        gap = np.abs(found - made[some])
        return float(((gap <= 1e-9 * np.abs(made[some])) | (gap <= 1e-13)).mean())

    a_tenth = slice(0, size // 10)
    taken: dict[str, list[float]] = {"ours": [], "bound": [], "theirs": []}
    for _ in range(5):
        taken["ours"] += timed(lambda: rates_of_many(loans_), 1, before=0)
        taken["bound"] += timed(passes, 1, before=0)
        taken["theirs"] += timed(lambda: theirs(a_tenth), 1, before=0)
    each = 1_000 / size
    ours, bound = median(taken["ours"]) * each, median(taken["bound"]) * each
    pyxirrs = median(taken["theirs"]) * each * 10
    sure = 100 * right(rates_of_many(loans_), slice(None))
    theirs_sure = 100 * right(theirs(a_tenth), a_tenth)
    print(
        f"a million rates: {ours:.3f} us a loan (aim 0.15), {sure:.2f} % right; "
        f"{pyxirrs / ours:.0f} x faster than pyxirr's rate (aim 25; {pyxirrs:.2f} us, "
        f"{theirs_sure:.1f} % right); {ours / bound:.1f} x two expm1 + log1p passes (aim 9)"
    )
    for kernel in (payments, principals, counts, balances):
        took = median(timed(partial(kernel, loans_), 5, before=1)) * each
        print(f"a million {kernel.__name__}: {took:.3f} us a loan (aim: at most 0.05)")


def _tape(rows: int, file: Path) -> None:
    """A tape of that many rows that ask for each of four figures."""
    loans_, rate = _million()
    chance = np.random.default_rng(7)
    asked = chance.integers(0, 4, rows)
    percent = np.round(1 + 1_200 * rate[:rows], 2)
    month, count = percent / 1_200, loans_.count[:rows]
    grown = (1 + month) ** count
    lent, left = loans_.principal[:rows], np.round(loans_.balance[:rows], 2)
    payment = np.round((lent * grown - left) * month / (grown - 1), 2)
    with file.open("w") as out:
        out.write("Loan;Amount;Rate;Payments;Payment;Balloon\n")
        columns = zip(
            lent.tolist(), percent.tolist(), count.tolist(), payment.tolist(), strict=True
        )
        for row, (figures, what) in enumerate(zip(columns, asked.tolist(), strict=True)):
            cells = [
                f"{each:.2f}" if place != 2 else str(each) for place, each in enumerate(figures)
            ]
            cells[what] = "?"
            out.write(f"L{row};{';'.join(cells)};{left[row]:.2f}\n")


def tables_by_command() -> None:
    """A hundred thousand rows and a million by the command: time, and the most memory held."""
    with tempfile.TemporaryDirectory() as folder:
        for rows in (100_000, 1_000_000):
            file = Path(folder) / f"{rows}.csv"
            _tape(rows, file)
            begun = time.perf_counter()
            with (Path(folder) / "out.csv").open("w") as out:
                subprocess.run(
                    [sys.executable, "manage.py", "solve", "--table", str(file)],
                    cwd=ROOT,
                    stdout=out,
                    stderr=subprocess.DEVNULL,
                    check=False,
                )
            took = time.perf_counter() - begun
            with (Path(folder) / "out.csv").open() as told:
                if sum(1 for _ in told) != rows + 1:
                    raise RuntimeError(f"the command did not tell each of {rows:,} rows")
            most = resource.getrusage(resource.RUSAGE_CHILDREN).ru_maxrss / 1_000
            aim = "3 s" if rows == 100_000 else "25 s and 500 MB"
            print(f"{rows:,} rows by the command: {took:.1f} s, at most {most:.0f} MB (aim {aim})")
        _split(Path(folder) / "100000.csv")


def _split(file: Path) -> None:
    """Where the time of a tape goes, on one core: reading, looking, arrays, exact rows, writing."""
    taken: dict[str, float] = {}

    @contextmanager
    def timing(name: str) -> Iterator[None]:
        begun = time.perf_counter()
        yield
        taken[name] = time.perf_counter() - begun

    with file.open("rb") as content:
        with timing("reading"):
            table = table_files.read(content, file.name)
            rows = list(table.rows)
            whole = list(zip(*rows, strict=True))
        with timing("looking"):
            columns = tape.match(table.names)
            cells = {name: whole[place] for name, place in columns.items()}
            tape.look(cells, whole)
    solving = Tape(cells, tape.Defaults(marks="comma-point"), len(rows))
    with timing("arrays"):
        sure = solving.side_by_side()
    with timing(f"{int((~sure).sum()):,} exact rows"):
        told = solving.solve_alone(sure)
    with timing("writing"):
        csv_text([*whole, *(told[name] for name in tape.RESULTS)])
    parts = ", ".join(f"{name} {seconds:.2f} s" for name, seconds in taken.items())
    print(f"100,000 rows on one core: {parts}")


def table_on_the_desk(address: str) -> None:
    """A hundred thousand rows: the file sent, the first page seen, all of them solved."""
    with tempfile.TemporaryDirectory() as folder, sync_playwright() as playwright:
        file = Path(folder) / "tape.csv"
        _tape(100_000, file)
        browser = playwright.chromium.launch(
            executable_path="/usr/bin/chromium", args=["--no-sandbox"]
        )
        page = browser.new_page()
        enter(page, address)
        page.goto(f"{address}/tables")
        for turn in range(3):
            begun = time.perf_counter()
            page.get_by_label("Table to open").set_input_files(file)
            solve = page.get_by_role("button", name="Solve 100,000 rows")
            solve.wait_for(timeout=60_000)
            taken = [time.perf_counter() - begun]
            solve.click()
            for seen in ("open row 1 as a case", "all rows (100,000)"):
                page.get_by_role("button", name=seen).wait_for(timeout=120_000)
                taken.append(time.perf_counter() - begun)
            read, first, whole = taken
            print(
                f"100,000 rows on the desk, turn {turn + 1}, after the drop: read {read:.1f} s, "
                f"the first page {first:.1f} s (aim 4), all of them {whole:.1f} s"
            )
            page.goto(f"{address}/tables")
        browser.close()


def _flows(rng: np.random.Generator, many: int) -> list[tuple[int, float]]:
    """One amount lent and many repaid on days of their own."""
    days = np.sort(rng.choice(np.arange(1, 30_000), many, replace=False))
    paid = np.round(rng.uniform(50, 600, many), 2)
    lent = -float(np.round(paid.sum() * 0.8, 2))
    return [(0, lent), *zip(days.tolist(), paid.tolist(), strict=True)]


def rates() -> None:
    """Rates over irregular dated flows, beside SciPy's and pyxirr's in the same run."""
    rng = np.random.default_rng(20261124)
    for many in (400, 10_000):
        _one_rate(_flows(rng, many))
    days = np.sort(rng.choice(np.arange(1, 3_650), 400, replace=False)).tolist()
    amounts = np.round(rng.uniform(-600, 300, 400), 2).tolist()
    hard = Flows(
        [
            Flow(Fraction(0), Decimal(10_000)),
            *(Flow(Fraction(k), Decimal(str(each))) for k, each in zip(days, amounts, strict=True)),
        ]
    )
    tell(
        "400 flows back and forth: every root certified, 60 digits each",
        timed(lambda: crossings(hard, 365), 20),
        "aim: within 5 ms",
    )
    for many in (12, 120):
        days = np.cumsum(rng.integers(20, 45, many)).tolist()
        payments = np.round(rng.uniform(200, 900, many), 2)
        lent = Flow(Fraction(0), Decimal(str(round(0.8 * float(payments.sum()), 2))))
        paid = [
            Flow(Fraction(day), -Decimal(str(payment)))
            for day, payment in zip(days, payments.tolist(), strict=True)
        ]
        tell(
            f"a loan of {many} irregular payments: its rate",
            timed(partial(_rate_of, [lent, *paid]), 40),
            "aim: within 1 ms",
        )


def _rate_of(flows: list[Flow]) -> None:
    if len(crossings(Flows(flows), 365)) != 1:
        raise AssertionError("no rate was measured")


def _one_rate(pairs: list[tuple[int, float]]) -> None:
    flows = Flows([Flow(Fraction(day), -Decimal(str(amount))) for day, amount in pairs])
    days, payments = np.array([day for day, _ in pairs]), [amount for _, amount in pairs]
    times, amounts = days / 365, np.array(payments)
    dates = (np.datetime64("2027-01-01") + days).astype(object).tolist()
    low, high = log(LEAST_GROWTH) / 365, log(MOST_GROWTH) / 365

    def present_value(rate: float) -> float:
        return float(np.sum(amounts * (1 + rate) ** -times))

    parts: dict[str, Callable[[], object]] = {
        "ours, one root": lambda: only_crossing(flows, low, high, rises=True),
        "ours, all certified": lambda: isolate(flows.values, low, high),
        "SciPy's brentq on NumPy": lambda: brentq(present_value, -0.9, 10, xtol=1e-12),
        "pyxirr": lambda: pyxirr.xirr(dates, payments),
    }
    taken: dict[str, list[float]] = {name: [] for name in parts}
    for _ in range(12):
        for name, run in parts.items():
            taken[name] += timed(run, 5)
    ours = median(taken["ours, one root"])
    for name, each in taken.items():
        said = f"{len(pairs) - 1} dated flows: {name}"
        tell(said, each, f"{median(each) / ours:.1f} x ours")


def command() -> None:
    with tempfile.TemporaryDirectory() as folder:
        names = []
        for number in range(300):
            path = Path(folder) / f"{number}.json"
            path.write_text(json.dumps({**DOCUMENT, "count": 60 + number}))
            names.append(str(path))
        for said, arguments, aim in (
            ("Python alone", ["-c", "pass"], None),
            ("the import of pydantic with one model", ["-c", _ONE_MODEL], None),
            ("the import of the core", ["-c", "import zephyrant.loans"], 0.3),
            ("solve, one document", ["manage.py", "solve", names[0]], 0.6),
            ("solve, 300 documents in one call", ["manage.py", "solve", *names], 1.2),
        ):
            run = partial(
                subprocess.run,
                [sys.executable, *arguments],
                cwd=ROOT,
                stdout=subprocess.DEVNULL,
                check=True,
            )
            took = median(timed(run, 7, before=1)) / 1_000
            print(f"{said}: {took:.2f} s as a process" + (f" (aim {aim} s)" if aim else ""))


_ONE_MODEL = """
from pydantic import BaseModel
class One(BaseModel):
    x: int
"""


def server() -> None:
    """The demo on gunicorn: server time of `solve`, and keystroke to painted answer."""
    with demo_server(PORT) as address:
        _endpoint(address)
        _keystrokes(address)
        table_on_the_desk(address)


def _endpoint(address: str) -> None:
    jar = CookieJar()
    opener = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(jar))

    def send(path: str, sent: bytes) -> bytes:
        request = urllib.request.Request(f"{address}/api/v1/{path}", sent, method="POST")
        request.add_header("Content-Type", "application/json")
        token = next(cookie.value for cookie in jar if cookie.name == "csrftoken")
        request.add_header("X-CSRFToken", str(token))
        return bytes(opener.open(request).read())

    opener.open(address).read()
    send("session/demo", b"")
    body = json.dumps(DOCUMENT).encode()
    tell(
        "the solve endpoint, 360 payments, over loopback",
        timed(lambda: send("solve", body), 200),
    )


def _keystrokes(address: str) -> None:
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(
            executable_path="/usr/bin/chromium", args=["--no-sandbox"]
        )
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        enter(page, address)
        for name, rows, aim, times in (
            ("Cider press", 60, 50, 3),
            ("Water turbine", 360, 50, 3),
            ("Water turbine", 1_560, 80, 5),
        ):
            open_case(page, address, name)
            field = page.get_by_label("Number of payments")
            field.fill(str(rows))
            field.press("Tab")
            page.get_by_text(f"{rows:,} payments =").first.wait_for()
            page.wait_for_timeout(1_500)
            page.evaluate(_WATCH_LONG_TASKS)
            taken: list[float] = []
            bare: list[float] = []
            for turn in range(60):
                taken.append(page.evaluate(_TYPE, str(41_000 + rows + 37 * turn)))
                bare.append(page.evaluate(_BARE))
            late, bare_late = (sorted(each[5:])[51] for each in (taken, bare))
            long = page.evaluate("longTasks")
            tell(f"a bare question to the server and its paint, beside {rows} rows", bare[5:])
            tell(
                f"keystroke to painted answer and schedule, {rows} rows",
                taken[5:],
                f"aim {aim} ms at 95 %; {late / bare_late:.1f} x a bare question (aim {times}); "
                f"{long} tasks above 50 ms",
            )
        browser.close()


_WATCH_LONG_TASKS = """
() => {
  window.longTasks = 0;
  new PerformanceObserver(list => { window.longTasks += list.getEntries().length })
    .observe({ type: 'longtask' });
}
"""

# Asks the server the least that it answers whoever is signed in, and waits until that is painted.
_BARE = """
async () => {
  const begun = performance.now();
  const answer = await fetch('/api/v1/me');
  if (!answer.ok) throw new Error('no answer was measured');
  document.title = (await answer.text()).length + ' ' + begun;
  await new Promise(painted => requestAnimationFrame(() => setTimeout(painted)));
  return performance.now() - begun;
}
"""

# Types a figure as a keystroke does and waits until the answer to it, the same or another, has been
# painted: it is busy from the keystroke on until it has come.
_TYPE = """
text => new Promise((resolve, reject) => {
  const field = document.querySelector('[data-figure=principal]');
  const answer = document.querySelector('[aria-label=Answer]');
  let busy = false;
  field.focus();
  const begun = performance.now();
  const watch = new MutationObserver(() => {
    if (answer.getAttribute('aria-busy') === 'true') busy = true;
    else if (busy) {
      watch.disconnect();
      const taken = () => resolve(performance.now() - begun);
      if (!answer.querySelector('output')) reject(new Error('no answer was measured'));
      else requestAnimationFrame(() => setTimeout(taken));
    }
  });
  watch.observe(answer, { attributes: true });
  Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set.call(field, text);
  field.dispatchEvent(new Event('input', { bubbles: true }));
})
"""


if __name__ == "__main__":
    core()
    schedules()
    sweeps()
    many_at_once()
    tables_by_command()
    rates()
    command()
    server()
