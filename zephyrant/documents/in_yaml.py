"""YAML read as a loan needs it."""

import re
from collections.abc import Hashable
from itertools import accumulate
from typing import Any, Final

import yaml

from zephyrant.loans import NotALoan
from zephyrant.texts import worded


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


#: Brackets and braces that may stand inside one another: a loan needs six.
_MOST_DEPTH: Final = 100


def _depth(text: str) -> int:
    """How deeply brackets and braces stand inside one another, at the most."""
    steps = (1 if mark in "[{" else -1 for mark in re.findall(r"[\[\]{}]", text))
    return max(accumulate(steps), default=0)


def parsed(text: str) -> object:
    """Whatever a document of YAML holds. Raises `NotALoan` with the line of what is none."""
    if _depth(text) > _MOST_DEPTH:
        # The library takes the square of it.
        raise NotALoan.at("", worded("This is not YAML of a loan: it is nested too deeply."))
    try:
        return yaml.load(text, _Loader)  # noqa: S506  (made of the safe loader)
    except yaml.MarkedYAMLError as error:
        mark = error.problem_mark
        at = worded(" in line {line}", line=mark.line + 1) if mark else ""
        raise NotALoan.at(
            "", worded("This is not YAML: {problem}{at}.", problem=error.problem, at=at)
        ) from None
    except (yaml.YAMLError, RecursionError, ValueError) as error:
        raise NotALoan.at("", worded("This is not YAML: {error}.", error=error)) from None
