"""Numbers that nothing names, beside the amount: "43,700 5.4 48m"."""

import re
from dataclasses import replace

from .draft import Draft
from .phrase import Fact


def noted(draft: Draft, bare: list[Fact]) -> list[Fact]:
    """Takes a number with a fraction for the rate and one in months for the term, as guesses, where
    a line says neither otherwise; gives what stays unnamed."""
    decimal = re.escape(draft.figures.marks.decimal)
    left = []
    for fact in bare:
        if not _rated(draft) and re.fullmatch(
            rf"[0-9]{{1,2}}(?:{decimal}[0-9]{{1,6}}| [0-9]+/[0-9]+)", fact.said
        ):
            more = {"modes": "", "before": ""}
            draft.facts.append(replace(fact, field="rate", guess=True, more=more))
        elif not draft.of("count", "term") and re.fullmatch("[0-9]{1,4} ?[mM]", fact.said):
            draft.facts.append(replace(fact, field="term", guess=True))
        else:
            left.append(fact)
    return left


def _rated(draft: Draft) -> bool:
    return bool(draft.of("rate")) or any(fact.more["verb"] == "rate" for fact in draft.of("clause"))
