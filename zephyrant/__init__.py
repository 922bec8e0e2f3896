"""Loans solved: the core, the desk that serves it, and the site that serves the desk."""

#: The one place that says which version this is.
__version__ = "0.1.0"
