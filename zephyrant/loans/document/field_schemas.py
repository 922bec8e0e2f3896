"""The JSON Schemas of numbers, which a document writes as text or not."""

from typing import Any

_DECIMAL_SCHEMA = {"type": "string", "pattern": r"^[+-]?(\d+(\.\d*)?|\.\d+)$"}
#: Zero or more: only nothing has a sign.
NOT_BELOW_ZERO = {"type": "string", "pattern": r"^(\+?(\d+(\.\d*)?|\.\d+)|-(0+(\.0*)?|\.0+))$"}


def number_schema(*extra: dict[str, Any]) -> dict[str, Any]:
    """The JSON Schema of a number, as text or not; `extra`: what may stand there besides."""
    return {"anyOf": [*extra, _DECIMAL_SCHEMA, {"type": "number"}]}


def least_schema(*extra: dict[str, Any]) -> dict[str, Any]:
    """The JSON Schema of a number of zero or more, as text or not."""
    return {"anyOf": [*extra, NOT_BELOW_ZERO, {"type": "number", "minimum": 0}]}


def whole_schema(least: int, most: int) -> dict[str, Any]:
    """That of a whole number, as text or not."""
    text = {"type": "string", "pattern": r"^\+?\d+(\.0+)?$"}
    return {"anyOf": [{"type": "integer", "minimum": least, "maximum": most}, text]}
