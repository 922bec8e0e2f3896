"""A clause of a line as the document has it."""

from decimal import Decimal
from typing import Any, NamedTuple

from zephyrant.texts import worded

from ..calendars import frequencies
from ..document.fields import UNKNOWN
from ..numbers.decimals import plain
from .figures import Figures, Unsaid
from .phrase import Fact
from .places import PlaceError, place_of
from .slots import frequency


class SaidClause(NamedTuple):
    """A clause, and the names of what in it is a guess."""

    content: dict[str, Any]
    guesses: tuple[str, ...] = ()


def clause_of(fact: Fact, figures: Figures, count: int | None) -> SaidClause:
    """The clause that is said; `count` is the number of payments, where stated. Raises `Unsaid`."""
    verb = fact.more["verb"]
    per = fact.more.get("per")
    if per and verb in ("repay", "advance", "fee", "charge") and frequency(per) != figures.every:
        often = frequencies.period(figures.every).often
        raise Unsaid(
            worded(
                "Payments are {often}, and this comes {per}: say at which payments, such as at 12.",
                often=often,
                per=per,
            )
        )
    if verb == "step":
        return _step(fact, figures)
    place = _place(fact, figures, count)
    then = fact.more["then"]
    if verb == "fee":
        return _fee(fact, figures, place)
    if verb == "charge":
        return _charge(fact, figures, place)
    if verb == "pay":
        return SaidClause({**place, "pay": fact.said})
    if verb == "rate":
        quote, is_guess = figures.quote(fact)
        guesses = ("rate.compounding",) if is_guess else ()
        return SaidClause({**place, "rate": quote, **then}, guesses)
    amount = figures.amount(fact.said)
    return SaidClause({**place, verb: amount.value, **then}, (verb,) if amount.guess else ())


def _place(fact: Fact, figures: Figures, count: int | None) -> dict[str, Any]:
    said = fact.more["place"]
    try:
        place = place_of(said, figures.counted, count)
    except PlaceError as error:
        raise Unsaid(str(error)) from None
    if fact.more["verb"] == "rate" and "at" in place:
        return {"from": place["at"]}
    return place


def _fee(fact: Fact, figures: Figures, place: dict[str, Any]) -> SaidClause:
    value, in_percent = figures.either(fact.said)
    fee = {"percent": value.value} if in_percent else value.value
    how = fact.more["how"].lower()
    taken = "from-proceeds"
    if how.startswith("added"):
        taken = "added"
    elif how.endswith(("apart", "separately", "cash")):
        taken = "apart"
    return SaidClause({**place, "fee": fee, "taken": taken}, () if how else ("taken",))


def _charge(fact: Fact, figures: Figures, place: dict[str, Any]) -> SaidClause:
    value, in_percent = figures.either(fact.said)
    charge: dict[str, Any] = {"charge": value.value}
    guesses: tuple[str, ...] = ()
    if in_percent:
        of = "principal" if fact.more["of"].lower().endswith("principal") else "balance"
        charge = {"charge": {"percent": value.value, "of": of}}
        guesses = () if fact.more["of"] else ("charge.of",)
    if fact.more["name"]:
        charge["name"] = fact.more["name"].lower()
    if fact.more["apart"]:
        charge["in_costs"] = False
    return SaidClause({**place, **charge}, guesses)


def _step(fact: Fact, figures: Figures) -> SaidClause:
    value, in_percent = figures.either(fact.said)
    by = value.value
    if fact.more["falls"] and by != UNKNOWN:
        by = plain(-Decimal(by))
    each, every = fact.more["each"], frequencies.a_year(figures.every)
    if each:
        every = int(each)
    elif "every" in fact.more["time"].lower() and any(map(str.isdigit, fact.more["time"])):
        every = figures.counted(fact.more["time"].lower().replace("every ", ""))
    step = {"step": {"percent" if in_percent else "amount": by}, "every": every}
    if fact.more["place"]:
        return SaidClause({**_place(fact, figures, None), **step})
    return SaidClause({"from": every + 1, **step}, ("from",))
