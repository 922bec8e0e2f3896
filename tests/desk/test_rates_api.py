"""The API's ways with rates."""

from .desk import PRESS, Desk


class RatesByApi(Desk):
    def test_a_quote_worked(self) -> None:
        # (1 + 0.06/12)^12 - 1, mpmath.
        found = self.send("POST", "ask/equivalent-rates", {"percent": "6", "times": "12"}).json()
        self.assertEqual((found["unknown"], found["value"]), ("effective", "6.1677811864"))
        self.assertEqual(len(found["footings"]), 28)
        wrong = self.send("POST", "ask/equivalent-rates", {"percent": "six"}).json()
        self.assertEqual([error["field"] for error in wrong["errors"]], ["percent"])

    def test_what_is_no_question(self) -> None:
        for sent in ({"percent": 6}, {"surplus": "1"}, {"percent": "6" * 300}):
            refused = self.send("POST", "ask/equivalent-rates", sent)
            self.assertEqual(refused.status_code, 422)
            self.assertEqual(len(refused.json()["errors"]), 1)

    def test_ways_to_requote(self) -> None:
        ways = self.send(
            "POST", "ask/requoting", {"statement": PRESS, "quoting": {"quoted": "effective"}}
        ).json()
        # (1 + 0.0635/2)^2 - 1, by hand.
        self.assertEqual(
            [(way["keeps"], way["statement"]["percent"]) for way in ways],
            [("number", "6.35"), ("rate", "6.45080625")],
        )
        asked = {"statement": PRESS, "quoting": {"quoted": "daily"}}
        refused = self.send("POST", "ask/requoting", asked)
        self.assertEqual(refused.json()["errors"][0]["field"], "quoting.quoted")

    def test_ways_to_repace(self) -> None:
        ways = self.send("POST", "ask/repacing", {"statement": PRESS, "every": "quarter"}).json()
        self.assertEqual(
            [(way["keeps"], way["statement"]["count"]) for way in ways],
            [("term", "20"), ("count", "60")],
        )
        refused = self.send("POST", "ask/repacing", {"statement": PRESS, "every": 0})
        self.assertEqual(refused.json()["errors"][0]["field"], "every")
