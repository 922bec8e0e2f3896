"""An answer out of the door: as text, Markdown, CSV, a workbook, a PDF, a picture. Nothing here
works a figure or needs a server; what a kind of file needs is loaded with its module."""
