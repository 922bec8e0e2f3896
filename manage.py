#!/usr/bin/env python
"""Django's command line, with the project's own commands (`solve` among them)."""

import gc
import os
import sys
from pathlib import Path


def main() -> None:
    """Run a command."""
    if sys.argv[1:2] == ["solve"]:
        # It does without Django. What is loaded stays, and documents and rows leave no cycles
        # behind: garbage is rare.
        gc.set_threshold(50_000, 20, 50)
        from zephyrant.command.main import run
        from zephyrant.command.solving import solve

        run(solve, sys.argv[2:], "manage.py solve")
    from django.core.management import execute_from_command_line

    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "zephyrant.site.settings")
    # In a checkout the data lie beside the code.
    os.environ.setdefault("ZEPHYRANT_DATA", str(Path(__file__).resolve().parent / "data"))
    execute_from_command_line(sys.argv)


if __name__ == "__main__":
    main()
