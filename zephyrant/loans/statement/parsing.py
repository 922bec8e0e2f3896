"""What people type, understood: `48,250`, `48k`, `6 3/8`, `5y6m`, and told back in one form.

Which mark is the decimal one is the reader's setting; an entry that could be read two ways is read
by that setting, says how it was read and offers the other reading.
"""

import re
import unicodedata
from collections.abc import Callable
from decimal import ROUND_FLOOR, Decimal
from fractions import Fraction
from typing import Final, NamedTuple, cast

from pydantic import BaseModel, ConfigDict

from ..calendars import frequencies
from ..calendars.days_in_words import read_days, write_day
from ..document.fields import UNKNOWN
from ..numbers.currencies import currencies
from ..numbers.decimals import plain, precise, to_step
from ..quotes.styles import Time
from ..wording.marks import Marks

_MOST_CHARACTERS: Final = 80


PLACES: Final = 30


_FRACTION_PLACES: Final = 12


_TIMES: Final = {"k": 3, "thousand": 3, "m": 6, "mn": 6, "million": 6}


_A_YEAR: Final = {"y": 1, "h": 2, "q": 4, "m": 12, "w": 52, "d": 365}


_PERIODS: Final[dict[str, frequencies.UnitName]] = {
    "y": "year",
    "h": "half-year",
    "q": "quarter",
    "m": "month",
    "w": "week",
    "d": "day",
}


_UNITS: Final = re.compile(
    r"(y|yr|yrs|year|years|h|half-years?|q|quarters?|m|mo|mth|mths|months?|w|wk|wks|weeks?|d|days?)"
)


class Reading(BaseModel):
    """How one entry was understood.

    `value` as the document holds it, `text` in the reader's marks; `note` where more is to be
    said; `other` the text of the other reading, where there are two; `error` where there is none.
    """

    model_config = ConfigDict(frozen=True)

    value: str | None = None
    text: str | None = None
    note: str | None = None
    other: str | None = None
    error: str | None = None


class _Unreadable(Exception):  # noqa: N818
    """An entry that cannot be read; its text is the sentence for the field."""


class _Number(NamedTuple):
    value: Decimal
    other: Decimal | None = None


def tidy(typed: str) -> str:
    """What was typed in plain characters, lower case, one space at a time, without marks between
    thousands."""
    spaced = re.sub(r"(?<=\d)(?=[¼-¾⅐-⅞])", " ", typed)
    text = " ".join(unicodedata.normalize("NFKC", spaced).lower().split())
    text = text.replace("⁄", "/").replace("−", "-").replace("–", "-")
    return re.sub(r"(?<=\d)['’_ ](?=\d{3}(\D|$))", "", text)


def _without(text: str, *endings: str) -> tuple[str, str]:
    """A text without the first of these endings that it has, and that ending."""
    for ending in endings:
        if text.endswith(ending):
            return text.removesuffix(ending).rstrip(), ending
    return text, ""


def _fraction(text: str) -> Decimal | None:
    found = re.fullmatch(r"(?:(\d{1,12})[ -]+)?(\d{1,9}) ?/ ?(\d{1,9})", text)
    if not found or not int(found[3]):
        return None
    value = int(found[1] or 0) + Fraction(int(found[2]), int(found[3]))
    with precise():
        return round(Decimal(value.numerator) / value.denominator, _FRACTION_PLACES)


def _plain_number(text: str, marks: Marks, *, may_group: bool) -> _Number | None:
    """Digits with at most commas and points; `may_group`: three digits after one mark group."""
    if not re.fullmatch(r"[\d.,]+", text, re.ASCII) or not text.strip(".,"):
        return None
    kinds = [mark for mark in ",." if mark in text]
    if not kinds:
        return _Number(Decimal(text))
    if len(kinds) == 2:
        return _with_both_marks(text)
    return _with_one_mark(text, kinds[0], marks, may_group=may_group)


def _with_both_marks(text: str) -> _Number | None:
    """The mark that comes last is the decimal one; the other groups by three."""
    group, decimal_mark = sorted(",.", key=text.rfind)
    whole, _, part = text.partition(decimal_mark)
    if decimal_mark in part or not re.fullmatch(rf"\d{{1,3}}(\{group}\d{{3}})*", whole):
        return None
    return _Number(Decimal(f"{whole.replace(group, '')}.{part or '0'}"))


def _with_one_mark(text: str, mark: str, marks: Marks, *, may_group: bool) -> _Number | None:
    if text.count(mark) > 1:
        grouped = re.fullmatch(rf"\d{{1,3}}(\{mark}\d{{3}})+", text)
        return _Number(Decimal(text.replace(mark, ""))) if grouped else None
    whole, _, part = text.partition(mark)
    as_decimal = Decimal(f"{whole or '0'}.{part or '0'}")
    joined = Decimal(whole + part)
    looks_grouped = may_group and len(part) == 3 and 1 <= len(whole) <= 3 and whole[0] != "0"
    if mark != marks.group:
        return _Number(as_decimal, joined if looks_grouped else None)
    if looks_grouped:
        return _Number(joined)
    return _Number(as_decimal, joined if part and whole.strip("0") else None)


def _read_number(text: str, marks: Marks, *, may_group: bool = True) -> _Number | None:
    sign = 1
    if text.startswith("(") and text.endswith(")"):
        sign, text = -1, text[1:-1].strip()
    elif text[:1] in ("-", "+"):
        sign, text = (-1 if text[0] == "-" else 1), text[1:].strip()
    body, ending = _without(text, *_TIMES)
    times = _TIMES.get(ending, 0)
    fraction = _fraction(body)
    number = _Number(fraction) if fraction is not None else None
    number = number or _plain_number(body, marks, may_group=may_group)
    if number is None:
        return None
    with precise(100):
        other = None if number.other is None else number.other.scaleb(times) * sign
        return _Number(number.value.scaleb(times) * sign, other)


def quote_typed(typed: str) -> str:
    """What was typed as it stands in a sentence about it."""
    text = typed.strip()
    return f"“{text[:40]}…”" if len(text) > 40 else f"“{text}”"


def _reading(number: _Number, tell: Callable[[Decimal], str]) -> Reading:
    text = tell(number.value)
    other = None if number.other is None else tell(number.other)
    note = f"Read as {text}." if other else None
    return Reading(value=plain(number.value), text=text, note=note, other=other)


def _read(typed: str, what: str, example: str, reader: Callable[[str], Reading]) -> Reading:
    text = tidy(typed)
    if text == UNKNOWN:
        return Reading(value=UNKNOWN, text=UNKNOWN)
    if not text:
        return Reading(error=f"Nothing is stated here. Write {what}, or ? to have it found.")
    if len(text) > _MOST_CHARACTERS:
        return Reading(error=f"This is too long to be {what}.")
    try:
        return reader(text)
    except _Unreadable as error:
        return Reading(error=str(error))
    except ValueError:
        return Reading(error=f"{quote_typed(typed)} is not {what}. Write it as {example}.")


def read_amount(typed: str, marks: Marks, currency: str) -> Reading:
    """An amount of money: `48,250`, `48250.00`, `48k`, `1.2m`, with or without its currency."""
    decimals = currencies()[currency].decimals
    example = f"{marks.amount(Decimal(48250), decimals)}, 48k or {marks.write('1.2')}m"

    def reader(text: str) -> Reading:
        text = _without_currency(text, typed, currency)
        number = _read_number(text, marks, may_group=decimals != 3)
        if number is None:
            raise ValueError(text)
        return _reading(number, lambda value: marks.number(value, PLACES, decimals))

    return _read(typed, "an amount", example, reader)


#: Whose signs these are, or may be.
_SIGNS: Final = {
    "€": ("EUR",),
    "£": ("GBP", "GIP", "FKP", "SHP", "EGP", "SYP", "LBP", "SDG", "SSP"),
    "¥": ("JPY", "CNY"),
    "$": (
        *("USD", "CAD", "AUD", "NZD", "HKD", "SGD", "TWD", "MXN", "CLP", "COP", "ARS", "UYU"),
        *("BBD", "BMD", "BND", "BSD", "BZD", "FJD", "GYD", "JMD", "KYD", "LRD", "NAD", "SBD"),
        *("SRD", "TTD", "XCD", "DOP", "NIO"),
    ),
}


def _without_currency(text: str, typed: str, currency: str) -> str:
    """An amount without the sign or the code of its currency; another's is not passed over."""
    found = re.match(r"([a-z]{3}|[€$£¥]) ?(?=[\d.,+-])", text) or re.search(
        r"(?<=[\d.,km]) ?([a-z]{3}|[€$£¥])$", text
    )
    if found is None:
        return text
    said = found[1]
    code = said.upper()
    if said in _SIGNS and currency not in _SIGNS[said]:
        raise _Unreadable(
            f"{quote_typed(typed)} is not in {currency}, the currency here: write the amount "
            f"without “{said}”, or change the currency."
        )
    if said not in _SIGNS and code != currency:
        if code not in currencies():
            return text
        raise _Unreadable(
            f"{quote_typed(typed)} is in {code}, and the currency here is {currency}: write the "
            "amount without it, or change the currency."
        )
    return text[: found.start()] + text[found.end() :]


def read_percent(typed: str, marks: Marks) -> Reading:
    """A percentage: `6.35`, `6 3/8`, `6.35 %`, `635 bp`."""

    def reader(text: str) -> Reading:
        text, points = _without(text, "bp", "bps", "basis point", "basis points")
        if not points:
            text, _ = _without(text, "%", "percent", "pct")
        number = _read_number(text, marks, may_group=False)
        if number is None:
            raise ValueError(text)
        if points:
            return _reading(
                _Number(number.value.scaleb(-2)), lambda value: marks.number(value, PLACES, 2)
            )
        return _reading(number, lambda value: marks.number(value, PLACES, 2))

    return _read(typed, "a percentage", f"{marks.write('6.35')} or 6 3/8", reader)


def read_count(typed: str, marks: Marks, every: frequencies.Frequency) -> Reading:
    """A number of payments, or a term that is made of them: `60`, `5 years`, `5y6m`."""

    def reader(text: str) -> Reading:
        text, _ = _without(text, "payments", "payment")
        number = None if re.search(r"[a-z]", text) else _read_number(text, marks)
        if number is not None:
            return _reading(number, lambda value: marks.number(value, PLACES))
        total = _term_in_payments(text, marks, frequencies.a_year(every))
        spoken = frequencies.period(every).often
        if total.denominator != 1:
            shown = marks.number(Decimal(total.numerator) / total.denominator, 2)
            raise _Unreadable(
                f"{quote_typed(typed)} is {shown} {spoken} payments: a whole number is needed."
            )
        count = str(total.numerator)
        shown = marks.write(count)
        payments = "payment" if count == "1" else "payments"
        return Reading(
            value=count, text=shown, note=f"{typed.strip()} = {shown} {spoken} {payments}."
        )

    return _read(typed, "a number of payments", "60, 5 years or 5y6m", reader)


def read_time(typed: str, marks: Marks) -> Reading:
    """The time a quote is charged for: `90 days`, `6m`, `1.5 years`; its value is "90 day"."""

    def reader(text: str) -> Reading:
        parts = _time_parts(text, marks)
        unit = parts[0][1] if len(parts) == 1 else "m"
        number = sum(value * Fraction(_A_YEAR[unit], _A_YEAR[of]) for value, of in parts)
        with precise():
            whole = round(Decimal(number.numerator) / number.denominator, _FRACTION_PLACES)
        period = _PERIODS[unit]
        return Reading(value=f"{plain(whole)} {period}", text=time_text(whole, period, marks))

    reading = _read(typed, "a time", f"90 days, 6 months or {marks.write('1.5')} years", reader)
    if reading.value == UNKNOWN:
        return Reading(error="The time a quote is charged for has to be stated, such as 90 days.")
    return reading


#: What makes a balance a share of the amount lent.
_SHARE_OF_IT: Final = ("%", "% of it", "% of the amount lent", "% of the principal")


def read_balance(typed: str, marks: Marks, currency: str, principal: Reading) -> Reading:
    """What is left at the end: an amount, or a share of the amount lent as `30 %`."""
    share, ending = _without(tidy(typed), *_SHARE_OF_IT)
    if not ending:
        return read_amount(typed, marks, currency)
    percent = read_percent(share, marks)
    if percent.error or percent.value == UNKNOWN:
        return Reading(
            error=f"{quote_typed(typed)} is no share of the amount lent. Write it as 30 %."
        )
    if principal.value in (None, UNKNOWN):
        return Reading(error="A share of the amount lent needs that amount to be stated.")
    decimals = currencies()[currency].decimals
    with precise():
        amount = Decimal(percent.value or "0") * Decimal(principal.value or "0") / 100
    whole = to_step(amount, Decimal(1).scaleb(-decimals), "nearest")
    text = f"{percent.text} %"
    note = f"{text} of the amount lent = {marks.number(whole, PLACES, decimals)}."
    return Reading(value=plain(whole), text=text, note=note)


class _Carried(NamedTuple):
    """What can be carried of an income, as typed: a share of it, what goes out first, how often."""

    share: str
    income: str
    outgoings: tuple[str, ...]
    per: frequencies.UnitName | None


_PER: Final = re.compile(r" ?(?:a|per|each) (year|half-year|quarter|month|week|day)$")


def _carried(text: str) -> _Carried | None:
    """The parts of such a text; None where it is an amount alone."""
    per = _PER.search(text)
    share, of, rest = text[: per.start() if per else None].rpartition("% of ")
    income, *outgoings = (part.strip() for part in re.split(r"-|less", rest))
    if not income or bool(of) != bool(share.strip()) or not (of or outgoings or per):
        return None
    return _Carried(
        share, income, tuple(outgoings), cast("frequencies.UnitName", per[1]) if per else None
    )


def read_payment(
    typed: str, marks: Marks, currency: str, every: frequencies.Frequency, tell: Marks | None = None
) -> Reading:
    """A payment: an amount, or what can be carried of an income: `35 % of 5,400`,
    `5,400 - 640 a month`; told in the marks `tell`.

    What can be carried is rounded down. An income of another period counts by its part of a year.
    """
    show = tell or marks
    found = _carried(tidy(typed))
    if found is None:
        return read_amount(typed, marks, currency)
    share = read_percent(found.share, marks) if found.share else None
    amounts = [read_amount(part, marks, currency) for part in (found.income, *found.outgoings)]
    for each in (share, *amounts):
        if each is not None and (each.value in (None, UNKNOWN) or Decimal(each.value or 0) < 0):
            example = f"{marks.write('5400')} - {marks.write('640')} a month"
            return Reading(
                error=f"{quote_typed(typed)} does not say what can be carried. Write it as "
                f"35 % of {marks.write('5400')}, or {example}."
            )
    decimals = currencies()[currency].decimals
    minor = Decimal(1).scaleb(-decimals)
    income, *outgoings = (Decimal(each.value or 0) for each in amounts)
    often = frequencies.a_year(every)
    per = frequencies.a_year(found.per) if found.per else often
    with precise():
        part = Decimal(share.value or 0) / 100 if share else Decimal(1)
        left = (part * income - sum(outgoings)) * per / often
        carried = (left / minor).to_integral_value(ROUND_FLOOR) * minor
    said = " - ".join(show.number(each, PLACES, decimals) for each in (income, *outgoings))
    if share:
        said = f"{show.number(Decimal(share.value or 0), PLACES)} % of {said}"
    if found.per:
        said += f" a {found.per}"
    if carried <= 0:
        return Reading(error=f"Of {said} nothing is left for a payment.")
    note = f"{said} = {show.number(carried, PLACES, decimals)} that can be carried each payment."
    return Reading(value=plain(carried), text=said, note=note)


def read_date(typed: str) -> Reading:
    """A day: `2027-03-01`, `1 Mar 2027`, `1.3.2027`; nothing where there is none."""
    if not typed.strip():
        return Reading()
    days = read_days(unicodedata.normalize("NFKC", typed))
    if not days:
        return Reading(
            error=f"{quote_typed(typed)} is no day of the calendar. Write it as 1 Mar 2027 or "
            "2027-03-01."
        )
    text = write_day(days[0])
    other = write_day(days[1]) if len(days) > 1 else None
    note = f"Read as {text}." if other else None
    return Reading(value=days[0].isoformat(), text=text, note=note, other=other)


def time_text(number: Decimal, period: str, marks: Marks) -> str:
    """A time as one would type it: "90 days"."""
    return frequencies.number_of(marks.number(number, PLACES), period)


def time_of(reading: Reading) -> Time | None:
    """The time that was read, if one was."""
    if reading.value is None:
        return None
    number, _, period = reading.value.partition(" ")
    return Time(Fraction(number), _PERIODS[period[0]])


def _term_in_payments(text: str, marks: Marks, a_year: int) -> Fraction:
    parts = _time_parts(text, marks)
    return sum((value * Fraction(a_year, _A_YEAR[unit]) for value, unit in parts), Fraction(0))


def _time_parts(text: str, marks: Marks) -> list[tuple[Fraction, str]]:
    """Each number of a time with the letter of its unit."""
    read: list[tuple[Fraction, str]] = []
    number = ""
    for part in re.findall(r"[\d.,/ ]+|[^\d.,/ ]+", text):
        if part[0] in "0123456789.,/ ":
            number = part.lstrip(" ,").rstrip()
        elif number or part != "and":
            value = _read_number(number, marks) if number[-1:].isdecimal() else None
            if value is None or not _UNITS.fullmatch(part):
                raise ValueError(text)
            read.append((Fraction(value.value), part[0]))
            number = ""
    if number or not read:
        raise ValueError(text)
    return read


def read_place(typed: str, marks: Marks, *, may_be_open: bool = False) -> Reading:
    """Where a clause stands: the number of a payment, 0 for the start, or a day."""
    if may_be_open and not typed.strip():
        return Reading()
    if read_days(unicodedata.normalize("NFKC", typed)):
        return read_date(typed)
    text = tidy(typed).removeprefix("payment ")
    if len(text) > _MOST_CHARACTERS:
        return Reading(error="This is too long to be a place: it is a payment or a day.")
    if text.isdecimal():
        return Reading(value=str(int(text)), text=marks.write(str(int(text))))
    if not text:
        return Reading(error="Nothing is stated here. Write the number of a payment, or a day.")
    return Reading(
        error=f"{quote_typed(typed)} is no place. Write the number of a payment, 0 for the start, "
        "or a day."
    )
