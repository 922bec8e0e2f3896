"""`zephyrant`: loans, tables and rates by the command; with `[desk]` the desk, served and kept."""

from .main import main

__all__ = ["main"]
