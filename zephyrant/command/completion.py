"""`zephyrant completion SHELL`: what completes the command in a shell."""

import click
from click.shell_completion import get_completion_class


@click.command()
@click.argument("shell", type=click.Choice(["bash", "zsh", "fish"]))
def completion(shell: str) -> None:
    """Print what completes this command in a shell.

    \b
    For bash, in ~/.bashrc:                eval "$(zephyrant completion bash)"
    For zsh, in ~/.zshrc:                  eval "$(zephyrant completion zsh)"
    For fish, in ~/.config/fish/config.fish:
                                           zephyrant completion fish | source
    """
    from .main import zephyrant

    completing = get_completion_class(shell)
    if completing is None:  # pragma: no cover  (the choices are those there are)
        raise click.UsageError(f"Nothing completes in {shell}.")
    click.echo(completing(zephyrant, {}, "zephyrant", "_ZEPHYRANT_COMPLETE").source())
