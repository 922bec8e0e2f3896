"""Which column of a table is which figure, by their names."""

import re
from collections.abc import Iterable, Sequence
from typing import Any, Final

from zephyrant.texts import Worded, worded

from .columns import FieldName

#: Names people give to columns, without marks and spaces; the trade's own.
_KNOWN: Final[dict[FieldName, tuple[str, ...]]] = {
    "name": ("name", "loan", "loanid", "id", "reference", "ref", "loannumber", "borrower", "case"),
    "currency": ("currency", "ccy", "cur"),
    "principal": (
        "principal",
        "amount",
        "amountlent",
        "loanamount",
        "lent",
        "originalbalance",
        "originalamount",
        "openingbalance",
        "currentbalance",
    ),
    "percent": (
        "percent",
        "rate",
        "interestrate",
        "interest",
        "nominalrate",
        "coupon",
        "noterate",
        "annualrate",
    ),
    "quoted": ("quoted", "quote", "ratetype", "ratestyle"),
    "compounding": ("compounding", "compounded", "compoundingfrequency"),
    "count": (
        "count",
        "term",
        "payments",
        "numberofpayments",
        "n",
        "instalments",
        "installments",
        "remainingterm",
        "months",
        "termmonths",
        "terminmonths",
        "years",
        "termyears",
        "terminyears",
        "yrs",
        "tenor",
        "periods",
    ),
    "every": ("every", "frequency", "paymentfrequency", "paid"),
    "payment": (
        "payment",
        "instalment",
        "installment",
        "monthlypayment",
        "monthlyinstalment",
        "monthlyinstallment",
        "regularpayment",
        "paymentamount",
        "pay",
        "pays",
        "repayment",
    ),
    "balance": (
        "balance",
        "balloon",
        "balanceattheend",
        "finalbalance",
        "residual",
        "residualvalue",
        "endbalance",
    ),
    "timing": ("timing", "due", "paymenttiming"),
    "repaid": ("repaid", "repaymentstyle", "repaymenttype", "amortisation", "amortization"),
    "amortized_over": (
        "amortizedover",
        "amortisedover",
        "amortizationterm",
        "amortisationterm",
        "amortizationmonths",
    ),
    "index": ("index", "referencerate", "baserate", "reference"),
    "margin": ("margin", "spread"),
    "floor": ("floor", "ratefloor"),
    "cap": ("cap", "ratecap"),
    "resets": ("resets", "resetevery", "resetfrequency", "reset"),
    "first_rate": ("firstrate", "initialrate"),
    "at_resets": ("atresets", "paymentsatresets"),
    "cash_flow": ("cashflow", "cashflowavailable", "cfads", "freecashflow"),
    "cash_flow_every": ("cashflowevery", "cashflowperiod"),
    "growth": ("growth", "cashflowgrowth"),
    "cover": ("cover", "dscr", "coverratio", "requiredcover", "leastcover"),
    "value": ("value", "propertyvalue", "assetvalue", "valuation", "collateralvalue"),
    "highest": ("highest", "ltv", "maxltv", "loantovalue", "highestltv", "highestloantovalue"),
    "start": ("start", "startdate", "lenton", "date", "originationdate", "drawdown"),
    "first_payment": ("firstpayment", "firstpaymentdate", "firstdue"),
    "day_count": ("daycount", "daycountconvention", "dayscounted", "daybasis"),
    "business_days": ("businessdays", "calendars", "holidaycalendar", "holidaycalendars"),
    "roll": ("roll", "rollconvention", "businessdayconvention"),
    "adjusted": ("adjusted", "interestadjusted"),
    "after": ("after", "owedafter", "paymentsmade"),
    "income": ("income", "monthlyincome", "netincome"),
    "share": ("share", "shareofincome", "incomeshare", "capacity"),
}


def _bare(name: str) -> str:
    return re.sub(r"[^a-z0-9]", "", name.lower())


def match(names: Sequence[str]) -> dict[FieldName, int]:
    """The column of each figure, by its name; the first of several that would do."""
    bare = [_bare(name) for name in names]
    found: dict[FieldName, int] = {}
    for field, known in _KNOWN.items():
        for name in known:
            if name in bare and bare.index(name) not in found.values():
                found[field] = bare.index(name)
                break
    return found


#: The figures of which a row leaves at most one unknown.
_NEEDED: Final[Worded[FieldName]] = Worded(
    {
        "principal": "the amount lent",
        "percent": "the rate",
        "count": "the number of payments",
        "payment": "the payment",
    }
)


def unmatched(columns: Iterable[FieldName]) -> str | None:
    """Why columns do not suffice for any row to have an answer; none where they do."""
    matched = set(columns)
    if {"income", "share"} <= matched:
        matched.add("payment")
    if "index" in matched:
        # The rate follows from it.
        matched.add("percent")
    if matched & {"cash_flow", "value"}:
        # The payment follows from what the bounds let be lent.
        matched.add("payment")
    missing = [said for name, said in _NEEDED.items() if name not in matched]
    if len(missing) < 2:
        return None
    return worded(
        "At most one figure can be without a column, as it is the unknown of "
        "every row: match {listed}.",
        listed=worded(" and ").join(missing),
    )


def counted_in(name: str) -> dict[str, Any]:
    """What the name of a term's column says it counts: "Term (months)"."""
    bare = _bare(name)
    if "month" in bare:
        return {"count_in": "months"}
    return {"count_in": "years"} if "year" in bare else {}
