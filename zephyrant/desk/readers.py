"""Whoever asks is answered in their language, and with days as they write them."""

from collections.abc import Callable

from django.http import HttpRequest
from django.http.response import HttpResponseBase

from zephyrant.texts import read_as

from .files import reading_of


class Readers:
    """What is said while a request is answered is said to who asks; inside the middleware of who
    is signed in."""

    def __init__(self, answer: Callable[[HttpRequest], HttpResponseBase]) -> None:
        self._answer = answer

    def __call__(self, request: HttpRequest) -> HttpResponseBase:
        """Answers."""
        with read_as(reading_of(request.user, request)):
            return self._answer(request)
