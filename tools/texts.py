"""`make texts`: the catalogue of every text there is, gathered from where the texts stand.

`zephyrant/texts/zephyrant.pot` is what a translator begins with: `python -m tools.texts de` makes
`zephyrant/texts/languages/de.po` of it, and a file that is there is brought up to date, with what
was translated kept. `--check` fails where the catalogue is stale.
"""

import ast
import importlib
import io
import json
import pkgutil
import subprocess
import sys
from collections.abc import Iterator, Mapping, Sequence
from pathlib import Path
from typing import Any, Final

from babel.messages.catalog import Catalog
from babel.messages.pofile import read_po, write_po

from zephyrant import loans
from zephyrant.loans.calendars.frequencies import ANY, PERIODS, Period
from zephyrant.loans.document.choices import Verb
from zephyrant.loans.document.named import Named
from zephyrant.loans.quotes.convention import Convention
from zephyrant.loans.tape.named import NamedRounding
from zephyrant.texts import Said, Worded

ROOT: Final = Path(__file__).resolve().parent.parent
CATALOGUE: Final = ROOT / "zephyrant/texts/zephyrant.pot"
LANGUAGES: Final = ROOT / "zephyrant/texts/languages"
HEADER: Final = """\
# The texts of Zephyrant: what the screen, its files and its refusals say.
# Made by `make texts`; {places} stay as they are, wherever they are put."""
#: What is called with a text, or with one and that of many.
_SAYS: Final = {"worded": 1, "Sentence": 1, "counted": 2}
#: Where texts stand that are told to nobody at a desk: in English whoever reads them.
_APART: Final = ("command", "library", "texts", "site")

Text = tuple[str, ...]


def catalogue() -> Catalog:
    """Every text, with the files it stands in."""
    made = Catalog(project="Zephyrant", header_comment=HEADER, charset="utf-8", fuzzy=False)
    gathered: dict[Text, set[str]] = {}
    for text, file in (*_of_the_screen(), *_called(), *_in_tables(), *_of_periods()):
        core = tuple(each.strip() for each in text)
        if any(letter.isalpha() for letter in core[0]):
            gathered.setdefault(core, set()).add(file)
    # What is said of one and of many, and alone too, is one entry.
    alone = {text[0] for text in gathered if len(text) == 2}
    for text in sorted(gathered, key=lambda each: (each[0].lower(), each)):
        if len(text) == 1 and text[0] in alone:
            continue
        places = [(file, 0) for file in sorted(gathered[text])]
        flags = ["python-brace-format"] if "{" in text[-1] else []
        told = made.add(text if len(text) > 1 else text[0], locations=places, flags=flags)
        # A percent sign is a percent sign.
        told.flags.discard("python-format")
    return made


def _of_the_screen() -> Iterator[tuple[Text, str]]:
    told = subprocess.run(
        ["node", "texts.mjs"], cwd=ROOT / "web", check=True, capture_output=True, text=True
    ).stdout
    for each in json.loads(told):
        yield tuple(each["texts"]), each["file"]


def _called() -> Iterator[tuple[Text, str]]:
    """What Python says where it is said."""
    trees = {
        str(file.relative_to(ROOT)): ast.parse(file.read_text())
        for file in sorted((ROOT / "zephyrant").rglob("*.py"))
    }
    known = {
        name: values
        for tree in trees.values()
        for name, values in _constants(tree).items()
        if name.isupper()
    }
    for name, tree in trees.items():
        if name.split("/")[1] in _APART or "/migrations/" in name:
            continue
        constants = {**known, **_constants(tree)}
        for node in ast.walk(tree):
            if not isinstance(node, ast.Call):
                continue
            called = ast.unparse(node.func).rpartition(".")[2]
            if called in _SAYS and len(node.args) >= _SAYS[called]:
                one, *more = node.args
                for text in _texts(one, constants):
                    many = next(_texts(more[0], constants), None) if _SAYS[called] == 2 else None
                    yield (text,) if many is None else (text, many), name
            elif called in ("Worded", "Job"):
                told = [each.value for each in node.keywords if each.arg == "answer"]
                for part in (*node.args, *told):
                    for text in _texts(part, constants):
                        yield (text,), name


#: All that a name is given in a module.
Constants = Mapping[str, Sequence[ast.expr]]


def _constants(tree: ast.Module) -> Constants:
    found: dict[str, list[ast.expr]] = {}
    for node in ast.walk(tree):
        if isinstance(node, ast.Assign) and isinstance(node.targets[0], ast.Name):
            found.setdefault(node.targets[0].id, []).append(node.value)
        elif isinstance(node, ast.AnnAssign) and isinstance(node.target, ast.Name) and node.value:
            found.setdefault(node.target.id, []).append(node.value)
    return found


def _texts(node: ast.expr, constants: Constants) -> Iterator[str]:
    """The texts an expression can be."""
    match node:
        case ast.Constant(value=str(text)):
            yield text
        case ast.IfExp(body=body, orelse=orelse):
            yield from _texts(body, constants)
            yield from _texts(orelse, constants)
        case ast.Dict(values=values) | ast.Tuple(elts=values):
            for value in values:
                yield from _texts(value, constants)
        case ast.Name(id=name) | ast.Attribute(attr=name) if name in constants:
            # Not itself: `text = worded(text)`.
            others = {other: values for other, values in constants.items() if other != name}
            for value in constants[name]:
                yield from _texts(value, others)


def _in_tables() -> Iterator[tuple[Text, str]]:
    """What stands in tables of words that are made when they are loaded."""
    for found in pkgutil.walk_packages(loans.__path__, f"{loans.__name__}."):
        module = importlib.import_module(found.name)
        file = Path(str(module.__file__)).relative_to(ROOT)
        for value in vars(module).values():
            for text in _inside(value):
                yield (text,), str(file)


def _inside(value: Any, depth: int = 0) -> Iterator[str]:  # noqa: ANN401
    """The texts of words in a value: of records that say them, and of tables of them."""
    said = [name for name, field in vars(type(value)).items() if isinstance(field, Said)]
    if said:
        yield from (getattr(value, name) for name in said)
    if isinstance(value, Named):
        yield value.alone
    elif isinstance(value, Period):
        yield from (value.often, value.noun)
    elif isinstance(value, Verb):
        yield from _inside(value.units, depth + 1)
    elif isinstance(value, NamedRounding):
        yield value.title
    elif isinstance(value, Convention):
        yield from (value.said, value.needs, value.beyond, value.title, value.choice)
    elif isinstance(value, Worded):
        yield from value.values()
    elif isinstance(value, dict | list | tuple) and depth < 3:
        for each in value.values() if isinstance(value, dict) else value:
            yield from _inside(each, depth + 1)


def _of_periods() -> Iterator[tuple[Text, str]]:
    """So many of a period, and of payments."""
    file = "zephyrant/loans/calendars/frequencies.py"
    for noun in ("payment", *(each.noun for each in (*PERIODS.values(), ANY))):
        yield (f"{{count}} {noun}", f"{{count}} {noun}s"), file


def written(made: Catalog) -> bytes:
    """A catalogue as a file that only changes with its texts."""
    out = io.BytesIO()
    write_po(out, made, width=100, omit_header=False, include_lineno=False)
    lines = out.getvalue().decode().splitlines()
    changing = ('"POT-Creation-Date', '"PO-Revision-Date', '"Generated-By')
    return ("\n".join(line for line in lines if not line.startswith(changing)) + "\n").encode()


def main(*asked: str) -> None:
    made = catalogue()
    fresh = written(made)
    if "--check" in asked:
        if not CATALOGUE.exists() or CATALOGUE.read_bytes() != fresh:
            sys.exit("zephyrant.pot is stale: run make texts.")
        return
    CATALOGUE.write_bytes(fresh)
    for language in sorted({*asked, *(file.stem for file in LANGUAGES.glob("*.po"))}):
        LANGUAGES.mkdir(exist_ok=True)
        file = LANGUAGES / f"{language}.po"
        if file.exists():
            with file.open("rb") as opened:
                translated = read_po(opened, locale=language)
        else:
            translated = Catalog(locale=language, project="Zephyrant", fuzzy=False)
        translated.update(made, no_fuzzy_matching=True)
        translated.obsolete.clear()
        file.write_bytes(written(translated))
    print(f"{len(made)} texts in {CATALOGUE.relative_to(ROOT)}")


if __name__ == "__main__":
    main(*sys.argv[1:])
