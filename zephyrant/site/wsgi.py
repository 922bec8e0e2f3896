"""The entry point for gunicorn: what an answer needs is loaded before one is asked for."""

import gc
import importlib
import os

from django.core.wsgi import get_wsgi_application
from django.urls import get_resolver

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "zephyrant.site.settings")

application = get_wsgi_application()
get_resolver().url_patterns  # noqa: B018  (loads the interface's code)
importlib.import_module("zephyrant.desk.answers").make_ready()
# What is loaded stays: each process that is forked from here need not look through it again for
# what is garbage, which takes a tenth of a second, and shares its memory.
gc.collect()
gc.freeze()
