"""Somebody who speaks to a server over HTTP; needs no Django."""

import http.cookiejar
import json
import time
import urllib.error
import urllib.request
from typing import Any


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
        with self.opener.open(request, timeout=timeout) as answer:
            return bytes(answer.read())

    def keep_trying(self, method: str, path: str, sent: Any) -> Any:
        """As a page does: while the desk is busy and says when, it is asked again."""
        for _ in range(100):
            try:
                return self.send(method, path, sent, timeout=60)
            except urllib.error.HTTPError as busy:
                if not busy.headers.get("Retry-After"):
                    raise
                time.sleep(float(busy.headers["Retry-After"]))
        raise AssertionError(f"{path}: the desk stayed busy")

    def enter(self) -> "Caller":
        self.send("GET", "/")
        self.send("POST", "/api/session/demo")
        return self
