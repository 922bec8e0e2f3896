"""`python -m zephyrant`: the command."""

from zephyrant.command import main

main()
