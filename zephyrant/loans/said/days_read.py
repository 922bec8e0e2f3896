"""Business days as a line says them, put into its document."""

from ..statement.typed_days import read_calendars
from .draft import Draft
from .figures import Unsaid


def read_business_days(draft: Draft) -> None:
    """What is said of business days."""
    for fact in draft.of("business_days"):
        with draft.at(fact):
            read = read_calendars(fact.said)
            if read.value is None:
                raise Unsaid(read.error or "")
            draft.put("business_days.calendars", read.text or "", fact)
            draft.content["business_days"]["calendars"] = read.value.split()
            if roll := fact.more["roll"]:
                draft.put("business_days.roll", roll.lower().replace(" ", "-"), fact)
            if adjusted := fact.more["adjusted"]:
                is_adjusted = not adjusted.lower().startswith("un")
                draft.put("business_days.adjusted", str(is_adjusted).lower(), fact)
                draft.content["business_days"]["adjusted"] = is_adjusted
