"""The loan document: its parts, the whole, the path of a figure, its sentence."""
