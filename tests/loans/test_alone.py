"""The core stands alone: nothing of the server's packages is needed to use it."""

import subprocess
import sys
from importlib.metadata import packages_distributions
from unittest import TestCase

#: What the core is made of beside the standard library, and what those need themselves.
CORE = {"pydantic", "pydantic_core", "annotated_types", "typing_extensions", "typing_inspection"}
CORE |= {"numpy", "flint", "iso4217"}

SCRIPT = f"""
import sys, importlib.abc
class Wall(importlib.abc.MetaPathFinder):
    def find_spec(self, name, path, target=None):
        core = ("zephyrant.loans", "zephyrant.texts", "zephyrant.version")
        ours = name.startswith("zephyrant.") and not name.startswith(core)
        if ours or name.partition(".")[0] in {set(packages_distributions()) - CORE!r}:
            raise ModuleNotFoundError("not needed: " + name, name=name)
sys.meta_path.insert(0, Wall())
import pkgutil, importlib, zephyrant.loans as loans
for module in pkgutil.walk_packages(loans.__path__, "zephyrant.loans."):
    importlib.import_module(module.name)
print(loans.solve(loans.check({{
    "zephyrant": "loan/1", "name": "", "currency": "EUR", "principal": "1200",
    "rate": {{"percent": "0"}}, "count": 12, "every": "month", "payment": "?", "balance": "0",
}})).value)
"""


class Alone(TestCase):
    def test_the_core_imports_and_solves_without_the_rest_installed(self) -> None:
        command = [sys.executable, "-c", SCRIPT]
        done = subprocess.run(command, capture_output=True, text=True, check=False)
        self.assertEqual((done.stdout.strip(), done.returncode), ("100.00", 0), done.stderr)
