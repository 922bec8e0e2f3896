"""The schema of the API with a description and an example for every property and operation."""

from functools import cached_property
from typing import Any, Final

from django.http import HttpRequest
from ninja import NinjaAPI, Router
from ninja.openapi.schema import OpenAPISchema
from ninja.operation import Operation

from .vocabulary import WORDS

Schema = dict[str, Any]
_REFERS: Final = "#/components/schemas/"


class DescribedAPI(NinjaAPI):
    """An API whose schema says what everything is; it is made once, which takes a second."""

    def __init__(self, **named: Any) -> None:  # noqa: ANN401
        super().__init__(**named)
        self._schemas: dict[str, OpenAPISchema] = {}

    def get_operation_url_name(self, operation: Operation, router: Router) -> str:
        """An operation is found under its own name."""
        return str(operation.operation_id)

    def operation_of(self, request: HttpRequest) -> str:
        """The name of the operation that a request was resolved to."""
        if request.resolver_match is None:
            raise ValueError("the request was not resolved")
        return self._operations[request.resolver_match.url_name or "", request.method or ""]

    @cached_property
    def _operations(self) -> dict[tuple[str, str], str]:
        """By the first operation of its path, under which that is found, and by its method."""
        return {
            (str(path.operations[0].operation_id), method): str(operation.operation_id)
            for _, router in self._routers
            for path in router.path_operations.values()
            for operation in path.operations
            for method in operation.methods
        }

    def get_openapi_schema(self, **named: Any) -> OpenAPISchema:  # noqa: ANN401
        """The schema, described."""
        asked = repr(sorted(named.items()))
        if asked not in self._schemas:
            schema = super().get_openapi_schema(**named)
            describe(schema)
            self._schemas[asked] = schema
        return self._schemas[asked]


def describe(schema: Schema) -> None:
    """Adds what the vocabulary says, and the examples that it makes."""
    parts: dict[str, Schema] = schema["components"]["schemas"]
    for name, part in parts.items():
        for title, told in part.get("properties", {}).items():
            says, example = word(name, title)
            told.setdefault("description", says)
            _plainer(told)
            told["examples"] = [_made(told, example, parts)]
    for operations in schema["paths"].values():
        for operation in operations.values():
            good = [each for code, each in operation["responses"].items() if int(code) < 300]
            for content in (operation.get("requestBody", {}), *good):
                kind = content.get("content", {}).get("application/json")
                if kind and kind.get("schema"):
                    kind["example"] = example_of(kind["schema"], parts)


def _plainer(told: Schema) -> None:
    """A property as generators of clients read it: no default that is an object (it stands in
    `x-default`), and the ? among the texts it may be."""
    if isinstance(told.get("default"), dict):
        told["x-default"] = told.pop("default")
    kinds: list[Schema] = told.get("anyOf", [])
    asked = next((each for each in kinds if each.get("const") == "?"), None)
    texts = next((each for each in kinds if "pattern" in each), None)
    if asked is not None and texts is not None:
        kinds.remove(asked)
        texts["pattern"] = f"^(\\?|{texts['pattern'].removeprefix('^').removesuffix('$')})$"


def word(schema: str, name: str) -> tuple[str, Any]:
    """What a property says, and an example of it."""
    return WORDS.get(f"{schema}.{name}") or WORDS[name]


def example_of(schema: Schema, parts: dict[str, Schema]) -> Any:  # noqa: ANN401
    """An example of a schema, put together of those of its properties."""
    if "$ref" in schema:
        name = schema["$ref"].removeprefix(_REFERS)
        told = parts[name].get("properties")
        if told is None:
            return example_of(parts[name], parts)
        made = {each: _made(told[each], word(name, each)[1], parts) for each in told}
        needed = parts[name].get("required", ())
        # What may be left out, and says nothing, is.
        return {each: made[each] for each in made if made[each] is not None or each in needed}
    if "anyOf" in schema:
        return example_of(next(each for each in schema["anyOf"] if each != _NOTHING), parts)
    if "allOf" in schema:
        return example_of(schema["allOf"][0], parts)
    if schema.get("type") == "array":
        return [example_of(schema["items"], parts)]
    if "enum" in schema:
        return schema["enum"][0]
    return {"string": "", "object": {}, "integer": 0, "number": 0, "boolean": False}.get(
        schema.get("type", "")
    )


_NOTHING: Final = {"type": "null"}
#: What the vocabulary leaves to be made of the schema itself: a whole, and a list of one.
_WHOLE: Final[Schema] = {}
_ONE: Final[list[Schema]] = [{}]


def _made(schema: Schema, example: Any, parts: dict[str, Schema]) -> Any:  # noqa: ANN401
    if example in (_WHOLE, _ONE):
        return example_of(schema, parts) if _has_parts(schema) else example
    return example


def _has_parts(schema: Schema) -> bool:
    """Whether a schema refers to others."""
    inner = [*schema.get("anyOf", ()), *schema.get("allOf", ()), schema.get("items")]
    return "$ref" in schema or any(_has_parts(each) for each in inner if each)
