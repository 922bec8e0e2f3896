"""Cases before somebody else: put up, commented on by figure, approved or sent back, locked."""

import io
from datetime import UTC, datetime
from typing import Any
from unittest import mock

import pypdf
from django.contrib.auth.models import User
from django.test import Client

from zephyrant.desk import heavy
from zephyrant.desk.models import AuditEntry, Case, Review, Revision, Share
from zephyrant.loans import ENGINE

from .desk import PRESS, Desk, content

#: The payment of the press by the annuity formula, worked here: half-yearly compounding, 60 months.
_MONTH = (1 + 0.0635 / 2) ** (1 / 6)
PAYMENT = f"{48_250 * (_MONTH - 1) / (1 - _MONTH**-60):.2f}"


class Committee(Desk):
    """An analyst with a case, and a colleague who may judge it."""

    def setUp(self) -> None:
        super().setUp()
        self.judge = self.colleague("odo")
        User.objects.filter(username="odo").update(first_name="Odo", last_name="Marsh")
        User.objects.filter(username="ilse").update(first_name="Ilse", last_name="Tarn")
        self.case = self.start()
        self.key = self.case["id"]

    def put_up(self, client: Client | None = None, **changes: Any) -> Any:
        asked = {"reviewer": "odo", "version": self.version(), **changes}
        return self.send("POST", f"cases/{self.key}/reviews", asked, client)

    def end(self, how: str, said: str = "", client: Client | None = None, number: int = 1) -> Any:
        path = f"cases/{self.key}/reviews/{number}/{how}"
        return self.send("POST", path, {"said": said}, client or self.judge)

    def say(self, figure: str, text: str, client: Client | None = None) -> Any:
        sent = {"figure": figure, "text": text}
        return self.send("POST", f"cases/{self.key}/comments", sent, client or self.judge)

    def version(self) -> int:
        return Case.objects.get(pk=self.key).version

    def opened(self, client: Client | None = None) -> dict[str, Any]:
        told = self.send("GET", f"cases/{self.key}", None, client).json()
        return dict(told)

    def refused(self, answer: Any, status: int) -> tuple[str, str]:
        self.assertEqual(answer.status_code, status, answer.content)
        error = answer.json()["errors"][0]
        return error["field"], error["message"]

    def answered_otherwise(self) -> None:
        """As though an earlier core had answered what was put up."""
        revision = Revision.objects.get()
        revision.answer = {**(revision.answer or {}), "value": "900.00"}
        revision.engine = "an earlier core"
        revision.save()

    def approved(self) -> None:
        self.assertEqual(self.put_up().status_code, 201)
        self.assertEqual(self.end("approve").status_code, 200)


class PutUp(Committee):
    def test_who_judges_it_reads_it_and_nobody_changes_it(self) -> None:
        self.assertEqual(self.send("GET", f"cases/{self.key}", None, self.judge).status_code, 404)
        self.save(self.key, self.version(), percent="6.4")
        opened = self.put_up(asked="For Thursday.").json()
        last = opened["judging"]["last"]
        self.assertEqual(
            (last["state"], last["says"], last["by"], last["asked"], last["reviewer"]),
            ("open", "In review by Odo Marsh", "Ilse Tarn", "For Thursday.", "Odo Marsh"),
        )
        self.assertFalse(opened["may_edit"])
        self.assertIn("in review and stays as it is", opened["judging"]["locked"])
        seen = self.opened(self.judge)
        self.assertTrue(seen["judging"]["may_judge"])
        self.assertFalse(seen["may_edit"] or seen["judging"]["may_take_back"])
        self.assertFalse(opened["judging"]["may_judge"] or opened["judging"]["may_put_up"])
        _, message = self.refused(self.save(self.key, self.version(), percent="7"), 403)
        self.assertIn("until it is approved, sent back or taken back", message)
        self.assertEqual(self.send("DELETE", f"cases/{self.key}").status_code, 403)
        done = self.send("POST", "cases/several/delete", {"cases": [self.key]}).json()
        self.assertEqual((done["changed"], done["left"]), ([], 1))
        tagging = {"cases": [self.key], "add": ["late"]}
        self.assertEqual(self.send("POST", "cases/several/tag", tagging).json()["left"], 1)
        back = self.send(
            "POST", f"cases/{self.key}/revisions/1/restore", {"version": self.version()}
        )
        self.assertEqual(back.status_code, 403)
        self.assertEqual(Case.objects.get(pk=self.key).statement["percent"], "6.4")
        # Whoever did not hear that it was saved before hears it now.
        self.assertEqual(self.save(self.key, 1, percent="6.4").status_code, 200)

    def test_the_reviewer_is_no_author(self) -> None:
        field, message = self.refused(self.put_up(reviewer="ilse"), 422)
        self.assertEqual(field, "reviewer")
        self.assertIn("You are an author of this case", message)
        # Who changed it is one of its authors, whoever puts it up.
        Share.objects.create(case_id=self.key, user=User.objects.get(username="odo"), may_edit=True)
        self.assertEqual(
            self.save(self.key, self.version(), self.judge, percent="6.4").status_code, 200
        )
        for client, reviewer, says in (
            (None, "odo", "Odo Marsh is an author of this case"),
            (self.judge, "ilse", "Ilse Tarn is an author of this case"),
            (None, "nobody", "No colleague has the name nobody."),
        ):
            with self.subTest(reviewer):
                field, message = self.refused(self.put_up(client, reviewer=reviewer), 422)
                self.assertEqual(field, "reviewer")
                self.assertIn(says, message)
        self.assertFalse(Review.objects.exists())

    def test_who_may_change_a_case_and_has_not_is_no_author(self) -> None:
        Share.objects.create(case_id=self.key, user=User.objects.get(username="odo"), may_edit=True)
        self.put_up()
        self.assertFalse(self.opened(self.judge)["judging"]["may_take_back"])
        self.assertEqual(self.end("take-back").status_code, 403)
        self.assertEqual(self.end("approve").status_code, 200)
        self.assertTrue(Share.objects.get().may_edit)

    def test_what_is_not_whole_or_has_no_answer_is_not_put_up(self) -> None:
        cases: tuple[tuple[dict[str, Any], str], ...] = (
            ({"percent": ""}, "not whole yet"),
            ({"count": "?", "payment": "100"}, "There is no answer to judge"),
        )
        for changes, says in cases:
            with self.subTest(says):
                self.save(self.key, self.version(), **changes)
                field, message = self.refused(self.put_up(), 422)
                self.assertEqual(field, "")
                self.assertIn(says, message)

    def test_not_twice_not_by_a_reader_and_not_over_what_was_not_seen(self) -> None:
        Share.objects.create(case_id=self.key, user=User.objects.get(username="odo"))
        self.assertEqual(self.put_up(self.judge, reviewer="ilse").status_code, 403)
        self.assertEqual(self.put_up(version=7).status_code, 409)
        self.assertEqual(self.put_up().status_code, 201)
        self.assertEqual(self.put_up().status_code, 403)
        self.assertEqual(Review.objects.count(), 1)

    def test_what_an_earlier_core_answered_is_answered_anew(self) -> None:
        Revision.objects.update(engine="an earlier core")
        self.put_up()
        review = Review.objects.get()
        self.assertEqual((review.revision.number, review.revision.engine), (2, ENGINE))
        listed = self.send("GET", f"cases/{self.key}/revisions").json()["items"]
        self.assertEqual(listed[0]["changes"], [f"answered anew by {ENGINE}"])

    def test_whoever_judges_it_stays_among_those_it_is_shared_with(self) -> None:
        self.put_up()
        field, message = self.refused(self.send("PUT", f"cases/{self.key}/shares", []), 422)
        self.assertEqual((field, message[:9]), ("username", "Odo Marsh"))
        self.end("send-back", "No.")
        self.assertEqual(self.send("PUT", f"cases/{self.key}/shares", []).status_code, 200)

    def test_no_token_judges(self) -> None:
        for how in ("approve", "send-back", "take-back"):
            made = self.send("POST", "tokens", {"name": "t", "may": ["write"], "days": 7}).json()
            program = Client(headers={"authorization": f"Bearer {made['key']}"})
            path = f"cases/{self.key}/reviews/1/{how}"
            self.assertEqual(self.send("POST", path, {"said": ""}, program).status_code, 403)
        sent = {"reviewer": "odo", "version": 1}
        path = f"cases/{self.key}/reviews"
        self.assertEqual(self.send("POST", path, sent, program).status_code, 403)


class Judged(Committee):
    def test_approved_it_stays_as_it_is(self) -> None:
        self.put_up()
        before = self.opened()
        opened = self.end("approve", "Within the limits.").json()
        last = opened["judging"]["last"]
        self.assertEqual(
            (last["state"], last["says"], last["said"], last["engine"], last["revision"]),
            ("approved", "Approved by Odo Marsh", "Within the limits.", ENGINE, 1),
        )
        for client in (None, self.judge):
            self.assertFalse(self.opened(client)["may_edit"])
        _, message = self.refused(self.save(self.key, self.version(), percent="7"), 403)
        self.assertIn("a change is a new version beside it.", message)
        self.assertEqual(self.send("DELETE", f"cases/{self.key}").status_code, 403)
        self.assertEqual(self.put_up().status_code, 403)
        self.assertEqual(self.end("take-back", client=self.client).status_code, 409)
        _, message = self.refused(self.end("send-back", "Late."), 409)
        self.assertEqual(message, "Approved by Odo Marsh")
        after = self.opened()
        for name in ("statement", "note", "tags", "version", "document"):
            self.assertEqual(before[name], after[name])

    def test_sent_back_with_words_it_is_changed_and_put_up_anew(self) -> None:
        self.put_up()
        field, message = self.refused(self.end("send-back", "  "), 422)
        self.assertEqual((field, message), ("said", "Say what has to change."))
        opened = self.end("send-back", "The rate is too low.").json()
        self.assertEqual(opened["judging"]["last"]["said"], "The rate is too low.")
        self.assertTrue(self.opened()["may_edit"])
        saved = self.save(self.key, self.version(), percent="6.9")
        self.assertEqual(saved.status_code, 200)
        # However soon it is changed: what was judged stays in the history as it was.
        self.assertEqual(Review.objects.get().revision.statement["percent"], "6.35")
        self.assertEqual(self.put_up().json()["judging"]["last"]["number"], 2)
        self.assertEqual(self.end("approve", number=2).status_code, 200)
        self.assertEqual(Review.objects.get(number=2).revision.statement["percent"], "6.9")

    def test_a_change_just_before_it_is_put_up_is_not_gone_on_with(self) -> None:
        self.save(self.key, self.version(), percent="6.5")
        self.put_up()
        self.end("take-back", client=self.client)
        self.save(self.key, self.version(), percent="6.6")
        self.assertEqual(Review.objects.get().revision.statement["percent"], "6.5")
        self.assertEqual(Revision.objects.filter(case=self.key).count(), 3)

    def test_taken_back_by_its_author(self) -> None:
        self.put_up()
        self.assertEqual(self.end("take-back", client=self.judge).status_code, 403)
        opened = self.end("take-back", client=self.client).json()
        self.assertIsNone(opened["judging"]["last"])
        (review,) = self.send("GET", f"cases/{self.key}/reviews").json()["reviews"]
        self.assertEqual(review["says"], "Taken back by Ilse Tarn")
        self.assertTrue(opened["may_edit"])
        self.assertEqual(self.end("approve").status_code, 409)

    def test_only_whoever_was_asked_judges(self) -> None:
        third = self.colleague("wren")
        Share.objects.create(case_id=self.key, user=User.objects.get(username="wren"))
        self.put_up()
        for client in (self.client, third):
            for how in ("approve", "send-back"):
                self.assertEqual(self.end(how, "x", client).status_code, 403)
        self.assertEqual(self.end("approve", number=4).status_code, 404)
        self.assertEqual(Review.objects.get().state, Review.OPEN)

    def test_not_approved_where_another_core_answers_otherwise(self) -> None:
        self.put_up()
        self.answered_otherwise()
        _, message = self.refused(self.end("approve"), 422)
        self.assertIn("the answer was 900.00, now", message)
        self.assertEqual(self.end("send-back", "Anew, please.").status_code, 200)

    def test_in_the_list(self) -> None:
        def listed(client: Client, query: str = "") -> tuple[list[str], int]:
            told = self.send("GET", f"cases{query}", None, client).json()
            return [each["standing"] for each in told["items"]], told["waiting"]

        self.send("PUT", f"cases/{self.key}/shares", [{"username": "odo", "may_edit": False}])
        self.assertEqual(listed(self.client), ([""], 0))
        self.put_up()
        self.assertEqual(listed(self.client), (["in review"], 0))
        self.send("POST", "cases", content(name="His own"), self.judge)
        self.assertEqual(listed(self.judge, "?to_judge=true"), (["for you to judge"], 1))
        self.assertEqual(listed(self.judge, "?to_judge=true&q=nothing"), ([], 1))
        self.assertEqual(len(listed(self.judge)[0]), 2)
        self.end("send-back", "No.")
        self.assertEqual(listed(self.client), (["sent back"], 0))
        self.assertEqual(listed(self.judge, "?to_judge=true"), ([], 0))
        self.put_up()
        self.end("approve", number=2)
        self.assertEqual(listed(self.client), (["approved"], 0))


class CommentedOn(Committee):
    def told(self, client: Client | None = None) -> dict[str, Any]:
        told = self.send("GET", f"cases/{self.key}/reviews", None, client).json()
        return dict(told)

    def test_by_figure_stated_found_or_a_result(self) -> None:
        self.put_up()
        months = 60
        interest = f"{float(PAYMENT) * months - 48_250:,.2f}"
        for figure, title, stood in (
            ("rate.percent", "Rate", "6.3500 %"),
            ("payment", "Payment", PAYMENT),
            ("principal", "Amount lent", "48,250.00"),
            ("count", "Number of payments", "60"),
            ("", "", None),
        ):
            with self.subTest(figure):
                told = self.say(figure, f" On {figure}. ").json()
                self.assertEqual(
                    (told["title"], told["stood"], told["text"], told["by"], told["revision"]),
                    (title, stood, f"On {figure}.".strip(), "Odo Marsh", 1),
                )
        # The last payment takes the cents of all: interest is known to within one a month.
        told = self.say("total_interest", "So much?").json()
        self.assertAlmostEqual(
            float(told["stood"].replace(",", "")), float(interest.replace(",", "")), delta=0.6
        )
        self.assertEqual(len(self.told()["comments"]), 6)
        self.assertEqual(self.opened()["judging"]["comments"], 6)

    def test_what_it_came_to_then_stands_in_the_marks_of_the_reader(self) -> None:
        self.put_up()
        self.say("principal", "Less would do.")
        self.end("send-back", "See there.")
        self.save(self.key, self.version(), principal="40,000")
        self.send("PUT", "me", {"marks": "point-comma"})
        told = self.told()
        self.assertEqual(told["comments"][0]["stood"], "48.250,00")
        figures = {each["name"]: each["text"] for each in told["figures"]}
        self.assertEqual(figures["principal"], "40.000,00")

    def test_authors_answer_and_readers_speak(self) -> None:
        self.put_up()
        self.say("payment", "Can they carry it?")
        self.say("payment", "They can: see the note.", self.client)
        self.assertEqual(
            [each["by"] for each in self.told(self.judge)["comments"]], ["Odo Marsh", "Ilse Tarn"]
        )

    def test_bad_ones_say_where(self) -> None:
        self.put_up()
        for figure, text, field, says in (
            ("payment", "  ", "text", "Say something of it."),
            ("colour", "Blue.", "figure", "no figure of the name colour"),
            ("clauses.4.fee", "High.", "figure", "no figure of the name clauses.4.fee"),
            ("payment", "x" * 2_001, "text", ""),
        ):
            with self.subTest(field, figure=figure):
                told, message = self.refused(self.say(figure, text), 422)
                self.assertEqual(told, field)
                self.assertIn(says, message)
        with mock.patch("zephyrant.desk.reviews.MOST_COMMENTS", 0):
            self.refused(self.say("payment", "More."), 422)

    def test_none_once_it_is_approved(self) -> None:
        self.approved()
        _, message = self.refused(self.say("payment", "Late."), 403)
        self.assertIn("This case is approved", message)

    def test_before_it_is_put_up_and_on_half_a_statement(self) -> None:
        self.save(self.key, self.version(), percent="")
        told = self.say("principal", "Ours?", self.client).json()
        self.assertEqual(told["stood"], "48,250.00")
        self.assertEqual(self.say("rate.percent", "Which?", self.client).json()["stood"], None)

    def test_where_working_it_takes_too_much_what_is_stated_can_be_spoken_of(self) -> None:
        self.save(self.key, self.version(), count="36500", every="day", percent="6.4")
        with mock.patch("zephyrant.desk.heavy.answered", side_effect=heavy.BusyError(429, "Busy.")):
            told = self.say("rate.percent", "Low.", self.client).json()
            self.assertEqual(told["stood"], "6.4000 %")
            names = [each["name"] for each in self.told()["figures"]]
        self.assertEqual(names, ["principal", "rate.percent", "count", "payment", "balance"])


class NewVersions(Committee):
    def test_a_change_is_one_beside_the_approved(self) -> None:
        self.refused(self.send("POST", f"cases/{self.key}/new-version", {}), 422)
        self.approved()
        changed = {"content": content(percent="6.9", note="As wished.")}
        made = self.send("POST", f"cases/{self.key}/new-version", changed)
        self.assertEqual(made.status_code, 201)
        beside = made.json()
        self.assertEqual(beside["statement"]["percent"], "6.9")
        self.assertEqual(beside["judging"]["follows"], {"id": self.key, "called": "Cider press"})
        self.assertTrue(beside["may_edit"] and beside["judging"]["may_put_up"])
        approved = self.opened()
        self.assertEqual(approved["statement"]["percent"], "6.35")
        self.assertEqual(
            approved["judging"]["followed_by"], [{"id": beside["id"], "called": "Cider press"}]
        )
        # Nobody else sees it until they are named.
        self.assertEqual(self.opened(self.judge)["judging"]["followed_by"], [])

    def test_with_what_was_approved_where_nothing_else_is_said(self) -> None:
        self.approved()
        made = self.send("POST", f"cases/{self.key}/new-version", {}).json()
        self.assertEqual(made["statement"]["percent"], "6.35")

    def test_only_by_who_may_change_it(self) -> None:
        self.approved()
        path = f"cases/{self.key}/new-version"
        self.assertEqual(self.send("POST", path, {}, self.judge).status_code, 403)
        self.assertEqual(Case.objects.count(), 1)


class OnFile(Committee):
    def pdf(self, client: Client | None = None) -> str:
        answer = (client or self.client).get(f"/api/v1/cases/{self.key}/statement")
        pages = pypdf.PdfReader(io.BytesIO(answer.content)).pages
        return " ".join(pages[0].extract_text().split())

    def test_who_when_and_which_core(self) -> None:
        now = datetime(2027, 3, 4, 9, 5, tzinfo=UTC)
        with mock.patch("django.utils.timezone.now", return_value=now):
            self.client.force_login(self.analyst)
            self.judge.force_login(User.objects.get(username="odo"))
            self.save(self.key, self.version(), note="As agreed.")
            self.put_up()
            self.end("approve", "Within the limits.")
        # As of today the session of then is none yet.
        self.client.force_login(self.analyst)
        text = self.pdf()
        for line in (
            "Approved by Odo Marsh, 4 Mar 2027, 09:05 UTC",
            "Their words Within the limits.",
            "Put up for review by Ilse Tarn, 4 Mar 2027, 09:05 UTC",
            "Last changed by Ilse Tarn, 4 Mar 2027, 09:05 UTC",
            f"Computed by {ENGINE}",
            f"Case {self.key}, step 2",
            PAYMENT,
        ):
            self.assertIn(line, text)
        self.assertNotIn("Not approved", text)

    def test_of_what_is_not_approved_that_is_said(self) -> None:
        self.assertIn("Review Not reviewed", self.pdf())
        self.put_up()
        self.assertIn("Not approved yet: in review by Odo Marsh", self.pdf(self.judge))
        self.end("send-back", "The rate.")
        self.assertIn("Not approved: sent back by Odo Marsh", self.pdf())
        self.assertIn("Their words The rate.", self.pdf())
        self.put_up()
        self.end("take-back", client=self.client, number=2)
        # What was taken back says nothing of it; what was said before stands.
        self.assertIn("Not approved: sent back by Odo Marsh", self.pdf())

    def test_approved_under_another_core(self) -> None:
        self.approved()
        Review.objects.update(engine="an earlier core")
        self.answered_otherwise()
        text = self.pdf()
        self.assertIn("Computed by an earlier core", text)
        self.assertIn(f"This statement computed by {ENGINE}", text)
        self.assertIn("It differs the answer was 900.00, now", text)

    def test_names_stay_when_people_leave(self) -> None:
        self.approved()
        User.objects.get(username="odo").delete()
        self.assertIn("Approved by Odo Marsh", self.pdf())
        self.assertEqual(self.save(self.key, self.version(), percent="7").status_code, 403)

    def test_names_and_words_of_any_script_and_length(self) -> None:
        User.objects.filter(username="odo").update(first_name="Ωδύσσεια", last_name="<b>&")
        self.put_up()
        self.end("approve", "Long. " * 300)
        text = self.pdf()
        self.assertIn("Approved by Ωδύσσεια <b>&", text)


class InTheLog(Committee):
    def test_all_of_it(self) -> None:
        AuditEntry.objects.all().delete()
        self.put_up(reviewer="ilse")
        self.put_up()
        self.say("payment", "High.")
        self.end("send-back", "See there.")
        self.put_up()
        self.end("take-back", client=self.client, number=2)
        self.put_up()
        self.end("approve", number=3)
        made = self.send("POST", f"cases/{self.key}/new-version", {}).json()
        told = AuditEntry.objects.order_by("pk").values_list("who", "what")
        self.assertEqual(
            list(told),
            [
                ("ilse", "shared"),
                ("ilse", "put up for review"),
                ("odo", "commented"),
                ("odo", "sent back"),
                ("ilse", "put up for review"),
                ("ilse", "taken back"),
                ("ilse", "put up for review"),
                ("odo", "approved"),
                ("ilse", "new version"),
            ],
        )
        for entry in AuditEntry.objects.all():
            self.assertIn(f"case {self.key}", entry.about)
        self.assertIn(made["id"], AuditEntry.objects.get(what="new version").about)
        self.assertEqual(PRESS["percent"], Case.objects.get(pk=self.key).statement["percent"])
