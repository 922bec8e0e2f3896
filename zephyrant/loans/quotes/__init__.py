"""How rates are quoted, and their conversion."""
