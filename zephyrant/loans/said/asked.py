"""The phrases that name what is to be found: "rate?", "how much?", "how long?", "what is left?"."""

from collections.abc import Iterable
from typing import Final

from .phrase import Fact, Found, Phrase, Says, phrase
from .slots import PAYMENTS

#: What is left at the end, as a noun.
BALLOON: Final = r"(?:balloon|balance|residual|bal(?:\.|(?![.a-z])))"

_MEANT: Final = (
    r"(?P<meant>(?:(?:at|what|which|is|the|an?|yearly|annual|nominal|effective|interest) ){0,5})"
)
_LENDS: Final = r"(?: (?:can (?:be|we|it|they) )?(?:lent|lend|borrow(?:ed)?|carr(?:y|ied)))?"


def asks(field: str) -> Says:
    """Asks for a field; a time and how often may be said with it."""

    def says(found: Found) -> Iterable[Fact]:
        yield found.fact(field, "?", modes="", before=found["meant"])
        if found["time"]:
            yield found.fact("term", found["time"], guess=True)
        if found["per"]:
            yield found.fact("every", found["per"])

    return says


def _carried(found: Found) -> Iterable[Fact]:
    yield found.fact("principal", "?")
    yield found.fact("payment", found["amount"])
    if found["per"]:
        yield found.fact("every", found["per"])


ASKED: Final[tuple[Phrase, ...]] = (
    phrase(
        rf"(?:how much|what|(?:(?:what|which) )?(?:principal|amount|loan)){_LENDS} ?\?",
        asks("principal"),
    ),
    phrase(
        rf"(?:(?:what|which|how much)(?: is)? )?(?:the |each |a )?(?:regular )?{PAYMENTS}"
        r"(?: {per})? ?\?",
        asks("payment"),
    ),
    phrase(r"how much(?: is paid| to pay)? {per} ?\?", asks("payment")),
    phrase(r"(?:what|how much) (?:is|to be) paid(?: {per})? ?\?", asks("payment")),
    phrase(rf"{_MEANT}(?:rate|interest) ?\?", asks("rate")),
    phrase(r"(?:the )?(?:highest |lowest )?rate at which", asks("rate")),
    phrase(r"(?:at )?(?:what|which) (?:[a-z]+ )?rate (?:is|does|do|has)", asks("rate")),
    phrase(r"(?:what|how much) (?:do|does|will|would|can) {amount}(?: ?{per})? carry", _carried),
    phrase(r"{amount}(?: ?{per})? carries (?:what|how much)(?: ?\?)?", _carried),
    phrase(r"at \?(?! ?%)", asks("rate")),
    phrase(
        rf"how (?:long|many (?:{PAYMENTS}|months|years|quarters|weeks))"
        r"(?: (?:does it take|will it take|till it ends))? ?\?",
        asks("count"),
    ),
    phrase(r"(?:(?:the )?(?:number of payments|term|count)|(?:over|for)) ?\?", asks("count")),
    phrase(r"(?:over |for )?\? (?:payments|months|years|quarters|weeks)", asks("count")),
    phrase(
        r"(?:what|how much)(?: is|'s)? (?:then |still )?(?:left|owed|there|remains)"
        r"(?: over| then| at the end)?(?:(?: after)? {time})? ?\?",
        asks("balance"),
    ),
    phrase(r"what is (?:left|owed|there) after {time}", asks("balance")),
    phrase(rf"(?:(?:what|which) )?{BALLOON} ?\?", asks("balance")),
    phrase(r"(?:(?:what|which) )?(?:the )?price ?\?", asks("price")),
    phrase(r"(?:how much )?down(?: payment)? ?\?", asks("down")),
)
