"""Frequencies, dates, day counts."""
