"""How a loan is repaid, as one says it: equal principal, interest only, all at the end, parts in
percent, as over a longer time, by sum-of-digits."""

import re
from collections.abc import Iterable
from typing import Final

from .phrase import Fact, Found, Phrase, Says, phrase
from .slots import PAYMENTS

#: The first payment, behind what the payments are.
_FIRST: Final = r"(?:, the first (?:is |of )?{amount})?"
_ONE: Final = r"[0-9][0-9.,]*"
#: So many parts alike, or one.
_PART: Final = rf"(?:[0-9]+ ?(?:x|×|\*|times) ?)?{_ONE}(?: ?%)?"
_PARTS: Final = rf"(?:{_PART}(?:(?: ?/ ?|; ){_PART})+|[0-9]+ ?(?:x|×|\*|times) ?{_ONE})"


def _repaid(by: str) -> Says:
    def says(found: Found) -> Iterable[Fact]:
        yield found.fact("repaid", by)
        if found["amount"]:
            yield found.fact("payment", found["amount"])

    return says


def _parts(found: Found) -> Iterable[Fact]:
    if found["amount"]:
        yield found.fact("payment", found["amount"])
    yield found.fact("repaid", "percents", parts=re.sub(r"/", ";", found["parts"]))


def _many_parts(found: Found) -> Iterable[Fact]:
    yield found.fact("count", found["many"])
    if found["often"]:
        yield found.fact("every", found["often"])
    yield from _parts(found)


def _many_equal(found: Found) -> Iterable[Fact]:
    yield found.fact("count", found["many"])
    yield found.fact("repaid", "equal-principal")


def _all_then(found: Found) -> Iterable[Fact]:
    yield found.fact("term", found["time"])
    yield found.fact("repaid", "at-the-end")
    if found["amount"]:
        yield found.fact("payment", found["amount"])


def _over(found: Found) -> Iterable[Fact]:
    yield found.fact("repaid", "over", over=found["many"] or found["time"])


REPAID: Final[tuple[Phrase, ...]] = (
    phrase(
        r"(?:in |of |with |by )?equal (?:parts of )?(?:the )?principal(?: payments?| parts?)?"
        rf"(?:,? (?:with )?interest on top)?{_FIRST}",
        _repaid("equal-principal"),
    ),
    phrase(
        r"(?:of |with )?(?:payments )?sculpted(?: payments)?(?: to (?:the )?cash ?flow)?",
        _repaid("sculpted"),
    ),
    phrase(
        rf"(?:of )?(?:interest[ -]only|interest alone)(?: payments?)?{_FIRST}"
        r"(?: until the end|,? (?:and )?(?:the )?principal (?:at the end|with the last))?",
        _repaid("interest-only"),
    ),
    phrase(r"(?:and )?(?:the )?principal (?:at the end|with the last)", _repaid("interest-only")),
    phrase(
        r"(?:all|everything)(?: is)?(?: paid| repaid| due)? (?:at the end|with the last)"
        r"(?:,? interest added)?(?:: {amount})?",
        _repaid("at-the-end"),
    ),
    phrase(
        rf"(?:in |of )?(?:parts(?: of)? )?(?P<parts>{_PARTS})(?: ?%)? of (?:the )?principal"
        f"{_FIRST}",
        _parts,
    ),
    phrase(
        rf"(?:repaid by )?{{many}}(?: {{often}})? {PAYMENTS}(?: {{often_}})? of (?P<parts>{_PARTS})"
        rf"(?: ?%)? of the principal{_FIRST}",
        _many_parts,
    ),
    phrase(rf"{{many}} equal[ -]principal {PAYMENTS}", _many_equal),
    phrase(
        r"(?:with )?(?:nothing paid out|no regular payments) over {time}, all paid at the end"
        r"(?:: {amount})?",
        _all_then,
    ),
    phrase(rf"in parts(?: of)? (?P<parts>{_PARTS})", _parts),
    phrase(r"(?:as|amorti[sz]ed|reckoned) over {time}", _over),
    phrase(r"(?:as|amorti[sz]ed|reckoned) over {many}(?: payments?)?", _over),
    # What these add is said already.
    phrase(r"(?:and )?the rest (?:is )?due (?:with the last|at the end)", lambda _: ()),
    phrase(
        r"(?:with )?(?:interest )?(?:shared (?:out )?)?(?:by )?(?:the )?"
        r"(?:sum[ -]of[ -](?:the[ -])?digits|rule of 78)",
        _repaid("sum-of-digits"),
    ),
)
