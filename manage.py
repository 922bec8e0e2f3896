#!/usr/bin/env python
"""Django's command line, with the project's own commands (`solve` among them)."""

import argparse
import gc
import os
import sys


def _solve(arguments: list[str]) -> int | None:
    """`solve` without Django, which it does not need; None where an option of Django's is given."""
    # What is loaded stays, and documents and rows leave no cycles behind: garbage is rare.
    gc.set_threshold(50_000, 20, 50)
    from zephyrant.desk import solve_command

    parser = argparse.ArgumentParser("manage.py solve", description=solve_command.HELP)
    solve_command.add_arguments(parser)
    asked, others = parser.parse_known_args(arguments)
    if others:
        return None
    return solve_command.run(asked.files, asked.line, asked.table, asked.set, asked.match)


def main() -> None:
    """Run a command."""
    if sys.argv[1:2] == ["solve"] and (status := _solve(sys.argv[2:])) is not None:
        sys.exit(status)
    from django.core.management import execute_from_command_line

    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "zephyrant.site.settings")
    execute_from_command_line(sys.argv)


if __name__ == "__main__":
    main()
