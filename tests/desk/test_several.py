"""What the list tells of each case, and what is done to several picked in it."""

import csv
import io
import json
import zipfile
from typing import Any

from django.contrib.auth.models import User
from django.test import Client

from zephyrant.desk.limits import MOST_PICKED, MOST_TAGS
from zephyrant.desk.models import Case, Share

from .desk import Desk, content


class Figures(Desk):
    """Figures of the columns; what is expected is worked here, by the textbook."""

    def told(self, **changes: Any) -> dict[str, Any]:
        self.start(**changes)
        listed = self.send("GET", "cases").json()["items"]
        return dict(listed[0])

    def test_those_stated_and_the_one_found(self) -> None:
        told = self.told()
        rate = 1.03175**2 - 1
        self.assertEqual(
            told["figures"],
            {
                "amount": "48,250.00",
                "payment": told["found"]["value"],
                "rate": "6.35 %",
                "quote": "a year, nominal, compounded half-yearly",
                "effective": f"{100 * rate:.4f}".rstrip("0") + " %",
                "term": "5 years",
            },
        )

    def test_the_figure_asked_for_stands_in_its_column(self) -> None:
        for asked, name, value in (
            ({"principal": "?", "payment": "938.82"}, "amount", "48,24"),
            ({"percent": "?", "payment": "938.82"}, "rate", "6.34"),
            ({"count": "?", "payment": "938.82"}, "term", "5 years"),
        ):
            with self.subTest(name):
                told = self.told(**asked)
                self.assertTrue(told["figures"][name].startswith(value), told["figures"])

    def test_a_purchase_tells_what_is_lent(self) -> None:
        told = self.told(
            principal="", is_purchase=True, price="60,000", down="20", down_in_percent=True
        )
        self.assertEqual(told["figures"]["amount"], "48,000.00")

    def test_without_an_answer_what_is_stated_stands(self) -> None:
        told = self.told(count="?", payment="100")
        self.assertEqual(
            (told["figures"]["amount"], told["figures"]["payment"], told["figures"]["term"]),
            ("48,250.00", "100.00", ""),
        )

    def test_half_a_statement_tells_nothing(self) -> None:
        self.assertEqual(set(self.told(percent="lots")["figures"].values()), {""})

    def test_in_the_marks_of_the_reader(self) -> None:
        self.send("PUT", "me", {"marks": "point-comma"})
        self.assertEqual(
            self.told(marks="point-comma", principal="48.250", percent="6,35")["figures"]["rate"],
            "6,35 %",
        )

    def test_sorted_by_what_was_found(self) -> None:
        for name, amount in (("small", "900"), ("large", "90,000"), ("none", "lots")):
            self.start(name=name, principal=amount)
        for query, names in (
            ("sort=payment", ["large", "small", "none"]),
            ("sort=payment&last_first=false", ["small", "large", "none"]),
            ("sort=answer", ["large", "small", "none"]),
        ):
            listed = self.client.get(f"/api/v1/cases?{query}").json()["items"]
            self.assertEqual([each["name"] for each in listed], names, query)


class Columns(Desk):
    def test_chosen_and_kept(self) -> None:
        usual = self.client.get("/api/v1/me").json()["columns"]
        self.assertEqual(usual, ["amount", "rate", "term", "asked", "answer", "tags", "changed"])
        chosen = ["answer", "effective", "answer"]
        now = self.send("PUT", "me/columns", {"columns": chosen}).json()["columns"]
        self.assertEqual(now, ["answer", "effective"])
        self.send("PUT", "me", {"marks": "point-comma"})
        self.assertEqual(self.client.get("/api/v1/me").json()["columns"], now)
        self.assertEqual(self.send("PUT", "me/columns", {"columns": []}).json()["columns"], [])
        refused = self.send("PUT", "me/columns", {"columns": ["mood"]})
        self.assertEqual(refused.status_code, 422)


class Several(Desk):
    def setUp(self) -> None:
        super().setUp()
        self.mine = [self.start(name=name)["id"] for name in ("Kiln", "Mill")]
        self.other = User.objects.create_user("odo")
        client = Client()
        client.force_login(self.other)
        sent = {**content(name="Quay"), "tags": ["water"]}
        theirs = self.send("POST", "cases", sent, client=client).json()["id"]
        self.hidden = self.send("POST", "cases", sent, client=client).json()["id"]
        Share.objects.create(case_id=theirs, user=self.analyst)
        self.theirs = theirs
        self.every = [*self.mine, self.theirs, self.hidden]

    def test_one_s_own_are_binned_and_brought_back(self) -> None:
        done = self.send("POST", "cases/several/delete", {"cases": self.every}).json()
        self.assertEqual((set(done["changed"]), done["left"]), (set(self.mine), 2))
        self.assertEqual(self.client.get("/api/v1/cases").json()["total"], 1)
        self.assertEqual(Case.objects.filter(deleted_at=None).count(), 2)
        back = self.send("POST", "cases/several/undelete", {"cases": self.every}).json()
        self.assertEqual((set(back["changed"]), back["left"]), (set(self.mine), 2))
        self.assertEqual(self.client.get("/api/v1/cases").json()["total"], 3)

    def test_tags_are_put_on_and_taken_off(self) -> None:
        path = "cases/several/tag"
        done = self.send("POST", path, {"cases": self.every, "add": ["  Harvest "]}).json()
        self.assertEqual((set(done["changed"]), done["left"]), (set(self.mine), 2))
        case = Case.objects.get(pk=self.mine[0])
        self.assertEqual((case.tags, case.version, case.revisions.count()), (["harvest"], 2, 2))
        self.assertEqual(self.client.get("/api/v1/cases?q=%23harvest").json()["total"], 2)
        # Its answer is still found, and what the list tells is as it was.
        self.assertEqual(self.client.get("/api/v1/cases?q=938.82").json()["total"], 3)
        again = self.send("POST", path, {"cases": self.mine, "add": ["harvest"]}).json()
        self.assertEqual(again, {"changed": [], "left": 0})
        off = self.send("POST", path, {"cases": self.mine, "take_off": ["harvest"]}).json()
        self.assertEqual(len(off["changed"]), 2)
        self.assertEqual(self.client.get("/api/v1/cases?q=%23harvest").json()["total"], 0)

    def test_too_many_tags_stay_off(self) -> None:
        full = self.start(tags=[f"t{number}" for number in range(MOST_TAGS)])["id"]
        done = self.send("POST", "cases/several/tag", {"cases": [full], "add": ["one"]}).json()
        self.assertEqual(done, {"changed": [], "left": 1})

    def test_tagging_is_a_step_of_the_history(self) -> None:
        self.send("POST", "cases/several/tag", {"cases": self.mine, "add": ["harvest"]})
        of_case = f"/api/v1/cases/{self.mine[0]}/revisions"
        told = self.client.get(of_case).json()["items"][0]
        self.assertIn("tag “harvest” added", told["changes"])
        whole = self.client.get(f"{of_case}/{told['number']}").json()
        self.assertEqual(whole["answer"]["value"], "938.82")

    def test_whoever_may_change_a_case_may_tag_it(self) -> None:
        Share.objects.update(may_edit=True)
        done = self.send(
            "POST", "cases/several/tag", {"cases": [self.theirs], "add": ["harvest"]}
        ).json()
        self.assertEqual(done["changed"], [self.theirs])
        self.assertEqual(Case.objects.get(pk=self.theirs).tags, ["harvest", "water"])

    def _file(self, kind: str, ids: list[str] | None) -> bytes:
        of = "".join(f"&of={each}" for each in ids or [])
        response = self.client.get(f"/api/v1/cases/file?kind={kind}{of}")
        self.assertEqual(response.status_code, 200)
        return response.content

    def test_those_picked_as_files_in_their_order(self) -> None:
        picked = [self.theirs, self.mine[0], self.hidden]
        documents = json.loads(self._file("json", picked))
        self.assertEqual([each["name"] for each in documents], ["Quay", "Kiln"])
        with zipfile.ZipFile(io.BytesIO(self._file("zip", picked))) as packed:
            self.assertEqual(packed.namelist(), ["quay.json", "kiln.json"])
        own = json.loads(self._file("json", None))
        self.assertEqual({each["name"] for each in own}, {"Kiln", "Mill"})

    def test_the_list_as_a_table_of_plain_figures(self) -> None:
        self.start(name="=SUM(1)", percent="lots")
        text = self._file("csv", None).decode("utf-8-sig")
        rows = {row["name"]: row for row in csv.DictReader(io.StringIO(text))}
        kiln = rows["Kiln"]
        self.assertEqual(
            [kiln[name] for name in ("currency", "amount", "rate", "count", "every", "years")],
            ["EUR", "48250", "6.35", "60", "month", "5.0000"],
        )
        self.assertEqual((kiln["asked"], kiln["answer"]), ("payment", "938.82"))
        self.assertEqual(rows["'=SUM(1)"]["amount"], "")

    def test_side_by_side_without_a_case_keeping_it(self) -> None:
        of = f"of={self.mine[1]}&of={self.theirs}&of={self.hidden}"
        told = self.client.get(f"/api/v1/cases/side-by-side?{of}&base=1").json()
        self.assertEqual((told["names"][:2], told["base"]), (["Mill", "Quay"], 1))
        self.assertEqual(told["wrong"][:2], [None, None])
        self.assertIn("no longer shared", told["wrong"][2])
        self.assertEqual(Case.objects.get(pk=self.mine[1]).asides, {})
        pdf = self.client.get(f"/api/v1/cases/side-by-side/file?{of}&kind=pdf")
        self.assertEqual((pdf.status_code, pdf.content[:5]), (200, b"%PDF-"))
        table = self.client.get(f"/api/v1/cases/side-by-side/file?{of}&kind=csv").content.decode()
        self.assertIn("Mill (EUR),Quay (EUR)", table)

    def test_bad_questions_are_refused(self) -> None:
        many = [self.mine[0]] * (MOST_PICKED + 1)
        for answer in (
            self.send("POST", "cases/several/delete", {"cases": []}),
            self.send("POST", "cases/several/delete", {"cases": many}),
            self.send("POST", "cases/several/tag", {"cases": ["x"]}),
            self.client.get("/api/v1/cases/side-by-side"),
            self.client.get(f"/api/v1/cases/side-by-side?of={self.mine[0]}&base=3"),
            self.client.get("/api/v1/cases/side-by-side?" + "&".join(f"of={e}" for e in many[:7])),
        ):
            self.assertEqual(answer.status_code, 422, answer.content)
        self.assertEqual(self.client.get("/api/v1/cases").json()["total"], 3)
