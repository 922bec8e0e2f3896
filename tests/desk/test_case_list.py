"""The list of cases: a page of it is what sorting everything would have shown there."""

from datetime import timedelta
from random import Random
from typing import Any

from django.contrib.auth.models import User
from django.db import connection
from django.test.utils import CaptureQueriesContext
from django.utils import timezone

from zephyrant.desk.case_list import SORTS, search
from zephyrant.desk.models import Case, Share
from zephyrant.loans import MARKS

from .desk import Desk

MARKED = MARKS["comma-point"]


class Listing(Desk):
    def setUp(self) -> None:
        super().setUp()
        self.other = User.objects.create_user("odo")
        chance, now = Random(11), timezone.now()
        for number in range(260):
            # Names and moments that come twice are told apart by their keys.
            case = Case.objects.create(
                owner=self.other if number % 3 == 0 else self.analyst,
                name=f"Kiln {chance.randrange(90)}",
                statement={"marks": "comma-point"},
                search=f"kiln {number % 7}",
                deleted_at=now if number % 11 == 0 else None,
            )
            moment = now - timedelta(minutes=chance.randrange(60))
            Case.objects.filter(pk=case.pk).update(changed_at=moment, created_at=moment)
            if number % 6 == 0:
                Share.objects.create(case=case, user=self.analyst)

    def test_pages_are_of_the_whole_sorted(self) -> None:
        for sort, (by, last_first) in SORTS.items():
            for typed in ("", "kiln 3", "5"):
                with self.subTest(sort=sort, typed=typed):
                    self._same_as_all_sorted(sort, by, typed, last_first=last_first)

    def _same_as_all_sorted(self, sort: str, by: str, typed: str, *, last_first: bool) -> None:
        shared = set(Share.objects.values_list("case_id", flat=True))
        readable = [
            case
            for case in Case.objects.order_by("pk")
            if (case.owner_id == self.analyst.pk or case.pk in shared)
            and case.deleted_at is None
            and all(word in case.search for word in typed.split())
        ]

        def sorted_by(case: Case) -> Any:
            return getattr(case, by)

        wanted = [case.pk for case in sorted(readable, key=sorted_by, reverse=last_first)]
        listed: list[Any] = []
        for start in range(0, len(wanted) + 30, 30):
            found = search(self.analyst, typed, MARKED, sort=sort, start=start, size=30)
            self.assertEqual(found.total, len(wanted))
            listed += [case.pk for case in found.cases]
        self.assertEqual(listed, wanted)

    def test_places_are_found_in_the_index_alone(self) -> None:
        Share.objects.all().delete()
        for sort in SORTS:
            with self.subTest(sort), CaptureQueriesContext(connection) as asked:
                search(self.analyst, "kiln 5", MARKED, sort=sort, start=0, size=30)
            _, places, _, counted = [each["sql"] for each in asked.captured_queries]
            for question in (places, counted):
                with connection.cursor() as cursor:
                    cursor.execute(f"EXPLAIN QUERY PLAN {question}")
                    plan = " ".join(str(row[-1]) for row in cursor.fetchall())
                self.assertIn("COVERING INDEX cases_as_listed", plan)
