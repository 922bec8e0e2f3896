"""Loan documents as people keep them: JSON, YAML or TOML, read as strictly as money needs it."""

import tomllib
from collections.abc import Hashable
from datetime import date, datetime
from decimal import Decimal, InvalidOperation
from pathlib import Path
from typing import Any, Final, Literal, get_args

import yaml

from zephyrant.loans import MOST_TEXT, Loan, NotALoan, check, parse

Form = Literal["json", "yaml", "toml"]
FORMS: Final[tuple[Form, ...]] = get_args(Form)
_SUFFIXES: Final[dict[str, Form]] = {
    ".json": "json",
    ".yaml": "yaml",
    ".yml": "yaml",
    ".toml": "toml",
}


def form_of(name: str) -> Form | None:
    """The form a file's name says it has; None where it says none."""
    return _SUFFIXES.get(Path(name).suffix.lower())


def read_document(text: bytes, form: Form | None = None) -> Loan:
    """A loan from a document; without a `form` by what stands in it: what begins with a bracket is
    JSON, what else is TOML is read as that, all else as YAML.

    Raises `NotALoan` with what is wrong, at its field or its line.
    """
    if form is None:
        form = "json" if text.lstrip()[:1] in (b"", b"{", b"[", b'"') else None
    if form == "json":
        return check(parse(text))
    return check(_parsed(_decoded(text), form))


def read_file(path: Path) -> Loan:
    """A loan from a file, by its name or by what stands in it. Raises `NotALoan`."""
    try:
        with path.open("rb") as file:
            text = file.read(MOST_TEXT + 1)
    except OSError as error:
        raise NotALoan.at("", f"{path} cannot be read: {error.strerror or error}.") from None
    return read_document(text, form_of(path.name))


def _decoded(text: bytes) -> str:
    if len(text) > MOST_TEXT:
        message = f"This is too long for a loan document: at most {MOST_TEXT:,} characters."
        raise NotALoan.at("", message)
    try:
        return text.decode("utf-8-sig")
    except UnicodeDecodeError:
        raise NotALoan.at("", "This is not UTF-8 text.") from None


def _parsed(text: str, form: Form | None) -> object:
    if form == "yaml":
        return _yaml(text)
    try:
        return _as_json(tomllib.loads(text, parse_float=_number))
    except (tomllib.TOMLDecodeError, InvalidOperation, RecursionError) as error:
        if form is None:
            return _yaml(text)
        raise NotALoan.at("", f"This is not TOML: {error}.") from None


def _number(text: str) -> Decimal:
    number = Decimal(text)
    if not number.is_finite():
        raise InvalidOperation(f"{text} is no number of a loan")
    return number


def _as_json(content: Any) -> Any:  # noqa: ANN401  (whatever TOML may hold)
    """Days as JSON has them: in text."""
    if isinstance(content, dict):
        return {name: _as_json(value) for name, value in content.items()}
    if isinstance(content, list):
        return [_as_json(value) for value in content]
    if isinstance(content, date) and not isinstance(content, datetime):
        return content.isoformat()
    return content


class _Loader(yaml.SafeLoader):
    """YAML as a loan needs it: a number is exact, a day is text, no key stands twice, and nothing
    is told by pointing elsewhere."""

    def compose_node(self, parent: yaml.Node | None, index: int) -> yaml.Node | None:
        if self.check_event(yaml.AliasEvent):
            event = self.peek_event()  # type: ignore[no-untyped-call]
            raise yaml.MarkedYAMLError(
                problem="a loan document does not point elsewhere (*)",
                problem_mark=event.start_mark,
            )
        return super().compose_node(parent, index)

    def construct_mapping(self, node: yaml.MappingNode, deep: bool = False) -> dict[Hashable, Any]:
        names = [key.value for key, _ in node.value]
        for place, name in enumerate(names):
            if name in names[:place]:
                raise yaml.MarkedYAMLError(
                    problem=f"the key “{str(name)[:40]}” stands there twice",
                    problem_mark=node.value[place][0].start_mark,
                )
        return super().construct_mapping(node, deep)


def _as_written(loader: yaml.SafeLoader, node: yaml.Node) -> str:
    return str(node.value)


for _tag in ("int", "float", "timestamp"):
    _Loader.add_constructor(f"tag:yaml.org,2002:{_tag}", _as_written)


def _yaml(text: str) -> object:
    try:
        return yaml.load(text, _Loader)  # noqa: S506  (made of the safe loader)
    except yaml.MarkedYAMLError as error:
        mark = error.problem_mark
        at = f" in line {mark.line + 1}" if mark else ""
        raise NotALoan.at("", f"This is not YAML: {error.problem}{at}.") from None
    except (yaml.YAMLError, RecursionError, ValueError) as error:
        raise NotALoan.at("", f"This is not YAML: {error}.") from None
