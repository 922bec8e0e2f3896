"""The notebook of the docs runs, and what stands under its cells is what comes out."""

from pathlib import Path
from typing import Any
from unittest import TestCase

import nbclient
import nbformat

NOTEBOOK = Path(__file__).resolve().parents[2] / "docs" / "notebook.ipynb"


def outputs(notebook: Any) -> list[tuple[str, list[str]]]:
    """What came of each cell of code, in words."""
    return [
        (
            cell.source,
            [
                "".join(each.get("text") or each.get("data", {}).get("text/plain") or "failed")
                for each in cell.outputs
            ],
        )
        for cell in notebook.cells
        if cell.cell_type == "code"
    ]


class Notebook(TestCase):
    def test_it_runs_and_says_what_it_says(self) -> None:
        kept = nbformat.reads(NOTEBOOK.read_text(), 4)  # type: ignore[no-untyped-call]
        run = nbformat.reads(NOTEBOOK.read_text(), 4)  # type: ignore[no-untyped-call]
        nbclient.NotebookClient(run, timeout=120).execute()
        self.assertEqual(outputs(run), outputs(kept))
        shown = str(run.cells)
        for figure in ("938.82", "<svg", "8079.38"):
            self.assertIn(figure, shown)
