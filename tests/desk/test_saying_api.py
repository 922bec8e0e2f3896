"""Loans and clauses said in words over the API and by the command, and who speaks."""

import io
import json
from decimal import Decimal

import pypdf

from tests.command.test_solve import solve
from zephyrant.desk.models import TrailPoint

from .desk import PRESS, Desk


class SayingOverTheApi(Desk):
    def test_a_line_comes_as_a_statement_that_is_worked_alike(self) -> None:
        said = self.send("POST", "ask/line", {"line": "43,700 at 5.4 % over 4 years"}).json()
        worked = self.send("POST", "work", said["statement"]).json()
        # By the formula, at 0.45 % a month.
        level = Decimal(43700) * Decimal("0.0045") / (1 - Decimal("1.0045") ** -48)
        self.assertEqual(worked["answer"]["value"], f"{level:.2f}")
        self.assertEqual(said["found"]["value"], f"{level:,.2f}")
        self.assertEqual([guess["says"] for guess in said["guesses"]], ["in EUR", "paid monthly"])
        started = self.send("POST", "cases", {"statement": said["statement"]})
        self.assertEqual(started.status_code, 201)

    def test_how_a_case_begins_is_what_a_line_means(self) -> None:
        begins = {
            "currency": "CHF",
            "every": "quarter",
            "quoted": "effective",
            "compounding": None,
            "timing": "in-arrears",
        }
        self.assertEqual(self.client.get("/api/v1/me").json()["begins"]["currency"], "EUR")
        self.assertEqual(self.send("PUT", "me/begins", begins).json()["begins"], begins)
        line = {"line": "43,700 at 5.4 % over 4 years"}
        said = self.send("POST", "ask/line", line).json()["statement"]
        self.assertEqual(
            (said["currency"], said["every"], said["quoted"]), ("CHF", "quarter", "effective")
        )
        said = self.send("POST", "ask/line", {**line, "currency": "USD"}).json()["statement"]
        self.assertEqual(said["currency"], "USD")
        for wrong in ({"currency": "ZZZ"}, {"quoted": "simple"}, {"every": 0}):
            self.assertEqual(self.send("PUT", "me/begins", wrong).status_code, 422, wrong)

    def test_the_answer_as_a_sentence(self) -> None:
        told = self.send("POST", "work", PRESS).json()["told"]["said"]
        self.assertEqual(
            told,
            "Each monthly payment is 938.82 EUR. We lend 48,250.00 EUR at 6.35 % a year, nominal, "
            "compounded half-yearly, repaid by 60 monthly payments of 938.82 at the end of each "
            "month, with 0.00 still owed at the end.",
        )
        never = self.send("POST", "work", {**PRESS, "count": "?", "payment": "10"}).json()["told"]
        self.assertIn("never repays", never["said"])

    def test_what_is_wrong_in_a_line_is_no_refusal(self) -> None:
        said = self.send("POST", "ask/line", {"line": "43,700 bananas", "currency": "CHF"}).json()
        self.assertIsNone(said["statement"])
        self.assertEqual((said["errors"][0]["begin"], said["errors"][0]["end"]), (7, 14))
        self.assertIn("in CHF", [guess["says"] for guess in said["guesses"]])
        for sent in ({"line": "x" * 3_000}, {"line": "1", "currency": "ZZZ"}, {}):
            self.assertEqual(self.send("POST", "ask/line", sent).status_code, 422, sent)
        self.client.logout()
        self.assertEqual(self.send("POST", "ask/line", {"line": "1"}).status_code, 401)

    def test_clauses_are_typed_for_the_statement(self) -> None:
        asked = {"statement": PRESS, "text": "at 12 repay 4,500\nnothing for the last 3 payments"}
        said = self.send("POST", "ask/clauses", asked).json()
        statement = {**PRESS, "clauses": said["clauses"]}
        document = self.send("POST", "work", statement).json()["document"]
        self.assertEqual(
            document["clauses"],
            [{"at": 12, "repay": "4500"}, {"from": 58, "to": 60, "pay": "nothing"}],
        )

    def test_who_speaks_changes_words_and_no_figure(self) -> None:
        told = {
            we: self.send("POST", "work", {**PRESS, "we": we}).json()
            for we in ("lend", "borrow", "put-aside")
        }
        schedules = [each["schedule"] for each in told.values()]
        self.assertEqual(schedules[1:], schedules[:-1])
        self.assertEqual({each["answer"]["value"] for each in told.values()}, {"938.82"})
        asked = [
            self.send("POST", "work", {**PRESS, "we": we, "payment": "900", "balance": "?"}).json()
            for we in told
        ]
        self.assertEqual(
            [each["answer"]["asks"] for each in asked],
            ["Still owed at the end is", "Still owed at the end is", "There at the end is"],
        )
        case = self.send("POST", "cases", {"statement": {**PRESS, "we": "borrow"}}).json()
        self.assertEqual(case["statement"]["we"], "borrow")
        pdf = self.client.get(f"/api/v1/cases/{case['id']}/statement").content
        text = pypdf.PdfReader(io.BytesIO(pdf)).pages[0].extract_text()
        self.assertIn("We borrow 48,250.00 EUR", " ".join(text.split()))

    def test_an_answer_a_field_was_left_on_stays_on_the_trail(self) -> None:
        case = self.send("POST", "cases", {"statement": PRESS}).json()
        saves = [("49k", False), ("50k", True), ("51k", False), ("52k", False), ("52k", True)]
        version = case["version"]
        for principal, left in [*saves, ("53k", False)]:
            sent = {"statement": {**PRESS, "principal": principal}, "version": version}
            kept = self.send("PUT", f"cases/{case['id']}", {**sent, "left": left}).json()
            version = kept["version"]
        points = TrailPoint.objects.filter(case=case["id"]).order_by("number")
        # 49k and 51k were half a figure: others came within a moment, and no field was left.
        self.assertEqual(
            [point.statement["principal"] for point in points], ["48,250", "50k", "52k", "53k"]
        )


class SayingByTheCommand(Desk):
    def test_a_line_is_answered_with_how_it_was_read(self) -> None:
        lines, status = solve(
            "--line", "43,700 at 5.4 % over 4 years", "--line", "43,700 at 12 %, pays 100"
        )
        self.assertEqual(status, 1)
        level = Decimal(43700) * Decimal("0.0045") / (1 - Decimal("1.0045") ** -48)
        self.assertEqual(lines[0]["value"], f"{level:.2f}")
        document = json.loads(json.dumps(lines[0]["document"]))
        self.assertEqual((document["principal"], document["count"]), ("43700", 48))
        read = {piece["field"]: piece for piece in lines[0]["read"]}  # type: ignore[attr-defined]
        self.assertEqual(
            read["count"],
            {"text": "over 4 years", "field": "count", "value": 48, "guess": False},
        )
        self.assertTrue(read["currency"]["guess"])
        self.assertEqual(lines[1]["solutions"], [])

    def test_a_line_that_is_none(self) -> None:
        lines, status = solve("--line", "43,700 bananas at 5.4 % over 4 years")
        self.assertEqual(status, 2)
        self.assertEqual(
            lines,
            [
                {
                    "errors": [
                        {
                            "field": "line",
                            "message": "“bananas” is not understood here.",
                            "at": [7, 14],
                        }
                    ]
                }
            ],
        )


class CasesWithoutAName(Desk):
    def test_they_are_called_by_their_terms_everywhere(self) -> None:
        nameless = {**PRESS, "name": ""}
        case = self.send("POST", "cases", {"statement": nameless}).json()
        called = "48,250 EUR over 60 months: payment"
        self.assertEqual(case["called"], called)
        listed = self.send("GET", "cases").json()["items"][0]
        self.assertEqual((listed["name"], listed["called"]), ("", called))
        worked = self.send("POST", "work", nameless).json()
        self.assertEqual(worked["told"]["called"], called)
        for path, name in (
            ("document", "48250-eur-over-60-months-payment.json"),
            ("schedule?kind=csv", "48250-eur-over-60-months-payment-schedule.csv"),
            ("statement", "48250-eur-over-60-months-payment.pdf"),
        ):
            taken = self.client.get(f"/api/v1/cases/{case['id']}/{path}")
            self.assertIn(name, taken["Content-Disposition"])
        beside = self.send("GET", f"cases/{case['id']}/side-by-side").json()
        self.assertEqual(beside["names"][0], called)
        copy = self.send("POST", f"cases/{case['id']}/copy").json()
        self.assertEqual(copy["statement"]["name"], "")
        self.send("DELETE", f"cases/{case['id']}")
        self.assertIn("over 60 months", self.send("GET", "cases/bin").json()["items"][0]["called"])
        named = self.send("POST", "cases", {"statement": PRESS}).json()
        self.assertEqual(named["called"], "Cider press")
        half = self.send("POST", "cases", {"statement": {**nameless, "percent": ""}}).json()
        self.assertEqual(half["called"], "Unnamed case")
