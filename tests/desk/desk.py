"""An analyst signed in, and short ways to ask the API."""

import json
from typing import Any

from django.contrib.auth.models import User
from django.test import Client, TestCase, TransactionTestCase, override_settings

PRESS = {
    "name": "Cider press",
    "principal": "48,250",
    "percent": "6.35",
    "compounding": "half-year",
    "count": "5y",
    "payment": "?",
}


def content(**changes: Any) -> dict[str, Any]:
    """What a save sends, the statement changed."""
    beside: dict[str, Any] = {
        name: changes.pop(name) for name in ("note", "tags") if name in changes
    }
    return {"statement": {**PRESS, **changes}, **beside}


QUICKLY = override_settings(PASSWORD_HASHERS=["django.contrib.auth.hashers.MD5PasswordHasher"])


class AtTheDesk:
    """An analyst signed in."""

    client: Client

    def setUp(self) -> None:
        self.analyst = User.objects.create_user("ilse", password="sorrel-and-flint")
        self.client.force_login(self.analyst)

    def send(self, method: str, path: str, sent: Any = None, client: Client | None = None) -> Any:
        text = sent if isinstance(sent, str | bytes) else json.dumps(sent)
        asking = client or self.client
        return asking.generic(method, f"/api/v1/{path}", text, "application/json")

    def start(self, **changes: Any) -> dict[str, Any]:
        return self.send("POST", "cases", content(**changes)).json()

    def save(self, case: str, version: int, client: Client | None = None, **changes: Any) -> Any:
        return self.send("PUT", f"cases/{case}", {**content(**changes), "version": version}, client)

    def colleague(self, name: str = "odo") -> Client:
        client = Client()
        client.force_login(User.objects.create_user(name, password="bramble-and-slate"))
        return client


@QUICKLY
class Desk(AtTheDesk, TestCase):
    """Passwords are hashed quickly, as nobody is to be kept out here."""


@QUICKLY
class DeskOnDisk(AtTheDesk, TransactionTestCase):
    """The same without a transaction round each test."""
