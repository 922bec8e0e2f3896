"""The desk in another language: a file beside the data is all it takes."""

import io
import re
import tempfile
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import openpyxl
import pypdf
from django.conf import settings

from tests import made_up
from tests.loans.documents import document
from zephyrant import texts
from zephyrant.desk import jobs
from zephyrant.texts import translations

from .desk import Desk

#: What names things for programs, or stands as it was typed or is called everywhere.
NAMES = re.compile(
    r"\.(name|value|code|marks|group|path|entry|field|unknown|quoted|compounding|every|timing|kind"
    r"|kinds|counts|currency|unit|taken|payment|interest|overpaid|usual_time|months|text|line|id"
    r"|about|formula|numbers|figure|username|state|shown|file|request|begins|engine|noun_in_english)(\[\])?$"
)


def strings(value: Any, path: str = "") -> Iterator[tuple[str, str]]:
    """Every text in an answer of the API, with where it stands."""
    if isinstance(value, dict):
        for name, inner in value.items():
            yield from strings(inner, f"{path}.{name}")
    elif isinstance(value, list):
        for inner in value:
            yield from strings(inner, f"{path}[]")
    elif isinstance(value, str):
        yield path, value


class Spoken(Desk):
    """A desk at which a made-up language is spoken."""

    def setUp(self) -> None:
        super().setUp()
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        made_up.lay(Path(folder.name))
        texts.look_in(Path(folder.name))
        self.addCleanup(self._forget, Path(folder.name))
        self.client.defaults["HTTP_ACCEPT_LANGUAGE"] = "sv-SE,sv;q=0.9,en;q=0.8"

    def _forget(self, folder: Path) -> None:
        translations._folders.remove(folder)
        texts.languages.cache_clear()
        translations._kept.cache_clear()

    def worded(self, told: Any) -> None:
        """Nothing in an answer is said in English."""
        for path, text in strings(told):
            if not NAMES.search(path):
                told = [each for each in made_up.outside(text) if each != "EUR"]
                self.assertEqual(told, [], path)


class InItsLanguage(Spoken):
    def test_words_and_guide(self) -> None:
        words = self.send("GET", "words").json()
        self.worded(
            {name: told for name, told in words.items() if name not in ("currencies", "days")}
        )
        self.assertEqual(words["months"][2], "mars")
        self.assertEqual(words["days"]["months"][2], "mars")
        self.worded(self.send("GET", "glossary").json())
        self.worded([{**job, "line": ""} for job in self.send("GET", "guide").json()])

    def test_an_answer(self) -> None:
        case = self.start(start="15 Mar 2027")
        worked = self.send("POST", "work", case["statement"]).json()
        answer = worked["answer"]
        self.assertTrue(answer["asks"].startswith("⟦"), answer["asks"])
        self.worded([answer["proof"], answer["working"], answer["notes"], worked["told"]["facts"]])
        self.assertEqual(worked["readings"]["start"]["text"], "15 mars 2027")
        # A day typed in that language is read by everyone on this desk.
        english = self.client_class(HTTP_ACCEPT_LANGUAGE="en-GB")
        english.force_login(self.analyst)
        asked = {**case["statement"], "start": "15 mars 2027"}
        read = self.send("POST", "work", asked, client=english).json()["readings"]["start"]
        self.assertEqual((read["value"], read["text"]), ("2027-03-15", "15 Mar 2027"))

    def test_what_is_wrong(self) -> None:
        refused = self.send("POST", "solve", document(principal="much", count=-3)).json()
        self.assertEqual(len(refused["errors"]), 2)
        self.worded([each["message"] for each in refused["errors"]])
        gone = self.send("GET", "cases/00000000-0000-0000-0000-000000000000").json()
        self.worded([each["message"] for each in gone["errors"]])

    def test_of_heavy_work_too(self) -> None:
        """A table is worked in turns by another process, an aim apart."""
        pasted = {"name": "Kilns", "text": "name;amount;rate;payments;payment\nKiln;17840;6.9;48;?"}
        table = self.send("POST", "tables/from-text", pasted).json()
        matched = {"columns": table["columns"], "defaults": table["defaults"]}
        self.assertEqual(
            self.send("PUT", f"tables/{table['id']}/matching", matched).status_code, 200
        )
        while (waiting := jobs.take_up()) is not None:
            jobs.work_on(waiting)
        told = self.send("GET", f"tables/{table['id']}").json()
        self.assertEqual(told["state"], "done")
        self.worded([told["says"], told["told"]])

    def test_files(self) -> None:
        case = self.start()["id"]
        content = self.client.get(f"/api/v1/cases/{case}/statement").content
        text = "\n".join(page.extract_text() for page in pypdf.PdfReader(io.BytesIO(content)).pages)
        for english in ("Total interest", "Year by year", "Lent"):
            self.assertNotRegex(text, rf"(?m)^{english}")
        content = self.client.get(f"/api/v1/cases/{case}/schedule?kind=xlsx").content
        book = openpyxl.load_workbook(io.BytesIO(content))
        heads = [str(cell.value) for sheet in book for cell in sheet[1] if cell.value]
        self.assertTrue(any(head.startswith("⟦") for head in heads), heads)


class WhoChooses(Spoken):
    def test_the_browser_else_the_analyst(self) -> None:
        def title(language: str) -> str:
            told = self.client.get("/api/v1/words", headers={"accept-language": language}).json()
            return str(told["entries"]["principal"]["title"])

        self.assertEqual(title("sv"), "⟦Amount lent⟧")
        self.assertEqual(title("sv-FI"), "⟦Amount lent⟧")
        for language in ("en-GB,sv", "de", "", "x" * 9_000, "*", ",;q=,sv;q=x,,"[:3]):
            self.assertEqual(title(language), "Amount lent", language[:20])
        self.assertEqual(self.send("PUT", "me/files", {"language": "sv"}).status_code, 200)
        self.assertEqual(title("en-GB"), "⟦Amount lent⟧")
        self.assertEqual(self.send("PUT", "me/files", {"language": "en"}).status_code, 200)
        self.assertEqual(title("sv"), "Amount lent")
        refused = self.send("PUT", "me/files", {"language": "de"})
        self.assertEqual(refused.status_code, 422)
        self.assertEqual(refused.json()["errors"][0]["field"], "language")

    def test_of_a_country(self) -> None:
        """Brazil's Portuguese is not that of all: its file and its name in a browser differ."""
        folder = texts.looked_in()[-1]
        (folder / "sv.po").rename(folder / "pt_BR.po")
        texts.languages.cache_clear()
        translations._kept.cache_clear()
        page = self.client.get("/", headers={"accept-language": "pt-BR,pt;q=0.8"}).content.decode()
        self.assertIn('<html lang="pt-BR">', page)
        address = re.search(r"/texts/pt_BR-[0-9a-f]{12}[.]js", page)
        assert address is not None
        self.assertEqual(self.client.get(address[0]).status_code, 200)
        page = self.client.get("/", headers={"accept-language": "pt-PT"}).content.decode()
        self.assertIn('<html lang="en">', page)

    def test_what_can_be_chosen(self) -> None:
        told = self.send("GET", "me/files/choices").json()["languages"]
        self.assertEqual(
            told, [{"value": "en", "label": "English"}, {"value": "sv", "label": "Svenska"}]
        )

    def test_a_language_that_is_gone(self) -> None:
        self.send("PUT", "me/files", {"language": "sv", "country": "SE"})
        folder = texts.looked_in()[-1]
        (folder / "sv.po").unlink()
        texts.languages.cache_clear()
        translations._kept.cache_clear()
        me = self.send("GET", "me").json()
        self.assertEqual((me["files"]["language"], me["files"]["country"]), (None, "SE"))
        self.assertEqual(self.client.get("/").status_code, 200)

    def test_a_token_reads_as_its_owner(self) -> None:
        self.send("PUT", "me/files", {"language": "sv"})
        made = self.send("POST", "tokens", {"name": "Night", "may": ["compute"], "days": 7}).json()
        program = self.client_class(HTTP_AUTHORIZATION=f"Bearer {made['key']}")
        answer = self.send("POST", "solve", document(payment="?"), client=program).json()
        self.assertTrue(answer["asks"].startswith("⟦"), answer["asks"])


class ThePage(Spoken):
    def test_brings_its_texts(self) -> None:
        if not (settings.STATIC_ROOT / "index.html").exists():
            self.fail("the front end is not built: run make setup")
        page = self.client.get("/").content.decode()
        self.assertIn('<html lang="sv">', page)
        address = re.search(r'<script src="(/texts/sv-[0-9a-f]{12}\.js)"></script>', page)
        assert address is not None
        self.assertLess(page.index(address[0]), page.index('<script type="module"'))
        told = self.client.get(address[1])
        self.assertEqual(told.headers["Content-Type"], "text/javascript; charset=utf-8")
        self.assertIn("immutable", told.headers["Cache-Control"])
        self.assertIn(rb"\u27e6Enter the demo desk\u27e7", told.content)
        # What the screen does not say itself does not travel.
        self.assertNotIn(b"never repays", told.content)
        self.assertEqual(self.client.get("/texts/sv-000000000000.js").status_code, 404)
        self.assertEqual(self.client.get("/texts/de-000000000000.js").status_code, 404)

    def test_in_english_nothing_comes_before_it(self) -> None:
        page = self.client.get("/", headers={"accept-language": "en"}).content
        self.assertEqual(page, (settings.STATIC_ROOT / "index.html").read_bytes())
