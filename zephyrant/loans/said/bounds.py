"""Cover and value, as one says them: a cash flow, how it grows, how many times it covers the
payments, the value and the highest percent of it that is lent."""

from collections.abc import Iterable
from typing import Final

from .phrase import Fact, Found, Phrase, phrase
from .slots import AMOUNT

#: How many times.
_TIMES: Final = r"(?P<ratio>\?|[0-9]+(?:[.,][0-9]+)?)(?: ?(?:times|x|×))?"
#: Cash flows of one year after the other.
_FLOWS: Final = rf"(?P<flows>{AMOUNT}(?:(?: ?/ ?|; ?| then ){AMOUNT})+)"
_CASH: Final = r"(?:an? |the )?cash ?flows?(?: available)?(?: (?:of|is))?:?"
_A_YEAR: Final = r"(?: (?:a|per|each) year)?"
_GROWING: Final = rf"(?:,? (?:growing|that grows|and grows?)(?: by)? {{percent}}{_A_YEAR})?"
#: Over which periods it is tested, where that is said of cash flows year by year.
_EACH: Final = r"(?: {per_})?"
_COVERED: Final = (
    r"(?:,? (?:is to )?cover(?:s|ing)?(?: the payments)?(?: at least)? "
    rf"{_TIMES}{_EACH})?"
)


def _cash(found: Found) -> Iterable[Fact]:
    yield found.fact("cash_flow", found["amount"], per=found["per"])
    yield from _besides(found)


def _by_year(found: Found) -> Iterable[Fact]:
    yield found.fact("cash_flows", found["flows"], per=found["per"])
    yield from _besides(found)


def _besides(found: Found) -> Iterable[Fact]:
    if found["percent"]:
        yield found.fact("growth", found["percent"])
    if found["ratio"]:
        yield found.fact("cover", found["ratio"])


def _cover(found: Found) -> Iterable[Fact]:
    yield found.fact("cover", found["ratio"], per=found["per"])


def _growth(found: Found) -> Iterable[Fact]:
    yield found.fact("growth", found["percent"])


def _value(found: Found) -> Iterable[Fact]:
    yield found.fact("value", found["amount"])
    if found["percent"]:
        yield found.fact("highest", found["percent"])


def _highest(found: Found) -> Iterable[Fact]:
    yield found.fact("highest", found["percent"])
    if found["amount"]:
        yield found.fact("value", found["amount"])


BOUNDS: Final[tuple[Phrase, ...]] = (
    phrase(rf"(?:out of |from )?{_CASH} {{amount}}(?: ?{{per}})?{_GROWING}{_COVERED}", _cash),
    phrase(
        rf"(?:out of |from )?{{amount}}(?: ?{{per}})? (?:of )?cash ?flow{_GROWING}{_COVERED}",
        _cash,
    ),
    phrase(
        rf"(?:out of |from )?{_CASH} {_FLOWS}(?: (?:year by year|by year))?{_COVERED}", _by_year
    ),
    phrase(
        rf"(?:and )?(?:(?:which )?(?:is to )?covers?|covered|(?:with )?(?:an? )?cover(?: ratio)?"
        rf"(?: of| is)?|covering|dscr(?: of)?)(?: the payments)?(?: at least)? ?{_TIMES}{_EACH}",
        _cover,
    ),
    phrase(
        rf"(?:and )?(?:the )?cash ?flow (?:grows|growing)(?: by)? {{percent}}{_A_YEAR}",
        _growth,
    ),
    phrase(
        r"(?:(?:on )?(?:an? |the )?value(?: of| is)?|worth):? {amount}"
        r"(?:,? (?:of which |and )?(?:at most|up to|no more than) {percent}"
        r"(?: (?:of it|of that))?(?: is)?(?: lent)?)?",
        _value,
    ),
    phrase(
        r"(?:at most|up to|no more than|ltv(?: of)?|loan to value(?: of)?) {percent}"
        r"(?: of (?:(?:an? |the )?value(?: of {amount})?|it|that))?(?: is)?(?: lent)?",
        _highest,
    ),
)
