"""How files are made for an analyst: paper and days of their country, CSV as they want it. Read
back by pypdf, openpyxl and Python's csv."""

import csv
import io
from typing import Any

import openpyxl
import pypdf
from django.contrib.auth.models import User
from django.http import HttpRequest

from tests.loans.documents import document
from zephyrant import loans
from zephyrant.desk import files, jobs
from zephyrant.desk.files import countries, country_of, day_of

from .desk import Desk

#: In points, an inch having 72: A4 is 210 by 297 mm (ISO 216), Letter 8.5 by 11 in (ANSI).
A4, LETTER = (595, 842), (612, 792)
DATED = document(start="2027-03-15", count=24)


class Made(Desk):
    def setUp(self) -> None:
        super().setUp()
        self.analyst.first_name, self.analyst.last_name = "Ilse", "Brandt"
        self.analyst.save()
        self.case = self.send("POST", "cases/from-document", DATED).json()["id"]

    def choose(self, **chosen: Any) -> Any:
        return self.send("PUT", "me/files", chosen)

    def taken(self, path: str, method: str = "GET", sent: Any = None) -> bytes:
        answer = self.send(method, path, sent)
        content: bytes = answer.getvalue()
        self.assertEqual(answer.status_code, 200, content[:300])
        return content

    def pdf(self, path: str = "") -> pypdf.PdfReader:
        content = self.taken(path or f"cases/{self.case}/statement")
        return pypdf.PdfReader(io.BytesIO(content))


class Pages(Made):
    def size(self, path: str = "") -> tuple[int, int]:
        box = self.pdf(path).pages[0].mediabox
        return round(box.width), round(box.height)

    def test_paper_of_the_country(self) -> None:
        self.assertEqual(self.size(), A4)
        for country, size in (("US", LETTER), ("CA", LETTER), ("SE", A4), ("IN", A4)):
            self.assertEqual(self.choose(country=country).status_code, 200)
            self.assertEqual(self.size(), size, country)
        # Side by side lies on its side.
        self.choose(country="US")
        across = self.size(f"cases/{self.case}/side-by-side/file")
        self.assertEqual(across, LETTER[::-1])

    def test_choices_that_come_at_once(self) -> None:
        """A request that began before another was kept does not take it back."""
        began = User.objects.get(pk=self.analyst.pk)
        self.assertEqual(files.how_files(began).separator, "comma")
        self.choose(separator="semicolon", country="SE")
        files.choose(began, files.HowFiles(decimal="comma"))
        now = files.how_files(User.objects.get(pk=self.analyst.pk))
        self.assertEqual((now.separator, now.country, now.decimal), ("semicolon", "SE", "comma"))

    def test_as_the_browser_says_where_nothing_is_chosen(self) -> None:
        path = f"/api/v1/cases/{self.case}/statement"
        for said, size in (
            ("en-US,en;q=0.9", LETTER),
            ("de-AT", A4),
            ("zh-Hant-TW", A4),
            ("es-MX;q=0.8", LETTER),
            ("en", A4),
            ("", A4),
            ("x" * 4_000, A4),
        ):
            answer = self.client.get(path, headers={"accept-language": said})
            box = pypdf.PdfReader(io.BytesIO(answer.content)).pages[0].mediabox
            self.assertEqual((round(box.width), round(box.height)), size, said[:20])
        self.choose(country="SE")
        answer = self.client.get(path, headers={"accept-language": "en-US"})
        box = pypdf.PdfReader(io.BytesIO(answer.content)).pages[0].mediabox
        self.assertEqual(round(box.width), A4[0])

    def test_what_a_pdf_tells_of_itself(self) -> None:
        pdf = self.pdf()
        told = pdf.metadata
        assert told is not None
        self.assertEqual((told.title, told.author), ("Cider press", "Ilse Brandt"))
        self.assertEqual(told.creator, loans.ENGINE)
        self.assertIn("48,250.00 EUR", str(told.subject))
        root: Any = pdf.trailer["/Root"]
        self.assertEqual(root["/Lang"], "en")
        outline: Any = pdf.outline
        title, headings = outline
        self.assertEqual(title.title, "Cider press")
        self.assertEqual(
            [each.title for each in headings], ["The line", "Year by year", "The schedule"]
        )
        # Each leads to the page on which its heading stands.
        for each in headings:
            page = pdf.pages[pdf.get_destination_page_number(each) or 0]
            self.assertIn(each.title, page.extract_text())


class Workbooks(Made):
    def book(self, path: str) -> openpyxl.Workbook:
        return openpyxl.load_workbook(io.BytesIO(self.taken(path)))

    def test_days_and_paper_of_the_country(self) -> None:
        """Paper 1 is Letter, 9 A4 (ECMA-376, 18.3.1.63); days as CLDR's medium form has them."""
        for country, day, paper in (
            ("US", "mmm d, yyyy", "1"),
            ("DE", "dd.mm.yyyy", "9"),
            ("GB", "d mmm yyyy", "9"),
            ("SE", "d mmm yyyy", "9"),
            ("HU", "yyyy. mmm d.", "9"),
            # Words stand in the medium forms of these.
            ("BR", "dd/mm/yyyy", "9"),
            ("CN", "yyyy/m/d", "9"),
        ):
            self.choose(country=country)
            book = self.book(f"cases/{self.case}/schedule?kind=xlsx")
            sheet = book["Schedule"]
            self.assertEqual(sheet["B2"].number_format, day, country)
            self.assertEqual(str(sheet.page_setup.paperSize), paper, country)
            self.assertEqual(book.properties.creator, "Ilse Brandt")
        side = self.book(f"cases/{self.case}/side-by-side/file?kind=xlsx")
        self.assertEqual(side["Side by side"].freeze_panes, "B2")

    def test_a_table_too(self) -> None:
        self.choose(country="US")
        text = "Loan,Amount,Rate,Payments,Payment\nKiln,48250,6.35,60,?\n"
        table = self.send("POST", "tables/from-text", {"text": text}).json()
        self.send(
            "PUT", f"tables/{table['id']}/matching", {"columns": table["columns"], "defaults": {}}
        )
        while (job := jobs.take_up()) is not None:
            jobs.work_on(job)
        sheet = self.book(f"tables/{table['id']}/file?kind=xlsx")["Loans"]
        self.assertEqual(str(sheet.page_setup.paperSize), "1")
        told = self.taken(f"tables/{table['id']}/file?separator=semicolon&decimal=comma").decode()
        self.assertTrue(told.startswith("\ufeffRow;Loan;"))
        head, row = csv.reader(io.StringIO(told.removeprefix("\ufeff")), delimiter=";")
        cells = dict(zip(head, row, strict=True))
        # What is the file's own stays as it was.
        told_of = [cells[name] for name in ("Rate", "percent", "found")]
        self.assertEqual(told_of, ["6.35", "6,3500000000", "940,68"])


class Csv(Made):
    def rows(self, path: str, mark: str, **sent: Any) -> list[list[str]]:
        text = self.taken(path, **sent).decode()
        return list(csv.reader(io.StringIO(text.removeprefix("\ufeff")), delimiter=mark))

    def test_as_it_is_asked_for_and_as_it_was_chosen(self) -> None:
        answer = loans.solve(loans.check(DATED))
        path = f"cases/{self.case}/schedule?kind=csv"
        first = answer.schedule[0]
        expected = [str(first["number"]), str(first["date"]), first["opening"], first["interest"]]
        self.assertEqual(self.rows(path, ",")[1][:4], expected)
        self.assertTrue(self.taken(path).startswith(b"\xef\xbb\xbf"))
        self.assertFalse(self.taken(f"{path}&bom=false").startswith(b"\xef\xbb\xbf"))
        with_commas = [cell.replace(".", ",") for cell in expected]
        asked = f"{path}&separator=semicolon&decimal=comma"
        self.assertEqual(self.rows(asked, ";")[1][:4], with_commas)
        self.assertEqual(self.rows(f"{path}&separator=tab", "\t")[1][:4], expected)
        # Chosen, it holds for every file; asked for, for one.
        self.choose(separator="semicolon", decimal="comma")
        # What is not said stays as it is.
        self.choose(bom=False)
        self.assertEqual(self.rows(path, ";")[1][:4], with_commas)
        self.assertEqual(self.rows(f"{path}&separator=comma&decimal=point", ",")[1][:4], expected)
        self.assertFalse(self.taken(path).startswith(b"\xef\xbb\xbf"))
        sent = {"method": "POST", "sent": DATED}
        self.assertEqual(self.rows("solve/schedule", ";", **sent)[1][:4], with_commas)
        listed = self.rows("cases/file?kind=csv", ";")
        told = dict(zip(*listed, strict=True))
        self.assertEqual((told["name"], told["rate"]), ("Cider press", "6,35"))
        quotes = {"name": "Two", "quotes": [{"name": "Mill", "percent": "6.35"}]}
        kept = self.send("POST", "quote-lists", quotes).json()
        lines = self.rows(f"quote-lists/{kept['id']}/file", ";")
        self.assertEqual(lines[1][:2], ["Mill", "6,35"])
        side = self.rows(f"cases/{self.case}/side-by-side/file?kind=csv", ";")
        assert answer.totals
        interest = answer.totals["interest"].replace(".", ",")
        self.assertIn(interest, [cell for row in side for cell in row])

    def test_what_cannot_be(self) -> None:
        for wrong, field in (
            ({"country": "XX"}, "country"),
            ({"country": "Sweden"}, "country"),
            ({"separator": "dot"}, "separator"),
            ({"decimal": ","}, "decimal"),
            ({"bom": "perhaps"}, "bom"),
        ):
            refused = self.choose(**wrong)
            self.assertEqual(refused.status_code, 422)
            (error,) = refused.json()["errors"]
            self.assertEqual(error["field"], field)
            if field == "country":
                self.assertEqual(error["message"], "There is no country of this code.")
        refused = self.send("GET", f"cases/{self.case}/schedule?separator=dot")
        self.assertEqual(refused.status_code, 422)

    def test_what_can_be_chosen(self) -> None:
        told = self.send("GET", "me/files/choices").json()
        named = {each["value"]: each["label"] for each in told["countries"]}
        called = [named[code] for code in ("SE", "IN", "US")]
        self.assertEqual(called, ["Sweden", "India", "United States"])
        self.assertEqual(told["browser"], None)
        self.assertEqual(self.send("GET", "me").json()["files"]["separator"], "comma")


class Countries(Desk):
    def test_every_one_has_its_days(self) -> None:
        for code in countries():
            self.assertRegex(day_of(code), r"^[dmy ./,-]+$", code)
        self.assertEqual(day_of(None), "d mmm yyyy")

    def test_a_browser_that_names_none(self) -> None:
        request = HttpRequest()
        self.assertIsNone(country_of(request))
        request.META["HTTP_ACCEPT_LANGUAGE"] = "en-ZZ"
        self.assertIsNone(country_of(request))
        self.assertIsNone(files.how_files(self.analyst).country)
