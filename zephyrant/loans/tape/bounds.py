"""Cover and value of the loan of a row, as a table says them."""

import re
from collections.abc import Mapping
from typing import Any, Final

from ..document.fields import UNKNOWN
from ..statement.typed_amounts import read_amount, read_percent
from ..statement.typed_bounds import read_cash_flows, read_ratio, stated
from ..wording.marks import Marks
from .columns import FieldName

#: The columns that say of a cash flow and of a value.
_COVER: Final[tuple[FieldName, ...]] = ("cash_flow", "cash_flow_every", "growth", "cover")
_VALUE: Final[tuple[FieldName, ...]] = ("value", "highest")


def is_bounded(text: Mapping[FieldName, str]) -> bool:
    """Whether a row states a cash flow or a value."""
    return bool(text.get("cash_flow") or text.get("value"))


def leaves_payment_out(text: Mapping[FieldName, str]) -> bool:
    """Whether as much is lent as cover and value allow: neither what is lent nor what is paid is
    stated beside them; or payments are sculpted."""
    if re.sub(r"[^a-z]", "", text.get("repaid", "").lower()) == "sculpted":
        return not text.get("payment")
    open_to = text.get("principal", "") in ("", UNKNOWN)
    return is_bounded(text) and open_to and not text.get("payment")


def bounds_of(text: Mapping[FieldName, str], marks: Marks, currency: str) -> dict[str, Any]:
    """The fields of a document that say cover and value; raises `NotALoan` where what stands there
    cannot be read."""
    document: dict[str, Any] = {}
    if any(text.get(name) for name in _COVER):
        flows = read_cash_flows(text.get("cash_flow", ""), marks, currency).at("cash_flow")
        cover: dict[str, Any] = {"ratio": read_ratio(text.get("cover", ""), marks).at("cover")}
        some = flows.split()
        cover |= {"cash_flow": some[0]} if len(some) == 1 else {"cash_flows": some}
        if every := text.get("cash_flow_every"):
            cover["every"] = int(every) if every.isdecimal() else every.lower()
        if growth := text.get("growth"):
            cover["growth"] = stated(read_percent(growth, marks)).at("growth")
        document["cover"] = cover
    if any(text.get(name) for name in _VALUE):
        amount = read_amount(text.get("value", ""), marks, currency)
        highest = read_percent(text.get("highest", ""), marks)
        document["value"] = {
            "amount": stated(amount).at("value"),
            "highest": stated(highest).at("highest"),
        }
    return document
