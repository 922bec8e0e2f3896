"""The desk by the command: `demo`, `serve`, `analyst`, `fetch-index`, `backup`, `restore`. All of
it needs what `zephyrant[desk]` brings."""

import importlib.util
import os
import signal
import socket
import subprocess
import sys
import tempfile
import time
import urllib.request
from collections.abc import Callable
from pathlib import Path
from typing import Any, Final

import click

_HELP: Final = {"help_option_names": ["-h", "--help"]}
#: Seconds within which a server answers.
_PATIENCE: Final = 60
_USUAL_BIND: Final = "127.0.0.1:8000"


def _data(function: Callable[..., Any]) -> Callable[..., Any]:
    return click.option(
        "--data",
        type=click.Path(file_okay=False, path_type=Path),
        envvar="ZEPHYRANT_DATA",
        help="Folder of the database and the key (ZEPHYRANT_DATA; default: the user's folder for "
        "data).",
    )(function)


def _bind(function: Callable[..., Any]) -> Callable[..., Any]:
    return click.option(
        "--bind",
        default=_USUAL_BIND,
        show_default=True,
        envvar="ZEPHYRANT_BIND",
        help="Where it listens (ZEPHYRANT_BIND).",
    )(function)


def _needs_the_desk() -> None:
    if importlib.util.find_spec("django") is None:
        raise click.UsageError(
            "This needs the desk, which is not installed: pip install 'zephyrant[desk]'."
        )


def _surroundings(data: Path | None, **more: str) -> None:
    """What the desk's settings are read from."""
    _needs_the_desk()
    if data is not None:
        os.environ["ZEPHYRANT_DATA"] = str(data.resolve())
    os.environ["DJANGO_SETTINGS_MODULE"] = "zephyrant.site.settings"
    os.environ.update(more)


def _writable(data: Path) -> None:
    """Refuses a folder in which nothing can be written, before anything is begun there."""
    try:
        data.mkdir(parents=True, exist_ok=True)
        with tempfile.TemporaryFile(dir=data):
            pass
    except OSError as error:
        raise click.ClickException(
            f"Nothing can be written in {data}: {error.strerror or error}. Name a folder of your "
            "own with --data."
        ) from None


def _call(name: str, *arguments: object, **options: object) -> None:
    """A command of the desk; what it refuses is told without a trace."""
    import django
    from django.core.management import CommandError, call_command

    django.setup()
    try:
        call_command(name, *arguments, **options)
    except CommandError as error:
        raise click.ClickException(str(error)) from None


def _up_to_date() -> None:
    """The desk's database as this version has it."""
    import django

    django.setup()
    from django.conf import settings
    from django.db import DatabaseError

    from zephyrant.desk.backup import BackupError
    from zephyrant.desk.upgrading import bring_up_to_date

    _writable(settings.DATA_DIR)
    try:
        copied = bring_up_to_date()
    except (BackupError, DatabaseError, OSError) as error:
        raise click.ClickException(str(error)) from None
    if copied:
        click.echo(f"The database is brought up to this version; before that it was {copied}.")


def _free(bind: str) -> None:
    """Refuses an address that is taken, before anything else is done."""
    host, _, port = bind.rpartition(":")
    if not port.isdecimal():
        raise click.UsageError(f"“{bind}” is no address: write it such as {_USUAL_BIND}.")
    try:
        with socket.socket() as tried:
            tried.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
            tried.bind((host or "0.0.0.0", int(port)))  # noqa: S104  (as asked)
    except (OSError, OverflowError) as error:
        raise click.ClickException(f"{bind} cannot be listened on: {error}.") from None


def _gunicorn(log_level: str) -> list[str]:
    settings = "python:zephyrant.site.serving"
    return [sys.executable, "-m", "gunicorn", "-c", settings, "--log-level", log_level]


@click.command(context_settings=_HELP)
@click.option(
    "--data",
    type=click.Path(file_okay=False, path_type=Path),
    help="Folder of the demo's database and key (default: demo/ in the user's folder for data).",
)
@_bind
def demo(data: Path | None, bind: str) -> None:
    """Start a desk with demo data: one analyst, whose cases show what there is.

    For a look on this machine alone: whoever reaches it is that analyst.
    """
    _needs_the_desk()
    if data is None:
        # Never where a real desk's data lie, wherever the environment says that is.
        from platformdirs import user_data_path

        data = user_data_path("zephyrant", appauthor=False) / "demo"
    _surroundings(data, ZEPHYRANT_HTTPS="off", ZEPHYRANT_DEMO="on", ZEPHYRANT_BIND=bind)
    _free(bind)
    click.echo("Laying the database ...")
    _up_to_date()
    click.echo("Laying the demo desk: an analyst, her cases, a table of loans ...")
    _call("lay_demo")
    click.echo("Starting the server ...")
    server = subprocess.Popen(_gunicorn("warning"))  # noqa: S603  (our own)
    signal.signal(signal.SIGTERM, lambda *_: server.terminate())
    try:
        _wait_for(server, bind)
        click.echo(f"Zephyrant's demo desk: http://{bind}/   (Ctrl+C ends it)")
        sys.exit(server.wait())
    except KeyboardInterrupt:
        # The server has it too, and ends.
        sys.exit(server.wait())


def _wait_for(server: subprocess.Popen[bytes], bind: str) -> None:
    """Until the server answers; it has to within a minute."""
    ends = time.monotonic() + _PATIENCE
    while server.poll() is None and time.monotonic() < ends:
        try:
            with urllib.request.urlopen(f"http://{bind}/healthz", timeout=5):
                return
        except OSError:
            time.sleep(0.1)
    server.terminate()
    raise click.ClickException("The server does not answer; what it wrote above says why.")


@click.command(context_settings=_HELP)
@_data
@_bind
@click.option(
    "--hosts",
    envvar="ZEPHYRANT_HOSTS",
    help="Host names served, parted by commas (ZEPHYRANT_HOSTS; default: this machine alone).",
)
@click.option(
    "--plain-http",
    is_flag=True,
    help="No TLS stands before the server (ZEPHYRANT_HTTPS=off): on a network one trusts alone.",
)
def serve(data: Path | None, bind: str, hosts: str | None, plain_http: bool) -> None:
    """Serve a desk for real. A database of an older version is copied, then brought up to this one.

    All else is set in the environment: README and docs/keeping.md tell of it.
    """
    more = {"ZEPHYRANT_HOSTS": hosts} if hosts else {}
    if plain_http:
        more["ZEPHYRANT_HTTPS"] = "off"
    _surroundings(data, ZEPHYRANT_BIND=bind, **more)
    _free(bind)
    _up_to_date()
    click.echo(f"Zephyrant listens on {bind}.")
    sys.stdout.flush()
    # In its place: whoever started this watches the server itself.
    command = _gunicorn("info")
    os.execv(command[0], command)  # noqa: S606


@click.command(context_settings=_HELP)
@_data
@click.argument("username")
@click.option("--first-name", default="", help="What the analyst is called.")
@click.option("--last-name", default="")
@click.option("--administrator", is_flag=True, help="May add analysts too.")
def analyst(
    data: Path | None, username: str, first_name: str, last_name: str, administrator: bool
) -> None:
    """Add an analyst, and print a first password."""
    _surroundings(data)
    _up_to_date()
    _call(
        "add_analyst",
        username,
        first_name=first_name,
        last_name=last_name,
        administrator=administrator,
    )


@click.command("fetch-index", context_settings=_HELP)
@_data
@click.argument("names", nargs=-1, metavar="[NAME ...]")
def fetch_index(data: Path | None, names: tuple[str, ...]) -> None:
    """Fetch the fixings of indices from the feed, for everyone (a made-up index stands in)."""
    _surroundings(data)
    _up_to_date()
    _call("fetch_index", *names)


@click.command(context_settings=_HELP)
@_data
@click.argument("file", type=click.Path(path_type=Path))
@click.option("--keep", type=int, metavar="N", help="Of a folder the newest N stay.")
def backup(data: Path | None, file: Path, keep: int | None) -> None:
    """Write a checked copy of the database to FILE, or into a folder, while the server runs."""
    _surroundings(data)
    _call("backup", file, keep=keep)


@click.command(context_settings=_HELP)
@_data
@click.argument("file", type=click.Path(path_type=Path))
@click.option("--force", is_flag=True, help="Even while the server runs.")
def restore(data: Path | None, file: Path, force: bool) -> None:
    """Replace the database by a backup; what is there is kept beside it first."""
    _surroundings(data)
    _call("restore", file, force=force)
