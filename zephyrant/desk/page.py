"""The one page of the application; everything on it is the front end's. In a language that is not
the one it is written in, the texts of that language come before it."""

import json
from functools import cache
from hashlib import sha256
from typing import Final

from django.conf import settings
from django.http import Http404, HttpRequest, HttpResponse
from django.views.decorators.cache import never_cache
from django.views.decorators.csrf import ensure_csrf_cookie

from zephyrant.texts import ENGLISH, reading, tag, translation

_BEGINS: Final = f'<html lang="{ENGLISH.language}">'
_FIRST: Final = '<script type="module"'


@never_cache
@ensure_csrf_cookie
def page(request: HttpRequest) -> HttpResponse:
    """The front end."""
    built = settings.STATIC_ROOT / "index.html"
    if not built.exists():
        return HttpResponse("The front end is not built: run make setup.", status=503)
    language = reading().language
    if translation(language) is None:
        return HttpResponse(built.read_bytes())
    before = f'<script src="/texts/{language}-{_digest(language)}.js"></script>'
    text = built.read_text().replace(_BEGINS, f'<html lang="{tag(language)}">', 1)
    return HttpResponse(text.replace(_FIRST, before + _FIRST, 1))


def texts(request: HttpRequest, language: str, digest: str) -> HttpResponse:
    """The texts of the screen in a language, as the page takes them."""
    if translation(language) is None or digest != _digest(language):
        raise Http404
    response = HttpResponse(_script(language), content_type="text/javascript; charset=utf-8")
    response["Cache-Control"] = "public, max-age=31536000, immutable"
    return response


@cache
def _script(language: str) -> bytes:
    read = translation(language)
    if read is None:
        raise ValueError(language)
    said = {**read.texts, **read.counting}
    told = {"texts": {text: said[text] for text in sorted(read.shown)}, "forms": dict(read.forms)}
    # What ends a script or a line of it does not stand in it.
    content = json.dumps(told, ensure_ascii=True).replace("<", "\\u003c")
    return f"globalThis.zephyrantTexts={content};\n".encode()


@cache
def _digest(language: str) -> str:
    return sha256(_script(language)).hexdigest()[:12]
