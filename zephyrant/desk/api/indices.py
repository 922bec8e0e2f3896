"""Indices kept on the desk."""

import uuid
from datetime import date
from typing import Any

from ninja import Router, Schema
from pydantic import Field

from zephyrant.desk import indices
from zephyrant.desk.models import KeptIndex
from zephyrant.loans import MARKS, MarksName
from zephyrant.loans.statement import fixings_typed

from .base import A_NAME, PAGE, REFUSALS, SignedIn, Start

router = Router(by_alias=True)


class IndexAsked(Schema):
    """Fixings that are to be kept by a name, a day and a percent on each line."""

    name: str = Field(min_length=1, max_length=60, pattern=A_NAME)
    fixings: str = Field(min_length=1, max_length=200_000)
    marks: MarksName = "comma-point"


class IndexListed(Schema):
    """An index kept on the desk: its fixings as one would type them, and the last of them; `mine`:
    it is the analyst's own, else it came from the feed."""

    id: uuid.UUID
    name: str
    mine: bool
    fixings: str
    last_day: date
    last_percent: str


class IndexList(Schema):
    """A page of indices."""

    items: list[IndexListed]
    total: int


def _listed(index: KeptIndex, marks: MarksName) -> dict[str, Any]:
    day, percent = index.fixings[-1]
    return {
        "id": index.pk,
        "name": index.name,
        "mine": index.owner_id is not None,
        "fixings": fixings_typed(index.fixings, MARKS[marks]),
        "last_day": day,
        "last_percent": percent,
    }


@router.get("", response={200: IndexList, **REFUSALS}, operation_id="listIndices")
def list_indices(
    request: SignedIn, start: Start = 0, marks: MarksName = "comma-point"
) -> IndexList:
    """The indices you may take, your own and those of the feed, by their names."""
    seen = indices.seen_by(request.user)
    items = [IndexListed(**_listed(each, marks)) for each in seen[start : start + PAGE]]
    return IndexList(items=items, total=seen.count())


@router.post("", response={200: IndexListed, **REFUSALS}, operation_id="saveIndex")
def save_index(request: SignedIn, asked: IndexAsked) -> IndexListed:
    """Fixings kept by a name; your own of that name is replaced."""
    kept = indices.keep(request.user, asked.name.strip(), asked.fixings, asked.marks)
    return IndexListed(**_listed(kept, asked.marks))


@router.delete("{uuid:index_id}", response={204: None, **REFUSALS}, operation_id="deleteIndex")
def delete_index(request: SignedIn, index_id: uuid.UUID) -> tuple[int, None]:
    """An index of your own gone for good; loans that took its fixings keep them."""
    indices.throw_away(request.user, index_id)
    return 204, None
