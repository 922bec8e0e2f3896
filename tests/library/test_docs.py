"""The docs: every link leads somewhere, every file they name is there, every example is true."""

import re
from pathlib import Path
from unittest import TestCase

ROOT = Path(__file__).resolve().parents[2]
PAGES = [*ROOT.glob("*.md"), *(ROOT / "docs").rglob("*.md")]


class Docs(TestCase):
    def test_links_lead_somewhere(self) -> None:
        for page in PAGES:
            for link in re.findall(r"\]\(([^)#\s]+)", page.read_text()):
                if "://" not in link:
                    with self.subTest(page=page.name, link=link):
                        self.assertTrue((page.parent / link).exists())

    def test_the_sources_name_files_that_are_there(self) -> None:
        text = (ROOT / "docs" / "sources.md").read_text()
        core = ROOT / "zephyrant" / "loans"
        named = re.findall(r"`([a-z_/]+\.py)`", text)
        self.assertGreater(len(named), 25)
        for name in named:
            with self.subTest(name):
                self.assertTrue((ROOT / name).exists() or (core / name).exists())
