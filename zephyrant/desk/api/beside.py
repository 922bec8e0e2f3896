"""Beside a case: its trail, what is asked beside it, what it is pinned beside."""

import uuid
from typing import Literal

from django.http import HttpResponse
from django.shortcuts import get_object_or_404
from ninja import Query, Router, Schema
from pydantic import Field

from zephyrant.desk import asides, cases, export, heavy, limits, trail
from zephyrant.desk.asides import Asides
from zephyrant.desk.cases import OnlyForReadingError
from zephyrant.desk.files import CsvAsked, reader_of
from zephyrant.desk.listed import called_by
from zephyrant.desk.preferences import marks_of
from zephyrant.desk.trail import TrailTold
from zephyrant.loans.questions import SideBySide
from zephyrant.loans.statement import Statement

from .base import PAGE, REFUSALS, Making, SignedIn, Start, file_of, made, noted

router = Router(by_alias=True)


class TrailList(Schema):
    """A page of the trail."""

    items: list[TrailTold]
    total: int


class Named(Schema):
    """What an answer of a trail is called."""

    name: str = Field(max_length=limits.MOST_POINT_NAME)


@router.get("{uuid:case_id}/trail", response={200: TrailList, **REFUSALS}, operation_id="listTrail")
def list_trail(request: SignedIn, case_id: uuid.UUID, start: Start = 0) -> TrailList:
    """Every answer found in a case, the newest first."""
    case = cases.one(request.user, case_id)
    told = trail.told(case, marks_of(request.user))
    return TrailList(items=told[start : start + PAGE], total=len(told))


@router.get(
    "{uuid:case_id}/trail/{int:number}",
    response={200: Statement, **REFUSALS},
    operation_id="getTrailPoint",
)
def get_trail_point(request: SignedIn, case_id: uuid.UUID, number: int) -> Statement:
    """What was given for an answer of the trail."""
    point = get_object_or_404(cases.one(request.user, case_id).trail, number=number)
    return cases.statement_of(point, request.user)


@router.put(
    "{uuid:case_id}/trail/{int:number}",
    response={204: None, **REFUSALS},
    operation_id="nameTrailPoint",
)
def name_trail_point(
    request: SignedIn, case_id: uuid.UUID, number: int, named: Named
) -> tuple[int, None]:
    """An answer of the trail named, or its name taken off."""
    case = cases.one(request.user, case_id)
    if not cases.may_edit(case, request.user):
        raise OnlyForReadingError
    point = get_object_or_404(case.trail, number=number)
    point.name = " ".join(named.name.split())
    point.save(update_fields=["name"])
    return 204, None


@router.put("{uuid:case_id}/asides", response={204: None, **REFUSALS}, operation_id="saveAsides")
def keep_asides(request: SignedIn, case_id: uuid.UUID, kept: Asides) -> tuple[int, None]:
    """What is asked beside a case, kept with it."""
    asides.keep(request.user, case_id, kept)
    return 204, None


@router.get(
    "{uuid:case_id}/side-by-side",
    response={200: SideBySide, **REFUSALS},
    operation_id="getSideBySide",
)
def get_side_by_side(request: SignedIn, case_id: uuid.UUID) -> SideBySide:
    """The case and what is pinned beside it."""
    return asides.beside(request.user, cases.one(request.user, case_id), heavy.gone(request))


@router.get(
    "{uuid:case_id}/side-by-side/file",
    operation_id="takeSideBySide",
    response=REFUSALS,
    openapi_extra=file_of(export.CSV, export.WORKBOOK, export.PDF),
)
def take_side_by_side(
    request: SignedIn,
    case_id: uuid.UUID,
    csv: Query[CsvAsked],
    kind: Literal["csv", "xlsx", "pdf"] = "pdf",
    making: Making = None,
) -> HttpResponse:
    """The case and what is pinned beside it, as a file."""
    case = cases.one(request.user, case_id)
    noted(request, "exported", f"case {case_id} side by side as {kind}")
    told = asides.beside(request.user, case, heavy.gone(request))
    reader = reader_of(request, request.user, csv)
    return export.beside(told, called_by(case, request.user), kind, reader, made(request, making))
