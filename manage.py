#!/usr/bin/env python
"""Django's command line, with the project's own commands (`solve` among them)."""

import os
import sys


def main() -> None:
    """Run a command. `solve` needs no application of Django's, and starts without them."""
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "zephyrant.site.settings")
    if sys.argv[1:2] == ["solve"]:
        from zephyrant.desk.management.commands.solve import Command

        Command().run_from_argv(sys.argv)
        return
    from django.core.management import execute_from_command_line

    execute_from_command_line(sys.argv)


if __name__ == "__main__":
    main()
