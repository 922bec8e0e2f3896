"""The entry point for gunicorn: what an answer needs is loaded before one is asked for."""

import os

from django.core.wsgi import get_wsgi_application
from django.urls import get_resolver

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "zephyrant.site.settings")

application = get_wsgi_application()
get_resolver().url_patterns  # noqa: B018  (loads the interface's code)
