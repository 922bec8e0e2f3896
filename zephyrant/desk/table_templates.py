"""Matches of columns kept by a name: an analyst's own, and those that others share."""

import uuid
from collections.abc import Sequence
from typing import Any, Final

from django.contrib.auth.models import User
from django.db import IntegrityError, transaction
from django.db.models import Q, QuerySet
from django.shortcuts import get_object_or_404

from zephyrant.loans import NotALoan
from zephyrant.loans.tape import unmatched
from zephyrant.tables.template import Fitted, Template, fitted, made, template_of
from zephyrant.texts import worded

from .models import LoanTable, TableTemplate
from .table_asks import Matching, check_columns

#: Templates an analyst keeps.
MOST_TEMPLATES: Final = 100


def seen_by(user: User) -> QuerySet[TableTemplate]:
    """The templates a user may take, their own and those that are shared, by their names."""
    own = TableTemplate.objects.filter(Q(owner=user) | Q(shared=True)).select_related("owner")
    return own.order_by("name", "created_at")


def one(user: User, template_id: uuid.UUID) -> TableTemplate:
    """A template the user may take; to anyone else there is none."""
    return get_object_or_404(seen_by(user), pk=template_id)


def _own(user: User, template_id: uuid.UUID) -> TableTemplate:
    return get_object_or_404(TableTemplate, owner=user, pk=template_id)


def content_of(template: TableTemplate) -> Template:
    """What it says, as the document it is."""
    return template_of(template.content)


def keep(
    user: User, table: LoanTable, name: str, matching: Matching, *, shared: bool
) -> TableTemplate:
    """How a table is matched, kept by a name; one of the user's own of that name is replaced.

    Raises `NotALoan` where too many are kept, a column is none of the table's, or with these no row
    would have an answer.
    """
    missing = unmatched(matching.columns)
    if missing:
        raise NotALoan.at("columns", missing)
    check_columns(table.names, matching.columns)
    settings = matching.defaults.model_dump(mode="json", exclude_unset=True)
    content = made(name, table.names, matching.columns, settings).model_dump(mode="json")
    with transaction.atomic():
        others = TableTemplate.objects.filter(owner=user).exclude(name=name)
        if others.count() >= MOST_TEMPLATES:
            message = worded(
                "At most {most} templates are kept: delete one first.",
                most=MOST_TEMPLATES,
            )
            raise NotALoan.at("name", message)
        template, _ = TableTemplate.objects.update_or_create(
            owner=user, name=name, defaults={"content": content, "shared": shared}
        )
    return template


def change(user: User, template_id: uuid.UUID, name: str, *, shared: bool) -> TableTemplate:
    """A template of the user's own by another name, shared or not. Raises `NotALoan` where another
    has the name."""
    template = _own(user, template_id)
    template.name, template.shared = name, shared
    template.content = {**template.content, "name": name}
    try:
        with transaction.atomic():
            template.save()
    except IntegrityError:
        raise NotALoan.at("name", worded("Another template of yours is called so.")) from None
    return template


def throw_away(user: User, template_id: uuid.UUID) -> None:
    """A template of the user's own gone for good."""
    _own(user, template_id).delete()


def of_names(user: User, names: Sequence[str]) -> list[tuple[TableTemplate, Fitted]]:
    """The templates with where their columns are in a table: those that fit best first."""
    told = [(each, fitted(content_of(each), names)) for each in seen_by(user)]
    return sorted(told, key=lambda each: (len(each[1].missing), each[0].owner_id != user.pk))


def fitting(user: User, names: Sequence[str]) -> tuple[TableTemplate, Fitted] | None:
    """The template all of whose columns are there: the user's own before others', of several that
    with the most columns."""
    whole = [(each, fit) for each, fit in of_names(user, names) if not fit.missing]
    return max(
        whole,
        key=lambda each: (each[0].owner_id == user.pk, len(each[1].columns)),
        default=None,
    )


def settings_of(template: TableTemplate) -> dict[str, Any]:
    """What holds where no column says so."""
    return content_of(template).settings
