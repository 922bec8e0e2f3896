"""Changes to the core that tests should notice, made one by one with cosmic-ray.

`make mutants MODULES="ledger/roll line/moves"` (not in CI): a sample of each module's mutants,
each run against the tests of the core that speak of it; prints how many of how many were killed and
names those that lived. SAMPLE is how many of each module (0: all), SEED which of them.
"""

import os
import random
import subprocess
import sys
from pathlib import Path

from cosmic_ray.work_db import WorkDB, use_db
from cosmic_ray.work_item import TestOutcome

MODULES = (
    "quotes/conversion",
    "ledger/roll",
    "ledger/period",
    "ledger/exact",
    "ledger/whole_units",
    "ledger/discounting",
    "ledger/ended_on_a_day",
    "ledger/deal",
    "line/cutting",
    "line/moves",
    "line/payments",
    "line/rates",
    "line/joined",
    "roots/narrowing",
    "unknowns/last_payment",
    "unknowns/counts",
    "unknowns/rates",
    "cost/costs",
    "cost/single_payment",
    "cost/unit_times",
    "cost/yearly_cost",
    "answer/aim_search",
    "questions/points",
)
TESTS = (
    "tests.loans.test_contract tests.loans.test_noticed tests.loans.test_moments "
    "tests.loans.test_against_oracle"
)
_LEDGER = "tests.loans.test_schedule tests.loans.test_clauses tests.loans.test_overpaid"
_CLAUSES = "tests.loans.test_clauses tests.loans.test_dated_clauses"
_UNKNOWNS = "tests.loans.test_no_answer tests.loans.test_published tests.loans.test_crossings"
MORE = {
    "quotes/conversion": "tests.loans.test_rates tests.loans.test_against_reference",
    "ledger/roll": _LEDGER,
    "ledger/period": f"{_LEDGER} tests.loans.test_periods",
    "ledger/exact": f"{_LEDGER} tests.loans.test_periods",
    "ledger/whole_units": f"{_LEDGER} tests.loans.test_periods",
    "ledger/discounting": "tests.loans.test_periods tests.loans.test_crossings",
    "ledger/ended_on_a_day": f"{_LEDGER} {_CLAUSES}",
    "ledger/deal": "tests.loans.test_dated_clauses",
    "line/cutting": _CLAUSES,
    "line/moves": _CLAUSES,
    "line/payments": _CLAUSES,
    "line/rates": _CLAUSES,
    "line/joined": _CLAUSES,
    "roots/narrowing": "tests.loans.test_roots tests.loans.test_backwards",
    "unknowns/last_payment": "tests.loans.test_schedule",
    "cost/costs": "tests.loans.test_costs",
    "cost/single_payment": "tests.loans.test_costs tests.loans.test_published",
    "cost/unit_times": "tests.loans.test_costs tests.loans.test_dates",
    "cost/yearly_cost": "tests.loans.test_costs tests.loans.test_published",
    "unknowns/counts": _UNKNOWNS,
    "unknowns/rates": _UNKNOWNS,
    "answer/aim_search": "tests.loans.test_backwards",
    "questions/points": "tests.loans.test_offers",
}
CONFIG = """
[cosmic-ray]
module-path = "zephyrant/loans/{module}.py"
timeout = 240.0
excluded-modules = []
test-command = "{python} manage.py test {tests} --failfast"
[cosmic-ray.distributor]
name = "local"
"""


def run(module: str, sample: int) -> tuple[int, int]:
    """Killed and tried of one module."""
    folder = Path("build/mutants")
    folder.mkdir(parents=True, exist_ok=True)
    name = module.replace("/", "-")
    config, session = folder / f"{name}.toml", folder / f"{name}.sqlite"
    tests = f"{TESTS} {MORE.get(module, '')}"
    config.write_text(CONFIG.format(module=module, python=sys.executable, tests=tests))
    session.unlink(missing_ok=True)
    command = [sys.executable, "-m", "cosmic_ray.cli"]
    subprocess.run([*command, "init", str(config), str(session)], check=True)
    with use_db(session, WorkDB.Mode.open) as work:
        items = sorted(work.pending_work_items, key=lambda item: item.job_id)
        keep = items
        if sample and len(items) > sample:
            keep = random.Random(os.environ.get("SEED", "") + module).sample(items, sample)
        kept = {item.job_id for item in keep}
        work.clear()
        work.add_work_items(item for item in items if item.job_id in kept)
    subprocess.run([*command, "exec", str(config), str(session)], check=True)
    with use_db(session, WorkDB.Mode.open) as work:
        results = dict(work.results)
        lived = [
            item
            for item in work.work_items
            if item.job_id in results and results[item.job_id].test_outcome == TestOutcome.SURVIVED
        ]
    for item in lived:
        for change in item.mutations:
            print(f"  lived: {change.module_path}:{change.start_pos[0]} {change.operator_name}")
    return len(results) - len(lived), len(results)


def main() -> None:
    """The modules named, or all."""
    sample = int(os.environ.get("SAMPLE", "40"))
    killed = tried = 0
    for module in sys.argv[1:] or MODULES:
        dead, all_of_them = run(module, sample)
        print(f"{module}: {dead} of {all_of_them} killed", flush=True)
        killed, tried = killed + dead, tried + all_of_them
    print(f"{killed} of {tried} killed")


if __name__ == "__main__":
    main()
