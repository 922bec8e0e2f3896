"""Cover and value as a line says them, put into its document."""

import re
from typing import Any, Final

from ..document.fields import UNKNOWN
from .draft import Draft
from .phrase import Fact
from .slots import frequency

#: What stands between the cash flows of two years in a line.
_BETWEEN: Final = re.compile(r"/|;| then ")


def read_bounds(draft: Draft) -> None:
    """What is said of the cash flow, the cover and the value."""
    for fact in draft.of("cash_flow"):
        with draft.at(fact):
            value = draft.figures.amount(fact.said)
            draft.put("cover.cash_flow", value.value, fact, guess=value.guess)
    for fact in draft.of("cash_flows"):
        with draft.at(fact):
            _by_year(draft, fact)
    for fact in draft.of("cash_flow", "cash_flows", "cover"):
        if per := fact.more.get("per"):
            draft.put("cover.every", frequency(per), fact)
    for field, path in (("growth", "cover.growth"), ("highest", "value.highest")):
        for fact in draft.of(field):
            with draft.at(fact):
                draft.put(path, draft.figures.percent(fact.said).value, fact)
    for fact in draft.of("value"):
        with draft.at(fact):
            value = draft.figures.amount(fact.said)
            draft.put("value.amount", value.value, fact, guess=value.guess)
    for fact in draft.of("cover"):
        with draft.at(fact):
            ratio = UNKNOWN if fact.said == UNKNOWN else draft.figures.ratio(fact.said).value
            draft.put("cover.ratio", ratio, fact)


def _by_year(draft: Draft, fact: Fact) -> None:
    flows = [draft.figures.amount(each).value for each in _BETWEEN.split(fact.said)]
    draft.put("cover.cash_flows", "; ".join(flows), fact)
    draft.content["cover"]["cash_flows"] = flows


def figures_needed(content: dict[str, Any], figures: tuple[str, ...]) -> tuple[str, ...]:
    """The figures a loan is made of: where payments follow the cash flow its cover in place of the
    payment; none where as much is lent as cover and value allow."""
    if content.get("repayment") == "sculpted":
        return (*(name for name in figures if name != "payment"), "cover.ratio")
    bounded = "cover" in content or "value" in content
    is_open = content.get("principal", UNKNOWN) == UNKNOWN and "payment" not in content
    if bounded and is_open and "purchase" not in content:
        return tuple(name for name in figures if name != "payment")
    return figures
