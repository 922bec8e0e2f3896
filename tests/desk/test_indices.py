"""Indices kept on the desk: typed, pasted, fetched from the stand-in feed; nobody else's."""

import io
from typing import Any

from django.core.management import CommandError, call_command

from zephyrant.desk import feed, jobs
from zephyrant.desk.indices import MOST_INDICES
from zephyrant.desk.models import KeptIndex

from .desk import Desk

TYPED = "30.06.2026;2,31\n31.12.2026;2,5"


class Indices(Desk):
    def keep(self, name: str = "weir", fixings: str = TYPED, marks: str = "point-comma") -> Any:
        asked = {"name": name, "fixings": fixings, "marks": marks}
        return self.send("POST", "indices", asked)

    def test_kept_listed_replaced_and_thrown_away(self) -> None:
        kept = self.send(
            "POST", "indices", {"name": "weir", "fixings": TYPED, "marks": "point-comma"}
        )
        self.assertEqual(kept.status_code, 200, kept.content)
        told = kept.json()
        self.assertEqual(told["fixings"], "2026-06-30 2,31\n2026-12-31 2,50")
        self.assertEqual((told["last_day"], told["last_percent"]), ("2026-12-31", "2.5"))
        self.keep(fixings="2026-06-30 1", marks="comma-point")
        items = self.send("GET", "indices?marks=comma-point").json()["items"]
        self.assertEqual([each["fixings"] for each in items], ["2026-06-30 1.00"])
        self.assertTrue(items[0]["mine"])
        gone = self.send("DELETE", f"indices/{items[0]['id']}")
        self.assertEqual(gone.status_code, 204)
        self.assertEqual(self.send("GET", "indices").json()["total"], 0)

    def test_what_cannot_be_kept(self) -> None:
        for fixings, says in (
            ("rubbish", "is no fixing"),
            ("0 2\n6 3", "fixed on days"),
            ("2026-06-30 2\n2026-06-30 3", "follow each other"),
            (" ", "State what the index was"),
        ):
            answer = self.send("POST", "indices", {"name": "weir", "fixings": fixings})
            self.assertEqual(answer.status_code, 422)
            [error] = answer.json()["errors"]
            self.assertEqual(error["field"], "fixings")
            self.assertIn(says, error["message"])

    def test_no_more_than_so_many(self) -> None:
        for number in range(MOST_INDICES):
            KeptIndex.objects.create(
                owner=self.analyst, name=str(number), fixings=[["2026-06-30", "1"]]
            )
        refused = self.send("POST", "indices", {"name": "more", "fixings": "2026-06-30 1"})
        self.assertEqual(refused.status_code, 422)

    def test_nobody_elses(self) -> None:
        self.keep()
        other = self.colleague()
        self.assertEqual(self.send("GET", "indices", None, other).json()["total"], 0)
        index = KeptIndex.objects.get()
        self.assertEqual(self.send("DELETE", f"indices/{index.pk}", None, other).status_code, 404)

    def test_rows_of_a_table_follow_what_is_kept(self) -> None:
        """An index of 1 % and a margin of 4 % is 5 % a year: 1,050.00 after one year, by hand."""
        self.keep(fixings="2026-06-30 1")
        text = "amount,term,payment,balance,index,margin,start,every\n"
        text += "1000,1,?,0,weir,4,2026-07-01,year\n1000,1,?,0,moon,4,2026-07-01,year\n"
        table = self.send("POST", "tables/from-text", {"text": text}).json()
        self.assertEqual(table["columns"]["index"], 4)
        asked = {"columns": table["columns"], "defaults": table["defaults"]}
        self.assertEqual(self.send("PUT", f"tables/{table['id']}/matching", asked).status_code, 200)
        while (job := jobs.take_up()) is not None:
            jobs.work_on(job)
        rows = self.send("GET", f"tables/{table['id']}/rows").json()["items"]
        self.assertEqual(rows[0]["found"], "1050.00", rows[0])
        self.assertIn("no index", rows[1]["problem"])

    def test_fetched_for_everyone(self) -> None:
        """The feed is a made-up one that ships; fetched twice nothing is new."""
        told = io.StringIO()
        call_command("fetch_index", stdout=told)
        count = len(feed.fetched("harbour-6"))
        self.assertIn(
            f"harbour-6: {count} fixings up to 2026-09-30, 1.74 %; {count} new", told.getvalue()
        )
        call_command("fetch_index", "harbour-6", stdout=told)
        self.assertIn("; 0 new", told.getvalue())
        for client in (None, self.colleague()):
            [index] = self.send("GET", "indices", None, client).json()["items"]
            self.assertEqual((index["name"], index["mine"]), ("harbour-6", False))
            # What came from the feed is nobody's to throw away.
            gone = self.send("DELETE", f"indices/{index['id']}", None, client)
            self.assertEqual(gone.status_code, 404)
        with self.assertRaisesMessage(CommandError, "The feed has no index moon"):
            call_command("fetch_index", "moon")
