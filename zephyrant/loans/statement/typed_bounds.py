"""Cover and value as people type them: a cash flow or one for each year, how it grows, the cover,
the value and the highest percent of it that is lent."""

from decimal import Decimal
from typing import Any

from zephyrant.texts import worded

from ..document.bounds import cash_flows_in_words
from ..document.fields import UNKNOWN
from ..numbers.currencies import currencies
from ..numbers.decimals import plain
from ..wording.marks import Marks
from .parsing import PLACES, Reading, TypedNumber, read_number, read_typed, reading_of, without
from .statement import Statement, is_by_year, years_typed
from .typed_amounts import read_amount, read_percent


def read_ratio(typed: str, marks: Marks) -> Reading:
    """How many times a cash flow is the payments: `1.30`, `1.3x`, `1.3 times`, `130 %`."""

    def reader(text: str) -> Reading:
        text, unit = without(text, "times", "x", "%")
        number = read_number(text, marks, may_group=False)
        if number is None:
            raise ValueError(text)
        power = -2 if unit == "%" else 0
        return reading_of(
            TypedNumber(number.value.scaleb(power)), lambda value: marks.number(value, PLACES, 2)
        )

    return read_typed(typed, worded("a cover"), marks.write("1.30"), reader)


def read_cash_flows(typed: str, marks: Marks, currency: str) -> Reading:
    """A cash flow, or one for each year; the value is each of them, with a space between."""
    pieces = years_typed(typed)
    if len(pieces) < 2:
        return stated(read_amount(typed, marks, currency))
    flows = []
    for piece in pieces:
        read = stated(read_amount(piece, marks, currency))
        if read.error or read.value is None:
            return read
        flows.append(Decimal(read.value))
    decimals = currencies()[currency].decimals
    return Reading(
        value=" ".join(plain(each) for each in flows),
        text=cash_flows_in_words(flows, marks, decimals),
    )


def stated(reading: Reading) -> Reading:
    """A reading of what cannot be asked for."""
    if reading.value != UNKNOWN:
        return reading
    return Reading(
        error=worded(
            "This is stated: the ? stands at the amount lent, or at the cover of payments "
            "that are sculpted."
        )
    )


def bounds_readings(statement: Statement, marks: Marks) -> dict[str, Reading]:
    """How cover and value are read, where they are typed."""
    read = {}
    if (cover := statement.cover) is not None:
        read["cover.cash_flow"] = read_cash_flows(cover.cash_flow, marks, statement.currency)
        if not is_by_year(cover):
            growth = (
                stated(read_percent(cover.growth, marks)) if cover.growth.strip() else Reading()
            )
            read["cover.growth"] = growth
        read["cover.ratio"] = read_ratio(cover.ratio, marks)
    if (value := statement.value) is not None:
        read["value.amount"] = stated(read_amount(value.amount, marks, statement.currency))
        read["value.highest"] = stated(read_percent(value.highest, marks))
    return read


def bounds_document(statement: Statement, value: dict[str, str]) -> dict[str, Any]:
    """Cover and value as the document holds them."""
    document: dict[str, Any] = {}
    if (typed := statement.cover) is not None:
        flows = value["cover.cash_flow"].split()
        cover: dict[str, Any] = (
            {"cash_flow": flows[0]} if len(flows) == 1 else {"cash_flows": flows}
        )
        if typed.every != "year":
            cover["every"] = typed.every
        if typed.growth.strip() and "cover.growth" in value:
            cover["growth"] = value["cover.growth"]
        document["cover"] = {**cover, "ratio": value["cover.ratio"]}
    if statement.value is not None:
        document["value"] = {
            "amount": value["value.amount"],
            "highest": value["value.highest"],
        }
    return document
