"""Decimals, money and rounding, currencies, roots: arithmetic that knows no loan."""
