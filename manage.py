#!/usr/bin/env python
"""Django's command line, with the project's own commands (`solve` among them)."""

import os
import sys

from django.core.management import execute_from_command_line


def main() -> None:
    """Run a command."""
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "zephyrant.site.settings")
    execute_from_command_line(sys.argv)


if __name__ == "__main__":
    main()
