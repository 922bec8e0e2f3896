"""Matches of columns kept by a name, and shared with the desk."""

import uuid
from typing import Any

from django.http import HttpResponse
from ninja import Router, Schema
from pydantic import Field

from zephyrant.desk import table_templates
from zephyrant.desk.export import JSON, template_file
from zephyrant.desk.models import TableTemplate
from zephyrant.desk.table_asks import Matching
from zephyrant.loans.tape import Defaults, FieldName
from zephyrant.tables.template import MOST_NAME

from .base import A_NAME, PAGE, REFUSALS, SignedIn, Start, file_of, noted

router = Router(by_alias=True)
on_tables = Router(by_alias=True)


class TemplateNamed(Schema):
    """What a template is called, and whether everyone on the desk may take it."""

    name: str = Field(min_length=1, max_length=MOST_NAME, pattern=A_NAME)
    shared: bool = False


class TemplateAsked(TemplateNamed, Matching):
    """A template that is to be kept: how a table is matched, by a name."""


class TemplateListed(Schema):
    """A template: whose it is, which column is which figure by its name, what holds beside."""

    id: uuid.UUID
    name: str
    shared: bool
    mine: bool
    owner: str
    columns: dict[FieldName, str]
    settings: dict[str, Any]


class TemplateFitted(TemplateListed):
    """A template beside a table: where its columns are, what holds for each row, and which columns
    are missing."""

    places: dict[FieldName, int]
    defaults: Defaults
    missing: list[str]


class TemplateList(Schema):
    """A page of templates."""

    items: list[TemplateListed]
    total: int


class TemplateFits(Schema):
    """Every template beside a table, those that fit best first."""

    items: list[TemplateFitted]


def _listed(template: TableTemplate, request: SignedIn) -> dict[str, Any]:
    content = table_templates.content_of(template)
    return {
        "id": template.pk,
        "name": template.name,
        "shared": template.shared,
        "mine": template.owner_id == request.user.pk,
        "owner": template.owner.get_username(),
        "columns": content.columns,
        "settings": content.settings,
    }


@router.get("", response={200: TemplateList, **REFUSALS}, operation_id="listTableTemplates")
def list_table_templates(request: SignedIn, start: Start = 0) -> TemplateList:
    """The templates you may take, your own and those that are shared, by their names."""
    seen = table_templates.seen_by(request.user)
    items = [TemplateListed(**_listed(each, request)) for each in seen[start : start + PAGE]]
    return TemplateList(items=items, total=seen.count())


@router.put(
    "{uuid:template_id}",
    response={200: TemplateListed, **REFUSALS},
    operation_id="saveTableTemplate",
)
def save_table_template(
    request: SignedIn, template_id: uuid.UUID, named: TemplateNamed
) -> TemplateListed:
    """A template of your own by another name, shared or not."""
    name = named.name.strip()
    changed = table_templates.change(request.user, template_id, name, shared=named.shared)
    if named.shared:
        noted(request, "shared", f"table template {changed}")
    return TemplateListed(**_listed(changed, request))


@router.delete(
    "{uuid:template_id}", response={204: None, **REFUSALS}, operation_id="deleteTableTemplate"
)
def delete_table_template(request: SignedIn, template_id: uuid.UUID) -> tuple[int, None]:
    """A template of your own gone for good; tables it matched stay as they are."""
    table_templates.throw_away(request.user, template_id)
    noted(request, "deleted", f"table template {template_id}")
    return 204, None


@router.get(
    "{uuid:template_id}/file",
    response=REFUSALS,
    operation_id="takeTableTemplateFile",
    openapi_extra=file_of(JSON),
)
def take_table_template_file(request: SignedIn, template_id: uuid.UUID) -> HttpResponse:
    """A template as the document that the command takes with `--template`."""
    return template_file(table_templates.one(request.user, template_id))


@on_tables.get(
    "{uuid:table_id}/templates",
    response={200: TemplateFits, **REFUSALS},
    operation_id="getTableTemplates",
)
def get_table_templates(request: SignedIn, table_id: uuid.UUID) -> TemplateFits:
    """Every template you may take beside a table: where its columns are, and which are missing."""
    from zephyrant.desk import tables

    table = tables.one(request.user, table_id)
    return TemplateFits(
        items=[
            TemplateFitted(
                **_listed(template, request),
                places=fit.columns,
                defaults=Defaults.model_validate(table_templates.settings_of(template)),
                missing=fit.missing,
            )
            for template, fit in table_templates.of_names(request.user, table.names)
        ]
    )


@on_tables.post(
    "{uuid:table_id}/templates",
    response={201: TemplateListed, **REFUSALS},
    operation_id="startTableTemplate",
)
def start_table_template(
    request: SignedIn, table_id: uuid.UUID, asked: TemplateAsked
) -> tuple[int, TemplateListed]:
    """How a table is matched, kept by a name; your own template of that name is replaced."""
    from zephyrant.desk import tables

    table = tables.one(request.user, table_id)
    matching = Matching(columns=asked.columns, defaults=asked.defaults)
    name = asked.name.strip()
    kept = table_templates.keep(request.user, table, name, matching, shared=asked.shared)
    if asked.shared:
        noted(request, "shared", f"table template {kept}")
    return 201, TemplateListed(**_listed(kept, request))
