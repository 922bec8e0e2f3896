"""The list of cases: found by words, sorted, a page of it at a time, however many there are."""

from operator import itemgetter
from typing import Any, Final, Literal, NamedTuple
from uuid import UUID

from django.contrib.auth.models import User
from django.db.models import F, Q, QuerySet, Value
from django.db.models.functions import Lower, NullIf

from zephyrant.loans import Marks
from zephyrant.loans.statement import read_amount

from .models import Case, Review

Sort = Literal[
    "changed",
    "name",
    "created",
    "amount",
    "rate",
    "payment",
    "effective",
    "term",
    "asked",
    "answer",
]


class _Sorting(NamedTuple):
    """By what a list is sorted, and whether its last come first where nothing is said."""

    by: Any
    last_first: bool


def _text(field: str) -> Any:  # noqa: ANN401
    """A text without its capitals; one that is empty is none."""
    return NullIf(Lower(field), Value(""))


SORTS: Final[dict[Sort, _Sorting]] = {
    "changed": _Sorting(F("changed_at"), True),
    "name": _Sorting(_text("name"), False),
    "created": _Sorting(F("created_at"), True),
    "amount": _Sorting(F("amount"), True),
    "rate": _Sorting(F("rate"), True),
    "payment": _Sorting(F("payment"), True),
    "effective": _Sorting(F("effective"), True),
    "term": _Sorting(F("years"), True),
    "asked": _Sorting(_text("asked"), False),
    "answer": _Sorting(F("answer"), True),
}
#: Words of a search that are looked for.
_MOST_WORDS: Final = 12


class Look(NamedTuple):
    """What is looked for in a list, in `marks`, and how it is sorted; `last_first`: None where
    that is as usual for what it is sorted by; `to_judge`: only what is for them to judge."""

    typed: str
    marks: Marks
    sort: Sort = "changed"
    last_first: bool | None = None
    to_judge: bool = False

    @property
    def sorting(self) -> _Sorting:
        """By what it is sorted, and which way."""
        usual = SORTS[self.sort]
        return usual if self.last_first is None else usual._replace(last_first=self.last_first)


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


def to_judge_by(user: User) -> QuerySet[Case]:
    """The cases that are for a user to judge."""
    return Case.objects.filter(deleted_at=None, reviews__reviewer=user, reviews__state=Review.OPEN)


def search(user: User, look: Look, *, start: int, size: int) -> Listed:
    """Of the cases a user may read in which every word typed is found: `size` from `start` on, and
    how many there are. What has nothing to be sorted by comes last, whichever way.

    Places are found without a case being read: the index of cases holds all that is sorted and
    looked through. One's own and those that are shared are looked for apart, as each has its own
    index; who has both gets them merged.
    """
    found = Q(deleted_at=None)
    for word in look.typed.split()[:_MOST_WORDS]:
        found &= _word(word, look.marks)
    if look.to_judge:
        found &= Q(pk__in=to_judge_by(user).values("pk"))
    mine = Case.objects.filter(found, owner=user)
    shared = Case.objects.filter(found, shares__user=user).exclude(owner=user)
    of_others, end, sorting = shared.count(), start + size, look.sorting
    if of_others:
        keys = _merged(_places(mine, sorting, 0, end), _places(shared, sorting, 0, end), sorting)
        keys = keys[start:]
    else:
        keys = [key for _, key in _places(mine, sorting, start, end)]
    told = Case.objects.select_related("owner").defer("document", "note", "search", "asides")
    cases = told.in_bulk(keys)
    # One that is deleted meanwhile is not told.
    return Listed([cases[key] for key in keys[:size] if key in cases], mine.count() + of_others)


def _places(found: QuerySet[Case], sorting: _Sorting, start: int, end: int) -> list[_Place]:
    at = sorting.by
    way = at.desc(nulls_last=True) if sorting.last_first else at.asc(nulls_last=True)
    ordered = found.annotate(at=at).order_by(way, "pk")
    return list(ordered.values_list("at", "pk")[start:end])


def _merged(some: list[_Place], others: list[_Place], sorting: _Sorting) -> list[UUID]:
    by_key = sorted([*some, *others], key=itemgetter(1))
    known = [place for place in by_key if place[0] is not None]
    last = [place for place in by_key if place[0] is None]
    known.sort(key=itemgetter(0), reverse=sorting.last_first)
    return [key for _, key in [*known, *last]]
