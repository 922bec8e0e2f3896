"""Business days, as one says them: whose, where payments go that fall on others, and to which day
interest is counted."""

from collections.abc import Iterable
from typing import Final

from .phrase import Fact, Found, Phrase, phrase
from .slots import PAYMENTS

_CODE: Final = "(?:TARGET|[a-z]{2})"
_CALENDARS: Final = rf"(?P<calendars>{_CODE}(?:(?: ?[+&] ?|, | and ){_CODE}(?![a-z]))*)"
_DAYS: Final = "(?:business|bank|banking|working) days"
_ROLLED: Final = (
    r"(?:,? (?:and )?(?:moved |rolled )?(?:to )?(?:the )?"
    r"(?P<roll>(?:modified[ -])?following|preceding)(?: one| business day)?)?"
)
_COUNTED: Final = r"(?:,? (?:and )?(?:interest )?(?P<adjusted>un-?adjusted|adjusted))?"


def _business_days(found: Found) -> Iterable[Fact]:
    roll, adjusted = (found.match[name] or "" for name in ("roll", "adjusted"))
    yield found.fact("business_days", found.match["calendars"], roll=roll, adjusted=adjusted)


BUSINESS_DAYS: Final[tuple[Phrase, ...]] = (
    phrase(
        rf"(?:(?:paid |{PAYMENTS} )?on )?(?:the )?{_DAYS} (?:of |in )?{_CALENDARS}"
        rf"{_ROLLED}{_COUNTED}",
        _business_days,
    ),
    phrase(
        rf"(?:(?:paid |{PAYMENTS} )?on )?{_CALENDARS} {_DAYS}{_ROLLED}{_COUNTED}", _business_days
    ),
)
