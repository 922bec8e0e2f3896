"""Short forms, as one notes a loan down: "815 pm", "36 adv", "+60,000 at 4", "7.1/6.4/6.9 %"."""

import re
from collections.abc import Iterable
from typing import Final

from .phrase import ClausePhrase, Fact, Found, Says, clause, phrase
from .phrase import Phrase as TermPhrase
from .places import WHOLE
from .slots import AMOUNT, NUMBER, PERCENT


def _timing(timing: str) -> Says:
    """When it is paid; a number before it is that of the payments."""

    def says(found: Found) -> Iterable[Fact]:
        yield found.fact("timing", timing)
        if found["integer"]:
            yield found.fact("count", found["integer"], guess=True)

    return says


def _balance(found: Found) -> Iterable[Fact]:
    yield found.fact("balance", found["figure"])


def _rounded_up(found: Found) -> Iterable[Fact]:
    yield found.fact("rounding", "up", guess=True, to=found["amount"])


def _less(found: Found) -> Iterable[Fact]:
    """A price less what is paid down."""
    yield found.fact("price", found["amount"], guess=True)
    yield found.fact("down", found["percent"], guess=True)


def _and_each(found: Found) -> Iterable[Fact]:
    """An amount and what is put to it each time."""
    yield found.fact("we", "put-aside", guess=True)
    if found["amount"]:
        yield found.fact("principal", found["amount"])
    said = found.match["more"]
    yield found.fact("clause", said, guess=True, verb="advance", place=WHOLE, then={})
    yield found.fact("every", found["per"])


def _in_turn(*, guess: bool) -> Says:
    """A rate for each year, in their order."""

    def says(found: Found) -> Iterable[Fact]:
        first, *others = re.findall(NUMBER, found.match["rates"])
        yield found.fact("rate", f"{first} %", modes="", before="")
        for year, rate in enumerate(others, 2):
            more = {"verb": "rate", "place": f"from year {year}", "modes": "", "then": {}}
            yield found.fact("clause", f"{rate} %", guess=guess, **more)

    return says


def _moved(verb: str) -> Says:
    """Money that is put to what is owed, or taken off it."""
    return lambda found: [
        found.fact("clause", found["amount"], guess=True, verb=verb, place=found.place, then={})
    ]


_ONE_RATE: Final = r"[0-9]{1,2}(?:[.,][0-9]{1,6})?"
#: Which is no fraction.
_DECIMAL: Final = r"[0-9]{1,2}[.,][0-9]{1,6}"

SHORT: Final[tuple[TermPhrase | ClausePhrase, ...]] = (
    phrase(r"(?:{integer} )?(?:(?:in )?adv\.?|in advance)", _timing("in-advance")),
    phrase(r"(?:{integer} )?(?:(?:in )?arr\.?|in arrears)", _timing("in-arrears")),
    # Joined to its figure; apart from it it is a word for a balloon as others.
    phrase(r"{figure}bal\.?", _balance),
    phrase(r"up to (?:the next )?{amount}", _rounded_up),
    phrase(rf"(?P<amount>{AMOUNT})(?:-| less )(?P<percent>{PERCENT})(?: down)?", _less),
    phrase(rf"(?:{{amount}} ?)?\+ ?(?P<more>{AMOUNT}) ?{{per}}", _and_each),
    phrase(
        rf"(?:at )?(?P<rates>{_ONE_RATE}(?: ?%)?(?: ?/ ?{_ONE_RATE}(?: ?%)?){{1,11}})(?<=%)"
        r" (?:by|each|every|per) year",
        _in_turn(guess=False),
    ),
    phrase(rf"(?:at )?(?P<rates>{_DECIMAL}(?: ?/ ?{_DECIMAL}){{1,11}} ?%)", _in_turn(guess=True)),
    clause(r"\+{amount}", _moved("advance")),
    clause(r"-(?={amount_})(?P<amount>[^ ]+)", _moved("repay")),
)
