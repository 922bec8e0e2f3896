"""Days as whoever reads them writes them: held against Babel's own writing of Unicode CLDR."""

from datetime import date, timedelta

from babel import Locale, localedata
from babel.dates import format_date
from babel.numbers import format_currency
from django.test import SimpleTestCase

from zephyrant import loans
from zephyrant.loans.calendars.days_in_words import PLAIN_DAYS, day_form, read_days, write_day
from zephyrant.loans.questions import owed
from zephyrant.loans.statement import restate, work
from zephyrant.outlets.told import tell
from zephyrant.texts import ENGLISH, Reading, read_as

from .documents import document

#: A day of each month, of one digit and of two, and one of a year before 1000.
DAYS = [date(2027, month, 1 + month * 2) for month in range(1, 13)] + [date(987, 3, 1)]
ENGLISH_SPOKEN = [
    name[3:]
    for name in localedata.locale_identifiers()
    if name.startswith("en_") and len(name) == 5
]


class AsTheReaderWrites(SimpleTestCase):
    def test_as_babel_writes_them(self) -> None:
        read = [("en", country) for country in ENGLISH_SPOKEN]
        read += [("de", "DE"), ("fr", "FR"), ("sv", "SE"), ("hu", "HU"), ("pt", "BR"), ("ja", "JP")]
        for language, country in read:
            place = Locale.parse(f"{language}_{country}")
            with read_as(Reading(language, country)):
                for day in DAYS[:12]:
                    self.assertEqual(write_day(day), format_date(day, "medium", place), place)

    def test_what_is_written_is_read_by_everyone(self) -> None:
        """A case typed by one analyst is opened by another: its days mean the same to both."""
        for country in ENGLISH_SPOKEN:
            with read_as(Reading("en", country)):
                written = {write_day(day): day for day in DAYS}
            for text, day in written.items():
                self.assertEqual(read_days(text)[0], day, f"{country}: {text}")

    def test_where_nobody_says_who_reads(self) -> None:
        self.assertEqual(write_day(date(2027, 3, 1)), "1 Mar 2027")
        self.assertIs(day_form(), PLAIN_DAYS)
        with read_as(ENGLISH):
            self.assertEqual(write_day(date(987, 9, 13)), "13 Sep 0987")

    def test_of_a_country_without_an_english_of_its_own(self) -> None:
        # English as Unicode CLDR gives it for the world at large (en_001).
        with read_as(Reading("en", "FR")):
            self.assertEqual(write_day(date(2027, 9, 13)), "13 Sept 2027")
        with read_as(Reading("en", "QQ")):
            self.assertEqual(write_day(date(2027, 3, 1)), "1 Mar 2027")

    def test_errors_and_lines(self) -> None:
        dated = document(start="2027-03-15", count=24)
        with read_as(Reading("en", "US")):
            with self.assertRaises(loans.NotALoan) as refused:
                owed(loans.check(dated), "Jan 5, 2040", loans.PLAIN)
            self.assertIn("Jan 5, 2040 lies outside the loan", refused.exception.errors[0].message)
            # A loan as a line is the grammar's own English, whoever reads it.
            said = loans.terms_in_words(loans.check(dated), loans.PLAIN)
            self.assertIn(" on 15 Mar 2027 ", said)

    def test_every_day_of_a_year(self) -> None:
        with read_as(Reading("en", "US")):
            for number in range(0, 366, 5):
                day = date(2028, 1, 1) + timedelta(number)
                self.assertEqual(read_days(write_day(day)), [day])


class CodesOfCurrencies(SimpleTestCase):
    def test_where_babel_puts_them(self) -> None:
        """Held against amounts that Babel writes with the code in place of the sign."""
        for language, country in (
            *(("en", country) for country in ENGLISH_SPOKEN),
            *(("de", "DE"), ("sv", "SE"), ("nl", "NL"), ("pt", "BR"), ("fr", "CA"), ("de", "AT")),
        ):
            place = Locale.parse(f"{language}_{country}")
            theirs = format_currency(1, "EUR", locale=place)
            first = not theirs[0].isdigit()
            with read_as(Reading(language, country)):
                ours = loans.with_unit("938.82", "EUR")
            self.assertEqual(ours, "EUR 938.82" if first else "938.82 EUR", place)

    def test_after_the_amount_where_nobody_says_who_reads(self) -> None:
        self.assertEqual(loans.with_unit("938.82", "EUR"), "938.82 EUR")

    def test_what_is_no_currency_stands_after_its_figure(self) -> None:
        with read_as(Reading("en", "US")):
            self.assertEqual(loans.with_unit("6.35", "% a year"), "6.35 % a year")
            self.assertEqual(loans.with_unit("60", "monthly payments"), "60 monthly payments")

    def test_in_the_answer_told(self) -> None:
        loan = loans.check(document(payment="?"))
        for country, said in (("GB", "is EUR 938.82."), ("DE", "is 938.82 EUR.")):
            with read_as(Reading("en", country)):
                answer = loans.solve(loan)
                told = tell(loan, answer, loans.PLAIN)
                found = work(restate(loan, "plain")).told
            assert found is not None
            self.assertIn(said, found.said)
            texts = [text for text, _ in told.figure]
            self.assertEqual(texts, sorted(texts, reverse=country == "GB"))
