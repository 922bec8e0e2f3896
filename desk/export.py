"""Cases out of the door: documents as files."""

import io
import json
import re
import unicodedata
import zipfile

from django.contrib.auth.models import User
from django.http import HttpResponse
from django.utils.http import content_disposition_header

from .cases import document_of
from .models import Case


def _file_name(case: Case) -> str:
    """A name that every file system takes: "cider-press-orrin-daughters"."""
    plain = unicodedata.normalize("NFKD", case.name).encode("ascii", "ignore").decode().lower()
    return re.sub(r"[^a-z0-9]+", "-", plain).strip("-")[:80] or "unnamed-case"


def _file(content: bytes, name: str, kind: str) -> HttpResponse:
    response = HttpResponse(content, content_type=kind)
    response["Content-Disposition"] = content_disposition_header(True, name)
    return response


def _written(content: object) -> bytes:
    return (json.dumps(content, indent=2, ensure_ascii=False) + "\n").encode()


def one_json(case: Case) -> HttpResponse:
    """A case's document."""
    return _file(_written(document_of(case)), f"{_file_name(case)}.json", "application/json")


def _own(user: User) -> list[Case]:
    return list(Case.objects.filter(owner=user, deleted_at=None).exclude(document=None))


def all_json(user: User) -> HttpResponse:
    """Every whole document, as one list."""
    documents = [document_of(case) for case in _own(user)]
    return _file(_written(documents), "zephyrant-cases.json", "application/json")


def all_zip(user: User) -> HttpResponse:
    """Every whole document, a file each; equal names are numbered."""
    content, used = io.BytesIO(), set[str]()
    with zipfile.ZipFile(content, "w", zipfile.ZIP_DEFLATED) as packed:
        for case in _own(user):
            name = stem = _file_name(case)
            number = 1
            while name in used:
                number += 1
                name = f"{stem}-{number}"
            used.add(name)
            packed.writestr(f"{name}.json", _written(document_of(case)))
    return _file(content.getvalue(), "zephyrant-cases.zip", "application/zip")
