"""Asking a loan over the API, and what is taken out of a case: each file opened and read."""

import csv
import io
from itertools import pairwise

import openpyxl
import pypdf
from django.test import override_settings

from tests.loans.documents import loan
from tests.loans.test_asked import their_csv
from zephyrant import loans

from .desk import PRESS, Desk

DATED = {**PRESS, "start": "1 Mar 2027", "first_payment": "20 Apr 2027", "balance": "10 %"}


class Asking(Desk):
    def test_owed(self) -> None:
        found = self.send(
            "POST", "ask/balance-at", {"statement": PRESS, "at": "13, every 30"}
        ).json()
        self.assertEqual([each["number"] for each in found], [13, 30, 60])
        self.assertEqual(found[0]["owed"], "39036.21")
        wrong = self.send("POST", "ask/balance-at", {"statement": PRESS, "at": "70"})
        self.assertEqual((wrong.status_code, wrong.json()["errors"][0]["field"]), (422, "at"))
        half = self.send(
            "POST", "ask/balance-at", {"statement": {**PRESS, "percent": "x"}, "at": "1"}
        )
        self.assertEqual(half.json()["errors"][0]["field"], "percent")

    def test_stretch(self) -> None:
        (found,) = self.send(
            "POST", "ask/period-totals", {"statement": DATED, "stretch": "2028"}
        ).json()
        self.assertEqual((found["begins"], found["ends"]), ("2028-01-20", "2028-12-20"))
        wrong = self.send("POST", "ask/period-totals", {"statement": PRESS, "stretch": "61-70"})
        self.assertEqual(wrong.json()["errors"][0]["field"], "stretch")

    def test_years_of_the_calendar(self) -> None:
        worked = self.send("POST", "work?year_starts=4", DATED).json()
        self.assertEqual(worked["answer"]["by_year"][0]["label"], "2027/28")
        self.assertEqual(
            worked["readings"]["balance"]["note"], "10.00 % of the amount lent = 4,825.00."
        )
        self.assertEqual(self.send("POST", "work?year_starts=13", DATED).status_code, 422)

    def test_held_against(self) -> None:
        text = their_csv(loans.solve(loan()), interest="230.29")
        found = self.send("POST", "ask/reconciliation", {"statement": PRESS, "text": text}).json()
        self.assertEqual((found["rows_differing"], found["began"]), (1, 7))
        wide = {"statement": PRESS, "text": text, "tolerance": "0.2"}
        self.assertEqual(self.send("POST", "ask/reconciliation", wide).json()["rows_differing"], 0)
        for wrong in (
            {"text": "x"},
            *({"text": text, "tolerance": typed} for typed in ("-1", "", "?", "a cent")),
        ):
            refused = self.send("POST", "ask/reconciliation", {"statement": PRESS, **wrong})
            self.assertEqual(refused.status_code, 422)

    def test_what_moves_it(self) -> None:
        varied = [{"path": "rate.percent", "typed": "6.35; 7"}]
        asked = {"statement": PRESS, "varied": varied, "results": ["answer", "total_interest"]}
        found = self.send("POST", "ask/sensitivity", asked).json()
        self.assertEqual(found["swept"]["results"]["answer"][0], ["938.82"])
        self.assertEqual(found["standing"], ["6.35"])
        asked["varied"] = [{"path": "rate.percent", "typed": "1 to 2 by 0.0000001"}]
        wrong = self.send("POST", "ask/sensitivity", asked)
        self.assertEqual(wrong.status_code, 422)
        self.assertEqual(wrong.json()["errors"][0]["field"], "varied.0.typed")
        parts = {**asked, "varied": varied, "start": 0}
        self.assertEqual(self.send("POST", "ask/sensitivity", parts).json(), found)
        parts["start"] = 2
        end = self.send("POST", "ask/sensitivity", parts).json()
        self.assertEqual(end["swept"]["results"]["answer"], [[None], [None]])
        self.assertEqual((end["swept"]["next"], end["small_changes"]), (None, []))
        parts["start"] = -1
        self.assertEqual(self.send("POST", "ask/sensitivity", parts).status_code, 422)
        moved = {"statement": PRESS, "values": {"rate.percent": "7"}}
        self.assertEqual(self.send("POST", "ask/variant", moved).json()["percent"], "7.00")
        moved["values"] = {"count": "no"}
        self.assertEqual(self.send("POST", "ask/variant", moved).status_code, 422)


class Irregular(Desk):
    def test_settled_early(self) -> None:
        asked = {"statement": PRESS, "at": "24"}
        plain = self.send("POST", "ask/payoff", asked).json()["payoff"]
        self.assertEqual((plain["payoff"], plain["charge"]), ("30737.48", "0.00"))
        charge = {"kind": "percent", "figure": "1 %"}
        told = self.send("POST", "ask/payoff", {**asked, "charge": charge}).json()
        dearer = told["payoff"]
        # 1 % of 30,737.48, by hand.
        self.assertEqual((dearer["charge"], dearer["payoff"]), ("307.37", "31044.85"))
        self.assertEqual(told["told"][2], {"title": "Payoff", "cells": ["31,044.85"]})
        cost = [float(each["yearly_cost"]["eu_aprc"]) for each in (plain, dearer)]
        self.assertGreater(cost[1], cost[0])
        wrong = self.send("POST", "ask/payoff", {**asked, "at": "61"})
        self.assertEqual(wrong.json()["errors"][0]["field"], "at")
        for typed in ("", "?", "-1", "two", "2000000000"):
            charge = {"kind": "months", "figure": typed}
            wrong = self.send("POST", "ask/payoff", {**asked, "charge": charge})
            self.assertEqual(wrong.json()["errors"][0]["field"], "charge.figure", typed)

    def test_the_curve_of_two_rates(self) -> None:
        clauses = [
            {"verb": "repay", "at": "1", "figure": "10,000"},
            {"verb": "advance", "at": "2", "figure": "10,000"},
        ]
        asked = {
            "principal": "1,600",
            "percent": "?",
            "quoted": "effective",
            "count": "0",
            "every": "year",
            "payment": "0",
            "clauses": clauses,
        }
        found = self.send("POST", "ask/rate-curve", {"statement": asked}).json()
        self.assertEqual(found["percents"], ["25", "400"])
        signs = [point["gap"] > 0 for point in found["points"]]
        changes = sum(one != other for one, other in pairwise(signs))
        self.assertEqual(changes, 2)
        self.assertEqual(self.send("POST", "ask/rate-curve", {"statement": PRESS}).status_code, 422)

    def test_ways_out_of_no_answer(self) -> None:
        asked = {**PRESS, "count": "?", "payment": "100"}
        found = self.send("POST", "ask/ways-out", {"statement": asked}).json()
        for way in found["ways"]:
            taken = {**asked, way["entry"]: way["typed"]}
            worked = self.send("POST", "work", taken).json()
            self.assertTrue(way["gives"].startswith(worked["told"]["value"]), way)
        self.assertEqual(len(found["schedule"]["number"]), 240)
        self.assertIn("is owed after 20 years", found["goes"])
        none = self.send("POST", "ask/ways-out", {"statement": PRESS}).json()
        self.assertEqual(none, {"ways": [], "goes": None, "schedule": None, "left": None})

    def test_flows_become_a_case(self) -> None:
        text = "date;amount\n1.3.2027;-10.000,00\n1.9.2027;6.000,00\n1.3.2028;5000"
        case = self.send("POST", "cases/from-flows", {"text": text, "name": "Press money"})
        self.assertEqual(case.status_code, 201)
        worked = self.send("POST", "work", case.json()["statement"]).json()
        # The rate of the same flows by pyxirr: 14.0138884306 %.
        self.assertEqual(worked["answer"]["value"], "14.0138884306")
        for wrong in ("date;amount\n1.3.2027;5", "a;b\n1;2", "date;amount\nx;5\n1.1.2027;6"):
            refused = self.send("POST", "cases/from-flows", {"text": wrong})
            self.assertEqual(refused.status_code, 422)


class TakenOut(Desk):
    def take(self, what: str, **changes: str) -> tuple[str, bytes]:
        case = self.start(**{**DATED, "name": "Apple store, Grün & Co", **changes})
        response = self.client.get(f"/api/v1/cases/{case['id']}/{what}")
        self.assertEqual(response.status_code, 200)
        content = b"".join(response) if response.streaming else response.content
        return response["Content-Disposition"], content

    def test_csv(self) -> None:
        name, content = self.take("schedule?kind=csv")
        self.assertIn("apple-store-grun-co-schedule.csv", name)
        rows = list(csv.DictReader(io.StringIO(content.decode("utf-8-sig"))))
        self.assertEqual(len(rows), 60)
        self.assertEqual((rows[0]["date"], rows[0]["opening"]), ("2027-04-20", "48250.00"))
        self.assertEqual(rows[-1]["closing"], "4825.00")

    def test_xlsx_holds_formulas_and_our_values(self) -> None:
        name, content = self.take("schedule?kind=xlsx")
        self.assertIn("apple-store-grun-co-schedule.xlsx", name)
        formulas = openpyxl.load_workbook(io.BytesIO(content))["Schedule"]
        values = openpyxl.load_workbook(io.BytesIO(content), data_only=True)["Schedule"]
        self.assertTrue(str(formulas["D3"].value).startswith("=ROUND("))
        self.assertEqual(values["G61"].value, 4825)
        self.assertEqual(values["B2"].value.date().isoformat(), "2027-04-20")
        self.assertEqual(str(formulas["F62"].value), "=SUM(F2:F61)")
        paid = sum(row[5].value for row in values.iter_rows(min_row=2, max_row=61))
        self.assertAlmostEqual(values["F62"].value, paid, places=6)

    def test_pdf_is_a_statement_one_can_file(self) -> None:
        name, content = self.take("statement")
        self.assertIn("apple-store-grun-co.pdf", name)
        pages = pypdf.PdfReader(io.BytesIO(content)).pages
        text = " ".join(page.extract_text() for page in pages)
        for said in (
            "Apple store, Grün & Co",
            "We lend 48,250.00 EUR on 1 Mar 2027",
            "Each monthly payment is",
            "EU APRC",
            "The schedule",
            "20 Mar 2032",
        ):
            self.assertIn(said, " ".join(text.split()))

    def test_without_an_answer_the_statement_says_why(self) -> None:
        _, content = self.take("statement", count="?", payment="10", balance="0")
        text = pypdf.PdfReader(io.BytesIO(content)).pages[0].extract_text()
        self.assertIn("never repays", text)

    def test_nothing_to_take_out(self) -> None:
        half = self.start(principal="")
        self.assertEqual(self.client.get(f"/api/v1/cases/{half['id']}/schedule").status_code, 404)
        never = self.start(count="?", payment="10")
        missing = self.client.get(f"/api/v1/cases/{never['id']}/schedule?kind=xlsx")
        self.assertEqual(missing.status_code, 404)

    @override_settings(DEMO=False)
    def test_nobody_elses(self) -> None:
        case = self.start()
        other = self.colleague()
        for what in ("schedule", "schedule?kind=xlsx", "statement"):
            self.assertEqual(other.get(f"/api/v1/cases/{case['id']}/{what}").status_code, 404)
