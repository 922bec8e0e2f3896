"""A language made of the catalogue: every text between brackets, so that what is not in it is seen
where it stands. It bears the code of Swedish, which has months of its own."""

import re
from pathlib import Path

from babel.messages.catalog import Catalog
from babel.messages.pofile import read_po, write_po

CODE = "sv"
CATALOGUE = Path(__file__).resolve().parent.parent / "zephyrant/texts/zephyrant.pot"


def lay(folder: Path) -> Path:
    """The file of the made-up language, in this folder."""
    with CATALOGUE.open("rb") as opened:
        catalogue = read_po(opened)
    said = Catalog(locale=CODE)
    for message in catalogue:
        if isinstance(message.id, str):
            if message.id:
                said.add(message.id, f"⟦{message.id}⟧", locations=message.locations)
        else:
            forms = tuple(f"⟦{each}⟧" for each in message.id)
            said.add(message.id, forms, locations=message.locations)
    folder.mkdir(parents=True, exist_ok=True)
    file = folder / f"{CODE}.po"
    with file.open("wb") as out:
        write_po(out, said)
    return file


def outside(text: str) -> list[str]:
    """The words of a text that stand in no brackets."""
    depth, found = 0, ""
    for letter in text:
        depth += {"⟦": 1, "⟧": -1}.get(letter, 0)
        found += letter if depth <= 0 and letter not in "⟦⟧" else "\n"
        depth = max(depth, 0)
    return [part.strip() for part in re.split(r"\n+", found) if re.search(r"[^\W\d_]{2}", part)]
