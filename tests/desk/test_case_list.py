"""The list of cases: a page of it is what sorting everything would have shown there."""

from datetime import timedelta
from random import Random
from typing import Any

from django.contrib.auth.models import User
from django.db import connection
from django.test.utils import CaptureQueriesContext
from django.utils import timezone

from zephyrant.desk.case_list import SORTS, Look, Sort, search
from zephyrant.desk.models import Case, Share
from zephyrant.loans import MARKS

from .desk import Desk

MARKED = MARKS["comma-point"]
#: The field of a case that a list is sorted by.
SORTED_BY: dict[Sort, str] = {
    "changed": "changed_at",
    "name": "name",
    "created": "created_at",
    "amount": "amount",
    "rate": "rate",
    "payment": "payment",
    "effective": "effective",
    "term": "years",
    "asked": "asked",
    "answer": "answer",
}


class Listing(Desk):
    def setUp(self) -> None:
        super().setUp()
        self.other = User.objects.create_user("odo")
        chance, now = Random(11), timezone.now()
        for number in range(260):
            # Names and moments that come twice are told apart by their keys.
            case = Case.objects.create(
                owner=self.other if number % 3 == 0 else self.analyst,
                name=chance.choice(["Kiln", "kiln", "KILN"]) + f" {chance.randrange(90)}"
                if number % 5
                else "",
                asked=chance.choice(["payment", "rate", ""]),
                **{
                    field: chance.choice([None, round(chance.uniform(0, 9), 1)])
                    for field in ("amount", "rate", "payment", "effective", "years", "answer")
                },
                statement={"marks": "comma-point"},
                search=f"kiln {number % 7}",
                deleted_at=now if number % 11 == 0 else None,
            )
            moment = now - timedelta(minutes=chance.randrange(60))
            Case.objects.filter(pk=case.pk).update(changed_at=moment, created_at=moment)
            if number % 6 == 0:
                Share.objects.create(case=case, user=self.analyst)

    def test_pages_are_of_the_whole_sorted(self) -> None:
        for sort in SORTS:
            for typed in ("", "kiln 3", "5"):
                for last_first in (False, True):
                    with self.subTest(sort=sort, typed=typed, last_first=last_first):
                        self._same_as_all_sorted(Look(typed, MARKED, sort, last_first))

    def test_the_way_that_is_usual(self) -> None:
        ways = {sort: Look("", MARKED, sort).sorting.last_first for sort in SORTS}
        self.assertEqual(
            [sort for sort, last_first in ways.items() if not last_first], ["name", "asked"]
        )

    def _same_as_all_sorted(self, look: Look) -> None:
        shared = set(Share.objects.values_list("case_id", flat=True))
        readable = [
            case
            for case in Case.objects.order_by("pk")
            if (case.owner_id == self.analyst.pk or case.pk in shared)
            and case.deleted_at is None
            and all(word in case.search for word in look.typed.split())
        ]
        field = SORTED_BY[look.sort]

        def value(case: Case) -> Any:
            told = getattr(case, field)
            return told.lower() or None if isinstance(told, str) else told

        known = [case for case in readable if value(case) is not None]
        known.sort(key=value, reverse=bool(look.last_first))
        wanted = [case.pk for case in [*known, *(c for c in readable if value(c) is None)]]
        listed: list[Any] = []
        for start in range(0, len(wanted) + 30, 30):
            found = search(self.analyst, look, start=start, size=30)
            self.assertEqual(found.total, len(wanted))
            listed += [case.pk for case in found.cases]
        self.assertEqual(listed, wanted)

    def test_places_are_found_in_the_index_alone(self) -> None:
        Share.objects.all().delete()
        for sort in SORTS:
            with self.subTest(sort), CaptureQueriesContext(connection) as asked:
                search(self.analyst, Look("kiln 5", MARKED, sort), start=0, size=30)
            _, places, _, counted = [each["sql"] for each in asked.captured_queries]
            for question in (places, counted):
                with connection.cursor() as cursor:
                    cursor.execute(f"EXPLAIN QUERY PLAN {question}")
                    plan = " ".join(str(row[-1]) for row in cursor.fetchall())
                self.assertIn("COVERING INDEX cases_as_listed", plan)
