"""The command and its parts, each loaded when it is asked for."""

import importlib
import sys
import traceback
from typing import Any, Final

import click

from zephyrant.loans import at_fault
from zephyrant.version import __version__

from .statuses import OUR_FAULT

#: Each part of the command, the module it stands in, and what is said of it in the list.
_PARTS: Final = {
    "solve": ("solving", "Solve loans: documents, or lines of words."),
    "table": ("tables", "Solve a table of loans, a row each."),
    "rates": ("rates", "Put a quote on every footing; rank several."),
    "demo": ("desk", "Start a desk with demo data.  [desk]"),
    "serve": ("desk", "Serve a desk for real.  [desk]"),
    "analyst": ("desk", "Add an analyst to a desk.  [desk]"),
    "fetch-index": ("desk", "Fetch the fixings of indices to a desk.  [desk]"),
    "backup": ("desk", "Copy a desk's database, checked.  [desk]"),
    "restore": ("desk", "Bring a backup of a desk back.  [desk]"),
    "completion": ("completion", "Print what completes this command in a shell."),
}


class _Parts(click.Group):
    """The parts, in the order in which one meets them."""

    def list_commands(self, ctx: click.Context) -> list[str]:
        return list(_PARTS)

    def get_command(self, ctx: click.Context, cmd_name: str) -> click.Command | None:
        if cmd_name not in _PARTS:
            return None
        module = importlib.import_module(f"zephyrant.command.{_PARTS[cmd_name][0]}")
        command: click.Command = getattr(module, cmd_name.replace("-", "_"))
        return command

    def format_commands(self, ctx: click.Context, formatter: click.HelpFormatter) -> None:
        with formatter.section("Commands"):
            formatter.write_dl([(name, says) for name, (_, says) in _PARTS.items()])


_EXAMPLES: Final = """
\b
Examples:
  zephyrant solve --line "43,700 at 5.4 % over 4 years"
  zephyrant solve loan.yaml --as md --working > loan.md
  zephyrant table tape.csv > solved.csv
  zephyrant rates "6.35 % compounded half-yearly" "6.4 %"

Parts marked [desk] need `pip install 'zephyrant[desk]'`. Each part has its own --help.
"""


@click.group(cls=_Parts, context_settings={"help_option_names": ["-h", "--help"]}, epilog=_EXAMPLES)
@click.version_option(__version__, message="zephyrant %(version)s")
def zephyrant() -> None:
    """State a loan, put a ? where a figure is missing, and get it: with the whole loan to the cent,
    its working and its proof."""


def main(arguments: list[str] | None = None) -> None:
    """Runs the command, and leaves with its status; what we did wrong is told with an id."""
    run(zephyrant, arguments, "zephyrant")


def run(command: click.Command, arguments: list[str] | None, name: str) -> None:
    """Runs a part of the command under a name, as `main` does."""
    try:
        command.main(args=arguments, prog_name=name, **_whole())
    except Exception:
        fault = at_fault()
        sys.stderr.write(f"{fault.errors[0].message}\n{traceback.format_exc()}")
        sys.exit(OUR_FAULT)


def _whole() -> dict[str, Any]:
    return {"complete_var": "_ZEPHYRANT_COMPLETE"}
