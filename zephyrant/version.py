"""The one place that says which version this is."""

__version__ = "0.1.0"
