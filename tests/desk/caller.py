"""Somebody who speaks to a server over HTTP; needs no Django."""

import http.cookiejar
import json
import time
import urllib.error
import urllib.request
from typing import Any


class RefusedError(Exception):
    """What the server refused: with which status, when it may be asked again, what it said."""

    def __init__(self, status: int, retry_after: float, said: bytes) -> None:
        super().__init__(status, retry_after, said)
        self.status, self.retry_after, self.said = status, retry_after, said

    @property
    def may_be_asked_again(self) -> bool:
        return self.retry_after > 0


class Caller:
    """An analyst at the demo desk, speaking HTTP."""

    def __init__(self, address: str) -> None:
        self.address = address
        self.jar = http.cookiejar.CookieJar()
        self.opener = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(self.jar))

    def send(self, method: str, path: str, sent: Any = None, timeout: float = 30) -> Any:
        body = None if sent is None else json.dumps(sent).encode()
        text = self.send_raw(method, path, body, "application/json", timeout)
        return json.loads(text) if text.startswith((b"{", b"[")) else None

    def send_raw(
        self, method: str, path: str, body: bytes | None, kind: str, timeout: float = 30
    ) -> bytes:
        request = urllib.request.Request(self.address + path, body, method=method)
        request.add_header("Content-Type", kind)
        for cookie in self.jar:
            if cookie.name == "csrftoken":
                request.add_header("X-CSRFToken", str(cookie.value))
        try:
            with self.opener.open(request, timeout=timeout) as answer:
                return bytes(answer.read())
        except urllib.error.HTTPError as refused:
            again = float(refused.headers.get("Retry-After") or 0)
            raise RefusedError(refused.code, again, refused.read()) from None

    def keep_trying(self, method: str, path: str, sent: Any = None, timeout: float = 60) -> Any:
        """As a page does: while the desk is busy and says when, it is asked again."""
        for _ in range(100):
            try:
                return self.send(method, path, sent, timeout)
            except RefusedError as busy:
                if not busy.may_be_asked_again:
                    raise
                time.sleep(busy.retry_after)
        raise AssertionError(f"{path}: the desk stayed busy")

    def enter(self) -> "Caller":
        self.send("GET", "/")
        self.keep_trying("POST", "/api/v1/session/demo")
        return self
