"""Loan documents as people keep them: JSON, YAML or TOML, read as strictly as money needs it."""

import sys
import tomllib
from datetime import date, datetime
from decimal import Decimal, InvalidOperation
from pathlib import Path
from typing import Any, Final, Literal, get_args

from zephyrant.loans import MOST_TEXT, Loan, NotALoan, check, parse
from zephyrant.texts import worded

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
    return check(_read(text, form))


def _read(text: bytes, form: Form | None) -> object:
    if form is None:
        form = "json" if text.lstrip()[:1] in (b"", b"{", b"[", b'"') else None
    return parse(text) if form == "json" else _parsed(_decoded(text), form)


def read_content(name: str) -> object:
    """What stands in a file (`-`: standard input), whatever document it is. Raises `NotALoan`."""
    return _read(_content(name), form_of(name))


def read_file(name: str, form: Form | None = None) -> Loan:
    """A loan from a file (`-`: standard input), in the `form` said, by its name, or by what stands
    in it. Raises `NotALoan`."""
    return read_document(_content(name), form or form_of(name))


def _content(name: str) -> bytes:
    """The file's content, or so much of it that its being too long shows."""
    if name == "-":
        return sys.stdin.buffer.read(MOST_TEXT + 1)
    try:
        with Path(name).open("rb") as file:
            return file.read(MOST_TEXT + 1)
    except OSError as error:
        raise NotALoan.at(
            "",
            worded(
                "{name} cannot be read: {strerror}.", name=name, strerror=error.strerror or error
            ),
        ) from None


def _decoded(text: bytes) -> str:
    if len(text) > MOST_TEXT:
        message = worded(
            "This is too long for a loan document: at most {most} characters.",
            most=f"{MOST_TEXT:,}",
        )
        raise NotALoan.at("", message)
    try:
        return text.decode("utf-8-sig")
    except UnicodeDecodeError:
        raise NotALoan.at("", worded("This is not UTF-8 text.")) from None


def _parsed(text: str, form: Form | None) -> object:
    if form == "yaml":
        return _yaml(text)
    try:
        return _as_json(tomllib.loads(text, parse_float=_number))
    except (tomllib.TOMLDecodeError, InvalidOperation, RecursionError) as error:
        if form is None:
            return _yaml(text)
        raise NotALoan.at("", worded("This is not TOML: {error}.", error=error)) from None


def _yaml(text: str) -> object:
    # Most documents are JSON, and do without what reads YAML.
    from .in_yaml import parsed

    return parsed(text)


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
