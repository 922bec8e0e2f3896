"""The balance rolled along the line: unrounded, to the cent, discounted, as arrays."""
