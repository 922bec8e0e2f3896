"""Lists of quotes: kept, taken out, read back."""

import uuid
from datetime import datetime
from typing import Annotated, Literal

from django.http import HttpResponse
from ninja import Query, Router, Schema
from pydantic import Field

from zephyrant.desk import export, quote_lists
from zephyrant.desk.files import CsvAsked, reader_of
from zephyrant.desk.models import BIN_KEEPS
from zephyrant.desk.models import QuoteList as Kept
from zephyrant.loans import FieldError, NotALoan
from zephyrant.loans.files import read_file
from zephyrant.loans.statement import QuoteList
from zephyrant.texts import worded

from .base import PAGE, REFUSALS, Refusal, SignedIn, Start, file_of, noted, refuse, said

router = Router(by_alias=True)


class QuoteListListed(Schema):
    """A list of quotes by its name."""

    id: uuid.UUID
    name: str
    quotes: int
    changed_at: datetime


class QuoteListOpened(Schema):
    """A list whole, in the reader's marks."""

    id: uuid.UUID
    content: QuoteList
    version: int
    changed_at: datetime


class QuoteListRead(QuoteListOpened):
    """A list read from a file, and the rows that could not be read."""

    problems: list[FieldError]


class QuoteListBinned(Schema):
    """A list in the bin, and until when it stays there."""

    id: uuid.UUID
    name: str
    deleted_at: datetime
    kept_until: datetime


class SaveQuoteList(Schema):
    """Quotes to keep, and the version of the list they started from."""

    content: QuoteList
    version: int


class QuoteListConflict(Refusal):
    """A save refused: what is kept is newer."""

    kept: QuoteListOpened


class QuoteListList(Schema):
    """A page of lists."""

    items: list[QuoteListListed]
    total: int


class QuoteListBin(Schema):
    """A page of the bin."""

    items: list[QuoteListBinned]
    total: int


def _opened(kept: Kept, request: SignedIn) -> QuoteListOpened:
    return QuoteListOpened(
        id=kept.pk,
        content=quote_lists.content_of(kept, request.user),
        version=kept.version,
        changed_at=kept.changed_at,
    )


@router.get("", response={200: QuoteListList, **REFUSALS}, operation_id="listQuoteLists")
def list_quote_lists(request: SignedIn, start: Start = 0) -> QuoteListList:
    """The analyst's lists, the last changed first."""
    found = quote_lists.listed(request.user)
    items = [
        QuoteListListed(
            id=kept.pk,
            name=kept.name,
            quotes=len(kept.content.get("quotes", [])),
            changed_at=kept.changed_at,
        )
        for kept in found[start : start + PAGE]
    ]
    return QuoteListList(items=items, total=found.count())


@router.post("", response={201: QuoteListOpened, **REFUSALS}, operation_id="startQuoteList")
def start_quote_list(request: SignedIn, content: QuoteList) -> tuple[int, QuoteListOpened]:
    """A new list."""
    return 201, _opened(quote_lists.start(request.user, content), request)


@router.post(
    "from-file",
    response={201: QuoteListRead, **REFUSALS},
    operation_id="startQuoteListFromFile",
    openapi_extra={"requestBody": {"content": {"text/plain": {"schema": {"type": "string"}}}}},
)
def start_quote_list_from_file(
    request: SignedIn, name: Annotated[str, Field(max_length=200)] = ""
) -> tuple[int, QuoteListRead] | HttpResponse:
    """A new list from a CSV or JSON file; what cannot be read is told row by row."""
    try:
        read = read_file(export.text_of(request.body), name)
    except NotALoan as wrong:
        return refuse(422, *wrong.errors)
    kept = quote_lists.start(request.user, read.quotes)
    opened = _opened(kept, request)
    return 201, QuoteListRead(**dict(opened), problems=list(read.problems))


@router.get(
    "bin",
    response={200: QuoteListBin, **REFUSALS},
    operation_id="listBinnedQuoteLists",
)
def list_binned(request: SignedIn, start: Start = 0) -> QuoteListBin:
    """What the analyst deleted in the last thirty days."""
    found = quote_lists.binned(request.user)
    items = [
        QuoteListBinned(
            id=kept.pk,
            name=kept.name,
            deleted_at=kept.deleted_at,
            kept_until=kept.deleted_at + BIN_KEEPS,
        )
        for kept in found[start : start + PAGE]
        if kept.deleted_at
    ]
    return QuoteListBin(items=items, total=found.count())


@router.get(
    "{uuid:list_id}",
    response={200: QuoteListOpened, **REFUSALS},
    operation_id="getQuoteList",
)
def get_quote_list(request: SignedIn, list_id: uuid.UUID) -> QuoteListOpened:
    """One list."""
    return _opened(quote_lists.one(request.user, list_id), request)


@router.put(
    "{uuid:list_id}",
    response={200: QuoteListOpened, 409: QuoteListConflict, **REFUSALS},
    operation_id="saveQuoteList",
)
def save_quote_list(
    request: SignedIn, list_id: uuid.UUID, kept: SaveQuoteList
) -> QuoteListOpened | tuple[int, QuoteListConflict]:
    """The list saved, unless it was saved from elsewhere meanwhile."""
    try:
        saved = quote_lists.save(request.user, list_id, kept.content, kept.version)
    except quote_lists.ListChangedMeanwhileError as error:
        return 409, QuoteListConflict(
            errors=(said(worded("This list was changed meanwhile.")),),
            kept=_opened(error.kept, request),
        )
    return _opened(saved, request)


@router.delete("{uuid:list_id}", response={204: None, **REFUSALS}, operation_id="deleteQuoteList")
def delete_quote_list(request: SignedIn, list_id: uuid.UUID) -> tuple[int, None]:
    """The list into the bin."""
    quote_lists.throw_away(request.user, list_id)
    noted(request, "deleted", f"list of quotes {list_id}")
    return 204, None


@router.post(
    "{uuid:list_id}/undelete",
    response={200: QuoteListOpened, **REFUSALS},
    operation_id="undeleteQuoteList",
)
def undelete_quote_list(request: SignedIn, list_id: uuid.UUID) -> QuoteListOpened:
    """The list out of the bin."""
    return _opened(quote_lists.bring_back(request.user, list_id), request)


@router.get(
    "{uuid:list_id}/file",
    operation_id="takeQuoteListFile",
    response=REFUSALS,
    openapi_extra=file_of(export.CSV, export.JSON),
)
def take_quote_list(
    request: SignedIn,
    list_id: uuid.UUID,
    csv: Query[CsvAsked],
    kind: Literal["csv", "json"] = "csv",
) -> HttpResponse:
    """The list as a file."""
    kept = quote_lists.one(request.user, list_id)
    noted(request, "exported", f"list of quotes {list_id} as {kind}")
    return export.quotes(
        quote_lists.content_of(kept, request.user),
        kind,
        reader_of(request, request.user, csv).csv,
    )
