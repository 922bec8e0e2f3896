"""Money and percentages as people type them."""

import re
from decimal import ROUND_FLOOR, Decimal
from typing import Final, NamedTuple, cast

from zephyrant.texts import worded

from ..calendars import frequencies
from ..document.fields import UNKNOWN
from ..numbers.currencies import currencies
from ..numbers.decimals import plain, precise, to_step
from ..wording.marks import Marks
from .parsing import (
    PLACES,
    Reading,
    TypedNumber,
    Unreadable,
    quote_typed,
    read_number,
    read_typed,
    reading_of,
    tidy,
    without,
)


def read_amount(typed: str, marks: Marks, currency: str) -> Reading:
    """An amount of money: `48,250`, `48250.00`, `48k`, `1.2m`, with or without its currency."""
    decimals = currencies()[currency].decimals
    example = worded(
        "{amount}, 48k or {millions}m",
        amount=marks.amount(Decimal(48250), decimals),
        millions=marks.write("1.2"),
    )

    def reader(text: str) -> Reading:
        text = _without_currency(text, typed, currency)
        number = read_number(text, marks, may_group=decimals != 3)
        if number is None:
            raise ValueError(text)
        return reading_of(number, lambda value: marks.number(value, PLACES, decimals))

    return read_typed(typed, worded("an amount"), example, reader)


#: Whose signs these are, or may be; the likeliest first.
SIGNS: Final = {
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
    if said in SIGNS and currency not in SIGNS[said]:
        raise Unreadable(
            worded(
                "{typed} is not in {currency}, the currency here: write the amount "
                "without “{said}”, or change the currency.",
                typed=quote_typed(typed),
                currency=currency,
                said=said,
            )
        )
    if said not in SIGNS and code != currency:
        if code not in currencies():
            return text
        raise Unreadable(
            worded(
                "{typed} is in {code}, and the currency here is {currency}: write the "
                "amount without it, or change the currency.",
                typed=quote_typed(typed),
                code=code,
                currency=currency,
            )
        )
    return text[: found.start()] + text[found.end() :]


def read_percent(typed: str, marks: Marks) -> Reading:
    """A percentage: `6.35`, `6 3/8`, `6.35 %`, `635 bp`."""

    def reader(text: str) -> Reading:
        text, points = without(text, "bp", "bps", "basis point", "basis points")
        if not points:
            text, _ = without(text, "%", "percent", "pct")
        number = read_number(text, marks, may_group=False)
        if number is None:
            raise ValueError(text)
        if points:
            return reading_of(
                TypedNumber(number.value.scaleb(-2)), lambda value: marks.number(value, PLACES, 2)
            )
        return reading_of(number, lambda value: marks.number(value, PLACES, 2))

    return read_typed(
        typed, "a percentage", worded("{percent} or 6 3/8", percent=marks.write("6.35")), reader
    )


#: What makes a balance a share of the amount lent.
_SHARE_OF_IT: Final = ("%", "% of it", "% of the amount lent", "% of the principal")


def read_balance(typed: str, marks: Marks, currency: str, principal: Reading) -> Reading:
    """What is left at the end: an amount, or a share of the amount lent as `30 %`."""
    share, ending = without(tidy(typed), *_SHARE_OF_IT)
    if not ending:
        return read_amount(typed, marks, currency)
    percent = read_percent(share, marks)
    if percent.error or percent.value == UNKNOWN:
        return Reading(
            error=worded(
                "{typed} is no share of the amount lent. Write it as 30 %.",
                typed=quote_typed(typed),
            )
        )
    if principal.value in (None, UNKNOWN):
        return Reading(error=worded("A share of the amount lent needs that amount to be stated."))
    decimals = currencies()[currency].decimals
    with precise():
        amount = Decimal(percent.value or "0") * Decimal(principal.value or "0") / 100
    whole = to_step(amount, Decimal(1).scaleb(-decimals), "nearest")
    text = f"{percent.text} %"
    note = worded(
        "{text} of the amount lent = {whole}.",
        text=text,
        whole=marks.number(whole, PLACES, decimals),
    )
    return Reading(value=plain(whole), text=text, note=note)


class _Carried(NamedTuple):
    """What can be carried of an income, as typed: a share of it, what goes out first, how often."""

    share: str
    income: str
    outgoings: tuple[str, ...]
    per: frequencies.UnitName | None


#: How often an income may come, those that people are paid by first.
INCOME_EACH: Final[tuple[frequencies.UnitName, ...]] = (
    *("month", "year", "quarter", "week"),
    *("half-year", "day"),
)
_PER: Final = re.compile(rf" ?(?:a|per|each) ({'|'.join(INCOME_EACH)})$")


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
                error=worded(
                    "{typed} does not say what can be carried. Write it as 35 % of {income}, "
                    "or {example}.",
                    typed=quote_typed(typed),
                    income=marks.write("5400"),
                    example=example,
                )
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
        return Reading(error=worded("Of {said} nothing is left for a payment.", said=said))
    note = worded(
        "{said} = {carried} that can be carried each payment.",
        said=said,
        carried=show.number(carried, PLACES, decimals),
    )
    return Reading(value=plain(carried), text=said, note=note)
