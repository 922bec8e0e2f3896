"""Which clause gives way to which, and where."""

from collections.abc import Sequence
from itertools import pairwise
from typing import NamedTuple

from .cutting import Cutting
from .pieces import Holding, Pieces, turning
from .terms import Provision


class GivesWay(NamedTuple):
    """Payments (of a rate the periods) for which a clause holds and another one of its kind, by its
    place in the list, wins."""

    first: int
    last: int
    wins: int


def giving_way(cutting: Cutting, clauses: int) -> dict[int, list[GivesWay]]:
    """Where each of the first so many clauses gives way; a payment gives way to `pay`, too."""
    places, payments = cutting.places, cutting.payments
    found: dict[int, list[GivesWay]] = {}
    for place, provision in enumerate(cutting.terms.provisions[:clauses]):
        ruling: list[Pieces[int | None]]
        if provision.verb == "rate":
            holding, ruling = places.rate_holds(provision, place), [cutting.rates.rating]
        elif provision.verb in ("payment", "pay"):
            ruling = [payments.stating] if provision.verb == "payment" else []
            holding, ruling = places.paid_holds(provision, place), [*ruling, payments.pausing]
        else:
            continue
        if ways := _ways_of(cutting, provision, holding, ruling):
            found[place] = ways
    return found


def _ways_of(
    cutting: Cutting,
    provision: Provision,
    holding: Holding,
    ruling: Sequence[Pieces[int | None]],
) -> list[GivesWay]:
    """Where one clause holds and another of those ruling wins."""
    places, is_rate = cutting.places, provision.verb == "rate"
    turns = turning(ruling) | {holding.begins[0], holding.ends[0], 1, places.last + 1}
    if is_rate:
        # A rate that turns inside a period is that of the next one's beginning.
        turns |= {number + 1 for number in turns}
    if provision.months:
        turns.update(places.turns_of_months)
    ways: list[GivesWay] = []
    within = sorted(turn for turn in turns if 1 <= turn <= places.last + 1)
    for first, after in pairwise(within):
        day = places.begins_on(first).toordinal() if places.calendar and is_rate else 0
        winners = [wins for each in ruling if (wins := each.at(first, day)) is not None]
        holds = holding.is_at((first, day), places.month(first))
        if not holds or not winners or winners[-1] == holding.place:
            continue
        if ways and ways[-1].last == first - 1 and ways[-1].wins == winners[-1]:
            ways[-1] = ways[-1]._replace(last=after - 1)
        else:
            ways.append(GivesWay(first, after - 1, winners[-1]))
    return ways
