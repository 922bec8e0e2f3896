"""Texts in the reader's language: what a file of a language may be, and what it may not do."""

import gettext
import io
import tempfile
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from decimal import Decimal
from pathlib import Path
from unittest import TestCase

from babel.messages.catalog import Catalog
from babel.messages.mofile import write_mo
from babel.messages.pofile import read_po
from hypothesis import given
from hypothesis import strategies as st

from tests import made_up
from zephyrant import loans, texts
from zephyrant.loans.calendars import frequencies
from zephyrant.loans.statement.typed_times import time_text
from zephyrant.texts import ENGLISH, Reading, read_as, read_throughout, translations, worded

HEAD = 'msgid ""\nmsgstr ""\n"Content-Type: text/plain; charset=utf-8\\n"\n'
#: As the gettext manual has it ("Plural forms", families of languages).
POLISH = "nplurals=3; plural=(n==1 ? 0 : n%10>=2 && n%10<=4 && (n%100<10 || n%100>=20) ? 1 : 2);"


@contextmanager
def language(code: str, content: str | bytes) -> Iterator[Path]:
    """A language of this content, as long as the block runs."""
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        file = folder / f"{code}.po"
        file.write_bytes(content.encode() if isinstance(content, str) else content)
        texts.look_in(folder)
        try:
            yield file
        finally:
            translations._folders.remove(folder)
            texts.languages.cache_clear()
            translations._kept.cache_clear()


def said(**pairs: str) -> str:
    return HEAD + "".join(f'\nmsgid "{one}"\nmsgstr "{other}"\n' for one, other in pairs.items())


class OneText(TestCase):
    def test_english_is_what_stands_there(self) -> None:
        self.assertEqual(worded("Paid at {place}.", place=3), "Paid at 3.")
        self.assertEqual(worded("Paid at {place}."), "Paid at {place}.")
        # What stands in a place is not read again.
        self.assertEqual(worded("{one} and {two}", one="{two}", two="{one}"), "{two} and {one}")

    def test_in_another_language(self) -> None:
        content = said(**{"Paid at {place}.": "{place}: betald.", "on the rest": "på resten"})
        with language("sv", content), read_as(Reading("sv")):
            self.assertEqual(worded("Paid at {place}.", place=3), "3: betald.")
            # Space around a text is no part of it.
            self.assertEqual(worded(" on the rest"), " på resten")
            self.assertEqual(worded("Not translated."), "Not translated.")
        self.assertEqual(worded("Paid at {place}.", place=3), "Paid at 3.")

    def test_what_a_file_gets_wrong_is_said_in_english(self) -> None:
        wrong = (
            said(**{"Paid at {place}.": "Betald {plats}."}),
            said(**{"Paid at {place}.": ""}),
            HEAD + '\n#, fuzzy\nmsgid "Paid at {place}."\nmsgstr "Betald {place}."\n',
            b"\xff\xfe nothing of the kind",
            "",
            HEAD + '\nmsgid "Paid',
        )
        for content in wrong:
            with language("sv", content), read_as(Reading("sv")):
                self.assertEqual(worded("Paid at {place}.", place=3), "Paid at 3.", content)

    def test_a_place_may_be_left_out(self) -> None:
        with language("sv", said(**{"{noun}s of {year}": "år {year}"})), read_as(Reading("sv")):
            self.assertEqual(worded("{noun}s of {year}", noun="day", year=2027), "år 2027")

    def test_files_that_are_none(self) -> None:
        for code in ("notes", "en", "x", "zz_ZZ_zz", "sv.backup"):
            with language(code, said(a="b")):
                self.assertNotIn(code, texts.languages())
                self.assertIsNone(texts.translation(code))

    @given(st.text(), st.text(max_size=30))
    def test_any_text_at_all(self, text: str, value: str) -> None:
        self.assertEqual(worded(text), text)
        with read_as(Reading("qq")):
            self.assertEqual(worded(text), text)
        self.assertEqual(worded("a {value}", value=value), f"a {value}")


class Counting(TestCase):
    def test_forms_are_those_of_gettext(self) -> None:
        """Held against Python's own gettext, which reads the same file compiled by Babel."""
        ids = ("{count} day", "{count} days")
        catalog = Catalog(locale="pl")
        polish = ("{count} dzień", "{count} dni", "{count} dnia")
        catalog.add(ids, polish)
        compiled = io.BytesIO()
        write_mo(compiled, catalog)
        compiled.seek(0)
        theirs = gettext.GNUTranslations(compiled)
        forms = "".join(f'msgstr[{place}] "{text}"\n' for place, text in enumerate(polish))
        content = (
            HEAD
            + f'"Plural-Forms: {POLISH}\\n"\n\nmsgid "{ids[0]}"\nmsgid_plural "{ids[1]}"\n{forms}'
        )
        with language("pl", content), read_as(Reading("pl")):
            for number in range(130):
                ours = texts.counted(*ids, number, count=number)
                self.assertEqual(ours, theirs.ngettext(*ids, number).format(count=number), number)

    def test_in_english(self) -> None:
        for number, text in ((0, "0 days"), (1, "1 day"), (2, "2 days")):
            told = texts.counted("{count} day", "{count} days", number, count=number)
            self.assertEqual(told, text)


class WhoReads(TestCase):
    def test_each_thread_its_own(self) -> None:
        content = said(paid="betald")
        found: dict[str, str] = {}
        ready = threading.Barrier(2)

        def say(name: str, reader: Reading) -> None:
            with read_as(reader):
                ready.wait(10)
                found[name] = worded("paid")

        with language("sv", content):
            readers = (("one", Reading("sv")), ("other", ENGLISH))
            threads = [threading.Thread(target=say, args=each) for each in readers]
            for each in threads:
                each.start()
            for each in threads:
                each.join()
        self.assertEqual(found, {"one": "betald", "other": "paid"})

    def test_parts_that_are_taken_later(self) -> None:
        with language("sv", said(paid="betald")):
            with read_as(Reading("sv")):
                parts = read_throughout(worded("paid") for _ in range(2))
            # Who takes them reads something else meanwhile.
            self.assertEqual([(part, worded("paid")) for part in parts], [("betald", "paid")] * 2)

    def test_what_is_kept_is_kept_for_each(self) -> None:
        """A loan worked for one reader is not told to another in his language."""
        document = {
            **{"zephyrant": "loan/1", "name": "", "currency": "EUR", "principal": "1000"},
            **{"rate": {"percent": "5"}, "count": "?", "every": "month", "payment": "2"},
            "balance": "0",
        }
        loan = loans.check(document)
        english = loans.solve(loan).reason or ""
        with tempfile.TemporaryDirectory() as folder:
            made = made_up.lay(Path(folder)).read_bytes()
        with language("sv", made), read_as(Reading("sv")):
            told = loans.solve(loan).reason or ""
        self.assertIn("never repays", english)
        self.assertTrue(told.startswith("⟦"), told)
        self.assertEqual(loans.solve(loan).reason, english)


class TheCatalogue(TestCase):
    def setUp(self) -> None:
        with made_up.CATALOGUE.open("rb") as opened:
            self.catalogue = read_po(opened)

    def test_it_holds_what_is_said_everywhere(self) -> None:
        for text in (
            "Enter the demo desk",
            "A deleted case or list of quotes stays here for thirty days. {link}",
            "Nothing is stated here. Write the day it is to end on.",
            "Still owed at the end",
            "a year, nominal, {compounded}",
            "Further lent and fees",
        ):
            self.assertIn(text, self.catalogue)
        self.assertGreater(len(self.catalogue), 1_500)

    def test_translations_that_are_there_keep_to_it(self) -> None:
        """Babel's own check of places in braces, and no text that is gone."""
        for code, file in texts.languages().items():
            with file.open("rb") as opened:
                said = read_po(opened, locale=code)
            self.assertEqual(list(said.check()), [], code)
            self.assertEqual([each.id for each in said if each.id not in self.catalogue], [], code)

    def test_lines_are_english_whoever_reads(self) -> None:
        """What is typed is read by one grammar: what is put into a field can be read back."""
        with tempfile.TemporaryDirectory() as folder:
            made = made_up.lay(Path(folder)).read_bytes()
        with language("sv", made), read_as(Reading("sv")):
            self.assertTrue(frequencies.term(18, "month").startswith("⟦"))
            self.assertEqual(time_text(Decimal(90), "day", loans.PLAIN), "90 days")
            loan = loans.check(
                {
                    **{"zephyrant": "loan/1", "name": "", "currency": "EUR", "principal": "1000"},
                    **{"rate": {"percent": "5"}, "count": 60, "every": "month", "payment": "?"},
                    "balance": "0",
                }
            )
            line = loans.terms_in_words(loan, loans.PLAIN)
            self.assertNotIn("⟦", line)
            self.assertIn("repaid by 60 monthly payments", line)
