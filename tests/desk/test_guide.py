"""The guide: its examples come to what it says, by the textbook too, and open for whoever asks."""

import re
from typing import Any

from django.contrib.auth.models import User

from zephyrant.desk.guide import JOBS

from .desk import Desk


def _payment(
    amount: float, rate: float, count: int, left: float = 0, advance: bool = False
) -> float:
    """The level payment, by the annuity formula."""
    growth = (1 + rate) ** count
    paid = (amount * growth - left) * rate / (growth - 1)
    return paid / (1 + rate) if advance else paid


#: What the examples come to, worked here.
BY_HAND = {
    "payment": _payment(43_700, 0.054 / 12, 48),
    "true-cost": _payment(128_400, 0.0585 / 12, 108),
    "how-often": _payment(62_400, 0.059 / 4, 24),
    "interest-of": _payment(148_600, 0.057 / 12, 264),
    "in-advance": _payment(22_300, 0.074 / 12, 36, advance=True),
    "purchase": _payment(186_000 * 0.78, 0.0515 / 12, 144, 31_500),
    "what-moves-it": _payment(74_200, 0.06375 / 12, 120),
    "paying-more": _payment(71_500, 0.063 / 12, 240),
    "owed-at": _payment(104_000, 0.0645 / 12, 180),
    "early-end": _payment(64_000, 0.072 / 12, 72),
    "committee": _payment(52_900, 0.0615 / 12, 60),
    "side-by-side": _payment(48_250, 1.03175 ** (1 / 6) - 1, 60),
    "capacity": 735 * (1 - (1 + 0.069 / 12) ** -84) / (0.069 / 12),
    "put-aside": 2_350 * (1 + 0.032 / 12) ** 96 + 85 * ((1 + 0.032 / 12) ** 96 - 1) / (0.032 / 12),
    "rates-in-turn": ((96_300 * 1.071 - 21_000) * 1.064 - 38_500) * 1.069,
}


class Guide(Desk):
    def _open(self, name: str) -> str:
        opened = self.send("POST", f"guide/{name}")
        self.assertEqual(opened.status_code, 201, name)
        return str(opened.json()["to"])

    def _worked(self, to: str) -> dict[str, Any]:
        case = re.search(r"/cases/([^?]+)", to)
        assert case is not None
        opened = self.client.get(f"/api/v1/cases/{case[1]}").json()
        return dict(self.send("POST", "work", opened["statement"]).json())

    def _come_to(self) -> dict[str, str]:
        told = {job["name"]: job for job in self.client.get("/api/v1/guide").json()}
        found = {}
        for name, job in JOBS.items():
            if job.opens in ("case", "flows"):
                answer, shown = self._worked(self._open(name)), told[name]["answer"]
                value = answer["told"]["value"]
                self.assertEqual(
                    f"{answer['answer']['asks']} {value} {answer['answer']['unit']}"[: len(shown)],
                    shown,
                )
                found[name] = value
        return found

    def test_every_example_comes_to_what_is_said(self) -> None:
        found = self._come_to()
        # What is put aside bears interest to the cent each month.
        for name, value in BY_HAND.items():
            self.assertAlmostEqual(float(found[name].replace(",", "")), value, delta=0.05, msg=name)
        # By pyxirr, days over 365: 11.2967923 %.
        self.assertEqual(found["flows"], "11.296792")

    def test_in_the_marks_of_the_reader(self) -> None:
        self.send("PUT", "me", {"marks": "point-comma"})
        self.assertEqual(self._come_to()["payment"], "1.014,32")

    def test_a_rate_by_hand(self) -> None:
        rate = 0.13923769 / 12
        self.assertAlmostEqual(_payment(86_500, rate, 24), 4_150, delta=0.001)
        rate = 0.09088098 / 12
        self.assertAlmostEqual(_payment(296_000, rate, 96), 4_350, delta=0.001)
        rate = 0.07057933 / 12
        self.assertAlmostEqual(_payment(24_900, rate, 36, advance=True), 765, delta=0.001)

    def test_figures_in_the_steps_by_hand(self) -> None:
        price = 1_150 * (1 - (1 + 0.0515 / 12) ** -144) / (0.0515 / 12)
        price = (price + 31_500 * (1 + 0.0515 / 12) ** -144) / 0.78
        for name, figure in (
            ("payment", _payment(43_700, 0.054 / 12, 48, 8_000)),
            ("round-payment", _payment(45_800, 0.066 / 12, 72)),
            ("purchase", price),
        ):
            job = JOBS[name]
            self.assertIn(f"{{{figure:.2f}}}", f"{job.when} {' '.join(job.steps)}", name)

    def test_what_is_no_loan_opens_too(self) -> None:
        quotes = self._open("quotes").rpartition("/")[2]
        content = self.client.get(f"/api/v1/quote-lists/{quotes}").json()["content"]
        self.assertEqual(len(content["quotes"]), 3)
        table = self._open("table").rpartition("/")[2]
        opened = self.client.get(f"/api/v1/tables/{table}").json()
        self.assertEqual(opened["rows"], 5)

    def test_an_example_is_one_s_own(self) -> None:
        to = self._open("payment").rpartition("/")[2]
        self.client.force_login(User.objects.create_user("odo"))
        self.assertEqual(self.client.get(f"/api/v1/cases/{to}").status_code, 404)

    def test_no_such_job(self) -> None:
        self.assertEqual(self.send("POST", "guide/nothing").status_code, 404)

    def test_the_words_are_told(self) -> None:
        terms = self.client.get("/api/v1/glossary").json()
        self.assertIn("balloon", [term["name"] for term in terms])
