"""The phrases of a loan's terms: amount, rate, term, payment, balance, price, dates."""

from collections.abc import Iterable
from typing import Final

from .asked import BALLOON
from .phrase import Fact, Found, Phrase, Says, phrase
from .places import WHOLE
from .slots import PAYMENTS

_PAYS: Final = (
    rf"(?:(?:and )?(?:pays?|paying|paid|repaid|repaying|carr(?:y|ies)|{PAYMENTS}|by)"
    r"(?: (?:of|is|are|by|with|at|in))?(?: only)?:?)"
)
_MEANT: Final = r"(?:(?:an?|the|at|yearly|annual|nominal|effective|flat|fixed|interest) ){0,4}"
_LEFT: Final = (
    r"(?:(?:is|are|still|to be|then) ){0,2}(?:left(?: (?:owing|over|owed))?|owed|owing|remaining|"
    r"outstanding|there)(?: (?:then|over))?(?:(?: is)? (?:at|in) the end)?"
)
_IS: Final = "(?: (?:of|is|are|at))?:?"
_AFTER: Final = r"(?: after {time})?"
_ASIDE: Final = "(?:put(?:ting)? aside|set(?:ting)? aside|sav(?:e|ed|es|ing)|add(?:ed|ing|s)?)"
_TERM_IS: Final = r"(?:with )?(?:a )?term(?: of)?"
_THEREAFTER: Final = "(?:thereafter|afterwards|after that)"
_DUE: Final = "(?:paid |payable |due )?"
_NOUN: Final = "(?:[a-z0-9/-]+(?: period| year)?)"
_DAY_COUNT: Final = "30/360|30E/360|act(?:ual)?/(?:365|360|act(?:ual)?)"


def _is(field: str, slot: str = "amount", *, guess: bool = False) -> Says:
    return lambda found: [found.fact(field, found[slot], guess=guess)]


def _fixed(field: str, value: str) -> Says:
    return lambda found: [found.fact(field, value)]


def _lent_by(we: str) -> Says:
    return lambda found: [found.fact("we", we), found.fact("principal", found["amount"])]


def _payment(found: Found) -> Iterable[Fact]:
    yield found.fact("payment", found["amount"])
    if found["per"]:
        yield found.fact("every", found["per"])


def _payments(found: Found) -> Iterable[Fact]:
    """So many payments, with how often and how much each where that is said."""
    yield found.fact("count", found["many"])
    if found["amount"]:
        yield found.fact("payment", found["amount"])
    if often := found["per"] or found["often"]:
        yield found.fact("every", often)


def _often_payments(found: Found) -> Iterable[Fact]:
    """How often it is paid, and how much each time where that is said."""
    yield found.fact("every", found["often"] or "yearly")
    if found["amount"]:
        yield found.fact("payment", found["amount"])


def _repays(found: Found) -> Iterable[Fact]:
    """ "4,350 repays 296,000 in 96": payment, principal, number."""
    yield from _payment(found)
    yield found.fact("principal", found.match["amount_"])
    if found["integer"]:
        yield found.fact("count", found["integer"])


def _unpaid(found: Found) -> Iterable[Fact]:
    yield found.fact("payment", "0")
    yield found.fact("term", found["time"])


def _bought(found: Found) -> Iterable[Fact]:
    yield found.fact("price", found["amount"])
    yield found.fact("down", found["figure"])


def _rate(found: Found) -> Iterable[Fact]:
    yield found.fact("rate", found["percent"], modes=found["modes"], before=found["meant"])


def _after(found: Found) -> Iterable[Fact]:
    yield found.fact("rate_after", found["percent"], modes=found["modes"])


def _bare_rate(found: Found) -> Iterable[Fact]:
    yield found.fact("rate", found["percent"], guess=True, modes=found["modes"], before="")


def _balance(found: Found) -> Iterable[Fact]:
    yield found.fact("balance", found["figure"])
    if found["time"]:
        yield found.fact("term", found["time"], guess=True)


def _aside(found: Found) -> Iterable[Fact]:
    """What is put aside: at once, or each time."""
    yield found.fact("we", "put-aside")
    if found["per"]:
        yield found.fact("clause", found["amount"], verb="advance", place=WHOLE, then={})
        yield found.fact("every", found["per"])
    else:
        yield found.fact("principal", found["amount"])


def _rounded(found: Found) -> Iterable[Fact]:
    yield found.fact("rounding", "up" if found["up"] else "nearest", to=found["amount"])


def _timed(timing: str) -> Says:
    """When in a period it is paid, and from which day."""

    def says(found: Found) -> Iterable[Fact]:
        yield found.fact("timing", timing)
        if found["day"]:
            yield found.fact("first_payment", found["day"])

    return says


def _times_a_year(found: Found) -> Iterable[Fact]:
    yield found.fact("every", f"{found['integer']} times a year")


_PAID: Final = (
    phrase(rf"{_PAYS} {{amount}}(?: ?{{per}})?(?! (?:[a-z-]+ )?{PAYMENTS})", _payment),
    phrase(rf"{_PAYS} {{income}}", _is("income", "income")),
    phrase(r"(?:at )?{amount} ?{per}", _payment),
    phrase(r"{income}", _is("income", "income")),
    phrase(
        rf"(?:(?:re)?paid )?(?:by |in |out in |over |with )?{{many}}(?: {{often}})? {PAYMENTS}"
        r"(?: {often_})?(?:(?: (?:of|at))? {amount}(?: ?{per})?)?",
        _payments,
    ),
    phrase(
        rf"(?:annual|{{often}}) {PAYMENTS}(?: (?:of|is|are|at))?(?: {{amount}})?", _often_payments
    ),
    phrase(r"(?:by )?{many} ?(?:x|×|times) ?{amount}(?: ?{per})?", _payments),
    phrase(r"{amount}(?: ?{per})? repays {amount_}(?: in {integer})?", _repays),
    phrase(r"(?:with )?(?:nothing paid out|nothing paid|no regular payments) over {time}", _unpaid),
    phrase(r"no (?:other |regular )?payments", _fixed("none", "0")),
)
_LENT: Final = (
    phrase(
        r"(?:(?:the )?(?:principal|amount)(?: lent)?|loan|(?:we )?lend(?:ing)?|on)(?: (?:of|is))?:?"
        r" {amount}",
        _is("principal"),
    ),
    phrase(r"we lend", _fixed("we", "lend")),
    phrase(r"we lend {amount}", _lent_by("lend")),
    phrase(r"(?:we |i )?borrow(?:ing|ed)?", _fixed("we", "borrow")),
    phrase(r"(?:we |i )?borrow(?:ing|ed)? {amount}", _lent_by("borrow")),
    phrase(r"(?:we )?(?:put(?:ting)?|set(?:ting)?) aside", _fixed("we", "put-aside")),
    phrase(rf"(?:we )?{_ASIDE} {{amount}}(?: ?{{per}})?", _aside),
    phrase(rf"{{amount}}(?: ?{{per}})?(?: (?:is|are))? {_ASIDE}", _aside),
)
_LEFT_OVER: Final = (
    phrase(rf"(?:with )?{{figure}} {_LEFT}{_AFTER}", _balance),
    phrase(
        r"(?:with |leaving |to have |till there (?:is|are) ){figure}"
        rf"(?: (?:then|there|at the end))?{_AFTER}",
        _balance,
    ),
    phrase(r"{figure} at the end(?: of {time})?", _balance),
    phrase(rf"(?:with )?(?:an? )?{BALLOON}{_IS} {{figure}}{_AFTER}", _balance),
    phrase(
        rf"(?:with )?(?:an? )?{{figure}}(?: as)?(?: an?)? {BALLOON}(?! (?:of )?[0-9]){_AFTER}",
        _balance,
    ),
)
_BOUGHT: Final = (
    phrase(rf"(?:an? |the )?price{_IS} {{amount}}", _is("price")),
    phrase(r"of (?:a )?price of {amount},? {figure} (?:is )?(?:paid )?(?:at once|down)", _bought),
    # What is lent follows from these.
    phrase(r"(?:we (?:lend|borrow|put aside) )?the rest(?:, {amount})?", lambda _: ()),
    phrase(r"(?:costs?|costing|bought for) {amount}", _is("price")),
    phrase(r"(?:with )?{figure}(?: is)?(?: paid)? down(?: payment)?", _is("down", "figure")),
    phrase(rf"(?:with )?(?:an? |the )?down(?: payment)?{_IS} {{figure}}", _is("down", "figure")),
)
_RATED: Final = (
    phrase(
        r"(?:and )?(?:then|thereafter|afterwards|after that),? (?:at )?{percent}{modes}", _after
    ),
    phrase(r"(?:and )?(?:at )?{percent}{modes} (?:thereafter|afterwards|after that)", _after),
    phrase(
        rf"(?P<meant>{_MEANT}(?:{{often}} )?(?:rate{_IS} |interest{_IS} |for |with )?)"
        r"{percent}{modes}",
        _rate,
    ),
    phrase(
        r"at (?P<percent>[0-9][0-9.,]*(?: [0-9]+/[0-9]+|/[0-9]+)?|[0-9]* ?[¼-¾⅐-⅞]){modes}",
        _bare_rate,
    ),
)
_OVER: Final = (
    phrase(
        rf"(?:(?:over|for|in|within|during|{_TERM_IS}) )?(?:the next )?{{term}}",
        _is("term", "term"),
    ),
    phrase(
        rf"(?:over|for|in|within|during|{_TERM_IS}) (?:the next )?{{time}}", _is("term", "time")
    ),
    phrase(r"after {time}", _is("term", "time", guess=True)),
    phrase(r"(?:over|in) {integer}", _is("count", "integer", guess=True)),
    phrase(
        rf"(?:paid |payable |repaid |paying |pays )?{{often}}(?: {PAYMENTS})?",
        _is("every", "often"),
    ),
    phrase(r"{integer} (?:payments|times) (?:a|per) year", _times_a_year),
)
_WHEN: Final = (
    phrase(rf"(?:{PAYMENTS} )?{_DUE}in advance", _fixed("timing", "in-advance")),
    phrase(rf"(?:{PAYMENTS} )?{_DUE}in arrears", _fixed("timing", "in-arrears")),
    phrase(
        rf"{_DUE}at the (?:start|beginning) of (?:each|every|the) {_NOUN}(?: from {{day}})?",
        _timed("in-advance"),
    ),
    phrase(
        rf"{_DUE}at the end of (?:each|every|the) {_NOUN}(?: from {{day}})?", _timed("in-arrears")
    ),
    phrase(r"paid at the (?:start|beginning)", _fixed("timing", "in-advance")),
    phrase(
        r"(?:(?:lent|drawn|paid out|start(?:s|ing)?|begin(?:s|ning)?|from|on)(?: on| from)? )?"
        r"{day}",
        _is("start", "day"),
    ),
    phrase(
        rf"(?:the )?first (?:{PAYMENTS}|paid|due)(?: (?:is|on|at|due|made))*:? {{day}}",
        _is("first_payment", "day"),
    ),
    phrase(rf"(?:{PAYMENTS}|paid) from {{day}}", _is("first_payment", "day")),
    phrase(r"odd days (?:bear )?(?P<odd>simple|compound)(?: interest)?", _is("odd_days", "odd")),
)
_COUNTED: Final = (
    # The day count stands before the fractions it looks like.
    phrase(
        rf"(?:days (?:are )?counted )?(?P<day_count>{_DAY_COUNT})", _is("day_count", "day_count")
    ),
)
_ROUNDED: Final = (
    phrase(
        rf"(?:{PAYMENTS} )?(?:is |are )?rounded (?:(?P<up>up)|(?:to )?(?:the )?nearest)"
        r"(?:,? to(?: the next)?(?: a)?(?: whole)?(?: multiple of)?)?(?: {amount})?",
        _rounded,
    ),
)
_REST: Final = (
    phrase(r"(?:in )?{currency}", _is("currency", "currency")),
    # An amount that nothing names.
    phrase(r"{amount}(?<!\?)", _is("bare")),
    phrase(r"\?", _fixed("asked", "?")),
)

#: Of those that are as long the first stands.
TERMS: Final[tuple[Phrase, ...]] = (
    *(*_COUNTED, *_PAID, *_LENT, *_LEFT_OVER, *_BOUGHT, *_RATED),
    *(*_OVER, *_WHEN, *_ROUNDED, *_REST),
)
