"""Lists of quotes and quoting habits, kept."""

from datetime import timedelta
from typing import Any

from django.test import Client
from django.utils import timezone

from zephyrant.desk.models import QuoteList

from .desk import Desk

QUOTES = [
    {"name": "Mill", "percent": "6.35", "compounding": "half-year"},
    {"name": "Tarn", "percent": "3.4", "quoted": "flat", "count": "60"},
]


class Lists(Desk):
    def begin(self, **changes: Any) -> Any:
        return self.send(
            "POST", "quote-lists", {"name": "Press", "quotes": QUOTES, **changes}
        ).json()

    def keep(self, kept: Any, version: int, **changes: Any) -> Any:
        sent = {"content": {**kept["content"], **changes}, "version": version}
        return self.send("PUT", f"quote-lists/{kept['id']}", sent)

    def test_compared(self) -> None:
        found = self.send("POST", "ask/comparison", {"quotes": QUOTES}).json()
        self.assertEqual([quote["rank"] for quote in found["quotes"]], [1, 2])
        refused = self.send("POST", "ask/comparison", {"quotes": [{"percent": 6}]})
        self.assertEqual(refused.json()["errors"][0]["field"], "quotes.0.percent")
        many = self.send("POST", "ask/comparison", {"quotes": [{}] * 61})
        self.assertEqual(many.status_code, 422)

    def test_kept_and_an_older_version_refused(self) -> None:
        kept = self.begin()
        saved = self.keep(kept, 1, name="Second press")
        self.assertEqual((saved.status_code, saved.json()["version"]), (200, 2))
        refused = self.keep(kept, 1, name="Third press")
        self.assertEqual(refused.status_code, 409)
        self.assertEqual(refused.json()["kept"]["content"]["name"], "Second press")
        (listed,) = self.send("GET", "quote-lists").json()["items"]
        self.assertEqual((listed["name"], listed["quotes"]), ("Second press", 2))

    def test_into_the_bin_and_back(self) -> None:
        kept = self.begin()
        self.assertEqual(self.send("DELETE", f"quote-lists/{kept['id']}").status_code, 204)
        self.assertEqual(self.send("GET", "quote-lists").json()["items"], [])
        self.assertEqual(
            [each["name"] for each in self.send("GET", "quote-lists/bin").json()["items"]],
            ["Press"],
        )
        self.send("POST", f"quote-lists/{kept['id']}/undelete")
        self.assertEqual(len(self.send("GET", "quote-lists").json()["items"]), 1)
        self.send("DELETE", f"quote-lists/{kept['id']}")
        QuoteList.objects.update(deleted_at=timezone.now() - timedelta(days=31))
        self.assertEqual(self.send("GET", "quote-lists/bin").json()["items"], [])
        self.assertFalse(QuoteList.objects.exists())

    def test_out_and_in_again(self) -> None:
        kept = self.begin()
        for kind in ("csv", "json"):
            taken = self.client.get(f"/api/v1/quote-lists/{kept['id']}/file?kind={kind}")
            self.assertIn(f"press.{kind}", taken["Content-Disposition"])
            back = self.client.generic(
                "POST",
                "/api/v1/quote-lists/from-file?name=From+a+file",
                taken.content,
                "text/plain",
            ).json()
            self.assertEqual(back["problems"], [])
            self.assertEqual(
                [quote["percent"] for quote in back["content"]["quotes"]], ["6.35", "3.40"]
            )

    def test_a_broken_row_is_told(self) -> None:
        text = "name;percent\nMühle;6,35\nTarn;six\n".encode("cp1252")
        read = self.client.generic(
            "POST", "/api/v1/quote-lists/from-file", text, "text/plain"
        ).json()
        self.assertEqual(read["content"]["quotes"][0]["name"], "Mühle")
        self.assertEqual([each["field"] for each in read["problems"]], ["row 3 (“Tarn”)"])
        refused = self.client.generic(
            "POST", "/api/v1/quote-lists/from-file", b"\x00\x01", "text/plain"
        )
        self.assertEqual(refused.status_code, 422)

    def test_nobody_elses(self) -> None:
        kept = self.begin()
        path = f"quote-lists/{kept['id']}"
        other = self.colleague()
        for method, where in (
            ("GET", path),
            ("GET", f"{path}/file"),
            ("DELETE", path),
            ("POST", f"{path}/undelete"),
        ):
            self.assertEqual(self.send(method, where, client=other).status_code, 404, where)
        refused = self.send("PUT", path, {"content": kept["content"], "version": 1}, other)
        self.assertEqual(refused.status_code, 404)
        self.assertEqual(self.send("GET", "quote-lists", client=other).json()["items"], [])
        self.assertEqual(self.send("GET", "quote-lists", client=Client()).status_code, 401)


class Habits(Desk):
    def test_from_those_to_start_with_to_ones_own(self) -> None:
        first = self.send("GET", "presets").json()
        self.assertIn("half-year", [each["quoting"]["compounding"] for each in first])
        mine = [{"name": "Ours", "quoting": {"quoted": "simple", "over": "90 days"}}]
        self.send("PUT", "presets", {"presets": mine})
        (kept,) = self.send("GET", "presets").json()
        self.assertEqual((kept["name"], kept["quoting"]["over"]), ("Ours", "90 days"))
        self.send("PUT", "presets", {"presets": []})
        self.assertEqual(self.send("GET", "presets").json(), [])
        self.assertEqual(self.send("GET", "me").json()["marks"], "comma-point")

    def test_what_is_no_habit(self) -> None:
        for wrong in ({"name": "", "quoting": {"quoted": "flat"}}, {"name": "x", "quoting": {}}):
            self.assertEqual(self.send("PUT", "presets", {"presets": [wrong]}).status_code, 422)
