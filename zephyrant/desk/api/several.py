"""Several cases at once, those picked in the list: binned, tagged, put beside each other."""

import uuid
from typing import Literal

from django.http import HttpResponse
from ninja import Query, Router, Schema
from pydantic import Field

from zephyrant.desk import asides, export, heavy, several
from zephyrant.desk.files import CsvAsked, reader_of
from zephyrant.desk.limits import MOST_PICKED, MOST_TAGS
from zephyrant.loans.questions import SideBySide

from .base import REFUSALS, Making, Picked, SignedIn, file_of, made, noted

router = Router(by_alias=True)


class Several(Schema):
    """Cases by their keys."""

    cases: list[uuid.UUID] = Field(min_length=1, max_length=MOST_PICKED)


class Tagging(Several):
    """Tags to put on cases, and to take off them."""

    add: list[str] = Field(default=[], max_length=MOST_TAGS)
    take_off: list[str] = Field(default=[], max_length=MOST_TAGS)


class SeveralDone(Schema):
    """The cases something was done to; `left`: how many stay as they are, being a colleague's,
    locked, or gone."""

    changed: list[uuid.UUID]
    left: int


def _done(done: several.Done) -> SeveralDone:
    return SeveralDone(changed=done.changed, left=done.left)


@router.post(
    "several/delete", response={200: SeveralDone, **REFUSALS}, operation_id="deleteSeveralCases"
)
def delete_several(request: SignedIn, chosen: Several) -> SeveralDone:
    """The analyst's own among these cases into the bin."""
    done = several.throw_away(request.user, chosen.cases)
    for case_id in done.changed:
        noted(request, "deleted", f"case {case_id}")
    return _done(done)


@router.post(
    "several/undelete", response={200: SeveralDone, **REFUSALS}, operation_id="undeleteSeveralCases"
)
def undelete_several(request: SignedIn, chosen: Several) -> SeveralDone:
    """These cases out of the bin."""
    return _done(several.bring_back(request.user, chosen.cases))


@router.post(
    "several/tag", response={200: SeveralDone, **REFUSALS}, operation_id="changeTagsOfCases"
)
def tag_several(request: SignedIn, tagging: Tagging) -> SeveralDone:
    """Tags put on these cases, and others taken off."""
    return _done(several.tag(request.user, tagging.cases, tagging.add, tagging.take_off))


@router.get(
    "side-by-side", response={200: SideBySide, **REFUSALS}, operation_id="getSeveralSideBySide"
)
def get_several_side_by_side(request: SignedIn, of: Picked, base: int = 0) -> SideBySide:
    """Cases beside each other, the others held against the one that is the `base`."""
    return asides.beside_each_other(request.user, of, base, heavy.gone(request))


@router.get(
    "side-by-side/file",
    operation_id="takeSeveralSideBySide",
    response=REFUSALS,
    openapi_extra=file_of(export.CSV, export.WORKBOOK, export.PDF),
)
def take_several_side_by_side(
    request: SignedIn,
    of: Picked,
    base: int = 0,
    kind: Literal["csv", "xlsx", "pdf"] = "pdf",
    making: Making = None,
    *,
    csv: Query[CsvAsked],
) -> HttpResponse:
    """Cases beside each other, as a file."""
    noted(request, "exported", f"{len(of)} cases side by side as {kind}")
    told = asides.beside_each_other(request.user, of, base, heavy.gone(request))
    reader = reader_of(request, request.user, csv)
    return export.beside(told, told.names[told.base], kind, reader, made(request, making))
