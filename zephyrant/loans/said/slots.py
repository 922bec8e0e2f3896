"""What a phrase of a line is made of: numbers, amounts, percents, times, how often, days.

Each slot is a pattern; what stands in it is read by the readers of what people type.
"""

import re
from typing import Final

from ..calendars import frequencies
from ..calendars.days_in_words import MONTHS, month_named
from ..numbers.currencies import currencies
from ..statement.parsing import TIMES
from ..statement.typed_amounts import SIGNS

#: Numbers that people write as words.
WORDS: Final = {
    word: str(number)
    for number, word in enumerate(
        (
            *("one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten"),
            *("eleven", "twelve", "thirteen", "fourteen", "fifteen", "sixteen", "seventeen"),
            *("eighteen", "nineteen", "twenty"),
        ),
        1,
    )
} | {"thirty": "30", "forty": "40", "fifty": "50", "sixty": "60"}
#: Places in a row: "the second year".
ORDINALS: Final = {
    word: number
    for number, word in enumerate(
        (
            *("first", "second", "third", "fourth", "fifth", "sixth", "seventh", "eighth"),
            *("ninth", "tenth", "eleventh", "twelfth"),
        ),
        1,
    )
}

_HALVES: Final = "[¼-¾⅐-⅞]"
#: A number in figures: 48,250; 6 3/8; 4 ¼; 48 250. What is none of these the readers refuse.
FIGURES: Final = (
    rf"(?:[+−–-]?(?:[0-9]{{1,9}}[ -][0-9]{{1,9}}[/⁄][0-9]{{1,9}}|[0-9]{{1,9}}[/⁄][0-9]{{1,9}}"
    rf"|[0-9]{{1,9}}[ ]?{_HALVES}|{_HALVES}"
    r"|[0-9]{1,3}(?:[ \u00a0\u202f][0-9]{3}){1,5}(?![0-9])(?:[.,][0-9]{1,30})?"
    r"|[0-9]{1,40}(?:[.,'’_][0-9]{1,40}){0,12}|[.,][0-9]{1,30})(?![.,]?[0-9]))"
)
NUMBER: Final = rf"(?:\?|{FIGURES})"
#: A whole number: how many, or which payment.
INTEGER: Final = r"(?:[0-9]{1,6}(?![0-9.,/]?[0-9]))"
#: What is paid each time.
PAYMENTS: Final = "(?:payments?|instal?lments?)"
_SCALE: Final = rf"(?:\s?(?:{'|'.join(sorted(TIMES, key=len, reverse=True))})(?![a-z]))"
#: A currency code as it stands in a plain line: one character.
_CODES: Final = tuple(sorted(currencies()))
_FIRST_CODE: Final = 0xE100
_LAST_CODE: Final = _FIRST_CODE + len(_CODES) - 1
CURRENCY: Final = (
    rf"(?:[€$£¥{chr(_FIRST_CODE)}-{chr(_LAST_CODE)}]|(?:euros?|dollars?|pounds?)(?![a-z]))"
)
AMOUNT: Final = rf"(?:(?:{CURRENCY}\s?)?{NUMBER}{_SCALE}?(?:\s?{CURRENCY})?)"
PERCENT: Final = rf"(?:{NUMBER}\s?(?:%|percent\b|per\scent\b|pct\b|bps?\b|basis\spoints?\b))"

_UNITS: Final[dict[str, frequencies.FrequencyName]] = {
    r"years?|yrs?|annum|y": "year",
    r"half-?\s?years?|six\smonths|6\smonths": "half-year",
    r"quarters?|qtrs?|three\smonths|3\smonths": "quarter",
    r"(?:two|2)\smonths|(?:two|2)-month\speriods?": "two-months",
    r"months?|mths?|mos?": "month",
    r"half-?\s?months?": "half-month",
    r"(?:four|4)\sweeks|(?:four|4)-week\speriods?": "four-weeks",
    r"(?:two|2)\sweeks|(?:two|2)-week\speriods?|fortnights?": "two-weeks",
    r"weeks?|wks?": "week",
    r"days?": "day",
}
_ADVERBS: Final[dict[str, frequencies.FrequencyName]] = {
    r"yearly|annually": "year",
    r"half-?\s?yearly|semi-?annual(?:ly)?|twice\s(?:a|per)\syear": "half-year",
    r"quarterly": "quarter",
    r"(?:two|2)-?monthly|every\s(?:two|2)\smonths": "two-months",
    r"monthly": "month",
    r"twice-?\s?monthly|semi-?monthly|twice\s(?:a|per)\smonth": "half-month",
    r"(?:four|4)-?weekly|every\s(?:four|4)\sweeks": "four-weeks",
    r"(?:two|2)-?weekly|fortnightly|every\s(?:two|2)\sweeks": "two-weeks",
    r"weekly": "week",
    r"daily": "day",
}
_PERIOD: Final = "(?:" + "|".join(_UNITS) + ")(?![a-z-])"
ADVERB: Final = "(?:(?:" + "|".join(_ADVERBS) + rf")(?![a-z-])|{INTEGER}\stimes\s(?:a|per)\syear)"
#: After an amount or a rate: "a month", "per quarter", "each week", "p.a.", "p.m.".
EACH: Final = (
    rf"(?:(?:(?:(?:for\s)?each|an?|per|every)\s|/\s?){_PERIOD}|p\.?\s?[amq]\.?(?![a-z])|annual\b)"
)
PER: Final = rf"(?:{EACH}|{ADVERB})"
#: How often, without an amount: "quarterly", "every two months".
OFTEN: Final = rf"(?:(?:every|each|per)\s{_PERIOD}|{ADVERB})"

#: Units of a term as one types them; after "over" or "for" `m` is months, elsewhere a million.
_TERM_UNIT: Final = (
    r"(?:half-?\s?years?|years?|yrs?|y|quarters?|qtrs?|q|months?|mths?|mos?|weeks?|wks?|w|days?|d)"
    r"(?![a-z])"
)
_LONE_M: Final = r"|m(?![a-z])"
_TERM_NUMBER: Final = rf"(?:{FIGURES}(?:\sand\sa\shalf)?)"


def _term(first: str) -> str:
    unit = rf"(?:{_TERM_UNIT}{_LONE_M})"
    return rf"(?:{_TERM_NUMBER}[\s-]?{first}(?:(?:\sand\s|\s)?{_TERM_NUMBER}[\s-]?{unit}){{0,3}})"


#: A time that stands alone, and one after a word that says it is one.
TERM: Final = _term(_TERM_UNIT)
TERM_AFTER: Final = (
    rf"(?:{_term(rf'(?:{_TERM_UNIT}{_LONE_M})')}|an?\s(?:year|half-?\s?year|quarter|month)\b)"
)
#: A month's name as it stands in a plain line: one character.
_FIRST_MONTH: Final = 0xE001
_MONTH: Final = f"[{chr(_FIRST_MONTH)}-{chr(_FIRST_MONTH + 11)}]"
_MONTHS: Final = rf"(?:{_MONTH}(?:(?:\s?[-–]\s?|\sto\s){_MONTH})?)"
MONTH_LIST: Final = rf"(?:{_MONTHS}(?:(?:,\s|\sand\s|,\sand\s|\s){_MONTHS}){{0,11}})"
DAY: Final = (
    r"(?:[0-9]{4}-[0-9]{2}-[0-9]{2}"
    rf"|[0-9]{{1,2}}(?:st|nd|rd|th|\.)?[ -]?(?:of\s)?{_MONTH},?[ -][0-9]{{4}}"
    rf"|{_MONTH}\s[0-9]{{1,2}}(?:st|nd|rd|th)?,?\s[0-9]{{4}}"
    r"|[0-9]{1,2}/[0-9]{1,2}/[0-9]{4}|[0-9]{1,2}\.[0-9]{1,2}\.[0-9]{4})"
)

_SHORT: Final[dict[str, frequencies.FrequencyName]] = {"a": "year", "m": "month", "q": "quarter"}
_PERIOD_OF: Final = [
    (re.compile(pattern, re.IGNORECASE), name)
    for words in (_UNITS, _ADVERBS)
    for pattern, name in words.items()
]


def frequency(said: str) -> frequencies.Frequency:
    """How often, as it is said: "a month", "quarterly", "26 times a year"."""
    text = " ".join(said.split())
    text = re.sub(r"^(?:an?|per|(?:for )?each|every|/) ?(?=\w)", "", text, flags=re.IGNORECASE)
    if times := re.fullmatch(rf"({INTEGER}) times (?:a|per) year", text, re.IGNORECASE):
        return frequencies.named(int(times[1]))
    if short := re.fullmatch(r"p\.? ?([amq])\.?", text, re.IGNORECASE):
        return _SHORT[short[1].lower()]
    for pattern, name in _PERIOD_OF:
        if pattern.fullmatch(text):
            return name
    return "year"


def in_figures(said: str) -> str:
    """A time as it is read: "1 year" for "a year", "4 1/2 years" for "4 and a half years"."""
    text = re.sub(r"^an? ", "1 ", " ".join(said.split()), flags=re.IGNORECASE)
    return text.replace(" and a half", " 1/2")


def day_in(said: str) -> str:
    """A day with its month written out."""
    text = re.sub(r"\bof ", "", said, flags=re.IGNORECASE)
    return re.sub(_MONTH, lambda found: MONTHS[ord(found[0]) - _FIRST_MONTH], text)


def months_of(said: str) -> list[int]:
    """The months named, in the order in which they are said; "Dec to Feb" are three."""
    months: list[int] = []
    for named in re.findall(_MONTHS, said):
        first, *rest = (ord(month) - _FIRST_MONTH for month in re.findall(_MONTH, named))
        many = (rest[0] - first) % 12 if rest else 0
        months += [(first + each) % 12 + 1 for each in range(many + 1)]
    return months


#: Words for a currency; a sign or a word that may be that of several is a guess.
_NAMED: Final = {"euro": "€", "dollar": "$", "pound": "£"}


def currency_in(said: str) -> tuple[str, str | None, bool]:
    """An amount without its currency, that currency, and whether it is a guess ($, £, ¥)."""
    found = re.search(CURRENCY, said, re.IGNORECASE)
    if found is None:
        return said.strip(), None, False
    text = found[0]
    rest = (said[: found.start()] + said[found.end() :]).strip()
    if _FIRST_CODE <= ord(text[0]) <= _LAST_CODE:
        return rest, _CODES[ord(text[0]) - _FIRST_CODE], False
    usual, *others = SIGNS[_NAMED.get(text.lower().rstrip("s"), text)]
    return rest, usual, bool(others)


#: Codes that are words too count only in capitals.
_ALSO_WORDS: Final = frozenset(("ALL", "TOP", "TRY", "CUP", "PEN", "MOP", "BOB", "LAK", "GEL"))
_NAME: Final = re.compile(r"(?<![a-z])[a-z]+(?![a-z])", re.IGNORECASE)


def stand_ins(text: str) -> list[tuple[int, int, str]]:
    """What stands in a plain line for words: of currencies and months one character each, of
    numbers their figures; where each begins and ends."""
    found = []
    for word in _NAME.finditer(text):
        begin, end = word.span()
        beside = text[max(0, begin - 2) : begin] + text[end : end + 2]
        stand_in = _stand_in(word[0], beside)
        if stand_in is not None:
            found.append((begin, end, stand_in))
    return found


def _stand_in(said: str, beside: str) -> str | None:
    lower, code = said.lower(), said.upper()
    if len(lower) < 3:
        return None
    if code in currencies() and (said == code or code not in _ALSO_WORDS):
        return chr(_FIRST_CODE + _CODES.index(code))
    month = month_named(said)
    # A loan may end; it ends on 1 may.
    if month is not None and (said != "may" or re.search("[0-9]", beside)):
        return chr(_FIRST_MONTH + month - 1)
    return WORDS.get(lower)
