"""The list of cases: found by words, sorted, a page of it at a time, however many there are."""

from operator import itemgetter
from typing import Any, Final, NamedTuple
from uuid import UUID

from django.contrib.auth.models import User
from django.db.models import Q, QuerySet

from zephyrant.loans import Marks
from zephyrant.loans.statement import read_amount

from .models import Case

#: By what a list is sorted, and whether the last comes first.
SORTS: Final[dict[str, tuple[str, bool]]] = {
    "changed": ("changed_at", True),
    "name": ("name", False),
    "created": ("created_at", True),
}
#: Words of a search that are looked for.
_MOST_WORDS: Final = 12


class Listed(NamedTuple):
    """A page of the list, and how many cases there are in all."""

    cases: list[Case]
    total: int


#: What a case is sorted by, and its key.
_Place = tuple[Any, UUID]


def _word(word: str, marks: Marks) -> Q:
    """A word of a search; a number is looked for as such, however it is typed."""
    amount = read_amount(word, marks, "EUR")
    found = Q(search__contains=word.lower())
    if amount.value and amount.value != "?":
        found |= Q(search__contains=amount.value)
    return found


def search(user: User, typed: str, marks: Marks, *, sort: str, start: int, size: int) -> Listed:
    """Of the cases a user may read in which every word typed, in `marks`, is found: `size` from
    `start` on, and how many there are.

    Places are found without a case being read: the index of cases holds all that is sorted and
    looked through. One's own and those that are shared are looked for apart, as each has its own
    index; who has both gets them merged.
    """
    found = Q(deleted_at=None)
    for word in typed.split()[:_MOST_WORDS]:
        found &= _word(word, marks)
    mine = Case.objects.filter(found, owner=user)
    shared = Case.objects.filter(found, shares__user=user).exclude(owner=user)
    of_others, end = shared.count(), start + size
    if of_others:
        keys = _merged(_places(mine, sort, 0, end), _places(shared, sort, 0, end), sort)[start:]
    else:
        keys = [key for _, key in _places(mine, sort, start, end)]
    told = Case.objects.select_related("owner").defer("document", "note", "search", "asides")
    cases = told.in_bulk(keys)
    # One that is deleted meanwhile is not told.
    return Listed([cases[key] for key in keys[:size] if key in cases], mine.count() + of_others)


def _places(found: QuerySet[Case], sort: str, start: int, end: int) -> list[_Place]:
    by, last_first = SORTS[sort]
    ordered = found.order_by(f"-{by}" if last_first else by, "pk")
    return list(ordered.values_list(by, "pk")[start:end])


def _merged(some: list[_Place], others: list[_Place], sort: str) -> list[UUID]:
    _, last_first = SORTS[sort]
    by_key = sorted([*some, *others], key=itemgetter(1))
    return [key for _, key in sorted(by_key, key=itemgetter(0), reverse=last_first)]
