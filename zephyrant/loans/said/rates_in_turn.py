"""Rates said one after the other: which is the loan's own, and from where the next ones hold."""

import re
from dataclasses import replace

from zephyrant.texts import worded

from .draft import Draft
from .phrase import Fact
from .places import PlaceError, place_of
from .slots import DAY


def rate_from_the_start(draft: Draft) -> None:
    """The only rate there is holds from the day of the start: "5 % from 1 Jan 2028"."""
    rates = _rate_clauses(draft)
    if draft.of("rate", "start") or len(rates) != 1:
        return
    fact, day = rates[0], re.fullmatch(rf"from ({DAY})", rates[0].more["place"], re.IGNORECASE)
    if day:
        draft.facts.remove(fact)
        draft.facts.append(replace(fact, field="rate", guess=True))
        draft.facts.append(replace(fact, field="start", said=day[1], guess=True))


def rates_after_each_other(draft: Draft) -> None:
    """ "5 % for the first year, then 6 %": the first is the loan's, the next a clause from where
    the last one before it ends."""
    rates, after = _rate_clauses(draft), draft.of("rate_after")
    first = next((fact for fact in rates if _is_first(fact)), None)
    if first and not draft.of("rate") and (after or len(rates) > 1):
        draft.facts.remove(first)
        draft.facts.append(replace(first, field="rate"))
    for fact in after:
        ends = _end_of([rate for rate in rates if rate.end <= fact.begin], draft)
        if ends is None:
            draft.wrong(worded("Say from when it holds, such as from 13 6 %."), fact)
            continue
        more = {**fact.more, "verb": "rate", "place": f"from {ends + 1}", "then": {}}
        draft.facts[draft.facts.index(fact)] = replace(fact, field="clause", more=more)


def _rate_clauses(draft: Draft) -> list[Fact]:
    return [fact for fact in draft.of("clause") if fact.more["verb"] == "rate"]


def _is_first(fact: Fact) -> bool:
    """Whether a clause says the rate of the first payments."""
    return bool(re.search(r"\bfirst\b|^from 1 to", fact.more["place"], re.IGNORECASE))


def _end_of(before: list[Fact], draft: Draft) -> int | None:
    """The payment with which the last of these ends, if it does."""
    if not before:
        return None
    try:
        end = place_of(before[-1].more["place"], draft.figures.counted, None).get("to")
    except PlaceError:
        return None
    return end if isinstance(end, int) else None
