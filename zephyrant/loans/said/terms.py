"""The phrases of a loan's terms: amount, rate, term, payment, balance, price, dates."""

from collections.abc import Iterable
from typing import Final

from .phrase import Fact, Found, Phrase, Says, phrase

_PAYMENTS: Final = "(?:payments?|instal?lments?)"
_PAYS: Final = (
    rf"(?:(?:and )?(?:pays?|paying|paid|repaid|repaying|carr(?:y|ies)|{_PAYMENTS}|by)"
    r"(?: (?:of|is|are|by|with|at|in))?(?: only)?:?)"
)
_MEANT: Final = r"(?:(?:an?|the|at|yearly|annual|nominal|effective|flat|fixed|interest) ){0,4}"
_LEFT: Final = (
    r"(?:(?:is|are|still|to be|then) ){0,2}(?:left(?: (?:owing|over|owed))?|owed|owing|remaining|"
    r"outstanding|there)(?: (?:then|over))?(?:(?: is)? (?:at|in) the end)?"
)
_BALLOON: Final = "(?:balloon|balance|residual)"
_NAMES: Final = "(?: (?:of|is|are|at))?:?"


def _is(field: str, slot: str = "amount", *, guess: bool = False) -> Says:
    return lambda found: [found.fact(field, found[slot], guess=guess)]


def _fixed(field: str, value: str) -> Says:
    return lambda found: [found.fact(field, value)]


def _payment(found: Found) -> Iterable[Fact]:
    yield found.fact("payment", found["amount"])
    if found["per"]:
        yield found.fact("every", found["per"])


def _payments(found: Found) -> Iterable[Fact]:
    """So many payments, with how often and how much each where that is said."""
    yield found.fact("count", found["integer"])
    if found["amount"]:
        yield found.fact("payment", found["amount"])
    if often := found["per"] or found["often"]:
        yield found.fact("every", often)


def _rate(found: Found) -> Iterable[Fact]:
    yield found.fact("rate", found["percent"], modes=found["modes"], before=found["meant"])


def _balance(found: Found) -> Iterable[Fact]:
    yield found.fact("balance", found["figure"])
    if found["time"]:
        yield found.fact("term", found["time"], guess=True)


def _asked(field: str) -> Says:
    def says(found: Found) -> Iterable[Fact]:
        yield found.fact(field, "?", modes="", before=found["meant"])
        if found["time"]:
            yield found.fact("term", found["time"], guess=True)
        if found["per"]:
            yield found.fact("every", found["per"])

    return says


def _aside(found: Found) -> Iterable[Fact]:
    """What is put aside: at once, or each time."""
    yield found.fact("we", "put-aside")
    if found["per"]:
        yield found.fact("aside", found["amount"])
        yield found.fact("every", found["per"])
    else:
        yield found.fact("principal", found["amount"])


def _rounded(found: Found) -> Iterable[Fact]:
    yield found.fact("rounding", "up" if found["up"] else "nearest", to=found["amount"])


_ASIDE: Final = "(?:put(?:ting)? aside|set(?:ting)? aside|sav(?:e|ed|es|ing)|add(?:ed|ing|s)?)"

TERMS: Final[tuple[Phrase, ...]] = (
    # The day count stands before the fractions it looks like.
    phrase(
        r"(?:days (?:are )?counted )?(?P<count>30/360|30E/360|act(?:ual)?/(?:365|360|act(?:ual)?))",
        lambda found: [found.fact("day_count", found["count"])],
    ),
    # What is asked for, by name.
    phrase(
        r"(?:how much|what|(?:(?:what|which) )?(?:principal|amount|loan))"
        r"(?: (?:can (?:be|we|it|they) )?(?:lent|lend|borrow(?:ed)?|carr(?:y|ied)))? ?\?",
        _asked("principal"),
    ),
    phrase(
        rf"(?:(?:what|which|how much)(?: is)? )?(?:the |each |a )?(?:regular )?{_PAYMENTS}(?: {{per}})? ?\?",
        _asked("payment"),
    ),
    phrase(r"how much(?: is paid| to pay)? {per} ?\?", _asked("payment")),
    phrase(r"(?:what|how much) (?:is|to be) paid(?: {per})? ?\?", _asked("payment")),
    phrase(
        r"(?P<meant>(?:(?:at|what|which|is|the|an?|yearly|annual|nominal|effective|interest) ){0,5})"
        r"(?:rate|interest) ?\?",
        _asked("rate"),
    ),
    phrase(r"at \?(?! ?%)", _asked("rate")),
    phrase(
        rf"how (?:long|many (?:{_PAYMENTS}|months|years|quarters|weeks))"
        rf"(?: (?:does it take|will it take|till it ends))? ?\?",
        _asked("count"),
    ),
    phrase(r"(?:(?:the )?(?:number of payments|term|count)|(?:over|for)) ?\?", _asked("count")),
    phrase(r"(?:over |for )?\? (?:payments|months|years|quarters|weeks)", _asked("count")),
    phrase(
        r"(?:what|how much)(?: is|'s)? (?:then |still )?(?:left|owed|there|remains)"
        r"(?: over| then| at the end)?(?:(?: after)? {time})? ?\?",
        _asked("balance"),
    ),
    phrase(r"what is (?:left|owed|there) after {time}", _asked("balance")),
    phrase(rf"(?:(?:what|which) )?{_BALLOON} ?\?", _asked("balance")),
    phrase(r"(?:(?:what|which) )?(?:the )?price ?\?", _asked("price")),
    phrase(r"(?:how much )?down(?: payment)? ?\?", _asked("down")),
    # Money.
    phrase(rf"{_PAYS} {{amount}}(?: ?{{per}})?", _payment),
    phrase(rf"{_PAYS} {{income}}", _is("income", "income")),
    phrase(r"(?:at )?{amount} ?{per}", _payment),
    phrase(r"{income}", _is("income", "income")),
    phrase(rf"(?:by |in |over )?{{integer}}(?: {{often}})? {_PAYMENTS}(?: (?:of|at))?(?: {{amount}}(?: ?{{per}})?)?", _payments),
    phrase(r"(?:by )?{integer} ?(?:x|×|times) ?{amount}(?: ?{per})?", _payments),
    phrase(
        r"(?:(?:the )?(?:principal|amount)(?: lent)?|loan|(?:we )?lend(?:ing)?|on)(?: (?:of|is))?:? "
        r"{amount}",
        _is("principal"),
    ),
    phrase(r"(?:we |i )?(?:borrow(?:ing)?) {amount}", lambda found: [
        found.fact("we", "borrow"), found.fact("principal", found["amount"])
    ]),
    phrase(r"we lend", _fixed("we", "lend")),
    phrase(r"we lend {amount}", lambda found: [
        found.fact("we", "lend"), found.fact("principal", found["amount"])
    ]),
    phrase(r"(?:we |i )?borrow(?:ing|ed)?", _fixed("we", "borrow")),
    phrase(r"(?:we )?(?:put(?:ting)?|set(?:ting)?) aside", _fixed("we", "put-aside")),
    phrase(rf"(?:we )?{_ASIDE} {{amount}}(?: ?{{per}})?", _aside),
    phrase(rf"{{amount}}(?: ?{{per}})?(?: (?:is|are))? {_ASIDE}", _aside),
    # What is left.
    phrase(rf"(?:with )?{{figure}} {_LEFT}(?: after {{time}})?", _balance),
    phrase(r"(?:with |leaving |to have |till there (?:is|are) ){figure}(?: (?:then|there|at the end))?(?: after {time})?", _balance),
    phrase(r"{figure} at the end(?: of {time})?", _balance),
    phrase(rf"(?:with )?(?:an? )?{_BALLOON}{_NAMES} {{figure}}(?: after {{time}})?", _balance),
    phrase(rf"(?:with )?(?:an? )?{{figure}}(?: as)?(?: an?)? {_BALLOON}(?! (?:of )?[0-9])(?: after {{time}})?", _balance),
    # What is bought.
    phrase(rf"(?:an? |the )?price{_NAMES} {{amount}}", _is("price")),
    phrase(r"(?:costs?|costing|bought for) {amount}", _is("price")),
    phrase(r"(?:with )?{figure}(?: is)?(?: paid)? down(?: payment)?", _is("down", "figure")),
    phrase(rf"(?:with )?(?:an? |the )?down(?: payment)?{_NAMES} {{figure}}", _is("down", "figure")),
    # The rate.
    phrase(rf"(?P<meant>{_MEANT}(?:{{often}} )?(?:rate{_NAMES} |interest{_NAMES} |for |with )?){{percent}}{{modes}}", _rate),
    phrase(r"at (?P<percent>[0-9][0-9.,]*(?: [0-9]+/[0-9]+|/[0-9]+)?|[0-9]* ?[¼-¾⅐-⅞]){modes}", lambda found: [
        found.fact("rate", found["percent"], guess=True, modes=found["modes"], before="")
    ]),
    # The term.
    phrase(r"(?:(?:over|for|in|within|during|(?:with )?(?:a )?term(?: of)?) )?(?:the next )?{term}", _is("term", "term")),
    phrase(r"(?:over|for|in|within|during|(?:a )?term(?: of)?) (?:the next )?{time}", _is("term", "time")),
    phrase(r"after {time}", _is("term", "time", guess=True)),
    phrase(r"over {integer}", lambda found: [found.fact("count", found["integer"], guess=True)]),
    phrase(rf"(?:paid |payable |repaid )?{{often}}(?: {_PAYMENTS})?", _is("every", "often")),
    phrase(r"{integer} (?:payments|times) (?:a|per) year", lambda found: [
        found.fact("every", f"{found['integer']} times a year")
    ]),
    phrase(r"no (?:other |regular )?payments", _fixed("none", "0")),
    # When, and how.
    phrase(rf"(?:{_PAYMENTS} )?(?:paid |payable |due )?in advance", _fixed("timing", "in-advance")),
    phrase(rf"(?:{_PAYMENTS} )?(?:paid |payable |due )?in arrears", _fixed("timing", "in-arrears")),
    phrase(r"(?:paid |payable |due )?at the (?:start|beginning) of (?:each|every|the) [a-z-]+", _fixed("timing", "in-advance")),
    phrase(r"(?:paid |payable |due )?at the end of (?:each|every|the) [a-z-]+", _fixed("timing", "in-arrears")),
    phrase(r"paid at the (?:start|beginning)", _fixed("timing", "in-advance")),
    phrase(r"(?:(?:lent|drawn|paid out|start(?:s|ing)?|begin(?:s|ning)?|from|on)(?: on| from)? )?{day}", _is("start", "day")),
    phrase(rf"(?:the )?first (?:{_PAYMENTS}|paid|due)(?: (?:is|on|at|due|made))*:? {{day}}", _is("first_payment", "day")),
    phrase(rf"(?:{_PAYMENTS}|paid) from {{day}}", _is("first_payment", "day")),
    phrase(r"odd days (?:bear )?(?P<odd>simple|compound)(?: interest)?", lambda found: [
        found.fact("odd_days", found["odd"])
    ]),
    phrase(rf"(?:{_PAYMENTS} )?(?:is |are )?(?:rounded (?:(?P<up>up)|(?:to )?(?:the )?nearest)(?:,? to(?: the next)?(?: a)?(?: whole)?(?: multiple of)?)?(?: {{amount}})?)", _rounded),
    phrase(r"(?:in )?{currency}", _is("currency", "currency")),
    # An amount that nothing names.
    phrase(r"(?P<bare>{amount})(?<!\?)", _is("bare")),
    phrase(r"\?", _fixed("asked", "?")),
)
